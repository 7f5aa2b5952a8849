// Package headpage is the frame of every page about one head: its route card, its map and its
// steps, and the pages that only show it. Other places open a head with OpenHead and answer
// with ShowHead.
package headpage

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
	"yatai/core/newpart"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/people"
	"yatai/shop/week"
	"yatai/web/draw"
	"yatai/web/page"
)

// HeadData is what every page of a head file shows: the file, its route card and its map.
type HeadData struct {
	*headfile.File
	Rail  []headfile.Step
	Step  string // of the rail
	View  string
	Map   template.HTML
	Stage string
	U     length.Unit // figures are shown in the person's unit
	More  any
}

// ReadHead loads the file a request is about, for who asks: what is said of it is in their unit.
func ReadHead(s *page.Site, r *http.Request, req *page.Request) (*headfile.File, error) {
	return headfile.OpenFor(r.Context(), s.Shop, chi.URLParam(r, "tag"), req.Actor.Unit)
}

// OpenHead loads the file a request is about, in the unit of its sheet.
func OpenHead(s *page.Site, r *http.Request) (*headfile.File, error) {
	return headfile.Open(r.Context(), s.Shop, chi.URLParam(r, "tag"))
}

// ShowHead renders a step of a head file.
func ShowHead(
	s *page.Site, w http.ResponseWriter, req *page.Request, f *headfile.File, step string, more any,
	p page.Page,
) error {
	d := HeadData{
		File: f, Rail: f.Steps(), Step: cmp.Or(stepOf[step], step), View: step, Stage: page.Current(f),
		U: req.Actor.Unit, More: more,
	}
	m := draw.Map{
		Layout: f.Layout, Verdicts: draw.Judged(f.Now), Link: "/heads/" + f.Tag + "/at/",
		Suspect: f.SuspectAt(), In: words.In(req.Actor.Language),
	}
	if step == "measure" || step == "judge" {
		m.Lines, m.LineSays = Gaps(f, req.Actor.Unit)
	}
	m.Marks = Marks(f)
	d.Map = draw.HeadMap(m)
	p.Title, p.Place, p.Data = f.Tag+" "+f.Model.Name, "floor", d
	return s.Show(w, req, step, p)
}

// stepOf is the step of the rail a view belongs to, where it is not its own.
var stepOf = map[string]string{
	"findings": "measure", "map": "measure", "photos": "measure", "tray": "measure",
	"newparts": "measure", "position": "measure", "ways": "judge", "face": "judge", "seats": "judge",
	"guides": "judge", "springs": "judge", "causes": "judge", "schools": "judge", "newer": "judge",
	"sheet": "work", "bill": "handover", "earlier": "intake", "correct": "intake",
}

// Marks collects the marks that stand for a map, numbered in the order they were placed.
func Marks(f *headfile.File) []draw.MapMark {
	part, _ := trade.PartNamed(trade.MarkCode)
	var out []draw.MapMark
	for _, x := range f.Standings(headfile.Stages...) {
		if x.Part == trade.MarkCode {
			g, _ := part.Grade(x.Grade)
			says := headfile.Seen(x).Mark(g, f.Layout)
			out = append(
				out, draw.MapMark{Name: strconv.Itoa(len(out) + 1), Grade: x.Grade, Says: says, X: x.X, Y: x.Y},
			)
		}
	}
	return out
}

// Gaps writes the gap under each straightedge line and what it says.
func Gaps(f *headfile.File, u length.Unit) (map[string]string, map[string]gauge.Verdict) {
	text, says := map[string]string{}, map[string]gauge.Verdict{}
	line, _ := trade.ByCode("face.line")
	for _, stage := range headfile.Stages {
		for _, r := range f.Standing(stage) {
			if r.Characteristic == line.Code {
				text[r.Position] = u.In(r.NoGoNM.Length(), 2)
				says[r.Position] = f.SpotVerdict(line, r)
				if u == length.In {
					text[r.Position] = u.In(r.NoGoNM.Length(), 4)
				}
			}
		}
	}
	return text, says
}

