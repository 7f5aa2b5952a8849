package gauge_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"headwright/core/length"
	"headwright/standin/gauge"
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
