// Package plan finds what to do with a whole head: what to take off the face and which gasket
// to fit; for each valve what to do with its seat, face, guide, tip and spring, and how its
// lash is set. Solve is its door, and its answer is an exact optimum of the question posed.
//
// Cuts interact: facing lifts every valve, a reground valve sinks, a sunk valve's stem rises
// and its lash closes. The formulas are those of valvetrain.Stack. Every way to treat a valve
// is an intersection of intervals for the depth of its seat; given the head's few common
// choices the valves are independent of each other, but for the lash shims, which are shared
// out by an assignment.
//
// What the sheet has no limit for binds nothing. What was not read and what is supposed is
// named. Every figure it promises has a doubt: the reading's, and each cut's own scatter.
package plan

import (
	"context"
	"fmt"
	"math"
	"math/big"
	"slices"
	"strings"

	"yatai/core/engine"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/money"
	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/core/words"
)

// The ways to weigh what a plan does. Each is an exact optimum of its own question.
const (
	Keep     = "keep"
	Balanced = "balanced"
	Renew    = "renew"
	Robust   = "robust"
)

// Alternative is a way to weigh.
type Alternative struct{ Code, Label, Says string }

// Alternatives are the ways to plan a head.
var Alternatives = []Alternative{
	{Keep, "Keep what can be kept", "parts weigh four times their price: metal goes before parts"},
	{Balanced, "Balanced", "what costs least"},
	{Renew, "Renew what wears", "what has used up half of its room is renewed while it is open"},
	{Robust, "Robust", "as sure as the shop asks for that everything ends inside"},
}

// Blocked says what stands in the way of any plan: at a valve, or of the head when ID is "".
type Blocked struct{ ID, Limit, Why string }

// Valve is what is planned for one valve, and what it comes to.
type Valve struct {
	ID                 string
	Role               layout.Role
	Seat, Valve, Guide string
	Lap                bool
	SeatCut, Grind     length.Length
	TipGrind           length.Length
	SpringShim, PadCut length.Length
	Repairs            []string       // codes of what is done here, but for how the lash is set
	Bore, Stem         *length.Length // what a guide is made, and the stem it is made for
	Size               *length.Length // lash shim or pushrod
	From               string         // where that comes from
	Figures            []Figure
	Because            []string // findings answered here
	Says               string   // all of it in one sentence

	unknown []*trade.Characteristic  // figures that work leaves unknown
	sizes   map[string]length.Length // by code: what a repair makes there, takes off or puts in
}

// Figure returns the valve's figure of a code, nil when it has none.
func (v Valve) Figure(code string) *Figure {
	for i := range v.Figures {
		if v.Figures[i].Code == code {
			return &v.Figures[i]
		}
	}
	return nil
}

// SizeOf is what an operation makes at the valve, takes off there or puts in: a guide's bore, a cut, a shim;
// above nothing, but for an insert that stands up by so much. ok is false where it has none.
func (v Valve) SizeOf(o *trade.Operation) (size length.Length, ok bool) {
	size, ok = v.sizes[o.Code]
	return size, ok
}

// Changes tells whether anything is done at the valve.
func (v Valve) Changes() bool {
	return len(v.Repairs) > 0 || v.PadCut > 0 ||
		v.From == Moved || v.From == InStock || v.From == Order || v.From == Adjusted
}

// Plan is a worked-out plan with everything that hangs on it.
type Plan struct {
	Ask      head.Ask
	Feasible bool
	FaceCut  length.Length
	Tilt     *judge.Tilt // the head is tilted so while it is faced; nil when held level
	Gasket   string      // the grade that is fitted, "" for one as thick as now
	Valves   []Valve
	Own      []Figure // of the head: thickness, injectors and the like

	Decisions  []route.Decision
	Choices    map[string]string // by finding: the repair that answers it, or planned
	Operations []price.Priced
	Because    map[string]string // by operation: why
	Cents      int64
	Unknown    []string // parts whose price is not known
	Minutes    quantity.Minutes
	Days       int          // working days until it is done, started now
	PAll       float64      // how likely everything that was read ends inside
	Unread     []string     // keys of what has a limit and was not read: how likely all ends inside nobody knows
	Preferred  []Preference // what went before price
	Least      float64      // smallest distance to a limit, standard deviations
	Ratio      *engine.CompressionOutput
	Restore    string // the gasket that gives the ratio back

	Missing []string // figures and readings that were not there, in words
	Assumed []string // what was supposed instead, and why
	Blocked []Blocked
	Face    judge.FaceNeed
	Cuts    []length.Length // that can be tried
}

