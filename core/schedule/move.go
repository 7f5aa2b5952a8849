package schedule

import (
	"slices"
	"time"
)

// Moved is a plan in which a task was put to another time by hand: what it would be, and what it
// takes. Nothing is changed: a person decides.
type Moved struct {
	Result
	Start time.Time // when the task begins now
	Hold  time.Time // it is held back until then; zero when it is not
	Jobs  []string  // the order the jobs are taken in
}

// Move puts a task to a time. Later than it is planned, it is held back until then, and what comes
// after it in its job waits for it. Sooner, its job is taken before as few others as it takes to
// begin by then; where no order brings it so far, before as many as bring it furthest. What it
// was held back by before is taken away. r is the plan of p. False when there is no such task, it
// runs already, or it cannot be planned.
func Move(p Problem, r Result, task string, to time.Time) (Moved, bool) {
	i := slices.IndexFunc(r.Bars, func(b Bar) bool { return b.ID == task })
	if i < 0 || r.Bars[i].Running {
		return Moved{}, false
	}
	was := r.Bars[i]
	free, _ := p.change(task, func(t *Task) { t.Hold = time.Time{} })
	if to.After(was.Start) {
		held, _ := free.change(task, func(t *Task) { t.Hold = to })
		return tried(held, task, to)
	}
	at := slices.IndexFunc(free.Jobs, func(j Job) bool { return j.Name == was.Job })
	var best Moved
	for ahead := at; ahead >= 0; ahead-- {
		q := free
		q.Jobs = slices.Insert(slices.Delete(slices.Clone(free.Jobs), at, at+1), ahead, free.Jobs[at])
		m, ok := tried(q, task, time.Time{})
		if !ok {
			continue
		}
		if best.Jobs == nil || m.Start.Before(best.Start) {
			best = m
		}
		if !m.Start.After(to) {
			return m, true
		}
	}
	return best, best.Jobs != nil
}

// tried plans a problem and says when a task begins in it.
func tried(p Problem, task string, hold time.Time) (Moved, bool) {
	r, err := Plan(p)
	if err != nil {
		return Moved{}, false
	}
	m := Moved{Result: r, Hold: hold}
	for _, j := range p.Jobs {
		m.Jobs = append(m.Jobs, j.Name)
	}
	i := slices.IndexFunc(r.Bars, func(b Bar) bool { return b.ID == task })
	if i < 0 {
		return Moved{}, false
	}
	m.Start = r.Bars[i].Start
	return m, true
}
