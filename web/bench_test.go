package web_test

import (
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestAStudyIsWorkedOutKeptAndTaken fills a study's form in as two people would.
func TestAStudyIsWorkedOutKeptAndTaken(t *testing.T) {
	v := demoSite(t).as(t, "Runa")
	form := url.Values{
		"what": {"stems in a V-block"}, "parts": {"5"}, "trials": {"2"}, "person/0": {"Ilka"}, "person/1": {"Odo"},
		"write_id": {"study-form-1"},
	}
	for person := range 2 {
		for part := range 5 {
			for trial := range 2 {
				form.Set(fmt.Sprintf("cell.%d.%d.%d", person, part, trial), fmt.Sprintf("7.9%d%d", part, person+trial))
			}
		}
	}
	status, page := v.post("/reference/tools/3/study", form)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "Expanded, k = 2")
	_, tool := v.get("/reference/tools/3")
	assert.NotContains(t, tool, "stems in a V-block", "working it out keeps nothing")

	form.Set("cell.1.3.0", "seven")
	status, page = v.post("/reference/tools/3/study", form)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, `id="say-1.3.0"`)
	assert.Contains(t, page, `value="seven"`)
	assert.Contains(t, page, `value="stems in a V-block"`)

	form.Set("cell.1.3.0", "7.931")
	form.Set("again", "yes")
	form.Set("parts", "7")
	status, page = v.post("/reference/tools/3/study", form)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, `name="cell.0.6.1"`, "two parts more")
	assert.Contains(t, page, `value="7.931"`, "what was typed stays")
	form.Del("again")
	form.Set("parts", "5")
	form.Set("keep", "yes")
	status, _ = v.post("/reference/tools/3/study", form)
	require.Equal(t, http.StatusSeeOther, status)
	_, tool = v.get("/reference/tools/3")
	assert.Contains(t, tool, "stems in a V-block")
	status, _ = v.post("/reference/tools/3/study/1", url.Values{"write_id": {"study-take-1"}})
	assert.Equal(t, http.StatusSeeOther, status)
	_, tool = v.get("/reference/tools/3")
	assert.Contains(t, tool, "The register took it")
	for _, path := range []string{"/reference/tools/99/study", "/reference/tools/x/study", "/reference/tools/x"} {
		status, _ = v.get(path)
		assert.Equal(t, http.StatusNotFound, status, path)
	}
}

// TestAMixedBoxIsSortedBeforeItIsWrittenDown describes loose valves one by one.
func TestAMixedBoxIsSortedBeforeItIsWrittenDown(t *testing.T) {
	v := demoSite(t).as(t, "Ilka")
	form := url.Values{"write_id": {"tray-sort-1"}, "loose/0/name": {"a"}, "loose/0/head": {"fifty"}}
	status, page := v.post("/heads/T0412/tray/sort", form)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, `id="say-loose/0/head"`)
	assert.Contains(t, page, `value="fifty"`)
	form.Set("loose/0/head", "50")
	form.Set("loose/0/ring", "5.0")
	form.Set("loose/0/state", "carbon")
	status, page = v.post("/heads/T0412/tray/sort", form)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "1E1")
	_, tray := v.get("/heads/T0412/tray")
	assert.NotContains(t, tray, "valve inferred", "nothing is written yet")
	form.Set("take", "yes")
	status, _ = v.post("/heads/T0412/tray/sort", form)
	require.Equal(t, http.StatusSeeOther, status)
	_, tray = v.get("/heads/T0412/tray")
	assert.Contains(t, tray, "1E1: valve inferred", "the drawing says so too")
	status, _ = v.post("/heads/T0412/tray/sort", url.Values{"write_id": {"tray-sort-2"}})
	assert.Equal(t, http.StatusUnprocessableEntity, status, "an empty box")
}

// TestAHeadOpensAtTheStepThatIsNow follows the short address of heads at different steps.
func TestAHeadOpensAtTheStepThatIsNow(t *testing.T) {
	v := demoSite(t).as(t, "Ilka")
	for tag, step := range map[string]string{"T0407": "measure", "T0401": "judge", "T0402": "work", "T0408": "handover"} {
		r, err := http.NewRequest("GET", v.base+"/heads/"+tag, nil)
		require.NoError(t, err)
		res, err := v.Do(r)
		require.NoError(t, err)
		_ = res.Body.Close()
		assert.Equal(t, "/heads/"+tag+"/"+step, res.Header.Get("Location"))
	}
}

// TestAReadingThroughBothDoors writes the same reading by the whole form and by a single
// cell, on a page without scripts and with them: each is there once.
func TestAReadingThroughBothDoors(t *testing.T) {
	v := demoSite(t).as(t, "Ilka")
	path := "/heads/T0407/sweep/valve.margin"
	_, page := v.get(path)
	form := formValues(page)
	form.Set("tool", "3")
	form.Set("v.1I1", "1.71")
	form.Set("v.1I2", "1.72")
	form.Set("v.1E1", "thick")
	status, page := v.post(path, form)
	assert.Equal(t, http.StatusUnprocessableEntity, status, "all or none")
	assert.Contains(t, page, `value="thick"`)
	assert.Contains(t, page, `value="1.71"`)
	_, page = v.get(path)
	assert.NotContains(t, page, `value="1.71"`)
	form.Del("v.1E1")
	status, _ = v.post(path, form)
	require.Equal(t, http.StatusSeeOther, status)
	r, err := http.NewRequest(
		"POST", v.base+path,
		strings.NewReader(url.Values{
			"one": {"1I1"}, "stage": {"as received"}, "tool": {"3"}, "v.1I1": {"1.71"}, "id.1I1": {form.Get("id.1I1")},
		}.Encode()),
	)
	require.NoError(t, err)
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	r.Header.Set("HX-Request", "true")
	status, part := v.send(r)
	require.Equal(t, http.StatusOK, status, "sent again after a lost answer")
	assert.Contains(t, part, `id="c-1I1"`)
	assert.Contains(t, part, `id="sweep-map"`)
	assert.NotContains(t, part, `id="c-1I2"`, "the answer is about one reading")
	_, readings := v.get("/heads/T0407/files/readings.csv")
	assert.Equal(t, 1, strings.Count(readings, ",Margin,1I1,"))
	assert.Equal(t, 1, strings.Count(readings, ",Margin,1I2,"))
}
