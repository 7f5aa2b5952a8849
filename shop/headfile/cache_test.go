package headfile_test

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
)

// TestWhatIsKnownIsWhatIsInTheFile types, corrects and mistypes on a head, and after each
// step holds what this shop knows against what a shop that has just been opened reads.
func TestWhatIsKnownIsWhatIsInTheFile(t *testing.T) {
	f := shoptest.Open(t)
	tech := f.People[shop.Technician]
	bore, _ := trade.ByCode("guide.bore")
	spots := bore.Spots(f.File(t, "T0407").Layout)
	rnd := rand.New(rand.NewPCG(7, 1))
	same := func(step int) {
		t.Helper()
		fresh, err := headfile.Open(t.Context(), shop.New(f.Store, time.Now), "T0407")
		require.NoError(t, err)
		here := f.File(t, "T0407")
		require.Equal(t, fresh.Readings, here.Readings, "step %d", step)
		require.Equal(t, fresh.Now, here.Now, "step %d", step)
	}
	for step := range 40 {
		spot := spots[rnd.IntN(8)]
		form := f.Sweep(t, "T0407", "guide.bore", headfile.AsReceived, spot, fmt.Sprintf("9.0%02d", rnd.IntN(90)))
		form.Why = []string{"", "read again"}[rnd.IntN(2)]
		if rnd.IntN(4) == 0 { // the second of two is no number: neither is written
			form.Entries = append(form.Entries, bench.Entry{ClientID: shoptest.ID(), Spot: spots[20], Text: "nine"})
		}
		swept, err := bench.Record(t.Context(), f.Shop, tech, "T0407", form)
		require.NotNil(t, swept, "the sweep comes back with what was wrong too: %v", err)
		sweep, e := headfile.OpenSweep(t.Context(), f.Shop, "T0407", "guide.bore")
		require.NoError(t, e)
		require.Equal(t, sweep.Now, swept.Now, "step %d: what Record answers is what stands", step)
		same(step)
	}
}

// TestASweepOfASuspectToolSaysSo fails a zero check and looks everywhere its readings show.
func TestASweepOfASuspectToolSaysSo(t *testing.T) {
	f := shoptest.Open(t)
	tech := f.People[shop.Technician]
	var caliper uint
	for _, tool := range f.File(t, "T0414").Tools {
		if tool.Name == "Caliper" {
			caliper = tool.ID
		}
	}
	before := f.File(t, "T0414")
	assert.Empty(t, before.Suspects())
	assert.Empty(t, before.SuspectAt())
	passed, err := bench.CheckZero(t.Context(), f.Shop, tech, shoptest.ID(), caliper, "25.05")
	require.NoError(t, err)
	require.False(t, passed)
	file := f.File(t, "T0414")
	require.Len(t, file.Suspects(), 1)
	assert.Equal(t, 72, file.Suspects()[0].Count)
	assert.Len(t, file.SuspectAt(), 24)
	for _, p := range file.Progress(headfile.AsReceived) {
		want := map[bool]int{true: p.Read}[p.ToolKind() == "caliper"]
		assert.Equal(t, want, p.Suspect, p.Code)
	}
	sweep, err := headfile.OpenSweep(t.Context(), f.Shop, "T0414", "seat.width")
	require.NoError(t, err)
	assert.Equal(t, 24, sweep.Suspects()[0].Count)
	require.NoError(t, bench.Release(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), "T0414", caliper,
		"held against the micrometer"))
	assert.Empty(t, f.File(t, "T0414").Suspects())
	sweep, err = headfile.OpenSweep(t.Context(), f.Shop, "T0414", "seat.width")
	require.NoError(t, err)
	assert.Empty(t, sweep.Suspects(), "released")
}
