package web_test

import (
	"bytes"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestLimitsFromAFileAreLookedAtFirst uploads a sheet: its figures stand in the fields, and
// nothing is written yet.
func TestLimitsFromAFileAreLookedAtFirst(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Runa")
	upload := func(text string) (int, string) {
		var b bytes.Buffer
		w := multipart.NewWriter(&b)
		require.NoError(t, w.WriteField("set", "service"))
		part, err := w.CreateFormFile("file", "limits.csv")
		require.NoError(t, err)
		_, err = part.Write([]byte(text))
		require.NoError(t, err)
		require.NoError(t, w.Close())
		r, err := http.NewRequest("POST", s.URL+"/reference/models/1/limits?set=service", &b)
		require.NoError(t, err)
		r.Header.Set("Content-Type", w.FormDataContentType())
		return v.send(r)
	}
	status, page := upload(
		"set,characteristic,role,unit,low,high,near,source\nservice,seat.width,intake,mm,1.11,2.22,0.1,leaflet <b>7</b>\n",
	)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, `value="1.11 mm"`)
	assert.Contains(t, page, `value="leaflet &lt;b&gt;7&lt;/b&gt;"`)
	_, stands := v.get("/reference/models/1")
	assert.NotContains(t, stands, "1.11 mm")
	status, page = upload("set,characteristic,low,high,source\nservice,seat.colour,1,2,s\n")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "this sheet has no seat.colour")
	status, page = v.post("/reference/models/1/limits", nil)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "choose a CSV file")
	status, file := v.get("/reference/models/1/limits.csv")
	require.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(file, "set,characteristic,role,unit,low,high,near,source\n"))
}

// TestABackupIsDownloaded takes a backup over HTTP: it is a database, sent as a file.
func TestABackupIsDownloaded(t *testing.T) {
	v := demoSite(t).as(t, "Runa")
	_, page := v.get("/settings")
	assert.Contains(t, page, "None has been taken yet")
	status, file := v.post("/settings/backup", nil)
	require.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(file, "SQLite format 3\x00"))
	_, page = v.get("/settings")
	assert.Contains(t, page, "The last one was taken")
}

// hangsUp is a reader who takes some bytes and is gone.
type hangsUp struct {
	*httptest.ResponseRecorder
	left int
}

func (h *hangsUp) Write(b []byte) (int, error) {
	if h.left -= len(b); h.left < 0 {
		return 0, io.ErrClosedPipe
	}
	return h.ResponseRecorder.Write(b)
}

// TestABackupCutOffIsNone hangs up in the middle of a backup: it does not count as taken.
func TestABackupCutOffIsNone(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Runa")
	r := httptest.NewRequest("POST", v.base+"/settings/backup", nil)
	for _, c := range v.Jar.Cookies(r.URL) {
		r.AddCookie(c)
	}
	assert.PanicsWithError(t, http.ErrAbortHandler.Error(), func() {
		s.handler.ServeHTTP(&hangsUp{httptest.NewRecorder(), 100_000}, r)
	}, "cut off, and seen to be")
	_, page := v.get("/settings")
	assert.Contains(t, page, "None has been taken yet")
}

// TestWhatNoPageAnswersGetsAPage asks for what is not there, and by methods that pages have not.
func TestWhatNoPageAnswersGetsAPage(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Odo")
	for path, wanted := range map[string]int{
		"/nowhere": 404, "/heads/T0401/nowhere": 404, "/heads/T0401/check/sign": 405, "/sign-out": 405,
	} {
		status, page := v.get(path)
		assert.Equal(t, wanted, status, path)
		assert.Contains(t, page, "<h1", path)
		assert.Contains(t, page, `href="/"`, path)
	}
}

// TestAReadingIsWhoseTypedIt sends a sweep of one person's page in the session of another: nothing is
// written, and the answer says why.
func TestAReadingIsWhoseTypedIt(t *testing.T) {
	s := demoSite(t)
	ilka, odo := s.as(t, "Ilka"), s.as(t, "Odo")
	_, page := ilka.get("/heads/T0407/sweep/valve.margin")
	by := regexp.MustCompile(`name="by" value="(\d+)"`).FindStringSubmatch(page)
	require.Len(t, by, 2)
	tool := regexp.MustCompile(`<option value="(\d+)"[^>]*selected`).
		FindStringSubmatch(page[strings.Index(page, `name="tool"`):])[1]
	form := url.Values{
		"one": {"1I1"}, "by": {by[1]}, "tool": {tool}, "stage": {"as received"}, "v.1I1": {"1.87"},
		"id.1I1": {"THEREADINGOFILKASPAGE00001"},
	}
	status, answer := odo.post("/heads/T0407/sweep/valve.margin", form)
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, answer, "another person")
	_, page = ilka.get("/heads/T0407/sweep/valve.margin")
	assert.NotContains(t, page, `value="1.87"`)
	status, _ = ilka.post("/heads/T0407/sweep/valve.margin", form)
	assert.Less(t, status, 400)
	_, page = ilka.get("/heads/T0407/sweep/valve.margin")
	assert.Contains(t, page, `value="1.87"`)
}