// Advised is what the plan makes of a finding, by its key: the repair that answers it, planned where
// work elsewhere does, or leave.
func (p Plan) Advised(key string) string {
	if choice := p.Choices[key]; choice != "" {
		return choice
	}
	return trade.Leave
}

// Preference is something that went before price: what, and how much more it costs than the cheapest.
type Preference struct {
	What  string
	Cents int64
}

// Solve plans a head. A caller that leaves, by ctx, stops it; that is its only error.
func Solve(ctx context.Context, h *head.Head, ask head.Ask) (Plan, error) {
	return Judged(ctx, h, judge.Head(h), ask)
}

// Judged plans a head that was judged.
func Judged(ctx context.Context, h *head.Head, j judge.Judgement, ask head.Ask) (Plan, error) {
	if ask.Alternative == "" {
		ask.Alternative = Balanced
	}
	p := pose(h, j, ask)
	out := Plan{Ask: ask, Face: p.face, Cuts: p.cuts}
	best, ok, err := p.find(ctx)
	if err != nil {
		return out, err
	}
	if ask.Tilt == head.Tilted || ask.Tilt == "" && ask.FaceCut == nil {
		if t := posed(h, j, ask, true); t.tilt != nil {
			tilted, fits, err := t.find(ctx)
			if err != nil {
				return out, err
			}
			if ask.Tilt == head.Tilted || fits && (!ok || tilted.score.cents < best.score.cents) {
				p, best, ok = t, tilted, fits
				out.Face, out.Cuts = p.face, p.cuts
			}
		}
	}
	if !ok && len(p.blocked) == 0 {
		p.blocked = p.why(ctx)
	}
	if ok {
		if out.Preferred, err = p.preferred(ctx, best); err != nil {
			return out, err
		}
	}
	p.conclude(&out, best, ok)
	if ok {
		why, err := p.straight(ctx, best)
		if why != "" {
			out.Because[trade.FaceHead.Code] = why
		}
		return out, err
	}
	return out, nil
}

// preferred names what went before price in a solution: the head is solved once more as if nothing did.
// Only shims do, before metal.
func (p *problem) preferred(ctx context.Context, best solution) ([]Preference, error) {
	k := p.h.Model.Kind
	if !k.Buckets() || !k.Solid() || best.score.cents >= needless {
		return nil, nil
	}
	free := *p
	free.missing, free.free = slices.Clone(p.missing), true
	cheap, ok, err := free.cheaper(ctx, 0, false, best.score.cents)
	if err != nil || !ok {
		return nil, err
	}
	return []Preference{{"shims before metal", best.score.cents - cheap.score.cents}}, nil
}

// straight says why a face that needs nothing is cut all the same: what it saves against the best that
// leaves it alone.
func (p *problem) straight(ctx context.Context, best solution) (string, error) {
	if best.cut == 0 || p.face.For != "" || p.ask.FaceCut != nil {
		return "", nil
	}
	alone := *p
	alone.missing, alone.cuts = slices.Clone(p.missing), []length.Length{0}
	s, ok, err := alone.solve(ctx, 0, false)
	if err != nil || !ok {
		return "the face is straight: nothing else brings its valves' depths right", err
	}
	return "the face is straight: cutting it brings its valves' depths right for " +
		money.Text(s.score.cents-best.score.cents) + " less than leaving it", nil
}

// conclude writes a solution into a plan, with all that is done, what it costs and how sure it is;
// without one, what stands in the way.
func (p *problem) conclude(out *Plan, best solution, ok bool) {
	if ok {
		out.Feasible = true
		p.describe(out, best)
		p.gaps(out)
		p.bridges(out)
	} else {
		p.unsolved(out)
	}
	p.decide(out)
	p.priced(out)
	if len(p.blocked) > 0 {
		out.Feasible = false
	}
	if out.Feasible {
		out.PAll, out.Unread = p.sure(out)
	}
	out.Missing, out.Assumed, out.Blocked = p.missing, p.assumed, p.blocked
}

// renewZ is how many standard deviations a plan that renews more keeps off every limit where it
// can.
const renewZ = 2

