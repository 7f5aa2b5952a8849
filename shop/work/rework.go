package work

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// again puts an operation on the route once more, at the positions where its record failed ("" is the whole
// head).
func again(
	s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, o store.Operation, failed []string,
) error {
	k := trade.OperationNamed(o.Code).Again()
	at := slices.DeleteFunc(failed, func(id string) bool { return id == "" })
	for i := range f.Operations { // it is over: what waits of its kind is another
		if f.Operations[i].ID == o.ID {
			f.Operations[i].State = head.Done
		}
	}
	op := route.Operation{Operation: k, Positions: at, Minutes: f.Subject.Labour(k).Minutes(len(at))}
	_, err := insert(s, tx, a, f, "once more, it failed", op)
	return err
}

// Found are the findings that the work has shown: what is out and was decided by nobody, and what
// is still out although what was decided is done and it was read again.
func Found(f *headfile.File) []judge.Feature {
	if f.WorkOrderAt == nil || f.ClosedAt != nil {
		return nil
	}
	return slices.DeleteFunc(f.Now.Findings(), func(x judge.Feature) bool {
		if x.Verdict < gauge.Out || f.Subject.Signed(x.Key(), f.Figure(x)) != nil {
			return true
		}
		d, decided := f.Decision(x.Key())
		switch {
		case !decided:
			return false
		case d.Choice == trade.Leave:
			return true
		}
		return !readAfter(f, x)
	})
}

// readAfter tells whether all that a finding is made of was read after the last work that moved it,
// and some of it after the work began.
func readAfter(f *headfile.File, x judge.Feature) bool {
	c, ok := f.Characteristic(x.Code)
	if !ok || len(x.From) == 0 {
		return false
	}
	worked := false
	for _, of := range c.Proves() {
		worked = worked || f.Subject.Voider(of.Code, x.Position) != nil
		if !f.Subject.Proven(of, x.Position) {
			return false
		}
	}
	return worked
}

// Rework decides a finding that the work has shown, and puts on the route what answers it, with
// what that brings and the tests again that it undoes; or leaves it, with a reason. The lead does.
func Rework(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, key, choice, reason string) error {
	if err := a.Must("decide a repair"); err != nil {
		return err
	}
	errs := field.Errors{}
	at := "found/" + key
	reason = shop.Optional(errs, at, reason, 300)
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		found := Found(f)
		i := slices.IndexFunc(found, func(x judge.Feature) bool { return x.Key() == key })
		if i < 0 {
			return field.Only(at, "nothing of the kind is found, or it is decided already")
		}
		x := found[i]
		r := trade.RepairNamed(choice)
		switch said := f.Now.Allows(x, choice); {
		case choice == trade.Leave && reason == "":
			errs.Addf(at, "say why it may be left")
		case choice == trade.Leave:
		case !said.OK || r == nil:
			errs.Note(at, words.Of(cmp.Or(said.Why, "choose what is done about it")))
		}
		if err := errs.Err(); err != nil {
			return err
		}
		if err := tx.ReplaceDecision(f.ID, key, s.Now()); err != nil {
			return err
		}
		d := store.Decision{
			HeadID: f.ID, Feature: key, Position: x.Position, Choice: choice, Reason: reason, Figure: f.Figure(x),
			PersonID: a.ID, At: s.Now(),
		}
		if err := tx.Add(&d); err != nil {
			return err
		}
		if err := s.Note(tx, a, f.ID, "decided",
			strings.TrimSpace(x.Label+" "+x.Position)+": "+headfile.DecisionText(d)); err != nil {
			return err
		}
		if r == nil {
			return nil
		}
		var ds []route.Decision
		for _, id := range placesOf(f, x) {
			ds = append(ds, route.Decision{Code: choice, Position: id})
		}
		_, err := insert(s, tx, a, f, "found at work", withProofs(f, route.Only(f.Subject, ds))...)
		return err
	})
}

// placesOf are the positions that a finding's repair is done at: of a pair of valves both.
func placesOf(f *headfile.File, x judge.Feature) []string {
	if both := f.Layout.ValvesAt(x.Position); len(both) > 0 {
		return both
	}
	return []string{x.Position}
}

// withProofs adds the proofs that were done already and that some work undoes: they are done again
// where it is.
func withProofs(f *headfile.File, ops []route.Operation) []route.Operation {
	out := slices.Clone(ops)
	for _, op := range ops {
		for _, proof := range op.Undoes {
			for _, done := range f.Operations {
				if done.Code != proof.Code || done.State != head.Done {
					continue
				}
				k, at := proof.Again(), []string{}
				if len(done.At()) > 0 {
					at = op.Positions
				}
				if !slices.ContainsFunc(out, func(o route.Operation) bool { return o.Operation == k }) {
					out = append(out, route.Operation{
						Operation: k, Positions: at, Minutes: f.Subject.Labour(k).Minutes(len(at)),
					})
				}
			}
		}
	}
	return out
}
