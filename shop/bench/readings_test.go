package bench_test

import (
	"cmp"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/store"
)

func TestCorrectionSupersedes(t *testing.T) {
	f := shoptest.Open(t)
	tech := f.People[shop.Technician]
	spot := trade.Spot{Position: "2E1"}
	before := len(f.File(t, "T0401").Readings)
	form := f.Sweep(t, "T0401", "valve.recession", headfile.AsReceived, spot, "0.71")
	var errs field.Errors
	require.ErrorAs(t, f.Typed(t.Context(), tech, "T0401", form), &errs)
	assert.Contains(t, errs.Message("2E1"), "1.56")
	form.Why = "read again"
	require.NoError(t, f.Typed(t.Context(), tech, "T0401", form))
	require.NoError(t, f.Typed(t.Context(), tech, "T0401", form), "sent twice")
	file := f.File(t, "T0401")
	assert.Len(t, file.Readings, before+1, "nothing overwritten, nothing written twice")
	x, _ := file.Received.Feature("valve.recession@2E1")
	assert.Equal(t, gauge.Sound, x.Verdict)
	last := file.Readings[len(file.Readings)-1]
	assert.NotNil(t, last.Supersedes)
	assert.Equal(t, "read again", last.Why)
	// a retry whose value was changed on the way is not swallowed
	form.Entries[0].Text = "0.99"
	assert.Error(t, f.Typed(t.Context(), tech, "T0401", form))
}

func TestBadReadings(t *testing.T) {
	f := shoptest.Open(t)
	tech := f.People[shop.Technician]
	for text, says := range map[string]string{
		"abc": "not a number", "": "nothing", "8.5": "lies between", "0.355": "write the unit", "3 cubits": "unknown unit",
		"11m": "10 m", "-9": "lies between",
		"99999999999999999999999999999999999999999999999999": "too much",
	} {
		code, spot := "guide.bore", trade.Spot{Position: "1I1", Place: "top", Dir: "A"}
		if text == "8.5" || text == "-9" { // sizes for a guide, not for a seat
			code, spot = "seat.width", trade.Spot{Position: "1I1"}
		}
		if text == "8.5" {
			text = "85"
		}
		form := f.Sweep(t, "T0407", code, headfile.AsReceived, spot, text)
		var errs field.Errors
		require.ErrorAs(t, f.Typed(t.Context(), tech, "T0407", form), &errs, text)
		assert.Contains(t, errs.Message(spot.Key()), says, text)
	}
	form := f.Sweep(t, "T0407", "guide.bore", headfile.AsReceived, trade.Spot{Position: "9E9", Place: "top", Dir: "A"},
		"8.01")
	form.Entries = append(form.Entries, bench.Entry{
		ClientID: shoptest.ID(), Spot: trade.Spot{Position: "1I1", Place: "top", Dir: "A"}, Text: "8.01",
	})
	var errs field.Errors
	require.ErrorAs(t, f.Typed(t.Context(), tech, "T0407", form), &errs)
	assert.Contains(t, errs.Message("9E9.top.A"), "no such place")
	assert.Empty(t, f.File(t, "T0407").Readings, "all or nothing")
}

// TestFailedZeroCheck follows a gauge that was dropped: blocked, its readings suspect until
// they are read again or released.
func TestFailedZeroCheck(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech, chief := t.Context(), f.People[shop.Technician], f.People[shop.Lead]
	spot := trade.Spot{Position: "1I1", Place: "top", Dir: "A"}
	form := f.Sweep(t, "T0407", "guide.bore", headfile.AsReceived, spot, "8.012")
	require.NoError(t, f.Typed(ctx, tech, "T0407", form))
	assert.Empty(t, f.File(t, "T0407").Suspect)

	_, err := bench.CheckZero(ctx, f.Shop, tech, shoptest.ID(), form.Tool, "0.002")
	assert.ErrorContains(t, err, "type the whole size")
	write := shoptest.ID()
	passed, err := bench.CheckZero(ctx, f.Shop, tech, write, form.Tool, "8.0021 mm")
	require.NoError(t, err)
	assert.False(t, passed, "a tenth of a micrometre over is over")
	passed, err = bench.CheckZero(ctx, f.Shop, tech, write, form.Tool, "8.0021 mm")
	require.NoError(t, err, "sent twice")
	assert.False(t, passed)
	assert.Len(t, f.File(t, "T0407").Suspect, 1)
	var errs field.Errors
	form.Why = "again"
	form.Entries[0].ClientID = shoptest.ID()
	require.ErrorAs(t, f.Typed(ctx, tech, "T0407", form), &errs)
	assert.Contains(t, errs.Message("tool"), "failed its zero check")

	passed, err = bench.CheckZero(ctx, f.Shop, tech, shoptest.ID(), form.Tool, "8.002")
	require.NoError(t, err)
	assert.True(t, passed, "inclusive")
	assert.Len(t, f.File(t, "T0407").Suspect, 1, "a later good check does not clear what was read before")
	require.NoError(t, f.Typed(ctx, tech, "T0407", form))
	assert.Empty(t, f.File(t, "T0407").Suspect, "read again")

	x, _ := f.File(t, "T0401").Now.Feature("guide.clearance@4I1")
	assert.True(t, f.File(t, "T0401").SuspectIn(x), "the demo's dropped gauge")
	coarse := f.File(t, "T0401").Suspect[x.From[0]].ToolID
	assert.ErrorIs(t, bench.Release(ctx, f.Shop, tech, shoptest.ID(), "T0401", coarse, "fine"), shop.ErrForbidden)
	require.ErrorAs(t, bench.Release(ctx, f.Shop, chief, shoptest.ID(), "T0401", coarse, " "), &errs)
	require.NoError(
		t, bench.Release(ctx, f.Shop, chief, shoptest.ID(), "T0401", coarse, "same figure with the ring gauge"),
	)
	for _, z := range f.File(t, "T0401").Suspect {
		assert.NotEqual(t, coarse, z.ToolID)
	}
}

