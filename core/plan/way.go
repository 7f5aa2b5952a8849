package plan

import (
	"math"
	"slices"

	"yatai/core/length"
	"yatai/core/trade"
)

// What a plan may do with a seat, a valve and a guide.
const (
	doKeep   = "keep"
	doLap    = "lap"
	doCut    = "cut"
	doInsert = "insert"
	doGrind  = "grind"
	doNew    = "new"
	doHone   = "hone"
	doReam   = "ream"
	doLiner  = "liner"
)

// mask is a set of operations: bit i is the i-th of ops.
type mask uint16

// ops are the operations whose setting-up is shared by the valves that need them.
var ops = []*trade.Operation{
	trade.CutSeat, trade.FitInsert, trade.Lap, trade.GrindFace, trade.FitValve, trade.HoneGuide, trade.ReamGuide, trade.LineGuide,
	trade.FitGuide, trade.GrindTip, trade.ShimSpring, trade.SetLash, trade.NewPushrod,
}

func bit(o *trade.Operation) mask { return 1 << slices.Index(ops, o) }

// way is one way to treat a valve, its depth and its tip still open.
type way struct {
	seat, valve, guide string
	shim               length.Length // under the spring
	tip                bool
	ops                mask
	cents              int64 // at this valve, setting-up apart
	sMin, sMax         length.Length
	base               [figures]float64 // each figure before facing, seat at 0, tip untouched
	sd                 [figures]float64 // standard deviation of what each comes to, the face's apart
	have               [figures]bool
	changed            [figures]bool // by the way itself; the face's cut changes recession too
	bore, stem         *length.Length
	keep               bool // nothing is done here but perhaps a shim of the lash
}

// code is the repair a choice is, "" for none.
func code(kind, choice string) string {
	switch kind + " " + choice {
	case "seat lap":
		return "lap"
	case "seat cut":
		return "seat_cut"
	case "seat insert":
		return "seat_insert"
	case "valve grind":
		return "valve_grind"
	case "valve new":
		return "valve_new"
	}
	if kind == "guide" && choice != doKeep {
		return "guide_" + choice
	}
	return ""
}

// answered tells whether what a way does answers every finding at the valve that its figures
// do not.
func (v *valve) answered(w way) bool {
	does := []string{code("seat", w.seat), code("valve", w.valve), code("guide", w.guide)}
	if w.tip {
		does = append(does, "tip_grind")
	}
	if w.seat == doInsert {
		does = append(does, "seat_cut")
	}
	for _, n := range v.needs {
		if n.moved && v.unknown(w, n.feature.Code) {
			return false
		}
		if n.moved || len(n.answers) == 0 {
			continue
		}
		if !slices.ContainsFunc(n.answers, func(a string) bool { return slices.Contains(does, a) }) {
			return false
		}
	}
	return true
}

// unknown tells whether a new valve, fitted for no other reason, leaves nothing to say of a
// height that is out: then it is no answer to it.
func (v *valve) unknown(w way, of string) bool {
	i := slices.IndexFunc(figureOf[:], func(c *trade.Characteristic) bool { return c.Code == of })
	if w.valve != doNew || i < 0 || i == clearance || i == margin || w.have[i] {
		return false
	}
	return v.held["valve"] == "" && !v.wear["valve"] && !slices.ContainsFunc(v.needs, func(n need) bool {
		return !n.moved && len(n.answers) == 1 && n.answers[0] == "valve_new"
	})
}

// ways lists what can be done with a valve, before any limit is looked at.
func (p *problem) ways(v *valve) []way {
	pick := func(what string, can map[string]bool, order ...string) []string {
		if held := v.held[what]; held != "" {
			return []string{held}
		}
		return slices.DeleteFunc(order, func(c string) bool { return !can[c] })
	}
	seats := pick("seat", map[string]bool{
		doKeep: !v.wear["seat"], doLap: v.lap && !v.wear["seat"], doCut: v.seatCut && v.seatMin <= v.seatMost && !v.wear["seat"],
		doInsert: v.insert,
	}, doKeep, doLap, doCut, doInsert)
	if v.held["seat"] == doKeep && v.lap {
		seats = append(seats, doLap)
	}
	valves := pick("valve", map[string]bool{doKeep: !v.wear["valve"], doGrind: v.grind && !v.wear["valve"], doNew: v.renew}, doKeep, doGrind, doNew)
	guides := pick(
		"guide", map[string]bool{doKeep: !v.wear["guide"], doHone: v.hone, doReam: v.ream, doLiner: v.liner, doNew: v.new}, doKeep, doHone,
		doReam, doLiner, doNew,
	)
	var out []way
	for _, s := range seats {
		for _, g := range valves {
			for _, u := range guides {
				for _, tip := range []bool{false, true} {
					for i := -1; i < len(p.shims); i++ {
						w := way{seat: s, valve: g, guide: u, tip: tip}
						if i >= 0 {
							w.shim = p.shims[i]
						}
						if (!tip || v.tipMost >= grid) && p.complete(v, &w) && v.answered(w) {
							out = append(out, w)
						}
					}
				}
			}
		}
	}
	return out
}

