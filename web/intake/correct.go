package intake

import (
	"net/http"
	"net/url"

	"github.com/go-chi/chi/v5"

	"yatai/shop"
	"yatai/shop/intake"
	"yatai/web/headpage"
	"yatai/web/page"
)

// correctData is what the correction of a head's intake is filled from, and the other heads of its order.
type correctData struct {
	Form   takeInData
	Others []shop.Head
}

// CorrectPage answers GET /heads/{tag}/correct: its intake as it was typed, to be put right.
func CorrectPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.OpenHead(s, r)
	if err != nil {
		return err
	}
	was := intake.FormOf(f)
	return showCorrect(s, w, r, req, page.Page{Values: typed(was)})
}

// typed is a take-in as its form has it.
func typed(was intake.IntakeForm) url.Values {
	return url.Values{
		"customer": {was.Customer}, "machine": {was.Machine}, "hours": {was.Hours}, "model": {was.Model},
		"bank":  {was.Bank},
		"marks": {was.Marks}, "kind": {was.Kind}, "story": {was.Story}, "came_with": {was.CameWith},
		"promise": {was.Promise},
		"symptom": was.Symptoms, "regulated": {was.Regulated},
	}
}

// Correct answers POST /heads/{tag}/correct.
func Correct(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag := chi.URLParam(r, "tag")
	c := intake.Correction{IntakeForm: formOf(r), Sure: r.PostForm.Get("sure") == "yes"}
	if errs, err := page.Wrong(intake.Correct(r.Context(), s.Shop, req.Actor, tag, c)); errs != nil {
		return showCorrect(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/intake")
}

func showCorrect(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	if !req.Actor.May("take in a head") {
		return shop.ErrForbidden
	}
	f, err := headpage.OpenHead(s, r)
	if err != nil {
		return err
	}
	var d correctData
	if d.Form, err = fields(s, r, p); err != nil {
		return err
	}
	d.Form.Correct = true
	if d.Others, err = intake.Beside(r.Context(), s.Shop, f); err != nil {
		return err
	}
	return headpage.ShowHead(s, w, req, f, "correct", d, p)
}
