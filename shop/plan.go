package shop

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"math/big"
	"slices"
	"strings"
	"time"

	"headwright/core/engine"
	"headwright/core/gauge"
	"headwright/core/judge"
	"headwright/core/layout"
	"headwright/core/length"
	"headwright/core/plan"
	"headwright/core/route"
	"headwright/core/surface"
	"headwright/core/valvetrain"
	"headwright/store"
)

// Alternative is a way to weigh what a plan does. Each is an exact optimum of its own
// question.
type Alternative struct{ Code, Label, Says string }

// Alternatives are the ways to plan a head.
var Alternatives = []Alternative{
	{"keep", "Keep what can be kept", "parts weigh four times their price: metal goes before parts"},
	{"balanced", "Balanced", "what costs least"},
	{"renew", "Renew what wears", "what has used up half of its room is renewed while it is open"},
}

// PlanAsk is a question to the planner: an alternative, and what the lead holds fast. Cut is
// nil when the planner chooses; Seat and Valve are by position: keep, cut or insert, and
// keep, grind or new.
type PlanAsk struct {
	Alternative string
	Cut         *length.Length
	Seat, Valve map[string]string
	Brief       bool `json:"-"` // without the sensitivity
}

// Held tells whether anything is held fast.
func (a PlanAsk) Held() bool { return a.Cut != nil || len(a.Seat)+len(a.Valve) > 0 }

// Move is one figure of a position before and after.
type Move struct {
	Code, Label string
	Now, After  length.Length
	Known       bool
	U           length.Length
	Limit       *judge.Limit
	Verdict     gauge.Verdict // of After
}

// PlanRow is a position before and after.
type PlanRow struct {
	ID    string
	Role  layout.Role
	Done  plan.Done
	Moves []Move
	Why   []string // findings the plan has to answer here
}

// Move returns the row's move of a characteristic.
func (r PlanRow) Move(code string) Move {
	for _, m := range r.Moves {
		if m.Code == code {
			return m
		}
	}
	return Move{Code: code}
}

// CutOffer is a facing cut worth trying, and what it is for.
type CutOffer struct {
	Cut  length.Length
	Says string
}

// LashRow is how a position's lash is set after the plan.
type LashRow struct {
	ID          string
	Before      length.Length
	After       length.Length // when nothing is changed
	Set         length.Length // when it is set as Size says
	Present     length.Length // shim or pushrod fitted now
	Size        length.Length
	Source      string // kept, moved, stock, order; adjuster
	Low, High   length.Length
	Impossible  string
	HasFigures  bool
	StockItemID uint
}

// Planned is a worked-out plan with everything that hangs on it.
type Planned struct {
	Ask      PlanAsk
	In       plan.Input
	Out      plan.Output
	Missing  []string // readings without which nothing can be planned
	Refused  []string // why it cannot be done
	Rows     []PlanRow
	Offers   []CutOffer
	Lash     []LashRow
	Bought   int // shims to buy
	Ops      []Priced
	Cents    int64
	Minutes  int
	Ready    time.Time
	Life     string   // where the least room is left
	Changes  []string // sensitivity, in words
	Thick    Move
	Injector []Move
	Ratio    *engine.CompressionOutput
	Pair     []string // the other heads of the order
	School   []string
}

// Count tells at how many positions something is done: cut, insert, grind, new, tip.
func (p Planned) Count(what string) int {
	n := 0
	for _, d := range p.Out.Valves {
		if d.Seat == what || d.Valve == what || what == "tip" && d.TipGrind > 0 {
			n++
		}
	}
	return n
}

// Label names the plan's alternative.
func (p Planned) Label() string {
	for _, a := range Alternatives {
		if a.Code == p.Ask.Alternative {
			return a.Label
		}
	}
	return p.Ask.Alternative
}

// Feasible tells whether it can be done.
func (p Planned) Feasible() bool {
	return len(p.Missing) == 0 && p.Out.Feasible && len(p.Refused) == 0
}

// grid is what every cut of a plan is a multiple of.
const grid = 10 * length.Micrometre

// farOff stands for a limit there is none of.
var farOff = plan.Range{Low: -20 * length.Millimetre, High: 20 * length.Millimetre}

// planner holds what planning a head needs.
type planner struct {
	f     *File
	sheet judge.Sheet
	set   Settings
	stock Stock
	lead  func(store.StockItem) int
	now   time.Time
	sizes []store.StockItem // shims or pushrods to be had
}

// planner returns a planner for a file.
func (s *Shop) planner(db store.DB, f *File) (*planner, error) {
	v, err := db.Settings()
	if err != nil {
		return nil, err
	}
	p := &planner{f: f, sheet: f.judgeSheet(), set: Settings{v, f.Tag}, now: s.now(), lead: s.supply}
	if p.stock, err = loadStock(db); err != nil {
		return nil, err
	}
	p.sizes = p.stock.sizes(map[string]string{"bucket": "lash shim", "rocker": "pushrod"}[f.Model.Drive], f.ModelID)
	return p, nil
}

// Plan works out an answer for a head. It writes nothing.
func (s *Shop) Plan(ctx context.Context, f *File, ask PlanAsk) (Planned, error) {
	db := s.st.Read(ctx)
	p, err := s.planner(db, f)
	if err != nil {
		return Planned{}, err
	}
	out := p.answer(ask)
	pair, err := db.HeadsOfJob(f.JobID)
	if err != nil {
		return out, err
	}
	for _, h := range pair {
		if h.ID == f.ID {
			continue
		}
		said := h.Tag + " " + h.Bank
		if plans, err := db.Plans(h.ID); err == nil && len(plans) > 0 {
			var a plan.Output
			if json.Unmarshal([]byte(plans[0].Answer), &a) == nil {
				said += ": its plan faces it by " + a.FaceCut.String()
				if (a.FaceCut - out.Out.FaceCut).Abs() > 50*length.Micrometre {
					said += ", a pair is faced alike"
				}
			}
		} else {
			said += ": no plan yet"
		}
		out.Pair = append(out.Pair, said)
	}
	return out, nil
}

