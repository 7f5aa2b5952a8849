package engine_test

import (
	"fmt"
	"math"
	"math/big"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/engine"
	"yatai/core/length"
	"yatai/core/quantity"
)

const mm = length.Millimetre

// TestGasketRestoresTheRatio puts the gasket told back in and asks again.
func TestGasketRestoresTheRatio(t *testing.T) {
	in := engine.CompressionInput{
		Bore: 90 * mm, Stroke: 85 * mm, Chamber: (50 * quantity.One).CC(), GasketBore: 92 * mm, Gasket: mm,
		Piston: (3 * quantity.One).CC(), FaceCut: mm / 4, ChamberArea: big.NewRat(4200, 1),
		Valves: []engine.ValveChange{{Head: 40 * mm, RecessionChange: mm / 10}},
	}
	first, err := engine.Compression(in)
	require.NoError(t, err)
	assert.Greater(t, float64(first.After), float64(first.Before))
	in.Gasket = first.GasketRestore
	again, err := engine.Compression(in)
	require.NoError(t, err)
	assert.InDelta(t, float64(first.Before), float64(again.After), 1e-6)
	in.FaceCut = 100 * mm
	_, err = engine.Compression(in)
	assert.ErrorContains(t, err, "face_cut")
}

// TestTightenGoesOutwards checks that every bolt is pulled once and none nearer the middle
// comes after one farther out.
func TestTightenGoesOutwards(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	for range 200 {
		var in engine.TightenInput
		cols := 2 + r.IntN(8)
		for i := range cols {
			for j := range 2 {
				in.Bolts = append(in.Bolts, engine.Bolt{
					ID: fmt.Sprint(i, j), X: 100 * mm * length.Length(i), Y: 120 * mm * length.Length(j),
				})
			}
		}
		r.Shuffle(len(in.Bolts), func(i, j int) { in.Bolts[i], in.Bolts[j] = in.Bolts[j], in.Bolts[i] })
		out, err := engine.Tighten(in)
		require.NoError(t, err)
		require.Len(t, out.Order, len(in.Bolts))
		at := map[string]engine.Bolt{}
		for _, b := range in.Bolts {
			at[b.ID] = b
		}
		last := -1.0
		for i, id := range out.Order {
			b, ok := at[id]
			require.True(t, ok, "once each")
			delete(at, id)
			d := math.Abs(float64(b.X) - float64(100*mm*length.Length(cols-1))/2)
			require.GreaterOrEqual(t, d, last-float64(mm))
			last = d
			if i > 0 && i%2 == 1 {
				require.NotEqual(t, out.Order[i-1][len(id)-1], id[len(id)-1], "crosses sides")
			}
		}
	}
}

func TestGasketGovernsExactly(t *testing.T) {
	in := engine.GasketInput{
		Use: "mean", Outlier: mm / 10,
		Grades: []engine.Grade{{Name: "one", Low: 0, High: 500_000}, {Name: "two", Low: 500_001, High: mm}},
	}
	in.Pistons = []engine.PistonHeight{{ID: "1", A: 500_000, B: 500_001}, {ID: "2", A: 500_000, B: 500_000}}
	out, err := engine.Gasket(in)
	require.NoError(t, err)
	assert.Nil(t, out.Grade, "a quarter of a nanometre above one grade and below the next is in neither")
	assert.Equal(t, length.Length(500_000), out.Governing)
}

func TestBearingTakesTheFirstOfEquals(t *testing.T) {
	in := engine.BearingInput{Housing: 41 * mm, Journal: 38 * mm, Low: 20_000, High: 40_000}
	for i, th := range []length.Length{1_487_000, 1_483_000} { // 26 and 34 micrometres: both 4 off the middle
		in.Shells = append(in.Shells, engine.Shell{Name: fmt.Sprint(i), Thickness: th})
	}
	out, err := engine.Bearing(in)
	require.NoError(t, err)
	assert.Equal(t, "0", *out.Choice)
	slices.Reverse(in.Shells)
	out, err = engine.Bearing(in)
	require.NoError(t, err)
	assert.Equal(t, "1", *out.Choice)
}
