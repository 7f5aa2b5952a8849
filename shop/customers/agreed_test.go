package customers_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/customers"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/quoting"
)

// TestACustomersSumsFollowTheirAnswers: what is kept of a head's quotes counts no longer once it is quoted, sent
// or answered again.
func TestACustomersSumsFollowTheirAnswers(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	file := f.File(t, "T0401")
	head := func() customers.Head {
		p, err := customers.Open(ctx, f.Shop, file.Job.CustomerID)
		require.NoError(t, err)
		for _, h := range p.Heads {
			if h.Tag == file.Tag {
				return h
			}
		}
		t.Fatal("it is theirs")
		return customers.Head{}
	}
	chief := f.People[shop.Lead]
	require.NoError(t, lead.KeepPlan(ctx, f.Shop, chief, shoptest.ID(), file.Tag, headfile.PlanAsk{}))
	choices := map[string]lead.Choice{}
	for _, x := range f.File(t, file.Tag).Received.Findings() {
		choices[x.Key()] = lead.Choice{Choice: trade.Leave, Reason: "read twice"}
	}
	choices["face.line/long"] = lead.Choice{Choice: trade.FaceHead.Code}
	require.NoError(t, lead.Decide(ctx, f.Shop, chief, shoptest.ID(), file.Tag, choices, headfile.PlanAsk{}))
	before := head()
	assert.Equal(t, before, head())
	v, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), file.Tag, quoting.Draft{})
	require.NoError(t, err)
	assert.False(t, head().Waiting, "it is not sent")
	require.NoError(t, quoting.SendQuote(ctx, f.Shop, front, file.Tag, quoting.SendForm{
		WriteID: shoptest.ID(), Version: v, To: "by telephone", Follow: true,
	}))
	assert.True(t, head().Waiting)
	said := quoting.Answer{Name: "the grower", Must: true}
	require.NoError(t, quoting.ApproveVerbally(ctx, f.Shop, front, shoptest.ID(), file.Tag, v, said, "by telephone"))
	after := head()
	assert.False(t, after.Waiting)
	assert.Greater(t, after.Cents, before.Cents)
	assert.Equal(t, after, head())
}
