package after_test

import (
	"math"
	"math/big"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/after"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/core/valvetrain"
)

// at is the exhaust valve of a head as it stands.
func at(h *headtest.Head) after.Valve {
	lv, _ := h.Model.Layout.Valve("1E1")
	return after.At(h.Head, judge.Head(h.Head), lv, after.Scatter(h.Head))
}

func whole(t testing.TB) *headtest.Head {
	return headtest.New(t, 1, "IE").Both("guide.clearance", "0.04", "0.095").Read("valve.recession", "1E1 0.75").
		Read("stem.height", "1E1 46.2").
		Read("spring.height", "1E1 38.2").Read("valve.margin", "1E1 1.4").Read("lash", "1E1 0.25 0.26").
		Read("spring.load_seat", "1E1 300").Read("spring.load_open", "1E1 600").Figure("lift/exhaust", "10").
		Figure("new_margin/exhaust", "1.8").
		Figure("new_tip/exhaust", "0.15").Figure("new_groove/exhaust", "-0.05").Figure("valve_grind/exhaust", "0.10").
		Figure("tip_most", "0.3").
		Figure("new_stem/exhaust", "7.98")
}

func do(v *after.Valve, code string, size length.Length) {
	v.Do(trade.RepairNamed(code), float64(size))
}

// TestWorkIsTheStackUp does repairs drawn by chance one after another: what is declared of them comes to
// what the stack-up reckons, and the spring's load follows its height.
func TestWorkIsTheStackUp(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 3))
	const mm = length.Millimetre
	for range 300 {
		h := whole(t)
		v := at(h)
		in := valvetrain.StackInput{
			Drive: "bucket", Ratio: big.NewRat(1, 1), Recession: 750 * mm / 1000, StemHeight: 46_200 * mm / 1000,
			SpringHeight: 38_200 * mm / 1000,
			Lash:         255 * mm / 1000, Margin: 1400 * mm / 1000,
		}
		if r.IntN(2) == 0 {
			in.SeatCut = length.Length(r.IntN(300)) * 1000
			do(&v, "seat_cut", in.SeatCut)
		}
		switch r.IntN(3) {
		case 0:
			in.FaceGrind = 100_000
			do(&v, "valve_grind", in.FaceGrind)
		case 1:
			in.NewValve = &valvetrain.NewValve{Margin: 1800 * mm / 1000, LengthChange: 150_000, GrooveChange: -50_000}
			do(&v, "valve_new", 0)
		}
		if r.IntN(2) == 0 {
			in.TipGrind = length.Length(r.IntN(300)) * 1000
			do(&v, "tip_grind", in.TipGrind)
		}
		if r.IntN(2) == 0 {
			in.SpringShim = length.Length(r.IntN(800)) * 1000
			do(&v, "spring_shim", in.SpringShim)
		}
		want, err := valvetrain.Stack(in)
		require.NoError(t, err)
		f := &v.Figures
		assert.InDelta(t, float64(want.Recession), f[after.Recession].At, 1)
		assert.InDelta(t, float64(want.StemHeight), f[after.StemHeight].At, 1)
		assert.InDelta(t, float64(want.SpringHeight), f[after.SpringHeight].At, 1)
		assert.InDelta(t, float64(want.Margin), f[after.Margin].At, 1)
		assert.InDelta(t, float64(want.Lash), f[after.Lash].At, 1)
		lower := float64(in.SpringHeight - want.SpringHeight)
		assert.InDelta(t, 300e6+30*lower, f[after.Load].At, 1, "30 N a millimetre: a lower spring is stronger")
	}
}

// TestOneErrorMovesWhatItMoves: a cut's error is in all that it moves, with its sign; a new valve's margin
// moves depth and heights together, and the old one's the other way.
func TestOneErrorMovesWhatItMoves(t *testing.T) {
	v := at(whole(t))
	do(&v, "seat_cut", 100_000)
	f := &v.Figures
	const seat = 10_000.0 // of the seat machine as usual
	assert.InDelta(t, math.Hypot(1000, seat), f[after.Recession].SD(), 1)
	cut := at(whole(t))
	do(&cut, "seat_cut", 0)
	for i, sign := range map[int]float64{
		after.Recession: 1, after.StemHeight: 1, after.SpringHeight: 1, after.Lash: -1, after.Margin: 0,
	} {
		sum := 0.0
		for _, s := range cut.Figures[i].Shared {
			sum += s
		}
		assert.InDelta(t, sign*seat, sum, 1e-6, "figure %d", i)
	}
	fresh := at(whole(t))
	do(&fresh, "valve_new", 0)
	for source, depth := range fresh.Figures[after.Recession].Shared {
		assert.InDelta(t, depth, fresh.Figures[after.StemHeight].Shared[source], 1e-9)
		assert.InDelta(t, -depth, fresh.Figures[after.Lash].Shared[source], 1e-9)
	}
	old, now := 0, 0
	for source, depth := range fresh.Figures[after.Recession].Shared {
		switch margin := fresh.Figures[after.Margin].Shared[source]; {
		case depth > 0: // the old one read too thin: the valve sits deeper than reckoned
			old++
			assert.Zero(t, margin)
		case depth < 0: // the new one is thicker: it sits higher
			now++
			assert.InDelta(t, -depth, margin, 1e-9)
		}
	}
	assert.Equal(t, []int{1, 1}, []int{old, now})
}

