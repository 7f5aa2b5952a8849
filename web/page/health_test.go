package page

import (
	"errors"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/shop"
)

// TestHealth lists what is answered.
func TestHealth(t *testing.T) {
	for _, x := range []struct {
		health  shop.Health
		trouble string
		status  int
		says    string
	}{
		{shop.Health{}, "", http.StatusOK, "ok"},
		{shop.Health{Room: 900 << 20}, "", http.StatusOK, "ok"},
		{shop.Health{Low: true, Room: 200<<20 - 1}, "", http.StatusOK, "degraded: 199 MB are left on the disk"},
		{shop.Health{Low: true}, "", http.StatusOK, "degraded: 0 MB are left on the disk"},
		{shop.Health{Err: errors.New("read-only")}, "", http.StatusServiceUnavailable, "trouble"},
		{shop.Health{}, "a page is damaged", http.StatusServiceUnavailable, "trouble"},
	} {
		status, says := health(x.health, x.trouble)
		assert.Equal(t, x.status, status, "%+v", x)
		assert.Equal(t, x.says, says, "%+v", x)
	}
}
