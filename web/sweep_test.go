package web_test

import (
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// row is what a sweep says beside a row.
func row(t *testing.T, page, name string) string {
	t.Helper()
	m := regexp.MustCompile(`(?s)<td class="says" id="r-` + name + `"[^>]*>(.*?)</td>`).FindStringSubmatch(page)
	require.Len(t, m, 2, "row %s", name)
	return strings.TrimSpace(regexp.MustCompile(`(?s)<[^>]*>`).ReplaceAllString(m[1], ""))
}

// TestEachLineAndCylinderSaysItsOwn reads what stands beside the lines of a face and a cylinder: each
// speaks for itself, not the worst for all of them.
func TestEachLineAndCylinderSaysItsOwn(t *testing.T) {
	v := demoSite(t).as(t, "Ilka")
	_, page := v.get("/heads/T0401/sweep/face.line")
	assert.Equal(t, "0.040 mm over.", row(t, page, "L1"))
	assert.Equal(t, "0.070 mm over.", row(t, page, "L2"))
	assert.Empty(t, row(t, page, "L3"))
	_, page = v.get("/heads/T0409/sweep/register.depth")
	assert.Equal(t, "0.060 mm over. Spread 0.110.", row(t, page, "C1"))
}

// TestARefusedCorrectionIsNotAllRead corrects a reading of a whole sweep without saying why: the page
// says what is wanted, and not that everything is in the file.
func TestARefusedCorrectionIsNotAllRead(t *testing.T) {
	v := demoSite(t).as(t, "Ilka")
	const sweep, done = "/heads/T0401/sweep/seat.width", "Everything is in the shop"
	_, page := v.get(sweep)
	require.Contains(t, page, done)
	tool := regexp.MustCompile(`data-read-with="(\d+)"`).FindStringSubmatch(page)[1]
	form := url.Values{
		"tool": {tool}, "stage": {"as received"}, "v.1I1": {"1.93"}, "id.1I1": {"ACORRECTIONWITHOUTAWHY0001"},
	}
	status, page := v.post(sweep, form)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "why this corrects it")
	assert.NotContains(t, page, done)
	form.Set("why", "misread the scale")
	status, _ = v.post(sweep, form)
	require.Equal(t, http.StatusSeeOther, status)
	_, page = v.get(sweep)
	assert.Contains(t, page, done)
}

// TestASlipIsAskedAbout: a reading as no head of the model ever had is taken, and asked about beside its row.
func TestASlipIsAskedAbout(t *testing.T) {
	t.Parallel()
	v := demoSite(t).as(t, "Ilka")
	const sweep, asks = "/heads/T0401/sweep/valve.margin", "No Brindlow G4 here was ever read like this"
	_, page := v.get(sweep)
	require.NotContains(t, page, asks, "worn, and no slip")
	tool := regexp.MustCompile(`data-read-with="(\d+)"`).FindStringSubmatch(page)[1]
	status, _ := v.post(sweep, url.Values{
		"tool": {tool}, "stage": {"as received"}, "v.1I1": {"13.5"}, "id.1I1": {"ASLIPOFTHEFINGER0000000001"},
		"why": {"read again"},
	})
	require.Equal(t, http.StatusSeeOther, status)
	_, page = v.get(sweep)
	assert.Regexp(t, asks+`: \d\.\d+ to \d\.\d+ in 1\d heads\. A typing mistake, or another model\?`, row(t, page, "1I1"))
	assert.NotContains(t, row(t, page, "1E1"), asks)
}
