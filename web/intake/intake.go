// Package intake is the pages of the shop's intake: heads taken in, and their photos.
package intake

import (
	"io"
	"net/http"
	"net/url"
	"slices"
	"strconv"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/library"
	"yatai/web/headpage"
	"yatai/web/page"
)

// takeInData is what the fields of a head's intake are filled from. Correct is a head's that is there.
type takeInData struct {
	Kinds     []intake.IntakeKind
	Models    []shop.HeadModel
	Customers []shop.Customer
	Regulated []string
	Banks     []string
	Ticks     []headpage.Tick
	Correct   bool
	Life      library.Life // what heads of the model that is chosen came to
}

// fields collects what the fields of p are filled from; a retired model is offered only where it is
// the head's.
func fields(s *page.Site, r *http.Request, p page.Page) (d takeInData, err error) {
	d = takeInData{
		Kinds: intake.IntakeKinds, Regulated: intake.Regulations, Banks: []string{"left", "right"},
		Ticks: headpage.Ticks(p.Val("story"), p.Values["symptom"]),
	}
	if d.Models, err = library.Models(r.Context(), s.Shop); err != nil {
		return d, err
	}
	d.Models = slices.DeleteFunc(d.Models, func(m shop.HeadModel) bool {
		return m.RetiredAt != nil && !p.Is("model", strconv.FormatUint(uint64(m.ID), 10))
	})
	if at := p.Val("bank"); at != "" && !slices.Contains(d.Banks, at) {
		d.Banks = append(d.Banks, at)
	}
	if id, _ := strconv.ParseUint(p.Val("model"), 10, 32); id > 0 {
		if d.Life, err = library.LifeOf(r.Context(), s.Shop, uint(id)); err != nil {
			return d, err
		}
	}
	d.Customers, err = intake.Customers(r.Context(), s.Shop)
	return d, err
}

func showTakeIn(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	if !req.Actor.May("take in a head") {
		return shop.ErrForbidden
	}
	d, err := fields(s, r, p)
	if err != nil {
		return err
	}
	p.Title, p.Place, p.Data = "Take in a head", "floor", d
	return s.Show(w, req, "takein", p)
}

// ModelLife answers GET /take-in/model: what heads of the model that is chosen came to.
func ModelLife(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	if !req.Actor.May("take in a head") {
		return shop.ErrForbidden
	}
	id, _ := strconv.ParseUint(r.Form.Get("model"), 10, 32)
	life, err := library.LifeOf(r.Context(), s.Shop, uint(id))
	if err != nil {
		return err
	}
	s.Write(w, req, http.StatusOK, "takein", "life", page.Page{Data: takeInData{Life: life}})
	return nil
}

// TakeInPage answers GET /take-in, or /take-in?with=TAG: another head that came with one, its order
// filled in.
func TakeInPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag := r.Form.Get("with")
	if tag == "" {
		return showTakeIn(s, w, r, req, page.Page{})
	}
	f, err := headfile.Open(r.Context(), s.Shop, tag)
	if err != nil {
		return err
	}
	v := typed(intake.FormOf(f))
	for _, own := range []string{"marks", "bank"} { // each head has its own
		v.Del(own)
	}
	v.Set("with", f.Tag)
	return showTakeIn(s, w, r, req, page.Page{Values: v})
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
		return showTakeIn(s, w, r, req, page.Page{
			Values: url.Values{"file_customer": {form.Customer}, "file_machine": {form.Machine}}, Errors: errs,
		})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+got.Tag)
}

// formOf reads the fields of a head's intake.
func formOf(r *http.Request) intake.IntakeForm {
	g := r.PostForm.Get
	return intake.IntakeForm{
		WriteID:   g("write_id"),
		Customer:  g("customer"),
		Contact:   g("contact"),
		Machine:   g("machine"),
		Hours:     g("hours"),
		Model:     g("model"),
		Regulated: g("regulated"),
		With:      g("with"),
		Heads:     g("heads"),
		Bank:      g("bank"),
		Marks:     g("marks"),
		Kind:      g("kind"),
		Story:     g("story"),
		Symptoms:  r.PostForm["symptom"],
		CameWith:  g("came_with"),
		Promise:   g("promise"),
	}
}

// TakeIn answers POST /take-in.
func TakeIn(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag, err := intake.TakeIn(r.Context(), s.Shop, req.Actor, formOf(r))
	if errs, err := page.Wrong(err); errs != nil {
		return showTakeIn(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag)
}
