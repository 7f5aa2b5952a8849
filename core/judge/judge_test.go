package judge_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/seating"
	"yatai/core/trade"
)

const (
	mm = length.Millimetre
	um = quantity.One / 1000
)

// feature judges a head and takes one of its features.
func feature(t *testing.T, h *headtest.Head, key string) judge.Feature {
	t.Helper()
	f, ok := judge.Head(h.Head).Feature(key)
	require.True(t, ok, key)
	return f
}

// guide is a head with one guide and stem read.
func guide(t *testing.T, bore, stem string) *headtest.Head {
	return headtest.New(t, 2, "IE").Both("guide.clearance", "0.02", "0.06").Both("stem.dia", "7.94", "").
		Read("guide.bore", "1I1.top.A "+bore).Read("stem.dia", "1I1.top "+stem)
}

// TestDoubtNamesATool judges one clearance between the limit and the doubt of its gauge.
func TestDoubtNamesATool(t *testing.T) {
	at := func(bore string, u quantity.Amount) judge.Feature {
		h := guide(t, bore, "8.000")
		h.Tools = []head.Tool{
			{Name: "fine", Kind: "bore gauge", U: 2 * um}, {Name: "coarse", Kind: "bore gauge", U: 9 * um},
			{Name: "caliper", Kind: "caliper", U: 1},
		}
		for i := range h.Readings {
			if h.Readings[i].Of == "guide.bore" {
				h.Readings[i].U = u
			}
		}
		return feature(t, h, "guide.clearance@1I1")
	}
	f := at("8.055", 9*um)
	assert.Equal(t, gauge.Doubt, f.Verdict)
	assert.Equal(t, "fine", f.Settle)
	assert.Contains(t, f.Why(length.MM), "leaflet")
	assert.InDelta(t, 0.86, f.PInside, 0.05)
	assert.Contains(t, f.Inside(), "likely to be inside")
	assert.Equal(t, gauge.Sound, at("8.055", 2*um).Verdict)
	tight := at("8.005", 2*um)
	assert.Equal(t, gauge.Out, tight.Verdict)
	assert.Equal(t, "low", tight.Side)
	assert.Equal(t, "0.015 mm under.", tight.Says(length.MM))
	assert.Empty(t, tight.Inside(), "nobody asks")
}

// TestTheCheapestAllowedIsUsual: what is forbidden is shown with its reason and never usual.
func TestTheCheapestAllowedIsUsual(t *testing.T) {
	h := guide(t, "8.09", "8.000")
	j := judge.Head(h.Head)
	f, _ := j.Feature("guide.clearance@1I1")
	offers := j.Offers(f)
	require.NotEmpty(t, offers)
	forbidden := false
	for _, o := range offers {
		if !o.OK {
			forbidden = true
			assert.NotEmpty(t, o.Why, "%s is forbidden without a reason", o.Code)
		} else {
			assert.False(t, forbidden, "%s is allowed and listed behind what is not", o.Code)
		}
	}
	require.NotNil(t, j.Usual(f))
	assert.Equal(t, offers[0].Code, j.Usual(f).Code)
	assert.True(t, j.Allows(f, offers[0].Code).OK)
	assert.False(t, j.Allows(f, "weld").OK)
}

// TestAWornStemDoesNotBuyAGuide: out by the stem alone, the valve alone is the answer.
func TestAWornStemDoesNotBuyAGuide(t *testing.T) {
	h := guide(t, "8.022", "7.935")
	h.Sheet.Limits = append(h.Sheet.Limits, head.Limit{
		Characteristic: "stem.dia", Role: "intake", Set: head.New, Low: ptr(7_980 * um), High: ptr(7_990 * um),
		Source: "parts list",
	})
	h.Sheet = h.Sheet.Indexed()
	j := judge.Head(h.Head)
	f, _ := j.Feature("guide.clearance@1I1")
	require.Equal(t, gauge.Out, f.Verdict)
	assert.Equal(t, "valve_new", j.Usual(f).Code)
	assert.False(t, j.Allows(f, "guide_new").OK)
}

func ptr(a quantity.Amount) *quantity.Amount { return &a }