// find solves the problem for its alternative: with the shop's targets where they can be met,
// else without; a robust plan with every limit drawn in on both sides until it is sure enough.
func (p *problem) find(ctx context.Context) (best solution, ok bool, err error) {
	if len(p.cuts) == 0 {
		return best, false, nil
	}
	solve := func(z float64) (solution, bool, error) {
		s, ok, err := p.solve(ctx, z, false)
		if err != nil || !ok || !p.hasTargets() {
			return s, ok, err
		}
		met, fits, err := p.cheaper(ctx, z, true, s.score.cents+1)
		if err != nil {
			return s, false, err
		}
		if fits { // the shop's targets choose among equals, and go before no price
			return met, true, nil
		}
		note(&p.missing, "the shop's targets cannot all be met at this price: the limits are")
		return s, true, nil
	}
	if p.ask.Alternative == Renew { // what is paid for a longer life is not left a hair's breadth from a limit
		if best, ok, err = solve(renewZ); err != nil || ok {
			return best, ok, err
		}
	}
	best, ok, err = solve(0)
	if err != nil || !ok || p.ask.Alternative != Robust {
		return best, ok, err
	}
	share, _ := money.Parse(p.h.Setting("robust"))
	sureness := func(s solution) float64 {
		out, blocked, missing := Plan{Feasible: true}, slices.Clone(p.blocked), slices.Clone(p.missing)
		p.describe(&out, s)
		p.decide(&out)
		p.priced(&out)
		p.blocked, p.missing = blocked, missing
		inside, _ := p.sure(&out)
		return inside * 100_00
	}
	enough, surest := float64(share), sureness(best)
	if surest >= enough {
		return best, true, nil
	}
	for low, high := 1, 7; low <= high; { // limits drawn in by so many halves of a standard deviation
		n := (low + high) / 2
		next, fits, err := solve(float64(n) / 2)
		if err != nil {
			return best, false, err
		}
		is := 0.0
		if fits {
			is = sureness(next)
		}
		switch {
		case !fits:
			high = n - 1
		case is >= enough: // less may do
			best, surest, high = next, is, n-1
		default:
			if low = n + 1; is > surest {
				best, surest = next, is
			}
		}
	}
	if surest < enough {
		note(&p.missing, fmt.Sprintf("no plan is as sure as %s %% that everything ends inside: this is the surest",
			p.h.Setting("robust")))
	}
	return best, true, nil
}

func (p *problem) hasTargets() bool {
	return slices.ContainsFunc(p.h.Sheet.Limits, func(l head.Limit) bool { return l.Set == head.Target })
}

// describe writes a solution down.
func (p *problem) describe(out *Plan, s solution) {
	out.FaceCut, out.Gasket, out.Least = s.cut, s.gasket.name, s.score.z
	if out.Tilt = nil; s.cut > 0 {
		out.Tilt = p.tilt
	}
	out.Own = p.headFigures(s.common)
	out.Valves = nil
	for i, v := range p.valves {
		out.Valves = append(out.Valves, p.described(v, s.valves[i], s.common))
	}
	if s.gasket.name != "" && p.graded == nil {
		out.Restore = s.gasket.name
	}
	p.compression(out)
}

// described is a valve of a solution written down.
func (p *problem) described(v *valve, f fitted, c common) Valve {
	x := Valve{
		ID:         v.ID,
		Role:       v.Role,
		Seat:       f.way.choice(trade.SeatMetal),
		Valve:      f.way.choice(trade.ValveMetal),
		Guide:      f.way.choice(trade.GuideMetal),
		SpringShim: f.way.shim,
		PadCut:     v.pad,
		Grind:      f.way.grind,
		Bore:       f.way.Bore,
		Stem:       f.way.Stem,
		From:       f.setting.from,
		Figures:    p.figuresOf(v, f, c),
	}
	if x.Seat == doLap {
		x.Seat, x.Lap = doKeep, true
	}
	x.sized(f)
	for i, c := range trade.MovedFigures(p.h.Model.Kind) {
		if w := &f.way.Figures[i]; w.Changed && !w.Known && !w.Made {
			x.unknown = append(x.unknown, c)
		}
	}
	if v.presentKnown {
		size := f.setting.size
		x.Size = &size
		if x.From == Moved || x.From == InStock || x.From == Order {
			x.sizes[trade.SetLash.Code] = size
		}
	}
	if f.setting.travel > 0 && f.setting.from != Adjusted && p.h.Model.Kind.Pushrods() &&
		size(x.Size) == v.present {
		x.From = Adjusted
	}
	for _, n := range v.needs {
		x.Because = append(
			x.Because, words.Lower(n.feature.Label)+": "+strings.TrimSuffix(n.feature.Says(p.h.Unit), "."),
		)
	}
	x.Says = p.sentence(x)
	return x
}

