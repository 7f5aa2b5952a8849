package web_test

import (
	"bytes"
	"fmt"
	"html"
	"image"
	"image/png"
	"mime/multipart"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/demofile"
	"yatai/internal/sample"
)

// TestCustomerSeesItsQuoteAndNothingElse walks the demo's customer link without signing in.
func TestCustomerSeesItsQuoteAndNothingElse(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Maren")
	_, outbox := v.get("/outbox")
	at := strings.Index(outbox, "/q/")
	require.Positive(t, at)
	token := outbox[at+3 : at+29]
	stranger := s.visitor(t)
	status, page := stranger.get("/q/" + token)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "Bran")
	assert.NotContains(t, page, "Fellside", "nobody else's business")
	assert.NotContains(t, page, "/heads/", "no way into the shop")
	status, pdf := stranger.get("/q/" + token + "/quote.pdf")
	assert.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(pdf, "%PDF-"))
	status, _ = stranger.post("/q/"+token, url.Values{"write_id": {"stranger-1"}, "name": {"Somebody"}, "must": {"yes"}})
	assert.Equal(t, http.StatusUnprocessableEntity, status, "the answer is frozen")
	for _, path := range []string{
		"/q/" + token[:25] + "!", "/q/short", "/q/" + token + "/photos/1", "/calendar/guess/yatai.ics",
	} {
		status, _ := stranger.get(path)
		assert.Equal(t, http.StatusNotFound, status, path)
	}
	for _, path := range []string{
		"/heads/T0414/quote", "/heads/T0414/files/report.pdf", "/outbox", "/parts", "/photos/1",
	} {
		status, _ := stranger.get(path)
		assert.Equal(t, http.StatusSeeOther, status, "%s asks to sign in", path)
	}
}

// TestPhotoIsServedAsMade uploads a picture and reads it back.
func TestPhotoIsServedAsMade(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Ilka")
	var pic bytes.Buffer
	require.NoError(t, png.Encode(&pic, image.NewGray(image.Rect(0, 0, 40, 30))))
	send := func(file []byte) (int, string) {
		var b bytes.Buffer
		w := multipart.NewWriter(&b)
		for k, val := range map[string]string{
			"write_id": "photo-" + string(rune('a'+len(file)%26)) + "-test", "caption": "<b>seat</b>", "position": "2E1",
		} {
			require.NoError(t, w.WriteField(k, val))
		}
		part, err := w.CreateFormFile("photo", "x.png")
		require.NoError(t, err)
		_, err = part.Write(file)
		require.NoError(t, err)
		require.NoError(t, w.Close())
		r, err := http.NewRequest("POST", s.URL+"/heads/T0401/photos", &b)
		require.NoError(t, err)
		r.Header.Set("Content-Type", w.FormDataContentType())
		return v.send(r)
	}
	status, _ := send(pic.Bytes())
	require.Equal(t, http.StatusSeeOther, status)
	_, page := v.get("/heads/T0401/photos")
	assert.Contains(t, page, "&lt;b&gt;seat")
	_, img := v.get("/photos/1")
	assert.True(t, strings.HasPrefix(img, "\xff\xd8\xff"))
	status, page = send([]byte("<svg onload=alert(1)>"))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "not a JPEG, PNG or GIF")
	status, _ = send(bytes.Repeat([]byte("x"), 14<<20))
	assert.Equal(t, http.StatusRequestEntityTooLarge, status)
}

// TestEveryOpenLineOfTheFinalCheckLeadsToWhereItIsSettled follows the link of each, on the demo's heads.
func TestEveryOpenLineOfTheFinalCheckLeadsToWhereItIsSettled(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Odo")
	line := regexp.MustCompile(`(?s)<tr class="open">.*?</tr>`)
	link := regexp.MustCompile(`<a href="([^"]+)"><b>`)
	lines, opened := 0, map[string]bool{}
	for tag := 401; tag <= 417; tag++ {
		_, page := v.get(fmt.Sprintf("/heads/T%04d/check", tag))
		for _, row := range line.FindAllString(page, -1) {
			lines++
			to := link.FindStringSubmatch(row)
			require.NotNil(t, to, row)
			if opened[to[1]] {
				continue
			}
			opened[to[1]] = true
			status, _ := v.get(html.UnescapeString(to[1]))
			assert.Equal(t, http.StatusOK, status, to[1])
		}
	}
	assert.Greater(t, lines, 40)
	assert.Greater(t, len(opened), 15, "not all to one page")
}

