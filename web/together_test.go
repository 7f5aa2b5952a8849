package web_test

import (
	"fmt"
	"html"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestFiveBenchesAndThreeReaders lets five people sweep one head while others look at it:
// every reading is there once, and everybody is answered.
func TestFiveBenchesAndThreeReaders(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Odo")
	u, err := url.Parse(s.URL)
	require.NoError(t, err)
	cookies := v.Jar.Cookies(u)
	ask := func(method, path, body string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(method, path, strings.NewReader(body))
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		r.Header.Set("HX-Request", "true")
		for _, c := range cookies {
			r.AddCookie(c)
		}
		w := httptest.NewRecorder()
		s.handler.ServeHTTP(w, r)
		return w
	}
	_, page := v.get("/heads/T0407/sweep/guide.bore")
	var keys []string
	for _, m := range regexp.MustCompile(`data-key="([^"]+)"`).FindAllStringSubmatch(page, -1) {
		keys = append(keys, m[1])
	}
	require.Len(t, keys, 144)
	var benches, readers sync.WaitGroup
	done := make(chan struct{})
	for _, path := range []string{"/heads/T0407/judge", "/heads/T0407/sweep/guide.bore", "/"} {
		readers.Go(func() {
			for {
				select {
				case <-done:
					return
				default:
					assert.Equal(t, http.StatusOK, ask("GET", path, "").Code, path)
				}
			}
		})
	}
	for bench := range 5 {
		benches.Go(func() {
			for i := bench; i < 50; i += 5 {
				key := keys[i]
				form := url.Values{
					"one": {key}, "stage": {"as received"}, "tool": {"1"}, "v." + key: {fmt.Sprintf("9.0%02d", i)},
					"id." + key: {fmt.Sprintf("together-%d", i)},
				}.Encode()
				for range 2 { // the network is bad: everything is sent twice
					assert.Equal(t, http.StatusOK, ask("POST", "/heads/T0407/sweep/guide.bore", form).Code, key)
				}
			}
		})
	}
	benches.Wait()
	close(done)
	readers.Wait()
	_, page = v.get("/heads/T0407/sweep/guide.bore")
	for i, key := range keys[:50] {
		assert.Contains(t, page, fmt.Sprintf(`name="v.%s" value="9.0%02d"`, key, i))
	}
	_, readings := v.get("/heads/T0407/files/readings.json")
	assert.Equal(
		t, 50,
		strings.Count(readings, `"characteristic": "guide.bore"`)+strings.Count(readings, `"characteristic":"guide.bore"`),
	)
}

// TestTwoPeopleOnTheSettings: what one changed and the other only saw stays; what both changed
// is told to the second, with both, and kept only when it is kept once more.
func TestTwoPeopleOnTheSettings(t *testing.T) {
	v := demoSite(t).as(t, "Runa")
	_, was := v.get("/settings")
	form := func(page, write string, typed ...string) url.Values {
		f := url.Values{"write_id": {"two-people-" + write}}
		for _, m := range regexp.MustCompile(`name="seen/([^"]+)" value="([^"]*)"`).FindAllStringSubmatch(page, -1) {
			was := html.UnescapeString(m[2])
			f.Set("seen/"+m[1], was)
			f.Set(m[1], was)
		}
		require.Greater(t, len(f), 20)
		for i := 0; i < len(typed); i += 2 {
			f.Set(typed[i], typed[i+1])
		}
		return f
	}
	field := func(name string) string {
		_, page := v.get("/settings")
		return regexp.MustCompile(`name="` + name + `"[^>]*\svalue="([^"]*)"`).FindStringSubmatch(page)[1]
	}
	status, _ := v.post("/settings", form(was, "first", "quote_days", "30", "shop_phone", "21"))
	require.Equal(t, http.StatusSeeOther, status)

	status, _ = v.post("/settings", form(was, "apart", "recheck_days", "60"))
	require.Equal(t, http.StatusSeeOther, status)
	assert.Equal(t, []string{"30", "21", "60"}, []string{field("quote_days"), field("shop_phone"), field("recheck_days")},
		"nobody's is lost")

	status, both := v.post("/settings", form(was, "both", "quote_days", "14", "recheck_days", "90"))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, both, "another person made it &#34;30&#34; meanwhile")
	assert.Contains(t, both, "another person made it &#34;60&#34; meanwhile")
	assert.Regexp(t, `name="quote_days"[^>]* value="14"`, both, "what was typed is kept")
	assert.Regexp(t, `name="shop_phone"[^>]* value="21"`, both, "what was only seen is as it stands now")
	assert.Equal(t, []string{"30", "60"}, []string{field("quote_days"), field("recheck_days")}, "nothing was written")

	again := form(both, "again", "quote_days", "14")
	status, _ = v.post("/settings", again)
	require.Equal(t, http.StatusSeeOther, status)
	assert.Equal(t, []string{"14", "21", "60"}, []string{field("quote_days"), field("shop_phone"), field("recheck_days")})
}

