package plan

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/length"
)

// TestScoresInTheirOrder lists scores, each better than the next.
func TestScoresInTheirOrder(t *testing.T) {
	inOrder := []score{
		{cents: 100, z: 0.1, orders: 3, metal: 900, off: 9},
		{cents: 101, z: sure, metal: 100},
		{cents: 101, z: 3, metal: 100},
		{cents: 101, z: enough, metal: 200},
		{cents: 101, z: sure, orders: 1, metal: 100},
		{cents: 101, z: sure, orders: 2},
		{cents: 101, z: 3.9, orders: 2, metal: 0},
		{cents: 101, z: 3.9, orders: 2, metal: 0, off: 1},
		{cents: 101, z: 3.9, orders: 2, metal: 1},
		{cents: 101, z: 1.9},
		{cents: 101, z: 1.8, orders: 0},
		never,
	}
	for i := range inOrder {
		for j := range inOrder {
			want := 0
			if i < j {
				want = -1
			} else if i > j {
				want = 1
			}
			assert.Equal(t, want, inOrder[i].compare(inOrder[j]), "%+v against %+v", inOrder[i], inOrder[j])
		}
	}
	assert.Zero(t, score{z: 1}.compare(score{z: 1 + 1e-12}), "what reckoning leaves is no difference")
}

// TestWeightsOrderAsScoresDo: what an assignment adds up goes the way scores are compared, but for what is finer
// than it counts.
func TestWeightsOrderAsScoresDo(t *testing.T) {
	r := rand.New(rand.NewPCG(29, 15))
	drawn := func() score { return score{cents: r.Int64N(2), z: float64(r.IntN(9)) / 2, orders: r.IntN(2)} }
	for range 2000 {
		if a, b := drawn(), drawn(); a.less(b) {
			assert.Less(t, weight(a), weight(b), "%+v against %+v", a, b)
		}
	}
	assert.Less(t, weight(score{z: 3, metal: 100 * length.Micrometre, off: length.Millimetre}),
		weight(score{z: 3, metal: 200 * length.Micrometre}))
	assert.Less(t, weight(score{z: 3}), weight(score{z: 3, off: 40 * length.Micrometre}))
	assert.Less(t, weight(score{z: 3.5, off: length.Millimetre}), weight(score{z: 3}))
	assert.Less(t, weight(score{cents: needless + 1<<28}), forbidden)
	assert.GreaterOrEqual(t, weight(never), forbidden)
}

// TestTheWeakestCountsBeforeTheSum: of two ways to share two shims out at one price the one whose weaker valve is
// surer is taken, though the other is surer taken together.
func TestTheWeakestCountsBeforeTheSum(t *testing.T) {
	h := troubled(t, rand.New(rand.NewPCG(29, 16)), "bucket")
	p := pose(h.Head, judge.Head(h.Head), head.Ask{Alternative: Balanced})
	p.valves = p.valves[:2]
	b := &box{sizes: []length.Length{1, 2}, index: map[length.Length]int{1: 0, 2: 1}}
	p.valves[0].present, p.valves[1].present = 1, 2
	z := [2][2]float64{{0.5, 1.2}, {1.2, 1.9}}
	s := shares{buckets: []int{0, 1}, rows: make([][]fitted, 2), out: make([]fitted, 2)}
	for i := range z {
		for _, z := range z[i] {
			s.rows[i] = append(s.rows[i], fitted{way: &way{}, score: score{z: z}})
		}
	}
	s.cols = p.columns(b, s.buckets)
	require.True(t, p.share(b, &s, math.Inf(-1)))
	x, q := &candidate{}, &question{box: b}
	first := p.summed(x, s.out)
	assert.Equal(t, 0.5, first.score.z, "its own each: together the surer")
	assert.Equal(t, 1.2, p.surer(x, q, &s, first).score.z)
	assert.False(t, p.share(b, &s, 1.5), "none of the two comes as far")
}
