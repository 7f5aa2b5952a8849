package billing_test

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/bill"
	"yatai/core/field"
	"yatai/core/invoice"
	"yatai/core/money"
	"yatai/core/words"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/billing"
	"yatai/shop/customers"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/quoting"
	"yatai/shop/work"
	"yatai/store"
)

// open is a copy of the demo's shop in which every bill that went out is paid, long ago.
func open(t *testing.T) *shoptest.Fixture {
	t.Helper()
	f := shoptest.Open(t)
	owed, err := f.Store.Read(t.Context()).Owed(100)
	require.NoError(t, err)
	require.NoError(t, f.Store.Write(t.Context(), func(tx store.DB) error {
		for _, o := range owed {
			if err := tx.Add(&store.Payment{
				HeadID: f.File(t, o.Tag).ID, Cents: o.Cents(), How: "cash", PersonID: 1, At: f.Now().AddDate(-1, 0, 0),
			}); err != nil {
				return err
			}
		}
		return nil
	}))
	return f
}

// billedBefore is how many bills of this year the demo's shop has issued, before any of T0401.
func billedBefore(t *testing.T, f *shoptest.Fixture) (n int) {
	t.Helper()
	tags, err := f.Store.Read(t.Context()).Tags()
	require.NoError(t, err)
	var ids []uint
	for _, tag := range tags {
		if tag != "T0401" {
			ids = append(ids, f.File(t, tag).ID)
		}
	}
	bills, err := f.Store.Read(t.Context()).Bills(ids...)
	require.NoError(t, err)
	for _, b := range bills {
		if strings.HasPrefix(b.Number, f.Now().Format("2006")) {
			n++
		}
	}
	return n
}

// account is where the money of T0401 stands.
func account(t *testing.T, f *shoptest.Fixture) billing.Account {
	t.Helper()
	a, err := billing.AccountOf(t.Context(), f.Shop, f.File(t, "T0401"), nil)
	require.NoError(t, err)
	return a
}

// ordered has T0401 quoted, approved and ordered.
func ordered(t *testing.T) *shoptest.Fixture {
	t.Helper()
	f := open(t)
	orderedIn(t, f)
	return f
}

// orderedIn has T0401 of a shop quoted, approved and ordered.
func orderedIn(t *testing.T, f *shoptest.Fixture) {
	t.Helper()
	f.Mended(t, "T0401")
	f.Approve(t, "T0401", quoting.Answer{Name: "the grower", Must: true})
	require.NoError(t, lead.OrderWork(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), "T0401"))
}

// finished does the operations of the route from one to another; what needs a proof is left out.
func finished(t *testing.T, f *shoptest.Fixture, from, to int) {
	t.Helper()
	ctx, tech, chief := t.Context(), f.People[shop.Technician], f.People[shop.Lead]
	for _, o := range f.File(t, "T0401").Operations[from:to] {
		require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), "T0401", o.Seq, work.Pauses))
		f.Record(t, "T0401", o)
		if work.Finish(ctx, f.Shop, tech, shoptest.ID(), "T0401", o.Seq, "", "bought today") != nil {
			require.NoError(t, work.Skip(ctx, f.Shop, chief, shoptest.ID(), "T0401", o.Seq, "done elsewhere"))
		}
	}
}

