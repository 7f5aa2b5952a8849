package shop

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"yatai/core/answer"
	"yatai/core/cause"
	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/store"
)

// KeptPlan is a version of a head's plan with what it answered and how far the head has
// moved away from what it was made from.
type KeptPlan struct {
	store.Plan
	Ask   PlanAsk
	Out   answer.PlanAnswer
	Stale []string // what differs from what it was made from, in words
}

// Valve returns what the plan does at a position.
func (k KeptPlan) Valve(id string) (answer.ValveAnswer, bool) {
	i := slices.IndexFunc(k.Out.Valves, func(v answer.ValveAnswer) bool { return v.ID == id })
	if i < 0 {
		return answer.ValveAnswer{}, false
	}
	return k.Out.Valves[i], true
}

// printed are the characteristics a plan is made from.
var printed = []*trade.Characteristic{trade.Recession, trade.StemHeight, trade.SpringHeight, trade.ValveMargin, trade.Lash, trade.LashDry, trade.ShimSize, trade.PushrodLength, trade.GuideBore, trade.Stem, trade.SpringPad, trade.Thickness, trade.Injector, trade.FaceLine, trade.FaceGrid}

// sheetPrint names the version of the limits among what a plan is made from.
const sheetPrint = "limit sheet version"

// prints are what a plan is made from, by what and where: the readings, the version of the
// limits, the stock's prices and counts.
func (f *File) prints() map[string]length.Length {
	out := map[string]length.Length{sheetPrint: length.Length(f.Sheet.Version)}
	for _, c := range printed {
		for _, at := range c.Positions(f.Layout) {
			for _, r := range f.Subject.Reads(c.Code, at) {
				v := r.Value.At
				if r.Value.Bracket {
					v = r.Value.NoGo
				}
				out[strings.ToLower(c.Label)+" "+r.Spot.Key()] = v
			}
		}
	}
	for _, s := range f.Subject.Stock {
		if s.Price != nil {
			out["price of "+s.Name] = length.Length(*s.Price)
		}
		if s.Kind == trade.LashShimPart.Code || s.Kind == trade.PushrodPart.Code {
			out["count of "+s.Name] = length.Length(s.Count)
		}
	}
	return out
}

// differs says in words how a print has changed.
func differs(what string, then, now length.Length) string {
	switch {
	case what == sheetPrint, strings.HasPrefix(what, "count of "):
		return fmt.Sprintf("%s was %d, is %d", what, then, now)
	case strings.HasPrefix(what, "price of "):
		return fmt.Sprintf("%s was %s, is %s", what, Cash(int64(then)), Cash(int64(now)))
	}
	return fmt.Sprintf("%s was %s, is %s", what, then, now)
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
		ask.Brief = true
		out, err := s.answer(ctx, f, ask)
		if err != nil {
			return err
		}
		if !out.Feasible {
			return field.Errors{"plan": "this cannot be done: " + strings.Join(out.Refused(), "; ")}
		}
		kept, err := tx.Plans(f.ID)
		if err != nil {
			return err
		}
		row := store.Plan{HeadID: f.ID, Version: len(kept) + 1, Name: out.Ask.Alternative, Cents: out.Cents, PersonID: a.ID, At: s.now()}
		for to, v := range map[*string]any{&row.Input: struct{ Ask PlanAsk }{out.Ask}, &row.Answer: answer.OfPlan(f.Subject, out.Plan), &row.Prints: f.prints()} {
			b, err := json.Marshal(v)
			if err != nil {
				return err
			}
			*to = string(b)
		}
		if err := tx.Add(&row); err != nil {
			return err
		}
		if err := s.decideBy(tx, a, f, out, row.Version); err != nil {
			return err
		}
		return s.note(tx, a, f.ID, "plan kept", fmt.Sprintf("version %d, %s, facing %s", row.Version, out.Ask.Alternative, out.FaceCut))
	})
}

// PlanKey begins the feature of a decision that comes from a plan and answers no finding.
const PlanKey = "plan/"

// decideBy writes a plan's decisions.
func (s *Shop) decideBy(tx store.DB, a Actor, f *File, out Planned, version int) error {
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
	answered := map[string]bool{}
	for _, key := range slices.Sorted(maps.Keys(out.Choices)) {
		x, _ := f.Now.Feature(key)
		if err := decide(key, x.Position, out.Choices[key], f.figure(x)); err != nil {
			return err
		}
		answered[out.Choices[key]+"@"+x.Position] = true
	}
	for _, d := range out.Decisions {
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
			if err := decide(x.Key(), x.Position, trade.Leave, f.figure(x)); err != nil {
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
	return s.plans(s.st.Read(ctx), f)
}

func (s *Shop) plans(db store.DB, f *File) ([]KeptPlan, error) {
	rows, err := db.Plans(f.ID)
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	now := f.prints()
	var out []KeptPlan
	for _, r := range rows {
		k := KeptPlan{Plan: r}
		var in struct{ Ask PlanAsk }
		then := map[string]length.Length{}
		for from, to := range map[string]any{r.Input: &in, r.Answer: &k.Out, r.Prints: &then} {
			if err := json.Unmarshal([]byte(from), to); err != nil {
				return nil, fmt.Errorf("plan %d of %s: %w", r.Version, f.Tag, err)
			}
		}
		k.Ask = in.Ask
		if _, ours := then[sheetPrint]; !ours {
			k.Stale = append(k.Stale, "it was made by an earlier program: work it out again")
			then = nil
		}
		for _, what := range slices.Sorted(maps.Keys(then)) {
			if now[what] != then[what] {
				k.Stale = append(k.Stale, differs(what, then[what], now[what]))
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
	received := f.Subject.Until(AsReceived)
	for _, w := range cause.Weigh(received, f.Received) {
		out = append(out, CauseRow{w, said[w.Code]})
		listed[w.Code] = true
	}
	for _, c := range calls { // confirmed without a sign: somebody knows better
		if k := trade.CauseNamed(c.Cause); k != nil && !listed[c.Cause] && said[c.Cause].State == "confirmed" {
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
	if trade.CauseNamed(code) == nil {
		return ErrNotFound
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, f *File) error {
		if err := tx.Add(&store.CauseCall{HeadID: f.ID, Cause: code, State: state, Note: note, PersonID: a.ID, At: s.now()}); err != nil {
			return err
		}
		return s.note(tx, a, f.ID, "cause "+state, code)
	})
}
