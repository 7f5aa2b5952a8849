package week

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/quantity"
	"yatai/core/schedule"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/store"
)

// Better is a better order of the heads, proposed: what it gains and whom it costs, and how
// good any order could be.
type Better struct {
	Late    time.Duration // of all heads together, as they are planned now, each as often as its customer weighs
	Order   schedule.Order
	Bound   time.Duration     // no plan is less late in all
	Moved   []string          // the heads that would be taken sooner than now, in their new order
	Changes []schedule.Change // the heads that would be done at another time
}

// Saves is how much less late all heads together would be.
func (b Better) Saves() time.Duration { return b.Late - b.Order.Late }

// Gap is how far the order of now can be from the best possible, at most.
func (b Better) Gap() time.Duration { return b.Late - b.Least() }

// Least is what no plan is less late than: the bound, or the best order where it is proved.
func (b Better) Least() time.Duration {
	if b.Order.Proved {
		return b.Order.Late
	}
	return min(b.Bound, b.Order.Late)
}

// Better looks for a better order of the heads, and for how good any could be.
func (w Week) Better() (Better, error) {
	b := Better{Late: w.Result.Late()}
	var err error
	if b.Order, err = w.best(); err != nil {
		return b, err
	}
	if b.Bound, err = schedule.Bound(w.Problem); err != nil {
		return b, err
	}
	place := map[string]int{}
	for i, j := range w.Jobs {
		place[j.Name] = i
	}
	for i, name := range b.Order.Jobs {
		if i < place[name] {
			b.Moved = append(b.Moved, name)
		}
	}
	for _, c := range schedule.Changes(w.Result, b.Order.Plan) {
		if c.Late != c.WasLate {
			b.Changes = append(b.Changes, c)
		}
	}
	slices.SortStableFunc(b.Changes, func(a, b schedule.Change) int {
		return int((a.Late - a.WasLate) - (b.Late - b.WasLate))
	})
	return b, nil
}

// rounds bounds how often an order is looked for anew because parts would go to other heads in the one found.
const rounds = 3

// best looks for the best order of the heads as it is once it is taken: parts go to heads in their
// order, so that in another order another head may wait for one. Where it does, the best is looked
// for once more from there. It is never worse than the order of now.
func (w Week) best() (best schedule.Order, err error) {
	for _, j := range w.Jobs {
		best.Jobs = append(best.Jobs, j.Name)
	}
	best.Late, best.Plan = w.Result.Late(), w.Result
	p := w.Problem
	for round := range rounds {
		found, err := schedule.Best(p, orderBudget)
		if err != nil {
			return best, err
		}
		if p.Jobs, err = w.inOrder(found.Jobs); err != nil {
			return best, err
		}
		plan, err := schedule.Plan(p)
		if err != nil {
			return best, err
		}
		late := plan.Late()
		as := found.Late == late // taken it is as it was found
		if late < best.Late || late == best.Late && as && round == 0 {
			best = schedule.Order{Jobs: found.Jobs, Late: late, Proved: as && found.Proved && round == 0, Plan: plan}
		}
		if as {
			break
		}
	}
	return best, nil
}

// TakeOrder accepts an order of the heads, as it was proposed: their urgencies are set to what
// keeps it. ErrStale when other heads are in the shop by now.
func TakeOrder(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, tags []string) error {
	if err := a.Must("plan the week"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		w, err := weekQuestion(s, tx)
		if err != nil {
			return "", err
		}
		var order []store.Head
		for _, tag := range tags {
			i := slices.IndexFunc(w.Heads, func(h WeekHead) bool { return h.Tag == tag })
			if i < 0 {
				return "", shop.ErrStale
			}
			order = append(order, w.Heads[i].Head)
		}
		if len(order) != len(w.Heads) {
			return "", shop.ErrStale
		}
		if err := keepOrder(tx, order); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.OfWeek, "order of the week taken", strings.Join(tags, " "))
	})
	return err
}

// WhatIf is a question about the week: one of its parts is asked.
type WhatIf struct {
	Task string // takes More minutes more
	More int
	Part string // the tag of a head whose parts come Days later
	Ill  string // who is away for Days from today on
	Like string // a rush job like this head is taken in, before all others
	Days int
}

// rushJob is what a head that is taken in as a rush is called in the answer.
const rushJob = "the rush job"

