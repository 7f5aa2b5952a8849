package calc_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/calc"
	"yatai/core/field"
)

// TestDoorNamesTheField sends nonsense and looks at the field that is named.
func TestDoorNamesTheField(t *testing.T) {
	for _, c := range []struct{ calc, input, field string }{
		{"nosuch", `{}`, "calc"},
		{"rock", `{"movement":"0.2mm","guide_length":"48mm","overhang":"20mm","colour":"red"}`, "colour"},
		{"rock", `{"movement":"0.2mm","movement":"0.2mm","guide_length":"48mm","overhang":"20mm"}`, "movement"},
		{"rock", `{"movement":"0.2mm","guide_length":"48mm"}`, "overhang"},
		{"rock", `{"movement":0.2,"guide_length":"48mm","overhang":"20mm"}`, "movement"},
		{"rock", `{"movement":"-0.2mm","guide_length":"48mm","overhang":"20mm"}`, "movement"},
		{"rock", `{"movement":"0.2","guide_length":"48mm","overhang":"20mm"}`, "movement"},
		{"rock", `{"movement":null,"guide_length":"48mm","overhang":"20mm"}`, "movement"},
		{"clearance", `{"guide":{"top":["8mm"]},"stem":{"top":["7.9mm","x"]}}`, "stem.top[1]"},
		{"clearance", `{"guide":{},"stem":{"top":["7.9mm"]}}`, "guide"},
		{"verdict", `{"value":{"go":"0.06mm","nogo":"0.05mm"},"high":"1mm"}`, "value.nogo"},
		{"verdict", `{"value":"0.05mm"}`, "low"},
		{"flatness", `{"points":[]}`, "points"},
		{
			"spring", `{"readings":[{"length":"40mm","load":"310"},{"length":"30mm","load":"400N"}],"installed":"38mm","lift":"9mm","solid":"24mm"}`,
			"readings[0].load",
		},
		{
			"seat",
			`{"angle":45,"top":50,"bottom":60,"inner":"33mm","outer":"36mm","valve_head":"36mm","target_outer":"35mm","target_width":"1mm"}`,
			"top",
		},
		{
			"seat",
			`{"angle":"45","top":30,"bottom":60,"inner":"33mm","outer":"36mm","valve_head":"36mm","target_outer":"35mm","target_width":"1mm"}`,
			"angle",
		},
		{"stackup", `{"drive":"bucket","ratio":1e999}`, "ratio"},
		{
			"gasket",
			`{"pistons":[{"id":"1","a":"0.6mm","b":"0.6mm"}],"grades":[{"name":"n","low":"1mm","high":"0.5mm"}],"use":"max","outlier":"0.1mm"}`,
			"grades[0].low",
		},
		{
			"gasket",
			`{"pistons":[{"id":"1","a":"0.6mm","b":"0.6mm"}],"grades":[{"name":"n","low":"0.1mm","high":"0.5mm"}],"use":"median","outlier":"0.1mm"}`,
			"use",
		},
		{
			"fit",
			`{"hole":"13mm","part":"13mm","hole_material":"cheese","part_material":"iron","hole_temp":"20C","part_temp":"20C"}`,
			"hole_material",
		},
		{
			"fit",
			`{"hole":"13mm","part":"13mm","hole_material":"iron","part_material":"iron","hole_temp":"20C","part_temp":"-300C"}`,
			"part_temp",
		},
		{"vacuum", `{"baseline":"84kPa","drop":"4kPa","readings":[]}`, "readings"},
		{"tighten", `{"bolts":[{"id":"1","x":"0mm","y":"0mm"}],"stages":["30"]}`, "stages[0]"},
		{"length", `{"text":"7"}`, "text"},
		{"length", `[]`, ""},
		{"length", `{"text":"7 mm"} x`, ""},
		{"length", ``, ""},
	} {
		_, err := calc.Run(c.calc, []byte(c.input))
		var fe *field.Error
		if assert.ErrorAs(t, err, &fe, c.input) {
			assert.Equal(t, c.field, fe.Field, c.input)
			assert.NotEmpty(t, fe.Message())
		}
	}
}

func TestExactPressure(t *testing.T) {
	r, err := calc.Run("vacuum", []byte(`{"baseline":"84.3kPa","drop":"4.1kPa","readings":["80.2kPa"]}`))
	require.NoError(t, err)
	b, err := r.JSON()
	require.NoError(t, err)
	assert.Contains(t, string(b), `"pass": true`)
}

func TestStepsSpeakTheUnitOfTheInput(t *testing.T) {
	r, err := calc.Run("clearance", []byte(`{"guide":{"top":["0.2795in"]},"stem":{"top":["0.2778in"]}}`))
	require.NoError(t, err)
	assert.Equal(t, "0.2795 in - 0.2778 in = 0.0017 in", r.Steps[0].Sum)
}

func TestHelpAndDescription(t *testing.T) {
	for _, c := range calc.All() {
		h := c.Help()
		for _, f := range c.Fields() {
			assert.Contains(t, h, f.Name)
		}
		b, err := json.Marshal(c.Describe())
		require.NoError(t, err)
		assert.True(t, json.Valid(b))
	}
	assert.Equal(t, 30, len(calc.All()))
}
