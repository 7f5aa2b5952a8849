package calc

import (
	"fmt"
	"math/big"
	"strings"

	"yatai/core/length"
	"yatai/core/quantity"
)

// Work collects the worked steps of an answer. Lengths are written in the unit most of
// the input was given in.
type Work struct {
	unit  length.Unit
	steps []Step
}

// Say adds a step. Lengths, rational and decimal numbers among args are written for a
// person; a nil length becomes "not read".
func (w *Work) Say(what, format string, args ...any) {
	for i, a := range args {
		args[i] = w.show(a)
	}
	w.steps = append(w.steps, Step{what, fmt.Sprintf(format, args...)})
}

func (w *Work) show(a any) any {
	switch a := a.(type) {
	case length.Length:
		return w.unit.Text(a)
	case quantity.Amount:
		return w.unit.Text(a.Length())
	case *length.Length:
		if a == nil {
			return "not read"
		}
		return w.unit.Text(*a)
	case []length.Length:
		var parts []string
		for _, l := range a {
			parts = append(parts, w.unit.Text(l))
		}
		return strings.Join(parts, ", ")
	case *big.Rat:
		return quantity.Decimal(quantity.Float(a)).String()
	case interface{ Float() float64 }: // a quantity, in its base unit
		return quantity.Decimal(a.Float()).String()
	}
	return a
}

// orNone returns the text at s, "none" for nil.
func orNone(s *string) string {
	if s == nil {
		return "none"
	}
	return *s
}
