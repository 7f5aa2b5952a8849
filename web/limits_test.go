package web_test

import (
	"bytes"
	"errors"
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
	look := func(text string) (int, string) {
		var b bytes.Buffer
		w := multipart.NewWriter(&b)
		require.NoError(t, errors.Join(w.WriteField("kind", "limits"), w.WriteField("model", "1"),
			w.WriteField("pasted", text), w.Close()))
		r, err := http.NewRequest("POST", s.URL+"/in-out/look", &b)
		require.NoError(t, err)
		r.Header.Set("Content-Type", w.FormDataContentType())
		return v.send(r)
	}
	status, page := look("characteristic,role,unit,low,high,source\nseat.width,intake,mm,1.11,2.22,leaflet <b>7</b>\n" +
		"Colour of the seat,,mm,1,2,leaflet\n")
	require.Equal(t, http.StatusOK, status)
	assert.Regexp(t, "1.11 to 2.22 mm[^;]*; leaflet &lt;b&gt;7&lt;/b&gt;", page)
	assert.Contains(t, page, "a sheet of this model has no line called so")
	_, stands := v.get("/reference/models/1")
	assert.NotContains(t, stands, `value="1.11"`)
	to, form := formAt(t, "/in-out/look", page, "/in-out/look")
	assert.Equal(t, "role", form.Get("as.1"))
	form.Set("line.3", "seat.runout/exhaust")
	status, page = v.post(to, form)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "Seat runout exhaust", "which line it is was said")
	status, _ = v.post("/in-out/take", form)
	require.Equal(t, http.StatusSeeOther, status)
	_, stands = v.get("/reference/models/1")
	assert.Contains(t, stands, `value="1.11"`)

	status, page = look("   ")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "choose a CSV or XLSX file, or paste a table")
	status, file := v.get("/reference/models/1/limits.csv")
	require.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(file, "Characteristic,Intake or exhaust,From,To,Near it,Unit,Which limits,"))
	status, file = v.get("/in-out/templates/limits.xlsx")
	require.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(file, "PK"))
	status, _ = v.get("/in-out/templates/toys.xlsx")
	assert.Equal(t, http.StatusNotFound, status)
}

// TestRowsToBeMendedComeAsAFile looks at a table with a bad row, has that as a file before it is taken and
// after.
func TestRowsToBeMendedComeAsAFile(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Odo")
	status, page := v.post("/in-out/look", url.Values{
		"kind": {"customers"}, "pasted": {"Name\tTelephone\tDiscount\nBrook\t0117\t5\nHill\t0118\t500\n"},
	})
	require.Equal(t, http.StatusOK, status)
	_, form := formAt(t, "/in-out/look", page, "/in-out/look")
	status, file := v.post("/in-out/left", form)
	require.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(file, "Name,Telephone,Discount,What is wrong\nHill,0118,500,"))
	status, _ = v.post("/in-out/take", form)
	require.Equal(t, http.StatusSeeOther, status)
	_, page = v.get("/in-out")
	at := regexp.MustCompile(`/in-out/[0-9]+/left.csv`).FindString(page)
	require.NotEmpty(t, at)
	_, again := v.get(at)
	assert.Equal(t, file, again)
	for _, bad := range []string{"/in-out/999/left.csv", "/in-out/x/left.csv"} {
		status, _ = v.get(bad)
		assert.Equal(t, http.StatusNotFound, status)
	}
	assert.NotContains(t, page, `value="limits"`, "the owner's alone")
	for _, to := range []string{"/in-out/left", "/in-out/take", "/in-out/look"} {
		status, page = s.as(t, "Runa").post(to, form)
		assert.Equal(t, http.StatusUnprocessableEntity, status, "another person's file")
		assert.Contains(t, page, "choose it again")
	}
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
