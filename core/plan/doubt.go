package plan

import (
	"math"
	"math/rand/v2"
)

// draws is how many heads are made by chance to see how many end inside.
const draws = 5000

// random is a figure of a plan as chance makes it: its own reading's doubt, and how much it
// has of what is common to its valve (seat, grind) and to the head (face).
type random struct {
	at, own, low, high     float64
	seat, grind, tip, face float64
	valve                  int // -1 of the head
}

// sure draws heads by chance, with a fixed seed, and returns the share in which every figure
// that the plan promises ends inside. The face's error is common to all, a seat's and a
// valve's to all figures of that valve.
func (p *problem) sure(out Plan, s solution) float64 {
	var figures []random
	for i, v := range out.Valves {
		for _, f := range v.Figures {
			low, high := math.Inf(-1), math.Inf(1)
			if f.low() != nil {
				low = float64(*f.low())
			}
			if f.high() != nil {
				high = float64(*f.high())
			}
			if !f.Known || math.IsInf(low, -1) && math.IsInf(high, 1) || p.standsOut(f) {
				continue
			}
			figures = append(figures, p.random(f, v, s.valves[i], i, low, high))
		}
	}
	for _, f := range out.Own {
		if f.Fixed != nil || f.Limit == nil || !f.Known || p.standsOut(f) {
			continue
		}
		r := random{at: float64(f.After), low: math.Inf(-1), high: math.Inf(1), valve: -1, face: f.face}
		r.own = math.Sqrt(max(0, f.SD*f.SD-f.face*f.face))
		if f.low() != nil {
			r.low = float64(*f.low())
		}
		if f.high() != nil {
			r.high = float64(*f.high())
		}
		figures = append(figures, r)
	}
	var open []random // those that chance can put outside
	for _, r := range figures {
		sd := math.Sqrt(r.own*r.own + r.seat*r.seat + r.grind*r.grind + r.tip*r.tip + r.face*r.face)
		if d := min(r.at-r.low, r.high-r.at); d < 5*sd {
			open = append(open, r)
		}
	}
	if len(open) == 0 {
		return 1
	}
	rnd := rand.New(rand.NewPCG(1, 2))
	inside := 0
	seat, grind, tip := make([]float64, len(out.Valves)), make([]float64, len(out.Valves)), make([]float64, len(out.Valves))
	for range draws {
		face := rnd.NormFloat64()
		for i := range seat {
			seat[i], grind[i], tip[i] = rnd.NormFloat64(), rnd.NormFloat64(), rnd.NormFloat64()
		}
		ok := true
		for _, r := range open {
			x := r.at + r.own*rnd.NormFloat64() + r.face*face
			if r.valve >= 0 {
				x += r.seat*seat[r.valve] + r.grind*grind[r.valve] + r.tip*tip[r.valve]
			}
			if x < r.low || x > r.high {
				ok = false
				break
			}
		}
		if ok {
			inside++
		}
	}
	return float64(inside) / draws
}

// standsOut tells whether a figure that the plan leaves is out already: the lead has left it.
func (p *problem) standsOut(f Figure) bool {
	d, any := f.distance()
	return !f.Changed && any && d < -2*f.SD
}

// random takes a figure's scatter apart.
func (p *problem) random(f Figure, v Valve, x fitted, i int, low, high float64) random {
	r := random{at: float64(f.After), low: low, high: high, valve: i, face: f.face}
	sign := 1.0
	switch f.Code {
	case figureOf[lash].Code, "lash.dry":
		sign = -1
	}
	if f.Changed && f.Code != figureOf[margin].Code && f.Code != figureOf[clearance].Code {
		if x.way.seat == doCut || x.way.seat == doInsert {
			r.seat = sign * p.scatter.seat
		}
		if x.way.valve == doGrind {
			r.grind = sign * p.scatter.grind
		}
		if x.t > 0 && f.Code != figureOf[recession].Code && f.Code != figureOf[springHeight].Code {
			r.tip = -sign * p.scatter.tip
		}
	}
	if f.Code == figureOf[margin].Code && x.way.valve == doGrind {
		r.grind = -p.scatter.grind
	}
	rest := f.SD*f.SD - r.seat*r.seat - r.grind*r.grind - r.tip*r.tip - r.face*r.face
	r.own = math.Sqrt(max(0, rest))
	return r
}
