package web_test

import (
	"fmt"
	"log/slog"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/demo"
	"yatai/internal/demofile"
	"yatai/shop"
	"yatai/store"
	"yatai/web"
	"yatai/web/page"
)

// TestTheTourLeadsThroughTheDemo takes the whole tour as each person of the demo: every stop is a
// page they can see, with its words on it; it ends, and a shop without one has none.
func TestTheTourLeadsThroughTheDemo(t *testing.T) {
	st, err := store.Open(demofile.Path(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	var stops []page.Stop
	for _, x := range demo.Tour {
		stops = append(stops, page.Stop(x))
	}
	h, err := web.New(shop.New(st, time.Now), web.Options{Tour: stops, Log: slog.New(slog.DiscardHandler)})
	require.NoError(t, err)
	s := newSite(t, h)
	for _, name := range []string{"Maren", "Ilka", "Odo", "Runa"} {
		v := s.as(t, name)
		assert.True(t, strings.Contains(body(v.get("/")), "Take the tour"))
		for i, x := range stops {
			answer, err := v.PostForm(v.base+"/tour", url.Values{"to": {strconv.Itoa(i + 1)}})
			require.NoError(t, err)
			require.NoError(t, answer.Body.Close())
			require.Equal(t, x.Link, answer.Header.Get("Location"))
			status, html := v.get(x.Link)
			assert.Equal(t, http.StatusOK, status, "%s at %s", name, x.Link)
			assert.True(t, strings.Contains(html, fmt.Sprintf("%d of %d: %s", i+1, len(stops), x.Title)), "%s at %s", name,
				x.Link)
		}
		for _, end := range []string{"0", "99", "x"} {
			v.post("/tour", url.Values{"to": {"1"}})
			v.post("/tour", url.Values{"to": {end}})
			assert.False(t, strings.Contains(body(v.get("/parts")), fmt.Sprintf("of %d:", len(stops))), end)
		}
	}
	none := demoSite(t).as(t, "Odo")
	assert.False(t, strings.Contains(body(none.get("/")), "Take the tour"))
}

func body(_ int, html string) string { return html }
