package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/trade"
)

// bridged is a head of one cylinder with an intake and two exhausts under a bridge.
func bridged(t *testing.T, stems ...string) *headtest.Head {
	h := headtest.New(t, 1, "IEE")
	h.Model.Layout.Bridges = layout.Guided
	h.Both("valve.recession", "0.40", "1.00").Both("stem.height", "45.80", "46.60").
		Limit("lash/intake", "0.20", "0.30").Limit("bridge.lash/exhaust", "0.40", "0.50").
		Limit("bridge.step/exhaust", "", "0.20").Figure("adjuster", "0.60").
		Read("valve.recession", "1I1 0.70", "1E1 0.70", "1E2 0.70")
	return h.Read("stem.height", stems...)
}

// TestTheStemsUnderABridge are held against each other; what work at one of them does to that is in the plan.
func TestTheStemsUnderABridge(t *testing.T) {
	h := bridged(t, "1I1 46.10", "1E1 46.20", "1E2 46.25")
	f, ok := judge.Head(h.Head).Feature("bridge.step@1E1")
	require.True(t, ok)
	assert.Equal(t, 50*length.Micrometre, f.High.Length())
	assert.Equal(t, gauge.Sound, f.Verdict)
	assert.Len(t, f.From, 2)
	_, ok = judge.Head(h.Head).Feature("bridge.step@1E2")
	assert.False(t, ok, "one figure for both")
	steep, _ := judge.Head(bridged(t, "1E1 46.00", "1E2 46.25").Head).Feature("bridge.step@1E1")
	assert.Equal(t, gauge.Out, steep.Verdict)

	h.See("seat.condition", "1E2", "heavy_pits")
	p := solve(t, h, head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	cut := p.Valves[2].SeatCut
	require.Positive(t, cut)
	step := p.Own[len(p.Own)-1]
	assert.Equal(t, trade.BridgeStep.Code, step.Code)
	assert.Equal(t, 50*length.Micrometre+cut, step.After.Length(), "the seat cut raises the other stem further")

	for off, fits := range map[length.Length]bool{0: true, -length.Micrometre: false} {
		h := bridged(t, "1I1 46.10", "1E1 46.20", "1E2 46.25").See("seat.condition", "1E2", "heavy_pits").
			Limit("bridge.step/exhaust", "", (step.After.Length() + off).MM())
		h.Sheet.Limits = slices.DeleteFunc(h.Sheet.Limits, func(l head.Limit) bool {
			return l.Characteristic == "bridge.step" && l.High.Length() == 200*length.Micrometre
		})
		p := solve(t, h, head.Ask{})
		assert.Equal(t, fits, p.Feasible, "%v", p.Blocked)
		assert.Equal(t, fits, p.Own[len(p.Own)-1].Fits)
	}

	h = bridged(t, "1I1 46.10", "1E1 46.05", "1E2 46.22").See("seat.condition", "1E2", "heavy_pits")
	p = solve(t, h, head.Ask{})
	require.False(t, p.Feasible)
	assert.Equal(t, "bridge.step", p.Blocked[0].Limit)
}

// TestTheLashUnderABridge: a seat that is cut under a bridge has the bridge set, once; the intake its own lash.
func TestTheLashUnderABridge(t *testing.T) {
	h := bridged(t, "1I1 46.10", "1E1 46.20", "1E2 46.20")
	h.Sheet.Limits = h.Sheet.Limits[:len(h.Sheet.Limits)-1]
	h.Sheet = h.Sheet.Indexed()
	h.See("seat.condition", "1I1", "heavy_pits").See("seat.condition", "1E1", "heavy_pits").
		See("seat.condition", "1E2", "heavy_pits")
	p := solve(t, h, head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	at := map[string][]string{}
	for _, o := range p.Operations {
		at[o.Code] = o.Positions
	}
	assert.Equal(t, []string{"1E1"}, at["bridge_set"])
	assert.Equal(t, []string{"1I1"}, at["lash_set"])
	assert.NotContains(t, p.Missing, "1E1 lash: not read")
	assert.NotContains(t, p.Missing, "1E2 lash: not read")
}
