package plan

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/trade"
)

const (
	um = length.Micrometre
	mm = length.Millimetre
)

// posedOf is a head as it is planned.
func posedOf(h *headtest.Head) *problem {
	return pose(h.Head, judge.Head(h.Head), head.Ask{Alternative: Balanced})
}

// TestACutMayLeaveTheLeastThickness and no less.
func TestACutMayLeaveTheLeastThickness(t *testing.T) {
	h := headtest.New(t, 1, "IE").Limit("head.thickness/", "89.5", "").All("head.thickness", "90.00")
	p := posedOf(h)
	f, ok := p.j.Feature(trade.Thickness.Code)
	require.True(t, ok)
	most := f.Low.Length() - length.Length(89_500_000)
	require.Positive(t, most)
	assert.Empty(t, p.thin(most))
	assert.Contains(t, p.thin(most+1), "is the least")
}

// TestOffMiddle lists values and limits.
func TestOffMiddle(t *testing.T) {
	low, high := 10*um, 20*um
	for _, x := range []struct{ at, both, low, high length.Length }{
		{15 * um, 0, 0, 0}, {12 * um, 3 * um, 0, 0}, {19 * um, 4 * um, 0, 0}, {8 * um, 7 * um, 2 * um, 0},
		{10 * um, 5 * um, 0, 0},
		{23 * um, 8 * um, 0, 3 * um}, {20 * um, 5 * um, 0, 0},
	} {
		assert.Equal(t, x.both, offMiddle(x.at, &low, &high), "%v", x.at)
		assert.Equal(t, x.low, offMiddle(x.at, &low, nil), "%v with a least", x.at)
		assert.Equal(t, x.high, offMiddle(x.at, nil, &high), "%v with a most", x.at)
		assert.Zero(t, offMiddle(x.at, nil, nil))
	}
}

// TestTheGasketThatGivesTheRatioBack is the thinnest that is thick enough, whatever order the stock is in.
func TestTheGasketThatGivesTheRatioBack(t *testing.T) {
	sizes := []length.Length{1400 * um, 0, 1200 * um, 1000 * um, 1300 * um}
	for turn := range sizes {
		h := headtest.New(t, 1, "IE")
		for i := range sizes {
			size := sizes[(i+turn)%len(sizes)]
			h.Stock = append(h.Stock, head.Stock{ID: uint(i + 1), Kind: trade.GasketPart.Code, Size: size})
		}
		h.Stock = append(h.Stock, head.Stock{ID: 9, Kind: trade.ShimPart.Code, Size: 1150 * um})
		p := posedOf(h)
		assert.Equal(t, "1.2 mm", p.restoring(1100*um), "%v", h.Stock)
		assert.Equal(t, "1.2 mm", p.restoring(1200*um))
		assert.Equal(t, "1 mm", p.restoring(900*um))
		assert.Equal(t, "1.4 mm, the thickest there is: the ratio stays higher", p.restoring(1500*um))
	}
	assert.Empty(t, posedOf(headtest.New(t, 1, "IE")).restoring(1*mm))
}

// TestAPushrodThatIsNotThereIsOrdered: known by its size and price, in the stock or out of it.
func TestAPushrodThatIsNotThereIsOrdered(t *testing.T) {
	cents := int64(2100)
	h := headtest.New(t, 1, "IE")
	h.Model.Kind.Drive = trade.Rocker
	h.Stock = []head.Stock{
		{ID: 1, Kind: trade.PushrodPart.Code, Size: 200 * mm, Count: 0, Price: &cents},
		{ID: 2, Kind: trade.PushrodPart.Code, Size: 201 * mm, Count: 1},
		{ID: 3, Kind: trade.PushrodPart.Code, Count: 4}, {ID: 4, Kind: trade.ShimPart.Code, Size: 1 * mm, Count: 1},
	}
	assert.Equal(t, []rod{{200 * mm, cents, false}, {201 * mm, trade.PushrodPart.Usual, true}}, posedOf(h).rods)
}

// TestASoundSetIsFacedOnlyWhereThatBringsAValveRight: where a valve lies too deep and the face was read, the
// cuts that may bring it up are tried for all; otherwise none.
func TestASoundSetIsFacedOnlyWhereThatBringsAValveRight(t *testing.T) {
	of := func(recession, line string) *problem {
		h := headtest.New(t, 1, "IE").Both("valve.recession", "0.40", "1.00").Limit("face.line/", "", "0.10").Read(
			"valve.recession", "1I1 "+recession, "1E1 0.70",
		)
		if line != "" {
			h.All("face.line", line)
		}
		return posedOf(h)
	}
	deep, sound, unread := of("1.20", "0.02 0.03"), of("0.70", "0.02 0.03"), of("1.20", "")
	assert.Equal(t, []length.Length{0}, commonCuts([]*problem{sound, sound}))
	assert.Equal(t, []length.Length{0}, commonCuts([]*problem{unread, sound}), "nobody knows the face")
	some := commonCuts([]*problem{sound, deep})
	require.Greater(t, len(some), 5)
	assert.Zero(t, some[0])
	clean, _, _ := deep.h.Size(trade.FaceClean, "")
	assert.Equal(t, clean, some[1], "no less than makes a new surface")
}

