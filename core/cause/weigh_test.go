package cause

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// at is a head of two cylinders that is looked at for signs.
func at(h *headtest.Head) looking {
	return looking{h.Head, judge.Head(h.Head), map[*trade.Sign]Found{}}
}

// seen is a head of which signs were found so.
func seen(t *testing.T, found map[*trade.Sign]Found) looking {
	l := at(headtest.New(t, 2, "IE"))
	for s, f := range found {
		f.Sign = s
		l.found[s] = f
	}
	return l
}

func codes(all []Found) (out []string) {
	for _, f := range all {
		out = append(out, f.Code)
	}
	return out
}

// TestAScoreAddsUpWhatSpeaksAtAPosition: what was found at a position and of the whole head, less what speaks
// against it and one for each strong sign known to be missing; signs of one fact as their strongest and half
// of the rest.
func TestAScoreAddsUpWhatSpeaksAtAPosition(t *testing.T) {
	here, whole, against := &trade.Sign{Code: "here"}, &trade.Sign{Code: "whole"}, &trade.Sign{Code: "against"}
	missing, weak, open := &trade.Sign{Code: "missing"}, &trade.Sign{Code: "weak"}, &trade.Sign{Code: "open"}
	fact := func(code string) *trade.Sign { return &trade.Sign{Code: code, Fact: "sunk"} }
	one, two, three := fact("1"), fact("2"), fact("3")
	all := map[*trade.Sign]Found{
		here:    {State: Yes, At: []string{"1E1", "2E1"}},
		whole:   {State: Yes},
		against: {State: Yes, At: []string{"2E1"}},
		missing: {State: No},
		weak:    {State: No},
		one:     {State: Yes, At: []string{"1E1"}},
		two:     {State: Yes, At: []string{"1E1"}},
		three:   {State: Yes, At: []string{"1E1"}},
	}
	for _, c := range []struct {
		says  string
		signs []trade.Pull
		id    string
		score float64
	}{
		{"found there", []trade.Pull{{Sign: here, Weight: 3}}, "1E1", 3},
		{"found elsewhere", []trade.Pull{{Sign: here, Weight: 3}}, "1I1", 0},
		{"of the head as a whole", []trade.Pull{{Sign: whole, Weight: 2}}, "1I1", 2},
		{"of the head, asked of it", []trade.Pull{{Sign: whole, Weight: 2}, {Sign: here, Weight: 3}}, "", 2},
		{"speaks against it", []trade.Pull{{Sign: here, Weight: 3}, {Sign: against, Weight: -2}}, "2E1", 1},
		{"speaks against another", []trade.Pull{{Sign: here, Weight: 3}, {Sign: against, Weight: -2}}, "1E1", 3},
		{"a strong sign is missing", []trade.Pull{{Sign: here, Weight: 3}, {Sign: missing, Weight: 2}}, "1E1", 2},
		{"a weak one is", []trade.Pull{{Sign: here, Weight: 3}, {Sign: weak, Weight: 1}}, "1E1", 3},
		{"one is not known", []trade.Pull{{Sign: here, Weight: 3}, {Sign: open, Weight: 4}}, "1E1", 3},
		{
			"one fact three times", []trade.Pull{{Sign: one, Weight: 1}, {Sign: two, Weight: 3}, {Sign: three, Weight: 2}},
			"1E1", 4.5,
		},
		{"a fact against it is none of them", []trade.Pull{{Sign: one, Weight: 3}, {Sign: two, Weight: -1}}, "1E1", 2},
	} {
		assert.Equal(t, c.score, seen(t, all).score(&trade.Cause{Signs: c.signs}, c.id), c.says)
	}
}

