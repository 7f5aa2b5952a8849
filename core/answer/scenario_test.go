package answer_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/answer"
)

// scenario is a whole head and what must come out of it: [question, path, operator, value].
type scenario struct {
	Name   string          `json:"name"`
	Head   json.RawMessage `json:"head"`
	Expect [][4]any        `json:"expect"`
}

// TestScenarios asks every question a scenario has expectations of.
func TestScenarios(t *testing.T) {
	files, err := filepath.Glob("testdata/*.json")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, name := range files {
		t.Run(strings.TrimSuffix(filepath.Base(name), ".json"), func(t *testing.T) {
			data, err := os.ReadFile(name)
			require.NoError(t, err)
			var s scenario
			require.NoError(t, json.Unmarshal(data, &s))
			require.NotEmpty(t, s.Expect)
			said := map[string]any{}
			for _, e := range s.Expect {
				question := e[0].(string)
				if said[question] == nil {
					out, err := answer.Run(context.Background(), question, s.Head)
					require.NoError(t, err)
					var a any
					require.NoError(t, json.Unmarshal(out, &a))
					said[question] = a
				}
				var got any
				if e[2] != "either" && e[2] != "lawful" { // which name their paths themselves
					got = pick(said[question], e[1].(string))
				}
				assert.True(t, holds(got, e[2].(string), e[3], said[question]), "%s %s %s %v: got %v", question, e[1], e[2], e[3],
					got)
			}
		})
	}
}

var step = regexp.MustCompile(`^([a-z_]+)(?:\[([^\]]*)\])?(?:\.|$)`)

// pick follows a path: keys apart by dots; list[x] is the entry whose id, key or code is x,
// list[x,y] those of several, list[*] all.
func pick(x any, path string) any {
	if path == "" {
		return x
	}
	m := step.FindStringSubmatch(path)
	rest := path[len(m[0]):]
	fields, _ := x.(map[string]any)
	in := fields[m[1]]
	if !strings.Contains(m[0], "[") {
		if in == nil {
			return nil
		}
		return pick(in, rest)
	}
	rows, _ := in.([]any)
	var out []any
	add := func(v any) {
		if many, ok := v.([]any); ok {
			out = append(out, many...)
		} else {
			out = append(out, v)
		}
	}
	names := strings.Split(m[2], ",")
	for _, r := range rows {
		if m[2] == "*" {
			add(pick(r, rest))
			continue
		}
		row, _ := r.(map[string]any)
		if slices.ContainsFunc([]string{"id", "key", "code"},
			func(k string) bool { s, ok := row[k].(string); return ok && slices.Contains(names, s) }) {
			if len(names) == 1 {
				return pick(r, rest)
			}
			add(pick(r, rest))
		}
	}
	if m[2] != "*" && len(names) == 1 {
		return nil
	}
	return out
}

// holds tells whether what was got meets an expectation.
func holds(got any, op string, want, whole any) bool {
	num := func(x any) float64 {
		f, ok := x.(float64)
		if !ok {
			return math.NaN()
		}
		return f
	}
	list, isList := got.([]any)
	has := func(all []any, x any) bool {
		return slices.ContainsFunc(all, func(y any) bool { return reflect.DeepEqual(x, y) })
	}
	codes := func() (out []string) {
		for _, r := range list {
			out = append(out, fmt.Sprint(pick(r, "code")))
		}
		return out
	}
	wants, _ := want.([]any)
	switch op {
	case "==":
		return reflect.DeepEqual(got, want)
	case "!=":
		return !reflect.DeepEqual(got, want)
	case "in":
		return has(wants, got)
	case "nm":
		return math.Abs(num(got)-num(want)) <= 20
	case "<":
		return got == nil && 0 < num(want) || num(got) < num(want)
	case ">":
		return num(got) > num(want)
	case "~":
		return math.Abs(num(got)-num(wants[0])) <= num(wants[1])*math.Abs(num(wants[0]))
	case "has":
		return isList && has(list, want)
	case "hasnot":
		return !has(list, want)
	case "count":
		return isList && float64(len(list)) == num(want)
	case "nonempty":
		empty := got == nil || isList && len(list) == 0 || reflect.DeepEqual(got, "") || reflect.DeepEqual(got, 0.0) ||
			reflect.DeepEqual(
				got, false,
			) || reflect.DeepEqual(
			got, map[string]any{},
		)
		return want.(bool) == !empty
	case "before":
		first := slices.Index(codes(), wants[0].(string))
		late := slices.IndexFunc(codes(), func(c string) bool { return has(wants[1].([]any), c) })
		return first >= 0 && late >= 0 && first < late
	case "lawful": // the work is there, or nobody is surer than so much
		all, _ := pick(whole, "operations[*].code").([]any)
		sure, _ := pick(whole, "p_all_inside").(float64)
		return has(all, wants[0]) || sure <= num(wants[1])
	case "either":
		all, _ := pick(whole, "operations[*].code").([]any)
		return reflect.DeepEqual(pick(whole, "feasible"), wants[0]) || has(all, wants[1])
	case "sum":
		var sum float64
		for _, p := range wants {
			switch x := pick(whole, p.(string)).(type) {
			case float64:
				sum += x
			case []any:
				for _, y := range x {
					sum += num(y)
				}
			}
		}
		return num(got) == sum
	}
	panic("unknown operator " + op)
}
