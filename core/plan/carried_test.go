package plan_test

import (
	"math"
	"math/big"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/valvetrain"
	"yatai/internal/sample"
)

// scatter of the machines, in nanometres: the settings' usual.
const (
	seatScatter  = 10_000
	otherScatter = 5_000
)

// carriedOut works a plan on a head as it really is and as machines really cut: each reading is off by
// its doubt, each cut by its scatter, the face's common to all valves. It tells whether every figure
// that the sheet limits ends inside.
func carriedOut(t testing.TB, r *rand.Rand, h *headtest.Head, p plan.Plan) bool {
	off := func(sd float64) length.Length { return length.FromFloat(sd * r.NormFloat64()) }
	truth := func(code, at string) length.Length {
		rs := h.Reads(code, at)
		require.NotEmpty(t, rs, code)
		return rs[0].Value.At.Length() + off(float64(rs[0].U)/2)
	}
	inside := true
	holds := func(code, at string, is length.Length) {
		l := h.Judging(code, at)
		if l.Low != nil && is < l.Low.Length() || l.High != nil && is > l.High.Length() {
			inside = false
		}
	}
	cut := p.FaceCut
	if cut > 0 {
		cut += off(otherScatter)
	}
	for _, v := range p.Valves {
		in := valvetrain.StackInput{
			Drive: "rocker", Ratio: big.NewRat(3, 2), Recession: truth("valve.recession", v.ID),
			StemHeight:   truth("stem.height", v.ID),
			SpringHeight: truth("spring.height", v.ID), Margin: truth("valve.margin", v.ID), FaceCut: cut, SeatCut: v.SeatCut,
			FaceGrind: v.Grind,
			TipGrind:  v.TipGrind, SpringShim: v.SpringShim, PadCut: v.PadCut,
		}
		if v.Seat == "cut" || v.Seat == "insert" {
			in.SeatCut += off(seatScatter)
		}
		if v.Valve == "grind" {
			in.FaceGrind += off(otherScatter)
		}
		if v.TipGrind > 0 {
			in.TipGrind += off(otherScatter)
		}
		if v.Valve == "new" {
			in.NewValve = &valvetrain.NewValve{Margin: 1_600_000}
		}
		in.TipGrind, in.FaceGrind, in.FaceCut = max(0, in.TipGrind), max(0, in.FaceGrind), max(0, in.FaceCut)
		is, err := valvetrain.Stack(in)
		require.NoError(t, err)
		holds("valve.recession", v.ID, is.Recession)
		holds("stem.height", v.ID, is.StemHeight)
		holds("spring.height", v.ID, is.SpringHeight)
		holds("valve.margin", v.ID, is.Margin)
	}
	return inside
}

// TestPlansEndInsideAsOftenAsTheySay plans two thousand random heads in every way, carries each plan
// out once by chance, and counts: as many end inside as the plans' own chances add up to. Every plan
// does at each valve what its route has, and costs what its operations cost.
func TestPlansEndInsideAsOftenAsTheySay(t *testing.T) {
	r := rand.New(rand.NewPCG(2000, 26))
	var ways []string
	for _, a := range plan.Alternatives {
		ways = append(ways, a.Code)
	}
	planned, inside, expected, variance := 0, 0, 0.0, 0.0
	bands := make([]band, 5)
	for n := range sample.Times(5, 2000) {
		h := worn(t, r, 2, "IE")
		h.Sheet.Limits = slices.DeleteFunc(h.Sheet.Limits,
			func(l head.Limit) bool { return l.Characteristic == "lash" || l.Characteristic == "head.thickness" })
		h.Sheet = h.Sheet.Indexed()
		for i := range h.Readings { // coarse tools, so that chance has a say
			h.Readings[i].U *= 10
		}
		h.Head = h.Until(head.Stages...)
		p := solve(t, h, head.Ask{Alternative: ways[n%len(ways)]})
		if !p.Feasible {
			continue
		}
		planned++
		var cents int64
		at := map[string][]string{}
		for _, o := range p.Operations {
			cents += o.Cents()
			at[o.Operation.Operation.Code] = o.Positions
		}
		require.Equal(t, cents, p.Cents)
		for _, v := range p.Valves {
			for code, does := range map[string]bool{
				"seat_cut": v.Seat == "cut" || v.Seat == "insert", "seat_insert": v.Seat == "insert",
				"valve_grind": v.Valve == "grind",
				"valve_new":   v.Valve == "new", "tip_grind": v.TipGrind > 0,
			} {
				require.Equal(t, does, slices.Contains(at[code], v.ID), "%s: %s, the route has it at %v", v.Says, code, at[code])
			}
			for _, f := range v.Figures {
				if f.Known && f.Changed && f.Limit != nil {
					require.NotEqual(t, gauge.Out, gauge.Judge(gauge.Exact(f.After), 0, f.Limit.Gauge()).Verdict, v.Says)
				}
			}
		}
		expected += p.PAll
		variance += p.PAll * (1 - p.PAll)
		held := carriedOut(t, r, h, p)
		if held {
			inside++
		}
		bands[min(len(bands)-1, int(p.PAll*float64(len(bands))))].add(p.PAll, held)
	}
	t.Logf("%d planned, %d inside, %.1f expected, give or take %.1f", planned, inside, expected, math.Sqrt(variance))
	require.Greater(t, planned, sample.Times(5, 1000))
	assert.InDelta(t, expected, float64(inside), 4*math.Sqrt(variance))
	for i, b := range bands { // whoever promises half is right half of the time, and not only on the whole
		t.Logf("promised %d to %d of 100: %d heads, %d inside, %.1f expected", i*20, i*20+20, b.heads, b.inside, b.expected)
		assert.InDelta(t, b.expected, float64(b.inside), 4*math.Sqrt(b.variance)+1, "band %d", i)
	}
}

// band counts the plans that promise alike.
type band struct {
	heads, inside      int
	expected, variance float64
}

func (b *band) add(p float64, inside bool) {
	b.heads++
	b.expected += p
	b.variance += p * (1 - p)
	if inside {
		b.inside++
	}
}