// TestACauseHoldsWhereItsWeightiestSignIs: found at a position, and no absence of anything.
func TestACauseHoldsWhereItsWeightiestSignIs(t *testing.T) {
	heavy, light := &trade.Sign{Code: "heavy"}, &trade.Sign{Code: "light"}
	also, sound := &trade.Sign{Code: "also"}, &trade.Sign{Code: "sound", Inside: true}
	against, whole, nowhere := &trade.Sign{Code: "against"}, &trade.Sign{Code: "whole"}, &trade.Sign{Code: "nowhere"}
	open := &trade.Sign{Code: "open"}
	l := seen(t, map[*trade.Sign]Found{
		heavy:   {State: Yes, At: []string{"1E1"}},
		also:    {State: Yes, At: []string{"1E1", "2I1"}},
		light:   {State: Yes, At: []string{"2E1"}},
		sound:   {State: Yes, At: []string{"1I1"}},
		against: {State: Yes, At: []string{"1E1"}},
		whole:   {State: Yes},
		nowhere: {State: No},
		open:    {},
	})
	cause := &trade.Cause{Signs: []trade.Pull{
		{Sign: sound, Weight: 5}, {Sign: heavy, Weight: 3}, {Sign: also, Weight: 3}, {Sign: light, Weight: 1},
		{Sign: against, Weight: -1}, {Sign: whole, Weight: 2}, {Sign: nowhere, Weight: 4},
	}}
	w := l.weigh(cause)
	assert.Equal(t, []string{"1E1", "2I1"}, w.At, "once each, in the head's order")
	assert.Equal(t, 3+3-1+2-1.0, w.Score, "of the position where most speaks for it")
	assert.Equal(t, 5+3+3+1+2+4, w.Most)
	assert.Equal(t, []string{"heavy", "also", "whole"}, codes(w.For))
	assert.Equal(t, []string{"against", "nowhere"}, codes(w.Against))
	assert.Equal(t, []string{"1E1", "2I1"}, w.For[1].At)
	assert.Equal(t, 3, w.For[1].Weight)

	head := l.weigh(&trade.Cause{Signs: []trade.Pull{{Sign: whole, Weight: 2}, {Sign: open, Weight: 3}}})
	assert.Empty(t, head.At)
	assert.Equal(t, 2.0, head.Score)
	assert.Equal(t, []string{"open"}, codes(head.Open))
	weakOnes := l.weigh(&trade.Cause{Signs: []trade.Pull{{Sign: light, Weight: -2}, {Sign: nowhere, Weight: 1}}})
	assert.Empty(t, weakOnes.At, "what speaks against a cause is no place of it")
	assert.Empty(t, weakOnes.Against, "found at no place of it; and a weak sign that is missing says nothing")
}

// TestCausesComeTheLikeliestFirst: and none that only what is sound speaks for.
func TestCausesComeTheLikeliestFirst(t *testing.T) {
	h := headtest.New(t, 2, "IE").Both("guide.clearance", "0.02", "0.08").Both("valve.recession", "0.4", "1.0").
		Read("stem.dia", "1E1.top 7.96").Read("guide.bore", "1E1.top.A 8.10", "1E1.top.B 8.04").
		Read("valve.recession", "1I1 0.6", "2I1 0.6", "1E1 1.56", "2E1 0.6").See("port.condition", "1E1", "oily")
	h.Symptoms = []string{"lash_lost"}
	all := Weigh(h.Head, judge.Head(h.Head))
	require.Greater(t, len(all), 2)
	for i := range all[1:] {
		assert.GreaterOrEqual(t, all[i].Score, all[i+1].Score)
	}
	assert.Greater(t, all[0].Score, all[len(all)-1].Score)
}

// TestASignOfAFigure: yes where it is out at the sign's side, no where all were read and none is, unknown
// otherwise; what is inside, valve by valve.
func TestASignOfAFigure(t *testing.T) {
	over := &trade.Sign{Of: trade.Recession, Side: trade.High}
	under := &trade.Sign{Of: trade.Recession, Side: trade.Low}
	either, inside := &trade.Sign{Of: trade.Recession}, &trade.Sign{Of: trade.Recession, Inside: true}
	read := func(limited bool, at ...string) looking {
		h := headtest.New(t, 1, "IE")
		if limited {
			h.Both("valve.recession", "0.4", "1.0")
		}
		return looking{h.Read("valve.recession", at...).Head, judge.Head(h.Head), nil}
	}
	for _, c := range []struct {
		says string
		sign *trade.Sign
		of   looking
		want Found
	}{
		{"above", over, read(true, "1I1 0.6", "1E1 1.5"), Found{State: Yes, At: []string{"1E1"}}},
		{"not below", under, read(true, "1I1 0.6", "1E1 1.5"), Found{State: No}},
		{"below", under, read(true, "1I1 0.1", "1E1 0.6"), Found{State: Yes, At: []string{"1I1"}}},
		{"either", either, read(true, "1I1 0.1", "1E1 1.5"), Found{State: Yes, At: []string{"1I1", "1E1"}}},
		{"one was not read", over, read(true, "1I1 0.6"), Found{}},
		{"nothing was", over, read(true), Found{}},
		{"without a limit", over, read(false, "1I1 0.6", "1E1 1.5"), Found{}},
		{"inside", inside, read(true, "1I1 0.6", "1E1 1.5"), Found{State: Yes, At: []string{"1I1"}}},
		{"inside, one not read", inside, read(true, "1I1 0.6"), Found{State: Yes, At: []string{"1I1"}}},
		{"none inside", inside, read(true, "1I1 0.1", "1E1 1.5"), Found{State: No}},
		{"none inside, one not read", inside, read(true, "1E1 1.5"), Found{}},
		{"in doubt is not inside", inside, read(true, "1I1 1.001", "1E1 1.001"), Found{State: No}},
		{"in doubt is not out", over, read(true, "1I1 1.001", "1E1 1.001"), Found{State: No}},
		{"inside without a limit", inside, read(false, "1I1 0.6", "1E1 0.6"), Found{}},
	} {
		assert.Equal(t, c.want, c.of.one(c.sign), c.says)
	}
	rods := &trade.Sign{Of: trade.PushrodLength}
	assert.Equal(t, Found{}, read(true, "1I1 0.6", "1E1 0.6").one(rods), "of what the head does not have nothing is known")
}

