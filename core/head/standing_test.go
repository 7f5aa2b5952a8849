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
	h := headtest.New(t, 2, "IE").Read("guide.bore", "1E1.top.A 8.00", "1E1.bottom.A 8.06").Again(head.AfterRepair,
		"guide.bore", "1E1.top.A 8.01")
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
	h.Findings = append(
		h.Findings, head.Finding{ID: 5, Part: trade.MarkCode, Grade: "leak", Replaces: 3, Stage: head.AfterRepair},
	)
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
		c.Findings = append(c.Findings, head.Finding{
			ID: 2, Part: "seat.condition", Position: "1E1", Grade: "clean", Stage: head.AfterRepair, Turn: turn,
		})
		return &headtest.Head{Head: &c}
	}
	assert.False(t, h.LookedAgain("seat.condition", "1E1"))
	assert.False(t, look(9).LookedAgain("seat.condition", "1E1"), "looked at before it was cut")
	assert.True(t, look(10).LookedAgain("seat.condition", "1E1"))
	assert.True(t, look(0).LookedAgain("seat.condition", "1E1"), "where nobody knows when")
	assert.True(t, h.LookedAgain("seat.condition", "1I1"), "nothing was done there")
}

// TestAProofIsTakenAwayByWhatComesLater holds a seal test against a seat that is cut: by the turns where both
// have one, by how many readings there were where they differ, and else by their order on the route.
func TestAProofIsTakenAwayByWhatComesLater(t *testing.T) {
	for _, x := range []struct {
		name                         string
		cutTurn, madeTurn            uint
		cutBegun, madeAfter, sealAt  int
		cutFirst, skipped, elsewhere bool
		undone                       bool
	}{
		{name: "cut after it on the route", cutBegun: 5, madeAfter: 5, sealAt: 5, undone: true},
		{name: "cut before it on the route", cutBegun: 5, madeAfter: 5, sealAt: 5, cutFirst: true},
		{name: "more readings since", cutBegun: 6, madeAfter: 5, sealAt: 5, cutFirst: true, undone: true},
		{name: "fewer readings then", cutBegun: 4, madeAfter: 5, sealAt: 5},
		{name: "a later turn", cutTurn: 3, madeTurn: 2, cutBegun: 4, madeAfter: 5, sealAt: 5, cutFirst: true, undone: true},
		{name: "the same turn", cutTurn: 2, madeTurn: 2, cutBegun: 6, madeAfter: 5, sealAt: 5},
		{name: "an earlier turn", cutTurn: 1, madeTurn: 2, cutBegun: 6, madeAfter: 5, sealAt: 5},
		{name: "one turn is not known", cutTurn: 3, cutBegun: 4, madeAfter: 5, sealAt: 5},
		{name: "not counted, cut before it on the route", cutBegun: 6, madeAfter: -1, sealAt: 5, cutFirst: true},
		{name: "not counted, cut after it on the route", cutBegun: 6, madeAfter: -1, sealAt: 5, undone: true},
		{name: "left out", cutBegun: 6, madeAfter: 5, sealAt: 5, skipped: true},
		{name: "at another valve", cutBegun: 6, madeAfter: 5, sealAt: 5, elsewhere: true},
	} {
		h := headtest.New(t, 1, "IE")
		seal := head.Operation{Code: trade.SealTest.Code, At: []string{"1I1"}, State: "done", Begun: x.sealAt}
		cut := head.Operation{
			Code: trade.CutSeat.Code, At: []string{"1I1"}, State: "done", Begun: x.cutBegun, Turn: x.cutTurn,
		}
		if x.skipped {
			cut.State = "skipped"
		}
		if x.elsewhere {
			cut.At = []string{"1E1"}
		}
		h.Operations = []head.Operation{seal, cut}
		if x.cutFirst {
			h.Operations = []head.Operation{cut, seal}
		}
		h.Records = []head.Record{{Operation: trade.SealTest.Code, Position: "1I1", After: x.madeAfter, Turn: x.madeTurn}}
		assert.Equal(t, x.undone, h.Undone(trade.SealTest, "1I1") != nil, x.name)
		assert.Nil(t, h.Undone(trade.FinalWash, ""), "%s: never made", x.name)
	}
}