// TestAnotherToolReadsAgain reads a guide's bore with the small gauge and then with the finer one, the
// same number: both are kept, the finer one stands, and nobody has to say why. The coarse one afterwards
// does not take its place unasked.
func TestAnotherToolReadsAgain(t *testing.T) {
	f := shoptest.Open(t)
	tech := f.People[shop.Technician]
	spot := trade.Spot{Position: "1I1", Place: "top", Dir: "A"}
	file := f.File(t, "T0407")
	c, _ := trade.ByCode("guide.bore")
	tools := file.ToolsFor(c)
	slices.SortFunc(tools, func(a, b store.Tool) int { return cmp.Compare(b.U, a.U) })
	coarse, fine := tools[0], tools[len(tools)-1]
	require.Greater(t, coarse.U, fine.U)
	read := func(tool store.Tool, text string) error {
		form := f.Sweep(t, "T0407", "guide.bore", headfile.AsReceived, spot, text)
		form.Tool = tool.ID
		return f.Typed(t.Context(), tech, "T0407", form)
	}
	require.NoError(t, read(coarse, "9.02"))
	require.NoError(t, read(fine, "9.02"))
	stands := func() store.Reading {
		return f.File(t, "T0407").Standing(headfile.AsReceived)["guide.bore "+spot.Key()]
	}
	assert.Equal(t, fine.ID, stands().ToolID)
	assert.Equal(t, "read with another tool", stands().Why)
	assert.ErrorContains(t, read(coarse, "9.02"), "less doubt")
	assert.ErrorContains(t, read(fine, "9.03"), "why this corrects it", "with the same tool it is a correction")
	assert.Equal(t, fine.ID, stands().ToolID)
}

// TestReadAgainAfterWorkIsNoCorrection reads a seat twice after repair: without work between it corrects,
// after the seat was cut again it does not.
func TestReadAgainAfterWorkIsNoCorrection(t *testing.T) {
	f := shoptest.Open(t)
	tech := f.People[shop.Technician]
	read := func(at, text string) error {
		return f.Typed(t.Context(), tech, "T0405",
			f.Sweep(t, "T0405", "seat.width", headfile.AfterRepair, trade.Spot{Position: at}, text))
	}
	file := f.File(t, "T0405")
	i := slices.IndexFunc(file.Operations, func(o store.Operation) bool { return o.Code == "seat_cut" })
	require.GreaterOrEqual(t, i, 0)
	o := file.Operations[i]
	at := o.At()[0]
	_ = read(at, "1.6")
	require.ErrorContains(t, read(at, "1.75"), "why this corrects it")
	was := len(f.File(t, "T0405").Readings)
	standing := f.File(t, "T0405").Standing(headfile.AfterRepair)[headfile.SpotKey(
		store.Reading{Characteristic: "seat.width", Position: at},
	)]
	require.NoError(t, read(at, standing.Typed+" mm"), "the same again, however it is typed, is nothing new")
	assert.Len(t, f.File(t, "T0405").Readings, was)
	newest := file.Readings[len(file.Readings)-1].ID
	for _, r := range f.File(t, "T0405").Readings {
		newest = max(newest, r.ID)
	}
	require.NoError(t, f.Shop.Store.Write(t.Context(), func(tx store.DB) error {
		again := o
		again.ID, again.Seq, again.BegunAfter = 0, 99, int(newest)
		return tx.Add(&again)
	}))
	stands := func() store.Reading {
		return f.File(t, "T0405").Standing(headfile.AfterRepair)[headfile.SpotKey(
			store.Reading{Characteristic: "seat.width", Position: at},
		)]
	}
	left := func() int {
		i := slices.IndexFunc(f.File(t, "T0405").Progress(headfile.AfterRepair),
			func(p headfile.Progress) bool { return p.Code == "seat.width" })
		return f.File(t, "T0405").Progress(headfile.AfterRepair)[i].Read
	}
	before := left()
	require.True(t, f.File(t, "T0405").Worked(stands()))
	require.NoError(t, read(at, "1.6"), "it may read what it read before")
	assert.Equal(t, "read again after work", stands().Why)
	assert.Equal(t, "1.6", stands().Typed)
	assert.False(t, f.File(t, "T0405").Worked(stands()))
	assert.Equal(t, before+1, left(), "what is to be read again was not counted as read")
	require.ErrorContains(t, read(at, "1.75"), "why this corrects it")
}
