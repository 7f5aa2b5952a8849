package cause_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/cause"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/trade"
)

func weigh(h *headtest.Head) []cause.Weighed { return cause.Weigh(h.Head, judge.Head(h.Head)) }

func scores(all []cause.Weighed) map[string]float64 {
	out := map[string]float64{}
	for _, w := range all {
		out[w.Code] = w.Score
	}
	return out
}

func TestNothingKnownPointsToNothing(t *testing.T) {
	assert.Empty(t, weigh(headtest.New(t, 2, "IE")))
}

func TestSinkingSeat(t *testing.T) {
	h := headtest.New(t, 2, "IE").Both("valve.recession", "0.4", "1.0").Both("lash", "0.15", "0.40").
		Read("valve.recession", "1I1 0.6", "2I1 0.6", "1E1 1.56", "2E1 0.6").Read("lash", "1I1 0.20 0.22", "2I1 0.20 0.22",
		"1E1 0.02 0.04", "2E1 0.20 0.22").
		See("seat.condition", "1E1", "sunk")
	h.Symptoms = []string{"lash_lost"}
	require.NotNil(t, trade.SymptomNamed("lash_lost"))
	all := weigh(h)
	require.NotEmpty(t, all)
	assert.Equal(t, "sinking", all[0].Code)
	assert.Contains(t, all[0].At, "1E1")
	sign, between, ok := cause.Next(all)
	require.True(t, ok)
	assert.NotEmpty(t, sign.Check)
	assert.Contains(t, between, "seat recession")
}

// TestALeakThatTurnsSpeaksAgainstTheSeat: a leak that moves with the valve is the valve's.
func TestALeakThatTurnsSpeaksAgainstTheSeat(t *testing.T) {
	turning := headtest.New(t, 2, "IE").Both("seat.runout", "", "0.05").Read("test.baseline", "H 84").Read(
		"test.vacuum", "1I1.0 82", "1I1.90 70", "1I1.180 66", "1I1.270 81",
	).Read("seat.runout", "1I1 0.09")
	still := headtest.New(t, 2, "IE").Both("seat.runout", "", "0.05").Read("test.baseline", "H 84").Read(
		"test.vacuum", "1I1.0 66", "1I1.90 66", "1I1.180 66", "1I1.270 66",
	).Read("seat.runout", "1I1 0.09")
	a, b := scores(weigh(turning)), scores(weigh(still))
	assert.Greater(t, a["bent"], b["bent"])
	assert.Less(t, a["seat_out"], b["seat_out"])
}

// TestCausesAreOfTheHead: what a head does not have does not fail.
func TestCausesAreOfTheHead(t *testing.T) {
	make := func(drive string) map[string]float64 {
		h := headtest.New(t, 2, "IE").Both("guide.clearance", "0.02", "0.08").Read("stem.dia", "1E1.top 7.96").Read(
			"guide.bore", "1E1.top.A 8.10", "1E1.top.B 8.04",
		)
		h.Model.Kind.Drive = drive
		return scores(weigh(h))
	}
	assert.Contains(t, make(trade.Rocker), "geometry")
	assert.NotContains(t, make(trade.Bucket), "geometry")
	assert.Contains(t, make(trade.Bucket), "guide_worn")
}

// TestThatSomethingIsSoundPointsToNothing: a healthy head has no cause; sound guides are a sign of bad
// seals where a port is wet, at that valve, and worn ones speak against them at their own valve alone.
func TestThatSomethingIsSoundPointsToNothing(t *testing.T) {
	worn := func(at string) *headtest.Head {
		h := headtest.New(t, 1, "IE").Both("guide.clearance", "0.02", "0.08").All("stem.dia", "8.00").
			All("guide.bore", "8.05")
		if at != "" {
			for _, p := range []string{"top", "middle", "bottom"} {
				h.Read("guide.bore", at+"."+p+".A 8.14", at+"."+p+".B 8.14")
			}
		}
		return h
	}
	score := func(h *headtest.Head) (float64, []string) {
		for _, w := range cause.Weigh(h.Head, judge.Head(h.Head)) {
			if w.Code == "seals_gone" {
				return w.Score, w.At
			}
		}
		return 0, nil
	}
	none, _ := score(worn(""))
	assert.Zero(t, none, "nothing is wrong with it")
	wet, at := score(worn("").See("port.condition", "1E1", "oily"))
	assert.Equal(t, []string{"1E1"}, at)
	elsewhere, _ := score(worn("1I1").See("port.condition", "1E1", "oily"))
	assert.Equal(t, wet, elsewhere, "a worn guide at another valve says nothing of this one's seal")
	here, _ := score(worn("1E1").See("port.condition", "1E1", "oily"))
	assert.Less(t, here, wet, "at its own valve it does")
}
