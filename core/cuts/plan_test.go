package cuts_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/cuts"
	"yatai/core/length"
	"yatai/core/valvetrain"
)

const mm = length.Millimetre

func ptr(l length.Length) *length.Length { return &l }

// head makes a random head of n valves on a grid of g; readings are multiples of fine.
func head(r *rand.Rand, n int, g, fine length.Length, spread bool) cuts.Input {
	some := func(lo, hi length.Length) length.Length {
		return lo + fine*length.Length(r.Int64N(int64((hi-lo)/fine)+1))
	}
	role := func() *cuts.Role {
		return &cuts.Role{
			Recession:    cuts.Range{Low: 4 * mm / 10, High: some(7*mm/10, mm)},
			StemHeight:   cuts.Range{Low: 455 * mm / 10, High: some(462*mm/10, 464*mm/10)},
			SpringHeight: cuts.Range{Low: 373 * mm / 10, High: some(383*mm/10, 385*mm/10)}, MarginMin: some(9*mm/10, 12*mm/10),
			NewValve: &valvetrain.NewValve{
				Margin: some(16*mm/10, 2*mm), LengthChange: -some(0, 3*mm/10), GrooveChange: -some(0, 2*mm/10),
			},
		}
	}
	in := cuts.Input{
		Grid: g, Face: cuts.Face{
			CutMin: g * length.Length(r.IntN(2)), Thickness: 92 * mm, ThicknessMin: 92*mm - g*length.Length(r.IntN(5)),
		},
		Roles: cuts.Roles{Intake: role(), Exhaust: role()}, TipGrindMax: some(0, 3*mm/10),
		SpringShims: []length.Length{3 * mm / 10, 5 * mm / 10},
		Insert:      cuts.Insert{Up: some(5*mm/10, mm), Down: some(0, 3*mm/10)},
		Costs: cuts.Costs{
			Face: 9000, SeatCut: 1200, Insert: 6500, ValveGrind: 900, NewValve: cuts.ValveCost{Intake: 2800, Exhaust: 4100},
			TipGrind:   400,
			SpringShim: 250,
		},
	}
	in.Face.CutMax = in.Face.CutMin + g*length.Length(r.IntN(4))
	if spread {
		in.Spread = ptr(g * length.Length(r.IntN(4)))
	}
	for i := range n {
		v := cuts.Position{
			ID: fmt.Sprintf("%dV", i+1), Role: []string{"intake", "exhaust"}[i%2], Recession: some(5*mm/10, 14*mm/10),
			StemHeight:   some(458*mm/10, 468*mm/10),
			SpringHeight: some(378*mm/10, 388*mm/10), Margin: some(9*mm/10, 18*mm/10),
			Seat:  cuts.Seat{AsIs: r.IntN(2) == 0, Insert: r.IntN(3) > 0},
			Valve: cuts.Valve{AsIs: r.IntN(2) == 0, Replace: r.IntN(3) > 0},
		}
		if r.IntN(3) > 0 {
			lo := some(0, mm/10)
			v.Seat.CutMin, v.Seat.CutMax = ptr(lo), ptr(lo+some(0, 2*mm/10))
		}
		if r.IntN(2) == 0 {
			v.Valve.Grind = ptr(some(0, mm/10))
		}
		in.Valves = append(in.Valves, v)
	}
	return in
}

// after computes a valve's heights after a set of actions by the stack-up.
func after(t testing.TB, in cuts.Input, v cuts.Position, d cuts.Done, c length.Length) valvetrain.StackOutput {
	s := valvetrain.StackInput{
		Drive: "bucket", Recession: v.Recession, StemHeight: v.StemHeight, SpringHeight: v.SpringHeight, Margin: v.Margin,
		FaceCut: c, SeatCut: d.SeatCut, TipGrind: d.TipGrind, SpringShim: d.SpringShim,
	}
	role := in.Roles.Intake
	if v.Role == "exhaust" {
		role = in.Roles.Exhaust
	}
	switch d.Valve {
	case "grind":
		s.FaceGrind = *v.Valve.Grind
	case "new":
		s.NewValve = role.NewValve
	}
	out, err := valvetrain.Stack(s)
	require.NoError(t, err)
	return out
}

func role(in cuts.Input, v cuts.Position) *cuts.Role {
	if v.Role == "intake" {
		return in.Roles.Intake
	}
	return in.Roles.Exhaust
}

