package draw_test

import (
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/quantity"
	"yatai/core/surface"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/web/draw"
)

// whole checks that a drawing is well-formed and has no number that is none.
func whole(t *testing.T, what, svg string) {
	t.Helper()
	d := xml.NewDecoder(strings.NewReader(svg))
	for {
		_, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err, what)
	}
	for _, bad := range []string{"NaN", "Inf", "%!"} {
		assert.NotContains(t, svg, bad, what)
	}
}

func TestNewDrawingsAreWhole(t *testing.T) {
	for _, p := range trade.Parts {
		for i, g := range p.Grades {
			whole(t, p.Code, string(draw.Sketch(p.Code, g.Code)))
			if i > 0 {
				assert.True(t, draw.Sketched(p.Code, g.Code), "%s %s has no sketch of its own", p.Code, g.Code)
			}
		}
	}
	mm := length.Millimetre
	l, err := layout.Inline(layout.InlineSpec{
		Cylinders: 4, Pattern: "IIEE", Pitch: 100 * mm, Bore: 88 * mm, Width: 150 * mm, IntakeHead: 32 * mm,
		ExhaustHead: 28 * mm,
	})
	require.NoError(t, err)
	marks := []draw.MapMark{
		{Name: "1", Grade: "crack", Says: words.Of(`between "2I1" & <2E1>`), X: 100 * mm, Y: 70 * mm},
		{Name: "2", Grade: "leak", X: 5 * mm, Y: 5 * mm},
		{Name: "3", Grade: "stamp"}, {Name: "4", Grade: "erosion"},
	}
	face := string(draw.HeadMap(draw.Map{Layout: l, Marks: marks, Tap: true}))
	cover := string(draw.HeadMap(draw.Map{Layout: l, Marks: marks, Cover: true}))
	whole(t, "face", face)
	whole(t, "cover", cover)
	assert.Contains(t, face, "map of the face")
	assert.Contains(t, cover, "map of the cover&#39;s side")
	assert.NotContains(t, cover, `class="chamber"`, "chambers are on the other side")

	var in surface.FlatnessInput
	for i, g := range l.Grid() {
		in.Points = append(in.Points, surface.Point{X: g.X, Y: g.Y, Z: length.Length(i%5) * 10 * length.Micrometre})
	}
	level := 25 * length.Micrometre
	relief := string(draw.Relief(l, in, &level, length.MM))
	whole(t, "relief", relief)
	assert.Contains(t, relief, "stays")
	assert.Contains(t, relief, `class="contour"`)
	whole(t, "flat", string(
		draw.Relief(l, surface.FlatnessInput{Points: []surface.Point{{}, {X: mm}, {Y: mm}, {X: mm, Y: mm}}}, nil, length.In),
	))
	whole(t, "unread", string(draw.Relief(l, surface.FlatnessInput{}, nil, length.MM)))

	at := map[string][]draw.TrayPart{
		"2E1": {{Part: "valve", State: "new", Warn: true}, {Part: "spring", State: "missing"}},
	}
	tray := string(draw.Tray(l, func(id string) []draw.TrayPart {
		if at[id] == nil {
			return []draw.TrayPart{{Part: "valve", State: "own"}, {Part: "spring", State: "own"}}
		}
		return at[id]
	}, "/heads/T1/at/", words.English))
	whole(t, "tray", tray)
	assert.Contains(t, tray, `aria-label="2E1: valve new, spring missing"`)
	assert.Contains(t, tray, `aria-label="1I1: all its own"`)
	assert.Equal(t, len(l.Valves), strings.Count(tray, `class="bay"`))
	assert.Less(t, strings.Index(tray, ">1I1<"), strings.Index(tray, ">4I1<"), "in the head's order")

	low, high := quantity.One/2, quantity.One
	move := &plan.Figure{
		Label: "Recession", Now: 900_000, After: 600_000, Known: true, Read: true, SD: 4000,
		Limit: &head.Limit{Low: &low, High: &high, Near: 50_000},
	}
	shift := string(draw.Shift(move, length.MM))
	whole(t, "shift", shift)
	assert.Contains(t, shift, "Recession from 0.900 to 0.600 mm, sound")
	assert.Contains(t, shift, "arrow")
	move.After = move.Now
	assert.NotContains(t, string(draw.Shift(move, length.MM)), "arrow")
	assert.Empty(t, draw.Shift(&plan.Figure{}, length.MM))

	guide := []head.Reading{
		{Spot: trade.Spot{Place: "top", Dir: "A"}, Value: gauge.Exact(9_000_000)},
		{Spot: trade.Spot{Place: "bottom", Dir: "B"}, Value: gauge.Exact(9_040_000)},
	}
	whole(t, "rose", string(draw.Rose(guide, length.MM)))
}

func BenchmarkHeadMapOf32Valves(b *testing.B) {
	mm := length.Millimetre
	l, err := layout.Inline(layout.InlineSpec{
		Cylinders: 8, Pattern: "IIEE", Pitch: 100 * mm, Bore: 88 * mm, Width: 150 * mm, IntakeHead: 32 * mm,
		ExhaustHead: 28 * mm,
	})
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		draw.HeadMap(draw.Map{Layout: l, Lines: map[string]string{"L1": "0.05"}})
	}
}
