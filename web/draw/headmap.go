package draw

import (
	"html/template"

	"headwright/core/gauge"
	"headwright/core/layout"
	"headwright/core/length"
)

// Map says what a head map shows besides the layout.
type Map struct {
	Layout   layout.Layout
	Verdicts map[string]gauge.Verdict // by position
	Lit      string                   // position, line or corner to light
	Link     string                   // address a position leads to, its id appended; may be empty
	Lines    map[string]string        // gap under each straightedge line, as text; nil hides the lines
	LineSays map[string]gauge.Verdict
}

// HeadMap draws the face as it lies on the bench, to scale.
func HeadMap(m Map) template.HTML {
	var s svg
	l := m.Layout
	h := l.Width.Millimetres()
	x := func(v length.Length) float64 { return v.Millimetres() }
	y := func(v length.Length) float64 { return h - v.Millimetres() }
	side, foot := 4.0, 4.0
	role := "img"
	if m.Link != "" {
		role = "group" // its valves are links
	}
	if m.Lines != nil {
		side, foot = 8*lineText(l), 2.2*lineText(l)
	}
	s.add(`<svg class="headmap" viewBox="%.2f -4 %.2f %.2f" role="%s" aria-label="map of the face">`, -side, x(l.Length)+2*side, h+4+foot, role)
	s.add(`<rect class="casting" x="0" y="0" width="%.2f" height="%.2f" rx="4"/>`, x(l.Length), h)
	for _, c := range l.Water {
		s.add(`<ellipse class="water" cx="%.2f" cy="%.2f" rx="%.2f" ry="%.2f"/>`, x(c.X), y(c.Y), x(c.D)/2, x(c.D)*0.75)
	}
	for _, c := range l.Bolts {
		r := x(c.D) / 2
		s.add(`<circle class="bolt" cx="%.2f" cy="%.2f" r="%.2f"/>`, x(c.X), y(c.Y), r)
		s.add(`<path class="centre" d="M%.2f %.2fh%.2fM%.2f %.2fv%.2f"/>`, x(c.X)-r*1.4, y(c.Y), r*2.8, x(c.X), y(c.Y)-r*1.4, r*2.8)
	}
	for _, c := range l.Chambers {
		r := x(c.D) / 2
		s.add(`<circle class="chamber" cx="%.2f" cy="%.2f" r="%.2f"/>`, x(c.X), y(c.Y), r)
		s.add(`<text class="cyl" text-anchor="middle" x="%.2f" y="%.2f" font-size="%.2f">%s</text>`, x(c.X), y(c.Y)-r*0.74, r*0.24, c.Name)
	}
	for _, c := range append(l.Plugs, l.Injectors...) {
		r := x(c.D) / 2
		s.add(`<circle class="bolt" cx="%.2f" cy="%.2f" r="%.2f"/><circle class="bolt" cx="%.2f" cy="%.2f" r="%.2f"/>`, x(c.X), y(c.Y), r, x(c.X), y(c.Y), r*0.45)
	}
	if m.Lines != nil {
		m.lines(&s, x, y)
	}
	for _, v := range l.Valves {
		m.valve(&s, v, x(v.X), y(v.Y), x(v.Head)/2)
	}
	s.WriteString(`</svg>`)
	return s.html()
}

func (m Map) valve(s *svg, v layout.Valve, cx, cy, r float64) {
	if m.Link != "" {
		s.add(`<a href="%s%s" aria-label="%s, %s">`, m.Link, v.ID, v.ID, m.Verdicts[v.ID].Label())
	}
	class := "valve"
	if v.ID == m.Lit {
		class = "valve lit"
	}
	s.add(`<circle class="%s" cx="%.2f" cy="%.2f" r="%.2f" data-position="%s"/>`, class, cx, cy, r, v.ID)
	s.add(`<circle class="margin" cx="%.2f" cy="%.2f" r="%.2f"/>`, cx, cy, r*0.84)
	s.shape(m.Verdicts[v.ID], cx, cy-r*0.16, r*0.34)
	s.add(`<text class="pos" text-anchor="middle" x="%.2f" y="%.2f" font-size="%.2f">%s</text>`, cx, cy+r*0.62, r*0.42, v.ID)
	if m.Link != "" {
		s.WriteString(`</a>`)
	}
}

func (m Map) lines(s *svg, x, y func(length.Length) float64) {
	size := lineText(m.Layout)
	for _, l := range m.Layout.Lines {
		class := "straightedge"
		if l.Name == m.Lit {
			class += " lit"
		}
		if m.LineSays[l.Name] >= gauge.Doubt {
			class += " bad"
		}
		s.add(`<path class="%s" d="M%.2f %.2fL%.2f %.2f"/>`, class, x(l.X1), y(l.Y1), x(l.X2), y(l.Y2))
		label := l.Name
		if gap := m.Lines[l.Name]; gap != "" {
			label += " " + gap
		}
		// long lines are named at the left end, diagonals at the right, cross lines below
		tx, ty, anchor := -3.0, y(l.Y1)+size/3, "end"
		switch l.Kind {
		case "cross":
			tx, ty, anchor = x(l.X1), m.Layout.Width.Millimetres()+size*1.4, "middle"
		case "diagonal":
			tx, ty, anchor = x(m.Layout.Length)+3, y(l.Y2)+size/3, "start"
		}
		s.add(`<text class="linename" text-anchor="%s" x="%.2f" y="%.2f" font-size="%.2f">%s</text>`, anchor, tx, ty, size, label)
	}
	for _, c := range m.Layout.Corners {
		if c.Name == m.Lit {
			s.add(`<circle class="straightedge lit" cx="%.2f" cy="%.2f" r="5"/>`, x(c.X), y(c.Y))
		}
	}
}

// lineText is the size of the lines' names, millimetres.
func lineText(l layout.Layout) float64 { return min(9, l.Length.Millimetres()/55) }
