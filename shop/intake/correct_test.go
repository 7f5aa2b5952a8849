package intake_test

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/work"
	"yatai/store"
)

// correct puts one head right by a change of the form it was taken in with.
func correct(t *testing.T, f *shoptest.Fixture, tag string, sure bool, change func(*intake.IntakeForm)) error {
	t.Helper()
	c := intake.Correction{IntakeForm: intake.FormOf(f.File(t, tag)), Sure: sure}
	c.WriteID = shoptest.ID()
	change(&c.IntakeForm)
	return intake.Correct(t.Context(), f.Shop, f.People[shop.Counter], tag, c)
}

// TestATakeInIsCorrected changes everything that was typed and finds it there, in the history too.
func TestATakeInIsCorrected(t *testing.T) {
	f := shoptest.Open(t)
	before := f.File(t, "T0407")
	require.NoError(t, correct(t, f, "T0407", false, func(c *intake.IntakeForm) {
		c.Customer, c.Machine, c.Hours, c.Bank, c.Marks, c.Story = "Somebody Else", "Their barge", "1200", "left", "K 77", "it knocks"
		c.Promise, c.Regulated, c.Symptoms, c.CameWith = "2031-06-01", intake.Regulations[1], []string{trade.Symptoms[0].Code}, "a box"
	}))
	now := f.File(t, "T0407")
	assert.Equal(t, []string{
		"Somebody Else", "Their barge", "1200", "left", "K 77", "it knocks", intake.Regulations[1], trade.Symptoms[0].Code,
		"a box",
	}, []string{
		now.Job.Customer.Name, now.Job.Machine.Name, now.Job.Hours, now.Bank, now.Marks, now.Job.Story, now.Job.Regulated,
		now.Job.Symptoms, now.Job.CameWith,
	})
	assert.Equal(t, "2031-06-01", intake.FormOf(now).Promise)
	assert.Equal(t, before.Readings, now.Readings)
	events, err := f.Shop.Store.Read(t.Context()).Events(now.ID)
	require.NoError(t, err)
	last := events[0]
	assert.Equal(t, "take-in corrected", last.What)
	assert.Contains(t, last.Detail, "customer: "+before.Job.Customer.Name+" > Somebody Else; machine: ")
	assert.Contains(t, last.Detail, "promised: ")

	require.NoError(t, correct(t, f, "T0407", false, func(*intake.IntakeForm) {}))
	again, err := f.Shop.Store.Read(t.Context()).Events(now.ID)
	require.NoError(t, err)
	assert.Len(t, again, len(events), "what was not changed is no line")
}

// TestHeadsOfAnOrderAreCorrectedTogether: the customer is the order's, the marks are the head's.
func TestHeadsOfAnOrderAreCorrectedTogether(t *testing.T) {
	f := shoptest.Open(t)
	first, err := intake.TakeIn(t.Context(), f.Shop, f.People[shop.Counter], intake.IntakeForm{
		WriteID: shoptest.ID(), Customer: "A", Machine: "B", Model: "1", Kind: "rebuild", Heads: "2", Marks: "one; two",
	})
	require.NoError(t, err)
	others, err := intake.Beside(t.Context(), f.Shop, f.File(t, first))
	require.NoError(t, err)
	require.Len(t, others, 1)
	require.NoError(t, correct(t, f, first, false, func(c *intake.IntakeForm) { c.Customer, c.Marks = "C", "uno" }))
	other := f.File(t, others[0].Tag)
	assert.Equal(t, "C", other.Job.Customer.Name)
	assert.Equal(t, "two", other.Marks)
	assert.Equal(t, "2 of 2", other.Bank)
}

// modelOther finds a model of another kind than a head's.
func modelOther(
	t *testing.T, f *shoptest.Fixture, than *headfile.File, same func(store.HeadModel) bool,
) store.HeadModel {
	t.Helper()
	models, err := f.Shop.Store.Read(t.Context()).Models()
	require.NoError(t, err)
	for _, m := range models {
		if m.ID != than.ModelID && m.RetiredAt == nil && same(m) {
			return m
		}
	}
	t.Fatal("no such model")
	return store.HeadModel{}
}

