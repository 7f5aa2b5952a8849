package plan

import (
	"math"
	"slices"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/core/surface"
	"yatai/core/trade"
)

// grid is what every cut of a plan is a multiple of.
const grid = 10 * length.Micrometre

// window is where a figure has to end: nil ends are open.
type window struct {
	low, high *length.Length
	limit     *head.Limit
}

// known is a figure as it was read: its value, its standard deviation, and whether it is
// there at all. Ok tells whether it may stay as it is: nothing says that it is out.
type known struct {
	at   length.Length
	sd   float64
	read bool
	ok   bool
}

// A valve's figures, in the order they are shown.
const (
	recession = iota
	stemHeight
	springHeight
	margin
	clearance
	lash
	figures
)

// figureOf are the characteristics behind the figures; lash is the dry lash under hydraulic
// lifters.
var figureOf = [figures]*trade.Characteristic{trade.Recession, trade.StemHeight, trade.SpringHeight, trade.ValveMargin, trade.GuideClearance, trade.Lash}

// valve is one valve of the head with everything planning needs.
type valve struct {
	layout.Valve
	index   int    // in the head's order
	row     string // whose final depths are kept together: its role, where heads are planned as one its head too
	now     [figures]known
	windows [figures]window
	targets [figures]window // the shop's
	needs   []need          // findings that ask for something to be done here
	held    map[string]string

	seatCut, insert        bool // may be done, by what it is
	seatMin, seatMost      length.Length
	insertUp, insertDown   length.Length
	lap, grind, renew      bool
	grindCut               length.Length
	fresh                  head.Fresh // margin of a new valve
	freshKnown             bool
	longer, groove         length.Length
	tipMost                length.Length
	hone, ream, liner, new bool // guide
	newStem                head.Fresh
	newStemKnown           bool
	stemMost, stemLeast    length.Length // of the stem that is there
	boreMost, boreLeast    length.Length
	guideU, stemU          length.Length
	pad                    length.Length // cut that levels its pad
	lift, solid            length.Length
	loads                  *spring
	present                length.Length // shim or pushrod fitted
	presentKnown           bool
	hollowHere             length.Length // how far the face lies below its highest point here
	wear                   map[string]bool
}

// need is a finding that something must be done about, with the repairs that answer it here.
type need struct {
	feature judge.Feature
	answers []string // codes of allowed repairs
	moved   bool     // its figure moves with the plan: the windows say whether it is answered
}

// spring is a spring's line: load falls by rate with height.
type spring struct {
	seat, rate float64     // N, N/mm
	limit      gauge.Limit // of the load installed, in newtons
}

// problem is a head being planned.
type problem struct {
	h       *head.Head
	j       judge.Judgement
	valves  []*valve
	face    judge.FaceNeed
	tilt    *judge.Tilt // the head is tilted so while it is faced; nil when held level
	cuts    []length.Length
	gaskets []gasket
	ratio   float64
	moving  []mover
	scatter struct{ seat, grind, face, tip float64 }
	costs   costs
	spread  map[string]*length.Length // by row: largest difference in final recession
	beside  []*problem                // heads that are planned with this one as if they were one
	travel  length.Length             // what an adjuster can still give, either way
	rods    []rod
	shims   []length.Length // spring shims to be had
	ask     head.Ask

	missing, assumed []string
	blocked          []Blocked
}

// gasket is a thickness that can be fitted.
type gasket struct {
	change length.Length
	name   string
	cents  int64
}

// rod is a pushrod that can be had.
type rod struct {
	size  length.Length
	cents int64
	stock bool
}

// text writes a length in the unit of the head's sheet.
func (p *problem) text(l length.Length) string { return p.h.Unit.Text(l) }

// note adds a line once.
func note(to *[]string, line string) {
	if !slices.Contains(*to, line) {
		*to = append(*to, line)
	}
}

// pose collects what planning a head needs from its judgement, the head held level while it is
// faced.
func pose(h *head.Head, j judge.Judgement, ask head.Ask) *problem { return posed(h, j, ask, false) }