// TestTurnedReadingsOfOldWorkFallAway: of a valve's turns those since its last work stand, as soon as they are
// enough.
func TestTurnedReadingsOfOldWorkFallAway(t *testing.T) {
	code := trade.VacuumTurned.Code
	spots := []string{}
	for _, s := range trade.VacuumTurned.Spots(headtest.New(t, 1, "IE").Model.Layout) {
		if s.Position == "1I1" {
			spots = append(spots, s.Key())
		}
	}
	least := trade.VacuumTurned.Least
	assert.Greater(t, len(spots), least+1)
	h := headtest.New(t, 1, "IE")
	for _, s := range spots {
		h.Read(code, s+" 60kPa")
	}
	assert.Len(t, h.Reads(code, "1I1"), len(spots))
	h.Did("valve_new", "1I1")
	for i, s := range spots[:least] {
		h.Again(head.AfterRepair, code, s+" 80kPa")
		want := len(spots)
		if i+1 == least {
			want = least
		}
		assert.Len(t, h.Reads(code, "1I1"), want, "%d turns since", i+1)
	}
}

// TestANewPartIsOfItsKindAndPlace: the last that was measured there, and no used one.
func TestANewPartIsOfItsKindAndPlace(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	h.Parts = []head.Part{
		{Part: "valve", Position: "1I1", New: true, Missing: true}, {Part: "valve", Position: "1I1", New: true},
		{Part: "valve", Position: "1I1"},
		{Part: "spring", Position: "1I1", New: true, Missing: true}, {Part: "valve", Position: "1E1"},
	}
	p, ok := h.NewPart("valve", "1I1")
	assert.True(t, ok)
	assert.False(t, p.Missing, "the last one")
	_, ok = h.NewPart("valve", "1E1")
	assert.False(t, ok, "it is a used one")
	_, ok = h.NewPart("spring", "1E1")
	assert.False(t, ok)
	p, ok = h.NewPart("spring", "1I1")
	assert.True(t, ok && p.Missing)
}

// TestANewStemIsSupposedByTheThickestThatWasRead of its role; where none was read nothing is known of it.
func TestANewStemIsSupposedByTheThickestThatWasRead(t *testing.T) {
	h := headtest.New(t, 2, "IE")
	_, known := h.NewStem("1E1")
	assert.False(t, known, "no stem was read")
	h.Read("stem.dia", "1E1.top 7.93", "2E1.top 7.95", "1I1.top 7.99")
	stem, known := h.NewStem("1E1")
	assert.True(t, known)
	assert.Equal(t, 7_950_000, int(stem.At))
}

// TestOneFigureForTheWholeOfAGuideProvesEverySpot: read short after the work it proves them all; read before it,
// or of one spot only, it does not.
func TestOneFigureForTheWholeOfAGuideProvesEverySpot(t *testing.T) {
	whole := head.Reading{Of: trade.GuideBore.Code, Spot: trade.Spot{Position: "1E1"}, Stage: head.AfterRepair}
	one := head.Reading{
		Of: trade.GuideBore.Code, Spot: trade.Spot{Position: "1E1", Place: "top", Dir: "A"}, Stage: head.AfterRepair,
	}
	for _, x := range []struct {
		name   string
		r      head.Reading
		before bool
		proven bool
	}{{"whole, after", whole, false, true}, {"whole, before", whole, true, false}, {"one spot", one, false, false}} {
		h := headtest.New(t, 1, "IE").All("guide.bore", "8.05")
		x.r.ID = uint(len(h.Readings) + 1)
		if x.before {
			x.r.Stage = head.AsReceived
			h.Readings = append(h.Readings, x.r)
			h.Did("guide_hone", "1E1")
		} else {
			h.Did("guide_hone", "1E1")
			h.Readings = append(h.Readings, x.r)
		}
		assert.Equal(t, x.proven, h.Proven(trade.GuideBore, "1E1"), x.name)
	}
}