// TestTwoPeopleDeciding: a decision made after the page was is told before it is replaced, and
// what was chosen is kept.
func TestTwoPeopleDeciding(t *testing.T) {
	s := demoSite(t)
	first, second := s.as(t, "Odo"), s.as(t, "Runa")
	const path, key = "/heads/T0401/judge", "valve.margin@2E1"
	seen := func(page string) string {
		return regexp.MustCompile(`name="seen" value="(\d+)"`).FindStringSubmatch(page)[1]
	}
	form := func(write, seen, reason string) url.Values {
		return url.Values{
			"write_id": {"deciding-" + write}, "seen": {seen}, "group/" + key: {"leave"}, "reason/" + key: {reason},
		}
	}
	_, page := first.get(path)
	was := seen(page)
	status, _ := first.post(path, form("first", was, "it runs in a mild engine"))
	require.Equal(t, http.StatusSeeOther, status)

	status, page = second.post(path, form("second", was, "the customer wants it so"))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "Odo decided meanwhile: left: it runs in a mild engine.")
	assert.Contains(t, page, "the customer wants it so", "what was typed is kept")
	_, page = first.get("/heads/T0401/report")
	assert.Contains(t, page, "it runs in a mild engine", "nothing was written")

	_, page = second.get(path)
	status, _ = second.post(path, form("knowing", seen(page), "the customer wants it so"))
	require.Equal(t, http.StatusSeeOther, status)
	status, _ = first.post(path, form("the-same", was, "the customer wants it so"))
	assert.Equal(t, http.StatusSeeOther, status, "what agrees is no clash")

	_, page = first.get(path)
	byPlan := form("by-the-plan", seen(page), "")
	byPlan.Set("group/"+key, "planned")
	status, _ = first.post(path, byPlan)
	assert.Equal(t, http.StatusSeeOther, status, "the plan of the whole head answers it")
}

// TestTwoPeopleWritingAQuote: the second is told of the first's, loses no word of hers, and may write
// hers after it.
func TestTwoPeopleWritingAQuote(t *testing.T) {
	s := demoSite(t)
	const path = "/heads/T0414/quote"
	maren, odo := s.as(t, "Maren"), s.as(t, "Odo")
	_, page := maren.get(path)
	seen := regexp.MustCompile(`name="seen" value="(\d+)"`).FindStringSubmatch(page)[1]
	form := func(write, seen, note string) url.Values {
		return url.Values{
			"write_id": {"quoting-" + write}, "seen": {seen}, "note": {note}, "free": {"Fetched and brought back = 35"},
		}
	}
	status, _ := odo.post(path+"/make", form("odo", seen, "first"))
	require.Equal(t, http.StatusSeeOther, status)
	status, told := maren.post(path+"/make", form("maren", seen, "hers"))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, told, "Odo wrote supplement")
	assert.Contains(t, told, `value="hers"`)
	assert.Contains(t, told, "Fetched and brought back = 35")
	now := regexp.MustCompile(`name="seen" value="(\d+)"`).FindStringSubmatch(told)[1]
	assert.NotEqual(t, seen, now)
	status, _ = maren.post(path+"/make", form("maren again", now, "hers"))
	assert.Equal(t, http.StatusSeeOther, status)
}

// TestTwoPeopleOnTheSchools: what both changed is told with what it is, and nothing is written.
func TestTwoPeopleOnTheSchools(t *testing.T) {
	s := demoSite(t)
	const path = "/heads/T0401/schools"
	odo, runa := s.as(t, "Odo"), s.as(t, "Runa")
	form := func(write, face, lapping string) url.Values {
		return url.Values{
			"write_id": {"schools-" + write}, "school.face": {face}, "seen/school.face": {""}, "school.lapping": {lapping},
			"seen/school.lapping": {""},
		}
	}
	status, _ := odo.post(path, form("odo", "first", ""))
	require.Equal(t, http.StatusSeeOther, status)
	status, _ = runa.post(path, form("apart", "", "always"))
	require.Equal(t, http.StatusSeeOther, status, "what she only saw stays as he has made it")
	status, told := runa.post(path, form("both", "last", "never"))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, told, "another person made it &#34;first&#34; meanwhile")
	assert.Regexp(t, `<option selected>last</option>`, told, "what was chosen is kept")
	_, page := odo.get(path)
	assert.Regexp(t, `(?s)name="school.face".*?<option selected>first</option>`, page)
}
