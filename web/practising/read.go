package practising

import (
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/core/practice"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/practising"
	"yatai/web/draw"
	"yatai/web/page"
)

// readData is the sweep of a characteristic, with the instrument in hand.
type readData struct {
	headData
	C          trade.Characteristic
	New        bool // of the new valves in the box
	Columns    []string
	Rows       []sweepRow
	Tools      []toolRow // that it can be read with
	Tool       int
	At         trade.Spot // where the tool is laid
	Hand       int
	Instrument instrument
	Done, Of   int
}

// sweepRow is a position with its places.
type sweepRow struct {
	Name  string
	Cells []cell
}

// cell is a place with what stands there.
type cell struct {
	At    string
	Says  string // what was read last, "" for nothing
	Times int    // how often
	Here  bool   // the tool is laid there
}

// instrument is what the tool in hand shows.
type instrument struct {
	Picture template.HTML
	Says    string // the figure it shows, with its unit
	Feel    string
	Hits    []practice.Hit
}

// reading is what a request reads: one characteristic with one tool at one place.
func reading(h practising.Head, r *http.Request, c trade.Characteristic) practice.Take {
	t := practice.Take{Of: c.Code, Hand: number(r, "hand"), New: r.Form.Get("new") == "yes", Tool: -1}
	t.Hand = min(max(t.Hand, -practice.HandMost), practice.HandMost)
	tools := h.ToolsFor(c)
	if n := number(r, "tool"); slices.Contains(tools, n) && r.Form.Has("tool") {
		t.Tool = n
	} else if len(tools) > 0 {
		t.Tool = tools[0]
	}
	t.At = trade.SpotOf(r.Form.Get("at"))
	return t
}

// readOf opens the head and the characteristic that a request names.
func readOf(s *page.Site, r *http.Request, req *page.Request) (readData, practice.Take, error) {
	h, err := open(s, r, req)
	if err != nil {
		return readData{}, practice.Take{}, err
	}
	c, ok := trade.ByCode(chi.URLParam(r, "code"))
	d := readData{headData: dataOf(h, req, "read"), C: c, New: r.Form.Get("new") == "yes"}
	t := reading(h, r, c)
	spots := d.Spots(c, d.New)
	if !ok || t.Tool < 0 || len(spots) == 0 {
		return d, t, shop.ErrNotFound
	}
	if !slices.Contains(spots, t.At) {
		t.At = practising.Next(spots, -1, h.Taken(c.Code, d.New))
	}
	d.Tool, d.At, d.Hand = t.Tool, t.At, t.Hand
	return d, t, nil
}

// ReadPage answers GET /practice/{id}/read/{code}: a sweep.
func ReadPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	d, t, err := readOf(s, r, req)
	if err != nil {
		return err
	}
	return showRead(s, w, req, d, t, page.Page{})
}

func showRead(
	s *page.Site, w http.ResponseWriter, req *page.Request, d readData, t practice.Take, p page.Page,
) error {
	d.fill(req)
	d.Instrument = d.shows(t)
	p.Title, p.Place, p.Data = d.C.Label, "reference", d
	return s.Show(w, req, "practiceread", p)
}

// fill fills in the rows and the tools.
func (d *readData) fill(req *page.Request) {
	taken, spots := d.Taken(d.C.Code, d.New), d.Spots(d.C, d.New)
	d.Done, d.Of = len(taken), len(spots)
	for _, at := range spots {
		if len(d.Rows) == 0 || d.Rows[len(d.Rows)-1].Name != at.Position {
			d.Rows = append(d.Rows, sweepRow{Name: at.Position})
		}
		row := &d.Rows[len(d.Rows)-1]
		x := cell{At: at.Key(), Times: len(taken[at]), Here: at == d.At}
		if x.Times > 0 {
			x.Says = written(d.C, taken[at][x.Times-1], req)
		}
		row.Cells = append(row.Cells, x)
		if len(d.Rows) == 1 {
			d.Columns = append(d.Columns, at.Within())
		}
	}
	for _, n := range d.ToolsFor(d.C) {
		t := d.Told.Tools[n]
		row := toolRow{N: n, Name: t.Name}
		if u := t.Doubt(0); u > 0 {
			row.Label = "±" + d.shown(u, t.Kind)
		}
		d.Tools = append(d.Tools, row)
	}
}

// shows is what the tool in hand shows where it is laid.
func (d readData) shows(t practice.Take) instrument {
	shown, ok := d.Shows(t, d.headData.Done.Steps)
	if !ok {
		return instrument{}
	}
	x := instrument{Feel: shown.Feel, Hits: shown.Hits}
	u := d.C.UnitFor(d.Actor.Unit)
	switch {
	case len(shown.Hits) > 0:
		x.Picture = draw.Hits(shown.Hits, d.In.Say("what is heard, over half a second"))
		return x
	case shown.Value.Bracket:
		x.Says = d.In.Say("%s goes, %s does not", u.Usual(shown.Value.Go), u.Usual(shown.Value.NoGo))
		if shown.Value.Go == 0 {
			x.Says = d.In.Say("not even %s goes", u.Usual(shown.Value.NoGo))
		}
		return x
	}
	x.Says = d.C.Show(shown.Value.At, d.Actor.Unit) + " " + u.Name
	if hand := d.Hands(t.Tool); hand == practice.Rock || hand == practice.Turn {
		x.Picture = draw.Dial(shown.Value.At, d.In.Say("the dial shows %s", x.Says))
	}
	return x
}