// Compare works out every alternative for a head, side by side.
func (s *Shop) Compare(ctx context.Context, f *File) ([]Planned, error) {
	p, err := s.planner(s.st.Read(ctx), f)
	if err != nil {
		return nil, err
	}
	var out []Planned
	for _, a := range Alternatives {
		out = append(out, p.answer(PlanAsk{Alternative: a.Code, Brief: true}))
	}
	return out, nil
}

// Replacement is a head that could be had instead of mending this one.
type Replacement struct {
	store.StockItem
	Days  int
	Share int64 // the plan's price of its, percent
	Asks  bool  // above the shop's threshold: somebody has to answer
}

// Replacements lists what could be had instead, against what a plan costs.
func (s *Shop) Replacements(ctx context.Context, f *File, cents int64) ([]Replacement, error) {
	p, err := s.planner(s.st.Read(ctx), f)
	if err != nil {
		return nil, err
	}
	var out []Replacement
	for _, it := range p.stock.Items {
		if it.ModelID != f.ModelID || it.Kind != "exchange head" && it.Kind != "used head" || it.PriceCents == 0 {
			continue
		}
		r := Replacement{StockItem: it, Days: p.lead(it), Share: cents * 100 / it.PriceCents}
		r.Asks = it.Kind == "exchange head" && cents*1_000_000 > it.PriceCents*p.set.PPM("threshold")
		out = append(out, r)
	}
	return out, nil
}

// answer works a question out.
func (p *planner) answer(ask PlanAsk) Planned {
	if !slices.ContainsFunc(Alternatives, func(a Alternative) bool { return a.Code == ask.Alternative }) {
		ask.Alternative = "balanced"
	}
	out := Planned{Ask: ask}
	out.In, out.Missing = p.input(ask)
	out.Offers = p.offers(out.In)
	out.School = p.schools()
	if len(out.Missing) > 0 {
		return out
	}
	var err error
	if out.Out, err = p.solve(out.In); err != nil {
		out.Refused = append(out.Refused, err.Error())
		return out
	}
	if !out.Out.Feasible {
		for _, b := range out.Out.Blocked {
			out.Refused = append(out.Refused, p.words(b, out.In))
		}
		out.Rows = p.rows(out.In, nil, 0)
		return out
	}
	p.follow(&out)
	if !ask.Brief {
		out.Changes = p.sensitivity(out)
	}
	return out
}

// solve answers a question. With pushrods the lash hangs on the facing cut, so that the
// stem heights allowed differ from cut to cut: each cut is a question of its own, and the
// best of them the answer.
func (p *planner) solve(in plan.Input) (plan.Output, error) {
	if p.f.Model.Drive == "bucket" {
		p.windows(&in, 0)
		return plan.Solve(in)
	}
	var best, last plan.Output
	for c := roundUp(in.Face.CutMin); c <= in.Face.CutMax; c += grid {
		one := in
		one.Valves = slices.Clone(in.Valves)
		one.Face.CutMin, one.Face.CutMax = c, c
		p.windows(&one, c)
		out, err := plan.Solve(one)
		if err != nil {
			return out, err
		}
		if last = out; out.Feasible && (!best.Feasible || out.Cost < best.Cost) {
			best = out
		}
	}
	if best.Feasible || in.Face.CutMin > in.Face.CutMax {
		return best, nil
	}
	return last, nil
}

func roundUp(l length.Length) length.Length { return (l + grid - 1) / grid * grid }

// limit is a limit as a plan needs it: drawn in by the doubt where there is room, so that
// what is planned will read as sound.
func (p *planner) limit(code, role string) plan.Range {
	l := p.sheet.Limit(code, role)
	if l == nil {
		return farOff
	}
	r := farOff
	var u length.Length
	for _, x := range p.f.counting {
		if v, ok := p.f.Layout.Valve(x.Spot.Position); x.Characteristic == code && ok && string(v.Role) == role {
			u = max(u, x.U)
		}
	}
	if l.Low != nil {
		r.Low = *l.Low
	}
	if l.High != nil {
		r.High = *l.High
	} else if l.Low != nil {
		r.High = *l.Low + 20*length.Millimetre
	}
	if l.Low == nil {
		r.Low = *l.High - 20*length.Millimetre
	}
	if l.Low != nil && r.Low+2*u < r.High {
		r.Low += u
	}
	if l.High != nil && r.Low+u < r.High {
		r.High -= u
	}
	return r
}

// give returns a figure of the sheet, or the usual one.
func (p *planner) give(code, role string, usual length.Length) length.Length {
	if v, ok := p.sheet.Give(code, role); ok {
		return v
	}
	return usual
}

// cost is what an operation adds at one position, or once, in cents, parts included.
func (p *planner) cost(code, role string) int64 {
	k, _ := route.Named(code)
	minutes := int64(k.Each)
	if minutes == 0 {
		minutes = int64(k.Setup)
	}
	c := rounded(minutes*p.set.Cents("rate"), 60)
	if kind, uses := partOf[code]; uses {
		if it, ok := p.stock.find(kind, p.f.ModelID, role); ok {
			return c + it.PriceCents
		}
		return c + rounded(guessed[kind]*(1_000_000+p.set.PPM("markup")), 1_000_000)
	}
	return c
}

