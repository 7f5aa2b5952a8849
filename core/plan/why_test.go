package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/trade"
)

// TestWhatStandsInTheWayIsSaid makes heads that no plan fits, each for one reason, on an inch sheet: the
// reason is named, with the figures it rests on, in the sheet's unit.
func TestWhatStandsInTheWayIsSaid(t *testing.T) {
	stock := func(h *headtest.Head, kind string, count int, sizes ...string) {
		for i, s := range sizes {
			l, _ := length.Parse(s, length.MM)
			h.Stock = append(h.Stock, head.Stock{ID: uint(len(h.Stock) + i + 1), Kind: kind, Count: count, Size: l})
		}
	}
	for name, c := range map[string]struct {
		drive string
		make  func(h *headtest.Head)
		want  plan.Blocked
	}{
		"an adjuster too short": {trade.Rocker, func(h *headtest.Head) {
			h.Both("lash", "2.00", "2.10").Figure("adjuster", "0.10").Read("lash", "1I1 0.20 0.22", "1E1 2.04 2.06")
		}, plan.Blocked{
			ID: "1I1", Limit: "lash", Why: "whatever is done inside the limits, its lash cannot be set: " +
				"it is 0.00827 in and must end at 0.0787 to 0.0827 in; the adjuster gives 0.00394 in",
		}},
		"shims too thin": {trade.Bucket, func(h *headtest.Head) {
			h.Both("lash", "0.20", "0.25").Read("lash", "1I1 1.20 1.22", "1E1 0.22 0.23").
				Read("shim.size", "1I1 2.50", "1E1 2.50")
			stock(h, trade.LashShimPart.Code, 2, "2.40", "2.60")
		}, plan.Blocked{
			ID: "1I1", Limit: "lash", Why: "whatever is done inside the limits, its lash cannot be set: " +
				"it is 0.04764 in and must end at 0.0079 to 0.0098 in; shims can be had from 0.09449 in to 0.10236 in, and 0.09843 in is fitted",
		}},
		"pushrods too short": {trade.Rocker, func(h *headtest.Head) {
			h.Both("lash", "0.20", "0.25").Figure("adjuster", "0").Read("lash", "1I1 1.40 1.42", "1E1 0.22 0.23").Read(
				"pushrod.length", "1I1 200.00", "1E1 200.00",
			)
			stock(h, trade.PushrodPart.Code, 4, "199.50", "200.50")
		}, plan.Blocked{
			ID: "1I1", Limit: "lash", Why: "whatever is done inside the limits, its lash cannot be set: " +
				"it is 0.05551 in and must end at 0.0079 to 0.0098 in; pushrods can be had from 7.85433 in to 7.8937 in, and 7.87402 in is fitted",
		}},
		"rows too far apart": {trade.Rocker, func(h *headtest.Head) {
			h.Model.Layout = headtest.New(t, 2, "IE").Model.Layout
			h.Both("valve.recession", "0.40", "1.60").Limit("recession.spread/intake", "", "0.10").Read("valve.recession",
				"1I1 0.50", "2I1 1.50", "1E1 0.5", "2E1 0.5")
		}, plan.Blocked{
			ID: "", Limit: "recession.spread",
			Why: "every valve fits alone; only their depths cannot be brought as near each other as they must be",
		}},
		"a margin that nothing gives back": {trade.Rocker, func(h *headtest.Head) {
			h.Both("valve.margin", "1.00", "").Read("valve.margin", "1I1 0.80", "1E1 1.20")
		}, plan.Blocked{
			ID: "1I1", Limit: "valve.margin",
			Why: "no allowed set of actions brings its margin, now 0.0315 in, to 0.0394 in min with the other limits kept",
		}},
	} {
		t.Run(name, func(t *testing.T) {
			h := headtest.New(t, 1, "IE")
			h.Model.Kind.Drive = c.drive
			c.make(h)
			h.Unit = length.In
			kept := map[string]string{"seat": "keep", "valve": "keep"}
			p := solve(t, h, head.Ask{
				Alternative: plan.Balanced,
				Hold:        map[string]map[string]string{"1I1": kept, "1E1": kept, "2I1": kept, "2E1": kept},
			})
			assert.False(t, p.Feasible)
			assert.Equal(t, []plan.Blocked{c.want}, p.Blocked)
		})
	}
}
