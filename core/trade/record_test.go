package trade_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/trade"
)

func TestASealIsJudgedByTheShopsSchool(t *testing.T) {
	for _, c := range []struct {
		what, school string
		v            trade.Values
		ok           bool
		say, refused string
	}{
		{"holds", "vacuum", trade.Values{"baseline": "84kPa", "vacuum": "82 82 81 82 kPa"}, true, "82 82 81 82 kPa", ""},
		{"the leak turns", "vacuum", trade.Values{
			"baseline": "84kPa", "vacuum": "82 70 66 81 kPa",
		}, false, "turns with the valve", ""},
		{"the seat leaks", "vacuum", trade.Values{"baseline": "84kPa", "vacuum": "70 70 69 70 kPa"}, false, "seat", ""},
		{
			"read once only", "vacuum", trade.Values{"baseline": "84kPa", "vacuum": "82 kPa"}, false, "",
			"turn the valve and read again",
		},
		{"no number", "vacuum", trade.Values{"baseline": "84kPa", "vacuum": "good good"}, false, "", "not a number"},
		{"a cup of another unit", "vacuum", trade.Values{"baseline": "84mm", "vacuum": "82 82 kPa"}, false, "", "kPa"},
		{"nothing at all", "vacuum", trade.Values{}, false, "", "vacuum"},
		{"liquid holds", "liquid", trade.Values{"liquid": "3"}, true, "3 min of 2", ""},
		{"liquid sinks", "liquid", trade.Values{"liquid": "1"}, false, "1 min of 2", ""},
		{"half of both", "both", trade.Values{"liquid": "3"}, false, "", "both"},
		{"both", "both", trade.Values{"liquid": "3", "baseline": "84kPa", "vacuum": "83 83 kPa"}, true, "3 min of 2", ""},
		{"both, one fails", "both", trade.Values{
			"liquid": "0", "baseline": "84kPa", "vacuum": "83 83 kPa",
		}, false, "0 min of 2", ""},
		{"it bounces", "drop", trade.Values{"drop": "yes"}, true, "bounces", ""},
		{"it thuds", "drop", trade.Values{"drop": "no"}, false, "thud", ""},
	} {
		h := headtest.New(t, 2, "IE")
		h.Settings = map[string]string{"school.seal": c.school}
		said, err := trade.SealTest.Record.Judge(c.v, judge.RecordCase{Head: h.Head, Position: "1E1"})
		if c.refused != "" {
			var mistake *field.Error
			require.ErrorAs(t, err, &mistake, c.what)
			assert.Contains(t, mistake.Message(), c.refused, c.what)
			continue
		}
		require.NoError(t, err, c.what)
		assert.Equal(t, c.ok, said.OK, c.what)
		assert.Contains(t, said.Says.String(), c.say, c.what)
	}
}

func TestALapIsJudgedByItsRing(t *testing.T) {
	h := headtest.New(t, 2, "IE")
	h.Settings = map[string]string{"lap_limit": "6"}
	for _, c := range []struct {
		v   trade.Values
		ok  bool
		say string
	}{
		{trade.Values{"paste": "fine", "passes": "3", "ring": "yes"}, true, "3 passes"},
		{trade.Values{"paste": "coarse, then fine", "passes": "6", "ring": "no"}, false, "low place"},
		{trade.Values{"paste": "fine", "passes": "7", "ring": "no"}, false, "cut the seat"},
		{trade.Values{"paste": "fine", "passes": "7", "ring": "yes"}, true, "7 passes"},
	} {
		said, err := trade.Lap.Record.Judge(c.v, judge.RecordCase{Head: h.Head, Position: "1E1"})
		require.NoError(t, err)
		assert.Equal(t, c.ok, said.OK)
		assert.Contains(t, said.Says.String(), c.say)
	}
	h.Model.Valves["exhaust"] = trade.Valve{Coated: true}
	said, err := trade.Lap.Record.Judge(trade.Values{"paste": "fine", "passes": "1", "ring": "yes"},
		judge.RecordCase{Head: h.Head, Position: "1E1"})
	if err == nil {
		assert.False(t, said.OK, "coated faces are never lapped")
	} else {
		assert.ErrorContains(t, err, "coated")
	}
}

// TestPressureIsForTheMaterial: at or above the shop's target, for its minutes, and never at
// a pressure that kills.
func TestPressureIsForTheMaterial(t *testing.T) {
	h := headtest.New(t, 2, "IE")
	h.Settings = map[string]string{"test_pressure.iron": "2bar", "test_pressure.aluminium": "1bar", "test_minutes": "10"}
	test := func(material, pressure, minutes, leaks string) (trade.Judged, error) {
		h.Model.Kind.Material = material
		return trade.PressureTest.Record.Judge(trade.Values{
			"pressure": pressure, "water": "60C", "minutes": minutes, "leaks": leaks,
		}, judge.RecordCase{Head: h.Head})
	}
	for _, c := range []struct {
		material, pressure, minutes, leaks string
		ok                                 bool
	}{
		{"iron", "2bar", "10", "0", true}, {"iron", "2.5bar", "30", "0", true}, {"iron", "1.5bar", "30", "0", false},
		{"aluminium", "1.5bar", "10", "0", true}, {"iron", "2bar", "9", "0", false}, {"iron", "2bar", "10", "1", false},
	} {
		said, err := test(c.material, c.pressure, c.minutes, c.leaks)
		require.NoError(t, err)
		assert.Equal(t, c.ok, said.OK, "%+v: %s", c, said.Says)
		assert.NotEmpty(t, said.Says)
	}
	_, err := test("iron", "6bar", "10", "0")
	assert.ErrorContains(t, err, "stored energy")
}
