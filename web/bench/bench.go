// Package bench is the pages of the shop's bench: sweeps, graded findings, marks on the map, the
// tray of parts.
package bench

import (
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/seating"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/web/draw"
	"yatai/web/headpage"
	"yatai/web/page"
)

// sweepData is a sweep of a head that is here.
type sweepData struct {
	headpage.HeadData
	page.Sweep
	Tools   []shop.Tool
	Tool    uint
	Modes   []trade.Mode
	Mode    string
	Warm    string // how warm the part is, as typed
	Grows   string // what the part's length does in 10 degrees, when that is much; empty otherwise
	Typing  string // the unit bare numbers are typed in
	Overdue bool   // the tool's calibration is past due
	Again   string // key of the reading that stands out of its row
	Away    string // and how far, with its unit
}

// Leaves are those of the feelers in hand, "" when nobody said what leaves they have.
func (d sweepData) Leaves() string {
	t, _ := headfile.ToolWith(d.Tools, d.Tool)
	return t.Set().String()
}

// sweepFor builds the sweep of one characteristic. errs and typed are of a form that came
// back.
// grows says what 10 degrees do to the largest length of a characteristic that was read, where
// that is more than half of its tool's doubt.
func grows(f *headfile.File, c trade.Characteristic, tools []shop.Tool) string {
	made := c.MadeOf(headfile.KindOf(f.Model), trade.Valve{})
	if made == "" || c.Unit.Size != 0 || c.Bracket || c.Words != nil || len(tools) == 0 {
		return ""
	}
	largest := length.Length(0)
	for _, r := range f.Readings {
		if r.Characteristic == c.Code {
			largest = max(largest, r.NM.Length())
		}
	}
	out, err := seating.Temperature(seating.TemperatureInput{
		Length: largest, Material: seating.Material(made), PartTemp: quantity.CelsiusOf(30, 1),
		ToolMaterial: "steel", ToolTemp: quantity.CelsiusOf(20, 1),
	})
	if by := largest - out.At20; err == nil && by > tools[0].U.Length()/2 {
		return f.Unit.Whole(by)
	}
	return ""
}

func sweepFor(s *page.Site, r *http.Request, req *page.Request, f *headfile.File) (sweepData, error) {
	c, ok := f.Characteristic(chi.URLParam(r, "code"))
	if !ok || c.Derived() {
		return sweepData{}, shop.ErrNotFound
	}
	stage := r.Form.Get("stage")
	if !slices.Contains(headfile.Stages, stage) {
		stage = page.Current(f)
	}
	d := sweepData{
		HeadData: headpage.HeadData{File: f, Step: "measure", Stage: stage, U: req.Actor.Unit},
		Sweep:    page.NewSweep(c, c.Spots(f.Layout)),
	}
	d.Tools = f.ToolsFor(c)
	if id, err := strconv.ParseUint(r.Form.Get("tool"), 10, 32); err == nil {
		d.Tool = uint(id)
	} else if len(d.Tools) > 0 {
		d.Tool = d.Tools[0].ID
	}
	standing := f.Standing(stage)
	lit := ""
	for ce, row := range d.Cells() {
		rd, ok := standing[c.Code+" "+ce.Key]
		if ok && f.Worked(rd) {
			ce.Was, ok = f.Shown(rd), false
		}
		if ok {
			ce.Typed, ce.Standing, ce.Tool, ce.Suspect = f.Shown(rd), true, rd.ToolID, f.IsSuspect(rd.ID)
			row.Suspect = row.Suspect || ce.Suspect
			d.Read++
			row.Verdict = max(row.Verdict, f.SpotVerdict(c, rd))
		} else if lit == "" {
			lit = ce.Spot.Position
		}
	}
	habits, err := bench.HabitsOf(r.Context(), s.Shop, f, c)
	if err != nil {
		return sweepData{}, err
	}
	d.says(f, stage, habits)
	if d.Typing = r.Form.Get("unit"); d.Typing != "mm" && d.Typing != "in" {
		d.Typing = f.Unit.Name
	}
	for _, t := range d.Tools {
		d.Overdue = d.Overdue || t.ID == d.Tool && bench.Overdue(s.Shop, t)
	}
	d.Warm, d.Grows = r.Form.Get("warm"), grows(f, c, d.Tools)
	d.Modes, d.Mode = trade.Modes, r.Form.Get("mode")
	if d.Read == d.Of {
		if rd, away, out := f.Outlier(c, stage); out {
			d.Again, d.Away = (trade.Spot{
				Position: rd.Position, Place: rd.Place, Dir: rd.Dir,
			}).Key(), d.C.Show(away, d.U)+" "+d.C.UnitFor(d.U).Name
		}
	}
	d.draws(f, req.Actor, lit)
	return d, nil
}

