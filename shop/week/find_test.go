package week_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/week"
	"yatai/store"
)

// TestAHeadIsFoundByItsBill looks for a head that left by the number of its bill, whole or its end: what is open
// of the order is told with it.
func TestAHeadIsFoundByItsBill(t *testing.T) {
	f := shoptest.Open(t)
	db := f.Store.Read(t.Context())
	owed, err := db.Owed(10)
	require.NoError(t, err)
	require.NotEmpty(t, owed)
	bills, err := db.Bills(f.File(t, owed[0].Tag).ID)
	require.NoError(t, err)
	number := bills[0].Number
	for _, typed := range []string{number, " " + number + " ", number[len(number)-4:]} {
		hits, err := week.Find(t.Context(), f.Shop, typed)
		require.NoError(t, err)
		require.Len(t, hits, 1, typed)
		assert.Equal(t, owed[0].Tag, hits[0].Tag)
		assert.Equal(t, owed[0].Cents(), hits[0].Owed)
	}
	hits, err := week.Find(t.Context(), f.Shop, "T0401")
	require.NoError(t, err)
	assert.Zero(t, hits[0].Owed, "nothing of it was billed")
	for _, typed := range []string{number[len(number)-3:], "9999-9999"} {
		hits, err = week.Find(t.Context(), f.Shop, typed)
		require.NoError(t, err)
		for _, h := range hits {
			assert.NotEqual(t, owed[0].Tag, h.Tag, "three digits are no bill's: %s", typed)
		}
	}
}

// TestFindSaysWhereAHeadIs looks for heads as the counter does: by telephone, by a note, by what is told.
func TestFindSaysWhereAHeadIs(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	head := f.File(t, "T0401")
	require.NoError(t, f.Store.Write(ctx, func(tx store.DB) error {
		c := head.Job.Customer
		c.Telephone = "+49 (0)171 / 234 56-78"
		return tx.ChangeCustomer(c)
	}))
	tags := func(text string) (out []string) {
		hits, err := week.Find(ctx, f.Shop, text)
		require.NoError(t, err, text)
		for _, h := range hits {
			if h.Job.CustomerID == head.Job.CustomerID {
				out = append(out, h.Tag)
			}
		}
		return out
	}
	for _, typed := range []string{
		"0171 2345678", "+49 171 2345678", "2345678", head.Job.Customer.Name, strings.ToLower(head.Job.Machine.Name),
		"T0401",
	} {
		assert.Contains(t, tags(typed), "T0401", typed)
	}
	assert.Empty(t, tags("0171 2345679"))

	assert.Empty(t, tags("wants it Thursday"))
	require.NoError(t, week.KeepNote(ctx, f.Shop, front, shoptest.ID(), "T0401", "called, wants it Thursday", true))
	hits, err := week.Find(ctx, f.Shop, "wants it thursday")
	require.NoError(t, err)
	require.Len(t, hits, 1)
	assert.True(t, hits[0].Open)
	assert.NotEmpty(t, hits[0].Station)
	assert.NotEmpty(t, hits[0].Waiting)
	assert.Equal(t, "called, wants it Thursday", hits[0].Note)
	require.NoError(t, week.KeepNote(ctx, f.Shop, front, shoptest.ID(), "T0401", "paid in advance", false))
	cards, err := week.Floor(ctx, f.Shop)
	require.NoError(t, err)
	for _, c := range cards {
		assert.Equal(t, c.Tag == "T0401", c.Pinned == "called, wants it Thursday", c.Tag)
	}
	var errs field.Errors
	require.ErrorAs(t, week.KeepNote(ctx, f.Shop, front, shoptest.ID(), "T0401", "  ", false), &errs)
	assert.Contains(t, errs.Message("note"), "remembered")
}
