// Package week is the shop's work in time: the floor as it stands, the stations and their hours,
// minutes as they were worked here, the week's plan and its moves.
package week

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/quantity"
	"yatai/core/route"
	"yatai/core/schedule"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Week is when the shop's heads will really be done: their operations on the stations, in
// the order of urgency, then promise.
type Week struct {
	schedule.Problem
	schedule.Result
	Heads   []WeekHead // in the order they are planned
	Minutes []Learnt   // what the shop has learnt of its operations

	inOrder func(tags []string) ([]schedule.Job, error) // the jobs were the heads in another order
}

// WeekHead is a head in the week's plan.
type WeekHead struct {
	store.Head
	Outcome schedule.Outcome
	Known   bool     // whether all its work is known: it is judged and decided
	Firm    bool     // whether its work is ordered
	Left    int      // operations and the like still to be done
	Because []string // what it waits for, the longest first
}

// Task is an operation of the week's plan as a person calls it.
func (w Week) Task(id string) string {
	i := slices.IndexFunc(w.Bars, func(b schedule.Bar) bool { return b.ID == id })
	if i < 0 {
		return id
	}
	return w.Bars[i].Job + " " + strings.ToLower(taskName(id))
}

// Minutes that are reckoned with for what is not an operation yet.
const (
	readMinutes  = 0.5 // a reading
	judgeMinutes = 30
	quoteMinutes = 20
)

// Reckon plans the week from now on.
func Reckon(ctx context.Context, s *shop.Shop) (Week, error) { return ReckonIn(s, s.Store.Read(ctx)) }

// ReckonIn is Reckon within a transaction.
func ReckonIn(s *shop.Shop, db store.DB) (Week, error) {
	w, _, err := asked(s, db)
	if err != nil {
		return w, err
	}
	if w.Result, err = schedule.Plan(w.Problem); err != nil {
		return w, err
	}
	for i := range w.Heads {
		h := &w.Heads[i]
		h.Outcome = w.Outcomes[i]
		for _, wait := range h.Outcome.Waits {
			h.Because = append(h.Because, w.because(wait))
		}
	}
	return w, nil
}

// because writes a wait in words: "2 days 3 h for a part: 8 valves, due Fri 28 Nov".
func (w Week) because(x schedule.Wait) string {
	said := map[string]string{
		"part": "for a part", "approval": "for the customer", "lead": "for the lead", "station": "behind",
		"people": "for hands, which are at", "hand": "by hand",
	}[x.For]
	why := x.Why
	if x.For == "station" || x.For == "people" {
		why = w.Task(x.Behind[0])
		if n := len(x.Behind) - 1; n > 0 {
			why += fmt.Sprintf(" and %d more", n)
		}
		return Span(x.Long()) + " " + said + " " + why
	}
	return Span(x.Long()) + " " + said + ": " + why
}

// Span writes how long something takes: "40 min", "3 h", "2 days 4 h".
func Span(d time.Duration) string {
	days, hours, minutes := int(d.Hours())/24, int(d.Hours())%24, int(d.Minutes())%60
	switch {
	case days > 0 && hours > 0:
		return fmt.Sprintf("%s %d h", shop.Plural(days, "day"), hours)
	case days > 0:
		return shop.Plural(days, "day")
	case hours > 0 && minutes >= 5:
		return fmt.Sprintf("%d h %d min", hours, minutes)
	case hours > 0:
		return fmt.Sprintf("%d h", hours)
	}
	return fmt.Sprintf("%d min", minutes)
}

// Operation returns the number on its head's route that a task of the plan has; false for
// what is done before there is a route.
func (w Week) Operation(id string) (seq int, ok bool) {
	seq, _ = taskParts(id)
	return seq, seq > 0
}

// A task is called by its head's tag and what is done: an operation's number on the route
// and its code, "T0404/3 face", or "T0404/measure" before there is a route.
func taskID(tag, what string) string { return tag + "/" + what }

func taskParts(id string) (seq int, what string) {
	_, what, _ = strings.Cut(id, "/")
	if number, code, ok := strings.Cut(what, " "); ok {
		seq, _ = strconv.Atoi(number)
		what = code
	}
	return seq, what
}

