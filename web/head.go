package web

import (
	"cmp"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/people"
	"yatai/shop/week"
	"yatai/shop/work"
	"yatai/store"
	"yatai/web/draw"
)

// headData is what every page of a head file shows: the file, its route card and its map.
type headData struct {
	*headfile.File
	Rail  []headfile.Step
	Step  string // of the rail
	View  string
	Map   template.HTML
	Stage string
	U     length.Unit // figures are shown in the person's unit
	More  any
}

// openHead loads the file a request is about.
func (s *Server) openHead(r *http.Request) (*headfile.File, error) {
	return headfile.Open(r.Context(), s.shop, chi.URLParam(r, "tag"))
}

// showHead renders a step of a head file.
func (s *Server) showHead(w http.ResponseWriter, req *request, f *headfile.File, step string, more any, p Page) error {
	d := headData{File: f, Rail: f.Steps(), Step: cmp.Or(stepOf[step], step), View: step, Stage: current(f), U: req.actor.Unit, More: more}
	m := draw.Map{Layout: f.Layout, Verdicts: draw.Judged(f.Now), Link: "/heads/" + f.Tag + "/at/", Suspect: f.SuspectAt()}
	if step == "measure" || step == "judge" {
		m.Lines, m.LineSays = gaps(f, req.actor.Unit)
	}
	m.Marks = marks(f)
	d.Map = draw.HeadMap(m)
	p.Title, p.Place, p.Data = f.Tag+" "+f.Model.Name, "floor", d
	return s.show(w, req, step, p)
}

// stepOf is the step of the rail a view belongs to, where it is not its own.
var stepOf = map[string]string{"findings": "measure", "map": "measure", "photos": "measure", "tray": "measure", "position": "measure",
	"plan": "judge", "face": "judge", "seats": "judge", "guides": "judge", "springs": "judge", "causes": "judge", "schools": "judge", "newer": "judge",
	"sheet": "work", "earlier": "intake"}

// marks collects the marks that stand for a map, numbered in the order they were placed.
func marks(f *headfile.File) []draw.MapMark {
	part, _ := trade.PartNamed(trade.MarkCode)
	var out []draw.MapMark
	for _, x := range f.Standings(headfile.Stages...) {
		if x.Part == trade.MarkCode {
			g, _ := part.Grade(x.Grade)
			out = append(out, draw.MapMark{Name: strconv.Itoa(len(out) + 1), Grade: x.Grade, Label: g.Label + " " + f.Layout.Near(x.X, x.Y), X: x.X, Y: x.Y})
		}
	}
	return out
}

// gaps writes the gap under each straightedge line and what it says.
func gaps(f *headfile.File, u length.Unit) (map[string]string, map[string]gauge.Verdict) {
	text, says := map[string]string{}, map[string]gauge.Verdict{}
	line, _ := trade.ByCode("face.line")
	for _, stage := range headfile.Stages {
		for _, r := range f.Standing(stage) {
			if r.Characteristic == line.Code {
				text[r.Position] = u.In(r.NoGoNM, 2)
				says[r.Position] = f.SpotVerdict(line, r)
				if u == length.In {
					text[r.Position] = u.In(r.NoGoNM, 4)
				}
			}
		}
	}
	return text, says
}

// head opens the step that is to be done now.
func (s *Server) head(w http.ResponseWriter, r *http.Request, _ *request) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	at := "handover"
	for _, st := range f.Steps() {
		if st.State == "now" {
			at = st.Code
		}
	}
	return redirect(w, r, "/heads/"+url.PathEscape(f.Tag)+"/"+at)
}

// step answers a page of the head file that only shows.
func (s *Server) step(w http.ResponseWriter, r *http.Request, req *request, name string, more func(*headfile.File) (any, error)) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	var m any
	if more != nil {
		if m, err = more(f); err != nil {
			return err
		}
	}
	return s.showHead(w, req, f, name, m, Page{})
}

func (s *Server) intakeStep(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.step(w, r, req, "intake", func(f *headfile.File) (any, error) { return week.Trail(r.Context(), s.shop, f.ID) })
}

func (s *Server) measureStep(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.step(w, r, req, "measure", func(f *headfile.File) (any, error) { return f.Progress(current(f)), nil })
}

func (s *Server) judgeStep(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.step(w, r, req, "judge", func(f *headfile.File) (any, error) { return lead.Newer(r.Context(), s.shop, f) })
}

