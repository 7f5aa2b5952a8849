package week

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/quantity"
	"yatai/core/schedule"
)

// TestWhatIsShortIsCountedInOpenHours: a station behind other heads, and hands; a part or the customer is not
// the shop's shortage.
func TestWhatIsShortIsCountedInOpenHours(t *testing.T) {
	open, err := schedule.ParseHours("Mon-Fri 07:00-12:00 13:00-16:00")
	require.NoError(t, err)
	at := func(day, hour int) time.Time { return time.Date(2031, 5, day, hour, 0, 0, 0, time.Local) } // 19 May is a Monday
	bar := func(station, skill string, waits ...schedule.Wait) schedule.Bar {
		return schedule.Bar{Task: schedule.Task{Station: station, Skill: skill}, Waits: waits}
	}
	wait := func(on string, from, to time.Time) schedule.Wait {
		return schedule.Wait{For: on, Span: schedule.Span{Start: from, End: to}}
	}
	w := Week{}
	w.Stations = []schedule.Station{{Name: "seat machine", Hours: open}, {Name: "bench", Hours: open}}
	w.Bars = []schedule.Bar{
		bar("seat machine", "seats", wait("station", at(19, 15), at(20, 8)), wait("part", at(19, 7), at(19, 15))),
		bar("seat machine", "seats", wait("station", at(20, 11), at(20, 14))),
		bar("bench", "assembly", wait("people", at(19, 7), at(19, 9)), wait("approval", at(19, 9), at(21, 9))),
		bar("bench", "assembly"),
	}
	assert.Equal(t, map[string]quantity.Minutes{"seat machine": 2*60 + 2*60, "hands: assembly": 120}, w.short())
}
