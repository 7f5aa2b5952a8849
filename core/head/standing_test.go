package head_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/trade"
)

// TestAReadingReplacesOnlyItsOwnSpot: one spot read after repair does not hide what was read
// at the others.
func TestAReadingReplacesOnlyItsOwnSpot(t *testing.T) {
	h := headtest.New(t, 2, "IE").Read("guide.bore", "1E1.top.A 8.00", "1E1.bottom.A 8.06").Again(head.AfterRepair, "guide.bore", "1E1.top.A 8.01")
	rows := h.Reads("guide.bore", "1E1")
	assert.Len(t, rows, 2)
	assert.Equal(t, "8.01", rows[0].Typed)
	assert.Equal(t, "8.06", rows[1].Typed)
	assert.Len(t, h.Ever("guide.bore"), 3)
	assert.Len(t, h.Until(head.AsReceived).Readings, 2)
}

// TestWorkVoidsUntilEverySpotIsReadAgain walks a guide through a hone.
func TestWorkVoidsUntilEverySpotIsReadAgain(t *testing.T) {
	h := headtest.New(t, 2, "IE").All("guide.bore", "8.05")
	assert.True(t, h.Proven(trade.GuideBore, "1E1"), "no work, nothing to prove")
	h.Did("guide_hone", "1E1")
	assert.False(t, h.Proven(trade.GuideBore, "1E1"))
	assert.True(t, h.Proven(trade.GuideBore, "2E1"), "it was honed at 1E1 only")
	for _, s := range trade.GuideBore.Spots(h.Model.Layout) {
		if s.Position == "1E1" {
			assert.False(t, h.Proven(trade.GuideBore, "1E1"))
			h.Again(head.AfterRepair, "guide.bore", s.Key()+" 8.03")
		}
	}
	assert.True(t, h.Proven(trade.GuideBore, "1E1"))
	h.Did("guide_hone", "1E1")
	assert.False(t, h.Proven(trade.GuideBore, "1E1"), "honed again, read again")
}

func TestTheLatestFindingStandsAndMarksStay(t *testing.T) {
	h := headtest.New(t, 2, "IE").See(
		"seat.condition", "1E1", "heavy_pits",
	).See("seat.condition", "1E1", "clean").See(trade.MarkCode, "", "crack").See(trade.MarkCode, "", "leak")
	var got []string
	for _, f := range h.Seen() {
		got = append(got, f.Grade)
	}
	assert.Equal(t, []string{"clean", "crack", "leak"}, got)
	assert.Equal(t, "clean", h.Grade("seat.condition", "1E1"))
	h.Findings = append(h.Findings, head.Finding{ID: 5, Part: trade.MarkCode, Grade: "leak", Replaces: 3, Stage: head.AfterRepair})
	assert.Len(t, h.Seen(), 3, "a mark is replaced only by name")
}

// TestLookedAtAfterTheWork: a look counts when it was made after the work began, by the order of what
// happened, whatever stage it was written down for.
func TestLookedAtAfterTheWork(t *testing.T) {
	h := headtest.New(t, 1, "IE").See("seat.condition", "1E1", "gaps")
	h.Operations = []head.Operation{{Code: "seat_cut", At: []string{"1E1"}, State: head.Done, Begun: 0, Turn: 10}}
	look := func(turn uint) *headtest.Head {
		c := *h.Head
		c.Findings = append([]head.Finding{}, h.Findings...)
		c.Findings = append(c.Findings, head.Finding{ID: 2, Part: "seat.condition", Position: "1E1", Grade: "clean", Stage: head.AfterRepair, Turn: turn})
		return &headtest.Head{Head: &c}
	}
	assert.False(t, h.LookedAgain("seat.condition", "1E1"))
	assert.False(t, look(9).LookedAgain("seat.condition", "1E1"), "looked at before it was cut")
	assert.True(t, look(10).LookedAgain("seat.condition", "1E1"))
	assert.True(t, look(0).LookedAgain("seat.condition", "1E1"), "where nobody knows when")
	assert.True(t, h.LookedAgain("seat.condition", "1I1"), "nothing was done there")
}
