package web

import (
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"

	"headwright/shop"
)

// addTool adds a tool to the register; mistakes come back on the reference page.
func (s *Server) addTool(w http.ResponseWriter, r *http.Request, req *request) error {
	g := r.PostForm.Get
	err := s.shop.AddTool(r.Context(), req.actor, shop.ToolForm{
		WriteID: g("write_id"), Name: g("name"), Kind: g("kind"), Resolution: g("resolution"), U: g("u"), Standard: g("standard"), Tolerance: g("tolerance"), Due: g("due"),
	})
	if errs, err := wrong(err); errs != nil {
		return s.showReference(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/reference")
}

func (s *Server) showTool(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	t, err := s.shop.Tool(r.Context(), uint(id))
	if err != nil {
		return err
	}
	p.Title, p.Place, p.Data = t.Name, "reference", t
	return s.show(w, req, "tool", p)
}

func (s *Server) toolPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showTool(w, r, req, Page{})
}

// checkZero records a zero check.
func (s *Server) checkZero(w http.ResponseWriter, r *http.Request, req *request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	_, err = s.shop.CheckZero(r.Context(), req.actor, r.PostForm.Get("write_id"), uint(id), r.PostForm.Get("read"))
	if errs, err := wrong(err); errs != nil {
		return s.showTool(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, r.URL.Path)
}
