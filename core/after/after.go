// Package after is the one account of what work does to a valve: its figures as they were read, and
// as they are when repairs have been done. At begins it, Valve.Do does one repair after another.
//
// What a repair does is declared in trade: which figures it moves, by its size or by what a new part
// measures, and how much the machine scatters. What one error moves together stays together: a
// figure's doubt is kept by where it comes from. What is not known stays unknown.
package after

import (
	"math"
	"slices"
	"strings"

	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// A valve's figures, in the order of trade.MovedFigures.
const (
	Recession = iota
	StemHeight
	SpringHeight
	Margin
	Clearance // the largest; what the least lies below it is in Apart
	Lash      // dry lash under hydraulic lifters
	Load      // of the spring, installed
	Piston    // from the valve, as it is least while the engine turns
	Count
)

// Sources of doubt that figures of a valve share: the machines by their settings, then what a new
// valve and the one it replaces measure.
var sources = func() []string {
	var out []string
	for _, s := range trade.Settings {
		if strings.HasPrefix(s.Name, "scatter.") {
			out = append(out, s.Name)
		}
	}
	return append(out, "present margin", "new margin")
}()

// MostSources bounds the sources of doubt of a figure.
const MostSources = 10

func source(name string) int { return slices.Index(sources, name) }

// The sources by name, for what several valves share or a draw needs.
var (
	Face          = source("scatter.face")
	presentMargin = source("present margin")
	newMargin     = source("new margin")
)

// Figure is one figure of a valve. At is in nanometres, or millionths of the figure's unit.
type Figure struct {
	At      float64
	Own     float64              // standard deviation of its own reading
	Flat    float64              // half the width of the bracket it was read as: all within is as likely
	Shared  [MostSources]float64 // signed standard deviations, by source
	Read    bool                 // it was read
	Known   bool                 // it is known: read, and moved by what is known
	Changed bool                 // some work moves or makes it
	Made    bool                 // work makes it anew to its limits: it is read again, and holds nothing up
}

// SD is the figure's standard deviation, all sources together; a bracket's is its width over the
// root of twelve.
func (f *Figure) SD() float64 {
	sum := f.Own*f.Own + f.Flat*f.Flat/3
	for _, s := range f.Shared {
		sum += s * s
	}
	return math.Sqrt(sum)
}

// Valve is a valve's figures as they come out of some work.
type Valve struct {
	layout.Valve
	Figures [Count]Figure
	Apart   float64        // largest clearance less the least
	Bore    *length.Length // what a guide that is made is bored to
	Stem    *length.Length // and the stem that will run in it
	Fresh   bool           // a new valve is fitted

	h       *head.Head
	kind    trade.Kind
	was     Figure     // margin of the valve that is there
	margin  head.Fresh // of a new valve
	known   bool       // margin is
	longer  float64
	groove  float64
	stem    head.Fresh // of a new valve
	stemOK  bool
	guide   *trade.Repair // that makes the bore
	bores   ends
	stems   ends
	perNM   float64 // spring's rate: newtons a millimetre, which is millionths of a newton a nanometre
	rateOK  bool
	scatter *[MostSources]float64
}

// ends are the least and the most of some readings, and their doubt.
type ends struct{ least, most, u float64 }

func endsOf(rs []head.Reading) ends {
	var e ends
	for i, r := range rs {
		a, b := r.Value.At, r.Value.At
		if r.Value.Bracket {
			a, b = r.Value.Go, r.Value.NoGo
		}
		if i == 0 {
			e.least, e.most = float64(a), float64(b)
		}
		e.least, e.most, e.u = min(e.least, float64(a)), max(e.most, float64(b)), max(e.u, float64(r.U))
	}
	return e
}

// Scatter is what the head's machines scatter, by source.
func Scatter(h *head.Head) *[MostSources]float64 {
	var out [MostSources]float64
	for i, name := range sources {
		if l, err := length.Parse(h.Setting(name), length.None); err == nil {
			out[i] = float64(l)
		}
	}
	return &out
}

// At is a valve as it stands, with what is known of a new one for its place.
func At(h *head.Head, j judge.Judgement, lv layout.Valve, scatter *[MostSources]float64) Valve {
	v := Valve{Valve: lv, h: h, kind: h.Model.Kind, scatter: scatter}
	for i, c := range trade.MovedFigures(v.kind) {
		if i != Clearance {
			v.Figures[i] = read(h, c, lv.ID)
		}
	}
	v.was = v.Figures[Margin]
	v.margin, v.known = h.NewMargin(lv.ID)
	longer, groove := h.NewLength(lv.ID)
	v.longer, v.groove = float64(longer), float64(groove)
	v.stem, v.stemOK = h.NewStem(lv.ID)
	v.bores, v.stems = endsOf(h.Reads(trade.GuideBore.Code, lv.ID)), endsOf(h.Reads(trade.Stem.Code, lv.ID))
	if f, ok := j.Feature(judge.Feature{Code: trade.GuideClearance.Code, Position: lv.ID}.Key()); ok &&
		len(f.From) > 0 {
		v.Figures[Clearance] = Figure{At: float64(f.High), Own: float64(f.U) / 2, Read: true, Known: true}
		v.Apart = float64(f.High - f.Low)
	}
	v.spring()
	return v
}

// read is a figure as it was read: the mean of its readings, or the middle of its bracket.
func read(h *head.Head, c *trade.Characteristic, position string) Figure {
	mean, known := h.Mean(c.Code, position)
	f := Figure{At: float64(mean), Read: known, Known: known}
	for _, r := range h.Reads(c.Code, position) {
		if r.Value.Bracket {
			f.Flat = max(f.Flat, float64(r.Value.NoGo-r.Value.Go)/2)
		} else {
			f.Own = max(f.Own, float64(r.U)/2)
		}
	}
	return f
}

// spring finds the rate of the valve's spring, from its loads installed and open.
func (v *Valve) spring() {
	lift, _, _ := v.h.Size(trade.Lift, v.Role)
	seat, open := v.Figures[Load], read(v.h, trade.LoadOpen, v.ID)
	if seat.Read && open.Read && lift > 0 && open.At > seat.At {
		v.perNM, v.rateOK = (open.At-seat.At)/float64(lift), true
	}
}

// index is the place of a characteristic among the figures, -1 for none.
func (v *Valve) index(c *trade.Characteristic) int {
	switch c {
	case trade.Recession:
		return Recession
	case trade.StemHeight:
		return StemHeight
	case trade.SpringHeight:
		return SpringHeight
	case trade.ValveMargin:
		return Margin
	case trade.Lash:
		if v.kind.Solid() {
			return Lash
		}
	case trade.LashDry:
		if v.kind.Hydraulic() {
			return Lash
		}
	case trade.LoadSeat:
		return Load
	case trade.ValvePiston:
		return Piston
	}
	return -1
}

// Slopes are how each figure goes with the size of an operation.
func (v *Valve) Slopes(o *trade.Operation) (out [Count]float64) {
	for _, m := range o.Moves {
		if i := v.index(m.Of); i >= 0 && m.Gain == trade.BySize {
			out[i] += float64(m.Times)
		}
	}
	out[Load] -= out[SpringHeight] * v.perNM
	return out
}

// Do does a repair of a size: its figures move by what is declared of it, and take its scatter.
func (v *Valve) Do(r *trade.Repair, size float64) {
	o := r.Does
	if o.Size != nil {
		at := source(o.Size.Scatter)
		for i, slope := range v.Slopes(o) {
			if slope == 0 {
				continue
			}
			v.moved(i, slope*size)
			if at >= 0 {
				v.Figures[i].Shared[at] += slope * v.scatter[at]
			}
		}
	}
	for _, m := range o.Moves {
		if i := v.index(m.Of); i >= 0 && m.Gain != trade.BySize {
			v.gain(i, float64(m.Times), m.Gain)
		}
	}
	switch {
	case o.Uses == trade.ValvePart:
		v.Fresh = true
	case r.Works == trade.GuideMetal:
		v.guide = r
	}
	for _, a := range r.Answers {
		if i := v.index(a.Of); i >= 0 && !v.Figures[i].Changed {
			v.Figures[i].Made, v.Figures[i].Changed = true, true
		}
	}
	if v.Fresh || v.guide != nil {
		v.clear()
	}
}

// moved moves a figure, and with the spring's height its load, where the rate is known.
func (v *Valve) moved(i int, by float64) {
	f := &v.Figures[i]
	f.At, f.Changed = f.At+by, true
	if i == SpringHeight && !v.rateOK {
		v.Figures[Load].Known, v.Figures[Load].Changed = false, true
	}
}

// gain moves a figure by what a new valve measures more than the present one.
func (v *Valve) gain(i int, times float64, g trade.Gain) {
	f := &v.Figures[i]
	switch g {
	case trade.ByLength:
		v.moved(i, times*v.longer)
		return
	case trade.ByGroove:
		v.moved(i, times*v.groove)
		v.follow(i, times*v.groove)
		return
	}
	was, sd := &v.was, float64(v.margin.U)/2
	if i == Margin {
		*f = Figure{At: float64(v.margin.At), Read: f.Read, Known: v.known, Changed: true}
		f.Shared[newMargin] = sd
		return
	}
	by := times * (float64(v.margin.At) - was.At)
	v.moved(i, by)
	v.follow(i, by)
	f.Shared[newMargin] += times * sd
	f.Shared[presentMargin] -= times * was.Own
	if !v.known || !was.Read {
		f.Known = false
	}
}

// follow moves the spring's load with its height.
func (v *Valve) follow(i int, by float64) {
	if i == SpringHeight && v.rateOK {
		v.Figures[Load].At -= by * v.perNM
		v.Figures[Load].Changed = true
	}
}

// madeSD is the standard deviation of a bore that is made to size, and oversizeSD that of an oversize
// stem as it is sold: trade practice.
const (
	madeSD     = 2_000
	oversizeSD = 1_000
)

// clear works out what guide and stem leave each other in the end. A guide that is made gets its bore
// for the stem that will run in it.
func (v *Valve) clear() {
	stem, sd, known := v.stems, v.stems.u/2, v.stems.most > 0
	if v.Fresh {
		at := float64(v.stem.At)
		stem, sd, known = ends{at, at, 0}, float64(v.stem.U)/2, v.stemOK
	}
	if v.guide != nil && v.guide.Does == trade.ReamGuide {
		size, _, _ := v.h.Size(trade.OversizeStem, v.Role)
		stem, sd, known = ends{float64(size), float64(size), 0}, oversizeSD, size > 0
	}
	f := &v.Figures[Clearance]
	f.Changed = true
	if v.guide == nil {
		f.Known = known && v.bores.most > 0
		f.At, f.Own, v.Apart = v.bores.most-stem.least, math.Hypot(v.bores.u/2, sd), v.bores.most-v.bores.least
		return
	}
	aim := Aim(v.h, v.Valve)
	if f.Known = known && aim != nil; !f.Known {
		f.Made = known // nothing says what it should be: it is made, and read
		return
	}
	most := length.FromFloat(stem.most)
	bore := most + *aim
	v.Bore, v.Stem = &bore, &most
	f.At, f.Own, v.Apart = float64(*aim), math.Hypot(madeSD, sd), 0
}

// Aim is the clearance a guide is made for by the shop's school, nil when there is no limit
// with two ends: the shop's target where it has one; the middle; or tight for the intake and
// loose for the exhaust, looser still when air-cooled.
func Aim(h *head.Head, v layout.Valve) *length.Length {
	if t := h.Sheet.LimitOf(head.Target, trade.GuideClearance.Code, string(v.Role)); t != nil && t.Low != nil &&
		t.High != nil {
		at := ((*t.Low + *t.High) / 2).Length()
		return &at
	}
	low, high := clearanceLimit(h, v)
	if low == nil || high == nil {
		return nil
	}
	third := (*high - *low) / 3
	at := (*low + *high) / 2
	if h.Setting("school.clearance") != "maker's middle" {
		at = *low + third/2
		if v.Role == layout.Exhaust {
			at = *high - third
		}
		if h.Model.Kind.AirCooled() {
			at += third / 2
		}
	}
	at = min(at, *high-third/2)
	return &at
}

// clearanceLimit is the limit of a valve's clearance: the sheet's, or the general table's.
func clearanceLimit(h *head.Head, v layout.Valve) (low, high *length.Length) {
	if l := h.Limit(trade.GuideClearance.Code, string(v.Role)); l != nil {
		return l.Lengths()
	}
	var stem quantity.Amount
	for _, r := range h.Reads(trade.Stem.Code, v.ID) {
		stem = max(stem, r.Value.At)
	}
	if g := trade.GeneralClearance(v.Role, stem); g != nil {
		return quantity.AsLength(g.Low), quantity.AsLength(g.High)
	}
	return nil, nil
}
