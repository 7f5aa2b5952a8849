package judge

import (
	"fmt"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/surface"
	"yatai/core/trade"
)

// lineWords name the directions of straightedge lines.
var lineWords = []struct{ kind, word string }{
	{"long", "lengthwise"}, {"cross", "crosswise"}, {"diagonal", "diagonal"},
}

// own judges what belongs to the head itself: face lines by direction, thickness, what is
// read per cylinder, journal, pair or once, and the spreads.
func (s *judging) own() []Feature {
	var out []Feature
	for _, dir := range lineWords {
		f := s.blank(trade.FaceLine, "", dir.kind)
		f.Label = "Face, " + dir.word
		var rs []head.Reading
		for _, l := range s.h.Model.Layout.Lines {
			if l.Kind == dir.kind {
				rs = append(rs, s.h.Reads(trade.FaceLine.Code, l.Name)...)
			}
		}
		s.judge(&f, rs)
		s.hold(&f)
		out = append(out, f)
	}
	all := s.sheet.Characteristics()
	for i := range all {
		c := &all[i]
		if !c.Exists(s.h.Model.Kind) || c.Where == trade.AtLine || c.Where == trade.AtPosition && c.Of == nil {
			continue
		}
		switch {
		case c.Of != nil:
			out = append(out, s.spreads(c)...)
		case c.Code == trade.Thickness.Code:
			out = append(out, s.thickness(c))
		case c.Code == trade.FaceFlatness.Code:
			if f := s.blank(c, "", ""); f.Limit != nil {
				s.flatness(&f)
				s.hold(&f)
				out = append(out, f)
			}
		case c.NoLimit:
		default:
			out = append(out, s.places(c)...)
		}
	}
	return out
}

// places judges what is read per cylinder, journal or pair, each by itself, or once.
func (s *judging) places(c *trade.Characteristic) []Feature {
	var out []Feature
	for _, name := range c.Positions(s.h.Model.Layout) {
		f := s.blank(c, name, "")
		s.work(c, &f)
		if f.Limit == nil && len(f.From) == 0 {
			continue
		}
		if c.Where == trade.AtHead {
			f.Position = ""
		}
		out = append(out, f)
	}
	return out
}

// thickness judges the casting's thickness by its thinnest place.
func (s *judging) thickness(c *trade.Characteristic) Feature {
	f := s.blank(c, "", "")
	f.Label = "Thickness, least"
	var rs []head.Reading
	for _, name := range c.Positions(s.h.Model.Layout) {
		rs = append(rs, s.h.Reads(c.Code, name)...)
	}
	s.judge(&f, rs)
	if len(rs) > 1 {
		f.Note = fmt.Sprintf("largest less smallest %s", f.in(s.h.Unit).Text(f.High-f.Low))
	}
	s.hold(&f)
	return f
}

// spreads judges the largest less the smallest of a row: of each role, where it is read at
// the valves.
func (s *judging) spreads(c *trade.Characteristic) []Feature {
	roles := []string{""}
	if c.Where == trade.AtPosition {
		roles = []string{string(layout.Intake), string(layout.Exhaust)}
	}
	var out []Feature
	for _, role := range roles {
		f := s.blank(c, "", role)
		if f.Limit == nil {
			continue
		}
		var row []head.Reading
		for _, name := range c.Positions(s.h.Model.Layout) {
			if role == "" || string(s.h.Role(name)) == role {
				row = append(row, s.h.Reads(c.Of.Code, name)...)
			}
		}
		if len(row) > 1 {
			s.spread(&f, row)
		}
		s.hold(&f)
		out = append(out, f)
	}
	return out
}

// spread judges the largest less the smallest of a row.
func (s *judging) spread(f *Feature, row []head.Reading) {
	lo, hi := row[0].Value.At, row[0].Value.At
	var u quantity.Amount
	var from []uint
	for _, r := range row {
		lo, hi, u = min(lo, r.Value.At), max(hi, r.Value.At), max(u, r.U)
		from = append(from, r.ID)
	}
	s.judge(f, []head.Reading{{Value: gauge.Exact(hi - lo), U: length.RSS(u, u)}})
	f.From, f.At = from, ""
}

// Grid is the face's heights that stand, with their places, in the grid's order.
func Grid(h *head.Head) (in surface.FlatnessInput, from []uint, u quantity.Amount) {
	for _, g := range h.Model.Layout.Grid() {
		for _, r := range h.Reads(trade.FaceGrid.Code, g.Name) {
			in.Points = append(in.Points, surface.Point{X: g.X, Y: g.Y, Z: r.Value.At.Length()})
			from = append(from, r.ID)
			u = max(u, r.U)
		}
	}
	return in, from, u
}

// flatness judges the minimum zone of the face's grid.
func (s *judging) flatness(f *Feature) {
	in, from, u := Grid(s.h)
	out, err := surface.Flatness(in)
	if err != nil {
		return
	}
	s.judge(f, []head.Reading{{Value: gauge.Exact(quantity.OfLength(out.Zone)), U: length.RSS(u, u)}})
	f.From, f.At = from, ""
	f.Note = fmt.Sprintf("level on its datum it needs %s, tilted to the best plane %s",
		s.h.Unit.Text(out.CutLevel), s.h.Unit.Text(out.CutBest))
}
