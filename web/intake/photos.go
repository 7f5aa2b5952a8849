package intake

import (
	"errors"
	"net/http"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/intake"
	"yatai/web/headpage"
	"yatai/web/page"
)

// MaxUpload bounds a picture as it is uploaded, in bytes.
const MaxUpload = intake.MaxPhoto

func showPhotos(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	return headpage.ShowHead(s, w, req, f, "photos", nil, p)
}

// PhotosPage answers GET /heads/{tag}/photos.
func PhotosPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showPhotos(s, w, r, req, page.Page{})
}

// AddPhoto takes a photo sent as a file.
func AddPhoto(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g, tag := r.PostFormValue, chi.URLParam(r, "tag")
	file, _, err := r.FormFile("photo")
	if errors.Is(err, http.ErrMissingFile) || errors.Is(err, http.ErrNotMultipart) {
		return showPhotos(
			s, w, r, req, page.Page{Values: r.PostForm, Errors: field.Only("photo", "choose a picture")},
		)
	} else if err != nil {
		return err
	}
	defer func() { _ = file.Close() }()
	_, err = intake.AddPhoto(r.Context(), s.Shop, req.Actor, g("write_id"), tag,
		strings.TrimSpace(g("position")), g("caption"), g("shown") != "", file)
	if errs, err := page.Wrong(err); errs != nil {
		return showPhotos(s, w, r, req, page.Page{Values: r.Form, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/photos")
}

// ShowPhoto shows a photo to the customer, or not.
func ShowPhoto(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	tag := chi.URLParam(r, "tag")
	if err := intake.ShowPhoto(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), tag, uint(id),
		r.PostForm.Get("shown") == "yes"); err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/photos")
}

// Photo serves a picture.
func Photo(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	p, err := intake.Photo(r.Context(), s.Shop, uint(id))
	if err != nil {
		return err
	}
	page.WritePhoto(w, p)
	return nil
}
