package page

import (
	"errors"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/store"
)

// TestHealth lists what is answered.
func TestHealth(t *testing.T) {
	for _, x := range []struct {
		err     error
		trouble string
		room    uint64
		known   bool
		status  int
		says    string
	}{
		{nil, "", 0, false, http.StatusOK, "ok"},
		{nil, "", store.LeastRoom, true, http.StatusOK, "ok"},
		{nil, "", store.LeastRoom - 1, true, http.StatusOK, "degraded: 199 MB are left on the disk"},
		{nil, "", 0, true, http.StatusOK, "degraded: 0 MB are left on the disk"},
		{errors.New("read-only"), "", store.LeastRoom, true, http.StatusServiceUnavailable, "trouble"},
		{nil, "a page is damaged", store.LeastRoom, true, http.StatusServiceUnavailable, "trouble"},
	} {
		status, says := health(x.err, x.trouble, x.room, x.known)
		assert.Equal(t, x.status, status, "%+v", x)
		assert.Equal(t, x.says, says, "%+v", x)
	}
}
