package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/trade"
)

// swinging makes a head of one cylinder whose worn guides let the open valves swing: held over 50, the
// heads 30 beyond, a clearance swings by 2.2 times itself.
func swinging(t testing.TB, gap, least string) *headtest.Head {
	h := headtest.New(t, 1, "IE").Both("guide.clearance", "0.02", "0.105").Figure("guide_length", "50").
		Figure("open_reach/intake", "30").Figure("open_reach/exhaust", "30").All("guide.bore", "8.10").
		All("stem.dia", "8.00").
		Read("valve.gap", "1I1-1E1 "+gap)
	if least != "" {
		h.Limit("valve.gap_open/", least, "")
	}
	return h
}

// TestOpenValvesMustNotTouch: what is left of the gap when both heads swing is held against the least
// gap, and new guides at both valves bring it back.
func TestOpenValvesMustNotTouch(t *testing.T) {
	h := swinging(t, "0.50 0.55", "0.35")
	f, ok := judge.Head(h.Head).Feature("valve.gap_open@1I1-1E1")
	require.True(t, ok)
	assert.Equal(t, 280*length.Micrometre, f.Low.Length(), "0.50 less 0.11 at each side")
	assert.Equal(t, gauge.Out, f.Verdict)
	p := solve(t, h, head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	for _, v := range p.Valves {
		assert.Equal(t, "new", v.Guide, v.Says)
	}
	assert.Equal(t, "guide_new", p.Choices[f.Key()])
	for _, o := range p.Operations {
		if o.Operation.Operation == trade.FitGuide {
			assert.ElementsMatch(t, []string{"1I1", "1E1"}, o.Positions, "of a pair both")
		}
	}
	after := p.Own[len(p.Own)-1]
	assert.Equal(t, trade.GapOpen.Code, after.Code)
	assert.Greater(t, after.After.Length(), 350*length.Micrometre)

	sound, _ := judge.Head(swinging(t, "0.80 0.85", "0.35").Head).Feature("valve.gap_open@1I1-1E1")
	assert.Equal(t, gauge.Sound, sound.Verdict)
	touching, _ := judge.Head(swinging(t, "0.10 0.15", "").Head).Feature("valve.gap_open@1I1-1E1")
	assert.Equal(t, gauge.Out, touching.Verdict, "without a limit they must not touch")
	none := solve(t, swinging(t, "0.36 0.37", "0.35"), head.Ask{})
	assert.False(t, none.Feasible, "guides alone cannot do it")
}

// TestAGapIsOfItsOwnPair: of two cylinders the one whose guides are renewed is told, by the play of its own.
func TestAGapIsOfItsOwnPair(t *testing.T) {
	h := headtest.New(t, 2, "IE").Both("guide.clearance", "0.02", "0.105").Figure("guide_length", "50").
		Figure("open_reach/intake", "30").Figure("open_reach/exhaust", "30").All("stem.dia", "8.00").
		Limit("valve.gap_open/", "0.35", "").
		Read("valve.gap", "1I1-1E1 0.80 0.85", "2I1-2E1 0.50 0.55")
	for _, id := range h.Positions() {
		for _, place := range []string{"top", "middle", "bottom"} {
			bore := map[byte]string{'1': "8.05", '2': "8.10"}[id[0]]
			h.Read("guide.bore", id+"."+place+".A "+bore, id+"."+place+".B "+bore)
		}
	}
	p := solve(t, h, head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	var gaps []string
	for _, f := range p.Own {
		if f.Code == trade.GapOpen.Code {
			gaps = append(gaps, f.Position)
		}
	}
	assert.Equal(t, []string{"2I1-2E1"}, gaps)
}
