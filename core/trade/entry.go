package trade

import (
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/seating"
)

// Entry is how the numbers of a sweep arrive. Set is the size the gauge was zeroed on
// (deviation) or the bar's thickness (offset); Division is what one division of the dial
// is worth.
type Entry struct {
	Mode     string
	Leaves   Leaves // of the set of feelers, the thinnest first; none where nobody knows
	Set      quantity.Amount
	Division quantity.Amount
	Warm     *quantity.Celsius // how warm the part is, degrees C; nil: it is at 20, or nobody says
	// what the part is of, as seating.Temperature knows it; empty: its length does not hang on it
	Made string
}

// Mode is a way to enter a number.
type Mode struct {
	Code, Label, SetLabel, Hint string

	read func(c Characteristic, e Entry, text string, unit length.Unit) (gauge.Value, error)
}

// Modes are the ways to enter one number; feelers have their bracket beside them.
var Modes = []Mode{
	{
		"direct", "as it reads", "", "the size itself",
		func(c Characteristic, _ Entry, text string, unit length.Unit) (gauge.Value, error) {
			return c.exact(text, unit)
		},
	},
	{"deviation", "from a set size", "set on", "what the dial shows, in its divisions: +2, -0.5", func(
		_ Characteristic, e Entry, text string, _ length.Unit,
	) (gauge.Value, error) {
		d, err := quantity.ParseIn(text, quantity.Unit{Name: "div", Size: e.Division})
		if bare, _ := length.Parse(text, length.None); err == nil && bare == 0 && d != 0 && d.Abs() < e.Division/4 {
			return gauge.Value{}, field.Errorf(
				"", "that is a small part of one division: write the unit, like %smm, if it is none of the dial's",
				strings.TrimSpace(text),
			)
		}
		return gauge.Exact(e.Set + d), err
	}},
	{"offset", "over a bar", "bar", "the depth with the bar, which is taken off", func(
		c Characteristic, e Entry, text string, unit length.Unit,
	) (gauge.Value, error) {
		v, err := c.exact(text, unit)
		return gauge.Exact(v.At - e.Set), err
	}},
	{"two sides", "two sides", "", "both ends of the rock, apart by a space: their mean counts", func(
		c Characteristic, _ Entry, text string, unit length.Unit,
	) (gauge.Value, error) {
		one, other, ok := cutBracket(text)
		if !ok {
			return gauge.Value{}, field.Errorf("", "type both sides, apart by a space")
		}
		a, err := c.exact(one, unit)
		if err != nil {
			return a, err
		}
		b, err := c.exact(other, unit)
		return gauge.Exact(length.Mean([]quantity.Amount{a.At, b.At})), err
	}},
	{"pilot", "by a pilot's mark", "", "the tapered pilot measured at the mark where it stopped", func(
		c Characteristic, _ Entry, text string, unit length.Unit,
	) (gauge.Value, error) {
		return c.exact(text, unit)
	}},
	{"go gauges", "go and no-go", "", "the largest gauge that goes, the smallest that does not: 8.03 8.06", func(
		c Characteristic, _ Entry, text string, unit length.Unit,
	) (gauge.Value, error) {
		goes, nogo, ok := cutBracket(text)
		if !ok {
			return gauge.Value{}, field.Errorf("", "type both gauges, apart by a space")
		}
		a, err := c.exact(goes, unit)
		if err != nil {
			return a, err
		}
		b, err := c.exact(nogo, unit)
		if err == nil && b.At <= a.At {
			err = field.Errorf("", "first the largest that goes, then the smallest that does not")
		}
		return gauge.Between(a.At, b.At), err
	}},
	{"pass or fail", "pass or fail", "gauge's size", "+ when the gauge goes, - when it does not", func(
		c Characteristic, e Entry, text string, _ length.Unit,
	) (gauge.Value, error) {
		switch strings.ToLower(strings.TrimSpace(text)) {
		case "+", "g", "go", "goes", "1":
			return gauge.Between(e.Set, c.High+1), nil
		case "-", "n", "no", "0":
			return gauge.Between(c.Low, e.Set), nil
		}
		return gauge.Value{}, field.Errorf("", "+ when the gauge goes, - when it does not")
	}},
}

