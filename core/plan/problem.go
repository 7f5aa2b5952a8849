package plan

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"yatai/core/after"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/core/route"
	"yatai/core/surface"
	"yatai/core/trade"
	"yatai/core/words"
)

// grid is what every cut of a plan is a multiple of.
const grid = 10 * length.Micrometre

// window is where a figure has to end: nil ends are open.
type window struct {
	low, high *length.Length
	limit     *head.Limit
}

// valve is one valve of the head with everything planning needs.
type valve struct {
	layout.Valve
	index   int    // in the head's order
	row     string // whose final depths are kept together: its role, where heads are planned as one its head too
	now     after.Valve
	ok      [after.Count]bool // nothing says that the figure is out, or it is left so
	windows [after.Count]window
	targets [after.Count]window // the shop's
	needs   []need              // findings that ask for something to be done here
	held    map[string]string   // what is held of it, by metal: see head.Ask
	must    map[trade.Metal][]string
	options []option // the repairs that may be done here, by metal

	pad length.Length // cut that levels its pad
	// least height of the spring before its coils close at full lift; 0 when not known
	closed       length.Length
	present      length.Length // shim or pushrod fitted
	presentKnown bool
	hollowHere   length.Length // how far the face lies below its highest point here
}

// need is a finding that something must be done about, with the repairs that answer it here.
type need struct {
	feature judge.Feature
	answers []string // codes of allowed repairs
	figure  int      // the valve's figure it is: the windows say whether it is answered; -1 for none
	decided bool     // one answer was decided: it is done, whatever else would do
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
	graded  *head.Stock // the gasket that the pistons choose; nil: they do not
	ratio   float64
	moving  []mover
	scatter *[after.MostSources]float64
	costs   costs
	ops     []*trade.Operation        // those whose setting-up is shared by the valves that need them
	setLash mask                      // setting the lash, 0 where there is none
	spread  map[string]*length.Length // by row: largest difference in final recession
	beside  []*problem                // heads that are planned with this one as if they were one
	travel  length.Length             // what an adjuster can still give, either way
	rods    []rod
	ask     head.Ask
	free    bool            // nothing goes before price
	mains   []*trade.Repair // those that are weighed together at a valve
	pairs   []judge.Feature // of pairs of valves
	known   *question       // what can be done, once it was asked for
	scratch *[maxOpen][after.Count]move
	tried   *[maxOpen]fitted // what place tries, by open size

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
	p.scratch, p.tried = &[maxOpen][after.Count]move{}, &[maxOpen]fitted{}
	p.scatter, p.mains = after.Scatter(h), p.mainRepairs()
	for _, f := range j.All() {
		if strings.Contains(f.Position, "-") {
			p.pairs = append(p.pairs, f)
		}
	}
	if trade.SetLash.Exists(h.Model.Kind) {
		p.setLash = p.bit(trade.SetLash)
	}
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

// valve collects what is known of one valve.
func (p *problem) valve(lv layout.Valve) *valve {
	v := &valve{
		Valve: lv, held: p.ask.Hold[lv.ID], must: map[trade.Metal][]string{},
		now: after.At(p.h, p.j, lv, p.scatter),
	}
	figures := trade.MovedFigures(p.h.Model.Kind)
	for i, c := range figures {
		if !c.Here(p.h.Model.Layout, lv.ID) { // the lash of a valve under a bridge is the bridge's
			v.ok[i] = true
			continue
		}
		v.windows[i], v.targets[i], v.ok[i] = p.windowOf(c, lv.Role), p.target(c, lv.Role), true
		if f, ok := p.j.Feature(judge.Feature{Code: c.Code, Position: lv.ID}.Key()); ok && f.Limit != nil {
			v.ok[i] = f.Verdict < gauge.Out || p.left(f)
		}
		// said elsewhere, or the engine did not come along
		elsewhere := i == after.Clearance || i == after.Load || i == after.Piston
		if w := v.windows[i]; !elsewhere && w.limit != nil && !v.now.Figures[i].Read {
			note(&p.missing, lv.ID+" "+words.Lower(c.Label)+": not read")
		}
	}
	lift, _, okLift := p.h.Size(trade.Lift, lv.Role)
	if solid, _, ok := p.h.Size(trade.SpringSolid, lv.Role); ok && okLift {
		v.closed = lift + solid + 1
	}
	pos, _ := p.j.Position(lv.ID)
	for _, f := range slices.Concat(pos.Features, p.atPairs(lv.ID)) {
		if f.Verdict < gauge.Out || p.left(f) {
			continue
		}
		n := need{feature: f, figure: slices.IndexFunc(figures,
			func(c *trade.Characteristic) bool { return c.Code == f.Code })}
		if f.Code == trade.GuidePlay.Code {
			n.figure = after.Clearance
		}
		touched := false
		for _, r := range judge.Answers(p.h, f) {
			if !slices.Contains(p.mains, r) {
				continue
			}
			touched = true
			// at a pair no size is weighed by the plan: the repair's own rule is
			if pair := f.Position != lv.ID; !pair && p.j.Permits(f, r).OK || pair && p.j.Allows(f, r.Code).OK {
				n.answers = append(n.answers, r.Code)
			}
		}
		if d, ok := p.h.Decided(f.Key()); ok && !p.ask.Free && slices.Contains(n.answers, d.Choice) {
			if works := trade.RepairNamed(d.Choice).Works; v.held[string(works)] == "" { // what is held goes before it
				n.answers, n.decided = []string{d.Choice}, true
			}
		}
		if touched {
			v.needs = append(v.needs, n)
		}
	}
	p.renewals(v, pos)
	for _, r := range p.mains {
		p.option(v, r)
	}
	return v
}

// mainRepairs are the repairs at valves that a plan weighs together: those that move a valve's figures or
// answer one of them, and what works the same metal. How the lash is set is weighed apart.
func (p *problem) mainRepairs() []*trade.Repair {
	k := p.h.Model.Kind
	figures := trade.MovedFigures(k)
	var metals []trade.Metal
	for _, r := range p.h.Sheet.AllRepairs() {
		o := r.Does
		if o.Each == 0 || !o.Exists(k) || o == trade.SetLash || o == trade.NewPushrod ||
			o.Size != nil && o.Size.Most == nil && (o.Uses == nil || !o.Uses.Sized) {
			continue
		}
		moves := slices.ContainsFunc(o.Moves, func(m trade.Move) bool { return slices.Contains(figures, m.Of) })
		answers := slices.ContainsFunc(r.Answers,
			func(a trade.Answer) bool { return a.Of != nil && slices.Contains(figures, a.Of) && a.Of != trade.Lash })
		if (moves || answers) && !slices.Contains(metals, r.Works) {
			metals = append(metals, r.Works)
		}
	}
	return slices.DeleteFunc(p.h.Sheet.AllRepairs(), func(r *trade.Repair) bool {
		return r.Does.Each == 0 || !r.Does.Exists(k) || !slices.Contains(metals, r.Works)
	})
}

// option adds a repair to what may be done at a valve: where the trade allows it, held or not, and
// something asks for it, or it moves a figure.
func (p *problem) option(v *valve, r *trade.Repair) {
	held := v.held[string(r.Works)]
	asked := held == r.Choice && held != "" || slices.Contains(v.must[r.Works], r.Code) ||
		slices.ContainsFunc(v.needs, func(n need) bool {
			return slices.Contains(n.answers, r.Code)
		})
	moves := len(r.Does.Moves) > 0
	if !asked && !moves {
		return
	}
	if !p.j.Permits(judge.Feature{Position: v.ID}, r).OK {
		return
	}
	o := option{repair: r}
	if size := r.Does.Size; size != nil {
		o.least, o.most = p.bounds(v, size)
		switch uses := r.Does.Uses; {
		case uses != nil && uses.Sized:
			if o.choices = p.sizes(uses); len(o.choices) == 0 {
				return
			}
		case o.most <= 0 || o.least > o.most:
			return
		}
		if r.Works == trade.ValveMetal {
			p.figure(trade.ValveGrindCut, v.Role, asked)
		}
	}
	v.options = append(v.options, o)
}

// bounds are what a size may be at a valve.
func (p *problem) bounds(v *valve, size *trade.Size) (least, most float64) {
	at := p.j.CaseAt(v.ID)
	if size.Least != nil {
		least = float64(size.Least(at))
	}
	if size.Most != nil {
		most = float64(size.Most(at))
	}
	if least == 0 && most > 0 {
		least = float64(grid)
	}
	return least, most
}

// sizes are those of a kind of part that can be had, the smallest first.
func (p *problem) sizes(kind *trade.PartKind) []length.Length {
	var out []length.Length
	for _, s := range p.h.Stock {
		if s.Kind == kind.Code && s.Size > 0 && !slices.Contains(out, s.Size) {
			out = append(out, s.Size)
		}
	}
	slices.Sort(out)
	return out
}

// renewals marks what is renewed although it is inside: what the sheet says, and for an alternative
// what has used up half of its room.
func (p *problem) renewals(v *valve, pos judge.Position) {
	for _, o := range route.Renewals(p.h) {
		if r := trade.RepairNamed(o.Code); r != nil && o.Position == v.ID && r.Works == trade.ValveMetal {
			v.must[r.Works] = []string{r.Code}
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
	fresh, known := p.h.NewMargin(v.ID)
	if m := &v.now.Figures[after.Margin]; m.Read && known && v.windows[after.Margin].low != nil &&
		m.At < float64(fresh.At.Length()+*v.windows[after.Margin].low)/2 {
		v.must[trade.ValveMetal] = []string{trade.FitValve.Code}
	}
	if half(trade.Recession) {
		v.must[trade.SeatMetal] = []string{trade.FitInsert.Code}
	}
	if half(trade.GuideClearance) {
		v.must[trade.GuideMetal] = []string{trade.FitGuide.Code}
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
			if at, read := p.h.Mean(trade.SpringPad.Code, v.ID); read && (whole || v.Role == role) {
				deepest = max(deepest, at.Length())
			}
		}
		for _, v := range p.valves {
			if at, read := p.h.Mean(trade.SpringPad.Code, v.ID); read && (whole || v.Role == role) {
				v.pad = deepest - at.Length()
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
		}
	}
}

// faceCuts lists the cuts the face may be given: none when nothing asks for one, then every
// multiple of the grid that cleans it up, leaves enough and is not more than may come off.
func (p *problem) faceCuts() {
	if p.ask.FaceCut != nil {
		if c := *p.ask.FaceCut; c < p.face.Cut {
			p.blocked = append(p.blocked, Blocked{
				Limit: p.face.For,
				Why: "a cut of " + p.text(c) + " does not clean the face up: it needs " + p.text(p.face.Cut) + " (" +
					p.face.Says + ")",
			})
		} else if why := p.thin(c); why != "" && c > 0 {
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
// valves lie too deep, which facing brings right, and only a face that was read.
func (p *problem) worthFacing() bool {
	if !p.h.Read(trade.FaceLine.Code) && !p.h.Read(trade.FaceGrid.Code) {
		return false
	}
	return slices.ContainsFunc(p.valves, func(v *valve) bool {
		w, f := v.windows[after.Recession], &v.now.Figures[after.Recession]
		return f.Read && w.high != nil && f.At > float64(*w.high)
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
			return "tilted to the best plane its thickness differs by " + p.text(thickest-thinnest) + ", and " +
				p.text(l.High.Length()) + " is the most"
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
	if p.graded = p.gradedGasket(); p.graded != nil {
		g := gasket{name: cmp.Or(p.graded.Name, p.text(p.graded.Size))}
		if ok {
			g.change = p.graded.Size - fitted
		}
		return []gasket{g}
	}
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

// gradedGasket is the gasket that the pistons choose: the thinnest of the stock list under which
// the highest of them may stand out so far; nil where none was read, or no gasket is chosen so.
// Where all are for less, that is noted.
func (p *problem) gradedGasket() *head.Stock {
	all := p.protrusions()
	if all == nil {
		return nil
	}
	highest := slices.Max(all)
	var thinnest *head.Stock
	most := length.Length(0)
	for i, s := range p.h.Stock {
		if s.Kind != trade.GasketPart.Code || s.UpTo == 0 {
			continue
		}
		if most = max(most, s.UpTo); s.UpTo >= highest.Length() && (thinnest == nil || s.Size < thinnest.Size) {
			thinnest = &p.h.Stock[i]
		}
	}
	if thinnest == nil && most > 0 {
		note(&p.missing, "a gasket for pistons that stand out by "+p.text(highest.Length())+
			": the stock list has none for more than "+p.text(most))
	}
	return thinnest
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
	return tilted(in.Points, p.tilt)
}

// tilted are points over a plane.
func tilted(points []surface.Point, to *judge.Tilt) []surface.Point {
	out := slices.Clone(points)
	for i, q := range out {
		out[i].Z -= length.FromFloat((float64(to.Along)*float64(q.X) + float64(to.Across)*float64(q.Y)) / 1e6)
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

// costs are what work costs in a plan: cents of labour a minute as a ratio, parts by their
// price, weighed by the alternative.
type costs struct {
	h     *head.Head
	parts int64 // how many times their price parts weigh

	eachLash int64          // setting one more lash
	known    map[work]int64 // what one costs, by operation and role
	once     map[*trade.Operation]int64
}

// work is an operation at a valve of a role.
type work struct {
	does *trade.Operation
	role layout.Role
}

func costsOf(h *head.Head, alternative string) costs {
	c := costs{
		h: h, parts: 1, eachLash: price.Each(h, trade.SetLash), known: map[work]int64{},
		once: map[*trade.Operation]int64{},
	}
	if alternative == Keep {
		c.parts = 4
	}
	return c
}

// each is what an operation costs at one more position; nothing where it is done to all anyway.
func (c costs) each(o *trade.Operation, role layout.Role) int64 {
	if c.set(o) {
		return 0
	}
	return c.one(o, role)
}

// one is what an operation costs at a position: its minutes and its part. It is asked for every way of
// every valve, and worked out once.
func (c costs) one(o *trade.Operation, role layout.Role) int64 {
	k := work{o, role}
	cents, known := c.known[k]
	if known {
		return cents
	}
	cents = price.Each(c.h, o)
	if o.Uses != nil && !o.Uses.Sized {
		w, _ := price.Weigh(c.h, o.Uses, role)
		cents += w * c.parts
	}
	c.known[k] = cents
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

// setup is what an operation costs once; of springs renewed as a set, with the set.
func (c costs) setup(o *trade.Operation) int64 {
	cents, known := c.once[o]
	if known {
		return cents
	}
	cents = price.Once(c.h, o)
	if c.set(o) {
		for _, v := range c.h.Model.Layout.Valves {
			cents += c.one(o, v.Role)
		}
	}
	c.once[o] = cents
	return cents
}

// set tells whether an operation is done to all valves when it is done to one.
func (c costs) set(o *trade.Operation) bool {
	return o == trade.NewSprings && c.h.Setting("school.springs") == "as a set"
}

// whole is what an operation of the whole head costs, with what it needs.
func (c costs) whole(o *trade.Operation) int64 {
	cents := price.Once(c.h, o)
	for _, n := range o.Needs {
		if n.Exists(c.h.Model.Kind) {
			cents += price.Once(c.h, n)
		}
	}
	return cents
}