// TestRowsOfASet: heads planned as one keep the depths of each within its own head's limit, or all within the
// narrower where they are seated alike.
func TestRowsOfASet(t *testing.T) {
	of := func(row string) *problem {
		h := headtest.New(t, 1, "IE").Both("valve.recession", "0.40", "1.00").Read("valve.recession", "1I1 0.70", "1E1 0.72")
		if row != "" {
			h.Limit("recession.spread/intake", "", row)
		}
		return posedOf(h)
	}
	for _, set := range [][]string{{"0.10", ""}, {"", "0.10"}, {"0.10", "0.30"}, {"0.30", "0.10"}} {
		all := []*problem{of(set[0]), of(set[1])}
		for _, alike := range []bool{true, false} {
			best, ok, err := asOne(t.Context(), all, []length.Length{0}, alike)
			require.NoError(t, err)
			assert.True(t, ok, "%v", set)
			assert.Len(t, best, 2)
		}
	}
}

// TestFacingAloneTakesItsAreaOffTheChamber: valves that stay where they are in the head change nothing of it.
func TestFacingAloneTakesItsAreaOffTheChamber(t *testing.T) {
	h := headtest.New(t, 1, "IE").Figure("bore", "86").Figure("stroke", "90").Figure("chamber", "45").
		Figure("gasket_bore", "87").Figure("gasket", "1.20").Figure("chamber_area", "5000").
		Both("valve.recession", "0.40", "1.20").Read("valve.recession", "1I1 0.80", "1E1 0.80").
		Limit("face.line/", "", "0.05").All("face.line", "0.10 0.15")
	for cut, want := range map[length.Length]string{200 * um: "44", 300 * um: "43.5"} {
		p, err := Solve(t.Context(), h.Head, head.Ask{FaceCut: &cut})
		require.NoError(t, err)
		require.True(t, p.Feasible, "%v", p.Blocked)
		require.NotNil(t, p.Ratio)
		assert.Equal(t, want, p.Ratio.ChamberAfter.String())
		assert.NotEqual(t, p.Ratio.Before, p.Ratio.After)
	}
}

// TestWhatAnAdjusterCanGiveIsSupposedOnlyWhereALashWasRead.
func TestWhatAnAdjusterCanGiveIsSupposedOnlyWhereALashWasRead(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("lash", "0.20", "0.30")
	assert.NotContains(t, strings.Join(posedOf(h).assumed, " "), trade.Adjuster.Label)
	h.Read("lash", "1I1 0.25 0.26")
	assert.Contains(t, strings.Join(posedOf(h).assumed, " "), trade.Adjuster.Label)
}

// TestShimsOfAStepThatIsNotSaid are those of the box.
func TestShimsOfAStepThatIsNotSaid(t *testing.T) {
	h := headtest.New(t, 1, "IE").Limit("shim.size/", "2.00", "3.00").Read("shim.size", "1I1 2.50", "1E1 2.50").
		Both("lash", "0.20", "0.30").Read("lash", "1I1 0.35 0.36", "1E1 0.25 0.26")
	h.Model.Kind.Drive = trade.Bucket
	h.Stock = []head.Stock{{ID: 1, Kind: trade.LashShimPart.Code, Size: 2600 * um, Count: 1}}
	assert.Equal(t, []length.Length{2500 * um, 2600 * um}, posedOf(h).shimBox().sizes,
		"the fitted and the one that is there")
	h.Figure("shim_step", "0.25")
	assert.Equal(t, []length.Length{2000 * um, 2250 * um, 2500 * um, 2600 * um, 2750 * um, 3000 * um},
		posedOf(h).shimBox().sizes)
}

// TestTheRatioIsOfAllCylinders: a seat that is cut counts the same in whichever cylinder it is, as its part of all;
// where a figure of the engine is not said there is no ratio.
func TestTheRatioIsOfAllCylinders(t *testing.T) {
	engine := func(wide string) *headtest.Head {
		h := headtest.New(t, 2, "IE").Figure("bore", "86").Figure("stroke", "90").Figure("chamber", "45").
			Figure("gasket_bore", "87").Figure("gasket", "1.20").
			Both("valve.recession", "0.40", "2.00").All("valve.recession", "0.80").
			Both("seat.width", "1.2", "1.8").All("seat.width", "1.5")
		if wide != "" {
			h.Read("seat.width", wide+" 2.4")
		}
		return h
	}
	solved := func(h *headtest.Head) Plan {
		p, err := Solve(t.Context(), h.Head, head.Ask{})
		require.NoError(t, err)
		require.True(t, p.Feasible, "%v", p.Blocked)
		return p
	}
	sound := solved(engine(""))
	require.NotNil(t, sound.Ratio)
	assert.Equal(t, sound.Ratio.Before, sound.Ratio.After)
	first, second := solved(engine("1E1")), solved(engine("2E1"))
	assert.NotEqual(t, first.Ratio.Before, first.Ratio.After)
	assert.Equal(t, first.Ratio, second.Ratio, "of whichever cylinder")
	for _, figure := range []string{"bore", "stroke", "chamber", "gasket_bore"} {
		h := engine("1E1")
		delete(h.Sheet.Figures, figure)
		assert.Nil(t, solved(h).Ratio, figure)
	}
}
