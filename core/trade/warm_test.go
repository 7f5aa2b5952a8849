package trade_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// TestAWarmPartIsBroughtTo20 reads an aluminium head's thickness warm from the wash: 92 mm are 40
// micrometres too long at 40 degrees. What does not hang on the temperature is left alone.
func TestAWarmPartIsBroughtTo20(t *testing.T) {
	kind := trade.Kind{Material: "aluminium", Drive: trade.Bucket, Cooling: "water"}
	warm := quantity.CelsiusOf(40, 1)
	e := trade.Entry{Warm: &warm, Made: trade.Thickness.MadeOf(kind, trade.Valve{})}
	v, err := trade.Thickness.ReadAs(e, "92.040", length.MM)
	require.NoError(t, err)
	assert.InDelta(t, 92_040_000-39_560, int64(v.At), 30)
	assert.Contains(t, e.Worked("92.040", v.At, quantity.UnitOf(length.MM)), "92.040 at 40 C, at 20 C")

	made := trade.SpringHeight.MadeOf(kind, trade.Valve{})
	assert.Empty(t, made, "between two parts")
	same, err := trade.SpringHeight.ReadAs(trade.Entry{Warm: e.Warm, Made: made}, "38.5", length.MM)
	require.NoError(t, err)
	assert.Equal(t, 38_500*um, same.At)
	load, err := trade.LoadSeat.ReadAs(trade.Entry{Warm: e.Warm, Made: "aluminium"}, "250", length.MM)
	require.NoError(t, err)
	cold, err := trade.LoadSeat.ReadAs(trade.Entry{}, "250", length.MM)
	require.NoError(t, err)
	assert.Equal(t, cold, load, "no length")
}
