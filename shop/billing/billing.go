// Package billing is the money of a job to its end: bills of what was said yes to and done, payments,
// credits, and what is open. AccountOf is its door: where a head's money stands. Tax rules differ from
// country to country and trade to trade: a shop has its bills looked at by whoever keeps its books.
package billing

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"yatai/core/bill"
	"yatai/core/field"
	"yatai/core/money"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Row is a line that was quoted, and what became of it.
type Row struct {
	Quote, Line     int
	Name, Positions string
	Quoted          int64 // cents, before discount and tax
	Approved        bool
	Answered        bool
	Done, Out       bool
	Unpriced        int    // parts of it whose price was to follow
	Billed          string // number of the bill it is on; empty while it is on none
}

// Key names the row in a form.
func (r Row) Key() string { return fmt.Sprintf("price/%d/%d", r.Quote, r.Line) }

// Follows tells whether it can be billed but for the price of parts that was to follow.
func (r Row) Follows() bool { return r.Approved && r.Done && r.Unpriced > 0 && r.Billed == "" }

// Account is where the money of a head's job stands. Sums are cents.
type Account struct {
	Rows     []Row
	Next     []bill.Line // what can be billed now
	Totals   bill.Totals // of that
	TaxPPM   int64
	Currency string
	Bills    []store.Bill // credits too, the oldest first
	Payments []store.Payment
	Credited map[uint]string // number of what credits a bill, by the bill

	Reminders []store.Event // of payment, the newest first
	Deposit   int64         // that was asked for, of what was said yes to
}

// Billed is what all bills come to, credits taken off.
func (a Account) Billed() int64 {
	var n int64
	for _, b := range a.Bills {
		n += b.Gross()
	}
	return n
}

// Paid is what was paid, less what was paid back.
func (a Account) Paid() int64 {
	var n int64
	for _, p := range a.Payments {
		n += p.Cents
	}
	return n
}

// Open is what is still to be paid; less than nothing when more was paid than is billed: a deposit.
func (a Account) Open() int64 { return a.Billed() - a.Paid() }

// AccountOf returns where the money of a head's job stands.
func AccountOf(ctx context.Context, s *shop.Shop, f *headfile.File) (Account, error) {
	return accountIn(s.Store.Read(ctx), f, nil)
}

// accountIn is AccountOf with the prices that followed, in cents by a row's key.
func accountIn(db store.DB, f *headfile.File, prices map[string]int64) (Account, error) {
	a := Account{Credited: map[uint]string{}}
	var err error
	if a.Bills, err = db.Bills(f.ID); err != nil {
		return a, err
	}
	if a.Payments, err = db.Payments(f.ID); err != nil {
		return a, err
	}
	events, err := db.Events(f.ID)
	if err != nil {
		return a, err
	}
	a.Reminders = remindersOf(events)
	for _, q := range f.Approved.Quotes {
		if q.Accepted() {
			a.Deposit += q.Deposit()
		}
	}
	v, err := db.Settings()
	if err != nil {
		return a, err
	}
	set := shop.SettingsFor(v, f.Tag)
	a.Currency = set.Get("currency")
	tax, _ := money.Parse(set.Get("tax"))
	a.TaxPPM = tax * 100
	a.reckon(f, f.Approved.Quotes, prices)
	return a, nil
}

// rated is what was agreed at one rate of tax: a bill has one.
type rated struct {
	taxPPM   int64
	currency string
	agreed   []bill.Agreed
	work     []bill.Work
}

