package lead

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"

	"yatai/core/answer"
	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// CutOffer is a facing cut worth trying, and what it is for.
type CutOffer struct {
	Cut  length.Length
	Says string
}

// Planned is a worked-out plan as its page shows it.
type Planned struct {
	plan.Plan
	Ask     headfile.PlanAsk
	Offers  []CutOffer
	Most    length.Length // the largest cut that can be tried
	Ready   time.Time
	Life    words.Text // where the least room is left
	Changes []string   // what a little more off the face would change, in words
	Thick   *plan.Figure
	Own     []*plan.Figure // of the head, the thickness apart
	Lash    []LashRow
	Pair    []string // the other heads of the order
	School  []words.Text
	Lacking string // what has a limit and is not known after it
}

// CanTilt tells whether less would come off the face with the head tilted to its best plane.
func (p Planned) CanTilt() bool { return p.Tilt != nil || p.Face.Tilted != nil }

// LashRow is how a position's lash is set by the plan.
type LashRow struct {
	ID, From      string
	Before, After length.Length
	Present, Size *length.Length // shim or pushrod fitted, and what goes in
}

// Changed lists the valves at which something is done.
func (p Planned) Changed() []plan.Valve {
	return slices.DeleteFunc(slices.Clone(p.Valves), func(v plan.Valve) bool { return !v.Changes() })
}

// Kept lists the valves that stay as they are.
func (p Planned) Kept() []plan.Valve {
	return slices.DeleteFunc(slices.Clone(p.Valves), plan.Valve.Changes)
}

// Count tells at how many positions something is done: cut, insert, grind, new, guide.
func (p Planned) Count(what string) int {
	n := 0
	for _, v := range p.Valves {
		if v.Seat == what || v.Valve == what || what == "guide" && v.Guide != "keep" ||
			what == "tip" && v.TipGrind > 0 {
			n++
		}
	}
	return n
}

// Label names the plan's alternative.
func (p Planned) Label() string {
	for _, a := range plan.Alternatives {
		if a.Code == p.Plan.Ask.Alternative {
			return a.Label
		}
	}
	return p.Plan.Ask.Alternative
}

// Refused says why it cannot be done.
func (p Planned) Refused() []string {
	var out []string
	for _, b := range p.Blocked {
		out = append(out, strings.TrimPrefix(b.ID+": "+b.Why, ": "))
	}
	return out
}

// planned works a question out for a file that has its stock.
func planned(ctx context.Context, s *shop.Shop, f *headfile.File, ask headfile.PlanAsk) (Planned, error) {
	p, err := headfile.Solve(ctx, s, f, ask.Core())
	if err != nil {
		return Planned{}, err
	}
	out := Planned{
		Plan: p, Ask: ask, Ready: f.Workdays(s.Now(), p.Days), School: Schools(f.Subject),
		Lacking: lacking(f, p),
	}
	out.Ask.Alternative = p.Ask.Alternative
	out.Offers, out.Most = offers(p)
	for i := range p.Own {
		if x := &p.Own[i]; x.Code == trade.Thickness.Code {
			out.Thick = x
		} else {
			out.Own = append(out.Own, x)
		}
	}
	for _, v := range p.Valves {
		x := v.Figure(trade.Lash.Code)
		if f.Subject.Model.Kind.Hydraulic() {
			x = v.Figure(trade.LashDry.Code)
		}
		if x != nil && x.Limit != nil && x.Read {
			row := LashRow{ID: v.ID, From: v.From, Before: x.Now.Length(), After: x.After.Length(), Size: v.Size}
			for _, c := range []*trade.Characteristic{trade.ShimSize, trade.PushrodLength} {
				if m := f.Mean(c.Code, v.ID, ""); m != nil {
					row.Present = quantity.AsLength(m)
				}
			}
			out.Lash = append(out.Lash, row)
		}
	}
	out.Life = life(p, f.In())
	if !ask.Brief && p.Feasible {
		out.Changes, err = sensitivity(ctx, s, f, out)
	}
	return out, err
}

// mostLacking is how many of what is not known are named.
const mostLacking = 4

