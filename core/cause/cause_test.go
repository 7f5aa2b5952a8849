package cause_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/cause"
	"yatai/core/gauge"
	"yatai/core/judge"
)

// head makes a judgement of one intake and one exhaust with these features.
func head(intake, exhaust []judge.Feature, own ...judge.Feature) judge.Judgement {
	return judge.Judgement{Positions: []judge.Position{{ID: "1I1", Features: intake}, {ID: "1E1", Features: exhaust}}, Own: own}
}

func TestEveryCauseStandsOnSignsThatAre(t *testing.T) {
	known := map[string]bool{}
	for _, s := range cause.Signs {
		assert.False(t, known[s.Code], s.Code)
		known[s.Code] = true
		assert.NotEmpty(t, s.Check)
	}
	used := map[string]bool{}
	for _, c := range cause.Causes {
		assert.NotEmpty(t, c.Mend, c.Code)
		for _, p := range c.Signs {
			assert.True(t, known[p.Sign], "%s: %s", c.Code, p.Sign)
			used[p.Sign] = true
		}
	}
	for code := range known {
		assert.True(t, used[code], "%s tells nothing", code)
	}
	assert.Empty(t, cause.Weigh(cause.Evidence{}), "no evidence, no cause")
}

func TestSinkingSeatOnDryGas(t *testing.T) {
	out := func(code, side string) judge.Feature {
		return judge.Feature{Code: code, Position: "1E1", Verdict: gauge.Out, Side: side, From: []uint{1}}
	}
	sound := func(code string) judge.Feature {
		return judge.Feature{Code: code, Verdict: gauge.Sound, From: []uint{2}}
	}
	e := cause.Evidence{Judgement: head([]judge.Feature{sound("valve.recession"), sound("lash")}, []judge.Feature{out("valve.recession", "high"), out("lash", "low")}), Story: "The lash was gone again.", Fuel: "pump on dry gas"}
	all := cause.Weigh(e)
	require.NotEmpty(t, all)
	assert.Equal(t, "sinking", all[0].Code)
	assert.Equal(t, 8, all[0].Score)
	assert.Len(t, all[0].For, 4)
	s, between, ok := cause.Next(all)
	require.True(t, ok)
	assert.NotEmpty(t, s.Check)
	assert.Contains(t, between, "seat recession")
}

func TestLeakThatTurnsSpeaksAgainstTheSeat(t *testing.T) {
	vac := judge.Feature{Code: "seal.vacuum", Position: "1I1", Verdict: gauge.Out, Note: "the leak turns with the valve: bent or off centre", From: []uint{1}}
	runs := judge.Feature{Code: "seat.runout", Position: "1E1", Verdict: gauge.Out, Side: "high", From: []uint{2}}
	all := cause.Weigh(cause.Evidence{Judgement: head([]judge.Feature{vac}, []judge.Feature{runs}), Story: "over-revved"})
	assert.Equal(t, "bent", all[0].Code)
	for _, w := range all {
		if w.Code == "seat_out" {
			require.Len(t, w.Against, 2, "the leak moves, and it does not fail at every turn")
			assert.Equal(t, 0, w.Score)
		}
	}
}

func TestGradesCountOnlyWhenAllWereLookedAt(t *testing.T) {
	dry := judge.Feature{Code: "port.condition", Label: "Port: dry", Verdict: gauge.Sound, Finding: 1}
	over := judge.Feature{Code: "guide.clearance", Position: "1E1", Verdict: gauge.Out, Side: "high", From: []uint{1}}
	part := cause.Weigh(cause.Evidence{Judgement: head([]judge.Feature{dry}, []judge.Feature{over})})
	whole := cause.Weigh(cause.Evidence{Judgement: head([]judge.Feature{dry}, []judge.Feature{over, dry})})
	assert.Equal(t, "guide_worn", part[0].Code)
	score := func(all []cause.Weighed) int {
		for _, w := range all {
			if w.Code == "guide_worn" {
				return w.Score
			}
		}
		return -99
	}
	assert.Greater(t, score(part), score(whole), "one dry port says nothing; all dry speak against it")
}