// draws draws the head with what its rows say, the spot that is read next lit.
func (d *sweepData) draws(f *headfile.File, a shop.Actor, lit string) {
	m := draw.Map{
		Layout: f.Layout, Verdicts: map[string]gauge.Verdict{}, Lit: lit, Suspect: f.SuspectAt(),
		In: words.In(a.Language),
	}
	if d.C.Where == trade.AtPosition {
		for _, row := range d.Rows {
			m.Verdicts[row.Name] = row.Verdict
		}
	} else {
		m.Lines, m.LineSays = headpage.Gaps(f, a.Unit)
	}
	d.Map = draw.HeadMap(m)
}

// Next is what is swept after this, nil when it is the last.
func (d sweepData) Next() *trade.Characteristic {
	all := d.Progress(d.Stage)
	here := slices.IndexFunc(all, func(p headfile.Progress) bool { return p.Code == d.C.Code })
	for i := range all[here+1:] {
		if p := &all[here+1+i]; p.Wanted {
			return &p.Characteristic
		}
	}
	return nil
}

// says fills what each row's verdict says: a derived figure always, anything else when
// there is something to say.
func (d *sweepData) says(f *headfile.File, stage string, habits map[layout.Role]shop.Habit) {
	j := f.JudgedAt(stage)
	rows := map[string][]shop.Reading{}
	for _, rd := range f.Standing(stage) {
		if rd.Characteristic == d.C.Code {
			rows[rd.Position] = append(rows[rd.Position], rd)
		}
	}
	for i := range d.Rows {
		p, _ := j.Position(d.Rows[i].Name)
		var said []words.Text
		spoken := p.Speaks(d.C.Code)
		if d.C.Where != trade.AtPosition {
			if x := d.worst(f, rows[d.Rows[i].Name]); x.Code == d.C.Code {
				spoken = append(spoken, x)
			}
			// what is made of all stands in the last row
			if x, ok := j.Feature(d.C.Feeds()); ok && i == len(d.Rows)-1 {
				spoken = append(spoken, x)
			}
		}
		for _, x := range spoken {
			if len(x.From) == 0 {
				continue
			}
			if x.Code != d.C.Code {
				said = append(said, words.Of("%s %s.", words.Mid(x.Label),
					words.Join(" ", x.Figured(d.U), words.Of(x.UnitName(d.U)))))
				if x.Note != "" && x.Code != trade.GuideClearance.Code {
					said = append(said, words.Of("%s.", words.Of(x.Note)))
				}
			}
			if x.Verdict > gauge.Sound {
				said = append(said, x.Said(d.U))
			}
		}
		said = append(said, d.spread(rows[d.Rows[i].Name]), d.strange(f, rows[d.Rows[i].Name], habits))
		d.Rows[i].Says = words.Join(" ", said...)
	}
}

// worst is what speaks for the worst reading of a row of the head itself.
func (d *sweepData) worst(f *headfile.File, row []shop.Reading) judge.Feature {
	var worst judge.Feature
	for _, rd := range row {
		if x := f.Spot(d.C, rd); x.Verdict > worst.Verdict || worst.Code == "" ||
			x.Verdict == worst.Verdict && x.By > worst.By {
			worst = x
		}
	}
	return worst
}

// strange says of a row that no head of the model was ever read like it.
func (d *sweepData) strange(
	f *headfile.File, row []shop.Reading, habits map[layout.Role]shop.Habit,
) words.Text {
	for _, rd := range row {
		v, _ := f.Layout.Valve(rd.Position)
		if h := habits[v.Role]; h.Strange(rd.NM, rd.U) {
			return words.Of("No %s here was ever read like this: %s to %s in %d heads. A typing mistake, or another model?",
				f.Model.Name, d.C.Show(h.Low, d.U), d.C.Show(h.High, d.U), h.Heads)
		}
	}
	return words.Text{}
}

// spread says how far the readings of a row lie apart, when it has several.
func (d *sweepData) spread(row []shop.Reading) words.Text {
	if len(row) < 2 || d.C.Words != nil || row[0].Bracket {
		return words.Text{}
	}
	lo, hi := row[0].NM, row[0].NM
	for _, rd := range row {
		lo, hi = min(lo, rd.NM), max(hi, rd.NM)
	}
	return words.Of("Spread %s.", d.C.Show(hi-lo, d.U))
}

