package web_test

import (
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/calc"
	"yatai/internal/sample"
)

// metric is a figure in a unit that nobody who works in inches reads.
var metric = regexp.MustCompile(`[0-9] ?(?:mm|µm|um|N|kPa)\b`)

// anyUnit is what keeps its unit whoever reads it: parts by the name they are sold under, slopes, roughness,
// and what somebody wrote, records and readings as they were typed among it,
// and the loads in the drawing of a spring, which calculators share.
// The report tells the quote's reasons as they were sent.
var anyUnit = regexp.MustCompile(
	`[0-9.]+(?: to [0-9.]+)? mm, allowed [^()]* mm|Stem seal [0-9.]+ mm|notch(?:es)?, [0-9.]+ mm` +
		`|[-0-9. /]+ um per m|[0-9.]+ um Ra|[89] mm(?: long)?, dye holds|6 mm pins|on the 8 mm ring` +
		`|0.05 mm \(0.002 in\)|1 in = 25.4 mm exactly.*|definition of the inch, 25.4 mm|nearest 0.1 mm|40 um out over 92 mm` +
		`|(?:8[0-9] ?)+kPa(?: of 84kPa)?|84kPa|^[0-9]+ N$`,
)

// TestWhoWorksInInchesReadsInches walks the pages of every head, and what they hang on, as somebody who
// works in inches: no length, load or vacuum is in another unit. Bare numbers on them are inches
// too, see the test after. Not among them: the quote and its reasons, which are in the unit of the
// head's sheet on screen as on paper, and history, which says what was written then.
func TestWhoWorksInInchesReadsInches(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Runa")
	status, _ := v.post("/unit", url.Values{"unit": {"in"}})
	require.Equal(t, http.StatusSeeOther, status)
	pages := []string{
		"/", "/today", "/wall", "/reference", "/settings", "/settings/labour", "/follow-up", "/customers", "/customers/1", "/customers/1/fleet",
		"/outbox", "/in-out",
	}
	for i := range 6 {
		pages = append(pages, fmt.Sprintf("/reference/models/%d", i+1), fmt.Sprintf("/reference/models/%d/face", i+1),
			fmt.Sprintf("/reference/tools/%d", i+1))
	}
	for _, c := range sample.Every(4, calc.All()) {
		pages = append(pages, "/reference/calc/"+c.Name)
	}
	heads := []int{401, 402, 404, 405, 406, 409, 411, 412, 413, 414, 415, 416}
	for _, n := range sample.Every(2, heads) {
		at := fmt.Sprintf("/heads/T%04d", n)
		for _, p := range []string{
			"/measure", "/tray", "/newparts", "/judge", "/ways", "/work", "/check", "/report", "/guides", "/seats", "/face",
			"/springs", "/causes",
			"/earlier", "/map", "/handover", "/schools", "/correct", "/photos",
			"/sweep/guide.bore", "/sweep/face.line", "/sweep/lash", "/sweep/valve.recession", "/findings/valve.face", "/at/1I1",
			"/at/1E1",
		} {
			pages = append(pages, at+p)
		}
		for seq := range 12 {
			pages = append(pages, fmt.Sprintf("%s/work/%d", at, seq+1))
		}
	}
	read := 0
	for _, p := range pages {
		code, page := v.get(p)
		if code != http.StatusOK {
			continue
		}
		read++
		var left []string
		for _, text := range readable(t, page) {
			if metric.MatchString(anyUnit.ReplaceAllString(text, "")) {
				left = append(left, text)
			}
		}
		slices.Sort(left)
		assert.Empty(t, slices.Compact(left), p)
	}
	assert.Greater(t, read, len(pages)*2/3)
}

// TestAProofTypedInInchesIsInches types a bare number where the page shows inches.
func TestAProofTypedInInchesIsInches(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Ilka")
	status, _ := v.post("/unit", url.Values{"unit": {"in"}})
	require.Equal(t, http.StatusSeeOther, status)
	const sheet = "/heads/T0402/work/4"
	_, page := v.get(sheet)
	require.Contains(t, page, `name="unit" value="in"`)
	form := formValues(page)
	status, _ = v.post(sheet+"/prove", url.Values{
		"write_id": {"proof-in-inches-1"}, "unit": {"in"}, "tool": form["tool"], "proof.2E1": {"0.2370"},
	})
	require.Equal(t, http.StatusSeeOther, status)
	_, page = v.get(sheet)
	assert.Contains(t, page, "0.2370 in")
}

// TestToolsAndPartsAreTypedInInches by who works in them: bare numbers are inches, what stands in a field is exact,
// and kept again it is what it was.
func TestToolsAndPartsAreTypedInInches(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Runa")
	status, _ := v.post("/unit", url.Values{"unit": {"in"}})
	require.Equal(t, http.StatusSeeOther, status)
	_, page := v.get("/reference")
	assert.Contains(t, page, "Reads to, in ")
	status, _ = v.post("/reference/tools", url.Values{
		"write_id": {"a-tool-in-inches"}, "unit": {"in"}, "name": {"Inch micrometer"}, "kind": {"micrometer"},
		"resolution": {".0001"}, "u": {"0.0002"}, "standard": {"1"}, "tolerance": {"0.00005"},
	})
	require.Equal(t, http.StatusSeeOther, status)
	_, page = v.get("/reference")
	at := regexp.MustCompile(`/reference/tools/\d+">Inch micrometer`).FindString(page)
	require.NotEmpty(t, at)
	at, _, _ = strings.Cut(at, `"`)
	_, page = v.get(at)
	form := formValues(page)
	for name, is := range map[string]string{
		"resolution": "0.0001", "u": "0.0002", "standard": "1", "tolerance": "0.00005",
	} {
		assert.Equal(t, is, form.Get(name), name)
	}
	status, _ = v.post(at, url.Values{"write_id": {"a-check-in-inches"}, "read": {"1.0001"}})
	require.Equal(t, http.StatusSeeOther, status)
	_, page = v.get(at)
	assert.Contains(t, page, "1.0001 in")

	status, _ = v.post("/parts/add", url.Values{
		"write_id": {"a-part-in-inches"}, "unit": {"in"}, "kind": {"spring shim"}, "name": {"Shim 030"}, "size": {".030"},
		"count": {"4"}, "price": {"1.20"},
	})
	require.Equal(t, http.StatusSeeOther, status)
	_, page = v.get("/parts")
	assert.Contains(t, page, `value="0.03"`, "a size of inches")
	assert.Regexp(t, `value="[0-9.]+ mm"`, page, "one of millimetres says so")
}
