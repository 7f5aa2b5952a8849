package headfile_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/library"
	"yatai/shop/week"
)

func TestJudgementOfTheDemoHead(t *testing.T) {
	f := shoptest.Open(t).File(t, "T0401")
	says := map[string]gauge.Verdict{}
	for _, x := range f.Received.Findings() {
		says[x.Key()] = x.Verdict
		assert.True(t, x.Finding != 0 || x.Limit.Source != "", x.Key())
		assert.NotEmpty(t, x.Why(f.Unit))
		assert.NotEmpty(t, f.Received.Offers(x), x.Key())
	}
	assert.Equal(t, gauge.Out, says["guide.clearance@1E1"])
	assert.Equal(t, gauge.Out, says["valve.recession@2E1"])
	assert.Equal(t, gauge.Doubt, says["guide.clearance@4I1"])
	assert.Equal(t, gauge.Out, says["face.line/long"])
	x, _ := f.Received.Feature("guide.clearance@4I1")
	assert.Equal(t, "Tapered pilot", x.Settle, "the coarsest tool that would tell")
}

func TestGeneralTableSaysSo(t *testing.T) {
	f := shoptest.Open(t)
	chief := f.People[shop.Lead]
	for _, e := range []struct{ code, place, text string }{{"guide.bore", "top", "8.070"}, {"stem.dia", "top", "7.960"}} {
		spot := trade.Spot{Position: "1I1", Place: e.place}
		if e.code == "guide.bore" {
			spot.Dir = "A"
		}
		form := f.Sweep(t, "T0404", e.code, headfile.AsReceived, spot, e.text)
		form.Why = "read again"
		require.NoError(t, f.Typed(t.Context(), chief, "T0404", form))
	}
	x, ok := f.File(t, "T0404").Received.Feature("guide.clearance@1I1")
	require.True(t, ok)
	assert.Equal(t, "general table", x.Limit.Source)
	assert.Equal(t, gauge.Doubt, x.Verdict, "a general table asks: it is no limit")
	assert.Contains(t, x.Says(f.File(t, "T0404").Unit), "The sheet has no limit; the general table allows")
}

// TestSheetWantsWhatItLimits reads a characteristic no sheet has limits for, then gives the
// sheet one: heads taken in from then on want it, the old one does not.
func TestSheetWantsWhatItLimits(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief, owner := t.Context(), f.People[shop.Lead], f.People[shop.Owner]
	tip := f.Sweep(t, "T0401", "valve.tip", headfile.AsReceived, trade.Spot{Position: "1I1"}, "4.1")
	require.NoError(t, f.Typed(ctx, chief, "T0401", tip))
	x, ok := f.File(t, "T0401").Now.Feature("valve.tip@1I1")
	require.True(t, ok)
	assert.Equal(t, gauge.Unread, x.Verdict)
	assert.Contains(t, x.Note, "no limit")

	m, err := library.ModelOf(ctx, f.Shop, 1)
	require.NoError(t, err)
	rows := map[string]library.LimitEntry{"spring.free/exhaust": {Low: "48", High: "52", Source: "Brindlow sheet 4"}}
	_, err = library.EditSheet(ctx, f.Shop, owner, 1, library.SheetForm{
		WriteID: shoptest.ID(), Version: m.Sheet.Version, Set: "service", Note: "free length instead of the rest", Rows: rows,
	})
	require.NoError(t, err)
	tag, err := intake.TakeIn(ctx, f.Shop, chief, intake.IntakeForm{
		WriteID: shoptest.ID(), Customer: "Mossfield Growers", Machine: "Pump house 2", Model: "1", Kind: "rebuild",
	})
	require.NoError(t, err)
	assert.Equal(t, "0 of 134", f.File(t, tag).Steps()[3].Said.String(),
		"eight free lengths more, lash and spring heights less")
	assert.Equal(t, "142 of 142", f.File(t, "T0401").Steps()[3].Said.String())
	require.NoError(t, f.Typed(ctx, chief, tag,
		f.Sweep(t, tag, "spring.free", headfile.AsReceived, trade.Spot{Position: "1E1"}, "46.5")))
	x, _ = f.File(t, tag).Now.Feature("spring.free@1E1")
	assert.Equal(t, gauge.Out, x.Verdict)
	cards, err := week.Floor(ctx, f.Shop)
	require.NoError(t, err)
	for _, c := range cards {
		if c.Tag == tag {
			assert.Equal(t, "measured 1 of 134", c.Waiting)
		}
	}
}