// reckon fills the rows and what can be billed next: what was agreed at the first rate of tax that has
// something to bill.
func (a *Account) reckon(f *headfile.File, quotes []headfile.QuotePage, prices map[string]int64) {
	on := a.standing()
	var rates []*rated
	at := func(taxPPM int64, currency string) *rated {
		for _, r := range rates {
			if r.taxPPM == taxPPM && r.currency == currency {
				return r
			}
		}
		rates = append(rates, &rated{taxPPM: taxPPM, currency: currency})
		return rates[len(rates)-1]
	}
	for _, q := range quotes {
		if q.Approval == nil && q.Superseded {
			continue
		}
		var rate *rated
		if q.Approval != nil {
			rate = at(q.TaxPPM, q.Currency)
			rate.agreed = append(
				rate.agreed, bill.Agreed{Quote: q.Version, DiscountPPM: q.DiscountPPM, Minimum: q.MinimumCents},
			)
		}
		for _, l := range q.Lines {
			r := Row{
				Quote:     q.Version,
				Line:      l.Seq,
				Name:      l.Name,
				Positions: l.Positions,
				Quoted:    l.Cents(),
				Answered:  q.Approval != nil,
				Approved:  q.Answers[l.Seq],
				Unpriced:  l.Unpriced,
				Billed:    on[[2]int{q.Version, l.Seq}],
			}
			r.Done, r.Out = became(f, l)
			a.Rows = append(a.Rows, r)
			if rate != nil && r.Approved {
				rate.work = append(rate.work, r.work(l, prices))
			}
		}
	}
	if f.Ended != "" && f.OwedCents > 0 { // it was said with its tax
		rate := at(a.TaxPPM, a.Currency)
		rate.agreed = append(rate.agreed, bill.Agreed{})
		w := bill.Work{
			Line: 1, Name: "What was done until it went back", Labour: bill.Before(f.OwedCents, a.TaxPPM),
			Done: true,
		}
		rate.work = append(rate.work, w)
		a.Rows = append(a.Rows, Row{
			Line: 1, Name: w.Name, Quoted: w.Labour, Answered: true, Approved: true, Done: true,
			Billed: on[[2]int{0, 1}],
		})
	}
	before := a.lines()
	for _, r := range rates {
		if a.Next = bill.Next(r.agreed, r.work, before); a.Next != nil {
			a.TaxPPM, a.Currency = r.taxPPM, r.currency
			break
		}
	}
	a.Totals = bill.Sum(a.Next, a.TaxPPM)
}

// work is an approved line of a quote as it is billed.
func (r Row) work(l store.QuoteLine, prices map[string]int64) bill.Work {
	return bill.Work{
		Quote:     r.Quote,
		Line:      r.Line,
		Name:      r.Name,
		Positions: r.Positions,
		Labour:    l.LabourCents,
		Parts:     l.PartsCents + prices[r.Key()],
		Done:      r.Done,
		Out:       r.Out,
	}
}

// standing is the bill that each line is on, by quote and line; credited bills have none.
func (a *Account) standing() map[[2]int]string {
	out := map[[2]int]string{}
	for _, b := range a.Bills {
		if b.Credits != nil {
			a.Credited[*b.Credits] = b.Number
		}
	}
	for _, b := range a.Bills {
		if b.Credits != nil || a.Credited[b.ID] != "" {
			continue
		}
		for _, l := range b.Lines {
			if l.Kind == string(bill.Done) {
				out[[2]int{l.Quote, l.Line}] = b.Number
			}
		}
	}
	return out
}

// lines are those billed so far, without what was credited.
func (a *Account) lines() []bill.Line {
	var out []bill.Line
	for _, b := range a.Bills {
		if b.Credits != nil || a.Credited[b.ID] != "" {
			continue
		}
		for _, l := range b.Lines {
			out = append(out, bill.Line{
				Kind: bill.Kind(l.Kind), Quote: l.Quote, Line: l.Line, Name: l.Name, Positions: l.Positions,
				Labour: l.LabourCents, Cents: l.Cents,
			})
		}
	}
	return out
}

// became tells what became of a line's work: done when it was done somewhere and nothing of it is left
// to do, out when none of it will be.
func became(f *headfile.File, l store.QuoteLine) (done, out bool) {
	at, left := strings.Fields(l.Positions), false
	for _, o := range f.Operations {
		if o.Code != l.Code || len(at) > 0 && len(o.At()) > 0 &&
			!slices.ContainsFunc(o.At(), func(p string) bool { return slices.Contains(at, p) }) {
			continue
		}
		switch o.State {
		case "done":
			done = true
		case "skipped":
		default:
			left = true
		}
	}
	gone := f.Ended != "" || f.ClosedAt != nil
	return done && (!left || gone), !done && !left && f.WorkOrderAt != nil || !done && gone
}