// TestAnotherModelSaysWhatItLoses makes a measured head one of another model: it is told what of it
// counts no more before it is done, and the readings stay in the file.
func TestAnotherModelSaysWhatItLoses(t *testing.T) {
	f := shoptest.Open(t)
	was := f.File(t, "T0401")
	require.NotEmpty(t, was.Readings)
	other := modelOther(t, f, was, func(m store.HeadModel) bool { return m.Drive != was.Model.Drive })
	to := func(c *intake.IntakeForm) { c.Model = strconv.FormatUint(uint64(other.ID), 10) }
	err := correct(t, f, "T0401", false, to)
	var errs field.Errors
	require.ErrorAs(t, err, &errs)
	require.Contains(t, errs, "sure")
	assert.Equal(t, was.ModelID, f.File(t, "T0401").ModelID, "nothing is done before it is known what it costs")

	require.NoError(t, correct(t, f, "T0401", true, to))
	now := f.File(t, "T0401")
	assert.Equal(t, other.ID, now.ModelID)
	assert.Less(t, len(now.Readings), len(was.Readings))
	have := headfile.HavingOf(headfile.KindOf(now.Model), now.Layout, now.Own)
	for _, r := range now.Readings {
		assert.True(t, have.Reading(r), headfile.SpotKey(r))
	}
	all, err := f.Shop.Store.Read(t.Context()).Readings(now.ID, 0)
	require.NoError(t, err)
	assert.Len(t, all, len(was.Readings), "they stay in the file")
}

// TestAModelIsFixedOnceWorkHasBegun: seats cut by one sheet are not judged by another model's.
func TestAModelIsFixedOnceWorkHasBegun(t *testing.T) {
	f := shoptest.Open(t)
	was := f.File(t, "T0405")
	other := modelOther(t, f, was, func(store.HeadModel) bool { return true })
	err := correct(t, f, "T0405", true, func(c *intake.IntakeForm) { c.Model = strconv.FormatUint(uint64(other.ID), 10) })
	var errs field.Errors
	require.ErrorAs(t, err, &errs)
	assert.Contains(t, errs["model"].String(), "taken in by mistake")
}

// TestARulesCheckIsMendedAfterAll orders an inspection, makes the job a rebuild, and orders it again:
// what was done stays done and is not on the route twice; everything read is still there.
func TestARulesCheckIsMendedAfterAll(t *testing.T) {
	f := shoptest.Open(t)
	const tag = "T0401"
	require.NoError(t, correct(t, f, tag, false, func(c *intake.IntakeForm) { c.Kind = "rules" }))
	order := func() {
		t.Helper()
		file, choices := f.File(t, tag), map[string]lead.Choice{}
		for _, x := range file.Received.Findings() {
			choices[x.Key()] = lead.Choice{Choice: trade.Leave, Reason: "the customer wants it so"}
		}
		require.NoError(
			t, lead.Decide(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), tag, choices, headfile.PlanAsk{}),
		)
		require.NoError(t, lead.OrderWork(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), tag))
	}
	order()
	codes := func() (out []string) {
		for _, o := range f.File(t, tag).Operations {
			out = append(out, o.Code)
		}
		return out
	}
	require.Equal(t, []string{"wash", "measure", "report"}, codes())
	tech, wash := f.People[shop.Technician], f.File(t, tag).Operations[0]
	require.NoError(t, work.Start(t.Context(), f.Shop, tech, shoptest.ID(), tag, wash.Seq, work.Pauses))
	require.NoError(t, work.Finish(t.Context(), f.Shop, tech, shoptest.ID(), tag, wash.Seq, "", ""))
	readings := len(f.File(t, tag).Readings)

	require.NoError(t, correct(t, f, tag, false, func(c *intake.IntakeForm) { c.Kind = "rebuild" }))
	now := f.File(t, tag)
	assert.Nil(t, now.WorkOrderAt)
	assert.Equal(t, []string{"wash"}, codes())
	assert.Len(t, now.Readings, readings)
	order()
	got := codes()
	assert.Equal(t, "wash", got[0])
	assert.NotContains(t, got[1:], "wash", "what is done is not done again")
	assert.NotContains(t, got, "report")
	assert.Contains(t, got, "final_check")
	seen := map[int]bool{}
	for _, o := range f.File(t, tag).Operations {
		assert.False(t, seen[o.Seq])
		seen[o.Seq] = true
	}
}
