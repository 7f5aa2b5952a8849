// Package work is the work on a head: its route, the work sheet of each operation with start,
// proof and finish, the final check and the handing over.
package work

import (
	"context"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/parts"
	"yatai/store"
)

// change moves an operation from one state to another and writes it down. It returns what the
// trail calls it, and whether the operation was still in the state that was seen.
func change(
	ctx context.Context, s *shop.Shop, a shop.Actor, what shop.Action, writeID, tag string, seq int,
	change func(store.DB, *headfile.File, store.Operation) (said string, moved bool, err error),
) error {
	if err := a.Must(what); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, file *headfile.File) error {
		o, err := file.Operation(seq)
		if err != nil {
			return err
		}
		said, moved, err := change(tx, file, o)
		if err != nil {
			return err
		}
		if !moved {
			return shop.ErrStale
		}
		return s.Note(tx, a, file.ID, said, headfile.OperationName(o.Code))
	})
}

// Start starts an operation. What comes before it on the route must be done where they share a position,
// and the customer must have approved it. Who is at another operation says what becomes of that: other is
// Pauses or RunsAlone.
func Start(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, seq int, other string,
) error {
	return change(ctx, s, a, "work an operation", writeID, tag, seq,
		func(tx store.DB, f *headfile.File, o store.Operation) (string, bool, error) {
			if why := blocks(f, o); why.Sentence != "" {
				return "", false, field.Errors{headfile.OperationKey(seq): why}
			}
			if err := leave(s, tx, a, o, other); err != nil {
				return "", false, err
			}
			moved, err := tx.StartOperation(o.ID, a.ID, s.Now(), shop.LastOf(f.Readings))
			if err == nil && moved {
				err = tx.Add(&store.Stint{OperationID: o.ID, PersonID: a.ID, StartedAt: s.Now()})
			}
			return "running", moved, err
		})
}

// Finish finishes a running operation. One that has a record is finished once that is written
// down; the lead may finish it all the same, with a reason. One whose record fails is done and
// has failed: it goes on the route once more, unless the lead has let it go on as it is. Parts that the
// stock has not are booked in first: from says where they came from.
func Finish(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, seq int, reason, from string,
) error {
	return change(ctx, s, a, "work an operation", writeID, tag, seq,
		func(tx store.DB, f *headfile.File, o store.Operation) (string, bool, error) {
			return finish(s, tx, a, f, o, reason, from)
		})
}

func finish(
	s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, o store.Operation, reason, from string,
) (string, bool, error) {
	errs := field.Errors{}
	reason = shop.Optional(errs, headfile.OperationKey(o.Seq), reason, 200)
	from = shop.Optional(errs, headfile.OperationKey(o.Seq), from, 200)
	if err := errs.Err(); err != nil {
		return "", false, err
	}
	said, failed := "done", f.Failed(o)
	if why := wrongPart(f, o); why.Sentence != "" {
		return "", false, field.Errors{headfile.OperationKey(o.Seq): why}
	}
	switch why := f.Unrecorded(o); {
	case why.Sentence == "":
	case reason != "" && a.May("skip an operation"):
		said = "done without its record: " + reason
	case len(failed) == 0:
		return "", false, field.Errors{headfile.OperationKey(o.Seq): why}
	case wordGiven(o):
		said = "done, failed, and goes on by the lead's word: " + why.String()
	default:
		said = "done, failed: " + why.String()
		if err := again(s, tx, a, f, o, failed); err != nil {
			return "", false, err
		}
	}
	if err := parts.Use(s, tx, a, f, o, from); err != nil {
		return "", false, err
	}
	if _, err := tx.EndStints(o.ID, 0, s.Now()); err != nil {
		return "", false, err
	}
	was := "running"
	if len(failed) > 0 && o.State == "held" { // what stopped it is what it has found
		was = o.State
	}
	moved, err := tx.FinishOperation(o.ID, a.ID, s.Now(), was)
	return said, moved, err
}

// Skip leaves a waiting operation out, with a reason; the lead does.
func Skip(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, seq int, reason string,
) error {
	errs := field.Errors{}
	reason = shop.Required(errs, headfile.OperationKey(seq), reason, "say why it is left out", 200)
	if err := errs.Err(); err != nil {
		return err
	}
	return change(ctx, s, a, "skip an operation", writeID, tag, seq,
		func(tx store.DB, f *headfile.File, o store.Operation) (string, bool, error) {
			if err := parts.Free(s, tx, a, f, o); err != nil {
				return "", false, err
			}
			moved, err := tx.SkipOperation(o.ID, a.ID, s.Now(), reason)
			if err != nil || !moved {
				return "skipped", moved, err
			}
			// what it would have proven is not proven: leaving it out is a deviation, signed by who says so
			return "skipped", true, tx.Add(
				&store.Signoff{HeadID: f.ID, Feature: head.LeftOut + o.Code, Reason: reason, PersonID: a.ID, At: s.Now()},
			)
		})
}
