// Package quoting is the pages of the shop's quotes, and the customer's own page.
package quoting

import (
	"context"
	"errors"
	"html/template"
	"net/http"
	"net/url"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/core/judge"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/billing"
	"yatai/shop/following"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/quoting"
	"yatai/store"
	"yatai/web/draw"
	"yatai/web/headpage"
	"yatai/web/page"
	"yatai/web/paper"
)

// quoteData is a head's quotes, and what goodwill can be charged to.
type quoteData struct {
	Quotes  []headfile.QuotePage
	Charges []string
}

func showQuote(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	charges, err := quoting.Charges(r.Context(), s.Shop, f)
	if err != nil {
		return err
	}
	return headpage.ShowHead(s, w, req, f, "quote", quoteData{f.Approved.Quotes, charges}, p)
}

// QuotePage answers GET /heads/{tag}/quote.
func QuotePage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showQuote(s, w, r, req, page.Page{})
}

// QuoteVerb makes a quote, sends one, or records what the customer said to it.
func QuoteVerb(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g, tag, ctx, a := r.PostForm.Get, chi.URLParam(r, "tag"), r.Context(), req.Actor
	version, _ := strconv.Atoi(g("version"))
	verbs := map[string]func() error{
		"make": func() error {
			d := quoting.Draft{
				Note: g("note"), Free: g("free"), Theirs: r.PostForm["theirs"],
				Goodwill: quoting.Goodwill{Percent: g("goodwill"), Why: g("goodwill_why"), ChargedTo: g("charged_to")},
			}
			if n, err := strconv.Atoi(g("seen")); err == nil {
				d.Seen = &n
			}
			_, err := quoting.MakeQuote(ctx, s.Shop, a, g("write_id"), tag, d)
			return err
		},
		"send": func() error {
			return quoting.SendQuote(ctx, s.Shop, a, tag, quoting.SendForm{
				WriteID: g("write_id"), Version: version, To: g("to"), Here: s.Public(r, ""), Follow: g("follow") == "yes",
			})
		},
		"say": func() error {
			return quoting.ApproveVerbally(ctx, s.Shop, a, g("write_id"), tag, version, answerOf(r.PostForm), g("how"))
		},
	}
	verb, ok := verbs[chi.URLParam(r, "verb")]
	if !ok {
		return shop.ErrNotFound
	}
	if errs, err := page.Wrong(verb()); errs != nil {
		return showQuote(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/quote")
}

// answerOf reads a customer's answer.
func answerOf(v url.Values) quoting.Answer {
	return quoting.Answer{
		Name: v.Get("name"), Must: v.Get("must") == "yes", No: v.Get("must") == "no", Yes: quoting.ParseSeqs(v["yes"]), Call: v.Get("call") != "",
	}
}

// customerData is what a customer sees of a head: never more than its quote needs.
type customerData struct {
	*headfile.File
	Q     headfile.QuotePage
	Token string
	Map   template.HTML
	Shown []store.Photo
	Found []judge.Feature
	Shop  string
	Said  bool // the answer was just given
	Calls bool

	Account billing.Account // its bills, and what is open

	paper.Ways // to go about it, side by side; none once it is answered
}

// endedData is what a customer sees whose link has ended: whom to call about which head.
type endedData struct{ Shop, Phone, Tag string }

// ways lists the ways a customer can still choose between.
func ways(ctx context.Context, s *page.Site, f *headfile.File, q headfile.QuotePage) (w paper.Ways, err error) {
	if q.Approval != nil || f.WorkOrderAt != nil {
		return w, nil
	}
	all, err := lead.Compare(ctx, s.Shop, f)
	if err != nil {
		return w, err
	}
	for _, o := range all {
		if o.Feasible {
			w.Options = append(w.Options, o)
		}
	}
	w.Instead, err = lead.Replacements(ctx, s.Shop, f, q.Totals(headfile.Must).Net)
	return w, err
}

func showCustomer(s *page.Site, w http.ResponseWriter, r *http.Request, p page.Page) error {
	token := chi.URLParam(r, "token")
	f, q, lost := quoting.QuoteByToken(r.Context(), s.Shop, token)
	var ended quoting.Ended
	if lost != nil && !errors.As(lost, &ended) && !errors.Is(lost, shop.ErrNotFound) {
		return lost
	}
	set, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	if lost != nil { // a link that was replaced is not known any more: whom to ask is said all the same
		p.Language = words.In(ended.Customer.Language)
		p.Title, p.Data = p.Language.Say("This link has ended"), endedData{set.Get("shop_name"), set.Get("shop_phone"), ended.Tag}
		s.Write(w, &page.Request{}, http.StatusNotFound, "ended", "customer", p)
		return nil
	}
	d := customerData{
		File: f, Q: q, Token: token, Shop: set.Get("shop_name"),
		Map:  draw.HeadMap(draw.Map{Layout: f.Layout, Verdicts: draw.Judged(f.Received), Marks: headpage.Marks(f), In: words.In(f.Job.Customer.Language)}),
		Said: r.Form.Get("said") != "", Calls: r.Form.Get("called") != "",
	}
	for _, ph := range f.Photos {
		if ph.Shown {
			d.Shown = append(d.Shown, ph)
		}
	}
	d.Found = f.Received.Findings()
	if d.Account, err = billing.AccountOf(r.Context(), s.Shop, f); err != nil {
		return err
	}
	if d.Ways, err = ways(r.Context(), s, f, q); err != nil {
		return err
	}
	p.Language = words.In(f.Job.Customer.Language)
	p.Title, p.Data = p.Language.Say("Quote for %s", f.Tag), d
	status := http.StatusOK
	if len(p.Errors) > 0 {
		status = http.StatusUnprocessableEntity
	}
	s.Write(w, &page.Request{}, status, "customer", "customer", p)
	return nil
}

// CustomerPage answers GET /q/{token}.
func CustomerPage(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	return showCustomer(s, w, r, page.Page{})
}

// CustomerSays freezes the customer's answer.
func CustomerSays(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	token, ans := chi.URLParam(r, "token"), answerOf(r.PostForm)
	err := quoting.Approve(r.Context(), s.Shop, r.PostForm.Get("write_id"), token, ans)
	if errors.As(err, new(quoting.Ended)) || errors.Is(err, shop.ErrNotFound) {
		return showCustomer(s, w, r, page.Page{})
	}
	if errs, err := page.Wrong(err); errs != nil {
		return showCustomer(s, w, r, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/q/"+token+map[bool]string{true: "?called=1", false: "?said=1"}[ans.Call])
}

// CustomerPhoto serves a photo that is shown with the quote, and no other.
func CustomerPhoto(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	f, _, err := quoting.QuoteByToken(r.Context(), s.Shop, chi.URLParam(r, "token"))
	if err != nil {
		return err
	}
	for _, ph := range f.Photos {
		if ph.Shown && strconv.Itoa(int(ph.ID)) == chi.URLParam(r, "id") {
			p, err := intake.Photo(r.Context(), s.Shop, ph.ID)
			if err != nil {
				return err
			}
			page.WritePhoto(w, p)
			return nil
		}
	}
	return shop.ErrNotFound
}

// CustomerBill is a bill on paper.
func CustomerBill(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	f, _, err := quoting.QuoteByToken(r.Context(), s.Shop, chi.URLParam(r, "token"))
	if err != nil {
		return err
	}
	return headpage.SendBill(s, w, r, f)
}

// CustomerPDF is the quote on paper.
func CustomerPDF(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	f, q, err := quoting.QuoteByToken(r.Context(), s.Shop, chi.URLParam(r, "token"))
	if err != nil {
		return err
	}
	return quoteOnPaper(s, w, r, f, q)
}

// QuotePDF answers GET /heads/{tag}/quote/{version}/quote.pdf.
func QuotePDF(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	f, err := headpage.OpenHead(s, r)
	if err != nil {
		return err
	}
	for _, q := range f.Approved.Quotes {
		if strconv.Itoa(q.Version) == chi.URLParam(r, "version") {
			return quoteOnPaper(s, w, r, f, q)
		}
	}
	return shop.ErrNotFound
}

func quoteOnPaper(s *page.Site, w http.ResponseWriter, r *http.Request, f *headfile.File, q headfile.QuotePage) error {
	set, err := s.Shop.Settings(r.Context(), f.Tag)
	if err != nil {
		return err
	}
	var photos []store.Photo
	for _, ph := range f.Photos {
		if ph.Shown {
			full, err := intake.Photo(r.Context(), s.Shop, ph.ID)
			if err != nil {
				return err
			}
			photos = append(photos, full)
		}
	}
	ways, err := ways(r.Context(), s, f, q)
	if err != nil {
		return err
	}
	b, err := paper.Quote(f, q, paper.HouseOf(set), ways, photos...)
	if err != nil {
		return err
	}
	return page.SendFile(w, "application/pdf", "quote-"+f.Tag+"-"+strconv.Itoa(q.Version)+".pdf", b)
}

// Outbox is the mail that was written, and whether it went.
func Outbox(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	if !req.Actor.May("quote") {
		return shop.ErrForbidden
	}
	mails, err := following.Mails(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	return s.Show(w, req, "outbox", page.Page{Title: "Outbox", Place: "floor", Data: mails})
}
