package length

import (
	"errors"
	"math/big"
	"strings"
)

// Unit is a unit of length a bare number may be read in. The zero Unit, None,
// means that a bare number is refused.
type Unit struct {
	Name string // as shown: "mm", "in"
	Size Length // in nanometres
}

// The units a sheet may be kept in.
var (
	None = Unit{}
	MM   = Unit{"mm", Millimetre}
	In   = Unit{"in", Inch}
)

// units maps each spelling, in lower case, to its size in nanometres.
var units = map[string]Length{
	"nm": Nanometre, "um": Micrometre, "µm": Micrometre, "μm": Micrometre,
	"h": Hundredth, "hundredth": Hundredth, "hundredths": Hundredth,
	"mm": Millimetre, "cm": Centimetre, "m": Metre,
	"t": Thou, "thou": Thou, "in": Inch, "inch": Inch, "\"": Inch, "″": Inch,
}

// UnitNamed returns the unit with that spelling.
func UnitNamed(name string) (Unit, bool) {
	size, ok := units[strings.ToLower(name)]
	return Unit{strings.ToLower(name), size}, ok
}

// Errors of Parse. Each is a sentence for the person who typed.
var (
	ErrEmpty   = errors.New("nothing was typed")
	ErrNumber  = errors.New("not a number: write it like 6.97, .2795 or 1 1/2")
	ErrUnit    = errors.New("unknown unit: use mm, in, thou, h, um or nm")
	ErrNoUnit  = errors.New("the unit is missing: write it like 6.97 mm or .2795 in")
	ErrTooLong = errors.New("longer than 10 m: no head has that size")
	ErrLong    = errors.New("too much text for a number")
)

// maxText bounds what Parse looks at; no honest number is longer.
const maxText = 40

// Parse reads a length as the bench writes it: ".2795", "7.012", "0,2795",
// "6.99mm", "3 thou", "2t", "5h" (hundredths of a mm), "12um", "3/8 in",
// "1 1/2 thou", with a sign or without. A bare number is in unit bare; with None
// it is refused. The result is exact, a fraction of a nanometre rounded half away
// from zero. "1.2.3", "1,234.5" and anything beyond Max are refused.
func Parse(text string, bare Unit) (Length, error) {
	n, rest, err := Number(text)
	if err != nil {
		return 0, err
	}
	size := bare.Size
	if rest != "" {
		var ok bool
		if size, ok = units[strings.ToLower(rest)]; !ok {
			return 0, ErrUnit
		}
	}
	if size == 0 {
		return 0, ErrNoUnit
	}
	n.Mul(n, size.Rat())
	if new(big.Rat).Abs(n).Cmp(Max.Rat()) > 0 {
		return 0, ErrTooLong
	}
	return Round(n), nil
}

// Number reads the number at the head of text, exactly, and returns what follows
// it without surrounding space: "1 1/2 thou" gives 3/2 and "thou". It knows decimal
// point or comma, fractions and mixed numbers, but no exponents and no thousands
// separators.
func Number(text string) (*big.Rat, string, error) {
	if len(text) > maxText {
		return nil, "", ErrLong
	}
	s := strings.TrimSpace(text)
	if s == "" {
		return nil, "", ErrEmpty
	}
	negative := false
	for _, sign := range []string{"-", "−", "+"} {
		if rest, ok := strings.CutPrefix(s, sign); ok {
			s, negative = rest, sign != "+"
			break
		}
	}
	num, s := cutDigits(s)
	n, ok := new(big.Rat), true
	if num == "" || num == "." {
		return nil, "", ErrNumber
	}
	if n, ok = n.SetString(num); !ok {
		return nil, "", ErrNumber
	}
	whole := !strings.Contains(num, ".")
	if over, rest, ok := fraction(strings.TrimPrefix(s, " "), num, s); ok && whole {
		n, s = over, rest
	} else if strings.HasPrefix(s, "/") {
		return nil, "", ErrNumber
	}
	if s != "" && strings.ContainsAny(s[:1], ".,0123456789+-") {
		return nil, "", ErrNumber
	}
	if negative {
		n.Neg(n)
	}
	rest := strings.TrimSpace(s)
	if strings.ContainsAny(rest, "0123456789.,/+-") && rest != "in3" && rest != "cm3" {
		return nil, "", ErrNumber
	}
	return n, rest, nil
}

// cutDigits cuts a plain decimal number off the head of s and returns it with a
// point for its decimal sign; a second sign stays in the rest.
func cutDigits(s string) (num, rest string) {
	seen := false
	for i := 0; i < len(s); i++ {
		c := s[i]
		if c >= '0' && c <= '9' {
			continue
		}
		if (c == '.' || c == ',') && !seen {
			seen = true
			continue
		}
		return strings.Replace(s[:i], ",", ".", 1), s[i:]
	}
	return strings.Replace(s, ",", ".", 1), ""
}

// fraction reads "a/b" where whole was read already: either s is "/b..." and whole
// the numerator, or after is "a/b..." and whole the integer part, then a < b.
func fraction(after, whole, s string) (*big.Rat, string, bool) {
	top, rest := cutDigits(after)
	mixed := true
	if strings.HasPrefix(s, "/") {
		top, rest, mixed = whole, s, false
	}
	under, ok := strings.CutPrefix(rest, "/")
	if !ok || top == "" || mixed && after == s {
		return nil, "", false
	}
	bottom, rest := cutDigits(under)
	if strings.ContainsAny(top+bottom, ".") || strings.Trim(bottom, "0") == "" {
		return nil, "", false
	}
	f, ok := new(big.Rat).SetString(top + "/" + bottom)
	if !ok || mixed && f.Cmp(big.NewRat(1, 1)) >= 0 {
		return nil, "", false
	}
	if mixed {
		w, _ := new(big.Rat).SetString(whole)
		f.Add(f, w)
	}
	return f, rest, true
}
