package gauge_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/quantity"
)

// row is zero checks in micrometres.
func row(um ...int) (out []quantity.Amount) {
	for _, n := range um {
		out = append(out, quantity.Amount(n)*1000)
	}
	return out
}

// TestWhatAChartSaysIsNoChance: each of the rules at its boundary.
func TestWhatAChartSaysIsNoChance(t *testing.T) {
	for _, x := range []struct {
		name   string
		values []quantity.Amount
		signs  map[string][]int
	}{
		{"it goes to and fro", row(1, -1, 1, -1, 1, -1, 1, -1), nil},
		{"it never moves", row(2, 2, 2, 2, 2, 2, 2, 2), nil},
		{"one far off", row(0, 3, 0, 3, 0, 3, 0, 3, 0, 16), map[string][]int{"outside of what it varies by": {9}}},
		{"one far below", row(0, -3, 0, -3, 0, -3, 0, -3, 0, -16), map[string][]int{"outside of what it varies by": {9}}},
		{"seven on a side", row(1, 3, 1, 3, 1, 3, 1, -1, -3, -1, -3, -1, -3, -1), nil},
		{
			"eight on a side, then eight on the other", row(1, 3, 1, 3, 1, 3, 1, 3, -1, -3, -1, -3, -1, -3, -1, -3),
			map[string][]int{"8 in a row on one side": {0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15}},
		},
		{"five steps up", row(0, 9, 0, 1, 2, 3, 4, 5, 0, 9, 0), nil},
		{"six steps up", row(0, 9, 0, 1, 2, 3, 4, 5, 6, 0, 9), map[string][]int{
			"6 in a row, each further than the one before": {3, 4, 5, 6, 7, 8},
		}},
		{"six steps down", row(9, 0, 9, 8, 7, 6, 5, 4, 3, 9, 0), map[string][]int{
			"6 in a row, each further than the one before": {3, 4, 5, 6, 7, 8},
		}},
		{"a pause ends it", row(0, 9, 0, 1, 2, 3, 3, 4, 5, 6, 0, 9), nil},
	} {
		c, ok := gauge.Charted(x.values)
		require.True(t, ok, x.name)
		said := map[string][]int{}
		for _, s := range c.Signs {
			said[s.Says.String()] = append(said[s.Says.String()], s.At...)
		}
		if x.signs == nil {
			assert.Empty(t, said, x.name)
			assert.Zero(t, c.Step, x.name)
			continue
		}
		assert.Equal(t, x.signs, said, x.name)
	}
	_, ok := gauge.Charted(row(1, 2, 3, 4, 5, 6, 7))
	assert.False(t, ok, "seven say nothing")
}

func TestAChartHasItsBounds(t *testing.T) {
	c, _ := gauge.Charted(row(0, 2, 0, 2, 0, 2, 0, 2))
	assert.EqualValues(t, 1_000, c.Mean)
	assert.EqualValues(t, 1_000-5_320, c.Low, "2.66 moving ranges of 2 um")
	assert.EqualValues(t, 1_000+5_320, c.High)
}

// TestADriftIsReckonedOnToTheTolerance: a tool that moves by half a micrometre from check to check.
func TestADriftIsReckonedOnToTheTolerance(t *testing.T) {
	c, _ := gauge.Charted([]quantity.Amount{0, 500, 1000, 1500, 2000, 2500, 3000, 3500})
	assert.InDelta(t, 500, c.Step, 1e-9)
	for _, x := range []struct {
		tolerance quantity.Amount
		left      int
	}{{4_000, 1}, {3_999, 0}, {5_100, 3}, {3_500, 0}, {1_000, 0}} {
		left, ok := c.Left(x.tolerance)
		assert.True(t, ok)
		assert.Equal(t, x.left, left, "%d", x.tolerance)
	}
	_, ok := c.Left(0)
	assert.False(t, ok, "without a tolerance nothing ends")
	back, _ := gauge.Charted([]quantity.Amount{9000, 8000, 7000, 6000, 5000, 4000, 3000, 2000})
	assert.Negative(t, back.Step)
	_, ok = back.Left(10_000)
	assert.False(t, ok, "it comes back to nothing")
	down, _ := gauge.Charted([]quantity.Amount{0, -500, -1000, -1500, -2000, -2500, -3000, -3500})
	assert.InDelta(t, -500, down.Step, 1e-9)
	left, ok := down.Left(4_600)
	assert.True(t, ok)
	assert.Equal(t, 2, left, "the third would be at -5 um")
	late, _ := gauge.Charted([]quantity.Amount{0, 900, 0, 900, 0, 900, 0, 900, 0, 100, 200, 300, 400, 500, 600, 700, 800})
	assert.InDelta(t, 100, late.Step, 1e-9, "only where it moves")
	over, _ := gauge.Charted(row(0, 9, 0, 1, 2, 3, 4, 5, 6, 0, 9, 0))
	assert.NotEmpty(t, over.Signs)
	assert.Zero(t, over.Step, "it has moved, and does not now")
	still, _ := gauge.Charted(row(1, -1, 1, -1, 1, -1, 1, -1))
	_, ok = still.Left(10_000)
	assert.False(t, ok)
}

// TestChanceSeldomLooksLikeASign draws tools that only vary, and tools that drift: of the first few are
// accused, of the second few get away.
func TestChanceSeldomLooksLikeASign(t *testing.T) {
	r := rand.New(rand.NewPCG(29, 6))
	accused, found, wrong := 0, 0, 0
	const tools, checks = 400, 26
	for range tools {
		var sound, drifting []quantity.Amount
		for i := range checks {
			noise := quantity.Amount(r.NormFloat64() * 1000)
			sound, drifting = append(sound, noise), append(drifting, noise+quantity.Amount(200*i))
		}
		c, _ := gauge.Charted(sound)
		if len(c.Signs) > 0 {
			accused++
		}
		if c, _ = gauge.Charted(drifting); len(c.Signs) > 0 {
			found++
		}
		if c.Step < 0 {
			wrong++
		}
		for _, s := range c.Signs {
			assert.True(t, slices.IsSorted(s.At))
		}
	}
	assert.Less(t, accused, tools/4)
	assert.Greater(t, found, tools*8/10)
	assert.Less(t, wrong, tools/20, "that they move the other way is hardly ever said")
	t.Log(accused, "of", tools, "accused,", found, "found")
}
