package plan_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/plan"
	"yatai/core/price"
	"yatai/core/quantity"
)

// TestAReadingIsWorthWhatItSaves puts a guide into doubt: reading it with the finer tool saves the
// new guide as often as it is inside. A head without a doubt has nothing worth reading again.
func TestAReadingIsWorthWhatItSaves(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both(
		"guide.clearance", "0.02", "0.08",
	).All("guide.bore", "8.030").All("stem.dia", "7.970").Read("guide.bore", "1E1.top.A 8.0523").Head
	h.Tools = append(h.Tools, head.Tool{Name: "fine", Kind: "bore gauge", U: 100},
		head.Tool{Name: "fine too", Kind: "micrometer", U: 100})
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
	assert.Greater(t, w.Most, w.Least, "a guide out costs a guide")
	assert.LessOrEqual(t, w.Cents, max(w.Most-base.Cents, base.Cents-w.Least), "never more than the plans differ")
	differ := int64(0)
	for i := range 21 { // each of the draws planned, none passed over
		g := *h
		g.Readings = slices.Clone(h.Readings)
		z := math.Sqrt2 * math.Erfinv(2*(float64(i)+0.5)/21-1)
		n := 0
		for k := range g.Readings {
			if r := &g.Readings[k]; slices.Contains(x.From, r.ID) && r.Of == "guide.bore" {
				r.Value, r.U, n = gauge.Exact(r.Value.At+quantity.Amount(math.Round(z*float64(x.U)/2))), 100, n+1
			}
		}
		require.Positive(t, n)
		p, err := plan.Solve(t.Context(), g.Until(head.Stages...), head.Ask{})
		require.NoError(t, err)
		differ += max(p.Cents-base.Cents, base.Cents-p.Cents)
		if i == 20 {
			assert.Equal(t, differ/21-price.Labour(h, quantity.Minutes(n+2)/3), w.Cents)
		}
	}
	for i := range h.Readings {
		h.Readings[i].U = 1
	}
	h = h.Until(head.Stages...)
	none, err := plan.Worths(t.Context(), h, judge.Head(h), base)
	require.NoError(t, err)
	assert.Empty(t, none)
}
