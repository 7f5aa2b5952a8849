package shop

import (
	"cmp"
	"fmt"
	"maps"
	"math/big"
	"slices"
	"strings"

	"yatai/core/engine"
	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/route"
	"yatai/store"
)

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
	if out.Ratio = p.compression(*out); out.Ratio != nil {
		out.Gasket = p.gasket(out.Ratio.GasketRestore)
	}
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
			m := p.move(x.Code, x.Label, x.High, after, x.U, x.Limit)
			if x.Limit != nil && x.Limit.Low != nil && x.Limit.High != nil {
				t := p.clearanceTarget(*x.Limit, lv.Role)
				m.Target = &t
			}
			row.Moves = append(row.Moves, m)
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

// gasket names the grade of the stock list that restores the ratio: the thinnest that is not
// thinner than wanted, or the thickest there is.
func (p *planner) gasket(want length.Length) string {
	var best store.StockItem
	for _, it := range p.stock.sizes("gasket", p.f.ModelID) {
		better := it.SizeNM >= want && (best.SizeNM < want || it.SizeNM < best.SizeNM) || best.SizeNM < want && it.SizeNM > best.SizeNM
		if best.ID == 0 || better {
			best = it
		}
	}
	if best.ID == 0 {
		return ""
	}
	if best.SizeNM < want {
		return best.Name + ", the thickest there is: the ratio stays higher"
	}
	return best.Name
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
