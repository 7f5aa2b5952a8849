package schedule

import (
	"maps"
	"slices"
	"time"

	"yatai/core/match"
	"yatai/core/quantity"
)

// Bound is how late all jobs together must at least be, in whatever order and by whatever plan:
// no plan that keeps to the stations, the people and their hours is less late in all.
//
// Each job is late by what it would be with the shop to itself. Where many want one station, or
// people of one skill, more follows: on one machine as fast as all its places together, whose
// work may be interrupted, the job with least work left is always gone on with, and no plan has
// k jobs done there sooner than that one; which job is the k-th is assigned at the least cost.
// The largest of these holds. Errors are those of Plan.
func Bound(p Problem) (time.Duration, error) {
	s, err := newSearch(p, 0)
	if err != nil {
		return 0, err
	}
	best := s.floor
	anywhere := newClock(p.Now, s.b.hours()...)
	for _, r := range s.resources() {
		best = max(best, s.crowd(r, anywhere))
	}
	return best, nil
}

// resource is what many jobs want: a station, or the people of a skill.
type resource struct {
	fast    int // how much of it there is at a time
	clock   *workClock
	minutes func(Task) quantity.Minutes // what a task wants of it
}

// resources are the stations, the skills, and everybody together.
func (s *search) resources() []resource {
	var out []resource
	for _, st := range s.p.Stations {
		out = append(out, resource{st.Capacity, newClock(s.p.Now,
			[]attendance{{st.Hours, s.p.Closed}}), func(t Task) quantity.Minutes {
			if t.Station == st.Name {
				return t.Minutes
			}
			return 0
		}})
	}
	if len(s.p.People) == 0 {
		return out
	}
	skills := map[string]bool{}
	for _, j := range s.p.Jobs {
		for _, t := range j.Tasks {
			if s.manned(t) {
				skills[t.Skill] = true
			}
		}
	}
	// people who can do just the same are one resource; and everybody is one
	sets := map[string][]string{}
	for skill := range skills {
		key := ""
		for i, h := range s.p.People {
			if h.able(skill) {
				key += string(rune('A'+i%26)) + string(rune('0'+i/26))
			}
		}
		sets[key] = append(sets[key], skill)
	}
	for _, of := range append(slices.Collect(maps.Values(sets)), slices.Collect(maps.Keys(skills))) {
		n := 0
		var hours [][]attendance
		for _, h := range s.p.People {
			if slices.ContainsFunc(of, h.able) {
				n++
				hours = append(hours, []attendance{{h.Hours, h.Away}})
			}
		}
		if n == 0 {
			continue
		}
		out = append(out, resource{n, newClock(s.p.Now, hours...), func(t Task) quantity.Minutes {
			if !s.manned(t) || !slices.Contains(of, t.Skill) {
				return 0
			}
			return (t.first() + t.last()) * quantity.Minutes(max(1, t.Hands))
		}})
	}
	return out
}

// manned tells whether a task takes people of its skill: what runs has whoever is at it, and
// what too few can do is planned as if somebody could.
func (s *search) manned(t Task) bool {
	able := 0
	for _, h := range s.p.People {
		if h.able(t.Skill) {
			able++
		}
	}
	return !t.Running && able >= max(1, t.Hands)
}

// hours are those of all stations, each a calendar of its own.
func (b *board) hours() [][]attendance {
	var out [][]attendance
	for _, st := range b.stands {
		out = append(out, []attendance{{st.Hours, b.closed}})
	}
	return out
}

// wants is what a job wants of a resource.
type wants struct {
	job     int
	release time.Duration // working time of the resource before which the job cannot be there
	work    time.Duration
	after   quantity.Minutes // minutes of its tasks behind the last that wants the resource
}

