package web

import (
	"errors"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/store"
	"yatai/web/draw"
)

// partTab is a part in the row of parts to look at.
type partTab struct {
	trade.Part
	Seen, Of int
}

type gradeRow struct {
	ID       string
	Standing store.Finding
}

type findingsData struct {
	Part trade.Part
	Tabs []partTab
	Rows []gradeRow
}

// partTabs lists the parts that are graded on this head with how many have been seen.
func partTabs(f *headfile.File, stage string) []partTab {
	seen := map[string]int{}
	for _, x := range f.Standings(stage) {
		seen[x.Part]++
	}
	var out []partTab
	for _, p := range trade.Parts {
		if p.Code != trade.MarkCode && !notOn[f.Model.Drive][p.Code] {
			out = append(out, partTab{p, seen[p.Code], len(f.Layout.Valves)})
		}
	}
	return out
}

// notOn lists the parts a drive does not have.
var notOn = map[string]map[string]bool{"bucket": {"rocker.condition": true}, "rocker": {"bucket.condition": true}}

func (s *Server) showFindings(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	part, ok := trade.PartNamed(chi.URLParam(r, "part"))
	if !ok || part.Code == trade.MarkCode {
		return shop.ErrNotFound
	}
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	stage := r.Form.Get("stage")
	if !slices.Contains(headfile.Stages, stage) {
		stage = current(f)
	}
	d := findingsData{Part: part, Tabs: partTabs(f, stage)}
	for _, v := range f.Layout.Valves {
		x, _ := f.Graded(part.Code, v.ID, stage)
		d.Rows = append(d.Rows, gradeRow{v.ID, x})
	}
	if p.Values == nil {
		p.Values = url.Values{"stage": {stage}}
	}
	return s.showHead(w, req, f, "findings", d, p)
}

func (s *Server) findingsPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showFindings(w, r, req, Page{})
}

// grade writes the grades typed for one part; "rest" grades the ungraded with the best.
func (s *Server) grade(w http.ResponseWriter, r *http.Request, req *request) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	part, _ := trade.PartNamed(chi.URLParam(r, "part"))
	stage := r.PostForm.Get("stage")
	grades, notes := map[string]string{}, map[string]string{}
	for _, v := range f.Layout.Valves {
		g := r.PostForm.Get("grade." + v.ID)
		if _, seen := f.Graded(part.Code, v.ID, stage); g == "" && !seen && r.PostForm.Get("rest") != "" && part.Grades != nil {
			g = part.Grades[0].Code
		}
		if g != "" {
			grades[v.ID], notes[v.ID] = g, r.PostForm.Get("note."+v.ID)
		}
	}
	err = bench.Grade(r.Context(), s.shop, req.actor, r.PostForm.Get("write_id"), f.Tag, part.Code, stage, grades, notes)
	if errs, err := wrong(err); errs != nil {
		return s.showFindings(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	to := "/heads/" + f.Tag + "/findings/" + part.Code + "?stage=" + url.QueryEscape(stage)
	if r.PostForm.Get("rest") != "" { // all seen: on to the next part
		tabs := partTabs(f, stage)
		if i := slices.IndexFunc(tabs, func(t partTab) bool { return t.Code == part.Code }); i+1 < len(tabs) {
			to = "/heads/" + f.Tag + "/findings/" + tabs[i+1].Code + "?stage=" + url.QueryEscape(stage)
		}
	}
	return redirect(w, r, to)
}

type markRow struct {
	draw.MapMark
	store.Finding
	Line string
}

type mapData struct {
	Big    template.HTML
	Side   string
	Zoom   string
	Marks  []markRow
	Grades []trade.Grade
	Photos []store.Photo
	Tests  []store.Note
	How    []string
}

// zooms are how much larger the map is drawn than its room.
var zooms = []string{"1", "2", "3"}

func (s *Server) showMap(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	part, _ := trade.PartNamed(trade.MarkCode)
	d := mapData{Side: r.Form.Get("side"), Zoom: r.Form.Get("zoom"), Grades: part.Grades, Photos: f.Photos, How: bench.CrackMethods}
	for _, n := range f.Notes {
		if n.Kind == headfile.CrackNote {
			d.Tests = append(d.Tests, n)
		}
	}
	if d.Side != "cover" {
		d.Side = "face"
	}
	if !slices.Contains(zooms, d.Zoom) {
		d.Zoom = "1"
	}
	m := draw.Map{Layout: f.Layout, Verdicts: draw.Judged(f.Now), Link: "/heads/" + f.Tag + "/at/", Marks: marks(f), Cover: d.Side == "cover", Tap: d.Side == "face" && f.ClosedAt == nil && req.actor.May("record a reading")}
	if m.Tap {
		m.Link = "" // a tap places a mark; the table leads to the positions
	}
	if d.Side == "face" {
		m.Lines, m.LineSays = gaps(f, req.actor.Unit)
	}
	d.Big = draw.HeadMap(m)
	i := 0
	for _, x := range f.Standings(headfile.Stages...) {
		if x.Part == trade.MarkCode {
			g, _ := part.Grade(x.Grade)
			d.Marks = append(d.Marks, markRow{m.Marks[i], x, g.Line})
			i++
		}
	}
	if p.Values == nil {
		p.Values = url.Values{"stage": {current(f)}}
	}
	return s.showHead(w, req, f, "map", d, p)
}

// Where names the place of a mark in words.
func (d headData) Where(x store.Finding) string { return d.Layout.Near(x.X, x.Y) }

func (s *Server) mapPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showMap(w, r, req, Page{})
}

