package customers

import (
	"context"
	"encoding/json"
	"reflect"
	"slices"
	"time"

	"yatai/core/schema"
	"yatai/shop"
	"yatai/store"
)

// Data is what the shop keeps of a customer, as it is told to them. Sums of lines are before tax, of bills
// with it.
type Data struct {
	Told      time.Time     `json:"told_at"`
	Name      string        `json:"name"`
	Contact   string        `json:"contact,omitempty"`
	Address   string        `json:"address,omitempty"`
	Telephone string        `json:"telephone,omitempty"`
	Mail      string        `json:"mail,omitempty"`
	Note      string        `json:"note,omitempty"`
	Language  string        `json:"language"`
	Discount  string        `json:"discount_percent,omitempty"`
	Tax       string        `json:"tax,omitempty"` // exempt or reverse charge; empty: charged
	NoTax     string        `json:"no_tax_because,omitempty"`
	TaxNo     string        `json:"tax_number,omitempty"`
	Country   string        `json:"country,omitempty"`
	Prices    string        `json:"prices,omitempty"` // with tax in them or before it; empty: as the shop has them
	Since     time.Time     `json:"kept_since"`
	Machines  []string      `json:"machines"`
	Heads     []HeadData    `json:"heads"`
	Before    []BeforeData  `json:"jobs_before_this_program"`
	History   []HistoryData `json:"what_was_done_with_this_data"`
}

// DataSchema is the JSON Schema of what is told to a customer.
func DataSchema() ([]byte, error) {
	return schema.Of(reflect.TypeFor[Data](), schema.Write{}, "A customer's own data",
		"What the shop keeps of a customer, as it is told to them.", nil)
}

// HeadData is a head of a customer's.
type HeadData struct {
	Tag      string        `json:"tag"`
	Model    string        `json:"model"`
	Machine  string        `json:"machine"`
	Hours    string        `json:"hours,omitempty"`
	Story    string        `json:"what_was_told,omitempty"`
	Came     time.Time     `json:"came_at"`
	Left     *time.Time    `json:"left_at,omitempty"`
	With     string        `json:"left_with,omitempty"`
	Quotes   []QuoteData   `json:"quotes"`
	Bills    []BillData    `json:"bills"`
	Payments []PaymentData `json:"payments"`
	Mails    []MailData    `json:"mails"`
	Photos   []PhotoData   `json:"photographs"`
	History  []HistoryData `json:"history"`
}

// QuoteData is a quote and its answer.
type QuoteData struct {
	Number     int        `json:"number"`
	At         time.Time  `json:"at"`
	AnsweredAt *time.Time `json:"answered_at,omitempty"`
	AnsweredBy string     `json:"answered_by,omitempty"`
	Currency   string     `json:"currency"`
	Lines      []LineData `json:"lines"`
}

// LineData is a line of a quote or of a bill.
type LineData struct {
	Name      string `json:"name"`
	Positions string `json:"positions,omitempty"`
	Sum       string `json:"sum"`
}

// BillData is a bill, or what credits one.
type BillData struct {
	Number   string    `json:"number"`
	At       time.Time `json:"at"`
	Sum      string    `json:"sum"`
	Currency string    `json:"currency"`
	Why      string    `json:"because,omitempty"`

	Lines []LineData `json:"lines"`
}

// PaymentData is what was paid, or paid back.
type PaymentData struct {
	At   time.Time `json:"at"`
	Sum  string    `json:"sum"`
	How  string    `json:"how"`
	Note string    `json:"note,omitempty"`
}

// MailData is a mail that was written to them.
type MailData struct {
	At      time.Time  `json:"at"`
	SentAt  *time.Time `json:"sent_at,omitempty"`
	To      string     `json:"to"`
	Subject string     `json:"subject"`
	Text    string     `json:"text"`
}

// PhotoData is a photograph of a head.
type PhotoData struct {
	At      time.Time `json:"at"`
	Of      string    `json:"of,omitempty"`
	Caption string    `json:"caption,omitempty"`
}

// HistoryData is a line of the history.
type HistoryData struct {
	At   time.Time `json:"at"`
	What string    `json:"what"`
	Said string    `json:"said,omitempty"`
}

// BeforeData is a job of before the program.
type BeforeData struct {
	Number  string `json:"number,omitempty"`
	Day     string `json:"day,omitempty"`
	Machine string `json:"machine,omitempty"`
	Model   string `json:"model,omitempty"`
	Work    string `json:"work,omitempty"`
}

// Tell returns what the shop keeps of a customer as JSON, to be given to them. That it was asked for, and by
// whom, is in the history.
func Tell(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint) ([]byte, error) {
	if err := a.Must("take in a head"); err != nil {
		return nil, err
	}
	if _, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		if _, err := tx.Customer(id); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfCustomer, id), "customer's data told", "")
	}); err != nil {
		return nil, err
	}
	d, err := dataOf(s.Store.Read(ctx), id)
	if err != nil {
		return nil, err
	}
	d.Told = s.Now().UTC()
	return json.MarshalIndent(d, "", "  ")
}

