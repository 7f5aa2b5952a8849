package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"os/signal"

	"yatai/core/answer"
)

// askCmd is a question about a head file: declared for the program's help, runAsk does the
// work.
type askCmd struct {
	File string `arg:"" optional:"" help:"Head file; standard input without it."`
}

// Run is never reached: main answers the questions itself.
func (askCmd) Run() error { return nil }

// runAsk answers "yatai QUESTION [FILE]" about a head file and returns the exit code: 0 with
// the answer on out, 2 with {"error":{...}} on errOut for a file that is wrong.
func runAsk(name string, args []string, in io.Reader, out, errOut io.Writer) int {
	for _, a := range args {
		if a == "--help" || a == "-h" {
			q, _ := answer.Named(name)
			fmt.Fprintf(
				out, "yatai %s [FILE]: %s. FILE is a head file (docs/head-file.md), standard input without it.\n",
				name, q.Purpose,
			)
			return 0
		}
	}
	file, err := readInput(name, args, in)
	if err != nil {
		return refuse(errOut, err)
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	said, err := answer.Run(ctx, name, file)
	if err != nil {
		return refuse(errOut, err)
	}
	if _, err := out.Write(said); err != nil {
		return 1
	}
	return 0
}
