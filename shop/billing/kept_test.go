package billing

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// TestAnEarlierDayIsChargedWhereItIsKept: a head that passed its final check by the end of the day, at any
// hour; a day that went by without it is not charged, whenever the head is done.
func TestAnEarlierDayIsChargedWhereItIsKept(t *testing.T) {
	at := func(day, hour int) *time.Time {
		x := time.Date(2031, 5, day, hour, 0, 0, 0, time.Local)
		return &x
	}
	for _, c := range []struct {
		says         string
		closed       *time.Time
		now          *time.Time
		kept, missed bool
	}{
		{"the day is to come", nil, at(11, 9), false, false},
		{"it is the day", nil, at(12, 23), false, false},
		{"the day is over", nil, at(13, 0), false, true},
		{"done before it", at(11, 16), at(11, 17), true, false},
		{"done late on the day", at(12, 20), at(20, 9), true, false},
		{"done on the next", at(13, 1), at(13, 2), false, true},
	} {
		kept, missed := kept(*at(12, 14), c.closed, *c.now)
		assert.Equal(t, c.kept, kept, c.says)
		assert.Equal(t, c.missed, missed, c.says)
	}
}
