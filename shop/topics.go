package shop

import (
	"context"
	"math/big"
	"slices"

	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/seating"
	"yatai/core/surface"
	"yatai/core/valvetrain"
)

// FacePage is the face: what was read, its form, and what a cut would leave.
type FacePage struct {
	Grid    surface.FlatnessInput
	Flat    *surface.FlatnessOutput // nil when the grid was not read
	Form    string
	Warp    *surface.WarpOutput // nil when no line was read
	Cut     length.Length
	Level   length.Length // heights at and below stay when the face is cut by Cut
	Left    int           // points of the grid the cut does not reach
	Offers  []CutOffer
	Corners []Corner
}

// Corner is a place where the thickness is read, with its target after the cut.
type Corner struct {
	Name   string
	Now    length.Length
	Target length.Length
	Limit  *judge.Limit
}

// Face works out the face with a cut, or with the least that cleans it up when cut is nil.
func (s *Shop) Face(ctx context.Context, f *File, cut *length.Length) (FacePage, error) {
	p, err := s.planner(s.st.Read(ctx), f)
	if err != nil {
		return FacePage{}, err
	}
	allow := p.give("given.face_allow", "", 20*length.Micrometre)
	page := FacePage{Grid: f.FaceGrid(allow)}
	if out, err := surface.Flatness(page.Grid); err == nil {
		page.Flat = &out
		if form, ok := surface.FormOf(page.Grid.Points); ok {
			page.Form = form.Says(10 * length.Micrometre)
		}
	}
	var lines surface.WarpInput
	lines.Allowance = allow
	for _, l := range f.Layout.Lines {
		for _, r := range f.Counting("face.line", l.Name) {
			lines.Lines = append(lines.Lines, surface.Line{Name: l.Name, Kind: l.Kind, Go: r.Value.Go, NoGo: r.Value.NoGo})
		}
	}
	for kind, to := range map[string]**length.Length{"long": &lines.Limits.Long, "cross": &lines.Limits.Cross, "diagonal": &lines.Limits.Diagonal} {
		if l := p.sheet.Limit("face.line", kind); l != nil {
			*to = l.High
		}
	}
	if out, err := surface.Warp(lines); err == nil {
		page.Warp = &out
	}
	in, _ := p.input(PlanAsk{})
	page.Offers = p.offers(in)
	page.Cut = in.Face.CutMin
	if cut != nil {
		page.Cut = *cut
	}
	if page.Flat != nil {
		top := page.Grid.Points[0].Z
		for _, pt := range page.Grid.Points {
			top = max(top, pt.Z)
		}
		page.Level = top - page.Cut
		for _, pt := range page.Grid.Points {
			if pt.Z < page.Level {
				page.Left++
			}
		}
	}
	for _, c := range f.Layout.Corners {
		for _, r := range f.Counting("head.thickness", c.Name) {
			page.Corners = append(page.Corners, Corner{c.Name, r.Value.At, r.Value.At - page.Cut, p.sheet.Limit("head.thickness", "")})
		}
	}
	return page, nil
}

// SeatRow is one seat's ring now and wanted, with the cuts between.
type SeatRow struct {
	ID    string
	In    seating.SeatInput
	Out   *seating.SeatOutput
	Room  length.Length // from the ring's outer edge to the insert's edge; 0 when not known
	Read  bool          // the ring's place was read, not supposed
	Why   string        // why nothing can be worked out
	Angle string        // what the valve's face is ground to
}

// Seats works out every seat's cuts for a ring of width want (the limit's middle when nil)
// with its outer edge inset from the valve's edge.
func (s *Shop) Seats(ctx context.Context, f *File, width, inset *length.Length) ([]SeatRow, error) {
	p, err := s.planner(s.st.Read(ctx), f)
	if err != nil {
		return nil, err
	}
	var out []SeatRow
	for _, v := range f.Layout.Valves {
		out = append(out, p.seat(v, width, inset))
	}
	return out, nil
}

