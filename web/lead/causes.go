package lead

import (
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/cause"
	"yatai/core/trade"
	"yatai/shop/lead"
	"yatai/web/headpage"
	"yatai/web/page"
)

type causesPage struct {
	Rows    []lead.CauseRow
	Next    *trade.Sign
	Between []string
	All     []*trade.Cause
	Ticks   []headpage.Tick
}

func showCauses(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	d := causesPage{All: trade.Causes, Ticks: headpage.Ticks(f.Job.Story, strings.Fields(f.Job.Symptoms))}
	if d.Rows, err = lead.Causes(r.Context(), s.Shop, f); err != nil {
		return err
	}
	var open []cause.Weighed
	for _, row := range d.Rows {
		if row.Call.State != "rejected" {
			open = append(open, row.Weighed)
		}
	}
	if sign, between, ok := cause.Next(open); ok {
		d.Next, d.Between = sign, between
	}
	return headpage.ShowHead(s, w, req, f, "causes", d, p)
}

// CausesPage answers GET /heads/{tag}/causes.
func CausesPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showCauses(s, w, r, req, page.Page{})
}

// CallCause confirms or rejects a cause.
func CallCause(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g, tag := r.PostForm.Get, chi.URLParam(r, "tag")
	err := lead.CallCause(r.Context(), s.Shop, req.Actor, g("write_id"), tag, g("cause"), g("state"),
		g("note/"+g("cause")))
	if errs, err := page.Wrong(err); errs != nil {
		return showCauses(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/causes")
}
