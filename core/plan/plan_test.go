package plan_test

import (
	"context"
	"fmt"
	"math/big"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/valvetrain"
)

// worn makes a head of rockers at random: recession, heights, margin and lash of every valve
// read, some of them out, with limits and the figures a plan needs.
func worn(t testing.TB, r *rand.Rand, cylinders int, pattern string) *headtest.Head {
	h := headtest.New(t, cylinders, pattern).Both(
		"valve.recession", "0.40", "1.00",
	).Both("stem.height", "45.80", "46.60").Both("spring.height", "37.40", "38.80").Both("valve.margin", "1.0", "").
		Both("lash", "0.10", "0.45").
		Figure("rocker_ratio", "1.5").Figure("adjuster", "0.60").Figure("tip_most", "0.30").Figure("face_most", "0.30").
		Figure("insert_up", "0.8").Figure("insert_down", "0.4")
	cents := int64(4000)
	for i, kind := range []string{trade.ValvePart.Code, trade.InsertPart.Code} {
		h.Stock = append(h.Stock, head.Stock{ID: uint(50 + i), Kind: kind, Name: kind, Count: 99, Price: &cents})
	}
	for _, role := range []string{"intake", "exhaust"} {
		h.Figure("new_margin/"+role, "1.60").Figure("seat_most/"+role, "0.40").Figure("seat_clean/"+role, "0.05").
			Figure("valve_grind/"+role, "0.10")
	}
	h.Limit("head.thickness/", "98.00", "").Limit("face.line/long", "", "0.05")
	some := func(lo, hi float64) string { return fmt.Sprintf("%.2f", lo+(hi-lo)*r.Float64()) }
	for _, v := range h.Model.Layout.Valves {
		h.Read(
			"valve.recession", v.ID+" "+some(0.5, 1.2),
		).Read("stem.height", v.ID+" "+some(46.0, 46.7)).Read("spring.height", v.ID+" "+some(37.8, 38.9)).
			Read("valve.margin", v.ID+" "+some(0.9, 1.6)).
			Read("lash", v.ID+" "+[]string{"0.02 0.04", "0.20 0.22", "0.30 0.32"}[r.IntN(3)])
		if r.IntN(3) == 0 {
			h.See("seat.condition", v.ID, []string{"light_pits", "heavy_pits"}[r.IntN(2)])
		}
		if r.IntN(4) == 0 {
			h.See("valve.face", v.ID, []string{"heavy_pits", "burnt"}[r.IntN(2)])
		}
	}
	h.All("head.thickness", "98.60")
	if r.IntN(2) == 0 {
		h.All("face.line", "0.06 0.08")
	}
	return h
}

func solve(t testing.TB, h *headtest.Head, ask head.Ask) plan.Plan {
	t.Helper()
	p, err := plan.Solve(context.Background(), h.Head, ask)
	require.NoError(t, err)
	return p
}

// TestEveryPlanIsAsTheStackUpSays works every promised figure out again by the one formula.
func TestEveryPlanIsAsTheStackUpSays(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 26))
	planned := 0
	for range 60 {
		h := worn(t, r, 2, "IE")
		p := solve(t, h, head.Ask{Alternative: plan.Balanced})
		if !p.Feasible {
			assert.NotEmpty(t, p.Blocked, "what cannot be done says why")
			continue
		}
		planned++
		for _, v := range p.Valves {
			at := func(code string) length.Length {
				rs := h.Reads(code, v.ID)
				require.NotEmpty(t, rs, code)
				if x := rs[0].Value; x.Bracket {
					return ((x.Go + x.NoGo) / 2).Length()
				}
				return rs[0].Value.At.Length()
			}
			in := valvetrain.StackInput{
				Drive: "rocker", Ratio: big.NewRat(3, 2), Recession: at("valve.recession"), StemHeight: at("stem.height"),
				SpringHeight: at("spring.height"), Lash: at("lash"), Margin: at("valve.margin"), FaceCut: p.FaceCut,
				SeatCut:   v.SeatCut,
				FaceGrind: v.Grind, TipGrind: v.TipGrind, SpringShim: v.SpringShim, PadCut: v.PadCut,
			}
			if v.Valve == "new" {
				in.NewValve = &valvetrain.NewValve{Margin: 1_600_000}
			}
			want, err := valvetrain.Stack(in)
			require.NoError(t, err)
			for code, w := range map[string]length.Length{
				"valve.recession": want.Recession, "valve.margin": want.Margin, "stem.height": want.StemHeight,
				"spring.height": want.SpringHeight,
			} {
				f := v.Figure(code)
				require.NotNil(t, f, code)
				require.True(t, f.Known, code)
				assert.Equal(t, w, f.After.Length(), "%s at %s: %s", code, v.ID, v.Says)
				l := h.Judging(code, v.ID)
				assert.NotEqual(t, gauge.Out, gauge.Judge(gauge.Exact(f.After), 0, l).Verdict, "%s at %s ends outside: %s", code,
					v.ID, v.Says)
			}
			if v.From != plan.Adjusted {
				assert.Equal(t, want.Lash, v.Figure("lash").After.Length(), "lash at %s", v.ID)
			}
		}
	}
	assert.Greater(t, planned, 20)
}