// placeMark places a mark, or says something new of one.
func (s *Server) placeMark(w http.ResponseWriter, r *http.Request, req *request) error {
	g, tag := r.PostForm.Get, chi.URLParam(r, "tag")
	if g("method") != "" || g("seen") != "" {
		err := bench.TestCracks(r.Context(), s.shop, req.actor, g("write_id"), tag, g("method"), g("seen"))
		if errs, err := wrong(err); errs != nil {
			return s.showMap(w, r, req, Page{Values: r.PostForm, Errors: errs})
		} else if err != nil {
			return err
		}
		return redirect(w, r, "/heads/"+tag+"/map")
	}
	replaces, _ := strconv.ParseUint(g("replaces"), 10, 32)
	err := bench.Mark(r.Context(), s.shop, req.actor, tag, bench.MarkForm{WriteID: g("write_id"), Grade: g("grade"), X: g("x"), Y: g("y"), Note: g("note"), Stage: g("stage"), Replaces: uint(replaces)})
	if errs, err := wrong(err); errs != nil {
		return s.showMap(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/map?zoom="+url.QueryEscape(g("zoom")))
}

func (s *Server) showPhotos(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	return s.showHead(w, req, f, "photos", nil, p)
}

func (s *Server) photosPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showPhotos(w, r, req, Page{})
}

// addPhoto takes a photo sent as a file.
func (s *Server) addPhoto(w http.ResponseWriter, r *http.Request, req *request) error {
	g, tag := r.PostFormValue, chi.URLParam(r, "tag")
	file, _, err := r.FormFile("photo")
	if errors.Is(err, http.ErrMissingFile) || errors.Is(err, http.ErrNotMultipart) {
		return s.showPhotos(w, r, req, Page{Values: r.PostForm, Errors: map[string]string{"photo": "choose a picture"}})
	} else if err != nil {
		return err
	}
	defer func() { _ = file.Close() }()
	_, err = intake.AddPhoto(r.Context(), s.shop, req.actor, g("write_id"), tag, strings.TrimSpace(g("position")), g("caption"), g("shown") != "", file)
	if errs, err := wrong(err); errs != nil {
		return s.showPhotos(w, r, req, Page{Values: r.Form, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/photos")
}

// showPhoto shows a photo to the customer, or not.
func (s *Server) showPhoto(w http.ResponseWriter, r *http.Request, req *request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	tag := chi.URLParam(r, "tag")
	if err := intake.ShowPhoto(r.Context(), s.shop, req.actor, r.PostForm.Get("write_id"), tag, uint(id), r.PostForm.Get("shown") == "yes"); err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/photos")
}

// photo serves a picture.
func (s *Server) photo(w http.ResponseWriter, r *http.Request, _ *request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	p, err := intake.Photo(r.Context(), s.shop, uint(id))
	if err != nil {
		return err
	}
	writePhoto(w, p)
	return nil
}

func writePhoto(w http.ResponseWriter, p store.Photo) {
	w.Header().Set("Content-Type", "image/jpeg")
	w.Header().Set("Cache-Control", "private, max-age=86400, immutable")
	_, _ = w.Write(p.JPEG)
}
