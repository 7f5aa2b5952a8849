package plan

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/after"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/length"
	"yatai/core/trade"
)

// TestASpringIsClosedByItsLiftAndItsSolidLength and a nanometre above them it is not.
func TestASpringIsClosedByItsLiftAndItsSolidLength(t *testing.T) {
	h := headtest.New(t, 1, "IE").Figure("lift", "9.5").Figure("spring_solid", "22.1")
	for _, v := range posedOf(h).valves {
		assert.Equal(t, 31_600*um+1, v.closed)
	}
}

// TestCutsGoUpToWhatMayComeOff and that itself is one of them.
func TestCutsGoUpToWhatMayComeOff(t *testing.T) {
	h := headtest.New(t, 1, "IE").Limit("head.thickness/", "89.50", "").All("head.thickness", "90.00")
	p := posedOf(h)
	p.cuts, p.face.For, p.face.Cut = nil, trade.FaceLine.Code, 200*um
	p.faceCuts()
	require.NotEmpty(t, p.cuts)
	assert.Equal(t, 200*um, p.cuts[0])
	last := p.cuts[len(p.cuts)-1]
	assert.LessOrEqual(t, last, p.most())
	assert.True(t, last+grid > p.most() || p.thin(last+grid) != "", "none is left out: %v of %v", last, p.most())
}

// TestWindowsThatCostWhatIsSparedAreTried, and none that cost more.
func TestWindowsThatCostWhatIsSparedAreTried(t *testing.T) {
	p := posedOf(headtest.New(t, 1, "IE"))
	low, high := length.Length(0), 10*um
	at := func(cents int64) spot { return spot{window: window{low: &low, high: &high}, cents: cents} }
	assert.Len(t, p.likely([]spot{at(99), at(100), at(101)}, 1, 100), 2)
	assert.Empty(t, p.likely([]spot{at(101)}, 1, 100))
}

// TestAnUnreadDepthRulesNoDepthOut of a seat.
func TestAnUnreadDepthRulesNoDepthOut(t *testing.T) {
	d := depths{w: &way{}}
	from, to, ok := d.with(nil)
	assert.True(t, ok)
	assert.True(t, math.IsInf(from, -1))
	assert.True(t, math.IsInf(to, 1))
}

// TestAFaceThatIsNotCutMovesNothing: recession and piston height have the scatter of a cut only where there is one.
func TestAFaceThatIsNotCutMovesNothing(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("valve.recession", "0.40", "1.00").All("valve.recession", "0.70")
	p := posedOf(h)
	p.scatter[after.Face] = 7
	for _, figure := range []int{after.Recession, after.Piston} {
		for _, cut := range []length.Length{0, 100 * um} {
			m, win := move{figure: figure, at: float64(700 * um), sd: 3}, window{}
			p.common(&m, &win, p.valves[0], &way{}, &common{cut: cut}, &setting{}, figure)
			assert.Equal(t, cut > 0, m.changed, "cut by %v", cut)
			assert.Equal(t, cut > 0, m.sd > 3)
			assert.InDelta(t, float64(700*um-cut), m.at, 0.5)
		}
	}
}

// TestTheBoxIsOverdrawnByMoreThanItHolds of a size, whatever else of that size is in the stock.
func TestTheBoxIsOverdrawnByMoreThanItHolds(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	h.Stock = []head.Stock{
		{ID: 1, Kind: trade.LashShimPart.Code, Size: 2500 * um, Count: 1},
		{ID: 2, Kind: trade.ShimPart.Code, Size: 2500 * um, Count: 9},
	}
	p := posedOf(h)
	took := func(n int, from string) []solution {
		var s solution
		for range n {
			s.valves = append(s.valves, fitted{setting: setting{size: 2500 * um, from: from}})
		}
		return []solution{s, {}}
	}
	assert.False(t, overdrawn(p, took(1, InStock)))
	assert.True(t, overdrawn(p, took(2, InStock)))
	assert.False(t, overdrawn(p, took(2, Order)), "what is ordered is not of the box")
	h.Stock[0].Count = 2
	assert.False(t, overdrawn(posedOf(h), took(2, InStock)))
}

// TestTheCheapestCoverIsTaken of repairs that answer the findings at a place: one that answers two is counted
// once, and of two that cost the same the usual one goes first.
func TestTheCheapestCoverIsTaken(t *testing.T) {
	p := posedOf(headtest.New(t, 1, "IE"))
	out := &Plan{Choices: map[string]string{}}
	var all []*trade.Repair
	for _, r := range trade.Repairs() {
		if r.Works != trade.Whole {
			all = append(all, r)
		}
	}
	rnd := rand.New(rand.NewPCG(23, 9))
	for range 300 {
		s := cover{p: p, out: out, at: p.valves[0].ID, least: math.MaxInt64}
		for range 1 + rnd.IntN(3) {
			can := make([]*trade.Repair, 1+rnd.IntN(3))
			for i := range can {
				can[i] = all[rnd.IntN(len(all))]
			}
			s.can = append(s.can, can)
		}
		s.try(nil, 0)
		least := leastOf(s, nil)
		if least == math.MaxInt64 {
			require.Nil(t, s.best, "no two of them go together")
			continue
		}
		require.Equal(t, least, s.least)
		require.Equal(t, least, s.sum(s.best))
	}
}