// exact reads one number, whatever its size.
func (c Characteristic) exact(text string, unit length.Unit) (gauge.Value, error) {
	l, err := c.Parse(text, unit)
	return gauge.Exact(l), err
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
//
// A length of a part that is not at 20 degrees C is brought to 20, the tool being at 20.
func (c Characteristic) ReadAs(e Entry, text string, unit length.Unit) (gauge.Value, error) {
	v, err := c.readAs(e, text, unit)
	if err != nil || e.Warm == nil || e.Made == "" || c.Unit.Size != 0 || v.Bracket || c.Words != nil {
		return v, err
	}
	out, err := seating.Temperature(seating.TemperatureInput{
		Length:       v.At.Length(),
		Material:     seating.Material(e.Made),
		PartTemp:     *e.Warm,
		ToolMaterial: "steel",
		ToolTemp:     quantity.CelsiusOf(20, 1),
	})
	return gauge.Exact(quantity.OfLength(out.At20)), err
}

func (c Characteristic) readAs(e Entry, text string, unit length.Unit) (gauge.Value, error) {
	m, ok := ModeNamed(e.Mode)
	if !ok || c.Bracket || c.Words != nil || m.Code == "direct" {
		return c.Read(text, unit, e.Leaves...)
	}
	v, err := m.read(c, e, text, unit)
	if err != nil {
		return gauge.Value{}, field.Under("", err)
	}
	at := v.At
	if v.Bracket {
		at = max(v.Go, min(c.Low, v.NoGo))
	}
	if at < c.Low || at > c.High || v.Bracket && v.NoGo <= v.Go {
		return gauge.Value{}, field.Errorf("", "that makes %s, which is no size for this", c.UnitFor(unit).Text(at))
	}
	return v, nil
}

// MadeOf is what the part a characteristic is read on is of, in a head of kind k with valves like
// v, as seating.Temperature knows it: its length grows with it. Empty where a length between two
// parts is read, or a part whose material nobody knows.
func (c Characteristic) MadeOf(k Kind, v Valve) string {
	switch c.Section {
	case Face, Chambers, Cam:
		return k.Material
	case Valves:
		return map[string]string{"titanium": "titanium", "austenitic": "austenitic"}[v.Material]
	}
	switch c.Code {
	case SpringPad.Code, GuideHole.Code, GuideDepth.Code, SeatHole.Code:
		return k.Material
	}
	return ""
}

// Worked writes how a mode comes to its size: "ring 7 mm + 36 divisions of 0.001 mm".
func (e Entry) Worked(text string, at quantity.Amount, unit quantity.Unit) string {
	said := e.worked(text, at, unit)
	if e.Warm == nil || e.Made == "" {
		return said
	}
	warm := e.Warm.Float()
	if said == "" {
		said = text
	}
	return said + " at " + strconv.FormatFloat(warm, 'f', -1, 64) + " C, at 20 C " + unit.Text(at)
}

func (e Entry) worked(text string, at quantity.Amount, unit quantity.Unit) string {
	switch e.Mode {
	case "deviation":
		return unit.Text(e.Set) + " " + signed(text) + " divisions of " + unit.Text(e.Division) + " = " +
			unit.Text(at)
	case "offset":
		return text + " less " + unit.Text(e.Set) + " = " + unit.Text(at)
	case "pilot":
		return text + " over the pilot's mark"
	case "go gauges":
		return text + ", go and no-go"
	case "pass or fail":
		return unit.Text(e.Set) + " gauge " + map[bool]string{true: "goes", false: "does not go"}[strings.ContainsAny(strings.ToLower(text), "+g1")]
	case "two sides":
		return "mean of " + text + " = " + unit.Text(at)
	}
	return ""
}

func signed(text string) string {
	text = strings.TrimSpace(text)
	if _, err := strconv.ParseFloat(text, 64); err == nil && !strings.HasPrefix(text, "-") &&
		!strings.HasPrefix(text, "+") {
		return "+" + text
	}
	return text
}
