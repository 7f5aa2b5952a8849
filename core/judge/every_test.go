package judge_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// kinds are heads of every drive, wet and air-cooled, on plugs and injectors, solid and hydraulic.
func kinds() []trade.Kind {
	var out []trade.Kind
	for _, drive := range trade.Drives {
		for _, cooling := range []string{"water", "air"} {
			for _, ignition := range []string{"plug", "injector"} {
				for _, lifter := range []string{"solid", "hydraulic"} {
					out = append(out, trade.Kind{Drive: drive, Lifter: lifter, Cooling: cooling, Material: "iron", Ignition: ignition})
				}
			}
		}
	}
	return out
}

// outOf makes a head of a kind with one characteristic read outside the limits it is given: over
// them by by times what they leave, under them when by is negative.
func outOf(t *testing.T, k trade.Kind, c trade.Characteristic, by quantity.Amount) *headtest.Head {
	h := headtest.Having(t, c.Positions).Figure("tip_most", "100")
	h.Model.Kind = k
	leaves := max(1, (c.High-c.Low)/400)
	low, high := (c.Low+c.High)/2-leaves, (c.Low+c.High)/2+leaves
	for _, role := range []string{"intake", "exhaust", ""} {
		h.Sheet.Limits = append(h.Sheet.Limits, head.Limit{
			Characteristic: c.Code, Role: role, Set: head.Service, Low: &low, High: &high, Source: "leaflet", Unit: c.Unit,
		})
	}
	h.Sheet = h.Sheet.Indexed()
	is := gauge.Exact((low+high)/2 + by*leaves)
	if c.Bracket {
		is = gauge.Between(is.At-1, is.At+1)
	}
	for i, spot := range c.Spots(h.Model.Layout) {
		h.Readings = append(h.Readings, head.Reading{
			ID: uint(i + 1), Of: c.Code, Spot: spot, Value: is, U: 1, Tool: "tool", Stage: head.AsReceived,
		})
	}
	*h.Head = *h.Until(head.Stages...)
	return h
}

// derivedOut makes a head of a kind with what a derived characteristic is made of read so that it lies
// outside the limits it is given, by times their width from where all that it is made of is in the
// middle; nil where it comes to nothing there.
func derivedOut(t *testing.T, k trade.Kind, c trade.Characteristic, by quantity.Amount) *headtest.Head {
	read := func(by, low, high quantity.Amount) *headtest.Head {
		h := headtest.Having(t, c.Positions)
		h.Model.Kind = k
		for n, from := range c.From {
			is := (from.Low + from.High) / 2
			if n == 0 {
				is = min(from.High, max(from.Low, is+by*(from.High-from.Low)/400))
			}
			for _, spot := range from.Spots(h.Model.Layout) {
				h.Readings = append(h.Readings, head.Reading{
					ID: uint(len(h.Readings) + 1), Of: from.Code, Spot: spot, Value: gauge.Exact(is), U: 1, Tool: "tool",
					Stage: head.AsReceived,
				})
			}
		}
		for _, role := range []string{"intake", "exhaust", ""} {
			h.Sheet.Limits = append(h.Sheet.Limits, head.Limit{
				Characteristic: c.Code, Role: role, Set: head.Service, Low: &low, High: &high, Source: "leaflet", Unit: c.Unit,
			})
		}
		h.Sheet = h.Sheet.Indexed()
		*h.Head = *h.Until(head.Stages...)
		return h
	}
	at := func(h *headtest.Head) (quantity.Amount, bool) {
		for _, f := range judge.Head(h.Head).All() {
			if f.Code == c.Code && len(f.From) > 0 {
				return f.Low, true
			}
		}
		return 0, false
	}
	middle, ok := at(read(0, -quantity.Max, quantity.Max))
	moved, there := at(read(by, -quantity.Max, quantity.Max))
	if !ok || !there || moved == middle {
		return nil
	}
	return read(by, middle-1, middle+1)
}

// TestEveryRepairIsTheAnswerToSomething puts every characteristic of every kind of head over and
// under its limits, a little and a lot, and every part into every grade: each repair the trade has is
// allowed somewhere, what is refused says why, and what is usual is allowed.
func TestEveryRepairIsTheAnswerToSomething(t *testing.T) {
	allowed := map[string]bool{}
	look := func(h *headtest.Head) {
		j := judge.Head(h.Head)
		for _, f := range j.All() {
			if f.Verdict < gauge.Out {
				continue
			}
			offers := j.Offers(f)
			for _, o := range offers {
				assert.True(t, o.OK || o.Why != "", "%s for %s is refused without a reason", o.Code, f.Key())
				allowed[o.Code] = allowed[o.Code] || o.OK
			}
			if r := j.Usual(f); r != nil {
				allowed := slices.ContainsFunc(offers, func(o judge.Offer) bool { return o.Code == r.Code && o.OK })
				assert.True(t, allowed, "%s for %s is usual and not allowed", r.Code, f.Key())
			}
		}
	}
	for _, k := range kinds() {
		for _, c := range trade.Characteristics {
			if !c.Exists(k) || c.Words != nil {
				continue
			}
			for _, by := range []quantity.Amount{-30, -2, 2, 30} {
				if !c.Derived() {
					look(outOf(t, k, c, by))
				} else if h := derivedOut(t, k, c, by); h != nil {
					look(h)
				}
			}
		}
		for _, p := range trade.Parts {
			if p.On != nil && !p.On(k) || p.Where == trade.AtHead {
				continue
			}
			for _, g := range p.Grades {
				h := headtest.Having(t, p.Positions)
				h.Model.Kind = k
				look(h.See(p.Code, p.Positions(h.Model.Layout)[0], g.Code))
			}
		}
	}
	marks, _ := trade.PartNamed(trade.MarkCode)
	for _, g := range marks.Grades {
		h := headtest.New(t, 2, "IE")
		h.Findings = append(h.Findings, head.Finding{
			ID: 1, Part: trade.MarkCode, Grade: g.Code, Stage: head.AsReceived, X: 1_000_000, Y: 1_000_000,
		})
		look(h)
	}
	worn := headtest.New(t, 1, "IE").Both("guide.clearance", "0.02", "0.08").Figure("oversize_stem/intake", "8.20").
		Read("stem.dia", "1I1.top 7.98", "1I1.middle 7.98", "1I1.bottom 7.98")
	for _, at := range []string{"top.A", "top.B", "middle.A", "middle.B", "bottom.A", "bottom.B"} {
		worn.Read("guide.bore", "1I1."+at+" 8.12")
	}
	look(worn)
	for _, r := range trade.Repairs() {
		assert.True(t, allowed[r.Code], "%s is never allowed", r.Code)
	}
}
