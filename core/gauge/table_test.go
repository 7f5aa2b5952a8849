package gauge_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/gauge"
	"yatai/core/quantity"
)

func end(at quantity.Amount) *quantity.Amount { return &at }

// TestJudgeAtItsBoundaries holds values with their doubt, and brackets, against limits 100 to 200, near within 10.
func TestJudgeAtItsBoundaries(t *testing.T) {
	both := gauge.Limit{Low: end(100), High: end(200), Near: 10}
	low, high := gauge.Limit{Low: end(100), Near: 10}, gauge.Limit{High: end(200), Near: 10}
	bracket := func(from, to quantity.Amount) gauge.Value { return gauge.Value{Bracket: true, Go: from, NoGo: to} }
	for _, x := range []struct {
		value    gauge.Value
		u        quantity.Amount
		limit    gauge.Limit
		verdict  gauge.Verdict
		distance quantity.Amount
		side     string
	}{
		{gauge.Exact(150), 5, gauge.Limit{}, gauge.Unread, 0, ""},
		{gauge.Exact(150), 5, both, gauge.Sound, 50, "high"}, // as far from both: the high one is named
		{gauge.Exact(149), 5, both, gauge.Sound, 49, "low"},
		{gauge.Exact(151), 5, both, gauge.Sound, 49, "high"},
		{gauge.Exact(110), 5, both, gauge.Sound, 10, "low"},
		{gauge.Exact(109), 5, both, gauge.Near, 9, "low"},
		{gauge.Exact(105), 5, both, gauge.Near, 5, "low"}, // its doubt ends at the limit
		{gauge.Exact(104), 5, both, gauge.Doubt, 4, "low"},
		{gauge.Exact(95), 5, both, gauge.Doubt, -5, "low"},
		{gauge.Exact(94), 5, both, gauge.Out, -6, "low"},
		{gauge.Exact(195), 5, both, gauge.Near, 5, "high"},
		{gauge.Exact(196), 5, both, gauge.Doubt, 4, "high"},
		{gauge.Exact(205), 5, both, gauge.Doubt, -5, "high"},
		{gauge.Exact(206), 5, both, gauge.Out, -6, "high"},
		{gauge.Exact(94), 5, high, gauge.Sound, 106, "high"},
		{gauge.Exact(206), 5, low, gauge.Sound, 106, "low"},
		{gauge.Exact(100), 0, low, gauge.Near, 0, "low"},
		{gauge.Exact(99), 0, low, gauge.Out, -1, "low"},
		{gauge.Exact(200), 0, high, gauge.Near, 0, "high"},
		{gauge.Exact(201), 0, high, gauge.Out, -1, "high"},
		{bracket(100, 110), 99, both, gauge.Near, 0, "low"}, // it goes with the limit itself; a bracket has no other doubt
		{bracket(90, 100), 0, both, gauge.Out, -10, "low"},  // a leaf of the limit does not go
		{bracket(90, 101), 0, both, gauge.Doubt, -10, "low"},
		{bracket(190, 200), 0, both, gauge.Near, 0, "high"},
		{bracket(190, 201), 0, both, gauge.Doubt, -1, "high"},
		{bracket(200, 210), 0, both, gauge.Doubt, -10, "high"},
		{bracket(201, 210), 0, both, gauge.Out, -10, "high"},
	} {
		is := gauge.Judge(x.value, x.u, x.limit)
		assert.Equal(t, gauge.Result{Verdict: x.verdict, Distance: x.distance, Side: x.side}, is, "%+v, doubt %d", x.value,
			x.u)
	}
}

// TestPInsideAtItsBoundaries: half of what lies at a limit is inside; a bracket by its share; without doubt all or
// nothing.
func TestPInsideAtItsBoundaries(t *testing.T) {
	both := gauge.Limit{Low: end(100), High: end(200)}
	for _, x := range []struct {
		value gauge.Value
		u     quantity.Amount
		limit gauge.Limit
		want  float64
	}{
		{gauge.Exact(100), 0, both, 1}, {gauge.Exact(99), 0, both, 0}, {gauge.Exact(200), 0, both, 1},
		{gauge.Exact(201), 0, both, 0},
		{gauge.Exact(100), 4, both, 0.5}, {gauge.Exact(200), 4, both, 0.5}, {gauge.Exact(102), 4, both, 0.841345},
		{gauge.Exact(198), 4, both, 0.841345}, {gauge.Exact(98), 4, both, 0.158655}, {gauge.Exact(202), 4, both, 0.158655},
		{gauge.Exact(0), 4, gauge.Limit{High: end(200)}, 1}, {gauge.Exact(900), 4, gauge.Limit{Low: end(100)}, 1},
		{gauge.Exact(5), 10, gauge.Limit{Low: end(0), High: end(10)}, 0.682689}, // both ends one standard deviation away
		{gauge.Value{Bracket: true, Go: 95, NoGo: 105}, 0, both, 0.5},
		{gauge.Value{Bracket: true, Go: 192, NoGo: 202}, 0, both, 0.8},
		{gauge.Value{Bracket: true, Go: 80, NoGo: 90}, 0, both, 0},
		{gauge.Value{Bracket: true, Go: 210, NoGo: 220}, 0, both, 0},
		{gauge.Value{Bracket: true, Go: 120, NoGo: 130}, 0, both, 1},
	} {
		assert.InDelta(t, x.want, gauge.PInside(x.value, x.u, x.limit), 1e-6, "%+v, doubt %d", x.value, x.u)
	}
}

// TestSettleTakesTheCoarsestThatTells, and of two as coarse the first.
func TestSettleTakesTheCoarsestThatTells(t *testing.T) {
	lim := gauge.Limit{High: end(200)}
	assert.Equal(t, 1, gauge.Settle(195, lim, []quantity.Amount{1, 5, 6, 5, 20}), "5 reaches just to the limit, 6 over it")
	assert.Equal(t, -1, gauge.Settle(195, lim, []quantity.Amount{6, 20}))
	assert.Equal(t, -1, gauge.Settle(195, lim, nil))
}