// posed is pose with the head tilted to the best plane of its face where that is worth anything.
func posed(h *head.Head, j judge.Judgement, ask head.Ask, tilted bool) *problem {
	p := &problem{h: h, j: j, ask: ask, face: j.FaceNeed(), spread: map[string]*length.Length{}}
	if tilted && p.face.Tilted != nil {
		p.tilt = p.face.Tilted
		p.face.Cut, p.face.Says = p.tilt.Cut, p.tilt.Says
	}
	sd := func(name string) float64 {
		l, _ := length.Parse(h.Setting(name), length.None)
		return float64(l)
	}
	p.scatter.seat, p.scatter.grind, p.scatter.face, p.scatter.tip = sd("scatter.seat"), sd("scatter.grind"), sd("scatter.face"), sd("scatter.tip")
	ratio := p.figure(trade.RockerRatio, "", h.Model.Kind.Pushrods())
	p.ratio = ratio.Float()
	p.costs = costsOf(h, ask.Alternative)
	p.drive()
	for _, v := range h.Model.Layout.Valves {
		x := p.valve(v)
		x.index, x.row = len(p.valves), string(v.Role)
		p.fittedNow(x)
		p.valves = append(p.valves, x)
	}
	p.pads()
	p.hollows()
	p.spreads()
	p.movers()
	p.faceCuts()
	p.gaskets = p.gasketChoices()
	return p
}

// size is figure of one that is a length.
func (p *problem) size(f *trade.Figure, role layout.Role, matters bool) length.Length {
	return p.figure(f, role, matters).Length()
}

// figure is a figure of the sheet; one that is supposed is noted when it matters.
func (p *problem) figure(f *trade.Figure, role layout.Role, matters bool) quantity.Amount {
	v, given, ok := p.h.Figure(f, role)
	if !ok || given || !matters {
		return v
	}
	note(&p.assumed, f.Label+": "+f.UnitText(v, p.h.Unit)+" supposed, "+f.Why)
	return v
}

// read is a figure of a position as it stands.
func (p *problem) read(c *trade.Characteristic, id string) known {
	k := known{ok: true}
	rs := p.h.Reads(c.Code, id)
	if len(rs) == 0 {
		return k
	}
	var all []length.Length
	for _, r := range rs {
		if r.Value.Bracket {
			all = append(all, ((r.Value.Go + r.Value.NoGo) / 2).Length())
			k.sd = max(k.sd, float64(r.Value.NoGo-r.Value.Go)/math.Sqrt(12))
		} else {
			all = append(all, r.Value.At.Length())
			k.sd = max(k.sd, float64(r.U)/2)
		}
	}
	k.at, k.read = length.Mean(all), true
	if f, ok := p.j.Feature(judge.Feature{Code: c.Code, Position: id}.Key()); ok {
		k.ok = f.Verdict < gauge.Out || p.left(f)
	}
	return k
}

func (p *problem) left(f judge.Feature) bool {
	d, ok := p.h.Decided(f.Key())
	return ok && d.Choice == trade.Leave
}

func (p *problem) windowOf(c *trade.Characteristic, role layout.Role) window {
	return windowIn(p.h.Limit(c.Code, string(role)))
}

// windowIn is the window that a limit leaves; no limit, no bound.
func windowIn(l *head.Limit) window {
	if l == nil {
		return window{}
	}
	low, high := l.Lengths()
	return window{low, high, l}
}

// moves are the findings that the figures of a plan answer or do not.
var moves = []*trade.Characteristic{
	trade.Recession, trade.StemHeight, trade.SpringHeight, trade.ValveMargin, trade.GuideClearance, trade.Lash, trade.LashDry, trade.LoadSeat,
}

// beside are findings at a valve that the plan's choices do not touch.
var beside = []*trade.Part{trade.SpringSeen, trade.BucketSeen, trade.RockerSeen, trade.KeeperSeen, trade.RotatorSeen, trade.PortSeen}

