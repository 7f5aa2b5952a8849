package lead

import (
	"html/template"
	"net/http"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/seating"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/parts"
	"yatai/web/draw"
	"yatai/web/headpage"
	"yatai/web/page"
)

type facePage struct {
	lead.FacePage
	Relief template.HTML
	Rows   []facePoint
}

type facePoint struct {
	Name  string
	Z     length.Length
	Stays bool
	On    bool // touches one of the two planes
}

// FacePage answers GET /heads/{tag}/face.
func FacePage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	errs := field.Errors{}
	var cut *length.Length
	if text := strings.TrimSpace(r.Form.Get("cut")); text != "" {
		c, err := length.Parse(text, req.Actor.Unit)
		if err != nil || c < 0 || c > 20*length.Millimetre {
			errs.Addf("cut", "a facing cut lies between 0 and %s", req.Actor.Unit.Text(20*length.Millimetre))
		} else {
			cut = &c
		}
	}
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	face, err := lead.Face(r.Context(), s.Shop, f, cut)
	if err != nil {
		return err
	}
	d := facePage{FacePage: face}
	d.Relief = draw.Relief(f.Layout, face.Grid, &face.Level, req.Actor.Unit)
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
	return headpage.ShowHead(s, w, req, f, "face", d, page.Page{Values: r.Form, Errors: errs})
}

type seatsPage struct {
	Rows    []lead.SeatRow
	At      string
	Drawing template.HTML
	Picked  *lead.SeatRow
}

// SeatsPage answers GET /heads/{tag}/seats.
func SeatsPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	errs := field.Errors{}
	given := func(name string) *length.Length {
		text := strings.TrimSpace(r.Form.Get(name))
		if text == "" {
			return nil
		}
		l, err := length.Parse(text, f.Unit)
		if err != nil || l <= 0 || l > 30*length.Millimetre {
			errs.Addf(name, "a width or an inset like 1.4")
			return nil
		}
		return &l
	}
	d := seatsPage{At: r.Form.Get("at")}
	d.Rows = lead.Seats(s.Shop, f, given("width"), given("inset"))
	for i := range d.Rows {
		row := &d.Rows[i]
		if row.Out != nil && (row.ID == d.At || d.Picked == nil && d.At == "") {
			d.Picked = row
			d.Drawing = draw.Calc("seat", draw.BesideTable, row.In, *row.Out)
		}
	}
	return headpage.ShowHead(s, w, req, f, "seats", d, page.Page{Values: r.Form, Errors: errs})
}

type guidesPage struct {
	Rows      []lead.GuideRow
	Fit       *seating.FitOutput
	Materials []string
}

// GuidesPage answers GET /heads/{tag}/guides.
func GuidesPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	d := guidesPage{Materials: headfile.FitMaterials, Rows: lead.Guides(s.Shop, f)}
	g := r.Form.Get
	p := page.Page{Values: r.Form}
	if g("hole")+g("part") != "" {
		fit, err := f.Fit(headfile.FitForm{
			Hole: g("hole"), Part: g("part"), PartMaterial: g("part_material"), HoleTemp: g("hole_temp"),
			PartTemp: g("part_temp"),
		})
		if p.Errors, err = page.Wrong(err); err != nil {
			return err
		}
		if len(p.Errors) == 0 {
			d.Fit = &fit
		}
	}
	return headpage.ShowHead(s, w, req, f, "guides", d, p)
}

type springsPage struct {
	Rows    []lead.SpringRow
	Drawing template.HTML
	Drawn   string
	Lash    []lead.LashRow
	Box     []parts.StockRow
	Refused []string
	Bucket  bool
}

// SpringsPage answers GET /heads/{tag}/springs.
func SpringsPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	d := springsPage{Bucket: f.Subject.Model.Kind.Buckets(), Rows: lead.Springs(s.Shop, f)}
	worst := -1
	for i, row := range d.Rows {
		if row.Out != nil && (worst < 0 || row.Seat.Verdict > d.Rows[worst].Seat.Verdict) {
			worst = i
		}
	}
	if worst >= 0 {
		d.Drawn, d.Drawing = d.Rows[worst].ID, draw.Calc("spring", draw.BesideTable, d.Rows[worst].In,
			*d.Rows[worst].Out)
	}
	ask := headfile.PlanAsk{Brief: true}
	if plans, err := headfile.Plans(r.Context(), s.Shop, f); err != nil {
		return err
	} else if len(plans) > 0 {
		ask = plans[0].Ask
		ask.Brief = true
	}
	p, err := lead.Plan(r.Context(), s.Shop, f, ask)
	if err != nil {
		return err
	}
	d.Lash, d.Refused = p.Lash, p.Refused()
	stock, err := parts.Stock(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	for _, it := range stock.Rows {
		if it.Kind == map[bool]string{true: "lash shim", false: "pushrod"}[d.Bucket] &&
			(it.ModelID == 0 || it.ModelID == f.ModelID) {
			d.Box = append(d.Box, it)
		}
	}
	return headpage.ShowHead(s, w, req, f, "springs", d, page.Page{})
}