// TestASignOfAPartSeen: yes where a grade is, no where all were looked at; the other way round with Not.
func TestASignOfAPartSeen(t *testing.T) {
	oily := &trade.Sign{Part: trade.PortSeen, Grades: []string{"oily"}}
	dry := &trade.Sign{Part: trade.PortSeen, Grades: []string{"oily"}, Not: true}
	see := func(at ...string) looking {
		h := headtest.New(t, 1, "IE")
		for i := 0; i < len(at); i += 2 {
			h.See("port.condition", at[i], at[i+1])
		}
		return looking{h.Head, judge.Head(h.Head), nil}
	}
	for _, c := range []struct {
		says string
		sign *trade.Sign
		of   looking
		want Found
	}{
		{"one", oily, see("1E1", "oily"), Found{State: Yes, At: []string{"1E1"}}},
		{"none, all looked at", oily, see("1I1", "dry", "1E1", "dry"), Found{State: No}},
		{"none, one not looked at", oily, see("1I1", "dry"), Found{}},
		{"not, one", dry, see("1I1", "dry", "1E1", "oily"), Found{State: Yes, At: []string{"1I1"}}},
		{"not, none", dry, see("1I1", "oily", "1E1", "oily"), Found{State: No}},
		{"not, one not looked at", dry, see("1I1", "oily"), Found{}},
		{"some wetter", &trade.Sign{Special: trade.OneWetter}, see("1E1", "oily"), Found{State: Yes, At: []string{"1E1"}}},
		{"all as wet", &trade.Sign{Special: trade.OneWetter}, see("1I1", "oily", "1E1", "oily"), Found{}},
	} {
		assert.Equal(t, c.want, c.of.one(c.sign), c.says)
	}
	lost := &trade.Sign{Told: []*trade.Symptom{trade.SymptomNamed("lash_lost")}}
	lash := &trade.Sign{Part: trade.PortSeen, Grades: []string{"oily"}, Or: lost}
	told := see("1I1", "dry", "1E1", "dry")
	assert.Equal(t, Found{State: No}, told.look(lash), "what is known stays where the other is not")
	told.h.Symptoms = []string{"lash_lost"}
	assert.Equal(t, Found{State: Yes}, told.look(lash), "seen another way")
	assert.Equal(t, Found{State: Yes, At: []string{"1E1"}}, see("1E1", "oily").look(lash))
}