// TestTitaniumIsNeverGround: what a valve is made of forbids, not what a sentence says.
func TestTitaniumIsNeverGround(t *testing.T) {
	h := headtest.New(t, 2, "IE").See("valve.face", "1E1", "light_pits").See("valve.face", "1I1", "light_pits")
	h.Model.About = "steel, titanium-coloured cover"
	h.Model.Valves[layout.Exhaust] = trade.Valve{Material: "titanium"}
	j := judge.Head(h.Head)
	f, _ := j.Feature("valve.face@1E1")
	assert.False(t, j.Allows(f, "valve_grind").OK)
	assert.Contains(t, j.Allows(f, "valve_grind").Why, "titanium")
	f, _ = j.Feature("valve.face@1I1")
	assert.NotContains(t, j.Allows(f, "valve_grind").Why, "titanium")
}

func TestGroupsAreDecidedTogether(t *testing.T) {
	h := headtest.New(t, 2, "IE").Both("seat.width", "1.0", "2.0").Both("seat.runout", "", "0.05").
		Read("seat.width", "1I1 2.6", "1E1 2.7", "2I1 1.5", "2E1 0.6").Read("seat.runout", "1I1 0.02", "1E1 0.02", "2I1 0.02",
		"2E1 0.02")
	j := judge.Head(h.Head)
	groups, n := j.Groups(nil), 0
	for _, g := range groups {
		n += len(g.Findings)
		if len(g.Allowed) > 0 {
			assert.Equal(t, g.Allowed[0].Code, g.Usual())
		}
		for _, f := range g.Findings {
			for _, o := range g.Allowed {
				assert.True(t, j.Allows(f, o.Code).OK, "%s at %s", o.Code, f.Key())
			}
			for _, o := range g.Refused {
				assert.False(t, j.Allows(f, o.Code).OK, "%s at %s", o.Code, f.Key())
			}
		}
	}
	assert.Equal(t, len(j.Findings()), n, "every finding is in one group")
	wide := groups[0]
	assert.Equal(t, []string{"1I1", "1E1"}, wide.Positions())
	assert.Equal(t, "seat.width@1I1", wide.Key)
}

func TestWorstLineDecidesItsDirection(t *testing.T) {
	h := headtest.New(t, 2, "IE").Limit("face.line/long", "", "0.08").Read("face.line", "L1 0.03 0.04", "L2 0.10 0.12",
		"L3 0.05 0.06", "X1 0.20 0.25")
	f := feature(t, h, "face.line/long")
	assert.Equal(t, gauge.Out, f.Verdict)
	assert.Equal(t, "L2", f.At)
	assert.Equal(t, "0.100 to 0.120", f.Figure(length.MM))
	cross := feature(t, h, "face.line/cross")
	assert.Equal(t, gauge.Unread, cross.Verdict, "no limit on the sheet")
	assert.Equal(t, "The sheet has no limit for it.", cross.Says(length.MM))
}

func TestRockIsConvertedAndCompared(t *testing.T) {
	h := headtest.New(t, 2, "IE").Both("guide.clearance", "0.02", "0.10").Read("guide.rock", "1E1 0.25")
	assert.Equal(t, gauge.Unread, feature(t, h, "guide.play@1E1").Verdict, "without the guide's length nothing is said")
	h.Figure(trade.GuideHeld.Code, "48").Figure(trade.RockOverhang.Code, "22")
	f := feature(t, h, "guide.play@1E1")
	assert.Equal(t, quantity.Amount(130_435), f.High)
	assert.Equal(t, gauge.Out, f.Verdict)
	j := judge.Head(h.Head)
	assert.NotEmpty(t, j.Offers(f), "it is the guide's clearance, found in another way")
	h.Read("guide.bore", "1E1.top.A 8.1").Read("stem.dia", "1E1.top 8.0")
	assert.Contains(t, feature(t, h, "guide.play@1E1").Note, "by gauges 0.1 mm")
}

func TestGoGaugesMakeTheClearanceAnInterval(t *testing.T) {
	verdict := func(goes, nogo quantity.Amount) gauge.Verdict {
		h := headtest.New(t, 2, "IE").Both("guide.clearance", "0.02", "0.06").Read("stem.dia", "1I1.top 8.000")
		h.Readings[0].U = 0
		h.Readings = append(h.Readings, head.Reading{
			ID: 9, Of: "guide.bore", Spot: trade.SpotOf("1I1.top.A"), Value: gauge.Between(goes, nogo), Stage: head.AsReceived,
		})
		f := feature(t, &headtest.Head{Head: h.Until(head.AsReceived)}, "guide.clearance@1I1")
		assert.True(t, f.Bracket)
		return f.Verdict
	}
	assert.Equal(t, gauge.Sound, verdict(8030*um, 8050*um))
	assert.Equal(t, gauge.Doubt, verdict(8040*um, 8070*um))
	assert.Equal(t, gauge.Out, verdict(8070*um, 8090*um))
	assert.Equal(t, gauge.Doubt, verdict(8030*um, quantity.Amount(40*mm)), "a gauge that goes says nothing of how loose")
}

