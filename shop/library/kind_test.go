package library_test

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
	"yatai/shop/library"
	"yatai/shop/work"
)

// TestAModelsKindIsPutRight adds a model with the wrong drive and one cylinder too few, takes a head of
// it in, and corrects the model: the head has the valves it really has. A model that heads were worked
// by stays as it is.
func TestAModelsKindIsPutRight(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	form := library.ModelForm{
		WriteID: shoptest.ID(), Name: "Barge 2", Material: "iron", Drive: "rocker", Lifter: "solid", Unit: "mm",
		Ignition: "plug",
		Cooling:  "water", FirstAt: "left", Cylinders: "2", Pattern: "IE", Pitch: "112", Bore: "98", Width: "164",
		IntakeHead:  "42",
		ExhaustHead: "38",
	}
	id, err := library.AddModel(ctx, f.Shop, owner, form)
	require.NoError(t, err)
	tag, err := intake.TakeIn(ctx, f.Shop, f.People[shop.Counter], intake.IntakeForm{
		WriteID: shoptest.ID(), Customer: "A", Machine: "B", Model: strconv.FormatUint(uint64(id), 10), Kind: "rebuild",
	})
	require.NoError(t, err)

	form.WriteID, form.Drive, form.Cylinders = shoptest.ID(), "bucket", "3"
	require.NoError(t, library.CorrectKind(ctx, f.Shop, owner, id, form))
	file := f.File(t, tag)
	assert.Equal(t, "bucket", file.Model.Drive)
	assert.Len(t, file.Layout.Valves, 6)

	tech := f.People[shop.Technician]
	read := f.Sweep(t, tag, trade.GuideBore.Code, headfile.AsReceived, trade.Spot{Position: "3E1", Place: "top", Dir: "A"},
		"9.02")
	require.NoError(t, f.Typed(ctx, tech, tag, read))
	form.WriteID, form.Cylinders = shoptest.ID(), "2"
	var lost field.Errors
	require.ErrorAs(t, library.CorrectKind(ctx, f.Shop, owner, id, form), &lost)
	assert.Contains(t, lost.Message("sure"), "lose 1 reading and 0 findings")
	assert.Len(t, f.File(t, tag).Layout.Valves, 6, "nothing is done before somebody says so")
	form.WriteID, form.Sure = shoptest.ID(), true
	require.NoError(t, library.CorrectKind(ctx, f.Shop, owner, id, form))
	assert.Len(t, f.File(t, tag).Layout.Valves, 4)
	form.WriteID, form.Cylinders, form.Sure = shoptest.ID(), "3", false
	require.NoError(t, library.CorrectKind(ctx, f.Shop, owner, id, form), "what comes back loses nothing")

	form.WriteID, form.Drive, form.Cylinders = shoptest.ID(), "steam", ""
	var errs field.Errors
	require.ErrorAs(t, library.CorrectKind(ctx, f.Shop, owner, id, form), &errs)
	assert.Contains(t, errs, "drive")
	assert.Len(t, f.File(t, tag).Layout.Valves, 6)

	worked := f.File(t, "T0405")
	form.WriteID, form.Drive = shoptest.ID(), "rocker"
	require.ErrorAs(t, library.CorrectKind(ctx, f.Shop, owner, worked.ModelID, form), &errs)
	assert.Contains(t, errs["kind"].String(), "was worked on")

	// a measured head that has left stays what it was
	require.NoError(t, work.EndHead(ctx, f.Shop, f.People[shop.Counter], tag, work.EndForm{
		WriteID: shoptest.ID(), Kind: "withdrawn", State: "whole", Why: "he sold the barge",
	}))
	form.WriteID, form.Drive = shoptest.ID(), "rocker"
	require.ErrorAs(t, library.CorrectKind(ctx, f.Shop, owner, id, form), &errs)
	assert.Contains(t, errs.Message("kind"), "has left")
}