func taskName(id string) string {
	_, what := taskParts(id)
	if k := trade.OperationNamed(what); k != nil {
		return k.Name
	}
	return what
}

// weekQuestion collects what there is to do in the shop and when it can be begun.
func weekQuestion(s *shop.Shop, db store.DB) (Week, error) {
	w, _, err := asked(s, db)
	return w, err
}

// asked is weekQuestion with what it was made from.
func asked(s *shop.Shop, db store.DB) (Week, *question, error) {
	w := Week{Problem: schedule.Problem{Now: s.Now().Local(), Closed: map[string]bool{}}}
	q := &question{
		s:       s,
		now:     w.Now,
		layout:  map[uint]layout.Layout{},
		ops:     map[uint][]store.Operation{},
		decided: map[uint][]store.Decision{},
	}
	in, err := q.load(s.Cache, db)
	if err != nil {
		return w, q, err
	}
	w.Minutes = q.learnt()
	for _, day := range strings.Fields(q.set.Get(shop.ClosedDays)) {
		w.Closed[day] = true
	}
	for _, st := range in.stations {
		h, err := schedule.ParseHours(st.Hours)
		if err != nil {
			return w, q, fmt.Errorf("hours of %s: %w", st.Name, err)
		}
		w.Stations = append(w.Stations, schedule.Station{Name: st.Name, Capacity: st.Capacity, Hours: h})
	}
	if w.People, err = hands(in.users, q.set, w.Closed); err != nil {
		return w, q, fmt.Errorf("people: %w", err)
	}
	q.at = atWork(in.stints, in.users)
	slices.SortStableFunc(q.orders, func(a, b store.PartOrder) int { return a.Due.Compare(b.Due) })
	slices.SortStableFunc(in.heads, func(a, b store.Head) int {
		return cmp.Or(b.Urgency-a.Urgency, inTurn(a, b))
	})
	for _, o := range in.ops {
		q.ops[o.HeadID] = append(q.ops[o.HeadID], o)
	}
	for _, d := range in.decided {
		q.decided[d.HeadID] = append(q.decided[d.HeadID], d)
	}
	q.heads, q.there, q.coming = in.heads, q.stock.Count, q.orders
	w.inOrder = q.inOrder
	w.Jobs, w.Heads, err = q.share(in.heads)
	return w, q, err
}

// share lists the jobs of heads and what is known of them: what is in the stock and on its way goes
// to them in their order.
func (q *question) share(heads []store.Head) (jobs []schedule.Job, out []WeekHead, err error) {
	q.stock.Count, q.orders = maps.Clone(q.there), slices.Clone(q.coming)
	for _, h := range heads {
		tasks, known, err := q.tasks(h, q.ops[h.ID], q.decided[h.ID])
		if err != nil {
			return nil, nil, err
		}
		job := schedule.Job{Name: h.Tag, Tasks: tasks, Weight: h.Job.Customer.Weight}
		if h.Job.Promise != nil {
			job.Due = promised(h)
		}
		jobs = append(jobs, job)
		out = append(out, WeekHead{Head: h, Known: known, Firm: h.WorkOrderAt != nil, Left: len(tasks)})
	}
	return jobs, out, nil
}

// inOrder lists the jobs as they would be with the heads in another order, by their tags.
func (q *question) inOrder(tags []string) ([]schedule.Job, error) {
	heads := slices.Clone(q.heads)
	slices.SortStableFunc(heads, func(a, b store.Head) int {
		return cmp.Compare(slices.Index(tags, a.Tag), slices.Index(tags, b.Tag))
	})
	jobs, _, err := q.share(heads)
	return jobs, err
}

// loaded is what the store knows of the open heads and of those who work on them.
type loaded struct {
	stations []store.WorkStation
	heads    []store.Head
	ops      []store.Operation
	decided  []store.Decision
	users    []store.User
	stints   []store.Stint
}

