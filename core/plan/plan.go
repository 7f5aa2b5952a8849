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
	Bore, Stem         *length.Length // what a guide is made, and the stem it is made for
	Size               *length.Length // lash shim or pushrod
	From               string         // where that comes from
	Figures            []Figure
	Because            []string // findings answered here
	Says               string   // all of it in one sentence
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

// Changes tells whether anything is done at the valve.
func (v Valve) Changes() bool {
	return v.Lap || v.Seat != doKeep || v.Valve != doKeep || v.Guide != doKeep || v.TipGrind > 0 || v.SpringShim > 0 || v.PadCut > 0 ||
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
	Days       int     // working days until it is done, started now
	PAll       float64 // how likely everything ends inside
	Least      float64 // smallest distance to a limit, standard deviations
	Ratio      *engine.CompressionOutput
	Restore    string // the gasket that gives the ratio back

	Missing []string // figures and readings that were not there, in words
	Assumed []string // what was supposed instead, and why
	Blocked []Blocked
	Face    judge.FaceNeed
	Cuts    []length.Length // that can be tried
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
	p.conclude(&out, best, ok)
	return out, nil
}

// conclude writes a solution into a plan, with all that is done, what it costs and how sure it is;
// without one, what stands in the way.
func (p *problem) conclude(out *Plan, best solution, ok bool) {
	if ok {
		out.Feasible = true
		p.describe(out, best)
		p.gaps(out)
	} else {
		p.unsolved(out)
	}
	p.decide(out)
	p.priced(out)
	if len(p.blocked) > 0 {
		out.Feasible = false
	}
	if out.Feasible {
		out.PAll = p.sure(*out, best)
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
		s, ok, err := p.solve(ctx, z, true)
		if err != nil || ok {
			return s, ok, err
		}
		if s, ok, err = p.solve(ctx, z, false); ok && p.hasTargets() {
			note(&p.missing, "the shop's targets cannot all be met: the limits are")
		}
		return s, ok, err
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
		out := Plan{}
		p.describe(&out, s)
		return p.sure(out, s) * 100_00
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
		note(&p.missing, fmt.Sprintf("no plan is as sure as %s %% that everything ends inside: this is the surest", p.h.Setting("robust")))
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
		f := s.valves[i]
		x := Valve{
			ID: v.ID, Role: v.Role, Seat: f.way.seat, Valve: f.way.valve, Guide: f.way.guide, SeatCut: f.s, TipGrind: f.t, SpringShim: f.way.shim,
			PadCut: v.pad, Bore: f.way.bore, Stem: f.way.stem, From: f.setting.from, Figures: p.figuresOf(v, f, s.common),
		}
		if x.Seat == doLap {
			x.Seat, x.Lap = doKeep, true
		}
		if x.Valve == doGrind {
			x.Grind = v.grindCut
		}
		if v.presentKnown {
			size := f.setting.size
			x.Size = &size
		}
		if f.setting.travel > 0 && f.setting.from != Adjusted && p.h.Model.Kind.Pushrods() && size(x.Size) == v.present {
			x.From = Adjusted
		}
		for _, n := range v.needs {
			x.Because = append(x.Because, lower(n.feature.Label)+": "+strings.TrimSuffix(n.feature.Says(p.h.Unit), "."))
		}
		x.Says = p.sentence(x)
		out.Valves = append(out.Valves, x)
	}
	if s.gasket.name != "" {
		out.Restore = s.gasket.name
	}
	p.compression(out)
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
	say(v.PadCut > 0, "pad cut %s", u.Text(v.PadCut))
	say(v.SpringShim > 0, "spring shim %s", u.Text(v.SpringShim))
	what := "lash shim"
	if p.h.Model.Kind.Pushrods() {
		what = "pushrod"
	}
	say(v.Size != nil && (v.From == Moved || v.From == InStock || v.From == Order), "%s %s (%s)", what, text(u, v.Size), v.From)
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
		line += fmt.Sprintf("; %s %s to its limit, %d of 100", lower(near.Label), u.In(length.FromFloat(d), u.Places())+" "+u.Name, int(near.P*100))
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
			x.Because = append(x.Because, lower(n.feature.Label)+": "+strings.TrimSuffix(n.feature.Says(p.h.Unit), "."))
			if len(n.answers) == 0 || n.moved {
				continue
			}
			switch n.answers[0] {
			case "seat_cut":
				x.Seat = doCut
			case "seat_insert":
				x.Seat = doInsert
			case "valve_grind":
				x.Valve = doGrind
			case "valve_new":
				x.Valve = doNew
			case "guide_new", "guide_liner", "guide_hone":
				x.Guide = strings.TrimPrefix(n.answers[0], "guide_")
			}
		}
		if v.wear["valve"] {
			x.Valve = doNew
		}
		for i, c := range figureOf {
			if v.now[i].read {
				x.Figures = append(x.Figures, Figure{
					Code: c.Code, Label: c.Label, Position: v.ID, Now: quantity.OfLength(v.now[i].at), After: quantity.OfLength(v.now[i].at), Read: true,
					Known: true, SD: v.now[i].sd, Limit: v.windows[i].limit,
				})
			}
		}
		x.Says = v.ID + ": " + strings.Join(x.Because, "; ")
		out.Valves = append(out.Valves, x)
	}
}

