package plan_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/internal/sample"
)

// TestAPairIsFacedAlikeAtTheLeastCost plans random pairs together and compares with every cut
// that both can take, held fast on each alone: none is cheaper for both. Two faces that nobody read
// are not faced to bring valves right.
func TestAPairIsFacedAlikeAtTheLeastCost(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 26))
	planned := 0
	for range sample.Times(4, 25) {
		a, b := worn(t, r, 2, "IE"), worn(t, r, 2, "IE")
		p, err := plan.Set(context.Background(), []*head.Head{a.Head, b.Head}, head.Ask{})
		require.NoError(t, err)
		if !p.Feasible {
			continue
		}
		planned++
		require.Equal(t, p.Heads[0].FaceCut, p.Heads[1].FaceCut, "faced alike")
		for i, h := range []*headtest.Head{a, b} {
			for _, v := range p.Heads[i].Valves {
				for _, f := range v.Figures {
					if f.Known && f.Limit != nil && f.Changed {
						assert.NotEqual(t, gauge.Out, gauge.Judge(gauge.Exact(f.After), 0, f.Limit.Gauge()).Verdict, "%s %s", h.Tag,
							v.Says)
					}
				}
			}
		}
		least, most := int64(1<<60), length.Length(0)
		if a.Head.Read(trade.FaceLine.Code) || b.Head.Read(trade.FaceLine.Code) {
			most = 300 * length.Micrometre
		}
		for cut := length.Length(0); cut <= most; cut += 10 * length.Micrometre {
			one := solve(t, a, head.Ask{FaceCut: &cut})
			if !one.Feasible {
				continue
			}
			if other := solve(t, b, head.Ask{FaceCut: &cut}); other.Feasible {
				least = min(least, one.Cents+other.Cents)
			}
		}
		assert.LessOrEqual(t, p.Cents(), least, "no cut is cheaper for both")
	}
	assert.Greater(t, planned, sample.Times(4, 5)-1)
}

// TestAShimGoesToOneHeadOfAPair: two bucket heads want the only shim of a size in the box.
func TestAShimGoesToOneHeadOfAPair(t *testing.T) {
	bucket := func(tag string) *headtest.Head {
		h := headtest.New(t, 2, "IE")
		h.Tag, h.Model.Kind.Drive = tag, trade.Bucket
		h.Both("lash", "0.20", "0.24").Read("lash", "1I1 0.27 0.29", "1E1 0.21 0.23", "2I1 0.21 0.23", "2E1 0.21 0.23").
			Read("shim.size", "1I1 2.50", "1E1 2.50", "2I1 2.50", "2E1 2.50")
		cents := int64(300)
		h.Stock = []head.Stock{{ID: 1, Kind: trade.LashShimPart.Code, Size: 2_560_000, Count: 1, Price: &cents}}
		return h
	}
	a, b := bucket("A"), bucket("B")
	for _, h := range []*headtest.Head{a, b} {
		require.True(t, solve(t, h, head.Ask{}).Feasible, "each alone takes it")
	}
	p, err := plan.Set(context.Background(), []*head.Head{a.Head, b.Head}, head.Ask{})
	require.NoError(t, err)
	took := 0
	for _, one := range p.Heads {
		for _, v := range one.Valves {
			if v.From == plan.InStock {
				took++
			}
		}
	}
	assert.LessOrEqual(t, took, 1, "the box holds one")
}

func BenchmarkSet(b *testing.B) {
	r := rand.New(rand.NewPCG(8, 8))
	one, other := worn(b, r, 4, "IIEE"), worn(b, r, 4, "IIEE")
	for _, h := range []*headtest.Head{one, other} {
		h.Model.Kind.Drive = trade.Bucket
		h.All("shim.size", "2.50")
		cents := int64(300)
		for i := range 300 {
			h.Stock = append(h.Stock, head.Stock{
				ID: uint(100 + i), Kind: trade.LashShimPart.Code, Size: length.Length(2_000_000 + i*4_000), Count: 2, Price: &cents,
			})
		}
	}
	for b.Loop() {
		if _, err := plan.Set(context.Background(), []*head.Head{one.Head, other.Head}, head.Ask{}); err != nil {
			b.Fatal(err)
		}
	}
}