// load asks the store for all that a week is made of, a query for each kind of thing.
func (q *question) load(cache *shop.Cache, db store.DB) (in loaded, err error) {
	var ids []uint
	for _, load := range []func() error{
		func() (err error) { in.stations, err = db.WorkStations(); return },
		func() error {
			saved, err := db.Settings()
			q.set = shop.SettingsFor(saved, "")
			return err
		},
		func() (err error) { in.heads, err = db.OpenHeads(); return },
		func() error {
			in.heads = slices.DeleteFunc(in.heads, func(h store.Head) bool { return h.ClosedAt != nil })
			for _, h := range in.heads {
				ids = append(ids, h.ID)
			}
			return nil
		},
		func() (err error) { in.ops, err = db.Operations(ids...); return },
		func() (err error) { in.decided, err = db.DecidedOn(ids...); return },
		func() (err error) { q.counts, err = db.CountReadings(headfile.AsReceived, ids...); return },
		func() (err error) { q.limits, err = db.LimitCodes(); return },
		func() (err error) { q.asked, q.answered, err = db.AnsweredHeads(ids...); return },
		func() (err error) { q.stock, err = headfile.LoadStock(db); return },
		func() (err error) { q.orders, err = db.PartOrders(); return },
		func() (err error) { in.users, err = db.Users(); return },
		func() (err error) { in.stints, err = db.OpenStints(); return },
		func() error { return q.learn(cache, db, in.stations) },
	} {
		if err := load(); err != nil {
			return in, err
		}
	}
	return in, nil
}

// promised is the end of the day a head is promised for; far away without a promise.
func promised(h store.Head) time.Time {
	if h.Job.Promise == nil {
		return time.Date(9999, 1, 1, 0, 0, 0, 0, time.Local)
	}
	p := *h.Job.Promised()
	return time.Date(p.Year(), p.Month(), p.Day()+1, 0, 0, 0, 0, time.Local)
}

// question is what is known while the week's question is put together. Stock and orders
// go to the heads in their order, so that no part is counted on twice.
type question struct {
	s               *shop.Shop
	now             time.Time
	set             shop.Settings
	counts          map[uint]map[string]int
	limits          map[uint]map[string]bool
	asked, answered map[uint]bool
	stock           headfile.Stock
	orders          []store.PartOrder
	layout          map[uint]layout.Layout
	own             map[string]Learnt // by operation
	spread          float64           // of the minutes of all
	at              map[uint][]string // who is at an operation now

	heads   []store.Head               // in the order of now
	ops     map[uint][]store.Operation // by head
	decided map[uint][]store.Decision  // by head
	there   map[uint]int               // by item: the stock before any of it is shared out
	coming  []store.PartOrder          // and what is on order

	offered string    // tag of a head that is offered an earlier day; empty for none
	held    time.Time // until when it is: it is answered by then, or not offered any more
}

// atWork is who is at which operation now, by name.
func atWork(open []store.Stint, users []store.User) map[uint][]string {
	out := map[uint][]string{}
	for _, st := range open {
		for _, u := range users {
			if u.ID == st.PersonID && !slices.Contains(out[st.OperationID], u.Name) {
				out[st.OperationID] = append(out[st.OperationID], u.Name)
			}
		}
	}
	return out
}

