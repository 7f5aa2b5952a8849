package length_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/length"
)

func TestParse(t *testing.T) {
	for text, want := range map[string]length.Length{
		".2795 in": 7_099_300, "7,012mm": 7_012_000, "3t": 76_200, "3 thou": 76_200, "5h": 50_000, "12um": 12_000,
		"12 µm":      12_000,
		"1 1/2 thou": 38_100, "3/8in": 9_525_000, "-1 1/4 in": -31_750_000, "−0.05mm": -50_000, "+7 mm": 7_000_000,
		"10m":   10 * length.Metre,
		"0.5nm": 1, "-0.5 nm": -1, "0.4nm": 0, "7.mm": 7_000_000, `1"`: 25_400_000, "6.99 MM": 6_990_000, "250nm": 250,
	} {
		got, err := length.Parse(text, length.None)
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	bare, err := length.Parse("1/16", length.In)
	require.NoError(t, err)
	assert.Equal(t, length.Length(1_587_500), bare)
}

func TestParseRefuses(t *testing.T) {
	for _, text := range []string{
		"", " ", "1.2.3 mm", "1,234.5 mm", "1.234,5 mm", "abc", "mm", "-", "--1mm", "1e3 mm", "0x10 mm", "1_000 mm", "11 m",
		"-11m", "7", "7 cubits",
		"1/0 in", "1/2/3 in", "1 3/2 in", "1.5 1/2 in", "1/2.5 in", "NaN mm", "Inf mm", "１ mm", "7 mm 8", ".mm", "1 2 mm",
		"99999999999999999999999999999999999999999999mm",
	} {
		_, err := length.Parse(text, length.None)
		assert.Error(t, err, "%q", text)
	}
}

func TestRoundTrip(t *testing.T) {
	for range 20_000 {
		l := length.Length(rand.Int64N(int64(2*length.Max))) - length.Max
		back, err := length.Parse(l.MM(), length.MM)
		require.NoError(t, err)
		require.Equal(t, l, back)
		back, err = length.Parse(l.In()+" in", length.None)
		if err == nil { // ten metres may round past the limit
			require.LessOrEqual(t, (l - back).Abs(), length.Length(127))
		}
	}
}

func TestRounding(t *testing.T) {
	assert.Equal(t, length.Length(2), length.Div(length.Length(3), 2), "halves away from zero")
	assert.Equal(t, length.Length(-2), length.Div(length.Length(-3), 2))
	assert.Equal(t, length.Length(0), length.Div(length.Length(1), 3))
	assert.Equal(t, "0.034", length.MM.In(33_500, 3))
	assert.Equal(t, "-0.0017", length.In.In(-43_180, 4))
	assert.Equal(t, "0", length.Length(0).MM())
	assert.Equal(t, length.Length(5), length.RSS[length.Length](3, 4))
	for range 1000 {
		a := []length.Length{
			length.Length(rand.Int64N(1e9)), length.Length(rand.Int64N(1e9)), length.Length(rand.Int64N(1e9)),
		}
		want := math.Round(float64(a[0]+a[1]+a[2]) / 3)
		assert.InDelta(t, want, float64(length.Mean(a)), 0.5)
	}
}
