package route_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/head/headtest"
	"yatai/core/route"
	"yatai/core/trade"
)

func codes(ops []route.Operation) (out []string) {
	for _, o := range ops {
		out = append(out, o.Code)
	}
	return out
}

func at(code, position string) route.Decision { return route.Decision{Code: code, Position: position} }

func TestDeriveKeepsPrecedence(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	ops := route.Derive(h.Head, []route.Decision{at("face", ""), at("seat_insert", "1E1"), at("guide_new", "1I1")})
	got := codes(ops)
	assert.Subset(t, got, []string{
		"wash", "pressure_test", "guide_new", "seat_insert", "pressure_retest", "seat_cut", "face", "wash_final", "assemble",
		"seal_test",
		"final_check",
	})
	assert.Equal(t, "final_check", got[len(got)-1])
	cut := ops[slices.Index(got, "seat_cut")]
	assert.Equal(t, []string{"1I1", "1E1"}, cut.Positions, "a new guide and an insert both need their seat cut")
	assert.Equal(t, trade.CutSeat.Setup+2*trade.CutSeat.Each, cut.Minutes)
}

// TestARouteIsInTheOrderOfItsSchool: by the places of the stages there, the face first where the school wants it.
func TestARouteIsInTheOrderOfItsSchool(t *testing.T) {
	for _, first := range []bool{false, true} {
		h := headtest.New(t, 1, "IE")
		h.Settings = map[string]string{}
		if first {
			h.Settings["school.face"] = "first"
		}
		ops := route.Derive(h.Head, []route.Decision{at("face", ""), at("seat_insert", "1E1"), at("guide_new", "1I1")})
		school := trade.School{FaceFirst: first}
		for i := range ops[1:] {
			assert.LessOrEqual(t, ops[i].Place(school), ops[i+1].Place(school), "%s before %s", ops[i].Code, ops[i+1].Code)
		}
		got := codes(ops)
		assert.Equal(t, first, slices.Index(got, "face") < slices.Index(got, "guide_new"))
	}
}

// TestNoRouteBreaksTheOrderOfTheTrade derives routes from decisions at random, on every sort
// of head and in every school: nothing that has to come first comes later, and nothing is
// there that the head cannot have.
func TestNoRouteBreaksTheOrderOfTheTrade(t *testing.T) {
	rnd := rand.New(rand.NewPCG(4, 2))
	all := trade.Operations()
	for range 500 {
		h := headtest.New(t, 2, "IE")
		k := &h.Model.Kind
		k.Drive, k.Cooling = trade.Drives[rnd.IntN(4)], trade.Coolings[rnd.IntN(2)]
		k.Lifter, k.Ignition = trade.Lifters[rnd.IntN(2)], trade.Ignitions[rnd.IntN(2)]
		h.Settings = map[string]string{
			"school.face":    []string{"last", "first"}[rnd.IntN(2)],
			"school.lapping": []string{"as a test", "always"}[rnd.IntN(2)],
		}
		var ds []route.Decision
		for range rnd.IntN(9) {
			if o := all[rnd.IntN(len(all))]; o != trade.Scrap {
				ds = append(ds, at(o.Code, h.Positions()[rnd.IntN(4)]))
			}
		}
		ops := route.Derive(h.Head, ds)
		for i, a := range ops {
			assert.True(t, a.Exists(*k), "%s on %v", a.Code, *k)
			for _, b := range ops[i+1:] {
				why, must := trade.Precedes(b.Operation, a.Operation)
				assert.False(t, must, "%s after %s: %s", b.Code, a.Code, why)
			}
		}
	}
}

func TestScrapIsTheWholeRoute(t *testing.T) {
	assert.Equal(t, []string{"scrap"}, codes(
		route.Derive(headtest.New(t, 1, "IE").Head, []route.Decision{at("face", ""), at("scrap", "")}),
	))
}

// TestRouteOnlyHoldsWhatTheHeadHas: no pressure test without a water jacket, and one that is
// only inspected is not taken apart.
func TestRouteOnlyHoldsWhatTheHeadHas(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	h.Model.Kind.Cooling = "air"
	assert.NotContains(t, codes(route.Derive(h.Head, []route.Decision{at("seat_insert", "1E1")})), "pressure_test")
	h = headtest.New(t, 1, "IE")
	h.Kind = "rules"
	got := codes(route.Derive(h.Head, nil))
	assert.NotContains(t, got, "assemble")
	assert.NotEmpty(t, got)
}
