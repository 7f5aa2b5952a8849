package calc_test

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/calc"
	"yatai/core/field"
)

type workedCase struct {
	Case   string          `json:"case"`
	Calc   string          `json:"calc"`
	Input  json.RawMessage `json:"input"`
	Output map[string]any  `json:"output"`
	Error  any             `json:"error"` // true, or the field that is wrong
}

func cases(t *testing.T) []workedCase {
	t.Helper()
	files, err := filepath.Glob("testdata/*.json")
	require.NoError(t, err)
	var all []workedCase
	for _, f := range files {
		data, err := os.ReadFile(f)
		require.NoError(t, err)
		var cs []workedCase
		require.NoError(t, json.Unmarshal(data, &cs), f)
		all = append(all, cs...)
	}
	require.Greater(t, len(all), 100)
	return all
}

// inexact are the calculations whose lengths come from an angle, a root or a plane.
var inexact = map[string]bool{
	"seat": true, "flatness": true, "clearance.u_nm": true, "compression": true, "spring": true,
}

func TestWorkedCases(t *testing.T) {
	for _, c := range cases(t) {
		t.Run(c.Case, func(t *testing.T) {
			r, err := calc.Run(c.Calc, c.Input)
			if c.Error != nil {
				require.Error(t, err)
				var fe *field.Error
				require.ErrorAs(t, err, &fe)
				assert.NotEmpty(t, fe.Field)
				if where, ok := c.Error.(map[string]any); ok {
					assert.Equal(t, where["field"], fe.Field)
				}
				return
			}
			require.NoError(t, err)
			data, err := r.JSON()
			require.NoError(t, err)
			var got map[string]any
			require.NoError(t, json.Unmarshal(data, &got))
			for key, want := range c.Output {
				require.Contains(t, got, key)
				same(t, c.Calc, key, want, got[key])
			}
			assert.NotEmpty(t, r.Steps, "worked steps")
		})
	}
}

func same(t *testing.T, name, path string, want, got any) {
	t.Helper()
	w, isNumber := want.(float64)
	if !isNumber {
		if m, ok := want.(map[string]any); ok {
			for k, v := range m {
				same(t, name, path+"."+k, v, got.(map[string]any)[k])
			}
			return
		}
		assert.Equal(t, want, got, path)
		return
	}
	g, ok := got.(float64)
	require.True(t, ok, path)
	tolerance := math.Abs(w) * 1e-5
	if strings.HasSuffix(path, "_nm") {
		tolerance = 0
		if inexact[name] || inexact[name+"."+path] {
			tolerance = 5
		}
	}
	assert.InDelta(t, w, g, tolerance, path)
}

func TestExamplesAnswer(t *testing.T) {
	for _, c := range calc.All() {
		r, err := c.Run([]byte(c.Example))
		if assert.NoError(t, err, c.Name) {
			_, err = r.JSON()
			assert.NoError(t, err, c.Name)
			assert.NotEmpty(t, r.Steps, c.Name)
		}
		assert.NotEmpty(t, c.Formula, c.Name)
		assert.NotEmpty(t, c.Valid, c.Name)
		assert.NotEmpty(t, c.Source, c.Name)
		for _, f := range c.Fields() {
			assert.NotEmpty(t, f.Doc, c.Name+"."+f.Name)
		}
	}
}
