package judge_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
)

// TestAChanceIsSaidWhereSomebodyWouldAsk: with a limit and a reading, and not where it is as good as certain.
func TestAChanceIsSaidWhereSomebodyWouldAsk(t *testing.T) {
	limit := &head.Limit{}
	for _, c := range []struct {
		f    judge.Feature
		says string
	}{
		{judge.Feature{Limit: limit, From: []uint{1}, PInside: 0.5}, "50 % likely to be inside"},
		{judge.Feature{Limit: limit, From: []uint{1}, PInside: 0.999}, "100 % likely to be inside"},
		{judge.Feature{Limit: limit, From: []uint{1}, PInside: 0.9991}, ""},
		{judge.Feature{Limit: limit, From: []uint{1}, PInside: 0.001}, "0 % likely to be inside"},
		{judge.Feature{Limit: limit, From: []uint{1}, PInside: 0.0009}, ""},
		{judge.Feature{From: []uint{1}, PInside: 0.5}, ""},
		{judge.Feature{Limit: limit, PInside: 0.5}, ""},
	} {
		assert.Equal(t, c.says, c.f.Inside(), "%v", c.f.PInside)
	}
}

// TestAReadingSpeaksForWhatIsMadeOfIt: a bore for itself and for the clearance, and for nothing else.
func TestAReadingSpeaksForWhatIsMadeOfIt(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("guide.clearance", "0.02", "0.10").Both("stem.dia", "7.9", "").
		Both("seat.width", "1.0", "2.0")
	all(bored("8.02", "7.96"), read("seat.width", "1E1 1.5"))(h)
	p, ok := judge.Head(h.Head).Position("1E1")
	require.True(t, ok)
	codes := func(of string) (out []string) {
		for _, f := range p.Speaks(of) {
			out = append(out, f.Code)
		}
		return out
	}
	assert.Contains(t, codes("guide.bore"), "guide.clearance")
	assert.NotContains(t, codes("guide.bore"), "seat.width")
	assert.NotContains(t, codes("guide.bore"), "stem.dia")
	assert.Contains(t, codes("stem.dia"), "stem.dia")
	assert.Contains(t, codes("stem.dia"), "guide.clearance")
	assert.Equal(t, []string{"seat.width"}, codes("seat.width"))
}

// TestWhatNobodyReadOrLimitsIsNoLine: a characteristic is a line where it has a limit or was read; one
// that only feeds another never is.
func TestWhatNobodyReadOrLimitsIsNoLine(t *testing.T) {
	lines := func(changes ...change) map[string]bool {
		h := headtest.New(t, 1, "IE")
		all(changes...)(h)
		p, ok := judge.Head(h.Head).Position("1E1")
		require.True(t, ok)
		out := map[string]bool{}
		for _, f := range p.Features {
			out[f.Code] = true
		}
		return out
	}
	bare := lines()
	assert.False(t, bare["seat.width"], "neither read nor limited")
	assert.False(t, bare["guide.form"])
	assert.True(t, lines(limit("seat.width/exhaust", "1", "2"))["seat.width"], "limited")
	assert.True(t, lines(read("seat.width", "1E1 1.5"))["seat.width"], "read")
	assert.False(t, lines(bored("8.02", "7.96"))["guide.bore"], "it feeds the clearance")
	assert.False(t, lines(bored("8.02", "7.96"))["guide.form"], "derived, and has no limit")
}

// TestTheWorstReadingSpeaks: of several the one with the worst verdict says where, the first of equals.
func TestTheWorstReadingSpeaks(t *testing.T) {
	at := func(top, middle, bottom string) string {
		h := headtest.New(t, 1, "IE").Both("stem.dia", "7.90", "")
		h.Read("stem.dia", "1E1.top "+top, "1E1.middle "+middle, "1E1.bottom "+bottom)
		f, ok := judge.Head(h.Head).Feature("stem.dia@1E1")
		require.True(t, ok)
		return f.At
	}
	assert.Equal(t, "middle", at("7.95", "7.80", "7.95"))
	assert.Equal(t, "top", at("7.80", "7.80", "7.95"), "the first of equals")
	assert.Equal(t, "bottom", at("7.95", "7.95", "7.80"))
}