// What is out that a seat has to be cut for, that only an insert answers, that a valve has
// to be ground for, that only a new valve answers.
var (
	seatCodes   = []string{"seat.width", "seat.runout", "seat.position", "seat.condition", "seat.angle", "guide.clearance", "guide.condition", "guide.form", "guide.play"}
	valveGrinds = []string{"valve.face", "valve.face_angle"}
	valveRenews = []string{"valve.margin", "valve.runout", "stem.dia", "stem.condition", "valve.head", "valve.length", "tip.condition", "groove.condition"}
)

// input builds the planner's question from the head's readings and findings.
func (p *planner) input(ask PlanAsk) (plan.Input, []string) {
	f := p.f
	in := plan.Input{Grid: grid, TipGrindMax: p.give("given.tip_most", "", 0), Insert: plan.Insert{Up: p.give("given.insert_up", "", 500*length.Micrometre), Down: p.give("given.insert_down", "", 0)}}
	var missing []string
	for _, role := range []layout.Role{layout.Intake, layout.Exhaust} {
		r := &plan.Role{Recession: p.limit("valve.recession", string(role)), StemHeight: p.limit("stem.height", string(role)), SpringHeight: p.limit("spring.height", string(role))}
		if m := p.sheet.Limit("valve.margin", string(role)); m != nil && m.Low != nil {
			r.MarginMin = *m.Low
		}
		if nm, ok := p.sheet.Give("given.new_margin", string(role)); ok {
			r.NewValve = &valvetrain.NewValve{Margin: nm, TipChange: p.give("given.new_tip", string(role), 0), GrooveChange: p.give("given.new_groove", string(role), 0)}
		}
		if role == layout.Intake {
			in.Roles.Intake = r
		} else {
			in.Roles.Exhaust = r
		}
	}
	if l := p.sheet.Limit("recession.spread", string(layout.Intake)); l != nil && l.High != nil {
		in.Spread = l.High
	}
	if p.set.Get("school.depths") == "all alike" {
		alike := 50 * length.Micrometre
		in.Spread = &alike
	}
	for _, it := range p.stock.sizes("spring shim", f.ModelID) {
		in.SpringShims = append(in.SpringShims, it.SizeNM)
	}
	scale := map[string]int64{"keep": 4}[ask.Alternative]
	parts := func(code, role string) int64 { // what a part weighs in this alternative
		c := p.cost(code, role)
		if scale > 0 {
			c *= scale
		}
		return c
	}
	in.Costs = plan.Costs{
		Face: p.cost("face", ""), SeatCut: p.cost("seat_cut", ""), Insert: parts("seat_insert", "exhaust") + p.cost("seat_cut", ""), ValveGrind: p.cost("valve_grind", ""),
		NewValve: plan.ValveCost{Intake: parts("valve_new", "intake"), Exhaust: parts("valve_new", "exhaust")}, TipGrind: p.cost("tip_grind", ""), SpringShim: p.cost("spring_shim", ""),
	}
	in.Face = p.face(&missing)
	if ask.Cut != nil {
		in.Face.CutMin, in.Face.CutMax = *ask.Cut, *ask.Cut
	}
	for _, v := range f.Layout.Valves {
		in.Valves = append(in.Valves, p.position(v, ask, &missing))
	}
	return in, missing
}

// face is the head's thickness and the cuts worth considering.
func (p *planner) face(missing *[]string) plan.Face {
	f := p.f
	face := plan.Face{CutMax: p.give("given.face_most", "", 300*length.Micrometre)}
	if l := p.sheet.Limit("head.thickness", ""); l != nil && l.Low != nil {
		face.ThicknessMin = *l.Low
	}
	x, ok := f.Now.Feature("head.thickness")
	if !ok || len(x.From) == 0 {
		if face.ThicknessMin > 0 {
			*missing = append(*missing, "head thickness")
		}
		face.Thickness = length.Metre
	} else {
		face.Thickness = x.Low
	}
	if need, _ := p.faceNeeds(); need > 0 {
		face.CutMin = roundUp(need)
		face.CutMax = max(face.CutMax, face.CutMin)
	}
	face.CutMax = face.CutMax / grid * grid
	return face
}

// faceNeeds is what facing is likely to need with the head level on its datum, 0 when the
// face may stay, and what it needs tilted to the best plane, 0 when the grid was not read.
func (p *planner) faceNeeds() (level, tilted length.Length) {
	allow := p.give("given.face_allow", "", 20*length.Micrometre)
	out := false
	for _, x := range p.f.Now.Own {
		if slices.Contains([]string{"face.line", "face.flatness", "face.finish", "head.taper"}, x.Code) && x.Verdict >= gauge.Out {
			out = true
		}
	}
	if !out {
		return 0, 0
	}
	for _, x := range p.f.Now.Own {
		if x.Code == "face.line" && len(x.From) > 0 {
			level = max(level, x.High+allow)
		}
	}
	if fl, err := surface.Flatness(p.f.FaceGrid(allow)); err == nil {
		level, tilted = max(level, fl.CutLevel), fl.CutBest
	}
	return max(level, allow), tilted
}

// FaceGrid collects the face's heights as they were read.
func (f *File) FaceGrid(allowance length.Length) surface.FlatnessInput {
	in := surface.FlatnessInput{Allowance: allowance}
	for _, g := range f.Layout.Grid() {
		for _, r := range f.Counting("face.grid", g.Name) {
			in.Points = append(in.Points, surface.Point{X: g.X, Y: g.Y, Z: r.Value.At})
		}
	}
	return in
}