// sized writes down what each repair of a valve makes, takes off or puts in.
func (x *Valve) sized(f fitted) {
	x.sizes = map[string]length.Length{}
	for _, r := range f.way.repairs {
		x.Repairs = append(x.Repairs, r.Code)
		if r.Works == trade.GuideMetal && x.Bore != nil {
			x.sizes[r.Code] = *x.Bore
		}
		if r.Own() && r.Does.Size != nil { // where it is chosen, that comes below
			x.sizes[r.Code] = r.Does.Size.Least(nil).Length()
		}
	}
	for code, size := range map[string]length.Length{
		trade.GrindFace.Code: x.Grind, trade.ShimSpring.Code: x.SpringShim, trade.LevelPads.Code: x.PadCut,
	} {
		if size > 0 {
			x.sizes[code] = size
		}
	}
	for k, o := range f.way.open {
		size := f.sizes[k]
		x.sizes[o.repair.Does.Code] = size
		switch o.repair.Does {
		case trade.CutSeat, trade.FitInsert:
			x.SeatCut = size
		case trade.GrindTip:
			x.TipGrind = size
		}
	}
}

func size(l *length.Length) length.Length {
	if l == nil {
		return 0
	}
	return *l
}

// sentence says in one sentence what is done at a valve and what is left to its nearest limit.
func (p *problem) sentence(v Valve) string {
	u := p.h.Unit
	var did []string
	say := func(ok bool, format string, args ...any) {
		if ok {
			did = append(did, fmt.Sprintf(format, args...))
		}
	}
	const doNew, doLiner, doHone, doReam, doInsert, doCut, doGrind = "new", "liner", "hone", "ream", "insert", "cut", "grind"
	say(v.Guide == doNew && v.Bore != nil, "new guide bored %s", text(u, v.Bore))
	say(v.Guide == doNew && v.Bore == nil, "new guide")
	say(v.Guide == doLiner, "guide liner bored %s", text(u, v.Bore))
	say(v.Guide == doHone, "guide honed to %s", text(u, v.Bore))
	say(v.Guide == doReam, "guide reamed to %s", text(u, v.Bore))
	say(v.Seat == doInsert && v.SeatCut < 0, "new insert %s up", u.Text(-v.SeatCut))
	say(v.Seat == doInsert && v.SeatCut >= 0, "new insert %s down", u.Text(v.SeatCut))
	say(v.Seat == doCut, "seat cut %s", u.Text(v.SeatCut))
	say(v.Lap, "lap")
	say(v.Valve == doGrind, "reface")
	say(v.Valve == doNew, "new valve")
	say(v.TipGrind > 0, "tip ground %s", u.Text(v.TipGrind))
	for _, code := range v.Repairs {
		if r := trade.RepairNamed(code); r.Own() {
			size, sized := v.SizeOf(r.Does)
			say(sized, "%s %s", r.Name, u.Text(size))
			say(!sized, "%s", r.Name)
		}
	}
	say(v.PadCut > 0, "pad cut %s", u.Text(v.PadCut))
	say(v.SpringShim > 0, "spring shim %s", u.Text(v.SpringShim))
	what := "lash shim"
	if p.h.Model.Kind.Pushrods() {
		what = "pushrod"
	}
	say(v.Size != nil && (v.From == Moved || v.From == InStock || v.From == Order), "%s %s (%s)", what,
		text(u, v.Size), v.From)
	say(v.From == Adjusted, "lash by the adjuster")
	if len(did) == 0 {
		return v.ID + ": kept as it is"
	}
	line := v.ID + ": " + strings.Join(did, ", ")
	var near *Figure
	best := 0.0
	for i := range v.Figures {
		f := &v.Figures[i]
		if d, any := f.distance(); any && f.Known && f.Changed && (near == nil || d/max(1, f.SD) < best) {
			near, best = f, d/max(1, f.SD)
		}
	}
	if near != nil {
		d, _ := near.distance()
		line += fmt.Sprintf("; %s %s to its limit, %d of 100", words.Lower(near.Label),
			u.In(length.FromFloat(d), u.Places())+" "+u.Name, int(near.P*100))
	}
	return line
}