// opRow is an operation as the work page shows it.
type opRow struct {
	store.Operation
	Kind   *trade.Operation
	Asks   bool // finishing it asks for a proof or a record
	Next   bool // the first that can be started
	Actual int  // minutes
	By     string
}

func (s *Server) workRows(r *http.Request, f *headfile.File) ([]opRow, error) {
	people, err := people.People(r.Context(), s.shop)
	if err != nil {
		return nil, err
	}
	name := map[uint]string{}
	for _, p := range people {
		name[p.ID] = p.Name
	}
	var rows []opRow
	free := true
	for _, o := range f.Operations {
		k := trade.OperationNamed(o.Code)
		if k == nil { // written before this version, and known no more
			k = &trade.Operation{Code: o.Code, Name: o.Code}
		}
		row := opRow{Operation: o, Kind: k, Actual: int(o.Actual(s.shop.Now()).Minutes())}
		for _, by := range []*uint{o.StartedBy, o.FinishedBy} {
			if by != nil {
				row.By = name[*by]
			}
		}
		row.Asks = k.Proof != nil || k.Record != nil
		row.Next = free && o.State == "waiting"
		free = free && (o.State == "done" || o.State == "skipped")
		rows = append(rows, row)
	}
	return rows, nil
}

func (s *Server) checkStep(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.step(w, r, req, "check", func(f *headfile.File) (any, error) { return f.Gate(), nil })
}

// back shows a step again with what was wrong.
func (s *Server) back(w http.ResponseWriter, r *http.Request, req *request, step string, err error, more func(*headfile.File) (any, error)) error {
	errs, err := wrong(err)
	if errs == nil {
		return err
	}
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	m, err := more(f)
	if err != nil {
		return err
	}
	return s.showHead(w, req, f, step, m, Page{Values: r.PostForm, Errors: errs})
}

func (s *Server) sign(w http.ResponseWriter, r *http.Request, req *request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	feature := g("feature")
	if err := work.SignDeviation(r.Context(), s.shop, req.actor, g("write_id"), tag, feature, g("reason/"+feature)); err != nil {
		return s.back(w, r, req, "check", err, func(f *headfile.File) (any, error) { return f.Gate(), nil })
	}
	return redirect(w, r, "/heads/"+tag+"/check")
}

func (s *Server) release(w http.ResponseWriter, r *http.Request, req *request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	tool, _ := strconv.ParseUint(g("tool"), 10, 32)
	if err := bench.Release(r.Context(), s.shop, req.actor, g("write_id"), tag, uint(tool), g("reason/tool/"+g("tool"))); err != nil {
		return s.back(w, r, req, "check", err, func(f *headfile.File) (any, error) { return f.Gate(), nil })
	}
	return redirect(w, r, "/heads/"+tag+"/check")
}

func (s *Server) close(w http.ResponseWriter, r *http.Request, req *request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	if err := work.CloseHead(r.Context(), s.shop, req.actor, tag, work.CloseForm{WriteID: g("write_id"), Refit: g("refit"), Releaser: g("releaser"), Licence: g("licence")}); err != nil {
		return s.back(w, r, req, "check", err, func(f *headfile.File) (any, error) { return f.Gate(), nil })
	}
	return redirect(w, r, "/heads/"+tag+"/handover")
}

func (s *Server) handoverStep(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.step(w, r, req, "handover", nil)
}

func (s *Server) handover(w http.ResponseWriter, r *http.Request, req *request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	if err := work.HandOver(r.Context(), s.shop, req.actor, g("write_id"), tag, g("handed_to")); err != nil {
		return s.back(w, r, req, "handover", err, func(*headfile.File) (any, error) { return nil, nil })
	}
	return redirect(w, r, "/heads/"+tag+"/handover")
}

// reportRow is one feature as received against final.
type reportRow struct {
	Received, Now judge.Feature
	Decision      string
}

type reportData struct {
	headData
	Rows       []reportRow
	Operations []opRow
	Deviations []store.Signoff
	Causes     []lead.CauseRow
	Today      string
}