// offers lists the facing cuts worth trying.
func (p *planner) offers(in plan.Input) []CutOffer {
	level, tilted := p.faceNeeds()
	var out []CutOffer
	if level == 0 {
		return []CutOffer{{0, "none: the face is inside its limits"}}
	}
	if tilted > 0 && tilted < level {
		out = append(out, CutOffer{roundUp(tilted), "tilted to the best plane: the least that cleans it up; the thickness tapers by the tilt"})
	}
	out = append(out, CutOffer{roundUp(level), "level on its datum: what warp and doubt need"})
	if most := in.Face.Thickness - in.Face.ThicknessMin; in.Face.ThicknessMin > 0 && most > level && most < length.Millimetre {
		out = append(out, CutOffer{most / grid * grid, "all the thickness allows"})
	}
	return append(out, CutOffer{0, "none: the face stays as it is, signed for"})
}

// reading is the figure a plan starts from; a missing one that has a limit is noted.
func (p *planner) reading(code string, v layout.Valve, missing *[]string) length.Length {
	if m := p.f.Mean(code, v.ID, ""); m != nil {
		return *m
	}
	if p.sheet.Limit(code, string(v.Role)) != nil {
		c, _ := judge.ByCode(code)
		*missing = append(*missing, v.ID+" "+strings.ToLower(c.Label))
	}
	return 0
}

// position is one valve as the planner sees it.
func (p *planner) position(v layout.Valve, ask PlanAsk, missing *[]string) plan.Position {
	role := string(v.Role)
	pos := plan.Position{ID: v.ID, Role: role, Recession: p.reading("valve.recession", v, missing), StemHeight: p.reading("stem.height", v, missing), SpringHeight: p.reading("spring.height", v, missing), Margin: p.reading("valve.margin", v, missing)}
	j, _ := p.f.Now.Position(v.ID)
	worst := func(codes []string) gauge.Verdict {
		w := gauge.Unread
		for _, c := range codes {
			x, _ := j.Feature(c)
			w = max(w, x.Verdict)
		}
		return w
	}
	seat := worst(seatCodes)
	cond, _ := j.Feature("seat.condition")
	pos.Seat = plan.Seat{AsIs: seat < gauge.Out, Insert: true}
	clean, most := roundUp(p.give("given.seat_clean", role, 50*length.Micrometre)), p.give("given.seat_most", role, 300*length.Micrometre)/grid*grid
	if room := p.f.Mean("seat.room", v.ID, ""); room != nil {
		most = min(most, *room/grid*grid)
	}
	if x, ok := j.Feature("seat.room"); cond.Verdict < gauge.Renew && clean <= most && (!ok || x.Verdict < gauge.Out) {
		pos.Seat.CutMin, pos.Seat.CutMax = &clean, &most
	}
	renew := worst(valveRenews) >= gauge.Out || worst(valveGrinds) >= gauge.Renew || p.renewed("renew.valves_"+role)
	pos.Valve = plan.Valve{AsIs: !renew && worst(valveGrinds) < gauge.Out, Replace: true}
	if grind := roundUp(p.give("given.valve_grind", role, 100*length.Micrometre)); !renew {
		pos.Valve.Grind = &grind
	}
	if _, ok := p.sheet.Give("given.new_margin", role); !ok {
		pos.Valve.Replace = false
		if renew { // nothing is known of the new one: it is taken to be like the old, unworn
			pos.Valve.AsIs = true
			if lim := p.sheet.Limit("valve.margin", role); lim != nil && lim.Low != nil {
				pos.Margin = max(pos.Margin, *lim.Low)
			}
		}
	}
	if ask.Alternative == "renew" {
		p.renewWorn(&pos, v)
	}
	p.hold(&pos, ask)
	return pos
}

// renewed tells whether the sheet renews a part whatever it measures.
func (p *planner) renewed(code string) bool {
	return slices.ContainsFunc(p.f.Sheet.Limits, func(l store.Limit) bool { return l.Kind == SetRenew && l.Characteristic == code })
}

// renewWorn takes away the choice to keep what has used up half of its room.
func (p *planner) renewWorn(pos *plan.Position, v layout.Valve) {
	role := string(v.Role)
	if l := p.sheet.Limit("valve.recession", role); l != nil && l.Low != nil && l.High != nil && 2*pos.Recession > *l.Low+*l.High {
		pos.Seat = plan.Seat{Insert: true}
	}
	l := p.sheet.Limit("valve.margin", role)
	if fresh, ok := p.sheet.Give("given.new_margin", role); ok && l != nil && l.Low != nil && 2*pos.Margin < *l.Low+fresh {
		pos.Valve = plan.Valve{Replace: true}
	}
}

// hold takes away the choices the lead has made.
func (p *planner) hold(pos *plan.Position, ask PlanAsk) {
	switch ask.Seat[pos.ID] {
	case "keep":
		pos.Seat = plan.Seat{AsIs: true}
	case "cut":
		pos.Seat.AsIs, pos.Seat.Insert = false, false
	case "insert":
		pos.Seat = plan.Seat{Insert: true}
	}
	switch ask.Valve[pos.ID] {
	case "keep":
		pos.Valve = plan.Valve{AsIs: true}
	case "grind":
		pos.Valve.AsIs, pos.Valve.Replace = false, false
	case "new":
		pos.Valve = plan.Valve{Replace: pos.Valve.Replace}
	}
}

