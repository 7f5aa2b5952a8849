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
	assert.Equal(t, newton, newton.Or(length.In), "its own unit before the one for lengths")

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
