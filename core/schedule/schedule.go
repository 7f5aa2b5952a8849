// Package schedule plans the work of a shop on its stations: finite capacity, working
// hours, the order of each head's operations, parts that have yet to come, and promises.
// It says when each head will really be done, and what it waits for on the way.
//
// Plan is the door. Heads are planned in the order given, each taking the first time its
// stations are free: the order is the priority, and nothing is shuffled behind anybody's
// back. Improve proposes other orders and says what each would gain and cost; Changes
// compares two plans, so that "what if it takes longer" is a plan of the changed question.
//
// Times are on the shop's wall clock (in the location of Problem.Now); minutes are
// working minutes.
package schedule

import (
	"slices"
	"time"

	"yatai/core/field"
)

// Station is a place of work: what it can do at a time, and when.
type Station struct {
	Name     string
	Capacity int // heads at a time, one at least
	Hours    Hours
}

// Task is an operation still to be done. The tasks of a job are done one after the other,
// in their order.
type Task struct {
	ID      string // unique in the problem: "T0404/3"
	Station string
	Minutes int       // of work left, not negative
	Ready   time.Time // not before this; zero: at once
	For     string    // what Ready waits for: "part", "approval", "lead"
	Why     string    // in words: "8 exhaust valves, due 27 Nov"
	Whole   bool      // not left over night when it fits into a shift
	Running bool      // it is on its station now
}

// Job is a head with what is still to be done on it, in order.
type Job struct {
	Name  string
	Due   time.Time // the promise: the end of that day; zero without one
	Tasks []Task
}

// Problem is what is to be planned. The jobs' order is their priority.
type Problem struct {
	Now      time.Time
	Stations []Station
	Closed   map[string]bool // days nobody works, as 2031-12-24
	Jobs     []Job
}

// Bar is a task on its station. Between Start and End it has the unit to itself; Pieces
// are the working time within.
type Bar struct {
	Task
	Job    string
	Unit   int // which of the station's places, from 0
	Start  time.Time
	End    time.Time
	Pieces []Span
	Waits  []Wait
}

// Wait is time a task stood still though its turn had come: for a part, an approval, the
// lead, or a station that was busy.
type Wait struct {
	Task   string
	For    string   // as in Task, or "station"
	Why    string   // in words; empty for a station
	Behind []string // the tasks that were on the station meanwhile, in order
	Span
}

// Long is how long the wait takes, nights and all.
func (w Wait) Long() time.Duration { return w.End.Sub(w.Start) }

// Outcome is what becomes of a job.
type Outcome struct {
	Job   string
	Due   time.Time
	Done  time.Time
	Late  time.Duration // past Due; 0 when in time or without a promise
	Waits []Wait        // the longest first
}

// Result is a plan: a bar for each task, in the order they start, and an outcome for each
// job, in the problem's order.
type Result struct {
	Bars     []Bar
	Outcomes []Outcome
}

// Outcome returns what becomes of a job.
func (r Result) Outcome(job string) (Outcome, bool) {
	i := slices.IndexFunc(r.Outcomes, func(o Outcome) bool { return o.Job == job })
	if i < 0 {
		return Outcome{}, false
	}
	return r.Outcomes[i], true
}

// unit is one place of a station with what is on it, in order.
type unit struct{ busy []slot }

// slot is when a task is on a unit.
type slot struct {
	Span
	task string
}

// stand is a station as it fills up.
type stand struct {
	Station
	longest  int // minutes of its longest shift
	calendar *calendar
	units    []*unit
}

// board is the stations by name.
type board map[string]*stand

// newBoard sets the stations up, empty.
func newBoard(p Problem) (board, error) {
	b := board{}
	for _, s := range p.Stations {
		st := &stand{Station: s, longest: s.Hours.longest(), calendar: newCalendar(s.Hours, p.Closed, p.Now)}
		if s.Capacity < 1 || st.longest == 0 {
			return nil, field.Errorf("stations", "%s needs a place and working hours", s.Name)
		}
		b[s.Name] = st
	}
	b.clear()
	return b, nil
}

// clear takes everything off the stations.
func (b board) clear() {
	for _, st := range b {
		st.units = nil
		for range st.Capacity {
			st.units = append(st.units, &unit{})
		}
	}
}

// Plan plans the jobs in their order: each task at the first time its station has a place
// free for all of it, after the one before it, and not before it is ready. What runs
// already keeps its place. Errors: "stations" for a station without a place or without
// hours, "tasks" for a task of an unknown station, of negative minutes, or one that cannot
// be placed within two years.
func Plan(p Problem) (Result, error) {
	b, err := newBoard(p)
	if err != nil {
		return Result{}, err
	}
	return b.plan(p)
}

