package web_test

import (
	"io"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// part asks for the main part of a page as the page at from does.
func (v *visitor) part(from, path string) (http.Header, int, string) {
	r, err := http.NewRequest(http.MethodGet, v.base+path, nil)
	require.NoError(v.t, err)
	r.Header.Set("HX-Request", "true")
	r.Header.Set("HX-Target", "main")
	r.Header.Set("HX-Current-URL", v.base+from)
	resp, err := v.Do(r)
	require.NoError(v.t, err)
	defer func() { _ = resp.Body.Close() }()
	body, err := io.ReadAll(resp.Body)
	require.NoError(v.t, err)
	return resp.Header, resp.StatusCode, string(body)
}

// TestAPartOfAPage: what is swapped in is the page's own main part with its title; the address says where one is.
func TestAPartOfAPage(t *testing.T) {
	t.Parallel()
	s := demoSite(t)
	v := s.as(t, "Runa")
	_, whole := v.get("/heads/T0401/seats")
	for _, x := range []struct {
		name, from, path    string
		status              int
		push, replace, says string
	}{
		{
			name: "another page", from: "/heads/T0401/judge", path: "/heads/T0401/seats",
			status: http.StatusOK, says: "<title>",
		},
		{
			name: "the same page", from: "/heads/T0401/seats", path: "/heads/T0401/seats?width=1.5",
			status: http.StatusOK, replace: "/heads/T0401/seats?width=1.5", says: "<title>",
		},
		{
			name: "a mistake", from: "/heads/T0401/seats", path: "/heads/T0401/seats?width=wide",
			status: http.StatusUnprocessableEntity, push: "false", says: `aria-invalid="true"`,
		},
		{
			name: "a head that is not there", from: "/heads/T0401/seats", path: "/heads/none/seats",
			status: http.StatusNotFound, push: "false", says: "Nothing here",
		},
	} {
		t.Run(x.name, func(t *testing.T) {
			h, status, page := v.part(x.from, x.path)
			assert.Equal(t, x.status, status)
			assert.Equal(t, x.push, h.Get("HX-Push-Url"))
			assert.Equal(t, x.replace, h.Get("HX-Replace-Url"))
			assert.Contains(t, page, x.says)
			assert.Contains(t, page, `<main id="main"`)
			assert.NotContains(t, page, "<header", "the shell stays where it is")
			assert.Less(t, len(page), len(whole))
		})
	}
}

// TestAPartOfAPageWithoutASession: the sign-in page is a page of its own, and leads back.
func TestAPartOfAPageWithoutASession(t *testing.T) {
	t.Parallel()
	s := demoSite(t)
	v := s.visitor(t)
	h, status, _ := v.part("/heads/T0401/judge", "/heads/T0401/seats")
	assert.Equal(t, http.StatusUnauthorized, status)
	assert.Equal(t, "/sign-in?next=%2Fheads%2FT0401%2Fseats", h.Get("HX-Redirect"))
	w := httptest.NewRecorder()
	s.handler.ServeHTTP(w, httptest.NewRequest(http.MethodGet, "/heads/T0401/seats", nil))
	assert.Equal(t, http.StatusSeeOther, w.Code, "a whole page goes there by itself")
}
