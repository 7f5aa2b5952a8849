package web_test

import (
	"fmt"
	"html"
	"maps"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestEveryFieldTriedWithNonsense spoils one field of a good form at a time: the answer is
// 422, the message stands beside the field, what was typed is kept, nothing is written.
func TestEveryFieldTriedWithNonsense(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Runa")
	long := strings.Repeat("x", 5000)
	good := func(pairs ...string) url.Values {
		f := url.Values{}
		for i := 0; i < len(pairs); i += 2 {
			f.Set(pairs[i], pairs[i+1])
		}
		return f
	}
	takeIn := good(
		"customer", "Nobody Yet", "machine", "M", "model", "1", "kind", "failed", "hours", "12", "marks", "m", "story", "s",
		"came_with", "c",
		"contact", "c", "promise", "2031-05-20",
	)
	model := good(
		"name", "Never There", "about", "a", "material", "iron", "drive", "rocker", "unit", "mm", "cylinders", "4", "pattern",
		"IE", "pitch",
		"100", "bore", "90", "width", "150", "intake_head", "40", "exhaust_head", "35", "ignition", "plug", "cooling",
		"water", "first_at",
		"left",
	)
	sheet := good(
		"version", "6", "note", "n", "seat.width/intake/low", "1", "seat.width/intake/high", "2", "seat.width/intake/near",
		"0.1",
		"seat.width/intake/source", "s",
	)
	tool := good("name", "Never There", "kind", "caliper", "resolution", "0.01", "u", "0.03", "standard", "25",
		"tolerance", "0.02", "due", "2031-05-20")
	person := good("name", "Never There", "password", "long-enough-1", "role", "technician", "pin", "1234", "unit", "mm")
	for _, c := range []struct {
		path string
		form url.Values
		bad  map[string][]string
	}{
		{"/take-in", takeIn, map[string][]string{
			"customer": {"", long, "\x00"}, "machine": {"", long}, "model": {"", "abc", "-1", "99999", "1e3"},
			"kind": {"", "other"}, "hours": {long}, "marks": {long},
			"story": {long}, "came_with": {long}, "contact": {long}, "promise": {"soon", "2031-13-40", "0001-01-01"},
		}},
		{"/reference/models/new", model, map[string][]string{
			"name": {"", long, "Brindlow G4"}, "about": {long}, "material": {"", "wood"}, "drive": {"chain"}, "unit": {"cubit"},
			"cylinders": {
				"", "x", "0", "99", "4.5",
			}, "pattern": {"", "XX", "I", "IIIIIIEE"},
			"pitch": {
				"", "x", "10", "3 cubits", "11 m",
			}, "bore": {
				"-90", "9", "1.2.3",
			}, "width": {"1", "90 m"}, "intake_head": {
				"0", "89", "4,0,0",
			}, "exhaust_head": {"", "abc", "1000"}, "ignition": {"match"}, "cooling": {"oil"}, "first_at": {"top"},
		}},
		{"/reference/models/1", sheet, map[string][]string{
			"note": {"", long}, "seat.width/intake/low": {
				"x", "3", "1.2.3", "11m",
			}, "seat.width/intake/high": {"2 cubits"}, "seat.width/intake/near": {"-1", "x"},
			"seat.width/intake/source": {"", long},
		}},
		{"/reference/tools", tool, map[string][]string{
			"name": {"", long, "Caliper"}, "kind": {"", "spoon"}, "resolution": {"", "x", "-1"}, "u": {
				"", "3 cubits", "5 m",
			}, "standard": {"x", "-5"}, "tolerance": {"", "x"}, "due": {"soon"},
		}},
		{"/people", person, map[string][]string{
			"name": {"", long, "Odo", "odo"}, "password": {"", "short", long}, "role": {"", "king"},
			"pin": {"12", "abcd", "123456789"}, "unit": {"cubit"},
		}},
		{"/heads/T0401/handover", good("handed_to", "x"), map[string][]string{"handed_to": {"", long, "too early"}}},
		{
			"/reference/models/1/own",
			good("label", "Never There", "spot", "cylinder", "unit", "length", "stat", "each reading", "tool_kind", "caliper"),
			map[string][]string{
				"label": {"", long}, "spot": {"", "moon"}, "unit": {"cubit"}, "stat": {"mode"}, "tool_kind": {"spoon"},
			},
		},
		{
			"/heads/T0401/map", good("grade", "crack", "x", "10", "y", "10", "note", "noted", "stage", "as received"),
			map[string][]string{
				"grade": {"", "smudge"}, "x": {"", "-1", "9000", "1.2.3"}, "y": {"abc", "11 m"}, "note": {long},
				"stage": {"soon"},
			},
		},
		{
			"/parts/add",
			good("kind", "valve", "name", "Never There", "price", "12.50", "size", "2.60", "least", "2", "count", "1", "role",
				"intake"),
			map[string][]string{
				"kind": {"", "spoon"}, "name": {"", long, "Brindlow guide"}, "price": {"x", "-1", "1.234"}, "size": {"x", "-1"},
				"least": {"x", "-2"},
				"count": {"1.5"}, "role": {"king"}, "model": {"x"},
			},
		},
		{
			"/settings", good("rate", "58.00", "currency", "EUR"),
			map[string][]string{"rate": {"", "much", "-5"}, "quote_days": {"x"}, "school.face": {"sideways"}, "tax": {"twenty"}},
		},
		{
			"/week/stations", good("capacity/1", "2", "hours/1", "Mon-Thu 9:00-12:00", "closed", "2031-12-24"),
			map[string][]string{
				"capacity/1": {"", "0", "21", "two"},
				"hours/1":    {"", "Mon", "Mon 12:00-9:00", "Mon 9-12", "Moonday 9:00-12:00", "Mon 9:00-12:00 11:00-13:00"},
				"closed":     {"Christmas", "2031-02-31", long},
			},
		},
		{"/follow-up", good("tag", "T0401", "day", "2031-05-20", "what",
			"Never There"), map[string][]string{"day": {"", "soon"}, "what": {"", long}}},
		{"/heads/T0401/earlier", good("earlier", "T0405"), map[string][]string{"earlier": {"", "T9999", "T0402", "T0401"}}},
		{"/reference/tools/1", good("read", "8"), map[string][]string{"read": {"", "x", "0.002", "-8", "8 cubits", "80"}}},
	} {
		n := 0
		for name, values := range c.bad {
			for _, value := range values {
				n++
				form := maps.Clone(c.form)
				form.Set("write_id", fmt.Sprintf("bad-input-%s-%d", strings.ReplaceAll(c.path, "/", "-"), n))
				form.Set(name, value)
				status, page := v.post(c.path, form)
				at := fmt.Sprintf("%s %s=%.20q", c.path, name, value)
				require.Equal(t, http.StatusUnprocessableEntity, status, at)
				assert.Contains(t, page, fmt.Sprintf(`id="say-%s"`, name), at)
				if name != "password" && name != "pin" && name != "handed_to" && value != "" && value != "\x00" &&
					len(value) < 50 && !strings.Contains(
					"material drive unit ignition cooling first_at kind model role spot stat tool_kind grade stage school.face", name,
				) {
					assert.Contains(t, page, html.EscapeString(value), at)
				}
				for other, kept := range form { // what stood in the other fields is still there
					if other != name && other != "password" && other != "pin" && other != "write_id" && len(kept[0]) > 3 {
						assert.Contains(t, page, html.EscapeString(kept[0]), "%s: %s was lost", at, other)
					}
				}
			}
		}
	}
	for _, path := range []string{"/people", "/reference", "/take-in", "/reference/models/1", "/parts", "/follow-up"} {
		_, page := v.get(path)
		assert.NotContains(t, page, "Never There", path)
		assert.NotContains(t, page, "Nobody Yet", path)
	}
}
