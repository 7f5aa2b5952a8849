package route_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/route"
)

// TestNoRouteBreaksTheOrderOfTheTrade derives routes from decisions at random, in every
// school: nothing that has to come first comes later.
func TestNoRouteBreaksTheOrderOfTheTrade(t *testing.T) {
	rnd := rand.New(rand.NewPCG(4, 2))
	ids := []string{"1I1", "1E1", "2I1", "2E1"}
	for range 500 {
		var ds []route.Decision
		for range rnd.IntN(9) {
			k := route.Kinds[rnd.IntN(len(route.Kinds))]
			if k.Code != "scrap" {
				ds = append(ds, route.Decision{Code: k.Code, Position: ids[rnd.IntN(len(ids))]})
			}
		}
		school := route.School{FaceFirst: rnd.IntN(2) == 0, Lap: rnd.IntN(2) == 0}
		ops := route.Derive(ids, ds, school)
		for i, a := range ops {
			for _, b := range ops[i+1:] {
				why, must := route.Precedes(b.Kind, a.Kind)
				assert.False(t, must, "%s after %s: %s (%v)", b.Code, a.Code, why, school)
			}
		}
		assert.Equal(t, "final_check", ops[len(ops)-1].Code)
	}
}

func TestScrapIsTheWholeRoute(t *testing.T) {
	ops := route.Derive([]string{"1I1"}, []route.Decision{{Code: "face"}, {Code: "scrap"}}, route.School{})
	assert.Len(t, ops, 1)
	assert.Equal(t, "scrap", ops[0].Code)
}

func TestLappingIsASchool(t *testing.T) {
	with := codes(route.Derive([]string{"1I1"}, []route.Decision{{Code: "seat_cut", Position: "1I1"}}, route.School{Lap: true}))
	without := codes(route.Derive([]string{"1I1"}, []route.Decision{{Code: "seat_cut", Position: "1I1"}}, route.School{}))
	assert.Contains(t, with, "lap")
	assert.NotContains(t, without, "lap")
}
