package plan

import (
	"math"
	"math/big"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/engine"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/length"
	pricing "yatai/core/price"
	"yatai/core/quantity"
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

	h.Both("lash", "0.10", "0.45").All("lash", "0.20 0.22").All("pushrod.length", "200.50").Figure("rocker_ratio", "1.5")
	p := posedOf(h)
	var rods []setting
	for _, s := range p.settings(p.valves[0]) {
		if s.size != p.valves[0].present {
			rods = append(rods, s)
		}
	}
	require.Len(t, rods, 2)
	for k, price := range []int64{cents, trade.PushrodPart.Usual} {
		assert.Equal(t, price+pricing.Each(p.h, trade.NewPushrod)+p.costs.eachLash, rods[k].cents)
		assert.Equal(t, p.ratio*float64(p.valves[0].present-p.rods[k].size), rods[k].add)
	}
	assert.Equal(t, []string{Order, InStock}, []string{rods[0].from, rods[1].from})
	p.costs.parts = 4
	assert.Equal(t, rods[0].cents+3*cents, p.settings(p.valves[0])[len(p.settings(p.valves[0]))-2].cents, "parts weigh more")
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
	having := func(wide string) *headtest.Head {
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
	sound := solved(having(""))
	require.NotNil(t, sound.Ratio)
	assert.Equal(t, sound.Ratio.Before, sound.Ratio.After)
	first, second := solved(having("1E1")), solved(having("2E1"))
	assert.NotEqual(t, first.Ratio.Before, first.Ratio.After)
	assert.Equal(t, first.Ratio, second.Ratio, "of whichever cylinder")
	i := slices.IndexFunc(first.Valves, func(v Valve) bool { return v.ID == "1E1" })
	f := first.Valves[i].Figure(trade.Recession.Code)
	lv, _ := having("").Model.Layout.Valve("1E1")
	half, err := engine.Compression(engine.CompressionInput{
		Bore: 86 * mm, Stroke: 90 * mm, Chamber: (45 * quantity.One).CC(), GasketBore: 87 * mm, Gasket: 1200 * um,
		Piston: quantity.Amount(0).CC(), ChamberArea: new(big.Rat),
		Valves: []engine.ValveChange{{Head: lv.Head, RecessionChange: (f.After - f.Now).Length() / 2}},
	})
	require.NoError(t, err)
	assert.Equal(t, half.After, first.Ratio.After, "one of two cylinders has it: half of it in the mean one")
	for _, figure := range []string{"bore", "stroke", "chamber", "gasket_bore"} {
		h := having("1E1")
		delete(h.Sheet.Figures, figure)
		assert.Nil(t, solved(h).Ratio, figure)
	}
}

// TestWhatTheHeadsChoicesCostMore: work on a valve that only its lash asks for, and the lash that a cut of the face
// has set again, once.
func TestWhatTheHeadsChoicesCostMore(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("lash", "0.10", "0.45").Figure("rocker_ratio", "1.5")
	p := posedOf(h)
	lash := p.setLash
	require.NotZero(t, lash)
	require.True(t, p.h.Model.Kind.Pushrods())
	each := p.costs.eachLash
	require.Positive(t, each)
	other := lash << 1
	for _, c := range []struct {
		says     string
		w        way
		set      setting
		cut      length.Length
		together int64
		more     int64
	}{
		{"kept", way{keep: true}, setting{}, 0, 0, 0},
		{"work", way{cents: 500, ops: other}, setting{}, 0, 500, 70},
		{"work that has the lash set", way{cents: 500, ops: other | lash}, setting{cents: 30}, 0, 530, 70},
		{"set by both", way{cents: 500, ops: other | lash}, setting{cents: 30, ops: lash}, 0, 530 - each, 70},
		{"kept, the face cut", way{keep: true}, setting{}, um, 0, each},
		{"set, the face cut", way{keep: true}, setting{cents: 30, ops: lash}, um, 30, 0},
		{"work, the face cut", way{cents: 500, ops: other}, setting{}, um, 500, 70 + each},
	} {
		at := common{cut: c.cut, extra: []int64{70, 0}}
		assert.Equal(t, c.together, p.together(&c.w, &c.set), c.says)
		assert.Equal(t, c.more, p.more(&at, p.valves[0], &c.w, c.w.ops|c.set.ops), c.says)
		assert.Equal(t, c.more-at.extra[0]*min(1, c.w.cents), p.more(&at, p.valves[1], &c.w, c.w.ops|c.set.ops), c.says)
		x := pairing{way: &c.w, setting: &c.set, ops: c.w.ops | c.set.ops, cents: c.together, shim: 1}
		q := &question{}
		assert.Equal(t, c.together+c.more, p.cents(q, &at, p.valves[0], &x), c.says)
		q.scarce.more = []int64{5, 11}
		assert.Equal(t, c.together+c.more+11, p.cents(q, &at, p.valves[0], &x), c.says)
		x.shim = -1
		assert.Equal(t, c.together+c.more, p.cents(q, &at, p.valves[0], &x), c.says)
	}
}

// TestAWindowBeforeTheFaceIsCut: as far deeper as the cut will bring the seats up; open ends stay open.
func TestAWindowBeforeTheFaceIsCut(t *testing.T) {
	low, high := 400*um, 900*um
	in := window{&low, &high, nil}.uncut(50 * um)
	for _, c := range []struct {
		from, to float64
		fits     bool
	}{
		{450_000, 450_000, true}, {440_000, 449_999, true}, {440_000, 449_998, false}, {950_000, 960_000, true},
		{950_001, 960_000, true}, {950_002, 960_000, false}, {0, 2_000_000, true},
	} {
		assert.Equal(t, c.fits, (&pairing{from: c.from, to: c.to}).fits(in), "%v", c)
	}
	assert.True(t, (&pairing{from: -9e9, to: 9e9}).fits(window{}.uncut(0)))
	assert.True(t, (&pairing{from: 9e9, to: 9e9}).fits(window{low: &low}.uncut(0)))
	assert.True(t, (&pairing{from: -9e9, to: -9e9}).fits(window{high: &high}.uncut(0)))
}

// TestTheLeastDepthsOfARowAreThoseThatSomeValveCanHave: every grid from each that a way reaches, where all others
// may lie no more than the spread above; worked out again valve by valve.
func TestTheLeastDepthsOfARowAreThoseThatSomeValveCanHave(t *testing.T) {
	r := rand.New(rand.NewPCG(43, 11))
	some := 0
	for n := range 24 {
		p := posedAt(t, r, n)
		q := p.asked()
		for _, cut := range p.cuts[:min(3, len(p.cuts))] {
			c := common{cut: cut, gasket: p.gaskets[0]}
			near := p.nearby(q, &c)
			for row, spread := range p.spread {
				if spread == nil {
					continue
				}
				want := map[length.Length]bool{}
				low, high := math.Inf(-1), math.Inf(1)
				for i, v := range p.valves {
					if v.row != row {
						continue
					}
					from, to := math.Inf(1), math.Inf(-1)
					for _, k := range near[i] {
						x := &q.pairs[i][k]
						from, to = min(from, x.from-float64(v.local(cut))), max(to, x.to-float64(v.local(cut)))
					}
					low, high = max(low, from-float64(*spread)), min(high, to)
				}
				for i, v := range p.valves {
					if v.row != row || math.IsInf(high, 0) {
						continue
					}
					for _, reach := range q.reaches[i] {
						for at := reach.from; at <= reach.to; at += grid {
							if d := float64(at - v.local(cut)); d >= low-1 && d <= high+1 {
								want[at-v.local(cut)] = true
							}
						}
					}
				}
				got := p.lowest(row, *spread, q, &c)
				assert.Len(t, got, len(want))
				assert.True(t, slices.IsSorted(got))
				for _, at := range got {
					assert.True(t, want[at], "%v", at)
				}
				some += len(got)
			}
		}
	}
	assert.Greater(t, some, 200)
}
