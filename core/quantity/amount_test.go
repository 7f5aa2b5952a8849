package quantity_test

import (
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/length"
	"yatai/core/quantity"
)

func TestAmountsInTheirUnits(t *testing.T) {
	newton := quantity.Unit{Name: "N", Size: quantity.One}
	assert.Equal(t, "310 N", newton.Text(310*quantity.One))
	assert.Equal(t, "310.5", newton.Bare(310*quantity.One+500_000))
	assert.Equal(t, "310.5", newton.In(310_456_000, newton.Places()), "one decimal, rounded")
	assert.Equal(t, newton, newton.Or(length.MM), "its own unit before the one for lengths")
	pound := newton.Or(length.In)
	assert.True(t, pound.Customary())
	assert.False(t, newton.Customary() || quantity.UnitOf(length.In).Customary())
	assert.Equal(t, "70.0 lbf", pound.Text(311_375_513), "who reads inches reads pounds-force")
	assert.Equal(t, "25.0", quantity.Unit{Name: "kPa", Size: quantity.One}.Or(length.In).Bare(84_659_716))
	cc := quantity.Unit{Name: "cc", Size: quantity.One}
	assert.Equal(t, cc, cc.Or(length.In), "volumes are cc for everybody")

	inch := quantity.Unit{}.Or(length.In)
	assert.Equal(t, "0.0017 in", inch.Text(quantity.OfLength(17*length.Thou/10)))
	assert.Equal(t, "0.0017", inch.Bare(43_180))
	assert.Equal(t, 3*quantity.One, newton.Of(3))
	assert.Equal(t, 20, (20*quantity.One + 900_000).Whole())
	assert.InDelta(t, -1.5, quantity.Amount(-1_500_000).Float(), 0)
}

func TestAmountsAndRationals(t *testing.T) {
	for _, text := range []string{"70lbf", "4bar", "2.9in3"} {
		kind := map[string]quantity.Kind{"70lbf": quantity.Force, "4bar": quantity.Pressure, "2.9in3": quantity.Volume}[text]
		exact, err := quantity.Parse(text, kind)
		require.NoError(t, err)
		back := quantity.OfRat(exact).Rat()
		off := new(big.Rat).Sub(back, exact)
		assert.LessOrEqual(t, off.Abs(off).Cmp(big.NewRat(1, 2_000_000)), 0, "within half a millionth: %s", text)
	}
	assert.Nil(t, quantity.MaybeLength(nil))
	assert.Nil(t, quantity.AsLength(nil))
	l := 5 * length.Micrometre
	assert.Equal(t, l, *quantity.AsLength(quantity.MaybeLength(&l)))
}

func TestInchesHaveTheirUsualDigits(t *testing.T) {
	in, mm := quantity.UnitOf(length.In), quantity.UnitOf(length.MM)
	assert.Equal(t, "0.0197 in", in.Usual(500_000), "half a millimetre")
	assert.Equal(t, "0.00005 in", in.Usual(1_270), "as it was typed")
	assert.Equal(t, "0.2795 in", in.Usual(quantity.OfLength(2795*length.Thou/10)))
	assert.Equal(t, "0.5 mm", mm.Usual(500_000))
	assert.Equal(t, 4, length.In.Step())
	assert.Equal(t, 2, length.MM.Step())
}

func TestADoubtHasTwoFigures(t *testing.T) {
	mm, in, n := quantity.UnitOf(length.MM), quantity.UnitOf(length.In), quantity.Unit{Name: "N", Size: quantity.One}
	for _, x := range []struct {
		unit quantity.Unit
		a    quantity.Amount
		text string
	}{
		{mm, 5_657, "0.0057 mm"}, {mm, 3_000, "0.003 mm"}, {mm, 12_499, "0.012 mm"}, {mm, 12_500, "0.013 mm"},
		{mm, 0, "0 mm"}, {mm, 1, "0.000001 mm"},
		{n, 9_475_231, "9.5 N"}, {n, 10_000_000, "10 N"}, {n, 9_999_999, "10 N"}, {n, 123_456_789, "123 N"},
		{n, -560_000, "-0.56 N"},
		{in, 5_657, "0.00022 in"}, {in, 25_400_000, "1 in"}, {in, 254_000_000, "10 in"},
	} {
		assert.Equal(t, x.text, x.unit.Doubt(x.a))
	}
}
