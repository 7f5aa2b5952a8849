package length

import (
	"strconv"
	"strings"
)

// MM returns the length in millimetres, exact, trailing zeros cut: "0.0889".
func (l Length) MM() string { return trim(decimal(int64(l), 6)) }

// In returns the length in inches, rounded to 5 places, trailing zeros cut: "0.0035".
func (l Length) In() string { return trim(decimal(int64(Div(l, 254)), 5)) }

// Places returns how many decimals a reading in the unit is shown with when
// nothing else is said: 3 for millimetres, 4 for inches, 1 for anything else.
func (u Unit) Places() int {
	switch u {
	case In:
		return 4
	case MM:
		return 3
	}
	return 1
}

// Step returns how many decimals the size of a part that comes in steps is shown with: 2 for millimetres, 4
// for inches.
func (u Unit) Step() int {
	if u == In {
		return 4
	}
	return 2
}

// In returns l as a bare number of the unit with that many decimals (0 to 5),
// rounded half away from zero: MM.In(34000, 3) is "0.034".
func (u Unit) In(l Length, places int) string {
	step := int64(u.Size)
	for range places {
		step /= 10
	}
	return decimal(int64(Div(l, step)), places)
}

// Whole returns l with its unit, in the places a dimension is told in: "0.030 mm", "0.0012 in".
func (u Unit) Whole(l Length) string { return u.In(l, u.Places()) + " " + u.Name }

// Typed returns l as somebody who reads in u types it: a bare number where that says it exactly, else
// millimetres with their unit.
func (u Unit) Typed(l Length) string {
	const inches = 25_400_000 / 100_000 // nanometres of the smallest step that is typed
	switch {
	case u != In:
		return l.MM()
	case l%inches != 0:
		return l.MM() + " mm"
	}
	text := u.In(l, 5)
	return strings.TrimSuffix(strings.TrimRight(text, "0"), ".")
}

// Text returns l with its unit, exact to what can be shown: "8.079 mm", "0.0017 in". A
// unit that is not an inch counts as many millionths as a millimetre has nanometres.
func (u Unit) Text(l Length) string {
	if u == In {
		return l.In() + " in"
	}
	return strings.TrimSpace(l.MM() + " " + u.Name)
}

// String returns the length in millimetres with its unit.
func (l Length) String() string { return MM.Text(l) }

// decimal writes n / 10^places.
func decimal(n int64, places int) string {
	sign := ""
	if n < 0 {
		sign, n = "-", -n
	}
	s := strconv.FormatInt(n, 10)
	if places == 0 {
		return sign + s
	}
	if len(s) <= places {
		s = strings.Repeat("0", places-len(s)+1) + s
	}
	return sign + s[:len(s)-places] + "." + s[len(s)-places:]
}

func trim(s string) string {
	return strings.TrimSuffix(strings.TrimRight(s, "0"), ".")
}
