// Package billing is the pages of a job's money: what can be billed, bills, payments, and the month.
package billing

import (
	"net/http"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"yatai/core/bill"
	"yatai/shop"
	"yatai/shop/billing"
	"yatai/web/headpage"
	"yatai/web/page"
)

// billData is a head's account beside the ways of paying.
type billData struct {
	billing.Account
	Ways    []string
	Given   []bill.Kind     // as what a line can be given
	Others  []billing.Other // of the order, of which something can go on the next bill too
	Overdue int             // days something is open past its day
	Email   string          // of the customer, where a reminder goes
}

func showBill(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	f, err := headpage.OpenHead(s, r)
	if err != nil {
		return err
	}
	acc, err := billing.AccountOf(r.Context(), s.Shop, f, typed(r, "given/"))
	if err != nil {
		return err
	}
	others, err := billing.Others(r.Context(), s.Shop, f, acc)
	if err != nil {
		return err
	}
	return headpage.ShowHead(s, w, req, f, "bill",
		billData{acc, billing.Ways, bill.Given(), others, acc.Overdue(s.Shop.Now()), f.Job.Customer.Email}, p)
}

// BillPage answers GET /heads/{tag}/bill.
func BillPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showBill(s, w, r, req, page.Page{Values: r.Form})
}

// typed are the fields of a form that begin so and are filled, by their name.
func typed(r *http.Request, prefix string) map[string]string {
	out := map[string]string{}
	for name := range r.Form {
		if text := r.Form.Get(name); strings.HasPrefix(name, prefix) && text != "" {
			out[name] = text
		}
	}
	return out
}

// BillVerb issues a bill, credits one, or writes down a payment.
func BillVerb(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g, tag, ctx := r.PostForm.Get, chi.URLParam(r, "tag"), r.Context()
	verbs := map[string]func() error{
		"issue": func() error {
			return billing.Issue(ctx, s.Shop, req.Actor, tag, billing.IssueForm{
				WriteID: g("write_id"), Prices: typed(r, "price/"), Given: typed(r, "given/"), Why: g("why_given"),
				Set: g("set") == "yes",
			})
		},
		"credit": func() error {
			return billing.Credit(ctx, s.Shop, req.Actor, g("write_id"), tag, g("number"), g("why/"+g("number")))
		},
		"remind": func() error {
			return billing.Remind(ctx, s.Shop, req.Actor, tag,
				billing.RemindForm{WriteID: g("write_id"), Mail: g("mail") == "yes", Told: g("told")})
		},
		"pay": func() error {
			return billing.Pay(ctx, s.Shop, req.Actor, tag, billing.PayForm{
				WriteID: g("write_id"), Sum: g("sum"), How: g("how"), Note: g("paid_note"), Back: g("back") == "yes",
			})
		},
	}
	verb, ok := verbs[chi.URLParam(r, "verb")]
	if !ok {
		return shop.ErrNotFound
	}
	if errs, err := page.Wrong(verb()); errs != nil {
		return showBill(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/bill")
}

// BillFile answers GET /heads/{tag}/bill/{number}.pdf, and .xml: the electronic invoice.
func BillFile(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	f, err := headpage.OpenHead(s, r)
	if err != nil {
		return err
	}
	return headpage.SendBill(s, w, r, f)
}

// month is the month of a request, as 2031-05; this one when it names none.
func month(s *page.Site, r *http.Request) time.Time {
	if t, err := time.ParseInLocation("2006-01", r.Form.Get("month"), time.Local); err == nil {
		return t
	}
	return s.Shop.Now().Local()
}

// monthData is a month between its neighbours, as 2031-05.
type monthData struct {
	billing.Month
	Before, This, After string
}

// MonthPage answers GET /bills: the money of a month, and what is open.
func MonthPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	m, err := billing.MonthOf(r.Context(), s.Shop, req.Actor, month(s, r))
	if err != nil {
		return err
	}
	at := func(months int) string { return m.Begins.AddDate(0, months, 0).Format("2006-01") }
	return s.Show(w, req, "bills", page.Page{
		Title: "Bills", Place: "customers", Values: r.Form, Data: monthData{m, at(-1), at(0), at(1)},
	})
}

// MonthCSV answers GET /bills.csv: a month's bills and payments for whoever keeps the books.
func MonthCSV(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	m, err := billing.MonthOf(r.Context(), s.Shop, req.Actor, month(s, r))
	if err != nil {
		return err
	}
	set, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	rows := [][]string{{
		"Day", "What", "Number", "Customer", "Tag", "Net", "Tax, %", "Tax", "Gross", "Currency", "Due", "How", "Note",
	}}
	day := func(t time.Time) string { return t.Local().Format(time.DateOnly) }
	for _, b := range m.Bills {
		kind := "bill"
		if b.Credits != nil {
			kind = "credit"
		}
		for _, x := range billing.Taxed(b) { // a row for each rate of tax
			rows = append(rows, shop.Plain([]string{
				day(b.At), kind, b.Number, b.Head.Job.Customer.Name, b.Head.Tag, shop.Cash(x.Net), x.Percent(),
				shop.Cash(x.Tax), shop.Cash(x.Net + x.Tax), b.Currency, day(b.Due), "", b.Why,
			}, -1))
		}
	}
	for _, p := range m.Payments {
		rows = append(rows, shop.Plain([]string{
			day(p.At), "payment", "", p.Head.Job.Customer.Name, p.Head.Tag, "", "", "", shop.Cash(p.Cents),
			set.Get("currency"), "", p.How, p.Note,
		}, -1))
	}
	file, err := shop.CSV(set, rows)
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "text/csv; charset=utf-8")
	w.Header().Set("Content-Disposition", `attachment; filename="bills-`+m.Begins.Format("2006-01")+`.csv"`)
	_, err = w.Write(file)
	return err
}
