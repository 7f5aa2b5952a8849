package schedule

import (
	"slices"
	"time"
)

// Change is a job that is done at another time than before.
type Change struct {
	Job          string
	Before, Done time.Time
	WasLate      time.Duration
	Late         time.Duration
}

// Changes lists the jobs that are done at another time in b than in a, in b's order.
func Changes(a, b Result) []Change {
	var out []Change
	for _, o := range b.Outcomes {
		if was, ok := a.Outcome(o.Job); ok && !was.Done.Equal(o.Done) {
			out = append(out, Change{o.Job, was.Done, o.Done, was.Late, o.Late})
		}
	}
	return out
}

// Proposal is another order: Job is taken before Ahead, which was before it.
type Proposal struct {
	Job, Ahead string
	Saved      time.Duration // lateness of all jobs together, less than before
	Changes    []Change
}

// Improve proposes moves of single late jobs further up the order that lessen the
// lateness of all together and make none late that was in time: for each late job the
// one that saves most and moves it least, the best first, most at most. r is the plan of
// p. budget bounds the work as for Best. Nothing is changed: a person decides.
func Improve(p Problem, r Result, most, budget int) []Proposal {
	before := total{late: r.Late() - 1, long: endless}
	s, err := newSearch(p, budget)
	if err != nil {
		return nil
	}
	var out []Proposal
	for i, o := range r.Outcomes {
		if o.Late == 0 {
			continue
		}
		var best Proposal
		for to := i - 1; to >= 0 && s.budget > 0; to-- {
			moved := p
			moved.Jobs = slices.Insert(slices.Delete(slices.Clone(p.Jobs), i, i+1), to, p.Jobs[i])
			sum, err := s.total(movedOrder(len(p.Jobs), i, to), before)
			if err != nil || sum.late == endless || r.Late()-sum.late <= best.Saved {
				continue // the order given could be planned: so can this
			}
			plan, err := Plan(moved)
			if err != nil {
				continue
			}
			changes := Changes(r, plan)
			if !slices.ContainsFunc(changes, func(c Change) bool { return c.WasLate == 0 && c.Late > 0 }) {
				best = Proposal{o.Job, p.Jobs[to].Name, r.Late() - sum.late, changes}
			}
		}
		if best.Saved > 0 {
			out = append(out, best)
		}
	}
	slices.SortStableFunc(out, func(a, b Proposal) int { return int(b.Saved - a.Saved) })
	return out[:min(most, len(out))]
}

// movedOrder is the order of n jobs with the one at from taken to another place.
func movedOrder(n, from, to int) []int {
	order := make([]int, n)
	for k := range order {
		order[k] = k
	}
	return slices.Insert(slices.Delete(order, from, from+1), to, from)
}

// Late is the lateness of all jobs together, each as often as it weighs.
func (r Result) Late() (sum time.Duration) {
	for _, o := range r.Outcomes {
		sum += o.Cost
	}
	return sum
}
