package web

import (
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/gauge"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/library"
)

// addTool adds a tool to the register; mistakes come back on the reference page.
func (s *Server) addTool(w http.ResponseWriter, r *http.Request, req *request) error {
	g := r.PostForm.Get
	err := library.AddTool(r.Context(), s.shop, req.actor, library.ToolForm{
		WriteID: g("write_id"), Name: g("name"), Kind: g("kind"), Resolution: g("resolution"), U: g("u"), Percent: g("percent"), Standard: g("standard"), Tolerance: g("tolerance"), Due: g("due"),
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
	t, err := bench.Tool(r.Context(), s.shop, uint(id))
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
	_, err = bench.CheckZero(r.Context(), s.shop, req.actor, r.PostForm.Get("write_id"), uint(id), r.PostForm.Get("read"))
	if errs, err := wrong(err); errs != nil {
		return s.showTool(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, r.URL.Path)
}

// studyData is a study's form and, once it is filled in, what it comes to.
type studyData struct {
	bench.ToolPage
	People, Parts, Trials int
	Out                   *gauge.StudyOutput
	May                   []int // how many parts a study may have
}

// Upto counts from 0 to n-1, for the rows and columns of the form.
func (d studyData) Upto(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

func (s *Server) showStudy(w http.ResponseWriter, r *http.Request, req *request, out *gauge.StudyOutput, p Page) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	t, err := bench.Tool(r.Context(), s.shop, uint(id))
	if err != nil {
		return err
	}
	d := studyData{ToolPage: t, People: 3, Parts: within(r.Form.Get("parts"), 5, 10, 5), Trials: within(r.Form.Get("trials"), 2, 3, 2), Out: out, May: []int{5, 6, 7, 8, 9, 10}}
	p.Title, p.Place, p.Data = "Study of "+t.Name, "reference", d
	return s.show(w, req, "study", p)
}

// within reads a number between least and most, other for anything else.
func within(text string, least, most, other int) int {
	if n, err := strconv.Atoi(text); err == nil && n >= least && n <= most {
		return n
	}
	return other
}

func (s *Server) studyPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showStudy(w, r, req, nil, Page{Values: url.Values{"person/0": {req.actor.Name}}})
}

// study works a study out; "keep" keeps it with the tool.
func (s *Server) study(w http.ResponseWriter, r *http.Request, req *request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	g := r.PostForm.Get
	form := bench.StudyForm{WriteID: g("write_id"), What: g("what"), Parts: within(g("parts"), 5, 10, 5), Trials: within(g("trials"), 2, 3, 2), Cells: map[string]string{}}
	for i := range 3 {
		form.People = append(form.People, g("person/"+strconv.Itoa(i)))
	}
	for name, v := range r.PostForm {
		if key, ok := strings.CutPrefix(name, "cell."); ok {
			form.Cells[key] = v[0]
		}
	}
	if g("again") != "" { // only the form's size was changed
		return s.showStudy(w, r, req, nil, Page{Values: r.PostForm})
	}
	_, out, err := bench.StudyOf(form)
	if err == nil && g("keep") != "" {
		if err = bench.KeepStudy(r.Context(), s.shop, req.actor, uint(id), form); err == nil {
			return redirect(w, r, "/reference/tools/"+strconv.Itoa(int(id)))
		}
	}
	errs, err := wrong(err)
	if err != nil {
		return err
	}
	if len(errs) > 0 {
		return s.showStudy(w, r, req, nil, Page{Values: r.PostForm, Errors: errs})
	}
	return s.showStudy(w, r, req, &out, Page{Values: r.PostForm})
}

// takeU puts a kept study's doubt into the register.
func (s *Server) takeU(w http.ResponseWriter, r *http.Request, req *request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	study, err := strconv.ParseUint(chi.URLParam(r, "study"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	if err := bench.TakeU(r.Context(), s.shop, req.actor, r.PostForm.Get("write_id"), uint(id), uint(study)); err != nil {
		return err
	}
	return redirect(w, r, "/reference/tools/"+strconv.Itoa(int(id)))
}
