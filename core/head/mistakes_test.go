package head_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/head"
)

// leaf is a text in a head file, by the way to it: "sheet.limits[3].low".
type leaf struct {
	path string
	text string
	set  func(any)
}

// leaves lists the texts of a JSON value, with the means to put something else in their place.
func leaves(path string, v any, set func(any)) []leaf {
	var out []leaf
	switch v := v.(type) {
	case map[string]any:
		for name, x := range v {
			out = append(out, leaves(field.Join(path, name), x, func(to any) { v[name] = to })...)
		}
	case []any:
		for i, x := range v {
			out = append(out, leaves(fmt.Sprintf("%s[%d]", path, i), x, func(to any) { v[i] = to })...)
		}
	case string:
		out = append(out, leaf{path, v, set})
	}
	return out
}

// free are the texts of a head file that may be anything: names, what was told, notes.
var free = []string{
	"head.tag", "head.story", "head.hours", "head.bank", "head.marks", "head.regulated", "model.name", "model.about",
	"source", "name", "note", "reason", "by",
	"why", "values", "settings", "label", "typed", "figure",
}

func isFree(path string) bool {
	if strings.HasPrefix(path, "tools[") && strings.HasSuffix(path, ".kind") {
		return true // one that is known by its own u
	}
	for _, f := range free {
		if path == f || strings.HasSuffix(path, "."+f) || strings.Contains(path, "."+f+".") ||
			strings.HasPrefix(path, f+".") {
			return true
		}
	}
	return false
}

// TestEveryTextOfAFileThatMeansSomethingIsRead puts nonsense in the place of every text of the
// scenarios' heads, one at a time: what is not free is refused, by its own name or that of what it
// belongs to, and nothing panics.
func TestEveryTextOfAFileThatMeansSomethingIsRead(t *testing.T) {
	paths, err := filepath.Glob("../answer/testdata/*.json")
	require.NoError(t, err)
	tried := map[string]bool{} // "sheet.limits.low": one of a list stands for all
	for _, p := range paths {
		text, err := os.ReadFile(p)
		require.NoError(t, err)
		var s struct{ Head json.RawMessage }
		require.NoError(t, json.Unmarshal(text, &s))
		if _, err := head.Decode(s.Head); err != nil {
			continue // it is there to be refused
		}
		var file map[string]any
		require.NoError(t, json.Unmarshal(s.Head, &file))
		for _, l := range leaves("", file, nil) {
			kind := strings.Join(
				strings.FieldsFunc(l.path, func(r rune) bool { return strings.ContainsRune("[]0123456789", r) }), "",
			)
			if tried[kind] || isFree(l.path) {
				continue
			}
			tried[kind] = true
			l.set("nonsense ⌀")
			broken, err := json.Marshal(file)
			require.NoError(t, err)
			l.set(l.text)
			_, err = head.Decode(broken)
			var e *field.Error
			if assert.ErrorAs(t, err, &e, "%s: %q is taken", filepath.Base(p), l.path) {
				assert.True(t, related(e.Field, l.path), "%s is said to be wrong where %s is", e.Field, l.path)
				assert.NotEmpty(t, e.Message())
			}
			assert.Nil(t, errors.Unwrap(e))
		}
	}
	assert.Greater(t, len(tried), 35)
}

// related tells whether a field is at another, in it, or what it is in.
func related(said, at string) bool {
	top := func(s string) string {
		name, _, _ := strings.Cut(strings.NewReplacer("[", ".", "]", "").Replace(s), ".")
		return name
	}
	return strings.HasPrefix(said, at) || strings.HasPrefix(at, said) || top(said) == top(at)
}

