package schedule_test

import (
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/schedule"
)

// TestMovesKeepTheirWord moves random bars of random shops: later, a bar begins no sooner than it
// was put; sooner, no order of the job further up begins it sooner than the one taken, where that
// one does not reach the time; nothing of the question is changed.
func TestMovesKeepTheirWord(t *testing.T) {
	r := rand.New(rand.NewPCG(17, 7))
	moved, reached := 0, 0
	for range 300 {
		p := peopled(t, r, 2+r.IntN(5))
		plan, err := schedule.Plan(p)
		if err != nil || len(plan.Bars) == 0 {
			continue
		}
		bar := plan.Bars[r.IntN(len(plan.Bars))]
		to := bar.Start.Add(time.Duration(r.IntN(120)-60) * time.Hour)
		m, ok := schedule.Move(p, plan, bar.ID, to)
		if bar.Running {
			assert.False(t, ok, "what runs stays")
			continue
		}
		if !ok {
			continue
		}
		moved++
		again, err := schedule.Plan(p)
		require.NoError(t, err)
		require.Equal(t, plan, again, "the question is left alone")
		now := starts(m.Result)[bar.ID]
		require.True(t, now.Equal(m.Start))
		if to.After(bar.Start) {
			assert.False(t, m.Start.Before(to), "held back until then")
			assert.Equal(t, names(p), m.Jobs, "nobody's turn changes")
			continue
		}
		assert.False(t, m.Start.After(bar.Start), "never later for it")
		if !m.Start.After(to) {
			reached++
		}
		i := slices.Index(names(p), bar.Job)
		for ahead := i; ahead >= 0; ahead-- {
			q := p
			q.Jobs = slices.Insert(slices.Delete(slices.Clone(p.Jobs), i, i+1), ahead, p.Jobs[i])
			other, err := schedule.Plan(q)
			if err != nil {
				continue
			}
			at := starts(other)[bar.ID]
			if m.Start.After(to) {
				assert.False(t, at.Before(m.Start), "no place further up begins it sooner")
			} else if slices.Index(m.Jobs, bar.Job) < ahead {
				assert.True(t, at.After(to), "no place further down would have done")
			}
		}
	}
	assert.Greater(t, moved, 100)
	assert.Greater(t, reached, 10)
}

// TestAHandIsTakenAway: what was held back and is put sooner again is not held any more.
func TestAHandIsTakenAway(t *testing.T) {
	p := schedule.Problem{
		Now:      monday,
		Stations: []schedule.Station{{Name: "bench", Capacity: 1, Hours: hours(t, "Mon-Fri 8:00-16:00")}},
		Jobs: []schedule.Job{
			{Name: "T1", Tasks: []schedule.Task{{ID: "T1/1", Station: "bench", Minutes: 60, Hold: monday.Add(74 * time.Hour)}}},
		},
	}
	plan, err := schedule.Plan(p)
	require.NoError(t, err)
	assert.Equal(t, monday.Add(74*time.Hour), plan.Bars[0].Start)
	assert.Equal(t, "hand", plan.Bars[0].Waits[0].For)
	m, ok := schedule.Move(p, plan, "T1/1", p.Now)
	require.True(t, ok)
	assert.Equal(t, p.Now, m.Start)
	assert.Zero(t, m.Hold)
	_, ok = schedule.Move(p, plan, "T9/1", p.Now)
	assert.False(t, ok)
}

func starts(r schedule.Result) map[string]time.Time {
	out := map[string]time.Time{}
	for _, b := range r.Bars {
		out[b.ID] = b.Start
	}
	return out
}

func names(p schedule.Problem) []string {
	var out []string
	for _, j := range p.Jobs {
		out = append(out, j.Name)
	}
	return out
}
