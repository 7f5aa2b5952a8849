package customers_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/schematest"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/billing"
	"yatai/shop/customers"
	"yatai/store"
)

// settled hands T0406 over, its only head, with its bill issued and paid, and a mail, a photograph and an old
// job beside; and gives the customer's id.
func settled(t *testing.T, f *shoptest.Fixture, bill bool) uint {
	t.Helper()
	ctx, front := t.Context(), f.People[shop.Counter]
	h := f.File(t, "T0406")
	if bill {
		require.NoError(t, billing.Issue(ctx, f.Shop, front, "T0406", billing.IssueForm{WriteID: shoptest.ID()}))
		a, err := billing.AccountOf(ctx, f.Shop, h, nil)
		require.NoError(t, err)
		require.NoError(t, billing.Pay(ctx, f.Shop, front, "T0406",
			billing.PayForm{WriteID: shoptest.ID(), Sum: shop.Cash(a.Open()), How: "cash"}))
	}
	require.NoError(t, f.Shop.Store.Write(ctx, func(tx store.DB) error {
		c, err := tx.Customer(h.Job.CustomerID)
		if err != nil {
			return err
		}
		c.Telephone, c.Email, c.Address, c.Note = "0551 90210", "post@mossfield.example", "Mill Lane 3", "pays late"
		if err := tx.ChangeCustomer(c); err != nil {
			return err
		}
		sent := f.Shop.Now().Add(-48 * time.Hour)
		for _, row := range []any{
			&store.Mail{HeadID: h.ID, Recipient: c.Email, Subject: "your head", Body: "it is done", At: sent, SentAt: &sent},
			&store.Photo{HeadID: h.ID, Caption: "their name plate", JPEG: []byte{1}, At: sent, PersonID: front.ID},
			&store.OldJob{CustomerID: c.ID, OfMachine: "an old pump", Work: "skimmed"},
			&store.Event{HeadID: h.ID, What: "payment reminded", Detail: "by mail to " + c.Email, At: sent},
			&store.Event{About: shop.About(shop.OfCustomer, c.ID), What: "customer changed", Detail: "telephone", At: sent},
		} {
			if err := tx.Add(row); err != nil {
				return err
			}
		}
		return nil
	}))
	return h.Job.CustomerID
}

// gone hands over what is left of the customer's heads as the tests' own shop has them.
func gone(t *testing.T, f *shoptest.Fixture, id uint) {
	t.Helper()
	require.NoError(t, f.Shop.Store.Write(t.Context(), func(tx store.DB) error {
		heads, err := tx.HeadsOfCustomer(id, 100)
		if err != nil {
			return err
		}
		for _, h := range heads {
			if h.HandedOverAt == nil {
				if err := tx.HandOver(h.ID, f.Shop.Now(), "their driver"); err != nil {
					return err
				}
			}
		}
		return nil
	}))
}

// TestACustomersDataAreTold: all that is kept of them, and that it was asked for.
func TestACustomersDataAreTold(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	id := settled(t, f, true)
	_, err := customers.Tell(ctx, f.Shop, f.People[shop.Technician], shoptest.ID(), id)
	require.ErrorIs(t, err, shop.ErrForbidden)
	file, err := customers.Tell(ctx, f.Shop, front, shoptest.ID(), id)
	require.NoError(t, err)
	made, err := customers.DataSchema()
	schematest.Same(t, "customer", made, err)
	schematest.Holds(t, "customer", file)
	var d customers.Data
	require.NoError(t, json.Unmarshal(file, &d))
	for _, part := range []string{
		"Mossfield Growers", "0551 90210", "post@mossfield.example", "Mill Lane 3", "pays late", "Pump house 1", "it is done",
		"their name plate", "an old pump", "customer's data told", "by mail to post@mossfield.example",
	} {
		assert.Contains(t, string(file), part)
	}
	require.NotEmpty(t, d.Heads)
	assert.NotEmpty(t, d.Heads[len(d.Heads)-1].Quotes)
	assert.NotContains(t, string(file), "null", "a list of nothing is a list")
}

// TestWhoLookedAtACustomerIsInTheHistory: each person once a day.
func TestWhoLookedAtACustomerIsInTheHistory(t *testing.T) {
	f := shoptest.Open(t)
	ctx := t.Context()
	looked := func() (who []uint) {
		events, err := f.Store.Read(ctx).EventsAbout(shop.About(shop.OfCustomer, 1))
		require.NoError(t, err)
		for _, e := range events {
			if e.What == "customer's page looked at" {
				who = append(who, e.PersonID)
			}
		}
		return who
	}
	front, owner := f.People[shop.Counter], f.People[shop.Owner]
	for _, a := range []shop.Actor{front, owner, front} {
		require.NoError(t, customers.Looked(ctx, f.Shop, a, 1))
	}
	assert.Equal(t, []uint{front.ID, owner.ID}, looked())
	tomorrow := shop.New(f.Store, func() time.Time { return f.Now().AddDate(0, 0, 1) })
	require.NoError(t, customers.Looked(ctx, tomorrow, front, 1))
	assert.Equal(t, []uint{front.ID, owner.ID, front.ID}, looked())
}

