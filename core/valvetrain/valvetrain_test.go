package valvetrain_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/length"
	"yatai/core/valvetrain"
)

const mm = length.Millimetre

// rack makes n buckets, some stock and sizes to order.
func rack(r *rand.Rand, n, stock, order int) valvetrain.ShimsInput {
	var in valvetrain.ShimsInput
	size := func() length.Length { return 2*mm + 25*mm/1000*length.Length(r.IntN(40)) }
	for i := range n {
		in.Buckets = append(in.Buckets, valvetrain.Bucket{
			ID: fmt.Sprint(i), Lash: mm / 100 * length.Length(r.IntN(40)), Shim: size(), Low: 13 * mm / 100, High: 21 * mm / 100,
			Aim: 17 * mm / 100,
		})
	}
	for range stock {
		in.Stock = append(in.Stock, valvetrain.StockShim{Size: size(), Count: 1})
	}
	for i := range order {
		in.Orderable = append(in.Orderable, 2*mm+25*mm/1000*length.Length(i))
	}
	return in
}

// TestShimsUsedOnce checks that every bucket lands inside its range and that no shim is
// given to two.
func TestShimsUsedOnce(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	feasible := 0
	for range 300 {
		in := rack(r, 1+r.IntN(16), r.IntN(20), 60)
		out, err := valvetrain.Shims(in)
		require.NoError(t, err)
		if !out.Feasible {
			continue
		}
		feasible++
		have := map[length.Length]int{}
		for _, b := range in.Buckets {
			have[b.Shim]++
		}
		for _, s := range in.Stock {
			have[s.Size]++
		}
		bought, sum := 0, length.Length(0)
		for i, c := range out.Buckets {
			b := in.Buckets[i]
			require.Equal(t, b.Lash+b.Shim-c.Shim, c.Lash)
			require.True(t, c.Lash >= b.Low && c.Lash <= b.High)
			sum += (c.Lash - b.Aim).Abs()
			if c.Source == "order" {
				bought++
				continue
			}
			have[c.Shim]--
			require.GreaterOrEqual(t, have[c.Shim], 0, "used twice")
		}
		require.Equal(t, bought, out.Bought)
		require.Equal(t, sum, out.Deviation)
	}
	assert.Greater(t, feasible, 100)
}

func TestShimsEqualBruteForce(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 2))
	for i := range 200 {
		in := rack(r, 1+r.IntN(4), r.IntN(4), []int{0, 60}[i%2])
		got, err := valvetrain.Shims(in)
		require.NoError(t, err)
		bought, dev := bruteShims(in, 0, map[int]bool{}, 0, 0, math.MaxInt, math.MaxInt64)
		require.Equal(t, bought != math.MaxInt, got.Feasible)
		if got.Feasible {
			require.Equal(t, bought, got.Bought)
			require.Equal(t, dev, got.Deviation)
		}
	}
}

func bruteShims(
	in valvetrain.ShimsInput, k int, used map[int]bool, bought int, dev length.Length, bestN int,
	bestD length.Length,
) (int, length.Length) {
	if k == len(in.Buckets) {
		if bought < bestN || bought == bestN && dev < bestD {
			return bought, dev
		}
		return bestN, bestD
	}
	b := in.Buckets[k]
	try := func(size length.Length, n int) {
		if l := b.Lash + b.Shim - size; l >= b.Low && l <= b.High {
			bestN, bestD = bruteShims(in, k+1, used, bought+n, dev+(l-b.Aim).Abs(), bestN, bestD)
		}
	}
	var pool []length.Length
	for _, x := range in.Buckets {
		pool = append(pool, x.Shim)
	}
	for _, x := range in.Stock {
		pool = append(pool, x.Size)
	}
	for i, size := range pool {
		if !used[i] {
			used[i] = true
			try(size, 0)
			delete(used, i)
		}
	}
	for _, size := range in.Orderable {
		try(size, 1)
	}
	return bestN, bestD
}

func TestShimsPreferToStay(t *testing.T) {
	same := valvetrain.Bucket{Lash: 17 * mm / 100, Shim: 2 * mm, Low: mm / 10, High: mm / 4, Aim: 17 * mm / 100}
	in := valvetrain.ShimsInput{Stock: []valvetrain.StockShim{{Size: 2 * mm, Count: 3}}}
	for i := range 4 {
		same.ID = fmt.Sprint(i)
		in.Buckets = append(in.Buckets, same)
	}
	out, err := valvetrain.Shims(in)
	require.NoError(t, err)
	for _, c := range out.Buckets {
		assert.Equal(t, "kept", c.Source)
	}
}

func TestClearanceEnds(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 4))
	for range 500 {
		some := func(base length.Length) []length.Length {
			return []length.Length{base + length.Length(r.IntN(30000)), base + length.Length(r.IntN(30000))}
		}
		in := valvetrain.ClearanceInput{
			Guide: valvetrain.Places{Top: some(8 * mm), Middle: some(8 * mm), Bottom: some(8 * mm)},
			Stem:  valvetrain.Places{Top: some(796 * mm / 100), Bottom: some(796 * mm / 100)}, FormLimit: 5000,
		}
		c, err := valvetrain.Clear(in)
		require.NoError(t, err)
		assert.True(t, c.Min <= c.Mean && c.Mean <= c.Max)
		assert.Nil(t, c.U, "no doubt was given")
		assert.NotNil(t, c.Shape)
	}
	c, err := valvetrain.Clear(valvetrain.ClearanceInput{
		Guide: valvetrain.Places{Top: []length.Length{8 * mm}}, Stem: valvetrain.Places{Top: []length.Length{7 * mm}},
	})
	require.NoError(t, err)
	assert.Nil(t, c.Taper)
	assert.Nil(t, c.Shape)
}

func BenchmarkShims64(b *testing.B) {
	in := rack(rand.New(rand.NewPCG(3, 3)), 64, 300, 80)
	for i := range 20 { // thin ones too, so that every bucket can be set
		in.Orderable = append(in.Orderable, 3*mm/2+25*mm/1000*length.Length(i))
	}
	for b.Loop() {
		if out, err := valvetrain.Shims(in); err != nil || !out.Feasible {
			b.Fatal(err, out.BlockedIDs)
		}
	}
}
