package lead

import (
	"context"
	"fmt"
	"math"
	"math/big"

	"yatai/core/after"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/quantity"
	"yatai/core/surface"
	"yatai/core/trade"
	"yatai/core/valvetrain"
	"yatai/shop"
	"yatai/shop/headfile"
)

// FacePage is the face: what was read, its form, and what a cut would leave.
type FacePage struct {
	Need    judge.FaceNeed
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
	Limit  *head.Limit
}

// Face works out the face with a cut, or with the least that cleans it up when cut is nil.
func Face(ctx context.Context, s *shop.Shop, f *headfile.File, cut *length.Length) (FacePage, error) {
	h := f.Subject
	allow, _, _ := h.Size(trade.FaceAllow, "")
	page := FacePage{Need: f.Now.FaceNeed()}
	page.Grid, _, _ = judge.Grid(h)
	page.Grid.Allowance = allow
	if out, err := surface.Flatness(page.Grid); err == nil {
		page.Flat = &out
		if form, ok := surface.FormOf(page.Grid.Points); ok {
			page.Form = form.Says(10*length.Micrometre, f.In())
		}
	}
	var lines surface.WarpInput
	lines.Allowance = allow
	for _, l := range f.Layout.Lines {
		for _, r := range f.Counting(trade.FaceLine.Code, l.Name) {
			lines.Lines = append(lines.Lines, surface.Line{
				Name: l.Name, Kind: l.Kind, Go: r.Value.Go.Length(), NoGo: r.Value.NoGo.Length(),
			})
		}
	}
	for kind, to := range map[string]**length.Length{
		"long": &lines.Limits.Long, "cross": &lines.Limits.Cross, "diagonal": &lines.Limits.Diagonal,
	} {
		if l := h.Limit(trade.FaceLine.Code, kind); l != nil {
			_, *to = l.Lengths()
		}
	}
	if out, err := surface.Warp(lines); err == nil {
		page.Warp = &out
	}
	p, err := plan.Judged(ctx, h, f.Now, head.Ask{})
	if err != nil {
		return page, err
	}
	page.Offers, _ = offers(p)
	page.Cut = page.Need.Cut
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
		for _, r := range f.Counting(trade.Thickness.Code, c.Name) {
			page.Corners = append(page.Corners, Corner{
				c.Name, r.Value.At.Length(), r.Value.At.Length() - page.Cut, h.Limit(trade.Thickness.Code, ""),
			})
		}
	}
	return page, nil
}

// SeatRow is one seat's ring now and wanted, with the cuts between.
type SeatRow struct {
	judge.SeatRing
	Angle string // what the valve's face is ground to
}

// Seats works out every seat's cuts for a ring of width want (the limit's middle when nil)
// with its outer edge inset from the valve's edge.
func Seats(s *shop.Shop, f *headfile.File, width, inset *length.Length) []SeatRow {
	var out []SeatRow
	for _, v := range f.Layout.Valves {
		row := SeatRow{SeatRing: judge.Ring(f.Subject, v, width, inset)}
		if row.Out != nil {
			row.Angle = row.In.Angle.String() + ", as the seat"
			if f.Subject.Setting("school.angle") == "interference" {
				half := new(big.Rat).Sub(row.In.Angle.Rat(), big.NewRat(1, 2))
				row.Angle = half.FloatString(1) + " deg: contact at the outer edge, not to be lapped away"
			}
		}
		out = append(out, row)
	}
	return out
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
	// over a new stem: the least that cleans the worn bore up by reaming; 0 when not known
	Oversize length.Length
	Note     string
}

// oversizes are the steps oversize stems come in.
var oversizes = []length.Length{100, 200, 300, 400, 500}

// Guides works out the bore to make for every guide, for the stem that is fitted and the
// clearance the shop's school aims at.
func Guides(s *shop.Shop, f *headfile.File) []GuideRow {
	var out []GuideRow
	for _, v := range f.Layout.Valves {
		j, _ := f.Now.Position(v.ID)
		x, _ := j.Feature(trade.GuideClearance.Code)
		row := GuideRow{ID: v.ID, Feature: x}
		stems := f.Counting(trade.Stem.Code, v.ID)
		for _, r := range stems {
			row.Stem = max(row.Stem, r.Value.At.Length())
			row.New = row.New || r.Stage != headfile.AsReceived
		}
		aim := after.Aim(f.Subject, v)
		switch {
		case len(stems) == 0:
			row.Note = "measure the stem that goes in first"
		case aim == nil || x.Limit == nil || x.Limit.Low == nil || x.Limit.High == nil:
			row.Note = "no limit for its clearance"
		default:
			row.Target = *aim
			row.Bore, row.BoreLow, row.BoreHigh = row.Stem+
				row.Target, row.Stem+x.Limit.Low.Length(), row.Stem+x.Limit.High.Length()
			row.Oversize = oversize(f, v, x, row.Target)
			if f.Subject.Limit(trade.GuideClearance.Code, string(v.Role)) == nil {
				row.Note = "by the general table: the sheet has no limit"
			}
		}
		out = append(out, row)
	}
	return out
}

