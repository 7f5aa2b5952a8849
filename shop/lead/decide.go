// Package lead is what the lead decides: what is done about each finding, by which plan, under
// which schools, whether a newer limit sheet is taken over, and which cause is the right one.
package lead

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"yatai/core/answer"
	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/quote"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/parts"
	"yatai/store"
)

// Choice is what is decided about one finding.
type Choice struct {
	Choice string // a repair's code, or trade.Leave
	Reason string // needed for Leave
	// Advised: nobody chose it, it was ticked because the plan of the whole head does it.
	Advised bool
	// Seen is the newest decision on the head that was known when this was chosen; nil when
	// it was chosen without looking.
	Seen *uint
}

// Decide writes decisions for findings, by feature key; a decision replaces an earlier
// one on the same finding, but for one that somebody made after what the choice has seen:
// that is told first, and nothing is written. Ask is what the plan that does them is held to.
// Errors are keyed by the feature.
func Decide(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, choices map[string]Choice,
	ask headfile.PlanAsk,
) error {
	if err := a.Must("decide a repair"); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, file *headfile.File) error {
		if err := decide(tx, s, a, file, choices); err != nil {
			return err
		}
		return byThePlan(ctx, s, tx, a, tag, choices, ask)
	})
}

// Try is the file of a head as it would be with some choices, and what is wrong with them, by feature.
// It writes nothing. What a kept plan has decided for itself is open again: it follows from what was
// chosen.
func Try(file *headfile.File, choices map[string]Choice) (*headfile.File, field.Errors) {
	out, errs := *file, field.Errors{}
	out.Decisions = slices.DeleteFunc(slices.Clone(file.Decisions), func(d store.Decision) bool {
		_, again := choices[d.Feature]
		return again || byPlan(d)
	})
	for _, key := range slices.Sorted(maps.Keys(choices)) {
		if x, ok := file.Received.Feature(key); ok {
			c := choices[key]
			refuse(errs, file, x, c, choices)
			out.Decisions = append(out.Decisions,
				store.Decision{HeadID: file.ID, Feature: key, Position: x.Position, Choice: c.Choice, Reason: c.Reason})
		}
	}
	out.Judge()
	return &out, errs
}

// byPlan tells whether a plan made a decision, not a person: only a person leaves something.
func byPlan(d store.Decision) bool {
	return d.Choice != trade.Leave && (strings.HasPrefix(d.Reason, planReason) || d.Reason == asAdvised)
}

// The reasons of what no person chose: planReason begins that of what a kept plan decides, its version
// follows; asAdvised is that of what was ticked by a plan that is not kept yet.
const (
	planReason = "plan "
	asAdvised  = "the plan"
)

// byThePlan works the whole head out once everything that is out is decided: where its plan does
// what was decided it is kept, so that the route and the work sheets have its figures, and what
// else it does. A finding that was left to the plan and that no plan answers so is refused.
func byThePlan(
	ctx context.Context, s *shop.Shop, tx store.DB, a shop.Actor, tag string, choices map[string]Choice,
	ask headfile.PlanAsk,
) error {
	f, err := headfile.OpenIn(s, tx, tag)
	if err != nil || f.Subject.Inspection() || unread(f) || !ruled(f) || scrapped(f) {
		return err
	}
	ask.Brief, ask.Decided = true, true
	out, err := planned(ctx, s, f, ask)
	if err != nil {
		return err
	}
	if !out.Feasible {
		errs := field.Errors{}
		for key, c := range choices {
			if c.Choice == trade.Planned {
				errs.Addf(key, "with these answers no plan of the whole head works: %s",
					strings.Join(out.Refused(), "; "))
			}
		}
		return errs.Err()
	}
	if kept, err := tx.Plans(f.ID); err != nil || len(kept) > 0 && sameWork(kept[0], out) {
		return err
	}
	return keep(s, tx, a, f, out)
}

// ruled tells whether all that is out is decided: what is in doubt may still be read again.
func ruled(f *headfile.File) bool {
	return !slices.ContainsFunc(f.Received.Findings(), func(x judge.Feature) bool {
		_, ok := f.Decision(x.Key())
		return !ok && x.Verdict != gauge.Doubt
	})
}

