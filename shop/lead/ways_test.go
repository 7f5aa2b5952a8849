package lead_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/plan"
	"yatai/internal/shoptest"
	"yatai/shop/headfile"
	"yatai/shop/lead"
)

// TestWaysSideBySideAreThePlansOfTheOtherWeighings asks for a head's other ways: each is the plan that
// is got when it is asked for alone, and the cheapest of all is the one that is weighed by cost.
func TestWaysSideBySideAreThePlansOfTheOtherWeighings(t *testing.T) {
	f := shoptest.Open(t)
	for _, tag := range []string{"T0401", "T0405"} {
		file := f.File(t, tag)
		first := f.PlanOf(t, tag, headfile.PlanAsk{})
		others, _, err := lead.Ways(t.Context(), f.Shop, file, first)
		require.NoError(t, err)
		var codes []string
		for _, p := range others {
			codes = append(codes, p.Plan.Ask.Alternative)
			alone := f.PlanOf(t, tag, headfile.PlanAsk{Alternative: p.Plan.Ask.Alternative})
			assert.Equal(t, alone.Feasible, p.Feasible, "%s %s", tag, p.Label())
			assert.Equal(t, alone.Cents, p.Cents, "%s %s", tag, p.Label())
			assert.Equal(t, alone.FaceCut, p.FaceCut, "%s %s", tag, p.Label())
		}
		for _, a := range plan.Alternatives {
			if a.Code != first.Plan.Ask.Alternative && first.Plan.Ask.Alternative != "" {
				assert.Contains(t, codes, a.Code, tag)
			}
		}
	}
}

// TestAReadingIsWorthNoMoreThanThePlansDiffer: and what is worth most comes first.
func TestAReadingIsWorthNoMoreThanThePlansDiffer(t *testing.T) {
	f := shoptest.Open(t)
	for _, tag := range []string{"T0401", "T0404", "T0405"} {
		file := f.File(t, tag)
		p := f.PlanOf(t, tag, headfile.PlanAsk{})
		worths, err := lead.Readings(t.Context(), f.Shop, file, p)
		require.NoError(t, err)
		for _, w := range worths {
			assert.LessOrEqual(t, w.Cents, max(w.Most-p.Cents, p.Cents-w.Least), "%s %+v", tag, w)
			assert.Positive(t, w.Minutes)
		}
		assert.True(t, slices.IsSortedFunc(worths, func(a, b plan.Worth) int { return int(b.Cents - a.Cents) }),
			"the most worth first")
	}
}
