// Package cause weighs why a head failed. Signs are what ticks, readings, findings and marks
// say, valve by valve, each yes, no or not known; causes are the trade's tables of the signs
// that speak for and against them. Weigh is its door. A score is never shown without its
// list: a person confirms or rejects each cause.
package cause

import (
	"slices"
	"strings"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/seating"
	"yatai/core/trade"
)

// State is what is known of a sign.
type State int8

// The states.
const (
	Unknown State = iota
	Yes
	No
)

// Found is a sign as it was found: at which positions, or for the head as a whole when there
// are none.
type Found struct {
	*trade.Sign
	State  State
	At     []string
	Weight int
}

// Said writes where it was found.
func (f Found) Said() string { return strings.Join(f.At, ", ") }

// Weighed is a cause with its evidence, at the positions where it holds. Score is the weights
// that speak for it at one position less those that speak against it; Most is what it would be
// if everything spoke for it.
type Weighed struct {
	*trade.Cause
	At      []string // the positions it holds at; none when only the head as a whole speaks
	For     []Found
	Against []Found
	Open    []Found // not known yet
	Score   float64
	Most    int
}

// looking is a head being looked at for signs.
type looking struct {
	h     *head.Head
	j     judge.Judgement
	found map[*trade.Sign]Found
}

// Weigh looks at every sign once and returns the causes that anything speaks for, the
// likeliest first. Causes that the head's drive or cooling rules out are not listed. Signs
// count together only at one position, or for the head as a whole; signs of one fact count as
// their strongest and half of the rest.
func Weigh(h *head.Head, j judge.Judgement) []Weighed {
	l := looking{h, j, map[*trade.Sign]Found{}}
	for _, s := range trade.Signs {
		f := l.look(s)
		f.Sign = s
		l.found[s] = f
	}
	var out []Weighed
	for _, c := range trade.Causes {
		if c.On != nil && !c.On(h.Model.Kind) {
			continue
		}
		// that something else is sound is no sign by itself
		if w := l.weigh(c); slices.ContainsFunc(w.For, func(f Found) bool { return !f.Sign.Absence() }) {
			out = append(out, w)
		}
	}
	slices.SortStableFunc(out, func(a, b Weighed) int {
		switch {
		case a.Score > b.Score:
			return -1
		case a.Score < b.Score:
			return 1
		}
		return 0
	})
	return out
}

// weigh weighs one cause.
func (l looking) weigh(c *trade.Cause) Weighed {
	w := Weighed{Cause: c}
	scores := map[string]float64{}
	for _, id := range l.h.Positions() {
		scores[id] = l.score(c, id)
	}
	whole := l.score(c, "")
	holds := l.holds(c, scores)
	w.Score, w.At = whole, nil
	for _, id := range holds {
		w.Score = max(w.Score, scores[id])
		w.At = append(w.At, id)
	}
	for _, p := range c.Signs {
		if p.Weight > 0 {
			w.Most += p.Weight
		}
		f := l.found[p.Sign]
		f.Weight = p.Weight
		here := slices.DeleteFunc(slices.Clone(f.At), func(id string) bool { return !slices.Contains(holds, id) })
		there := f.State == Yes && (len(f.At) == 0 || len(here) > 0)
		f.At = here
		switch {
		case f.State == Unknown:
			w.Open = append(w.Open, f)
		case there && p.Weight > 0:
			w.For = append(w.For, f)
		case there:
			w.Against = append(w.Against, f)
		case p.Weight > 1 && f.State == No: // a strong sign that is known to be missing
			w.Against = append(w.Against, f)
		}
	}
	return w
}

// score adds up what speaks at a position, or for the head as a whole when it is "".
func (l looking) score(c *trade.Cause, id string) float64 {
	facts := map[string][]int{}
	total := 0.0
	for _, p := range c.Signs {
		f := l.found[p.Sign]
		yes := f.State == Yes && (len(f.At) == 0 || slices.Contains(f.At, id))
		switch {
		case yes && p.Weight > 0 && p.Sign.Fact != "":
			facts[p.Sign.Fact] = append(facts[p.Sign.Fact], p.Weight)
		case yes:
			total += float64(p.Weight)
		case f.State == No && p.Weight > 1:
			total--
		}
	}
	for _, ws := range facts {
		slices.SortFunc(ws, func(a, b int) int { return b - a })
		total += float64(ws[0])
		for _, w := range ws[1:] {
			total += float64(w) / 2
		}
	}
	return total
}

