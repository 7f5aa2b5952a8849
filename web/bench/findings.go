package bench

import (
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/core/length"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/web/draw"
	"yatai/web/headpage"
	"yatai/web/page"
)

// partTab is a part in the row of parts to look at.
type partTab struct {
	trade.Part
	Seen, Of int
}

type gradeRow struct {
	ID       string
	Standing shop.Finding
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
		if p.Code == trade.MarkCode || !p.Exists(headfile.KindOf(f.Model)) {
			continue
		}
		if n := len(headfile.PositionsOf(f, p)); n > 0 {
			out = append(out, partTab{p, seen[p.Code], n})
		}
	}
	return out
}

func showFindings(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page,
) error {
	part, ok := trade.PartNamed(chi.URLParam(r, "part"))
	if !ok || part.Code == trade.MarkCode {
		return shop.ErrNotFound
	}
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	stage := r.Form.Get("stage")
	if !slices.Contains(headfile.Stages, stage) {
		stage = page.Current(f)
	}
	d := findingsData{Part: part, Tabs: partTabs(f, stage)}
	for _, at := range headfile.PositionsOf(f, part) {
		x, _ := f.Graded(part.Code, at, stage)
		d.Rows = append(d.Rows, gradeRow{at, x})
	}
	if p.Values == nil {
		p.Values = url.Values{"stage": {stage}}
	}
	return headpage.ShowHead(s, w, req, f, "findings", d, p)
}

// FindingsPage answers GET /heads/{tag}/findings/{part}.
func FindingsPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showFindings(s, w, r, req, page.Page{})
}

// Grade writes the grades typed for one part; "rest" grades the ungraded with the best.
func Grade(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	part, _ := trade.PartNamed(chi.URLParam(r, "part"))
	stage := r.PostForm.Get("stage")
	grades, notes := map[string]string{}, map[string]string{}
	for _, at := range headfile.PositionsOf(f, part) {
		g := r.PostForm.Get("grade." + at)
		if _, seen := f.Graded(part.Code, at, stage); g == "" && !seen && r.PostForm.Get("rest") != "" &&
			part.Grades != nil {
			g = part.Grades[0].Code
		}
		if g != "" {
			grades[at], notes[at] = g, r.PostForm.Get("note."+at)
		}
	}
	err = bench.Grade(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), f.Tag, part.Code, stage,
		grades, notes)
	if errs, err := page.Wrong(err); errs != nil {
		return showFindings(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
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
	return page.Redirect(w, r, to)
}

type markRow struct {
	draw.MapMark
	shop.Finding
	Line string
}

// Along and Across are where a mark lies, as near as it is tapped.
func (m markRow) Along(u length.Unit) string  { return asTapped(m.Finding.X, u) }
func (m markRow) Across(u length.Unit) string { return asTapped(m.Finding.Y, u) }

func asTapped(l length.Length, u length.Unit) string {
	places := 1
	if u == length.In {
		places = 2
	}
	return u.In(l, places) + "\u00a0" + u.Name
}

type mapData struct {
	Big    template.HTML
	Side   string
	Zoom   string
	Marks  []markRow
	Grades []trade.Grade
	Photos []shop.Photo
	Tests  []shop.Note
	How    []string
}

// zooms are how much larger the map is drawn than its room.
var zooms = []string{"1", "2", "3"}

func showMap(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	part, _ := trade.PartNamed(trade.MarkCode)
	d := mapData{
		Side: r.Form.Get("side"), Zoom: r.Form.Get("zoom"), Grades: part.Grades, Photos: f.Photos,
		How: bench.CrackMethods,
	}
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
	m := draw.Map{
		Layout:   f.Layout,
		Verdicts: draw.Judged(f.Now),
		Link:     "/heads/" + f.Tag + "/at/",
		Marks:    headpage.Marks(f),
		Cover:    d.Side == "cover",
		In:       words.In(req.Actor.Language),
		Tap:      d.Side == "face" && f.ClosedAt == nil && req.Actor.May("record a reading"),
	}
	if m.Tap {
		m.Link = "" // a tap places a mark; the table leads to the positions
	}
	if d.Side == "face" {
		m.Lines, m.LineSays = headpage.Gaps(f, req.Actor.Unit)
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
		p.Values = url.Values{"stage": {page.Current(f)}}
	}
	return headpage.ShowHead(s, w, req, f, "map", d, p)
}

// MapPage answers GET /heads/{tag}/map.
func MapPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showMap(s, w, r, req, page.Page{})
}

// PlaceMark places a mark, or says something new of one.
func PlaceMark(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g, tag := r.PostForm.Get, chi.URLParam(r, "tag")
	if g("method") != "" || g("seen") != "" {
		err := bench.TestCracks(r.Context(), s.Shop, req.Actor, g("write_id"), tag, g("method"), g("seen"))
		if errs, err := page.Wrong(err); errs != nil {
			return showMap(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
		} else if err != nil {
			return err
		}
		return page.Redirect(w, r, "/heads/"+tag+"/map")
	}
	replaces, _ := strconv.ParseUint(g("replaces"), 10, 32)
	err := bench.Mark(r.Context(), s.Shop, req.Actor, tag, bench.MarkForm{
		WriteID:  g("write_id"),
		Grade:    g("grade"),
		X:        g("x"),
		Y:        g("y"),
		Note:     g("note"),
		Stage:    g("stage"),
		Unit:     g("unit"),
		Thread:   g("thread"),
		Replaces: uint(replaces),
	})
	if errs, err := page.Wrong(err); errs != nil {
		return showMap(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/map?zoom="+url.QueryEscape(g("zoom")))
}
