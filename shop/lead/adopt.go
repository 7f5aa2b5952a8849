package lead

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"yatai/core/answer"
	"yatai/core/cause"
	"yatai/core/field"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// KeepPlan keeps an answer as the head's next plan and decides the findings by it: what the
// plan does answers them, what it does not touch gets its usual repair, what is in doubt is
// left to the lead. A plan that cannot be done is refused.
func KeepPlan(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, ask headfile.PlanAsk,
) error {
	if err := a.Must("decide a repair"); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		if f.WorkOrderAt != nil {
			return field.Only("plan", "the work is ordered already")
		}
		ask.Brief = true
		out, err := planned(ctx, s, f, ask)
		if err != nil {
			return err
		}
		if !out.Feasible {
			return field.Only("plan", "this cannot be done: %s", strings.Join(out.Refused(), "; "))
		}
		return keep(s, tx, a, f, out)
	})
}

// keep keeps a plan as the head's next version and decides by it.
func keep(s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, out Planned) error {
	kept, err := tx.Plans(f.ID)
	if err != nil {
		return err
	}
	row := store.Plan{
		HeadID: f.ID, Version: len(kept) + 1, Name: out.Ask.Alternative, Cents: out.Cents, PersonID: a.ID,
		At: s.Now(),
	}
	for to, v := range map[*string]any{
		&row.Input: struct{ Ask headfile.PlanAsk }{out.Ask}, &row.Answer: answer.OfPlan(f.Subject, out.Plan),
		&row.Prints: f.Prints(),
	} {
		b, err := json.Marshal(v)
		if err != nil {
			return err
		}
		*to = string(b)
	}
	if err := tx.Add(&row); err != nil {
		return err
	}
	if err := decideBy(s, tx, a, f, out, row.Version); err != nil {
		return err
	}
	return s.Note(tx, a, f.ID, "plan kept",
		fmt.Sprintf("version %d, %s, facing %s", row.Version, out.Ask.Alternative, f.In().Text(out.FaceCut)))
}

// decideBy writes a plan's decisions.
func decideBy(s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, out Planned, version int) error {
	decide := func(feature, position, choice, figure string) error {
		if d, ok := f.Decision(feature); ok && d.Choice == choice && !byPlan(d) {
			return nil // somebody chose it
		}
		if err := tx.ReplaceDecision(f.ID, feature, s.Now()); err != nil {
			return err
		}
		return tx.Add(&store.Decision{
			HeadID:   f.ID,
			Feature:  feature,
			Position: position,
			Choice:   choice,
			Reason:   planReason + strconv.Itoa(version),
			Figure:   figure,
			PersonID: a.ID,
			At:       s.Now(),
		})
	}
	for _, d := range f.Decisions {
		if strings.HasPrefix(d.Feature, headfile.PlanKey) {
			if err := tx.ReplaceDecision(f.ID, d.Feature, s.Now()); err != nil {
				return err
			}
		}
	}
	answered := map[string]bool{}
	for _, key := range slices.Sorted(maps.Keys(out.Choices)) {
		x, _ := f.Now.Feature(key)
		if err := decide(key, x.Position, out.Choices[key], f.Figure(x)); err != nil {
			return err
		}
		answered[out.Choices[key]+"@"+x.Position] = true
	}
	for _, d := range out.Decisions {
		if answered[d.Code+"@"+d.Position] {
			continue
		}
		if err := decide(headfile.PlanKey+d.Code+"@"+d.Position, d.Position, d.Code, "by the plan"); err != nil {
			return err
		}
	}
	return nil
}

// Scrap decides that a head is not mended at all, with the lead's reason.
func Scrap(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, reason string) error {
	if err := a.Must("decide a repair"); err != nil {
		return err
	}
	errs := field.Errors{}
	reason = shop.Required(errs, "scrap", reason, "say why it is not worth mending", 300)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		if f.WorkOrderAt != nil {
			return field.Only("scrap", "the work is ordered already")
		}
		decide := func(feature, position, choice, figure string) error {
			if err := tx.ReplaceDecision(f.ID, feature, s.Now()); err != nil {
				return err
			}
			return tx.Add(&store.Decision{
				HeadID:   f.ID,
				Feature:  feature,
				Position: position,
				Choice:   choice,
				Reason:   "scrapped: " + reason,
				Figure:   figure,
				PersonID: a.ID,
				At:       s.Now(),
			})
		}
		for _, x := range f.Received.Findings() {
			if err := decide(x.Key(), x.Position, trade.Leave, f.Figure(x)); err != nil {
				return err
			}
		}
		if err := decide(headfile.PlanKey+"scrap@", "", "scrap", reason); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "scrap decided", reason)
	})
}

// Causes weighs why the head failed, with what people have said of each.
func Causes(ctx context.Context, s *shop.Shop, f *headfile.File) ([]CauseRow, error) {
	calls, err := s.Store.Read(ctx).CauseCalls(f.ID)
	if err != nil {
		return nil, err
	}
	said := map[string]store.CauseCall{}
	for _, c := range calls {
		said[c.Cause] = c
	}
	var out []CauseRow
	listed := map[string]bool{}
	received := f.Subject.Until(headfile.AsReceived)
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
func CallCause(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, code, state, note string,
) error {
	if err := a.Must("call a cause"); err != nil {
		return err
	}
	errs := field.Errors{}
	note = shop.Optional(errs, "note/"+code, note, 300)
	if !slices.Contains([]string{"confirmed", "rejected", "open"}, state) {
		errs.Addf("note/"+code, "confirm it, reject it or leave it open")
	}
	if err := errs.Err(); err != nil {
		return err
	}
	if trade.CauseNamed(code) == nil {
		return shop.ErrNotFound
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		if err := tx.Add(
			&store.CauseCall{HeadID: f.ID, Cause: code, State: state, Note: note, PersonID: a.ID, At: s.Now()},
		); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "cause "+state, trade.CauseNamed(code).Name)
	})
}