func text(u length.Unit, l *length.Length) string {
	if l == nil {
		return "to size"
	}
	return u.Text(*l)
}

// unsolved writes down what is known of the valves when no plan was found: what their findings
// alone ask for.
func (p *problem) unsolved(out *Plan) {
	for _, v := range p.valves {
		x := Valve{ID: v.ID, Role: v.Role, Seat: doKeep, Valve: doKeep, Guide: doKeep, PadCut: v.pad}
		for _, n := range v.needs {
			x.Because = append(
				x.Because, words.Lower(n.feature.Label)+": "+strings.TrimSuffix(n.feature.Says(p.h.Unit), "."),
			)
			if len(n.answers) > 0 && n.figure < 0 {
				x.propose(trade.RepairNamed(n.answers[0]))
			}
		}
		for _, codes := range v.must {
			x.propose(trade.RepairNamed(codes[0]))
		}
		for i, c := range trade.MovedFigures(p.h.Model.Kind) {
			if f := &v.now.Figures[i]; f.Read {
				at := quantity.Amount(math.Round(f.At))
				x.Figures = append(x.Figures, Figure{
					Code: c.Code, Label: c.Label, Position: v.ID, Now: at, After: at, Read: true, Known: true, SD: f.SD(),
					Limit: v.windows[i].limit,
				})
			}
		}
		x.Says = v.ID + ": " + strings.Join(x.Because, "; ")
		out.Valves = append(out.Valves, x)
	}
}

// propose adds a repair to what a finding alone asks for, unless its metal is worked already.
func (v *Valve) propose(r *trade.Repair) {
	if slices.ContainsFunc(
		v.Repairs, func(code string) bool { return trade.RepairNamed(code).Works == r.Works },
	) {
		return
	}
	v.Repairs = append(v.Repairs, r.Code)
	switch r.Works {
	case trade.SeatMetal:
		if v.Lap = r.Choice == doLap; !v.Lap {
			v.Seat = r.Choice
		}
	case trade.ValveMetal:
		v.Valve = r.Choice
	case trade.GuideMetal:
		v.Guide = r.Choice
	}
}

// compression works out the ratio before and after of the mean cylinder, where the sheet gives the
// engine: from the chambers that were read, else from the sheet's figure, and from what the valves of
// all cylinders change.
func (p *problem) compression(out *Plan) {
	at := func(f *trade.Figure) length.Length { l, _, _ := p.h.Size(f, ""); return l }
	figure := func(f *trade.Figure) quantity.Amount { a, _, _ := p.h.Figure(f, ""); return a }
	in := engine.CompressionInput{
		Bore:        at(trade.CylinderBore),
		Stroke:      at(trade.Stroke),
		Chamber:     figure(trade.ChamberGiven).CC(),
		GasketBore:  at(trade.GasketBore),
		Gasket:      at(trade.GasketFitted),
		Deck:        at(trade.Deck),
		Piston:      figure(trade.PistonCrown).CC(),
		FaceCut:     out.FaceCut,
		ChamberArea: figure(trade.ChamberArea).Rat(),
	}
	var read []quantity.Amount
	for _, c := range p.h.Model.Layout.Chambers {
		for _, r := range p.h.Reads(trade.ChamberVolume.Code, "C"+c.Name) {
			read = append(read, r.Value.At)
		}
	}
	if len(read) > 0 {
		in.Chamber.Set(new(big.Rat).Quo(length.MeanRat(read), new(big.Rat).SetInt64(int64(quantity.One))))
	}
	if p.graded != nil {
		in.Gasket = p.graded.Size
	}
	if all := p.protrusions(); all != nil {
		in.Deck = -length.Mean(all).Length()
	}
	if in.Bore == 0 || in.Stroke == 0 || in.GasketBore == 0 || in.Chamber.Sign() == 0 {
		return
	}
	for _, v := range out.Valves { // each is a part of the mean cylinder's
		if f := v.Figure(trade.Recession.Code); f != nil && f.Known && f.Read {
			lv, _ := p.h.Model.Layout.Valve(v.ID)
			deeper := (f.After - f.Now).Length() + out.FaceCut
			in.Valves = append(in.Valves, engine.ValveChange{
				Head: lv.Head, RecessionChange: deeper / length.Length(len(p.h.Model.Layout.Chambers)),
			})
		}
	}
	res, err := engine.Compression(in)
	if err != nil {
		return
	}
	out.Ratio = &res
	if out.FaceCut > 0 && out.Restore == "" {
		out.Restore = p.restoring(res.GasketRestore)
	}
}

