package week

import (
	"errors"
	"slices"
	"time"

	"yatai/core/field"
	"yatai/core/schedule"
	"yatai/shop"
	"yatai/store"
)

// Sooner is what it would mean to take a head before all others.
type Sooner struct {
	Now   time.Time         // by when it is done as it stands, as so many of ten such heads
	Ready time.Time         // by when it would be
	Late  time.Duration     // how much later than now promised heads would be, all together
	Heads []schedule.Change // those that would be late, or later
}

// TakenFirst says what it would mean to take a head before all others, with the customer's answer by a
// moment; ok is false where the week cannot be planned, the head's work is not known yet, or it would not be
// done on an earlier day.
func TakenFirst(
	s *shop.Shop, db store.DB, tag string, answered time.Time,
) (out Sooner, ok bool, err error) {
	w, q, err := asked(s, db)
	if err == nil {
		out, ok, err = w.first(q, db, tag, answered)
	}
	if unplanned := (*field.Error)(nil); errors.As(err, &unplanned) {
		return out, false, nil
	}
	return out, ok, err
}

func (w Week) first(
	q *question, db store.DB, tag string, answered time.Time,
) (out Sooner, ok bool, err error) {
	tags := []string{tag}
	known := false
	for _, h := range w.Heads {
		if h.Tag == tag {
			known = h.Known
		} else {
			tags = append(tags, h.Tag)
		}
	}
	if !known {
		return out, false, nil
	}
	kept, err := q.kept(db)
	if err != nil {
		return out, false, err
	}
	if out.Now, err = w.promise(q, tag, kept); err != nil {
		return out, false, err
	}
	before, err := schedule.Plan(w.Problem)
	if err != nil {
		return out, false, err
	}
	q.offered, q.held = tag, answered
	if w.Jobs, err = q.inOrder(tags); err != nil {
		return out, false, err
	}
	after, err := schedule.Plan(w.Problem)
	if err != nil {
		return out, false, err
	}
	if out.Ready, err = w.promise(q, tag, kept); err != nil {
		return out, false, err
	}
	out.Heads = slices.DeleteFunc(schedule.Changes(before, after), func(c schedule.Change) bool {
		return c.Job == tag || c.Late <= c.WasLate
	})
	for _, c := range out.Heads {
		out.Late += c.Late - c.WasLate
	}
	return out, shop.Date(out.Ready.Local()).Before(shop.Date(out.Now.Local())), nil
}

// TakeFirst makes a head the most urgent there is.
func TakeFirst(tx store.DB, h store.Head) error { return tx.SetUrgency(h.ID, mostUrgent) }
