package lead_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/quote"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/quoting"
)

// TestTryWritesNothingAndWorksTheRestOut: one answer is changed, and the plan follows; what a kept plan had
// decided for itself is open again, what a person chose is not.
func TestTryWritesNothingAndWorksTheRestOut(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief := t.Context(), f.People[shop.Lead]
	const guide, face = "guide.clearance@1E1", "face.line/long"
	require.NoError(t, lead.KeepPlan(ctx, f.Shop, chief, shoptest.ID(), "T0401", headfile.PlanAsk{}))
	was := f.File(t, "T0401")
	planOf := func(file *headfile.File) lead.Planned {
		p, err := lead.Plan(ctx, f.Shop, file, headfile.PlanAsk{Brief: true, Decided: true})
		require.NoError(t, err)
		return p
	}
	require.Positive(t, planOf(was).FaceCut)
	tried, errs := lead.Try(was, map[string]lead.Choice{face: {Choice: trade.Leave, Reason: "a thicker gasket"}})
	assert.Empty(t, errs)
	p := planOf(tried)
	assert.Zero(t, p.FaceCut, "the face is left")
	assert.NotEqual(t, planOf(was).Cents, p.Cents)
	_, bound := tried.Decision(guide)
	assert.False(t, bound, "what the kept plan decided follows again")
	again := f.File(t, "T0401")
	d, _ := again.Decision(face)
	assert.NotEqual(t, trade.Leave, d.Choice, "nothing was written")

	_, errs = lead.Try(was, map[string]lead.Choice{face: {Choice: trade.Leave}})
	assert.Contains(t, errs, face, "why?")

	mine := map[string]lead.Choice{face: {Choice: trade.Leave, Reason: "plan of the customer: a thicker gasket"}}
	require.NoError(t, lead.Decide(ctx, f.Shop, chief, shoptest.ID(), "T0401", mine, headfile.PlanAsk{}))
	kept := f.File(t, "T0401")
	d, _ = kept.Decision(face)
	assert.Equal(t, "plan of the customer: a thicker gasket", d.Reason)
	tried, _ = lead.Try(kept, nil)
	d, ok := tried.Decision(face)
	assert.True(t, ok && d.Choice == trade.Leave, "a person chose it: it stays")

	newest := func() headfile.KeptPlan {
		plans, err := headfile.Plans(ctx, f.Shop, f.File(t, "T0401"))
		require.NoError(t, err)
		return plans[0]
	}
	assert.Zero(t, newest().Out.FaceCut, "the plan that is kept leaves the face")
	back := map[string]lead.Choice{face: {Choice: trade.FaceHead.Code}}
	require.NoError(t, lead.Decide(ctx, f.Shop, chief, shoptest.ID(), "T0401", back, headfile.PlanAsk{}))
	assert.Positive(t, newest().Out.FaceCut, "back to what an older plan did: it is kept anew")
}

// TestTheOrderTakesWhatIsTickedBesides: must always, should and could as ticked; a quote written after the
// order groups them as one written before it.
func TestTheOrderTakesWhatIsTickedBesides(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief := t.Context(), f.People[shop.Lead]
	require.NoError(t, lead.KeepPlan(ctx, f.Shop, chief, shoptest.ID(), "T0401", headfile.PlanAsk{}))
	release := map[string]lead.Choice{"guide.clearance@4I1": {Choice: trade.Leave, Reason: "read twice"}}
	require.NoError(t, lead.Decide(ctx, f.Shop, chief, shoptest.ID(), "T0401", release, headfile.PlanAsk{}))
	file := f.File(t, "T0401")
	lines, err := lead.Beside(ctx, f.Shop, file, file.Derived())
	require.NoError(t, err)
	at := slices.IndexFunc(lines, func(l quote.Line) bool { return l.Group == quote.Should && l.With == "" })
	other := slices.IndexFunc(lines, func(l quote.Line) bool { return l.Group == quote.Could && l.With == "" })
	require.True(t, at >= 0 && other >= 0, "%v", lines)
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), "T0401", lines[at].Key(), "could/nothing"))
	file = f.File(t, "T0401")
	has := func(l quote.Line) bool { return len(quote.Less(file.Subject, quote.Routes(l), file.Routed())) == 0 }
	assert.True(t, has(lines[at]), "what was ticked is done")
	assert.False(t, has(lines[other]), "what was not is not")
	_, err = quoting.MakeQuote(ctx, f.Shop, chief, shoptest.ID(), "T0401", quoting.Draft{})
	require.NoError(t, err)
	q := f.File(t, "T0401").Approved.Quotes[0]
	should := q.Group(headfile.Should)
	require.Len(t, should, 1)
	assert.Equal(t, lines[at].Code, should[0].Code)
	assert.Empty(t, q.Group(headfile.Could))
	sum := int64(0)
	for _, l := range q.Group(headfile.Must) {
		assert.False(t, l.Code == lines[at].Code && l.Positions == should[0].Positions, "charged once")
		sum += l.LabourCents + l.PartsCents
	}
	assert.Positive(t, sum)
	lines, err = lead.Beside(ctx, f.Shop, f.File(t, "T0401"), nil)
	require.NoError(t, err)
	assert.NotEmpty(t, lines, "nobody was asked yet")
}