// codes of repairs that a plan's choices for a valve can be.
var planned = []string{"lap", "seat_cut", "seat_insert", "valve_grind", "valve_new", "guide_hone", "guide_ream", "guide_liner", "guide_new", "tip_grind"}

// valve collects what is known of one valve.
func (p *problem) valve(lv layout.Valve) *valve {
	v := &valve{Valve: lv, held: p.ask.Hold[lv.ID], wear: map[string]bool{}}
	for i, c := range figureOf {
		if i == lash && p.h.Model.Kind.Hydraulic() {
			c = trade.LashDry
		}
		v.now[i], v.windows[i], v.targets[i] = p.read(c, lv.ID), p.windowOf(c, lv.Role), p.target(figureOf[i], lv.Role)
		if w := v.windows[i]; i != clearance && w.limit != nil && !v.now[i].read {
			note(&p.missing, lv.ID+" "+lower(c.Label)+": not read")
		}
	}
	pos, _ := p.j.Position(lv.ID)
	for _, f := range slices.Concat(pos.Features, p.atPairs(lv.ID)) {
		if f.Verdict < gauge.Out || p.left(f) {
			continue
		}
		n := need{feature: f, moved: slices.ContainsFunc(moves, func(c *trade.Characteristic) bool { return c.Code == f.Code })}
		touched := false
		for _, r := range trade.RepairsFor(f.Code, f.Side, p.h.Model.Kind) {
			if slices.Contains(planned, r.Code) {
				touched = true
				// at a pair no size is weighed by the plan: the repair's own rule is
				if pair := f.Position != lv.ID; !pair && p.j.Permits(f, r).OK || pair && p.j.Allows(f, r.Code).OK {
					n.answers = append(n.answers, r.Code)
				}
			}
		}
		if touched && !slices.ContainsFunc(beside, func(b *trade.Part) bool { return b.Code == f.Code }) && f.Code != trade.LoadSeat.Code {
			v.needs = append(v.needs, n)
		}
	}
	p.seat(v)
	p.valveFace(v)
	p.guide(v, pos)
	p.springs(v, pos)
	p.renewals(v, pos)
	return v
}

// asks tells whether a finding at the valve can be answered by a repair.
func (v *valve) asks(code string) bool {
	return slices.ContainsFunc(v.needs, func(n need) bool { return slices.Contains(n.answers, code) })
}

// permits tells whether a repair may be done here by what the parts are, finding or not.
func (p *problem) permits(id, code string) bool {
	return p.j.Permits(judge.Feature{Position: id}, trade.RepairNamed(code)).OK
}

// seat says what may be done to a seat.
func (p *problem) seat(v *valve) {
	v.lap = v.asks("lap")
	v.seatCut = p.permits(v.ID, "seat_cut")
	v.insert = p.permits(v.ID, "seat_insert")
	v.seatMin, v.seatMost = p.size(trade.SeatClean, v.Role, false), p.size(trade.SeatMost, v.Role, false)
	if room := p.read(trade.SeatRoom, v.ID); room.read && v.windows[recession].low != nil {
		if l := p.windowOf(trade.SeatRoom, v.Role); l.low != nil { // the top cut eats the room as the seat goes down
			angle := p.figure(trade.TopAngle, v.Role, false).Float()
			v.seatMost = min(v.seatMost, max(0, length.FromFloat(float64(room.at-*l.low)*math.Tan(angle*math.Pi/180))))
		}
	}
	v.insertUp, v.insertDown = p.size(trade.InsertUp, v.Role, false), p.size(trade.InsertDown, v.Role, false)
	if in, ok := p.ring(v); ok { // the ring's own main cut cleans it up when that is more
		v.seatMin = max(v.seatMin, in)
	}
}

// ring is the main cut that a seat needs for a full ring, where width and place were read and
// are out.
func (p *problem) ring(v *valve) (length.Length, bool) {
	if !slices.ContainsFunc(v.needs, func(n need) bool {
		return n.feature.Code == trade.SeatWidth.Code || n.feature.Code == trade.SeatPosition.Code
	}) {
		return 0, false
	}
	r := Ring(p.h, v.Valve, nil, nil)
	if r.Out == nil {
		return 0, false
	}
	return r.Out.Sink, true
}

