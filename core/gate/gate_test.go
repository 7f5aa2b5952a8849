package gate_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gate"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

func open(h *headtest.Head) string {
	var out []string
	for _, l := range gate.Head(h.Head).Open() {
		out = append(out, l.Key)
	}
	return strings.Join(out, " ")
}

// seats is a head with one seat too wide, decided to be cut.
func seats(t *testing.T) *headtest.Head {
	return headtest.New(t, 1, "IE").Both("seat.width", "1.0", "2.0").Read("seat.width", "1I1 1.5", "1E1 2.6").
		Decide("seat.width@1E1", "seat_cut")
}

func TestAnEmptyHeadProvesNothing(t *testing.T) {
	assert.False(t, gate.Head(headtest.New(t, 1, "IE").Head).Ready())
}

func TestWhatWasDecidedMustBeDone(t *testing.T) {
	assert.Contains(t, open(seats(t)), "operation:seat_cut")
}

// TestWhatWorkMovedIsReadAgain: a cut seat's width as received proves nothing.
func TestWhatWorkMovedIsReadAgain(t *testing.T) {
	h := seats(t).Did("seat_cut", "1E1")
	assert.Contains(t, open(h), "read:seat.width@1E1")
	assert.NotContains(t, open(h), "read:seat.width@1I1", "it was not cut")
	h.Again(head.AfterRepair, "seat.width", "1E1 1.6")
	assert.NotContains(t, open(h), "seat.width@1E1")
}

// TestASignatureHoldsForItsFigures: signed for one figure, it does not cover another.
func TestASignatureHoldsForItsFigures(t *testing.T) {
	h := seats(t).Did("seat_cut", "1E1").Again(head.AfterRepair, "seat.width", "1E1 2.3")
	assert.Contains(t, open(h), "sign:seat.width@1E1")
	f, _ := judge.Head(h.Head).Feature("seat.width@1E1")
	h.Signoffs = append(h.Signoffs, head.Signoff{
		Finding: f.Key(), By: "lead", Reason: "customer's wish", Figure: gate.Figure(f, length.MM),
	})
	assert.NotContains(t, open(h), "sign:seat.width@1E1")
	h.Again(head.Final, "seat.width", "1E1 2.5")
	assert.Contains(t, open(h), "sign:seat.width@1E1")
}

// TestAFirstTestThatFailedIsMadeGoodByTheSecond where it leaked, and only when the second is tight.
func TestAFirstTestThatFailedIsMadeGoodByTheSecond(t *testing.T) {
	test := func(leaks string) trade.Values {
		return trade.Values{"pressure": "2bar", "water": "60C", "minutes": "20", "leaks": leaks}
	}
	for _, c := range []struct {
		name          string
		first, second trade.Values
		open          bool
	}{
		{"tight at once", test("0"), nil, false},
		{"it leaked", test("2"), nil, true},
		{"it leaked and is tight now", test("2"), test("0"), false},
		{"it leaks still", test("2"), test("1"), true},
		{"a test at no pressure is made good by none", trade.Values{
			"pressure": "0bar", "water": "60C", "minutes": "20", "leaks": "0",
		}, test("0"), true},
	} {
		h := headtest.New(t, 1, "IE").Did("pressure_test")
		h.Records = append(h.Records, head.Record{Operation: "pressure_test", Values: c.first, After: -1})
		if c.second != nil {
			h.Did("pressure_retest")
			h.Records = append(h.Records, head.Record{Operation: "pressure_retest", Values: c.second, After: -1})
		}
		assert.Equal(t, c.open, strings.Contains(open(h), "record:pressure_test"), "%s: %s", c.name, open(h))
	}
}

