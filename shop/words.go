package shop

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/length"
)

// CountOf says how many of how many: "3 of 8".
func CountOf(n, of int) string { return fmt.Sprintf("%d of %d", n, of) }

// Plural counts things by the name of one: "1 valve", "3 valves".
func Plural(n int, one string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %ss", n, one)
}

// Times counts things by a name that stays as it is: "3 x seal".
func Times(n int, name string) string {
	if n == 1 {
		return name
	}
	return fmt.Sprintf("%d x %s", n, name)
}

// ParseDays reads days like 2031-12-24, apart by spaces or commas, in order and each once; bad is
// the first that is none.
func ParseDays(text string) (days []string, bad string) {
	days = strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(" ,;\r\n\t", r) })
	for _, d := range days {
		if t, err := time.Parse(time.DateOnly, d); err != nil || t.Year() < 2000 || t.Year() > 2200 {
			return nil, d
		}
	}
	slices.Sort(days)
	return slices.Compact(days), ""
}

// FormErrors are the mistakes of a form that is read field by field.
type FormErrors struct{ field.Errors }

// Length reads a length that must be positive.
func (e *FormErrors) Length(name, text string, unit length.Unit) length.Length {
	if e.Errors == nil {
		e.Errors = field.Errors{}
	}
	l, err := length.Parse(text, unit)
	e.Add(name, err)
	if err == nil && l <= 0 {
		e.Addf(name, "it has to be more than 0")
	}
	return l
}
