package work_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/work"
	"yatai/store"
)

// TestATestThatFailsHasAWayOn: a pressure test that leaks is finished as it was, by who made it; it is on the
// route once more; the leak is placed, and what mends it goes before the test again. Nobody types another value.
func TestATestThatFailsHasAWayOn(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech, chief := t.Context(), f.People[shop.Technician], f.People[shop.Lead]
	const tag = "T0401"
	f.Mended(t, tag)
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), tag))
	file := f.File(t, tag)
	seq := shoptest.Seq(file.Operations, trade.PressureTest.Code)
	for _, o := range file.Operations {
		if o.Seq < seq && o.State == "waiting" {
			require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), tag, o.Seq, work.Pauses))
			require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, o.Seq, "", ""))
		}
	}
	require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), tag, seq, work.Pauses))
	assert.Error(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, seq, "", ""), "nothing is written down yet", "")
	leaks := shoptest.Passing(trade.PressureTest.Code)
	leaks["leaks"] = "2"
	require.NoError(
		t, bench.RecordWork(ctx, f.Shop, tech, shoptest.ID(), tag, seq, map[string]map[string]string{"": leaks}),
	)
	file = f.File(t, tag)
	test, err := file.Operation(seq)
	require.NoError(t, err)
	assert.Equal(t, []string{""}, file.Failed(test))
	require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, seq, "", ""))

	file = f.File(t, tag)
	test, _ = file.Operation(seq)
	assert.Equal(t, "done", test.State)
	assert.Equal(t, []string{""}, file.Failed(test), "it stays failed in the history")
	again := func() []store.Operation {
		return slices.DeleteFunc(slices.Clone(f.File(t, tag).Operations),
			func(o store.Operation) bool { return o.Code != trade.Retest.Code })
	}
	require.Len(t, again(), 1, "once more")
	assert.Equal(t, "waiting", again()[0].State)
	assert.Empty(t, work.Found(file), "nobody has said where it leaks")

	leak := bench.MarkForm{
		WriteID: shoptest.ID(), Grade: "leak", Stage: headfile.AfterRepair, X: "60", Y: "40", Note: "at the injector",
	}
	require.NoError(t, bench.Mark(ctx, f.Shop, tech, tag, leak))
	file = f.File(t, tag)
	found := work.Found(file)
	require.Len(t, found, 1)
	key := found[0].Key()
	usual := file.Now.Usual(found[0])
	require.NotNil(t, usual)
	assert.ErrorIs(t, work.Rework(ctx, f.Shop, tech, shoptest.ID(), tag, key, usual.Code, ""), shop.ErrForbidden)
	assert.ErrorContains(t, work.Rework(ctx, f.Shop, chief, shoptest.ID(), tag, key, trade.Leave, ""),
		"say why it may be left")
	assert.Error(t, work.Rework(ctx, f.Shop, chief, shoptest.ID(), tag, key, trade.FitGuide.Code, ""),
		"no answer to a leak")
	require.NoError(t, work.Rework(ctx, f.Shop, chief, shoptest.ID(), tag, key, usual.Code, ""))
	file = f.File(t, tag)
	mend, test2 := shoptest.Seq(file.Operations, usual.Does.Code), shoptest.Seq(file.Operations, trade.Retest.Code)
	assert.Greater(t, mend, seq)
	assert.Greater(t, test2, mend, "what mends it goes before the test again")
	assert.Len(t, again(), 1, "one test again, not two")
	assert.Empty(t, work.Found(file), "it is decided")
	assert.Error(t, work.Rework(ctx, f.Shop, chief, shoptest.ID(), tag, key, usual.Code, ""), "not twice")
	twice := work.AddOperation(ctx, f.Shop, chief, shoptest.ID(), tag, trade.Retest.Code, "", "to be sure")
	assert.ErrorContains(t, twice, "on the route there already")
	d, ok := file.Decision(key)
	assert.True(t, ok && d.Choice == usual.Code)
	assert.Contains(t, file.DoneText(d), "not done yet")
}