// TestWhatIsInDoubtIsReleasedByADecision to leave it, and by no other.
func TestWhatIsInDoubtIsReleasedByADecision(t *testing.T) {
	doubt := func() *headtest.Head {
		h := headtest.New(t, 1, "IE").Both("seat.width", "1.0", "2.0").Read("seat.width", "1I1 1.5", "1E1 2.000")
		f, _ := judge.Head(h.Head).Feature("seat.width@1E1")
		require.Equal(t, gauge.Doubt, f.Verdict)
		return h
	}
	assert.Contains(t, open(doubt()), "seat.width@1E1")
	worked := doubt().Did("seat_cut", "1E1")
	assert.Contains(t, open(worked), "read:seat.width@1E1", "it is read again")
	assert.NotContains(t, open(worked), "sign:seat.width@1E1", "and not signed besides")
	assert.NotContains(t, open(doubt().Decide("seat.width@1E1", "leave")), "seat.width@1E1")
	assert.Contains(t, open(doubt().Decide("seat.width@1E1", "seat_cut")), "seat.width@1E1")
}

func TestEveryLineIsNamedOnceAndSaysWhy(t *testing.T) {
	h := seats(t).See("seat.condition", "1I1", "heavy_pits").Did("seat_cut", "1E1")
	seen := map[string]bool{}
	for _, l := range gate.Head(h.Head).Lines {
		assert.False(t, seen[l.Key], l.Key)
		seen[l.Key] = true
		assert.NotEmpty(t, l.What, l.Key)
		if !l.OK {
			assert.NotEmpty(t, l.Why, l.Key)
		}
	}
}

// TestWorkThatMissesTheShopsTargetIsSigned: inside its limit, but outside what the shop works to. What
// was not worked on is held against its limit alone.
func TestWorkThatMissesTheShopsTargetIsSigned(t *testing.T) {
	target := func(h *headtest.Head) *headtest.Head {
		low, high := quantity.One*12/10, quantity.One*16/10
		h.Sheet.Limits = append(h.Sheet.Limits, head.Limit{
			Characteristic: "seat.width", Role: "exhaust", Set: head.Target, Low: &low, High: &high, Source: "shop practice",
		})
		h.Sheet = h.Sheet.Indexed()
		return h
	}
	cut := func(to string) *headtest.Head {
		return target(seats(t)).Did("seat_cut", "1E1").Again(head.AfterRepair, "seat.width", "1E1 "+to)
	}
	assert.NotContains(t, open(cut("1.4")), "sign:seat.width@1E1")
	h := cut("1.9")
	assert.Contains(t, open(h), "sign:seat.width@1E1")
	for _, l := range gate.Head(h.Head).Open() {
		if l.Key == "sign:seat.width@1E1" {
			assert.Contains(t, l.Why, "inside its limit, but outside the shop's target 1.2 to 1.6 mm: 1.9")
		}
	}
	asItCame := target(headtest.New(t, 1, "IE").Both("seat.width", "1.0", "2.0").Read("seat.width", "1I1 1.5", "1E1 1.9"))
	assert.NotContains(t, open(asItCame), "sign:seat.width@1E1", "nobody worked on it")
}

// TestAPartThatIsMissingIsNamed, and a new valve that nobody measured.
func TestAPartThatIsMissingIsNamed(t *testing.T) {
	h := seats(t)
	h.Parts = []head.Part{{Part: "keepers", Position: "1I1", Missing: true}, {Part: "valve", Position: "1E1", New: true}}
	assert.Contains(t, open(h), "part:keepers@1I1")
	whole := gate.Head(h.Head)
	assert.False(t, whole.Ready())
	for _, l := range whole.Open() {
		assert.NotEmpty(t, l.What, l.Key)
		assert.NotEmpty(t, l.Why, l.Key)
	}
}

// TestAReleaseNamesThePersonAndTheLicence: one word, or a name alone, is no release.
func TestAReleaseNamesThePersonAndTheLicence(t *testing.T) {
	for text, released := range map[string]bool{
		"": false, "17": false, "L17": false, "A. Person": false, "A. Person, L17": true, "Person 17": true,
		"Person;17": true,
	} {
		h := seats(t)
		h.Regulated, h.Released = "aircraft", text
		assert.Equal(t, !released, strings.Contains(open(h), "release"), "%q", text)
	}
}
