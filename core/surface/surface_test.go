package surface_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/length"
	"yatai/core/surface"
)

const mm = length.Millimetre

// grid makes a face of nx by ny points with heights up to h.
func grid(r *rand.Rand, nx, ny int, h length.Length) []surface.Point {
	var ps []surface.Point
	for i := range nx {
		for j := range ny {
			ps = append(ps, surface.Point{
				X: 20 * mm * length.Length(i), Y: 15 * mm * length.Length(j), Z: length.Length(r.Int64N(int64(h))),
			})
		}
	}
	return ps
}

func zone(t testing.TB, ps []surface.Point) surface.FlatnessOutput {
	out, err := surface.Flatness(surface.FlatnessInput{Points: ps})
	require.NoError(t, err)
	return out
}

func TestZoneNeverLargerThanLeastSquares(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	for range 300 {
		out := zone(t, grid(r, 2+r.IntN(5), 2+r.IntN(5), mm/10))
		assert.LessOrEqual(t, out.Zone, out.LSQ)
		assert.LessOrEqual(t, out.Zone, out.Range)
		assert.GreaterOrEqual(t, len(out.Touching), 3)
	}
}

func TestZoneUnchangedByTilt(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 2))
	for range 100 {
		ps := grid(r, 4, 5, mm/10)
		flat := zone(t, ps)
		a, b, c := r.Int64N(2000)-1000, r.Int64N(2000)-1000, length.Length(r.Int64N(int64(mm)))
		for i := range ps {
			ps[i].Z += length.Length(a*int64(ps[i].X/mm)+b*int64(ps[i].Y/mm)) + c
		}
		tilted := zone(t, ps)
		require.Equal(t, flat.Zone, tilted.Zone)
		require.Equal(t, flat.Touching, tilted.Touching)
	}
}

// TestZoneEqualsEveryReference compares with the largest gap that any triangle and point,
// or any two crossing segments, force apart: by duality that is the minimum zone.
func TestZoneEqualsEveryReference(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 3))
	for range 60 {
		var ps []surface.Point
		for range 5 + r.IntN(4) {
			ps = append(ps, surface.Point{
				X: length.Length(r.IntN(90)) * mm, Y: length.Length(r.IntN(90)) * mm, Z: length.Length(r.IntN(100)) * 1000,
			})
		}
		got, err := surface.Flatness(surface.FlatnessInput{Points: ps})
		if err != nil {
			continue
		}
		require.InDelta(t, reference(ps), float64(got.Zone), 2)
	}
}

// reference is the zone by trying every four points: the affine dependence of their
// places splits them into two sides whose hulls cross, and the heights there differ.
func reference(ps []surface.Point) float64 {
	best := 0.0
	n := len(ps)
	f := func(p surface.Point) (x, y, z float64) { return p.X.Millimetres(), p.Y.Millimetres(), float64(p.Z) }
	det := func(a, b, c surface.Point) float64 {
		ax, ay, _ := f(a)
		bx, by, _ := f(b)
		cx, cy, _ := f(c)
		return (bx-ax)*(cy-ay) - (by-ay)*(cx-ax)
	}
	for i := range n {
		for j := i + 1; j < n; j++ {
			for k := j + 1; k < n; k++ {
				for l := k + 1; l < n; l++ {
					q := []surface.Point{ps[i], ps[j], ps[k], ps[l]}
					w := []float64{det(q[1], q[2], q[3]), -det(q[0], q[2], q[3]), det(q[0], q[1], q[3]), -det(q[0], q[1], q[2])}
					up, sum := 0.0, 0.0
					for m, x := range w {
						up += math.Max(0, x)
						sum += x * float64(q[m].Z)
					}
					if up > 1e-9 {
						best = math.Max(best, math.Abs(sum)/up)
					}
				}
			}
		}
	}
	return best
}

func TestFlatPlaneHasNoZone(t *testing.T) {
	var ps []surface.Point
	for i := range 4 {
		for j := range 3 {
			ps = append(ps, surface.Point{X: length.Length(i) * mm, Y: length.Length(j) * mm, Z: length.Length(30*i - 7*j)})
		}
	}
	out := zone(t, ps)
	assert.Zero(t, out.Zone)
	assert.Len(t, out.Touching, len(ps))
	assert.InDelta(t, 30, float64(out.TiltX), 1e-9)
}

func TestFlatnessRefuses(t *testing.T) {
	for _, ps := range [][]surface.Point{nil, grid(rand.New(rand.NewPCG(1, 1)), 1, 6, mm), {{}, {}, {}, {}}} {
		_, err := surface.Flatness(surface.FlatnessInput{Points: ps})
		assert.ErrorContains(t, err, "points")
	}
}

func BenchmarkFlatness400(b *testing.B) {
	ps := grid(rand.New(rand.NewPCG(9, 9)), 20, 20, mm/10)
	for b.Loop() {
		zone(b, ps)
	}
}