// If plans the week with a what-if and says what changes; of a rush job also when it would be
// done.
func (w Week) If(q WhatIf) (changes []schedule.Change, rush time.Time, err error) {
	p, ok := w.Problem, true
	switch {
	case q.Days < 0 || q.Days > 60:
		return nil, rush, field.Errorf("days", "from 0 to 60 days")
	case q.Task != "":
		if q.More < -10_000 || q.More > 10_000 {
			return nil, rush, field.Errorf("more", "minutes, up to a week of them")
		}
		if p, ok = p.Slip(q.Task, quantity.Minutes(q.More)); !ok {
			return nil, rush, field.Errorf("slip", "choose an operation of the plan")
		}
	case q.Part != "":
		if p, ok = p.Delay(q.Part, "part", time.Duration(q.Days)*24*time.Hour); !ok {
			return nil, rush, field.Errorf("part", "it waits for no part")
		}
	case q.Ill != "":
		if p, ok = p.Away(q.Ill, p.Now, q.Days); !ok {
			return nil, rush, field.Errorf("ill", "choose somebody who works here")
		}
	case q.Like != "":
		i := slices.IndexFunc(w.Jobs, func(j schedule.Job) bool { return j.Name == q.Like })
		if i < 0 {
			return nil, rush, field.Errorf("like", "choose a head of the plan")
		}
		p = p.With(fresh(w.Jobs[i]), true)
	default:
		return nil, rush, field.Errorf("slip", "choose what to ask")
	}
	r, err := schedule.Plan(p)
	if err != nil {
		return nil, rush, err
	}
	if o, ok := r.Outcome(rushJob); ok {
		rush = o.Done
	}
	return schedule.Changes(w.Result, r), rush, nil
}

// fresh is a job like another that has only come in: nothing of it runs, or is waited for.
func fresh(like schedule.Job) schedule.Job {
	out := schedule.Job{Name: rushJob}
	for _, t := range like.Tasks {
		_, what, _ := strings.Cut(t.ID, "/")
		t.ID, t.Ready, t.For, t.Running, t.By = rushJob+"/"+what, time.Time{}, "", false, nil
		out.Tasks = append(out.Tasks, t)
	}
	return out
}

// Load is how much work of the coming weeks a station or somebody has, against their hours.
type Load struct {
	Name  string
	Weeks []LoadWeek
}

// LoadWeek is the load of a week.
type LoadWeek struct {
	From         time.Time
	Work, Hours  time.Duration
	Beyond, None bool // more than there are hours; no hours at all
}

// Part is the share of the hours that is taken, in percent.
func (l LoadWeek) Part() int {
	if l.Hours <= 0 {
		return 0
	}
	return int(100 * l.Work / l.Hours)
}

// loadWeeks is how many weeks ahead load is shown.
const loadWeeks = 4

// Loads lists how the coming weeks are filled: of stations, and of people.
func (w Week) Loads() (stations, people []Load) {
	y, m, d := w.Now.Date()
	monday := time.Date(y, m, d-(int(w.Now.Weekday())+6)%7, 0, 0, 0, 0, w.Now.Location())
	row := func(name string, hours schedule.Hours, places int, spans func(schedule.Bar) []schedule.Span) Load {
		l := Load{Name: name}
		for k := range loadWeeks {
			from := monday.AddDate(0, 0, 7*k)
			lw := LoadWeek{From: from}
			begin := from
			if begin.Before(w.Now) {
				begin = w.Now
			}
			lw.Hours = time.Duration(places) * hours.Between(begin, from.AddDate(0, 0, 7))
			for _, b := range w.Bars {
				for _, sp := range spans(b) {
					if at := sp.Start; !at.Before(from) && at.Before(from.AddDate(0, 0, 7)) {
						lw.Work += sp.End.Sub(sp.Start)
					}
				}
			}
			lw.Beyond, lw.None = lw.Work > lw.Hours, lw.Hours == 0
			l.Weeks = append(l.Weeks, lw)
		}
		return l
	}
	for _, st := range w.Stations {
		stations = append(stations, row(st.Name, st.Hours, st.Capacity, func(b schedule.Bar) []schedule.Span {
			if b.Station != st.Name {
				return nil
			}
			return b.Pieces
		}))
	}
	for _, h := range w.People {
		people = append(people, row(h.Name, h.Hours, 1, func(b schedule.Bar) []schedule.Span {
			if !slices.Contains(b.People, h.Name) {
				return nil
			}
			return within(b)
		}))
	}
	return stations, people
}

// within are the stretches in which people are at a bar, without nights and breaks.
func within(b schedule.Bar) []schedule.Span {
	var out []schedule.Span
	for _, p := range b.Pieces {
		for _, sp := range b.With {
			from, to := p.Start, p.End
			if sp.Start.After(from) {
				from = sp.Start
			}
			if sp.End.Before(to) {
				to = sp.End
			}
			if from.Before(to) {
				out = append(out, schedule.Span{Start: from, End: to})
			}
		}
	}
	return out
}

// ByPerson is the same week with a row for each person: a bar of somebody lies on the stretches
// in which they are at it.
func (w Week) ByPerson() ([]schedule.Station, []schedule.Bar) {
	var rows []schedule.Station
	var bars []schedule.Bar
	for _, h := range w.People {
		rows = append(rows, schedule.Station{Name: h.Name, Capacity: 1, Hours: h.Hours})
	}
	for _, b := range w.Bars {
		for _, name := range b.People {
			own := b
			own.Station, own.Unit, own.Pieces = name, 0, within(b)
			if len(own.Pieces) > 0 {
				own.Start, own.End = own.Pieces[0].Start, own.Pieces[len(own.Pieces)-1].End
				bars = append(bars, own)
			}
		}
	}
	return rows, bars
}

