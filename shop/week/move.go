package week

import (
	"context"
	"fmt"
	"slices"
	"time"

	"yatai/core/field"
	"yatai/core/schedule"
	"yatai/shop"
	"yatai/store"
)

// Moving is a bar put to another time: when it would begin, and which heads would be done at
// another time for it. It is a proposal until somebody takes it.
type Moving struct {
	schedule.Moved
	Task, Job string
	Was, To   time.Time
	Changes   []schedule.Change
}

// Reached tells whether the bar begins by the time it was put to.
func (m Moving) Reached() bool { return !m.Hold.IsZero() || !m.Start.After(m.To) }

// Move works out what it means to put a bar to another time. Errors: "move" for what is no bar
// of the plan, or cannot be moved, and "to" for a time behind now or more than a year ahead.
func (w Week) Move(task string, to time.Time) (Moving, error) {
	i := slices.IndexFunc(w.Bars, func(b schedule.Bar) bool { return b.ID == task })
	if i < 0 {
		return Moving{}, field.Errorf("move", "choose an operation of the plan")
	}
	if to.Before(w.Now.Add(-24*time.Hour)) || to.After(w.Now.AddDate(1, 0, 0)) {
		return Moving{}, field.Errorf("to", "a time from now on, within a year")
	}
	b := w.Bars[i]
	if b.Running {
		return Moving{}, field.Errorf("move", "it is being worked on: it stays")
	}
	if _, ordered := w.Operation(task); to.After(b.Start) && !(ordered && w.firm(b.Job)) {
		return Moving{}, field.Errorf("move", "the work of %s is not ordered yet: only ordered work is held back",
			b.Job)
	}
	m, ok := schedule.Move(w.Problem, w.Result, task, to)
	if !ok {
		return Moving{}, field.Errorf("move", "it cannot be planned there")
	}
	return Moving{
		Moved: m, Task: task, Job: b.Job, Was: b.Start, To: to,
		Changes: schedule.Changes(w.Result, m.Result),
	}, nil
}

// Replanned is the week by another plan of the same heads.
func (w Week) Replanned(r schedule.Result) Week {
	w.Result = r
	w.Heads = slices.Clone(w.Heads)
	for i, h := range w.Heads {
		if o, ok := r.Outcome(h.Tag); ok {
			w.Heads[i].Outcome = o
		}
	}
	return w
}

// firm tells whether a head's work is ordered.
func (w Week) firm(tag string) bool {
	return slices.ContainsFunc(w.Heads, func(h WeekHead) bool { return h.Tag == tag && h.Firm })
}

// TakeBar puts a bar to another time as it was proposed: it is held back until then, or its head
// is taken before others.
func TakeBar(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, task string, to time.Time) error {
	if err := a.Must("plan the week"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		w, err := ReckonIn(s, tx)
		if err != nil {
			return "", err
		}
		m, err := w.Move(task, to)
		if err != nil {
			return "", err
		}
		var order []store.Head
		var id uint
		for _, tag := range m.Jobs {
			i := slices.IndexFunc(w.Heads, func(h WeekHead) bool { return h.Tag == tag })
			order = append(order, w.Heads[i].Head)
			if tag == m.Job {
				id = w.Heads[i].ID
			}
		}
		if err := keepOrder(tx, order); err != nil {
			return "", err
		}
		if seq, ordered := w.Operation(task); ordered && w.firm(m.Job) {
			var until *time.Time
			if !m.Hold.IsZero() {
				utc := m.Hold.UTC()
				until = &utc
			}
			if err := tx.HoldBack(id, seq, until); err != nil {
				return "", err
			}
		}
		return "", s.Note(tx, a, id, "bar moved",
			fmt.Sprintf("%s: begins %s, was %s", w.Task(task), stamp(m.Start), stamp(m.Was)))
	})
	return err
}

func stamp(t time.Time) string { return t.Format("Mon 2 Jan 15:04") }