// lashNow is a position's lash as read, the middle of its two leaves, and its limits; ok is
// false when either is not known.
func (p *planner) lashNow(v layout.Valve) (lash, low, high length.Length, ok bool) {
	lim := p.sheet.Limit("lash", string(v.Role))
	rs := p.f.Counting("lash", v.ID)
	if lim == nil || lim.Low == nil || lim.High == nil || len(rs) == 0 {
		return 0, 0, 0, false
	}
	r := rs[0].Value
	if r.Bracket {
		return (r.Go + r.NoGo) / 2, *lim.Low, *lim.High, true
	}
	return r.At, *lim.Low, *lim.High, true
}

// ratio is the rocker's, 1 without one.
func (p *planner) ratio() length.Length { return p.give("given.rocker_ratio", "", length.Millimetre) }

// times multiplies a length by the rocker's ratio.
func (p *planner) times(l length.Length) length.Length {
	return length.Round(new(big.Rat).Mul(l.Rat(), big.NewRat(int64(p.ratio()), int64(length.Millimetre))))
}

// reach is how far a lash can be changed by what is to be had: the least and the most that
// can be added to it, and what was fitted.
func (p *planner) reach(v layout.Valve) (least, most, present length.Length) {
	sizes := lengths(p.sizes)
	if p.f.Model.Drive == "bucket" {
		if m := p.f.Mean("shim.size", v.ID, ""); m != nil {
			present = *m
			sizes = append(sizes, present)
			return present - slices.Max(sizes), present - slices.Min(sizes), present
		}
		return 0, 0, 0
	}
	travel := length.Millimetre
	if len(p.sizes) > 0 {
		travel = 0
	}
	travel = p.give("given.adjuster", "", travel)
	if m := p.f.Mean("pushrod.length", v.ID, ""); m != nil && len(sizes) > 0 {
		present = *m
		sizes = append(sizes, present)
		return p.times(present-slices.Max(sizes)) - travel, p.times(present-slices.Min(sizes)) + travel, present
	}
	return -travel, travel, 0
}

// windows narrows each valve's stem height to what its lash can still be set for, with the
// face cut by c: lash - rise - ratio x cut, plus what a shim, a pushrod or the adjuster gives,
// must end inside.
func (p *planner) windows(in *plan.Input, c length.Length) {
	for i := range in.Valves {
		v, _ := p.f.Layout.Valve(in.Valves[i].ID)
		lash, low, high, ok := p.lashNow(v)
		if !ok {
			continue
		}
		least, most, _ := p.reach(v)
		if p.f.Model.Drive == "rocker" {
			lash -= p.times(c)
		}
		now := in.Valves[i].StemHeight
		in.Valves[i].Stem = &plan.Range{Low: now + lash + least - high, High: now + lash + most - low}
	}
}

// words says why a valve is blocked; where the lash stands in the way of its stem height, it
// says that.
func (p *planner) words(b plan.Blocked, in plan.Input) string {
	v, ok := p.f.Layout.Valve(b.ID)
	if ok && p.lashBlocks(b.ID, in) {
		if lash, low, high, known := p.lashNow(v); known {
			_, most, present := p.reach(v)
			what := map[string]string{"bucket": "thinnest shim", "rocker": "shortest pushrod"}[p.f.Model.Drive]
			if present != 0 && lash+most < high {
				size := present - most
				if p.f.Model.Drive == "rocker" {
					size = slices.Min(append(lengths(p.sizes), present))
				}
				return fmt.Sprintf("%s: whatever is done inside the limits, its lash cannot be set: it is %s, and the %s to be had, %s, gives at most %s more; it must end at %s to %s", b.ID, lash, what, size, most, low, high)
			}
		}
	}
	if b.ID == "" {
		return b.Why
	}
	return b.ID + ": " + b.Why
}

// lashBlocks tells whether a valve would fit if its lash could be set for anything.
func (p *planner) lashBlocks(id string, in plan.Input) bool {
	i := slices.IndexFunc(in.Valves, func(v plan.Position) bool { return v.ID == id })
	in.Valves, in.Spread = []plan.Position{in.Valves[i]}, nil
	in.Valves[0].Stem = nil
	out, err := plan.Solve(in)
	return err == nil && out.Feasible
}

// schools names the schools that shaped the plan.
func (p *planner) schools() []string {
	var out []string
	for _, d := range SettingDefs {
		if d.School {
			said := strings.ToLower(d.Label) + ": " + p.set.Get(d.Name)
			if p.set.Overridden(d.Name) {
				said += " (this head)"
			}
			out = append(out, said)
		}
	}
	return out
}

