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
	if i, found := slices.BinarySearch(l, at); at != 0 && !found {
		var beside []string
		for _, leaf := range l[max(0, i-1):min(len(l), i+1)] {
			beside = append(beside, unit.Text(leaf))
		}
		return gauge.Value{}, field.Errorf("", "this set has no such leaf; beside it are: %s",
			strings.Join(beside, ", "))
	}
	out, err := gauge.Leaf(gauge.LeafInput{Set: l, Goes: at})
	if err != nil {
		return gauge.Value{}, field.Errorf("", "this set has no larger leaf: type the one that stops beside it")
	}
	return gauge.Between(quantity.OfLength(out.Go), quantity.OfLength(out.NoGo)), nil
}
