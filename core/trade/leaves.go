package trade

import (
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
)

// Leaves are the thicknesses of a set of feelers, the thinnest first.
type Leaves []length.Length

// mostLeaves bounds a set.
const mostLeaves = 100

// ParseLeaves reads the leaves of a set, apart by spaces, in any order: "0.05 0.10 0.15"; bare numbers are in
// unit, and a unit at the end is that of all which have none.
func ParseLeaves(text string, unit length.Unit) (Leaves, error) {
	words := strings.Fields(strings.ReplaceAll(text, ";", " "))
	if n := len(words); n > 1 && !startsNumber(words[n-1]) {
		named, known := length.UnitNamed(words[n-1])
		if !known {
			return nil, field.Errorf("", "leaves apart by spaces, like 0.05 0.10 0.15 mm")
		}
		unit, words = named, words[:n-1]
	}
	var out Leaves
	for _, w := range words {
		l, err := length.Parse(w, unit)
		switch {
		case err != nil:
			return nil, field.Under("", err)
		case l <= 0 || l > 10*length.Millimetre:
			return nil, field.Errorf("", "%s is no leaf", unit.Text(l))
		case slices.Contains(out, l):
			return nil, field.Errorf("", "%s stands there twice", unit.Text(l))
		case len(out) == mostLeaves:
			return nil, field.Errorf("", "a set has at most %d leaves", mostLeaves)
		}
		out = append(out, l)
	}
	if len(out) == 1 {
		return nil, field.Errorf("", "a set has two leaves at least")
	}
	slices.Sort(out)
	return out, nil
}

// String writes them to the nanometre, as ParseLeaves reads them; empty for none.
func (l Leaves) String() string {
	if len(l) == 0 {
		return ""
	}
	var words []string
	for _, leaf := range l {
		words = append(words, leaf.MM())
	}
	return strings.Join(append(words, "mm"), " ")
}

// alone reads one leaf as a bracket: it goes with a light drag, and the next thicker of the set does not. Of
// nothing the thinnest does not go.
func (l Leaves) alone(at length.Length, unit length.Unit) (gauge.Value, error) {
	i, found := slices.BinarySearch(l, at)
	switch {
	case at == 0:
		return gauge.Between(0, quantity.OfLength(l[0])), nil
	case found && i == len(l)-1:
		return gauge.Value{}, field.Errorf("", "this set has no thicker leaf: type what stops beside it, like %s %s", unit.Text(at), unit.Text(2*at))
	case found:
		return gauge.Between(quantity.OfLength(at), quantity.OfLength(l[i+1])), nil
	case i == 0:
		return gauge.Value{}, field.Errorf("", "this set has no such leaf: its thinnest is %s", unit.Text(l[0]))
	case i == len(l):
		return gauge.Value{}, field.Errorf("", "this set has no such leaf: its thickest is %s", unit.Text(l[i-1]))
	}
	return gauge.Value{}, field.Errorf("", "this set has no such leaf, but %s and %s: which one goes?", unit.Text(l[i-1]), unit.Text(l[i]))
}