// oneRow makes a worn head of which only the intakes were read, whose work costs nothing to set up.
func oneRow(t testing.TB, r *rand.Rand, tag string) *headtest.Head {
	h := worn(t, r, 2, "IE").Figure("face_most", "0.12")
	h.Tag, h.Settings = tag, map[string]string{}
	h.Sheet.Limits = slices.DeleteFunc(h.Sheet.Limits, func(l head.Limit) bool { return l.Role == string(layout.Exhaust) })
	h.Sheet = h.Sheet.Indexed()
	h.Readings = slices.DeleteFunc(h.Readings,
		func(r head.Reading) bool { return strings.HasSuffix(r.Spot.Position, "E1") })
	h.Findings = slices.DeleteFunc(h.Findings, func(f head.Finding) bool { return strings.HasSuffix(f.Position, "E1") })
	h.Head = h.Until(head.Stages...)
	for _, o := range trade.Operations() {
		h.Settings[trade.MinutesOf+o.Code] = fmt.Sprintf("0+%d", o.Each)
	}
	return h
}

// TestASetIsSeatedAlikeAtTheLeastCost plans random pairs in the school that seats all alike, and
// compares with every cut and every place of the depths held fast on each head alone.
func TestASetIsSeatedAlikeAtTheLeastCost(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 26))
	planned := 0
	for n := range sample.Times(3, 6) {
		a, b := oneRow(t, r, "A"), oneRow(t, r, "B")
		a.Settings["school.depths"], b.Settings["school.depths"] = "all alike", "all alike"
		p, err := plan.Set(context.Background(), []*head.Head{a.Head, b.Head}, head.Ask{})
		require.NoError(t, err)
		a.Settings["school.depths"], b.Settings["school.depths"] = "", ""
		least := int64(1 << 60)
		for cut := length.Length(0); cut <= 120*length.Micrometre; cut += 10 * length.Micrometre {
			for low := 400 * length.Micrometre; low <= 950*length.Micrometre; low += 10 * length.Micrometre {
				var sum int64
				for _, h := range []*headtest.Head{a, b} {
					within := *h.Head
					within.Sheet.Limits = slices.Clone(h.Sheet.Limits)
					within.Sheet = within.Sheet.Indexed()
					lim := &within.Sheet.Limits[slices.IndexFunc(within.Sheet.Limits,
						func(l head.Limit) bool { return l.Characteristic == trade.Recession.Code })]
					at, to := low, low+50*length.Micrometre
					lim.Low, lim.High = quantity.MaybeLength(&at), quantity.MaybeLength(&to)
					one, err := plan.Solve(context.Background(), &within, head.Ask{FaceCut: &cut})
					require.NoError(t, err)
					if !one.Feasible {
						sum = 1 << 60
						break
					}
					sum += one.Cents
				}
				least = min(least, sum)
			}
		}
		require.Equal(t, least < 1<<60, p.Feasible, "pair %d: %s", n, p.Why)
		if !p.Feasible {
			continue
		}
		planned++
		apart, ok := p.Apart(layout.Intake)
		require.True(t, ok)
		assert.LessOrEqual(t, apart, 50*length.Micrometre)
		assert.Equal(t, least, p.Cents(), "pair %d: no cut and no depths are cheaper", n)
	}
	assert.Greater(t, planned, sample.Times(9, 3)-1)
}

// TestHeadsOfASetKeepTheirOwnSpread: the sheet's spread of a row is one of a head, not of the set.
func TestHeadsOfASetKeepTheirOwnSpread(t *testing.T) {
	var set []*head.Head
	for _, depth := range []string{"0.50", "0.62", "0.90"} {
		h := headtest.New(t, 1, "IE").Both("valve.recession", "0.40", "1.00").Both("recession.spread", "", "0.05").
			All("valve.recession", depth)
		h.Tag = depth
		set = append(set, h.Head)
	}
	p, err := plan.Set(context.Background(), set, head.Ask{})
	require.NoError(t, err)
	require.True(t, p.Feasible, p.Why)
	for _, one := range p.Heads {
		for _, v := range one.Valves {
			assert.False(t, v.Changes(), "each is sound as it is: %s", v.Says)
		}
	}
	apart, _ := p.Apart(layout.Exhaust)
	assert.Equal(t, 400*length.Micrometre, apart)
	assert.Panics(t, func() { _, _ = plan.Set(context.Background(), set[:1], head.Ask{}) })
}

func BenchmarkSetOfSix(b *testing.B) {
	r := rand.New(rand.NewPCG(9, 9))
	var alone, alike []*head.Head
	for range 6 {
		h := worn(b, r, 1, "IIEE").Head
		alone = append(alone, h)
		same := *h
		same.Settings = map[string]string{"school.depths": "all alike"}
		alike = append(alike, &same)
	}
	for name, set := range map[string][]*head.Head{"alone": alone, "alike": alike} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if _, err := plan.Set(context.Background(), set, head.Ask{}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