// lacking names what has a limit and is not known after the plan.
func lacking(f *headfile.File, p plan.Plan) string {
	var out []string
	for _, key := range p.Unread {
		if x, ok := f.Now.Feature(key); ok {
			out = append(out, strings.TrimSpace(x.Position+" "+strings.ToLower(x.Label)))
		}
	}
	if n := len(out); n > mostLacking {
		out = append(out[:mostLacking], fmt.Sprintf("%d more", n-mostLacking))
	}
	return strings.Join(out, ", ")
}

// Schools says which way of the schools a head goes, for a plan's and a sheet's foot.
func Schools(h *head.Head) []words.Text {
	var out []words.Text
	for _, t := range trade.Settings {
		if t.School && t.Name != "school.averaging" {
			out = append(out, words.Of("%s: %s", words.Mid(t.Label), words.Of(h.Setting(t.Name))))
		}
	}
	return out
}

// offers are facing cuts worth trying.
func offers(p plan.Plan) ([]CutOffer, length.Length) {
	var out []CutOffer
	if len(p.Cuts) == 0 {
		return nil, p.Face.Cut
	}
	first, last := p.Cuts[0], p.Cuts[len(p.Cuts)-1]
	if first == 0 {
		out = append(out, CutOffer{0, "as it is"})
	}
	if p.Face.Cut > 0 {
		out = append(out, CutOffer{first, "cleans up: " + p.Face.Says})
	}
	if last > first {
		out = append(out, CutOffer{last, "the most that may come off"})
	}
	return out, last
}

// life names where the least room is left after the plan.
func life(p plan.Plan, u length.Unit) words.Text {
	least, where := length.Max, ""
	for _, v := range p.Valves {
		x := v.Figure(trade.Recession.Code)
		if x == nil || !x.Known || x.Limit == nil || x.Limit.High == nil {
			continue
		}
		if room := (*x.Limit.High - x.After).Length(); room < least {
			least, where = room, v.ID
		}
	}
	if where == "" {
		return words.Text{}
	}
	return words.Of("%s to sink before %s reaches its limit", u.Text(least), where)
}

// more is how much more off the face is tried, in steps, to say what it would change.
const (
	more     = 300 * length.Micrometre
	moreStep = 50 * length.Micrometre
)

// sensitivity says what a little more off the face would change.
func sensitivity(ctx context.Context, s *shop.Shop, f *headfile.File, base Planned) ([]string, error) {
	if len(base.Ask.Hold) > 0 && base.Ask.Cut == nil {
		return nil, nil
	}
	var said []string
	was, seen := treatments(base.Plan), map[string]bool{}
	for step := moreStep; step <= more && len(said) < 4; step += moreStep {
		ask := base.Ask.Core()
		cut := base.FaceCut + step
		ask.FaceCut = &cut
		alt, err := plan.Judged(ctx, f.Subject, f.Now, ask)
		if err != nil {
			return nil, err
		}
		if !alt.Feasible {
			why := "no plan fits"
			if len(alt.Blocked) > 0 {
				why = strings.TrimPrefix(alt.Blocked[0].ID+": "+alt.Blocked[0].Why, ": ")
			}
			return append(said, fmt.Sprintf("%s more off the face and nothing fits: %s.", f.In().Text(step), why)), nil
		}
		now := treatments(alt)
		for what, ids := range now {
			added := slices.DeleteFunc(slices.Clone(ids),
				func(id string) bool { return slices.Contains(was[what], id) })
			if len(added) > 0 && !seen[what] {
				seen[what] = true
				said = append(said, fmt.Sprintf("%s more off the face: %s for %s.", f.In().Text(step), what,
					strings.Join(added, ", ")))
			}
		}
	}
	slices.Sort(said)
	return said, nil
}

// treatments are the repairs that are done, a shop's own among them, with the positions.
func treatments(p plan.Plan) map[string][]string {
	out := map[string][]string{}
	for _, d := range p.Decisions {
		if r := trade.RepairNamed(d.Code); r != nil && d.Position != "" {
			name := words.Lower(r.Does.Name)
			out[name] = append(out[name], d.Position)
		}
	}
	return out
}