// TestNoOtherChoiceIsCheaper holds every choice of seat and valve at every position of small
// heads, with every facing cut offered: none that can be done costs less than the plan.
func TestNoOtherChoiceIsCheaper(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 21))
	seats, valves := []string{"keep", "cut", "insert"}, []string{"keep", "grind", "new"}
	tried, met := 0, 0
	for range 12 {
		h := worn(t, r, 1, "IE")
		j := judge.Head(h.Head)
		best, err := plan.Judged(context.Background(), h.Head, j, head.Ask{Alternative: plan.Balanced})
		require.NoError(t, err)
		least := int64(-1)
		cuts := best.Cuts
		if len(cuts) > 3 {
			cuts = []length.Length{cuts[0], best.FaceCut, cuts[len(cuts)-1]}
		}
		for _, c := range cuts {
			for n := range 81 {
				hold := map[string]map[string]string{
					h.Positions()[0]: {"seat": seats[n%3], "valve": valves[n/3%3]},
					h.Positions()[1]: {"seat": seats[n/9%3], "valve": valves[n/27%3]},
				}
				p, err := plan.Judged(context.Background(), h.Head, j,
					head.Ask{Alternative: plan.Balanced, FaceCut: &c, Hold: hold})
				require.NoError(t, err)
				if tried++; !p.Feasible {
					continue
				}
				met++
				if least < 0 || p.Cents < least {
					least = p.Cents
				}
			}
		}
		assert.Equal(t, best.Feasible, least >= 0, "%v", best.Blocked)
		if best.Feasible {
			assert.LessOrEqual(t, best.Cents, least)
		}
	}
	assert.Greater(t, met, tried/100)
}

// TestWhatHasNoLimitBindsNothing: a reading without a limit changes no plan.
func TestWhatHasNoLimitBindsNothing(t *testing.T) {
	h := headtest.New(t, 2, "IE").Both("valve.recession", "0.40", "1.00")
	for _, v := range h.Model.Layout.Valves {
		h.Read("valve.recession", v.ID+" 0.60").Read("spring.height", v.ID+" 12.00").Read("stem.height", v.ID+" 90.00").
			Read("injector.protrusion")
	}
	p := solve(t, h, head.Ask{})
	assert.True(t, p.Feasible, "%v", p.Blocked)
	for _, v := range p.Valves {
		assert.False(t, v.Changes(), v.Says)
	}
	assert.Zero(t, p.FaceCut, "no facing for nothing")
}

// TestAHeldChoiceIsKept and what it would break is said.
func TestAHeldChoiceIsKept(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("valve.recession", "0.40", "1.00").Read("valve.recession", "1I1 0.60", "1E1 1.60").
		Figure("insert_up", "0.8")
	p := solve(t, h, head.Ask{Hold: map[string]map[string]string{"1E1": {"seat": "keep", "valve": "keep"}}})
	require.False(t, p.Feasible)
	require.NotEmpty(t, p.Blocked)
	assert.Equal(t, "1E1", p.Blocked[0].ID)
	free := solve(t, h, head.Ask{})
	require.True(t, free.Feasible, "%v", free.Blocked)
	assert.Equal(t, "insert", free.Valves[1].Seat)
}

// TestACallerThatLeavesStopsIt within the search.
func TestACallerThatLeavesStopsIt(t *testing.T) {
	ctx, leave := context.WithCancel(context.Background())
	leave()
	_, err := plan.Solve(ctx, worn(t, rand.New(rand.NewPCG(1, 1)), 8, "IIEE").Head, head.Ask{})
	assert.ErrorIs(t, err, context.Canceled)
}

