package billing_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/bill"
	"yatai/core/words"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/billing"
	"yatai/shop/customers"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/quoting"
	"yatai/store"
)

// pair takes in two heads of one order, each with a quote of what was agreed freely, said yes to, and passes them.
func pair(t *testing.T, f *shoptest.Fixture) (tags [2]string) {
	t.Helper()
	ctx, front := t.Context(), f.People[shop.Counter]
	first, err := intake.TakeIn(ctx, f.Shop, front, intake.IntakeForm{
		WriteID: shoptest.ID(), Customer: "Weir Rowing Club", Machine: "Launch", Model: "1", Kind: "rebuild", Heads: "2",
		Marks: "port; starboard",
	})
	require.NoError(t, err)
	tags[0] = first
	order, err := quoting.OrderOf(ctx, f.Shop, f.File(t, first))
	require.NoError(t, err)
	tags[1] = order.Others[0].Tag
	for i, tag := range tags {
		v, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), tag, quoting.Draft{
			Free: []string{"Fetched = 40.00\ncould: Painted = 20.00", "Fetched = 60.00"}[i],
		})
		require.NoError(t, err)
		yes := quoting.Answer{Name: "the coach", Must: true}
		require.NoError(t, quoting.ApproveVerbally(ctx, f.Shop, front, shoptest.ID(), tag, v, yes, "by telephone"))
	}
	return tags
}

// passed notes that heads passed their final check.
func passed(t *testing.T, f *shoptest.Fixture, tags ...string) {
	t.Helper()
	for _, tag := range tags {
		require.NoError(t, f.Shop.Store.Write(t.Context(), func(tx store.DB) error {
			return tx.CloseHead(f.File(t, tag).ID, f.Shop.Now(), "", "the lead", "")
		}))
	}
}

// TestASetIsOneBill: what was agreed freely is done with its head; what can be billed of both goes on one bill, each
// line with its tag, and either head's page says the same of what is billed, paid and open.
func TestASetIsOneBill(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	tags := pair(t, f)
	of := func(tag string) billing.Account {
		a, err := billing.AccountOf(ctx, f.Shop, f.File(t, tag), nil)
		require.NoError(t, err)
		return a
	}
	assert.Empty(t, of(tags[0]).Next, "nothing is done yet")
	passed(t, f, tags[0])
	assert.NotEmpty(t, of(tags[0]).Next, "fetched, and not painted")
	others, err := billing.Others(ctx, f.Shop, f.File(t, tags[0]), of(tags[0]))
	require.NoError(t, err)
	assert.Empty(t, others, "the other is not done")
	passed(t, f, tags[1])
	one, two := of(tags[0]), of(tags[1])
	others, err = billing.Others(ctx, f.Shop, f.File(t, tags[0]), one)
	require.NoError(t, err)
	require.Len(t, others, 1)
	assert.Equal(t, two.Totals.Net, others[0].Net)

	require.NoError(t, billing.Issue(ctx, f.Shop, front, tags[0], billing.IssueForm{WriteID: shoptest.ID(), Set: true}))
	want := bill.Sum(append(one.Next, two.Next...), one.Tax)
	for _, tag := range tags {
		a := of(tag)
		require.Len(t, a.Bills, 1)
		assert.Equal(t, want, bill.Totals{Net: a.Bills[0].NetCents, Tax: a.Bills[0].TaxCents, Gross: a.Bills[0].Gross()})
		assert.Equal(t, want.Gross, a.Open())
		assert.Empty(t, a.Next, "nothing of it is billed twice")
		assert.Equal(t, tags[:], a.Of(a.Bills[0]))
		for _, r := range a.Rows {
			assert.Equal(t, r.Name == "Fetched", r.Done, "%s: what was declined is not done", r.Name)
			assert.Equal(t, r.Name == "Fetched", r.Billed == a.Bills[0].Number, "%s: %s", tag, r.Name)
		}
	}
	a := of(tags[1])
	name := a.Name(f.File(t, tags[1]), a.Bills[0], a.Bills[0].Lines[0], words.English)
	assert.Contains(t, name, tags[0]+": ")

	require.NoError(t, billing.Pay(ctx, f.Shop, front, tags[1],
		billing.PayForm{WriteID: shoptest.ID(), Sum: shop.Cash(want.Gross), How: "cash"}))
	assert.Zero(t, of(tags[0]).Open(), "paid on the other's page")
	month, err := billing.MonthOf(ctx, f.Shop, front, f.Shop.Now().Local())
	require.NoError(t, err)
	for _, o := range month.Open {
		assert.NotEqual(t, "Weir Rowing Club", o.Customer)
	}

	require.NoError(t, billing.Credit(ctx, f.Shop, front, shoptest.ID(), tags[1], a.Bills[0].Number, "to another name"))
	for _, b := range of(tags[0]).Bills {
		assert.Equal(t, tags[:], of(tags[0]).Of(b), "the credit is of the heads of its bill")
		assert.Equal(t, f.File(t, tags[0]).ID, b.HeadID)
	}
	for _, tag := range tags {
		events, err := f.Shop.Store.Read(ctx).Events(f.File(t, tag).ID)
		require.NoError(t, err)
		assert.Equal(t, "credited", events[0].What, "it is in the history of both")
	}
	assert.Equal(t, one.Next, of(tags[0]).Next, "both can be billed anew")
	assert.Equal(t, two.Next, of(tags[1]).Next)
	assert.Equal(t, -want.Gross, of(tags[0]).Open())
	_, err = customers.Tell(ctx, f.Shop, front, shoptest.ID(), f.File(t, tags[0]).Job.CustomerID)
	require.NoError(t, err)
	assert.Equal(t, headfile.Must, f.File(t, tags[0]).Approved.Quotes[0].Lines[0].Grp)
}
