package gauge_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"github.com/stretchr/testify/assert"

	"yatai/core/length"
	"yatai/standin/gauge"
)

func TestSameSeedSameReadings(t *testing.T) {
	p := gauge.Part{Nominal: 8 * length.Millimetre, Noise: 2000, Wear: 30000}
	a, b, other := gauge.New(p, 1), gauge.New(p, 1), gauge.New(p, 2)
	differs := false
	for range 200 {
		l := a.Read()
		assert.Equal(t, l, b.Read())
		differs = differs || l != other.Read()
		assert.Zero(t, l%length.Micrometre, "a gauge shows micrometres")
		assert.InDelta(t, 8e6, float64(l), 40000)
	}
	assert.True(t, differs)
}

func TestGaugeOnAnExportedHead(t *testing.T) {
	const file = `{"readings":[{"characteristic":"guide.bore","position":"1I1","place":"top","direction":"A","value_nm":8012000},
	 {"characteristic":"stem.dia","position":"1I1","value_nm":7960000},
	 {"characteristic":"guide.bore","position":"1I1","place":"top","direction":"B","value_nm":8014000},
	 {"characteristic":"guide.bore","position":"1I1","place":"top","direction":"A","value_nm":8020000}]}`
	truth, err := gauge.Head(strings.NewReader(file), "guide.bore")
	require.NoError(t, err)
	assert.Equal(t, []length.Length{8_020_000, 8_014_000}, truth, "a correction counts, at its place")
	one, two := gauge.New(gauge.Part{Noise: 2000}, 5), gauge.New(gauge.Part{Noise: 2000}, 5)
	for _, l := range truth {
		v := one.Measure(l)
		assert.Equal(t, v, two.Measure(l), "the same seed, the same readings")
		assert.InDelta(t, float64(l), float64(v), 5000)
	}
	_, err = gauge.Head(strings.NewReader(file), "lash")
	assert.ErrorContains(t, err, "no readings")
	_, err = gauge.Head(strings.NewReader("x"), "lash")
	assert.ErrorContains(t, err, "not a readings file")
}
