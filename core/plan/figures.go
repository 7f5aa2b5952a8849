package plan

import (
	"math"
	"slices"

	"yatai/core/after"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
)

// Figure is one figure before and after a plan.
type Figure struct {
	Code, Label string
	Position    string
	Now, After  quantity.Amount
	Known       bool // After is known
	Read        bool // Now was read
	Changed     bool
	SD          float64 // standard deviation of After, nanometres
	Limit       *head.Limit
	Target      *quantity.Amount // what is aimed at, where that is not After itself
	Fits        bool
	Fixed       *trade.Operation // what puts it right where it would not fit
	P           float64          // how likely After ends inside
	Made        bool             // work makes it anew, to its limit: it is read again

	own, flat float64                    // of its doubt: its own, and half of the bracket it was read as
	shared    [after.MostSources]float64 // and what it shares with others, signed, by source
	apart     float64                    // of a clearance: the largest less the least
	travel    float64                    // what an adjuster still makes good
}

// spread is the figure's standard deviation.
func (f *Figure) spread() float64 {
	x := after.Figure{Own: f.own, Flat: f.flat, Shared: f.shared}
	return x.SD()
}

func (f Figure) low() *quantity.Amount {
	if f.Limit == nil {
		return nil
	}
	return f.Limit.Low
}

func (f Figure) high() *quantity.Amount {
	if f.Limit == nil {
		return nil
	}
	return f.Limit.High
}

// distance is how far After lies from the nearer end of its limit, negative when past it; any
// is false when it has none.
func (f Figure) distance() (d float64, any bool) {
	if f.Limit == nil {
		return 0, false
	}
	low, high := f.Limit.Lengths()
	return distance(float64(f.After), window{low, high, nil})
}

// Unit is the unit the figure is shown in, u being the one for lengths.
func (f Figure) Unit(u length.Unit) quantity.Unit {
	c, _ := trade.ByCode(f.Code)
	return c.UnitFor(u)
}

// Ends writes After without its unit, lengths in u.
func (f Figure) Ends(u length.Unit) string {
	in := f.Unit(u)
	return in.In(f.After, in.Places())
}

// Verdict is what After says against the limit, with the doubt it will have.
func (f Figure) Verdict() gauge.Verdict {
	if f.Limit == nil || !f.Known {
		return gauge.Unread
	}
	return gauge.Judge(gauge.Exact(f.After), quantity.Amount(math.Round(2*f.SD)), f.Limit.Gauge()).Verdict
}

// inside works out how likely the figure ends inside its limit.
func (f *Figure) inside() {
	f.P = 1
	if f.Limit != nil && f.Known {
		f.P = gauge.PInside(gauge.Exact(f.After), quantity.Amount(math.Round(2*f.SD)), f.Limit.Gauge())
	}
}

// mover is a feature of the head that a facing cut moves by so many times itself. Low is
// the end that comes nearer its limit.
type mover struct {
	f     judge.Feature
	by    float64
	over  bool             // read over the gasket: it grows as that is thicker
	fixes *trade.Operation // what puts it right when it would leave its limits; nil: the cut cannot be made
}

// movers collects what a facing cut moves, by what is declared of it.
func (p *problem) movers() {
	area, _, open := p.h.Figure(trade.ChamberArea, "")
	for _, f := range p.j.All() {
		if len(f.From) == 0 || f.Finding != 0 {
			continue
		}
		for _, m := range trade.FaceHead.Moves {
			if f.Code != m.Of.Code || m.Of == trade.Recession || m.Of == trade.ValvePiston { // these are a valve's
				continue
			}
			by, side := float64(m.Times), trade.Low
			if m.Of.Unit.Name == trade.CC.Name { // mm² times mm is a thousandth of a cc
				if by *= area.Float() / 1000; !open {
					continue
				}
			}
			if by > 0 {
				f.Low, side = f.High, trade.High
			}
			if m.Of == trade.Thickness && p.tilt != nil {
				thinnest, _ := p.corners(f)
				f.Low = quantity.OfLength(thinnest)
			}
			p.moving = append(p.moving, mover{f, by, m.Of.Gasket, p.restores(m.Of, side)})
		}
	}
}

