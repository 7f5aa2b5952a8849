package quantity

import (
	"math/big"
	"strings"

	"yatai/core/length"
)

// Amount is how much of something was read, whole and signed: as many millionths of the base
// unit as its Unit says. Of a length it is whole nanometres, of a force micronewtons, of a
// volume nanolitres. What kind it is, only the characteristic or the figure it belongs to
// knows: OfLength and Length are the doors from and to lengths, Rat the one to the
// arithmetic of loads, volumes and pressures, which names its units.
type Amount int64

// One is a whole base unit, a millimetre of a length; Max the most that is accepted from
// outside, either sign.
const (
	One Amount = 1_000_000
	Max        = Amount(length.Max)
)

// OfLength returns a length as an amount.
func OfLength(l length.Length) Amount { return Amount(l) }

// MaybeLength returns a length that may be missing as an amount that may be.
func MaybeLength(l *length.Length) *Amount {
	if l == nil {
		return nil
	}
	a := OfLength(*l)
	return &a
}

// AsLength returns an amount that may be missing as a length that may be.
func AsLength(a *Amount) *length.Length {
	if a == nil {
		return nil
	}
	l := a.Length()
	return &l
}

// Length returns an amount of length as one.
func (a Amount) Length() length.Length { return length.Length(a) }

// Abs returns the amount without its sign.
func (a Amount) Abs() Amount {
	if a < 0 {
		return -a
	}
	return a
}

// Rat returns the amount in base units, exactly.
func (a Amount) Rat() *big.Rat { return big.NewRat(int64(a), int64(One)) }

// Float returns the amount in base units, for drawings and for formulas that are not exact
// anyway. Never compare its result with a limit.
func (a Amount) Float() float64 { return float64(a) / float64(One) }

// Whole returns the whole base units in it: minutes, passes, passed or not.
func (a Amount) Whole() int { return int(a / One) }

// OfRat returns the nearest amount to so many base units, halves away from zero.
func OfRat(r *big.Rat) Amount {
	return Amount(length.Round(new(big.Rat).Mul(r, new(big.Rat).SetInt64(int64(One)))))
}

// Unit is what an amount is counted in. Name is as shown, Size what a whole one counts: an inch
// counts 25 400 000. The zero Unit is that of a length whose sheet has not said which.
// Whole amounts and such as are told with other than one decimal say so by Digits: 2 for two,
// None for none.
type Unit struct {
	Name   string
	Size   Amount
	Digits int
}

// None is the Digits of a unit that only has whole amounts.
const None = -1

// UnitOf returns a unit of length as one of amounts.
func UnitOf(u length.Unit) Unit { return Unit{Name: u.Name, Size: Amount(u.Size)} }

// ParseIn reads text as length.Parse does, a bare number in u.
func ParseIn(text string, u Unit) (Amount, error) {
	l, err := length.Parse(text, u.length())
	return OfLength(l), err
}

// customary are the units of those who work in inches, by the name of the one that is kept.
var customary = map[string]Unit{
	"N":   {Name: "lbf", Size: 4_448_222, Digits: 1},
	"kPa": {Name: "inHg", Size: 3_386_389, Digits: 1},
}

// Or returns the unit that somebody who reads lengths in a unit reads u in: that unit where u is zero, the
// customary one of u where they read inches, else u.
func (u Unit) Or(lengths length.Unit) Unit {
	if u.Size == 0 {
		return UnitOf(lengths)
	}
	if c, ok := customary[u.Name]; ok && lengths == length.In {
		return c
	}
	return u
}

// Customary tells whether amounts are not kept in whole millionths of the unit: they are written rounded.
func (u Unit) Customary() bool {
	for _, c := range customary {
		if u == c {
			return true
		}
	}
	return false
}

// Of returns n of the unit.
func (u Unit) Of(n int64) Amount { return Amount(n) * u.Size }

// length is the unit as one of length, whose digits it is written with.
func (u Unit) length() length.Unit { return length.Unit{Name: u.Name, Size: length.Length(u.Size)} }

// Places returns how many decimals an amount in the unit is shown with: its Digits, else 3 for
// millimetres, 4 for inches, 1 for anything else.
func (u Unit) Places() int {
	switch u.Digits {
	case 0:
		return u.length().Places()
	case None:
		return 0
	}
	return u.Digits
}

// In returns a as a bare number of the unit with that many decimals (0 to 5), rounded half
// away from zero.
func (u Unit) In(a Amount, places int) string { return u.length().In(a.Length(), places) }

// Text returns a with its unit, exact to what can be shown: "8.079 mm", "310 N"; "69.7 lbf" is rounded.
func (u Unit) Text(a Amount) string {
	if u.Customary() {
		return u.In(a, u.Places()) + " " + u.Name
	}
	return u.length().Text(a.Length())
}

// Usual returns a with its unit as Text does; in inches what was not made in them is rounded to their usual
// four decimals: 0.5 mm is "0.0197 in", and five hundredths of a thou stay "0.00005 in".
func (u Unit) Usual(a Amount) string {
	if u.length() == length.In && a%(Amount(length.Thou)/100) != 0 {
		return u.In(a, u.Places()) + " " + u.Name
	}
	return u.Text(a)
}

// Bare returns a in the unit without the unit's name.
func (u Unit) Bare(a Amount) string { return strings.TrimSpace(strings.TrimSuffix(u.Text(a), u.Name)) }

// Doubt writes a doubt with its unit to two figures, as many as a doubt has: "0.0057 mm", "9.5 N".
func (u Unit) Doubt(a Amount) string {
	places, most := 0, 6
	if u.length() == length.In {
		most = 5
	}
	for step := u.Size; a != 0 && places < most && a.Abs() < 10*step; places++ {
		step /= 10
	}
	text := u.In(a, places)
	if strings.Contains(text, ".") {
		text = strings.TrimSuffix(strings.TrimRight(text, "0"), ".")
	}
	return strings.TrimSpace(text + " " + u.Name)
}