// report is the printable report of a head.
func (s *Server) report(w http.ResponseWriter, r *http.Request, req *request) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	ops, err := s.workRows(r, f)
	if err != nil {
		return err
	}
	d := reportData{headData: headData{File: f, U: req.actor.Unit, Map: draw.HeadMap(draw.Map{Layout: f.Layout, Verdicts: draw.Judged(f.Now), Marks: marks(f)})}, Operations: ops, Deviations: f.Signoffs, Today: s.shop.Now().Local().Format("2 January 2006")}
	if d.Causes, err = s.confirmed(r, f); err != nil {
		return err
	}
	for _, x := range f.Received.All() {
		now, _ := f.Now.Feature(x.Key())
		row := reportRow{Received: x, Now: now}
		if dec, ok := f.Decision(x.Key()); ok {
			row.Decision = decisionText(dec)
		}
		d.Rows = append(d.Rows, row)
	}
	s.write(w, req, http.StatusOK, "report", "report", Page{Title: "Report " + f.Tag, Data: d})
	return nil
}

func decisionText(d store.Decision) string {
	if rep := trade.RepairNamed(d.Choice); rep != nil {
		return rep.Name
	}
	if d.Choice == trade.Planned {
		return "answered by " + d.Reason
	}
	return "left: " + d.Reason
}

// Decided tells what was decided about a feature, for the pages.
func (d headData) Decided(x judge.Feature) string {
	if dec, ok := d.Decision(x.Key()); ok {
		return decisionText(dec)
	}
	return ""
}

// Chosen returns the code decided for a feature.
func (d headData) Chosen(x judge.Feature) string {
	dec, _ := d.Decision(x.Key())
	return dec.Choice
}

// Reason returns the reason typed with a decision.
func (d headData) Reason(x judge.Feature) string {
	dec, _ := d.Decision(x.Key())
	return dec.Reason
}

type positionData struct {
	Section  template.HTML
	Now      judge.Position
	Received judge.Position
	Readings []store.Reading
	Findings []store.Finding
	Tray     []headfile.TrayCell
	Means    bool        // the shop's school shows the mean beside the worst
	Wear     *trade.Wear // which way the guide is worn, when it was read both ways
	Rose     template.HTML
	Prev     string
	Next     string
}

// position is everything of one valve.
func (s *Server) position(w http.ResponseWriter, r *http.Request, req *request) error {
	id := chi.URLParam(r, "position")
	return s.step(w, r, req, "position", func(f *headfile.File) (any, error) {
		i := slices.IndexFunc(f.Now.Positions, func(p judge.Position) bool { return p.ID == id })
		if i < 0 {
			return nil, shop.ErrNotFound
		}
		d := positionData{Now: f.Now.Positions[i], Received: f.Received.Positions[i]}
		if i > 0 {
			d.Prev = f.Now.Positions[i-1].ID
		}
		if i+1 < len(f.Now.Positions) {
			d.Next = f.Now.Positions[i+1].ID
		}
		d.Section = section(f, d.Now, req.actor.Unit).Draw()
		for _, rd := range slices.Backward(f.Readings) {
			if rd.Position == id {
				d.Readings = append(d.Readings, rd)
			}
		}
		for _, x := range slices.Backward(f.Findings) {
			if x.Position == id {
				d.Findings = append(d.Findings, x)
			}
		}
		d.Tray = f.Tray(id)
		set, err := s.shop.Settings(r.Context(), f.Tag)
		if err != nil {
			return nil, err
		}
		d.Means = set.Get("school.averaging") == "mean as well"
		guide := f.Counting(trade.GuideBore.Code, id)
		if w, ok := trade.WearOf(head.ReadsOf(guide)); ok {
			d.Wear = &w
			d.Rose = draw.Rose(guide, req.actor.Unit)
		}
		return d, nil
	})
}

// FeatureAt returns a position's feature by its code; an empty one when it has none.
func (d headData) FeatureAt(p judge.Position, code string) judge.Feature {
	f, _ := p.Feature(code)
	return f
}

// section collects what the cross-section of a position shows.
func section(f *headfile.File, p judge.Position, u length.Unit) draw.Section {
	c := draw.Section{Says: map[string]gauge.Verdict{}, Unit: u}
	if v, ok := f.Layout.Valve(p.ID); ok {
		c.Head = v.Head
	}
	for i, place := range []string{"top", "middle", "bottom"} {
		c.Guide[i], c.Stem[i] = f.Mean("guide.bore", p.ID, place), f.Mean("stem.dia", p.ID, place)
	}
	for code, to := range map[string]**length.Length{"valve.recession": &c.Recession, "stem.height": &c.StemHeight, "valve.margin": &c.Margin, "seat.width": &c.SeatWidth} {
		*to = f.Mean(code, p.ID, "")
	}
	for _, x := range p.Features {
		c.Says[x.Code] = x.Verdict
	}
	return c
}
