package lead

import (
	"net/http"

	"github.com/go-chi/chi/v5"

	"yatai/shop/intake"
	"yatai/web/headpage"
	"yatai/web/page"
)

// Symptoms answers the ticks again as the story is typed.
func Symptoms(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	s.Write(w, req, http.StatusOK, "takein", "symptoms",
		page.Page{Data: headpage.Ticks(r.Form.Get("story"), r.Form["symptom"])})
	return nil
}

// TellSymptoms keeps what the owner tells of a head.
func TellSymptoms(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag := chi.URLParam(r, "tag")
	err := intake.TellSymptoms(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), tag,
		r.PostForm["symptom"])
	if errs, err := page.Wrong(err); errs != nil {
		return showCauses(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/causes")
}
