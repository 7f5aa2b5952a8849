package plan_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/length"
	"yatai/core/trade"
)

// sloped makes a head whose face rises along by so many micrometres a metre, with a hollow of 0.033
// in its middle, and valves at some depth.
func sloped(t testing.TB, along float64, depth string) *headtest.Head {
	h := headtest.New(t, 4, "IE").Limit("face.line/long", "", "0.05").Limit("face.flatness/", "", "0.05").
		Both("valve.recession", "0.40", "0.90").Figure("face_most", "0.60").All("valve.recession", depth).
		All("face.line", "0.00 0.02")
	for i, g := range h.Model.Layout.Grid() {
		z := along * g.X.Millimetres() / 1e6
		if i%3 == 1 {
			z -= 0.033
		}
		h.Read("face.grid", fmt.Sprintf("%s %.6f", g.Name, z))
	}
	h.Read("face.line", "L1 0.12 0.15")
	return h
}

// TestAHeadIsTiltedWhereThatKeepsItsDepths: a face that lies askew by 0.2 has to lose so much when
// held level, which takes every valve out of its window; tilted it loses what its hollow asks for.
func TestAHeadIsTiltedWhereThatKeepsItsDepths(t *testing.T) {
	h := sloped(t, 450, "0.60")
	p := solve(t, h, head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	require.NotNil(t, p.Tilt)
	assert.InDelta(t, 450, float64(p.Tilt.Along), 60)
	assert.Less(t, p.FaceCut, 150*length.Micrometre)
	level := solve(t, h, head.Ask{Tilt: head.Level})
	assert.Nil(t, level.Tilt)
	if level.Feasible {
		assert.Greater(t, level.Cents, p.Cents, "tilted because it costs less")
		assert.Greater(t, level.FaceCut, p.FaceCut)
	}
	held := 100 * length.Micrometre
	assert.False(t, solve(t, h, head.Ask{FaceCut: &held}).Feasible,
		"a held cut that does not clean the face up when level is none")
	assert.True(t, solve(t, h, head.Ask{FaceCut: &held, Tilt: head.Tilted}).Feasible, "unless the lead has it tilted")
	flat := solve(t, sloped(t, 0, "0.60"), head.Ask{})
	require.True(t, flat.Feasible)
	assert.Nil(t, flat.Tilt, "a face that lies level is held level")
}

// TestWhatASlopeAddsTiltingTakesAway: the same face with another slope, tilted, is the same plan.
func TestWhatASlopeAddsTiltingTakesAway(t *testing.T) {
	r := rand.New(rand.NewPCG(13, 26))
	base := solve(t, sloped(t, 300, "0.60"), head.Ask{Tilt: head.Tilted})
	require.True(t, base.Feasible)
	require.NotNil(t, base.Tilt)
	for range 6 {
		along := 200 + 500*r.Float64()
		p := solve(t, sloped(t, along, "0.60"), head.Ask{Tilt: head.Tilted})
		require.True(t, p.Feasible)
		assert.Equal(t, base.FaceCut, p.FaceCut)
		assert.Equal(t, base.Cents, p.Cents)
		assert.InDelta(t, along-300, float64(p.Tilt.Along)-float64(base.Tilt.Along), 0.1)
		for i, v := range p.Valves {
			is, was := v.Figure(trade.Recession.Code), base.Valves[i].Figure(trade.Recession.Code)
			assert.InDelta(t, float64(was.After), float64(is.After), 20, "%s", v.ID)
		}
	}
}

// TestTiltingLeavesTheHeadThickEnough: a tilted cut leaves the least where the face stands highest
// over its plane, and no taper beyond its limit.
func TestTiltingLeavesTheHeadThickEnough(t *testing.T) {
	for least, feasible := range map[string]bool{"99.50": true, "99.99": false} {
		p := solve(t, sloped(t, 450, "0.60").All("head.thickness", "100.00").Limit("head.thickness/", least, ""),
			head.Ask{Tilt: head.Tilted})
		require.Equal(t, feasible, p.Feasible, "%s: %v", least, p.Blocked)
		if feasible {
			thin := p.Own[0]
			require.Equal(t, trade.Thickness.Code, thin.Code)
			after := thin.After.Length()
			assert.GreaterOrEqual(t, after, 100*length.Millimetre-p.FaceCut, "no place loses more than the cut")
			assert.LessOrEqual(t, after, 100*length.Millimetre)
		}
	}
	h := sloped(t, 450, "0.60").Limit("head.taper/", "", "0.05")
	for i, at := range h.Model.Layout.Corners { // one end is thick by more than the hollow hides
		h.Read("head.thickness", fmt.Sprintf("%s %.2f", at.Name, 100+0.04*float64(i/2)))
	}
	p := solve(t, h, head.Ask{Tilt: head.Tilted})
	require.False(t, p.Feasible)
	assert.Contains(t, p.Blocked[0].Why, "tilted to the best plane its thickness differs by")
}
