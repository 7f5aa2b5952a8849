package web

import (
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"headwright/core/cause"
	"headwright/core/length"
	"headwright/core/seating"
	"headwright/shop"
	"headwright/web/draw"
)

type planData struct {
	P       shop.Planned
	Plans   []shop.KeptPlan
	Others  []shop.Planned     // the alternatives, side by side
	Instead []shop.Replacement // what could be had instead
	Most    length.Length      // the handle's end
	Cut     length.Length
	Fixed   bool // the facing cut is held
}

// askOf reads what the lead holds fast from a query: cut=0.15, seat.2E1=insert, valve.2E1=new.
func askOf(q url.Values, f *shop.File) (shop.PlanAsk, map[string]string) {
	ask := shop.PlanAsk{Alternative: q.Get("alt"), Seat: map[string]string{}, Valve: map[string]string{}}
	errs := map[string]string{}
	if text := strings.TrimSpace(q.Get("cut")); text != "" && q.Get("hold") != "" {
		c, err := length.Parse(text, length.MM)
		if err == nil && (c < 0 || c > 20*length.Millimetre) {
			errs["cut"] = "a facing cut lies between 0 and 20 mm"
		} else if err != nil {
			errs["cut"] = err.Error()
		} else {
			c = c / (10 * length.Micrometre) * (10 * length.Micrometre)
			ask.Cut = &c
		}
	}
	for _, v := range f.Layout.Valves {
		if s := q.Get("seat." + v.ID); slices.Contains([]string{"keep", "cut", "insert"}, s) {
			ask.Seat[v.ID] = s
		}
		if s := q.Get("valve." + v.ID); slices.Contains([]string{"keep", "grind", "new"}, s) {
			ask.Valve[v.ID] = s
		}
	}
	return ask, errs
}

func (s *Server) showPlan(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	ask, errs := askOf(r.Form, f)
	d := planData{}
	if d.P, err = s.shop.Plan(r.Context(), f, ask); err != nil {
		return err
	}
	d.Cut, d.Fixed = d.P.Out.FaceCut, ask.Cut != nil
	if ask.Cut != nil {
		d.Cut = *ask.Cut
	}
	d.Most = max(d.P.In.Face.CutMax, 400*length.Micrometre, d.Cut)
	if r.Header.Get("HX-Request") == "" { // the answer alone is asked for when something is moved
		if d.Plans, err = s.shop.Plans(r.Context(), f); err != nil {
			return err
		}
		if d.Others, err = s.shop.Compare(r.Context(), f); err != nil {
			return err
		}
	}
	if d.Instead, err = s.shop.Replacements(r.Context(), f, d.P.Cents); err != nil {
		return err
	}
	if p.Errors == nil {
		p.Errors = errs
	}
	p.Values = r.Form
	return s.showHead(w, req, f, "plan", d, p)
}

func (s *Server) planPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showPlan(w, r, req, Page{})
}

// keepPlan keeps the plan as it stands on the page and decides by it.
func (s *Server) keepPlan(w http.ResponseWriter, r *http.Request, req *request) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	ask, errs := askOf(r.PostForm, f)
	if len(errs) == 0 {
		if errs, err = wrong(s.shop.KeepPlan(r.Context(), req.actor, r.PostForm.Get("write_id"), f.Tag, ask)); err != nil {
			return err
		}
	}
	if len(errs) > 0 {
		return s.showPlan(w, r, req, Page{Errors: errs})
	}
	return redirect(w, r, "/heads/"+f.Tag+"/judge")
}

