package quote_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/plan"
	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/core/quote"
	"yatai/core/route"
	"yatai/core/trade"
)

// TestLessIsWhatARouteDoesBeyondAnother: position by position, without setting up again; what is not there at
// all stays as it is, and what is there for all is gone.
func TestLessIsWhatARouteDoesBeyondAnother(t *testing.T) {
	h := headtest.New(t, 2, "IE")
	guides := func(at ...string) route.Operation {
		return route.Operation{Operation: trade.FitGuide, Positions: at, Minutes: 77}
	}
	washed := route.Operation{Operation: trade.FinalWash, Minutes: 12}
	each := h.Labour(trade.FitGuide).Each
	require.NotZero(t, each)

	left := quote.Less(h.Head, []route.Operation{guides("1I1", "1E1", "2I1"), washed}, []route.Operation{guides("1E1")})
	require.Len(t, left, 2)
	assert.Equal(t, []string{"1I1", "2I1"}, left[0].Positions)
	assert.Equal(t, 2*each, left[0].Minutes)
	assert.True(t, left[0].SetUp)
	assert.Equal(t, washed, left[1])
	assert.Empty(t, quote.Less(h.Head, []route.Operation{guides("1I1"), washed}, []route.Operation{guides("1I1", "1E1"), washed}))
	assert.Equal(t, []route.Operation{guides("1I1")}, quote.Less(h.Head, []route.Operation{guides("1I1")}, nil))
	assert.Empty(t, quote.Less(h.Head, []route.Operation{guides("1I1")}, []route.Operation{guides()}), "done to all")
}

// worn is a head with one guide out, one near its limit, and one in doubt.
func worn(t *testing.T) (*headtest.Head, judge.Judgement) {
	h := headtest.New(t, 2, "IE").Both("guide.clearance", "0.02", "0.10").All("stem.dia", "8.000")
	for i := range h.Sheet.Limits {
		h.Sheet.Limits[i].Near = quantity.OfLength(10_000)
	}
	h.Sheet = h.Sheet.Indexed()
	for at, bore := range map[string]string{"1I1": "8.050", "1E1": "8.140", "2E1": "8.094", "2I1": "8.101"} {
		for _, p := range []string{"top", "middle", "bottom"} {
			h.Read("guide.bore", at+"."+p+".A "+bore, at+"."+p+".B "+bore)
		}
	}
	return h, judge.Head(h.Head)
}

func verdictOf(t *testing.T, j judge.Judgement, at string) gauge.Verdict {
	f, ok := j.Feature(judge.Feature{Code: "guide.clearance", Position: at}.Key())
	require.True(t, ok)
	return f.Verdict
}

// TestAReasonNamesTheFindingsItAnswers: those at its positions that are bad enough, and no doubt; without any
// the operation's own reason, or the plan.
func TestAReasonNamesTheFindingsItAnswers(t *testing.T) {
	h, j := worn(t)
	require.Equal(t, gauge.Out, verdictOf(t, j, "1E1"))
	require.Equal(t, gauge.Near, verdictOf(t, j, "2E1"))
	require.Equal(t, gauge.Doubt, verdictOf(t, j, "2I1"))
	guide := trade.FitGuide
	because := func(least gauge.Verdict, at ...string) string {
		return quote.Reason(h.Head, j, route.Operation{Operation: guide, Positions: at}, least).String()
	}
	assert.Equal(t, "1E1 guide clearance 0.140 mm, allowed 0.02 to 0.1 mm", because(gauge.Near, "1E1", "1I1"))
	assert.Contains(t, because(gauge.Near, "1E1", "2E1"), "; 2E1 guide clearance 0.094 mm")
	assert.NotContains(t, because(gauge.Out, "1E1", "2E1"), "2E1")
	assert.Equal(t, "by the plan", because(gauge.Near, "2I1"), "what is in doubt is no reason")
	assert.NotContains(t, because(gauge.Near, "2E1"), "1E1")
	wash := quote.Reason(h.Head, j, route.Operation{Operation: trade.FinalWash}, gauge.Near)
	assert.Equal(t, trade.FinalWash.Because, wash.String())

	many := headtest.New(t, 8, "IE").Both("guide.clearance", "0.02", "0.10").All("stem.dia", "8.000").All("guide.bore", "8.140")
	said := quote.Reason(many.Head, judge.Head(many.Head),
		route.Operation{Operation: guide, Positions: many.Positions()}, gauge.Near).String()
	assert.Contains(t, said, "3E1 guide clearance")
	assert.NotContains(t, said, "4I1 guide")
	assert.Contains(t, said, "; and more")
}

// TestWhatIsNearItsLimitShouldBeDone: its usual repair, where the route does not do it already, and what the
// richer plan renews could be; nothing of a head that is only looked at.
func TestWhatIsNearItsLimitShouldBeDone(t *testing.T) {
	h, j := worn(t)
	guide := trade.FitGuide
	at := func(lines []quote.Line, group, code string) (positions []string) {
		for _, l := range lines {
			if l.Group == group && l.Code == code {
				positions = append(positions, l.Positions...)
			}
		}
		return positions
	}
	usual := j.Usual(func() judge.Feature {
		f, _ := j.Feature(judge.Feature{Code: "guide.clearance", Position: "2E1"}.Key())
		return f
	}())
	require.NotNil(t, usual)
	lines := quote.Extra(h.Head, j, plan.Plan{}, nil)
	assert.Equal(t, []string{"2E1"}, at(lines, quote.Should, usual.Code))
	have := []route.Operation{{Operation: usual.Does, Positions: []string{"2E1"}}}
	assert.Empty(t, at(quote.Extra(h.Head, j, plan.Plan{}, have), quote.Should, usual.Code))

	rich := plan.Plan{Feasible: true, Valves: []plan.Valve{
		{ID: "1I1", Repairs: []string{trade.FitGuide.Code}}, {ID: "2I1", Repairs: []string{"lap"}},
	}}
	lines = quote.Extra(h.Head, j, rich, nil)
	assert.Equal(t, []string{"1I1"}, at(lines, quote.Could, guide.Code))
	for _, l := range lines {
		if l.Code == guide.Code && l.Group == quote.Could {
			assert.Contains(t, l.Reason.String(), "half of its room")
		} else if l.Group == quote.Could {
			assert.Equal(t, quote.Could, l.With, "%s comes along", l.Code)
			assert.Equal(t, "comes with the others of this group", l.Reason.String())
		}
	}
	done := []route.Operation{{Operation: guide, Positions: []string{"1I1"}}}
	assert.Empty(t, at(quote.Extra(h.Head, j, rich, done), quote.Could, guide.Code), "the route has it")
	rich.Feasible = false
	assert.Empty(t, at(quote.Extra(h.Head, j, rich, nil), quote.Could, guide.Code), "a plan that cannot be offers nothing")
}

// TestLinesAddUp: labour, parts and minutes of all.
func TestLinesAddUp(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	h.Settings = map[string]string{"tax": "0", "minimum": "0", "discount": "0"}
	line := func(labour int64, minutes quantity.Minutes) quote.Line {
		return quote.Line{Priced: price.Priced{
			Operation: route.Operation{Operation: trade.FinalWash, Minutes: minutes}, Labour: labour,
			Parts: []price.Use{{Cents: 700, Count: 1, Known: true}},
		}}
	}
	sum := quote.Total(price.TermsOf(h.Head), []quote.Line{line(1000, 20), line(50, 3)})
	assert.Equal(t, quantity.Minutes(23), sum.Minutes)
	assert.Equal(t, int64(1050)+2*line(0, 0).PartsCents(), sum.Gross)
}
