package web

import (
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/shop"
	"yatai/shop/lead"
)

// newerPage shows what a newer version of the limit sheet would change.
func (s *Server) newerPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showNewer(w, r, req, Page{})
}

func (s *Server) showNewer(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	n, err := lead.Newer(r.Context(), s.shop, f)
	if err == nil && n == nil {
		err = shop.ErrNotFound
	}
	if err != nil {
		return err
	}
	return s.showHead(w, req, f, "newer", n, p)
}

// takeNewer has the head judged by it from now on.
func (s *Server) takeNewer(w http.ResponseWriter, r *http.Request, req *request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	version, _ := strconv.Atoi(g("version"))
	err := lead.TakeNewerSheet(r.Context(), s.shop, req.actor, g("write_id"), tag, version, g("reason"))
	if errs, err := wrong(err); errs != nil {
		return s.showNewer(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/judge")
}
