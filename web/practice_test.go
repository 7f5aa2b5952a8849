package web_test

import (
	"bytes"
	"encoding/json"
	"mime/multipart"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/practice"
	"yatai/core/trade"
	"yatai/internal/shoptest"
)

// beginPractice begins a practice head and returns its address.
func (v *visitor) beginPractice(form url.Values) string {
	v.t.Helper()
	form.Set("write_id", shoptest.ID())
	r, err := http.NewRequest("POST", v.base+"/practice", strings.NewReader(form.Encode()))
	require.NoError(v.t, err)
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	res, err := v.Do(r)
	require.NoError(v.t, err)
	require.NoError(v.t, res.Body.Close())
	require.Equal(v.t, http.StatusSeeOther, res.StatusCode)
	return res.Header.Get("Location")
}

// TestNoPageTellsWhatAPracticeHeadHides walks all pages of a head that is not open, with every trouble there
// is: none names it, none tells its truth when asked, and a part's drawing names no grade.
func TestNoPageTellsWhatAPracticeHeadHides(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Ilka")
	lists := regexp.MustCompile(`(?s)<select.*?</select>|<fieldset.*?</fieldset>`) // they name all there is
	for _, trouble := range practice.Troubles {
		at := v.beginPractice(url.Values{"lesson": {"exam"}, "trouble": {trouble.Code}})
		pages := []string{"", "/say", "/look/valve.face", "/look/stem.condition", "/read/guide.bore", "/read/test.drop"}
		for _, p := range pages {
			status, shown := v.get(at + p)
			require.Equal(t, http.StatusOK, status, p)
			shown = lists.ReplaceAllString(shown, "")
			assert.NotContains(t, shown, trouble.Name, p)
			assert.NotContains(t, shown, trouble.Care.String(), p)
			if c := trade.CauseNamed(trouble.Cause); c != nil {
				assert.NotContains(t, shown, c.Name, p)
			}
			for _, word := range []string{"bounces", "thuds"} {
				assert.LessOrEqual(t, strings.Count(shown, `value="`+word), 1, "it is heard, not told")
			}
		}
		for _, g := range trade.StemSeen.Grades[1:] {
			_, shown := v.get(at + "/look/stem.condition")
			picture := regexp.MustCompile(`(?s)<svg class="seen".*?</svg>`).FindString(shown)
			require.NotEmpty(t, picture)
			assert.NotContains(t, picture, g.Label)
			assert.NotContains(t, picture, g.Code)
		}
		status, to := v.get(at + "/truth")
		assert.Equal(t, http.StatusSeeOther, status, "the truth is not told before it is opened")
		assert.NotContains(t, to, trouble.Name)
	}
	status, _ := s.as(t, "Odo").get("/practice/1")
	assert.Equal(t, http.StatusNotFound, status, "nor to the lead")
}

func TestAPracticeHeadIsSharedWithAWord(t *testing.T) {
	s := demoSite(t)
	odo, ilka := s.as(t, "Odo"), s.as(t, "Ilka")
	at := odo.beginPractice(url.Values{"lesson": {"seats"}})
	status, said := odo.post(at+"/share", url.Values{"word": {"short"}})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, said, "a word of 8 letters at least")
	status, file := odo.post(at+"/share", url.Values{"word": {"four crowns"}})
	require.Equal(t, http.StatusOK, status)
	require.True(t, json.Valid([]byte(file)))
	assert.Equal(t, http.StatusUnprocessableEntity, ilka.takePractice(file, "five crowns"))
	assert.Equal(t, http.StatusSeeOther, ilka.takePractice(file, "four crowns"))
}

// takePractice takes a shared head in, by the page's own form.
func (v *visitor) takePractice(file, word string) int {
	v.t.Helper()
	var b bytes.Buffer
	m := multipart.NewWriter(&b)
	require.NoError(v.t, m.WriteField("write_id", shoptest.ID()))
	require.NoError(v.t, m.WriteField("word", word))
	w, err := m.CreateFormFile("file", "practice.json")
	require.NoError(v.t, err)
	_, err = w.Write([]byte(file))
	require.NoError(v.t, err)
	require.NoError(v.t, m.Close())
	r, err := http.NewRequest("POST", v.base+"/practice/file", &b)
	require.NoError(v.t, err)
	r.Header.Set("Content-Type", m.FormDataContentType())
	status, _ := v.send(r)
	return status
}

func TestPracticeInInches(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Ilka")
	_, _ = v.post("/unit", url.Values{"unit": {"in"}})
	at := v.beginPractice(url.Values{"lesson": {"bore"}})
	for _, p := range []string{"", "/read/guide.bore", "/read/stem.dia", "/say"} {
		_, shown := v.get(at + p)
		for _, text := range readable(t, shown) {
			assert.NotRegexp(t, metric, anyUnit.ReplaceAllString(text, ""), p)
		}
	}
	_, shown := v.get(at + "/read/stem.dia")
	assert.Regexp(t, `<output class="shows fig">0\.3\d{3} in</output>`, shown)
}