// restores is the operation that puts a characteristic of the head's cylinders right when facing has
// moved it out at a side: the cheapest repair of it that is done to the whole head.
func (p *problem) restores(c *trade.Characteristic, side string) *trade.Operation {
	if c.Where != trade.AtCylinder {
		return nil
	}
	for _, r := range p.h.Sheet.RepairsFor(c.Code, side, p.h.Model.Kind) {
		if r.Does.Each == 0 && r.Works != trade.Whole && slices.Contains(r.Does.Voids, c) {
			return r.Does
		}
	}
	return nil
}

// headFigures are the figures of the head that a facing cut moves, before and after it.
func (p *problem) headFigures(c common) []Figure {
	var out []Figure
	cut := float64(c.cut)
	add := func(f judge.Feature, label string, moved bool, by, sd, face float64, fixes *trade.Operation) {
		ends := float64(f.Low) + by
		x := Figure{
			Code:     f.Code,
			Label:    label,
			Position: f.Position,
			Now:      f.Low,
			After:    quantity.Amount(math.Round(ends)),
			Known:    true,
			Read:     true,
			Changed:  moved,
			SD:       sd,
			Limit:    f.Limit,
			Fits:     true,
			own:      float64(f.U) / 2,
		}
		x.shared[after.Face] = face
		if moved && f.Limit != nil {
			d, any := distance(ends, window{quantity.AsLength(f.Limit.Low), quantity.AsLength(f.Limit.High), nil})
			x.Fits = !any || d >= c.minZ*sd
		}
		if !x.Fits && fixes != nil && fixes.Exists(p.h.Model.Kind) {
			x.Fixed = fixes
		}
		x.inside()
		out = append(out, x)
	}
	for _, m := range p.moving {
		sd, face := float64(m.f.U)/2, 0.0
		if cut != 0 {
			face = m.by * p.scatter[after.Face]
			sd = math.Hypot(sd, face)
		}
		by, moved := m.by*cut, cut > 0
		if m.over {
			by, moved = by+float64(c.gasket.change), moved || c.gasket.change != 0
		}
		add(m.f, trim(m.f.Position, m.f.Label), moved, by, sd, face, m.fixes)
	}
	return out
}

func trim(position, label string) string {
	if position == "" {
		return label
	}
	return position + " " + words.Lower(label)
}

// figuresOf are a valve's figures before and after a solution.
func (p *problem) figuresOf(v *valve, f fitted, c common) []Figure {
	var out []Figure
	for i, ch := range trade.MovedFigures(p.h.Model.Kind) {
		w, now := &f.way.Figures[i], &v.now.Figures[i]
		x := Figure{
			Code:     ch.Code,
			Label:    ch.Label,
			Position: v.ID,
			Now:      quantity.Amount(math.Round(now.At)),
			Read:     now.Read,
			Known:    w.Known,
			Made:     w.Made,
			Limit:    v.windows[i].limit,
			Fits:     true,
			Changed:  w.Changed,
			own:      w.Own,
			flat:     w.Flat,
			shared:   w.Shared,
		}
		m, win := move{at: w.At, changed: w.Changed}, v.windows[i]
		p.common(&m, &win, v, f.way, &c, &f.setting, i)
		for k := range f.way.open {
			m.at += f.way.open[k].slopes[i] * float64(f.sizes[k])
		}
		x.Changed = m.changed
		switch i {
		case after.Recession, after.Piston:
			if v.local(c.cut) > 0 {
				x.shared[after.Face] -= p.scatter[after.Face]
			}
		case after.Lash:
			if p.h.Model.Kind.Pushrods() && c.gasket.change != c.cut {
				x.shared[after.Face] -= p.ratio * p.scatter[after.Face]
			}
			x.Changed = m.changed || f.setting.ops != 0
			// the adjuster brings it to the middle, as far as it goes
			if w := v.windows[i]; f.setting.travel > 0 && w.low != nil && w.high != nil {
				mid := float64(*w.low+*w.high) / 2
				m.at = min(max(mid, m.at-f.setting.travel), m.at+f.setting.travel)
				x.travel = f.setting.travel
			}
		case after.Clearance:
			x.apart = f.way.Apart
			if x.Limit != nil {
				x.Target = quantity.MaybeLength(after.Aim(p.h, v.Valve))
			}
		}
		x.After, x.SD = quantity.Amount(math.Round(m.at)), x.spread()
		x.inside()
		if x.Read || x.Known && x.Changed {
			out = append(out, x)
		}
	}
	return out
}
