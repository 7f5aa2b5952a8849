package schedule_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/quantity"
	"yatai/core/schedule"
)

// monday is a Monday morning at opening time.
var monday = time.Date(2031, 3, 3, 8, 0, 0, 0, time.UTC)

func hours(t testing.TB, text string) schedule.Hours {
	t.Helper()
	h, err := schedule.ParseHours(text)
	require.NoError(t, err)
	return h
}

func at(day, hour, minute int) time.Time {
	return time.Date(2031, 3, day, hour, minute, 0, 0, time.UTC)
}

func TestHoursAreReadAsTheyStandOnTheDoor(t *testing.T) {
	h := hours(t, "Mon-Thu 8:00-12:00 12:30-16:30; fri 08:00-13:00")
	assert.Equal(t, []schedule.Shift{{From: 480, To: 720}, {From: 750, To: 990}}, h[time.Tuesday])
	assert.Equal(t, []schedule.Shift{{From: 480, To: 780}}, h[time.Friday])
	assert.Empty(t, h[time.Sunday])
	assert.Equal(t, "Mon-Thu 8:00-12:00 12:30-16:30; Fri 8:00-13:00", h.String())
	weekend := hours(t, "Sat-Sun 10:00-24:00")
	assert.Len(t, weekend[time.Sunday], 1)
	assert.Equal(t, "Sat-Sun 10:00-24:00", weekend.String())
	assert.Empty(t, hours(t, "Mon-Fri 8:00-16:00; Wed")[time.Wednesday], "a day named without a shift is free")
	night := []schedule.Shift{{From: 0, To: 10}, {From: 545, To: 1440}}
	assert.Equal(t, night, hours(t, "Mon 0:00-00:10 09:05-24:00")[time.Monday], "a night shift begins at 0:00")
	for _, text := range []string{ // the same door, in other words
		"Mo-Do 8:00-12:00 12:30-16:30; Fr 8:00-13:00",
		"Montag-Donnerstag 8.00–12.00 12.30 – 16.30 Uhr; FREITAG 08.00-13.00 Uhr",
		"Mo.-Do. 8:00-12:00 12:30-16:30; Fr.: 8:00-13:00", "monday-thursday 8:00-12:00 12:30-16:30; Friday 8:00-13:00",
	} {
		assert.Equal(t, h, hours(t, text), text)
	}
	assert.Equal(t, "Mon 10:00-12:00; Sat-Sun 10:00-12:00", hours(t, "Sa-Mo 10:00-12:00").String(), "over the end of the week")
	for _, text := range []string{
		"Mon-Do 8:00-9:00",
		"Mon 24:01-24:02", "Mon 8:0-9:00",
		"Mon 008:00-9:00", "", ";", "Mon", "Mon 8-12", "Mon 12:00-8:00",
		"Mon 8:00-12:00 11:00-13:00",
		"Mon 8:00-25:00", "Mon 8:70-9:00", "Day 8:00-9:00",
		"Mon-Day 8:00-9:00", "Mon 8:00x-9:00", "Mon -1:00-9:00",
	} {
		_, err := schedule.ParseHours(text)
		assert.ErrorContains(t, err, "", text)
		assert.Error(t, err, text)
	}
}

// shop is two stations and their hours.
func shop(t testing.TB) []schedule.Station {
	return []schedule.Station{
		{Name: "surfacer", Capacity: 1, Hours: hours(t, "Mon-Fri 8:00-12:00 12:30-16:30")},
		{Name: "bench", Capacity: 2, Hours: hours(t, "Mon-Fri 8:00-16:00")},
	}
}

