package bench_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/layout"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
)

// TestWhatHeadsOfAModelAreReadLike: between what the mended ones lay, by role; of a model of which few were mended, of
// what is read by leaves, and of what hangs on no valve nothing is said.
func TestWhatHeadsOfAModelAreReadLike(t *testing.T) {
	t.Parallel()
	f := shoptest.Open(t)
	file := f.File(t, "T0401")
	habits, err := bench.HabitsOf(t.Context(), f.Shop, file, *trade.GuideBore)
	require.NoError(t, err)
	want := map[layout.Role]shop.Habit{}
	mended := []string{
		"T0408", "T0406", "T0417", "T0418", "T0419", "T0420", "T0421", "T0422", "T0423", "T0424", "T0425", "T0426", "T0427",
		"T0428",
	}
	for _, tag := range mended {
		head := f.File(t, tag)
		require.NotNil(t, head.ClosedAt, tag)
		for _, r := range head.Standing(headfile.AsReceived) {
			if r.Characteristic != trade.GuideBore.Code {
				continue
			}
			v, _ := head.Layout.Valve(r.Position)
			h, known := want[v.Role]
			if !known {
				h = shop.Habit{Low: r.NM, High: r.NM}
			}
			want[v.Role] = shop.Habit{Low: min(h.Low, r.NM), High: max(h.High, r.NM), Heads: len(mended)}
		}
	}
	assert.Equal(t, want, habits)
	exhaust := habits[layout.Exhaust]
	worn := quantity.Amount(9_066_000) // of the head itself: worn, and no slip
	assert.False(t, exhaust.Strange(worn, 4_000), "%+v", exhaust)
	assert.True(t, exhaust.Strange(90_140_000, 4_000))
	assert.True(t, exhaust.Strange(9_410_000, 4_000), "two digits changed places")
	again, err := bench.HabitsOf(t.Context(), f.Shop, file, *trade.GuideBore)
	require.NoError(t, err)
	assert.Equal(t, habits, again)

	for tag, c := range map[string]trade.Characteristic{
		"T0404": *trade.GuideBore, "T0401": *trade.Lash, "T0405": *trade.Thickness,
	} {
		none, err := bench.HabitsOf(t.Context(), f.Shop, f.File(t, tag), c)
		require.NoError(t, err)
		assert.Empty(t, none, "%s %s", tag, c.Code)
	}
}

// TestStrange lists where it begins.
func TestStrange(t *testing.T) {
	t.Parallel()
	h := shop.Habit{Low: 1000, High: 1100, Heads: 5}
	for at, strange := range map[quantity.Amount]bool{
		500: false, 499: true, 1050: false, 1600: false, 1601: true,
	} {
		assert.Equal(t, strange, h.Strange(at, 10), at)
	}
	assert.False(t, h.Strange(400, 60), "its doubt is as large")
	assert.False(t, shop.Habit{}.Strange(1, 0), "nothing is known")
}
