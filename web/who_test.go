package web_test

import (
	"compress/gzip"
	"io"
	"net/http"
	"net/netip"
	"net/url"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/demofile"
	"yatai/shop"
	"yatai/store"
	"yatai/web"
)

// behind serves the demo as it stands behind a proxy on this machine.
func behind(t *testing.T) *site {
	t.Helper()
	st, err := store.Open(demofile.Path(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	h, err := web.New(shop.New(st, time.Now),
		web.Options{Tries: 5, Proxies: []netip.Prefix{netip.MustParsePrefix("127.0.0.0/8")}})
	require.NoError(t, err)
	return newSite(t, h)
}

// TestEveryRouteAsksWhoIsThere walks the mux: without a session nothing of the shop is shown or
// changed, whatever route a version adds.
func TestEveryRouteAsksWhoIsThere(t *testing.T) {
	s := demoSite(t)
	open := map[string]bool{
		"/healthz": true, "/favicon.ico": true, "/static/*": true, "/sign-in": true, "/sign-on": true,
		"/sign-out": true, "/first": true,
	}
	fill := regexp.MustCompile(`\{[^}]*\}`)
	seen := 0
	require.NoError(t, chi.Walk(s.handler.(chi.Routes),
		func(method, route string, _ http.Handler, _ ...func(http.Handler) http.Handler) error {
			if open[route] || byLink(route) || strings.HasPrefix(route, "/calendar/") ||
				method != "GET" && method != "POST" {
				return nil
			}
			seen++
			path := strings.ReplaceAll(fill.ReplaceAllString(strings.ReplaceAll(route, "{tag}", "T0414"), "1"), "*", "")
			v := s.visitor(t)
			var status int
			if method == "GET" {
				status, _ = v.get(path)
			} else {
				status, _ = v.post(path, url.Values{"write_id": {"a-stranger-tries"}})
			}
			if strings.HasPrefix(route, "/api/") {
				assert.Contains(t, []int{http.StatusUnauthorized, http.StatusNotFound}, status, "%s %s", method, route)
			} else {
				assert.Equal(t, http.StatusSeeOther, status, "%s %s", method, route)
			}
			return nil
		}))
	assert.Greater(t, seen, 90)
}

// TestEveryPageForEveryRole opens every page of the mux that needs no more than a tag as each role: it is
// shown, or said to be somebody else's; nothing breaks.
func TestEveryPageForEveryRole(t *testing.T) {
	s := demoSite(t)
	known := map[string]string{
		"tag": "T0414", "code": "guide.bore", "position": "1E1", "part": "valve.face", "seq": "1", "name": "shims", "id": "1",
		"file": "report.pdf", "version": "1",
	}
	name := regexp.MustCompile(`\{([^}]*)\}`)
	for role, who := range people {
		v := s.as(t, who)
		require.NoError(t, chi.Walk(s.handler.(chi.Routes),
			func(method, route string, _ http.Handler, _ ...func(http.Handler) http.Handler) error {
				if method != "GET" || route == "/live" || byLink(route) ||
					strings.HasPrefix(route, "/calendar/") || strings.HasPrefix(route, "/static/") {
					return nil
				}
				path := name.ReplaceAllStringFunc(route, func(m string) string { return known[strings.Trim(m, "{}")] })
				status, _ := v.get(path)
				assert.Contains(t, []int{200, 302, 303, 403, 404}, status, "%s as %s", path, role)
				return nil
			}))
	}
}

// TestASecretOpensAsLongAsItIsTheNewest changes a password: other sessions end, this one goes on.
func TestASecretOpensAsLongAsItIsTheNewest(t *testing.T) {
	s := demoSite(t)
	here, there := s.as(t, "Ilka"), s.as(t, "Ilka")
	status, page := here.post(
		"/me", url.Values{"write_id": {"my-own-secret-1"}, "now": {"wrong"}, "password": {"another-one-2"}},
	)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "not your password of now")
	status, _ = here.post(
		"/me", url.Values{"write_id": {"my-own-secret-2"}, "now": {"tarn-street-1"}, "password": {"another-one-2"}},
	)
	require.Equal(t, http.StatusSeeOther, status)
	status, _ = here.get("/week")
	assert.Equal(t, http.StatusOK, status)
	status, _ = there.get("/week")
	assert.Equal(t, http.StatusSeeOther, status, "signed out elsewhere")
}

// TestADeepLinkSurvivesTheSignIn goes to a page, signs in and is there; a page elsewhere is not
// gone to.
func TestADeepLinkSurvivesTheSignIn(t *testing.T) {
	s := demoSite(t)
	for next, want := range map[string]string{
		"/heads/T0414/plan?cut=0.1": "", "//evil.example/x": "/", "https://evil.example": "/", `/\evil.example`: "/", "": "/",
	} {
		v := s.visitor(t)
		r, err := http.NewRequest("POST", v.base+"/sign-in",
			strings.NewReader(url.Values{"name": {"Odo"}, "password": {"tarn-street-1"}, "next": {next}}.Encode()))
		require.NoError(t, err)
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		res, err := v.Do(r)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		if want == "" {
			want = next
		}
		assert.Equal(t, want, res.Header.Get("Location"))
	}
}

// TestAFormIsNotTwoThings sends a form twice with the same id: the same again is answered the
// same, something else is refused.
func TestAFormIsNotTwoThings(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Runa")
	form := url.Values{
		"write_id": {"one-form-one-thing"}, "name": {"Hanne"}, "role": {"technician"}, "password": {"long-enough-1"},
		"unit": {"mm"},
	}
	for range 2 {
		status, _ := v.post("/people", form)
		assert.Equal(t, http.StatusSeeOther, status)
	}
	form.Set("name", "Hanno")
	status, page := v.post("/people", form)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "sent before with something else in it")
}

