package plan

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/after"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/surface"
	"yatai/core/trade"
)

// sizesOf is a way with some open sizes and figures that go with them, all at random: some sizes are metal.
func sizesOf(r *rand.Rand, open int) (w *way, figures []move) {
	metal := &trade.Repair{Does: &trade.Operation{Size: &trade.Size{Metal: true}}}
	free := &trade.Repair{Does: &trade.Operation{Size: &trade.Size{}}}
	w = &way{}
	for range open {
		o := sized{repair: []*trade.Repair{metal, free}[r.IntN(2)]}
		o.least = length.Length(r.IntN(5)) * grid
		o.most = o.least + length.Length(r.IntN(14))*grid
		w.open = append(w.open, o)
	}
	for n := range 1 + r.IntN(4) {
		m := move{figure: n, at: r.Float64() * 300_000, sd: 1 + r.Float64()*20_000, changed: true}
		for k := range open {
			m.slopes[k] = []float64{-1, 0, 1, 1.5}[r.IntN(4)]
			w.open[k].slopes[n] = m.slopes[k]
		}
		m.low, m.high = math.Inf(-1), math.Inf(1)
		if r.IntN(4) > 0 {
			m.low = m.at - 40_000 + r.Float64()*120_000
		}
		if r.IntN(4) > 0 {
			m.high = max(m.low, m.at) + r.Float64()*120_000
		}
		m.least, m.most = m.low, m.high
		if r.IntN(3) == 0 {
			m.least, m.most = m.low+m.sd/2, m.high-m.sd/2
		}
		figures = append(figures, m)
	}
	return w, figures
}

// ends is how the figures come out with some sizes: the smallest distance to a limit, and whether all end where
// they must, or miss it by less than so much.
func ends(figures []move, sizes []length.Length, fixed, miss float64) (z float64, fits bool) {
	z, fits = fixed, true
	for _, m := range figures {
		at := m.at
		for k, s := range sizes {
			at += m.slopes[k] * float64(s)
		}
		fits = fits && at >= m.least-miss && at <= m.most+miss
		z = min(z, (at-m.low)/m.sd, (m.high-at)/m.sd)
	}
	return min(z, sure), fits
}

// TestSizesLieWhereTheNearestLimitIsFurthest holds the choice of up to three open sizes against trying every
// multiple of the grid: as far from the nearest limit, or as sure with as little metal, and found wherever
// anything fits.
func TestSizesLieWhereTheNearestLimitIsFurthest(t *testing.T) {
	r := rand.New(rand.NewPCG(41, 11))
	p := &problem{scratch: &[maxOpen][after.Count]move{}, tried: &[maxOpen]fitted{}}
	found, none := 0, 0
	for range 4000 {
		open := r.IntN(4)
		if open == 3 && r.IntN(8) > 0 {
			open = 2
		}
		w, figures := sizesOf(r, open)
		fixed := []float64{sure, 1.5}[r.IntN(2)]
		best, any, nearly := math.Inf(-1), false, false
		sizes := make([]length.Length, open)
		var try func(k int)
		try = func(k int) {
			if k == open {
				z, fits := ends(figures, sizes, fixed, 1)
				if fits {
					best, nearly = max(best, z), true
				}
				_, fits = ends(figures, sizes, fixed, 0)
				any = any || fits
				return
			}
			for sizes[k] = w.open[k].least; sizes[k] <= w.open[k].most; sizes[k] += grid {
				try(k + 1)
			}
		}
		try(0)
		out := fitted{score: score{z: fixed}}
		ok := p.place(w, figures, open-1, &out)
		if any != nearly { // a nanometre is no matter
			continue
		}
		require.Equal(t, any, ok, "%+v %+v", w.open, figures)
		if !ok {
			none++
			continue
		}
		found++
		z, fits := ends(figures, out.sizes[:open], fixed, 1)
		require.True(t, fits)
		assert.InDelta(t, best, z, 1e-6, "%+v %+v", w.open, figures)
		assert.InDelta(t, z, out.score.z, 1e-6, "what it says of itself")
		var metal length.Length
		for k := range open {
			if w.open[k].repair.Does.Size.Metal {
				metal += out.sizes[k]
			}
		}
		assert.Equal(t, metal, out.score.metal)
	}
	assert.Greater(t, found, 1000)
	assert.Greater(t, none, 300)
}

// TestRoomIsWhereTheOtherSizeHasAny holds the ends of a size against trying every multiple of the grid.
func TestRoomIsWhereTheOtherSizeHasAny(t *testing.T) {
	r := rand.New(rand.NewPCG(42, 11))
	met := 0
	for range 4000 {
		w, figures := sizesOf(r, 2)
		of := r.IntN(2)
		from, to := w.open[of].least, w.open[of].most
		var first, last length.Length
		any := false
		for s := from; s <= to; s += grid {
			if short(w, figures, of, s) <= 0 {
				if !any {
					first, any = s, true
				}
				last = s
			}
		}
		gotFirst, gotLast, ok := roomy(w, figures, of, from, to)
		require.Equal(t, any, ok)
		if ok {
			met++
			assert.Equal(t, []length.Length{first, last}, []length.Length{gotFirst, gotLast})
		}
		least, most := reachOf(w, figures, of, 2)
		for s := from; s <= to; s += grid { // nothing outside of the reach can be
			if s < least || s > most {
				for o := w.open[1-of].least; o <= w.open[1-of].most; o += grid {
					sizes := []length.Length{s, s}
					sizes[1-of] = o
					_, fits := ends(figures, sizes, sure, -2)
					assert.False(t, fits, "%v %v outside %v to %v", s, o, least, most)
				}
			}
		}
	}
	assert.Greater(t, met, 1000)
}

// TestATiltedFaceIsReadOverItsPlane: the heights of the grid less the plane it is tilted to, both ways; how far a
// place lies below the highest of them.
func TestATiltedFaceIsReadOverItsPlane(t *testing.T) {
	mm, um := length.Millimetre, length.Micrometre
	points := []surface.Point{
		{X: 0, Y: 0, Z: 0}, {X: 100 * mm, Y: 0, Z: 30 * um}, {X: 0, Y: 100 * mm, Z: -20 * um},
		{X: 100 * mm, Y: 100 * mm, Z: 10 * um}, {X: 50 * mm, Y: 50 * mm, Z: -35 * um},
	}
	tilt := judge.Tilt{Along: 300, Across: -200}
	assert.Equal(t, []surface.Point{
		{X: 0, Y: 0, Z: 0}, {X: 100 * mm, Y: 0, Z: 0}, {X: 0, Y: 100 * mm, Z: 0}, {X: 100 * mm, Y: 100 * mm, Z: 0},
		{X: 50 * mm, Y: 50 * mm, Z: -40 * um},
	}, tilted(points, &tilt))
	assert.Equal(t, 40*um, hollow(tilted(points, &tilt), 50*mm, 50*mm))
	assert.Equal(t, 30*um, hollow(points, 0, 0), "held level")
	near := heightAt(points, 51*mm, 50*mm)
	assert.Less(t, (near + 35*um).Abs(), um, "nearest the middle it is as low")
}