// holds lists the positions a cause holds at: where its weightiest local sign was found, or,
// when that was found nowhere, where most speaks for it.
func (l looking) holds(c *trade.Cause, scores map[string]float64) []string {
	most := 0
	for _, p := range c.Signs {
		if f := l.found[p.Sign]; f.State == Yes && len(f.At) > 0 && !p.Sign.Absence() {
			most = max(most, p.Weight)
		}
	}
	var out []string
	best := 0.0
	for _, id := range l.h.Positions() {
		for _, p := range c.Signs {
			f := l.found[p.Sign]
			if p.Weight > 0 && p.Weight == most && !p.Sign.Absence() && f.State == Yes && slices.Contains(f.At, id) &&
				!slices.Contains(out, id) {
				out = append(out, id)
				best = max(best, scores[id])
			}
		}
	}
	return out
}

// look looks for a sign.
func (l looking) look(s *trade.Sign) Found {
	f := l.one(s)
	if s.Or != nil && f.State != Yes {
		if o := l.one(s.Or); o.State == Yes || f.State == Unknown {
			return o
		}
	}
	return f
}

func (l looking) one(s *trade.Sign) Found {
	switch {
	case s.Told != nil:
		for _, t := range s.Told {
			if slices.Contains(l.h.Symptoms, t.Code) {
				return Found{State: Yes}
			}
		}
	case s.Mark != "":
		if _, ok := l.marked(s.Mark); ok {
			return Found{State: Yes}
		}
	case s.Part != nil:
		return l.graded(s)
	case s.Of != nil:
		return l.measured(s)
	default:
		return l.special(s.Special)
	}
	return Found{}
}

func (l looking) marked(grade string) (judge.Feature, bool) {
	i := slices.IndexFunc(l.j.Own, func(f judge.Feature) bool { return f.Code == trade.MarkCode+"."+grade })
	if i < 0 {
		return judge.Feature{}, false
	}
	return l.j.Own[i], true
}

// measured looks at the features of a characteristic: yes where the verdict is out at the
// sign's side, no when all were read and none is.
func (l looking) measured(s *trade.Sign) Found {
	if !s.Of.Exists(l.h.Model.Kind) {
		return Found{}
	}
	var f Found
	any, all := false, true
	for _, x := range l.j.All() {
		if x.Code != s.Of.Code {
			continue
		}
		any = true
		all = all && len(x.From) > 0 && x.Limit != nil
		if x.Verdict == gauge.Out && (s.Side == "" || x.Side == s.Side) {
			f.State = Yes
			if l.h.Role(x.Position) != "" {
				f.At = append(f.At, x.Position)
			}
		}
	}
	if s.Inside {
		return l.inside(s, any && all)
	}
	if f.State == Unknown && any && all {
		f.State = No
	}
	return f
}

// inside looks for what is inside its limits, valve by valve; of the head as a whole, where it is read
// there. No where everything was read and nothing is.
func (l looking) inside(s *trade.Sign, all bool) Found {
	var f Found
	for _, x := range l.j.All() {
		if x.Code != s.Of.Code || len(x.From) == 0 || x.Limit == nil || x.Verdict >= gauge.Doubt {
			continue
		}
		f.State = Yes
		if l.h.Role(x.Position) != "" {
			f.At = append(f.At, x.Position)
		}
	}
	if f.State == Unknown && all {
		f.State = No
	}
	return f
}

