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
	"time"

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
	Missed          bool      // an earlier day that was paid for and not kept: it is not billed
	Unpriced        int       // parts of it whose price was to follow
	Billed          string    // number of the bill it is on; empty while it is on none
	Given           bill.Kind // what it is given as, on that bill or on the next; empty where it is paid
}

// Key names the row's price in a form.
func (r Row) Key() string { return key("price", r.Quote, r.Line) }

// GivenKey names in a form what the row is given as.
func (r Row) GivenKey() string { return key("given", r.Quote, r.Line) }

func key(what string, quote, line int) string { return fmt.Sprintf("%s/%d/%d", what, quote, line) }

// Follows tells whether it can be billed but for the price of parts that was to follow.
func (r Row) Follows() bool { return r.Approved && r.Done && r.Unpriced > 0 && r.Billed == "" }

// Account is where the money of a head's order stands. Sums are cents. Bills and payments are of all heads of
// the order, which may share them; rows and what can be billed next are of the one head.
type Account struct {
	Head     uint
	Heads    []store.Head // of the order
	Rows     []Row
	Next     []bill.Line // what can be billed now
	Totals   bill.Totals // of that
	Tax      money.Tax
	Currency string
	Bills    []store.Bill // of the order, credits too, the oldest first
	Payments []store.Payment
	Credited map[uint]string // number of what credits a bill, by the bill

	Reminders []store.Event // of payment, the newest first
	Deposit   int64         // that was asked for, of what was said yes to

	usual rated // what is owed without a quote is billed at
}

// Taxed is what can be billed now is taxed, by rate.
func (a Account) Taxed() []money.Taxed { return bill.Taxed(a.Next, a.Tax) }

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

// Gives tells whether the next bill gives any line.
func (a Account) Gives() bool {
	return slices.ContainsFunc(a.Next, func(l bill.Line) bool { return l.Kind.Gives() })
}

// Open is what is still to be paid; less than nothing when more was paid than is billed: a deposit.
func (a Account) Open() int64 { return a.Billed() - a.Paid() }

// terms are what is said of rows as they are billed.
type terms struct {
	prices map[string]int64     // that followed, in cents, by Row.Key
	given  map[string]bill.Kind // by Row.GivenKey
}

// AccountOf returns where the money of a head's job stands, its next bill with what is given of it, by the
// key of a row: "warranty" or "goodwill"; anything else is paid.
func AccountOf(
	ctx context.Context, s *shop.Shop, f *headfile.File, given map[string]string,
) (Account, error) {
	return accountIn(s, s.Store.Read(ctx), f, terms{given: givenOf(given)})
}

// givenOf are those rows that are given as something.
func givenOf(typed map[string]string) map[string]bill.Kind {
	out := map[string]bill.Kind{}
	for key, as := range typed {
		if k := bill.Kind(as); k.Gives() {
			out[key] = k
		}
	}
	return out
}

func accountIn(s *shop.Shop, db store.DB, f *headfile.File, t terms) (Account, error) {
	a := Account{Head: f.ID, Credited: map[uint]string{}}
	var err error
	if a.Heads, err = db.HeadsOfJob(f.JobID); err != nil {
		return a, err
	}
	if a.Bills, err = db.BillsOfJobs(f.JobID); err != nil {
		return a, err
	}
	if a.Payments, err = db.PaymentsOfJob(f.JobID); err != nil {
		return a, err
	}
	var heads []uint
	for _, h := range a.Heads {
		heads = append(heads, h.ID)
	}
	events, err := db.EventsOf(heads...)
	if err != nil {
		return a, err
	}
	a.Reminders = remindersOf(events)
	if a.Deposit, err = deposits(s, db, f, len(a.Heads)); err != nil {
		return a, err
	}
	v, err := db.Settings()
	if err != nil {
		return a, err
	}
	set := shop.SettingsFor(v, f.Tag)
	a.usual = rated{tax: f.Terms().Tax, currency: set.Get("currency")}
	a.reckon(f, t, s.Now())
	return a, nil
}

// beside is the account of another head of the order.
func (a Account) beside(f *headfile.File, now time.Time) Account {
	a.Head, a.Rows = f.ID, nil
	a.reckon(f, terms{}, now)
	return a
}

// deposits are what was asked for before the work begins, of all quotes of an order that were said yes to.
func deposits(s *shop.Shop, db store.DB, f *headfile.File, heads int) (cents int64, err error) {
	order := []headfile.Ordered{{Quotes: f.Approved.Quotes}}
	if heads > 1 {
		if order, err = headfile.OfOrder(s, db, f.JobID); err != nil {
			return 0, err
		}
	}
	for _, h := range order {
		for _, q := range h.Quotes {
			if q.Accepted() {
				cents += q.Deposit()
			}
		}
	}
	return cents, nil
}

