// Package practising is the pages where people practise on heads that were never built. Nothing on them tells
// what a head hides until it is opened.
package practising

import (
	"errors"
	"html/template"
	"io"
	"math"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/practice"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/practising"
	"yatai/web/draw"
	"yatai/web/page"
)

// listData is what a person has practised, and the lessons.
type listData struct {
	practising.Practice
	Lessons  []practice.Lesson
	Troubles []*practice.Trouble
	Hards    []practice.Hardness
	Trends   []trend
}

// BestOf writes the best share of a lesson, "" where it was never opened.
func (d listData) BestOf(lesson string) string {
	share, done := d.Best(lesson)
	if !done {
		return ""
	}
	return strconv.Itoa(int(math.Round(100*share))) + " %"
}

// trend is a skill's shares over time.
type trend struct {
	Label string
	Line  string
	Now   float64
	Chart template.HTML
}

// Page answers GET /practice: the lessons, and what was practised.
func Page(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return show(s, w, r, req, page.Page{})
}

func show(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	done, err := practising.Of(r.Context(), s.Shop, req.Actor)
	if err != nil {
		return err
	}
	d := listData{
		Practice: done, Lessons: practice.Lessons, Troubles: practice.Troubles, Hards: practice.Levels,
	}
	in := words.In(req.Actor.Language)
	for _, k := range practice.Skills {
		var shares []float64
		for _, row := range done.Opened() {
			if share, asked := row.Skill(k.Code); asked {
				shares = append(shares, share)
			}
		}
		if len(shares) > 1 {
			alt := in.Say("%s: %d heads, the newest %.0f %%", in.Say(k.Label), len(shares), 100*shares[len(shares)-1])
			d.Trends = append(d.Trends, trend{k.Label, k.Line, shares[len(shares)-1], draw.Scores(shares, alt)})
		}
	}
	p.Title, p.Place, p.Data = "Practice", "reference", d
	return s.Show(w, req, "practice", p)
}

// Begin answers POST /practice.
func Begin(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f := r.PostForm
	id, err := practising.Begin(r.Context(), s.Shop, req.Actor, practising.BeginForm{
		WriteID: f.Get("write_id"), Lesson: f.Get("lesson"), Level: f.Get("level"), Trouble: f.Get("trouble"),
		Exam: f.Get("exam"),
	})
	return begun(s, w, r, req, id, err)
}

// TakeIn answers POST /practice/file: a practice head that somebody shared.
func TakeIn(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	var content []byte
	if file, _, err := r.FormFile("file"); err == nil {
		defer func() { _ = file.Close() }()
		if content, err = io.ReadAll(io.LimitReader(file, practising.MostFile+1)); err != nil {
			return err
		}
	}
	f := r.PostForm
	id, err := practising.TakeIn(r.Context(), s.Shop, req.Actor, f.Get("write_id"), content, f.Get("word"))
	return begun(s, w, r, req, id, err)
}

