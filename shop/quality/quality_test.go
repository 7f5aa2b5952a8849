package quality_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/quality"
	"yatai/shop/quoting"
	"yatai/store"
)

// TestAComebackCostsItsWorkAndItsParts: as long as it was clocked at the shop's rate, what was used at what it
// cost the shop, charged to what the quote says; another year has none of it.
func TestAComebackCostsItsWorkAndItsParts(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	year := func(back int) quality.Year {
		y, err := quality.YearOf(ctx, f.Shop, owner, f.Now().AddDate(-back, 0, 0))
		require.NoError(t, err)
		return y
	}
	before := year(0)
	require.NotEmpty(t, before.Comebacks, "the demo has one")
	at := -1
	for i, c := range before.Comebacks {
		if c.Tag == "T0406" {
			at = i
		}
	}
	require.GreaterOrEqual(t, at, 0)
	require.NoError(t, f.SetSettings(ctx, owner, shoptest.ID(), map[string]string{"rate": "60.00"}, nil))
	head := f.File(t, "T0406")
	require.NotEmpty(t, head.Operations)
	began := f.Now().Add(-2 * time.Hour)
	require.NoError(t, f.Store.Write(ctx, func(tx store.DB) error {
		stint := func(ended *time.Time) *store.Stint {
			return &store.Stint{OperationID: head.Operations[0].ID, PersonID: 1, StartedAt: began, EndedAt: ended}
		}
		for _, x := range []any{
			stint(new(began.Add(90 * time.Minute))), stint(new(began.Add(40 * time.Hour))), stint(nil),
			&store.Movement{ItemID: 1, Count: -3, Kind: "use", HeadID: head.ID, PersonID: 1, At: f.Now()},
			&store.Movement{ItemID: 1, Count: -9, Kind: "reserve", HeadID: head.ID, PersonID: 1, At: f.Now()},
		} {
			if err := tx.Add(x); err != nil {
				return err
			}
		}
		it, err := tx.StockItem(1)
		if err != nil {
			return err
		}
		it.CostCents = 2_50
		return tx.ChangeStock(it)
	}))
	_, err := quoting.MakeQuote(ctx, f.Shop, f.People[shop.Counter], shoptest.ID(), "T0406", quoting.Draft{
		Goodwill: quoting.Goodwill{Percent: "50", Why: "ours", ChargedTo: "work: cut seats"}, Free: "Fetched = 10.00",
	})
	require.NoError(t, err)
	after := year(0)
	c := after.Comebacks[at]
	assert.Equal(t, "work: cut seats", c.To)
	assert.Equal(t, 90*time.Minute+12*time.Hour, c.Worked-before.Comebacks[at].Worked)
	assert.InDelta(t, c.Worked.Hours()*60_00, c.Work, 0.5)
	assert.Equal(t, int64(3*2_50), c.Parts-before.Comebacks[at].Parts)
	var cost int64
	times := 0
	for _, s := range after.By {
		cost, times = cost+s.Cost, times+s.Times
	}
	assert.Equal(t, after.Cost(), cost, "it is charged once")
	assert.Len(t, after.Comebacks, times)
	assert.Empty(t, year(40).Comebacks)
	assert.Zero(t, year(40).Heads)
	_, err = quality.YearOf(ctx, f.Shop, f.People[shop.Counter], f.Now())
	assert.ErrorIs(t, err, shop.ErrForbidden)
}

// TestASupplierIsHeldToTheDayThatWasSaid: an order that came on its day is in time, whatever the hour; one that
// was called off is none.
func TestASupplierIsHeldToTheDayThatWasSaid(t *testing.T) {
	f := shoptest.Open(t)
	ctx := t.Context()
	day := time.Date(2031, 5, 20, 0, 0, 0, 0, time.Local).UTC()
	came := func(days, hour int) *time.Time {
		at := time.Date(2031, 5, 20+days, hour, 0, 0, 0, time.Local).UTC()
		return &at
	}
	require.NoError(t, f.Store.Write(ctx, func(tx store.DB) error {
		it, err := tx.StockItem(1)
		if err != nil {
			return err
		}
		it.Supplier = "Ironside"
		if err := tx.ChangeStock(it); err != nil {
			return err
		}
		for _, o := range []store.PartOrder{
			{Due: day, ReceivedAt: came(0, 23), OK: true},
			{Due: day, ReceivedAt: came(-1, 1), OK: true, Returned: 2},
			{Due: day, ReceivedAt: came(1, 0), OK: true},
			{Due: day, ReceivedAt: came(3, 12), OK: false},
			{Due: day, Cancelled: true},
		} {
			o.ItemID, o.Count, o.PersonID, o.At = 1, 4, 1, day
			if err := tx.Add(&o); err != nil {
				return err
			}
		}
		return nil
	}))
	y, err := quality.YearOf(ctx, f.Shop, f.People[shop.Owner], day)
	require.NoError(t, err)
	assert.Equal(t, []quality.Supplier{
		{Name: "Ironside", Came: 4, Late: 2, Days: 4 * 24 * time.Hour, Wrong: 1, Returned: 2},
	}, y.Suppliers)
}
