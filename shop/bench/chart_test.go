package bench_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/library"
)

// TestAToolThatDriftsIsSeenBeforeItFails checks a new tool on its standard until it is off by more than it may,
// sets it right, and checks it again: the chart says how long it still takes, and begins anew after the failure.
func TestAToolThatDriftsIsSeenBeforeItFails(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner, tech := t.Context(), f.People[shop.Owner], f.People[shop.Technician]
	form := library.ToolForm{
		WriteID: shoptest.ID(), Name: "Spare bore gauge", Kind: "bore gauge", Resolution: "0.001", U: "0.004", Standard: "8",
		Tolerance: "0.003",
	}
	require.NoError(t, library.AddTool(ctx, f.Shop, owner, form))
	tools, err := library.Tools(ctx, f.Shop)
	require.NoError(t, err)
	id := tools[len(tools)-1].ID
	check := func(tenths int) bool {
		passed, err := bench.CheckZero(ctx, f.Shop, tech, shoptest.ID(), id, fmt.Sprintf("8.%04d", tenths))
		require.NoError(t, err)
		return passed
	}
	page := func() bench.ToolPage {
		p, err := bench.Tool(ctx, f.Shop, id)
		require.NoError(t, err)
		return p
	}
	for _, tenths := range []int{2, 0, 3, 1, 2, 0, 3, 1, 2} {
		require.True(t, check(tenths))
	}
	require.Len(t, page().ChartSays(length.MM), 1)
	assert.Contains(t, page().ChartSays(length.MM)[0], "does not move")
	for _, tenths := range []int{6, 10, 14, 18, 22, 26} {
		require.True(t, check(tenths))
	}
	c, checks, ok := page().Charted()
	require.True(t, ok)
	require.Len(t, checks, 15)
	assert.Equal(t, quantity.Amount(200), checks[0].OffNM, "the oldest first")
	assert.InDelta(t, 400, c.Step, 1)
	said := page().ChartSays(length.MM)
	assert.Contains(t, said[len(said)-1], "It moves by 0.0004 mm from check to check: 1 more check until")
	assert.Contains(t, page().ChartSays(length.In)[len(said)-1], "0.00002 in")
	require.False(t, check(31))
	_, _, ok = page().Charted()
	assert.False(t, ok, "after a failure it begins anew")
	assert.Empty(t, page().ChartSays(length.MM))
}
