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

// The work of looking for a better order, in placings of a task, and how many times the week is
// simulated for a promise: both stay within some tenths of a second for forty heads.
const (
	orderBudget = 12_000
	simulations = 40
)

// waitSpread is how far parts and answers go from what was said: the standard deviation of the logarithm.
const waitSpread = 0.25

// CouldBeReady is by when a head will be done by the week's plan, behind all that is in the
// shop, as so many of 10 such heads would be by the shop's own minutes; alone is when it could
// be by itself, which has to do while its work is not known or the week cannot be planned.
func CouldBeReady(s *shop.Shop, db store.DB, tag string, alone time.Time) (time.Time, error) {
	w, q, err := asked(s, db)
	if unplanned := (*field.Error)(nil); errors.As(err, &unplanned) {
		return alone, nil
	}
	if err != nil {
		return alone, err
	}
	i := slices.IndexFunc(w.Heads, func(h WeekHead) bool { return h.Tag == tag })
	if i < 0 || !w.Heads[i].Known {
		return alone, nil
	}
	kept, err := q.kept(db)
	if err != nil {
		return alone, err
	}
	done, err := w.promise(q, tag, kept)
	if unplanned := (*field.Error)(nil); errors.As(err, &unplanned) {
		return alone, nil
	}
	return done.UTC(), err
}

// promise is the day that a share of such heads would keep. Heads behind it in the order are in
// nobody's way.
func (w Week) promise(q *question, tag string, share float64) (time.Time, error) {
	p := w.Problem
	i := slices.IndexFunc(p.Jobs, func(j schedule.Job) bool { return j.Name == tag })
	p.Jobs = slices.Clone(p.Jobs)
	for k := i + 1; k < len(p.Jobs); k++ { // but what runs is on its station
		j := &p.Jobs[k]
		j.Tasks = slices.DeleteFunc(slices.Clone(j.Tasks), func(t schedule.Task) bool { return !t.Running })
	}
	done, err := schedule.Simulate(p, schedule.Spread{Minutes: q.spreadOf, Waits: waitSpread}, simulations, 1)
	if err != nil {
		return time.Time{}, err
	}
	return schedule.KeptBy(done[tag], share), nil
}

// spreadOf is how far the minutes of a task spread.
func (q *question) spreadOf(t schedule.Task) float64 {
	if m, ok := q.own[t.Skill]; ok {
		return m.Spread
	}
	return q.spread
}

// Kept is how the shop has kept its promises: of the heads handed over last, those promised.
type Kept struct {
	Promised, InTime int
	Share            float64 // with which dates are promised from now on
	Rows             []Delivery
}

// Delivery is a head that was promised, and when it was ready.
type Delivery struct {
	store.Head
	Promised, Ready time.Time
	Late            time.Duration // 0 in time
}

// lastDelivered is how many heads back promises are held against what became of them.
const lastDelivered = 40

// KeptPromises holds promises against deliveries: of the last heads that were promised a day.
func KeptPromises(db store.DB, set shop.Settings) (Kept, error) {
	heads, err := db.Delivered(lastDelivered)
	if err != nil {
		return Kept{}, err
	}
	k := Kept{Share: min(0.95, max(0.5, float64(set.Int("kept_share"))/10))}
	for _, h := range heads {
		if h.Job.Promise == nil || h.ClosedAt == nil || h.Ended != "" {
			continue
		}
		due := promised(h)
		d := Delivery{
			Head: h, Promised: *h.Job.Promised(), Ready: h.ClosedAt.Local(), Late: max(0, h.ClosedAt.Sub(due)),
		}
		if k.Promised++; d.Late == 0 {
			k.InTime++
		}
		k.Rows = append(k.Rows, d)
	}
	const few = 8 // fewer say nothing
	if k.Promised >= few {
		// more cautious, by half of what was missed
		if was := float64(k.InTime) / float64(k.Promised); was < k.Share {
			k.Share = min(0.95, k.Share+(k.Share-was)/2)
		}
	}
	return k, nil
}

// kept is the share of heads that are to keep what is promised now.
func (q *question) kept(db store.DB) (float64, error) {
	k, err := KeptPromises(db, q.set)
	return k.Share, err
}