// tasks lists what is still to be done on a head; known tells whether that is all.
func (q *question) tasks(
	h store.Head, ops []store.Operation, decided []store.Decision,
) (tasks []schedule.Task, known bool, err error) {
	l, err := q.s.Cache.Layout(h.Model)
	if err != nil {
		return nil, false, err
	}
	answer, why := time.Time{}, "no quote has gone out"
	if !q.answered[h.ID] {
		answer = q.now.AddDate(0, 0, q.set.Int("answer_days"))
		if q.asked[h.ID] {
			why = "the quote is not answered"
		}
	}
	if h.WorkOrderAt == nil {
		if read, of := wanted(l, q.counts[h.ID], q.limits[h.SheetID]); read < of {
			tasks = append(tasks, schedule.Task{
				ID: taskID(h.Tag, "measure"), Station: "inspection bench", Skill: Measuring,
				Minutes: quantity.Minutes(float64(of-read)*readMinutes) + 10,
			})
		}
		if !q.asked[h.ID] && !q.answered[h.ID] {
			tasks = append(
				tasks, schedule.Task{ID: taskID(h.Tag, "judge"), Station: "lead", Skill: Judging, Minutes: judgeMinutes},
				schedule.Task{ID: taskID(h.Tag, "quote"), Station: "counter", Skill: Quoting, Minutes: quoteMinutes},
			)
		}
		if len(decided) == 0 {
			return tasks, false, nil
		}
		ops = q.derived(h, l, decided)
	}
	for _, o := range ops {
		if o.State == "done" || o.State == "skipped" {
			continue
		}
		t := q.task(h, l, o)
		if h.Tag == q.offered && answer.After(q.held) {
			if q.held.After(t.Hold) && !t.Running && !headfile.Free(o.Code) {
				t.Hold = q.held
			}
		} else if answer.After(t.Ready) && !t.Running && !headfile.Free(o.Code) {
			t.Ready, t.For, t.Why = answer, "approval", why
		}
		tasks = append(tasks, t)
	}
	return tasks, true, nil
}

// derived is the route that what is decided leads to, not ordered yet.
func (q *question) derived(h store.Head, l layout.Layout, decided []store.Decision) []store.Operation {
	var out []store.Operation
	var ds []route.Decision
	for _, d := range decided {
		ds = append(ds, route.Decision{Code: d.Choice, Position: d.Position})
	}
	set := q.set.Of(h.Tag)
	subject := &head.Head{
		Kind: h.Job.Kind, Model: head.Model{Kind: headfile.KindOf(h.Model), Layout: l},
		Settings: map[string]string{},
	}
	for _, t := range trade.Settings {
		if t.School {
			subject.Settings[t.Name] = set.Get(t.Name)
		}
	}
	for _, k := range trade.Operations() {
		if own := set.Get(trade.MinutesOf + k.Code); own != "" {
			subject.Settings[trade.MinutesOf+k.Code] = own
		}
	}
	for i, o := range route.Derive(subject, ds) {
		out = append(out, store.Operation{
			HeadID: h.ID, Seq: i + 1, Code: o.Code, Positions: strings.Join(o.Positions, " "),
			Minutes: o.Minutes, State: "waiting",
		})
	}
	return out
}

// task is an operation as the week's plan asks for it.
func (q *question) task(h store.Head, l layout.Layout, o store.Operation) schedule.Task {
	t := schedule.Task{
		ID: taskID(h.Tag, fmt.Sprintf("%d %s", o.Seq, o.Code)), Station: trade.Counter, Skill: o.Code,
		Minutes: q.own[o.Code].reckon(o.Minutes),
	}
	if k := trade.OperationNamed(o.Code); k != nil {
		l := k.LabourBy(q.set.Get)
		t.Skill = k.Skill()
		t.Station, t.Whole, t.Alone, t.Last, t.Hands = k.Station, k.Whole, l.Alone, l.Last, l.Hands
	}
	if o.State == "running" || o.State == "held" {
		t.Running, t.By = true, q.at[o.ID]
		if o.StartedAt != nil {
			t.Minutes = max(t.Minutes/10, t.Minutes-max(0, quantity.Minutes(q.now.Sub(*o.StartedAt).Minutes())))
		}
		return t
	}
	if o.NotBefore != nil {
		t.Hold = o.NotBefore.Local()
	}
	counts := headfile.Needs(q.stock, h.ModelID, l, o.Code, o.At())
	for _, item := range slices.Sorted(maps.Keys(counts)) {
		if ready, why := q.part(h, item, counts[item]); ready.After(t.Ready) {
			t.Ready, t.For, t.Why = ready, "part", why
		}
	}
	return t
}

