package intake_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"yatai/store"
)

// TestAPromiseIsADate wherever the shop is.
func TestAPromiseIsADate(t *testing.T) {
	day := time.Date(2031, 5, 20, 0, 0, 0, 0, time.UTC)
	assert.Equal(t, "2031-05-20", store.Job{Promise: &day}.Promised().Format(time.DateOnly))
	was := time.Local
	defer func() { time.Local = was }()
	for _, hours := range []int{-11, -5, 0, 9, 13} {
		time.Local = time.FixedZone("here", hours*3600)
		assert.Equal(t, "2031-05-20", store.Job{Promise: &day}.Promised().Format(time.DateOnly), "%d hours from Greenwich",
			hours)
	}
	assert.Nil(t, store.Job{}.Promised())
}