func TestATaskIsLaidIntoWorkingTime(t *testing.T) {
	p := schedule.Problem{
		Now: at(3, 11, 0), Stations: shop(t),
		Jobs: []schedule.Job{{Name: "T1", Tasks: []schedule.Task{{ID: "T1/1", Station: "surfacer", Minutes: 120}}}},
	}
	r, err := schedule.Plan(p)
	require.NoError(t, err)
	assert.Equal(t, []schedule.Span{{Start: at(3, 11, 0), End: at(3, 12, 0)}, {Start: at(3, 12, 30), End: at(3, 13, 30)}},
		r.Bars[0].Pieces, "over the break")
	p.Jobs[0].Tasks[0].Whole = true
	r, err = schedule.Plan(p)
	require.NoError(t, err)
	assert.Equal(t, at(3, 12, 30), r.Bars[0].Start, "a pressure test is not left over the break")
	p.Jobs[0].Tasks[0].Minutes = 300
	r, err = schedule.Plan(p)
	require.NoError(t, err)
	assert.Equal(t, at(3, 11, 0), r.Bars[0].Start, "what fits no shift is begun at once")
	p.Now, p.Closed = at(7, 16, 0), map[string]bool{"2031-03-10": true}
	r, err = schedule.Plan(p)
	require.NoError(t, err)
	assert.Equal(t, at(11, 8, 0), r.Bars[0].Pieces[1].Start, "over the weekend and a closed Monday")
}

func TestALateJobSaysWhatItWaitsFor(t *testing.T) {
	p := schedule.Problem{Now: monday, Stations: shop(t), Jobs: []schedule.Job{
		{Name: "T1", Due: at(5, 24, 0), Tasks: []schedule.Task{{ID: "T1/1", Station: "surfacer", Minutes: 480}}},
		{
			Name: "T2", Due: at(3, 24, 0),
			Tasks: []schedule.Task{
				{ID: "T2/1", Station: "surfacer", Minutes: 60},
				{ID: "T2/2", Station: "bench", Minutes: 30, Ready: at(6, 9, 0), For: "part", Why: "8 valves"},
			},
		},
	}}
	r, err := schedule.Plan(p)
	require.NoError(t, err)
	o, ok := r.Outcome("T2")
	require.True(t, ok)
	assert.Equal(t, at(6, 9, 30), o.Done)
	assert.Equal(t, 57*time.Hour+30*time.Minute, o.Late)
	require.Len(t, o.Waits, 2)
	assert.Equal(t, "part", o.Waits[0].For)
	assert.Equal(t, 48*time.Hour, o.Waits[0].Long(), "from when the surfacer let it go, Tuesday at nine")
	assert.Equal(t, schedule.Wait{
		Task: "T2/1", For: "station", Behind: []string{"T1/1"}, Span: schedule.Span{Start: monday, End: at(4, 8, 0)},
	}, o.Waits[1])
	assert.Empty(t, schedule.Improve(p, r, 3, 1_000_000), "no order brings the valves sooner")
	p.Jobs[1].Tasks[1].Ready = time.Time{}
	r, err = schedule.Plan(p)
	require.NoError(t, err)
	moves := schedule.Improve(p, r, 3, 1_000_000)
	require.Len(t, moves, 1)
	assert.Equal(t, "T2", moves[0].Job)
	assert.Equal(t, "T1", moves[0].Ahead)
	for _, c := range moves[0].Changes {
		assert.Zero(t, c.Late, c.Job)
		assert.Equal(t, c.Job == "T1", c.Done.After(c.Before))
	}
	slipped, ok := p.Slip("T1/1", 120)
	require.True(t, ok)
	longer, err := schedule.Plan(slipped)
	require.NoError(t, err)
	assert.Len(t, schedule.Changes(r, longer), 2)
	assert.Equal(t, quantity.Minutes(480), p.Jobs[0].Tasks[0].Minutes, "the question itself is left alone")
	_, ok = p.Slip("T9/1", 1)
	assert.False(t, ok)
}

