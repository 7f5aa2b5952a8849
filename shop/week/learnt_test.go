package week_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/library"
	"yatai/shop/week"
)

// TestWhatIsLearntBeginsAnewWithOtherFigures: minutes that were planned by other figures than today's would
// correct the new ones a second time.
func TestWhatIsLearntBeginsAnewWithOtherFigures(t *testing.T) {
	f := shoptest.Open(t)
	times := func() map[string]int {
		w, err := week.Reckon(t.Context(), f.Shop)
		require.NoError(t, err)
		out := map[string]int{}
		for _, m := range w.Minutes {
			out[m.Code] = m.Times
		}
		return out
	}
	before := times()
	require.Greater(t, before["wash"], 3)
	require.Greater(t, before["seal_test"], 3)
	require.NoError(t, library.SetLabour(t.Context(), f.Shop, f.People[shop.Owner], shoptest.ID(),
		map[string]string{"minutes.wash": "55+0"}))
	after := times()
	assert.Zero(t, after["wash"])
	assert.Equal(t, before["seal_test"], after["seal_test"])
	hands, err := week.Hands(t.Context(), f.Shop)
	require.NoError(t, err)
	for _, h := range hands {
		if h.Code == "wash" {
			assert.Positive(t, h.Times, "it was done all the same")
			assert.Zero(t, h.Today.Times)
		}
	}
}
