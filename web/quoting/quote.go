// Package quoting is the pages of the shop's quotes, and the customer's own page.
package quoting

import (
	"cmp"
	"context"
	"errors"
	"html/template"
	"net/http"
	"net/url"
	"slices"
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
	"yatai/web/draw"
	"yatai/web/headpage"
	"yatai/web/page"
	"yatai/web/paper"
)

// quoteData is a head's quotes, what goodwill can be charged to, and what is quoted of the rest of its order.
type quoteData struct {
	Quotes  []headfile.QuotePage
	Charges []string
	quoting.Order
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
	order, err := quoting.OrderOf(r.Context(), s.Shop, f)
	if err != nil {
		return err
	}
	return headpage.ShowHead(s, w, req, f, "quote", quoteData{f.Approved.Quotes, charges, order}, p)
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
				Sooner:   g("sooner") != "",
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
				WriteID: g("write_id"), Version: version, With: r.PostForm["with"], To: g("to"), Here: s.Public(r, ""),
				Follow: g("follow") == "yes",
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
		Name: v.Get("name"), Must: v.Get("must") == "yes", No: v.Get("must") == "no",
		Yes: quoting.ParseLines(v["yes"]), Call: v.Get("call") != "",
	}
}

// customerData is what a customer sees: the quotes that are answered together, each with its head.
type customerData struct {
	headfile.Together
	Heads []customerHead
	Token string
	Shop  string
	Calls bool // a call was just asked for
}

// customerHead is what a customer sees of one head: never more than its quote needs.
type customerHead struct {
	*headfile.File
	Q     headfile.QuotePage
	Map   template.HTML
	Shown []shop.Photo
	Found []judge.Feature
	Worst []judge.Feature // the three of them that matter most

	Account billing.Account // of the first head: bills of the order, and what is open

	paper.Ways // to go about it, side by side; none once it is answered
}

// ways lists the ways a customer can still choose between.
func ways(
	ctx context.Context, s *page.Site, f *headfile.File, q headfile.QuotePage,
) (w paper.Ways, err error) {
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
	t, lost := quoting.QuotesByToken(r.Context(), s.Shop, token)
	var ended quoting.Ended
	if lost != nil && !errors.As(lost, &ended) && !errors.Is(lost, shop.ErrNotFound) {
		return lost
	}
	set, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	if lost != nil { // a link that was replaced is not known any more: whom to ask is said all the same
		s.LinkEnded(w, set, ended.Tag, words.In(ended.Customer.Language))
		return nil
	}
	d := customerData{Together: t, Token: token, Shop: set.Get("shop_name"), Calls: r.Form.Get("called") != ""}
	for _, j := range t {
		h, err := shown(r.Context(), s, j)
		if err != nil {
			return err
		}
		if len(d.Heads) == 0 { // it is of all heads of the order
			if h.Account, err = billing.AccountOf(r.Context(), s.Shop, h.File, nil); err != nil {
				return err
			}
		}
		d.Heads = append(d.Heads, h)
	}
	p.Language = words.In(d.Heads[0].Job.Customer.Language)
	p.Title, p.Data = p.Language.Say("Quote for %s", t.Tags()), d
	status := http.StatusOK
	if len(p.Errors) > 0 {
		status = http.StatusUnprocessableEntity
	}
	s.Write(w, &page.Request{}, status, "customer", "customer", p)
	return nil
}

// shown is what a customer sees of a head.
func shown(ctx context.Context, s *page.Site, j headfile.Joined) (h customerHead, err error) {
	f, err := headfile.Open(ctx, s.Shop, j.Tag)
	if err != nil {
		return h, err
	}
	h = customerHead{
		File: f, Q: j.Q, Shown: shownPhotos(f), Found: f.Received.Findings(), Map: draw.HeadMap(draw.Map{
			Layout: f.Layout, Verdicts: draw.Judged(f.Received), Marks: headpage.Marks(f),
			In: words.In(f.Job.Customer.Language),
		}),
	}
	h.Worst = slices.Clone(h.Found)
	slices.SortStableFunc(h.Worst, func(a, b judge.Feature) int { return cmp.Compare(b.Verdict, a.Verdict) })
	h.Worst = h.Worst[:min(3, len(h.Worst))]
	h.Ways, err = ways(ctx, s, f, j.Q)
	return h, err
}

// shownPhotos are the photos of a head that its customer sees.
func shownPhotos(f *headfile.File) []shop.Photo {
	return slices.DeleteFunc(slices.Clone(f.Photos), func(ph shop.Photo) bool { return !ph.Shown })
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
	t, err := quoting.QuotesByToken(r.Context(), s.Shop, chi.URLParam(r, "token"))
	if err != nil {
		return err
	}
	for _, j := range t {
		f, err := headfile.Open(r.Context(), s.Shop, j.Tag)
		if err != nil {
			return err
		}
		for _, ph := range shownPhotos(f) {
			if strconv.Itoa(int(ph.ID)) == chi.URLParam(r, "id") {
				p, err := intake.Photo(r.Context(), s.Shop, ph.ID)
				if err != nil {
					return err
				}
				page.WritePhoto(w, p)
				return nil
			}
		}
	}
	return shop.ErrNotFound
}

// CustomerBill is a bill on paper.
func CustomerBill(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	t, err := quoting.QuotesByToken(r.Context(), s.Shop, chi.URLParam(r, "token"))
	if err != nil {
		return err
	}
	for _, j := range t {
		f, err := headfile.Open(r.Context(), s.Shop, j.Tag)
		if err != nil {
			return err
		}
		if err := headpage.SendBill(s, w, r, f); !errors.Is(err, shop.ErrNotFound) {
			return err
		}
	}
	return shop.ErrNotFound
}

// CustomerPDF is what was quoted on paper.
func CustomerPDF(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	t, err := quoting.QuotesByToken(r.Context(), s.Shop, chi.URLParam(r, "token"))
	if err != nil {
		return err
	}
	return quotesOnPaper(s, w, r, t)
}

// QuotePDF answers GET /heads/{tag}/quote/{version}/quote.pdf.
func QuotePDF(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	f, err := headpage.OpenHead(s, r)
	if err != nil {
		return err
	}
	for _, q := range f.Approved.Quotes {
		if strconv.Itoa(q.Version) == chi.URLParam(r, "version") {
			return quotesOnPaper(s, w, r, headfile.Together{{Head: f.Head, Q: q}})
		}
	}
	return shop.ErrNotFound
}

func quotesOnPaper(s *page.Site, w http.ResponseWriter, r *http.Request, t headfile.Together) error {
	set, err := s.Shop.Settings(r.Context(), t[0].Tag)
	if err != nil {
		return err
	}
	var heads []paper.Quoted
	for _, j := range t {
		f, err := headfile.Open(r.Context(), s.Shop, j.Tag)
		if err != nil {
			return err
		}
		h := paper.Quoted{File: f, Q: j.Q}
		for _, ph := range shownPhotos(f) {
			full, err := intake.Photo(r.Context(), s.Shop, ph.ID)
			if err != nil {
				return err
			}
			h.Photos = append(h.Photos, full)
		}
		if h.Ways, err = ways(r.Context(), s, f, j.Q); err != nil {
			return err
		}
		heads = append(heads, h)
	}
	logo, err := intake.Logo(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	b, err := paper.Quotes(heads, paper.HouseOf(set, logo))
	if err != nil {
		return err
	}
	return page.SendFile(w, "application/pdf", "quote-"+t[0].Tag+"-"+strconv.Itoa(t[0].Q.Version)+".pdf", b)
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