// oversize is the least oversize of a stem with which reaming cleans a worn bore up, 0 when
// that is not known.
func oversize(f *headfile.File, v layout.Valve, x judge.Feature, target length.Length) length.Length {
	fresh := f.Subject.Sheet.LimitOf(head.New, trade.Stem.Code, string(v.Role))
	if fresh == nil || fresh.High == nil || x.Verdict < gauge.Out || x.Side != trade.High {
		return 0
	}
	var least length.Length
	for _, r := range f.Counting(trade.GuideBore.Code, v.ID) {
		for _, over := range oversizes {
			if over *= length.Micrometre; fresh.High.Length()+over+target >= r.Value.At.Length() {
				least = max(least, over)
				break
			}
		}
	}
	return least
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
func Springs(s *shop.Shop, f *headfile.File) []SpringRow {
	give := func(x *trade.Figure, v layout.Valve) length.Length {
		l, _, _ := f.Subject.Size(x, v.Role)
		return l
	}
	var out []SpringRow
	for _, v := range f.Layout.Valves {
		j, _ := f.Now.Position(v.ID)
		row := SpringRow{
			ID: v.ID, Role: v.Role, Height: quantity.AsLength(f.Mean("spring.height", v.ID, "")),
			Lift: give(trade.Lift, v),
		}
		row.Seat, _ = j.Feature("spring.load_seat")
		seat, open := f.Mean("spring.load_seat", v.ID, ""), f.Mean("spring.load_open", v.ID, "")
		solid := give(trade.SpringSolid, v)
		switch {
		case seat == nil:
			row.Why = "its load was not read"
		case row.Height == nil || row.Lift == 0:
			row.Why = "its installed height or the lift is not known"
		case open == nil:
			row.Why = "the load when open was not read: no rate"
		default:
			row.In = valvetrain.SpringInput{
				Readings: []valvetrain.SpringReading{{Length: *row.Height, Load: seat.Newtons()}, {
					Length: *row.Height - row.Lift, Load: open.Newtons(),
				}},
				Installed: *row.Height, Lift: row.Lift, Solid: max(solid, length.Nanometre),
			}
			if t, _, _ := f.Subject.Figure(trade.TargetLoad, v.Role); t > 0 {
				target := t.Newtons()
				row.In.TargetSeat = &target
			}
			if res, err := valvetrain.Spring(row.In); err != nil {
				row.Why = err.Error()
			} else {
				row.Out = &res
			}
		}
		out = append(out, row)
	}
	return out
}

// Supposed is how far inside the valve's edge the ring is taken to lie where nobody read it.
func (r SeatRow) Supposed() length.Length { return judge.InsetNow }

// Tight tells whether the top cut needs more room than is left to the insert's edge.
func (r SeatRow) Tight() bool { return r.Out != nil && r.Room != nil && r.Out.RoomUsed > *r.Room }

// OpenLoad is the spring's load with the valve open, in the unit of who reads lengths in u.
func (r SpringRow) OpenLoad(u length.Unit) string {
	in := trade.Newton.Or(u)
	return in.In(quantity.Amount(math.Round(float64(r.Out.Open)*float64(trade.Newton.Size))), 0) + " " + in.Name
}

// Rate is how much stiffer the spring gets: newtons a millimetre, or pounds-force an inch.
func (r SpringRow) Rate(u length.Unit) string {
	in, per := trade.Newton.Or(u), u
	if u != length.In {
		per = length.MM
	}
	each := float64(r.Out.Rate) * float64(trade.Newton.Size) / float64(in.Size) *
		float64(per.Size) / float64(length.Millimetre)
	return fmt.Sprintf("%.1f %s/%s", each, in.Name, per.Name)
}
