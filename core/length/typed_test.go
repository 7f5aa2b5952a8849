package length_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"yatai/core/length"
)

// TestTypedIsReadBack: what stands in a field is exactly what was kept, in whichever unit it is read.
func TestTypedIsReadBack(t *testing.T) {
	for _, x := range []struct {
		l      length.Length
		mm, in string
	}{
		{2_600_000, "2.6", "2.6 mm"}, {2_540_000, "2.54", "0.1"}, {2_540, "0.00254", "0.0001"}, {254, "0.000254", "0.00001"},
		{1_000, "0.001", "0.001 mm"}, {25_400_000, "25.4", "1"}, {0, "0", "0"}, {-12_700, "-0.0127", "-0.0005"},
	} {
		assert.Equal(t, x.mm, length.MM.Typed(x.l))
		assert.Equal(t, x.in, length.In.Typed(x.l))
	}
	rapid.Check(t, func(t *rapid.T) {
		l := length.Length(rapid.Int64Range(-1_000_000_000, 1_000_000_000).Draw(t, "nanometres"))
		for _, u := range []length.Unit{length.MM, length.In} {
			back, err := length.Parse(u.Typed(l), u)
			require.NoError(t, err, u.Typed(l))
			require.Equal(t, l, back)
		}
	})
}
