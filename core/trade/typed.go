package trade

import (
	"math/big"
	"strings"
	"unicode"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/words"
)

// Read reads what was typed for c on a sheet kept in unit. A bracket is two leaves
// apart by a space or a slash, "0.05 0.06". One leaf alone, "0.20", is the one that goes, up to
// the next of the set it is of; of a set that nobody knows it does not go, and none thinner does. A
// value no head can have is refused; one that would make sense in the other unit is questioned.
func (c Characteristic) Read(text string, unit length.Unit, set ...length.Length) (gauge.Value, error) {
	if c.Words != nil {
		return c.word(text)
	}
	if !c.Bracket {
		l, err := c.one(text, unit)
		return gauge.Exact(l), err
	}
	goes, nogo, two := cutBracket(text)
	if !two {
		l, err := c.one(text, unit)
		if err == nil && len(set) > 0 {
			return Leaves(set).alone(l.Length(), unit)
		}
		if err == nil && l <= 0 {
			err = field.Errorf("", "the leaf that does not go must have a thickness")
		}
		return gauge.Between(0, l), err
	}
	lo, err := c.one(goes, unit)
	if err != nil {
		return gauge.Value{}, err
	}
	hi, err := c.one(nogo, unit)
	if err != nil {
		return gauge.Value{}, err
	}
	if hi <= lo {
		return gauge.Value{}, field.Errorf("", "first the largest leaf that goes, then the smallest that does not")
	}
	return gauge.Between(lo, hi), nil
}

// Alone tells whether one leaf was typed for a bracket, not two.
func (c Characteristic) Alone(text string) bool {
	_, _, two := cutBracket(text)
	return c.Bracket && !two
}

// Named is what was typed with its unit: where it has none, the one that bare numbers of a sheet kept in
// unit mean. Of two leaves it is for both.
func (c Characteristic) Named(text string, unit length.Unit) string {
	text = strings.TrimSpace(text)
	if text == "" || c.Words != nil || strings.ContainsFunc(text,
		func(r rune) bool { return unicode.IsLetter(r) || r == '"' || r == '″' }) {
		return text
	}
	if goes, nogo, two := cutBracket(text); c.Bracket && two {
		text = goes + " " + nogo
	}
	return strings.TrimSpace(text + " " + c.UnitFor(unit).Name)
}

// word reads what passes or fails: "+" or 1, "-" or 0, or the word itself or its first letter.
func (c Characteristic) word(text string) (gauge.Value, error) {
	text = strings.ToLower(strings.TrimSpace(text))
	for i, w := range c.Words {
		if text == w || text == w[:1] || text == []string{"-", "+"}[i] || text == []string{"0", "1"}[i] {
			return gauge.Exact(quantity.Amount(i) * mm), nil
		}
	}
	return gauge.Value{}, field.Errorf("", "+ or %s when it passes, - or %s when it does not",
		words.Of(c.Words[1]), words.Of(c.Words[0]))
}

// quantities are how the units that are not lengths may be typed.
var quantities = map[string]quantity.Kind{
	"N": quantity.Force, "cc": quantity.Volume, "kPa": quantity.Pressure, "deg": quantity.Angle,
}

// Parse reads one number of c's unit; bare is what a number without a unit means.
func (c Characteristic) Parse(text string, bare length.Unit) (quantity.Amount, error) {
	if c.Unit.Size == 0 {
		l, err := length.Parse(text, bare)
		return quantity.OfLength(l), err
	}
	if number, ok := strings.CutSuffix(strings.TrimSpace(text), c.Unit.Name); ok && c.Unit.Name != "" {
		text, bare = number, length.MM // "5200mm2": a unit may have digits
	}
	n, rest, err := length.Number(text)
	if err != nil {
		return 0, err
	}
	if kind, known := quantities[c.Unit.Name]; known && rest != "" {
		if n, err = quantity.Parse(text, kind); err != nil {
			return 0, err
		}
	} else if rest != "" && rest != c.Unit.Name {
		return 0, field.Errorf("", "it is read in %s", c.Unit.Name)
	}
	if in := c.UnitFor(bare); rest == "" && in.Customary() {
		n.Mul(n, in.Size.Rat())
	}
	if limit := new(big.Rat).SetInt64(1_000_000); new(big.Rat).Abs(n).Cmp(limit) > 0 {
		return 0, field.Errorf("", "no head has that")
	}
	return quantity.OfRat(n), nil
}

func (c Characteristic) one(text string, unit length.Unit) (quantity.Amount, error) {
	a, err := c.Parse(text, unit)
	if err != nil {
		return 0, field.Under("", err)
	}
	if a >= c.Low && a <= c.High {
		return a, nil
	}
	other, in := length.In, c.UnitFor(unit)
	if unit == length.In {
		other = length.MM
	}
	if o, err := c.Parse(text, other); err == nil && o >= c.Low && o <= c.High && o != a {
		return 0, field.Errorf("", "%s is no size for this, but %s %s would be: write the unit", in.Text(a), text,
			c.UnitFor(other).Name)
	}
	return 0, field.Errorf("", "%s is no size for this: it lies between %s and %s", in.Text(a), in.Text(c.Low),
		in.Text(c.High))
}

// Show writes a value of c in a unit for lengths, without the unit: "0.034", "bounces".
func (c Characteristic) Show(a quantity.Amount, in length.Unit) string {
	if c.Words != nil {
		return c.Words[min(1, max(0, a.Whole()))]
	}
	u := c.UnitFor(in)
	return u.In(a, u.Places())
}
