package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/sample"
)

// sendFile takes a head in from a file, by the page's own form, and returns its tag.
func (v *visitor) sendFile(file []byte, write string) string {
	v.t.Helper()
	var b bytes.Buffer
	m := multipart.NewWriter(&b)
	for k, x := range map[string]string{"write_id": write, "customer": "Skelter Quarry", "machine": "Pump " + write} {
		require.NoError(v.t, m.WriteField(k, x))
	}
	w, err := m.CreateFormFile("file", "head.json")
	require.NoError(v.t, err)
	_, err = w.Write(file)
	require.NoError(v.t, err)
	require.NoError(v.t, m.Close())
	r, err := http.NewRequest("POST", v.base+"/take-in/file", &b)
	require.NoError(v.t, err)
	r.Header.Set("Content-Type", m.FormDataContentType())
	res, err := v.Do(r)
	require.NoError(v.t, err)
	defer func() { _ = res.Body.Close() }()
	body, _ := io.ReadAll(res.Body)
	require.Equal(v.t, http.StatusSeeOther, res.StatusCode, "%s",
		regexp.MustCompile(`class="invalid-feedback"[^>]*>[^<]*`).FindString(string(body)))
	return strings.TrimPrefix(res.Header.Get("Location"), "/heads/")
}

// TestEveryPageOfAnyHeadOpens takes heads of many kinds into a new shop: other engines, drives,
// troubles and states of work. Every page of them opens; those not ordered yet are decided by
// what is ticked, quoted, and ordered.
func TestEveryPageOfAnyHeadOpens(t *testing.T) {
	s := serve(t, filepath.Join(t.TempDir(), "new.db"))
	v := s.visitor(t)
	status, _ := v.post(
		"/first", url.Values{"name": {"Vera"}, "password": {"tarn-street-1"}, "pin": {"2468"}, "unit": {"mm"}},
	)
	require.Equal(t, http.StatusSeeOther, status)
	files, err := filepath.Glob("../core/answer/testdata/*.json")
	require.NoError(t, err)
	ordered := 0
	for i, name := range sample.Every(4, files) {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		var sc struct{ Head json.RawMessage }
		require.NoError(t, json.Unmarshal(data, &sc))
		tag := v.sendFile(sc.Head, fmt.Sprintf("any-head-%02d", i))
		open := func(page string) string {
			status, body := v.get("/heads/" + tag + "/" + page)
			require.Equal(t, http.StatusOK, status, "%s (%s) %s", tag, filepath.Base(name), page)
			assert.NotContains(t, body, "%!", "%s %s", tag, page)
			return body
		}
		for _, page := range []string{
			"intake", "measure", "map", "findings/valve.face", "tray", "judge", "judge?alt=robust", "ways", "face", "seats",
			"guides", "springs",
			"causes", "schools", "quote", "work", "check", "handover", "report", "head.json", "at/1I1",
		} {
			open(page)
		}
		judge := open("judge")
		if !strings.Contains(judge, `name="then" value="keep"`) {
			continue
		}
		form := url.Values{"write_id": {fmt.Sprintf("decide-any-%02d", i)}, "then": {"keep"}}
		for _, m := range regexp.MustCompile(`name="in/([^"]+)" value="([^"]+)"`).FindAllStringSubmatch(judge, -1) {
			form.Set("in/"+m[1], m[2])
		}
		for _, m := range regexp.MustCompile(`name="group/([^"]+)" value="([^"]+)" checked`).
			FindAllStringSubmatch(judge, -1) {
			form.Set("group/"+m[1], m[2])
			if m[2] == "leave" {
				form.Set("reason/"+m[1], "the customer knows")
			}
		}
		for _, m := range regexp.MustCompile(`name="reason/([^"/]+(?:/(?:m\d+|long|cross|diagonal))?)"`).
			FindAllStringSubmatch(judge, -1) {
			if form.Get("group/"+m[1]) == "" {
				form.Set("group/"+m[1], "leave")
				form.Set("reason/"+m[1], "the customer knows")
			}
		}
		status, page := v.post("/heads/"+tag+"/judge", form)
		if status == http.StatusUnprocessableEntity { // two answers to one metal: the page says so
			said := regexp.MustCompile(`class="invalid-feedback"[^>]*>[^<]*`).FindString(page)
			assert.Contains(t, said, "one of them, not both", "%s %s", tag, filepath.Base(name))
			continue
		}
		require.Equal(t, http.StatusSeeOther, status, tag)
		status, page = v.post("/heads/"+tag+"/quote/make", url.Values{"write_id": {fmt.Sprintf("quote-any-%02d", i)}})
		require.Equal(t, http.StatusSeeOther, status, "%s %s: %s", tag, filepath.Base(name),
			regexp.MustCompile(`class="invalid-feedback"[^>]*>[^<]*`).FindString(page))
		open("quote")
		status, _ = v.post("/heads/"+tag+"/judge",
			url.Values{"write_id": {fmt.Sprintf("order-any-%02d", i)}, "then": {"order"}})
		require.Equal(t, http.StatusSeeOther, status, tag)
		ordered++
		for n := 1; n <= strings.Count(open("work"), `/work/`)/3; n++ {
			status, _ := v.get(fmt.Sprintf("/heads/%s/work/%d", tag, n))
			if status == http.StatusNotFound {
				break
			}
			require.Equal(t, http.StatusOK, status, "%s sheet %d", tag, n)
		}
		open("check")
	}
	assert.Greater(t, ordered, sample.Times(5, 15))
	for _, page := range []string{"/", "/week", "/parts", "/reference", "/settings", "/follow-up"} {
		status, _ := v.get(page)
		assert.Equal(t, http.StatusOK, status, page)
	}
}