func TestWhatCannotBePlannedIsRefused(t *testing.T) {
	ask := func(change func(*schedule.Problem)) error {
		p := schedule.Problem{
			Now: monday, Stations: shop(t),
			Jobs: []schedule.Job{{Name: "T1", Tasks: []schedule.Task{{ID: "T1/1", Station: "bench", Minutes: 10}}}},
		}
		change(&p)
		_, err := schedule.Plan(p)
		return err
	}
	require.NoError(t, ask(func(*schedule.Problem) {}))
	assert.ErrorContains(t, ask(func(p *schedule.Problem) { p.Jobs[0].Tasks[0].Station = "moon" }), "no station")
	assert.ErrorContains(t, ask(func(p *schedule.Problem) { p.Jobs[0].Tasks[0].Minutes = -1 }), "below nothing")
	assert.ErrorContains(t, ask(func(p *schedule.Problem) { p.Jobs[0].Tasks[0].Minutes = 1 << 30 }), "within two years")
	assert.ErrorContains(t, ask(func(p *schedule.Problem) { p.Stations[0].Capacity = 0 }), "needs a place")
	assert.ErrorContains(t, ask(func(p *schedule.Problem) { p.Stations[1].Hours = schedule.Hours{} }), "working hours")
}

// random makes a shop with some heads in it.
func random(t testing.TB, r *rand.Rand, jobs int) schedule.Problem {
	p := schedule.Problem{
		Now:    monday.Add(time.Duration(r.IntN(5000)) * time.Minute),
		Closed: map[string]bool{"2031-03-05": r.IntN(2) == 0},
	}
	for i := range 4 {
		h := []string{
			"Mon-Fri 8:00-16:00", "Mon-Thu 7:00-12:00 12:30-16:30; Fri 7:00-13:00", "Tue 9:00-12:00; Thu 9:00-12:00",
		}[r.IntN(3)]
		p.Stations = append(
			p.Stations, schedule.Station{Name: fmt.Sprint("S", i), Capacity: 1 + r.IntN(2), Hours: hours(t, h)},
		)
	}
	for j := range jobs {
		job := schedule.Job{Name: fmt.Sprint("T", j)}
		if r.IntN(3) > 0 {
			job.Due, job.Weight = p.Now.Add(time.Duration(r.IntN(200))*time.Hour), r.IntN(4)
		}
		for k := range r.IntN(6) {
			task := schedule.Task{
				ID: fmt.Sprintf("T%d/%d", j, k), Station: fmt.Sprint("S", r.IntN(4)), Minutes: quantity.Minutes(r.IntN(400)),
				Whole:   r.IntN(3) == 0,
				Running: k == 0 && r.IntN(4) == 0,
			}
			if !task.Running && r.IntN(5) == 0 {
				task.Ready = p.Now.Add(time.Duration(r.IntN(100)) * time.Hour)
			}
			job.Tasks = append(job.Tasks, task)
		}
		p.Jobs = append(p.Jobs, job)
	}
	return p
}

// peopled is a random shop with people in it: some can do everything, some only some things,
// some are away for a day; some work runs alone between, some takes two.
func peopled(t testing.TB, r *rand.Rand, jobs int) schedule.Problem {
	p := random(t, r, jobs)
	skills := []string{"wash", "cut", "face"}
	for i := range 1 + r.IntN(3) {
		h := schedule.Person{
			Name:  fmt.Sprint("P", i),
			Hours: hours(t, []string{"Mon-Fri 8:00-16:00", "Mon-Fri 9:00-12:00 13:00-15:00", "Mon-Wed 7:00-15:00"}[r.IntN(3)]),
		}
		if r.IntN(2) == 0 {
			h.Can = map[string]bool{}
			for _, s := range skills {
				h.Can[s] = r.IntN(3) > 0
			}
		}
		if r.IntN(4) == 0 {
			h.Away = map[string]bool{"2031-03-04": true}
		}
		p.People = append(p.People, h)
	}
	for j := range p.Jobs {
		for k := range p.Jobs[j].Tasks {
			x := &p.Jobs[j].Tasks[k]
			x.Skill = skills[r.IntN(3)]
			if r.IntN(3) == 0 {
				x.Alone = quantity.Minutes(r.IntN(int(x.Minutes) + 1))
				x.Last = quantity.Minutes(r.IntN(int(x.Minutes-x.Alone) + 1))
			}
			if r.IntN(6) == 0 {
				x.Hands = 2
			}
			if x.Running {
				x.By = []string{p.People[0].Name}
			}
		}
	}
	return p
}