// protrusions are how far the pistons stand out that were read: of each the mean.
func (p *problem) protrusions() (out []quantity.Amount) {
	for _, at := range trade.Protrusion.Positions(p.h.Model.Layout) {
		if mean, read := p.h.Mean(trade.Protrusion.Code, at); read {
			out = append(out, mean)
		}
	}
	return out
}

// restoring names the gasket of the stock that gives the ratio back: the thinnest that is not
// thinner than wanted, or the thickest there is.
func (p *problem) restoring(want length.Length) string {
	var best head.Stock
	for _, s := range p.h.Stock {
		if s.Kind != trade.GasketPart.Code || s.Size == 0 {
			continue
		}
		better := s.Size >= want && (best.Size < want || s.Size < best.Size) ||
			best.Size < want && s.Size > best.Size
		if best.Size == 0 || better {
			best = s
		}
	}
	if best.Size == 0 {
		return ""
	}
	name := best.Name
	if name == "" {
		name = p.text(best.Size)
	}
	if best.Size < want {
		return name + ", the thickest there is: the ratio stays higher"
	}
	return name
}

// decide collects everything that is done: the plan's choices, for every other finding the
// cheapest repair that is allowed and works no metal twice, and what is always renewed.
func (p *problem) decide(out *Plan) {
	ds := &out.Decisions
	add := func(code, position string) {
		if d := (route.Decision{Code: code, Position: position}); !slices.Contains(*ds, d) {
			*ds = append(*ds, d)
		}
	}
	if out.FaceCut > 0 || !out.Feasible && p.face.For != "" && p.ask.FaceCut == nil {
		add(trade.FaceHead.Code, "")
	}
	for _, f := range out.Own {
		if f.Fixed != nil {
			add(f.Fixed.Code, "")
		}
	}
	for _, v := range out.Valves {
		for _, code := range v.Repairs {
			add(code, v.ID)
		}
		if v.PadCut > 0 {
			add(trade.LevelPads.Code, v.ID)
		}
		if changed := v.From == Moved || v.From == InStock || v.From == Order; changed &&
			p.h.Model.Kind.Pushrods() {
			add(trade.NewPushrod.Code, v.ID)
		} else if changed || v.From == Adjusted {
			add(trade.SetLash.Code, v.ID)
		}
	}
	out.Choices = map[string]string{}
	for _, f := range p.j.Findings() {
		if f.Verdict >= gauge.Out && !p.left(f) {
			p.answer(out, f)
		}
	}
	p.aside(out, add)
	for _, d := range route.Renewals(p.h) {
		add(d.Code, d.Position)
	}
	if p.h.Setting("school.springs") == "as a set" && out.decides(trade.NewSprings) {
		for _, v := range p.valves {
			add(trade.NewSprings.Code, v.ID)
		}
	}
	slices.SortFunc(*ds, func(a, b route.Decision) int {
		return strings.Compare(a.Code+" "+a.Position, b.Code+" "+b.Position)
	})
}

// answer decides a finding by what the plan does there, or as planned where its figures end inside, or
// where what is done answers it only together with the rest of the plan.
func (p *problem) answer(out *Plan, f judge.Feature) {
	both := p.h.Model.Layout.ValvesAt(f.Position)
	for _, r := range p.j.Offers(f) { // what is allowed of it first
		if out.does(r.Code, "") || len(both) > 0 &&
			!slices.ContainsFunc(both, func(id string) bool { return !out.does(r.Code, id) }) {
			if out.Choices[f.Key()] = r.Code; !r.OK {
				out.Choices[f.Key()] = trade.Planned
			}
			return
		}
	}
	if out.Feasible && p.covers(out, f) {
		out.Choices[f.Key()] = trade.Planned
	}
}

