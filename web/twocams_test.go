package web_test

import (
	"html"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestAModelWithTwoCamshafts goes by the forms: a model with two camshafts and no rotators at its intakes, what is
// looked at on a head of it, the gasket its pistons choose, and the calculator that takes both from the head.
func TestAModelWithTwoCamshafts(t *testing.T) {
	owner := demoSite(t).as(t, "Runa")
	model := map[string]string{
		"name": "Twin", "material": "aluminium", "drive": "rocker", "lifter": "solid", "camshafts": "2", "unit": "mm",
		"ignition": "plug",
		"cooling":  "water", "first_at": "left", "cylinders": "2", "pattern": "IE", "pitch": "92", "bore": "80",
		"width": "150", "intake_head": "34",
		"exhaust_head": "30",
	}
	status, page := owner.submit(t, "/reference/models/new", "/reference/models/new", model)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "the cam of a head with pushrods is in the block")
	_, page = owner.get("/reference/models/new")
	_, form := formAt(t, "new", page, "/reference/models/new")
	model["drive"] = "bucket"
	for name, value := range model {
		form.Set(name, value)
	}
	form.Add("intake_valve", "plain")
	status, _ = owner.post("/reference/models/new", form)
	require.Equal(t, http.StatusSeeOther, status)
	const id = "7"
	_, page = owner.get("/reference/models/" + id)
	assert.Regexp(t, `(?s)name="camshafts".*?<option\s+selected>2`, page)
	assert.Contains(t, page, "<p> aluminium · bucket, two camshafts · 4 valves </p>")

	status, _ = owner.post("/take-in", url.Values{
		"write_id": {"twin-take-in"}, "customer": {"Quay Co"}, "machine": {"Tug"}, "model": {id}, "kind": {"failed"},
	})
	require.Equal(t, http.StatusSeeOther, status)
	_, floor := owner.get("/")
	tag := slices.Max(regexp.MustCompile(`T\d{4}`).FindAllString(floor, -1)) // the newest
	head := "/heads/" + tag
	positions := func(part string) (out []string) {
		_, page := owner.get(head + "/findings/" + part)
		for _, m := range regexp.MustCompile(`name="grade\.(\w+)"`).FindAllStringSubmatch(page, -1) {
			out = append(out, m[1])
		}
		return out
	}
	assert.Equal(t, []string{"A", "B"}, positions("camshaft.condition"))
	assert.Equal(t, []string{"A1", "A2", "A3", "B1", "B2", "B3"}, positions("cam.condition"))
	assert.Equal(t, []string{"1E1", "2E1"}, positions("rotator.condition"), "the intakes sit without")
	_, page = owner.submit(t, head+"/findings/camshaft.condition", head+"/findings/camshaft.condition",
		map[string]string{"grade.B": "blue"})
	assert.Contains(t, page, "<option value=\"blue\" selected>")

	for _, g := range [][3]string{{"thin", "1.20", "0.55"}, {"thick", "1.30", "0.65"}} {
		status, _ = owner.submit(t, "/parts", "/parts/add", map[string]string{
			"kind": "gasket", "name": "gasket " + g[0], "size": g[1], "up_to": g[2], "model": id, "count": "2", "price": "48",
		})
		require.Equal(t, http.StatusSeeOther, status)
	}
	status, page = owner.submit(t, "/parts", "/parts/add",
		map[string]string{"kind": "valve", "name": "valve", "up_to": "0.5"})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "only a gasket is chosen by its pistons")
	status, _ = owner.submit(t, head+"/sweep/piston.protrusion", head+"/sweep/piston.protrusion", map[string]string{
		"v.C1.front": "0.50", "v.C1.back": "0.52", "v.C2.front": "0.62", "v.C2.back": "0.60",
	})
	require.Equal(t, http.StatusSeeOther, status)
	_, page = owner.get(head + "/judge")
	assert.Regexp(t, `gasket to fit</small>\s*<b>gasket thick`, page)
	_, page = owner.get("/reference/calc/protrusion?head=" + tag)
	status, page = owner.post("/reference/calc/protrusion", formValues(page))
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, html.UnescapeString(page), "gasket thick")
}
