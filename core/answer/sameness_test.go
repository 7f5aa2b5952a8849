package answer_test

import (
	"context"
	"encoding/json"
	"math/big"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/answer"
	"yatai/internal/sample"
)

// heads are the scenarios' heads, by name.
func heads(t *testing.T) map[string]map[string]any {
	t.Helper()
	files, err := filepath.Glob("testdata/*.json")
	require.NoError(t, err)
	out := map[string]map[string]any{}
	for _, name := range sample.Every(3, files) {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		var s struct{ Head map[string]any }
		require.NoError(t, json.Unmarshal(data, &s))
		out[strings.TrimSuffix(filepath.Base(name), ".json")] = s.Head
	}
	require.NotEmpty(t, out)
	return out
}

// changed returns a value with every text in it changed; keys stay.
func changed(x any, how func(string) string) any {
	switch x := x.(type) {
	case map[string]any:
		out := map[string]any{}
		for k, v := range x {
			out[k] = changed(v, how)
		}
		return out
	case []any:
		out := make([]any, len(x))
		for i, v := range x {
			out[i] = changed(v, how)
		}
		return out
	case string:
		return how(x)
	}
	return x
}

// numbers are the answers' figures and codes without their sentences, which may be told in
// another unit.
var sentences = map[string]bool{
	"why": true, "says": true, "note": true, "reason": true, "because": true, "missing": true, "assumed": true,
	"what": true, "changes": true,
}

func figures(x any) any {
	switch x := x.(type) {
	case map[string]any:
		out := map[string]any{}
		for k, v := range x {
			if !sentences[k] {
				out[k] = figures(v)
			}
		}
		return out
	case []any:
		out := make([]any, len(x))
		for i, v := range x {
			out[i] = figures(v)
		}
		return out
	}
	return x
}

// asked is what every question answers about a head, as figures, and all its text.
func asked(t *testing.T, h any) (map[string]any, string) {
	t.Helper()
	file, err := json.Marshal(h)
	require.NoError(t, err)
	out, text := map[string]any{}, ""
	for _, q := range answer.Questions {
		said, err := answer.Run(context.Background(), q.Name, file)
		require.NoError(t, err, q.Name)
		var x any
		require.NoError(t, json.Unmarshal(said, &x))
		out[q.Name], text = figures(x), text+string(said)
	}
	return out, text
}

var millimetres = regexp.MustCompile(`^(-?[0-9.]+) ?mm$`)

// inInches tells a length in inches that is exactly as long, ten digits being less than half a
// nanometre.
func inInches(text string) string {
	m := millimetres.FindStringSubmatch(text)
	if m == nil {
		return text
	}
	n, _ := new(big.Rat).SetString(m[1])
	return n.Quo(n, big.NewRat(127, 5)).FloatString(10) + " in"
}

// TestTheSameHeadInInches tells every scenario's head in inches: every figure of every answer is
// the same, and no sentence speaks of millimetres.
func TestTheSameHeadInInches(t *testing.T) {
	for name, h := range heads(t) {
		t.Run(name, func(t *testing.T) {
			h["head"].(map[string]any)["unit"] = "mm"
			want, _ := asked(t, h)
			told := changed(h, inInches).(map[string]any)
			told["head"].(map[string]any)["unit"] = "in"
			got, text := asked(t, told)
			for q := range want {
				assert.Equal(t, want[q], got[q], q)
			}
			assert.NotRegexp(t, `[0-9] mm\b`, text)
		})
	}
}

// TestTheOrderOfOtherThingsSaysNothing: limits, tools and stock may stand in any order in a file,
// as the readings of different places may.
func TestTheOrderOfOtherThingsSaysNothing(t *testing.T) {
	turned := func(x any) {
		if list, ok := x.([]any); ok {
			for i, k := 0, len(list)-1; i < k; i, k = i+1, k-1 {
				list[i], list[k] = list[k], list[i]
			}
		}
	}
	for name, h := range heads(t) {
		t.Run(name, func(t *testing.T) {
			want, _ := asked(t, h)
			again := changed(h, func(s string) string { return s }).(map[string]any)
			turned(again["tools"])
			if sheet, ok := again["sheet"].(map[string]any); ok {
				turned(sheet["limits"])
				turned(sheet["renew"])
			}
			turned(again["decisions"])
			got, _ := asked(t, again)
			for _, q := range []string{"judge", "check", "causes"} {
				assert.Equal(t, want[q], got[q], q)
			}
			plan, same := want["plan"].(map[string]any), got["plan"].(map[string]any)
			assert.Equal(t, plan["price_cents"], same["price_cents"])
			assert.Equal(t, plan["valves"], same["valves"])
		})
	}
}
