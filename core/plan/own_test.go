package plan_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/after"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/length"
	"yatai/core/route"
	"yatai/core/trade"
)

// capTips raises a stem by a cap of 0.1 to 0.8 mm.
var capTips = trade.OwnRepair{
	Name: "Cap the tips", Works: trade.TipMetal, Station: trade.Assembly, Setup: 5, Each: 4, Least: 100_000, Most: 800_000,
	Moves: []trade.OwnMove{{Of: "lash", Times: -1}, {Of: "stem.height", Times: 1}},
}

// short is a head with a stem that stands too low, and no room to sink its valve.
func short(t *testing.T) *headtest.Head {
	h := headtest.New(t, 1, "IE").Both("valve.recession", "0.40", "1.00").Both("stem.height", "45.80", "46.60").
		Both("lash", "0.10", "0.45").
		Figure("adjuster", "0.60").Figure("tip_most", "0.30").Figure("seat_most/intake", "0.40").
		Figure("seat_most/exhaust", "0.40")
	return h.Read("valve.recession", "1I1 0.98", "1E1 0.60").Read("stem.height", "1I1 45.60", "1E1 46.20").
		Read("lash", "1I1 0.30 0.32", "1E1 0.30 0.32")
}

// TestARepairOfTheShopsOwnIsAChoice: what nothing of the trade answers is planned with a repair that the
// shop has declared, at the size that brings the figure home, with what it brings along; where the trade
// has a cheaper answer that is taken.
func TestARepairOfTheShopsOwnIsAChoice(t *testing.T) {
	h := short(t)
	require.False(t, solve(t, h, head.Ask{}).Feasible, "the trade has no answer")
	own := trade.RepairNamed(capTips.Code())
	h.Sheet.Repairs = []*trade.Repair{own}
	p := solve(t, h, head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	v := p.Valves[0]
	assert.Contains(t, v.Repairs, own.Code)
	assert.NotContains(t, v.Repairs, trade.GrindTip.Code)
	f := v.Figures[after.StemHeight]
	low, high := *f.Limit.Low, *f.Limit.High
	assert.True(t, f.After >= low && f.After <= high, "%v", f.After)
	assert.NotContains(t, p.Valves[1].Repairs, own.Code, "nothing asks for it there")
	var codes []string
	for _, o := range p.Operations {
		codes = append(codes, o.Code)
	}
	assert.Contains(t, codes, own.Code)
	assert.Contains(t, codes, trade.SetLash.Code, "the lash moved")
	assert.Contains(t, v.Says, "Cap the tips")

	var ds []route.Decision
	for _, d := range p.Decisions {
		ds = append(ds, route.Decision{Code: d.Code, Position: d.Position})
	}
	at := map[string]int{}
	for i, o := range route.Derive(h.Head, ds) {
		at[o.Code] = i
		if o.Code == own.Code {
			assert.Equal(t, []string{"1I1"}, o.Positions)
			assert.EqualValues(t, 9, o.Minutes)
		}
	}
	assert.Less(t, at[own.Code], at[trade.FinalWash.Code])
	assert.Less(t, at[own.Code], at[trade.SetLash.Code])

	// the other way round: too high, the trade grinds the tip, and what is declared does not get in its way
	h = short(t).Read("stem.height", "1I1 46.70").Read("valve.recession", "1I1 0.70")
	h.Sheet.Repairs = []*trade.Repair{own}
	p = solve(t, h, head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	assert.Contains(t, p.Valves[0].Repairs, trade.GrindTip.Code)

	// a size that is fixed
	fixed := capTips
	fixed.Name, fixed.Least, fixed.Most = "Cap of one size", 500_000, 500_000
	h = short(t)
	h.Sheet.Repairs = []*trade.Repair{trade.RepairNamed(fixed.Code())}
	p = solve(t, h, head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	assert.EqualValues(t, 46_100_000, p.Valves[0].Figures[after.StemHeight].After)
	assert.Equal(t, 500*length.Micrometre, fixed.Least)
}

// TestAPartOfTheShopsOwnIsPaidFor: what a repair of the shop's own fits is weighed and charged by the stock, and
// told where nobody knows its price.
func TestAPartOfTheShopsOwnIsPaidFor(t *testing.T) {
	with := capTips
	with.Part = "hard cap"
	own := trade.RepairNamed(with.Code())
	bare := short(t)
	bare.Sheet.Repairs = []*trade.Repair{trade.RepairNamed(capTips.Code())}
	without := solve(t, bare, head.Ask{})
	h := short(t)
	h.Sheet.Repairs = []*trade.Repair{own}
	p := solve(t, h, head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	assert.Contains(t, p.Unknown, "hard cap")
	price := int64(740)
	h.Stock = []head.Stock{{ID: 1, Kind: "own: hard cap", Name: "Cap 6 mm", Count: 4, Price: &price}}
	p = solve(t, h, head.Ask{})
	assert.NotContains(t, p.Unknown, "hard cap")
	assert.Equal(t, without.Cents+price, p.Cents, "one cap at one valve")

	dear := int64(90_000) // two repairs that do the same: the one whose part costs less is taken
	h.Sheet.Repairs = append(h.Sheet.Repairs, trade.RepairNamed(capTips.Code()))
	h.Stock[0].Price = &dear
	p = solve(t, h, head.Ask{})
	assert.Contains(t, p.Valves[0].Repairs, capTips.Code())
}

// TestARepairOfTheShopsOwnIsHeld: at any valve that it may be done at, or ruled out.
func TestARepairOfTheShopsOwnIsHeld(t *testing.T) {
	h := short(t)
	own := trade.RepairNamed(capTips.Code())
	h.Sheet.Repairs = []*trade.Repair{own}
	ring := trade.OwnRepair{
		Name: "Ring", Works: trade.SeatMetal, Station: trade.SeatBench, Each: 9, Most: 800_000,
		Moves: []trade.OwnMove{{Of: "valve.recession", Times: -1}},
	}
	h.Sheet.Repairs = append(h.Sheet.Repairs, trade.RepairNamed(ring.Code()))
	assert.Contains(t, h.Holds(), head.Hold{Of: trade.TipMetal, Choices: []string{"keep", "Cap the tips"}})
	assert.Contains(t, h.Holds(), head.Hold{Of: trade.SeatMetal, Choices: []string{"keep", "cut", "insert", "Ring"}})
	hold := func(id, metal, choice string) head.Ask {
		return head.Ask{Hold: map[string]map[string]string{id: {metal: choice}}}
	}
	p := solve(t, h, hold("1E1", "tip", "Cap the tips"))
	require.True(t, p.Feasible, "%v", p.Blocked)
	assert.Contains(t, p.Valves[1].Repairs, own.Code, "nothing asks for it there")
	p = solve(t, h, hold("1E1", "seat", "Ring"))
	require.True(t, p.Feasible, "%v", p.Blocked)
	assert.Contains(t, p.Valves[1].Repairs, ring.Code())
	h.Sheet.Repairs = h.Sheet.Repairs[:1]
	assert.False(t, solve(t, h, hold("1I1", "tip", "keep")).Feasible, "nothing else answers it")
}

// TestEveryMetalMayHaveASizeOfItsOwn: with a repair of the shop's own for each metal that may have one, and
// the trade's, a valve that is out in all of them is planned.
func TestEveryMetalMayHaveASizeOfItsOwn(t *testing.T) {
	h := short(t).Both("spring.height", "37.6", "38.8").Read("spring.height", "1I1 39.2", "1E1 38.2")
	for _, o := range []trade.OwnRepair{
		capTips,
		{
			Name: "Spring cup", Works: trade.SpringMetal, Station: trade.Assembly, Each: 2, Least: 100_000, Most: 900_000,
			Moves: []trade.OwnMove{{Of: "spring.height", Times: -1}},
		},
		{
			Name: "Spacer", Works: trade.OtherMetal, Station: trade.Press, Each: 3, Least: 10_000, Most: 100_000,
			Moves: []trade.OwnMove{{Of: "valve.recession", Times: -1}},
		},
		{
			Name: "Ring", Works: trade.SeatMetal, Station: trade.SeatBench, Each: 9, Least: 20_000, Most: 200_000,
			Moves: []trade.OwnMove{{Of: "valve.recession", Times: -1}},
		},
	} {
		h.Sheet.Repairs = append(h.Sheet.Repairs, trade.RepairNamed(o.Code()))
	}
	require.LessOrEqual(t, len(h.Sheet.Repairs), len(trade.OwnMetals))
	p := solve(t, h, head.Ask{})
	require.True(t, p.Feasible, "%v", p.Blocked)
	for _, f := range p.Valves[0].Figures {
		assert.True(t, f.Fits, f.Code)
	}
}
