package shop

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"yatai/core/cause"
	"yatai/core/field"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/store"
)

// KeptPlan is a version of a head's plan with its frozen inputs and how far the head has
// moved away from them.
type KeptPlan struct {
	store.Plan
	Ask   PlanAsk
	In    plan.Input
	Out   plan.Output
	Stale []string // what differs from what it was made from, in words
}

// prints are the figures a plan is made from, by what and where.
func prints(in plan.Input) map[string]length.Length {
	p := map[string]length.Length{"thickness": in.Face.Thickness, "least facing cut": in.Face.CutMin}
	for _, v := range in.Valves {
		p[v.ID+" recession"], p[v.ID+" stem height"], p[v.ID+" spring height"], p[v.ID+" margin"] = v.Recession, v.StemHeight, v.SpringHeight, v.Margin
	}
	return p
}

// KeepPlan keeps an answer as the head's next plan and decides the findings by it: what the
// plan does answers them, what it does not touch gets its usual repair, what is in doubt is
// left to the lead. A plan that cannot be done is refused.
func (s *Shop) KeepPlan(ctx context.Context, a Actor, writeID, tag string, ask PlanAsk) error {
	if err := a.must("decide a repair"); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, f *File) error {
		if f.WorkOrderAt != nil {
			return field.Errors{"plan": "the work is ordered already"}
		}
		p, err := s.planner(tx, f)
		if err != nil {
			return err
		}
		out := p.answer(ask)
		if !out.Feasible() {
			return field.Errors{"plan": "this cannot be done: " + strings.Join(append(out.Missing, out.Refused...), "; ")}
		}
		kept, err := tx.Plans(f.ID)
		if err != nil {
			return err
		}
		row := store.Plan{HeadID: f.ID, Version: len(kept) + 1, Name: out.Ask.Alternative, Cents: out.Cents, PersonID: a.ID, At: s.now()}
		for to, v := range map[*string]any{&row.Input: struct {
			Ask PlanAsk
			In  plan.Input
		}{out.Ask, out.In}, &row.Answer: out.Out, &row.Prints: prints(out.In)} {
			b, err := json.Marshal(v)
			if err != nil {
				return err
			}
			*to = string(b)
		}
		if err := tx.Add(&row); err != nil {
			return err
		}
		if err := s.decideBy(tx, a, f, p, out, row.Version); err != nil {
			return err
		}
		return s.note(tx, a, f.ID, "plan kept", fmt.Sprintf("version %d, %s, facing %s", row.Version, out.Ask.Alternative, out.Out.FaceCut))
	})
}

// PlanKey begins the feature of a decision that comes from a plan and answers no finding.
const PlanKey = "plan/"

// decideBy writes a plan's decisions.
func (s *Shop) decideBy(tx store.DB, a Actor, f *File, p *planner, out Planned, version int) error {
	decide := func(feature, position, choice, figure string) error {
		if err := tx.ReplaceDecision(f.ID, feature, s.now()); err != nil {
			return err
		}
		return tx.Add(&store.Decision{HeadID: f.ID, Feature: feature, Position: position, Choice: choice, Reason: fmt.Sprintf("plan %d", version), Figure: figure, PersonID: a.ID, At: s.now()})
	}
	for _, d := range f.Decisions {
		if strings.HasPrefix(d.Feature, PlanKey) {
			if err := tx.ReplaceDecision(f.ID, d.Feature, s.now()); err != nil {
				return err
			}
		}
	}
	ds := p.decisions(out)
	answered := map[string]bool{}
	picks := p.choices(out, ds)
	for _, key := range slices.Sorted(maps.Keys(picks)) {
		x, _ := f.Now.Feature(key)
		if err := decide(key, x.Position, picks[key], f.figure(x)); err != nil {
			return err
		}
		answered[picks[key]+"@"+x.Position] = true
	}
	for _, d := range ds {
		if answered[d.Code+"@"+d.Position] {
			continue
		}
		if err := decide(PlanKey+d.Code+"@"+d.Position, d.Position, d.Code, "by the plan"); err != nil {
			return err
		}
	}
	return nil
}

