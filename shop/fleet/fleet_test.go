package fleet_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/customers"
	"yatai/shop/fleet"
)

// TestAFleetIsTheSumOfItsMachines for every customer of the demo: each head is a visit of one machine, and what
// wears is of heads that have left and came before, the soonest first.
func TestAFleetIsTheSumOfItsMachines(t *testing.T) {
	f := shoptest.Open(t)
	ctx, wears, comebacks := t.Context(), 0, 0
	rows, err := customers.List(ctx, f.Shop, "")
	require.NoError(t, err)
	for _, row := range rows {
		page, err := customers.Open(ctx, f.Shop, row.ID)
		require.NoError(t, err)
		got, err := fleet.Of(ctx, f.Shop, row.ID)
		require.NoError(t, err)
		visits, approved, back := 0, int64(0), 0
		for i, m := range got.Machines {
			visits, approved, back = visits+len(m.Visits), approved+m.Approved, back+m.Back
			if i > 0 && len(m.Visits) > 0 {
				assert.False(t, m.Visits[0].CreatedAt.After(got.Machines[i-1].Visits[0].CreatedAt), "the newest first")
			}
			for k, w := range m.Wears {
				wears++
				head := f.File(t, w.Tag)
				assert.NotNil(t, head.HandedOverAt)
				assert.NotEmpty(t, head.Earlier)
				assert.Equal(t, m.ID, head.Job.MachineID)
				assert.Greater(t, w.Late, w.Early)
				if k > 0 {
					assert.GreaterOrEqual(t, w.Early, m.Wears[k-1].Early)
				}
				left, ok := head.Now.Feature(w.Key())
				require.True(t, ok)
				assert.Equal(t, left.High, w.High, "from what it left with")
				if w.By != nil {
					assert.True(t, w.By.After(*head.HandedOverAt))
				}
			}
		}
		assert.Equal(t, len(page.Heads), visits, row.Name)
		assert.Equal(t, page.Cents, approved, row.Name)
		assert.Equal(t, got.Back, back)
		comebacks += back
	}
	assert.Positive(t, wears)
	assert.Positive(t, comebacks)
}

// TestALinkLeadsToOnesOwnMachinesOnly, until it is replaced, ended, too old, or the customer is erased.
func TestALinkLeadsToOnesOwnMachinesOnly(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	leads := func(s *shop.Shop, token string) uint {
		got, err := fleet.ByLink(ctx, s, token)
		if err != nil {
			require.ErrorIs(t, err, shop.ErrNotFound)
		}
		return got.Customer.ID
	}
	_, err := fleet.Link(ctx, f.Shop, f.People[shop.Technician], shoptest.ID(), 1)
	require.ErrorIs(t, err, shop.ErrForbidden)
	require.ErrorIs(t, fleet.EndLink(ctx, f.Shop, f.People[shop.Technician], shoptest.ID(), 1), shop.ErrForbidden)
	id := shoptest.ID()
	first, err := fleet.Link(ctx, f.Shop, front, id, 1)
	require.NoError(t, err)
	again, err := fleet.Link(ctx, f.Shop, front, id, 1)
	require.NoError(t, err)
	assert.Equal(t, first, again, "sent twice")
	other, err := fleet.Link(ctx, f.Shop, front, shoptest.ID(), 2)
	require.NoError(t, err)
	assert.Equal(t, uint(1), leads(f.Shop, first))
	assert.Equal(t, uint(2), leads(f.Shop, other))
	assert.Zero(t, leads(f.Shop, ""))
	assert.Zero(t, leads(f.Shop, first[:20]))
	later := shop.New(f.Store, func() time.Time { return f.Now().AddDate(0, 0, 366) })
	assert.Zero(t, leads(later, first), "a year later")

	second, err := fleet.Link(ctx, f.Shop, front, shoptest.ID(), 1)
	require.NoError(t, err)
	assert.Zero(t, leads(f.Shop, first))
	assert.Equal(t, uint(1), leads(f.Shop, second))
	require.NoError(t, fleet.EndLink(ctx, f.Shop, front, shoptest.ID(), 1))
	assert.Zero(t, leads(f.Shop, second))
	_, err = fleet.Link(ctx, f.Shop, front, shoptest.ID(), 9999)
	require.ErrorIs(t, err, shop.ErrNotFound)
}
