package after_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/after"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/layout"
	"yatai/core/length"
)

// TestWhatClearanceAGuideIsMadeFor by the shop's school, the side and the cooling: limits 0.030 to 0.090 mm, of which
// a third is 0.020.
func TestWhatClearanceAGuideIsMadeFor(t *testing.T) {
	for _, x := range []struct {
		school, cooling string
		role            layout.Role
		want            length.Length // nm
	}{
		{"maker's middle", "water", layout.Intake, 60_000},
		{"maker's middle", "water", layout.Exhaust, 60_000},
		{"maker's middle", "air", layout.Exhaust, 60_000},
		{"tight", "water", layout.Intake, 40_000},
		{"tight", "water", layout.Exhaust, 70_000},
		{"tight", "air", layout.Intake, 50_000},
		{"tight", "air", layout.Exhaust, 80_000},
	} {
		h := headtest.New(t, 1, "IE").Both("guide.clearance", "0.03", "0.09")
		h.Settings = map[string]string{"school.clearance": x.school}
		h.Model.Kind.Cooling = x.cooling
		lv, _ := h.Model.Layout.Valve(map[layout.Role]string{layout.Intake: "1I1", layout.Exhaust: "1E1"}[x.role])
		aim := after.Aim(h.Head, lv)
		require.NotNil(t, aim)
		assert.Equal(t, x.want, *aim, "%+v", x)
		h.Limit("guide.clearance/"+string(x.role), "0.04", "0.05")
		h.Sheet.Limits[len(h.Sheet.Limits)-1].Set = head.Target
		h.Sheet = h.Sheet.Indexed()
		assert.Equal(t, 45_000*length.Nanometre, *after.Aim(h.Head, lv), "the shop's target goes before")
	}
}

// TestHowAFigureWasRead: a bracket is its middle and flat between its ends, a number as doubtful as its reading; what
// was not read is not known.
func TestHowAFigureWasRead(t *testing.T) {
	v := at(whole(t).Read("valve.margin", "1E1 1.5"))
	lash := &v.Figures[after.Lash]
	assert.True(t, lash.Known && lash.Read && !lash.Changed)
	assert.InDelta(t, 255_000, lash.At, 0.5)
	assert.InDelta(t, 5_000, lash.Flat, 0.5)
	assert.Zero(t, lash.Own)
	assert.InDelta(t, 10_000/math.Sqrt(12), lash.SD(), 1, "a bracket's width over the root of twelve")
	margin := &v.Figures[after.Margin]
	assert.InDelta(t, 1_500_000, margin.At, 0.5)
	assert.Positive(t, margin.Own)
	assert.Zero(t, margin.Flat)
	assert.Equal(t, margin.Own, margin.SD())
	bare := at(headtest.New(t, 1, "IE"))
	for i := range bare.Figures {
		assert.False(t, bare.Figures[i].Known || bare.Figures[i].Read, "figure %d", i)
	}
}

// TestTheLoadFollowsAKnownRateAlone: installed and open loads over the lift, the open one the larger.
func TestTheLoadFollowsAKnownRateAlone(t *testing.T) {
	lowered := func(seat, open, lift string) after.Figure {
		h := headtest.New(t, 1, "IE").Read("spring.height", "1E1 38.2").Read("spring.load_seat", "1E1 "+seat).
			Read("spring.load_open", "1E1 "+open)
		if lift != "" {
			h.Figure("lift/exhaust", lift)
		}
		v := at(h)
		do(&v, "spring_shim", 500_000)
		return v.Figures[after.Load]
	}
	is := lowered("300", "600", "10")
	assert.True(t, is.Known)
	assert.InDelta(t, 315e6, is.At, 1, "30 N a millimetre, half a millimetre lower")
	assert.False(t, lowered("300", "600", "").Known, "no lift")
	assert.False(t, lowered("300", "300", "10").Known, "no rate")
	assert.False(t, lowered("300", "290", "10").Known, "it cannot get weaker")
}

// TestTheClearanceOfNewParts: the widest bore less the stem that is new, as doubtful as both; a guide made for the
// stem there is.
func TestTheClearanceOfNewParts(t *testing.T) {
	h := whole(t)
	for place, bore := range map[string]string{"top": "8.05", "middle": "8.04", "bottom": "8.06"} {
		h.Read("guide.bore", "1E1."+place+".A "+bore, "1E1."+place+".B "+bore).Read("stem.dia", "1E1."+place+" 7.95")
	}
	v := at(h)
	is := v.Figures[after.Clearance]
	assert.InDelta(t, 110_000, is.At, 1)
	assert.InDelta(t, 20_000, v.Apart, 1, "between its widest and its narrowest place")
	do(&v, "valve_new", 0)
	fresh := v.Figures[after.Clearance]
	assert.InDelta(t, 80_000, fresh.At, 1, "the widest bore, 8.06, less a new stem of 7.98")
	assert.InDelta(t, 20_000, v.Apart, 1)
	assert.Positive(t, fresh.Own)
	v = at(h)
	do(&v, "guide_new", 0)
	made := v.Figures[after.Clearance]
	assert.InDelta(t, 67_500, made.At, 1)
	assert.Zero(t, v.Apart, "a new bore is as wide everywhere")
	assert.Equal(t, 7_950_000*length.Nanometre, *v.Stem)
	assert.Equal(t, 8_017_500*length.Nanometre, *v.Bore)
	assert.Greater(t, made.Own, 2_000.0, "the made bore's and the stem's")
	assert.Less(t, made.Own, 3_000.0)
}
