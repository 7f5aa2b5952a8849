package trade_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

const (
	mm = quantity.One
	um = mm / 1000
)

func twin(t *testing.T) layout.Layout {
	t.Helper()
	l, err := layout.Inline(layout.InlineSpec{
		Cylinders: 2, Pattern: "IE", Pitch: 110 * length.Millimetre, Bore: 95 * length.Millimetre,
		Width:      160 * length.Millimetre,
		IntakeHead: 40 * length.Millimetre, ExhaustHead: 36 * length.Millimetre,
	})
	require.NoError(t, err)
	return l
}

func TestReadValues(t *testing.T) {
	lines, _ := trade.ByCode("face.line")
	for text, want := range map[string]gauge.Value{
		"0.05 0.06": gauge.Between(50_000, 60_000), "0.05/0.06": gauge.Between(50_000, 60_000),
		"0.05 / 0.06": gauge.Between(50_000, 60_000),
		"2 3 thou": gauge.Between(
			50_800, 76_200,
		), "2 thou 3 thou": gauge.Between(50_800, 76_200), "0.03": gauge.Between(0, 30_000),
		"0.03 mm":   gauge.Between(0, 30_000),
		"0,05 0,06": gauge.Between(50_000, 60_000),
	} {
		got, err := lines.Read(text, length.MM)
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"0.06 0.05", "0.05 0.05", "0", "-0.1", "0.05 x", "a b", "1 2 3 4 5", ""} {
		_, err := lines.Read(text, length.MM)
		assert.Error(t, err, text)
	}
	bore, _ := trade.ByCode("guide.bore")
	_, err := bore.Read("0.3543", length.MM)
	assert.ErrorContains(t, err, "write the unit", "questioned, not guessed")
	_, err = bore.Read("9.0", length.In)
	assert.ErrorContains(t, err, "9.0 mm would be")
}

func TestSpotsFollowTheLayout(t *testing.T) {
	l := twin(t)
	bore, _ := trade.ByCode("guide.bore")
	spots := bore.Spots(l)
	assert.Len(t, spots, 4*3*2)
	assert.Equal(t, "1I1.top.A", spots[0].Key())
	assert.Equal(t, "2E1.bottom.B", spots[len(spots)-1].Key())
	assert.Equal(t, spots[0], trade.SpotOf(spots[0].Key()))
	lines, _ := trade.ByCode("face.line")
	assert.Len(t, lines.Spots(l), len(l.Lines))
	for _, c := range trade.Characteristics {
		for _, s := range c.Spots(l) {
			assert.Equal(t, s, trade.SpotOf(s.Key()), c.Code)
		}
	}
}

func TestReadAs(t *testing.T) {
	bore, _ := trade.ByCode("guide.bore")
	depth, _ := trade.ByCode("valve.recession")
	ring := trade.Entry{Mode: "deviation", Set: 9 * mm, Division: um}
	for text, want := range map[string]quantity.Amount{
		"+36": 9_036_000, "-0.5": 8_999_500, "0": 9 * mm, "12": 9_012_000, "+2 thou": 9_050_800,
	} {
		v, err := bore.ReadAs(ring, text, length.MM)
		require.NoError(t, err, text)
		assert.Equal(t, want, v.At, text)
	}
	_, err := bore.ReadAs(ring, "+99999", length.MM)
	assert.ErrorContains(t, err, "that makes 108.999 mm")
	assert.Equal(t, "9 mm +36 divisions of 0.001 mm = 9.036 mm", ring.Worked("36", 9_036_000, quantity.UnitOf(length.MM)))
	v, err := depth.ReadAs(trade.Entry{Mode: "offset", Set: 25 * mm}, "25.62", length.MM)
	require.NoError(t, err)
	assert.Equal(t, 620*um, v.At)
	v, err = depth.ReadAs(trade.Entry{Mode: "two sides"}, "0.61 0.64", length.MM)
	require.NoError(t, err)
	assert.Equal(t, 625*um, v.At)
	_, err = depth.ReadAs(trade.Entry{Mode: "two sides"}, "0.61", length.MM)
	assert.ErrorContains(t, err, "both sides")
}

func TestWearFollowsThePush(t *testing.T) {
	at := func(dir string, l quantity.Amount) trade.Read {
		return trade.Read{Spot: trade.Spot{Place: "top", Dir: dir}, Value: gauge.Exact(l)}
	}
	w, ok := trade.WearOf([]trade.Read{at("A", 9*mm+40_000), at("B", 9*mm)}, length.MM)
	require.True(t, ok)
	assert.True(t, w.Sweep)
	_, ok = trade.WearOf([]trade.Read{at("A", 9*mm)}, length.MM)
	assert.False(t, ok, "read one way only it says nothing")
}

// TestADeviationOfALittleIsQuestioned: "0,05" on a dial of 0.001 is more likely a size.
func TestADeviationOfALittleIsQuestioned(t *testing.T) {
	bore, _ := trade.ByCode("guide.bore")
	dial := trade.Entry{Mode: "deviation", Set: 9 * mm, Division: um}
	for _, text := range []string{"0,05", "0.05", "-0.1"} {
		_, err := bore.ReadAs(dial, text, length.MM)
		assert.ErrorContains(t, err, "write the unit", text)
	}
	for text, want := range map[string]quantity.Amount{
		"0.5": 9_000_500, "0": 9 * mm, "0.05mm": 9_050_000, "+3": 9_003_000,
	} {
		v, err := bore.ReadAs(dial, text, length.MM)
		require.NoError(t, err, text)
		assert.Equal(t, want, v.At, text)
	}
}
