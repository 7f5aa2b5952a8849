// Package week is the pages of the shop's floor, the search and the week.
package week

import (
	"html/template"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"yatai/core/field"
	"yatai/core/schedule"
	"yatai/shop"
	"yatai/shop/week"
	"yatai/web/draw"
	"yatai/web/page"
)

type weekData struct {
	week.Week
	Drawing template.HTML
	View    string            // stations or people
	Span    string            // day, week or month
	Slipped []schedule.Change // what if: the heads that would be done at another time
	Rush    time.Time         // when a rush job would be done
	Asked   bool
	Moving  *week.Moving // a bar put to another time: a proposal
	To      string       // the time of it, as a form has it
	Since   week.Since   // what changed since an earlier day
	Told    bool         // an earlier day's plan is there
}

// spans are how many days are drawn.
var spans = map[string]int{"day": 1, "week": 0, "month": 23}

// weekBars is how the drawing shows the bars of a plan, to be moved or not.
func weekBars(w week.Week, moves bool) func(schedule.Bar) draw.WeekBar {
	heads := map[string]week.WeekHead{}
	for _, h := range w.Heads {
		heads[h.Tag] = h
	}
	return func(b schedule.Bar) draw.WeekBar {
		h := heads[b.Job]
		link := "/heads/" + b.Job
		if seq, ok := w.Operation(b.ID); ok && h.Firm {
			link += "/work/" + strconv.Itoa(seq)
		}
		says := w.Task(b.ID)
		if !b.Hold.IsZero() {
			says += ", held back by hand until " + b.Hold.Format("Mon 2 Jan 15:04")
		}
		return draw.WeekBar{
			Label: b.Job, Says: says, Link: link, Late: h.Outcome.Late > 0, Firm: h.Firm,
			Moves: moves && !b.Running,
		}
	}
}

// weekFlags are the promises and the parts to come that the drawing shows.
func weekFlags(w week.Week) []draw.WeekFlag {
	var out []draw.WeekFlag
	for _, h := range w.Heads {
		if h.Job.Promise == nil {
			continue
		}
		f := draw.WeekFlag{
			Row:  "promised",
			At:   h.Outcome.Due.Add(-time.Minute),
			Tag:  h.Tag,
			Link: "/heads/" + h.Tag,
			Late: h.Outcome.Late > 0,
			Says: h.Tag + " promised " + h.Job.Promised().Format("Mon 2 Jan"),
		}
		if f.At.Before(w.Now) {
			f.At = w.Now
			f.Says += ", past"
		}
		out = append(out, f)
	}
	for _, h := range w.Heads {
		for _, x := range h.Outcome.Waits {
			if x.For == "part" {
				out = append(out, draw.WeekFlag{
					Row: "parts come", At: x.End, Tag: h.Tag, Link: "/parts", Says: h.Tag + ": " + x.Why,
				})
			}
		}
	}
	slices.SortStableFunc(out, func(a, b draw.WeekFlag) int { return a.At.Compare(b.At) })
	slices.SortStableFunc(out, func(a, b draw.WeekFlag) int { return strings.Compare(b.Row, a.Row) })
	return out
}