// TestEveryPlanCanBeWorked plans random shops and follows each plan as the people at the
// stations would.
func TestEveryPlanCanBeWorked(t *testing.T) {
	rnd := rand.New(rand.NewPCG(3, 9))
	for turn := range 400 {
		p := random(t, rnd, 8)
		if turn%2 == 1 {
			p = peopled(t, rnd, 8)
		}
		r, err := schedule.Plan(p)
		require.NoError(t, err)
		station := map[string]schedule.Station{}
		for _, s := range p.Stations {
			station[s.Name] = s
		}
		bars := map[string]schedule.Bar{}
		busy := map[string][]schedule.Bar{}
		withPeople := map[string][]schedule.Span{}
		for _, b := range r.Bars {
			bars[b.ID] = b
			s := station[b.Station]
			require.Less(t, b.Unit, s.Capacity)
			var worked time.Duration
			for _, piece := range b.Pieces {
				worked += piece.End.Sub(piece.Start)
				day := time.Date(piece.Start.Year(), piece.Start.Month(), piece.Start.Day(), 0, 0, 0, 0, time.UTC)
				from, to := int(piece.Start.Sub(day).Minutes()), int(piece.End.Sub(day).Minutes())
				require.True(
					t, slices.ContainsFunc(s.Hours[piece.Start.Weekday()],
						func(x schedule.Shift) bool { return x.From <= from && to <= x.To }),
					"%s outside hours", b.ID,
				)
				require.False(t, p.Closed[piece.Start.Format(time.DateOnly)], "%s on a closed day", b.ID)
			}
			require.Equal(t, time.Duration(b.Minutes)*time.Minute, worked, b.ID)
			atWork(t, p, b, withPeople)
			require.False(t, b.Start.Before(b.Ready) || b.Start.Before(p.Now), "%s before it is ready", b.ID)
			place := fmt.Sprint(b.Station, b.Unit)
			for _, other := range busy[place] {
				require.False(t, b.Minutes > 0 && b.Start.Before(other.End) && other.Start.Before(b.End), "%s and %s share a place",
					b.ID, other.ID)
			}
			if b.Minutes > 0 {
				busy[place] = append(busy[place], b)
			}
		}
		for i, j := range p.Jobs {
			end := p.Now
			for _, task := range j.Tasks {
				if !task.Running {
					require.False(t, bars[task.ID].Start.Before(end), "%s before the one in front of it", task.ID)
				}
				end = bars[task.ID].End
			}
			require.Equal(t, end, r.Outcomes[i].Done, j.Name)
		}
	}
}

// atWork checks the people of a bar: they can do it, are there, are enough, and are at one thing
// at a time.
func atWork(t *testing.T, p schedule.Problem, b schedule.Bar, busy map[string][]schedule.Span) {
	t.Helper()
	if len(p.People) == 0 || b.Minutes == b.Alone {
		require.Empty(t, b.People)
		return
	}
	able := 0
	for _, h := range p.People {
		if h.Can == nil || h.Can[b.Skill] {
			able++
		}
	}
	if !b.Running {
		require.Equal(t, able < max(1, b.Hands), b.Nobody, b.ID)
		if !b.Nobody {
			require.Len(t, b.People, max(1, b.Hands), b.ID)
		}
	}
	for _, name := range b.People {
		h := p.People[slices.IndexFunc(p.People, func(h schedule.Person) bool { return h.Name == name })]
		require.True(t, b.Running || h.Can == nil || h.Can[b.Skill], "%s cannot do %s", name, b.ID)
		for _, sp := range b.With {
			for at := sp.Start; at.Before(sp.End); at = at.Add(time.Minute) {
				if !inPieces(b, at) {
					continue // over night, over the break
				}
				minute := at.Hour()*60 + at.Minute()
				require.False(t, h.Away[at.Format(time.DateOnly)], "%s is away", name)
				require.True(
					t, slices.ContainsFunc(h.Hours[at.Weekday()],
						func(x schedule.Shift) bool { return x.From <= minute && minute < x.To }),
					"%s is not there at %s for %s", name, at, b.ID,
				)
			}
			for _, other := range busy[name] {
				require.False(t, !b.Running && sp.Start.Before(other.End) && other.Start.Before(sp.End), "%s is at two things",
					name)
			}
			busy[name] = append(busy[name], sp)
		}
	}
}

