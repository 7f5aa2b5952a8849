package billing

import (
	"cmp"
	"context"
	"slices"
	"time"

	"yatai/core/bill"
	"yatai/core/words"
	"yatai/shop"
	"yatai/store"
)

// Month is what was billed and paid in a month, and what is open now. Sums are cents.
type Month struct {
	Begins       time.Time
	Bills        []store.Bill
	Payments     []store.Payment
	Billed, Paid int64
	Net, Tax     int64
	Warranty     int64   // what was done and not asked for because the shop owed it, before tax
	Goodwill     int64   // and because it gave it
	By           []Share // with tax, by customer, the most first
	ByWork       []Share // before tax, by what was done, the most first
	Open         []Owing
}

// Owing is what an order's bills and payments leave open.
type Owing struct {
	store.Owing
	Overdue int // days the oldest bill that is not paid in full is past its day
}

// Share is what of a month's bills a customer, or a work, comes to, in cents.
type Share struct {
	Name  string
	Cents int64
}

// shares lists sums by their names, the most first.
func shares(of map[string]int64) (out []Share) {
	for name, cents := range of {
		out = append(out, Share{name, cents})
	}
	slices.SortFunc(out, func(a, b Share) int {
		return cmp.Or(cmp.Compare(b.Cents, a.Cents), cmp.Compare(a.Name, b.Name))
	})
	return out
}

// mostOwed bounds the list of what is open.
const mostOwed = 200

// owed lists what is open.
func (m *Month) owed(db store.DB, now time.Time) error {
	owing, err := db.Owed(mostOwed)
	if err != nil {
		return err
	}
	var jobs []uint
	for _, o := range owing {
		jobs = append(jobs, o.JobID)
	}
	bills, err := db.BillsOfJobs(jobs...)
	if err != nil {
		return err
	}
	of := map[uint][]store.Bill{}
	for _, b := range bills {
		of[b.Head.JobID] = append(of[b.Head.JobID], b)
	}
	for _, o := range owing {
		m.Open = append(m.Open, Owing{o, overdue(of[o.JobID], o.PaidCents, now)})
	}
	return nil
}

// MonthOf returns the money of the month that t is in.
func MonthOf(ctx context.Context, s *shop.Shop, a shop.Actor, t time.Time) (Month, error) {
	t = t.Local()
	m := Month{Begins: time.Date(t.Year(), t.Month(), 1, 0, 0, 0, 0, time.Local)}
	if err := a.Must("bill"); err != nil {
		return m, err
	}
	db, ends := s.Store.Read(ctx), m.Begins.AddDate(0, 1, 0)
	var err error
	for _, load := range []func(){
		func() { m.Bills, err = db.BillsBetween(m.Begins, ends) },
		func() { m.Payments, err = db.PaymentsBetween(m.Begins, ends) },
		func() { err = m.owed(db, s.Now()) },
	} {
		if load(); err != nil {
			return m, err
		}
	}
	customers, works := map[string]int64{}, map[string]int64{}
	for _, b := range m.Bills {
		m.Net, m.Tax, m.Billed = m.Net+b.NetCents, m.Tax+b.TaxCents, m.Billed+b.Gross()
		m.Warranty, m.Goodwill = m.Warranty+b.Given(bill.Warranty), m.Goodwill+b.Given(bill.Goodwill)
		customers[b.Head.Job.Customer.Name] += b.Gross()
		for _, l := range b.Lines {
			works[named(bill.Kind(l.Kind), l.Name, words.English)] += l.Cents
		}
	}
	m.By, m.ByWork = shares(customers), shares(works)
	for _, p := range m.Payments {
		m.Paid += p.Cents
	}
	return m, nil
}
