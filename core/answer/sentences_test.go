package answer_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/answer"
	"yatai/internal/sample"
)

// Changes that put heads into trouble of other kinds, so that other sentences are said.
var troubles = map[string]func(h map[string]any){
	"nothing in the box": func(h map[string]any) { delete(h, "stock") },
	"one of each in the box": func(h map[string]any) {
		list, _ := h["stock"].([]any)
		h["stock"] = list[:min(1, len(list))]
	},
	"a sheet without figures": func(h map[string]any) { delete(in(h, "sheet"), "figures") },
	"a sheet without limits":  func(h map[string]any) { delete(in(h, "sheet"), "limits") },
	"every upper limit below its lower": func(h map[string]any) {
		limits, _ := in(h, "sheet")["limits"].([]any)
		for _, l := range limits {
			if l := l.(map[string]any); l["low"] != nil && l["high"] != nil {
				l["high"] = l["low"]
			}
		}
	},
	"no tools": func(h map[string]any) {
		delete(h, "tools")
		readings, _ := h["readings"].([]any)
		for _, r := range readings {
			delete(r.(map[string]any), "tool")
		}
	},
	"lash out of reach":          func(h map[string]any) { limit(h, "lash", "4.1 mm", "4.2 mm") },
	"recession out of reach":     func(h map[string]any) { limit(h, "valve.recession", "6 mm", "6.1 mm") },
	"stem height out of reach":   func(h map[string]any) { limit(h, "stem.height", "80 mm", "80.1 mm") },
	"spring height out of reach": func(h map[string]any) { limit(h, "spring.height", "60 mm", "60.1 mm") },
	"margin out of reach":        func(h map[string]any) { limit(h, "valve.margin", "3.9 mm", "") },
	"clearance out of reach":     func(h map[string]any) { limit(h, "guide.clearance", "0.001 mm", "0.002 mm") },
	"a thin head":                func(h map[string]any) { limit(h, "head.thickness", "250 mm", "") },
	"a face that is never flat":  func(h map[string]any) { limit(h, "face.line", "", "0.001 mm") },
	"nothing read":               func(h map[string]any) { delete(h, "readings") },
	"half of it read":            func(h map[string]any) { halve(h, "readings") },
	"nothing seen":               func(h map[string]any) { delete(h, "findings") },
	"all kept": func(h map[string]any) {
		hold(h, "seat", "keep")
		hold(h, "valve", "keep")
	},
	"all new": func(h map[string]any) {
		hold(h, "seat", "insert")
		hold(h, "valve", "new")
		hold(h, "guide", "new")
	},
	"faced by 0.3":           func(h map[string]any) { ask(h)["face_cut"] = "0.3 mm" },
	"faced tilted":           func(h map[string]any) { ask(h)["tilt"] = "tilted" },
	"robust":                 func(h map[string]any) { ask(h)["alternative"] = "robust" },
	"what wears renewed":     func(h map[string]any) { ask(h)["alternative"] = "renew" },
	"only looked at":         func(h map[string]any) { in(h, "head")["kind"] = "bought-in" },
	"checked against a rule": func(h map[string]any) { in(h, "head")["kind"] = "rules" },
}

func in(h map[string]any, name string) map[string]any {
	if m, ok := h[name].(map[string]any); ok {
		return m
	}
	h[name] = map[string]any{}
	return h[name].(map[string]any)
}

func ask(h map[string]any) map[string]any { return in(h, "ask") }

func halve(h map[string]any, name string) {
	list, _ := h[name].([]any)
	h[name] = list[:len(list)/2]
}

// limit sets every limit there is of a characteristic.
func limit(h map[string]any, of, low, high string) {
	limits, _ := in(h, "sheet")["limits"].([]any)
	for _, l := range limits {
		l := l.(map[string]any)
		if l["of"] != of {
			continue
		}
		delete(l, "low")
		delete(l, "high")
		if low != "" {
			l["low"] = low
		}
		if high != "" {
			l["high"] = high
		}
	}
}

// hold holds a choice at every valve that anything was read of.
func hold(h map[string]any, part, choice string) {
	held := in(ask(h), "hold")
	readings, _ := h["readings"].([]any)
	for _, r := range readings {
		at, _ := r.(map[string]any)["at"].(string)
		if at, _, _ = strings.Cut(at, "."); regexp.MustCompile(`^[0-9]+[IE][0-9]+$`).MatchString(at) {
			in(held, at)[part] = choice
		}
	}
}

// broken is what no sentence has: a filling that went wrong, an empty name, words left hanging.
var broken = regexp.MustCompile(`%!|<nil>|0x[0-9a-f]{6}|\(\)|  |;;| ;| ,|\.\.|[:,;]$|^[.,;:]|\bcore\.|\{\{`)

// spoken lists the texts in an answer, with where they stand.
func spoken(path string, x any, to map[string]string) {
	switch x := x.(type) {
	case map[string]any:
		for k, v := range x {
			spoken(path+"."+k, v, to)
		}
	case []any:
		for i, v := range x {
			spoken(fmt.Sprintf("%s[%d]", path, i), v, to)
		}
	case string:
		to[path] = x
	}
}

// TestEverySentenceIsWhole puts every scenario's head, told in inches, into troubles of many kinds:
// every question is answered, no sentence speaks of millimetres, and none is broken.
func TestEverySentenceIsWhole(t *testing.T) {
	said, all, turn := map[string]bool{}, slices.Sorted(maps.Keys(troubles)), 0
	scenarios := heads(t)
	for _, name := range slices.Sorted(maps.Keys(scenarios)) {
		h := scenarios[name]
		for range sample.Times(3, 8) { // each head in some of them, all of them by some heads
			trouble := all[turn%len(all)]
			turn++
			told := changed(h, func(s string) string { return s }).(map[string]any)
			troubles[trouble](told)
			told = changed(told, inInches).(map[string]any)
			in(told, "head")["unit"] = "in"
			file, err := json.Marshal(told)
			require.NoError(t, err)
			for _, q := range answer.Questions {
				out, err := answer.Run(t.Context(), q.Name, file)
				if err != nil { // a head that no longer makes sense says so, beside a field
					assert.NotRegexp(t, broken, err.Error(), "%s, %s, %s", name, trouble, q.Name)
					continue
				}
				var x any
				require.NoError(t, json.Unmarshal(out, &x))
				texts := map[string]string{}
				spoken(q.Name, x, texts)
				for at, text := range texts {
					said[text] = true
					assert.NotRegexp(t, broken, text, "%s, %s, %s", name, trouble, at)
					assert.NotRegexp(t, `[0-9] mm\b`, text, "%s, %s, %s", name, trouble, at)
				}
			}
		}
	}
	assert.Greater(t, len(said), sample.Times(6, 800), "so many sentences were looked at")
}
