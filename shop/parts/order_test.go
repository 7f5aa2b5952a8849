package parts_test

import (
	"errors"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/parts"
	"yatai/store"
)

// TestADeliveryComesInParts: what came is booked in, the rest stays on order, gets another day and is called
// off; what is not what was ordered is named, and never booked in.
func TestADeliveryComesInParts(t *testing.T) {
	f := shoptest.Open(t)
	ctx, keeper := t.Context(), f.People[shop.Lead]
	require.NoError(t, parts.AddStock(ctx, f.Shop, keeper, parts.StockForm{
		WriteID: shoptest.ID(), Kind: "valve", Name: "Barge valve", Count: "1", Dims: "stem 8.94 to 8.96",
	}))
	row := func() parts.StockRow {
		t.Helper()
		p, err := parts.Stock(ctx, f.Shop)
		require.NoError(t, err)
		for _, r := range p.Rows {
			if r.Name == "Barge valve" {
				return r
			}
		}
		t.Fatal("not there")
		return parts.StockRow{}
	}
	open := func() (out []parts.OrderRow) {
		t.Helper()
		p, err := parts.Stock(ctx, f.Shop)
		require.NoError(t, err)
		for _, o := range p.Orders {
			if o.ReceivedAt == nil && o.Item.Name == "Barge valve" {
				out = append(out, o)
			}
		}
		return out
	}
	receive := func(count, measured string, ok bool) error {
		return parts.Receive(ctx, f.Shop, keeper,
			parts.Receipt{WriteID: shoptest.ID(), Order: open()[0].ID, Count: count, Measured: measured, OK: ok})
	}
	require.NoError(t, parts.Order(ctx, f.Shop, keeper, shoptest.ID(), row().ID, "8", ""))
	assert.Equal(t, keeper.Name, open()[0].By)

	err := receive("", "8.94 7.10 8.95", true)
	assert.ErrorContains(t, err, "number 2 measures 7.1 mm")
	assert.ErrorContains(t, receive("9", "8.94", true), "8 are on order")
	assert.ErrorContains(t, receive("", "looks good", true), "measure one or more")
	assert.Equal(t, 1, row().Count, "nothing is booked in")

	require.NoError(t, receive("3", "8.94 8.95", true))
	assert.Equal(t, 4, row().Count)
	require.Len(t, open(), 1)
	assert.Equal(t, 5, open()[0].Count)
	assert.Equal(t, 5, row().Ordered)

	require.NoError(t, receive("1", "7.10", false))
	assert.Equal(t, 4, row().Count, "what is sent back is not there")
	rest := open()[0]
	assert.Equal(t, 4, rest.Count)

	require.NoError(t, parts.ChangeOrder(ctx, f.Shop, keeper, shoptest.ID(), rest.ID, "2031-05-20", false, ""))
	assert.Equal(t, "2031-05-20", open()[0].Due.Local().Format("2006-01-02"))
	var errs field.Errors
	require.ErrorAs(t, parts.ChangeOrder(ctx, f.Shop, keeper, shoptest.ID(), rest.ID, "soon", false, ""), &errs)
	require.ErrorAs(t, parts.ChangeOrder(ctx, f.Shop, keeper, shoptest.ID(), rest.ID, "", true, ""), &errs)
	require.NoError(
		t, parts.ChangeOrder(ctx, f.Shop, keeper, shoptest.ID(), rest.ID, "", true, "found some in the drawer"),
	)
	assert.Empty(t, open())
	assert.ErrorIs(t, parts.ChangeOrder(ctx, f.Shop, keeper, shoptest.ID(), rest.ID, "", true, "again"), shop.ErrStale)
}

// TestASizedPartIsHeldToItsSize within a hundredth, each end counted in.
func TestASizedPartIsHeldToItsSize(t *testing.T) {
	f := shoptest.Open(t)
	ctx, keeper := t.Context(), f.People[shop.Lead]
	require.NoError(t, parts.AddStock(ctx, f.Shop, keeper, parts.StockForm{
		WriteID: shoptest.ID(), Kind: "lash shim", Name: "Barge shim", Size: "2.60", Count: "0",
	}))
	for measured, ok := range map[string]bool{
		"2.59": true, "2.61": true, "2.589": false, "2.611": false, "2,60": true, "2.60 2.62": false,
	} {
		p, err := parts.Stock(ctx, f.Shop)
		require.NoError(t, err)
		var item uint
		for _, r := range p.Rows {
			if r.Name == "Barge shim" {
				item = r.ID
			}
		}
		require.NoError(t, parts.Order(ctx, f.Shop, keeper, shoptest.ID(), item, "1", ""))
		p, err = parts.Stock(ctx, f.Shop)
		require.NoError(t, err)
		got := parts.Receive(ctx, f.Shop, keeper,
			parts.Receipt{WriteID: shoptest.ID(), Order: p.Orders[0].ID, Measured: measured, OK: true})
		assert.Equal(t, ok, got == nil, "%s: %v", measured, got)
	}
}