func showWeek(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	week, err := week.Reckon(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	d := weekData{Week: week, View: "stations", Span: "week"}
	if r.Form.Get("view") == "people" {
		d.View = "people"
	}
	if _, ok := spans[r.Form.Get("span")]; ok {
		d.Span = r.Form.Get("span")
	}
	shown := week
	if shown, err = d.move(r); err != nil {
		errs, err := page.Wrong(err)
		if err != nil {
			return err
		}
		p.Errors, p.Values = errs, r.Form
	}
	d.Drawing = drawn(shown, d.View, spans[d.Span], req.Actor.May("plan the week"))
	if d.Since, d.Told, err = week.SinceYesterday(r.Context(), s.Shop); err != nil {
		return err
	}
	if errs, err := d.ask(r); err != nil {
		return err
	} else if d.Asked {
		p.Errors, p.Values = errs, r.Form
	}
	p.Title, p.Place, p.Data = "Week", "week", d
	return s.Show(w, req, "week", p)
}

// drawn draws the week by stations or by people; moves tells whether bars can be moved.
func drawn(w week.Week, view string, days int, moves bool) template.HTML {
	problem, bars := w.Problem, w.Bars
	if view == "people" {
		problem.Stations, bars = w.ByPerson()
	}
	return draw.Week(problem, bars, weekFlags(w), days, weekBars(w, moves))
}

// ask answers the what-if in the request, if there is one.
func (d *weekData) ask(r *http.Request) (field.Errors, error) {
	g := r.Form.Get
	q := week.WhatIf{Task: g("slip"), Part: g("part"), Ill: g("ill"), Like: g("like")}
	if q == (week.WhatIf{}) {
		return nil, nil
	}
	d.Asked = true
	errs := field.Errors{}
	for name, to := range map[string]*int{"more": &q.More, "days": &q.Days} {
		if g(name) == "" {
			continue
		}
		n, err := strconv.Atoi(strings.TrimSpace(g(name)))
		if err != nil {
			errs.Addf(name, "a whole number, like 60 or -30")
		}
		*to = n
	}
	if len(errs) > 0 {
		return errs, nil
	}
	var err error
	d.Slipped, d.Rush, err = d.If(q)
	return page.Wrong(err)
}

// move works out a bar put to another time, if the request has one, and returns the week as it
// would be then.
func (d *weekData) move(r *http.Request) (week.Week, error) {
	task, text := r.Form.Get("move"), r.Form.Get("to")
	if task == "" || r.Method != http.MethodGet {
		return d.Week, nil
	}
	to, err := barTime(text)
	if err != nil {
		return d.Week, err
	}
	m, err := d.Move(task, to)
	if err != nil {
		return d.Week, err
	}
	d.Moving, d.To = &m, text
	return d.Replanned(m.Result), nil
}

// barTime reads the time a bar is put to: as a form's field for a time has it, or in seconds.
func barTime(text string) (time.Time, error) {
	if n, err := strconv.ParseInt(text, 10, 64); err == nil {
		return time.Unix(n, 0), nil
	}
	t, err := time.ParseInLocation("2006-01-02T15:04", text, time.Local)
	if err != nil {
		return t, field.Errorf("to", "a day and a time")
	}
	return t, nil
}

func weekPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showWeek(s, w, r, req, page.Page{})
}

