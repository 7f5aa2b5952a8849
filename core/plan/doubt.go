package plan

import (
	"math"
	"math/rand/v2"
	"slices"

	"yatai/core/after"
	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/price"
	"yatai/core/route"
	"yatai/core/trade"
)

// draws is how many heads are made by chance to see how many end inside.
const draws = 5000

// random is a figure of a plan as chance makes it: its own reading's doubt, and how much it
// has of what is common to its valve (a cut, a new margin) and to the head (the face).
type random struct {
	at, own, flat, low, high float64
	shared                   [after.MostSources]float64
	valve                    int // -1 of the head
}

// sure works out how likely everything with a limit on the sheet ends inside, what the plan does not
// touch too. It draws heads by chance, with a fixed seed: the face's error is common to all, a cut's
// and a new part's to all figures of their valve. What a plan makes anew is made to its limit and read
// again; what the lead has left out of its limit is left. Unread names, by key, what has a limit and
// was never read, nor is made, or is out and worked on with no telling what becomes of it.
func (p *problem) sure(out *Plan) (inside float64, unread []string) {
	inside = 1
	var open []random // those that chance can put outside
	for _, f := range p.j.All() {
		if f.Finding != 0 || f.Limit == nil || f.Fallback {
			continue
		}
		x, valve := out.figure(f)
		switch {
		case x != nil && (x.Made || x.Fixed != nil || x.travel > 0 || p.standsOut(x)):
		case x != nil && x.Known:
			if r := x.random(valve); r.mayLeave() {
				open = append(open, r)
			}
		case x == nil && (p.made(out, f) || p.left(f) || out.Choices[f.Key()] == trade.Planned):
		case x == nil && len(f.From) > 0 && f.Verdict < gauge.Out:
			inside *= f.PInside
		default:
			unread = append(unread, f.Key())
		}
	}
	return inside * share(open), unread
}

// figure is what the plan says of a feature, and at which valve, -1 for the head; nil when it does not
// move it.
func (out *Plan) figure(f judge.Feature) (*Figure, int) {
	for i := range out.Valves {
		if v := &out.Valves[i]; v.ID == f.Position {
			if x := v.Figure(f.Code); x != nil {
				return x, i
			}
			if c, _ := trade.ByCode(f.Code); slices.ContainsFunc(v.unknown,
				func(of *trade.Characteristic) bool { return of.Code == c.Code }) {
				return &Figure{Code: f.Code, Position: f.Position}, i
			}
		}
	}
	for i := range out.Own {
		if x := &out.Own[i]; x.Code == f.Code && x.Position == f.Position {
			return x, -1
		}
	}
	return nil, -1
}

// made tells whether the plan's work makes what a feature is made of anew: to its limit, to be read. Work
// that only moves it does not: what was never read is as unknown after it.
func (p *problem) made(out *Plan, f judge.Feature) bool {
	c, ok := p.h.Sheet.Characteristic(f.Code)
	if !ok || slices.ContainsFunc(trade.MovedFigures(p.h.Model.Kind),
		func(m *trade.Characteristic) bool { return m.Code == f.Code }) {
		return false
	}
	return slices.ContainsFunc(out.Operations, func(o price.Priced) bool {
		at := f.Position == "" || len(o.Positions) == 0 || slices.Contains(o.Positions, f.Position)
		return at && slices.ContainsFunc(c.Proves(), o.Operation.Operation.Makes)
	})
}

// standsOut tells whether a figure that the plan leaves is out already: the lead has left it.
func (p *problem) standsOut(f *Figure) bool {
	d, any := f.distance()
	return !f.Changed && any && d < -2*f.SD
}

// random takes a figure's doubt apart.
func (f *Figure) random(valve int) random {
	r := random{
		at: float64(f.After), own: f.own, flat: f.flat, shared: f.shared, valve: valve, low: math.Inf(-1),
		high: math.Inf(1),
	}
	if low := f.low(); low != nil {
		r.low = float64(*low) + f.apart
	}
	if high := f.high(); high != nil {
		r.high = float64(*high)
	}
	return r
}

// mayLeave tells whether chance can put the figure outside.
func (r *random) mayLeave() bool {
	sum := r.own * r.own
	for _, s := range r.shared {
		sum += s * s
	}
	return min(r.at-r.low, r.high-r.at) < 5*math.Sqrt(sum)+r.flat
}

// term is what a source of error, drawn once for a head, adds to a figure for each standard deviation.
type term struct {
	of     int
	spread float64
}

// share is how many of the heads that chance draws have all figures inside.
func share(figures []random) float64 {
	if len(figures) == 0 {
		return 1
	}
	sources := map[[2]int]int{} // by valve and kind of source; the face's is one for the head
	terms := make([][]term, len(figures))
	for i, r := range figures {
		for k, spread := range r.shared {
			if spread == 0 {
				continue
			}
			at := [2]int{r.valve, k}
			if k == after.Face {
				at[0] = -1
			}
			if _, known := sources[at]; !known {
				sources[at] = len(sources)
			}
			terms[i] = append(terms[i], term{sources[at], spread})
		}
	}
	rnd := rand.New(rand.NewPCG(1, 2))
	chance := make([]float64, len(sources))
	inside := 0
draw:
	for range draws {
		for k := range chance {
			chance[k] = rnd.NormFloat64()
		}
		for i := range figures {
			r := &figures[i]
			x := r.at + r.own*rnd.NormFloat64()
			if r.flat > 0 {
				x += r.flat * (2*rnd.Float64() - 1)
			}
			for _, t := range terms[i] {
				x += t.spread * chance[t.of]
			}
			if x < r.low || x > r.high {
				continue draw
			}
		}
		inside++
	}
	return float64(inside) / draws
}

// decides tells whether a plan decides an operation anywhere.
func (out *Plan) decides(o *trade.Operation) bool {
	return slices.ContainsFunc(out.Decisions, func(d route.Decision) bool { return d.Code == o.Code })
}

// does tells whether a plan decides an operation at a position.
func (out *Plan) does(code, position string) bool {
	return slices.Contains(out.Decisions, route.Decision{Code: code, Position: position})
}
