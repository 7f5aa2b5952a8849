// Package library is the pages of the shop's reference: head models, limit sheets, tools and calculators.
package library

import (
	"cmp"
	"fmt"
	"html/template"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/calc"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/inout"
	"yatai/shop/library"
	"yatai/shop/people"
	"yatai/web/draw"
	"yatai/web/page"
)

type referenceData struct {
	Kinds  []string
	Models []shop.HeadModel
	Tools  []shop.Tool
	Checks map[uint]shop.ZeroCheck
	Calcs  []calc.Calc
}

// Reference answers GET /reference.
func Reference(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showReference(s, w, r, req, page.Page{})
}

func showReference(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page,
) error {
	models, err := library.Models(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	tools, err := library.Tools(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	checks, err := library.ZeroChecks(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	p.Title, p.Place, p.Data = "Reference", "reference", referenceData{
		library.ToolKinds(), models, tools, checks, calc.All(),
	}
	return s.Show(w, req, "reference", p)
}

// modelLabels name the choices of a new model.
var modelLabels = map[string]string{
	"material": "Casting", "drive": "Valves are moved by", "lifter": "Lifters", "unit": "A bare number is",
	"ignition": "In the chamber",
	"cooling":  "Cooled by", "first_at": "Cylinder 1 lies at the", "camshafts": "Camshafts, where in the head",
	"bridges": "Bridges, where a rocker works two valves",
}

type newModelData struct {
	Choices   map[string][]string
	Materials []string // of valves
	Labels    map[string]string
	Drawn     drawnData
}

// NewModelPage answers GET /reference/models/new.
func NewModelPage(s *page.Site, w http.ResponseWriter, _ *http.Request, req *page.Request) error {
	v := url.Values{
		"unit": {"mm"}, "material": {"iron"}, "drive": {"rocker"}, "lifter": {"solid"}, "ignition": {"plug"},
		"cooling":  {"water"},
		"first_at": {"left"},
	}
	return showNewModel(s, w, req, page.Page{Values: v})
}

func showNewModel(s *page.Site, w http.ResponseWriter, req *page.Request, p page.Page) error {
	if !req.Actor.May("edit limits") {
		return shop.ErrForbidden
	}
	p.Title, p.Place, p.Data = "Add a model", "reference", newModelData{
		library.ModelChoices, trade.ValveMaterials, modelLabels,
		drawn(modelForm(p.Values), words.In(req.Actor.Language)),
	}
	return s.Show(w, req, "newmodel", p)
}

// drawnData is a new model's face as far as it was typed.
type drawnData struct {
	Drawing  template.HTML
	Supposed []string       // what it is drawn by that was not typed: labels of fields
	Mistakes []page.Mistake // why it cannot be drawn
}

// layoutLabels name the fields of a layout, in their order on the form.
var layoutLabels = [][2]string{
	{"cylinders", "Cylinders"}, {"pattern", "Valves of a cylinder"}, {"pitch", "Pitch between cylinders"},
	{"bore", "Bore"},
	{"width", "Width of the face"}, {"intake_head", "Intake valve head"}, {"exhaust_head", "Exhaust valve head"},
}

// drawn draws a new model's face as far as it was typed.
func drawn(form library.ModelForm, lang *words.Language) (d drawnData) {
	if strings.TrimSpace(form.Cylinders) == "" || strings.TrimSpace(form.Pattern) == "" {
		return d
	}
	lay, supposed, err := form.Drawn()
	errs, _ := page.Wrong(err)
	for _, l := range layoutLabels {
		if says := errs[l[0]]; says.Sentence != "" {
			d.Mistakes = append(d.Mistakes, page.Mistake{Field: l[0], Label: l[1], Says: says.In(lang)})
		}
		if slices.Contains(supposed, l[0]) {
			d.Supposed = append(d.Supposed, words.Lower(l[1]))
		}
	}
	if err == nil {
		d.Drawing = draw.HeadMap(draw.Map{Layout: lay, Lines: map[string]string{}})
	}
	return d
}

// DrawnModel answers GET /reference/models/drawn: the face of a model as far as it was typed.
func DrawnModel(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	if !req.Actor.May("edit limits") {
		return shop.ErrForbidden
	}
	s.Write(w, req, http.StatusOK, "newmodel", "drawn",
		page.Page{Data: newModelData{Drawn: drawn(modelForm(r.Form), words.In(req.Actor.Language))}})
	return nil
}

// modelForm reads the fields of a model.
func modelForm(typed url.Values) library.ModelForm {
	g := typed.Get
	all := func(name string) string { return strings.Join(typed[name], " ") }
	return library.ModelForm{
		WriteID:      g("write_id"),
		Name:         g("name"),
		About:        g("about"),
		Material:     g("material"),
		Drive:        g("drive"),
		Lifter:       g("lifter"),
		Camshafts:    g("camshafts"),
		Bridges:      g("bridges"),
		Ignition:     g("ignition"),
		Cooling:      g("cooling"),
		Unit:         g("unit"),
		IntakeValve:  all("intake_valve"),
		ExhaustValve: all("exhaust_valve"),
		Cylinders:    g("cylinders"),
		Pattern:      g("pattern"),
		FirstAt:      g("first_at"),
		Pitch:        g("pitch"),
		Bore:         g("bore"),
		Width:        g("width"),
		IntakeHead:   g("intake_head"),
		ExhaustHead:  g("exhaust_head"),
		Sure:         g("sure") == "yes",
	}
}

// NewModel answers POST /reference/models/new.
func NewModel(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := library.AddModel(r.Context(), s.Shop, req.Actor, modelForm(r.PostForm))
	if errs, err := page.Wrong(err); errs != nil {
		return showNewModel(s, w, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/reference/models/"+strconv.Itoa(int(id)))
}

type modelData struct {
	library.Model
	Map      template.HTML
	Sections []limitSection
	Mistakes []page.Mistake // of the sheet as it was typed
	Set      string
	Sets     []library.LimitRow
	Wheres   []string
	Units    []string
	Stats    []string
	Kinds    []string
	By       string // who confirmed the sheet
	Life     library.Life
}

// chosen are the words of a choice with several.
type chosen []string

// Has tells whether a word is among them.
func (w chosen) Has(word string) bool { return slices.Contains(w, word) }

// ValveWords are what the model's valves of a role are.
func (d modelData) ValveWords(field string) chosen {
	if field == "intake_valve" {
		return strings.Fields(d.IntakeValve)
	}
	return strings.Fields(d.ExhaustValve)
}

// Repairs are what can answer a characteristic of the shop's own on heads of this kind.
func (d modelData) Repairs() []*trade.Repair {
	kind := headfile.KindOf(d.HeadModel)
	all := append(trade.Repairs(), headfile.OwnRepairs(d.HeadModel)...)
	return slices.DeleteFunc(all, func(r *trade.Repair) bool { return !r.Does.Exists(kind) })
}

// OwnRepairs are the repairs the shop has declared itself for the model.
func (d modelData) OwnRepairs() []ownRepair {
	var out []ownRepair
	for _, r := range headfile.OwnRepairs(d.HeadModel) {
		if o, err := trade.ParseOwnRepair(r.Code); err == nil {
			out = append(out, ownRepair{o, shop.UnitOf(d.Unit)})
		}
	}
	return out
}

// ownRepair is a repair of the shop's own as its model's page shows it.
type ownRepair struct {
	trade.OwnRepair
	unit length.Unit
}

// Size is between which its size is chosen, "" where it has none.
func (o ownRepair) Size() string {
	if o.Most == 0 {
		return ""
	}
	return strings.TrimSuffix(o.unit.Text(o.Least), " "+o.unit.Name) + " to " + o.unit.Text(o.Most)
}

// Moved is what it moves, in words.
func (o ownRepair) Moved() string {
	var out []string
	for _, m := range o.Moves {
		c, _ := trade.ByCode(m.Of)
		out = append(out, c.Label+map[bool]string{true: " up", false: " down"}[m.Times > 0])
	}
	return strings.Join(out, ", ")
}

// Stations are where work is done.
func (d modelData) Stations() []string { return trade.Stations }

// OwnMetals are what a repair of the shop's own may work on.
func (d modelData) OwnMetals() []trade.Metal { return trade.OwnMetals }

// OwnMoved are the figures that a repair of the shop's own may move on heads of this kind.
func (d modelData) OwnMoved() []*trade.Characteristic {
	kind := headfile.KindOf(d.HeadModel)
	return slices.DeleteFunc(slices.Clone(trade.OwnMoved),
		func(c *trade.Characteristic) bool { return !c.Exists(kind) })
}

// Kind is what the model is by a field of its form.
func (d modelData) Kind(field string) string {
	return map[string]string{
		"material": d.Material, "drive": d.Drive, "lifter": d.Lifter, "ignition": d.Ignition, "cooling": d.Cooling,
		"camshafts": strconv.Itoa(len(d.Layout.Shafts())), "bridges": cmp.Or(d.Layout.Bridges, "none"),
	}[field]
}

// Choices are what a field of a model can be.
func (d modelData) Choices() map[string][]string { return library.ModelChoices }

// Labels are what the fields of a model are called.
func (d modelData) Labels() map[string]string { return modelLabels }

// Materials are what valves are made of.
func (d modelData) Materials() []string { return trade.ValveMaterials }

func openModel(s *page.Site, r *http.Request) (library.Model, error) {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return library.Model{}, shop.ErrNotFound
	}
	return library.ModelOf(r.Context(), s.Shop, uint(id))
}

func showModel(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, m library.Model,
	p page.Page,
) error {
	d := modelData{
		Model:  m,
		Map:    draw.HeadMap(draw.Map{Layout: m.Layout, Lines: map[string]string{}}),
		Set:    r.Form.Get("set"),
		Sets:   library.SetLabels,
		Wheres: trade.Wheres,
		Units:  slices.Sorted(maps.Keys(trade.Units)),
		Stats:  headfile.OwnStats,
		Kinds:  library.ToolKinds(),
	}
	if !slices.ContainsFunc(d.Sets, func(l library.LimitRow) bool { return l.Code == d.Set }) {
		d.Set = "service"
	}
	lines := limitLines(library.RowsOf(d.Set, m), m, d.Set, p)
	d.Sections, d.Mistakes = sectionsOf(lines), mistakesOf(lines, p)
	if m.Sheet.ConfirmedBy != nil {
		people, err := people.People(r.Context(), s.Shop)
		if err != nil {
			return err
		}
		for _, x := range people {
			if x.ID == *m.Sheet.ConfirmedBy {
				d.By = x.Name
			}
		}
	}
	life, err := library.LifeOf(r.Context(), s.Shop, m.ID)
	if err != nil {
		return err
	}
	d.Life = life
	p.Title, p.Place, p.Data = m.Name, "reference", d
	return s.Show(w, req, "model", p)
}

// ModelPage answers GET /reference/models/{id}.
func ModelPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	m, err := openModel(s, r)
	if err != nil {
		return err
	}
	return showModel(s, w, r, req, m, page.Page{})
}

// onModel runs write for the model of the address and shows its page again, with what was
// wrong or as it stands now.
func onModel(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request,
	write func(m library.Model) error,
) error {
	m, err := openModel(s, r)
	if err != nil {
		return err
	}
	if errs, err := page.Wrong(write(m)); errs != nil {
		return showModel(s, w, r, req, m, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(
		w, r, "/reference/models/"+strconv.Itoa(int(m.ID))+"?set="+url.QueryEscape(r.Form.Get("set")),
	)
}

// EditSheet answers POST /reference/models/{id}.
func EditSheet(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return onModel(s, w, r, req, func(m library.Model) error {
		set := r.Form.Get("set")
		if set == "" {
			set = "service"
		}
		rows := map[string]library.LimitEntry{}
		for _, row := range library.RowsOf(set, m) {
			g := func(name string) string { return r.PostForm.Get(row.Key() + "/" + name) }
			rows[row.Key()] = library.LimitEntry{Low: g("low"), High: g("high"), Near: g("near"), Source: g("source")}
		}
		g := r.PostForm.Get
		version, _ := strconv.Atoi(g("version"))
		_, err := library.EditSheet(r.Context(), s.Shop, req.Actor, m.ID, library.SheetForm{
			WriteID: g("write_id"), Version: version, Set: set, Note: g("note"), Source: g("source"), Rows: rows,
		})
		return err
	})
}

// ConfirmSheet records that a second person has read the sheet against its documents.
func ConfirmSheet(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return onModel(s, w, r, req, func(m library.Model) error {
		version, _ := strconv.Atoi(r.PostForm.Get("version"))
		return library.ConfirmSheet(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), m.ID, version)
	})
}

// AddOwn adds a characteristic of the shop's own.
func AddOwn(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g := r.PostForm.Get
	return onModel(s, w, r, req, func(m library.Model) error {
		return library.AddOwn(r.Context(), s.Shop, req.Actor, m.ID, library.OwnForm{
			WriteID:  g("write_id"),
			Label:    g("label"),
			Spot:     g("spot"),
			Unit:     g("unit"),
			Stat:     g("stat"),
			ToolKind: g("tool_kind"),
			Repairs:  r.PostForm["repair"],
		})
	})
}

// AddRepair declares a repair of the shop's own.
func AddRepair(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g := r.PostForm.Get
	return onModel(s, w, r, req, func(m library.Model) error {
		moves := map[string]string{}
		for _, c := range trade.OwnMoved {
			moves[c.Code] = g("move/" + c.Code)
		}
		return library.AddRepair(r.Context(), s.Shop, req.Actor, m.ID, library.OwnRepairForm{
			WriteID: g("write_id"),
			Name:    g("repair_name"),
			Works:   g("works"),
			Station: g("station"),
			Minutes: g("minutes"),
			Least:   g("least"),
			Most:    g("most"),
			Part:    g("part"),
			Moves:   moves,
		})
	})
}

// DropRepair takes a repair of the shop's own away.
func DropRepair(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return onModel(s, w, r, req, func(m library.Model) error {
		return library.DropRepair(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), m.ID,
			r.PostForm.Get("code"))
	})
}

// ChangeModel answers POST /reference/models/{id}/change.
func ChangeModel(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return onModel(s, w, r, req, func(m library.Model) error {
		return library.ChangeModel(r.Context(), s.Shop, req.Actor, m.ID, modelForm(r.PostForm))
	})
}

// CorrectKind answers POST /reference/models/{id}/kind.
func CorrectKind(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return onModel(s, w, r, req, func(m library.Model) error {
		return library.CorrectKind(r.Context(), s.Shop, req.Actor, m.ID, modelForm(r.PostForm))
	})
}

// RetireModel answers POST /reference/models/{id}/retire.
func RetireModel(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return onModel(s, w, r, req, func(m library.Model) error {
		return library.RetireModel(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), m.ID,
			r.PostForm.Get("retire") == "yes")
	})
}

// CopyModel answers POST /reference/models/{id}/copy.
func CopyModel(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	m, err := openModel(s, r)
	if err != nil {
		return err
	}
	id, err := library.CopyModel(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), m.ID,
		r.PostForm.Get("copy"))
	if errs, err := page.Wrong(err); errs != nil {
		return showModel(s, w, r, req, m, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/reference/models/"+strconv.Itoa(int(id)))
}

// faceData is a model's face as it is drawn and moved.
type faceData struct {
	library.Model
	Drawing template.HTML
	Spots   []faceSpot
}

// faceSpot is something on the face that can be moved.
type faceSpot struct {
	What, Name string
	X, Y, D    string // bare, in the model's unit
}

// Key names it for the drawing and the form.
func (f faceSpot) Key() string { return f.What + " " + f.Name }

func showFace(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	m, err := openModel(s, r)
	if err != nil {
		return err
	}
	d := faceData{Model: m, Drawing: draw.FaceToMove(m.Layout)}
	u := m.SheetUnit()
	bare := func(l length.Length) string { return u.In(l, u.Places()) }
	for _, v := range m.Layout.Valves {
		d.Spots = append(d.Spots, faceSpot{"valve", v.ID, bare(v.X), bare(v.Y), bare(v.Head)})
	}
	for _, list := range []struct {
		what  string
		spots []layout.Spot
	}{
		{"chamber", m.Layout.Chambers}, {"bolt", m.Layout.Bolts}, {"plug", m.Layout.Plugs},
		{"injector", m.Layout.Injectors}, {"water", m.Layout.Water},
	} {
		for _, sp := range list.spots {
			d.Spots = append(d.Spots, faceSpot{list.what, sp.Name, bare(sp.X), bare(sp.Y), bare(sp.D)})
		}
	}
	p.Title, p.Place, p.Data = m.Name+": its face", "reference", d
	return s.Show(w, req, "modelface", p)
}

// FacePage answers GET /reference/models/{id}/face.
func FacePage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showFace(s, w, r, req, page.Page{Values: r.Form})
}

// MoveOnFace answers POST /reference/models/{id}/face.
func MoveOnFace(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	m, err := openModel(s, r)
	if err != nil {
		return err
	}
	g := r.PostForm.Get
	d := g("d")
	if g("remove") != "" {
		d = "0"
	}
	err = library.MoveOnFace(r.Context(), s.Shop, req.Actor, g("write_id"), m.ID, g("what"), g("name"), g("x"),
		g("y"), d)
	if errs, err := page.Wrong(err); errs != nil {
		return showFace(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/reference/models/"+strconv.Itoa(int(m.ID))+"/face?what="+
		url.QueryEscape(g("what"))+"&name="+url.QueryEscape(g("name")))
}

// LimitsFile is a model's sheet as a CSV file.
func LimitsFile(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	m, err := openModel(s, r)
	if err != nil {
		return err
	}
	set, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	b, err := inout.LimitsCSV(m, set, words.In(req.Actor.Language))
	if err != nil {
		return err
	}
	return page.SendFile(w, "text/csv; charset=utf-8",
		fmt.Sprintf("limits-%d-version-%d.csv", m.ID, m.Sheet.Version), b)
}