func inside(l length.Length, r cuts.Range) bool { return l >= r.Low && l <= r.High }

// fits tells whether a treated valve is inside all its limits.
func fits(o valvetrain.StackOutput, r *cuts.Role) bool {
	return inside(o.Recession, r.Recession) && inside(o.StemHeight, r.StemHeight) &&
		inside(o.SpringHeight, r.SpringHeight) && o.Margin >= r.MarginMin
}

// TestPlanKeepsEveryLimit recomputes each plan by the stack-up.
func TestPlanKeepsEveryLimit(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	feasible := 0
	for i := range 400 {
		in := head(r, 1+r.IntN(12), mm/100, []length.Length{mm / 100, mm / 1000}[i%2], i%3 > 0)
		out, err := cuts.Solve(in)
		require.NoError(t, err)
		if !out.Feasible {
			require.NotEmpty(t, out.Blocked, "why")
			require.NotEmpty(t, out.Blocked[0].Why)
			continue
		}
		feasible++
		ends := map[string][]length.Length{}
		var cost int64
		var metal length.Length
		if out.FaceCut > 0 {
			cost = in.Costs.Face
		}
		require.GreaterOrEqual(t, in.Face.Thickness-out.FaceCut, in.Face.ThicknessMin)
		for k, d := range out.Valves {
			v := in.Valves[k]
			o := after(t, in, v, d, out.FaceCut)
			require.True(t, fits(o, role(in, v)), "%+v", d)
			require.Equal(t, []length.Length{o.Recession, o.StemHeight, o.SpringHeight, o.Margin},
				[]length.Length{d.Recession, d.StemHeight, d.SpringHeight, d.Margin})
			require.Zero(t, d.SeatCut%in.Grid)
			require.LessOrEqual(t, d.TipGrind, in.TipGrindMax)
			ends[v.Role] = append(ends[v.Role], o.Recession)
			cost += price(in, v, d)
			metal += d.TipGrind
			if d.Seat == "cut" {
				metal += d.SeatCut
			}
		}
		require.Equal(t, cost, out.Cost)
		require.Equal(t, metal, out.Metal)
		if in.Spread != nil {
			for _, e := range ends {
				lo, hi := e[0], e[0]
				for _, l := range e {
					lo, hi = min(lo, l), max(hi, l)
				}
				require.LessOrEqual(t, hi-lo, *in.Spread)
			}
		}
	}
	assert.Greater(t, feasible, 40)
}

func price(in cuts.Input, v cuts.Position, d cuts.Done) int64 {
	c := map[string]int64{"cut": in.Costs.SeatCut, "insert": in.Costs.Insert, "grind": in.Costs.ValveGrind}
	sum := c[d.Seat] + c[d.Valve]
	if d.Valve == "new" {
		sum += map[string]int64{"intake": in.Costs.NewValve.Intake, "exhaust": in.Costs.NewValve.Exhaust}[v.Role]
	}
	if d.TipGrind > 0 {
		sum += in.Costs.TipGrind
	}
	if d.SpringShim > 0 {
		sum += in.Costs.SpringShim
	}
	return sum
}

// ways lists every treatment of a valve that keeps its limits at face cut c, slowly.
func ways(t testing.TB, in cuts.Input, v cuts.Position, c length.Length) (out []cuts.Done) {
	type span struct {
		name   string
		lo, hi length.Length
	}
	var seats []span
	if v.Seat.AsIs {
		seats = append(seats, span{"keep", 0, 0})
	}
	if v.Seat.CutMin != nil {
		seats = append(seats, span{"cut", *v.Seat.CutMin, *v.Seat.CutMax})
	}
	if v.Seat.Insert {
		seats = append(seats, span{"insert", -in.Insert.Up, in.Insert.Down})
	}
	var valves []string
	if v.Valve.AsIs {
		valves = append(valves, "keep")
	}
	if v.Valve.Grind != nil {
		valves = append(valves, "grind")
	}
	if v.Valve.Replace {
		valves = append(valves, "new")
	}
	for _, s := range seats {
		for cut := -5 * mm / in.Grid * in.Grid; cut <= s.hi; cut += in.Grid {
			if cut < s.lo {
				continue
			}
			for _, w := range valves {
				for tip := length.Length(0); tip <= in.TipGrindMax; tip += in.Grid {
					for _, shim := range append([]length.Length{0}, in.SpringShims...) {
						d := cuts.Done{Seat: s.name, SeatCut: cut, Valve: w, TipGrind: tip, SpringShim: shim}
						if o := after(t, in, v, d, c); fits(o, role(in, v)) {
							d.Recession = o.Recession
							out = append(out, d)
						}
					}
				}
			}
		}
	}
	return out
}