// TestWhatIsNotKnownStaysUnknown: a new valve of unknown margin leaves the depth unknown; a shim under a
// spring of unknown rate its load; a new spring is made.
func TestWhatIsNotKnownStaysUnknown(t *testing.T) {
	h := whole(t)
	delete(h.Sheet.Figures, "new_margin/exhaust")
	v := at(h)
	do(&v, "valve_new", 0)
	assert.False(t, v.Figures[after.Recession].Known)
	assert.False(t, v.Figures[after.Margin].Known)
	assert.True(t, v.Figures[after.Recession].Changed)

	h = whole(t)
	delete(h.Sheet.Figures, "lift/exhaust")
	v = at(h)
	do(&v, "spring_shim", 500_000)
	assert.False(t, v.Figures[after.Load].Known)
	v = at(h)
	do(&v, "spring_new", 0)
	assert.True(t, v.Figures[after.Load].Made)
	assert.True(t, v.Figures[after.SpringHeight].Known, "it stands where the old one stood")
	assert.False(t, v.Figures[after.SpringHeight].Changed)
}

// TestAGuideIsMadeForTheStemThatWillRunInIt, new or as it is.
func TestAGuideIsMadeForTheStemThatWillRunInIt(t *testing.T) {
	h := whole(t)
	for _, p := range []string{"top", "middle", "bottom"} {
		h.Read("guide.bore", "1E1."+p+".A 8.10", "1E1."+p+".B 8.10").Read("stem.dia", "1E1."+p+" 7.90")
	}
	v := at(h)
	do(&v, "guide_new", 0)
	require.NotNil(t, v.Bore)
	assert.Equal(t, "7.9675 mm", length.MM.Text(*v.Bore), "for the old stem")
	v = at(h)
	do(&v, "valve_new", 0)
	assert.InDelta(t, 120_000, v.Figures[after.Clearance].At, 1, "a new stem in the old guide")
	do(&v, "guide_new", 0)
	assert.Equal(t, "8.0475 mm", length.MM.Text(*v.Bore), "for the new one")
	assert.InDelta(t, 67_500, v.Figures[after.Clearance].At, 1)
}

// TestAClearanceIsKnownByBothSizes: a new valve in a guide that nobody read leaves it unknown, and so does a
// guide made for a stem that nobody knows.
func TestAClearanceIsKnownByBothSizes(t *testing.T) {
	v := at(whole(t))
	do(&v, "valve_new", 0)
	assert.False(t, v.Figures[after.Clearance].Known, "the bore was not read")
	read := whole(t)
	for _, place := range []string{"top", "middle", "bottom"} {
		read.Read("guide.bore", "1E1."+place+".A 8.04", "1E1."+place+".B 8.05")
	}
	v = at(read)
	do(&v, "valve_new", 0)
	assert.True(t, v.Figures[after.Clearance].Known)
	assert.InDelta(t, 70_000, v.Figures[after.Clearance].At, 0.5)
	v = at(whole(t))
	do(&v, "guide_new", 0)
	assert.False(t, v.Figures[after.Clearance].Known, "no stem was read")
}

// TestAGuideIsMadeByTheGeneralTableWhereTheSheetHasNoLimit, by the stem that was read; where that was not
// read either nothing says what it should be.
func TestAGuideIsMadeByTheGeneralTableWhereTheSheetHasNoLimit(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	lv, _ := h.Model.Layout.Valve("1E1")
	assert.Nil(t, after.Aim(h.Head, lv))
	for _, place := range []string{"top", "middle", "bottom"} {
		h.Read("stem.dia", "1E1."+place+" 7.95")
	}
	aim := after.Aim(h.Head, lv)
	if assert.NotNil(t, aim) {
		g := trade.GeneralClearance(lv.Role, 7_950_000)
		assert.True(t, *aim > g.Low.Length() && *aim < g.High.Length(), "%v", *aim)
	}
}

// TestAGuideReamedForNoStemHasNoClearance: where the sheet knows of no oversize stem, nothing is known.
func TestAGuideReamedForNoStemHasNoClearance(t *testing.T) {
	for figure, known := range map[string]bool{"": false, "8.46": true} {
		h := whole(t).Read("guide.bore", "1E1.top.A 8.05", "1E1.middle.A 8.05",
			"1E1.bottom.A 8.05").Read("stem.dia", "1E1.top 7.95")
		if figure != "" {
			h.Figure("oversize_stem/exhaust", figure)
		}
		v := at(h)
		do(&v, "guide_ream", 0)
		assert.Equal(t, known, v.Figures[after.Clearance].Known, figure)
	}
}
