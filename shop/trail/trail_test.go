package trail_test

import (
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/demofile"
	"yatai/shop"
	"yatai/shop/customers"
	"yatai/shop/trail"
	"yatai/store"
)

var owner = shop.Actor{ID: 1, Name: "Runa", Role: shop.Owner, From: "the office"}

func open(t *testing.T, now func() time.Time) *shop.Shop {
	t.Helper()
	st, err := store.Open(demofile.Path(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	return shop.New(st, now)
}

// TestWhoChangedWhat changes a discount twice and a setting once, and finds who, what it was and
// what it is.
func TestWhoChangedWhat(t *testing.T) {
	s, ctx := open(t, time.Now), t.Context()
	all, err := customers.List(ctx, s, "")
	require.NoError(t, err)
	c := all[0]
	was, err := trail.List(ctx, s, owner, trail.Ask{About: shop.About(shop.OfCustomer, c.ID)})
	require.NoError(t, err)
	before := len(was.Lines)
	for i, discount := range []string{"5", "7.5", "7.5"} {
		require.NoError(t, customers.Change(ctx, s, owner, c.ID, customers.Form{
			WriteID: "change-customer-" + strconv.Itoa(i), Name: c.Name, Contact: c.Contact, Telephone: c.Telephone,
			Email:   c.Email,
			Address: c.Address, Note: c.Note, Discount: discount,
		}))
	}
	require.NoError(
		t, s.SetSettings(ctx, owner, "change-settings", map[string]string{"shop_name": "Hill 100% Heads"}, nil),
	)
	of, err := trail.List(ctx, s, owner, trail.Ask{About: shop.About(shop.OfCustomer, c.ID)})
	require.NoError(t, err)
	require.Len(t, of.Lines, 2+before, "what changes nothing leaves no line")
	assert.Equal(t, c.Name+": discount: 5.00 % > 7.50 %", of.Lines[0].Detail)
	assert.Equal(t, "the office", of.Lines[0].Origin)
	assert.NotEmpty(t, of.Lines[0].Person)
	for text, n := range map[string]int{"100% heads": 1, "100_ heads": 0, "no such words": 0} {
		found, err := trail.List(ctx, s, owner, trail.Ask{Text: text})
		require.NoError(t, err)
		assert.Len(t, found.Lines, n, text)
	}
	_, err = trail.List(ctx, s, shop.Actor{ID: 2, Role: shop.Technician}, trail.Ask{})
	assert.ErrorIs(t, err, shop.ErrForbidden)
	_, err = trail.List(ctx, s, owner, trail.Ask{From: "yesterday"})
	assert.ErrorContains(t, err, "a day like")
}

// TestTheTrailIsPaged walks through all of the demo's trail: every line once, the newest first.
func TestTheTrailIsPaged(t *testing.T) {
	s := open(t, time.Now)
	seen, last := 0, uint(1<<62)
	for ask := (trail.Ask{}); ; {
		p, err := trail.List(t.Context(), s, owner, ask)
		require.NoError(t, err)
		for _, l := range p.Lines {
			require.Less(t, l.ID, last)
			last = l.ID
			seen++
		}
		if ask.Before = p.Older; p.Older == 0 {
			break
		}
	}
	newest, err := s.Store.Read(t.Context()).EventsAfter(0, 1_000_000)
	require.NoError(t, err)
	assert.Equal(t, len(newest), seen)
}
