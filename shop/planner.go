package shop

import (
	"slices"
	"strings"
	"time"

	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/route"
	"yatai/core/surface"
	"yatai/core/valvetrain"
	"yatai/store"
)

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
	sizes []store.StockItem     // shims or pushrods to be had
	rise  map[string]plan.Range // by valve: see rises
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
	p.rise = p.rises()
	return p, nil
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
			r.NewValve = &valvetrain.NewValve{Margin: nm, LengthChange: p.give("given.new_tip", string(role), 0), GrooveChange: p.give("given.new_groove", string(role), 0)}
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
