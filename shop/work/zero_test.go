package work_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/work"
)

// TestTheSeatToZeroOnCameInDeepest where seats are to end alike, and nothing is said of it where they are not.
func TestTheSeatToZeroOnCameInDeepest(t *testing.T) {
	f := shoptest.Open(t)
	against := func() map[string]string {
		file, out := f.File(t, "T0405"), map[string]string{}
		sh, err := work.SheetOf(t.Context(), f.Shop, file, shoptest.Seq(file.Operations, "seat_cut"))
		require.NoError(t, err)
		for _, r := range sh.Rows {
			out[r.ID] = r.Against.String()
		}
		return out
	}
	assert.Equal(t, map[string]string{"1E1": "", "3E1": ""}, against())
	alike := map[string]string{"school.depths": "all alike"}
	require.NoError(t, f.SetSettings(t.Context(), f.People[shop.Owner], shoptest.ID(), alike, nil))
	assert.Equal(t, map[string]string{
		"1E1": "0.050 mm less deep than 3E1", "3E1": "the reference: cut it first and zero on it",
	}, against())
}