// valveFace says what may be done to a valve's face and tip, and what a new valve is like.
func (p *problem) valveFace(v *valve) {
	v.grind = p.permits(v.ID, "valve_grind") && v.asks("valve_grind")
	v.grindCut = p.size(trade.ValveGrindCut, v.Role, v.grind)
	v.renew = true
	v.fresh, v.freshKnown = p.h.NewMargin(v.ID)
	longer, groove := p.h.NewLength(v.ID)
	v.longer, v.groove = longer.Length(), groove.Length()
	v.tipMost, _, _ = p.h.Size(trade.TipMost, v.Role)
	if !p.permits(v.ID, "tip_grind") {
		v.tipMost = 0
	}
}

// guide says what may be done to a guide and what its bore and stem are.
func (p *problem) guide(v *valve, pos judge.Position) {
	v.newStem, v.newStemKnown = p.h.NewStem(v.ID)
	bores, stems := p.h.Reads(trade.GuideBore.Code, v.ID), p.h.Reads(trade.Stem.Code, v.ID)
	ends := func(rs []head.Reading) (lo, hi, u length.Length) {
		for i, r := range rs {
			a, b := r.Value.At.Length(), r.Value.At.Length()
			if r.Value.Bracket {
				a, b = r.Value.Go.Length(), r.Value.NoGo.Length()
			}
			if i == 0 {
				lo, hi = a, b
			}
			lo, hi, u = min(lo, a), max(hi, b), max(u, r.U.Length())
		}
		return lo, hi, u
	}
	v.boreLeast, v.boreMost, v.guideU = ends(bores)
	v.stemLeast, v.stemMost, v.stemU = ends(stems)
	f, ok := pos.Feature(trade.GuideClearance.Code)
	if !ok || len(f.From) == 0 {
		return
	}
	v.now[clearance] = known{at: f.High.Length(), sd: float64(f.U) / 2, read: true, ok: f.Verdict < gauge.Out || p.left(f)}
	if f.Limit != nil {
		v.windows[clearance] = windowIn(f.Limit)
	}
	asked := v.asks("guide_new") || v.asks("guide_liner") || v.asks("guide_hone") || v.held["guide"] != ""
	v.hone = asked && p.permits(v.ID, "guide_hone") && f.Side == trade.Low && f.Verdict >= gauge.Out
	_, oversized := p.h.Sheet.Figure(trade.OversizeStem.Code, string(v.Role))
	v.ream = asked && oversized && p.permits(v.ID, "guide_ream")
	v.liner, v.new = asked && p.permits(v.ID, "guide_liner"), asked
}

// springs says what is known of a valve's spring.
func (p *problem) springs(v *valve, pos judge.Position) {
	v.lift, _, _ = p.h.Size(trade.Lift, v.Role)
	v.solid, _, _ = p.h.Size(trade.SpringSolid, v.Role)
	seat, read := p.load(trade.LoadSeat, v.ID)
	open, readOpen := p.load(trade.LoadOpen, v.ID)
	l := p.h.Limit(trade.LoadSeat.Code, string(v.Role))
	out := func() bool {
		f, ok := pos.Feature(trade.LoadSeat.Code)
		return ok && f.Verdict >= gauge.Out && !p.left(f)
	}
	if read && readOpen && v.lift > 0 && l != nil && open > seat && !out() {
		v.loads = &spring{seat, (open - seat) / v.lift.Millimetres(), l.Gauge()}
	}
}

// load is the mean of a spring's load as it stands, in newtons.
func (p *problem) load(c *trade.Characteristic, id string) (n float64, read bool) {
	var all []quantity.Amount
	for _, r := range p.h.Reads(c.Code, id) {
		all = append(all, r.Value.At)
	}
	if len(all) == 0 {
		return 0, false
	}
	return length.Mean(all).Float(), true
}