// HandSays is what the hand does with the tool, in words.
func (d readData) HandSays() string {
	switch d.Hands(d.Tool) {
	case practice.Rock:
		return "Tilt it: the least it shows is right"
	case practice.Press:
		return "Close it until it clicks"
	case practice.Turn:
		return "Turn it the whole way round"
	}
	return ""
}

// Gauge answers GET /practice/{id}/gauge/{code}: what the tool shows while the hand moves.
func Gauge(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	d, t, err := readOf(s, r, req)
	if err != nil {
		return err
	}
	d.Instrument = d.shows(t)
	s.Write(w, req, http.StatusOK, "practiceread", "practice-instrument", page.Page{Data: d, Actor: req.Actor})
	return nil
}

// Read answers POST /practice/{id}/read/{code}: a reading is taken, and the tool laid at the next place.
func Read(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	d, t, err := readOf(s, r, req)
	if err != nil {
		return err
	}
	h, err := practising.Do(r.Context(), s.Shop, req.Actor, d.ID, practising.Move{
		Nth: number(r, "nth"), Kind: practice.StepRead, Tool: t.Tool, Of: t.Of, At: t.At.Key(), New: t.New, Hand: t.Hand,
		Heard: r.PostForm.Get("heard"),
	})
	if errs, other := page.Wrong(err); errs != nil {
		if d.Opened() {
			return opened(w, r, d.headData.Head, err)
		}
		return showRead(s, w, req, d, t, page.Page{Values: r.PostForm, Errors: errs})
	} else if other != nil {
		return other
	}
	spots, at := h.Spots(d.C, d.New), t.At
	if r.PostForm.Get("again") == "" {
		at = practising.Next(spots, slices.Index(spots, t.At), h.Taken(t.Of, t.New))
	}
	q := url.Values{"tool": {strconv.Itoa(t.Tool)}, "at": {at.Key()}, "hand": {strconv.Itoa(t.Hand)}}
	if t.New {
		q.Set("new", "yes")
	}
	return page.Redirect(w, r, "/practice/"+strconv.Itoa(int(h.ID))+"/read/"+t.Of+"?"+q.Encode())
}

// lookData is a part that is looked at, at one position.
type lookData struct {
	headData
	Part  trade.Part
	At    string
	Rows  []lookCell
	Draw  template.HTML
	Given string // the grade it was given
}

// lookCell is a position with the grade it was given.
type lookCell struct {
	At, Says string
	Here     bool
}

// lookOf opens the head and the part that a request names.
func lookOf(s *page.Site, r *http.Request, req *page.Request) (lookData, error) {
	h, err := open(s, r, req)
	if err != nil {
		return lookData{}, err
	}
	i := slices.IndexFunc(h.Head.Looks(), func(p trade.Part) bool { return p.Code == chi.URLParam(r, "part") })
	if i < 0 {
		return lookData{}, shop.ErrNotFound
	}
	d := lookData{headData: dataOf(h, req, "look"), Part: h.Head.Looks()[i], At: r.Form.Get("at")}
	all := d.Part.Positions(h.Told.Model.Layout)
	given := h.Graded(d.Part.Code)
	if !slices.Contains(all, d.At) {
		d.At = all[0]
		for _, at := range slices.Backward(all) {
			if given[at] == "" {
				d.At = at
			}
		}
	}
	for _, at := range all {
		g, _ := d.Part.Grade(given[at])
		d.Rows = append(d.Rows, lookCell{at, g.Label, at == d.At})
	}
	d.Given = given[d.At]
	is, _ := d.Grade(d.Part.Code, d.At)
	d.Draw = draw.Part(d.Part.Code, is.Code, d.At, d.In.Say("%s at %s, drawn", d.In.Say(d.Part.Label), d.At))
	return d, nil
}

// LookPage answers GET /practice/{id}/look/{part}: a part as it is drawn, to be graded.
func LookPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	d, err := lookOf(s, r, req)
	if err != nil {
		return err
	}
	return s.Show(w, req, "practicelook", page.Page{Title: d.Part.Label, Place: "reference", Data: d})
}

// Look answers POST /practice/{id}/look/{part}: the part is graded.
func Look(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	d, err := lookOf(s, r, req)
	if err != nil {
		return err
	}
	_, err = practising.Do(r.Context(), s.Shop, req.Actor, d.ID, practising.Move{
		Nth: number(r, "nth"), Kind: practice.StepLook, Of: d.Part.Code, At: d.At, Grade: r.PostForm.Get("grade"),
	})
	if errs, other := page.Wrong(err); errs != nil {
		if d.Opened() {
			return opened(w, r, d.Head, err)
		}
		return s.Show(w, req, "practicelook", page.Page{
			Title: d.Part.Label, Place: "reference", Data: d, Errors: errs, Values: r.PostForm,
		})
	} else if other != nil {
		return other
	}
	return page.Redirect(w, r, "/practice/"+strconv.Itoa(int(d.ID))+"/look/"+d.Part.Code)
}
