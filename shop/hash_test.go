package shop

import (
	"context"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestFewPasswordsAreWorkedOnAtATime sends many at once: never more than a few take their
// memory, all are answered, and who leaves is not waited for.
func TestFewPasswordsAreWorkedOnAtATime(t *testing.T) {
	hash, err := Hashed("tarn-street-1")
	require.NoError(t, err)
	var all sync.WaitGroup
	for i := range 40 {
		all.Go(func() {
			ok, err := Matches(t.Context(), map[bool]string{true: "tarn-street-1", false: "another"}[i%2 == 0], hash)
			assert.NoError(t, err)
			assert.Equal(t, i%2 == 0, ok)
			assert.LessOrEqual(t, len(hashes), cap(hashes))
		})
	}
	all.Wait()
	for range cap(hashes) {
		hashes <- struct{}{}
	}
	left, leave := context.WithCancel(t.Context())
	leave()
	_, err = Matches(left, "tarn-street-1", hash)
	assert.ErrorIs(t, err, context.Canceled)
	for range cap(hashes) {
		<-hashes
	}
}
