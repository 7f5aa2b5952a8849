package web_test

import (
	"bytes"
	"html"
	"maps"
	"mime/multipart"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	xhtml "golang.org/x/net/html"
)

// formAt is the form of a page with that action, with what it holds as it is sent by a browser without
// scripts.
func formAt(t *testing.T, at, page, action string) (to string, form url.Values) {
	t.Helper()
	doc, err := xhtml.Parse(strings.NewReader(page))
	require.NoError(t, err)
	for n := range doc.Descendants() {
		if path, _, _ := strings.Cut(attr(n, "action"), "?"); n.Data != "form" || path != action ||
			strings.EqualFold(attr(n, "method"), "get") {
			continue
		}
		var b bytes.Buffer
		require.NoError(t, xhtml.Render(&b, n))
		return attr(n, "action"), formValues(b.String())
	}
	require.Fail(t, "no such form", "%s has no form to %s", at, action)
	return "", nil
}

// submit fills a form of a page as somebody does, sends it, and returns the answer and the page that
// is shown then.
func (v *visitor) submit(t *testing.T, page, action string, typed map[string]string) (status int, shown string) {
	t.Helper()
	status, text := v.get(page)
	require.Equal(t, http.StatusOK, status, page)
	to, form := formAt(t, page, text, action)
	for name, value := range typed {
		form.Set(name, value)
	}
	status, shown = v.post(to, form)
	if status == http.StatusSeeOther {
		_, shown = v.get(page)
	}
	return status, html.UnescapeString(shown)
}

// assertSeen wants an element of a page that is not folded away.
func assertSeen(t *testing.T, page, id, of string) {
	t.Helper()
	doc, err := xhtml.Parse(strings.NewReader(page))
	require.NoError(t, err)
	for n := range doc.Descendants() {
		if attr(n, "id") != id {
			continue
		}
		for up := n.Parent; up != nil; up = up.Parent {
			_, open := has(up, "open")
			assert.False(t, up.Data == "details" && !open, "%s: %s is folded away", of, id)
		}
		return
	}
	assert.Fail(t, "nothing is said", "%s: no %s", of, id)
}

// filling is a form somebody fills: what is typed, what is read on the page afterwards, and one
// mistake with the field that it is named beside.
type filling struct {
	who, page, action string
	typed             map[string]string
	shows             string
	wrong             map[string]string
	named             string
}

var fillings = []filling{
	{"Runa", "/reference/tools/3", "/reference/tools/3/change",
		map[string]string{"name": "The other caliper"}, "The other caliper", map[string]string{"u": "small"}, "u",
	},
	{
		"Runa", "/reference/tools/4", "/reference/tools/4/retire", map[string]string{"retire": "yes"},
		"Take it into use again", nil, "",
	},
	{"Ilka", "/reference/tools/1", "/reference/tools/1", nil, "", map[string]string{"read": "x"}, "read"},
	{"Runa", "/settings/labour", "/settings/labour",
		map[string]string{"minutes.wash": "33+0"}, "33+0", map[string]string{"minutes.wash": "long"}, "minutes.wash",
	},
	{"Runa", "/week/stations", "/week/stations",
		map[string]string{"closed": "2031-12-24 2031-12-31"}, "2031-12-24", map[string]string{"closed": "easter"}, "closed",
	},
	{"Runa", "/people/2", "/people/2/work",
		map[string]string{"hours": "Mon-Thu 7:00-15:00"}, "Mon-Thu 7:00-15:00", map[string]string{"hours": "mornings"},
		"hours",
	},
	{"Runa", "/people/2", "/people/2", map[string]string{"pin": "8642"}, "", map[string]string{"pin": "12"}, "pin"},
	{"Runa", "/people", "/stations",
		map[string]string{"station": "Bench by the door"}, "Bench by the door", map[string]string{"station": ""}, "station",
	},
	{"Runa", "/reference/models/1", "/reference/models/1/change",
		map[string]string{"about": "as delivered in 2031"}, "as delivered in 2031", map[string]string{"name": ""}, "name",
	},
	{"Runa", "/reference/models/1", "/reference/models/1/copy",
		map[string]string{"copy": "Brindlow G4, later"}, "", map[string]string{"copy": "Brindlow G4"}, "copy",
	},
	{
		"Runa", "/reference/models/2", "/reference/models/2/retire", map[string]string{"retire": "yes"},
		"Take it into use again", nil, "",
	},
	{"Runa", "/reference/models/1", "/reference/models/1/own",
		map[string]string{"label": "Relief depth", "spot": "position", "unit": "length"}, "Relief depth",
		map[string]string{"label": ""}, "label"},
	{"Runa", "/reference/models/1", "/reference/models/1/repairs",
		map[string]string{
			"repair_name": "Cap the tips", "works": "tip", "minutes": "5+4", "most": "0.8", "move/stem.height": "up",
		}, "Cap the tips",
		map[string]string{"repair_name": "Cap the tips", "minutes": "soon"}, "minutes",
	},
	{"Maren", "/customers/1", "/customers/1",
		map[string]string{"telephone": "0117 496 0000"}, "0117 496 0000", map[string]string{"weight": "77"}, "weight",
	},
	{"Maren", "/customers/1", "/customers/1/merge", nil, "", map[string]string{"into": "nobody of that name"}, "into"},
	{"Odo", "/heads/T0401/ways", "/heads/T0401/ways/scrap", nil, "", map[string]string{"reason": ""}, "scrap"},
	{"Maren", "/follow-up", "/follow-up", nil, "", map[string]string{"day": "soon"}, "day"},
	{"Odo", "/heads/T0401/schools", "/heads/T0401/schools", map[string]string{"school.lapping": "always"}, "", nil, ""},
	{
		"Ilka", "/me", "/me", map[string]string{"now": "tarn-street-1", "pin": "9753"}, "",
		map[string]string{"now": "not it", "pin": "9753"}, "now",
	},
	{"Ilka", "/me", "/me/calendar", nil, "/yatai.ics", nil, ""},
}

