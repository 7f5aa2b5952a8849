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

// sent quotes a head of the demo and returns the customer's link.
func sent(t *testing.T, s *site, tag string) string {
	t.Helper()
	lead, front := s.as(t, "Odo"), s.as(t, "Maren")
	_, page := lead.get("/heads/" + tag + "/judge")
	form := url.Values{"write_id": {"customer-decide-" + tag}}
	for _, m := range regexp.MustCompile(`name="in/([^"]+)" value="([^"]+)"`).FindAllStringSubmatch(page, -1) {
		form.Set("in/"+m[1], m[2])
	}
	for _, m := range regexp.MustCompile(`name="group/([^"]+)"`).FindAllStringSubmatch(page, -1) {
		form.Set("group/"+m[1], "leave")
		form.Set("reason/"+m[1], "read twice")
	}
	for _, m := range regexp.MustCompile(`name="group/([^"]+)" value="([^"]+)" checked`).FindAllStringSubmatch(page, -1) {
		form.Set("group/"+m[1], m[2])
	}
	status, body := lead.post("/heads/"+tag+"/judge", form)
	require.Equal(t, http.StatusSeeOther, status, body)
	status, body = front.post("/heads/"+tag+"/quote/make",
		url.Values{"write_id": {"customer-make-" + tag}, "note": {"as told on the telephone"}})
	require.Equal(t, http.StatusSeeOther, status, body)
	status, body = front.post("/heads/"+tag+"/quote/send",
		url.Values{"write_id": {"customer-send-" + tag}, "version": {"1"}, "to": {"grower@mossfield.invalid"}})
	require.Equal(t, http.StatusSeeOther, status, body)
	_, outbox := front.get("/outbox")
	m := regexp.MustCompile(`/q/([A-Z0-9]{26})`).FindStringSubmatch(outbox) // the newest comes first
	require.NotNil(t, m)
	return "/q/" + m[1]
}

// TestACustomerChoosesAsksAndAnswers reads the quote as a stranger with its link.
func TestACustomerChoosesAsksAndAnswers(t *testing.T) {
	s := demoSite(t)
	link := sent(t, s, "T0401")
	c := s.visitor(t)
	status, page := c.get(link)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "Ways to go about it")
	assert.Contains(t, page, "as told on the telephone")
	assert.NotContains(t, page, "/heads/")
	status, pdf := c.get(link + "/quote.pdf")
	require.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(pdf, "%PDF-"))

	status, page = c.post(link, url.Values{"write_id": {"customer-say-1"}, "must": {"yes"}})
	assert.Equal(t, http.StatusUnprocessableEntity, status, "an answer has a name")
	assert.Contains(t, page, `id="say-name"`)
	status, _ = c.post(link, url.Values{"write_id": {"customer-say-2"}, "name": {"The grower"}, "call": {"yes"}})
	require.Equal(t, http.StatusSeeOther, status)
	_, page = c.get(link)
	assert.Contains(t, page, "Ways to go about it", "asking for a call answers nothing yet")
	status, _ = c.post(link, url.Values{"write_id": {"customer-say-3"}, "name": {"The grower"}, "must": {"yes"}})
	require.Equal(t, http.StatusSeeOther, status)
	_, page = c.get(link + "?said=1")
	assert.NotContains(t, page, "Ways to go about it", "there is nothing left to choose")
	assert.Contains(t, page, "The grower")
	status, _ = c.post(link, url.Values{"write_id": {"customer-say-4"}, "name": {"Somebody else"}, "must": {"yes"}})
	assert.Equal(t, http.StatusUnprocessableEntity, status, "the answer is frozen")
	front := s.as(t, "Maren")
	_, page = front.get("/heads/T0401/quote")
	assert.Contains(t, page, "The grower")
	status, pdf = front.get("/heads/T0401/quote/1/quote.pdf")
	require.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(pdf, "%PDF-"))
	status, _ = front.get("/heads/T0401/quote/9/quote.pdf")
	assert.Equal(t, http.StatusNotFound, status)

	// it goes back with something owed: the customer's page has the bill, and no other's
	status, _ = front.post("/heads/T0401/handover/end", url.Values{
		"write_id": {"customer-end-1"}, "kind": {"withdrawn"}, "why": {"sold"}, "state": {"whole"}, "owed": {"45.00"},
	})
	require.Equal(t, http.StatusSeeOther, status)
	status, _ = front.post("/heads/T0401/bill/issue", url.Values{"write_id": {"customer-bill-1"}})
	require.Equal(t, http.StatusSeeOther, status)
	_, page = c.get(link)
	m := regexp.MustCompile(link + `/bill/([0-9-]+)\.pdf`).FindStringSubmatch(page)
	require.NotNil(t, m)
	assert.Contains(t, page, "45.00")
	status, pdf = c.get(m[0])
	require.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(pdf, "%PDF-"))
	status, _ = c.get(link + "/bill/1999-0001.pdf")
	assert.Equal(t, http.StatusNotFound, status)
	status, _ = c.get("/heads/T0401/bill")
	assert.Equal(t, http.StatusSeeOther, status, "a stranger signs in first")
}
