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

// change moves an operation from one state to another and writes it down.
func (s *Shop) change(ctx context.Context, a Actor, what Action, writeID, tag string, seq int, was string, change func(store.DB, *File, store.Operation) (map[string]any, error)) error {
	if err := a.must(what); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, file *File) error {
		o, err := file.operation(seq)
		if err != nil {
			return err
		}
		values, err := change(tx, file, o)
		if err != nil {
			return err
		}
		ok, err := tx.SetOperation(o.ID, was, values)
		if err != nil {
			return err
		}
		if !ok {
			return ErrStale
		}
		return s.note(tx, a, file.ID, values["state"].(string), o.Code)
	})
}

func at(seq int) string { return "op/" + strconv.Itoa(seq) }

// Start starts an operation. What comes before it on the route must be done, and the
// customer must have approved it.
func (s *Shop) Start(ctx context.Context, a Actor, writeID, tag string, seq int) error {
	return s.change(ctx, a, "work an operation", writeID, tag, seq, "waiting", func(_ store.DB, f *File, o store.Operation) (map[string]any, error) {
		if why := f.blocks(o); why != "" {
			return nil, field.Errors{at(seq): why}
		}
		return map[string]any{"state": "running", "started_at": s.now(), "started_by": a.ID}, nil
	})
}

// Finish finishes a running operation.
func (s *Shop) Finish(ctx context.Context, a Actor, writeID, tag string, seq int) error {
	return s.change(ctx, a, "work an operation", writeID, tag, seq, "running", func(tx store.DB, f *File, o store.Operation) (map[string]any, error) {
		if err := s.use(tx, a, f, o, true); err != nil {
			return nil, err
		}
		return map[string]any{"state": "done", "finished_at": s.now(), "finished_by": a.ID}, nil
	})
}

// Skip leaves a waiting operation out, with a reason; the lead does.
func (s *Shop) Skip(ctx context.Context, a Actor, writeID, tag string, seq int, reason string) error {
	errs := field.Errors{}
	reason = required(errs, at(seq), reason, "say why it is left out", 200)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.change(ctx, a, "skip an operation", writeID, tag, seq, "waiting", func(tx store.DB, f *File, o store.Operation) (map[string]any, error) {
		if err := s.use(tx, a, f, o, false); err != nil {
			return nil, err
		}
		return map[string]any{"state": "skipped", "skip_reason": reason, "finished_at": s.now(), "finished_by": a.ID}, nil
	})
}
