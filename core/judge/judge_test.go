package judge_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
)

const mm = length.Millimetre

func ptr(l length.Length) *length.Length { return &l }

func twin(t *testing.T) layout.Layout {
	t.Helper()
	l, err := layout.Inline(layout.InlineSpec{Cylinders: 2, Pattern: "IE", Pitch: 110 * mm, Bore: 95 * mm, Width: 160 * mm, IntakeHead: 40 * mm, ExhaustHead: 36 * mm})
	require.NoError(t, err)
	return l
}

func TestReadValues(t *testing.T) {
	lines, _ := judge.ByCode("face.line")
	for text, want := range map[string]gauge.Value{
		"0.05 0.06": gauge.Between(50_000, 60_000), "0.05/0.06": gauge.Between(50_000, 60_000), "0.05 / 0.06": gauge.Between(50_000, 60_000),
		"2 3 thou": gauge.Between(50_800, 76_200), "2 thou 3 thou": gauge.Between(50_800, 76_200), "0.03": gauge.Between(0, 30_000), "0.03 mm": gauge.Between(0, 30_000),
		"0,05 0,06": gauge.Between(50_000, 60_000),
	} {
		got, err := lines.Read(text, length.MM)
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"0.06 0.05", "0.05 0.05", "0", "-0.1", "0.05 x", "a b", "1 2 3 4 5", ""} {
		_, err := lines.Read(text, length.MM)
		assert.Error(t, err, text)
	}
	bore, _ := judge.ByCode("guide.bore")
	_, err := bore.Read("0.3543", length.MM)
	assert.ErrorContains(t, err, "write the unit", "questioned, not guessed")
	_, err = bore.Read("9.0", length.In)
	assert.ErrorContains(t, err, "9.0 mm would be")
}

func TestSpotsFollowTheLayout(t *testing.T) {
	l := twin(t)
	bore, _ := judge.ByCode("guide.bore")
	spots := bore.Spots(l)
	assert.Len(t, spots, 4*3*2)
	assert.Equal(t, "1I1.top.A", spots[0].Key())
	assert.Equal(t, "2E1.bottom.B", spots[len(spots)-1].Key())
	lines, _ := judge.ByCode("face.line")
	assert.Len(t, lines.Spots(l), len(l.Lines))
}

// TestDoubtNamesATool judges one clearance between the limit and the doubt of its gauge.
func TestDoubtNamesATool(t *testing.T) {
	s := judge.Sheet{Layout: twin(t), Limits: []judge.Limit{{Characteristic: "guide.clearance", Role: "intake", Set: "service", Low: ptr(20_000), High: ptr(60_000), Source: "leaflet"}},
		Tools: map[string][]gauge.Tool{"bore gauge": {{Name: "fine", U: 2000}, {Name: "coarse", U: 9000}}, "caliper": {{Name: "caliper", U: 1}}}}
	at := func(bore length.Length, u length.Length) judge.Feature {
		j := judge.Head(s, []judge.Reading{
			{ID: 1, Characteristic: "guide.bore", Spot: judge.Spot{Position: "1I1", Place: "top", Dir: "A"}, Value: gauge.Exact(bore), U: u},
			{ID: 2, Characteristic: "stem.dia", Spot: judge.Spot{Position: "1I1", Place: "top"}, Value: gauge.Exact(8 * mm), U: 1000},
		})
		f, ok := j.Feature("guide.clearance@1I1")
		require.True(t, ok)
		return f
	}
	f := at(8*mm+55_000, 9000)
	assert.Equal(t, gauge.Doubt, f.Verdict)
	assert.Equal(t, "fine", f.Settle)
	assert.Contains(t, f.Why(length.MM), "leaflet")
	assert.Equal(t, gauge.Sound, at(8*mm+55_000, 2000).Verdict)
	tight := at(8*mm+5_000, 2000)
	assert.Equal(t, gauge.Out, tight.Verdict)
	assert.Equal(t, "low", tight.Side)
	assert.Equal(t, "0.015 mm under.", tight.Says(length.MM))
	assert.Equal(t, "guide_hone", judge.RepairsFor(tight)[0].Code, "too tight has repairs of its own")
	assert.Equal(t, "guide_ream", judge.RepairsFor(at(8*mm+90_000, 2000))[0].Code)
}

func TestWorstLineDecidesItsDirection(t *testing.T) {
	s := judge.Sheet{Layout: twin(t), Limits: []judge.Limit{{Characteristic: "face.line", Role: "long", Set: "service", High: ptr(80_000), Source: "leaflet"}}}
	line := func(id uint, name string, goes, nogo length.Length) judge.Reading {
		return judge.Reading{ID: id, Characteristic: "face.line", Spot: judge.Spot{Position: name}, Value: gauge.Between(goes, nogo)}
	}
	j := judge.Head(s, []judge.Reading{line(1, "L1", 30_000, 40_000), line(2, "L2", 100_000, 120_000), line(3, "L3", 50_000, 60_000), line(4, "X1", 200_000, 250_000)})
	f, _ := j.Feature("face.line/long")
	assert.Equal(t, gauge.Out, f.Verdict)
	assert.Equal(t, "L2", f.At)
	assert.Equal(t, "0.100 to 0.120", f.Figure(length.MM))
	cross, _ := j.Feature("face.line/cross")
	assert.Equal(t, gauge.Unread, cross.Verdict, "no limit on the sheet")
	assert.Equal(t, "The sheet has no limit for it.", cross.Says(length.MM))
}

