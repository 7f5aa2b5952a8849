package main

import (
	"fmt"
	"io"
	"os"
	"slices"

	"yatai/core/calc"
	"yatai/core/field"
)

// calcCmd is declared for the program's help; runCalc does the work.
type calcCmd struct {
	Name string `arg:"" optional:"" help:"Name of the calculation; with --help after it, its fields."`
	File string `arg:"" optional:"" help:"File with the input; standard input without it."`
}

// Run is never reached: main answers calc itself.
func (c calcCmd) Run() error { return nil }

// maxInput bounds what is read.
const maxInput = 16 << 20

// runCalc answers "yatai calc [NAME [FILE]]" and returns the exit code: 0 with the
// result on out, 2 with {"error":{...}} on errOut for bad input.
func runCalc(args []string, in io.Reader, out, errOut io.Writer) int {
	steps := slices.Contains(args, "--steps")
	help := slices.Contains(args, "--help") || slices.Contains(args, "-h")
	args = slices.DeleteFunc(slices.Clone(args),
		func(a string) bool { return a == "--steps" || a == "--help" || a == "-h" })
	if len(args) == 0 {
		for _, c := range calc.All() {
			fmt.Fprintf(out, "%-12s %s\n", c.Name, c.Purpose)
		}
		return 0
	}
	if help {
		c, ok := calc.Named(args[0])
		if !ok {
			return refuse(errOut, field.Errorf("calc", "there is no calculation of that name"))
		}
		fmt.Fprint(out, c.Help())
		return 0
	}
	input, err := readInput("calc NAME", args[1:], in)
	if err != nil {
		return refuse(errOut, err)
	}
	r, err := calc.Run(args[0], input)
	if err != nil {
		return refuse(errOut, err)
	}
	answer, err := r.JSON()
	if err != nil {
		return refuse(errOut, err)
	}
	if _, err := out.Write(answer); err != nil {
		return 1
	}
	if steps {
		for _, s := range r.Steps {
			fmt.Fprintf(errOut, "%s: %s\n", s.What, s.Sum)
		}
	}
	return 0
}

// readInput reads the file named by args, or in when there is none. What says how the command
// is written.
func readInput(what string, args []string, in io.Reader) ([]byte, error) {
	if len(args) > 1 {
		return nil, field.Errorf("", "too many arguments: %s [FILE]", what)
	}
	if len(args) == 1 {
		f, err := os.Open(args[0])
		if err != nil {
			return nil, err
		}
		defer func() { _ = f.Close() }()
		in = f
	}
	input, err := io.ReadAll(io.LimitReader(in, maxInput+1))
	if err == nil && len(input) > maxInput {
		err = field.Errorf("", "the input is larger than %d bytes", maxInput)
	}
	return input, err
}

// refuse writes the error and returns the exit code for bad input.
func refuse(w io.Writer, err error) int {
	if _, err := w.Write(field.JSON(err)); err != nil {
		return 1
	}
	return 2
}
