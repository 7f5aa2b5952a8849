package bench_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/library"
	"yatai/store"
)

// TestOneLeafIsReadByTheSetInHand tells the register what leaves the feelers have: from then on one leaf alone
// is read up to the next, and both stand in the cell.
func TestOneLeafIsReadByTheSetInHand(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech, owner := t.Context(), f.People[shop.Technician], f.People[shop.Owner]
	spot := trade.Spot{Position: "1E1"}
	form := f.Sweep(t, "T0402", trade.Lash.Code, headfile.AsReceived, spot, "0.20")
	standing := func() store.Reading { return f.File(t, "T0402").Standing(headfile.AsReceived)["lash 1E1"] }

	tools, err := library.Tools(ctx, f.Shop)
	require.NoError(t, err)
	var feelers store.Tool
	for _, x := range tools {
		if x.ID == form.Tool {
			feelers = x
		}
	}
	require.Equal(t, "feelers", feelers.Kind)
	change := library.ToolForm{
		WriteID: shoptest.ID(), Name: feelers.Name, Kind: feelers.Kind, Resolution: "0.01", U: "",
		Leaves: "0.10 0.15 0.20",
	}
	require.NoError(t, library.ChangeTool(ctx, f.Shop, owner, feelers.ID, change))

	var errs field.Errors
	form.Why = "read again"
	require.ErrorAs(t, f.Typed(ctx, tech, "T0402", form), &errs, "nothing of this set is thicker")
	assert.Contains(t, errs.Message("1E1"), "no larger leaf")
	form.Entries[0].Text = "0.15"
	require.NoError(t, f.Typed(ctx, tech, "T0402", form))
	is := standing()
	assert.Equal(t, [2]int{150_000, 200_000}, [2]int{int(is.GoNM), int(is.NoGoNM)})
	assert.Equal(t, "0.150 0.200 mm", is.Typed, "what it means is said")

	change.WriteID, change.Leaves, change.Kind = shoptest.ID(), "0.1 0.2", "micrometer"
	require.ErrorAs(t, library.ChangeTool(ctx, f.Shop, owner, feelers.ID, change), &errs)
	assert.Contains(t, errs.Message("leaves"), "only a set of feelers")
}
