package judge_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// twoCams is a bucket head of two cylinders with a camshaft for the intakes and one for the exhausts.
func twoCams(t *testing.T) *headtest.Head {
	h := headtest.New(t, 2, "IE")
	h.Model.Kind.Drive, h.Model.Layout.Camshafts = trade.Bucket, 2
	return h
}

// TestEachCamshaftHasItsJournals: journals are read by their shaft, end float and runout once for each, and what
// is worn of one shaft is answered by a camshaft.
func TestEachCamshaftHasItsJournals(t *testing.T) {
	h := twoCams(t).Limit("cam.journal/", "24.95", "24.98").Limit("cam.float/", "0.05", "0.20").
		Limit("cam.lobe/exhaust", "44.80", "").
		Read("cam.journal", "A1 24.96", "B1 24.90").Read("cam.float", "A 0.10", "B 0.30").
		Read("cam.lobe", "1E1 44.90", "2E1 44.50")
	assert.Equal(t, []string{"A1", "A2", "A3", "B1", "B2", "B3"}, h.Model.Layout.Journals())
	for at, want := range map[[2]string]gauge.Verdict{
		{"cam.journal", "A1"}: gauge.Sound, {"cam.journal", "B1"}: gauge.Out, {"cam.float", "A"}: gauge.Sound,
		{"cam.float", "B"}:  gauge.Out,
		{"cam.lobe", "1E1"}: gauge.Sound, {"cam.lobe", "2E1"}: gauge.Out,
	} {
		f := feature(t, h, at[0]+"@"+at[1])
		assert.Equal(t, want, f.Verdict, "%v", at)
		if want == gauge.Out {
			assert.Equal(t, "cam_new", judge.Answers(h.Head, f)[0].Code, "%v", at)
		}
	}
	h.See("camshaft.condition", "B", "blue")
	f := feature(t, h, "camshaft.condition@B")
	assert.Equal(t, gauge.Out, f.Verdict)
}

// TestABoreIsJudgedByItsTaperAndRoundness holds both against what was read, by hand.
func TestABoreIsJudgedByItsTaperAndRoundness(t *testing.T) {
	h := headtest.New(t, 1, "IE").Limit("bore.taper/", "", "0.03").Limit("bore.round/", "", "0.04").
		Read("engine.bore", "C1.top.A 86.05", "C1.top.B 86.01", "C1.middle.A 86.02", "C1.middle.B 86.02", "C1.bottom.A 85.99",
			"C1.bottom.B 85.99")
	taper, round := feature(t, h, "bore.taper@C1"), feature(t, h, "bore.round@C1")
	assert.EqualValues(t, 40_000, taper.High, "86.030 at the top less 85.990 at the bottom")
	assert.Equal(t, gauge.Out, taper.Verdict)
	assert.EqualValues(t, 40_000, round.High, "at the top")
	assert.Equal(t, gauge.Doubt, round.Verdict, "right on its limit")
}

// TestASpringsLoadFollowsFromItsRate: 240 N at 40 mm and 480 N at 30 mm are 24 N a mm; at 39 mm it bears 264 N.
func TestASpringsLoadFollowsFromItsRate(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("spring.load_seat", "270", "").Figure("book_seat/intake", "40").
		Figure("book_open/intake", "30").
		Read("spring.book_seat", "1I1 240").Read("spring.book_open", "1I1 480").Read("spring.height", "1I1 39")
	f := feature(t, h, "spring.load_reckoned@1I1")
	assert.Equal(t, trade.Newton.Of(264), f.High)
	assert.Equal(t, gauge.Out, f.Verdict, "held against the installed load's limit")
	delete(h.Sheet.Figures, "book_open/intake")
	assert.Contains(t, feature(t, h, "spring.load_reckoned@1I1").Note, "two lengths")
}

// TestSeatAndFaceAnglesAreHeldAgainstEachOther: half a degree of interference.
func TestSeatAndFaceAnglesAreHeldAgainstEachOther(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("valve.interference", "0.25", "0.75").
		Read("seat.angle", "1I1 45.5", "1E1 45").Read("valve.face_angle", "1I1 45", "1E1 45")
	assert.Equal(t, gauge.Sound, feature(t, h, "valve.interference@1I1").Verdict)
	full := feature(t, h, "valve.interference@1E1")
	assert.Equal(t, gauge.Out, full.Verdict)
	assert.Equal(t, quantity.Amount(0), full.High)
}

