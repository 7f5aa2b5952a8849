package work_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/work"
)

// TestSignatureHoldsOnlyForItsFigures checks that another reading asks the lead again.
func TestSignatureHoldsOnlyForItsFigures(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief := t.Context(), f.People[shop.Lead]
	form := f.Sweep(t, "T0405", "valve.margin", headfile.AfterRepair, trade.Spot{Position: "1I1"}, "0.80")
	require.NoError(t, f.Typed(ctx, chief, "T0405", form))
	require.Len(t, f.File(t, "T0405").Open(), 1)
	require.NoError(t, work.SignDeviation(ctx, f.Shop, chief, shoptest.ID(), "T0405", "valve.margin@1I1",
		"last season of this valve"))
	require.Empty(t, f.File(t, "T0405").Open())
	worse := f.Sweep(t, "T0405", "valve.margin", headfile.AfterRepair, trade.Spot{Position: "1I1"}, "0.70")
	worse.Why = "ground again"
	require.NoError(t, f.Typed(ctx, chief, "T0405", worse))
	assert.Len(t, f.File(t, "T0405").Open(), 1)
}