// renewals marks what an alternative renews although it is inside: what has used up half of
// its room.
func (p *problem) renewals(v *valve, pos judge.Position) {
	for _, o := range renewed(p.h) {
		if o.Code == trade.FitValve.Code && o.Position == v.ID {
			v.wear["valve"] = true
		}
	}
	if p.ask.Alternative != Renew {
		return
	}
	half := func(c *trade.Characteristic) bool {
		f, ok := pos.Feature(c.Code)
		if !ok || len(f.From) == 0 || f.Limit == nil || f.Limit.High == nil {
			return false
		}
		low := quantity.Amount(0)
		if f.Limit.Low != nil {
			low = *f.Limit.Low
		}
		return f.High > (low+*f.Limit.High)/2+(*f.Limit.High-low)/4
	}
	if m := v.now[margin]; m.read && v.freshKnown && v.windows[margin].low != nil && m.at < (v.fresh.At.Length()+*v.windows[margin].low)/2 {
		v.wear["valve"] = true
	}
	if v.insert && half(trade.Recession) {
		v.wear["seat"] = true
	}
	if half(trade.GuideClearance) {
		v.wear["guide"], v.new = true, true
	}
}

// pads levels the spring pads to the deepest of a row that differs by more than it may.
func (p *problem) pads() {
	for _, role := range []layout.Role{layout.Intake, layout.Exhaust} {
		f, ok := p.j.Feature(judge.Feature{Code: trade.PadSpread.Code, Role: string(role)}.Key())
		if !ok || f.Verdict < gauge.Out || p.left(f) {
			continue
		}
		whole := f.Limit != nil && f.Limit.Role == ""
		var deepest length.Length
		for _, v := range p.valves {
			if k := p.read(trade.SpringPad, v.ID); k.read && (whole || v.Role == role) {
				deepest = max(deepest, k.at)
			}
		}
		for _, v := range p.valves {
			if k := p.read(trade.SpringPad, v.ID); k.read && (whole || v.Role == role) {
				v.pad = deepest - k.at
			}
		}
	}
}

// within is how far depths of a row may lie apart in the school that seats all alike: trade
// practice.
const within = 50 * length.Micrometre

// allAlike tells whether the head's school seats all valves alike.
func (p *problem) allAlike() bool { return p.h.Setting("school.depths") == "all alike" }

// spreads says how far the final depths of a row may lie apart.
func (p *problem) spreads() {
	for _, role := range []layout.Role{layout.Intake, layout.Exhaust} {
		if l := p.h.Limit(trade.RecessionRow.Code, string(role)); l != nil && l.High != nil {
			_, p.spread[string(role)] = l.Lengths()
		}
		if row := string(role); p.allAlike() && (p.spread[row] == nil || *p.spread[row] > within) {
			some := within
			p.spread[row] = &some
		}
	}
}

// drive collects what the lash can be set with.
func (p *problem) drive() {
	k := p.h.Model.Kind
	if k.Adjusters() {
		p.travel = p.size(trade.Adjuster, "", len(p.h.Ever(trade.Lash.Code)) > 0)
	}
	for _, s := range p.h.Stock {
		var cents int64
		if s.Price != nil {
			cents = *s.Price
		}
		switch {
		case s.Kind == trade.PushrodPart.Code && s.Size > 0 && k.Pushrods():
			if s.Price == nil {
				cents = trade.PushrodPart.Usual
			}
			p.rods = append(p.rods, rod{s.Size, cents, s.Count > 0})
		case s.Kind == trade.ShimPart.Code && s.Size > 0 && !slices.Contains(p.shims, s.Size):
			p.shims = append(p.shims, s.Size)
		}
	}
	slices.Sort(p.shims)
}