// TestFormsAreKeptOrComeBackAsTheyWereTyped fills each form as a browser without scripts does: with
// a mistake it comes back with what was typed and the message beside its field; put right, it is kept.
func TestFormsAreKeptOrComeBackAsTheyWereTyped(t *testing.T) {
	s := demoSite(t)
	signedIn := map[string]*visitor{}
	for _, f := range fillings {
		if signedIn[f.who] == nil {
			signedIn[f.who] = s.as(t, f.who)
		}
		v := signedIn[f.who]
		if f.wrong != nil {
			both := maps.Clone(f.typed)
			if both == nil {
				both = map[string]string{}
			}
			maps.Copy(both, f.wrong)
			status, page := v.submit(t, f.page, f.action, both)
			require.Equal(t, http.StatusUnprocessableEntity, status, "%s %v", f.action, f.wrong)
			assertSeen(t, page, "say-"+f.named, f.action)
			for name, typed := range both {
				if typed != "" && name != "now" && name != "pin" { // a secret is typed again
					assert.Contains(t, page, typed, "%s: %s is kept as it was typed", f.action, name)
				}
			}
		}
		if f.typed == nil && f.shows == "" {
			continue
		}
		status, page := v.submit(t, f.page, f.action, f.typed)
		require.Equal(t, http.StatusSeeOther, status, "%s %v: %.300s", f.action, f.typed, page)
		assert.Contains(t, page, f.shows, f.action)
	}
}

// TestAFormIsForTheRolesThatMay: who may not sees the page without it, and is refused when sending
// it all the same.
func TestAFormIsForTheRolesThatMay(t *testing.T) {
	s := demoSite(t)
	v, may := s.as(t, "Ilka"), map[string]*visitor{"Runa": s.as(t, "Runa"), "Odo": s.as(t, "Odo")}
	for _, f := range fillings {
		if may[f.who] == nil {
			continue
		}
		_, page := may[f.who].get(f.page)
		to, form := formAt(t, f.page, page, f.action)
		status, _ := v.post(to, form)
		assert.Equal(t, http.StatusForbidden, status, f.action)
		_, page = v.get(f.page)
		if strings.Contains(page, `action="`+f.action+`"`) {
			assert.Contains(t, page, "<fieldset disabled>", "%s: what is shown cannot be typed into", f.action)
		}
	}
}

// TestATableComesInIsLookedAtAndTakenBack brings a table of parts in: looked at first, taken, and
// taken back again.
func TestATableComesInIsLookedAtAndTakenBack(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Runa")
	look := func(kind, table string) (int, string) {
		var b bytes.Buffer
		w := multipart.NewWriter(&b)
		require.NoError(t, w.WriteField("kind", kind))
		part, err := w.CreateFormFile("file", "table.csv")
		require.NoError(t, err)
		_, err = part.Write([]byte(table))
		require.NoError(t, err)
		require.NoError(t, w.Close())
		r, err := http.NewRequest("POST", v.base+"/in-out/look", &b)
		require.NoError(t, err)
		r.Header.Set("Content-Type", w.FormDataContentType())
		return v.send(r)
	}
	_, page := v.get("/in-out")
	kinds := regexp.MustCompile(`<option value="([a-z]+)"`).FindAllStringSubmatch(page, -1)
	require.NotEmpty(t, kinds)
	status, page := look("customers", "name,telephone\nBrook Pumping,0117 496 0100\nHill Pumping,0117 496 0101\n")
	require.Equal(t, http.StatusOK, status, page)
	assert.Contains(t, page, "Brook Pumping", "it is looked at before it is taken")
	_, list := v.get("/customers")
	assert.NotContains(t, list, "Brook Pumping", "nothing is taken yet")
	_, form := formAt(t, "/in-out", page, "/in-out/look")
	status, _ = v.post("/in-out/take", form)
	require.Equal(t, http.StatusSeeOther, status)
	_, list = v.get("/customers")
	assert.Contains(t, list, "Brook Pumping")
	assert.Contains(t, list, "Hill Pumping")
	_, page = v.get("/in-out")
	undo := regexp.MustCompile(`/in-out/[0-9]+/undo`).FindString(page)
	require.NotEmpty(t, undo)
	to, form := formAt(t, "/in-out", page, undo)
	status, _ = v.post(to, form)
	require.Equal(t, http.StatusSeeOther, status)
	_, list = v.get("/customers")
	assert.NotContains(t, list, "Brook Pumping", "taken back, as if it had never been")

	for _, bad := range []struct{ kind, table, says string }{
		{"customers", "", "this one is empty"},
		{"customers", "name\n", "rows below"},
		{"customers", "telephone\n0117 496 0100\n", "which column is it that holds: Name?"},
		{"toys", "name\nBrook\n", "choose what it is"},
		{"limits", "what,low\nseat.width,1\n", "choose whose limits they are"},
	} {
		status, page := look(bad.kind, bad.table)
		assert.Equal(t, http.StatusUnprocessableEntity, status, bad.says)
		assert.Contains(t, html.UnescapeString(page), bad.says)
	}
	status, page = v.post("/in-out/take", url.Values{"token": {"nothing of the kind"}, "write_id": {"take-nothing-1"}})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "choose it again")
}
