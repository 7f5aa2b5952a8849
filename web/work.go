package web

import (
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"

	"headwright/shop"
)

// operate starts, finishes or leaves out an operation.
func (s *Server) operate(w http.ResponseWriter, r *http.Request, req *request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	seq, err := strconv.Atoi(chi.URLParam(r, "seq"))
	if err != nil {
		return shop.ErrNotFound
	}
	verbs := map[string]func() error{
		"start":  func() error { return s.shop.Start(r.Context(), req.actor, g("write_id"), tag, seq) },
		"finish": func() error { return s.shop.Finish(r.Context(), req.actor, g("write_id"), tag, seq) },
		"skip":   func() error { return s.shop.Skip(r.Context(), req.actor, g("write_id"), tag, seq, g("reason")) },
	}
	verb, ok := verbs[chi.URLParam(r, "verb")]
	if !ok {
		return shop.ErrNotFound
	}
	if err := verb(); err != nil {
		return s.back(w, r, req, "work", err, func(f *shop.File) (any, error) { return s.workRows(r, f) })
	}
	return redirect(w, r, "/heads/"+tag+"/work")
}