// part takes n of an item for a head: from what is there, then from what is on order for
// it or for the shelf, and says when the last of them is here.
func (q *question) part(h store.Head, item uint, n int) (ready time.Time, why string) {
	have := min(n, max(0, q.stock.Count[item]))
	q.stock.Count[item] -= have
	n -= have
	i := slices.IndexFunc(q.stock.Items, func(it store.StockItem) bool { return it.ID == item })
	name := q.stock.Items[i].Name
	for k := range q.orders {
		o := &q.orders[k]
		if n == 0 || o.ItemID != item || o.ReceivedAt != nil || o.HeadID != 0 && o.HeadID != h.ID {
			continue
		}
		take := min(n, o.Count)
		o.Count -= take
		n -= take
		due := o.Due.Local()
		why = fmt.Sprintf("%s, due %s", name, due.Format("Mon 2 Jan"))
		if due.Before(q.now) {
			due = q.now.AddDate(0, 0, 1)
			why = fmt.Sprintf("%s, was due %s and has not come", name, o.Due.Local().Format("Mon 2 Jan"))
		}
		ready = later(ready, due)
	}
	if n > 0 {
		days, known := headfile.Supply(q.stock.Items[i])
		takes := shop.Plural(days, "day") + " to come"
		if !known {
			takes = "time to come not known, " + shop.Plural(days, "day") + " reckoned with"
		}
		ready, why = later(ready, q.now.AddDate(0, 0, days)), fmt.Sprintf("%s, not ordered, %s",
			shop.Times(n, name), takes)
	}
	return ready, why
}

func later(a, b time.Time) time.Time {
	if b.After(a) {
		return b
	}
	return a
}

// Moves proposes other orders that would lessen the lateness. Nothing is changed.
func (w Week) Moves() []schedule.Proposal {
	return schedule.Improve(w.Problem, w.Result, 3, orderBudget)
}

// mostUrgent bounds how far ahead of its turn a head can be taken.
const mostUrgent = 9

// SetUrgency sets how urgent a head is, 0 to 9: of two heads the more urgent is planned first,
// whatever was promised.
func SetUrgency(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, urgency int) error {
	if err := a.Must("plan the week"); err != nil {
		return err
	}
	if urgency < 0 || urgency > mostUrgent {
		return field.Only("urgency/"+tag, "from 0 to 9")
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		h, err := tx.Head(tag)
		if err != nil {
			return "", err
		}
		if err := tx.SetUrgency(h.ID, urgency); err != nil {
			return "", err
		}
		return "", s.Note(tx, a, h.ID, "urgency set", fmt.Sprintf("%d, was %d", urgency, h.Urgency))
	})
	return err
}

// TakeMove accepts a proposal: the head is planned right before the other one, and the
// urgencies of all are set to what keeps that order. ErrStale when it is before it already.
func TakeMove(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, ahead string) error {
	if err := a.Must("plan the week"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		w, err := weekQuestion(s, tx)
		if err != nil {
			return "", err
		}
		var order []store.Head
		for _, h := range w.Heads {
			order = append(order, h.Head)
		}
		at := func(tag string) int {
			return slices.IndexFunc(order, func(h store.Head) bool { return h.Tag == tag })
		}
		from, to := at(tag), at(ahead)
		if from < 0 || to < 0 {
			return "", shop.ErrNotFound
		}
		if from <= to {
			return "", shop.ErrStale
		}
		h := order[from]
		order = slices.Insert(slices.Delete(order, from, from+1), to, h)
		if err := keepOrder(tx, order); err != nil {
			return "", err
		}
		return "", s.Note(tx, a, h.ID, "taken before "+ahead, "")
	})
	return err
}

// keepOrder sets the urgencies of heads to what keeps them in an order.
func keepOrder(tx store.DB, order []store.Head) error {
	for i, u := range urgencies(order) {
		if u == order[i].Urgency {
			continue
		}
		if err := tx.SetUrgency(order[i].ID, u); err != nil {
			return err
		}
	}
	return nil
}

// urgencies returns the least urgencies that keep heads in an order.
func urgencies(order []store.Head) []int {
	out := make([]int, len(order))
	for i := len(order) - 2; i >= 0; i-- {
		out[i] = out[i+1]
		if inTurn(order[i], order[i+1]) > 0 {
			out[i]++
		}
	}
	return out
}

// inTurn compares heads by their promises, then by when they came in.
func inTurn(a, b store.Head) int {
	return cmp.Or(promised(a).Compare(promised(b)), int(a.ID)-int(b.ID))
}
