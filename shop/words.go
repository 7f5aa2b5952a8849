package shop

import (
	"fmt"

	"yatai/core/field"
	"yatai/core/length"
)

func count(n, of int) string { return fmt.Sprintf("%d of %d", n, of) }

func plural(n int, one string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %ss", n, one)
}

// times counts things by a name that stays as it is: "3 x seal".
func times(n int, name string) string {
	if n == 1 {
		return name
	}
	return fmt.Sprintf("%d x %s", n, name)
}

// formErrors are the mistakes of a form that is read field by field.
type formErrors struct{ field.Errors }

// length reads a length that must be positive.
func (e *formErrors) length(name, text string, unit length.Unit) length.Length {
	if e.Errors == nil {
		e.Errors = field.Errors{}
	}
	l, err := length.Parse(text, unit)
	e.Add(name, err)
	if err == nil && l <= 0 {
		e.Addf(name, "larger than nothing")
	}
	return l
}
