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

type planData struct {
	P            lead.Planned
	Plans        []headfile.KeptPlan
	Others       []lead.Planned // the alternatives, side by side; nil until they are asked for
	Alternatives []plan.Alternative
	Together     *lead.Together     // with the other heads of its order; nil where there is none to plan
	Worths       []plan.Worth       // what would be worth reading once more
	Changes      []string           // what a little more off the face would change
	Ask          string             // the page's own query, to ask for them with
	Instead      []lead.Replacement // what could be had instead
	Most         length.Length      // the handle's end
	Cut          length.Length
	Fixed        bool // the facing cut is held
	Currency     string
}

// askOf reads what the lead holds fast from a query: cut=0.15, seat.2E1=insert, valve.2E1=new.
func askOf(q url.Values, f *headfile.File) (headfile.PlanAsk, field.Errors) {
	ask := headfile.PlanAsk{Alternative: q.Get("alt"), Seat: map[string]string{}, Valve: map[string]string{}}
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
	for _, v := range f.Layout.Valves {
		if s := q.Get("seat." + v.ID); slices.Contains([]string{"keep", "cut", "insert"}, s) {
			ask.Seat[v.ID] = s
		}
		if s := q.Get("valve." + v.ID); slices.Contains([]string{"keep", "grind", "new"}, s) {
			ask.Valve[v.ID] = s
		}
	}
	return ask, errs
}

func showPlan(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	f, err := headpage.OpenHead(s, r)
	if err != nil {
		return err
	}
	ask, errs := askOf(r.Form, f)
	ask.Brief = true
	set, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	d := planData{Ask: r.Form.Encode(), Alternatives: plan.Alternatives, Currency: set.Get("currency")}
	if d.P, err = lead.Plan(r.Context(), s.Shop, f, ask); err != nil {
		return err
	}
	d.Cut, d.Fixed = d.P.FaceCut, ask.Cut != nil
	if ask.Cut != nil {
		d.Cut = *ask.Cut
	}
	d.Most = max(d.P.Most, 400*length.Micrometre, d.Cut)
	if r.Header.Get("HX-Request") == "" { // the answer alone is asked for when something is moved
		if d.Plans, err = headfile.Plans(r.Context(), s.Shop, f); err != nil {
			return err
		}
	}
	if r.Form.Get("worth") != "" { // the measuring page asks for these alone
		if d.Worths, err = lead.Readings(r.Context(), s.Shop, f, d.P); err != nil {
			return err
		}
	}
	if r.Form.Get("ways") != "" { // a browser asks for them when the page is there
		if d.Others, d.Changes, err = lead.Ways(r.Context(), s.Shop, f, d.P); err != nil {
			return err
		}
		if d.Worths, err = lead.Readings(r.Context(), s.Shop, f, d.P); err != nil {
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
	return headpage.ShowHead(s, w, req, f, "plan", d, p)
}

// PlanPage answers GET /heads/{tag}/plan.
func PlanPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showPlan(s, w, r, req, page.Page{})
}

// KeepPlan keeps the plan as it stands on the page and decides by it.
func KeepPlan(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.OpenHead(s, r)
	if err != nil {
		return err
	}
	ask, errs := askOf(r.PostForm, f)
	if len(errs) == 0 {
		if errs, err = page.Wrong(lead.KeepPlan(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), f.Tag, ask)); err != nil {
			return err
		}
	}
	if len(errs) > 0 {
		return showPlan(s, w, r, req, page.Page{Errors: errs})
	}
	return page.Redirect(w, r, "/heads/"+f.Tag+"/judge")
}

// Scrap decides that a head is not mended.
func Scrap(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag := chi.URLParam(r, "tag")
	err := lead.Scrap(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), tag, r.PostForm.Get("reason"))
	if errs, err := page.Wrong(err); errs != nil {
		r.Form.Set("ways", "1") // its form stands among them
		return showPlan(s, w, r, req, page.Page{Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/judge")
}
