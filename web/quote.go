package web

import (
	"context"
	"html/template"
	"net/http"
	"net/url"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/core/judge"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/quoting"
	"yatai/store"
	"yatai/web/draw"
	"yatai/web/paper"
)

func (s *Server) showQuote(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	return s.showHead(w, req, f, "quote", f.Approved.Quotes, p)
}

func (s *Server) quotePage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showQuote(w, r, req, Page{})
}

// quoteVerb makes a quote, sends one, or records what the customer said to it.
func (s *Server) quoteVerb(w http.ResponseWriter, r *http.Request, req *request) error {
	g, tag, ctx, a := r.PostForm.Get, chi.URLParam(r, "tag"), r.Context(), req.actor
	version, _ := strconv.Atoi(g("version"))
	verbs := map[string]func() error{
		"make": func() error {
			_, err := quoting.MakeQuote(ctx, s.shop, a, g("write_id"), tag, g("note"))
			return err
		},
		"send": func() error { return quoting.SendQuote(ctx, s.shop, a, g("write_id"), tag, version, g("to")) },
		"say": func() error {
			return quoting.ApproveVerbally(ctx, s.shop, a, g("write_id"), tag, version, answerOf(r.PostForm), g("how"))
		},
	}
	verb, ok := verbs[chi.URLParam(r, "verb")]
	if !ok {
		return shop.ErrNotFound
	}
	if errs, err := wrong(verb()); errs != nil {
		return s.showQuote(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/quote")
}

// answerOf reads a customer's answer.
func answerOf(v url.Values) quoting.Answer {
	return quoting.Answer{Name: v.Get("name"), Must: v.Get("must") == "yes", Yes: quoting.ParseSeqs(v["yes"]), Call: v.Get("call") != ""}
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

	paper.Ways // to go about it, side by side; none once it is answered
}

// ways lists the ways a customer can still choose between.
func (s *Server) ways(ctx context.Context, f *headfile.File, q headfile.QuotePage) (w paper.Ways, err error) {
	if q.Approval != nil || f.WorkOrderAt != nil {
		return w, nil
	}
	all, err := lead.Compare(ctx, s.shop, f)
	if err != nil {
		return w, err
	}
	for _, o := range all {
		if o.Feasible {
			w.Options = append(w.Options, o)
		}
	}
	w.Instead, err = lead.Replacements(ctx, s.shop, f, q.Totals(headfile.Must).Net)
	return w, err
}

func (s *Server) showCustomer(w http.ResponseWriter, r *http.Request, p Page) error {
	token := chi.URLParam(r, "token")
	f, q, err := quoting.QuoteByToken(r.Context(), s.shop, token)
	if err != nil {
		return err
	}
	set, err := s.shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	d := customerData{File: f, Q: q, Token: token, Shop: set.Get("shop_name"), Map: draw.HeadMap(draw.Map{Layout: f.Layout, Verdicts: draw.Judged(f.Received), Marks: marks(f)}), Said: r.Form.Get("said") != "", Calls: r.Form.Get("called") != ""}
	for _, ph := range f.Photos {
		if ph.Shown {
			d.Shown = append(d.Shown, ph)
		}
	}
	d.Found = f.Received.Findings()
	if d.Ways, err = s.ways(r.Context(), f, q); err != nil {
		return err
	}
	p.Title, p.Data = "Quote for "+f.Tag, d
	status := http.StatusOK
	if len(p.Errors) > 0 {
		status = http.StatusUnprocessableEntity
	}
	s.write(w, &request{}, status, "customer", "customer", p)
	return nil
}

func (s *Server) customerPage(w http.ResponseWriter, r *http.Request, _ *request) error {
	return s.showCustomer(w, r, Page{})
}

// customerSays freezes the customer's answer.
func (s *Server) customerSays(w http.ResponseWriter, r *http.Request, _ *request) error {
	token, ans := chi.URLParam(r, "token"), answerOf(r.PostForm)
	if errs, err := wrong(quoting.Approve(r.Context(), s.shop, r.PostForm.Get("write_id"), token, ans)); errs != nil {
		return s.showCustomer(w, r, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/q/"+token+map[bool]string{true: "?called=1", false: "?said=1"}[ans.Call])
}

// customerPhoto serves a photo that is shown with the quote, and no other.
func (s *Server) customerPhoto(w http.ResponseWriter, r *http.Request, _ *request) error {
	f, _, err := quoting.QuoteByToken(r.Context(), s.shop, chi.URLParam(r, "token"))
	if err != nil {
		return err
	}
	for _, ph := range f.Photos {
		if ph.Shown && strconv.Itoa(int(ph.ID)) == chi.URLParam(r, "id") {
			p, err := intake.Photo(r.Context(), s.shop, ph.ID)
			if err != nil {
				return err
			}
			writePhoto(w, p)
			return nil
		}
	}
	return shop.ErrNotFound
}

// customerPDF is the quote on paper.
func (s *Server) customerPDF(w http.ResponseWriter, r *http.Request, _ *request) error {
	f, q, err := quoting.QuoteByToken(r.Context(), s.shop, chi.URLParam(r, "token"))
	if err != nil {
		return err
	}
	return s.quoteOnPaper(w, r, f, q)
}

func (s *Server) quotePDF(w http.ResponseWriter, r *http.Request, _ *request) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	for _, q := range f.Approved.Quotes {
		if strconv.Itoa(q.Version) == chi.URLParam(r, "version") {
			return s.quoteOnPaper(w, r, f, q)
		}
	}
	return shop.ErrNotFound
}

func (s *Server) quoteOnPaper(w http.ResponseWriter, r *http.Request, f *headfile.File, q headfile.QuotePage) error {
	set, err := s.shop.Settings(r.Context(), f.Tag)
	if err != nil {
		return err
	}
	var photos []store.Photo
	for _, ph := range f.Photos {
		if ph.Shown {
			full, err := intake.Photo(r.Context(), s.shop, ph.ID)
			if err != nil {
				return err
			}
			photos = append(photos, full)
		}
	}
	ways, err := s.ways(r.Context(), f, q)
	if err != nil {
		return err
	}
	b, err := paper.Quote(f, q, set.Get("shop_name"), ways, photos...)
	if err != nil {
		return err
	}
	return sendFile(w, "application/pdf", "quote-"+f.Tag+"-"+strconv.Itoa(q.Version)+".pdf", b)
}

// sendFile answers with a file to keep.
func sendFile(w http.ResponseWriter, kind, name string, b []byte) error {
	w.Header().Set("Content-Type", kind)
	w.Header().Set("Content-Disposition", `inline; filename="`+name+`"`)
	_, err := w.Write(b)
	return err
}

// outbox is the mail that was written, and whether it went.
func (s *Server) outbox(w http.ResponseWriter, r *http.Request, req *request) error {
	if !req.actor.May("quote") {
		return shop.ErrForbidden
	}
	mails, err := following.Mails(r.Context(), s.shop)
	if err != nil {
		return err
	}
	return s.show(w, req, "outbox", Page{Title: "Outbox", Place: "floor", Data: mails})
}
