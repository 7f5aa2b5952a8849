package layout_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/layout"
	"yatai/core/length"
)

const mm = length.Millimetre

func head(t *testing.T, cylinders int, pattern string) layout.Layout {
	t.Helper()
	l, err := layout.Inline(layout.InlineSpec{
		Cylinders: cylinders, Pattern: pattern, Pitch: 112 * mm, Bore: 98 * mm, Width: 164 * mm, IntakeHead: 38 * mm,
		ExhaustHead: 34 * mm,
	})
	require.NoError(t, err)
	return l
}

func TestEveryLayoutFitsItsFace(t *testing.T) {
	for _, pattern := range []string{"IE", "EI", "IIE", "IIEE", "IIIEE"} {
		for n := 1; n <= 12; n++ {
			l := head(t, n, pattern)
			seen := map[string]bool{}
			for _, v := range l.Valves {
				assert.False(t, seen[v.ID], v.ID)
				seen[v.ID] = true
				assert.True(t, v.X-v.Head/2 > 0 && v.X+v.Head/2 < l.Length && v.Y-v.Head/2 > 0 && v.Y+v.Head/2 < l.Width,
					"%s of %d %s", v.ID, n, pattern)
			}
			assert.Len(t, l.Valves, n*len(pattern))
			assert.Len(t, l.Journals(), n+1)
			for _, g := range l.Grid() {
				assert.True(t, g.X > 0 && g.X < l.Length && g.Y > 0 && g.Y < l.Width, g.Name)
			}
		}
	}
}

func TestPairsJoinNeighboursOfACylinder(t *testing.T) {
	l := head(t, 2, "IIEE")
	in := map[string]bool{}
	for _, p := range l.Pairs() {
		a, b := p[:3], p[4:]
		va, ok := l.Valve(a)
		require.True(t, ok)
		vb, ok := l.Valve(b)
		require.True(t, ok)
		assert.Equal(t, va.Cylinder, vb.Cylinder, p)
		in[a], in[b] = true, true
	}
	assert.Len(t, in, 8, "every valve has a neighbour")
	assert.Equal(t, []string{"1I1-1E1"}, head(t, 1, "IE").Pairs())
}

// TestMirrorTwiceIsTheHead mirrors a head twice, and looks that distances stay.
func TestMirrorTwiceIsTheHead(t *testing.T) {
	l := head(t, 3, "IIEE")
	m := l.Mirror()
	assert.Equal(t, l.Valves, m.Mirror().Valves)
	assert.Equal(t, l.Bolts, m.Mirror().Bolts)
	assert.NotEqual(t, l.Valves, m.Valves)
	far := func(l layout.Layout, i, k int) float64 {
		return math.Hypot((l.Valves[i].X - l.Valves[k].X).Millimetres(), (l.Valves[i].Y - l.Valves[k].Y).Millimetres())
	}
	for i := range l.Valves {
		assert.InDelta(t, far(l, 0, i), far(m, 0, i), 1e-9)
	}
}

func TestPlacesAreNamedByWhatIsNear(t *testing.T) {
	l := head(t, 2, "IE")
	i, _ := l.Valve("2I1")
	e, _ := l.Valve("2E1")
	assert.Equal(t, "at 2I1", l.Near(i.X, i.Y).String())
	edge := (i.X + i.Head/2 + e.X - e.Head/2) / 2
	assert.Equal(t, "between 2I1 and 2E1", l.Near(edge, i.Y).String())
	assert.Equal(t, "at bolt 1", l.Near(l.Bolts[0].X, l.Bolts[0].Y).String())
	assert.Empty(t, layout.Layout{}.Near(0, 0).String())
}
