package plan

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/price"
)

// troubled is a small head of a drive with troubles by chance, and a price for every part.
func troubled(t *testing.T, r *rand.Rand, drive string) *headtest.Head {
	h := headtest.New(t, 2, "IE").Both("valve.recession", "0.5", "1.0").Both("stem.height", "45.9", "46.6").
		Both("lash", "0.15", "0.40").
		Both("guide.clearance", "0.04", "0.095").Figure("new_margin/intake", "1.6").Figure("new_margin/exhaust", "1.6").
		Figure("tip_most", "0.3").
		Figure("adjuster", "0.5")
	h.Model.Kind.Drive = drive
	for _, id := range h.Positions() {
		h.Read("valve.recession", id+" "+[]string{"0.70", "0.95", "1.2"}[r.IntN(3)]).Read("stem.height",
			id+" "+[]string{"46.2", "46.7"}[r.IntN(2)])
		h.Read("lash", id+" "+[]string{"0.20 0.21", "0.05 0.06", "0.50 0.51"}[r.IntN(3)]).Read("valve.margin", id+" 1.5")
		if r.IntN(3) == 0 {
			h.See("seat.condition", id, []string{"gaps", "heavy_pits"}[r.IntN(2)])
		}
		if r.IntN(4) == 0 {
			h.See("valve.face", id, []string{"burnt", "heavy_pits"}[r.IntN(2)])
		}
		if drive == "bucket" {
			h.Read("shim.size", id+" 2.60")
		}
	}
	price := func(n int64) *int64 { return &n }
	h.Stock = []head.Stock{
		{ID: 1, Kind: "valve", Count: 9, Price: price(2400)}, {ID: 2, Kind: "insert", Count: 9, Price: price(1900)},
		{ID: 3, Kind: "guide", Count: 9, Price: price(1400)}, {ID: 4, Kind: "seal", Count: 9, Price: price(100)},
	}
	for i := range 12 {
		h.Stock = append(h.Stock, head.Stock{
			ID: uint(10 + i), Kind: "lash shim", Size: 50_000*46 + 50_000*length.Length(i), Count: 2, Price: price(320),
		})
	}
	return h
}

// TestWhatIsWeighedIsWhatIsPaid: a plan's price by its search, with what every head gets, is the price of
// its route: nothing is counted twice or forgotten, whatever the drive.
func TestWhatIsWeighedIsWhatIsPaid(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 5))
	tried := 0
	for n := range 120 {
		h := troubled(t, r, []string{"rocker", "overhead rocker", "bucket"}[n%3])
		j := judge.Head(h.Head)
		p := pose(h.Head, j, head.Ask{Alternative: Balanced})
		best, ok, err := p.find(t.Context())
		require.NoError(t, err)
		if !ok || best.score.cents >= needless {
			continue
		}
		tried++
		var out, bare Plan
		p.conclude(&out, best, true)
		require.True(t, out.Feasible, "%v", out.Blocked)
		p.priced(&bare) // what every head gets
		assert.InDelta(t, out.Cents-bare.Cents, best.score.cents, 4, "%s, %v", h.Model.Kind.Drive, out.Decisions)
	}
	assert.Greater(t, tried, 40)
}

// TestBothEndsOfAClearanceBind: a new valve is no answer where the guide's narrow end is too tight for it,
// and how sure that end is counts.
func TestBothEndsOfAClearanceBind(t *testing.T) {
	made := func(narrow string) *headtest.Head {
		h := headtest.New(t, 1, "IE").Both("guide.clearance", "0.04", "0.095").Figure("new_stem/exhaust", "7.97").
			Figure("new_margin/exhaust", "1.6").
			Read("valve.margin", "1E1 1.5").See("valve.face", "1E1", "burnt")
		for _, p := range []string{"top", "middle", "bottom"} {
			h.Read("guide.bore", "1E1."+p+".A 8.06").Read("stem.dia", "1E1."+p+" 7.95")
		}
		return h.Read("guide.bore", "1E1.bottom.A "+narrow)
	}
	solve := func(h *headtest.Head) Plan {
		p, err := Solve(t.Context(), h.Head, head.Ask{})
		require.NoError(t, err)
		require.True(t, p.Feasible, "%v", p.Blocked)
		return p
	}
	assert.Equal(t, "keep", solve(made("8.02")).Valves[1].Guide, "0.05 at its narrowest")
	assert.NotEqual(t, "keep", solve(made("8.00")).Valves[1].Guide, "0.03 is too tight")
	edge := solve(made("8.0101"))
	assert.Equal(t, "keep", edge.Valves[1].Guide)
	assert.InDelta(t, 0.5, edge.PAll, 0.1, "a coin decides whether it is 0.04")
}