// planWeek takes a proposed move, or sets how urgent a head is.
func planWeek(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g := r.PostForm.Get
	var err error
	if order := strings.Fields(g("order")); len(order) > 0 {
		err = week.TakeOrder(r.Context(), s.Shop, req.Actor, g("write_id"), order)
	} else if task := g("move"); task != "" {
		var to time.Time
		if to, err = barTime(g("to")); err == nil {
			err = week.TakeBar(r.Context(), s.Shop, req.Actor, g("write_id"), task, to)
		}
	} else if ahead := g("ahead"); ahead != "" {
		err = week.TakeMove(r.Context(), s.Shop, req.Actor, g("write_id"), g("tag"), ahead)
	} else if n, bad := strconv.Atoi(g("urgency")); bad != nil {
		err = field.Only("urgency/"+g("tag"), "from 0 to 9")
	} else {
		err = week.SetUrgency(r.Context(), s.Shop, req.Actor, g("write_id"), g("tag"), n)
	}
	if errs, err := page.Wrong(err); errs != nil {
		return showWeek(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/week")
}

// orderData is what could be better, worked out after the page is there.
type orderData struct {
	week.Week
	Better week.Better
	Moves  []schedule.Proposal
	Order  string
}

// orderPart answers GET /week/order: how good the order of the heads is, and better ones.
func orderPart(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	all, err := week.Reckon(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	d := orderData{Week: all}
	if d.Better, err = all.Better(); err != nil {
		return err
	}
	if d.Better.Late > 0 {
		d.Moves = all.Moves()
	}
	d.Order = strings.Join(d.Better.Order.Jobs, " ")
	s.Write(w, req, http.StatusOK, "week", "order", page.Page{Data: d})
	return nil
}

// todayPage answers GET /week/today: what somebody, or everybody, does today, to print.
func todayPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	all, err := week.Reckon(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	type list struct {
		Name  string
		Turns []week.Turn
	}
	var lists []list
	for _, h := range all.People {
		if who := r.Form.Get("person"); who == "" || who == h.Name {
			lists = append(lists, list{h.Name, all.Today(h.Name, all.Now)})
		}
	}
	return s.Show(w, req, "today", page.Page{Title: "Today", Place: "week", Values: r.Form, Data: struct {
		week.Week
		Lists []list
	}{all, lists}})
}

// wallPage answers GET /week/wall: the week for a big screen, which loads itself again.
func wallPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	all, err := week.Reckon(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	view := "stations"
	if r.Form.Get("view") == "people" {
		view = "people"
	}
	w.Header().Set("Refresh", "60")
	return s.Show(w, req, "wall", page.Page{
		Title: "Wall", Place: "week",
		Data: weekData{Week: all, View: view, Drawing: drawn(all, view, 5, false)},
	})
}

// figuresPage answers GET /week/figures: load, promises kept, flow.
func figuresPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	all, err := week.Reckon(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	f, err := week.FiguresOf(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	stations, people := all.Loads()
	return s.Show(w, req, "figures", page.Page{Title: "Load and flow", Place: "week", Data: struct {
		week.Figures
		Stations, People []week.Load
		Minutes          []week.Learnt
	}{f, stations, people, all.Minutes}})
}

// Slips lists what can be asked "what if" about: the bars, by head and in order.
func (d weekData) Slips() []schedule.Bar {
	bars := slices.Clone(d.Bars)
	slices.SortStableFunc(bars, func(a, b schedule.Bar) int { return strings.Compare(a.Job, b.Job) })
	return bars
}

type stationsData struct {
	Rows   []shop.WorkStation
	Closed string
}

func showStations(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page,
) error {
	rows, closed, err := week.WorkStations(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	p.Title, p.Place, p.Data = "Stations", "week", stationsData{rows, strings.Join(closed, " ")}
	return s.Show(w, req, "stations", p)
}

func stationsPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showStations(s, w, r, req, page.Page{})
}

func setStations(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	forms := map[uint]week.StationForm{}
	for name := range r.PostForm {
		if id, ok := strings.CutPrefix(name, "hours/"); ok {
			n, err := strconv.ParseUint(id, 10, 32)
			if err != nil {
				return shop.ErrNotFound
			}
			forms[uint(n)] = week.StationForm{Capacity: r.PostForm.Get("capacity/" + id), Hours: r.PostForm.Get(name)}
		}
	}
	err := week.SetStations(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), forms,
		r.PostForm.Get("closed"))
	if errs, err := page.Wrong(err); errs != nil {
		return showStations(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/week")
}

// Delayed lists the heads that wait for a part.
func (d weekData) Delayed() []string {
	var out []string
	for _, j := range d.Jobs {
		if slices.ContainsFunc(j.Tasks, func(t schedule.Task) bool { return t.For == "part" }) {
			out = append(out, j.Name)
		}
	}
	return out
}

// Routes are the pages of the week.
func Routes(s *page.Site) func(chi.Router) {
	return func(r chi.Router) {
		r.Get("/", s.Handle(weekPage))
		r.Post("/", s.Handle(planWeek))
		r.Get("/order", s.Handle(orderPart))
		r.Get("/today", s.Handle(todayPage))
		r.Get("/wall", s.Handle(wallPage))
		r.Get("/figures", s.Handle(figuresPage))
		r.Get("/stations", s.Handle(stationsPage))
		r.Post("/stations", s.Handle(setStations))
	}
}
