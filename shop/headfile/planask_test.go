package headfile

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestWhatAPlanOfBeforeHolds: plans that were kept by seat, valve and guide hold the same now, and what is kept now
// comes back.
func TestWhatAPlanOfBeforeHolds(t *testing.T) {
	want := map[string]map[string]string{"2E1": {"seat": "cut", "valve": "keep"}, "1I1": {"guide": "ream"}}
	for _, text := range []string{
		`{"Alternative":"balanced","Seat":{"2E1":"cut"},"Valve":{"2E1":"keep"},"Guide":{"1I1":"ream"}}`,
		`{"Alternative":"balanced","Hold":{"2E1":{"seat":"cut","valve":"keep"},"1I1":{"guide":"ream"}}}`,
	} {
		var k keptAsk
		require.NoError(t, json.Unmarshal([]byte(text), &k))
		ask := k.asked()
		assert.Equal(t, want, ask.Hold)
		assert.Equal(t, "balanced", ask.Alternative)
		assert.True(t, ask.Held())
		assert.Equal(t, want, ask.Core().Hold)
		kept, err := json.Marshal(ask)
		require.NoError(t, err)
		var again keptAsk
		require.NoError(t, json.Unmarshal(kept, &again))
		assert.Equal(t, ask, again.asked())
	}
	var none keptAsk
	require.NoError(t, json.Unmarshal([]byte(`{"Alternative":"keep"}`), &none))
	assert.False(t, none.asked().Held())
}
