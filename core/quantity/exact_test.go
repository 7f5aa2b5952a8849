package quantity_test

import (
	"math/big"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/quantity"
)

func TestExactAmountsKeepTheirKind(t *testing.T) {
	var load quantity.Newtons
	assert.Zero(t, load.Sign(), "the zero value is nothing of the kind")
	assert.Equal(t, "0 N", load.String())
	require.NoError(t, load.Parse("70 lbf"))
	assert.Equal(t, "force", load.Kind().Name)
	assert.Equal(t, "311.376 N", load.String())
	assert.Zero(t, load.Rat().Cmp(big.NewRat(70*44482216152605, 10_000_000_000_000)), "not a digit is lost")
	require.ErrorContains(t, load.Parse("2 bar"), "unknown unit")
	assert.Equal(t, "311.376 N", load.String(), "what cannot be read changes nothing")

	warm := quantity.CelsiusOf(95, 1)
	var fahrenheit quantity.Celsius
	require.NoError(t, fahrenheit.Parse("203F"))
	assert.Zero(t, warm.Cmp(fahrenheit))
	var angle quantity.Degrees
	angle.Set(big.NewRat(89, 2))
	assert.Equal(t, "44.5 deg", angle.String())
	assert.InDelta(t, 44.5, angle.Float(), 0)
}

// TestExactAmountsAddUp takes pressures apart and puts them together again, and to millionths and
// back.
func TestExactAmountsAddUp(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 5))
	for range 500 {
		a, b := quantity.Amount(r.Int64N(1e12)-5e11), quantity.Amount(r.Int64N(1e12)-5e11)
		sum := a.KPa().Add(b.KPa())
		assert.Equal(t, a+b, sum.Amount())
		assert.Zero(t, sum.Sub(b.KPa()).Cmp(a.KPa()))
		switch got := a.KPa().Cmp(b.KPa()); {
		case a < b:
			assert.Equal(t, -1, got)
		case a > b:
			assert.Equal(t, 1, got)
		}
		n := sum.Rat()
		n.SetInt64(7)
		assert.Equal(t, a+b, sum.Amount(), "who is given the number may change it")
	}
	assert.Equal(t, quantity.One/3, (quantity.One / 3).CC().Amount())
	assert.Equal(t, 1, quantity.One.Degrees().Sign())
	assert.Equal(t, -1, (-quantity.One).Newtons().Sign())
}