// TestPInsideIsAboutWhatIsPromised: a plan in the middle of its limits is surer than one at
// the edge, and none is surer than certain.
func TestPInsideIsAboutWhatIsPromised(t *testing.T) {
	at := func(text string) float64 {
		h := headtest.New(t, 1, "IE").Both("valve.recession", "0.40", "1.00").Read("valve.recession", "1I1 0.70", "1E1 "+text)
		return solve(t, h, head.Ask{}).PAll
	}
	assert.Greater(t, at("0.70"), at("0.999"))
	assert.LessOrEqual(t, at("0.70"), 1.0)
}

// TestAGasketSetsTheLash: where no adjuster goes far enough, the grade that brings the lash right is found,
// as in a set of two.
func TestAGasketSetsTheLash(t *testing.T) {
	tight := func() *headtest.Head {
		h := headtest.New(t, 1, "IE").Both("valve.recession", "0.40", "1.00").All("valve.recession", "0.70").
			Both("lash", "0.20", "0.30").
			All("lash", "0.05 0.06").Figure("rocker_ratio", "1.5").Figure("adjuster", "0").Figure("gasket", "1.30").
			Limit("face.line/long", "", "0.05").All("face.line", "0.06 0.08").Figure("face_most", "0.12")
		cents := int64(5500)
		for i, size := range []length.Length{1_200_000, 1_530_000} {
			h.Stock = append(h.Stock, head.Stock{
				ID: uint(i + 1), Kind: trade.GasketPart.Code, Name: size.MM(), Size: size, Count: 2, Price: &cents,
			})
		}
		return h
	}
	p := solve(t, tight(), head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	assert.Equal(t, "1.53", p.Gasket)
	set, err := plan.Set(t.Context(), []*head.Head{tight().Head, tight().Head}, head.Ask{})
	require.NoError(t, err)
	require.True(t, set.Feasible, set.Why)
	assert.Equal(t, p.Gasket, set.Heads[1].Gasket)
}

// BenchmarkSolve plans heads as they come: 24 valves on pushrods with five grades of gasket,
// 32 and 60 valves.
func BenchmarkSolve(b *testing.B) {
	for _, c := range []struct {
		name      string
		cylinders int
		pattern   string
	}{{"24 valves", 6, "IIEE"}, {"32 valves", 8, "IIEE"}, {"60 valves", 12, "IIIEE"}} {
		b.Run(c.name, func(b *testing.B) {
			h := worn(b, rand.New(rand.NewPCG(7, 7)), c.cylinders, c.pattern)
			cents := int64(6000)
			for i, size := range []string{"1.20", "1.30", "1.40", "1.50", "1.60"} {
				l, _ := length.Parse(size, length.MM)
				h.Stock = append(h.Stock, head.Stock{
					ID: uint(i + 1), Kind: trade.GasketPart.Code, Name: "gasket " + size, Size: l, Count: 1, Price: &cents,
				})
			}
			h.Figure("gasket", "1.40")

			j := judge.Head(h.Head)
			b.ReportAllocs()
			for b.Loop() {
				if _, err := plan.Judged(context.Background(), h.Head, j, head.Ask{Alternative: plan.Balanced}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// BenchmarkSolveAlike plans worn bucket heads of 24 valves whose depths are kept alike, with a box of shims in
// steps of 0.02 mm: what takes longest of one head.
func BenchmarkSolveAlike(b *testing.B) {
	for seed := range uint64(4) {
		b.Run(fmt.Sprint(seed), func(b *testing.B) {
			r := rand.New(rand.NewPCG(seed, 77))
			h := worn(b, r, 6, "IIEE").Both("valve.recession", "0.40", "1.20").Both("stem.height", "45.20", "47.20").
				Both("spring.height", "37.00", "39.60").Figure("shim_step", "0.02")
			h.Model.Kind.Drive = trade.Bucket
			h.All("shim.size", "2.50")
			h.Settings = map[string]string{"school.depths": "all alike"}
			for i := range 60 {
				h.Stock = append(h.Stock, head.Stock{
					ID: uint(100 + i), Kind: trade.LashShimPart.Code, Size: length.Length(2_000_000 + i*20_000), Count: r.IntN(3),
				})
			}
			j := judge.Head(h.Head)
			for b.Loop() {
				if _, err := plan.Judged(context.Background(), h.Head, j, head.Ask{Alternative: plan.Balanced}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// TestAValveChangesByWhatIsDoneToIt: work, a pad, or a lash that is set by another part or the adjuster.
func TestAValveChangesByWhatIsDoneToIt(t *testing.T) {
	for _, from := range []string{plan.Moved, plan.InStock, plan.Order, plan.Adjusted} {
		assert.True(t, plan.Valve{From: from}.Changes(), from)
	}
	assert.False(t, plan.Valve{From: plan.Kept}.Changes())
	assert.False(t, plan.Valve{}.Changes())
	assert.True(t, plan.Valve{PadCut: 1}.Changes())
	assert.True(t, plan.Valve{Repairs: []string{"lap"}}.Changes())
}

// TestPistonsChooseTheGasket: the thinnest grade under which the highest piston may stand out so far, and the
// ratio with it; where none is thick enough that is said.
func TestPistonsChooseTheGasket(t *testing.T) {
	engine := func(protrusion string) *headtest.Head {
		h := headtest.New(t, 2, "IE").Limit("piston.protrusion/", "0.30", "0.90").Figure("bore", "86").Figure("stroke", "90").
			Figure("chamber", "45").
			Figure("gasket_bore", "87").Figure("gasket", "1.20").
			Read("piston.protrusion", "C1.front 0.50", "C1.back 0.54", "C2.front "+protrusion, "C2.back "+protrusion)
		for i, g := range []struct{ size, upTo length.Length }{
			{1_400_000, 0}, {1_200_000, 550_000}, {1_300_000, 650_000}, {1_500_000, 700_000},
		} {
			h.Stock = append(h.Stock, head.Stock{
				ID: uint(i + 1), Kind: trade.GasketPart.Code, Name: "gasket " + g.size.MM(), Size: g.size, UpTo: g.upTo, Count: 1,
			})
		}
		return h
	}
	p := solve(t, engine("0.62"), head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	assert.Equal(t, "gasket 1.3", p.Gasket, "0.62 is over 0.55 and not over 0.65")
	require.NotNil(t, p.Ratio)
	renewed := engine("0.62")
	renewed.Sheet.Renew = []string{"gasket"}
	assert.Contains(t, used(solve(t, renewed, head.Ask{})), length.Length(1_300_000), "it is the one that is bought")
	thin := solve(t, engine("0.40"), head.Ask{})
	assert.Equal(t, "gasket 1.2", thin.Gasket)
	assert.NotEqual(t, p.Ratio.Before, thin.Ratio.Before, "by the gasket and how far the pistons stand out")
	none := solve(t, engine("0.80"), head.Ask{})
	assert.Empty(t, none.Gasket)
	assert.Contains(
		t, none.Missing,
		"a gasket for pistons that stand out by 0.8 mm: the stock list has none for more than 0.7 mm",
	)
}

// TestAGasketBringsThePistonsNearerOrFurther, the face uncut: one that is thinner than the fitted one is not taken
// where a plug or a valve comes too near, and one that is thicker puts a valve right.
func TestAGasketBringsThePistonsNearerOrFurther(t *testing.T) {
	engine := func(protrusion, fitted, plug, valve string) plan.Plan {
		h := headtest.New(t, 1, "IE").Limit("piston.protrusion/", "0.30", "0.90").Figure("gasket", fitted).
			Limit("plug.piston/", "1.00", "").All("plug.piston", plug).
			Both("valve.piston", "1.00", "").All("valve.piston", valve).Both("valve.recession", "0.79", "0.81").
			All("valve.recession", "0.80").
			Read("piston.protrusion", "C1.front "+protrusion, "C1.back "+protrusion)
		for i, g := range []struct{ size, upTo length.Length }{{1_200_000, 550_000}, {1_500_000, 700_000}} {
			h.Stock = append(h.Stock, head.Stock{
				ID: uint(i + 1), Kind: trade.GasketPart.Code, Name: g.size.MM(), Size: g.size, UpTo: g.upTo, Count: 1,
			})
		}
		return solve(t, h, head.Ask{})
	}
	assert.True(t, engine("0.40", "1.40", "1.50", "1.50").Feasible)
	assert.False(t, engine("0.40", "1.40", "1.10", "1.50").Feasible, "a plug 0.9 mm from its piston")
	assert.False(t, engine("0.40", "1.40", "1.50", "1.10").Feasible, "a valve 0.9 mm from it")
	thicker := engine("0.60", "1.20", "1.50", "0.80")
	require.True(t, thicker.Feasible, "%v", thicker.Blocked)
	for _, v := range thicker.Valves {
		is := v.Figure("valve.piston")
		assert.Equal(t, quantity.OfLength(1_100_000), is.After)
		assert.Less(t, is.SD, 5_000.0, "no cut, no doubt of the machine's")
	}
	for _, f := range thicker.Own {
		if f.Code == "plug.piston" {
			assert.Equal(t, quantity.OfLength(1_800_000), f.After)
			assert.True(t, f.Changed)
		}
	}
}

// TestPrechambersAreResetAfterFacing: the face comes nearer to them, and one operation puts all right.
func TestPrechambersAreResetAfterFacing(t *testing.T) {
	h := headtest.New(t, 2, "IE").Limit("prechamber.projection/", "0.00", "0.05").Limit("face.line/long", "", "0.05").
		Figure("face_most", "0.30").
		All("prechamber.projection", "0.03").All("face.line", "0.10 0.12")
	h.Model.Kind.Ignition = "injector"
	p := solve(t, h, head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	require.NotZero(t, p.FaceCut)
	assert.Contains(t, fmt.Sprint(p.Decisions), trade.SetPrechambers.Code)
}

// TestAWornEngineStopsNoPlanOfItsHead: what is out of the bores is told, and left by the lead.
func TestAWornEngineStopsNoPlanOfItsHead(t *testing.T) {
	h := headtest.New(t, 1, "IE").Limit("bore.taper/", "", "0.03").Read("engine.bore", "C1.top.A 86.10",
		"C1.bottom.A 86.00")
	p := solve(t, h, head.Ask{})
	assert.True(t, p.Feasible, "%v", p.Blocked)
	assert.Equal(t, trade.Leave, p.Advised("bore.taper@C1"))
	close := headtest.New(t, 1, "IE").Both("valve.piston", "1.20", "").Read("valve.piston", "1I1 0.90").
		Both("valve.recession", "0.40", "1.00").All("valve.recession", "0.80")
	assert.False(t, solve(t, close, head.Ask{}).Feasible,
		"a valve that comes too near its piston does, where its seat cannot be as deep")
}

// TestNoPlanBringsAValveTooNearItsPiston: it is as far as the valve sits deeper and the gasket is thicker, less what
// is cut off the face.
func TestNoPlanBringsAValveTooNearItsPiston(t *testing.T) {
	faced := func(piston string) plan.Plan {
		h := headtest.New(t, 1, "IE").Both("valve.recession", "0.40", "1.20").Both("valve.piston", "1.00", "").
			Both("stem.height", "45.0", "48.0").
			Both("spring.height", "37.0", "40.0").Figure("seat_most/intake", "0.50").Figure("seat_most/exhaust", "0.50").
			Limit("face.line/long", "", "0.05").Figure("face_most", "0.30").All("face.line", "0.10 0.12").
			All("valve.recession", "0.80").All("stem.height", "46.2").All("spring.height", "38.2").All("valve.piston", piston)
		return solve(t, h, head.Ask{})
	}
	roomy := faced("1.50")
	require.True(t, roomy.Feasible, "%v", roomy.Blocked)
	require.NotZero(t, roomy.FaceCut)
	at := roomy.Valves[0].Figure("valve.piston")
	require.NotNil(t, at)
	assert.Equal(t, quantity.OfLength(1_500_000-roomy.FaceCut), at.After)
	assert.Empty(t, roomy.Valves[0].Size)
	tight := faced("1.05")
	require.True(t, tight.Feasible, "%v", tight.Blocked)
	for _, v := range tight.Valves {
		is, deep := v.Figure("valve.piston"), v.Figure("valve.recession")
		assert.GreaterOrEqual(t, is.After, quantity.OfLength(1_000_000))
		assert.Equal(t, deep.After-deep.Now, is.After-is.Now, "as the valve sits deeper, for the face comes nearer")
		assert.True(t, v.Changes())
	}
	assert.False(t, faced("0.40").Feasible, "no seat is cut as deep, and a new valve of unknown size is no answer")
}

// TestAPlugKeepsItsDistanceToThePiston while the face is cut.
func TestAPlugKeepsItsDistanceToThePiston(t *testing.T) {
	for plug, feasible := range map[string]bool{"2.00": true, "1.05": false} {
		h := headtest.New(t, 1, "IE").Limit("plug.piston/", "1.00", "").Limit("face.line/long", "", "0.05").
			Figure("face_most", "0.30").
			All("face.line", "0.10 0.12").All("plug.piston", plug)
		p := solve(t, h, head.Ask{})
		assert.Equal(t, feasible, p.Feasible && p.FaceCut > 0, "%s: %v", plug, p.Blocked)
	}
}

// used are the sizes of gaskets that a plan uses.
func used(p plan.Plan) (sizes []length.Length) {
	for _, o := range p.Operations {
		for _, u := range o.Parts {
			if u.Kind == trade.GasketPart {
				sizes = append(sizes, u.Size)
			}
		}
	}
	return sizes
}