// covers tells whether the plan answers a finding by what it does elsewhere: it is one of a valve's
// figures, or some operation of it makes what it is made of anew.
func (p *problem) covers(out *Plan, f judge.Feature) bool {
	if f.Code == trade.BridgeStep.Code {
		return bridged(out, f.Position)
	}
	if slices.ContainsFunc(trade.MovedFigures(p.h.Model.Kind),
		func(c *trade.Characteristic) bool { return c.Code == f.Code }) || f.Code == trade.GuidePlay.Code {
		return true
	}
	c, ok := trade.ByCode(f.Code)
	return ok && (c.Of != nil || c.Where == trade.AtLine || c.Where == trade.AtGrid ||
		c.Code == trade.FaceFinish.Code) &&
		slices.ContainsFunc(out.Decisions, func(d route.Decision) bool {
			o := trade.OperationNamed(d.Code)
			return slices.ContainsFunc(c.Proves(), func(of *trade.Characteristic) bool { return o.Voided(of.Code) })
		})
}

// aside decides the findings that are left: at each place the cheapest repairs that are allowed, answer
// all of them and work no metal twice.
func (p *problem) aside(out *Plan, add func(code, position string)) {
	var places []string
	left := map[string][]judge.Feature{}
	for _, f := range p.j.Findings() {
		if f.Verdict < gauge.Out || p.left(f) || out.Choices[f.Key()] != "" {
			continue
		}
		if left[f.Position] == nil {
			places = append(places, f.Position)
		}
		left[f.Position] = append(left[f.Position], f)
	}
	for _, at := range places {
		s := cover{p: p, out: out, at: at, findings: left[at], least: math.MaxInt64}
		for _, f := range s.findings {
			var can []*trade.Repair
			d, decided := p.h.Decided(f.Key())
			decided = decided && !p.ask.Free
			for _, o := range p.j.Offers(f) {
				if o.OK && !p.worked(out, o.Repair, at) &&
					(!decided || d.Choice == o.Code || trade.RepairNamed(d.Choice) == nil) {
					can = append(can, o.Repair)
				}
			}
			if len(can) == 0 {
				if out.Feasible { // else what stands in the way is said already
					p.nothing(f)
				}
				can = []*trade.Repair{nil}
			}
			s.can = append(s.can, can)
		}
		s.try(nil, 0)
		for i, r := range s.best {
			if r != nil {
				out.Choices[s.findings[i].Key()] = r.Code
				add(r.Code, at)
			}
		}
		if s.best == nil && out.Feasible {
			p.nothing(s.findings[0])
		}
	}
}

// cover searches the cheapest set of repairs at a place that answers all its findings, of each metal
// one at most.
type cover struct {
	p        *problem
	out      *Plan
	at       string
	findings []judge.Feature
	can      [][]*trade.Repair // by finding; nil among them: nothing may be done
	best     []*trade.Repair
	least    int64
	tries    int
}

// mostTries bounds the search.
const mostTries = 20_000

func (s *cover) try(took []*trade.Repair, cents int64) {
	if s.tries++; cents >= s.least || s.tries > mostTries {
		return
	}
	if len(took) == len(s.can) {
		s.best, s.least = slices.Clone(took), cents
		return
	}
	for _, r := range s.can[len(took)] {
		if r == nil {
			s.try(append(took, nil), cents)
			continue
		}
		if slices.ContainsFunc(took, r.Excludes) {
			continue
		}
		more := int64(r.Order) // of equal prices the one that is usual
		if r.Works == trade.Whole {
			more = needless // a head is scrapped when nothing else can be done
		}
		if !slices.Contains(took, r) {
			more += 100 * s.p.price(s.out, r, s.at)
		}
		s.try(append(took, r), cents+more)
	}
}

// price is what a repair costs beside what the plan does already.
func (p *problem) price(out *Plan, r *trade.Repair, at string) int64 {
	cents := p.costs.one(r.Does, p.h.Role(at))
	if !out.decides(r.Does) {
		cents += p.costs.whole(r.Does)
	}
	return cents
}

// nothing notes that nothing answers a finding, and why.
func (p *problem) nothing(f judge.Feature) {
	if c, ok := trade.ByCode(f.Code); ok && c.Told {
		return
	}
	if why := judge.NoAnswer(f); why != "" {
		p.blocked = append(p.blocked, Blocked{f.Position, f.Code, why})
		return
	}
	why := "nothing answers it"
	for _, o := range p.j.Offers(f) {
		if !o.OK {
			why = words.Lower(o.Name) + ": " + o.Why
			break
		}
	}
	p.blocked = append(p.blocked, Blocked{f.Position, f.Code, strings.TrimSpace(f.Label + ": " + why)})
}