// TestPartsGoBackAfterTheyCame sends some of a delivery back that was booked in: the stock is less, never
// more than came, and never what is set aside.
func TestPartsGoBackAfterTheyCame(t *testing.T) {
	f := shoptest.Open(t)
	ctx, keeper := t.Context(), f.People[shop.Lead]
	page, err := parts.Stock(ctx, f.Shop)
	require.NoError(t, err)
	i := slices.IndexFunc(page.Rows, func(r parts.StockRow) bool { return r.Reserved == 0 && r.SizeNM == 0 })
	item := page.Rows[i]
	require.NoError(t, parts.Order(ctx, f.Shop, keeper, shoptest.ID(), item.ID, "5", ""))
	order := func() parts.OrderRow {
		page, err := parts.Stock(ctx, f.Shop)
		require.NoError(t, err)
		k := slices.IndexFunc(page.Orders, func(o parts.OrderRow) bool { return o.ItemID == item.ID })
		return page.Orders[k]
	}
	back := func(n, why string) error { return parts.Return(ctx, f.Shop, keeper, shoptest.ID(), order().ID, n, why) }
	require.ErrorIs(t, back("1", "wrong"), shop.ErrStale, "it has not come")
	require.NoError(t, parts.Receive(ctx, f.Shop, keeper,
		parts.Receipt{WriteID: shoptest.ID(), Order: order().ID, Measured: "as drawn", OK: true}))
	there := func() int {
		count, _, err := f.Store.Read(ctx).StockCounts()
		require.NoError(t, err)
		return count[item.ID]
	}
	before := there()
	assert.ErrorContains(t, back("6", "wrong"), "5 of this delivery are left")
	assert.ErrorContains(t, back("2", ""), "say why")
	assert.ErrorContains(t, back("none", "wrong"), "how many")
	require.NoError(t, back("2", "the box was wet"))
	assert.Equal(t, before-2, there())
	assert.Equal(t, 2, order().Returned)
	assert.ErrorContains(t, back("4", "wrong"), "3 of this delivery are left")
}

// TestShimsAreBookedWithoutAPlan sets the lash of a head that has no plan: one shim goes to another valve,
// one comes from the box. The one from the box leaves the stock, once.
func TestShimsAreBookedWithoutAPlan(t *testing.T) {
	f := shoptest.Open(t)
	ctx := t.Context()
	file := f.File(t, "T0415")
	i := slices.IndexFunc(file.Tools, func(tool store.Tool) bool { return tool.Kind == "micrometer" })
	require.GreaterOrEqual(t, i, 0)
	item, next := store.StockItem{}, 0
	for _, it := range file.Subject.Stock {
		if it.Kind == "lash shim" && it.Count > 0 {
			item = store.StockItem{ID: it.ID, SizeNM: it.Size}
		}
	}
	require.NotZero(t, item.ID)
	read := func(tx store.DB, position string, size length.Length) error {
		next++
		r := store.Reading{
			ClientID: fmt.Sprint("shim-read-", next), HeadID: file.ID, Characteristic: "shim.size", Position: position,
			Stage: headfile.AfterRepair,
			Typed: size.String(), NM: quantity.OfLength(size), ToolID: file.Tools[i].ID, Method: "direct",
			PersonID: f.People[shop.Technician].ID, At: f.Now(),
		}
		return tx.Add(&r)
	}
	op := store.Operation{HeadID: file.ID, Seq: 98, Code: "lash_set", Positions: "1I1 1E1 2I1", State: "running"}
	require.NoError(t, f.Store.Write(ctx, func(tx store.DB) error {
		if err := errors.Join(read(tx, "1I1", 2_610_000), read(tx, "1E1", 2_420_000),
			read(tx, "2I1", 2_730_000)); err != nil {
			return err
		}
		all, err := tx.Readings(file.ID, 0)
		op.BegunAfter = int(all[len(all)-1].ID)
		return errors.Join(err, tx.Add(&op), read(tx, "1I1", 2_421_000), read(tx, "1E1", item.SizeNM+2_000))
	}))
	there := func() int {
		count, _, err := f.Store.Read(ctx).StockCounts()
		require.NoError(t, err)
		return count[item.ID]
	}
	before := there()
	file = f.File(t, "T0415")
	sizes := file.ShimsRead(op)
	require.NotNil(t, sizes)
	_, moved := sizes(trade.LashShimPart, "1I1")
	assert.False(t, moved, "it was in 1E1 before")
	size, fromBox := sizes(trade.LashShimPart, "1E1")
	assert.True(t, fromBox)
	assert.Equal(t, item.SizeNM, size, "as the box calls it")
	require.NoError(t, f.Store.Write(
		ctx, func(tx store.DB) error { return parts.Use(f.Shop, tx, f.People[shop.Technician], file, op, "") },
	))
	assert.Equal(t, before-1, there())
	op.BegunAfter = 1 << 30
	assert.Nil(t, file.ShimsRead(op), "nothing was read since")
}