// TestSignsThatNoTableSays: where a leak goes with the turn, a guide worn along the sweep, a new part that is
// not to size.
func TestSignsThatNoTableSays(t *testing.T) {
	leak := func(what string, at ...string) Found {
		h := headtest.New(t, 1, "IE")
		if len(at) > 0 {
			h.Read("test.baseline", "H 84").Read("test.vacuum", at...)
		}
		return looking{h.Head, judge.Head(h.Head), nil}.special(what)
	}
	turning := []string{"1I1.0 82", "1I1.90 70", "1I1.180 66", "1I1.270 81"}
	still := []string{"1I1.0 66", "1I1.90 66", "1I1.180 66", "1I1.270 66"}
	valve := Found{State: Yes, At: []string{"1I1"}}
	assert.Equal(t, valve, leak(trade.LeakTurns, turning...))
	assert.Equal(t, Found{State: No}, leak(trade.LeakStays, turning...))
	assert.Equal(t, valve, leak(trade.LeakStays, still...))
	assert.Equal(t, Found{State: No}, leak(trade.LeakTurns, still...))
	assert.Equal(t, Found{}, leak(trade.LeakTurns), "nothing was read")

	sweep := func(high string, spots ...string) Found {
		h := headtest.New(t, 1, "IE").Both("guide.clearance", "0.02", high)
		if len(spots) > 0 {
			h.Read("stem.dia", "1E1.top 7.96").Read("guide.bore", spots...)
		}
		return looking{h.Head, judge.Head(h.Head), nil}.special(trade.AlongSweep)
	}
	along := []string{
		"1E1.top.A 8.10", "1E1.top.B 8.04", "1E1.middle.A 8.06", "1E1.middle.B 8.04",
		"1E1.bottom.A 8.10", "1E1.bottom.B 8.04",
	}
	across := []string{
		"1E1.top.A 8.04", "1E1.top.B 8.10", "1E1.middle.A 8.04", "1E1.middle.B 8.06",
		"1E1.bottom.A 8.04", "1E1.bottom.B 8.10",
	}
	assert.Equal(t, Found{State: Yes, At: []string{"1E1"}}, sweep("0.08", along...))
	assert.Equal(t, Found{State: No}, sweep("0.08", across...), "worn, but not along it")
	assert.Equal(t, Found{State: No}, sweep("0.20", along...), "along it, but not worn")
	assert.Equal(t, Found{}, sweep("0.08"), "nothing was read")

	part := func(role string, high string, fresh bool) Found {
		h := headtest.New(t, 1, "IE")
		h.Limit("stem.dia/exhaust", "", high)
		h.Sheet.Limits[0].Set = head.New // the maker's for a new part
		h.Sheet = h.Sheet.Indexed()
		is := quantity.OfLength(8_020_000)
		h.Parts = []head.Part{{Position: role, New: fresh, Is: map[string]quantity.Amount{"stem.dia": is}}}
		return looking{h.Head, judge.Head(h.Head), nil}.special(trade.WrongPart)
	}
	assert.Equal(t, Found{State: Yes, At: []string{"1E1"}}, part("1E1", "8.00", true))
	assert.Equal(t, Found{}, part("1E1", "8.05", true), "to size")
	assert.Equal(t, Found{}, part("1E1", "8.00", false), "not new")
	assert.Equal(t, Found{}, part("1I1", "8.00", true), "without a limit of its own")
}

// TestNextIsTheCheckThatTellsTheLeadingApart: whose weights differ most between the first and another of three.
func TestNextIsTheCheckThatTellsTheLeadingApart(t *testing.T) {
	a, b, c := &trade.Sign{Code: "a"}, &trade.Sign{Code: "b"}, &trade.Sign{Code: "c"}
	cause := func(name string, signs ...trade.Pull) Weighed {
		w := Weighed{Cause: &trade.Cause{Name: name, Signs: signs}}
		for _, p := range signs {
			w.Open = append(w.Open, Found{Sign: p.Sign, Weight: p.Weight})
		}
		return w
	}
	one := cause("one", trade.Pull{Sign: a, Weight: 2}, trade.Pull{Sign: b, Weight: 1})
	two := cause("two", trade.Pull{Sign: a, Weight: 2}, trade.Pull{Sign: b, Weight: -2})
	three := cause("three", trade.Pull{Sign: a, Weight: 1}, trade.Pull{Sign: c, Weight: 3})
	four := cause("four", trade.Pull{Sign: a, Weight: -9})

	_, _, ok := Next(nil)
	assert.False(t, ok)
	s, between, ok := Next([]Weighed{one})
	require.True(t, ok)
	assert.Equal(t, "a", s.Code, "of one cause its weightiest")
	assert.Equal(t, []string{"one"}, between)
	s, between, _ = Next([]Weighed{one, two, three, four})
	assert.Equal(t, "b", s.Code, "1 and -2 are further apart than 2 and 2; the fourth is not looked at")
	assert.Equal(t, []string{"one", "two"}, between)
	s, between, _ = Next([]Weighed{one, three})
	assert.Equal(t, "c", s.Code, "0 and 3: what is no sign of a cause has no weight")
	assert.Equal(t, []string{"one", "three"}, between)
	_, _, ok = Next([]Weighed{{Cause: &trade.Cause{}}, {Cause: &trade.Cause{}}})
	assert.False(t, ok, "all is known")
}