// Head opens the step that is to be done now.
func Head(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	f, err := OpenHead(s, r)
	if err != nil {
		return err
	}
	at := "handover"
	for _, st := range f.Steps() {
		if st.State == "now" {
			at = st.Code
		}
	}
	return page.Redirect(w, r, "/heads/"+url.PathEscape(f.Tag)+"/"+at)
}

// Step answers a page of the head file that only shows.
func Step(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, name string,
	more func(*headfile.File) (any, error),
) error {
	f, err := ReadHead(s, r, req)
	if err != nil {
		return err
	}
	var m any
	if more != nil {
		if m, err = more(f); err != nil {
			return err
		}
	}
	return ShowHead(s, w, req, f, name, m, page.Page{})
}

// intakeData is what the intake step shows beside the head: what happened, and the heads that came
// with it.
type intakeData struct {
	Trail  []shop.Event
	Others []shop.Head
}

// IntakeStep answers GET /heads/{tag}/intake.
func IntakeStep(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showIntake(s, w, r, req, page.Page{})
}

func showIntake(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	f, err := ReadHead(s, r, req)
	if err != nil {
		return err
	}
	trail, err := week.Trail(r.Context(), s.Shop, f.ID)
	if err != nil {
		return err
	}
	others, err := week.Others(r.Context(), s.Shop, f)
	if err != nil {
		return err
	}
	return ShowHead(s, w, req, f, "intake", intakeData{trail, others}, p)
}

