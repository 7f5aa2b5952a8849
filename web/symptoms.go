package web

import (
	"net/http"
	"slices"

	"github.com/go-chi/chi/v5"

	"yatai/core/trade"
	"yatai/shop/intake"
)

// tick is a symptom on a form: whether it is ticked, and whether the owner's words propose it.
type tick struct {
	*trade.Symptom
	On, Proposed bool
}

// ticks are all symptoms with what is ticked, and what a story proposes besides.
func ticks(story string, on []string) []tick {
	proposed := trade.Proposed(story)
	var out []tick
	for _, s := range trade.Symptoms {
		out = append(out, tick{s, slices.Contains(on, s.Code), slices.Contains(proposed, s)})
	}
	return out
}

// symptoms answers the ticks again as the story is typed.
func (s *Server) symptoms(w http.ResponseWriter, r *http.Request, req *request) error {
	s.write(w, req, http.StatusOK, "takein", "symptoms", Page{Data: ticks(r.Form.Get("story"), r.Form["symptom"])})
	return nil
}

// tellSymptoms keeps what the owner tells of a head.
func (s *Server) tellSymptoms(w http.ResponseWriter, r *http.Request, req *request) error {
	tag := chi.URLParam(r, "tag")
	err := intake.TellSymptoms(r.Context(), s.shop, req.actor, r.PostForm.Get("write_id"), tag, r.PostForm["symptom"])
	if errs, err := wrong(err); errs != nil {
		return s.showCauses(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/causes")
}
