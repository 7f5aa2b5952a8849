package trade_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/trade"
)

// TestARotatorIsTakenApartWhileThatHelps: one that turns stiffly is; one that does not turn, or is
// worn inside, is renewed.
func TestARotatorIsTakenApartWhileThatHelps(t *testing.T) {
	for grade, want := range map[string]string{"stiff": "rotator_apart", "sticks": "rotator_new", "worn": "rotator_new"} {
		h := headtest.New(t, 1, "IE").See("rotator.condition", "1E1", grade)
		h.Findings[0].ID = 1
		j := judge.Head(h.Head)
		x, ok := j.Feature("rotator.condition@1E1")
		require.True(t, ok, grade)
		usual := ""
		if r := j.Usual(x); r != nil {
			usual = r.Code
		}
		assert.Equal(t, want, usual, grade)
	}
}

// TestARotatorThatWasApartTurns, and where its mark is is written down.
func TestARotatorThatWasApartTurns(t *testing.T) {
	form := trade.OpenRotators.Record
	assert.Error(t, form.Check(trade.Values{"turns": "yes"}), "where is its mark?")
	said, err := form.Judge(trade.Values{"turns": "yes", "mark": "towards the exhaust"}, nil)
	require.NoError(t, err)
	assert.True(t, said.OK)
	assert.Contains(t, said.Says.String(), "towards the exhaust")
	for _, turns := range []string{"no", ""} {
		said, err = form.Judge(trade.Values{"turns": turns, "mark": "none"}, nil)
		require.NoError(t, err)
		assert.False(t, said.OK)
		assert.Contains(t, said.Says.String(), "renew")
	}
}
