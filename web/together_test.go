package web_test

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestFiveBenchesAndThreeReaders lets five people sweep one head while others look at it:
// every reading is there once, and everybody is answered.
func TestFiveBenchesAndThreeReaders(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Odo")
	u, err := url.Parse(s.URL)
	require.NoError(t, err)
	cookies := v.Jar.Cookies(u)
	ask := func(method, path, body string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(method, path, strings.NewReader(body))
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		r.Header.Set("HX-Request", "true")
		for _, c := range cookies {
			r.AddCookie(c)
		}
		w := httptest.NewRecorder()
		s.handler.ServeHTTP(w, r)
		return w
	}
	_, page := v.get("/heads/T0407/sweep/guide.bore")
	var keys []string
	for _, m := range regexp.MustCompile(`data-key="([^"]+)"`).FindAllStringSubmatch(page, -1) {
		keys = append(keys, m[1])
	}
	require.Len(t, keys, 144)
	var benches, readers sync.WaitGroup
	done := make(chan struct{})
	for _, path := range []string{"/heads/T0407/judge", "/heads/T0407/sweep/guide.bore", "/"} {
		readers.Go(func() {
			for {
				select {
				case <-done:
					return
				default:
					assert.Equal(t, http.StatusOK, ask("GET", path, "").Code, path)
				}
			}
		})
	}
	for bench := range 5 {
		benches.Go(func() {
			for i := bench; i < 50; i += 5 {
				key := keys[i]
				form := url.Values{"one": {key}, "stage": {"as received"}, "tool": {"1"}, "v." + key: {fmt.Sprintf("9.0%02d", i)}, "id." + key: {fmt.Sprintf("together-%d", i)}}.Encode()
				for range 2 { // the network is bad: everything is sent twice
					assert.Equal(t, http.StatusOK, ask("POST", "/heads/T0407/sweep/guide.bore", form).Code, key)
				}
			}
		})
	}
	benches.Wait()
	close(done)
	readers.Wait()
	_, page = v.get("/heads/T0407/sweep/guide.bore")
	for i, key := range keys[:50] {
		assert.Contains(t, page, fmt.Sprintf(`name="v.%s" value="9.0%02d"`, key, i))
	}
	_, readings := v.get("/heads/T0407/files/readings.json")
	assert.Equal(t, 50, strings.Count(readings, `"characteristic": "guide.bore"`)+strings.Count(readings, `"characteristic":"guide.bore"`))
}