// begun goes on to a head that was begun, or shows what was wrong with the form.
func begun(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, id string, err error,
) error {
	if errs, err := page.Wrong(err); errs != nil {
		typed := url.Values{}
		for k, v := range r.PostForm {
			if k != "word" {
				typed[k] = v
			}
		}
		return show(s, w, r, req, page.Page{Values: typed, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/practice/"+id)
}

// headData is a practice head on its page. Step is the page that is shown.
type headData struct {
	practising.Head
	In    *words.Language
	Actor shop.Actor
	Step  string
	Nth   int
	Reads []readRow
	Looks []lookRow
	Tools []toolRow
	Face  bool // it was looked over
	Map   template.HTML
}

// readRow is a characteristic with how much of it was read.
type readRow struct {
	trade.Characteristic
	New      bool // of the new valves in the box
	Read, Of int
}

// lookRow is a part with at how many positions it was looked at.
type lookRow struct {
	trade.Part
	Seen, Of int
}

// toolRow is a tool with what its last check showed.
type toolRow struct {
	N       int
	Name    string
	Label   string // its doubt, as it says
	Checked bool
	Set     bool
	Shown   string
}

// open opens the head that a request names.
func open(s *page.Site, r *http.Request, req *page.Request) (practising.Head, error) {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return practising.Head{}, shop.ErrNotFound
	}
	return practising.Open(r.Context(), s.Shop, req.Actor, uint(id))
}

// dataOf is what every page of a practice head has.
func dataOf(h practising.Head, req *page.Request, step string) headData {
	return headData{
		Head: h, In: words.In(req.Actor.Language), Actor: req.Actor, Step: step, Nth: len(h.Done.Steps),
	}
}

// fill fills in what stands on the head's own page: its map, what can be read and looked at, the tools.
func (d *headData) fill() {
	d.Face = d.LookedOver()
	d.Map = draw.HeadMap(draw.Map{Layout: d.Told.Model.Layout, Marks: d.marks(), In: d.In})
	row := func(c trade.Characteristic, fresh bool) {
		d.Reads = append(d.Reads, readRow{c, fresh, len(d.Taken(c.Code, fresh)), len(d.Spots(c, fresh))})
	}
	for _, c := range d.Head.Head.Reads() {
		row(c, false)
	}
	if d.Box() {
		row(*trade.Stem, true)
	}
	for _, p := range d.Head.Head.Looks() {
		d.Looks = append(d.Looks, lookRow{p, len(d.Graded(p.Code)), len(p.Positions(d.Told.Model.Layout))})
	}
	d.tools()
}

// marks are what is on the face, for who has looked it over.
func (d headData) marks() []draw.MapMark {
	if !d.Face && !d.Opened() {
		return nil
	}
	var out []draw.MapMark
	for i, m := range d.Marks() {
		g, _ := trade.MarkSeen.Grade(m.Grade)
		out = append(out, draw.MapMark{
			Name: strconv.Itoa(i + 1), Grade: m.Grade, Says: m.Mark(g, d.Told.Model.Layout), X: m.X, Y: m.Y,
		})
	}
	return out
}

// Seen says what is on the face.
func (d headData) Seen() []words.Text {
	var out []words.Text
	for _, m := range d.marks() {
		out = append(out, m.Says)
	}
	return out
}

// Spent is how long what was done takes in a shop.
func (d headData) Spent() quantity.Minutes { return d.Minutes(d.Done) }

// Taught is the head's lesson.
func (d headData) Taught() practice.Lesson { return d.Head.Head.Lesson }

// Symptoms are what the customer tells.
func (d headData) Symptoms() []string {
	var out []string
	for _, code := range d.Told.Symptoms {
		out = append(out, trade.SymptomNamed(code).Label)
	}
	return out
}

// Head answers GET /practice/{id}: the head, and what can be done with it.
func Head(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	h, err := open(s, r, req)
	if err != nil {
		return err
	}
	d := dataOf(h, req, "head")
	d.fill()
	return s.Show(w, req, "practicehead", page.Page{Title: "Practice head", Place: "reference", Data: d})
}

// tools fills in the tools that have a zero, with what their last check showed.
func (d *headData) tools() {
	for n, t := range d.Told.Tools {
		if !d.Zeroed(n) {
			continue
		}
		row := toolRow{N: n, Name: t.Name, Label: "±" + d.shown(t.U, t.Kind)}
		for i, st := range d.Done.Steps {
			if st.Kind == practice.StepZero && st.Tool == n {
				row.Checked, row.Set = true, st.Set
				row.Shown = d.shown(d.Off(n, d.Done.Steps[:i]), t.Kind)
			}
		}
		d.Tools = append(d.Tools, row)
	}
}

// shown writes what a tool of a kind shows, in the actor's unit.
func (d headData) shown(a quantity.Amount, kind string) string {
	k, _ := trade.ToolKindNamed(kind)
	u := k.Unit.Or(d.Actor.Unit)
	return u.In(a, u.Places()) + " " + u.Name
}

// Zero answers POST /practice/{id}/zero: a tool is held against its standard, or set right.
func Zero(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return do(s, w, r, req, practising.Move{
		Kind: practice.StepZero, Tool: number(r, "tool"), Set: r.PostForm.Get("set") == "yes",
	}, "#tools")
}

// Face answers POST /practice/{id}/face: the face is looked over.
func Face(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return do(s, w, r, req, practising.Move{Kind: practice.StepFace}, "#face")
}

// do does one thing with a head and goes back to its page.
func do(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, m practising.Move, to string,
) error {
	h, err := open(s, r, req)
	if err != nil {
		return err
	}
	m.Nth = number(r, "nth")
	if _, err := practising.Do(r.Context(), s.Shop, req.Actor, h.ID, m); err != nil {
		return opened(w, r, h, err)
	}
	return page.Redirect(w, r, "/practice/"+strconv.Itoa(int(h.ID))+to)
}

// opened goes to the truth where a head was opened meanwhile; any other error comes back.
func opened(w http.ResponseWriter, r *http.Request, h practising.Head, err error) error {
	if errors.Is(err, practising.ErrOpened) {
		return page.Redirect(w, r, "/practice/"+strconv.Itoa(int(h.ID))+"/truth")
	}
	return err
}

// number reads a whole number of a form, 0 where there is none.
func number(r *http.Request, name string) int {
	n, _ := strconv.Atoi(strings.TrimSpace(r.Form.Get(name)))
	return n
}

// typed is a value as it is typed into its cell.
func typed(c trade.Characteristic, v gauge.Value, u length.Unit) string {
	if v.Bracket {
		return c.Show(v.Go, u) + " " + c.Show(v.NoGo, u)
	}
	return c.Show(v.At, u)
}
