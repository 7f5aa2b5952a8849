package week_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/sample"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/people"
	"yatai/shop/week"
	"yatai/store"
)

// TestAnOrderThatIsTakenIsAsItWasProposed at any hour, one pair of hands for all and every part wanted by more heads
// than there are: in another order the parts go to others.
func TestAnOrderThatIsTakenIsAsItWasProposed(t *testing.T) {
	moved := 0
	for n := range sample.Times(4, 24) {
		f := shoptest.Open(t)
		at := time.Now().Add(time.Duration(n*7) * time.Hour)
		f.Shop = shop.New(f.Shop.Store, func() time.Time { return at })
		ctx, chief := t.Context(), f.People[shop.Lead]
		us, err := people.People(ctx, f.Shop)
		require.NoError(t, err)
		for _, u := range us {
			if u.Role != shop.Lead {
				form := people.WorkForm{WriteID: shoptest.ID()}
				require.NoError(t, people.SetWork(ctx, f.Shop, f.People[shop.Owner], u.ID, form, func(string) bool { return true }))
			}
		}
		stock, err := f.Shop.Store.Read(ctx).StockItems()
		require.NoError(t, err)
		require.NoError(t, f.Shop.Store.Write(ctx, func(tx store.DB) error {
			for _, it := range stock { // one of each is left
				m := store.Movement{ItemID: it.ID, Count: 1, Kind: "count", PersonID: chief.ID, At: at}
				if err := tx.Add(&m); err != nil {
					return err
				}
			}
			return nil
		}))
		w := f.Week(t)
		better, err := w.Better()
		require.NoError(t, err)
		assert.LessOrEqual(t, better.Order.Late, better.Late, "never worse than now")
		require.NoError(t, week.TakeOrder(ctx, f.Shop, chief, shoptest.ID(), better.Order.Jobs))
		taken := f.Week(t)
		assert.Equal(t, better.Order.Late, taken.Result.Late(), "at %v", at)
		assert.Equal(t, better.Order.Plan.Outcomes, taken.Outcomes)
		if len(better.Moved) > 0 {
			moved++
		}
	}
	assert.Positive(t, moved)
}
