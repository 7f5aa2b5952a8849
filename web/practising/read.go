package practising

import (
	"errors"
	"html/template"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/practice"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/practising"
	"yatai/web/draw"
	"yatai/web/page"
)

// readData is the sweep of a characteristic, with the instrument in hand.
type readData struct {
	headData
	page.Sweep
	New  bool // of the new valves in the box
	Tool int
	At   trade.Spot // where the tool is laid
	Hand int
}

// instrument is what the tool in hand shows.
type instrument struct {
	Picture template.HTML
	Says    string // the figure it shows, with its unit
	Typed   string // as it is taken over into its cell; empty where it is heard
	Feel    string
	Hits    []practice.Hit
}

// Action is where its readings are sent.
func (d readData) Action() string {
	return "/practice/" + strconv.Itoa(int(d.ID)) + map[bool]string{false: "/read/", true: "/box/"}[d.New] + d.C.Code
}

// readOf opens the head and the sweep that a request names, the tool laid at the place it names, or at the
// first that was not read.
func readOf(s *page.Site, r *http.Request, req *page.Request, fresh bool) (d readData, err error) {
	h, err := open(s, r, req)
	if err != nil {
		return d, err
	}
	c, ok := trade.ByCode(chi.URLParam(r, "code"))
	tools, spots := h.ToolsFor(c), h.Spots(c, fresh)
	if !ok || len(tools) == 0 || len(spots) == 0 || fresh && c.Code != trade.Stem.Code {
		return d, shop.ErrNotFound
	}
	d.headData, d.C = dataOf(h, req, "read"), c
	d.New, d.Tool, d.At = fresh, tools[0], trade.SpotOf(r.Form.Get("at"))
	if n := number(r, "tool"); slices.Contains(tools, n) && r.Form.Has("tool") {
		d.Tool = n
	}
	d.Hand = min(max(number(r, "hand"), -practice.HandMost), practice.HandMost)
	if !slices.Contains(spots, d.At) {
		d.At = practising.Next(spots, -1, h.Taken(c.Code, fresh))
	}
	return d, nil
}

// lay lays the sweep out as a head has it.
func (d *readData) lay(h practising.Head, req *page.Request) {
	d.headData = dataOf(h, req, "read")
	c, taken := d.C, h.Taken(d.C.Code, d.New)
	d.Sweep = page.NewSweep(c, h.Spots(c, d.New))
	for ce, row := range d.Cells() {
		if was := taken[ce.Spot]; len(was) > 0 {
			ce.Typed, ce.Standing = typed(c, was[len(was)-1], req.Actor.Unit), true
			d.Read++
			row.Says = words.Join(" ", row.Says, again(c, was, req.Actor.Unit))
		}
	}
}

// Map is the head, the place that is read lit.
func (d readData) Map() template.HTML {
	return draw.HeadMap(draw.Map{Layout: d.Told.Model.Layout, Marks: d.marks(), Lit: d.At.Position, In: d.In})
}

// Tools are those that it can be read with.
func (d readData) Tools() (out []toolRow) {
	for _, n := range d.ToolsFor(d.C) {
		t := d.Told.Tools[n]
		row := toolRow{N: n, Name: t.Name}
		if u := t.Doubt(0); u > 0 {
			row.Label = "±" + d.shown(u, t.Kind)
		}
		out = append(out, row)
	}
	return out
}

// again says how far readings of one place lie apart, where it was read again.
func again(c trade.Characteristic, was []gauge.Value, u length.Unit) words.Text {
	if len(was) < 2 {
		return words.Text{}
	}
	if was[0].Bracket || c.Words != nil {
		return words.Of("Read %d times.", len(was))
	}
	lo, hi := was[0].At, was[0].At
	for _, v := range was {
		lo, hi = min(lo, v.At), max(hi, v.At)
	}
	return words.Of("Read %d times, spread %s.", len(was), c.Show(hi-lo, u))
}