// TestEveryPageOfEveryHeadOpens opens all there is of all of the demo's heads.
func TestEveryPageOfEveryHeadOpens(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Runa")
	for _, n := range sample.Every(
		4, []int{401, 402, 403, 404, 405, 406, 407, 408, 409, 410, 411, 412, 413, 414, 415, 416},
	) {
		tag := "T0" + string(rune('0'+n/100)) + string(rune('0'+n/10%10)) + string(rune('0'+n%10))
		for _, page := range []string{
			"intake", "earlier", "measure", "map", "map?side=cover&zoom=2", "findings/valve.face", "photos", "tray", "judge",
			"ways",
			"judge?alt=renew", "judge?cut=0.1&hold=yes", "ways?alt=renew", "face", "seats", "guides", "springs", "causes",
			"schools", "quote", "work", "check",
			"handover", "report", "files/report.pdf", "files/readings.csv", "files/readings.xlsx", "files/labels.pdf",
		} {
			if strings.HasPrefix(page, "files/") && n != 401 && n != 406 && n != 414 {
				continue // a PDF takes its time
			}
			status, body := v.get("/heads/" + tag + "/" + page)
			require.Equal(t, http.StatusOK, status, "%s %s", tag, page)
			if !strings.HasPrefix(page, "files/") {
				assert.NotContains(t, body, "%!", "%s %s", tag, page)
			}
		}
	}
	for n := 1; n <= 13; n++ {
		status, _ := v.get("/heads/T0402/work/" + string(rune('0'+n/10)) + string(rune('0'+n%10)))
		assert.Equal(t, http.StatusOK, status)
	}
}

// TestScannedLabelsOpenWhatTheyAreOn types what a scanner reads into the search field.
func TestScannedLabelsOpenWhatTheyAreOn(t *testing.T) {
	v := demoSite(t).as(t, "Ilka")
	for scanned, opens := range map[string]string{
		"T0405": "/heads/T0405", "http://shop.invalid/heads/T0405": "/heads/T0405",
		"http://shop.invalid/heads/T0412/tray": "/heads/T0412",
		"TL-3":                                 "/reference/tools/3",
	} {
		r, err := http.NewRequest("GET", v.base+"/search?q="+url.QueryEscape(scanned), nil)
		require.NoError(t, err)
		res, err := v.Do(r)
		require.NoError(t, err)
		_ = res.Body.Close()
		assert.Equal(t, opens, res.Header.Get("Location"), scanned)
	}
}

// TestMeanIsShownWhereTheSchoolSaysSo switches a head's averaging.
func TestMeanIsShownWhereTheSchoolSaysSo(t *testing.T) {
	v := demoSite(t).as(t, "Odo")
	_, page := v.get("/heads/T0401/at/1E1")
	assert.NotContains(t, page, "<small>mean ")
	status, _ := v.post("/heads/T0401/schools",
		url.Values{"write_id": {"averaging-1"}, "school.averaging": {"mean as well"}})
	require.Equal(t, http.StatusSeeOther, status)
	_, page = v.get("/heads/T0401/at/1E1")
	assert.Contains(t, page, "<small>mean 0.0")
}

// TestASessionEndsWithNobodyAtIt: hours without a page ask for the password again; who comes back in time stays.
func TestASessionEndsWithNobodyAtIt(t *testing.T) {
	var later atomic.Int64
	clock := func() time.Time { return time.Now().Add(time.Duration(later.Load())) }
	s := serveAt(t, demofile.Path(t), clock)
	v := s.as(t, "Ilka")
	for _, x := range []struct {
		hours  float64
		status int
	}{
		{0, http.StatusOK}, {3.9, http.StatusOK}, {7.7, http.StatusOK}, {11.5, http.StatusOK}, {15.6, http.StatusSeeOther},
		{15.6, http.StatusSeeOther},
	} {
		later.Store(int64(x.hours * float64(time.Hour)))
		status, _ := v.get("/me")
		assert.Equal(t, x.status, status, "after %v hours", x.hours)
	}
	status, _ := v.post("/sign-in", url.Values{"name": {"Ilka"}, "password": {"tarn-street-1"}})
	require.Equal(t, http.StatusSeeOther, status)
	status, _ = v.get("/me")
	assert.Equal(t, http.StatusOK, status, "signed in again")
	later.Store(0) // a clock that was wrong
	status, _ = v.get("/me")
	assert.Equal(t, http.StatusOK, status)
}
