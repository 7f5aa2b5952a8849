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
	"yatai/store"
	"yatai/web/draw"
	"yatai/web/page"
)

type weekData struct {
	week.Week
	Drawing template.HTML
	Moves   []schedule.Proposal
	Slipped []schedule.Change // what if: the heads that would be done at another time
	Asked   bool
}

// weekBars is how the drawing shows the bars of a plan.
func weekBars(w week.Week) func(schedule.Bar) draw.WeekBar {
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
		return draw.WeekBar{Label: b.Job, Says: w.Task(b.ID), Link: link, Late: h.Outcome.Late > 0, Firm: h.Firm}
	}
}

// weekFlags are the promises and the parts to come that the drawing shows.
func weekFlags(w week.Week) []draw.WeekFlag {
	var out []draw.WeekFlag
	for _, h := range w.Heads {
		if h.Job.Promise == nil {
			continue
		}
		f := draw.WeekFlag{Row: "promised", At: h.Outcome.Due.Add(-time.Minute), Tag: h.Tag, Link: "/heads/" + h.Tag, Late: h.Outcome.Late > 0, Says: h.Tag + " promised " + h.Job.Promised().Format("Mon 2 Jan")}
		if f.At.Before(w.Now) {
			f.At = w.Now
			f.Says += ", past"
		}
		out = append(out, f)
	}
	for _, h := range w.Heads {
		for _, x := range h.Outcome.Waits {
			if x.For == "part" {
				out = append(out, draw.WeekFlag{Row: "parts come", At: x.End, Tag: h.Tag, Link: "/parts", Says: h.Tag + ": " + x.Why})
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
	d := weekData{Week: week, Drawing: draw.Week(week.Problem, week.Bars, weekFlags(week), weekBars(week)), Moves: week.Moves()}
	if task := r.Form.Get("slip"); task != "" {
		d.Asked = true
		more, err := strconv.Atoi(strings.TrimSpace(r.Form.Get("more")))
		if err != nil {
			err = field.Errorf("more", "whole minutes, like 60 or -30")
		} else {
			d.Slipped, err = week.Slip(task, more)
		}
		if p.Errors, err = page.Wrong(err); err != nil {
			return err
		}
		p.Values = r.Form
	}
	p.Title, p.Place, p.Data = "Week", "week", d
	return s.Show(w, req, "week", p)
}

func weekPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showWeek(s, w, r, req, page.Page{})
}

// planWeek takes a proposed move, or sets how urgent a head is.
func planWeek(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g := r.PostForm.Get
	var err error
	if ahead := g("ahead"); ahead != "" {
		err = week.TakeMove(r.Context(), s.Shop, req.Actor, g("write_id"), g("tag"), ahead)
	} else if n, bad := strconv.Atoi(g("urgency")); bad != nil {
		err = field.Errors{"urgency/" + g("tag"): "from 0 to 9"}
	} else {
		err = week.Hurry(r.Context(), s.Shop, req.Actor, g("write_id"), g("tag"), n)
	}
	if errs, err := page.Wrong(err); errs != nil {
		return showWeek(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/week")
}

// Slips lists what can be asked "what if" about: the bars, by head and in order.
func (d weekData) Slips() []schedule.Bar {
	bars := slices.Clone(d.Bars)
	slices.SortStableFunc(bars, func(a, b schedule.Bar) int { return strings.Compare(a.Job, b.Job) })
	return bars
}

type stationsData struct {
	Rows   []store.WorkStation
	Closed string
}

func showStations(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
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
	err := week.SetStations(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), forms, r.PostForm.Get("closed"))
	if errs, err := page.Wrong(err); errs != nil {
		return showStations(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/week")
}

// Routes are the pages of the week.
func Routes(s *page.Site) func(chi.Router) {
	return func(r chi.Router) {
		r.Get("/", s.Handle(weekPage))
		r.Post("/", s.Handle(planWeek))
		r.Get("/stations", s.Handle(stationsPage))
		r.Post("/stations", s.Handle(setStations))
	}
}