// rated is what was agreed to be taxed in one way: a bill is.
type rated struct {
	tax      money.Tax
	currency string
	agreed   []bill.Agreed
	work     []bill.Work
}

// reckon fills the rows and what can be billed next: what was agreed of the first way to be taxed that
// has something to bill.
func (a *Account) reckon(f *headfile.File, t terms, now time.Time) {
	stands := a.standing()
	a.Tax, a.Currency = a.usual.tax, a.usual.currency
	var rates []*rated
	at := func(tax money.Tax, currency string) *rated {
		for _, r := range rates {
			if r.tax == tax && r.currency == currency {
				return r
			}
		}
		rates = append(rates, &rated{tax: tax, currency: currency})
		return rates[len(rates)-1]
	}
	for _, q := range f.Approved.Quotes {
		if q.Approval == nil && q.Superseded {
			continue
		}
		var rate *rated
		if q.Approval != nil {
			rate = at(q.Tax(), q.Currency)
			rate.agreed = append(
				rate.agreed, bill.Agreed{Quote: q.Version, DiscountPPM: q.DiscountPPM, Minimum: q.MinimumCents},
			)
		}
		for _, l := range q.Lines {
			r := rowOf(f, q, l, now)
			stands.mark(&r, t)
			a.Rows = append(a.Rows, r)
			if rate != nil && r.Approved {
				rate.work = append(rate.work, r.work(l, t.prices))
			}
		}
	}
	if f.Ended != "" && f.OwedCents > 0 { // it was said with its tax
		rate := at(a.Tax, a.Currency)
		rate.agreed = append(rate.agreed, bill.Agreed{})
		r := Row{
			Line: 1, Name: "What was done until it went back", Quoted: bill.Before(f.OwedCents, a.Tax.LabourPPM),
			Answered: true, Approved: true, Done: true,
		}
		stands.mark(&r, t)
		w := bill.Work{
			Line: 1, Name: r.Name, Charge: money.Charge{Service: r.Quoted}, Done: true, Given: r.Given,
		}
		rate.work = append(rate.work, w)
		a.Rows = append(a.Rows, r)
	}
	before := a.lines()
	for _, r := range rates {
		if a.Next = bill.Next(r.agreed, r.work, before); a.Next != nil {
			a.Tax, a.Currency = r.tax, r.currency
			break
		}
	}
	a.Totals = bill.Sum(a.Next, a.Tax)
}

// rowOf is a line of a quote, and what became of it.
func rowOf(f *headfile.File, q headfile.QuotePage, l store.QuoteLine, now time.Time) Row {
	r := Row{
		Quote:     q.Version,
		Line:      l.Seq,
		Name:      l.Name,
		Positions: l.Positions,
		Quoted:    l.Cents(),
		Answered:  q.Approval != nil,
		Approved:  q.Answers[l.Seq],
		Unpriced:  l.Unpriced,
	}
	switch none := l.Code == ""; { // of no operation: fetching it, or an earlier day
	case none && (f.Ended != "" || !r.Approved):
		r.Out = r.Answered
	case l.Sooner != nil:
		r.Done, r.Missed = kept(*l.Sooner, f.ClosedAt, now)
		r.Out = r.Missed
	case none: // done with the head
		r.Done = f.ClosedAt != nil
	default:
		r.Done, r.Out = became(f, l)
	}
	return r
}

// work is an approved line of a quote as it is billed.
func (r Row) work(l store.QuoteLine, prices map[string]int64) bill.Work {
	charge := l.Charge()
	charge.Parts += prices[r.Key()]
	return bill.Work{
		Quote:     r.Quote,
		Line:      r.Line,
		Name:      r.Name,
		Positions: r.Positions,
		Charge:    charge,
		Done:      r.Done,
		Out:       r.Out,
		Given:     r.Given,
	}
}

// stood is how a line stands on the bill that it is on: credited bills have none.
type stood struct {
	number string
	given  bill.Kind
}

// standing is how lines stand on bills, by quote and line.
type standing map[[2]int]stood

// mark says of a row on which bill it is, and what it is given as, there or on the next one.
func (s standing) mark(r *Row, t terms) {
	at := s[[2]int{r.Quote, r.Line}]
	if r.Billed, r.Given = at.number, at.given; r.Billed == "" {
		r.Given = t.given[r.GivenKey()]
	}
}

