package schedule

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"yatai/core/quantity"
)

// TestWhenPeopleAreAtATask: before it runs alone and at its end, never longer than it takes.
func TestWhenPeopleAreAtATask(t *testing.T) {
	for _, c := range []struct{ minutes, alone, last, first, end quantity.Minutes }{
		{60, 0, 0, 60, 0}, {60, 0, 10, 60, 0}, {60, 40, 0, 20, 0}, {60, 40, 5, 15, 5}, {60, 40, 20, 0, 20},
		{60, 40, 30, 0, 20}, {60, 60, 5, 0, 0}, {60, 90, 5, 0, 0}, {60, 40, -5, 20, 0}, {60, -1, 5, 60, 0},
	} {
		task := Task{Minutes: c.minutes, Alone: c.alone, Last: c.last}
		assert.Equal(t, []quantity.Minutes{c.first, c.end}, []quantity.Minutes{task.first(), task.last()}, "%+v", c)
	}
}

// TestTheDayThatAShareKeeps: the first by which so many of all are done.
func TestTheDayThatAShareKeeps(t *testing.T) {
	var done []time.Time
	for day := range 10 {
		done = append(done, time.Date(2031, 5, 1+day, 12, 0, 0, 0, time.UTC))
	}
	for _, c := range []struct {
		share float64
		day   int
	}{{0, 1}, {0.1, 1}, {0.11, 2}, {0.5, 5}, {0.8, 8}, {0.81, 9}, {1, 10}, {1.5, 10}} {
		assert.Equal(t, c.day, KeptBy(done, c.share).Day(), "%v of all", c.share)
	}
	assert.Equal(t, 1, KeptBy(done[:1], 0.8).Day())
}
