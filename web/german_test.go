package web_test

import (
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"yatai/core/trade"
	"yatai/internal/demofile"
	"yatai/store"
)

// readable lists the texts of a page that somebody reads or hears: what stands in it, its labels,
// titles and hints.
func readable(t *testing.T, page string) []string {
	root, err := html.Parse(strings.NewReader(page))
	require.NoError(t, err)
	var out []string
	var walk func(*html.Node)
	walk = func(n *html.Node) {
		if n.Type == html.ElementNode && (n.Data == "script" || n.Data == "style") {
			return
		}
		if n.Type == html.TextNode {
			out = append(out, strings.Join(strings.Fields(n.Data), " "))
		}
		for _, name := range []string{"aria-label", "title", "placeholder", "alt"} {
			out = append(out, attr(n, name))
		}
		for c := range n.ChildNodes() {
			walk(c)
		}
	}
	walk(root)
	return out
}

// given lists what is data in a shop and so is alike in every language: names of people, models,
// tools, parts, customers and machines, what somebody typed, units.
func given(t *testing.T) *regexp.Regexp {
	st, err := store.Open(demofile.Path(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	db := st.Read(t.Context())
	names := []string{"Yatai", "Tarn Street Head Works", "Enter", "Deutsch", "English", "mm", "in"}
	people, err := db.Users()
	require.NoError(t, err)
	for _, p := range people {
		names = append(names, p.Name)
	}
	models, err := db.Models()
	require.NoError(t, err)
	for _, m := range models {
		names = append(names, m.Name)
	}
	tools, err := db.Tools()
	require.NoError(t, err)
	for _, tool := range tools {
		names = append(names, tool.Name)
	}
	stock, err := db.StockItems()
	require.NoError(t, err)
	for _, s := range stock {
		names = append(names, s.Name)
	}
	heads, err := db.SearchHeads("", "", "", 100)
	require.NoError(t, err)
	for _, h := range heads {
		names = append(names, h.Job.Customer.Name, h.Job.Machine.Name)
	}
	for _, c := range trade.Characteristics {
		if c.Unit.Name != "" {
			names = append(names, c.Unit.Name)
		}
	}
	slices.SortFunc(names, func(a, b string) int { return len(b) - len(a) }) // the longest first
	for i := range names {
		names[i] = regexp.QuoteMeta(names[i])
	}
	return regexp.MustCompile(`\b(` + strings.Join(names, "|") + `)\b`)
}

// word is more than a unit or an abbreviation.
var word = regexp.MustCompile(`\b[A-Za-z]?[a-z]{3,}`)

// untranslated lists the texts of a German page that its English one has too, but for data and
// what was typed.
func untranslated(t *testing.T, english, german string, data *regexp.Regexp, typed ...string) []string {
	said := readable(t, english)
	var out []string
	for _, text := range readable(t, german) {
		if slices.Contains(said, text) && word.MatchString(data.ReplaceAllString(text, "")) && !slices.Contains(typed, text) {
			out = append(out, text)
		}
	}
	return out
}

// TestNothingEnglishIsLeftAtAGermanBench reads each page of the bench and the work sheets in both
// languages. A text that is the same in both is data, or was forgotten.
func TestNothingEnglishIsLeftAtAGermanBench(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Runa")
	data := given(t)
	pages := []string{"/me", "/heads/none"}
	for _, h := range []string{"T0401", "T0402", "T0404", "T0405", "T0412", "T0414"} {
		at := "/heads/" + h
		pages = append(pages, at+"/measure", at+"/map", at+"/tray", at+"/newparts", at+"/findings/valve.face",
			at+"/findings/seat.condition")
		for _, code := range []string{
			"guide.bore", "stem.dia", "seat.runout", "face.line", "test.vacuum", "test.drop", "lash", "valve.recession",
			"spring.load_seat", "face.grid",
		} {
			pages = append(pages, at+"/sweep/"+code)
		}
	}
	for _, h := range []string{"T0402", "T0405", "T0406", "T0415"} {
		for seq := 1; seq < 7; seq++ {
			pages = append(pages, "/heads/"+h+"/work/"+strconv.Itoa(seq))
		}
	}
	said := map[string][]string{}
	for _, code := range []string{"en", "de"} {
		status, _ := v.post("/me/language", url.Values{"language": {code}, "decimal": {"point"}})
		require.Equal(t, http.StatusSeeOther, status)
		for _, p := range pages {
			status, page := v.get(p)
			require.Equal(t, p != "/heads/none", status == http.StatusOK, "%s: %d", p, status)
			said[code] = append(said[code], page)
		}
	}
	for i, p := range pages {
		left := untranslated(t, said["en"][i], said["de"][i], data, "Ring, mm",
			"stitched cold with 6 mm pins, Odo, certificate on the wall")
		assert.Empty(t, left, p)
	}
}

// TestNothingEnglishIsLeftOnAGermanCustomersPage sends a quote, and reads it before and after the
// customer's language is changed; also what is said of a mistaken answer.
func TestNothingEnglishIsLeftOnAGermanCustomersPage(t *testing.T) {
	s := demoSite(t)
	data := given(t)
	front, c := s.as(t, "Maren"), s.visitor(t)
	for _, tag := range []string{"T0401", "T0413"} {
		link := sent(t, s, tag)
		read := func() (out []string) {
			_, page := c.get(link)
			_, refused := c.post(link, url.Values{"write_id": {"german-" + tag}, "must": {"yes"}})
			return []string{page, refused}
		}
		english := read()
		_, head := front.get("/heads/" + tag + "/intake")
		customer := regexp.MustCompile(`/customers/[0-9]+`).FindString(head)
		require.NotEmpty(t, customer)
		_, page := front.get(customer)
		form := formValues(page)
		form.Set("language", "de")
		status, page := front.post(customer, form)
		require.Equal(t, http.StatusSeeOther, status, page)
		for i, german := range read() {
			require.Contains(t, german, `lang="de"`)
			assert.Empty(t, untranslated(t, english[i], german, data, "as told on the telephone"), tag)
		}
	}
}

// TestMistakesAndRecordsAreSaidInGerman types what is wrong at a German bench, with figures in what
// is said, and writes a record down that fails.
func TestMistakesAndRecordsAreSaidInGerman(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Ilka")
	status, _ := v.post("/me/language", url.Values{"language": {"de"}, "decimal": {"comma"}})
	require.Equal(t, http.StatusSeeOther, status)
	for _, c := range []struct{ sweep, typed, want string }{
		{"valve.margin", "85", "85 mm ist kein Maß hierfür"},
		{"stem.dia", "0.3145", "0,3145 mm ist kein Maß hierfür, 0,3145 in aber schon: die Einheit dazuschreiben"},
		{"valve.margin", "1.7 ell", "unbekannte Einheit: mm, in"},
		{"spring.load_seat", "300 bar", "unbekannte Einheit &#34;bar&#34;: N, kN"},
		{"chamber.volume", "40 mm", "unbekannte Einheit &#34;mm&#34;: cc"},
		{"seat.runout", "-", "keine Zahl"},
	} {
		path := "/heads/T0407/sweep/" + c.sweep
		_, page := v.get(path)
		form := formValues(page)
		form.Set(regexp.MustCompile(`name="(v\.[^"]+)"`).FindStringSubmatch(page)[1], c.typed)
		status, page := v.post(path, form)
		require.Equal(t, http.StatusUnprocessableEntity, status, "%s %s", c.sweep, c.typed)
		assert.Contains(t, page, c.want, "%s %s", c.sweep, c.typed)
	}

	path := ""
	for seq := 1; seq < 12 && path == ""; seq++ {
		at := "/heads/T0402/work/" + strconv.Itoa(seq)
		if _, page := v.get(at); strings.Contains(page, `name="rec//pressure"`) {
			path = at
		}
	}
	require.NotEmpty(t, path)
	record := url.Values{
		"write_id": {"german-record-1"}, "rec//pressure": {"9 bar"}, "rec//water": {"60 C"}, "rec//minutes": {"20"},
		"rec//leaks": {"0"},
	}
	status, page := v.post(path+"/record", record)
	require.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "mehr als 300 kPa: gespeicherte Energie ist lebensgefährlich")
	record.Set("write_id", "german-record-2")
	record.Set("rec//pressure", "2.5 bar")
	record.Set("rec//leaks", "2")
	status, page = v.post(path+"/record", record)
	require.Equal(t, http.StatusSeeOther, status, page)
	_, page = v.get(path)
	assert.Contains(t, page, "2 Lecks: auf der Karte eintragen")
	_, page = s.as(t, "Odo").get(path)
	assert.Contains(t, page, "2 leaks: place them on the map", "a colleague reads the same in English")
	record.Set("write_id", "german-record-3")
	record.Set("rec//leaks", "0")
	status, page = v.post(path+"/record", record)
	require.Equal(t, http.StatusSeeOther, status, page)
	_, page = v.get(path)
	assert.Contains(t, page, "dicht bei 2,5 bar, Wasser 60 C, 20 min")
}

// TestSignInSpeaksTheBrowsersLanguage: nobody has said yet which one they speak, but their browser has.
func TestSignInSpeaksTheBrowsersLanguage(t *testing.T) {
	s := demoSite(t)
	for asked, speaks := range map[string]string{
		"de-AT,de;q=0.9,en;q=0.5": "Anmelden", "en-GB,de;q=0.5": "Sign in", "": "Sign in", "fr,de;q=0.3": "Anmelden",
		"nonsense;;q": "Sign in",
	} {
		r, err := http.NewRequest("POST", s.URL+"/sign-in",
			strings.NewReader(url.Values{"name": {"Ilka"}, "password": {"wrong"}}.Encode()))
		require.NoError(t, err)
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		r.Header.Set("Accept-Language", asked)
		r.Header.Set("Origin", s.URL)
		status, page := s.visitor(t).send(r)
		require.Equal(t, http.StatusUnprocessableEntity, status)
		assert.Contains(t, page, "<h1>"+speaks+"</h1>", asked)
		assert.Equal(t, speaks == "Anmelden", strings.Contains(page, "Passwort"), asked)
	}
}