// Instrument is what the tool in hand shows where it is laid.
func (d readData) Instrument() instrument {
	take := practice.Take{Tool: d.Tool, Of: d.C.Code, At: d.At, Hand: d.Hand, New: d.New}
	shown, ok := d.Shows(take, d.headData.Done.Steps)
	if !ok {
		return instrument{}
	}
	x := instrument{Feel: shown.Feel, Hits: shown.Hits}
	if len(shown.Hits) > 0 {
		x.Picture = draw.Hits(shown.Hits, d.In.Say("what is heard, over half a second"))
		return x
	}
	u := d.C.UnitFor(d.Actor.Unit)
	x.Typed = typed(d.C, shown.Value, d.Actor.Unit)
	switch {
	case shown.Value.Bracket && shown.Value.Go == 0:
		x.Says = d.In.Say("not even %s goes", u.Usual(shown.Value.NoGo))
		return x
	case shown.Value.Bracket:
		x.Says = d.In.Say("%s goes, %s does not", u.Usual(shown.Value.Go), u.Usual(shown.Value.NoGo))
		return x
	}
	x.Says = x.Typed + " " + u.Name
	if hand := d.Hands(d.Tool); hand == practice.Rock || hand == practice.Turn {
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

// Next is what is swept after this, nil when it is the last.
func (d readData) Next() *trade.Characteristic {
	all := d.Head.Head.Reads()
	here := slices.IndexFunc(all, func(c trade.Characteristic) bool { return c.Code == d.C.Code })
	if d.New || here+1 >= len(all) {
		return nil
	}
	return &all[here+1]
}

// Sweep are the handlers of a sweep: of the head's own parts, or, fresh, of the new valves in its box.
type Sweep struct{ Fresh bool }

// Page answers GET /practice/{id}/read/{code}: a sweep, as at the bench.
func (x Sweep) Page(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	d, err := readOf(s, r, req, x.Fresh)
	if err != nil {
		return err
	}
	if d.Opened() {
		return opened(w, r, d.headData.Head, practising.ErrOpened)
	}
	d.lay(d.headData.Head, req)
	p := page.Page{Title: d.C.Label, Place: "reference", Data: d}
	if r.Header.Get("HX-Request") != "" {
		d.Partial = true
		p.Data = d
		s.Write(w, req, http.StatusOK, "practiceread", "practice-fresh", p)
		return nil
	}
	return s.Show(w, req, "practiceread", p)
}

// Gauge answers GET /practice/{id}/read/{code}/gauge: what the tool shows where it is laid and as it is held.
func (x Sweep) Gauge(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	d, err := readOf(s, r, req, x.Fresh)
	if err != nil {
		return err
	}
	s.Write(w, req, http.StatusOK, "practiceread", "practice-gauge", page.Page{Data: d, Actor: req.Actor})
	return nil
}

// Take answers POST /practice/{id}/read/{code}: one reading as it was typed, all that the form has, or what
// the tool shows where it is laid.
func (x Sweep) Take(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	d, err := readOf(s, r, req, x.Fresh)
	if err != nil {
		return err
	}
	one, taken := r.PostForm.Get("one"), r.PostForm.Get("take")
	errs := field.Errors{}
	h := d.headData.Head
	d.lay(h, req)
	for ce := range d.Cells() {
		text := strings.TrimSpace(r.PostForm.Get("v." + ce.Key))
		typed := text != "" && text != ce.Typed
		switch {
		case one != "" && one != ce.Key, one == "" && !typed && taken != ce.Key:
			continue
		case one == "" && !typed:
			text = "" // what the tool shows is taken over
		}
		now, err := practising.Do(r.Context(), s.Shop, req.Actor, h.ID, practising.Move{
			ID: r.PostForm.Get("id." + ce.Key), Kind: practice.StepRead, Tool: d.Tool, Of: d.C.Code, At: ce.Key,
			New: x.Fresh, Hand: d.Hand, Typed: text, Unit: req.Actor.Unit, Nth: len(h.Done.Steps),
		})
		wrong, other := page.Wrong(err)
		switch {
		case errors.Is(err, practising.ErrOpened):
			return opened(w, r, h, err)
		case other != nil:
			return other
		case wrong != nil:
			maps.Copy(errs, wrong)
		default:
			h = now
		}
	}
	if len(errs) == 0 && r.Header.Get("HX-Request") == "" {
		return page.Redirect(w, r, d.after(h, taken))
	}
	d.lay(h, req)
	d.KeepTyped(r.PostForm, one, errs, d.In)
	p := page.Page{Title: d.C.Label, Place: "reference", Values: r.PostForm, Errors: errs, Data: d}
	if r.Header.Get("HX-Request") == "" {
		return s.Show(w, req, "practiceread", p)
	}
	status := http.StatusOK
	if len(errs) > 0 {
		status = http.StatusUnprocessableEntity
	}
	d.Partial = true
	p.Data = d
	s.Write(w, req, status, "practiceread", "practice-fresh", p)
	return nil
}

// after is where a page without a script goes on: the tool laid at the next place once one was taken.
func (d readData) after(h practising.Head, taken string) string {
	at := d.At
	if taken != "" {
		spots := h.Spots(d.C, d.New)
		at = practising.Next(spots, slices.Index(spots, at), h.Taken(d.C.Code, d.New))
	}
	return d.Action() + "?" + url.Values{
		"tool": {strconv.Itoa(d.Tool)}, "at": {at.Key()}, "hand": {strconv.Itoa(d.Hand)},
	}.Encode()
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