func (p *planner) seat(v layout.Valve, width, inset *length.Length) SeatRow {
	role := string(v.Role)
	row := SeatRow{ID: v.ID}
	now := p.f.Mean("seat.width", v.ID, "")
	if now == nil {
		row.Why = "its width was not read"
		return row
	}
	deg := func(code string, usual int64) *big.Rat {
		if l, ok := p.sheet.Give(code, role); ok {
			return big.NewRat(int64(l), int64(length.Millimetre))
		}
		return big.NewRat(usual, 1)
	}
	head := v.Head
	if m := p.f.Mean("valve.head", v.ID, ""); m != nil {
		head = *m
	}
	place := 300 * length.Micrometre
	if m := p.f.Mean("seat.position", v.ID, ""); m != nil {
		place, row.Read = *m, true
	}
	in := seating.SeatInput{Angle: deg("given.seat_angle", 45), Top: deg("given.top_angle", 30), Bottom: deg("given.bottom_angle", 60), ValveHead: head, Outer: head - 2*place}
	slope := seating.Slope(in.Angle, *now)
	in.Inner = in.Outer - 2*slope
	in.TargetWidth = *now
	if l := p.sheet.Limit("seat.width", role); l != nil && l.Low != nil && l.High != nil {
		in.TargetWidth = (*l.Low + *l.High) / 2
	}
	if width != nil {
		in.TargetWidth = *width
	}
	want := 400 * length.Micrometre
	if l := p.sheet.Limit("seat.position", role); l != nil && l.Low != nil && l.High != nil {
		want = (*l.Low + *l.High) / 2
	}
	if inset != nil {
		want = *inset
	}
	in.TargetOuter = head - 2*want
	row.In = in
	res, err := seating.Seat(in)
	if err != nil {
		row.Why = err.Error()
		return row
	}
	row.Out = &res
	if edge, ok := p.sheet.Give("given.insert_outer", role); ok {
		row.Room = (edge - in.TargetOuter) / 2
	}
	row.Angle = in.Angle.RatString() + " deg, as the seat"
	if p.set.Get("school.angle") == "interference" {
		half := new(big.Rat).Sub(in.Angle, big.NewRat(1, 2))
		row.Angle = half.FloatString(1) + " deg: contact at the outer edge, not to be lapped away"
	}
	return row
}

// GuideRow is one guide: its clearance, what a new one is made for, and the bore to make.
type GuideRow struct {
	ID       string
	Feature  judge.Feature
	Stem     length.Length // largest reading of the stem that is fitted
	New      bool          // read after repair: the stem actually fitted
	Target   length.Length
	Bore     length.Length
	BoreLow  length.Length
	BoreHigh length.Length
	Oversize length.Length // over a new stem: the least that cleans the worn bore up by reaming; 0 when not known
	Note     string
}

// oversizes are the steps oversize stems come in.
var oversizes = []length.Length{100, 200, 300, 400, 500}

// Guides works out the bore to make for every guide, for the stem that is fitted and the
// clearance the shop's school aims at.
func (s *Shop) Guides(ctx context.Context, f *File) ([]GuideRow, error) {
	p, err := s.planner(s.st.Read(ctx), f)
	if err != nil {
		return nil, err
	}
	var out []GuideRow
	for _, v := range f.Layout.Valves {
		j, _ := f.Now.Position(v.ID)
		x, _ := j.Feature("guide.clearance")
		row := GuideRow{ID: v.ID, Feature: x}
		stems := f.Counting("stem.dia", v.ID)
		if len(stems) == 0 {
			row.Note = "measure the stem that goes in first"
			out = append(out, row)
			continue
		}
		for _, r := range stems {
			row.Stem = max(row.Stem, r.Value.At)
		}
		_, row.New = f.Standing(AfterRepair)["stem.dia "+judge.Spot{Position: v.ID, Place: "top"}.Key()]
		limit := x.Limit
		if limit == nil {
			limit = judge.General(string(v.Role), row.Stem)
		}
		if limit == nil || limit.Low == nil || limit.High == nil {
			row.Note = "no limit for its clearance"
			out = append(out, row)
			continue
		}
		row.Target = p.clearanceTarget(*limit, v.Role)
		row.Bore, row.BoreLow, row.BoreHigh = row.Stem+row.Target, row.Stem+*limit.Low, row.Stem+*limit.High
		if fresh := p.sheet.LimitOf("new", "stem.dia", string(v.Role)); fresh != nil && fresh.High != nil && x.Verdict >= gauge.Out && x.Side == "high" {
			for _, r := range f.Counting("guide.bore", v.ID) {
				for _, over := range oversizes {
					if over *= length.Micrometre; *fresh.High+over+row.Target >= r.Value.At {
						row.Oversize = max(row.Oversize, over)
						break
					}
				}
			}
		}
		if limit.Source == "general table" {
			row.Note = "by the general table: the sheet has no limit"
		}
		out = append(out, row)
	}
	return out, nil
}

