package shop

import (
	"context"
	"maps"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/judge"
	"yatai/core/route"
	"yatai/store"
)

// Choice is what is decided about one finding.
type Choice struct {
	Choice string // a repair's code, or judge.Leave
	Reason string // needed for Leave
}

// figure freezes what a feature said at the moment somebody decided or signed.
func (f *File) figure(x judge.Feature) string {
	return x.Verdict.Label() + ". " + x.Why(f.Unit)
}

// Decide writes decisions for findings, by feature key; a decision replaces an earlier
// one on the same finding. Errors are keyed by the feature.
func (s *Shop) Decide(ctx context.Context, a Actor, writeID, tag string, choices map[string]Choice) error {
	if err := a.must("decide a repair"); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, file *File) error {
		errs := field.Errors{}
		if file.WorkOrderAt != nil {
			errs.Addf("work_order", "the work is ordered already")
		}
		for _, key := range slices.Sorted(maps.Keys(choices)) {
			c := choices[key]
			c.Reason = optional(errs, key, c.Reason, 400)
			x, ok := file.Received.Feature(key)
			if !ok {
				return ErrNotFound
			}
			if _, known := judge.RepairNamed(x, c.Choice); !known && c.Choice != judge.Leave && c.Choice != judge.Planned {
				errs.Addf(key, "choose a repair, or leave it and say why")
			}
			if c.Choice == judge.Leave && c.Reason == "" {
				errs.Addf(key, "say why it may be left")
			}
			if d, had := file.Decision(key); had && d.Choice == c.Choice && d.Reason == c.Reason || len(errs) > 0 {
				continue
			}
			if err := tx.ReplaceDecision(file.ID, key, s.now()); err != nil {
				return err
			}
			if err := tx.Add(&store.Decision{HeadID: file.ID, Feature: key, Position: x.Position, Choice: c.Choice, Reason: c.Reason, Figure: file.figure(x), PersonID: a.ID, At: s.now()}); err != nil {
				return err
			}
			if err := s.note(tx, a, file.ID, "decided", key+": "+c.Choice); err != nil {
				return err
			}
		}
		return errs.Err()
	})
}

// OrderWork makes the work order from the decisions: the operations, in order, with
// stations and minutes. Every finding needs its decision first.
func (s *Shop) OrderWork(ctx context.Context, a Actor, writeID, tag string) error {
	if err := a.must("decide a repair"); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, file *File) error {
		if file.WorkOrderAt != nil {
			return field.Errors{"work_order": "the work is ordered already"}
		}
		if open := file.undecided(); len(open) > 0 {
			return field.Errors{"work_order": plural(len(open), "finding") + " without a decision: " + strings.Join(open, ", ")}
		}
		var ops []store.Operation
		values, err := tx.Settings()
		if err != nil {
			return err
		}
		for i, o := range route.Derive(file.positions(), append(file.decided(), file.Approved.extra()...), Settings{values, tag}.School()) {
			op := store.Operation{HeadID: file.ID, Seq: i + 1, Code: o.Code, Positions: strings.Join(o.Positions, " "), Minutes: o.Minutes, State: "waiting"}
			if who, no := declined(file.Approved.Quotes, o.Code, o.Positions); no {
				now := s.now()
				op.State, op.SkipReason, op.FinishedAt, op.FinishedBy = "skipped", "declined by "+who, &now, &a.ID
			}
			ops = append(ops, op)
		}
		if err := tx.Add(&ops); err != nil {
			return err
		}
		if err := s.reserve(tx, a, file, ops); err != nil {
			return err
		}
		if err := tx.SetHead(file.ID, map[string]any{"work_order_at": s.now()}); err != nil {
			return err
		}
		return s.note(tx, a, file.ID, "work ordered", plural(len(ops), "operation"))
	})
}

// undecided lists the findings without a decision.
func (f *File) undecided() []string {
	var open []string
	for _, x := range f.Received.Findings() {
		if _, ok := f.Decision(x.Key()); !ok {
			open = append(open, strings.TrimSpace(x.Position+" "+strings.ToLower(x.Label)))
		}
	}
	return open
}
