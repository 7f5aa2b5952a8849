package lead

import (
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/web/headpage"
	"yatai/web/page"
)

// askOf reads what the lead holds fast from a query: cut=0.15, seat.2E1=insert, valve.2E1=new.
func askOf(q url.Values, f *headfile.File) (headfile.PlanAsk, field.Errors) {
	ask := headfile.PlanAsk{Alternative: q.Get("alt")}
	errs := field.Errors{}
	if text := strings.TrimSpace(q.Get("cut")); text != "" && q.Get("hold") != "" {
		c, err := length.Parse(text, length.MM)
		if err == nil && (c < 0 || c > 20*length.Millimetre) {
			errs.Addf("cut", "a facing cut lies between 0 and 20 mm")
		} else if err != nil {
			errs.Add("cut", err)
		} else {
			c = c / (10 * length.Micrometre) * (10 * length.Micrometre)
			ask.Cut = &c
		}
	}
	if t := q.Get("tilt"); t == head.Level || t == head.Tilted {
		ask.Tilt = t
	}
	for _, h := range f.Subject.Holds() {
		for _, v := range f.Layout.Valves {
			if s := q.Get(string(h.Of) + "." + v.ID); slices.Contains(h.Choices, s) {
				ask.Holding(v.ID, string(h.Of), s)
			}
		}
	}
	return ask, errs
}

// query writes what askOf reads.
func query(ask headfile.PlanAsk) url.Values {
	q := url.Values{}
	if ask.Alternative != "" {
		q.Set("alt", ask.Alternative)
	}
	if ask.Cut != nil {
		q.Set("cut", ask.Cut.MM())
		q.Set("hold", "yes")
	}
	if ask.Tilt != "" {
		q.Set("tilt", ask.Tilt)
	}
	for id, held := range ask.Hold {
		for metal, is := range held {
			q.Set(metal+"."+id, is)
		}
	}
	return q
}

// ways is what stands beside a plan: its alternatives, the other heads of the order, what could be had
// instead, what is worth reading once more.
type ways struct {
	P        lead.Planned
	Others   []lead.Planned     // the alternatives, side by side
	Together *lead.Together     // with the other heads of its order; nil where there is none to plan
	Worths   []plan.Worth       // what would be worth reading once more
	Changes  []string           // what a little more off the face would change
	Instead  []lead.Replacement // what could be had instead
	Currency string
}

func showWays(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	ask, errs := askOf(r.Form, f)
	ask.Brief, ask.Decided = true, true
	f, _ = lead.Try(f, nil) // what a kept plan decided gives way
	set, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	d := ways{Currency: set.Get("currency")}
	if d.P, err = lead.Plan(r.Context(), s.Shop, f, ask); err != nil {
		return err
	}
	if d.Worths, err = lead.Readings(r.Context(), s.Shop, f, d.P); err != nil {
		return err
	}
	if r.Form.Get("worth") == "" { // the measuring page asks for what is worth reading alone
		if d.Others, d.Changes, err = lead.Ways(r.Context(), s.Shop, f, d.P); err != nil {
			return err
		}
		if all, ok, err := lead.Set(r.Context(), s.Shop, f, ask); err != nil {
			return err
		} else if ok {
			d.Together = &all
		}
		if d.Instead, err = lead.Replacements(r.Context(), s.Shop, f, d.P.Cents); err != nil {
			return err
		}
	}
	if p.Errors == nil {
		p.Errors = errs
	}
	p.Values = r.Form
	return headpage.ShowHead(s, w, req, f, "ways", d, p)
}

// WaysPage answers GET /heads/{tag}/ways.
func WaysPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showWays(s, w, r, req, page.Page{})
}

// PlanPage leads the plan's former address to the page where a head is decided.
func PlanPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	to := "/heads/" + url.PathEscape(chi.URLParam(r, "tag")) + "/judge"
	if r.URL.RawQuery != "" {
		to += "?" + r.URL.RawQuery
	}
	return page.Redirect(w, r, to)
}

// Scrap decides that a head is not mended.
func Scrap(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag := chi.URLParam(r, "tag")
	err := lead.Scrap(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), tag, r.PostForm.Get("reason"))
	if errs, err := page.Wrong(err); errs != nil {
		return showWays(s, w, r, req, page.Page{Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/judge")
}
