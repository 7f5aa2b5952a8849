package library_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/library"
	"yatai/shop/parts"
	"yatai/shop/work"
)

// TestARepairOfTheShopsOwnIsDone declares one, and takes a head through with it: it is offered, decided, on
// the route with what it brings, and its sheet says its size; taken away it is offered no more, and stays
// where it was decided.
func TestARepairOfTheShopsOwnIsDone(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner, chief := t.Context(), f.People[shop.Owner], f.People[shop.Lead]
	h := headtest.New(t, 1, "IE").Both("valve.recession", "0.40", "1.00").Both("stem.height", "45.80", "46.60").
		Both("lash", "0.10", "0.45").
		Figure("adjuster", "0.60").Read("valve.recession", "1I1 0.98", "1E1 0.60").
		Read("stem.height", "1I1 45.60", "1E1 46.20").
		Read("lash", "1I1 0.30 0.32", "1E1 0.30 0.32")
	h.Model.Name = "Own work"
	text, err := json.Marshal(head.Encode(h.Head))
	require.NoError(t, err)
	in, err := intake.Import(ctx, f.Shop, owner,
		intake.ImportForm{WriteID: shoptest.ID(), Customer: "Somebody new", Machine: "A loader", File: text})
	require.NoError(t, err)
	model := f.File(t, in.Tag).ModelID
	require.NoError(t, library.AddRepair(ctx, f.Shop, owner, model, library.OwnRepairForm{
		WriteID: shoptest.ID(), Name: "Cap the tips", Works: "tip", Station: trade.Assembly, Minutes: "5+4", Least: "0.1",
		Most:  "0.8",
		Moves: map[string]string{"stem.height": "up", "lash": "down"}, Part: "hard cap",
	}))
	caps := parts.StockForm{WriteID: shoptest.ID(), Kind: "own: hard cap", Name: "Cap 6 mm", Price: "7.40", Count: "3"}
	require.NoError(t, parts.AddStock(ctx, f.Shop, owner, caps))
	caps.WriteID, caps.Kind = shoptest.ID(), "own: a, b"
	require.Error(t, parts.AddStock(ctx, f.Shop, owner, caps), "no such kind")
	file := f.File(t, in.Tag)
	require.Len(t, file.Subject.Sheet.Repairs, 1)
	own := file.Subject.Sheet.Repairs[0]
	text, err = json.Marshal(head.Encode(file.Subject))
	require.NoError(t, err)
	back, err := head.Decode(text)
	require.NoError(t, err)
	assert.Equal(t, file.Subject.Sheet.Repairs, back.Sheet.Repairs, "it travels in the head file")

	key := judge.Feature{Code: trade.StemHeight.Code, Position: "1I1"}.Key()
	finding, ok := file.Now.Feature(key)
	require.True(t, ok)
	assert.True(t, file.Now.Allows(finding, own.Code).OK)
	choices := map[string]lead.Choice{key: {Choice: own.Code}}
	require.NoError(
		t, lead.Decide(ctx, f.Shop, chief, shoptest.ID(), in.Tag, choices, headfile.PlanAsk{Alternative: "balanced"}),
	)
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), in.Tag))
	file = f.File(t, in.Tag)
	seq := map[string]int{}
	for _, o := range file.Operations {
		seq[o.Code] = o.Seq
	}
	require.NotZero(t, seq[own.Code])
	assert.Less(t, seq[own.Code], seq[trade.SetLash.Code], "it moves the lash, which is set after it")
	sheet, err := work.SheetOf(ctx, f.Shop, file, seq[own.Code])
	require.NoError(t, err)
	require.Len(t, sheet.Rows, 1)
	assert.Equal(t, "1I1", sheet.Rows[0].ID)
	assert.Regexp(t, `^by 0\.\d+ mm$`, sheet.Rows[0].Do.String())
	planned := false
	for _, bar := range f.Week(t).Bars {
		planned = planned || bar.Job == in.Tag && strings.Contains(bar.ID, own.Code)
	}
	assert.True(t, planned, "somebody can do it")
	stock, err := parts.Stock(ctx, f.Shop)
	require.NoError(t, err)
	for _, r := range stock.Rows {
		if r.Name == "Cap 6 mm" {
			assert.Equal(t, []int{3, 1}, []int{r.Count, r.Reserved}, "one is set aside for the one valve")
		}
	}
	models, err := library.Models(ctx, f.Shop)
	require.NoError(t, err)
	assert.Contains(t, parts.StockKinds(models), "own: hard cap")
	require.NoError(t, library.DropRepair(ctx, f.Shop, owner, shoptest.ID(), model, own.Code))
	file = f.File(t, in.Tag)
	assert.Empty(t, file.Subject.Sheet.Repairs)
	assert.Equal(t, "Cap the tips", trade.OperationNamed(own.Code).Name, "the route still knows it")
	assert.ErrorIs(t, library.DropRepair(ctx, f.Shop, owner, shoptest.ID(), model, own.Code), shop.ErrNotFound)
}
