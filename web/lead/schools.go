package lead

import (
	"net/http"

	"github.com/go-chi/chi/v5"

	"yatai/shop"
	"yatai/shop/lead"
	"yatai/web/headpage"
	"yatai/web/page"
)

// Schools keeps a head's own schools.
func Schools(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag := chi.URLParam(r, "tag")
	values, seen := map[string]string{}, map[string]string{}
	for _, d := range shop.SettingDefs {
		if v, ok := r.PostForm[d.Name]; ok && d.School {
			values[d.Name] = v[0]
		}
		if v, ok := r.PostForm["seen/"+d.Name]; ok {
			seen[d.Name] = v[0]
		}
	}
	err := lead.SetSchools(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), tag, values, seen)
	if errs, err := page.Wrong(err); errs != nil {
		return showSchools(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/schools")
}

type schoolRow struct {
	shop.SettingDef
	Shop, Own, Seen string
}

func showSchools(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	own, err := s.Shop.Settings(r.Context(), f.Tag)
	if err != nil {
		return err
	}
	general, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	var rows []schoolRow
	for _, d := range shop.SettingDefs {
		if d.School {
			row := schoolRow{SettingDef: d, Shop: general.Get(d.Name)}
			if own.Overridden(d.Name) {
				row.Own = own.Get(d.Name)
			}
			if row.Seen = row.Own; p.Values.Has(d.Name) {
				row.Own = p.Values.Get(d.Name)
			}
			rows = append(rows, row)
		}
	}
	return headpage.ShowHead(s, w, req, f, "schools", rows, p)
}

// SchoolsPage answers GET /heads/{tag}/schools.
func SchoolsPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showSchools(s, w, r, req, page.Page{})
}