// faceCuts lists the cuts the face may be given: none when nothing asks for one, then every
// multiple of the grid that cleans it up, leaves enough and is not more than may come off.
func (p *problem) faceCuts() {
	if p.ask.FaceCut != nil {
		if c := *p.ask.FaceCut; c < p.face.Cut {
			p.blocked = append(p.blocked, Blocked{
				Limit: p.face.For,
				Why:   "a cut of " + p.text(c) + " does not clean the face up: it needs " + p.text(p.face.Cut) + " (" + p.face.Says + ")",
			})
		} else if why := p.thin(c); why != "" {
			p.blocked = append(p.blocked, Blocked{Limit: trade.Thickness.Code, Why: why})
		} else {
			p.cuts = []length.Length{c}
		}
		return
	}
	if p.face.Odd != "" {
		note(&p.missing, p.face.Odd)
	}
	most, first := p.most(), p.face.Cut
	if p.face.For == "" {
		p.cuts = append(p.cuts, 0)
		if !p.worthFacing() {
			return
		}
		first, _, _ = p.h.Size(trade.FaceClean, "")
	}
	why := ""
	for c := ceil(first, grid); c <= most && len(p.cuts) < maxCuts; c += grid {
		if why = p.thin(c); why != "" {
			break
		}
		p.cuts = append(p.cuts, c)
	}
	if len(p.cuts) == 0 {
		if why == "" {
			why = "it needs " + p.text(first) + " and at most " + p.text(most) + " may come off"
		}
		p.blocked = append(p.blocked, Blocked{Limit: trade.Thickness.Code, Why: why})
	}
}

// Bounds on the cuts that are tried: reach is how far beyond what the face needs where the
// sheet does not say how much may come off.
const (
	reach   = 300 * length.Micrometre
	maxCuts = 120
)

// worthFacing tells whether a face that needs nothing may be cut all the same: only where
// valves lie too deep, which facing brings right.
func (p *problem) worthFacing() bool {
	return slices.ContainsFunc(p.valves, func(v *valve) bool {
		w := v.windows[recession]
		return v.now[recession].read && w.high != nil && v.now[recession].at > *w.high
	})
}

// thin says why a cut leaves too little of the head, "" when it does not.
func (p *problem) thin(c length.Length) string {
	f, ok := p.j.Feature(trade.Thickness.Code)
	if !ok || len(f.From) == 0 {
		return ""
	}
	if thinnest, thickest := p.corners(f); p.tilt != nil {
		f.Low = quantity.OfLength(thinnest)
		if l := p.h.Limit(trade.Taper.Code, ""); l != nil && l.High != nil && thickest-thinnest > l.High.Length() {
			return "tilted to the best plane its thickness differs by " + p.text(thickest-thinnest) + ", and " + p.text(l.High.Length()) + " is the most"
		}
	}
	if f.Limit == nil || f.Limit.Low == nil {
		return ""
	}
	if left, least := f.Low.Length()-c, f.Limit.Low.Length(); left < least {
		return "a cut of " + p.text(c) + " leaves " + p.text(left) + ", and " + p.text(least) + " is the least"
	}
	return ""
}

// corners are the thinnest and the thickest place of the head as the cutter meets it, where the
// thickness was read: at a place that lies below the plane of the cut less comes off, which counts as
// so much more there.
func (p *problem) corners(f judge.Feature) (thinnest, thickest length.Length) {
	thinnest, thickest = f.Low.Length(), f.High.Length()
	if p.tilt == nil {
		return thinnest, thickest
	}
	points, first := p.faceHeights(), true
	for _, at := range p.h.Model.Layout.Corners {
		for _, r := range p.h.Reads(trade.Thickness.Code, at.Name) {
			t := r.Value.At.Length() + hollow(points, at.X, at.Y)
			if first {
				thinnest, thickest, first = t, t, false
			}
			thinnest, thickest = min(thinnest, t), max(thickest, t)
		}
	}
	return thinnest, thickest
}