func TestSpreadsFitsAndFlatness(t *testing.T) {
	h := headtest.New(t, 2, "IE").Both(
		"recession.spread", "", "0.05",
	).Both("guide.fit", "0.02", "0.04").Limit("face.flatness/", "", "0.03").Both("spring.spread", "", "20").
		Read(
			"valve.recession", "1I1 0.50", "2I1 0.56", "1E1 0.90",
		).Read("guide.outer", "1I1 13.035").Read("guide.hole", "1I1 13.000").Read("spring.load_seat", "1E1 300", "2E1 330")
	for i, g := range h.Model.Layout.Grid() {
		h.Read("face.grid", g.Name+[]string{" 0.00", " 0.05"}[i%2])
	}
	f := feature(t, h, "recession.spread/intake")
	assert.Equal(t, 60*um, f.High)
	assert.Equal(t, gauge.Out, f.Verdict, "a row of its own role: the exhaust does not count")
	f = feature(t, h, "guide.fit@1I1")
	assert.Equal(t, 35*um, f.High)
	assert.InDelta(t, 2828, float64(f.U), 2, "both doubts")
	f = feature(t, h, "spring.spread/exhaust")
	assert.Equal(t, "30.0", f.Figure(length.MM))
	assert.Equal(t, "N", f.UnitName(length.MM))
	f = feature(t, h, "face.flatness")
	assert.Equal(t, gauge.Out, f.Verdict)
	assert.Contains(t, f.Note, "tilted to the best plane")
}

func TestOtherSetsAreHeldBeside(t *testing.T) {
	h := headtest.New(t, 2, "IE").Both("seat.runout", "", "0.05").Read("seat.runout", "1I1 0.04")
	h.Sheet.Limits = append(h.Sheet.Limits,
		head.Limit{Characteristic: "seat.runout", Role: "intake", Set: head.Target, High: ptr(30 * um), Source: "test"})
	h.Sheet = h.Sheet.Indexed()
	f := feature(t, h, "seat.runout@1I1")
	assert.Equal(t, gauge.Sound, f.Verdict, "inside the service limit")
	held, ok := f.Against(head.Target)
	require.True(t, ok)
	assert.Equal(t, gauge.Out, held.Verdict)
	assert.Contains(t, f.Why(length.MM), "shop target 0.03 mm max (test): out")
}

func TestFormIsJudgedWhereTheSheetHasALimit(t *testing.T) {
	made := func(top, middle, bottom, b string) *headtest.Head {
		h := headtest.New(t, 2, "IE")
		for place, v := range map[string]string{"top": top, "middle": middle, "bottom": bottom} {
			across := v
			if b != "" {
				across = b
			}
			h.Read("guide.bore", "1E1."+place+".A "+v, "1E1."+place+".B "+across)
		}
		return h
	}
	for _, c := range []struct {
		what, top, middle, bottom, b string
		worst                        quantity.Amount
		verdict                      gauge.Verdict
		shape                        string
	}{
		{"straight", "8.000", "8.000", "8.000", "", 0, gauge.Sound, "straight"},
		{"opens to the port", "8.000", "8.012", "8.040", "", 40 * um, gauge.Out, "opens"},
		{"bell mouth", "8.030", "8.000", "8.028", "", 28 * um, gauge.Out, "bell"},
		{"oval", "8.000", "8.000", "8.000", "8.030", 30 * um, gauge.Out, "oval"},
		{"at the limit, within the doubt", "8.000", "8.000", "8.020", "", 20 * um, gauge.Doubt, ""},
	} {
		h := made(c.top, c.middle, c.bottom, c.b).Both("guide.form", "", "0.02")
		f := feature(t, h, "guide.form@1E1")
		assert.Equal(t, c.worst, f.High, c.what)
		assert.Equal(t, c.verdict, f.Verdict, c.what)
		assert.Contains(t, f.Note, c.shape, c.what)
		assert.Len(t, f.From, 6, "the readings behind it")
	}
	_, ok := judge.Head(made("8.000", "8.000", "8.040", "").Head).Feature("guide.form@1E1")
	assert.False(t, ok, "no limit, no verdict on form")
}