func inPieces(b schedule.Bar, at time.Time) bool {
	return slices.ContainsFunc(b.Pieces, func(s schedule.Span) bool { return !at.Before(s.Start) && at.Before(s.End) })
}

// weighed is what a job's lateness counts, by the problem.
func weighed(p schedule.Problem, o schedule.Outcome) time.Duration {
	i := slices.IndexFunc(p.Jobs, func(j schedule.Job) bool { return j.Name == o.Job })
	return o.Late * time.Duration(max(1, p.Jobs[i].Weight))
}

// TestNoOrderIsBetterThanTheBest plans small shops in every order: Best finds the least late of
// them, and Bound is never above it.
func TestNoOrderIsBetterThanTheBest(t *testing.T) {
	rnd := rand.New(rand.NewPCG(11, 4))
	reached, late := 0, 0
	for turn := range 150 {
		p := random(t, rnd, 2+rnd.IntN(4))
		if turn%2 == 1 {
			p = peopled(t, rnd, 2+rnd.IntN(4))
		}
		least := time.Duration(1 << 62)
		var every func(done, left []schedule.Job)
		every = func(done, left []schedule.Job) {
			if len(left) == 0 {
				q := p
				q.Jobs = done
				r, err := schedule.Plan(q)
				require.NoError(t, err)
				sum := time.Duration(0)
				for _, o := range r.Outcomes {
					sum += weighed(p, o)
				}
				least = min(least, sum)
				return
			}
			for i := range left {
				every(append(slices.Clone(done), left[i]), slices.Delete(slices.Clone(left), i, i+1))
			}
		}
		every(nil, p.Jobs)
		best, err := schedule.Best(p, 1_000_000)
		require.NoError(t, err)
		assert.Equal(t, least, best.Late, "turn %d", turn)
		assert.True(t, best.Proved)
		sum := time.Duration(0)
		for _, o := range best.Plan.Outcomes {
			sum += weighed(p, o)
		}
		assert.Equal(t, best.Late, sum, "the plan is the order's")
		bound, err := schedule.Bound(p)
		require.NoError(t, err)
		assert.LessOrEqual(t, bound, least, "turn %d", turn)
		if least > 0 {
			late++
			if bound*10 >= least*9 {
				reached++
			}
		}
	}
	assert.Greater(t, late, 50)
	assert.Greater(t, reached*2, late, "the bound is within a tenth for most")
}

// TestTheFirstInOrderWaitsForNobody holds the first job's plan against a shop with nothing
// else in it but what runs already.
func TestTheFirstInOrderWaitsForNobody(t *testing.T) {
	rnd := rand.New(rand.NewPCG(5, 5))
	for range 100 {
		p := random(t, rnd, 6)
		for j := range p.Jobs {
			for k := range p.Jobs[j].Tasks {
				p.Jobs[j].Tasks[k].Running = false
			}
		}
		all, err := schedule.Plan(p)
		require.NoError(t, err)
		p.Jobs = p.Jobs[:1]
		alone, err := schedule.Plan(p)
		require.NoError(t, err)
		assert.Equal(t, alone.Outcomes[0], all.Outcomes[0])
	}
}