// scrapped tells whether the head is decided to be scrapped.
func scrapped(f *headfile.File) bool {
	return slices.ContainsFunc(f.Decisions, func(d store.Decision) bool { return d.Choice == trade.Scrap.Code })
}

// sameWork tells whether a kept plan does the same as another.
func sameWork(kept store.Plan, out Planned) bool {
	var was answer.PlanAnswer
	if json.Unmarshal([]byte(kept.Answer), &was) != nil || was.FaceCut != out.FaceCut ||
		len(was.Valves) != len(out.Valves) {
		return false
	}
	for i, v := range out.Valves {
		if was.Valves[i].Says != v.Says {
			return false
		}
	}
	return true
}

// decide writes decisions, each where it is allowed.
func decide(tx store.DB, s *shop.Shop, a shop.Actor, file *headfile.File, choices map[string]Choice) error {
	errs := field.Errors{}
	if file.WorkOrderAt != nil {
		errs.Addf("work_order", "the work is ordered already")
	}
	for _, key := range slices.Sorted(maps.Keys(choices)) {
		c := choices[key]
		c.Reason = shop.Optional(errs, key, c.Reason, 400)
		x, ok := file.Received.Feature(key)
		if !ok {
			return shop.ErrNotFound
		}
		d, had := file.Decision(key)
		if had && d.Choice == c.Choice && (c.Advised || c.Choice == trade.Planned) {
			continue // the plan's own words stay with it
		}
		if c.Advised && c.Choice != trade.Leave {
			c.Reason = asAdvised
		}
		refuse(errs, file, x, c, choices)
		if had && d.Choice == c.Choice && d.Reason == c.Reason {
			continue
		}
		if had && c.Seen != nil && d.ID > *c.Seen {
			errs.Addf(key, "%s decided meanwhile: %s. Decide once more to put yours in its place", d.Person.Name,
				headfile.DecisionText(d))
		}
		if len(errs) > 0 {
			continue
		}
		if err := tx.ReplaceDecision(file.ID, key, s.Now()); err != nil {
			return err
		}
		made := store.Decision{
			HeadID:   file.ID,
			Feature:  key,
			Position: x.Position,
			Choice:   c.Choice,
			Reason:   c.Reason,
			Figure:   file.Figure(x),
			PersonID: a.ID,
			At:       s.Now(),
		}
		if err := tx.Add(&made); err != nil {
			return err
		}
		if err := s.Note(tx, a, file.ID, "decided",
			strings.TrimSpace(x.Label+" "+x.Position)+": "+headfile.DecisionText(made)); err != nil {
			return err
		}
	}
	return errs.Err()
}

// refuse says what is wrong with a choice about a finding, among others.
func refuse(errs field.Errors, file *headfile.File, x judge.Feature, c Choice, choices map[string]Choice) {
	key := x.Key()
	switch c.Choice {
	case trade.Planned:
	case trade.Leave:
		if c.Reason == "" {
			errs.Addf(key, "say why it may be left")
		}
	default:
		if said := file.Received.Allows(x, c.Choice); !said.OK {
			errs.Note(key, words.Of(cmp.Or(said.Why, "choose a repair, or leave it and say why")))
		} else if other := twice(file, key, x, c.Choice, choices); other != "" {
			errs.Note(key, words.Of(other))
		}
	}
}

// Beside are the lines of work that should and could be done beside a plan, as a quote offers them; none
// once a customer was asked: then it is the answer that says.
func Beside(
	ctx context.Context, s *shop.Shop, f *headfile.File, have []route.Operation,
) ([]quote.Line, error) {
	if slices.ContainsFunc(f.Approved.Quotes,
		func(q headfile.QuotePage) bool { return q.SentAt != nil || q.Approval != nil }) {
		return nil, nil
	}
	rich, err := headfile.Solve(ctx, s, f, quote.Rich(f.Subject))
	if err != nil {
		return nil, err
	}
	return quote.Extra(f.Subject, f.Received, rich, have), nil
}