// SpringRow is one spring: its loads, its coil clearance and the shim to the load aimed at.
type SpringRow struct {
	ID     string
	Role   layout.Role
	Seat   judge.Feature
	Height *length.Length
	Lift   length.Length
	Out    *valvetrain.SpringOutput
	In     valvetrain.SpringInput
	Why    string
}

// Springs works out every spring. Rate needs the loads at two lengths; where only the one on
// the seat was read, the row shows that alone.
func (s *Shop) Springs(ctx context.Context, f *File) ([]SpringRow, error) {
	p, err := s.planner(s.st.Read(ctx), f)
	if err != nil {
		return nil, err
	}
	var out []SpringRow
	for _, v := range f.Layout.Valves {
		j, _ := f.Now.Position(v.ID)
		row := SpringRow{ID: v.ID, Role: v.Role, Height: f.Mean("spring.height", v.ID, ""), Lift: p.give("given.lift", string(v.Role), 0)}
		row.Seat, _ = j.Feature("spring.load_seat")
		seat, open := f.Mean("spring.load_seat", v.ID, ""), f.Mean("spring.load_open", v.ID, "")
		solid := p.give("given.spring_solid", string(v.Role), 0)
		switch {
		case seat == nil:
			row.Why = "its load was not read"
		case row.Height == nil || row.Lift == 0:
			row.Why = "its installed height or the lift is not known"
		case open == nil:
			row.Why = "the load when open was not read: no rate"
		default:
			newton := func(l length.Length) *big.Rat { return big.NewRat(int64(l), int64(judge.Newton.Size)) }
			row.In = valvetrain.SpringInput{Readings: []valvetrain.SpringReading{{Length: *row.Height, Load: newton(*seat)}, {Length: *row.Height - row.Lift, Load: newton(*open)}}, Installed: *row.Height, Lift: row.Lift, Solid: max(solid, length.Nanometre)}
			if t, ok := p.sheet.Give("given.target_load", string(v.Role)); ok {
				row.In.TargetSeat = newton(t)
			}
			if res, err := valvetrain.Spring(row.In); err != nil {
				row.Why = err.Error()
			} else {
				row.Out = &res
			}
		}
		out = append(out, row)
	}
	return out, nil
}

// FitForm is the question of an interference fit at temperatures, as typed.
type FitForm struct{ Hole, Part, PartMaterial, HoleTemp, PartTemp string }

// Fit works out a guide or an insert in the head's own metal.
func (f *File) Fit(q FitForm) (seating.FitOutput, error) {
	errs := formErrors{}
	in := seating.FitInput{HoleMaterial: f.Model.Material, PartMaterial: q.PartMaterial}
	in.Hole = errs.length("hole", q.Hole, f.Unit)
	in.Part = errs.length("part", q.Part, f.Unit)
	for _, t := range []struct {
		name, text string
		to         **big.Rat
	}{{"hole_temp", q.HoleTemp, &in.HoleTemp}, {"part_temp", q.PartTemp, &in.PartTemp}} {
		v, err := quantity.Parse(t.text, quantity.Temperature)
		if err != nil {
			if v, err = quantity.Parse(t.text+"C", quantity.Temperature); err != nil {
				errs.Add(t.name, err)
			}
		}
		*t.to = v
	}
	if !slices.Contains(FitMaterials, q.PartMaterial) {
		errs.Addf("part_material", "choose what it is made of")
	}
	if err := errs.Err(); err != nil {
		return seating.FitOutput{}, err
	}
	return seating.Fit(in)
}

// FitMaterials are what guides and inserts are made of.
var FitMaterials = []string{"bronze", "iron", "sinter", "steel", "brass"}
