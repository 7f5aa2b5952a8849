package lead

import (
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/shop"
	"yatai/shop/lead"
	"yatai/web/headpage"
	"yatai/web/page"
)

// NewerPage shows what a newer version of the limit sheet would change.
func NewerPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showNewer(s, w, r, req, page.Page{})
}

func showNewer(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	n, err := lead.Newer(r.Context(), s.Shop, f)
	if err == nil && n == nil {
		err = shop.ErrNotFound
	}
	if err != nil {
		return err
	}
	return headpage.ShowHead(s, w, req, f, "newer", n, p)
}

// TakeNewer has the head judged by it from now on.
func TakeNewer(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	version, _ := strconv.Atoi(g("version"))
	err := lead.TakeNewerSheet(r.Context(), s.Shop, req.Actor, g("write_id"), tag, version, g("reason"))
	if errs, err := page.Wrong(err); errs != nil {
		return showNewer(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/judge")
}