// scrap decides that a head is not mended.
func (s *Server) scrap(w http.ResponseWriter, r *http.Request, req *request) error {
	tag := chi.URLParam(r, "tag")
	err := s.shop.Scrap(r.Context(), req.actor, r.PostForm.Get("write_id"), tag, r.PostForm.Get("reason"))
	if errs, err := wrong(err); errs != nil {
		return s.showPlan(w, r, req, Page{Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/judge")
}

type facePage struct {
	shop.FacePage
	Relief template.HTML
	Rows   []facePoint
}

type facePoint struct {
	Name  string
	Z     length.Length
	Stays bool
	On    bool // touches one of the two planes
}

func (s *Server) facePage(w http.ResponseWriter, r *http.Request, req *request) error {
	errs := map[string]string{}
	var cut *length.Length
	if text := strings.TrimSpace(r.Form.Get("cut")); text != "" {
		c, err := length.Parse(text, length.MM)
		if err != nil || c < 0 || c > 20*length.Millimetre {
			errs["cut"] = "a facing cut lies between 0 and 20 mm"
		} else {
			cut = &c
		}
	}
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	face, err := s.shop.Face(r.Context(), f, cut)
	if err != nil {
		return err
	}
	d := facePage{FacePage: face}
	d.Relief = draw.Relief(f.Layout, face.Grid, &face.Level, req.actor.Unit)
	if face.Flat != nil {
		i := 0
		for _, g := range f.Layout.Grid() {
			if len(f.Counting("face.grid", g.Name)) == 0 {
				continue
			}
			z := face.Grid.Points[i].Z
			d.Rows = append(d.Rows, facePoint{g.Name, z, z < face.Level, slices.Contains(face.Flat.Touching, i)})
			i++
		}
	}
	return s.showHead(w, req, f, "face", d, Page{Values: r.Form, Errors: errs})
}

type seatsPage struct {
	Rows    []shop.SeatRow
	At      string
	Drawing template.HTML
	Picked  *shop.SeatRow
}

func (s *Server) seatsPage(w http.ResponseWriter, r *http.Request, req *request) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	errs := map[string]string{}
	given := func(name string) *length.Length {
		text := strings.TrimSpace(r.Form.Get(name))
		if text == "" {
			return nil
		}
		l, err := length.Parse(text, f.Unit)
		if err != nil || l <= 0 || l > 30*length.Millimetre {
			errs[name] = "a width or an inset like 1.4"
			return nil
		}
		return &l
	}
	d := seatsPage{At: r.Form.Get("at")}
	if d.Rows, err = s.shop.Seats(r.Context(), f, given("width"), given("inset")); err != nil {
		return err
	}
	for i := range d.Rows {
		row := &d.Rows[i]
		if row.Out != nil && (row.ID == d.At || d.Picked == nil && d.At == "") {
			d.Picked = row
			d.Drawing = draw.Calc("seat", row.In, *row.Out)
		}
	}
	return s.showHead(w, req, f, "seats", d, Page{Values: r.Form, Errors: errs})
}

type guidesPage struct {
	Rows      []shop.GuideRow
	Fit       *seating.FitOutput
	Materials []string
}

func (s *Server) guidesPage(w http.ResponseWriter, r *http.Request, req *request) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	d := guidesPage{Materials: shop.FitMaterials}
	if d.Rows, err = s.shop.Guides(r.Context(), f); err != nil {
		return err
	}
	g := r.Form.Get
	p := Page{Values: r.Form}
	if g("hole")+g("part") != "" {
		fit, err := f.Fit(shop.FitForm{Hole: g("hole"), Part: g("part"), PartMaterial: g("part_material"), HoleTemp: g("hole_temp"), PartTemp: g("part_temp")})
		if p.Errors, err = wrong(err); err != nil {
			return err
		}
		if len(p.Errors) == 0 {
			d.Fit = &fit
		}
	}
	return s.showHead(w, req, f, "guides", d, p)
}

type springsPage struct {
	Rows    []shop.SpringRow
	Drawing template.HTML
	Drawn   string
	Lash    []shop.LashRow
	Box     []shop.StockRow
	Refused []string
	Bucket  bool
}

func (s *Server) springsPage(w http.ResponseWriter, r *http.Request, req *request) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	d := springsPage{Bucket: f.Model.Drive == "bucket"}
	if d.Rows, err = s.shop.Springs(r.Context(), f); err != nil {
		return err
	}
	worst := -1
	for i, row := range d.Rows {
		if row.Out != nil && (worst < 0 || row.Seat.Verdict > d.Rows[worst].Seat.Verdict) {
			worst = i
		}
	}
	if worst >= 0 {
		d.Drawn, d.Drawing = d.Rows[worst].ID, draw.Calc("spring", d.Rows[worst].In, *d.Rows[worst].Out)
	}
	ask := shop.PlanAsk{Brief: true}
	if plans, err := s.shop.Plans(r.Context(), f); err != nil {
		return err
	} else if len(plans) > 0 {
		ask = plans[0].Ask
		ask.Brief = true
	}
	p, err := s.shop.Plan(r.Context(), f, ask)
	if err != nil {
		return err
	}
	d.Lash, d.Refused = p.Lash, p.Refused
	stock, err := s.shop.Stock(r.Context())
	if err != nil {
		return err
	}
	for _, it := range stock.Rows {
		if it.Kind == map[bool]string{true: "lash shim", false: "pushrod"}[d.Bucket] && (it.ModelID == 0 || it.ModelID == f.ModelID) {
			d.Box = append(d.Box, it)
		}
	}
	return s.showHead(w, req, f, "springs", d, Page{})
}

type causesPage struct {
	Rows    []shop.CauseRow
	Next    *cause.Sign
	Between []string
	All     []cause.Cause
}

func (s *Server) showCauses(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	d := causesPage{All: cause.Causes}
	if d.Rows, err = s.shop.Causes(r.Context(), f); err != nil {
		return err
	}
	var open []cause.Weighed
	for _, row := range d.Rows {
		if row.Call.State != "rejected" {
			open = append(open, row.Weighed)
		}
	}
	if sign, between, ok := cause.Next(open); ok {
		d.Next, d.Between = &sign, between
	}
	return s.showHead(w, req, f, "causes", d, p)
}

func (s *Server) causesPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showCauses(w, r, req, Page{})
}