// plan plans the jobs on an empty board.
func (b board) plan(p Problem) (Result, error) {
	running := map[string]Bar{}
	for _, j := range p.Jobs { // what is on a station is there before anything is planned
		for _, t := range j.Tasks {
			if t.Running {
				bar, err := b.place(j.Name, t, p.Now)
				if err != nil {
					return Result{}, err
				}
				running[t.ID] = bar
			}
		}
	}
	var r Result
	for _, j := range p.Jobs {
		o := Outcome{Job: j.Name, Due: j.Due, Done: p.Now}
		for _, t := range j.Tasks {
			bar, on := running[t.ID]
			if !on {
				var err error
				if bar, err = b.place(j.Name, t, o.Done); err != nil {
					return Result{}, err
				}
			}
			r.Bars = append(r.Bars, bar)
			o.Waits = append(o.Waits, bar.Waits...)
			o.Done = bar.End
		}
		if !j.Due.IsZero() {
			o.Late = max(0, o.Done.Sub(j.Due))
		}
		slices.SortStableFunc(o.Waits, func(a, b Wait) int { return int(b.Long() - a.Long()) })
		r.Outcomes = append(r.Outcomes, o)
	}
	slices.SortStableFunc(r.Bars, func(a, b Bar) int { return a.Start.Compare(b.Start) })
	return r, nil
}

// place puts a task on the place of its station where it is done first, not before after.
func (b board) place(job string, t Task, after time.Time) (Bar, error) {
	st, ok := b[t.Station]
	switch {
	case !ok:
		return Bar{}, field.Errorf("tasks", "%s: there is no station %q", t.ID, t.Station)
	case t.Minutes < 0:
		return Bar{}, field.Errorf("tasks", "%s: minutes below nothing", t.ID)
	}
	from := after
	bar := Bar{Task: t, Job: job}
	if t.Ready.After(from) {
		bar.Waits = append(bar.Waits, Wait{t.ID, t.For, t.Why, nil, Span{from, t.Ready}})
		from = t.Ready
	}
	var best Bar
	var where *unit
	for i, u := range st.units {
		try, ok := st.fit(bar, u, from)
		if ok && (where == nil || try.End.Before(best.End)) {
			best, where = try, u
			best.Unit = i
		}
	}
	if where == nil {
		return Bar{}, field.Errorf("tasks", "%s finds no time at %s within two years", t.ID, t.Station)
	}
	at, _ := slices.BinarySearchFunc(where.busy, best.Start, func(s slot, t time.Time) int { return s.Start.Compare(t) })
	where.busy = slices.Insert(where.busy, at, slot{Span{best.Start, best.End}, best.ID})
	return best, nil
}

// fit finds the first time from from on when u is free for all of the task, and says what
// was in the way.
func (st *stand) fit(bar Bar, u *unit, from time.Time) (Bar, bool) {
	var behind []string
	var turn time.Time
	for next := 0; ; {
		pieces, ok := st.work(from, bar.Minutes, bar.Whole)
		if !ok {
			return Bar{}, false
		}
		start, end := pieces[0].Start, pieces[len(pieces)-1].End
		if turn.IsZero() {
			turn = start
		}
		for next < len(u.busy) && !u.busy[next].End.After(start) { // gone by then
			next++
		}
		if next == len(u.busy) || !u.busy[next].Start.Before(end) {
			bar.Start, bar.End, bar.Pieces = start, end, pieces
			if behind != nil {
				bar.Waits = append(slices.Clip(bar.Waits), Wait{bar.ID, "station", "", behind, Span{turn, start}})
			}
			return bar, true
		}
		behind = append(behind, u.busy[next].task)
		from = u.busy[next].End
	}
}

// work lays minutes of work into the station's hours from from on. Work that must not be
// left over night waits for a shift it fits into, if there is one.
func (st *stand) work(from time.Time, minutes int, whole bool) ([]Span, bool) {
	left := time.Duration(minutes) * time.Minute
	whole = whole && minutes <= st.longest
	var pieces []Span
	for sp := range st.calendar.from(from) {
		if whole && sp.End.Sub(sp.Start) < left {
			continue
		}
		if sp.End.Sub(sp.Start) >= left {
			return append(pieces, Span{sp.Start, sp.Start.Add(left)}), true
		}
		left -= sp.End.Sub(sp.Start)
		pieces = append(pieces, sp)
	}
	return nil, false
}
