package lead_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/lead"
	"yatai/shop/library"
)

// TestALimitFoundLaterIsTakenOver edits the sheet of a head that is in the shop: nothing
// changes until the lead, who is shown what would, takes it over.
func TestALimitFoundLaterIsTakenOver(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief, owner := t.Context(), f.People[shop.Lead], f.People[shop.Owner]
	n, err := lead.Newer(ctx, f.Shop, f.File(t, "T0412"))
	require.NoError(t, err)
	assert.Nil(t, n, "it is judged by the newest")
	m, err := library.ModelOf(ctx, f.Shop, f.File(t, "T0412").ModelID)
	require.NoError(t, err)
	rows := map[string]library.LimitEntry{
		"valve.recession/intake":  {Low: "3.00", High: "3.20", Source: "a later bulletin"},
		"valve.recession/exhaust": {Low: "1.50", High: "3.20", Source: "a later bulletin"},
	}
	version, err := library.EditSheet(ctx, f.Shop, owner, m.ID, library.SheetForm{
		WriteID: shoptest.ID(), Version: m.Sheet.Version, Set: "service", Note: "recession as the bulletin says", Rows: rows,
	})
	require.NoError(t, err)
	was := f.File(t, "T0412")
	x, _ := was.Now.Feature("valve.recession@1I1")
	assert.NotEqual(t, gauge.Out, x.Verdict, "an open head keeps the limits it came in under")
	n, err = lead.Newer(ctx, f.Shop, was)
	require.NoError(t, err)
	require.NotNil(t, n)
	assert.Equal(t, version, n.Version)
	assert.NotEmpty(t, n.Changes)
	assert.ErrorContains(t, lead.TakeNewerSheet(ctx, f.Shop, chief, shoptest.ID(), "T0412", version, " "), "say why")
	assert.ErrorIs(t, lead.TakeNewerSheet(ctx, f.Shop, f.People[shop.Technician], shoptest.ID(), "T0412", version, "x"),
		shop.ErrForbidden)
	assert.ErrorIs(t, lead.TakeNewerSheet(ctx, f.Shop, chief, shoptest.ID(), "T0412", version-1, "x"), shop.ErrStale,
		"another than was looked at")
	require.NoError(t, lead.TakeNewerSheet(ctx, f.Shop, chief, shoptest.ID(), "T0412", version,
		"the bulletin is for this casting"))
	x, _ = f.File(t, "T0412").Now.Feature("valve.recession@1I1")
	assert.Equal(t, gauge.Out, x.Verdict)
	n, err = lead.Newer(ctx, f.Shop, f.File(t, "T0412"))
	require.NoError(t, err)
	assert.Nil(t, n)
}