// TestAProxyIsTrustedOnlyWhenNamed sends forwarded headers with and without a trusted proxy.
func TestAProxyIsTrustedOnlyWhenNamed(t *testing.T) {
	for _, c := range []struct {
		site   *site
		secure bool
	}{{demoSite(t), false}, {behind(t), true}} {
		v := c.site.visitor(t)
		r, err := http.NewRequest("POST", v.base+"/sign-in",
			strings.NewReader(url.Values{"name": {"Odo"}, "password": {"tarn-street-1"}}.Encode()))
		require.NoError(t, err)
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		r.Header.Set("X-Forwarded-Proto", "https")
		r.Header.Set("X-Forwarded-For", "203.0.113.9")
		res, err := v.Do(r)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		assert.Equal(t, c.secure, res.Header.Get("Strict-Transport-Security") != "")
		assert.Equal(t, c.secure, strings.Contains(res.Header.Get("Set-Cookie"), "Secure"))
	}
	// each client behind the proxy has tries of its own
	v := behind(t).visitor(t)
	try := func(client string) int {
		r, err := http.NewRequest("POST", v.base+"/sign-in", strings.NewReader("name=Odo&password=wrong"))
		require.NoError(t, err)
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		r.Header.Set("X-Forwarded-For", "1.2.3.4, "+client)
		status, _ := v.send(r)
		return status
	}
	for range 5 {
		require.Equal(t, http.StatusUnprocessableEntity, try("203.0.113.9"))
	}
	assert.Equal(t, http.StatusTooManyRequests, try("203.0.113.9"))
	assert.Equal(t, http.StatusUnprocessableEntity, try("203.0.113.10"), "the bench beside it goes on")
}

// TestStaticFilesAreKeptForEverAndSmall follows the links of a page to its files.
func TestStaticFilesAreKeptForEverAndSmall(t *testing.T) {
	s := demoSite(t)
	_, page := s.visitor(t).get("/sign-in")
	links := regexp.MustCompile(`(?:href|src)="(/static/[^"]+)"`).FindAllStringSubmatch(page, -1)
	require.Len(t, links, 10)
	for _, l := range links {
		r, err := http.NewRequest("GET", s.URL+l[1], nil)
		require.NoError(t, err)
		r.Header.Set("Accept-Encoding", "gzip")
		res, err := http.DefaultTransport.RoundTrip(r)
		require.NoError(t, err)
		assert.Contains(t, res.Header.Get("Cache-Control"), "immutable", l[1])
		assert.Regexp(t, `\.[0-9a-f]{12}\.`, l[1])
		if filepath.Ext(l[1]) == ".css" {
			require.Equal(t, "gzip", res.Header.Get("Content-Encoding"), l[1])
			z, err := gzip.NewReader(res.Body)
			require.NoError(t, err)
			text, err := io.ReadAll(z)
			require.NoError(t, err)
			assert.Contains(t, string(text), "{")
		}
		require.NoError(t, res.Body.Close())
	}
	status, _ := s.visitor(t).get("/static/../views/floor.html")
	assert.Equal(t, http.StatusNotFound, status)
	status, said := s.visitor(t).get("/healthz")
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, "ok\n", said)
}

// byLink tells whether a route is a customer's, who has no account: the link is what lets them in.
func byLink(route string) bool {
	return strings.HasPrefix(route, "/q/") || strings.HasPrefix(route, "/f/")
}