// TestWhatWorkMakesIsNotUnread: the width of a seat that is cut is made and read, whether it was read
// before or not; that of one that is left is not known.
func TestWhatWorkMakesIsNotUnread(t *testing.T) {
	h := headtest.New(t, 1, "IE").Both("seat.width", "1.2", "2.2").See("seat.condition", "1E1", "heavy_pits")
	p, err := Solve(t.Context(), h.Head, head.Ask{})
	require.NoError(t, err)
	require.True(t, p.Feasible)
	assert.Equal(t, []string{"seat.width@1I1"}, p.Unread)
	assert.True(t, slices.ContainsFunc(judge.Head(h.Head).Findings(),
		func(f judge.Feature) bool { return f.Verdict >= gauge.Out }))
}

// TestEachHoleHasItsOwnWasher: facing pushes one injector out of its range; that hole gets a washer by its
// thickness, the other none, and both end inside.
func TestEachHoleHasItsOwnWasher(t *testing.T) {
	h := headtest.New(t, 2, "IE").Limit("injector.protrusion/", "1.0", "1.6").Limit("face.line/long", "", "0.08").
		Figure("injector_washer", "1.0").
		Figure("face_most", "0.5")
	h.Model.Kind.Ignition = "injector"
	h.Read("injector.protrusion", "C1 1.55", "C2 1.20").Read("face.line", "L1 0.19 0.20", "L2 0.02 0.03", "L3 0.02 0.03")
	p, err := Solve(t.Context(), h.Head, head.Ask{})
	require.NoError(t, err)
	require.True(t, p.Feasible, "%v", p.Blocked)
	i := slices.IndexFunc(p.Operations, func(o price.Priced) bool { return o.Code == "injector_shim" })
	require.GreaterOrEqual(t, i, 0)
	require.Len(t, p.Operations[i].Parts, 1, "one thickness")
	assert.Equal(t, 1500*length.Micrometre, p.Operations[i].Parts[0].Size)
	assert.Equal(t, 1, p.Operations[i].Parts[0].Count, "one hole")
	for _, f := range p.Own {
		if f.Code == "injector.protrusion" {
			assert.Equal(t, gauge.Sound, gauge.Judge(gauge.Exact(f.After), 0, f.Limit.Gauge()).Verdict, f.Position)
		}
	}
}

// TestTwoHolesAreTwoInserts charges a thread insert for each hole that it was decided for.
func TestTwoHolesAreTwoInserts(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	for i := range 2 {
		h.Findings = append(h.Findings, head.Finding{
			ID: uint(i + 1), Part: "mark", Grade: "thread", Stage: head.AsReceived, X: length.Length(i+1) * length.Millimetre,
			Y: length.Millimetre,
		})
	}
	for _, f := range judge.Head(h.Head).Findings() {
		h.Decide(f.Key(), "thread_insert")
	}
	p, err := Solve(t.Context(), h.Head, head.Ask{})
	require.NoError(t, err)
	i := slices.IndexFunc(p.Operations, func(o price.Priced) bool { return o.Code == "thread_insert" })
	require.GreaterOrEqual(t, i, 0, "%v", p.Choices)
	assert.Equal(t, 2, p.Operations[i].Parts[0].Count)
}