// TestProposalsKeepTheirWord plans each proposed order and looks whether it does what it
// said; and where none is proposed, that no single move would have helped.
func TestProposalsKeepTheirWord(t *testing.T) {
	rnd := rand.New(rand.NewPCG(8, 2))
	total := func(p schedule.Problem, r schedule.Result) (sum time.Duration, late map[string]bool) {
		late = map[string]bool{}
		for _, o := range r.Outcomes {
			sum += weighed(p, o)
			late[o.Job] = o.Late > 0
		}
		return sum, late
	}
	proposed := 0
	for range 120 {
		p := random(t, rnd, 7)
		r, err := schedule.Plan(p)
		require.NoError(t, err)
		before, wasLate := total(p, r)
		move := func(from, to int) schedule.Result {
			jobs := slices.Clone(p.Jobs)
			j := jobs[from]
			jobs = slices.Insert(slices.Delete(jobs, from, from+1), to, j)
			moved, err := schedule.Plan(schedule.Problem{Now: p.Now, Stations: p.Stations, Closed: p.Closed, Jobs: jobs})
			require.NoError(t, err)
			return moved
		}
		index := func(name string) int {
			return slices.IndexFunc(p.Jobs, func(j schedule.Job) bool { return j.Name == name })
		}
		moves := schedule.Improve(p, r, 99, 1_000_000)
		said := map[string]time.Duration{}
		for _, m := range moves {
			proposed++
			after, isLate := total(p, move(index(m.Job), index(m.Ahead)))
			assert.Equal(t, m.Saved, before-after)
			said[m.Job] = m.Saved
			for job, late := range isLate {
				assert.False(t, late && !wasLate[job], "%s was in time", job)
			}
		}
		for from, j := range p.Jobs {
			for to := range from {
				after, isLate := total(p, move(from, to))
				harms := slices.ContainsFunc(p.Jobs, func(x schedule.Job) bool { return isLate[x.Name] && !wasLate[x.Name] })
				if wasLate[j.Name] && !harms {
					assert.LessOrEqual(t, before-after, said[j.Name], "%s to place %d saves more", j.Name, to)
				}
			}
		}
	}
	assert.Positive(t, proposed)
}