// compression works out the ratio before and after, where the sheet gives the engine: from the
// chambers that were read, their mean, else from the sheet's figure.
func (p *problem) compression(out *Plan) {
	at := func(f *trade.Figure) length.Length { l, _, _ := p.h.Size(f, ""); return l }
	figure := func(f *trade.Figure) quantity.Amount { a, _, _ := p.h.Figure(f, ""); return a }
	in := engine.CompressionInput{
		Bore: at(trade.CylinderBore), Stroke: at(trade.Stroke), Chamber: figure(trade.ChamberGiven).CC(), GasketBore: at(trade.GasketBore),
		Gasket: at(trade.GasketFitted), Deck: at(trade.Deck), Piston: figure(trade.PistonCrown).CC(), FaceCut: out.FaceCut,
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
	if in.Bore == 0 || in.Stroke == 0 || in.GasketBore == 0 || in.Chamber.Sign() == 0 {
		return
	}
	for _, v := range out.Valves {
		if f := v.Figure(trade.Recession.Code); f != nil && f.Known && f.Read {
			lv, _ := p.h.Model.Layout.Valve(v.ID)
			if lv.Cylinder == p.valves[0].Cylinder {
				in.Valves = append(in.Valves, engine.ValveChange{Head: lv.Head, RecessionChange: (f.After - f.Now).Length() + out.FaceCut})
			}
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

// restoring names the gasket of the stock that gives the ratio back: the thinnest that is not
// thinner than wanted, or the thickest there is.
func (p *problem) restoring(want length.Length) string {
	var best head.Stock
	for _, s := range p.h.Stock {
		if s.Kind != trade.GasketPart.Code || s.Size == 0 {
			continue
		}
		better := s.Size >= want && (best.Size < want || s.Size < best.Size) || best.Size < want && s.Size > best.Size
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

// Findings whose figures a plan moves: they are answered when the plan is feasible.
var movedBy = []string{
	trade.Recession.Code, trade.StemHeight.Code, trade.SpringHeight.Code, trade.ValveMargin.Code, trade.GuideClearance.Code,
	trade.GuidePlay.Code, trade.Lash.Code, trade.LashDry.Code, trade.Taper.Code, trade.RecessionRow.Code, trade.PadSpread.Code,
	trade.FaceLine.Code, trade.FaceFlatness.Code, trade.FaceFinish.Code,
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
		for _, c := range []string{code("seat", v.Seat), code("valve", v.Valve), code("guide", v.Guide)} {
			if c != "" {
				add(c, v.ID)
			}
		}
		for _, o := range []struct {
			does bool
			o    *trade.Operation
		}{{v.Lap, trade.Lap}, {v.TipGrind > 0, trade.GrindTip}, {v.SpringShim > 0, trade.ShimSpring}, {v.PadCut > 0, trade.LevelPads}} {
			if o.does {
				add(o.o.Code, v.ID)
			}
		}
		if changed := v.From == Moved || v.From == InStock || v.From == Order; changed && p.h.Model.Kind.Pushrods() {
			add(trade.NewPushrod.Code, v.ID)
		} else if changed || v.From == Adjusted {
			add(trade.SetLash.Code, v.ID)
		}
	}
	if p.h.Model.Kind.Pushrods() && p.h.Model.Kind.Solid() && p.travel > 0 && out.FaceCut > 0 {
		for _, v := range out.Valves { // what moves the lash of all has it set again at all
			if v.From == Adjusted || v.From == Order || v.From == InStock {
				add(trade.SetLash.Code, v.ID)
			}
		}
	}
	out.Choices = map[string]string{}
	for _, f := range p.j.Findings() {
		if f.Verdict >= gauge.Out && !p.left(f) {
			p.answer(out, f, add)
		}
	}
	for _, d := range renewed(p.h) {
		add(d.Code, d.Position)
	}
	if p.h.Setting("school.springs") == "as a set" && slices.ContainsFunc(*ds, func(d route.Decision) bool { return d.Code == trade.NewSprings.Code }) {
		for _, v := range p.valves {
			add(trade.NewSprings.Code, v.ID)
		}
	}
	slices.SortFunc(*ds, func(a, b route.Decision) int {
		return strings.Compare(a.Code+" "+a.Position, b.Code+" "+b.Position)
	})
}

// renewed is what the sheet has renewed whatever it measures.
func renewed(h *head.Head) []route.Decision { return route.Renewals(h) }

// answer decides a finding: by what the plan does there, as planned where its figures end
// inside, else by the cheapest repair that is allowed.
func (p *problem) answer(out *Plan, f judge.Feature, add func(code, position string)) {
	offers := p.j.Offers(f)
	done := func(code string) bool {
		both := p.h.Model.Layout.ValvesAt(f.Position)
		return !slices.ContainsFunc(both, func(id string) bool {
			return !slices.Contains(out.Decisions, route.Decision{Code: code, Position: id})
		}) || slices.Contains(out.Decisions, route.Decision{Code: code})
	}
	for _, o := range offers {
		if done(o.Code) {
			out.Choices[f.Key()] = o.Code
			return
		}
	}
	if slices.Contains(movedBy, f.Code) && (out.Feasible || len(p.blocked) > 0) {
		out.Choices[f.Key()] = trade.Planned
		return
	}
	for _, o := range offers {
		if o.OK && !p.worked(out, o.Repair, f.Position) {
			out.Choices[f.Key()] = o.Code
			add(o.Code, f.Position)
			return
		}
	}
	if why := judge.NoAnswer(f); why != "" {
		p.blocked = append(p.blocked, Blocked{f.Position, f.Code, why})
		return
	}
	why := "nothing answers it"
	for _, o := range offers {
		if !o.OK {
			why = lower(o.Name) + ": " + o.Why
			break
		}
	}
	p.blocked = append(p.blocked, Blocked{f.Position, f.Code, strings.TrimSpace(f.Label + ": " + why)})
}

// worked tells whether the plan works the same metal in another way already.
func (p *problem) worked(out *Plan, r *trade.Repair, position string) bool {
	return slices.ContainsFunc(out.Decisions, func(d route.Decision) bool {
		o := trade.RepairNamed(d.Code)
		return o != nil && o != r && o.Works == r.Works && r.Works != trade.MarkMetal && d.Position == position
	})
}

// priced works out the route, its reasons and what it costs.
func (p *problem) priced(out *Plan) {
	sizes := func(kind *trade.PartKind, position string) (length.Length, bool) {
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
	for _, o := range out.Operations {
		out.Because[o.Code] = p.because(out, o)
	}
	for _, v := range p.valves {
		for i, x := range out.Valves {
			if x.ID == v.ID && out.Valves[i].Valve == doNew {
				if !v.freshKnown {
					note(&p.missing, "margin of a new "+string(v.Role)+" valve: not on the sheet, so that what the valve comes to is not known: measure it")
				}
				if !v.newStemKnown {
					note(&p.missing, "stem of a new "+string(v.Role)+" valve: not on the sheet: measure it")
				}
			}
		}
	}
}

// because says why an operation is done: the findings it answers, else its own reason.
func (p *problem) because(out *Plan, o price.Priced) string {
	var said []string
	for _, f := range p.j.Findings() {
		if out.Choices[f.Key()] == o.Code {
			said = append(said, strings.TrimSpace(f.Position+" "+lower(f.Label)))
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
