package work_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/quoting"
	"yatai/shop/work"
	"yatai/store"
)

// TestWhatSharesNoPositionNeedNotWait is a table of routes: what waits for what.
func TestWhatSharesNoPositionNeedNotWait(t *testing.T) {
	op := func(seq int, code, at, state string) store.Operation {
		return store.Operation{Seq: seq, Code: code, Positions: at, State: state}
	}
	for _, c := range []struct {
		name   string
		before store.Operation
		o      store.Operation
		waits  bool
	}{
		{"the same position waits", op(1, "valve_new", "1I1", "waiting"), op(2, "seat_insert", "1I1", "waiting"), true},
		{"another does not", op(1, "valve_new", "1I1", "running"), op(2, "seat_insert", "3E1", "waiting"), false},
		{
			"one of several is enough", op(1, "valve_new", "1I1 3E1", "running"),
			op(2, "seat_insert", "3E1 4E1", "waiting"), true,
		},
		{"what is done is not waited for", op(1, "valve_new", "3E1", "done"), op(2, "seat_insert", "3E1", "waiting"), false},
		{"nor what was left out", op(1, "valve_new", "3E1", "skipped"), op(2, "seat_insert", "3E1", "waiting"), false},
		{"what was stopped is", op(1, "valve_new", "3E1", "held"), op(2, "seat_insert", "3E1", "waiting"), true},
		{"the whole head is waited for", op(1, "pressure_test", "", "running"), op(2, "seat_insert", "3E1", "waiting"), true},
		{"the whole head waits", op(1, "seat_cut", "3E1", "running"), op(2, "face", "", "waiting"), true},
		{"what comes later is not", op(2, "seat_cut", "3E1", "waiting"), op(1, "guide_new", "3E1", "waiting"), false},
	} {
		f := headfile.File{Operations: []store.Operation{c.before, c.o}}
		assert.Equal(t, c.waits, f.Waits(c.o) != nil, c.name)
	}
}

// ordered brings the pump head to its work: ordered and approved, nothing begun.
func ordered(t *testing.T, f *shoptest.Fixture) {
	t.Helper()
	f.Mended(t, "T0401")
	f.Approve(t, "T0401", quoting.Answer{Name: "the grower", Must: true})
	require.NoError(t, lead.OrderWork(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), "T0401"))
}

// TestOnePersonsMinutesCountOnce: who is at one operation and begins another is asked what becomes of the
// first.
func TestOnePersonsMinutesCountOnce(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech := t.Context(), f.People[shop.Technician]
	ordered(t, f)
	require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), "T0401", 1, work.Pauses))
	require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), "T0401", 1, "", ""))
	require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), "T0401", 2, ""))
	other := f.File(t, "T0402").Operations
	var running store.Operation
	for _, o := range other {
		if o.State == "running" {
			running = o
		}
	}
	require.NotZero(t, running.Seq, "something of the other head is going on")
	_ = work.Pause(ctx, f.Shop, tech, shoptest.ID(), "T0402", running.Seq)
	var errs field.Errors
	require.ErrorAs(t, work.Join(ctx, f.Shop, tech, shoptest.ID(), "T0402", running.Seq, ""), &errs)
	assert.Contains(t, errs[headfile.OperationKey(running.Seq)].String(), "of T0401")
	require.NoError(t, work.Join(ctx, f.Shop, tech, shoptest.ID(), "T0402", running.Seq, work.RunsAlone))
	for _, st := range f.File(t, "T0401").Stints {
		assert.NotNil(t, st.EndedAt, "nobody is at two")
	}
	assert.Equal(t, "running", f.File(t, "T0401").Operations[1].State)
}

// TestAStintLeftOpenCountsToTheEndOfTheDay and not through the night.
func TestAStintLeftOpenCountsToTheEndOfTheDay(t *testing.T) {
	f := shoptest.Open(t)
	monday := time.Date(2031, 5, 19, 0, 0, 0, 0, time.Local)
	at := func(hour, minute int) time.Time {
		return monday.Add(time.Duration(hour)*time.Hour + time.Duration(minute)*time.Minute)
	}
	ordered(t, f)
	file := f.File(t, "T0401")
	o := file.Operations[0]
	file.Stints = []store.Stint{{OperationID: o.ID, StartedAt: at(15, 30)}}
	same := file.Took(o, at(16, 0))
	assert.Equal(t, 30*time.Minute, same)
	next := file.Took(o, at(31, 0))
	assert.Greater(t, next, same)
	assert.Less(t, next, 4*time.Hour)
	assert.Equal(t, next, file.Took(o, at(60, 0)), "it stops counting there")
	ended := at(31, 0)
	file.Stints[0].EndedAt = &ended
	assert.Equal(t, ended.Sub(at(15, 30)), file.Took(o, at(60, 0)), "what somebody said counts")
}

// TestWhatIsForbiddenIsNotAddedByHand with the reason that judge gives.
func TestWhatIsForbiddenIsNotAddedByHand(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief := t.Context(), f.People[shop.Lead]
	ordered(t, f)
	file := f.File(t, "T0401")
	at := file.Layout.Valves[0].ID
	require.NoError(t, f.Shop.Store.Write(ctx, func(tx store.DB) error {
		m := file.Model
		m.IntakeValve, m.ExhaustValve = "titanium", "titanium"
		return tx.ChangeModel(m)
	}))
	err := work.AddOperation(ctx, f.Shop, chief, shoptest.ID(), "T0401", "lap", at, "a finish")
	assert.ErrorContains(t, err, "titanium valves are never lapped")
	require.NoError(t, work.AddOperation(ctx, f.Shop, chief, shoptest.ID(), "T0401", "thread_chase", "", "the plug's"))
}
