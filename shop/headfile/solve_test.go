package headfile_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/core/plan"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/library"
)

// TestAKeptAnswerFollowsTheModel: a plan is kept between looks, and worked out anew when the owner
// corrects what the valves are made of.
func TestAKeptAnswerFollowsTheModel(t *testing.T) {
	f := shoptest.Open(t)
	ctx := t.Context()
	grinds := func(file *headfile.File) int {
		got, err := headfile.Solve(ctx, f.Shop, file, head.Ask{})
		require.NoError(t, err)
		want, err := plan.Judged(ctx, file.Subject, file.Now, head.Ask{})
		require.NoError(t, err)
		assert.Equal(t, want.Choices, got.Choices)
		n := 0
		for _, o := range got.Operations {
			if o.Code == "lap" || o.Code == "valve_grind" {
				n += len(o.Positions)
			}
		}
		return n
	}
	was := f.File(t, "T0414")
	before := grinds(was)
	require.Positive(t, before)
	require.NoError(t, library.ChangeModel(ctx, f.Shop, f.People[shop.Owner], was.ModelID, library.ModelForm{
		WriteID: shoptest.ID(), Name: was.Model.Name, About: was.Model.About, IntakeValve: "titanium coated",
		ExhaustValve: "titanium coated",
	}))
	assert.Less(t, grinds(f.File(t, "T0414")), before, "titanium is neither lapped nor ground")
}

func BenchmarkSolveKept(b *testing.B) {
	f := shoptest.Open(b)
	file := f.File(b, "T0414")
	for b.Loop() {
		if _, err := headfile.Solve(b.Context(), f.Shop, file, head.Ask{}); err != nil {
			b.Fatal(err)
		}
	}
}