func TestLayoutRefuses(t *testing.T) {
	good := layout.InlineSpec{Cylinders: 4, Pattern: "IIEE", Pitch: 110 * mm, Bore: 95 * mm, Width: 160 * mm, IntakeHead: 40 * mm, ExhaustHead: 36 * mm}
	for name, spoil := range map[string]func(*layout.InlineSpec){
		"cylinders": func(s *layout.InlineSpec) { s.Cylinders = 0 }, "pattern": func(s *layout.InlineSpec) { s.Pattern = "XX" },
		"pitch": func(s *layout.InlineSpec) { s.Pitch = 50 * mm }, "bore": func(s *layout.InlineSpec) { s.Bore = 5 * mm }, "exhaust_head": func(s *layout.InlineSpec) { s.ExhaustHead = 90 * mm },
	} {
		s := good
		spoil(&s)
		_, err := layout.Inline(s)
		assert.ErrorContains(t, err, name)
	}
	l, err := layout.Inline(good)
	require.NoError(t, err)
	seen := map[string]bool{}
	for _, v := range l.Valves {
		assert.False(t, seen[v.ID], "two valves of one name")
		seen[v.ID] = true
		assert.True(t, v.X-v.Head/2 > 0 && v.X+v.Head/2 < l.Length && v.Y-v.Head/2 > 0 && v.Y+v.Head/2 < l.Width, "%s lies on the face", v.ID)
	}
	assert.Len(t, l.Valves, 16)
}

func TestReadAs(t *testing.T) {
	bore, _ := judge.ByCode("guide.bore")
	depth, _ := judge.ByCode("valve.recession")
	ring := judge.Entry{Mode: "deviation", Set: 9 * mm, Division: length.Micrometre}
	for text, want := range map[string]length.Length{"+36": 9_036_000, "-0.5": 8_999_500, "0": 9 * mm, "12": 9_012_000, "+2 thou": 9_050_800} {
		v, err := bore.ReadAs(ring, text, length.MM)
		require.NoError(t, err, text)
		assert.Equal(t, want, v.At, text)
	}
	_, err := bore.ReadAs(ring, "+99999", length.MM)
	assert.ErrorContains(t, err, "that makes 108.999 mm")
	assert.Equal(t, "9 mm +36 divisions of 0.001 mm = 9.036 mm", ring.Worked("36", 9_036_000, length.MM))
	v, err := depth.ReadAs(judge.Entry{Mode: "offset", Set: 25 * mm}, "25.62", length.MM)
	require.NoError(t, err)
	assert.Equal(t, 620*length.Micrometre, v.At)
	v, err = depth.ReadAs(judge.Entry{Mode: "two sides"}, "0.61 0.64", length.MM)
	require.NoError(t, err)
	assert.Equal(t, 625*length.Micrometre, v.At)
	_, err = depth.ReadAs(judge.Entry{Mode: "two sides"}, "0.61", length.MM)
	assert.ErrorContains(t, err, "both sides")
}

// BenchmarkHead judges a head of 24 valves with every guide and stem read, as after each
// reading of a sweep.
func BenchmarkHead(b *testing.B) {
	l, err := layout.Inline(layout.InlineSpec{Cylinders: 6, Pattern: "IIEE", Pitch: 130 * mm, Bore: 110 * mm, Width: 220 * mm, IntakeHead: 38 * mm, ExhaustHead: 34 * mm})
	require.NoError(b, err)
	s := judge.Sheet{Layout: l, Tools: map[string][]gauge.Tool{"bore gauge": {{Name: "fine", U: 2000}}}}
	for _, role := range []string{"intake", "exhaust"} {
		s.Limits = append(s.Limits, judge.Limit{Characteristic: "guide.clearance", Role: role, Set: "service", Low: ptr(20_000), High: ptr(60_000)},
			judge.Limit{Characteristic: "stem.dia", Role: role, Set: "service", Low: ptr(8*mm - 50_000)})
	}
	var readings []judge.Reading
	for _, code := range []string{"guide.bore", "stem.dia"} {
		c, _ := judge.ByCode(code)
		for i, sp := range c.Spots(l) {
			readings = append(readings, judge.Reading{ID: uint(len(readings) + 1), Characteristic: code, Spot: sp, Value: gauge.Exact(8*mm + length.Length(i%7)*5000), U: 2000})
		}
	}
	b.ReportAllocs()
	for b.Loop() {
		judge.Head(s, readings)
	}
}