// crowd is the bound by one resource.
func (s *search) crowd(r resource, anywhere *workClock) time.Duration {
	var in []wants
	rest := time.Duration(0)
	for i, j := range s.p.Jobs {
		w := wants{job: i}
		at, total, first := s.p.Now, quantity.Minutes(0), true
		for _, t := range j.Tasks {
			if t.Ready.After(at) && !t.Running {
				at = t.Ready
			}
			if t.Hold.After(at) && !t.Running {
				at = t.Hold
			}
			if m := r.minutes(t); m > 0 {
				if first {
					w.release, first = r.clock.worked(at), false
				}
				total += m
				w.after = 0
			} else {
				w.after += t.Minutes
			}
			at = anywhere.at(anywhere.worked(at) + t.Minutes.Duration())
		}
		if total == 0 || j.Due.IsZero() {
			rest += s.alone[i].late
			if total == 0 {
				continue
			}
		}
		w.work = total.Duration() / time.Duration(r.fast)
		in = append(in, w)
	}
	if len(in) < 2 {
		return 0
	}
	done := shortestFirst(in)
	cost := make([][]int64, len(in))
	for i, w := range in {
		cost[i] = make([]int64, len(in))
		j := s.p.Jobs[w.job]
		if j.Due.IsZero() {
			continue
		}
		for k, c := range done {
			end := anywhere.at(anywhere.worked(r.clock.at(c)) + time.Duration(w.after)*time.Minute)
			cost[i][k] = int64(max(s.alone[w.job].late, j.weighed(end.Sub(j.Due))))
		}
	}
	sum := rest
	took, _ := match.Assign(cost)
	for i, k := range took {
		sum += time.Duration(cost[i][k])
	}
	return sum
}

// shortestFirst works the jobs off on one machine, always the one with least work left, and
// returns when the first, the second and so on is done, in working time.
func shortestFirst(in []wants) []time.Duration {
	left := slices.Clone(in)
	slices.SortStableFunc(left, func(a, b wants) int { return int(a.release - b.release) })
	var here []wants
	var done []time.Duration
	now := time.Duration(0)
	for len(left)+len(here) > 0 {
		for len(left) > 0 && (left[0].release <= now || len(here) == 0) {
			now = max(now, left[0].release)
			here, left = append(here, left[0]), left[1:]
		}
		least := 0
		for i := range here {
			if here[i].work < here[least].work {
				least = i
			}
		}
		run := here[least].work
		if len(left) > 0 {
			run = min(run, left[0].release-now)
		}
		now += run
		if here[least].work -= run; here[least].work == 0 {
			done = append(done, now)
			here = slices.Delete(here, least, least+1)
		}
	}
	return done
}

// workClock counts the working time of several calendars together: when any of them is open.
type workClock struct {
	start time.Time
	spans []Span
	until []time.Duration // worked at the end of each span
}

// newClock lays the hours out from a time on.
func newClock(from time.Time, of ...[]attendance) *workClock {
	c := &workClock{start: from}
	var all []Span
	for _, a := range of {
		cal := newCalendar(from, a...)
		for range clockDays {
			cal.more()
		}
		for sp := range cal.within(from) {
			all = append(all, sp)
		}
	}
	slices.SortFunc(all, func(a, b Span) int { return a.Start.Compare(b.Start) })
	for _, sp := range all {
		if n := len(c.spans); n > 0 && !sp.Start.After(c.spans[n-1].End) {
			if sp.End.After(c.spans[n-1].End) {
				c.spans[n-1].End = sp.End
			}
			continue
		}
		c.spans = append(c.spans, sp)
	}
	sum := time.Duration(0)
	for _, sp := range c.spans {
		sum += sp.End.Sub(sp.Start)
		c.until = append(c.until, sum)
	}
	return c
}

// clockDays is how far ahead working time is laid out for a bound; beyond it nothing is claimed.
const clockDays = 200

// worked is the working time until t.
func (c *workClock) worked(t time.Time) time.Duration {
	i, _ := slices.BinarySearchFunc(c.spans, t, func(s Span, t time.Time) int { return s.End.Compare(t) })
	if i == len(c.spans) {
		if i == 0 {
			return 0
		}
		return c.until[i-1]
	}
	before := time.Duration(0)
	if i > 0 {
		before = c.until[i-1]
	}
	return before + max(0, t.Sub(c.spans[i].Start))
}

// at is the earliest time with so much working time behind it; what lies beyond the days laid
// out is taken for their end.
func (c *workClock) at(worked time.Duration) time.Time {
	if worked <= 0 || len(c.spans) == 0 {
		return c.start
	}
	i, _ := slices.BinarySearch(c.until, worked)
	if i == len(c.spans) {
		return c.spans[i-1].End
	}
	return c.spans[i].End.Add(worked - c.until[i])
}