// TestACustomerIsErased: once no head is here and no money open, by the owner, who types the name again; what
// was billed keeps its name until bills need not be kept, and readings stay.
func TestACustomerIsErased(t *testing.T) {
	for _, billed := range []bool{true, false} {
		f := shoptest.Open(t)
		ctx, owner := t.Context(), f.People[shop.Owner]
		id := settled(t, f, billed)
		if !billed {
			set(t, f, "bills_kept", "0") // an earlier visit's bill too
		}
		read := len(f.File(t, "T0406").Readings)
		form := customers.EraseForm{WriteID: shoptest.ID(), Name: "Mossfield Growers", Why: "their letter of today"}
		erase := func() error { return customers.Erase(ctx, f.Shop, owner, id, form) }
		assert.ErrorIs(t, customers.Erase(ctx, f.Shop, f.People[shop.Counter], id, form), shop.ErrForbidden)
		assert.ErrorContains(t, erase(), "is still here")
		gone(t, f, id)
		if !billed {
			require.NoError(t, f.Shop.Store.Write(ctx, func(tx store.DB) error {
				return tx.Add(&store.Payment{
					HeadID: f.File(t, "T0406").ID, Cents: 100, How: "cash", PersonID: owner.ID, At: f.Shop.Now(),
				})
			}))
			assert.ErrorContains(t, erase(), "are open for T0406", "what was paid ahead is open too")
			require.NoError(t, billing.Pay(ctx, f.Shop, owner, "T0406",
				billing.PayForm{WriteID: shoptest.ID(), Sum: "1", How: "cash", Back: true, Note: "nothing was done"}))
		}
		form.Name = "Mossfield"
		assert.ErrorContains(t, erase(), "as it stands above")
		form.Name = "Mossfield Growers"
		require.NoError(t, erase())

		file, err := customers.Tell(ctx, f.Shop, owner, shoptest.ID(), id)
		require.NoError(t, err)
		for _, part := range []string{
			"0551 90210", "post@mossfield.example", "pays late", "Pump house 1", "it is done", "their name plate", "an old pump",
			"their driver",
		} {
			assert.NotContains(t, string(file), part)
		}
		assert.Contains(t, string(file), "their letter of today")
		assert.Contains(t, string(file), "payment reminded", "that they were reminded stays")
		assert.Equal(t, read, len(f.File(t, "T0406").Readings))
		name := func() string {
			require.NoError(t, customers.Tidy(ctx, f.Shop))
			c, err := f.Shop.Store.Read(ctx).Customer(id)
			require.NoError(t, err)
			require.NotNil(t, c.Erased)
			return c.Name + c.Address
		}
		if !billed {
			assert.Equal(t, "erased customer 1", name())
			continue
		}
		assert.Equal(t, "Mossfield GrowersMill Lane 3", name())
		set(t, f, "bills_kept", "0")
		assert.Equal(t, "erased customer 1", name())
	}
}

// set keeps a setting of the shop.
func set(t *testing.T, f *shoptest.Fixture, key, value string) {
	t.Helper()
	require.NoError(t, f.Shop.Store.Write(t.Context(), func(tx store.DB) error {
		return tx.Set(key, value)
	}))
}

// TestMailsAndPhotographsAreKeptAsLongAsTheSettingsSay: for ever where they say 0.
func TestMailsAndPhotographsAreKeptAsLongAsTheSettingsSay(t *testing.T) {
	f := shoptest.Open(t)
	id := settled(t, f, false)
	gone(t, f, id)
	kept := func() (mails, photos int) {
		require.NoError(t, customers.Tidy(t.Context(), f.Shop))
		db := f.Shop.Store.Read(t.Context())
		m, err := db.MailsOf(f.File(t, "T0406").ID)
		require.NoError(t, err)
		p, err := db.PhotosOf(f.File(t, "T0406").ID)
		require.NoError(t, err)
		return len(m), len(p)
	}
	mails, photos := kept()
	assert.NotZero(t, mails)
	assert.NotZero(t, photos)
	set(t, f, "mails_kept", "3")
	same, _ := kept()
	assert.Equal(t, mails, same, "sent two days ago")
	set(t, f, "mails_kept", "1")
	set(t, f, "photos_kept", "1")
	fewer, still := kept()
	assert.Less(t, fewer, mails)
	assert.Equal(t, photos, still, "it left today")
}