// standing is how lines stand on the bills so far.
func (a *Account) standing() standing {
	out := standing{}
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
			if b.Of(l) != a.Head {
				continue
			}
			at := [2]int{l.Quote, l.Line}
			switch kind := bill.Kind(l.Kind); {
			case kind == bill.Done:
				out[at] = stood{b.Number, out[at].given}
			case kind.Gives():
				out[at] = stood{b.Number, kind}
			}
		}
	}
	return out
}

// lines are those of the head billed so far, without what was credited.
func (a *Account) lines() []bill.Line {
	var out []bill.Line
	for _, b := range a.Bills {
		if b.Credits != nil || a.Credited[b.ID] != "" {
			continue
		}
		for i, l := range linesOf(b) {
			if b.Of(b.Lines[i]) == a.Head {
				out = append(out, l)
			}
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

// kept tells of an earlier day that was paid for whether the head passed its final check by the end of it,
// or whether it is missed.
func kept(day time.Time, closed *time.Time, now time.Time) (kept, missed bool) {
	day = shop.Date(day.Local())
	if closed != nil {
		kept = !shop.Date(closed.Local()).After(day)
		return kept, !kept
	}
	return false, shop.Date(now.Local()).After(day)
}

// IssueForm is a bill as it is asked for.
type IssueForm struct {
	WriteID string
	Prices  map[string]string // before tax, of parts whose price was to follow, by Row.Key
	Given   map[string]string // "warranty" or "goodwill", by Row.GivenKey; anything else is paid
	Why     string            // it is given, where anything is
	Set     bool              // what can be billed of other heads of the order goes on it too
}

// read reads the form. Errors are keyed by the key of a row, and "why_given".
func (form IssueForm) read() (t terms, why string, err error) {
	errs := field.Errors{}
	t = terms{prices: map[string]int64{}, given: givenOf(form.Given)}
	for key, text := range form.Prices {
		cents, err := shop.ParseCents(text)
		if err != nil {
			errs.Addf(key, "a sum like 12.50, before tax")
		}
		t.prices[key] = cents
	}
	if len(t.given) > 0 {
		why = shop.Required(errs, "why_given", form.Why, "say why the shop asks nothing for it", 200)
	}
	return t, why, errs.Err()
}

// Issue writes a bill of what can be billed now. A line with parts whose price was to follow is not billed
// without that.
func Issue(ctx context.Context, s *shop.Shop, a shop.Actor, tag string, form IssueForm) error {
	if err := a.Must("bill"); err != nil {
		return err
	}
	t, why, err := form.read()
	if err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, form.WriteID, tag, func(tx store.DB, f *headfile.File) error {
		acc, err := accountIn(s, tx, f, t)
		if err != nil {
			return err
		}
		errs := field.Errors{}
		for _, r := range acc.Rows {
			if _, priced := t.prices[r.Key()]; r.Follows() && !priced {
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
		if !acc.Gives() { // what was chosen is not on this bill
			why = ""
		}
		v, err := tx.Settings()
		if err != nil {
			return err
		}
		set := shop.SettingsFor(v, tag)
		due := s.Now().AddDate(0, 0, max(0, set.Int("bill_days")))
		b := store.Bill{HeadID: f.ID, Why: why, Due: due, PersonID: a.ID, At: s.Now()}
		acc.issued(&b, f, set)
		with(&b, f.ID, acc.Next)
		if form.Set {
			others, err := setIn(s, tx, f, acc)
			if err != nil {
				return err
			}
			for _, o := range others {
				with(&b, o.Head, o.Next)
			}
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
		acc, err := accountIn(s, tx, f, terms{})
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
		b := was
		b.ID, b.Number, b.Lines, b.Credits = 0, "", nil, &was.ID
		b.Head, b.Person = store.Head{}, store.User{}
		b.NetCents, b.TaxCents = -was.NetCents, -was.TaxCents
		b.Why, b.Due, b.PersonID, b.At = why, s.Now(), a.ID, s.Now()
		for _, l := range was.Lines {
			l.ID, l.BillID = 0, 0
			l.LabourCents, l.Service, l.Cents = -l.LabourCents, -l.Service, -l.Cents
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
	err = tx.Add(&lines)
	noted := map[uint]bool{}
	for _, l := range lines {
		if head := b.Of(l); !noted[head] {
			noted[head] = true
			err = errors.Join(err, s.Note(tx, a, head, what,
				fmt.Sprintf("%s: %s %s", b.Number, shop.Cash(b.Gross()), b.Currency)))
		}
	}
	return err
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
		paid, err := tx.PaymentsOfJob(f.JobID)
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