// follow works out everything that hangs on an answer.
func (p *planner) follow(out *Planned) {
	out.Rows = p.rows(out.In, out.Out.Valves, out.Out.FaceCut)
	out.Lash = p.lash(out)
	for i := range out.Rows {
		for _, l := range out.Lash {
			if l.ID == out.Rows[i].ID && l.HasFigures {
				after := l.After
				if l.Source != "" {
					after = l.Set
				}
				out.Rows[i].Moves = append(out.Rows[i].Moves, p.move("lash", "Lash", l.Before, after, 0, p.sheet.Limit("lash", string(out.Rows[i].Role))))
			}
		}
	}
	for _, l := range out.Lash {
		if l.Impossible != "" {
			out.Refused = append(out.Refused, l.ID+": "+l.Impossible)
		}
		if l.Source == "order" {
			out.Bought++
		}
	}
	f := p.f
	ids := []string{}
	for _, v := range f.Layout.Valves {
		ids = append(ids, v.ID)
	}
	out.Ops = f.price(route.Derive(ids, p.decisions(*out), p.set.School()), p.set, p.stock, p.lead)
	out.Cents, out.Minutes = sum(out.Ops)
	out.Ready = ready(p.now, out.Ops)
	out.Life = p.life(out.Rows)
	if x, ok := f.Now.Feature("head.thickness"); ok && len(x.From) > 0 {
		out.Thick = p.move("head.thickness", "Thickness, least", x.Low, x.Low-out.Out.FaceCut, x.U, x.Limit)
	}
	for _, c := range f.Layout.Chambers {
		for _, r := range f.Counting("injector.protrusion", "C"+c.Name) {
			m := p.move("injector.protrusion", "Injector "+c.Name, r.Value.At, r.Value.At+out.Out.FaceCut, r.U, p.sheet.Limit("injector.protrusion", ""))
			out.Injector = append(out.Injector, m)
		}
	}
	out.Ratio = p.compression(*out)
}

func (p *planner) move(code, label string, now, after, u length.Length, l *judge.Limit) Move {
	m := Move{Code: code, Label: label, Now: now, After: after, Known: true, U: u, Limit: l}
	if l != nil {
		m.Verdict = gauge.Judge(gauge.Exact(after), u, gauge.Limit{Low: l.Low, High: l.High, Near: l.Near}).Verdict
	}
	return m
}

// strip are the figures of a position's strip, in order, with what the planner says of each.
var strip = []struct {
	code  string
	now   func(plan.Position) length.Length
	after func(plan.Done) length.Length
}{
	{"valve.recession", func(v plan.Position) length.Length { return v.Recession }, func(d plan.Done) length.Length { return d.Recession }},
	{"stem.height", func(v plan.Position) length.Length { return v.StemHeight }, func(d plan.Done) length.Length { return d.StemHeight }},
	{"spring.height", func(v plan.Position) length.Length { return v.SpringHeight }, func(d plan.Done) length.Length { return d.SpringHeight }},
	{"valve.margin", func(v plan.Position) length.Length { return v.Margin }, func(d plan.Done) length.Length { return d.Margin }},
}

// rows are the positions before and, when done says what is done, after.
func (p *planner) rows(in plan.Input, done []plan.Done, cut length.Length) []PlanRow {
	var out []PlanRow
	for i, v := range in.Valves {
		lv, _ := p.f.Layout.Valve(v.ID)
		row := PlanRow{ID: v.ID, Role: lv.Role}
		if done != nil {
			row.Done = done[i]
		}
		j, _ := p.f.Now.Position(v.ID)
		for _, x := range j.Features {
			if x.Verdict >= gauge.Doubt {
				row.Why = append(row.Why, strings.ToLower(x.Label)+": "+strings.TrimSuffix(x.Says(p.f.Unit), "."))
			}
		}
		for _, st := range strip {
			c, _ := judge.ByCode(st.code)
			if p.f.Mean(st.code, v.ID, "") == nil {
				continue
			}
			x, _ := j.Feature(st.code)
			after := st.now(v)
			if done != nil {
				after = st.after(done[i])
			}
			row.Moves = append(row.Moves, p.move(st.code, c.Label, st.now(v), after, x.U, p.sheet.Limit(st.code, string(lv.Role))))
		}
		if x, ok := j.Feature("guide.clearance"); ok && len(x.From) > 0 {
			after := x.High
			if done != nil && (x.Verdict >= gauge.Out || row.Done.Valve == "new") && x.Limit != nil && x.Limit.Low != nil && x.Limit.High != nil {
				after = p.clearanceTarget(*x.Limit, lv.Role)
			}
			row.Moves = append(row.Moves, p.move(x.Code, x.Label, x.High, after, x.U, x.Limit))
		}
		out = append(out, row)
	}
	return out
}

// clearanceTarget is the clearance a new guide is made for, by the shop's school.
func (p *planner) clearanceTarget(l judge.Limit, role layout.Role) length.Length {
	third := (*l.High - *l.Low) / 3
	if t := p.sheet.LimitOf("target", "guide.clearance", string(role)); t != nil && t.Low != nil && t.High != nil {
		return (*t.Low + *t.High) / 2
	}
	if p.set.Get("school.clearance") == "maker's middle" {
		return (*l.Low + *l.High) / 2
	}
	target := *l.Low + third/2
	if role == layout.Exhaust {
		target = *l.High - third
	}
	if len(p.f.Layout.Water) == 0 {
		target += third / 2 // air-cooled: looser
	}
	return min(target, *l.High-third/2)
}

// life names where the least room is left after the plan.
func (p *planner) life(rows []PlanRow) string {
	least, where := length.Max, ""
	for _, r := range rows {
		m := r.Move("valve.recession")
		if !m.Known || m.Limit == nil || m.Limit.High == nil {
			continue
		}
		if room := *m.Limit.High - m.After; room < least {
			least, where = room, r.ID
		}
	}
	if where == "" {
		return ""
	}
	return fmt.Sprintf("%s to sink before %s reaches its limit", least, where)
}