// callCause confirms or rejects a cause.
func (s *Server) callCause(w http.ResponseWriter, r *http.Request, req *request) error {
	g, tag := r.PostForm.Get, chi.URLParam(r, "tag")
	err := s.shop.CallCause(r.Context(), req.actor, g("write_id"), tag, g("cause"), g("state"), g("note/"+g("cause")))
	if errs, err := wrong(err); errs != nil {
		return s.showCauses(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/causes")
}

// schools keeps a head's own schools.
func (s *Server) schools(w http.ResponseWriter, r *http.Request, req *request) error {
	tag := chi.URLParam(r, "tag")
	values := map[string]string{}
	for _, d := range shop.SettingDefs {
		if v, ok := r.PostForm[d.Name]; ok && d.School {
			values[d.Name] = v[0]
		}
	}
	err := s.shop.SetSchools(r.Context(), req.actor, r.PostForm.Get("write_id"), tag, values)
	if errs, err := wrong(err); errs != nil {
		return s.showSchools(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/schools")
}

type schoolRow struct {
	shop.SettingDef
	Shop, Own string
}

func (s *Server) showSchools(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	own, err := s.shop.Settings(r.Context(), f.Tag)
	if err != nil {
		return err
	}
	general, err := s.shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	var rows []schoolRow
	for _, d := range shop.SettingDefs {
		if d.School {
			row := schoolRow{d, general.Get(d.Name), ""}
			if own.Overridden(d.Name) {
				row.Own = own.Get(d.Name)
			}
			rows = append(rows, row)
		}
	}
	return s.showHead(w, req, f, "schools", rows, p)
}

func (s *Server) schoolsPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showSchools(w, r, req, Page{})
}

// settingRow is a setting on its page.
type settingRow struct {
	shop.SettingDef
	Value string
}

func (s *Server) showSettings(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	set, err := s.shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	var rows []settingRow
	for _, d := range shop.SettingDefs {
		row := settingRow{d, set.Get(d.Name)}
		if v, typed := p.Values[d.Name]; typed {
			row.Value = v[0]
		}
		rows = append(rows, row)
	}
	p.Title, p.Place, p.Data = "Settings", "people", rows
	return s.show(w, req, "settings", p)
}

func (s *Server) settingsPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showSettings(w, r, req, Page{})
}

func (s *Server) setSettings(w http.ResponseWriter, r *http.Request, req *request) error {
	values := map[string]string{}
	for _, d := range shop.SettingDefs {
		if v, ok := r.PostForm[d.Name]; ok {
			values[d.Name] = v[0]
		}
	}
	if errs, err := wrong(s.shop.SetSettings(r.Context(), req.actor, r.PostForm.Get("write_id"), values)); errs != nil {
		return s.showSettings(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/settings")
}

// stockPage is the stock list, the shim box and the orders.
func (s *Server) showStock(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	stock, err := s.shop.Stock(r.Context())
	if err != nil {
		return err
	}
	models, err := s.shop.Models(r.Context())
	if err != nil {
		return err
	}
	names := map[uint]string{}
	for _, m := range models {
		names[m.ID] = m.Name
	}
	p.Title, p.Place, p.Data = "Parts", "parts", stockData{stock, names, shop.StockKinds()}
	return s.show(w, req, "stock", p)
}

type stockData struct {
	shop.StockPage
	Models map[uint]string
	Kinds  []string
}

// Shims are the stock's lash shims, for the box.
func (d stockData) Shims() []shop.StockRow { return d.of("lash shim", true) }

// Rest is the stock without its lash shims.
func (d stockData) Rest() []shop.StockRow { return d.of("lash shim", false) }

func (d stockData) of(kind string, is bool) []shop.StockRow {
	var out []shop.StockRow
	for _, r := range d.Rows {
		if (r.Kind == kind) == is {
			out = append(out, r)
		}
	}
	return out
}

func (s *Server) stockPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showStock(w, r, req, Page{})
}

// keepStock does one of the things that can be done to the stock.
func (s *Server) keepStock(w http.ResponseWriter, r *http.Request, req *request) error {
	g, ctx, a := r.PostForm.Get, r.Context(), req.actor
	number := func(name string) uint {
		n, _ := strconv.ParseUint(g(name), 10, 32)
		return uint(n)
	}
	verbs := map[string]func() error{
		"add": func() error {
			return s.shop.AddStock(ctx, a, shop.StockForm{WriteID: g("write_id"), Kind: g("kind"), Name: g("name"), Size: g("size"), Model: g("model"), Role: g("role"), Price: g("price"), Least: g("least"), Count: g("count"), Dims: g("dims")})
		},
		"count": func() error {
			return s.shop.CountStock(ctx, a, g("write_id"), number("item"), g("count/"+g("item")), "counted")
		},
		"order": func() error {
			return s.shop.Order(ctx, a, g("write_id"), number("item"), g("order/"+g("item")), g("tag"))
		},
		"receive": func() error {
			return s.shop.Receive(ctx, a, g("write_id"), number("order"), g("receive/"+g("order")), g("ok") == "yes")
		},
	}
	verb, ok := verbs[chi.URLParam(r, "verb")]
	if !ok {
		return shop.ErrNotFound
	}
	if errs, err := wrong(verb()); errs != nil {
		return s.showStock(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/parts")
}