// TestReadingsOfOthersChangeNothing judges a head with and without readings at other
// positions: what is said of a position is its own, and every feature is found by its key.
func TestReadingsOfOthersChangeNothing(t *testing.T) {
	h := guide(t, "8.04", "7.96").Both("seat.width", "1", "2").Read("seat.width", "1I1 3.0")
	alone, _ := judge.Head(h.Head).Position("1I1")
	h.Read("seat.width", "1E1 1.0", "2E1 9.0")
	j := judge.Head(h.Head)
	among, _ := j.Position("1I1")
	assert.Equal(t, alone, among)
	assert.Equal(t, gauge.Out, j.Worst)
	seen := map[string]bool{}
	for _, f := range j.All() {
		assert.False(t, seen[f.Key()], "two features are called %s", f.Key())
		seen[f.Key()] = true
		got, ok := j.Feature(f.Key())
		require.True(t, ok, f.Key())
		assert.Equal(t, f, got)
	}
	_, ok := j.Feature("seat.width@9E9")
	assert.False(t, ok)
}

// BenchmarkHead judges a head of 24 valves with every guide and stem read, as after each
// reading of a sweep.
func BenchmarkHead(b *testing.B) {
	h := headtest.New(b, 6, "IIEE").Both("guide.clearance", "0.02", "0.06").Both("stem.dia", "7.95", "")
	for _, code := range []string{"guide.bore", "stem.dia"} {
		c, _ := trade.ByCode(code)
		for i, sp := range c.Spots(h.Model.Layout) {
			h.Readings = append(h.Readings, head.Reading{
				ID: uint(len(h.Readings) + 1), Of: code, Spot: sp, Value: gauge.Exact(8*quantity.One + quantity.Amount(i%7*5000)),
				U:     2000,
				Stage: head.AsReceived,
			})
		}
	}
	b.ReportAllocs()
	for b.Loop() {
		judge.Head(h.Until(head.Stages...))
	}
}

// TestAnInspectionIsAnswered: yes, no with its reasons, or not yet; other heads are not asked.
func TestAnInspectionIsAnswered(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	h.Kind = head.Rules
	rule := func() judge.Compliance { return judge.Head(h.Head).Compliance() }
	assert.Contains(t, rule().Says(), "no limits of the class rule")
	h.Sheet.Limits = append(h.Sheet.Limits,
		head.Limit{Characteristic: "port.depth", Set: head.Class, Low: ptr(28 * quantity.One), Source: "rule 7.6"})
	h.Sheet = h.Sheet.Indexed()
	h.Read("port.depth", "1I1 28.5", "1E1 27.0")
	assert.Equal(t, "It does not comply with the class rule: 1E1 port depth from the face.", rule().Says())
	assert.False(t, *judge.Head(h.Head).Complies())
	h.Read("port.depth", "1E1 28.4")
	assert.True(t, rule().OK(), rule().Says())
	h.Kind = head.Rebuild
	assert.Empty(t, rule().Says())
	assert.Nil(t, judge.Head(h.Head).Complies())
}

// TestWhatIsLeftStandsWithTheFirstOfItsLike: of findings that are alike but for what the plan makes of
// them, the one that is left stands in the first group, every time.
func TestWhatIsLeftStandsWithTheFirstOfItsLike(t *testing.T) {
	h := headtest.New(t, 2, "IE").Both("seat.runout", "", "0.05").Read("seat.runout", "1I1 0.12", "1E1 0.12", "2I1 0.12",
		"2E1 0.12")
	advised := map[string]string{
		"seat.runout@1I1": "leave", "seat.runout@1E1": "seat_insert", "seat.runout@2I1": "seat_cut",
		"seat.runout@2E1": "seat_cut",
	}
	j := judge.Head(h.Head)
	for range 50 {
		groups := j.Groups(func(key string) string { return advised[key] })
		require.Len(t, groups, 2)
		assert.Equal(t, []string{"1E1", "1I1"}, groups[0].Positions())
		assert.Equal(t, "seat_insert", groups[0].Advised)
	}
}

// TestMarksAreDecidedOneByOne: two cracks are two groups, as alike as they are.
func TestMarksAreDecidedOneByOne(t *testing.T) {
	h := headtest.New(t, 1, "IE").See(trade.MarkCode, "", "crack").See(trade.MarkCode, "", "crack")
	h.Findings[0].ID, h.Findings[1].ID = 1, 2
	assert.Len(t, judge.Head(h.Head).Groups(nil), 2)
}