// lash sets the lash end to end: shims by exact assignment, pushrods one by one, or the
// adjuster's travel.
func (p *planner) lash(out *Planned) []LashRow {
	var rows []LashRow
	var in valvetrain.ShimsInput
	for i, d := range out.Out.Valves {
		v, _ := p.f.Layout.Valve(d.ID)
		lash, low, high, ok := p.lashNow(v)
		if !ok {
			continue
		}
		r := LashRow{ID: d.ID, Before: lash, Low: low, High: high, HasFigures: true}
		r.After = lash - (d.StemHeight - out.In.Valves[i].StemHeight)
		_, _, r.Present = p.reach(v)
		if p.f.Model.Drive == "rocker" {
			r.After -= p.times(out.Out.FaceCut)
			p.pushrod(&r)
		} else if r.Present != 0 && r.After >= low && r.After <= high {
			r.Size, r.Set, r.Source = r.Present, r.After, "kept" // what is inside is left alone
		} else if r.Present != 0 {
			in.Buckets = append(in.Buckets, valvetrain.Bucket{ID: d.ID, Lash: r.After, Shim: r.Present, Low: low, High: high, Aim: (low + high) / 2})
		}
		rows = append(rows, r)
	}
	if len(in.Buckets) == 0 {
		return rows
	}
	for _, it := range p.sizes {
		if n := p.stock.Free(it.ID); n > 0 {
			in.Stock = append(in.Stock, valvetrain.StockShim{Size: it.SizeNM, Count: int64(n)})
		}
		in.Orderable = append(in.Orderable, it.SizeNM)
	}
	set, err := valvetrain.Shims(in)
	for i := range rows {
		r := &rows[i]
		if r.Source != "" || r.Present == 0 {
			continue
		}
		if err != nil {
			r.Impossible = err.Error()
			continue
		}
		if slices.Contains(set.BlockedIDs, r.ID) {
			r.Impossible = fmt.Sprintf("no shim to be had gives a lash of %s to %s", r.Low, r.High)
		}
		for _, c := range set.Buckets {
			if c.ID == r.ID {
				r.Size, r.Set, r.Source = c.Shim, c.Lash, c.Source
			}
		}
		for _, it := range p.sizes {
			if it.SizeNM == r.Size {
				r.StockItemID = it.ID
			}
		}
	}
	return rows
}

// pushrod chooses a pushrod, or the adjuster where the lash can be set by it.
func (p *planner) pushrod(r *LashRow) {
	usual := length.Millimetre
	if len(p.sizes) > 0 {
		usual = 0
	}
	travel, middle := p.give("given.adjuster", "", usual), (r.Low+r.High)/2
	if d := (r.After - middle).Abs(); d <= travel {
		r.Source, r.Set, r.Size = "adjuster", middle, r.Present
		return
	}
	if r.Present == 0 {
		if r.After >= r.Low && r.After <= r.High {
			r.Source, r.Set = "as it is", r.After
			return
		}
		r.Impossible = fmt.Sprintf("the lash ends at %s, outside %s to %s, and the adjuster gives %s", r.After, r.Low, r.High, travel)
		return
	}
	in := valvetrain.PushrodInput{Lash: r.After, Ratio: big.NewRat(int64(p.ratio()), int64(length.Millimetre)), Present: r.Present, Low: r.Low - travel, High: r.High + travel}
	sizes := append(lengths(p.sizes), r.Present)
	for _, l := range sizes {
		in.Available = append(in.Available, valvetrain.Sized{Text: l.String(), Size: l})
	}
	out, err := valvetrain.Pushrod(in)
	if err != nil || out.Choice == nil {
		r.Impossible = fmt.Sprintf("the lash ends at %s; no pushrod from %s to %s brings it to %s to %s", r.After, slices.Min(sizes), slices.Max(sizes), r.Low, r.High)
		return
	}
	for i, l := range sizes {
		if l.String() == *out.Choice {
			r.Size, r.Set = l, min(max(out.Lash[i], r.Low), r.High) // the adjuster gives the rest
		}
	}
	r.Source = "kept"
	if r.Size != r.Present {
		r.Source = "order"
		for _, it := range p.sizes {
			if it.SizeNM == r.Size {
				r.StockItemID = it.ID
				if p.stock.Free(it.ID) > 0 {
					r.Source = "stock"
				}
			}
		}
	}
}

// compression is the ratio before and after, nil when the sheet does not give the engine.
func (p *planner) compression(out Planned) *engine.CompressionOutput {
	g := func(code string) length.Length { return p.give(code, "", 0) }
	rat := func(l length.Length) *big.Rat { return big.NewRat(int64(l), int64(length.Millimetre)) }
	in := engine.CompressionInput{Bore: g("given.bore"), Stroke: g("given.stroke"), Chamber: rat(g("given.chamber")), GasketBore: g("given.gasket_bore"), Gasket: g("given.gasket"), Deck: g("given.deck"), Piston: rat(g("given.piston")), FaceCut: out.Out.FaceCut, ChamberArea: rat(g("given.chamber_area"))}
	if in.Bore == 0 || in.Stroke == 0 || in.GasketBore == 0 || in.Chamber.Sign() == 0 {
		return nil
	}
	for i, d := range out.Out.Valves {
		v, _ := p.f.Layout.Valve(d.ID)
		if v.Cylinder == 1 {
			in.Valves = append(in.Valves, engine.ValveChange{Head: v.Head, RecessionChange: d.Recession - out.In.Valves[i].Recession + out.Out.FaceCut})
		}
	}
	res, err := engine.Compression(in)
	if err != nil {
		return nil
	}
	return &res
}

// doneCodes are the operations the planner's words stand for.
var doneCodes = map[string]string{"cut": "seat_cut", "insert": "seat_insert", "grind": "valve_grind", "new": "valve_new"}

