package practice

import (
	"math/rand/v2"
	"slices"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// guideTop, guideMiddle and guideBottom index the places a guide and its stem are read at, spring end first.
const (
	guideTop = iota
	guideMiddle
	guideBottom
	guidePlaces
)

// vacuumTurns is how often the valve is turned under vacuum.
const vacuumTurns = 4

// valve is the truth of one position.
type valve struct {
	role      layout.Role
	bore      [guidePlaces]length.Length // across the rocker's sweep
	oval      [guidePlaces]length.Length // along it, more than across
	stem      [guidePlaces]length.Length
	width     length.Length // of the seat's ring
	runout    length.Length // of the seat
	recession length.Length
	margin    length.Length
	bent      length.Length // runout of the valve
	height    length.Length // of the stem's tip
	spring    length.Length // installed height
	free      length.Length
	load      quantity.Amount // at the installed height, millionths of N
	lash      length.Length
	leak      [vacuumTurns]quantity.Amount // kPa lost by turn
	thuds     bool
	seen      map[string]string // grades by part; what is not here is as good as new
}

// drawing is a head while its truth is drawn.
type drawing struct {
	r         *rand.Rand
	level     int
	h         *head.Head
	sheet     head.Sheet // with all limits of the bench
	valves    map[string]*valve
	hollow    length.Length // of the face, at the middle of its length
	thickness length.Length
	marks     []head.Finding
	told      []*trade.Symptom
	off       int                        // the tool that is off, -1 for none
	box       map[string]quantity.Amount // stems of new valves that came with the head
}

// between draws a length from low to high, in steps of a tenth of a micrometre.
func (d *drawing) between(low, high length.Length) length.Length {
	const step = um / 10
	return low + length.Length(d.r.Int64N(int64((high-low)/step)+1))*step
}

// past is how far beyond its limit a fault lies: a share of reach, the less the harder the level. It is
// never within the last twelfth of it, where no tool tells.
func (d *drawing) past(reach length.Length) length.Length {
	switch d.level {
	case Easy:
		return d.between(reach*6/10, reach)
	case Usual:
		return d.between(reach*3/10, reach*7/10)
	}
	return d.between(reach/12, reach*4/10)
}

// some draws n of the positions of a role, or of both when it is "".
func (d *drawing) some(n int, role layout.Role) []*valve {
	var all []*valve
	for _, v := range d.h.Model.Layout.Valves {
		if role == "" || v.Role == role {
			all = append(all, d.valves[v.ID])
		}
	}
	d.r.Shuffle(len(all), func(i, k int) { all[i], all[k] = all[k], all[i] })
	return all[:min(n, len(all))]
}

// end is a service limit of the bench's sheet, whatever of it the lesson holds.
func (d *drawing) end(c *trade.Characteristic, role layout.Role, low bool) length.Length {
	l := d.sheet.LimitOf(head.Service, c.Code, string(role))
	if low {
		return l.Low.Length()
	}
	return l.High.Length()
}

// Stems and bores of a head as new.
var newStem = map[layout.Role]length.Length{layout.Intake: 7_960 * um, layout.Exhaust: 7_945 * um}

const newBore = 8_000 * um

// sound draws a head that has run and has nothing wrong with it.
func (d *drawing) sound() {
	const mm = length.Millimetre
	for _, v := range d.h.Model.Layout.Valves {
		x := &valve{role: v.Role, seen: map[string]string{}}
		worn := d.between(2*um, 10*um)
		for i := range x.bore {
			x.bore[i] = newBore + worn + d.between(0, 3*um)
			x.oval[i] = d.between(0, 3*um)
			x.stem[i] = newStem[v.Role] - d.between(2*um, 8*um)
		}
		x.width = d.between(1600*um, 1900*um)
		x.runout = d.between(8*um, 25*um)
		x.recession = d.between(700*um, 850*um)
		x.margin = d.between(1450*um, 1700*um)
		x.bent = d.between(5*um, 18*um)
		x.height = 43*mm + 300*um + x.recession
		x.spring = 36*mm + x.recession
		x.free = 46*mm + d.between(300*um, 800*um)
		x.load = trade.Newton.Of(int64(285 + d.r.IntN(25)))
		x.lash = d.between(200*um, 330*um)
		for i := range x.leak {
			x.leak[i] = quantity.Amount(d.between(0, 900*um)) // kPa and mm are millionths alike
		}
		d.valves[v.ID] = x
	}
	d.hollow = d.between(5*um, 30*um)
	d.thickness = 105*mm - d.between(0, 120*um)
}

// sink lets a valve sink into its seat: what stands above the head grows, the lash goes.
func (v *valve) sink(by length.Length) {
	v.recession += by
	v.height += by
	v.spring += by
	v.lash = max(0, v.lash-by/2) // it was set again in between
	v.load -= trade.Newton.Of(int64(by/um)) * 3 / 100
}

// truth is the head with everything read without doubt and seen as it is.
func (d *drawing) truth(l Lesson) *head.Head {
	h := *d.h
	h.Tools = nil
	for _, c := range h.Sheet.Characteristics() {
		if l.Reads != nil && !slices.Contains(l.Reads, c.Code) {
			continue
		}
		for _, s := range c.Spots(h.Model.Layout) {
			at, known := d.at(c.Code, s)
			if !known {
				continue
			}
			v := gauge.Exact(at)
			if c.Bracket {
				v = gauge.Between(at, at+1)
			}
			h.Readings = append(h.Readings, head.Reading{
				ID: uint(len(h.Readings) + 1), Of: c.Code, Spot: s, Value: v, Stage: head.AsReceived,
			})
		}
	}
	if l.Looks {
		h.Findings = d.looks()
	}
	for _, v := range h.Model.Layout.Valves {
		if at, ok := d.box[v.ID]; ok {
			h.Parts = append(h.Parts, newValve(v.ID, at))
		}
	}
	return h.Until(head.Stages...)
}

// newValve is a new valve for a position, with its stem.
func newValve(at string, stem quantity.Amount) head.Part {
	return head.Part{
		Part: trade.ValvePart.Code, Position: at, New: true, Is: map[string]quantity.Amount{trade.Stem.Code: stem},
	}
}

// looks are the grades of all parts that are drawn, and the marks on the face.
func (d *drawing) looks() []head.Finding {
	var out []head.Finding
	add := func(f head.Finding) {
		f.ID, f.Stage = uint(len(out)+1), head.AsReceived
		out = append(out, f)
	}
	for _, p := range trade.Parts {
		if !drawnParts[p.Code] {
			continue
		}
		for _, at := range p.Positions(d.h.Model.Layout) {
			grade := p.Grades[0].Code
			if g, ok := d.valves[at].seen[p.Code]; ok {
				grade = g
			}
			add(head.Finding{Part: p.Code, Grade: grade, Position: at})
		}
	}
	for _, m := range d.marks {
		add(m)
	}
	return out
}

// drawnParts are the parts of a valve position that can be looked at.
var drawnParts = map[string]bool{
	trade.FaceSeen.Code: true, trade.StemSeen.Code: true, trade.TipSeen.Code: true, trade.SeatSeen.Code: true,
	trade.GuideSeen.Code: true, trade.RockerSeen.Code: true, trade.PortSeen.Code: true,
}

// baseline is the vacuum a blanked cup holds.
var baseline = trade.KPa.Of(84)

// at is the truth of a characteristic at a place; known is false for what the head does not have.
func (d *drawing) at(code string, s trade.Spot) (at quantity.Amount, known bool) {
	switch code {
	case trade.VacuumBlanked.Code:
		return baseline, true
	case trade.Thickness.Code:
		return quantity.OfLength(d.thickness), true
	case trade.FaceLine.Code:
		return quantity.OfLength(d.gap(s.Position)), true
	}
	v, ok := d.valves[s.Position]
	if !ok {
		return 0, false
	}
	switch code {
	case trade.VacuumTurned.Code:
		return baseline - v.leak[index(trade.VacuumTurned.Places, s.Place)], true
	case trade.LoadSeat.Code:
		return v.load, true
	case trade.Drop.Code:
		if v.thuds {
			return 0, true
		}
		return trade.PassFail.Of(1), true
	}
	at2, ok := v.size(code, s)
	return quantity.OfLength(at2), ok
}

// size is a length of a valve position.
func (v *valve) size(code string, s trade.Spot) (length.Length, bool) {
	switch code {
	case trade.GuideBore.Code:
		i := index(trade.GuideBore.Places, s.Place)
		if s.Dir == trade.GuideBore.Dirs[0] {
			return v.bore[i] + v.oval[i], true
		}
		return v.bore[i], true
	case trade.Stem.Code:
		return v.stem[index(trade.Stem.Places, s.Place)], true
	case trade.SeatWidth.Code:
		return v.width, true
	case trade.SeatRunout.Code:
		return v.runout, true
	case trade.Recession.Code:
		return v.recession, true
	case trade.ValveMargin.Code:
		return v.margin, true
	case trade.ValveRunout.Code:
		return v.bent, true
	case trade.StemHeight.Code:
		return v.height, true
	case trade.SpringHeight.Code:
		return v.spring, true
	case trade.SpringFree.Code:
		return v.free, true
	case trade.Lash.Code:
		return v.lash, true
	}
	return 0, false
}

// gap is the gap under a straightedge: the face is hollow along the head, and a little across.
func (d *drawing) gap(line string) length.Length {
	l, _ := d.h.Model.Layout.Line(line)
	if l.Kind == "cross" {
		return d.hollow / 4
	}
	return d.hollow
}
