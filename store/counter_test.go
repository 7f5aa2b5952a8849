package store

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestHoursAreHoursHoweverTheyAreWritten: they are compared with one another, and with nothing else.
func TestHoursAreHoursHoweverTheyAreWritten(t *testing.T) {
	for told, unit := range map[string]string{
		"5400": "h", " 5400 h ": "h", "5400 Hours": "h", "5400 Std.": "h", "5400  hrs": "h",
		"42 races": "races", "80000 km": "km",
	} {
		_, got, ok := Job{Hours: told}.Counter()
		assert.True(t, ok, told)
		assert.Equal(t, unit, got, told)
	}
	for _, told := range []string{"", "many", "h", "-4 h", "NaN", "1e300 h"} {
		_, _, ok := Job{Hours: told}.Counter()
		assert.False(t, ok, told)
	}
	more, unit, ok := Job{Hours: "6100 hours"}.RanSince(Job{Hours: "5400"})
	assert.True(t, ok)
	assert.Equal(t, "h", unit)
	assert.InDelta(t, 700, more, 0)
	_, _, ok = Job{Hours: "6100 km"}.RanSince(Job{Hours: "5400"})
	assert.False(t, ok)
	assert.Equal(t, "5400 h", Job{Hours: "5400"}.Ran())
	assert.Equal(t, "5400 Std.", Job{Hours: "5400 Std."}.Ran())
	assert.Equal(t, "many", Job{Hours: "many"}.Ran())
}