// KeepNote answers POST /heads/{tag}/note.
func KeepNote(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g, tag := r.PostForm.Get, chi.URLParam(r, "tag")
	err := week.KeepNote(r.Context(), s.Shop, req.Actor, g("write_id"), tag, g("note"), g("pinned") == "yes")
	if errs, err := page.Wrong(err); errs != nil {
		return showIntake(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/intake")
}

// MeasureStep answers GET /heads/{tag}/measure.
func MeasureStep(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return Step(s, w, r, req, "measure", func(f *headfile.File) (any, error) {
		return f.Progress(page.Current(f)), nil
	})
}

// OpRow is an operation as the work page shows it.
type OpRow struct {
	shop.Operation
	Kind   *trade.Operation
	Asks   bool     // finishing it asks for a proof or a record
	Next   bool     // it can be started
	First  bool     // it is the first that can
	Actual int      // minutes of all who were at it
	At     []string // who is at it now
	Mine   bool     // whoever looks is
	Failed bool     // it is done, and its record says that it failed
	By     string
}

// WorkRows returns the head's operations as its pages show them.
func WorkRows(s *page.Site, r *http.Request, req *page.Request, f *headfile.File) ([]OpRow, error) {
	people, err := people.People(r.Context(), s.Shop)
	if err != nil {
		return nil, err
	}
	name := map[uint]string{}
	for _, p := range people {
		name[p.ID] = p.Name
	}
	var rows []OpRow
	first := true
	for _, o := range f.Operations {
		k := trade.OperationNamed(o.Code)
		if k == nil { // written before this version, and known no more
			k = &trade.Operation{Code: o.Code, Name: o.Code}
		}
		row := OpRow{Operation: o, Kind: k}
		for _, st := range f.Stints {
			if st.OperationID == o.ID && st.EndedAt == nil {
				row.At, row.Mine = append(row.At, name[st.PersonID]), row.Mine || st.PersonID == req.Actor.ID
			}
		}
		row.Actual = int(f.Took(o, s.Shop.Now()).Minutes())
		for _, by := range []*uint{o.StartedBy, o.FinishedBy} {
			if by != nil {
				row.By = name[*by]
			}
		}
		row.Failed = f.HasFailed(o)
		row.Asks = k.Proof != nil || k.Record != nil
		if row.Next = o.State == "waiting" && f.Waits(o) == nil; row.Next {
			row.First, first = first, false
		}
		rows = append(rows, row)
	}
	return rows, nil
}

// Back shows a step again with what was wrong.
func Back(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, step string, err error,
	more func(*headfile.File) (any, error),
) error {
	errs, err := page.Wrong(err)
	if errs == nil {
		return err
	}
	f, err := ReadHead(s, r, req)
	if err != nil {
		return err
	}
	m, err := more(f)
	if err != nil {
		return err
	}
	return ShowHead(s, w, req, f, step, m, page.Page{Values: r.PostForm, Errors: errs})
}

type reportData struct {
	HeadData
	Told       headfile.Told
	Operations []OpRow // in the order of what is told
	Causes     []lead.CauseRow
	Today      string
}

// Report is the printable report of a head.
func Report(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := ReadHead(s, r, req)
	if err != nil {
		return err
	}
	ops, err := WorkRows(s, r, req, f)
	if err != nil {
		return err
	}
	d := reportData{
		HeadData: HeadData{
			File: f, U: req.Actor.Unit,
			Map: draw.HeadMap(draw.Map{Layout: f.Layout, Verdicts: draw.Judged(f.Now), Marks: Marks(f)}),
		},
		Told: f.Told(), Operations: ops, Today: s.Shop.Now().Local().Format("2 January 2006"),
	}
	if d.Causes, err = Confirmed(s, r, f); err != nil {
		return err
	}
	s.Write(w, req, http.StatusOK, "report", "report", page.Page{Title: "Report " + f.Tag, Data: d})
	return nil
}

// SignedFor says what a signature is for.
func (d HeadData) SignedFor(feature string) string { return headfile.SignedFor(feature) }

// Decided tells what was decided about a feature, for the pages.
func (d HeadData) Decided(x judge.Feature) string {
	if dec, ok := d.Decision(x.Key()); ok {
		return headfile.DecisionText(dec)
	}
	return ""
}

type positionData struct {
	Section  template.HTML
	Now      judge.Position
	Received judge.Position
	Readings []shop.Reading
	Findings []shop.Finding
	Tray     []headfile.TrayCell
	New      []newpart.Part // parts that replace what was here
	Means    bool           // the shop's school shows the mean beside the worst
	Wear     *trade.Wear    // which way the guide is worn, when it was read both ways
	Rose     template.HTML
	Prev     string
	Next     string
}

// Position is everything of one valve.
func Position(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id := chi.URLParam(r, "position")
	return Step(s, w, r, req, "position", func(f *headfile.File) (any, error) {
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
		d.Section = section(f, d.Now, req.Actor.Unit).Draw()
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
		d.New = slices.DeleteFunc(newpart.Compare(f.Subject), func(p newpart.Part) bool { return p.Position != id })
		set, err := s.Shop.Settings(r.Context(), f.Tag)
		if err != nil {
			return nil, err
		}
		d.Means = set.Get("school.averaging") == "mean as well"
		guide := f.Counting(trade.GuideBore.Code, id)
		if w, ok := trade.WearOf(head.ReadsOf(guide), req.Actor.Unit); ok {
			d.Wear = &w
			d.Rose = draw.Rose(guide, req.Actor.Unit)
		}
		return d, nil
	})
}

// FeatureAt returns a position's feature by its code; an empty one when it has none.
func (d HeadData) FeatureAt(p judge.Position, code string) judge.Feature {
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
		c.Guide[i], c.Stem[i] = quantity.AsLength(f.Mean("guide.bore", p.ID, place)), quantity.AsLength(f.Mean("stem.dia", p.ID, place))
	}
	for code, to := range map[string]**length.Length{
		"valve.recession": &c.Recession, "stem.height": &c.StemHeight, "valve.margin": &c.Margin,
		"seat.width": &c.SeatWidth,
	} {
		*to = quantity.AsLength(f.Mean(code, p.ID, ""))
	}
	for _, x := range p.Features {
		c.Says[x.Code] = x.Verdict
	}
	return c
}