// decisions are what a plan decides: its own actions, and for every other finding the repair
// of its list that goes with them, the cheapest otherwise.
func (p *planner) decisions(out Planned) []route.Decision {
	var ds []route.Decision
	add := func(code, position string) {
		if d := (route.Decision{Code: code, Position: position}); !slices.Contains(ds, d) {
			ds = append(ds, d)
		}
	}
	if out.Out.FaceCut > 0 {
		add("face", "")
	}
	for _, d := range out.Out.Valves {
		for _, what := range []string{d.Seat, d.Valve} {
			if code := doneCodes[what]; code != "" {
				add(code, d.ID)
			}
		}
		if d.TipGrind > 0 {
			add("tip_grind", d.ID)
		}
		if d.SpringShim > 0 {
			add("spring_shim", d.ID)
		}
	}
	for _, l := range out.Lash {
		if l.Source == "moved" || l.Source == "stock" || l.Source == "order" || l.Source == "adjuster" && (l.After < l.Low || l.After > l.High) {
			add("lash_set", l.ID)
		}
	}
	for key, code := range p.choices(out, ds) {
		x, _ := p.f.Now.Feature(key)
		if code != judge.Planned {
			add(code, x.Position)
		}
	}
	if p.renewed("renew.springs") || p.set.Get("school.springs") == "as a set" && slices.ContainsFunc(ds, func(d route.Decision) bool { return d.Code == "spring_new" }) {
		for _, v := range p.f.Layout.Valves {
			add("spring_new", v.ID)
		}
	}
	if p.renewed("renew.keepers") {
		for _, v := range p.f.Layout.Valves {
			add("keeper_new", v.ID)
		}
	}
	if p.renewed("renew.rotators") {
		for _, v := range p.f.Layout.Valves {
			add("rotator_new", v.ID)
		}
	}
	slices.SortFunc(ds, func(a, b route.Decision) int {
		return cmp.Or(cmp.Compare(a.Code, b.Code), cmp.Compare(a.Position, b.Position))
	})
	return ds
}

// moved are the findings a plan answers by its cuts, whatever it does.
var moved = []string{"valve.recession", "stem.height", "spring.height", "lash", "head.taper", "recession.spread", "injector.protrusion"}

// choices decides every finding that is out: by an action of the plan where the finding's
// list has it, as planned where its figures end inside, else by the usual repair. What is in
// doubt is left to the lead.
func (p *planner) choices(out Planned, ds []route.Decision) map[string]string {
	picks := map[string]string{}
	for _, x := range p.f.Now.Findings() {
		if x.Verdict == gauge.Doubt {
			continue
		}
		rs := judge.RepairsFor(x)
		for _, r := range rs {
			if slices.Contains(ds, route.Decision{Code: r.Code, Position: x.Position}) || slices.Contains(ds, route.Decision{Code: r.Code}) {
				picks[x.Key()] = r.Code
				break
			}
		}
		switch {
		case picks[x.Key()] != "":
		case slices.Contains(moved, x.Code):
			picks[x.Key()] = judge.Planned
		case len(rs) > 0:
			picks[x.Key()] = usualRepair(x, rs)
		}
	}
	return picks
}

// usualRepair is what is done about a finding the plan does not touch: a new guide rather
// than an oversize stem, else the cheapest.
func usualRepair(x judge.Feature, rs []judge.Repair) string {
	if x.Code == "guide.clearance" && x.Side == "high" {
		return "guide_new"
	}
	if x.Code == "spring.load_seat" && x.Side == "low" {
		return "spring_new"
	}
	return rs[0].Code
}

// sensitivity says what a little more or less off the face would change, up to a third of
// a millimetre more.
func (p *planner) sensitivity(out Planned) []string {
	if len(out.Ask.Seat)+len(out.Ask.Valve) > 0 && out.Ask.Cut == nil {
		return nil
	}
	var said []string
	base := treatment(out.Out)
	seen := map[string]bool{}
	for step := grid; step <= 300*length.Micrometre && len(said) < 4; step += grid {
		in := out.In
		in.Face.CutMin, in.Face.CutMax = out.Out.FaceCut+step, out.Out.FaceCut+step
		alt, err := p.solve(in)
		if err != nil {
			break
		}
		if !alt.Feasible {
			why := "no plan fits"
			if alt.Thickness {
				why = "the thickness falls below its least"
			} else if len(alt.Blocked) > 0 {
				why = p.words(alt.Blocked[0], in)
			}
			said = append(said, fmt.Sprintf("%s more off the face and nothing fits: %s.", step, why))
			break
		}
		for what, ids := range differs(base, treatment(alt)) {
			text := strings.Join(ids, ", ") + " " + what
			if !seen[what] {
				seen[what] = true
				said = append(said, fmt.Sprintf("%s more off the face and %s.", step, text))
			}
		}
	}
	return said
}

// treatment is what is done at each position.
func treatment(out plan.Output) map[string]string {
	t := map[string]string{}
	for _, d := range out.Valves {
		t[d.ID] = d.Seat + "/" + d.Valve
		if d.TipGrind > 0 {
			t[d.ID] += "/tip"
		}
	}
	return t
}

// differs names the positions that need something else, by what they need.
func differs(a, b map[string]string) map[string][]string {
	words := map[string]string{"insert": "need inserts", "cut": "need their seats cut deeper", "new": "need new valves", "grind": "need refacing", "tip": "need their tips ground"}
	out := map[string][]string{}
	for _, id := range slices.Sorted(maps.Keys(b)) {
		for _, part := range strings.Split(b[id], "/") {
			if words[part] != "" && !slices.Contains(strings.Split(a[id], "/"), part) {
				out[words[part]] = append(out[words[part]], id)
			}
		}
	}
	return out
}
