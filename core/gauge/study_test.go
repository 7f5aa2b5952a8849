package gauge_test

import (
	"math/big"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
)

// study makes a crossed study with known standard deviations, in nanometres.
func study(seed uint64, people, parts, trials int, repeat, person, part float64) gauge.StudyInput {
	rnd := rand.New(rand.NewPCG(seed, 1))
	in := gauge.StudyInput{}
	sizes := make([]float64, parts)
	for k := range sizes {
		sizes[k] = 8e6 + part*rnd.NormFloat64()
	}
	for range people {
		bias := person * rnd.NormFloat64()
		var rows [][]quantity.Amount
		for k := range parts {
			var row []quantity.Amount
			for range trials {
				row = append(row, quantity.OfLength(length.FromFloat(sizes[k]+bias+repeat*rnd.NormFloat64())))
			}
			rows = append(rows, row)
		}
		in.Readings = append(in.Readings, rows)
	}
	return in
}

// TestStudyFindsWhatWasPutIn averages many studies with known scatter.
func TestStudyFindsWhatWasPutIn(t *testing.T) {
	var repeat, part float64
	const n = 400
	for i := range n {
		out, err := gauge.Study(study(uint64(i), 3, 10, 3, 1000, 0, 10_000))
		require.NoError(t, err)
		repeat += float64(out.Repeatability) / n
		part += float64(out.Part) / n
		assert.Equal(t, 2*out.GRR, out.U())
	}
	assert.InDelta(t, 1000, repeat, 30)
	assert.InDelta(t, 10_000, part, 600)
}

func TestStudyOfIdenticalReadingsSaysNothingOfTheTool(t *testing.T) {
	in := gauge.StudyInput{Readings: [][][]quantity.Amount{{{8e6, 8e6}, {8e6, 8e6}}, {{8e6, 8e6}, {8e6, 8e6}}}}
	out, err := gauge.Study(in)
	require.NoError(t, err)
	assert.Zero(t, out.GRR)
	assert.Nil(t, out.Categories)
	assert.True(t, out.Pooled)
}

func TestStudySeesAPersonWhoReadsHigh(t *testing.T) {
	in := study(1, 2, 5, 2, 500, 0, 5000)
	for k := range in.Readings[1] {
		for r := range in.Readings[1][k] {
			in.Readings[1][k][r] += 8000
		}
	}
	out, err := gauge.Study(in)
	require.NoError(t, err)
	assert.InDelta(t, 5600, float64(out.Reproducibility), 900)
	assert.Greater(t, out.Reproducibility, 4*out.Repeatability)
}

func TestStudyRefusesWhatIsNotCrossed(t *testing.T) {
	for name, spoil := range map[string]func(*gauge.StudyInput){
		"readings":       func(in *gauge.StudyInput) { in.Readings = in.Readings[:1] },
		"readings[1]":    func(in *gauge.StudyInput) { in.Readings[1] = in.Readings[1][1:] },
		"readings[1][4]": func(in *gauge.StudyInput) { in.Readings[1][4] = in.Readings[1][4][:1] },
	} {
		in := study(1, 2, 5, 2, 500, 0, 5000)
		spoil(&in)
		_, err := gauge.Study(in)
		assert.ErrorContains(t, err, name+":")
	}
}

// TestAStudyWorkedByHand: two people, three parts, two trials, their sums of squares worked out apart from the
// program; with the interaction in repeatability, and beside it.
func TestAStudyWorkedByHand(t *testing.T) {
	in := gauge.StudyInput{Readings: [][][]quantity.Amount{
		{{7_000_000, 7_002_000}, {7_010_000, 7_013_000}, {7_021_000, 7_020_000}},
		{{7_003_000, 7_004_000}, {7_012_000, 7_016_000}, {7_022_000, 7_026_000}},
	}}
	for _, x := range []struct {
		alpha                                                         string
		pooled                                                        bool
		repeat, interaction, reproducibility, whole, part, all, kinds quantity.Amount
	}{
		{"", true, 1738, 0, 1874, 2556, 9966, 10289, 5},
		{"1", false, 1979, 0, 1990, 2806, 10000, 10386, 5},
	} {
		if in.Alpha = nil; x.alpha != "" {
			in.Alpha, _ = new(big.Rat).SetString(x.alpha)
		}
		out, err := gauge.Study(in)
		require.NoError(t, err)
		assert.Equal(t, x.pooled, out.Pooled)
		assert.Equal(t, []quantity.Amount{x.repeat, x.interaction, x.reproducibility, x.whole, x.part, x.all},
			[]quantity.Amount{
				out.Repeatability, out.Interaction, out.Reproducibility, out.GRR, out.Part, out.Total,
			})
		assert.EqualValues(t, x.kinds, *out.Categories)
	}
}
