// Package schedule plans the work of a shop on its stations and with its people: finite
// capacity, working hours, who can do what, the order of each head's operations, parts that
// have yet to come, and promises. It says when each head will really be done, and what it
// waits for on the way.
//
// Plan is the door. Heads are planned in the order given, each taking the first time its
// stations and its people are free: the order is the priority, and nothing is shuffled behind
// anybody's back. Improve proposes single moves and says what each would gain and cost; Best
// looks for the best order of all; Bound says how good any order could be at most; Simulate
// says which day will be kept by how many. Changes compares two plans, so that every "what
// if" is a plan of the changed question: Slip, Delay, Away, With.
//
// Times are on the shop's wall clock (in the location of Problem.Now); minutes are
// working minutes.
package schedule

import (
	"slices"
	"strings"
	"time"
	"yatai/core/quantity"
)

// Station is a place of work: what it can do at a time, and when.
type Station struct {
	Name     string
	Capacity int // heads at a time, one at least
	Hours    Hours
}

// Person is somebody who works: when, and what at. Can is what the person can do, by a task's
// Skill; nil is everything.
type Person struct {
	Name  string
	Hours Hours
	Away  map[string]bool // days off, as 2031-12-24
	Can   map[string]bool
}

// able tells whether the person can do work of that skill.
func (p Person) able(skill string) bool { return p.Can == nil || p.Can[skill] }

// Task is an operation still to be done. The tasks of a job are done one after the other,
// in their order. Where a problem has people, a task takes Hands of them who have its Skill:
// from its start, but for Alone minutes in which it runs by itself, and for the Last minutes.
type Task struct {
	ID      string // unique in the problem: "T0404/3"
	Station string
	Minutes quantity.Minutes // of work left, not negative
	Ready   time.Time        // not before this; zero: at once
	For     string           // what Ready waits for: "part", "approval", "lead"
	Why     string           // in words: "8 exhaust valves, due 27 Nov"
	Hold    time.Time        // not before this, by somebody's hand; zero: at once
	Whole   bool             // not left over night when it fits into a shift
	Running bool             // it is on its station now
	Skill   string           // what a person must be able to do
	Hands   int              // people it takes; 0 counts as 1
	Alone   quantity.Minutes // of Minutes, those that run with nobody there
	Last    quantity.Minutes // of Minutes, those at the end, after those
	By      []string         // of a running task: who is at it
}

// first is how many minutes people are at a task before it runs alone, and last at its end.
func (t Task) first() quantity.Minutes { return max(0, t.Minutes-max(0, t.Alone)-t.last()) }

func (t Task) last() quantity.Minutes {
	if t.Alone <= 0 {
		return 0
	}
	return min(max(0, t.Last), max(0, t.Minutes-t.Alone))
}

// Job is a head with what is still to be done on it, in order.
type Job struct {
	Name  string
	Due   time.Time // the promise: the end of that day; zero without one
	Tasks []Task

	Weight int // how many times its lateness counts; 0 is once
}

// weighed is what being late by so much counts.
func (j Job) weighed(late time.Duration) time.Duration { return late * time.Duration(max(1, j.Weight)) }

// Problem is what is to be planned. The jobs' order is their priority.
type Problem struct {
	Now      time.Time
	Stations []Station
	People   []Person        // none: people are never short
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
	People []string // who is at it
	With   []Span   // when they are
	Nobody bool     // nobody in the shop can do it: it is planned as if somebody could
}

// Wait is time a task stood still though its turn had come: for a part, an approval, the
// lead, a station that was busy, or people who were.
type Wait struct {
	Task   string
	For    string   // as in Task, or "station", or "people"
	Why    string   // in words; empty for a station and for people
	Behind []string // the tasks that were in the way meanwhile, in order
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
	Cost  time.Duration // what that counts: so many times as the job weighs
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

// Plan plans the jobs in their order: each task at the first time its station has a place, and
// people who can do it are free, for all of it, after the one before it, and not before it is
// ready. What runs already keeps its place. Errors: "stations" for a station without a place
// or without hours, "people" for a person without hours, "tasks" for a task of an unknown
// station, of negative minutes, or one that cannot be placed within two years.
func Plan(p Problem) (Result, error) {
	b, err := newBoard(p)
	if err != nil {
		return Result{}, err
	}
	return b.plan(p)
}

// plan plans the jobs on an empty board.
func (b *board) plan(p Problem) (Result, error) {
	running, err := b.begin(p)
	if err != nil {
		return Result{}, err
	}
	var r Result
	for _, j := range p.Jobs {
		o, bars, err := b.job(p.Now, j, running)
		if err != nil {
			return Result{}, err
		}
		r.Bars = append(r.Bars, bars...)
		slices.SortStableFunc(o.Waits, func(a, b Wait) int { return int(b.Long() - a.Long()) })
		r.Outcomes = append(r.Outcomes, o)
	}
	slices.SortStableFunc(r.Bars, func(a, b Bar) int { return a.Start.Compare(b.Start) })
	return r, nil
}

// begin puts what runs already on its stations: it is there before anything is planned, in
// whatever order that is.
func (b *board) begin(p Problem) (map[string]Bar, error) {
	type at struct {
		job string
		Task
	}
	var all []at
	for _, j := range p.Jobs {
		for _, t := range j.Tasks {
			if t.Running {
				all = append(all, at{j.Name, t})
			}
		}
	}
	slices.SortStableFunc(all, func(a, b at) int { return strings.Compare(a.ID, b.ID) })
	running := map[string]Bar{}
	for _, x := range all {
		bar, err := b.place(x.job, x.Task, p.Now)
		if err != nil {
			return nil, err
		}
		running[x.ID] = bar
	}
	return running, nil
}

// job puts a job's tasks on the board, one after the other.
func (b *board) job(now time.Time, j Job, running map[string]Bar) (Outcome, []Bar, error) {
	o := Outcome{Job: j.Name, Due: j.Due, Done: now}
	bars := make([]Bar, 0, len(j.Tasks))
	for _, t := range j.Tasks {
		bar, on := running[t.ID]
		if !on {
			var err error
			if bar, err = b.place(j.Name, t, o.Done); err != nil {
				return o, nil, err
			}
		}
		bars = append(bars, bar)
		o.Waits = append(o.Waits, bar.Waits...)
		o.Done = bar.End
	}
	if !j.Due.IsZero() {
		o.Late = max(0, o.Done.Sub(j.Due))
		o.Cost = j.weighed(o.Late)
	}
	return o, bars, nil
}
