package work_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gate"
	"yatai/core/head"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/week"
	"yatai/shop/work"
)

// TestTheGateMissesNothing takes a head whose work is done and proven, and takes one proof
// away at a time: every operation, every record, every reading of what work has changed and
// every look at it. Each time the gate is shut.
func TestTheGateMissesNothing(t *testing.T) {
	f := shoptest.Open(t)
	for _, tag := range []string{"T0405", "T0408"} {
		h := f.File(t, tag).Subject
		require.True(t, gate.Head(h).Ready(), "%s: %v", tag, gate.Head(h).Open())
		without := func(what string, change func(*head.Head)) {
			less := *h
			change(&less)
			assert.False(t, gate.Head(less.Until(head.Stages...)).Ready(), "%s passes without %s", tag, what)
		}
		for i, o := range h.Operations {
			without("operation "+o.Code, func(h *head.Head) {
				h.Operations = slices.Clone(h.Operations)
				h.Operations[i].State = head.Waiting
			})
		}
		for i, r := range h.Records {
			if r.Operation == trade.SealTest.Code { // what it says stands as readings too
				continue
			}
			without("the record of "+r.Operation+" "+r.Position, func(h *head.Head) {
				h.Records = slices.Delete(slices.Clone(h.Records), i, i+1)
			})
		}
		proofs := 0
		for i, r := range h.Readings {
			o := h.Voider(r.Of, r.Spot.Position)
			if o == nil || r.Stage == head.AsReceived || int(r.ID) <= o.Begun || r.Of == trade.VacuumTurned.Code ||
				r.Of == trade.VacuumBlanked.Code {
				continue
			}
			later := slices.ContainsFunc(h.Readings[i+1:], func(x head.Reading) bool { return x.Of == r.Of && x.Spot == r.Spot })
			if later {
				continue
			}
			proofs++
			without("reading "+r.Of+" "+r.Spot.Key(), func(h *head.Head) {
				h.Readings = slices.Delete(slices.Clone(h.Readings), i, i+1)
			})
		}
		if tag == "T0405" {
			assert.Greater(t, proofs, 15)
		}
	}
}

// TestEveryOpenLineOfTheDemoIsNamed opens the gate of every head of the demo.
func TestEveryOpenLineOfTheDemoIsNamed(t *testing.T) {
	f := shoptest.Open(t)
	cards, err := week.Floor(t.Context(), f.Shop)
	require.NoError(t, err)
	for _, c := range cards {
		seen := map[string]bool{}
		for _, l := range f.File(t, c.Tag).Gate() {
			assert.False(t, seen[l.Key], "%s: %s twice", c.Tag, l.Key)
			seen[l.Key] = true
			assert.NotEmpty(t, l.What, "%s %s", c.Tag, l.Key)
		}
	}
	assert.ErrorContains(t, work.CloseHead(t.Context(), f.Shop, f.People[shop.Lead], "T0401",
		work.CloseForm{WriteID: shoptest.ID()}), "not proven yet")
}
