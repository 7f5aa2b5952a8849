package web

import (
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/cause"
	"yatai/core/trade"
	"yatai/shop/lead"
)

type causesPage struct {
	Rows    []lead.CauseRow
	Next    *trade.Sign
	Between []string
	All     []*trade.Cause
	Ticks   []tick
}

func (s *Server) showCauses(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	d := causesPage{All: trade.Causes, Ticks: ticks(f.Job.Story, strings.Fields(f.Job.Symptoms))}
	if d.Rows, err = lead.Causes(r.Context(), s.shop, f); err != nil {
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
	return s.showHead(w, req, f, "causes", d, p)
}

func (s *Server) causesPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showCauses(w, r, req, Page{})
}

// callCause confirms or rejects a cause.
func (s *Server) callCause(w http.ResponseWriter, r *http.Request, req *request) error {
	g, tag := r.PostForm.Get, chi.URLParam(r, "tag")
	err := lead.CallCause(r.Context(), s.shop, req.actor, g("write_id"), tag, g("cause"), g("state"), g("note/"+g("cause")))
	if errs, err := wrong(err); errs != nil {
		return s.showCauses(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/causes")
}
