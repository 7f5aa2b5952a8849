package plan

import (
	"math"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
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

	face float64 // the part of SD, signed, that the face's cut has in it
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

// moved are the characteristics of the head that a facing cut moves, by how much of it, and
// what puts them right when they would leave their limits; nothing means that the cut cannot
// be made.
var moved = []struct {
	c     *trade.Characteristic
	by    float64
	fixes *trade.Operation
}{
	{trade.Thickness, -1, nil}, {trade.Injector, 1, trade.ShimInjector}, {trade.PlugSeat, -1, trade.PlugSeatCut}, {trade.Register, -1, trade.CutRegister},
	{trade.PortDepth, -1, nil}, {trade.GuideDepth, -1, nil},
}

// mover is a feature of the head that a facing cut moves by so many times itself. Low is
// the end that comes nearer its limit.
type mover struct {
	f     judge.Feature
	by    float64
	fixes *trade.Operation
}

// movers collects what a facing cut moves.
func (p *problem) movers() {
	area, _, open := p.h.Figure(trade.ChamberArea, "")
	for _, f := range p.j.All() {
		if len(f.From) == 0 || f.Finding != 0 {
			continue
		}
		for _, m := range moved {
			if f.Code == m.c.Code {
				if m.by > 0 {
					f.Low = f.High
				}
				if m.c == trade.Thickness && p.tilt != nil {
					thinnest, _ := p.corners(f)
					f.Low = quantity.OfLength(thinnest)
				}
				p.moving = append(p.moving, mover{f, m.by, m.fixes})
			}
		}
		if f.Code == trade.ChamberVolume.Code && open { // mm² times mm is a thousandth of a cc
			p.moving = append(p.moving, mover{f, -area.Float() / 1000, trade.EvenChambers})
		}
	}
}

// headFigures are the figures of the head that a facing cut moves, before and after it.
func (p *problem) headFigures(c common) []Figure {
	var out []Figure
	cut := float64(c.cut)
	add := func(f judge.Feature, label string, after, sd, face float64, fixes *trade.Operation) {
		x := Figure{
			Code: f.Code, Label: label, Position: f.Position, Now: f.Low, After: quantity.Amount(math.Round(after)), Known: true, Read: true,
			Changed: cut > 0, SD: sd, Limit: f.Limit, Fits: true, face: face,
		}
		if cut > 0 && f.Limit != nil {
			d, any := distance(after, window{quantity.AsLength(f.Limit.Low), quantity.AsLength(f.Limit.High), nil})
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
			face = m.by * p.scatter.face
			sd = math.Hypot(sd, face)
		}
		add(m.f, trim(m.f.Position, m.f.Label), float64(m.f.Low)+m.by*cut, sd, face, m.fixes)
	}
	return out
}

func trim(position, label string) string {
	if position == "" {
		return label
	}
	return position + " " + lower(label)
}

// figuresOf are a valve's figures before and after a solution.
func (p *problem) figuresOf(v *valve, f fitted, c common) []Figure {
	var out []Figure
	for i, ch := range figureOf {
		if i == lash && p.h.Model.Kind.Hydraulic() {
			ch = trade.LashDry
		}
		x := Figure{
			Code: ch.Code, Label: ch.Label, Position: v.ID, Now: quantity.OfLength(v.now[i].at), Read: v.now[i].read, Known: f.way.have[i],
			Limit: v.windows[i].limit, Fits: true,
		}
		at, sd := f.way.base[i], f.way.sd[i]
		x.Changed = f.way.changed[i]
		switch i {
		case recession:
			at += float64(f.s - v.local(c.cut))
			if v.local(c.cut) > 0 {
				x.Changed, x.face, sd = true, -p.scatter.face, math.Hypot(sd, p.scatter.face)
			}
		case stemHeight:
			at += float64(f.s - f.t)
		case springHeight:
			at += float64(f.s)
		case lash:
			at += float64(f.t-f.s) + f.setting.add
			if p.h.Model.Kind.Pushrods() {
				move := p.ratio * float64(c.gasket.change-c.cut)
				at += move
				if move != 0 {
					x.Changed, x.face, sd = true, -p.ratio*p.scatter.face, math.Hypot(sd, p.ratio*p.scatter.face)
				}
			}
			x.Changed = x.Changed || f.setting.ops != 0
			if w := v.windows[i]; f.setting.travel > 0 && w.low != nil && w.high != nil { // the adjuster brings it to the middle, as far as it goes
				mid := float64(*w.low+*w.high) / 2
				at = min(max(mid, at-f.setting.travel), at+f.setting.travel)
			}
		}
		if i != margin && i != clearance && f.s != 0 {
			x.Changed = true
		}
		x.After, x.SD = quantity.Amount(math.Round(at)), sd
		if i == clearance && x.Limit != nil {
			x.Target = quantity.MaybeLength(Aim(p.h, v.Valve))
		}
		x.inside()
		if x.Read || x.Known && x.Changed {
			out = append(out, x)
		}
	}
	return out
}