// Scrap decides that a head is not mended at all, with the lead's reason.
func (s *Shop) Scrap(ctx context.Context, a Actor, writeID, tag, reason string) error {
	if err := a.must("decide a repair"); err != nil {
		return err
	}
	errs := field.Errors{}
	reason = required(errs, "scrap", reason, "say why it is not worth mending", 300)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, f *File) error {
		if f.WorkOrderAt != nil {
			return field.Errors{"scrap": "the work is ordered already"}
		}
		decide := func(feature, position, choice, figure string) error {
			if err := tx.ReplaceDecision(f.ID, feature, s.now()); err != nil {
				return err
			}
			return tx.Add(&store.Decision{HeadID: f.ID, Feature: feature, Position: position, Choice: choice, Reason: "scrapped: " + reason, Figure: figure, PersonID: a.ID, At: s.now()})
		}
		for _, x := range f.Received.Findings() {
			if err := decide(x.Key(), x.Position, judge.Leave, f.figure(x)); err != nil {
				return err
			}
		}
		if err := decide(PlanKey+"scrap@", "", "scrap", reason); err != nil {
			return err
		}
		return s.note(tx, a, f.ID, "scrap decided", reason)
	})
}

// Plans lists a head's plans, the newest first, each with what has changed since.
func (s *Shop) Plans(ctx context.Context, f *File) ([]KeptPlan, error) {
	db := s.st.Read(ctx)
	rows, err := db.Plans(f.ID)
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	p, err := s.planner(db, f)
	if err != nil {
		return nil, err
	}
	var out []KeptPlan
	for _, r := range rows {
		k := KeptPlan{Plan: r}
		var in struct {
			Ask PlanAsk
			In  plan.Input
		}
		then := map[string]length.Length{}
		for from, to := range map[string]any{r.Input: &in, r.Answer: &k.Out, r.Prints: &then} {
			if err := json.Unmarshal([]byte(from), to); err != nil {
				return nil, fmt.Errorf("plan %d of %s: %w", r.Version, f.Tag, err)
			}
		}
		k.Ask, k.In = in.Ask, in.In
		present, _ := p.input(k.Ask)
		now := prints(present)
		for _, what := range slices.Sorted(maps.Keys(then)) {
			if now[what] != then[what] {
				k.Stale = append(k.Stale, fmt.Sprintf("%s was %s, is %s", what, then[what], now[what]))
			}
		}
		out = append(out, k)
	}
	return out, nil
}

// Causes weighs why the head failed, with what people have said of each.
func (s *Shop) Causes(ctx context.Context, f *File) ([]CauseRow, error) {
	calls, err := s.st.Read(ctx).CauseCalls(f.ID)
	if err != nil {
		return nil, err
	}
	said := map[string]store.CauseCall{}
	for _, c := range calls {
		said[c.Cause] = c
	}
	var out []CauseRow
	listed := map[string]bool{}
	for _, w := range cause.Weigh(f.Evidence()) {
		out = append(out, CauseRow{w, said[w.Code]})
		listed[w.Code] = true
	}
	for _, c := range calls { // confirmed without a sign: somebody knows better
		if k, ok := cause.Named(c.Cause); ok && !listed[c.Cause] && said[c.Cause].State == "confirmed" {
			out = append(out, CauseRow{cause.Weighed{Cause: k}, c})
			listed[c.Cause] = true
		}
	}
	return out, nil
}

// CauseRow is a cause weighed, with the last word on it.
type CauseRow struct {
	cause.Weighed
	Call store.CauseCall
}

// Evidence collects what the head says of its failure.
func (f *File) Evidence() cause.Evidence {
	e := cause.Evidence{Judgement: f.Received, Guides: map[string][]judge.Reading{}, Story: f.Job.Story + " " + f.Job.CameWith + " " + f.Marks, Fuel: f.Model.About}
	for _, v := range f.Layout.Valves {
		e.Guides[v.ID] = f.Counting("guide.bore", v.ID)
		for _, c := range f.Tray(v.ID) {
			e.WrongPart = e.WrongPart || strings.HasPrefix(c.Trust, "not what was ordered")
		}
	}
	for _, x := range f.Now.All() {
		if h, held := x.Against("new"); held && h.Verdict.String() == "out" && f.Job.Kind == "bought-in" {
			e.WrongPart = true
		}
	}
	return e
}

// CallCause confirms or rejects a cause, or takes that back.
func (s *Shop) CallCause(ctx context.Context, a Actor, writeID, tag, code, state, note string) error {
	if err := a.must("call a cause"); err != nil {
		return err
	}
	errs := field.Errors{}
	note = optional(errs, "note/"+code, note, 300)
	if !slices.Contains([]string{"confirmed", "rejected", "open"}, state) {
		errs.Addf("note/"+code, "confirm it, reject it or leave it open")
	}
	if err := errs.Err(); err != nil {
		return err
	}
	if _, ok := cause.Named(code); !ok {
		return ErrNotFound
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, f *File) error {
		if err := tx.Add(&store.CauseCall{HeadID: f.ID, Cause: code, State: state, Note: note, PersonID: a.ID, At: s.now()}); err != nil {
			return err
		}
		return s.note(tx, a, f.ID, "cause "+state, code)
	})
}