// TestAJobIsBilledAsItIsDone bills what is done, then the rest: nothing twice, nothing that was not said
// yes to or was left out, and together what was agreed.
func TestAJobIsBilledAsItIsDone(t *testing.T) {
	f := ordered(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	issue := func() error {
		return billing.Issue(ctx, f.Shop, front, "T0401", billing.IssueForm{WriteID: shoptest.ID()})
	}
	assert.ErrorContains(t, issue(), "nothing to bill")
	assert.ErrorIs(t, billing.Issue(ctx, f.Shop, f.People[shop.Technician], "T0401", billing.IssueForm{WriteID: shoptest.ID()}),
		shop.ErrForbidden)

	all := len(f.File(t, "T0401").Operations)
	finished(t, f, 0, 2)
	first := account(t, f)
	require.NotEmpty(t, first.Next)
	require.NoError(t, issue())
	after := account(t, f)
	require.Len(t, after.Bills, 1)
	assert.Equal(t, first.Totals.Gross, after.Open())
	assert.Equal(t, fmt.Sprintf("%s-%04d", f.Now().Format("2006"), billedBefore(t, f)+1), after.Bills[0].Number)
	assert.Empty(t, after.Next, "nothing is billed twice")
	assert.ErrorContains(t, issue(), "nothing to bill")

	finished(t, f, 2, all)
	require.NoError(t, issue())
	end := account(t, f)
	require.Len(t, end.Bills, 2)
	assert.Empty(t, end.Next)
	q := f.File(t, "T0401").Approved.Quotes[0]
	var net, work int64
	for _, b := range end.Bills {
		net += b.NetCents
		assert.Equal(t, b.Tax().Of(b.NetCents, 0), b.TaxCents)
	}
	for _, r := range end.Rows {
		if r.Billed != "" {
			assert.True(t, r.Approved && r.Done, r.Name)
			work += r.Quoted
		} else {
			assert.True(t, !r.Approved || r.Out, "forgotten: %s", r.Name)
		}
	}
	assert.LessOrEqual(t, work, q.Totals().Net)
	assert.Equal(t, max(work, q.MinimumCents), net, "no discount on this one")
}

// TestWhatTheShopOwesIsOnTheBillAndTakenOff: a line under warranty, with its reason; it is not asked for
// again, and when the bill is credited it can be billed anew.
func TestWhatTheShopOwesIsOnTheBillAndTakenOff(t *testing.T) {
	f := ordered(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	finished(t, f, 0, len(f.File(t, "T0401").Operations))
	before := account(t, f)
	i := slices.IndexFunc(before.Rows, func(r billing.Row) bool { return r.Approved && r.Done && r.Quoted > 0 })
	owed := before.Rows[i]
	form := billing.IssueForm{WriteID: shoptest.ID(), Given: map[string]string{owed.GivenKey(): "warranty"}}
	shown, err := billing.AccountOf(ctx, f.Shop, f.File(t, "T0401"), form.Given)
	require.NoError(t, err)
	assert.Less(t, shown.Totals.Net, before.Totals.Net, "what it comes to is seen before it is issued")

	var errs field.Errors
	require.ErrorAs(t, billing.Issue(ctx, f.Shop, front, "T0401", form), &errs)
	assert.Contains(t, errs["why_given"].String(), "say why")
	form.Why = "the seat came loose after a month"
	require.NoError(t, billing.Issue(ctx, f.Shop, front, "T0401", form))
	a := account(t, f)
	assert.Equal(t, shown.Totals.Gross, a.Billed())
	assert.Equal(t, "the seat came loose after a month", a.Bills[0].Why)
	assert.Equal(t, bill.Warranty, a.Rows[i].Given)
	assert.Empty(t, a.Next, "nothing of it is asked for later")
	month, err := billing.MonthOf(ctx, f.Shop, front, f.Shop.Now().Local())
	require.NoError(t, err)
	assert.Equal(t, owed.Quoted, month.Warranty)
	assert.Zero(t, month.Goodwill)

	require.NoError(t, billing.Credit(ctx, f.Shop, front, shoptest.ID(), "T0401", a.Bills[0].Number, "not owed after all"))
	a = account(t, f)
	assert.Empty(t, a.Rows[i].Given)
	assert.Equal(t, before.Totals, a.Totals)
	month, err = billing.MonthOf(ctx, f.Shop, front, f.Shop.Now().Local())
	require.NoError(t, err)
	assert.Zero(t, month.Warranty, "credited")
}

// TestABillIsCreditedAndWrittenAnew credits a bill whole: it stays, a credit takes it back, and what was on
// it can be billed again.
func TestABillIsCreditedAndWrittenAnew(t *testing.T) {
	f := ordered(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	finished(t, f, 0, 2)
	issue := func() error {
		return billing.Issue(ctx, f.Shop, front, "T0401", billing.IssueForm{WriteID: shoptest.ID()})
	}
	require.NoError(t, issue())
	was := account(t, f).Bills[0]
	var errs field.Errors
	require.ErrorAs(t, billing.Credit(ctx, f.Shop, front, shoptest.ID(), "T0401", was.Number, " "), &errs)
	assert.Contains(t, errs.Message("why/"+was.Number), "say why")
	require.NoError(t, billing.Credit(ctx, f.Shop, front, shoptest.ID(), "T0401", was.Number, "wrong customer"))
	acc := account(t, f)
	assert.Zero(t, acc.Billed())
	require.NotEmpty(t, acc.Next)
	credit := acc.Bills[1]
	assert.Equal(t, acc.Credited[was.ID], credit.Number)
	assert.ErrorIs(t, billing.Credit(ctx, f.Shop, front, shoptest.ID(), "T0401", was.Number, "again"), shop.ErrStale)
	assert.ErrorIs(t, billing.Credit(ctx, f.Shop, front, shoptest.ID(), "T0401", credit.Number, "a credit"), shop.ErrStale)
	assert.ErrorIs(t, billing.Credit(ctx, f.Shop, front, shoptest.ID(), "T0401", "1999-0001", "none"), shop.ErrNotFound)
	require.NoError(t, issue())
	acc = account(t, f)
	assert.Equal(t, was.Gross(), acc.Billed())
	for i, b := range acc.Bills {
		assert.Equal(t, fmt.Sprintf("-%04d", billedBefore(t, f)+1+i), b.Number[4:], "one after the other")
	}
	assert.Error(t, f.Store.Write(ctx, func(tx store.DB) error {
		return tx.Add(&store.Bill{Number: was.Number, HeadID: was.HeadID, PersonID: front.ID})
	}))
}

// said keeps a customer of T0401 as they are taxed.
func said(t *testing.T, f *shoptest.Fixture, form customers.Form) {
	c := f.File(t, "T0401").Job.Customer
	form.WriteID, form.Name = shoptest.ID(), cmp.Or(form.Name, c.Name)
	require.NoError(t, customers.Change(t.Context(), f.Shop, f.People[shop.Counter], c.ID, form))
}

// read is a bill of T0401 as it is read now, and as an electronic invoice.
func read(t *testing.T, f *shoptest.Fixture, b store.Bill, credits string) (billing.Issued, invoice.Invoice) {
	set, err := f.Settings(t.Context(), "")
	require.NoError(t, err)
	file := f.File(t, "T0401")
	return billing.Read(file, b, set), account(t, f).Invoice(file, b, credits, set)
}

// TestACustomerWhoIsChargedNoTax is quoted and billed without, for the reason that is kept of them; the bill
// stays as it was issued when they are charged again or move, and a credit is as its bill.
func TestACustomerWhoIsChargedNoTax(t *testing.T) {
	f := open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	said(t, f, customers.Form{
		Taxed: store.Reverse, NoTax: "article 44", TaxNo: "AT123", Country: "at", Address: "Hill 1",
	})
	name := f.File(t, "T0401").Job.Customer.Name
	orderedIn(t, f)
	finished(t, f, 0, 2)
	acc := account(t, f)
	require.NotEmpty(t, acc.Next)
	assert.Zero(t, acc.Totals.Tax)
	require.NoError(t, billing.Issue(ctx, f.Shop, front, "T0401", billing.IssueForm{WriteID: shoptest.ID()}))
	said(t, f, customers.Form{Name: "Another name"})
	b := account(t, f).Bills[0]
	require.NoError(t, billing.Credit(ctx, f.Shop, front, shoptest.ID(), "T0401", b.Number, "sent back"))
	for number, of := range map[string]store.Bill{"": b, b.Number: account(t, f).Bills[1]} {
		assert.Zero(t, of.TaxCents)
		paper, electronic := read(t, f, of, number)
		assert.Equal(t, []string{
			"Reverse charge: who receives this owes the tax on it. article 44", "Tax number of who receives it: AT123",
		}, paper.TaxNotes(words.English))
		assert.True(t, electronic.Reverse)
		assert.Equal(t, invoice.Party{Name: name, Address: "Hill 1", Country: "AT", TaxNo: "AT123"}, electronic.Buyer)
		assert.Equal(t, "Reverse charge: who receives this owes the tax on it. article 44", electronic.NoTax)
	}
}

// TestPartsAreTaxedAtTheirOwnRate in the quote, the bill, its electronic invoice and what credits it; with
// prices that have their tax in them the lines come to what is paid.
func TestPartsAreTaxedAtTheirOwnRate(t *testing.T) {
	f := open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	require.NoError(t, f.SetSettings(ctx, f.People[shop.Owner], shoptest.ID(),
		map[string]string{"tax": "0", "tax_parts": "7.75", "prices": "with tax"}, nil))
	orderedIn(t, f)
	q := f.File(t, "T0401").Approved.Quotes[0]
	assert.Equal(t, money.Tax{PartsPPM: 77_500}, q.Tax())
	assert.Greater(t, q.ShownOf(), q.Totals().Net, "with tax")
	var parts int64
	for _, l := range q.Lines {
		if q.Answers[l.Seq] {
			parts += l.PartsCents
		}
	}
	require.NotZero(t, parts)
	assert.Equal(t, money.Share(parts, 77_500), q.Totals().Tax)
	finished(t, f, 0, len(f.File(t, "T0401").Operations))
	require.NoError(t, billing.Issue(ctx, f.Shop, front, "T0401", billing.IssueForm{WriteID: shoptest.ID()}))
	b := account(t, f).Bills[0]
	require.NoError(t, billing.Credit(ctx, f.Shop, front, shoptest.ID(), "T0401", b.Number, "sent back"))
	for number, of := range map[string]store.Bill{"": b, b.Number: account(t, f).Bills[1]} {
		paper, electronic := read(t, f, of, number)
		require.Len(t, paper.Taxed, 2)
		var shown, lines, tax int64
		for _, cents := range paper.Sums {
			shown += cents
		}
		assert.Equal(t, of.Gross(), shown)
		assert.Equal(t, of.NetCents, paper.Taxed[0].Net+paper.Taxed[1].Net)
		assert.Equal(t, of.TaxCents, paper.Taxed[1].Tax)
		for _, l := range electronic.Lines {
			lines += l.Cents
		}
		for _, x := range electronic.Taxed {
			lines, tax = lines-x.Net, tax+x.Tax
		}
		assert.Zero(t, lines, "its lines are what is taxed")
		assert.Positive(t, tax)
	}
}

// TestADepositAndTwoPayments pays ahead, then the rest; what is paid back is no more than was paid.
func TestADepositAndTwoPayments(t *testing.T) {
	f := ordered(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	others, err := billing.MonthOf(ctx, f.Shop, front, f.Now())
	require.NoError(t, err)
	pay := func(sum, how, note string, back bool) error {
		return billing.Pay(ctx, f.Shop, front, "T0401",
			billing.PayForm{WriteID: shoptest.ID(), Sum: sum, How: how, Note: note, Back: back})
	}
	require.NoError(t, pay("30.00", "cash", "deposit", false))
	assert.Equal(t, int64(-30_00), account(t, f).Open(), "paid ahead")
	finished(t, f, 0, 2)
	require.NoError(t, billing.Issue(ctx, f.Shop, front, "T0401", billing.IssueForm{WriteID: shoptest.ID()}))
	open := account(t, f).Open()
	assert.Equal(t, account(t, f).Billed()-30_00, open)
	require.NoError(t, pay(shop.Cash(open-5_00), "transfer", "", false))
	assert.Equal(t, int64(5_00), account(t, f).Open())
	require.NoError(t, pay("5", "card", "", false))
	assert.Zero(t, account(t, f).Open())

	for _, c := range []struct {
		sum, how, note, field string
		back                  bool
	}{
		{"", "cash", "", "sum", false}, {"0", "cash", "", "sum", false}, {"-3", "cash", "", "sum", false},
		{"5", "shells", "", "how", false},
		{"5", "cash", "", "paid_note", true}, {"900000", "cash", "too much", "sum", true},
	} {
		var errs field.Errors
		require.ErrorAs(t, pay(c.sum, c.how, c.note, c.back), &errs, "%v", c)
		assert.NotEmpty(t, errs.Message(c.field), "%v", c)
	}
	require.NoError(t, pay("5", "cash", "they paid twice", true))
	assert.Equal(t, int64(5_00), account(t, f).Open())

	m, err := billing.MonthOf(ctx, f.Shop, front, f.Now())
	require.NoError(t, err)
	acc := account(t, f)
	assert.Equal(t, acc.Billed(), m.Billed)
	assert.Equal(t, m.Net+m.Tax, m.Billed)
	assert.Equal(t, acc.Paid(), m.Paid-others.Paid)
	require.Len(t, m.Open, 1)
	assert.Equal(t, int64(5_00), m.Open[0].Cents())
	require.Len(t, m.By, 1)
	assert.Equal(t, f.File(t, "T0401").Job.Customer.Name, m.By[0].Name)
	assert.Equal(t, m.Billed, m.By[0].Cents)
	net := int64(0)
	for i, w := range m.ByWork {
		net += w.Cents
		assert.True(t, i == 0 || m.ByWork[i-1].Cents >= w.Cents, "the most first")
	}
	assert.Equal(t, m.Net, net, "every cent before tax is of some work")
	assert.Greater(t, len(m.ByWork), 1)
	before, err := billing.MonthOf(ctx, f.Shop, front, f.Now().AddDate(-10, 0, 0))
	require.NoError(t, err)
	assert.Zero(t, before.Billed)
}

// TestAHeadThatWentBackIsBilledWhatIsOwed: the sum that was said is what is to be paid, with its tax in it.
func TestAHeadThatWentBackIsBilledWhatIsOwed(t *testing.T) {
	f := open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	ends := work.EndForm{WriteID: shoptest.ID(), Kind: "refused", State: "whole", Owed: "45.00", Why: "too dear"}
	require.NoError(t, work.EndHead(ctx, f.Shop, front, "T0401", ends))
	acc := account(t, f)
	assert.Equal(t, int64(45_00), acc.Totals.Gross)
	given, err := billing.AccountOf(ctx, f.Shop, f.File(t, "T0401"),
		map[string]string{acc.Rows[len(acc.Rows)-1].GivenKey(): "goodwill"})
	require.NoError(t, err)
	assert.Zero(t, given.Totals.Gross, "it can be given, too")
	require.NoError(t, billing.Issue(ctx, f.Shop, front, "T0401", billing.IssueForm{WriteID: shoptest.ID()}))
	acc = account(t, f)
	assert.Equal(t, int64(45_00), acc.Open())
	assert.Empty(t, acc.Next)
}

// TestABillWaitsForAPriceThatFollows: a line with parts whose price was to follow asks for it first.
func TestABillWaitsForAPriceThatFollows(t *testing.T) {
	f := open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	f.Mended(t, "T0401")
	require.NoError(t, f.Store.Write(ctx, func(tx store.DB) error {
		items, err := tx.StockItems()
		for _, it := range items {
			if it.PriceCents = 0; err == nil {
				err = tx.ChangeStock(it)
			}
		}
		return err
	}))
	f.Approve(t, "T0401", quoting.Answer{Name: "the grower", Must: true})
	q := f.File(t, "T0401").Approved.Quotes[0]
	i := slices.IndexFunc(q.Lines, func(l store.QuoteLine) bool { return l.Grp == headfile.Must && l.Unpriced > 0 })
	require.GreaterOrEqual(t, i, 0)
	line := q.Lines[i]
	require.NoError(t, lead.OrderWork(ctx, f.Shop, f.People[shop.Lead], shoptest.ID(), "T0401"))
	finished(t, f, 0, len(f.File(t, "T0401").Operations))
	prices := map[string]string{}
	for _, r := range account(t, f).Rows {
		if r.Follows() {
			prices[r.Key()] = "1.00"
		}
	}
	key := billing.Row{Quote: q.Version, Line: line.Seq}.Key()
	require.Contains(t, prices, key)
	var errs field.Errors
	require.ErrorAs(t, billing.Issue(ctx, f.Shop, front, "T0401", billing.IssueForm{WriteID: shoptest.ID()}), &errs)
	assert.Contains(t, errs.Message(key), "was to follow")
	words := billing.IssueForm{WriteID: shoptest.ID(), Prices: map[string]string{key: "a lot"}}
	require.ErrorAs(t, billing.Issue(ctx, f.Shop, front, "T0401", words), &errs)
	net := account(t, f).Totals.Net
	require.NoError(t, billing.Issue(ctx, f.Shop, front, "T0401", billing.IssueForm{WriteID: shoptest.ID(), Prices: prices}))
	assert.Equal(t, net+int64(len(prices))*1_00, account(t, f).Bills[0].NetCents)
}

// TestWhatIsOverdueIsRemindedOf: once a day, by mail in the customer's language or told, and not while nothing is late.
func TestWhatIsOverdueIsRemindedOf(t *testing.T) {
	f := ordered(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	finished(t, f, 0, 3)
	require.NoError(t, billing.Issue(ctx, f.Shop, front, "T0401", billing.IssueForm{WriteID: shoptest.ID()}))
	open := account(t, f).Open()
	require.Positive(t, open)
	due := account(t, f).Bills[0].Due
	remind := func(s *shop.Shop, told string) error {
		return billing.Remind(ctx, s, front, "T0401",
			billing.RemindForm{WriteID: shoptest.ID(), Mail: told == "", Told: told})
	}
	assert.ErrorContains(t, remind(f.Shop, ""), "nothing is open past its day")
	assert.Equal(t, 0, account(t, f).Overdue(due.Add(23*time.Hour)))
	late := f.At(due.Add(25 * time.Hour))
	assert.Equal(t, 1, account(t, f).Overdue(late.Now()))
	assert.ErrorContains(t, remind(late, ""), "no mail address")
	assert.ErrorIs(t, billing.Remind(ctx, late, f.People[shop.Technician], "T0401",
		billing.RemindForm{WriteID: shoptest.ID(), Mail: true}), shop.ErrForbidden)
	assert.ErrorContains(t, remind(late, " "), "how they heard of it")
	require.NoError(t, remind(late, "by telephone: pays on Friday"))
	assert.ErrorContains(t, remind(late, "again"), "today already")

	c := f.File(t, "T0401").Job.Customer
	form := customers.Form{WriteID: shoptest.ID(), Name: c.Name, Email: "grower@field.example", Language: "de"}
	require.NoError(t, customers.Change(ctx, f.Shop, front, c.ID, form))
	later := f.At(due.AddDate(0, 0, 8))
	require.NoError(t, remind(later, ""))
	assert.Len(t, account(t, f).Reminders, 2)
	mails, err := f.Store.Read(ctx).Mails()
	require.NoError(t, err)
	mail := mails[slices.IndexFunc(mails, func(m store.Mail) bool { return m.Recipient == "grower@field.example" })]
	assert.Contains(t, mail.Subject, "sind offen")
	assert.Contains(t, mail.Body, shop.Cash(open))
	month, err := billing.MonthOf(ctx, later, front, later.Now())
	require.NoError(t, err)
	require.Len(t, month.Open, 1)
	assert.Equal(t, 8, month.Open[0].Overdue)

	require.NoError(t, billing.Pay(ctx, f.Shop, front, "T0401",
		billing.PayForm{WriteID: shoptest.ID(), Sum: shop.Cash(open), How: "cash"}))
	assert.ErrorContains(t, remind(f.At(due.AddDate(0, 1, 0)), ""), "nothing is open")
}

// TestADepositIsAskedFor of what was said yes to, by the share that stood when the quote was written.
func TestADepositIsAskedFor(t *testing.T) {
	f := open(t)
	ask := func(percent string) {
		require.NoError(t, f.SetSettings(t.Context(), f.People[shop.Owner], shoptest.ID(),
			map[string]string{"deposit": percent}, nil))
	}
	ask("30")
	f.Mended(t, "T0401")
	f.Approve(t, "T0401", quoting.Answer{Name: "the grower", Must: true})
	ask("50")
	q := f.File(t, "T0401").Approved.Quotes[0]
	agreed := q.Totals().Gross
	require.Positive(t, agreed)
	assert.Equal(t, (agreed*30+50)/100, q.Deposit())
	assert.Equal(t, q.Deposit(), account(t, f).Deposit)
}
