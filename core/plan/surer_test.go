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
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/internal/sample"
)

// posedAt is the n-th troubled head, three of four with buckets: every other one's rows are kept together, and
// of every third the shims are few, and others are ordered.
func posedAt(t *testing.T, r *rand.Rand, n int) *problem {
	h := troubled(t, r, []string{"bucket", "bucket", "bucket", "rocker"}[n%4])
	if n%3 == 0 {
		h.Figure("shim_step", "0.02")
		for i := range h.Stock {
			h.Stock[i].Count = min(h.Stock[i].Count, 1+i%2*8)
		}
	}
	p := pose(h.Head, judge.Head(h.Head), head.Ask{Alternative: Balanced})
	if n%2 == 0 {
		spread := 20 * grid
		p.spread = map[string]*length.Length{"intake": &spread, "exhaust": &spread}
	}
	return p
}

// solvedAt is the n-th troubled head with its optimum.
func solvedAt(t *testing.T, r *rand.Rand, n int) (p *problem, best solution, ok bool) {
	p = posedAt(t, r, n)
	best, ok, err := p.solve(t.Context(), 0, false)
	require.NoError(t, err)
	return p, best, ok
}

// TestNothingIsSurerAtItsPrice draws the limits of small heads in, by so many standard deviations: no plan that
// keeps inside those and costs as much comes less near to a limit than the one that is found without.
func TestNothingIsSurerAtItsPrice(t *testing.T) {
	r := rand.New(rand.NewPCG(29, 11))
	held, short, ordered := 0, 0, 0
	for n := range sample.Times(3, 240) {
		p, best, ok := solvedAt(t, r, n)
		if !ok {
			continue
		}
		if best.score.z < enough {
			short++
		}
		if best.score.orders > 0 {
			ordered++
		}
		for _, z := range []float64{0.5, 1, 1.5, 2, 3} {
			other, ok, err := p.cheaper(t.Context(), z, false, best.score.cents+1)
			require.NoError(t, err)
			if !ok {
				break
			}
			held++
			require.Equal(t, best.score.cents, other.score.cents, "head %d: drawing limits in makes nothing cheaper", n)
			assert.LessOrEqual(t, min(other.score.z, enough), min(best.score.z, enough)+1e-9, "head %d, limits drawn in by %v",
				n, z)
			if other.score.z >= enough {
				assert.LessOrEqual(t, best.score.orders, other.score.orders, "head %d orders what it need not", n)
			}
		}
	}
	assert.Greater(t, held, sample.Times(3, 120))
	assert.Greater(t, short, 5)
	assert.Greater(t, ordered, 5)
	t.Log(held, "held;", short, "plans nearer to a limit than enough;", ordered, "order shims")
}

// TestDepthsOfARowEndTogether looks at where the seats of a plan end.
func TestDepthsOfARowEndTogether(t *testing.T) {
	r := rand.New(rand.NewPCG(29, 12))
	cut := 0
	for n := range sample.Times(3, 120) {
		p, best, ok := solvedAt(t, r, n)
		if !ok {
			continue
		}
		ends := map[string][]float64{}
		for i, v := range p.valves {
			f := &best.valves[i]
			at := f.way.Figures[after.Recession].At - float64(v.local(best.cut))
			for k := range f.way.open {
				if at += f.way.open[k].slopes[after.Recession] * float64(f.sizes[k]); f.sizes[k] > 0 {
					cut++
				}
			}
			ends[v.row] = append(ends[v.row], at)
		}
		for row, spread := range p.spread {
			assert.LessOrEqual(t, slices.Max(ends[row])-slices.Min(ends[row]), float64(*spread)+2, "head %d, %s: %v", n, row,
				ends[row])
		}
	}
	assert.Greater(t, cut, 20)
}

