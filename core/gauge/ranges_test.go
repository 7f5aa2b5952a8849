package gauge_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/quantity"
)

// TestARangeThatChanceKeepsUnder is worked by hand: ranges 2, 4, 2, 0, 12 and 4 have a mean of 4, and with two
// trials 3.267 of that is 13.068: none is above. With 20 in place of 12 the mean is 5.333 and 17.424 the most.
func TestARangeThatChanceKeepsUnder(t *testing.T) {
	in := gauge.StudyInput{Readings: [][][]quantity.Amount{
		{{10, 12}, {24, 20}, {30, 32}}, {{11, 11}, {20, 32}, {28, 32}},
	}}
	r, ok, err := in.Ranges()
	require.NoError(t, err)
	require.True(t, ok)
	assert.Equal(t, [][]quantity.Amount{{2, 4, 2}, {0, 12, 4}}, r.Of)
	assert.Equal(t, []quantity.Amount{4, 13}, []quantity.Amount{r.Mean, r.Most})
	assert.Empty(t, r.Out)
	in.Readings[1][1][1] = 40
	r, _, err = in.Ranges()
	require.NoError(t, err)
	assert.Equal(t, []quantity.Amount{5, 17}, []quantity.Amount{r.Mean, r.Most})
	assert.Equal(t, []gauge.Cell{{Person: 1, Part: 1}}, r.Out)
}

func TestRangesOfWhatIsNoStudy(t *testing.T) {
	_, _, err := gauge.StudyInput{}.Ranges()
	require.Error(t, err)
	long := slices.Repeat([]quantity.Amount{1, 2}, 6)
	_, ok, err := gauge.StudyInput{Readings: [][][]quantity.Amount{{long, long}, {long, long}}}.Ranges()
	require.NoError(t, err)
	assert.False(t, ok, "twelve trials")
	ten := long[:10]
	_, ok, err = gauge.StudyInput{Readings: [][][]quantity.Amount{{ten, ten}, {ten, ten}}}.Ranges()
	require.NoError(t, err)
	assert.True(t, ok)
}

// TestChanceIsSeldomASign: of studies whose every reading scatters alike about one in a hundred ranges at most
// lies above.
func TestChanceIsSeldomASign(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	for trials := 2; trials <= 4; trials++ {
		out, all := 0, 0
		for range 200 {
			var in gauge.StudyInput
			for range 3 {
				var parts [][]quantity.Amount
				for range 8 {
					var rs []quantity.Amount
					for range trials {
						rs = append(rs, quantity.Amount(1_000_000+20_000*r.NormFloat64()))
					}
					parts = append(parts, rs)
				}
				in.Readings = append(in.Readings, parts)
			}
			x, _, err := in.Ranges()
			require.NoError(t, err)
			out, all = out+len(x.Out), all+24
		}
		assert.Less(t, float64(out)/float64(all), 0.015, "%d trials", trials)
		assert.Positive(t, out, "but it happens")
	}
}
