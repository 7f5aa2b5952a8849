package schedule

import (
	"math"
	"math/rand/v2"
	"slices"
	"time"
	"yatai/core/quantity"
)

// Spread says how far things go from what was planned, as the standard deviation of the
// logarithm: 0.3 is a third more or less, now and then twice as much.
type Spread struct {
	Minutes func(Task) float64 // of a task's minutes
	Waits   float64            // of how long a part or an answer takes from now on
}

// Simulate plans the problem so many times with minutes, parts and answers as they may turn
// out, and returns each job's days of being done, the soonest first. The same seed gives the
// same. Errors are those of Plan.
func Simulate(p Problem, s Spread, times int, seed uint64) (map[string][]time.Time, error) {
	b, err := newBoard(p)
	if err != nil {
		return nil, err
	}
	out := map[string][]time.Time{}
	for n := range times {
		r := rand.New(rand.NewPCG(seed, uint64(n)))
		q := p
		q.Jobs = make([]Job, len(p.Jobs))
		for i, j := range p.Jobs {
			tasks := slices.Clone(j.Tasks)
			waits := math.Exp(s.Waits * r.NormFloat64()) // all of a job's parts come from the same hands
			for k := range tasks {
				t := &tasks[k]
				f := math.Exp(s.Minutes(*t) * r.NormFloat64())
				t.Minutes, t.Alone, t.Last = scaled(t.Minutes, f), scaled(t.Alone, f), scaled(t.Last, f)
				if t.Ready.After(p.Now) {
					t.Ready = p.Now.Add(time.Duration(float64(t.Ready.Sub(p.Now)) * waits))
				}
			}
			q.Jobs[i] = Job{j.Name, j.Due, tasks, j.Weight}
		}
		b.clear()
		running, err := b.begin(q)
		if err != nil {
			return nil, err
		}
		for _, j := range q.Jobs {
			o, _, err := b.job(q.Now, j, running)
			if err != nil {
				return nil, err
			}
			out[j.Name] = append(out[j.Name], o.Done)
		}
	}
	for _, done := range out {
		slices.SortFunc(done, time.Time.Compare)
	}
	return out, nil
}

func scaled(m quantity.Minutes, by float64) quantity.Minutes {
	return quantity.Minutes(math.Round(float64(m) * by))
}

// KeptBy returns the time by which a share of the simulated ones is done: 0.8 is 8 of 10. done
// is not empty, the soonest first.
func KeptBy(done []time.Time, share float64) time.Time {
	i := int(math.Ceil(share*float64(len(done)))) - 1
	return done[min(max(i, 0), len(done)-1)]
}