// dataOf collects what is kept of a customer.
func dataOf(db store.DB, id uint) (Data, error) {
	c, err := db.Customer(id)
	if err != nil {
		return Data{}, err
	}
	d := Data{
		Name: c.Name, Contact: c.Contact, Address: c.Address, Telephone: c.Telephone, Mail: c.Email, Note: c.Note,
		Language: c.Language, Discount: discount(c),
		Tax: c.Taxed, NoTax: c.NoTax, TaxNo: c.TaxNo, Country: c.Country, Prices: c.Prices,
		Since: c.CreatedAt, Machines: []string{},
		Heads:  []HeadData{},
		Before: []BeforeData{}, History: []HistoryData{},
	}
	machines, err := db.Machines(id)
	if err != nil {
		return d, err
	}
	for _, m := range machines {
		d.Machines = append(d.Machines, m.Name)
	}
	old, err := db.OldJobsOf(id, allHeads)
	if err != nil {
		return d, err
	}
	for _, o := range old {
		d.Before = append(d.Before, BeforeData{o.Number, o.Day, o.OfMachine, o.OfModel, o.Work})
	}
	events, err := db.EventsAbout(shop.About(shop.OfCustomer, id))
	if err != nil {
		return d, err
	}
	d.History = told(events, func(e store.Event) (HistoryData, bool) {
		return HistoryData{e.At, e.What, e.Detail}, true
	})
	heads, err := db.HeadsOfCustomer(id, allHeads)
	if err != nil {
		return d, err
	}
	r, err := rowsOf(db, idsOf(heads))
	for _, h := range slices.Backward(heads) { // the oldest first
		d.Heads = append(d.Heads, r.head(h))
	}
	return d, err
}

// allHeads bounds the heads of a customer whose data are told or erased.
const allHeads = 10_000

// rows are what is kept about heads.
type rows struct {
	quotes   []store.Quote
	answers  map[uint]store.Approval
	bills    []store.Bill
	payments []store.Payment
	mails    []store.Mail
	photos   []store.Photo
	events   []store.Event
}

// rowsOf reads what is kept about heads.
func rowsOf(db store.DB, heads []uint) (r rows, err error) {
	for _, load := range []func(){
		func() { r.quotes, err = db.Quotes(heads...) },
		func() { r.answers, err = db.Approvals(heads...) },
		func() { r.bills, err = db.Bills(heads...) },
		func() { r.payments, err = db.Payments(heads...) },
		func() { r.mails, err = db.MailsOf(heads...) },
		func() { r.photos, err = db.PhotosOf(heads...) },
		func() { r.events, err = db.EventsOf(heads...) },
	} {
		if load(); err != nil {
			return r, err
		}
	}
	return r, nil
}

// head is what is kept about one of the heads.
func (r rows) head(h store.Head) HeadData {
	return HeadData{
		Tag:     h.Tag,
		Model:   h.Model.Name,
		Machine: h.Job.Machine.Name,
		Hours:   h.Job.Hours,
		Story:   h.Job.Story,
		Came:    h.CreatedAt,
		Left:    h.HandedOverAt,
		With:    h.HandedTo,
		Quotes: told(r.quotes, func(q store.Quote) (QuoteData, bool) {
			one := QuoteData{Number: q.Version, At: q.At, Currency: q.Currency}
			one.Lines = told(q.Lines, func(l store.QuoteLine) (LineData, bool) {
				return LineData{l.Name, l.Positions, shop.Cash(l.Cents())}, true
			})
			if a, answered := r.answers[q.ID]; answered {
				one.AnsweredAt, one.AnsweredBy = &a.At, a.Name
			}
			return one, q.HeadID == h.ID
		}),
		Bills: told(r.bills, func(b store.Bill) (BillData, bool) {
			lines := told(b.Lines, func(l store.BillLine) (LineData, bool) {
				return LineData{l.Name, l.Positions, shop.Cash(l.Cents)}, true
			})
			return BillData{b.Number, b.At, shop.Cash(b.Gross()), b.Currency, b.Why, lines}, b.HeadID == h.ID
		}),
		Payments: told(r.payments, func(p store.Payment) (PaymentData, bool) {
			return PaymentData{p.At, shop.Cash(p.Cents), p.How, p.Note}, p.HeadID == h.ID
		}),
		Mails: told(r.mails, func(m store.Mail) (MailData, bool) {
			return MailData{m.At, m.SentAt, m.Recipient, m.Subject, m.Body}, m.HeadID == h.ID
		}),
		Photos: told(r.photos, func(p store.Photo) (PhotoData, bool) {
			return PhotoData{p.At, p.Position, p.Caption}, p.HeadID == h.ID
		}),
		History: told(r.events, func(e store.Event) (HistoryData, bool) {
			return HistoryData{e.At, e.What, e.Detail}, e.HeadID == h.ID
		}),
	}
}

// told are those of some rows that are wanted, as they are told; never nil, so that it is a list in JSON too.
func told[R, T any](all []R, tell func(R) (T, bool)) []T {
	out := []T{}
	for _, r := range all {
		if t, wanted := tell(r); wanted {
			out = append(out, t)
		}
	}
	return out
}

func idsOf(heads []store.Head) (ids []uint) {
	for _, h := range heads {
		ids = append(ids, h.ID)
	}
	return ids
}
