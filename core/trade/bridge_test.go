package trade

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/layout"
)

// bridgedRow is two cylinders with an intake and two exhausts each, rockers on bridges.
func bridgedRow(t *testing.T, bridges string) layout.Layout {
	const mm = 1_000_000
	l, err := layout.Inline(layout.InlineSpec{
		Cylinders: 2, Pattern: "IEE", Pitch: 120 * mm, Bore: 100 * mm, Width: 160 * mm,
		IntakeHead: 40 * mm, ExhaustHead: 30 * mm, Bridges: bridges,
	})
	require.NoError(t, err)
	return l
}

// TestWhereBridgesAre: what is read of a bridge is read once for its two valves, by the fixed one, and their lash
// is the bridge's; a valve alone of its role has its own.
func TestWhereBridgesAre(t *testing.T) {
	none := []string(nil)
	every, fixed := []string{"1I1", "1E1", "1E2", "2I1", "2E1", "2E2"}, []string{"1E1", "2E1"}
	for _, x := range []struct {
		bridges                  string
		lash, bridge, step, pins []string
	}{
		{"", every, none, none, none},
		{layout.Floating, []string{"1I1", "2I1"}, fixed, fixed, none},
		{layout.Guided, []string{"1I1", "2I1"}, fixed, fixed, fixed},
	} {
		l := bridgedRow(t, x.bridges)
		assert.Equal(t, x.lash, Lash.Positions(l), "%q", x.bridges)
		assert.Equal(t, x.lash, LashHot.Positions(l), "%q", x.bridges)
		assert.Equal(t, x.bridge, BridgeLash.Positions(l), "%q", x.bridges)
		assert.Equal(t, x.bridge, BridgeSeen.Positions(l), "%q", x.bridges)
		assert.Equal(t, x.step, BridgeStep.Positions(l), "%q", x.bridges)
		assert.Equal(t, x.pins, BridgeFit.Positions(l), "%q", x.bridges)
		assert.Equal(t, every, StemHeight.Positions(l), "stems stand each for itself")
	}
	_, _, ok := bridgedRow(t, layout.Guided).BridgeAt("9E9")
	assert.False(t, ok)
}

// TestTheLashOfAValveUnderABridgeIsSetWithIt: wherever it is asked for.
func TestTheLashOfAValveUnderABridgeIsSetWithIt(t *testing.T) {
	for _, x := range []struct {
		bridges  string
		of, is   *Operation
		at, done string
	}{
		{layout.Guided, SetLash, SetBridges, "1E2", "1E1"},
		{layout.Guided, SetLash, SetBridges, "1E1", "1E1"},
		{layout.Guided, SetLash, SetLash, "1I1", "1I1"},
		{layout.Guided, NewBridges, NewBridges, "2E2", "2E1"},
		{layout.Guided, CutSeat, CutSeat, "2E2", "2E2"},
		{"", SetLash, SetLash, "1E2", "1E2"},
	} {
		is, done := x.of.At(bridgedRow(t, x.bridges), x.at)
		assert.Same(t, x.is, is, "%+v", x)
		assert.Equal(t, x.done, done, "%+v", x)
	}
}

// TestABridgeIsSetInItsOrder: one step left out, and it may stand on one valve only.
func TestABridgeIsSetInItsOrder(t *testing.T) {
	all := Values{"backed_off": "yes", "pressed": "yes", "touches": "yes", "further": "yes", "locked": "yes"}
	is, err := bridgeRecord.Judge(all, nil)
	require.NoError(t, err)
	assert.True(t, is.OK)
	for name := range all {
		all[name] = "no"
		is, err = bridgeRecord.Judge(all, nil)
		require.NoError(t, err)
		assert.False(t, is.OK, name)
		all[name] = "yes"
	}
}

// TestBridgesNeedRockers to press on them.
func TestBridgesNeedRockers(t *testing.T) {
	for _, drive := range Drives {
		k := Kind{Drive: drive}
		assert.NoError(t, k.CheckBridges(""), drive)
		assert.Equal(t, k.Rockers(), k.CheckBridges(layout.Guided) == nil, drive)
	}
}
