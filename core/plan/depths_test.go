package plan

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/trade"
)

// TestTheDepthsOfAShimAreThoseOfTheOneBeforeMoved: one after the other or each for itself, in any order.
func TestTheDepthsOfAShimAreThoseOfTheOneBeforeMoved(t *testing.T) {
	r := rand.New(rand.NewPCG(30, 11))
	compared := 0
	for n := range 30 {
		h := mixed(t, r, n)
		h.Model.Kind.Drive = trade.Bucket
		h.All("shim.size", "2.50")
		p := posedOf(h)
		b := p.shimBox()
		if b == nil {
			continue
		}
		for _, v := range p.valves {
			settings := p.shimSettings(v, b)
			r.Shuffle(len(settings), func(i, j int) { settings[i], settings[j] = settings[j], settings[i] })
			for _, w := range p.ways(v) {
				all := depths{problem: p, v: v, w: &w, shims: true}
				for k := range settings {
					alone := depths{problem: p, v: v, w: &w, shims: true}
					from, to, ok := all.with(&settings[k])
					from1, to1, ok1 := alone.with(&settings[k])
					require.Equal(t, ok1, ok)
					if ok && !math.IsInf(from, 0) {
						assert.InDelta(t, from1, from, 1)
						assert.InDelta(t, to1, to, 1)
						compared++
					}
				}
			}
		}
	}
	assert.Greater(t, compared, 1000)
}

// TestRangesHoldTheLeastOfWhatCoversAWindow compares with adding every range to every window of it.
func TestRangesHoldTheLeastOfWhatCoversAWindow(t *testing.T) {
	r := rand.New(rand.NewPCG(31, 11))
	for range 300 {
		n := 1 + r.IntN(40)
		at, want := cheapestAt(n), make([]atLeast, n)
		at.clear()
		for k := range want {
			want[k] = atLeast{math.MaxInt64, ^mask(0)}
		}
		for range r.IntN(12) {
			from, to := r.IntN(n+1), r.IntN(n+1)
			a := atLeast{r.Int64N(100), mask(r.IntN(64))}
			at.add(from, to, a)
			for k := from; k < to; k++ {
				want[k].take(a)
			}
		}
		require.Equal(t, want, at.each())
	}
}