func BenchmarkPlan(b *testing.B) {
	p := random(b, rand.New(rand.NewPCG(1, 1)), 40)
	for b.Loop() {
		if _, err := schedule.Plan(p); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkImprove(b *testing.B) {
	p := random(b, rand.New(rand.NewPCG(1, 1)), 40)
	r, err := schedule.Plan(p)
	require.NoError(b, err)
	for b.Loop() {
		schedule.Improve(p, r, 3, 1_000_000)
	}
}

// TestWhatIfLeavesTheQuestionAlone asks every what-if and plans each; the question stays as it was.
func TestWhatIfLeavesTheQuestionAlone(t *testing.T) {
	day := func(d int) map[string]bool { return map[string]bool{fmt.Sprintf("2031-03-%02d", d): true} }
	p := schedule.Problem{
		Now: monday, Stations: shop(t),
		People: []schedule.Person{{Name: "Ilka", Hours: hours(t, "Mon-Fri 8:00-16:00"), Away: day(20)}},
		Jobs: []schedule.Job{
			{
				Name: "T1", Due: at(5, 24, 0),
				Tasks: []schedule.Task{{ID: "T1/1", Station: "bench", Minutes: 60, Ready: at(4, 8, 0), For: "part", Why: "valves"}},
			},
		},
	}
	done := func(p schedule.Problem) time.Time {
		r, err := schedule.Plan(p)
		require.NoError(t, err)
		o, ok := r.Outcome("T1")
		require.True(t, ok)
		return o.Done
	}
	require.Equal(t, at(4, 9, 0), done(p))
	later, ok := p.Delay("T1", "part", 7*24*time.Hour)
	require.True(t, ok)
	assert.Equal(t, at(11, 9, 0), done(later))
	_, ok = p.Delay("T1", "approval", time.Hour)
	assert.False(t, ok, "it waits for no answer")
	ill, ok := p.Away("Ilka", at(3, 0, 0), 4)
	require.True(t, ok)
	assert.Equal(t, at(7, 9, 0), done(ill))
	_, ok = p.Away("Nobody", at(3, 0, 0), 1)
	assert.False(t, ok)
	rush := p.With(schedule.Job{Name: "R", Tasks: []schedule.Task{{ID: "R/1", Station: "bench", Minutes: 480 + 120}}},
		true)
	assert.Equal(t, at(4, 11, 0), done(rush), "Ilka is at the rush job until ten")
	assert.Equal(t, at(4, 9, 0), done(p), "the question itself is left alone")
	assert.Equal(t, day(20), p.People[0].Away)
}

// TestEightOfTenAreKept simulates a job whose parts and minutes spread: the day that 8 of 10
// keep lies behind the planned one, and grows with the share; the same seed says the same.
func TestEightOfTenAreKept(t *testing.T) {
	p := peopled(t, rand.New(rand.NewPCG(2, 2)), 6)
	spread := schedule.Spread{Minutes: func(schedule.Task) float64 { return 0.3 }, Waits: 0.2}
	a, err := schedule.Simulate(p, spread, 100, 7)
	require.NoError(t, err)
	b, err := schedule.Simulate(p, spread, 100, 7)
	require.NoError(t, err)
	assert.Equal(t, a, b)
	for _, j := range p.Jobs {
		require.Len(t, a[j.Name], 100)
		assert.False(t, schedule.KeptBy(a[j.Name], 0.8).Before(schedule.KeptBy(a[j.Name], 0.5)))
		kept := 0
		for _, done := range a[j.Name] {
			if !done.After(schedule.KeptBy(a[j.Name], 0.8)) {
				kept++
			}
		}
		assert.GreaterOrEqual(t, kept, 80)
	}
	sure, err := schedule.Simulate(p, schedule.Spread{Minutes: func(schedule.Task) float64 { return 0 }}, 3, 1)
	require.NoError(t, err)
	plan, err := schedule.Plan(p)
	require.NoError(t, err)
	for _, o := range plan.Outcomes {
		assert.Equal(t, o.Done, sure[o.Job][2], "without spread it is the plan")
	}
}

// full is forty heads with ten operations each, and six people.
func full(t testing.TB) schedule.Problem {
	r := rand.New(rand.NewPCG(1, 1))
	p := schedule.Problem{Now: monday}
	for i := range 12 {
		p.Stations = append(p.Stations, schedule.Station{
			Name: fmt.Sprint("S", i), Capacity: 1 + i%2, Hours: hours(t, "Mon-Fri 7:30-12:00 12:30-16:30"),
		})
	}
	for i := range 6 {
		can := map[string]bool{}
		for k := range 12 {
			can[fmt.Sprint("S", k)] = (i+k)%3 != 0
		}
		p.People = append(
			p.People, schedule.Person{Name: fmt.Sprint("P", i), Hours: hours(t, "Mon-Fri 7:30-16:30"), Can: can},
		)
	}
	for j := range 40 {
		job := schedule.Job{Name: fmt.Sprint("T", j), Due: monday.AddDate(0, 0, 3+r.IntN(20))}
		for k := range 10 {
			s := fmt.Sprint("S", r.IntN(12))
			job.Tasks = append(job.Tasks, schedule.Task{
				ID: fmt.Sprintf("T%d/%d", j, k), Station: s, Skill: s, Minutes: quantity.Minutes(10 + r.IntN(120)),
			})
		}
		p.Jobs = append(p.Jobs, job)
	}
	return p
}

func BenchmarkPlanForty(b *testing.B) {
	p := full(b)
	for b.Loop() {
		if _, err := schedule.Plan(p); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkBestForty(b *testing.B) {
	p := full(b)
	for b.Loop() {
		if _, err := schedule.Best(p, 50_000); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkBoundForty(b *testing.B) {
	p := full(b)
	for b.Loop() {
		if _, err := schedule.Bound(p); err != nil {
			b.Fatal(err)
		}
	}
}