// TestWhatAShopSaysAnswersItsOwnIsOffered for a characteristic of its own, and nothing that the head cannot have.
func TestWhatAShopSaysAnswersItsOwnIsOffered(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	h.Sheet.Own = []trade.Characteristic{{Code: "own.rail", Answers: []string{"face", "seat_cut", "no such repair"}}}
	var codes []string
	for _, r := range judge.Answers(h.Head, judge.Feature{Code: "own.rail"}) {
		codes = append(codes, r.Code)
	}
	assert.Equal(t, []string{"face", "seat_cut"}, codes)
}

// TestADeeperMainCutMovesTopAndBottomWithIt; one that is deep enough stays.
func TestADeeperMainCutMovesTopAndBottomWithIt(t *testing.T) {
	const um = length.Micrometre
	ring := judge.SeatRing{
		Out: &seating.SeatOutput{MainDepth: 100 * um, TopDepth: 140 * um, BottomDepth: 60 * um, Sink: 100 * um},
	}
	ring.In.Top = quantity.Amount(30 * quantity.One).Degrees()
	for _, main := range []length.Length{0, 99 * um, 100 * um} {
		assert.Equal(t, ring, ring.To(main), main)
	}
	deeper := ring.To(150 * um)
	assert.Equal(t, []length.Length{150 * um, 190 * um, 110 * um, 150 * um}, []length.Length{
		deeper.Out.MainDepth, deeper.Out.TopDepth, deeper.Out.BottomDepth, deeper.Out.Sink,
	})
	assert.InDelta(t, 329_090, int(deeper.Out.RoomUsed), 1, "190 um at 30 degrees: 190 / tan 30")
	assert.Equal(t, 100*um, ring.Out.MainDepth, "the ring it was made of stays")
	assert.Nil(t, judge.SeatRing{}.To(150*um).Out, "nothing was worked out")
}

// TestWhatEyesSawIsNamedByItsGrade, a figure by what it is.
func TestWhatEyesSawIsNamedByItsGrade(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("seat.width", "1", "2").Read("seat.width", "1E1 2.5").
		See("seat.condition", "1E1", "gaps")
	h.Findings[0].ID = 1
	j := judge.Head(h.Head)
	seen, _ := j.Feature("seat.condition@1E1")
	assert.Equal(t, "Seat: gaps in the ring", seen.Named().String())
	read, _ := j.Feature("seat.width@1E1")
	assert.Equal(t, "Seat width", read.Named().String())
}

// TestADropAndItsVacuumConclude: what holds but thuds is bent or tight, what bounces but leaks is the seat's, but
// for a leak that turns with the valve; one test alone says no more than it did.
func TestADropAndItsVacuumConclude(t *testing.T) {
	holds, leaks := []string{"82", "82", "81", "82"}, []string{"60", "60", "61", "60"}
	turns := []string{"82", "60", "61", "81"}
	for _, x := range []struct {
		vacuum       []string
		drop         string // 0 thuds, 1 bounces, "" nobody dropped it
		code, toSays string
	}{
		{holds, "0", "test.drop", trade.ThudSays}, {holds, "1", "test.drop", ""}, {holds, "1", "seal.vacuum", ""},
		{leaks, "1", "seal.vacuum", trade.BounceSays}, {leaks, "1", "test.drop", ""},
		{leaks, "0", "seal.vacuum", trade.SuspectSays[seating.SuspectSeat]}, {leaks, "0", "test.drop", ""},
		{leaks, "", "seal.vacuum", trade.SuspectSays[seating.SuspectSeat]},
		{turns, "1", "seal.vacuum", trade.SuspectSays[seating.SuspectValve]},
		{nil, "0", "test.drop", ""},
	} {
		h := headtest.New(t, 1, "IE").Read("test.baseline", "H 84")
		for i, kPa := range x.vacuum {
			h.Read("test.vacuum", "1E1."+[]string{"0", "90", "180", "270"}[i]+" "+kPa)
		}
		if x.drop != "" {
			h.Read("test.drop", "1E1 "+x.drop)
		}
		f, _ := judge.Head(h.Head).Feature(x.code + "@1E1")
		if x.code == "test.drop" {
			assert.Equal(t, map[string]gauge.Verdict{"0": gauge.Out, "1": gauge.Sound}[x.drop], f.Verdict,
				"judged wherever it is read")
			assert.Equal(t, "passed", f.Limit.Text(length.MM))
		}
		assert.Equal(t, x.toSays, f.Note, "%v %q %s", x.vacuum, x.drop, x.code)
	}
}
