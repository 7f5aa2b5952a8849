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

// TestAClearanceOfItsFigures: every figure worked out by hand, and a bore as straight as the limit of form.
func TestAClearanceOfItsFigures(t *testing.T) {
	um := length.Micrometre
	at := func(over ...length.Length) (out []length.Length) {
		for _, o := range over {
			out = append(out, 8*mm+o*um)
		}
		return out
	}
	clear := func(top, middle, bottom []length.Length) valvetrain.Clearance {
		u, v := 3*um, 4*um
		c, err := valvetrain.Clear(valvetrain.ClearanceInput{
			Guide:  valvetrain.Places{Top: top, Middle: middle, Bottom: bottom},
			Stem:   valvetrain.Places{Top: []length.Length{7960 * um}, Bottom: []length.Length{7950 * um}},
			UGuide: &u, UStem: &v, FormLimit: 10 * um,
		})
		require.NoError(t, err)
		return c
	}
	c := clear(at(30, 20), at(0, 4), at(12, 12))
	assert.Equal(t, []length.Length{80 * um, 40 * um, 58 * um, 10 * um}, []length.Length{c.Max, c.Min, c.Mean, c.StemWear})
	assert.Equal(t, []length.Length{13 * um, 10 * um, 10 * um, 5 * um},
		[]length.Length{*c.Taper, *c.Bellmouth, c.OutOfRound, *c.U})
	assert.False(t, c.Oval, "10 of 10 is allowed")
	assert.Equal(t, "opens_top", *c.Shape, "25 to 12; the middle is 10 below the lower end, which is allowed")
	assert.True(t, clear(at(30, 19), at(0), at(12)).Oval)
	for shape, g := range map[string][3]length.Length{
		"straight": {10, 0, 10}, "bellmouthed": {11, 0, 11}, "barrelled": {0, 11, 0}, "opens_bottom": {0, 5, 11},
		"opens_top": {11, 0, 0},
	} {
		assert.Equal(t, shape, *clear(at(g[0]), at(g[1]), at(g[2])).Shape, "%v", g)
	}
	assert.Equal(t, "straight", *clear(at(10), at(10), at(0)).Shape, "10 from end to end is allowed")
	assert.Equal(t, "straight", *clear(at(0), at(10), at(0)).Shape, "and a belly of 10")
	assert.Nil(t, clear(nil, at(0), at(12)).Taper)
	assert.Nil(t, clear(at(0), at(0), nil).Taper)
	assert.Nil(t, clear(at(0), nil, at(12)).Bellmouth)
	assert.Equal(t, -12*um, *clear(at(0), nil, at(12)).Taper)
	assert.Equal(t, -2*um, *clear(at(5), at(7), at(6)).Bellmouth)
}

// TestRockThereAndBack: c = M G / (G + 2L).
func TestRockThereAndBack(t *testing.T) {
	assert.Equal(t, mm/10, valvetrain.Tilt(mm/5, 40*mm, 20*mm))
	assert.Equal(t, mm/5, valvetrain.Swing(mm/10, 40*mm, 20*mm))
	c, m := mm/10, mm/5
	for _, x := range []struct {
		in    valvetrain.RockInput
		wrong bool
	}{
		{valvetrain.RockInput{Movement: &m, Clearance: &c}, true},
		{valvetrain.RockInput{}, true},
		{valvetrain.RockInput{Movement: &m}, false},
		{valvetrain.RockInput{Clearance: &c}, false},
	} {
		x.in.GuideLength, x.in.Overhang = 40*mm, 20*mm
		out, err := valvetrain.Rock(x.in)
		assert.Equal(t, x.wrong, err != nil)
		if !x.wrong {
			assert.Equal(t, x.in.Movement != nil, out.Clearance != nil)
			assert.Equal(t, x.in.Clearance != nil, out.Movement != nil)
		}
	}
}

