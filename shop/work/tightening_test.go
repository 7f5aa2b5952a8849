package work_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/work"
)

// TestCapsAreTickedStepByStep assembles a head whose model says how its cam caps are pulled down: what is ticked
// stays, what is not holds nothing up but the end of the operation, and the report tells the head's bolts.
func TestCapsAreTickedStepByStep(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech := t.Context(), f.People[shop.Technician]
	const tag = "T0402"
	for _, o := range f.File(t, tag).Operations {
		if o.Code == "assemble" {
			break
		}
		switch o.State {
		case "running":
			require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, o.Seq, "", "the van"))
		case "waiting":
			require.NoError(t, work.Skip(ctx, f.Shop, f.People[shop.Lead], shoptest.ID(), tag, o.Seq, "for the test"))
		}
	}
	seq := shoptest.Seq(f.File(t, tag).Operations, "assemble")
	require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), tag, seq, work.Pauses))
	sheet := func() work.Sheet {
		sh, err := work.SheetOf(ctx, f.Shop, f.File(t, tag), seq)
		require.NoError(t, err)
		return sh
	}
	groups := sheet().Ticks()
	require.Len(t, groups, 2, "what every assembly asks, and the caps")
	assert.Nil(t, groups[0].Tightens)
	assert.Equal(t, "Cam caps, 10, oiled", groups[1].Tightens.Head().String())
	require.Len(t, groups[1].Fields, 2)

	ticked := map[string]string{"seals": "yes", "order": "yes", "keepers": "yes", "cam_caps.1": "yes"}
	record := func() {
		require.NoError(
			t, bench.RecordWork(ctx, f.Shop, tech, shoptest.ID(), tag, seq, map[string]map[string]string{"": ticked}),
		)
	}
	record()
	sh := sheet()
	assert.Equal(t, "running", sh.Operation.State, "nothing has failed")
	assert.True(t, sh.Ticks()[1].Fields[0].Done)
	assert.False(t, sh.Ticks()[1].Fields[1].Done)
	assert.Equal(t, "still to be done: Cam caps: 20 Nm", sh.Missing.String())
	assert.ErrorContains(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, seq, "", "the van"), "20 Nm")

	ticked["cam_caps.2"] = "yes"
	record()
	require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, seq, "", "the van"))
	told := f.File(t, tag).Told().Tightening
	require.Len(t, told, 1, "caps are no work for who puts the head back")
	assert.Equal(
		t,
		"Head bolts, 10, oiled, new ones: 30 Nm, 60 Nm, wait 10 min, 90 deg further, 90 deg further (Velderan bench book, page 12)",
		told[0],
	)
}
