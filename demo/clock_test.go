package demo

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestTheDemosClock: at any hour of a week the demo's shop is open and has been for a while, its clock goes as fast
// as the other, and never back.
func TestTheDemosClock(t *testing.T) {
	t.Parallel()
	for at := time.Date(2031, 3, 3, 0, 10, 0, 0, time.Local); at.Day() < 17; at = at.Add(47 * time.Minute) {
		real := at
		clock := Clock(func() time.Time { return real }, time.Time{})
		open, shut, ok := opening(clock())
		require.True(t, ok, at)
		assert.False(t, clock().Before(open.Add(begins)), at)
		assert.True(t, clock().Before(shut), at)
		assert.LessOrEqual(t, clock().Sub(at), 96*time.Hour, at)
		began := clock()
		real = real.Add(time.Hour)
		assert.Equal(t, time.Hour, clock().Sub(began))
		again := Clock(func() time.Time { return real }, began.Add(3*time.Hour))
		assert.True(t, again().After(began.Add(3*time.Hour)), "what is written stays in the past")
	}
	at := time.Date(2031, 3, 4, 11, 20, 0, 0, time.Local)
	assert.Equal(t, at, Clock(func() time.Time { return at }, at.Add(-time.Hour))(), "while the shop is open it is the real time")
}

// TestNobodyWorksAtNight: the past falls into the hours of the shop, in its order; what is of today stays.
func TestNobodyWorksAtNight(t *testing.T) {
	t.Parallel()
	r := rand.New(rand.NewPCG(4, 9))
	for range 300 {
		real := time.Date(2031, 3, 1+r.IntN(28), r.IntN(24), r.IntN(60), 0, 0, time.Local)
		now := Clock(func() time.Time { return real }, time.Time{})()
		before := now
		for ago := time.Duration(0); ago < 900*time.Hour; ago += time.Duration(20+r.IntN(700)) * time.Minute {
			at := inHours(now.Add(-ago), now)
			open, shut, ok := opening(at)
			require.True(t, ok, "%s ago at %s: %s", ago, now, at)
			assert.False(t, at.Before(open) || !at.Before(shut), "%s ago at %s: %s", ago, now, at)
			assert.False(t, at.After(before), "order")
			if today, _, _ := opening(now); !now.Add(-ago).Before(today) {
				assert.Equal(t, now.Add(-ago), at, "today stays")
			}
			before = at
		}
	}
	for _, at := range []time.Time{
		time.Date(2031, 3, 4, 2, 0, 0, 0, time.Local), time.Date(2031, 3, 4, 8, 59, 0, 0, time.Local),
		time.Date(2031, 3, 4, 16, 30, 0, 0, time.Local), time.Date(2031, 3, 8, 11, 0, 0, 0, time.Local),
	} {
		assert.Equal(t, at.Add(-2*time.Hour), inHours(at.Add(-2*time.Hour), at), "a clock of one's own")
	}
	at := time.Date(2031, 3, 4, 9, 0, 0, 0, time.Local)
	assert.Equal(t, 3, inHours(at.Add(-2*time.Hour), at).Day(), "the evening before")
}

// TestWhatFits: work begins when it can be ended before the shop shuts.
func TestWhatFits(t *testing.T) {
	t.Parallel()
	at := func(day, hour, minute int) time.Time { return time.Date(2031, 3, day, hour, minute, 0, 0, time.Local) }
	for _, x := range []struct {
		from time.Time
		long time.Duration
		to   time.Time
	}{
		{at(4, 10, 0), time.Hour, at(4, 10, 0)},
		{at(4, 5, 0), time.Hour, at(4, 7, 30)},
		{at(4, 15, 31), time.Hour, at(5, 7, 30)},
		{at(4, 15, 30), time.Hour, at(4, 15, 30)},
		{at(7, 12, 30), time.Hour, at(10, 7, 30)}, // Friday to Monday
		{at(8, 10, 0), time.Hour, at(10, 7, 30)},
		{at(4, 10, 0), 20 * time.Hour, at(5, 7, 30)}, // longer than a day
	} {
		assert.Equal(t, x.to, fits(x.from, x.long), "%s, %s", x.from, x.long)
	}
}