// Turn is something to do for somebody on a day.
type Turn struct {
	schedule.Bar
	Says string
}

// Today lists what somebody does on the day of t by the week's plan, in order; everybody with an
// empty name.
func (w Week) Today(person string, t time.Time) []Turn {
	_, bars := w.ByPerson()
	var out []Turn
	for _, b := range bars {
		if person != "" && b.Station != person {
			continue
		}
		i := slices.IndexFunc(b.Pieces, func(sp schedule.Span) bool {
			return sp.Start.Format(time.DateOnly) == t.Format(time.DateOnly)
		})
		if i < 0 {
			continue
		}
		b.Start, b.End = b.Pieces[i].Start, b.Pieces[i].End
		out = append(out, Turn{b, w.Task(b.ID)})
	}
	slices.SortStableFunc(out, func(a, b Turn) int { return a.Start.Compare(b.Start) })
	return out
}

// Nobodys lists the operations of the plan that nobody in the shop can do.
func (w Week) Nobodys() []string {
	var out []string
	for _, b := range w.Bars {
		if name := taskName(b.ID); b.Nobody && !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return out
}

// Figures are the shop's own figures of the heads handed over last.
type Figures struct {
	Kept
	Heads     int
	Comebacks int
	First     int           // heads closed without an operation held or done again
	Sold      time.Duration // minutes quoted by their operations
	Worked    time.Duration
	Waited    []Waited // where heads stand longest
	Short     []Short  // what heads had to wait for on most days
	ShortOf   int      // of so many days
}

// Waited is how long heads stood before an operation, on average.
type Waited struct {
	Name  string
	Times int
	Mean  time.Duration
}

// FiguresOf works the figures out.
func FiguresOf(ctx context.Context, s *shop.Shop) (Figures, error) {
	db := s.Store.Read(ctx)
	saved, err := db.Settings()
	if err != nil {
		return Figures{}, err
	}
	f := Figures{}
	if f.Kept, err = KeptPromises(db, shop.SettingsFor(saved, "")); err != nil {
		return f, err
	}
	if f.Short, f.ShortOf, err = shortOf(db); err != nil {
		return f, err
	}
	heads, err := db.Delivered(lastDelivered)
	if err != nil {
		return f, err
	}
	var ids []uint
	for _, h := range heads {
		ids = append(ids, h.ID)
		if h.Job.Comeback() {
			f.Comebacks++
		}
	}
	f.Heads = len(heads)
	ops, err := db.Operations(ids...)
	if err != nil {
		return f, err
	}
	var opIDs []uint
	for _, o := range ops {
		opIDs = append(opIDs, o.ID)
	}
	stints, err := db.Stints(opIDs...)
	if err != nil {
		return f, err
	}
	for _, st := range stints {
		f.Worked += st.Worked()
	}
	waited, times := map[string]time.Duration{}, map[string]int{}
	again := map[uint]bool{}
	var before *store.Operation
	for i := range ops {
		o := &ops[i]
		if o.State != "done" {
			continue
		}
		f.Sold += o.Minutes.Duration()
		if o.Held != "" || o.Added != "" {
			again[o.HeadID] = true
		}
		if before != nil && before.HeadID == o.HeadID && before.FinishedAt != nil && o.StartedAt != nil &&
			o.StartedAt.After(*before.FinishedAt) {
			waited[o.Code] += o.StartedAt.Sub(*before.FinishedAt)
			times[o.Code]++
		}
		before = o
	}
	f.First = f.Heads - len(again)
	for _, k := range trade.Operations() {
		if n := times[k.Code]; n > 0 {
			f.Waited = append(f.Waited, Waited{k.Name, n, waited[k.Code] / time.Duration(n)})
		}
	}
	slices.SortStableFunc(f.Waited, func(a, b Waited) int { return int(b.Mean - a.Mean) })
	f.Waited = f.Waited[:min(8, len(f.Waited))]
	return f, nil
}

// Hours writes a time in hours: "12.5 h".
func Hours(d time.Duration) string { return fmt.Sprintf("%.1f h", d.Hours()) }

// Weighed says whose lateness counts more than once, in words; "" where everybody's counts once.
func (w Week) Weighed() string {
	var said []string
	for _, h := range w.Heads {
		c := h.Job.Customer
		if line := fmt.Sprintf("a day late of %s counts %d times", c.Name, c.Weight); c.Weight > 1 &&
			!slices.Contains(said, line) {
			said = append(said, line)
		}
	}
	return strings.Join(said, ", ")
}
