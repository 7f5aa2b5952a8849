package plan

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// TestWhatIsDoneAtAValveIsSaidInASentence: each thing for itself, with its size in the sheet's unit.
func TestWhatIsDoneAtAValveIsSaidInASentence(t *testing.T) {
	p := posedOf(headtest.New(t, 1, "IE"))
	bore, size := length.Length(8_012_000), length.Length(2_500_000)
	for _, c := range []struct {
		v    Valve
		says string
	}{
		{Valve{}, "kept as it is"},
		{Valve{Guide: "new", Bore: &bore}, "new guide bored 8.012 mm"},
		{Valve{Guide: "new"}, "new guide"},
		{Valve{Guide: "liner"}, "guide liner bored to size"},
		{Valve{Guide: "hone", Bore: &bore}, "guide honed to 8.012 mm"},
		{Valve{Guide: "ream", Bore: &bore}, "guide reamed to 8.012 mm"},
		{Valve{Seat: "insert", SeatCut: -100 * um}, "new insert 0.1 mm up"},
		{Valve{Seat: "insert", SeatCut: 100 * um}, "new insert 0.1 mm down"},
		{Valve{Seat: "insert"}, "new insert 0 mm down"},
		{Valve{Seat: "cut", SeatCut: 50 * um}, "seat cut 0.05 mm"},
		{Valve{Lap: true, Valve: "grind"}, "lap, reface"},
		{Valve{Valve: "new", TipGrind: 20 * um}, "new valve, tip ground 0.02 mm"},
		{Valve{PadCut: 30 * um, SpringShim: 500 * um}, "pad cut 0.03 mm, spring shim 0.5 mm"},
		{Valve{Size: &size, From: Order}, "pushrod 2.5 mm (order)"},
		{Valve{Size: &size, From: InStock}, "pushrod 2.5 mm (stock)"},
		{Valve{Size: &size, From: Moved}, "pushrod 2.5 mm (moved)"},
		{Valve{Size: &size, From: Kept}, "kept as it is"},
		{Valve{From: Adjusted}, "lash by the adjuster"},
	} {
		c.v.ID = "1E1"
		assert.Equal(t, "1E1: "+c.says, p.sentence(c.v))
	}
	p.h.Model.Kind.Drive = trade.Bucket
	assert.Equal(t, "1E1: lash shim 2.5 mm (stock)", p.sentence(Valve{ID: "1E1", Size: &size, From: InStock}))
}

// TestTheNearestLimitIsSaid: the figure that is fewest standard deviations from its limit, of those that change and
// are known.
func TestTheNearestLimitIsSaid(t *testing.T) {
	p := posedOf(headtest.New(t, 1, "IE"))
	high := quantity.OfLength(1000 * um)
	at := func(label string, after length.Length, sd float64, changed bool) Figure {
		return Figure{
			Label: label, After: quantity.OfLength(after), SD: sd, Known: true, Changed: changed, P: 0.987,
			Limit: &head.Limit{High: &high},
		}
	}
	v := Valve{ID: "1E1", Lap: true, Figures: []Figure{
		at("Recession", 900*um, 10_000, true), at("Height", 950*um, 1_000, true), at("Margin", 960*um, 10_000, true),
		at("Lash", 999*um, 10_000, false), {Label: "Load", Known: true, Changed: true},
	}}
	assert.Equal(t, "1E1: lap; margin 0.040 mm to its limit, 98 of 100", p.sentence(v), "4 of its doubts; the height has 50")
	v.Figures = v.Figures[:2]
	assert.Equal(t, "1E1: lap; recession 0.100 mm to its limit, 98 of 100", p.sentence(v))
	v.Figures = v.Figures[1:]
	v.Figures[0].Known = false
	assert.Equal(t, "1E1: lap", p.sentence(v))
}

// TestHowManyPlacesOfARowAreTried: of heads with many ways fewer, never fewer than some; evenly, from the first on.
func TestHowManyPlacesOfARowAreTried(t *testing.T) {
	for pairs, want := range map[int]int{0: 400, 500: 400, 999: 400, 1999: 200, 1599: 250, 90_000: 200} {
		q := question{pairs: [][]pairing{make([]pairing, pairs/2), make([]pairing, pairs-pairs/2)}}
		assert.Equal(t, want, q.windows(), "%d pairs", pairs)
	}
	all := make([]window, 10)
	lows := make([]length.Length, 10)
	for k := range all {
		lows[k] = length.Length(k)
		all[k].low = &lows[k]
	}
	for most, want := range map[int][]length.Length{
		10: {0, 1, 2, 3, 4, 5, 6, 7, 8, 9}, 9: {0, 2, 4, 6, 8}, 5: {0, 2, 4, 6, 8}, 4: {0, 3, 6, 9}, 1: {0},
	} {
		var got []length.Length
		for _, w := range thinned(all, most) {
			got = append(got, *w.low)
		}
		assert.Equal(t, want, got, "%d of 10", most)
	}
}