// SweepPage answers GET /heads/{tag}/sweep/{code}.
func SweepPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headfile.OpenSweep(r.Context(), s.Shop, chi.URLParam(r, "tag"), chi.URLParam(r, "code"))
	if err != nil {
		return err
	}
	d, err := sweepFor(s, r, req, f)
	if err != nil {
		return err
	}
	p := page.Page{
		Title: words.In(req.Actor.Language).Say(d.C.Label) + " " + f.Tag, Place: "floor", Values: r.Form,
		Data: d,
	}
	if r.Header.Get("HX-Request") != "" { // somebody else has read: what stands now
		d.Partial = true
		p.Data = d
		s.Write(w, req, http.StatusOK, "sweep", "sweep-fresh", p)
		return nil
	}
	return s.Show(w, req, "sweep", p)
}

// unlike are the entries of a whole form that say something else than what stands.
func unlike(f *headfile.File, code, stage string, entry func(trade.Spot) bench.Entry) (out []bench.Entry) {
	c, _ := f.Characteristic(code)
	standing := f.Standing(stage)
	for _, spot := range c.Spots(f.Layout) {
		e := entry(spot)
		old, was := standing[c.Code+" "+spot.Key()]
		was = was && !f.Worked(old)
		if text := strings.TrimSpace(e.Text); text != "" && !(was && f.Shown(old) == text) {
			out = append(out, e)
		}
	}
	return out
}

// Sweep writes what was typed: one reading when the page sends them as they are typed, or
// all that are new or changed when the form is sent whole.
func Sweep(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	code := chi.URLParam(r, "code")
	tool, _ := strconv.ParseUint(r.PostForm.Get("tool"), 10, 32)
	tag, one := chi.URLParam(r, "tag"), r.PostForm.Get("one")
	form := bench.SweepForm{
		Characteristic: code,
		Stage:          r.PostForm.Get("stage"),
		Tool:           uint(tool),
		Why:            r.PostForm.Get("why"),
		Mode:           r.PostForm.Get("mode"),
		Set:            r.PostForm.Get("set"),
		Unit:           r.PostForm.Get("unit"),
		Warm:           r.PostForm.Get("warm"),
	}
	entry := func(spot trade.Spot) bench.Entry {
		return bench.Entry{
			ClientID: r.PostForm.Get("id." + spot.Key()), Spot: spot, Text: r.PostForm.Get("v." + spot.Key()),
		}
	}
	if one != "" {
		form.Entries = []bench.Entry{entry(trade.SpotOf(one))}
	} else {
		f, err := headfile.OpenSweep(r.Context(), s.Shop, tag, code)
		if err != nil {
			return err
		}
		form.Entries = unlike(f, code, form.Stage, entry)
	}
	f, err := bench.Record(r.Context(), s.Shop, req.Actor, tag, form)
	errs, err := page.Wrong(err)
	if err != nil {
		return err
	}
	if len(errs) == 0 && len(form.Entries) > 0 {
		var ids []string
		for _, e := range form.Entries {
			ids = append(ids, e.ClientID)
		}
		s.Told(tag, code, req.Actor, ids)
	}
	d, err := sweepFor(s, r, req, f)
	if err != nil {
		return err
	}
	if len(errs) == 0 && r.Header.Get("HX-Request") == "" {
		back := url.Values{
			"stage": {form.Stage}, "tool": {strconv.Itoa(int(form.Tool))}, "mode": {form.Mode}, "set": {form.Set},
			"unit": {form.Unit}, "warm": {form.Warm},
		}
		return page.Redirect(w, r, r.URL.Path+"?"+back.Encode())
	}
	d.KeepTyped(r.PostForm, one, errs, words.In(req.Actor.Language))
	p := page.Page{
		Title: words.In(req.Actor.Language).Say(d.C.Label) + " " + f.Tag, Place: "floor",
		Values: r.PostForm, Errors: errs, Data: d,
	}
	if r.Header.Get("HX-Request") == "" {
		return s.Show(w, req, "sweep", p)
	}
	status := http.StatusOK
	if len(errs) > 0 {
		status = http.StatusUnprocessableEntity
	}
	d.Partial = true
	p.Data = partCell{d, d.Cell(one), p}
	s.Write(w, req, status, "sweep", "sweep-parts", p)
	return nil
}

// partCell is what a single reading's answer shows again.
type partCell struct {
	sweepData
	Cell page.SweepCell
	Page page.Page
}

// Row returns the row of the cell that was read.
func (p partCell) Row() page.SweepRow { return p.RowOf(p.Cell) }
