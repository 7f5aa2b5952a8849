package shop_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/trade"
	"yatai/internal/sample"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/week"
	"yatai/shop/work"
)

// TestEveryJobOfTheDemoIsWalkedToItsEnd takes every head that is in the shop to the door.
func TestEveryJobOfTheDemoIsWalkedToItsEnd(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief, tech, front := t.Context(), f.People[shop.Lead], f.People[shop.Technician], f.People[shop.Counter]
	cards, err := week.Floor(ctx, f.Shop)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(cards), 14)
	kinds := map[string]bool{}
	walked := sample.Every(3, cards)
	for n, c := range walked {
		tag := c.Tag
		kinds[c.Job.Kind] = true
		if f.File(t, tag).WorkOrderAt == nil {
			f.ReadAll(t, tag, headfile.AsReceived, false)
			if p := f.PlanOf(t, tag, headfile.PlanAsk{}); p.Feasible {
				require.NoError(t, lead.KeepPlan(ctx, f.Shop, chief, shoptest.ID(), tag, headfile.PlanAsk{}), tag)
			}
			choices := map[string]lead.Choice{}
			file := f.File(t, tag)
			for _, x := range file.Received.Findings() {
				if _, done := file.Decision(x.Key()); !done {
					choices[x.Key()] = lead.Choice{Choice: trade.Leave, Reason: "the customer knows"}
				}
			}
			require.NoError(t, lead.Decide(ctx, f.Shop, chief, shoptest.ID(), tag, choices, headfile.PlanAsk{}), tag)
			f.ApproveOnce(t, tag)
			require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), tag), tag)
		}
		f.ApproveOnce(t, tag)
		for _, o := range f.File(t, tag).Operations {
			if n%2 == 0 && o.Code == trade.FinalCheck.Code && o.State == "waiting" {
				continue // it is begun and finished by passing
			}
			if o.State == "waiting" {
				require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), tag, o.Seq, work.Pauses), "%s %s", tag, o.Code)
			}
			if o.State == "waiting" || o.State == "running" {
				f.Record(t, tag, o)
				require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, o.Seq, "", "found in the drawer"), "%s %s",
					tag, o.Code)
			}
		}
		file := f.File(t, tag)
		if file.ClosedAt == nil && !shoptest.Scrapped(file) {
			f.ReadAll(t, tag, headfile.AfterRepair, true)
			f.MendAll(t, tag)
		}
		for _, l := range f.File(t, tag).Open() {
			switch {
			case n%2 == 0 && (l.What == trade.FinalCheck.Name || strings.Contains(l.Feature, trade.FinalCheck.Code)):
			case l.Tool != 0:
				require.NoError(t, bench.Release(ctx, f.Shop, chief, shoptest.ID(), tag, l.Tool, "read with another gauge since"))
			case l.Feature != "":
				require.NoError(t, work.SignDeviation(ctx, f.Shop, chief, shoptest.ID(), tag, l.Feature, "the customer knows"),
					"%s %s", tag, l.Feature)
			default:
				assert.Fail(t, "open", "%s: %s, %s", tag, l.What, l.Why)
			}
		}
		if f.File(t, tag).ClosedAt == nil {
			require.NoError(t, work.CloseHead(ctx, f.Shop, chief, tag, work.CloseForm{
				WriteID: shoptest.ID(), Releaser: "A. Fell", Licence: "EP 12", Record: shoptest.Passing(trade.FinalCheck.Code),
			}), tag)
			for _, o := range f.File(t, tag).Operations {
				assert.Contains(t, []string{"done", "skipped"}, o.State, "%s %s", tag, o.Code)
			}
		}
		require.NoError(t, work.HandOver(ctx, f.Shop, front, shoptest.ID(), tag, "its owner"), tag)
	}
	for _, k := range sample.Every(99, intake.IntakeKinds) {
		assert.True(t, kinds[k.Code], "a job of every kind of intake: %s", k.Code)
	}
	left, err := week.Floor(ctx, f.Shop)
	require.NoError(t, err)
	assert.Len(t, left, len(cards)-len(walked))
}
