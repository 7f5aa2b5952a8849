package store

import (
	"fmt"
	"time"

	"gorm.io/gorm"
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
	TaxPPM   int64 `gorm:"column:tax_ppm"`
	NetCents int64
	TaxCents int64
	Why      string // of a credit, and of what is given
	Due      time.Time
	PersonID uint
	Person   User
	At       time.Time
	Lines    []BillLine
}

// Gross is what is to be paid, in cents.
func (b Bill) Gross() int64 { return b.NetCents + b.TaxCents }

// BillLine is a line of a bill, net.
type BillLine struct {
	ID          uint
	BillID      uint
	Seq         int
	Kind        string
	Quote       int // number of the quote it was agreed in; 0 for none
	Line        int // of that quote
	Name        string
	Positions   string
	LabourCents int64
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

// BillsBetween lists the bills issued from a moment on, before another, with their heads, the oldest first.
func (d DB) BillsBetween(from, to time.Time) ([]Bill, error) {
	return many[Bill](d.bills().Joins("Head").Joins("Head.Job").Joins("Head.Job.Customer").
		Where("bills.at >= ? AND bills.at < ?", from, to))
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

// PaymentsBetween lists what was paid from a moment on, before another, with the heads, the oldest first.
func (d DB) PaymentsBetween(from, to time.Time) ([]Payment, error) {
	return many[Payment](d.g.Joins("Person").Joins("Head").Joins("Head.Job").Joins("Head.Job.Customer").
		Where("payments.at >= ? AND payments.at < ?", from, to).Order("payments.id"))
}

// Owing is what one head's bills come to and what was paid on it, in cents.
type Owing struct {
	HeadID                 uint
	Tag, Customer          string
	BilledCents, PaidCents int64
	Due                    time.Time // of its newest bill
}

// Cents is what is open, less than nothing when too much was paid.
func (o Owing) Cents() int64 { return o.BilledCents - o.PaidCents }

// Owed lists the heads whose bills and payments do not meet, the longest due first.
func (d DB) Owed(most int) ([]Owing, error) {
	var out []Owing
	err := d.g.Raw(
		`SELECT h.id AS head_id, h.tag, c.name AS customer, b.cents AS billed_cents, coalesce(p.cents, 0) AS paid_cents, newest.due
		FROM heads h JOIN jobs j ON j.id = h.job_id JOIN customers c ON c.id = j.customer_id
		JOIN (SELECT head_id, sum(net_cents + tax_cents) AS cents, max(id) AS newest FROM bills GROUP BY head_id) b ON b.head_id = h.id
		JOIN bills newest ON newest.id = b.newest
		LEFT JOIN (SELECT head_id, sum(cents) AS cents FROM payments GROUP BY head_id) p ON p.head_id = h.id
		WHERE b.cents <> coalesce(p.cents, 0) ORDER BY newest.due, h.id LIMIT ?`, most,
	).Scan(&out).Error
	return out, err
}
