package draw_test

import (
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/calc"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/web/draw"
)

const mm = length.Millimetre

func face(t testing.TB, cylinders int, pattern string) layout.Layout {
	t.Helper()
	l, err := layout.Inline(layout.InlineSpec{
		Cylinders: cylinders, Pattern: pattern, Pitch: 110 * mm, Bore: 95 * mm, Width: 160 * mm, IntakeHead: 34 * mm,
		ExhaustHead: 30 * mm,
	})
	require.NoError(t, err)
	return l
}

// wellFormed fails unless the drawing is XML without a NaN in it.
func wellFormed(t *testing.T, name, svg string) {
	t.Helper()
	assert.NotContains(t, svg, "NaN", name)
	assert.NotContains(t, svg, "Inf", name)
	assert.NotContains(t, svg, `style=`, "the policy forbids inline style")
	d := xml.NewDecoder(strings.NewReader(svg))
	for {
		_, err := d.Token()
		if errors.Is(err, io.EOF) {
			return
		}
		require.NoError(t, err, name)
	}
}

func TestHeadMapShowsEveryValve(t *testing.T) {
	for _, pattern := range []string{"IE", "IIEE", "IIE"} {
		l := face(t, 4, pattern)
		l.Chambers[0].Name = `<script>`
		svg := string(draw.HeadMap(draw.Map{
			Layout: l, Verdicts: map[string]gauge.Verdict{"1E1": gauge.Out}, Link: "/at/",
			Lines: map[string]string{"L1": "0.05"},
		}))
		wellFormed(t, pattern, svg)
		assert.NotContains(t, svg, "<script>")
		for _, v := range l.Valves {
			assert.Contains(t, svg, `href="/at/`+v.ID+`"`)
		}
		assert.Contains(t, svg, "1E1, out", "the verdict in words")
		assert.Contains(t, svg, "L1 0.05")
	}
}

func TestWindowsAndSectionsOfOddFeatures(t *testing.T) {
	low, high := quantity.Amount(0), quantity.Amount(50_000)
	for name, f := range map[string]judge.Feature{
		"nothing": {}, "no reading": {Limit: &head.Limit{Low: &low, High: &high}}, "far out": {
			Limit: &head.Limit{High: &high}, Low: quantity.One, High: 2 * quantity.One, From: []uint{1}, Verdict: gauge.Out,
		},
		"no width": {Limit: &head.Limit{Low: &low, High: &low}, From: []uint{1}},
		"at zero":  {Limit: &head.Limit{Low: &low}, From: []uint{1}},
	} {
		wellFormed(t, name, string(draw.Window(f)))
	}
	d, tight := 8*mm, length.Length(0)
	for name, s := range map[string]draw.Section{
		"empty": {Unit: length.MM}, "stem only": {Stem: [3]*length.Length{&d, nil, &d}, Head: 40 * mm, Unit: length.In},
		"guide only": {Guide: [3]*length.Length{&d, &d, nil}, Head: 40 * mm, Unit: length.MM},
		"tight": {
			Guide: [3]*length.Length{&tight, &tight, &tight}, Stem: [3]*length.Length{&d, &d, &d}, Head: 40 * mm,
			Unit: length.MM,
		},
	} {
		wellFormed(t, name, string(s.Draw()))
	}
}

func TestCalculatorsDrawTheirExamples(t *testing.T) {
	drawn := 0
	for _, c := range calc.All() {
		r, err := c.Run([]byte(c.Example))
		require.NoError(t, err)
		if svg := string(draw.Calc(c.Name, draw.BesideTable, r.Input, r.Value)); svg != "" {
			drawn++
			wellFormed(t, c.Name, svg)
		}
	}
	assert.GreaterOrEqual(t, drawn, 7)
	assert.Empty(t, draw.Calc("rock", draw.BesideTable, nil, nil))
}

func BenchmarkHeadMap32(b *testing.B) {
	l := face(b, 8, "IIEE")
	require.Len(b, l.Valves, 32)
	for b.Loop() {
		draw.HeadMap(draw.Map{Layout: l, Link: "/at/", Lines: map[string]string{}})
	}
}