// TestWhateverTheShimsArePricedNothingCostsLess gives the shims of a box prices, those that were learnt or any: what
// a head costs at least with them is no more than its optimum.
func TestWhateverTheShimsArePricedNothingCostsLess(t *testing.T) {
	r := rand.New(rand.NewPCG(29, 13))
	bound, close := 0, 0
	for n := range sample.Times(3, 240) {
		p, best, ok := solvedAt(t, r, n)
		q := p.asked()
		if !ok || q.box == nil {
			continue
		}
		c := common{cut: best.cut, gasket: best.gasket}
		own, _ := p.headScore(c)
		var buckets []int
		for i := range p.valves {
			buckets = append(buckets, i)
		}
		cols := p.columns(q.box, buckets)
		for round := range 6 {
			if round > 0 {
				prices := make([]int64, len(cols))
				for j := range prices {
					prices[j] = r.Int64N(400)
				}
				q.scarce = p.spreadOut(q.box, cols, prices)
			}
			floor, needed := p.floor(q, c)
			assert.LessOrEqual(t, own.cents+floor+p.setups(needed), best.score.cents, "head %d, round %d", n, round)
			c.extra = p.extras(q.ways, c)
			some := p.candidates(c, own, q, math.MaxInt64)
			require.NotEmpty(t, some)
			least := slices.MinFunc(some, func(a, b candidate) int { return a.bound.compare(b.bound) }).bound
			assert.LessOrEqual(t, least.cents, best.score.cents, "head %d, round %d", n, round)
			if bound++; round == 0 && least.cents == best.score.cents {
				close++
			}
		}
	}
	assert.Greater(t, bound, sample.Times(3, 300))
	assert.Greater(t, close, bound/6*7/10, "prices that were learnt come close")
	t.Log(bound, "bounds;", close, "of", bound/6, "meet the optimum")
}

// TestScarcityIsWhatOneMoreWouldSave holds the prices of shims against their sharing out, by rows that are drawn.
func TestScarcityIsWhatOneMoreWouldSave(t *testing.T) {
	r := rand.New(rand.NewPCG(29, 14))
	h := troubled(t, r, "bucket")
	met := 0
	for range 300 {
		p := pose(h.Head, judge.Head(h.Head), head.Ask{Alternative: Balanced})
		p.costs.parts = 1
		b := &box{
			stock: map[length.Length]int{}, cents: map[length.Length]int64{}, order: map[length.Length]bool{},
			index: map[length.Length]int{},
		}
		for k := range 3 {
			size := length.Length(k)
			b.sizes, b.index[size] = append(b.sizes, size), k
			b.stock[size], b.cents[size], b.order[size] = r.IntN(3), r.Int64N(50), r.IntN(2) == 0
		}
		s := shares{rows: make([][]fitted, len(p.valves)), out: make([]fitted, len(p.valves))}
		for i, v := range p.valves {
			v.present = length.Length(r.IntN(3))
			s.buckets = append(s.buckets, i)
			for range b.sizes {
				f := fitted{way: &way{}, score: score{cents: r.Int64N(300), z: sure}}
				if r.IntN(6) == 0 {
					f.score = never
				}
				s.rows[i] = append(s.rows[i], f)
			}
		}
		s.cols = p.columns(b, s.buckets)
		if !p.share(b, &s, math.Inf(-1)) {
			continue
		}
		is := p.scarcity(b, &s)
		var least, total int64
		for i := range p.valves {
			total += s.out[i].score.cents
			at := unfit
			for k, size := range b.sizes {
				cents := unfit
				switch {
				case slices.ContainsFunc(p.valves, func(v *valve) bool { return v.present == size }):
					cents = 0
				case b.stock[size] > 0 || b.order[size]:
					cents = b.cents[size]
				}
				if f := s.rows[i][k]; f.score != never {
					at = min(at, f.score.cents+cents+is.more[k])
				}
			}
			least += at
		}
		require.LessOrEqual(t, least-is.all, total)
		if least-is.all == total {
			met++
		}
	}
	assert.Greater(t, met, 150)
}
