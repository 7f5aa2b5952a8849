package layout

import (
	"slices"

	"yatai/core/length"
)

// SpecOf is the regular head in a row that a layout comes nearest to: its cylinders, rows of
// valves, pitch, bore and valve heads. What lies elsewhere Differs tells.
func SpecOf(l Layout) InlineSpec {
	n := len(l.Chambers)
	s := InlineSpec{
		Cylinders: n,
		Pitch:     (l.Length - 20*length.Millimetre) / length.Length(max(1, n)),
		Width:     l.Width,
		Injector:  len(l.Injectors) > 0,
		AirCooled: len(l.Water) == 0,
		Camshafts: l.Camshafts,
		Bridges:   l.Bridges,
	}
	if n == 0 {
		return s
	}
	s.Bore = l.Chambers[0].D
	s.FirstAtRight = n > 1 && l.Chambers[0].X > l.Chambers[1].X
	for c := 1; c <= n; c++ {
		pattern := ""
		for _, v := range l.Valves {
			if v.Cylinder == c {
				pattern += v.Role.Letter()
			}
		}
		s.Patterns = append(s.Patterns, pattern)
	}
	for _, v := range l.Valves {
		switch {
		case v.Role == Intake && s.IntakeHead == 0:
			s.IntakeHead = v.Head
		case v.Role == Exhaust && s.ExhaustHead == 0:
			s.ExhaustHead = v.Head
		}
	}
	s.Pattern = s.Patterns[0]
	return s
}

// Moved is something of a face that lies elsewhere than on a regular head: as Move takes it.
type Moved struct {
	What string
	Spot
}

// Differs lists what of l lies elsewhere than on another layout of the same cylinders and
// valves, is there besides, or is missing (its D is 0).
func (l Layout) Differs(from Layout) []Moved {
	var out []Moved
	for _, v := range l.Valves {
		if w, ok := from.Valve(v.ID); ok && w != v {
			out = append(out, Moved{"valve", Spot{v.ID, v.X, v.Y, v.Head}})
		}
	}
	for _, list := range []struct {
		what      string
		mine, his []Spot
	}{
		{"chamber", l.Chambers, from.Chambers}, {"bolt", l.Bolts, from.Bolts}, {"plug", l.Plugs, from.Plugs},
		{"injector", l.Injectors, from.Injectors}, {"water", l.Water, from.Water},
	} {
		for _, s := range list.mine {
			if !slices.Contains(list.his, s) {
				out = append(out, Moved{list.what, s})
			}
		}
		for _, s := range list.his {
			if !slices.ContainsFunc(list.mine, func(m Spot) bool { return m.Name == s.Name }) {
				s.D = 0
				out = append(out, Moved{list.what, s})
			}
		}
	}
	return out
}