// TestAFailedSealIsTestedAgainWhereItFailed: and only there; the lead's word lets it go on all the same.
func TestAFailedSealIsTestedAgainWhereItFailed(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech, chief := t.Context(), f.People[shop.Technician], f.People[shop.Lead]
	const tag = "T0401"
	f.Mended(t, tag)
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), tag))
	f.ApproveOnce(t, tag)
	file := f.File(t, tag)
	seq := shoptest.Seq(file.Operations, trade.SealTest.Code)
	for _, o := range file.Operations {
		if o.Seq < seq && o.State == "waiting" {
			require.NoError(t, work.Skip(ctx, f.Shop, chief, shoptest.ID(), tag, o.Seq, "not for this test"))
		}
	}
	require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), tag, seq, work.Pauses))
	rows := map[string]map[string]string{}
	test, err := file.Operation(seq)
	require.NoError(t, err)
	for _, at := range test.At() {
		rows[at] = shoptest.Passing(trade.SealTest.Code)
	}
	rows["2E1"]["drop"], rows["2E1"]["liquid"] = "no", "0"
	require.NoError(t, bench.RecordWork(ctx, f.Shop, tech, shoptest.ID(), tag, seq, rows))
	file = f.File(t, tag)
	test, _ = file.Operation(seq)
	assert.Equal(t, []string{"2E1"}, file.Failed(test))
	require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, seq, "", ""))
	file = f.File(t, tag)
	i := slices.IndexFunc(file.Operations, func(o store.Operation) bool {
		return o.Code == trade.SealTest.Code && o.State == "waiting"
	})
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, []string{"2E1"}, file.Operations[i].At())
	assert.Empty(t, file.Failed(file.Operations[i]), "it was not made yet")
	for n, o := range file.Operations {
		assert.Equal(t, n+1, o.Seq)
	}
	assert.False(t, slices.ContainsFunc(file.Gate(),
		func(l headfile.GateLine) bool { return l.Key == "record:seal_test@2E1" && l.OK }))
	again := file.Operations[i].Seq
	for _, o := range file.Operations {
		if o.Seq < again && o.State == "waiting" {
			require.NoError(t, work.Skip(ctx, f.Shop, chief, shoptest.ID(), tag, o.Seq, "not for this test"))
		}
	}
	require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), tag, again, work.Pauses))
	good := shoptest.Passing(trade.SealTest.Code)
	good["drop"], good["liquid"] = "yes", "5"
	require.NoError(
		t, bench.RecordWork(ctx, f.Shop, tech, shoptest.ID(), tag, again, map[string]map[string]string{"2E1": good}),
	)
	require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, again, "", ""))
	for _, l := range f.File(t, tag).Gate() {
		if l.Key == "record:seal_test@2E1" {
			assert.True(t, l.OK, l.Why)
		}
	}
}

// TestTheLeadsGoOnMeansIt: a record that fails and goes on by the lead's word is done, is not put on the route once
// more, and passes the final check once somebody has signed what it says.
func TestTheLeadsGoOnMeansIt(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech, chief := t.Context(), f.People[shop.Technician], f.People[shop.Lead]
	const tag, key = "T0401", "record:pressure_test"
	f.Mended(t, tag)
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), tag))
	seq := shoptest.Seq(f.File(t, tag).Operations, trade.PressureTest.Code)
	for n := 1; n < seq; n++ {
		require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), tag, n, work.Pauses))
		require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, n, "", ""))
	}
	require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), tag, seq, work.Pauses))
	short := shoptest.Passing(trade.PressureTest.Code)
	short["minutes"] = "1"
	require.NoError(
		t, bench.RecordWork(ctx, f.Shop, tech, shoptest.ID(), tag, seq, map[string]map[string]string{"": short}),
	)
	require.NoError(t, work.Resume(ctx, f.Shop, chief, shoptest.ID(), tag, seq, "the pump is old, nobody waits longer"))
	require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, seq, "", ""))
	file := f.File(t, tag)
	o, err := file.Operation(seq)
	require.NoError(t, err)
	assert.Equal(t, "done", o.State)
	assert.Negative(t, shoptest.Seq(file.Operations, trade.Retest.Code), "not once more")
	line := func() headfile.GateLine {
		lines := f.File(t, tag).Gate()
		return lines[slices.IndexFunc(lines, func(l headfile.GateLine) bool { return l.Key == key })]
	}
	assert.False(t, line().OK)
	assert.ErrorIs(t, work.SignDeviation(ctx, f.Shop, tech, shoptest.ID(), tag, key, "fine"), shop.ErrForbidden)
	require.NoError(t, work.SignDeviation(ctx, f.Shop, chief, shoptest.ID(), tag, key, "the customer was told"))
	assert.True(t, line().OK)
	assert.Contains(t, line().Why, "the customer was told")
}
