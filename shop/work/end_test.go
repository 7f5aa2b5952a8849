package work_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/lead"
	"yatai/shop/parts"
	"yatai/shop/quoting"
	"yatai/shop/week"
	"yatai/shop/work"
)

// TestAHeadEndsWithoutItsWork: from every state of the demo's heads that are still here it goes back in two steps,
// without a signature: what is not done is left out, nothing is put by for it, the week has none of it, nobody is
// reminded, and a quote that is answered too late counts for nothing.
func TestAHeadEndsWithoutItsWork(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front, chief := t.Context(), f.People[shop.Counter], f.People[shop.Lead]
	f.Mended(t, "T0401")
	version, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{})
	require.NoError(t, err)
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), "T0401"))
	reminders, err := following.FollowUps(ctx, f.Shop)
	require.NoError(t, err)
	cards, err := week.Floor(ctx, f.Shop)
	require.NoError(t, err)
	ended := 0
	for _, c := range cards {
		if c.ClosedAt != nil {
			continue
		}
		form := work.EndForm{
			WriteID: shoptest.ID(), Kind: "refused", State: "in parts, in a box", Why: "another head is cheaper",
			Owed: "45.00",
		}
		require.NoError(t, work.EndHead(ctx, f.Shop, front, c.Tag, form), c.Tag)
		file := f.File(t, c.Tag)
		for _, o := range file.Operations {
			assert.Contains(t, []string{"done", "skipped"}, o.State, "%s %s", c.Tag, o.Code)
		}
		assert.Contains(t, file.Closing(), "goes back without its work (refused: another head is cheaper)")
		assert.EqualValues(t, 4500, file.OwedCents)
		require.NoError(t, work.HandOver(ctx, f.Shop, front, shoptest.ID(), c.Tag, "its owner"), c.Tag)
		ended++
	}
	assert.Greater(t, ended, 10)
	var errs field.Errors
	late := quoting.ApproveVerbally(ctx, f.Shop, front, shoptest.ID(), "T0401", version,
		quoting.Answer{Name: "the grower", Must: true}, "by telephone")
	require.ErrorAs(t, late, &errs)
	assert.Contains(t, errs.Message("name"), "goes back")
	after, err := following.FollowUps(ctx, f.Shop)
	require.NoError(t, err)
	assert.Equal(t, len(reminders), len(after), "nobody is reminded of lash that was never set")
	assert.Empty(t, f.Week(t).Heads, "the week has nothing of them")
	stock, err := parts.Stock(ctx, f.Shop)
	require.NoError(t, err)
	for _, row := range stock.Rows {
		assert.Zero(t, row.Reserved, row.Name)
	}
	assert.ErrorIs(t, work.EndHead(ctx, f.Shop, f.People[shop.Technician], "T0401", work.EndForm{WriteID: shoptest.ID()}),
		shop.ErrForbidden)
}

// TestAnEndIsSaidInFull: each field that lacks says so.
func TestAnEndIsSaidInFull(t *testing.T) {
	f := shoptest.Open(t)
	var errs field.Errors
	require.ErrorAs(t, work.EndHead(t.Context(), f.Shop, f.People[shop.Lead], "T0401",
		work.EndForm{WriteID: shoptest.ID(), Owed: "much"}), &errs)
	for _, name := range []string{"kind", "state", "why", "owed"} {
		assert.Contains(t, errs, name)
	}
	assert.Nil(t, f.File(t, "T0401").ClosedAt)
}