// TestShimsThatCannotBeSharedOut: a range or an aim that cannot be, a bucket twice, and more than is worked out.
func TestShimsThatCannotBeSharedOut(t *testing.T) {
	one := valvetrain.Bucket{ID: "1", Lash: mm / 5, Shim: 2 * mm, Low: mm / 10, High: 3 * mm / 10, Aim: mm / 5}
	wrong := func(change func(*valvetrain.ShimsInput)) bool {
		in := valvetrain.ShimsInput{Buckets: []valvetrain.Bucket{one, one}}
		in.Buckets[1].ID = "2"
		change(&in)
		_, err := valvetrain.Shims(in)
		return err != nil
	}
	for _, c := range []struct {
		says   string
		change func(*valvetrain.ShimsInput)
		wrong  bool
	}{
		{"as it is", func(*valvetrain.ShimsInput) {}, false},
		{"twice", func(in *valvetrain.ShimsInput) { in.Buckets[1].ID = "1" }, true},
		{"one lash alone", func(in *valvetrain.ShimsInput) { in.Buckets[0].Low, in.Buckets[0].High = mm/5, mm/5 }, false},
		{"upside down", func(in *valvetrain.ShimsInput) { in.Buckets[0].Low = 3*mm/10 + 1 }, true},
		{"aim at the low end", func(in *valvetrain.ShimsInput) { in.Buckets[0].Aim = mm / 10 }, false},
		{"aim below it", func(in *valvetrain.ShimsInput) { in.Buckets[0].Aim = mm/10 - 1 }, true},
		{"aim at the high end", func(in *valvetrain.ShimsInput) { in.Buckets[0].Aim = 3 * mm / 10 }, false},
		{"aim above it", func(in *valvetrain.ShimsInput) { in.Buckets[0].Aim = 3*mm/10 + 1 }, true},
	} {
		assert.Equal(t, c.wrong, wrong(c.change), c.says)
	}
	many := func(n, sizes int) error {
		var in valvetrain.ShimsInput
		for i := range n {
			b := one
			b.ID = fmt.Sprint(i)
			in.Buckets = append(in.Buckets, b)
		}
		for i := range sizes {
			in.Stock = append(in.Stock, valvetrain.StockShim{Size: 2*mm + length.Length(i), Count: 1})
		}
		_, err := valvetrain.Shims(in)
		return err
	}
	assert.Error(t, many(501, 0))
	assert.NoError(t, many(100, 300))
	assert.Error(t, many(100, 39_801), "100 buckets, squared, times 40001")
}

// TestAShimOfAnotherBucketGoesBeforeOneOfTheBox: at the same lash.
func TestAShimOfAnotherBucketGoesBeforeOneOfTheBox(t *testing.T) {
	a := valvetrain.Bucket{ID: "a", Lash: mm / 10, Shim: 2 * mm, Low: mm / 10, High: mm / 2, Aim: 2 * mm / 5}
	b := valvetrain.Bucket{ID: "b", Lash: 7 * mm / 10, Shim: 17 * mm / 10, Low: mm / 10, High: mm / 2, Aim: 2 * mm / 5}
	out, err := valvetrain.Shims(valvetrain.ShimsInput{
		Buckets: []valvetrain.Bucket{a, b},
		Stock:   []valvetrain.StockShim{{Size: 17 * mm / 10, Count: 1}, {Size: 2 * mm, Count: 1}},
	})
	require.NoError(t, err)
	for _, c := range out.Buckets {
		assert.Equal(t, "moved", c.Source, c.ID)
		assert.Equal(t, 2*mm/5, c.Lash)
	}
	assert.Zero(t, out.Deviation)
	more, err := valvetrain.Shims(valvetrain.ShimsInput{
		Buckets: []valvetrain.Bucket{a}, Orderable: []length.Length{17*mm/10 - 1, 17*mm/10 + 1, 17*mm/10 + 2},
	})
	require.NoError(t, err)
	assert.Equal(t, "kept", more.Buckets[0].Source, "what is there goes before what is bought")
	a.Low = 2 * mm / 10
	more, err = valvetrain.Shims(valvetrain.ShimsInput{
		Buckets: []valvetrain.Bucket{a}, Orderable: []length.Length{17*mm/10 - 1, 17*mm/10 + 1, 17*mm/10 + 2},
	})
	require.NoError(t, err)
	assert.Equal(t, 17*mm/10-1, more.Buckets[0].Shim, "of two as near the one named first")
	assert.Equal(t, 1, more.Bought)
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