// taken are the decisions that ticked lines of what is done beside come to; lines are named by their
// group and operation, as "should/lap".
func taken(lines []quote.Line, ticked []string) []route.Decision {
	var out []route.Decision
	for _, l := range lines {
		if slices.Contains(ticked, l.Key()) {
			out = append(out, route.DecisionsOf(l.Code, l.Positions)...)
		}
	}
	return out
}

// OrderWork makes the work order from the decisions, and from those lines of what should and could be done
// beside them that are ticked: the operations, in order, with stations and minutes. Every finding needs its
// decision first.
func OrderWork(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, ticked ...string) error {
	if err := a.Must("decide a repair"); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, file *headfile.File) error {
		if file.WorkOrderAt != nil {
			return field.Only("work_order", "the work is ordered already")
		}
		if open := file.Undecided(); len(open) > 0 {
			return field.Only("work_order", "%s without a decision: %s", words.Of("%d findings", len(open)),
				strings.Join(open, ", "))
		}
		var ops []store.Operation
		if unread(file) {
			return field.Only("work_order", "nothing of this head has been read yet: measure it first")
		}
		beside, err := Beside(ctx, s, file, file.Derived())
		if err != nil {
			return err
		}
		decided := slices.Concat(file.Decided(), file.Approved.Extra(), taken(beside, ticked),
			route.Renewals(file.Subject))
		have := done(file)
		seq := len(file.Operations)
		for _, o := range file.Operations { // of a head whose work is ordered anew
			seq = max(seq, o.Seq)
		}
		for _, o := range quote.Less(file.Subject, route.Derive(file.Subject, decided), have) {
			seq++
			op := store.Operation{
				HeadID:     file.ID,
				Seq:        seq,
				BegunAfter: -1,
				Code:       o.Code,
				Positions:  strings.Join(o.Positions, " "),
				Minutes:    o.Minutes,
				State:      "waiting",
			}
			if who, no := headfile.Declined(file.Approved.Quotes, o.Code, o.Positions); no {
				now := s.Now()
				op.State, op.SkipReason, op.FinishedAt, op.FinishedBy = "skipped", "declined by "+who, &now, &a.ID
			}
			ops = append(ops, op)
		}
		if err := tx.Add(&ops); err != nil {
			return err
		}
		if err := parts.Reserve(s, tx, a, file, ops); err != nil {
			return err
		}
		if err := tx.OrderWork(file.ID, s.Now()); err != nil {
			return err
		}
		return s.Note(tx, a, file.ID, "work ordered", shop.Plural(len(ops), "operation"))
	})
}

// done are the operations of a head that are done, or going on, and have not failed.
func done(f *headfile.File) (out []route.Operation) {
	for _, o := range f.Operations {
		if k := trade.OperationNamed(o.Code); k != nil &&
			(o.State == "running" || o.State == "done" && !f.HasFailed(o)) {
			out = append(out, route.Operation{Operation: k, Positions: o.At()})
		}
	}
	return out
}

// unread tells whether nothing was read or seen of the head.
func unread(f *headfile.File) bool { return len(f.Readings) == 0 && len(f.Findings) == 0 }

// twice says when a choice would work the same metal at the same position as another finding's
// does, in another way: a liner and a new guide, a lap and a cut.
func twice(f *headfile.File, key string, x judge.Feature, choice string, choices map[string]Choice) string {
	r := trade.RepairNamed(choice)
	if r == nil || x.Position == "" {
		return ""
	}
	for _, o := range f.Received.Findings() {
		if o.Position != x.Position || o.Key() == key {
			continue
		}
		made := choices[o.Key()].Choice
		if d, ok := f.Decision(o.Key()); ok && made == "" {
			made = d.Choice
		}
		if other := trade.RepairNamed(made); r.Excludes(other) {
			return fmt.Sprintf("%s is decided for %s already: one of them, not both", strings.ToLower(other.Name),
				strings.ToLower(o.Label))
		}
	}
	return ""
}