// graded looks at what was seen of a part: yes where one of the grades is, no when every
// position was looked at and none is.
func (l looking) graded(s *trade.Sign) Found {
	if !s.Part.Exists(l.h.Model.Kind) {
		return Found{}
	}
	var f Found
	all := len(l.j.Positions) > 0
	for _, id := range l.h.Positions() {
		g := l.h.Grade(s.Part.Code, id)
		all = all && g != ""
		if slices.Contains(s.Grades, g) {
			f.State, f.At = Yes, append(f.At, id)
		}
	}
	if f.State == Unknown && all {
		f.State = No
	}
	if !s.Not {
		return f
	}
	not := Found{} // the other way round, valve by valve
	for _, id := range l.h.Positions() {
		if g := l.h.Grade(s.Part.Code, id); g != "" && !slices.Contains(s.Grades, g) {
			not.State, not.At = Yes, append(not.At, id)
		}
	}
	if not.State == Unknown && all {
		not.State = No
	}
	return not
}

// special looks for what no table can say.
func (l looking) special(what string) Found {
	var f Found
	switch what {
	case trade.LeakTurns, trade.LeakStays:
		any := false
		for _, p := range l.j.Positions {
			x, ok := p.Feature(trade.VacuumLost.Code)
			if !ok || len(x.From) == 0 {
				continue
			}
			any = true
			if x.Suspect == map[string]string{
				trade.LeakTurns: seating.SuspectValve, trade.LeakStays: seating.SuspectSeat,
			}[what] {
				f.State, f.At = Yes, append(f.At, p.ID)
			}
		}
		if any && f.State == Unknown {
			f.State = No
		}
	case trade.AlongSweep:
		any := false
		for _, p := range l.j.Positions {
			var reads []trade.Read
			for _, r := range l.h.Reads(trade.GuideBore.Code, p.ID) {
				reads = append(reads, trade.Read{ID: r.ID, Spot: r.Spot, Value: r.Value, U: r.U})
			}
			w, ok := trade.WearOf(reads, l.h.Unit)
			x, _ := p.Feature(trade.GuideClearance.Code)
			any = any || ok
			if ok && w.Sweep && x.Verdict >= gauge.Doubt {
				f.State, f.At = Yes, append(f.At, p.ID)
			}
		}
		if any && f.State == Unknown {
			f.State = No
		}
	case trade.OneWetter:
		wet := l.graded(&trade.Sign{Part: trade.PortSeen, Grades: []string{"oily"}})
		if wet.State == Yes && len(wet.At) < len(l.j.Positions) {
			return wet
		}
	case trade.WrongPart:
		for _, p := range l.h.Parts {
			if p.New && l.wrong(p) {
				f.State = Yes
				if l.h.Role(p.Position) != "" {
					f.At = append(f.At, p.Position)
				}
			}
		}
	}
	return f
}

// wrong tells whether a new part is not to the maker's figures for a new one.
func (l looking) wrong(p head.Part) bool {
	for code, at := range p.Is {
		lim := l.h.Sheet.LimitOf(head.New, code, string(l.h.Role(p.Position)))
		if lim != nil && gauge.Judge(gauge.Exact(at), 0, lim.Gauge()).Verdict == gauge.Out {
			return true
		}
	}
	return false
}

// Next returns the check that would best separate the leading causes: the sign not known
// yet whose weights differ most between the first and the best of the others. ok is false
// when every sign of the leading causes is known.
func Next(all []Weighed) (s *trade.Sign, between []string, ok bool) {
	if len(all) == 0 {
		return nil, nil, false
	}
	leading := all[:min(3, len(all))]
	best := 0
	consider := func(f Found, other Weighed) {
		if d := gap(weightOf(leading[0].Cause, f.Sign), weightOf(other.Cause, f.Sign)); d > best {
			best, s, between, ok = d, f.Sign, []string{leading[0].Name, other.Name}, true
		}
	}
	for _, other := range leading[1:] {
		for _, f := range slices.Concat(leading[0].Open, other.Open) {
			consider(f, other)
		}
	}
	if len(leading) == 1 {
		for _, f := range leading[0].Open {
			if f.Weight > best {
				best, s, between, ok = f.Weight, f.Sign, []string{leading[0].Name}, true
			}
		}
	}
	return s, between, ok
}

func gap(a, b int) int { return max(a-b, b-a) }

func weightOf(c *trade.Cause, s *trade.Sign) int {
	for _, p := range c.Signs {
		if p.Sign == s {
			return p.Weight
		}
	}
	return 0
}