// complete works out a way's operations, cost and figures; false when it cannot be.
func (p *problem) complete(v *valve, w *way) bool {
	// A new or lined guide moves the bore's middle: the seat is cut on it afterwards. An
	// oversize stem takes a new valve.
	if (w.guide == doLiner || w.guide == doNew || w.guide == doReam) && w.seat != doCut && w.seat != doInsert {
		return false
	}
	if w.guide == doReam && w.valve != doNew {
		return false
	}
	w.keep = w.seat == doKeep && w.valve == doKeep && w.guide == doKeep && !w.tip
	do := func(o *trade.Operation) {
		w.ops |= bit(o)
		w.cents += p.costs.each(o, v.Role)
		if o == trade.ShimSpring {
			w.cents += p.costs.sized(trade.ShimPart, w.shim)
		}
	}
	switch w.seat {
	case doLap:
		do(trade.Lap)
	case doCut:
		do(trade.CutSeat)
		w.sMin, w.sMax = ceil(v.seatMin, grid), floor(v.seatMost, grid)
	case doInsert:
		do(trade.FitInsert)
		do(trade.CutSeat)
		w.sMin, w.sMax = ceil(-v.insertUp, grid), floor(v.insertDown, grid)
	}
	if (w.seat == doCut || w.seat == doInsert) && p.h.School().Lap {
		do(trade.Lap)
	}
	switch w.valve {
	case doGrind:
		do(trade.GrindFace)
	case doNew:
		do(trade.FitValve)
	}
	switch w.guide {
	case doHone:
		do(trade.HoneGuide)
	case doReam:
		do(trade.ReamGuide)
	case doLiner:
		do(trade.LineGuide)
	case doNew:
		do(trade.FitGuide)
	}
	if w.tip {
		do(trade.GrindTip)
	}
	if w.shim > 0 {
		do(trade.ShimSpring)
	}
	p.heights(v, w)
	p.clear(v, w)
	return w.sMin <= w.sMax
}

// heights works out a way's heights by the stack-up, at seat cut 0 and the tip untouched.
func (p *problem) heights(v *valve, w *way) {
	for i := range w.base {
		w.have[i], w.base[i], w.sd[i] = v.now[i].read, float64(v.now[i].at), v.now[i].sd
	}
	var sink, sd2 float64 // of the whole valve
	switch w.valve {
	case doGrind:
		f := float64(v.grindCut)
		sink += f
		sd2 += p.scatter.grind * p.scatter.grind
		w.base[margin] -= f
		w.sd[margin] = math.Hypot(w.sd[margin], p.scatter.grind)
		w.changed[margin] = true
	case doNew:
		m := float64(v.fresh.At.Length() - v.now[margin].at)
		known := v.freshKnown && v.now[margin].read
		sink -= m
		if !known { // nothing is known of how the new one sits
			for _, i := range []int{recession, stemHeight, springHeight, lash} {
				w.have[i] = false
			}
		}
		w.have[margin], w.base[margin], w.sd[margin] = v.freshKnown, float64(v.fresh.At), float64(v.fresh.U)/2
		w.changed[margin] = true
		sd2 += math.Pow(float64(v.fresh.U)/2, 2) + v.now[margin].sd*v.now[margin].sd
	}
	if w.seat == doCut || w.seat == doInsert {
		sd2 += p.scatter.seat * p.scatter.seat
	}
	moved := w.valve != doKeep || w.seat == doCut || w.seat == doInsert
	longer, groove := 0.0, 0.0
	if w.valve == doNew {
		longer, groove = float64(v.longer), float64(v.groove)
	}
	tip2 := 0.0
	if w.tip {
		tip2 = p.scatter.tip * p.scatter.tip
	}
	for _, x := range []struct {
		i         int
		add, more float64
		changed   bool
	}{
		{recession, sink, 0, moved}, {stemHeight, sink + longer, tip2, moved || w.tip},
		{springHeight, sink + groove - float64(w.shim) + float64(v.pad), 0, moved || w.shim > 0 || v.pad != 0},
		{lash, -(sink + longer), tip2, moved || w.tip},
	} {
		w.base[x.i] += x.add
		w.changed[x.i] = x.changed
		if x.changed {
			w.sd[x.i] = math.Sqrt(w.sd[x.i]*w.sd[x.i] + sd2 + x.more)
		}
	}
	w.keep = w.keep && w.shim == 0
}

// madeSD is the standard deviation of a bore that is honed to size: trade practice.
const madeSD = 2_000

// clear works out what guide and stem leave each other in the end. A guide that is made gets
// its bore for the stem that will run in it.
func (p *problem) clear(v *valve, w *way) {
	stemMost, stemLeast, stemSD, known := v.stemMost, v.stemLeast, float64(v.stemU)/2, v.stemMost > 0
	switch {
	case w.guide == doReam:
		size, _, _ := p.h.Size(trade.OversizeStem, v.Role)
		stemMost, stemLeast, stemSD, known = size, size, 1000, true
	case w.valve == doNew:
		stemMost, stemLeast, stemSD, known = v.newStem.At.Length(), v.newStem.At.Length(), float64(v.newStem.U)/2, v.newStemKnown
	}
	if w.guide == doKeep {
		if w.valve == doNew {
			w.have[clearance] = known && v.boreMost > 0
			w.base[clearance], w.sd[clearance] = float64(v.boreMost-stemLeast), math.Hypot(float64(v.guideU)/2, stemSD)
			w.changed[clearance] = true
		}
		return
	}
	w.have[clearance], w.changed[clearance] = known, true
	if !known {
		return
	}
	l := v.windows[clearance].limit
	aim := Aim(p.h, v.Valve)
	if l == nil || aim == nil {
		w.have[clearance] = false
		return
	}
	bore := stemMost + *aim
	w.bore, w.stem = &bore, &stemMost
	w.base[clearance], w.sd[clearance] = float64(*aim), math.Hypot(madeSD, stemSD)
}
