package store

import (
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"

	"yatai/core/bill"
	"yatai/core/invoice"
	"yatai/core/money"
)

// Bill is a bill of a head's job, or what credits one. It is never changed once it is issued. Sums are
// cents; a credit's are less than nothing.
type Bill struct {
	ID       uint
	Number   string
	HeadID   uint
	Head     Head
	Credits  *uint // the bill it credits
	Currency string
	TaxPPM   int64 `gorm:"column:tax_ppm"` // of the labour
	PartsTax int64 `gorm:"column:parts_tax_ppm"`
	NetCents int64
	TaxCents int64
	Why      string // of a credit, and of what is given
	NoTax    string // why no tax is on it, of a customer who is charged none
	Reverse  bool   // the tax is owed by who receives it
	Prices   string // with tax in them: WithTax; empty: before it

	// Who sells and who buys, and what the shop says of its tax, as they were when it was issued: nobody is
	// named on those of before that was kept.
	Seller invoice.Party `gorm:"embedded;embeddedPrefix:seller_"`
	Buyer  invoice.Party `gorm:"embedded;embeddedPrefix:buyer_"`
	Said   string

	Due      time.Time
	PersonID uint
	Person   User
	At       time.Time
	Lines    []BillLine
}

// Tax is at which rates it is taxed.
func (b Bill) Tax() money.Tax { return money.Tax{LabourPPM: b.TaxPPM, PartsPPM: b.PartsTax} }

// Gross is what is to be paid, in cents.
func (b Bill) Gross() int64 { return b.NetCents + b.TaxCents }

// Given is what it takes off again as one of some kinds, in cents before tax; less than nothing of a credit.
func (b Bill) Given(as ...bill.Kind) (cents int64) {
	for _, l := range b.Lines {
		if slices.Contains(as, bill.Kind(l.Kind)) {
			cents -= l.Cents
		}
	}
	return cents
}

// Of is the head whose work a line of the bill is.
func (b Bill) Of(l BillLine) uint {
	if l.HeadID != 0 {
		return l.HeadID
	}
	return b.HeadID
}

// BillLine is a line of a bill, net.
type BillLine struct {
	ID          uint
	BillID      uint
	HeadID      uint // whose work it is, of the order; 0 on older ones: the bill's own head
	Seq         int
	Kind        string
	Quote       int // number of the quote it was agreed in; 0 for none
	Line        int // of that quote
	Name        string
	Positions   string
	LabourCents int64
	Service     int64 `gorm:"column:service_cents"` // done beside it, and taxed as labour
	Cents       int64
}

// Payment is what was paid on a head's job, before a bill or after it; less than nothing when it was
// paid back.
type Payment struct {
	ID       uint
	HeadID   uint
	Head     Head
	Cents    int64
	How      string
	Note     string
	PersonID uint
	Person   User
	At       time.Time
}

// Bills lists the bills of heads with their lines, the oldest first.
func (d DB) Bills(heads ...uint) ([]Bill, error) {
	return many[Bill](d.bills().Where("bills.head_id IN ?", heads))
}

// BillsOfJobs lists the bills of all heads of orders, with their heads, the oldest first.
func (d DB) BillsOfJobs(jobs ...uint) ([]Bill, error) {
	return many[Bill](d.bills().Joins("Head").Where("Head.job_id IN ?", jobs))
}

// BillsBetween lists the bills issued from a moment on, before another, with their heads, the oldest first.
func (d DB) BillsBetween(from, to time.Time) ([]Bill, error) {
	return many[Bill](d.bills().Joins("Head").Joins("Head.Job").Joins("Head.Job.Customer").
		Where("bills.at >= ? AND bills.at < ?", from.UTC(), to.UTC()))
}

func (d DB) bills() *gorm.DB {
	return d.g.Joins("Person").Preload("Lines",
		func(g *gorm.DB) *gorm.DB { return g.Order("seq") }).Order("bills.id")
}

// NextBill returns the number of the next bill of a year: "2031-0001", without a gap.
func (d DB) NextBill(year int) (string, error) {
	var n int64
	err := d.g.Model(&Bill{}).Where("number LIKE ?", fmt.Sprintf("%04d-%%", year)).Count(&n).Error
	return fmt.Sprintf("%04d-%04d", year, n+1), err
}

// Payments lists what was paid on heads, the oldest first.
func (d DB) Payments(heads ...uint) ([]Payment, error) {
	return many[Payment](d.g.Joins("Person").Where("payments.head_id IN ?", heads).Order("payments.id"))
}

// PaymentsOfJob lists what was paid on all heads of an order, the oldest first.
func (d DB) PaymentsOfJob(job uint) ([]Payment, error) {
	return many[Payment](d.g.Joins("Person").Joins("Head").Where("Head.job_id = ?", job).Order("payments.id"))
}

// PaymentsBetween lists what was paid from a moment on, before another, with the heads, the oldest first.
func (d DB) PaymentsBetween(from, to time.Time) ([]Payment, error) {
	return many[Payment](d.g.Joins("Person").Joins("Head").Joins("Head.Job").Joins("Head.Job.Customer").
		Where("payments.at >= ? AND payments.at < ?", from.UTC(), to.UTC()).Order("payments.id"))
}

// Owing is what the bills of an order come to and what was paid on it, in cents.
type Owing struct {
	JobID                  uint
	Tag, Customer          string // of the head of its newest bill
	BilledCents, PaidCents int64
	Due                    time.Time // of its newest bill
}

// Cents is what is open, less than nothing when too much was paid.
func (o Owing) Cents() int64 { return o.BilledCents - o.PaidCents }

// Owed lists the orders whose bills and payments do not meet, the longest due first; of some orders alone,
// where any are given.
func (d DB) Owed(most int, jobs ...uint) ([]Owing, error) {
	var out []Owing
	err := d.g.Raw(
		`SELECT b.job_id, h.tag, c.name AS customer, b.cents AS billed_cents, coalesce(p.cents, 0) AS paid_cents, newest.due
		FROM (SELECT h.job_id, sum(net_cents + tax_cents) AS cents, max(bills.id) AS newest
			FROM bills JOIN heads h ON h.id = bills.head_id GROUP BY h.job_id) b
		JOIN bills newest ON newest.id = b.newest JOIN heads h ON h.id = newest.head_id
		JOIN jobs j ON j.id = b.job_id JOIN customers c ON c.id = j.customer_id
		LEFT JOIN (SELECT h.job_id, sum(cents) AS cents FROM payments JOIN heads h ON h.id = payments.head_id GROUP BY h.job_id) p
			ON p.job_id = b.job_id
		WHERE b.cents <> coalesce(p.cents, 0) AND (? OR b.job_id IN ?) ORDER BY newest.due, h.id LIMIT ?`,
		len(jobs) == 0, append([]uint{0}, jobs...), most,
	).Scan(&out).Error
	return out, err
}