// gasketChoices are the gaskets that can be fitted: as thick as now, and under pushrods the
// grades of the stock, for they move the lash.
func (p *problem) gasketChoices() []gasket {
	out := []gasket{{name: ""}}
	fitted, _, ok := p.h.Size(trade.GasketFitted, "")
	if !ok || !p.h.Model.Kind.Pushrods() {
		return out
	}
	for _, s := range p.h.Stock {
		if s.Kind != trade.GasketPart.Code || s.Size == 0 || s.Size == fitted || len(out) > 8 {
			continue
		}
		cents := trade.GasketPart.Usual
		if s.Price != nil {
			cents = *s.Price
		}
		if p.h.Renews("gasket") {
			cents /= 100 // one is bought anyway: any grade will do, the present one rather
		}
		out = append(out, gasket{s.Size - fitted, s.Name, cents})
	}
	return out
}

// local is what a cut takes off at a valve's own place: the face's hollow there comes off the
// cut.
func (v *valve) local(c length.Length) length.Length { return max(0, c-v.hollowHere) }

// hollows reads from the face's grid how far it lies below its highest point at each valve,
// weighing the nearest points by the inverse fourth power of their distance.
func (p *problem) hollows() {
	points := p.faceHeights()
	if len(points) < 4 || p.face.For == "" {
		return
	}
	for _, v := range p.valves {
		v.hollowHere = hollow(points, v.X, v.Y)
	}
}

// faceHeights are the heights of the face's grid as the cutter meets them: over the plane the head is
// tilted to.
func (p *problem) faceHeights() []surface.Point {
	in, _, _ := judge.Grid(p.h)
	if p.tilt == nil {
		return in.Points
	}
	out := slices.Clone(in.Points)
	for i, q := range out {
		out[i].Z -= length.FromFloat((float64(p.tilt.Along)*float64(q.X) + float64(p.tilt.Across)*float64(q.Y)) / 1e6)
	}
	return out
}

// hollow is how far the face lies below its highest point at a place.
func hollow(points []surface.Point, x, y length.Length) length.Length {
	top := points[0].Z
	for _, q := range points {
		top = max(top, q.Z)
	}
	return top - heightAt(points, x, y)
}

// heightAt is the face's height at a place between the grid's points.
func heightAt(points []surface.Point, x, y length.Length) length.Length {
	var sum, weight float64
	for _, q := range points {
		d := math.Hypot((q.X - x).Millimetres(), (q.Y - y).Millimetres())
		if d < 0.5 {
			return q.Z
		}
		w := 1 / math.Pow(d, 4)
		sum, weight = sum+w*float64(q.Z), weight+w
	}
	return length.FromFloat(sum / weight)
}

// ceil and floor return the nearest multiple of g not below, not above l.
func ceil(l, g length.Length) length.Length { return -floor(-l, g) }

func floor(l, g length.Length) length.Length {
	q := l / g
	if l%g < 0 {
		q--
	}
	return q * g
}

func lower(s string) string {
	if s == "" {
		return s
	}
	return string(s[0]|0x20) + s[1:]
}

// costs are what work costs in a plan: cents of labour a minute as a ratio, parts by their
// price, weighed by the alternative.
type costs struct {
	h     *head.Head
	parts int64 // how many times their price parts weigh
}

func costsOf(h *head.Head, alternative string) costs {
	c := costs{h, 1}
	if alternative == Keep {
		c.parts = 4
	}
	return c
}

// each is what an operation costs at one more position: its minutes and its part.
func (c costs) each(o *trade.Operation, role layout.Role) int64 {
	cents := price.Each(c.h, o)
	if o.Uses != nil && !o.Uses.Sized {
		w, _ := price.Weigh(c.h, o.Uses, role)
		cents += w * c.parts
	}
	return cents
}

// sized is what a part of a size costs, as usual where its price is not known.
func (c costs) sized(kind *trade.PartKind, size length.Length) int64 {
	for _, s := range c.h.Stock {
		if s.Kind == kind.Code && s.Size == size && s.Price != nil {
			return *s.Price * c.parts
		}
	}
	return kind.Usual * c.parts
}

// setup is what an operation costs once, with what it needs of the whole head.
func (c costs) setup(o *trade.Operation) int64 {
	cents := price.Once(c.h, o)
	for _, n := range o.Needs {
		if n.Exists(c.h.Model.Kind) {
			cents += price.Once(c.h, n)
		}
	}
	return cents
}
