package judge

import (
	"strconv"
	"strings"

	"headwright/core/field"
	"headwright/core/gauge"
	"headwright/core/length"
)

// Entry is how the numbers of a sweep arrive. Set is the size the gauge was zeroed on
// (deviation) or the bar's thickness (offset); Division is what one division of the dial
// is worth.
type Entry struct {
	Mode     string
	Set      length.Length
	Division length.Length
}

// Mode is a way to enter a number.
type Mode struct {
	Code, Label, SetLabel, Hint string

	read func(e Entry, text string, unit length.Unit) (length.Length, error)
}

// Modes are the ways to enter one number; feelers have their bracket beside them.
var Modes = []Mode{
	{"direct", "as it reads", "", "the size itself", func(_ Entry, text string, unit length.Unit) (length.Length, error) {
		return length.Parse(text, unit)
	}},
	{"deviation", "from a set size", "set on", "what the dial shows, in its divisions: +2, -0.5", func(e Entry, text string, _ length.Unit) (length.Length, error) {
		d, err := length.Parse(text, length.Unit{Name: "div", Size: e.Division})
		return e.Set + d, err
	}},
	{"offset", "over a bar", "bar", "the depth with the bar, which is taken off", func(e Entry, text string, unit length.Unit) (length.Length, error) {
		d, err := length.Parse(text, unit)
		return d - e.Set, err
	}},
	{"two sides", "two sides", "", "both ends of the rock, apart by a space: their mean counts", func(_ Entry, text string, unit length.Unit) (length.Length, error) {
		one, other, ok := cutBracket(text)
		if !ok {
			return 0, field.Errorf("", "type both sides, apart by a space")
		}
		a, err := length.Parse(one, unit)
		if err != nil {
			return 0, err
		}
		b, err := length.Parse(other, unit)
		return length.Mean([]length.Length{a, b}), err
	}},
}

// ModeNamed returns the mode with that code.
func ModeNamed(code string) (Mode, bool) {
	for _, m := range Modes {
		if m.Code == code {
			return m, true
		}
	}
	return Mode{}, false
}

// ReadAs reads what was typed in a mode of entry. The size that results must be one a
// head can have, just as one typed directly.
func (c Characteristic) ReadAs(e Entry, text string, unit length.Unit) (gauge.Value, error) {
	m, ok := ModeNamed(e.Mode)
	if !ok || c.Bracket || m.Code == "direct" {
		return c.Read(text, unit)
	}
	l, err := m.read(e, text, unit)
	if err != nil {
		return gauge.Value{}, field.Under("", err)
	}
	if l < c.Low || l > c.High {
		return gauge.Value{}, field.Errorf("", "that makes %s, which is no size for this", unit.Text(l))
	}
	return gauge.Exact(l), nil
}

// Worked writes how a mode comes to its size: "ring 7 mm + 36 divisions of 0.001 mm".
func (e Entry) Worked(text string, at length.Length, unit length.Unit) string {
	switch e.Mode {
	case "deviation":
		return unit.Text(e.Set) + " " + signed(text) + " divisions of " + unit.Text(e.Division) + " = " + unit.Text(at)
	case "offset":
		return text + " less " + unit.Text(e.Set) + " = " + unit.Text(at)
	case "two sides":
		return "mean of " + text + " = " + unit.Text(at)
	}
	return ""
}

func signed(text string) string {
	text = strings.TrimSpace(text)
	if _, err := strconv.ParseFloat(text, 64); err == nil && !strings.HasPrefix(text, "-") && !strings.HasPrefix(text, "+") {
		return "+" + text
	}
	return text
}