// Plan works out an answer for a head. It writes nothing.
func Plan(ctx context.Context, s *shop.Shop, f *headfile.File, ask headfile.PlanAsk) (Planned, error) {
	db := s.Store.Read(ctx)
	out, err := planned(ctx, s, f, ask)
	if err != nil {
		return out, err
	}
	out.Pair, err = pair(s, db, f, out.FaceCut)
	return out, err
}

// apart is how much the heads of one order may be faced differently before it is worth a word.
const apart = 50 * length.Micrometre

// pair says how the other heads of the order are faced: a pair is kept alike.
func pair(s *shop.Shop, db store.DB, f *headfile.File, cut length.Length) ([]string, error) {
	heads, err := db.HeadsOfJob(f.JobID)
	if err != nil {
		return nil, err
	}
	var out []string
	for _, h := range heads {
		if h.ID == f.ID {
			continue
		}
		said := strings.TrimSpace(h.Tag+" "+h.Which()) + ": no plan yet"
		plans, err := db.Plans(h.ID)
		if err != nil {
			return nil, err
		}
		var a answer.PlanAnswer
		if len(plans) > 0 && json.Unmarshal([]byte(plans[0].Answer), &a) == nil {
			said = strings.TrimSpace(h.Tag+" "+h.Which()) + ": its plan faces it by " + a.FaceCut.String()
			if (a.FaceCut - cut).Abs() > apart {
				said += ", a pair is faced alike"
			}
		}
		out = append(out, said)
	}
	return out, nil
}

// Compare works out every alternative for a head, side by side.
func Compare(ctx context.Context, s *shop.Shop, f *headfile.File) ([]Planned, error) {
	out, errs := make([]Planned, len(plan.Alternatives)), make([]error, len(plan.Alternatives))
	var all sync.WaitGroup
	for i, a := range plan.Alternatives { // a plan only reads: each answers by itself
		all.Go(func() { out[i], errs[i] = planned(ctx, s, f, headfile.PlanAsk{Alternative: a.Code, Brief: true}) })
	}
	all.Wait()
	for _, err := range errs {
		if err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Ways works out the alternatives to a plan, side by side, and what a little more off the face
// than it takes would change.
func Ways(
	ctx context.Context, s *shop.Shop, f *headfile.File, p Planned,
) (others []Planned, changes []string, err error) {
	if others, err = Compare(ctx, s, f); err != nil || !p.Feasible {
		return others, nil, err
	}
	changes, err = sensitivity(ctx, s, f, p)
	return others, changes, err
}

// mostReadings is how many readings worth taking once more are named.
const mostReadings = 3

// Readings names what would be worth reading once more before the plan is taken, the best first,
// with what it is worth: on average, in the shop's money.
func Readings(ctx context.Context, s *shop.Shop, f *headfile.File, p Planned) ([]plan.Worth, error) {
	if !p.Feasible {
		return nil, nil
	}
	all, err := plan.Worths(ctx, f.Subject, f.Now, p.Plan)
	return all[:min(mostReadings, len(all))], err
}

// Replacement is a head that could be had instead of mending this one.
type Replacement struct {
	store.StockItem
	Days  int
	Known bool  // whether the supplier said how long it takes
	Share int64 // the plan's price of its, percent
	Asks  bool  // above the shop's threshold: somebody has to answer
}

// Replacements lists what could be had instead, against what a plan costs.
func Replacements(ctx context.Context, s *shop.Shop, f *headfile.File, cents int64) ([]Replacement, error) {
	db := s.Store.Read(ctx)
	st, err := headfile.LoadStock(db)
	if err != nil {
		return nil, err
	}
	values, err := db.Settings()
	if err != nil {
		return nil, err
	}
	set := shop.SettingsFor(values, f.Tag)
	var out []Replacement
	for _, it := range st.Items {
		if it.ModelID != f.ModelID || it.Kind != "exchange head" && it.Kind != "used head" || it.PriceCents == 0 {
			continue
		}
		r := Replacement{StockItem: it, Share: cents * 100 / it.PriceCents}
		r.Days, r.Known = headfile.Supply(it)
		r.Asks = it.Kind == "exchange head" && cents*1_000_000 > it.PriceCents*set.PPM("threshold")
		out = append(out, r)
	}
	return out, nil
}
