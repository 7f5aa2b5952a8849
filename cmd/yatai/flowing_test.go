package main

import (
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// deadlines is an answer that writes down which deadlines it was given.
type deadlines struct {
	*httptest.ResponseRecorder
	given []time.Time
}

func (d *deadlines) SetWriteDeadline(t time.Time) error {
	d.given = append(d.given, t)
	return nil
}

// TestAnAnswerThatFlowsHasItsTimeAnew writes early and late: only what is near its end gets more, and
// what a handler said itself stays.
func TestAnAnswerThatFlowsHasItsTimeAnew(t *testing.T) {
	got := &deadlines{ResponseRecorder: httptest.NewRecorder()}
	f := &flow{ResponseWriter: got, until: time.Now().Add(writeWithin)}
	_, err := f.Write([]byte("early"))
	require.NoError(t, err)
	assert.Empty(t, got.given)
	f.until = time.Now().Add(writeWithin/2 - time.Second)
	_, err = f.Write([]byte(", late"))
	require.NoError(t, err)
	require.Len(t, got.given, 1)
	assert.WithinDuration(t, time.Now().Add(writeWithin), got.given[0], time.Second)
	require.NoError(t, http.NewResponseController(f).SetWriteDeadline(time.Time{}))
	f.until = time.Now()
	_, err = f.Write([]byte(", open"))
	require.NoError(t, err)
	assert.Len(t, got.given, 2)
	assert.Equal(t, "early, late, open", got.Body.String())
}