// TestAFileThatCannotBeMeantIsRefused: what is there twice, crossed over, or without its doubt.
func TestAFileThatCannotBeMeantIsRefused(t *testing.T) {
	text, err := os.ReadFile("../answer/testdata/01a-a-sound-head-needs-no-metal.json")
	require.NoError(t, err)
	var s struct{ Head json.RawMessage }
	require.NoError(t, json.Unmarshal(text, &s))
	for _, torn := range []string{string(s.Head[:len(s.Head)/2]), string(s.Head) + "{}", "", "[]", `"head"`} {
		_, err := head.Decode([]byte(torn))
		assert.Error(t, err, "%.30s", torn)
	}
	list := func(f map[string]any, path ...string) []any {
		var at any = f
		for _, name := range path {
			at = at.(map[string]any)[name]
		}
		return at.([]any)
	}
	first := func(f map[string]any, path ...string) map[string]any { return list(f, path...)[0].(map[string]any) }
	for named, change := range map[string]func(f map[string]any){
		"format":          func(f map[string]any) { f["format"] = "yatai-head/9" },
		"heed":            func(f map[string]any) { f["heed"] = f["head"] },
		"model.cylinders": func(f map[string]any) { f["model"].(map[string]any)["cylinders"] = 40 },
		"model.pitch":     func(f map[string]any) { f["model"].(map[string]any)["pitch"] = "1mm" },
		"sheet.limits[0].low": func(f map[string]any) {
			l := first(f, "sheet", "limits")
			l["low"], l["high"] = "9mm", "8mm"
		},
		"sheet.limits[0].of": func(f map[string]any) { first(f, "sheet", "limits")["of"] = "stem.soul" },
		"tools[0].kind":      func(f map[string]any) { x := first(f, "tools"); x["kind"] = "divining rod"; delete(x, "u") },
		"tools[10].name":     func(f map[string]any) { f["tools"] = append(list(f, "tools"), first(f, "tools")) },
		"tools[0].u":         func(f map[string]any) { first(f, "tools")["u"] = "120%" },
		"readings[0].tool":   func(f map[string]any) { first(f, "readings")["tool"] = "nobody's" },
		"readings[0].at":     func(f map[string]any) { first(f, "readings")["at"] = "9E9.top" },
		"readings[0].is":     func(f map[string]any) { first(f, "readings")["is"] = "95 m" },
		"readings[1].is":     func(f map[string]any) { list(f, "readings")[1].(map[string]any)["go"] = "0.10mm" },
		"readings[2].is":     func(f map[string]any) { list(f, "readings")[2].(map[string]any)["nogo"] = "0.10mm" },
		"decisions[0].choice": func(f map[string]any) {
			f["decisions"] = []any{map[string]any{"finding": "lash@1I1", "choice": "pray"}}
		},
		"decisions[0].finding": func(f map[string]any) {
			f["decisions"] = []any{map[string]any{"finding": "luck@1I1", "choice": "leave"}}
		},
		"operations[0].code": func(f map[string]any) { f["operations"] = []any{map[string]any{"code": "pray"}} },
		"operations[0].at[0]": func(f map[string]any) {
			f["operations"] = []any{map[string]any{"code": "wash", "at": []any{"9E9"}}}
		},
		"findings[0].grade": func(f map[string]any) {
			f["findings"] = []any{map[string]any{"part": "valve.face", "at": "1I1", "grade": "toy"}}
		},
		"stock[0].kind": func(f map[string]any) { f["stock"] = []any{map[string]any{"kind": "luck", "name": "x"}} },
		"records[0].operation": func(f map[string]any) {
			f["records"] = []any{map[string]any{"operation": "pray", "values": map[string]any{}}}
		},
		"ask.hold.9E9": func(f map[string]any) {
			f["ask"] = map[string]any{"hold": map[string]any{"9E9": map[string]any{"seat": "cut"}}}
		},
		"ask.alternative": func(f map[string]any) { f["ask"] = map[string]any{"alternative": "dearest"} },
		"ask.face_cut":    func(f map[string]any) { f["ask"] = map[string]any{"face_cut": "-1mm"} },
	} {
		var f map[string]any
		require.NoError(t, json.Unmarshal(s.Head, &f))
		change(f)
		broken, err := json.Marshal(f)
		require.NoError(t, err)
		_, err = head.Decode(broken)
		var e *field.Error
		if assert.ErrorAs(t, err, &e, named) {
			assert.True(t, strings.HasPrefix(e.Field, named) || strings.HasPrefix(named, e.Field) && e.Field != "", "%s: %v",
				named, err)
		}
	}
}
