package library

import (
	"net/http"
	"strings"

	"yatai/shop/library"
	"yatai/web/page"
)

func showLabour(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	rows, err := library.Labour(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	p.Title, p.Place, p.Data = "Minutes and prices", "reference", rows
	return s.Show(w, req, "labour", p)
}

// LabourPage answers GET /settings/labour.
func LabourPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showLabour(s, w, r, req, page.Page{})
}

// SetLabour answers POST /settings/labour.
func SetLabour(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	values := map[string]string{}
	for name := range r.PostForm {
		for _, f := range library.LabourFields {
			if strings.HasPrefix(name, f) {
				values[name] = r.PostForm.Get(name)
			}
		}
	}
	err := library.SetLabour(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), values)
	if errs, err := page.Wrong(err); errs != nil {
		return showLabour(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/settings/labour")
}