// sum is what a set of repairs costs: each once.
func (s *cover) sum(took []*trade.Repair) (cents int64) {
	for i, r := range took {
		cents += int64(r.Order)
		if !slices.Contains(took[:i], r) {
			cents += 100 * s.p.price(s.out, r, s.at)
		}
	}
	return cents
}

// leastOf tries every set of repairs that go together.
func leastOf(s cover, took []*trade.Repair) int64 {
	if len(took) == len(s.can) {
		return s.sum(took)
	}
	least := int64(math.MaxInt64)
	for _, r := range s.can[len(took)] {
		if !slices.ContainsFunc(took, r.Excludes) {
			least = min(least, leastOf(s, append(slices.Clone(took), r)))
		}
	}
	return least
}

// TestAWindowThatLiesInBoth has the higher of the lower ends and the lower of the upper ones, open where both are.
func TestAWindowThatLiesInBoth(t *testing.T) {
	at := func(n length.Length) *length.Length { return &n }
	ends := []*length.Length{nil, at(1), at(2), at(3)}
	for _, a := range ends {
		for _, b := range ends {
			got := window{low: a, high: a}.with(window{low: b, high: b})
			switch {
			case a == nil || b == nil:
				want := a
				if a == nil {
					want = b
				}
				assert.Equal(t, want, got.low)
				assert.Equal(t, want, got.high)
			default:
				assert.Equal(t, max(*a, *b), *got.low, "%d and %d", *a, *b)
				assert.Equal(t, min(*a, *b), *got.high, "%d and %d", *a, *b)
			}
		}
	}
}

// TestSizesOfAPartAreThoseInTheStock: each once, the smallest first, none of a part that has no size.
func TestSizesOfAPartAreThoseInTheStock(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	for i, size := range []length.Length{3 * mm, 0, 1 * mm, 3 * mm, -1} {
		h.Stock = append(h.Stock, head.Stock{ID: uint(i + 1), Kind: trade.ShimPart.Code, Size: size})
	}
	h.Stock = append(h.Stock, head.Stock{ID: 9, Kind: trade.GasketPart.Code, Size: 2 * mm})
	assert.Equal(t, []length.Length{1 * mm, 3 * mm}, posedOf(h).sizes(trade.ShimPart))
}

// TestRunsOfDepthsAreJoined holds runs of depths, joined, against the depths one by one: the same, and none of two
// runs follows on the other.
func TestRunsOfDepthsAreJoined(t *testing.T) {
	depths := func(runs []run) map[length.Length]bool {
		out := map[length.Length]bool{}
		for _, r := range runs {
			for d := r.from; d <= r.to; d += grid {
				out[d] = true
			}
		}
		return out
	}
	rnd := rand.New(rand.NewPCG(23, 10))
	for range 2_000 {
		var runs []run
		for range rnd.IntN(6) {
			from := length.Length(rnd.IntN(12))*grid + length.Length(rnd.IntN(2))*um
			runs = append(runs, run{from: from, to: from + length.Length(rnd.IntN(5)-1)*grid})
		}
		want := depths(runs)
		got := joined(slices.Clone(runs))
		require.Equal(t, want, depths(got), "%v", runs)
		for i, a := range got {
			for _, b := range got[:i] {
				if a.phase() == b.phase() {
					require.Greater(t, max(a.from, b.from), min(a.to, b.to)+grid, "%v could be one of %v", got, runs)
				}
			}
		}
	}
}

// TestAValveIsForcedByANeedOfItsOwn: held, wanted, or the one answer to a finding that is no figure's.
func TestAValveIsForcedByANeedOfItsOwn(t *testing.T) {
	var renew *trade.Repair
	for _, r := range trade.Repairs() {
		if r.Works == trade.ValveMetal && r.Does.Uses == trade.ValvePart {
			renew = r
		}
	}
	require.NotNil(t, renew)
	w := &way{repairs: []*trade.Repair{renew}}
	for _, c := range []struct {
		need   need
		forced bool
	}{
		{need{figure: -1, answers: []string{renew.Code}}, true},
		{need{figure: 0, answers: []string{renew.Code}}, false},
		{need{figure: -1, answers: []string{renew.Code, "grind"}}, false},
		{need{figure: -1, answers: []string{"grind"}}, false},
		{need{figure: -1}, false},
	} {
		v := &valve{needs: []need{c.need}}
		assert.Equal(t, c.forced, v.forced(w), "%+v", c.need)
	}
	assert.True(t, (&valve{held: map[string]string{string(trade.ValveMetal): renew.Choice}}).forced(w))
	assert.True(t, (&valve{must: map[trade.Metal][]string{trade.ValveMetal: {renew.Code}}}).forced(w))
	assert.False(t, (&valve{}).forced(w))
	assert.False(t, (&valve{needs: []need{{figure: -1, answers: []string{renew.Code}}}}).forced(&way{}))
}
