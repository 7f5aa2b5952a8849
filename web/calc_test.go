package web_test

import (
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/shop/lead"
)

// TestACalculatorTakesItsFiguresFromAHead fills every calculator that can from a demo head, and
// works it out as it came.
func TestACalculatorTakesItsFiguresFromAHead(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Odo")
	for name := range lead.Fills {
		at := map[string]string{"bearing": "J1", "pushrod": "1E1"}[name]
		if at == "" {
			at = "2E1"
		}
		tag := map[string]string{"bearing": "T0404", "warp": "T0402", "flatness": "T0402"}[name]
		if tag == "" {
			tag = "T0401"
		}
		status, page := v.get("/reference/calc/" + name + "?head=" + tag + "&at=" + at)
		assert.Contains(t, page, `name="head" value="`+tag+`"`, name)
		if status == http.StatusUnprocessableEntity { // the head has nothing of it there, and the page says so
			assert.Contains(t, page, "nothing of it was read there", name)
			continue
		}
		form := formValues(page)
		status, page = v.post("/reference/calc/"+name, form)
		switch name {
		case "clearance", "stackup", "warp", "flatness":
			assert.Equal(t, http.StatusOK, status, "%s %v", name, form)
			assert.Contains(t, page, "Worked", name)
		}
	}
	_, page := v.get("/reference/calc/clearance?head=T9999&at=2E1")
	assert.Contains(t, page, "no head has that tag")
	_, page = v.get("/reference/calc/clearance?head=T0401&at=9X9")
	assert.Contains(t, page, "nothing of it was read there")
	_, page = v.get("/reference/calc/length")
	assert.NotContains(t, page, "Take its figures")
}

// TestACalculatorReadsBareNumbersInThePersonsUnit: Odo works in millimetres.
func TestACalculatorReadsBareNumbersInThePersonsUnit(t *testing.T) {
	v := demoSite(t).as(t, "Odo")
	form := url.Values{"movement": {"0.25"}, "guide_length": {"48"}, "overhang": {"22 mm"}, "answer": {"1"}}
	status, page := v.post("/reference/calc/rock", form)
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "130435")
	form.Set("movement", "a lot")
	status, page = v.post("/reference/calc/rock", form)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "a lot", "what was typed stays")
}
