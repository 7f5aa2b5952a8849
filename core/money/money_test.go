package money_test

import (
	"testing"
	"testing/quick"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/money"
)

func TestAmountsAreReadAndWritten(t *testing.T) {
	for text, want := range map[string]int64{"12.50": 1250, "1,250.00": 125000, "1250,5": 125050, "0": 0, "64": 6400} {
		got, err := money.Parse(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"", "-1", "1.234", "much", "1.2.3"} {
		_, err := money.Parse(text)
		assert.Error(t, err, text)
	}
	back := func(n uint32) bool {
		c, err := money.Parse(money.Text(int64(n)))
		return err == nil && c == int64(n)
	}
	require.NoError(t, quick.Check(back, nil))
}

// TestSharesAreRoundedOnce: halves up, to the cent.
func TestSharesAreRoundedOnce(t *testing.T) {
	assert.Equal(t, int64(3), money.Div(5, 2))
	assert.Equal(t, int64(200), money.Share(1000, 200_000), "a fifth")
	assert.Equal(t, int64(1), money.Share(5, 100_000), "half a cent is a cent")
	assert.Equal(t, int64(0), money.Share(4, 100_000))
}
