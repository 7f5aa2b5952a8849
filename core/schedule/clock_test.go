package schedule

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestAWorkClockCountsAsMinutesDo holds the working time of calendars together against counting minute by
// minute which of their spans are open.
func TestAWorkClockCountsAsMinutesDo(t *testing.T) {
	start := time.Date(2031, 5, 5, 6, 0, 0, 0, time.UTC)
	rnd := rand.New(rand.NewPCG(7, 3))
	for range 200 {
		c := &workClock{start: start}
		open, at, sum := make([]bool, 600), 0, time.Duration(0)
		for range 1 + rnd.IntN(5) {
			from := at + 1 + rnd.IntN(60)
			to := from + 1 + rnd.IntN(60)
			for m := from; m < to; m++ {
				open[m] = true
			}
			minute := func(m int) time.Time { return start.Add(time.Duration(m) * time.Minute) }
			c.spans = append(c.spans, Span{minute(from), minute(to)})
			sum += time.Duration(to-from) * time.Minute
			c.until = append(c.until, sum)
			at = to
		}
		worked := time.Duration(0)
		for m, is := range open {
			now := start.Add(time.Duration(m) * time.Minute)
			require.Equal(t, worked, c.worked(now), "%v of %v", now, c.spans)
			if is {
				worked += time.Minute
				require.Equal(t, now.Add(time.Minute), c.at(worked))
			}
		}
		assert.Equal(t, start, c.at(0))
		assert.Equal(t, start, c.at(-time.Minute))
		assert.Equal(t, c.spans[len(c.spans)-1].End, c.at(sum+time.Hour), "beyond what is laid out")
	}
	empty := &workClock{start: start}
	assert.Zero(t, empty.worked(start.Add(time.Hour)))
	assert.Equal(t, start, empty.at(time.Hour))
}
