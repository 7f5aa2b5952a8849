package week

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"yatai/shop"
	"yatai/store"
)

// planned is what is kept of a day's plan: when each head would be done, and how late.
type planned struct {
	Done time.Time     `json:"done"`
	Late time.Duration `json:"late"`
}

// News is a head that would be done at another time than by an earlier day's plan, and what
// happened in between.
type News struct {
	Tag          string
	Before, Done time.Time
	WasLate      time.Duration
	Late         time.Duration
	Why          []string // what happened to it since; of others where nothing did
}

// Since is what changed in the plan since an earlier day.
type Since struct {
	Day  time.Time // when that plan was kept
	News []News
	Came []string // heads that are new in the plan
	Left []string // heads that are not in it any more
}

// Told is the news worth a line: heads whose lateness changed, and those that moved by a day.
func (s Since) Told() []News {
	return slices.DeleteFunc(slices.Clone(s.News), func(n News) bool {
		return (n.Late-n.WasLate).Abs() < leastNews && n.Done.Sub(n.Before).Abs() < 24*time.Hour
	})
}

// Any tells whether anything changed.
func (s Since) Any() bool { return len(s.News)+len(s.Came)+len(s.Left) > 0 }

// leastNews is how far a head's end has to move to be told.
const leastNews = 30 * time.Minute

// Remember keeps the plan of now as its day's, over what was kept of the same day before.
func Remember(ctx context.Context, s *shop.Shop) error {
	return s.Store.Write(ctx, func(tx store.DB) error {
		w, err := ReckonIn(s, tx)
		if err != nil {
			return err
		}
		kept := map[string]planned{}
		for _, o := range w.Outcomes {
			kept[o.Job] = planned{o.Done.UTC(), o.Late}
		}
		text, err := json.Marshal(kept)
		if err != nil {
			return err
		}
		short, err := json.Marshal(w.short())
		if err != nil {
			return err
		}
		last, err := tx.LastEvent()
		if err != nil {
			return err
		}
		return tx.KeepPlanDay(store.PlanDay{
			Day: w.Now.Format(time.DateOnly), LastEvent: last, Plan: string(text), Short: string(short), At: s.Now(),
		})
	})
}

// SinceYesterday compares the plan with the newest that was kept of an earlier day; ok is false
// where none was.
func (w Week) SinceYesterday(ctx context.Context, s *shop.Shop) (out Since, ok bool, err error) {
	db := s.Store.Read(ctx)
	day, ok, err := db.PlanDayBefore(w.Now.Format(time.DateOnly))
	if err != nil || !ok {
		return out, false, err
	}
	var kept map[string]planned
	if err := json.Unmarshal([]byte(day.Plan), &kept); err != nil {
		return out, false, err
	}
	events, err := db.EventsAfter(day.LastEvent, mostEvents)
	if err != nil {
		return out, false, err
	}
	out.Day = day.At.Local()
	happened := w.happened(events)
	for _, o := range w.Outcomes {
		was, there := kept[o.Job]
		switch d := o.Done.Sub(was.Done); {
		case !there:
			out.Came = append(out.Came, o.Job)
		case d.Abs() >= leastNews:
			out.News = append(out.News, News{o.Job, was.Done.Local(), o.Done, was.Late, o.Late, happened(o.Job)})
		}
		delete(kept, o.Job)
	}
	for tag := range kept {
		out.Left = append(out.Left, tag)
	}
	slices.Sort(out.Left)
	slices.SortStableFunc(
		out.News, func(a, b News) int { return int((b.Late - b.WasLate) - (a.Late - a.WasLate)) },
	)
	return out, true, nil
}

// mostEvents bounds how many events are looked at for the reasons, and mostReasons how many of a
// head are told.
const (
	mostEvents  = 400
	mostReasons = 4
)

// happened tells, by head, what happened that can move a plan: to the head itself, or where
// nothing did, to the others.
func (w Week) happened(events []store.Event) func(tag string) []string {
	tags := map[uint]string{}
	for _, h := range w.Heads {
		tags[h.ID] = h.Tag
	}
	own, others := map[string][]string{}, []string(nil)
	for _, e := range events {
		tag := tags[e.HeadID]
		if tag == "" {
			continue // a tool, a price, a sign-on
		}
		said := strings.TrimSpace(e.What + " " + e.Detail)
		if !slices.Contains(own[tag], said) {
			own[tag], others = append(own[tag], said), append(others, tag+": "+said)
		}
	}
	return func(tag string) []string {
		why := own[tag]
		if why == nil {
			why = others
		}
		if why == nil {
			return []string{"time went by: what was to be done was not begun"}
		}
		return why[:min(mostReasons, len(why))]
	}
}
