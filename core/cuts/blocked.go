package cuts

import (
	"fmt"
	"slices"

	"yatai/core/length"
)

// Blocked is a valve no allowed face cut can save, and the limit in its way. An empty
// ID speaks of the head as a whole.
type Blocked struct {
	ID    string `json:"id"`
	Limit string `json:"limit"`
	Why   string `json:"why"`
}

// blocked says which valves fit for no cut on their own and why; or, when each fits
// alone, that only the spread or one common cut is impossible.
func (s *solver) blocked(cuts []length.Length) Output {
	out := Output{BlockedIDs: []string{}, Valves: []Done{}}
	for i := range s.in.Valves {
		v := &s.in.Valves[i]
		if !s.fitsAlone(s.options[i], limitsOf(s.in, v).recession, cuts) {
			out.Blocked = append(out.Blocked, s.why(v, cuts))
		}
	}
	slices.SortFunc(out.Blocked, byID)
	for _, b := range out.Blocked {
		out.BlockedIDs = append(out.BlockedIDs, b.ID)
	}
	if len(out.Blocked) == 0 {
		out.Blocked = []Blocked{s.together(cuts)}
	}
	return out
}

func (s *solver) fitsAlone(options []option, r Range, cuts []length.Length) bool {
	for i := range options {
		for _, c := range cuts {
			if _, _, ok := options[i].at(r.Low+c, r.High+c, s.in.Grid); ok {
				return true
			}
		}
	}
	return false
}

// wide is a limit nothing can miss.
var wide = Range{-4 * length.Max, 4 * length.Max}

// relaxed lists the limits that can be let go one at a time to find the one in the way.
var relaxed = []struct {
	limit, word string
	let         func(*limits)
	of          func(limits) string
}{
	{"recession", "recession", func(l *limits) {
		l.recession = wide
	}, func(l limits) string { return between(l.recession) }},
	{"stem_height", "stem height", func(l *limits) {
		l.stem = wide
	}, func(l limits) string { return between(l.stem) }},
	{"spring_height", "spring height", func(l *limits) {
		l.spring = wide
	}, func(l limits) string { return between(l.spring) }},
	{"margin", "margin", func(l *limits) {
		l.margin = 0
	}, func(l limits) string { return "at least " + l.margin.String() }},
}

func between(r Range) string { return r.Low.String() + " to " + r.High.String() }

// why names the limit that blocks v: the one that, let go alone, lets it fit.
func (s *solver) why(v *Position, cuts []length.Length) Blocked {
	if !v.Valve.AsIs && v.Valve.Grind == nil && !v.Valve.Replace {
		return Blocked{v.ID, "valve", "the valve may neither stay nor be ground nor be renewed"}
	}
	if !v.Seat.AsIs && v.Seat.CutMin == nil && !v.Seat.Insert {
		return Blocked{v.ID, "seat", "the seat may neither stay nor be cut nor get an insert"}
	}
	own := limitsOf(s.in, v)
	for _, r := range relaxed {
		lim := own
		r.let(&lim)
		if s.fitsAlone(s.valveOptions(v, lim), lim.recession, cuts) {
			return Blocked{v.ID, r.limit, fmt.Sprintf(
				"no allowed set of actions brings the %s to %s with the other limits kept", r.word, r.of(own),
			)}
		}
	}
	return Blocked{
		v.ID, "several",
		"more than one limit is in the way: no allowed set of actions meets recession, stem height, spring height and margin together",
	}
}

// together says what is impossible when every valve fits alone.
func (s *solver) together(cuts []length.Length) Blocked {
	for _, c := range cuts {
		all := true
		for i := range s.in.Valves {
			r := limitsOf(s.in, &s.in.Valves[i]).recession
			all = all && s.fitsAlone(s.options[i], r, []length.Length{c})
		}
		if all {
			return Blocked{"", "spread", fmt.Sprintf(
				"every valve fits alone; only a spread of %s within a role cannot be kept", *s.in.Spread,
			)}
		}
	}
	return Blocked{"", "face_cut", "every valve fits alone, but no one face cut suits them all"}
}