// TestPlanEqualsBruteForce compares small heads on a coarse grid with every combination.
func TestPlanEqualsBruteForce(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	feasible := 0
	for i := range 150 {
		in := head(r, 1+r.IntN(3), mm/20, mm/50, i%2 == 0)
		in.SpringShims = in.SpringShims[:1]
		got, err := cuts.Solve(in)
		require.NoError(t, err)
		best := [3]int64{math.MaxInt64}
		for c := in.Face.CutMin; c <= in.Face.CutMax && in.Face.Thickness-c >= in.Face.ThicknessMin; c += in.Grid {
			start := [3]int64{0, int64(c), 0}
			if c > 0 {
				start[0] = in.Costs.Face
			}
			brute(t, in, c, 0, start, map[string][2]length.Length{}, &best)
		}
		require.Equal(t, best[0] != math.MaxInt64, got.Feasible, "head %d", i)
		if got.Feasible {
			feasible++
			require.Equal(t, best, [3]int64{got.Cost, int64(got.FaceCut), int64(got.Metal)}, "head %d", i)
		}
	}
	assert.Greater(t, feasible, 20)
}

func brute(
	t testing.TB, in cuts.Input, c length.Length, k int, sum [3]int64, seen map[string][2]length.Length,
	best *[3]int64,
) {
	if sum[0] > best[0] {
		return
	}
	if k == len(in.Valves) {
		if sum[0] < best[0] || sum[0] == best[0] && (sum[1] < best[1] || sum[1] == best[1] && sum[2] < best[2]) {
			*best = sum
		}
		return
	}
	v := in.Valves[k]
	tried := map[[3]int64]bool{}
	for _, d := range ways(t, in, v, c) {
		m := d.TipGrind
		if d.Seat == "cut" {
			m += d.SeatCut
		}
		key := [3]int64{price(in, v, d), int64(m), int64(d.Recession)}
		if tried[key] {
			continue
		}
		tried[key] = true
		old, had := seen[v.Role]
		now := [2]length.Length{d.Recession, d.Recession}
		if had {
			now = [2]length.Length{min(old[0], d.Recession), max(old[1], d.Recession)}
		}
		if in.Spread != nil && now[1]-now[0] > *in.Spread {
			continue
		}
		seen[v.Role] = now
		brute(t, in, c, k+1, [3]int64{sum[0] + key[0], sum[1], sum[2] + key[1]}, seen, best)
		if had {
			seen[v.Role] = old
		} else {
			delete(seen, v.Role)
		}
	}
}

func BenchmarkPlan64Valves(b *testing.B) {
	r := rand.New(rand.NewPCG(5, 6))
	in := head(r, 64, mm/100, mm/1000, true)
	in.Face.CutMin, in.Face.CutMax, in.Face.ThicknessMin = 0, 39*mm/100, 90*mm
	in.Spread = ptr(mm / 10)
	for _, r := range []*cuts.Role{in.Roles.Intake, in.Roles.Exhaust} {
		r.NewValve.LengthChange = -mm / 2
	}
	in.Insert, in.TipGrindMax = cuts.Insert{Up: 16 * mm / 10, Down: 3 * mm / 10}, 4*mm/10
	for i := range in.Valves { // a head that can be mended
		v := &in.Valves[i]
		v.Seat.Insert, v.Valve.Replace, v.Seat.AsIs, v.Valve.AsIs = true, true, true, true
		v.Margin, v.Recession = max(v.Margin, 13*mm/10), min(v.Recession, 11*mm/10)
		v.StemHeight, v.SpringHeight = min(v.StemHeight, 463*mm/10), min(v.SpringHeight, 384*mm/10)
		v.Seat.CutMin, v.Seat.CutMax = ptr(mm/100), ptr(mm/4)
	}
	for b.Loop() {
		if out, err := cuts.Solve(in); err != nil || !out.Feasible {
			b.Fatal(err, out.Blocked)
		}
	}
}
