package library

import (
	"html/template"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/quantity"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/library"
	"yatai/web/draw"
	"yatai/web/page"
)

// toolForm reads a tool's form.
func toolForm(r *http.Request) library.ToolForm {
	g := r.PostForm.Get
	return library.ToolForm{
		Unit:       g("unit"),
		WriteID:    g("write_id"),
		Name:       g("name"),
		Kind:       g("kind"),
		Resolution: g("resolution"),
		U:          g("u"),
		Percent:    g("percent"),
		Standard:   g("standard"),
		Tolerance:  g("tolerance"),
		Due:        g("due"),
		Leaves:     g("leaves"),
	}
}

// onTool does something about the tool of the address and shows its page again.
func onTool(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, do func(id uint) error,
) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	if errs, err := page.Wrong(do(uint(id))); errs != nil {
		return showTool(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/reference/tools/"+strconv.FormatUint(id, 10))
}

// ChangeTool answers POST /reference/tools/{id}/change.
func ChangeTool(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return onTool(s, w, r, req, func(id uint) error {
		return library.ChangeTool(r.Context(), s.Shop, req.Actor, id, toolForm(r))
	})
}

// RetireTool answers POST /reference/tools/{id}/retire.
func RetireTool(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return onTool(s, w, r, req, func(id uint) error {
		return library.RetireTool(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), id,
			r.PostForm.Get("retire") == "yes")
	})
}

// AddTool adds a tool to the register; mistakes come back on the reference page.
func AddTool(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	err := library.AddTool(r.Context(), s.Shop, req.Actor, toolForm(r))
	if errs, err := page.Wrong(err); errs != nil {
		return showReference(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/reference")
}

func showTool(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	t, err := bench.Tool(r.Context(), s.Shop, uint(id))
	if err != nil {
		return err
	}
	d := toolData{ToolPage: t, Says: t.ChartSays(req.Actor.Unit)}
	if c, _, ok := t.Charted(); ok {
		write := func(a quantity.Amount) string { return t.Told(a, req.Actor.Unit) }
		d.Chart = draw.ZeroChart(c, t.Tolerance, "zero checks: "+strings.Join(d.Says, " "), write)
	}
	p.Title, p.Place, p.Data = t.Name, "reference", d
	return s.Show(w, req, "tool", p)
}

// toolData is a tool with the chart of its zero checks, and what that says.
type toolData struct {
	bench.ToolPage
	Chart template.HTML
	Says  []string
}

// ToolPage answers GET /reference/tools/{id}.
func ToolPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showTool(s, w, r, req, page.Page{})
}

// CheckZero records a zero check.
func CheckZero(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	_, err = bench.CheckZero(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), uint(id),
		r.PostForm.Get("read"))
	if errs, err := page.Wrong(err); errs != nil {
		return showTool(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, r.URL.Path)
}

// studyData is a study's form and, once it is filled in, what it comes to.
type studyData struct {
	bench.ToolPage
	People, Parts, Trials int
	Out                   *bench.StudyResult
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

func showStudy(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, out *bench.StudyResult,
	p page.Page,
) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	t, err := bench.Tool(r.Context(), s.Shop, uint(id))
	if err != nil {
		return err
	}
	d := studyData{
		ToolPage: t,
		People:   3,
		Parts:    within(r.Form.Get("parts"), 5, 10, 5),
		Trials:   within(r.Form.Get("trials"), 2, 3, 2),
		Out:      out,
		May:      []int{5, 6, 7, 8, 9, 10},
	}
	p.Title, p.Place, p.Data = "Study of "+t.Name, "reference", d
	return s.Show(w, req, "study", p)
}

// within reads a number between least and most, other for anything else.
func within(text string, least, most, other int) int {
	if n, err := strconv.Atoi(text); err == nil && n >= least && n <= most {
		return n
	}
	return other
}

// StudyPage answers GET /reference/tools/{id}/study.
func StudyPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showStudy(s, w, r, req, nil, page.Page{Values: url.Values{"person/0": {req.Actor.Name}}})
}

// Study works a study out; "keep" keeps it with the tool.
func Study(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	g := r.PostForm.Get
	form := bench.StudyForm{
		WriteID: g("write_id"), What: g("what"), Parts: within(g("parts"), 5, 10, 5),
		Trials: within(g("trials"), 2, 3, 2),
		Cells:  map[string]string{},
	}
	for i := range 3 {
		form.People = append(form.People, g("person/"+strconv.Itoa(i)))
	}
	for name, v := range r.PostForm {
		if key, ok := strings.CutPrefix(name, "cell."); ok {
			form.Cells[key] = v[0]
		}
	}
	if g("again") != "" { // only the form's size was changed
		return showStudy(s, w, r, req, nil, page.Page{Values: r.PostForm})
	}
	t, err := bench.Tool(r.Context(), s.Shop, uint(id))
	if err != nil {
		return err
	}
	_, out, err := bench.StudyOf(t.Tool, form)
	if err == nil && g("keep") != "" {
		if err = bench.KeepStudy(r.Context(), s.Shop, req.Actor, uint(id), form); err == nil {
			return page.Redirect(w, r, "/reference/tools/"+strconv.Itoa(int(id)))
		}
	}
	errs, err := page.Wrong(err)
	if err != nil {
		return err
	}
	if len(errs) > 0 {
		return showStudy(s, w, r, req, nil, page.Page{Values: r.PostForm, Errors: errs})
	}
	return showStudy(s, w, r, req, &out, page.Page{Values: r.PostForm})
}

// TakeU puts a kept study's doubt into the register.
func TakeU(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	study, err := strconv.ParseUint(chi.URLParam(r, "study"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	if err := bench.TakeU(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), uint(id),
		uint(study)); err != nil {
		return err
	}
	return page.Redirect(w, r, "/reference/tools/"+strconv.Itoa(int(id)))
}
