package gauge_test

import (
	"context"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/length"
	"yatai/standin/gauge"
)

// TestSendIsOneRequestPerValue sends to a shop that takes one value and refuses the next.
func TestSendIsOneRequestPerValue(t *testing.T) {
	var heard []string
	shop := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		var in struct{ Value string }
		assert.NoError(t, json.NewDecoder(r.Body).Decode(&in))
		assert.Equal(t, "/api/gauge", r.URL.Path)
		assert.Equal(t, "Bearer key-1", r.Header.Get("Authorization"))
		if heard = append(heard, in.Value); len(heard) > 1 {
			w.WriteHeader(http.StatusConflict)
			_, _ = w.Write([]byte("no sweep is open\n"))
		}
	}))
	defer shop.Close()
	require.NoError(t, gauge.Send(t.Context(), shop.URL+"/", "key-1", 8_012_000))
	err := gauge.Send(t.Context(), shop.URL, "key-1", -500*length.Nanometre)
	assert.EqualError(t, err, "409 Conflict: no sweep is open")
	assert.Equal(t, []string{"8.012mm", "-0.0005mm"}, heard)
	shop.Close()
	assert.Error(t, gauge.Send(t.Context(), shop.URL, "key-1", 1), "nobody there")
	assert.Error(t, gauge.Send(context.Background(), "::not an address", "key-1", 1))
}
