// Package intake is the pages of the shop's intake: heads taken in, and their photos.
package intake

import (
	"io"
	"net/http"
	"net/url"
	"slices"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/intake"
	"yatai/shop/library"
	"yatai/store"
	"yatai/web/headpage"
	"yatai/web/page"
)

type takeInData struct {
	Kinds     []intake.IntakeKind
	Models    []store.HeadModel
	Customers []store.Customer
	Regulated []string
	Ticks     []headpage.Tick
}

func showTakeIn(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	if !req.Actor.May("take in a head") {
		return shop.ErrForbidden
	}
	models, err := library.Models(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	models = slices.DeleteFunc(models, func(m store.HeadModel) bool { return m.RetiredAt != nil })
	customers, err := intake.Customers(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	p.Title, p.Place, p.Data = "Take in a head", "floor", takeInData{
		intake.IntakeKinds, models, customers, intake.Regulations, headpage.Ticks(p.Val("story"), p.Values["symptom"]),
	}
	return s.Show(w, req, "takein", p)
}

// TakeInPage answers GET /take-in.
func TakeInPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showTakeIn(s, w, r, req, page.Page{})
}

// TakeInFile takes a head in from a head file.
func TakeInFile(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g := r.PostForm.Get
	form := intake.ImportForm{WriteID: g("write_id"), Customer: g("customer"), Machine: g("machine")}
	if f, _, err := r.FormFile("file"); err == nil {
		form.File, err = io.ReadAll(io.LimitReader(f, page.MaxHeadFile+1))
		_ = f.Close()
		if err != nil {
			return err
		}
	}
	got, err := intake.Import(r.Context(), s.Shop, req.Actor, form)
	if len(form.File) == 0 || len(form.File) > page.MaxHeadFile {
		err = field.Only("file", "choose a head file of up to %d MB", page.MaxHeadFile>>20)
	}
	if errs, err := page.Wrong(err); errs != nil {
		for from, to := range map[string]string{"customer": "file_customer", "machine": "file_machine"} {
			if says, bad := errs[from]; bad {
				errs[to] = says
				delete(errs, from)
			}
		}
		return showTakeIn(s, w, r, req, page.Page{Values: url.Values{"file_customer": {form.Customer}, "file_machine": {form.Machine}}, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+got.Tag)
}

// TakeIn answers POST /take-in.
func TakeIn(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g := r.PostForm.Get
	tag, err := intake.TakeIn(r.Context(), s.Shop, req.Actor, intake.IntakeForm{
		WriteID: g("write_id"), Customer: g("customer"), Contact: g("contact"), Machine: g("machine"), Hours: g("hours"), Model: g("model"),
		Regulated: g("regulated"), With: g("with"), Heads: g("heads"), Bank: g("bank"), Marks: g("marks"), Kind: g("kind"), Story: g("story"),
		Symptoms: r.PostForm["symptom"], CameWith: g("came_with"), Promise: g("promise"),
	})
	if errs, err := page.Wrong(err); errs != nil {
		return showTakeIn(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag)
}
