package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/plan"
)

// TestAReadingIsWorthWhatItSaves puts a guide into doubt: reading it with the finer tool saves the
// new guide as often as it is inside. A head without a doubt has nothing worth reading again.
func TestAReadingIsWorthWhatItSaves(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both(
		"guide.clearance", "0.02", "0.08",
	).All("guide.bore", "8.030").All("stem.dia", "7.970").Read("guide.bore", "1E1.top.A 8.0523").Head
	h.Tools = append(h.Tools, head.Tool{Name: "fine", Kind: "bore gauge", U: 100}, head.Tool{Name: "fine too", Kind: "micrometer", U: 100})
	j := judge.Head(h)
	x, ok := j.Feature("guide.clearance@1E1")
	require.True(t, ok)
	require.Equal(t, gauge.Doubt, x.Verdict, "%+v", x)
	base, err := plan.Judged(t.Context(), h, j, head.Ask{})
	require.NoError(t, err)
	worths, err := plan.Worths(t.Context(), h, j, base)
	require.NoError(t, err)
	require.Len(t, worths, 1)
	w := worths[0]
	assert.Equal(t, "guide.clearance@1E1", w.Feature.Key())
	assert.Greater(t, w.Outside, w.Inside, "a guide out costs a guide")
	if base.Cents >= w.Outside {
		assert.Equal(t, int64(x.PInside*float64(base.Cents-w.Inside)), w.Cents)
	} else {
		assert.Equal(t, int64((1-x.PInside)*float64(base.Cents)), w.Cents)
	}
	for i := range h.Readings {
		h.Readings[i].U = 1
	}
	h = h.Until(head.Stages...)
	none, err := plan.Worths(t.Context(), h, judge.Head(h), base)
	require.NoError(t, err)
	assert.Empty(t, none)
}
