package schedule

import (
	"maps"
	"slices"
	"time"
	"yatai/core/quantity"
)

// Slip returns the problem with a task taking so many minutes more, or fewer: what if?
// False when there is no such task.
func (p Problem) Slip(task string, more quantity.Minutes) (Problem, bool) {
	return p.change(task, func(t *Task) { t.Minutes = max(0, t.Minutes+more) })
}

// Delay returns the problem with everything that is waited for by a job and for that reason,
// such as "part", coming so much later. False when the job waits for no such thing.
func (p Problem) Delay(job, reason string, by time.Duration) (Problem, bool) {
	some := false
	p.Jobs = slices.Clone(p.Jobs)
	for i, j := range p.Jobs {
		if j.Name != job {
			continue
		}
		p.Jobs[i].Tasks = slices.Clone(j.Tasks)
		for k := range p.Jobs[i].Tasks {
			if t := &p.Jobs[i].Tasks[k]; t.For == reason && !t.Ready.IsZero() {
				t.Ready, some = t.Ready.Add(by), true
			}
		}
	}
	return p, some
}

// Away returns the problem with somebody away from a day on, for so many days of the calendar.
// False when there is nobody of that name.
func (p Problem) Away(person string, from time.Time, days int) (Problem, bool) {
	i := slices.IndexFunc(p.People, func(h Person) bool { return h.Name == person })
	if i < 0 {
		return p, false
	}
	p.People = slices.Clone(p.People)
	away := maps.Clone(p.People[i].Away)
	if away == nil {
		away = map[string]bool{}
	}
	for d := range days {
		away[from.AddDate(0, 0, d).Format(time.DateOnly)] = true
	}
	p.People[i].Away = away
	return p, true
}

// With returns the problem with one more job, before all others or behind them.
func (p Problem) With(j Job, first bool) Problem {
	if first {
		p.Jobs = slices.Concat([]Job{j}, p.Jobs)
	} else {
		p.Jobs = slices.Concat(p.Jobs, []Job{j})
	}
	return p
}

// change returns the problem with a task changed; false when there is no such task.
func (p Problem) change(task string, how func(*Task)) (Problem, bool) {
	p.Jobs = slices.Clone(p.Jobs)
	for i, j := range p.Jobs {
		for k, t := range j.Tasks {
			if t.ID == task {
				p.Jobs[i].Tasks = slices.Clone(j.Tasks)
				how(&p.Jobs[i].Tasks[k])
				return p, true
			}
		}
	}
	return p, false
}