// TestAHeadThatRocksAlongTheSweepSaysSo: the larger of both ways is turned into the clearance.
func TestAHeadThatRocksAlongTheSweepSaysSo(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("guide.clearance", "0.02", "0.08").Figure("guide_length", "50").
		Figure("rock_overhang", "25")
	h.Read("guide.rock_ways", "1I1.A 0.40", "1I1.B 0.20", "1E1.A 0.20", "1E1.B 0.20")
	along, even := feature(t, h, "guide.play@1I1"), feature(t, h, "guide.play@1E1")
	assert.Contains(t, along.Note, "rocks 0.2 mm more along the sweep")
	assert.NotContains(t, even.Note, "sweep")
	assert.Greater(t, along.High, even.High)
}

// TestHotAndColdLashAreHeldApart: what is read hot says nothing of the cold lash.
func TestHotAndColdLashAreHeldApart(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("lash", "0.15", "0.20").Both("lash.hot", "0.25", "0.30").
		Read("lash.hot", "1I1 0.26 0.28")
	assert.Equal(t, gauge.Sound, feature(t, h, "lash.hot@1I1").Verdict)
	assert.Equal(t, gauge.Unread, feature(t, h, "lash@1I1").Verdict)
}

// TestTheDaysBestVacuumAges: a port read within twelve hours of the blanked cup is judged, later the cup is read
// again; the shop says how many hours, and where nobody knows when, nothing ages.
func TestTheDaysBestVacuumAges(t *testing.T) {
	blanked := time.Date(2026, 3, 2, 8, 0, 0, 0, time.UTC)
	lost := func(after time.Duration, hours string) judge.Feature {
		h := headtest.New(t, 1, "IE").Read("test.baseline", "H 90").Read("test.vacuum", "1I1 88")
		for i := range h.Readings {
			if h.Readings[i].At = blanked; i > 0 {
				h.Readings[i].At = blanked.Add(after)
			}
		}
		again := *h.Head
		*h.Head = *again.Until(head.Stages...)
		if hours != "" {
			h.Settings = map[string]string{trade.BlankedHours: hours}
		}
		return feature(t, h, "seal.vacuum@1I1")
	}
	assert.Equal(t, gauge.Sound, lost(12*time.Hour, "").Verdict)
	old := lost(12*time.Hour+time.Minute, "")
	assert.Equal(t, gauge.Unread, old.Verdict)
	assert.Contains(t, old.Note, "more than 12 h before")
	assert.Equal(t, gauge.Sound, lost(13*time.Hour, "24").Verdict)
}

// TestSealsThroatsAndBackCutsAreFiguresOfTheirOwn works each out by hand.
func TestSealsThroatsAndBackCutsAreFiguresOfTheirOwn(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("seal.squeeze", "0.10", "0.60").Both("seal.lip_squeeze", "0.05", "0.40").
		Both("throat.share", "85", "90").
		Both("valve.back_ring", "1.2", "2.0").
		Read("guide.outer", "1I1 13.90").Read("seal.guide", "1I1 13.55").Read("seal.stem", "1I1 5.42").
		Read("stem.dia", "1I1.top 5.44", "1I1.middle 5.45", "1I1.bottom 5.45").
		Read("seat.throat", "1I1 35.2", "1E1 30").Read("valve.head", "1I1 40", "1E1 36").Read("valve.back_ring", "1I1 2.4")
	body, lip := feature(t, h, "seal.squeeze@1I1"), feature(t, h, "seal.lip_squeeze@1I1")
	in, ex := feature(t, h, "throat.share@1I1"), feature(t, h, "throat.share@1E1")
	assert.EqualValues(t, 350_000, body.Low)
	assert.Equal(t, gauge.Sound, body.Verdict)
	assert.EqualValues(t, 20_000, lip.Low, "where the stem is thinnest")
	assert.Equal(t, gauge.Out, lip.Verdict)
	assert.Equal(t, "seal_new", judge.Answers(h.Head, lip)[0].Code)
	assert.Equal(t, trade.Percent.Of(88), in.High)
	assert.Equal(t, gauge.Sound, in.Verdict)
	assert.EqualValues(t, 83_333_333, ex.High)
	assert.Equal(t, gauge.Out, ex.Verdict)
	assert.Equal(t, "seat_cut", judge.Answers(h.Head, ex)[0].Code, "the throat is opened")
	assert.Equal(t, "valve_grind", judge.Answers(h.Head, feature(t, h, "valve.back_ring@1I1"))[0].Code)
}
