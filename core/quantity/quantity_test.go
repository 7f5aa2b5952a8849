package quantity_test

import (
	"encoding/json"
	"math"
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/quantity"
)

func TestParse(t *testing.T) {
	for _, c := range []struct {
		text string
		kind quantity.Kind
		want float64
	}{
		{"310N", quantity.Force, 310}, {"70 lbf", quantity.Force, 311.375513}, {"32kgf", quantity.Force, 313.8128},
		{"48,2cc", quantity.Volume, 48.2}, {
			"2.9in3", quantity.Volume, 47.5224856,
		},
		{"4bar", quantity.Pressure, 400}, {
			"60psi", quantity.Pressure, 413.685438,
		}, {"25inHg", quantity.Pressure, 84.659716}, {"68F", quantity.Temperature, 20}, {"-40F", quantity.Temperature, -40},
		{"293.15K", quantity.Temperature, 20},
		{"90deg", quantity.Angle, 90}, {"30 Nm", quantity.Torque, 30},
	} {
		r, err := quantity.Parse(c.text, c.kind)
		require.NoError(t, err, c.text)
		assert.InDelta(t, c.want, quantity.Float(r), 1e-5, c.text)
	}
	for _, text := range []string{"", "N", "310", "310 mm", "1e3N", "NaN N", "31ON"} {
		_, err := quantity.Parse(text, quantity.Force)
		assert.Error(t, err, text)
	}
	exact, err := quantity.Parse("84.3kPa", quantity.Pressure)
	require.NoError(t, err)
	assert.Zero(t, exact.Cmp(big.NewRat(843, 10)))
}

func TestDecimalHasSixDigits(t *testing.T) {
	b, err := json.Marshal(quantity.Decimal(39.63218390804595))
	require.NoError(t, err)
	assert.Equal(t, "39.6322", string(b))
	_, err = json.Marshal(quantity.Decimal(math.Inf(1)))
	assert.Error(t, err)
}