// worked tells whether the plan works the same metal in another way already.
func (p *problem) worked(out *Plan, r *trade.Repair, position string) bool {
	return slices.ContainsFunc(out.Decisions, func(d route.Decision) bool {
		return d.Position == position && r.Excludes(trade.RepairNamed(d.Code))
	})
}

// priced works out the route, its reasons and what it costs.
func (p *problem) priced(out *Plan) {
	washers := p.washers(out)
	sizes := func(kind *trade.PartKind, position string) (length.Length, bool) {
		switch size, ok := washers[position]; {
		case kind == trade.WasherPart:
			return size, ok
		case kind == trade.GasketPart && p.graded != nil:
			return p.graded.Size, true
		}
		for _, v := range out.Valves {
			if v.ID != position {
				continue
			}
			switch {
			case kind == trade.ShimPart:
				return v.SpringShim, v.SpringShim > 0
			case (kind == trade.LashShimPart || kind == trade.PushrodPart) && v.Size != nil:
				return *v.Size, v.From == InStock || v.From == Order
			}
		}
		return 0, false
	}
	out.Operations = price.Operations(p.h, route.Derive(p.h, out.Decisions), sizes)
	out.Cents, out.Minutes, out.Unknown = price.Sum(out.Operations)
	for _, name := range out.Unknown {
		note(&p.missing, "price of "+name+": not known")
	}
	out.Days = price.Days(out.Operations)
	out.Because = map[string]string{}
	findings := p.j.Findings()
	for _, o := range out.Operations {
		out.Because[o.Code] = because(out, findings, o)
	}
	for _, x := range out.Valves {
		if !slices.Contains(x.Repairs, trade.FitValve.Code) {
			continue
		}
		if _, known := p.h.NewMargin(x.ID); !known {
			note(&p.missing, "margin of a new "+string(x.Role)+
				" valve: not on the sheet, so that what the valve comes to is not known: measure it")
		}
		if _, known := p.h.NewStem(x.ID); !known {
			note(&p.missing, "stem of a new "+string(x.Role)+" valve: not on the sheet: measure it")
		}
	}
}

// washerStep is what washers under injectors come in where the shop's list has none: trade practice.
const washerStep = 500 * length.Micrometre

// washers are the thicknesses of the washers that go under the injectors, by cylinder: where one stands
// out of its limits after the facing, the one that brings it nearest to their middle, or as near as the
// one end there is.
func (p *problem) washers(out *Plan) map[string]length.Length {
	took := map[string]length.Length{}
	if !out.decides(trade.ShimInjector) {
		return took
	}
	fitted, _, _ := p.h.Size(trade.InjectorWasher, "")
	sizes := p.sizes(trade.WasherPart)
	if len(sizes) == 0 {
		for n := length.Length(1); n <= 10; n++ {
			sizes = append(sizes, n*washerStep)
		}
	}
	for i := range out.Own {
		f := &out.Own[i]
		if f.Code != trade.Injector.Code || f.Limit == nil {
			continue
		}
		low, high := f.Limit.Lengths()
		if d, any := distance(float64(f.After), window{low, high, nil}); !any || d >= 0 {
			continue
		}
		best := length.Max
		for _, size := range sizes {
			if off := offMiddle(f.After.Length()-(size-fitted), low, high); off < best {
				best, took[f.Position] = off, size
			}
		}
		f.After -= quantity.OfLength(took[f.Position] - fitted)
		f.inside()
	}
	return took
}

// offMiddle is how far a value lies from the middle of two limits; from the one there is, when it is past
// it, else nothing.
func offMiddle(at length.Length, low, high *length.Length) length.Length {
	switch {
	case low != nil && high != nil:
		return (at - (*low+*high)/2).Abs()
	case high != nil:
		return max(0, at-*high)
	case low != nil:
		return max(0, *low-at)
	}
	return 0
}

// because says why an operation is done: the findings it answers, else its own reason.
func because(out *Plan, findings []judge.Feature, o price.Priced) string {
	var said []string
	for _, f := range findings {
		if out.Choices[f.Key()] == o.Code {
			said = append(said, strings.TrimSpace(f.Position+" "+words.Lower(f.Label)))
		}
	}
	if len(said) > 6 {
		said = append(said[:6], "and more")
	}
	if said != nil {
		return strings.Join(said, "; ")
	}
	if o.Operation.Because != "" {
		return o.Operation.Because
	}
	return "by the plan"
}
