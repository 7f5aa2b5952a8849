package surface_test

import (
	"math"
	"math/big"
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

// TestAFaceMayLieAnywhere: moved as a whole, nothing of it changes; and a line is one wherever it lies.
func TestAFaceMayLieAnywhere(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 6))
	for range 60 {
		here := grid(r, 2+r.IntN(4), 2+r.IntN(4), mm/10)
		there := make([]surface.Point, len(here))
		for i, p := range here {
			there[i] = surface.Point{X: p.X + 137*mm, Y: p.Y - 59*mm, Z: p.Z + 3*mm}
		}
		require.Equal(t, zone(t, here), zone(t, there))
	}
	at := func(x, y int) surface.Point {
		return surface.Point{X: length.Length(x) * mm, Y: length.Length(y) * mm, Z: length.Length(r.IntN(1000))}
	}
	for _, c := range []struct {
		ps   []surface.Point
		line bool
	}{
		{[]surface.Point{at(3, 5), at(4, 7), at(5, 9), at(7, 13)}, true},
		{[]surface.Point{at(3, 5), at(3, 5), at(4, 7), at(1, 1)}, true},
		{[]surface.Point{at(3, 5), at(4, 7), at(5, 9), at(7, 12)}, false},
		{[]surface.Point{at(3, 5), at(3, 8), at(3, 11), at(3, 2)}, true},
		{[]surface.Point{at(3, 5), at(3, 8), at(3, 11), at(4, 2)}, false},
		{[]surface.Point{at(3, 5), at(6, 5), at(9, 5), at(0, 5)}, true},
		{[]surface.Point{at(3, 5), at(6, 10), at(1, 2), at(9, 15)}, false},
	} {
		_, err := surface.Flatness(surface.FlatnessInput{Points: c.ps})
		assert.Equal(t, c.line, err != nil, "%v", c.ps)
	}
}

// TestLeastSquaresAreThoseOfTheNormalEquations solves them exactly, uncentred, for random faces.
func TestLeastSquaresAreThoseOfTheNormalEquations(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 4))
	for range 100 {
		ps := grid(r, 2+r.IntN(4), 2+r.IntN(4), mm/10)
		for i := range ps {
			ps[i].X += length.Length(r.IntN(9)) * mm
			ps[i].Y += length.Length(r.IntN(9)) * mm
		}
		ps = append(ps, surface.Point{X: 7 * mm, Y: 3 * mm, Z: mm / 5})
		assert.InDelta(t, normal(ps), float64(zone(t, ps).LSQ), 1)
	}
}

// normal is the range of the residuals from z = ax + by + c by Cramer's rule on sums in big.Rat, lengths in mm.
func normal(ps []surface.Point) float64 {
	at := func(l length.Length) *big.Rat { return big.NewRat(int64(l), int64(mm)) }
	var m [3][4]*big.Rat
	for i := range m {
		for j := range m[i] {
			m[i][j] = new(big.Rat)
		}
	}
	for _, p := range ps {
		row := [4]*big.Rat{at(p.X), at(p.Y), big.NewRat(1, 1), at(p.Z)}
		for i := range 3 {
			for j := range 4 {
				m[i][j].Add(m[i][j], new(big.Rat).Mul(row[i], row[j]))
			}
		}
	}
	det := func(a, b, c int) *big.Rat {
		sum := new(big.Rat)
		for _, o := range [][4]int{{a, b, c, 1}, {b, c, a, 1}, {c, a, b, 1}, {c, b, a, -1}, {b, a, c, -1}, {a, c, b, -1}} {
			x := new(big.Rat).Mul(m[0][o[0]], m[1][o[1]])
			sum.Add(sum, x.Mul(x, m[2][o[2]]).Mul(x, big.NewRat(int64(o[3]), 1)))
		}
		return sum
	}
	whole := det(0, 1, 2)
	a, b, c := det(3, 1, 2), det(0, 3, 2), det(0, 1, 3)
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, p := range ps {
		on := new(big.Rat).Mul(a, at(p.X))
		on.Add(on, new(big.Rat).Mul(b, at(p.Y))).Add(on, c).Quo(on, whole)
		off, _ := on.Sub(at(p.Z), on).Float64()
		lo, hi = math.Min(lo, off), math.Max(hi, off)
	}
	return (hi - lo) * float64(mm)
}

// TestWhatAFaceNeedsCut: the range level on its datum and the zone tilted to the best plane, each with its
// allowance; the best plane's tilt both ways in micrometres per metre.
func TestWhatAFaceNeedsCut(t *testing.T) {
	var ps []surface.Point
	for i := range 4 {
		for j := range 3 {
			ps = append(ps, surface.Point{
				X: length.Length(i) * 100 * mm, Y: length.Length(j) * 100 * mm, Z: length.Length(30_000*i - 7_000*j),
			})
		}
	}
	ps[5].Z += 10_000 // one high spot
	out, err := surface.Flatness(surface.FlatnessInput{Points: ps, Allowance: 5_000})
	require.NoError(t, err)
	assert.Equal(t, length.Length(104_000), out.Range)
	assert.Equal(t, out.Range+5_000, out.CutLevel)
	assert.Equal(t, out.Zone+5_000, out.CutBest)
	assert.Less(t, out.Zone, length.Length(10_001))
	ps[5].Z -= 10_000
	out = zone(t, ps)
	assert.InDelta(t, 300, float64(out.TiltX), 1e-9)
	assert.InDelta(t, -70, float64(out.TiltY), 1e-9)
	assert.Zero(t, out.LSQ)
}

// TestHowManyPointsAFaceHas: four at least, and no more than are worked out at once.
func TestHowManyPointsAFaceHas(t *testing.T) {
	flat := func(n int) error {
		ps := make([]surface.Point, n)
		for i := range ps {
			ps[i] = surface.Point{X: length.Length(i%2) * mm, Y: length.Length(i/2) * mm}
		}
		_, err := surface.Flatness(surface.FlatnessInput{Points: ps})
		return err
	}
	assert.Error(t, flat(3))
	assert.NoError(t, flat(4))
	assert.NoError(t, flat(5000))
	assert.Error(t, flat(5001))
}

// TestTheZoneOfFacesWithManyTies: heights of few levels, where steps gain nothing and points tie.
func TestTheZoneOfFacesWithManyTies(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	for range 200 {
		var ps []surface.Point
		for i := range 3 {
			for j := range 3 {
				ps = append(ps, surface.Point{
					X: length.Length(i) * mm, Y: length.Length(j) * mm, Z: length.Length(r.IntN(3)) * 1000,
				})
			}
		}
		require.InDelta(t, reference(ps), float64(zone(t, ps).Zone), 2)
	}
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