// Issue writes a bill of what can be billed now. typed are the prices, before tax, of parts whose price was
// to follow, by the key of their row: without them their line is not billed.
func Issue(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, typed map[string]string,
) error {
	if err := a.Must("bill"); err != nil {
		return err
	}
	errs, prices := field.Errors{}, map[string]int64{}
	for key, text := range typed {
		cents, err := shop.ParseCents(text)
		if err != nil {
			errs.Addf(key, "a sum like 12.50, before tax")
		}
		prices[key] = cents
	}
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		acc, err := accountIn(tx, f, prices)
		if err != nil {
			return err
		}
		for _, r := range acc.Rows {
			if _, priced := prices[r.Key()]; r.Follows() && !priced {
				errs.Addf(r.Key(), "its parts' price was to follow: what do they cost, before tax?")
			}
		}
		if err := errs.Err(); err != nil {
			return err
		}
		if len(acc.Next) == 0 {
			return field.Only(
				"bill", "there is nothing to bill: nothing that was said yes to is done and not billed yet",
			)
		}
		v, err := tx.Settings()
		if err != nil {
			return err
		}
		due := s.Now().AddDate(0, 0, max(0, shop.SettingsFor(v, tag).Int("bill_days")))
		b := store.Bill{
			HeadID: f.ID, Currency: acc.Currency, TaxPPM: acc.TaxPPM, NetCents: acc.Totals.Net,
			TaxCents: acc.Totals.Tax, Due: due, PersonID: a.ID, At: s.Now(),
		}
		for i, l := range acc.Next {
			b.Lines = append(b.Lines, store.BillLine{
				Seq: i + 1, Kind: string(l.Kind), Quote: l.Quote, Line: l.Line, Name: l.Name, Positions: l.Positions,
				LabourCents: l.Labour, Cents: l.Cents,
			})
		}
		return add(s, tx, a, &b, "billed")
	})
}

// Credit takes a bill back, whole, with the reason: a bill of its own that comes to as much less. What was
// on it can be billed again.
func Credit(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, number, why string) error {
	if err := a.Must("bill"); err != nil {
		return err
	}
	errs := field.Errors{}
	why = shop.Required(errs, "why/"+number, why, "say why it is credited", 200)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		acc, err := accountIn(tx, f, nil)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(acc.Bills, func(b store.Bill) bool { return b.Number == number })
		switch {
		case i < 0:
			return shop.ErrNotFound
		case acc.Bills[i].Credits != nil || acc.Credited[acc.Bills[i].ID] != "":
			return shop.ErrStale
		}
		was := acc.Bills[i]
		b := store.Bill{
			HeadID:   f.ID,
			Credits:  &was.ID,
			Currency: was.Currency,
			TaxPPM:   was.TaxPPM,
			NetCents: -was.NetCents,
			TaxCents: -was.TaxCents,
			Why:      why,
			Due:      s.Now(),
			PersonID: a.ID,
			At:       s.Now(),
		}
		for _, l := range was.Lines {
			l.ID, l.BillID, l.LabourCents, l.Cents = 0, 0, -l.LabourCents, -l.Cents
			b.Lines = append(b.Lines, l)
		}
		return add(s, tx, a, &b, "credited")
	})
}

// add gives a bill the next number of its year and writes it.
func add(s *shop.Shop, tx store.DB, a shop.Actor, b *store.Bill, what string) (err error) {
	if b.Number, err = tx.NextBill(s.Now().Local().Year()); err != nil {
		return err
	}
	lines := b.Lines
	b.Lines = nil
	if err := tx.Add(b); err != nil {
		return err
	}
	for i := range lines {
		lines[i].BillID = b.ID
	}
	return errors.Join(tx.Add(&lines), s.Note(tx, a, b.HeadID, what,
		fmt.Sprintf("%s: %s %s", b.Number, shop.Cash(b.Gross()), b.Currency)))
}

// Ways of paying.
var Ways = []string{"cash", "transfer", "card"}

// PayForm is a payment as typed. Back is set when it is paid back to the customer.
type PayForm struct {
	WriteID, Sum, How, Note string
	Back                    bool
}

// Pay writes down what was paid on a head's job, before its bill or after it, or paid back.
func Pay(ctx context.Context, s *shop.Shop, a shop.Actor, tag string, form PayForm) error {
	if err := a.Must("bill"); err != nil {
		return err
	}
	errs := field.Errors{}
	cents, err := shop.ParseCents(form.Sum)
	if err != nil || cents <= 0 {
		errs.Addf("sum", "a sum like 120.00")
	}
	if !slices.Contains(Ways, form.How) {
		errs.Addf("how", "choose how it was paid")
	}
	note := shop.Optional(errs, "paid_note", form.Note, 200)
	if form.Back {
		note = shop.Required(errs, "paid_note", form.Note, "say why it is paid back", 200)
		cents = -cents
	}
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, form.WriteID, tag, func(tx store.DB, f *headfile.File) error {
		paid, err := tx.Payments(f.ID)
		if err != nil {
			return err
		}
		if sum := (Account{Payments: paid}).Paid(); sum+cents < 0 {
			return field.Only("sum", "only %s was paid", shop.Cash(sum))
		}
		p := store.Payment{HeadID: f.ID, Cents: cents, How: form.How, Note: note, PersonID: a.ID, At: s.Now()}
		return errors.Join(tx.Add(&p), s.Note(tx, a, f.ID, "paid", shop.Cash(cents)+" "+form.How+" "+note))
	})
}
