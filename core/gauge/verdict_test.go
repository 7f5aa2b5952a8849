package gauge_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/quantity"
)

// TestBracketNeverContradicts checks that whatever a bracket says holds for every exact
// value inside it.
func TestBracketNeverContradicts(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	for range 5000 {
		lo := quantity.Amount(r.IntN(50))
		hi := lo + quantity.Amount(r.IntN(50))
		lim := gauge.Limit{Low: &lo, High: &hi, Near: quantity.Amount(r.IntN(8))}
		if r.IntN(3) == 0 {
			lim.Low = nil
		}
		from := quantity.Amount(r.IntN(90) - 10)
		to := from + 1 + quantity.Amount(r.IntN(30))
		said := gauge.Judge(gauge.Between(from, to), 0, lim).Verdict
		all := map[gauge.Verdict]int{}
		for v := from; v < to; v++ {
			exact := gauge.Judge(gauge.Exact(v), 0, lim).Verdict
			if exact == gauge.Near {
				exact = gauge.Sound
			}
			all[exact]++
		}
		switch said {
		case gauge.Out:
			require.Zero(t, all[gauge.Sound])
		case gauge.Sound, gauge.Near:
			require.Zero(t, all[gauge.Out])
		}
	}
}

// TestDoubtIsHonest checks that a verdict other than doubt holds for every true value
// within the reading's uncertainty.
func TestDoubtIsHonest(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 2))
	for range 5000 {
		lo := quantity.Amount(r.IntN(50))
		hi := lo + quantity.Amount(r.IntN(50))
		lim := gauge.Limit{Low: &lo, High: &hi}
		v, u := quantity.Amount(r.IntN(100)-10), quantity.Amount(r.IntN(12))
		in, out := false, false
		for x := v - u; x <= v+u; x++ {
			ok := x >= lo && x <= hi
			in, out = in || ok, out || !ok
		}
		got := gauge.Judge(gauge.Exact(v), u, lim).Verdict
		switch {
		case !out:
			require.Equal(t, gauge.Sound, got)
		case got == gauge.Sound:
			t.Fatalf("sound, but it may be out")
		case got == gauge.Out:
			require.False(t, in)
		}
	}
}

func TestSettleNamesTheCoarsest(t *testing.T) {
	high := quantity.Amount(60_000)
	us := []quantity.Amount{1000, 4000, 30000}
	lim := gauge.Limit{High: &high}
	assert.Equal(t, 1, gauge.Settle(65_000, lim, us))
	assert.Equal(t, 0, gauge.Settle(62_000, lim, us))
	assert.Equal(t, -1, gauge.Settle(60_500, lim, us))
}

func TestJudgeDoesNotAllocate(t *testing.T) {
	lo, hi := quantity.Amount(10), quantity.Amount(20)
	assert.Zero(t, testing.AllocsPerRun(100, func() { gauge.Judge(gauge.Exact(15), 1, gauge.Limit{Low: &lo, High: &hi}) }))
}

func BenchmarkVerdict(b *testing.B) {
	lo, hi := quantity.Amount(20000), quantity.Amount(60000)
	lim := gauge.Limit{Low: &lo, High: &hi, Near: 6000}
	b.ReportAllocs()
	for b.Loop() {
		gauge.Judge(gauge.Exact(48000), 4000, lim)
	}
}

func TestOutlier(t *testing.T) {
	row := []quantity.Amount{9012, 9014, 9013, 9015, 9066, 9012}
	i, away, ok := gauge.Outlier(row, 12)
	assert.True(t, ok)
	assert.Equal(t, 4, i)
	assert.Equal(t, quantity.Amount(52), away)
	_, _, ok = gauge.Outlier([]quantity.Amount{1, 2, 3, 4, 5, 6}, 0)
	assert.False(t, ok, "a row that spreads evenly has none")
	_, _, ok = gauge.Outlier(row, 100)
	assert.False(t, ok, "within what the tool cannot tell")
	_, _, ok = gauge.Outlier([]quantity.Amount{1, 1, 900}, 0)
	assert.False(t, ok, "too few to say")
}

// TestOutlierAtItsBoundaries: five times the row's own median departure, and least, are not beyond; of an even number
// the median is the mean of the two in the middle.
func TestOutlierAtItsBoundaries(t *testing.T) {
	for _, x := range []struct {
		row   []quantity.Amount
		least quantity.Amount
		index int
		away  quantity.Amount
		ok    bool
	}{
		{[]quantity.Amount{0, 2, 2, 2, 4, 10}, 0, 5, 8, true},
		{[]quantity.Amount{0, 10, 20, 30, 40, 120}, 0, 5, 95, true},
		{[]quantity.Amount{-10, 0, 10, 0, 50}, 0, 4, 50, false}, // five times a median departure of 10
		{[]quantity.Amount{-10, 0, 10, 0, 51}, 0, 4, 51, true},
		{[]quantity.Amount{-10, 0, 10, 0, 51}, 51, 4, 51, false},
		{[]quantity.Amount{-10, 0, 10, 0, 51}, 50, 4, 51, true},
		{[]quantity.Amount{-51, 0, 10, 0, -10}, 50, 0, 51, true},
		{[]quantity.Amount{0, 0, 0, 9}, 0, 3, 9, true}, // four are enough
	} {
		i, away, ok := gauge.Outlier(x.row, x.least)
		assert.Equal(t, x.ok, ok, "%v", x.row)
		assert.Equal(t, []any{x.index, x.away}, []any{i, away}, "%v", x.row)
	}
}
