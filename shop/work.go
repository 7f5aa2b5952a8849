package shop

import (
	"context"
	"strconv"

	"yatai/core/field"
	"yatai/store"
)

// operation finds an operation of the file by its number on the route.
func (f *File) operation(seq int) (store.Operation, error) {
	for _, o := range f.Operations {
		if o.Seq == seq {
			return o, nil
		}
	}
	return store.Operation{}, ErrNotFound
}

// change moves an operation from one state to another and writes it down. It returns what the
// trail calls it, and whether the operation was still in the state that was seen.
func (s *Shop) change(ctx context.Context, a Actor, what Action, writeID, tag string, seq int, change func(store.DB, *File, store.Operation) (said string, moved bool, err error)) error {
	if err := a.must(what); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, file *File) error {
		o, err := file.operation(seq)
		if err != nil {
			return err
		}
		said, moved, err := change(tx, file, o)
		if err != nil {
			return err
		}
		if !moved {
			return ErrStale
		}
		return s.note(tx, a, file.ID, said, o.Code)
	})
}

func at(seq int) string { return "op/" + strconv.Itoa(seq) }

// Start starts an operation. What comes before it on the route must be done, and the
// customer must have approved it.
func (s *Shop) Start(ctx context.Context, a Actor, writeID, tag string, seq int) error {
	return s.change(ctx, a, "work an operation", writeID, tag, seq, func(tx store.DB, f *File, o store.Operation) (string, bool, error) {
		if why := f.blocks(o); why != "" {
			return "", false, field.Errors{at(seq): why}
		}
		moved, err := tx.StartOperation(o.ID, a.ID, s.now(), lastOf(f.Readings))
		return "running", moved, err
	})
}

// Finish finishes a running operation. One that has a record is finished once it is written
// down and passes; the lead may finish it all the same, with a reason.
func (s *Shop) Finish(ctx context.Context, a Actor, writeID, tag string, seq int, reason string) error {
	return s.change(ctx, a, "work an operation", writeID, tag, seq, func(tx store.DB, f *File, o store.Operation) (string, bool, error) {
		return s.finish(tx, a, f, o, reason)
	})
}

func (s *Shop) finish(tx store.DB, a Actor, f *File, o store.Operation, reason string) (string, bool, error) {
	errs := field.Errors{}
	reason = optional(errs, at(o.Seq), reason, 200)
	if err := errs.Err(); err != nil {
		return "", false, err
	}
	said := "done"
	if why := f.unrecorded(o); why != "" {
		if reason == "" || !a.May("skip an operation") {
			return "", false, field.Errors{at(o.Seq): why}
		}
		said = "done without its record: " + reason
	}
	if err := s.use(tx, a, f, o, true); err != nil {
		return "", false, err
	}
	moved, err := tx.FinishOperation(o.ID, a.ID, s.now())
	return said, moved, err
}

// Skip leaves a waiting operation out, with a reason; the lead does.
func (s *Shop) Skip(ctx context.Context, a Actor, writeID, tag string, seq int, reason string) error {
	errs := field.Errors{}
	reason = required(errs, at(seq), reason, "say why it is left out", 200)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.change(ctx, a, "skip an operation", writeID, tag, seq, func(tx store.DB, f *File, o store.Operation) (string, bool, error) {
		if err := s.use(tx, a, f, o, false); err != nil {
			return "", false, err
		}
		moved, err := tx.SkipOperation(o.ID, a.ID, s.now(), reason)
		return "skipped", moved, err
	})
}
