package draw

import (
	"cmp"
	"html/template"
	"slices"

	"yatai/core/gauge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/words"
)

// Map says what a head map shows besides the layout.
type Map struct {
	Layout   layout.Layout
	Verdicts map[string]gauge.Verdict // by position
	Lit      string                   // position, line or corner to light
	Link     string                   // address a position leads to, its id appended; may be empty
	Lines    map[string]string        // gap under each straightedge line, as text; nil hides the lines
	LineSays map[string]gauge.Verdict
	Marks    []MapMark
	Suspect  map[string]bool // by position: rests on a reading whose tool failed its zero check
	Cover    bool            // seen from the cover's side: mirrored, valves by their springs
	Tap      bool            // a tap places a mark: the drawing says how far its units reach
	In       *words.Language // that it is said in; nil: English
}

// MapMark is a crack, a leak or the like on the map.
type MapMark struct {
	Name  string // as the list beside the map calls it: "1"
	Grade string
	Says  words.Text // what it is and where
	X, Y  length.Length
}

// HeadMap draws the face as it lies on the bench, to scale.
func HeadMap(m Map) template.HTML {
	var s svg
	l := m.Layout
	if m.Cover {
		l = l.Mirror()
		m.Layout = l
	}
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
	in, tap := cmp.Or(m.In, words.English), ""
	name := in.Say("map of the face")
	if m.Cover {
		name = in.Say("map of the cover's side")
	}
	if m.Tap {
		tap = " tap"
	}
	s.add(
		`<svg class="headmap%s" viewBox="%.2f -4 %.2f %.2f" role="%s" aria-label="%s" data-width="%.3f">`, tap,
		-side, x(l.Length)+2*side,
		h+4+foot, role, name, h,
	)
	m.casting(&s, x, y)
	if m.Lines != nil {
		m.lines(&s, x, y)
	}
	for _, v := range l.Valves {
		r := x(v.Head) / 2
		if m.Cover {
			r *= 0.72 // the spring's retainer
		}
		m.valve(&s, v, x(v.X), y(v.Y), r)
	}
	for _, k := range m.Marks {
		kx := k.X
		if m.Cover {
			kx = l.Length - kx
		}
		s.mark(k, in, x(kx), y(k.Y))
	}
	s.WriteString(`</svg>`)
	return s.html()
}

// casting draws the head without its valves: water, bolts, chambers, plugs and injectors.
func (m Map) casting(s *svg, x, y func(length.Length) float64) {
	l := m.Layout
	s.add(`<rect class="casting" x="0" y="0" width="%.2f" height="%.2f" rx="4"/>`, x(l.Length), x(l.Width))
	for _, c := range l.Water {
		s.add(`<ellipse class="water" cx="%.2f" cy="%.2f" rx="%.2f" ry="%.2f"/>`, x(c.X), y(c.Y), x(c.D)/2,
			x(c.D)*0.75)
	}
	for _, c := range l.Bolts {
		r := x(c.D) / 2
		s.add(`<circle class="bolt" cx="%.2f" cy="%.2f" r="%.2f"/>`, x(c.X), y(c.Y), r)
		s.add(`<path class="centre" d="M%.2f %.2fh%.2fM%.2f %.2fv%.2f"/>`, x(c.X)-r*1.4, y(c.Y), r*2.8, x(c.X),
			y(c.Y)-r*1.4, r*2.8)
	}
	for _, c := range l.Chambers {
		r := x(c.D) / 2
		if m.Cover {
			s.add(`<text class="cyl" text-anchor="middle" x="%.2f" y="%.2f" font-size="%.2f">%s</text>`, x(c.X),
				y(c.Y)-r*0.74, r*0.24, c.Name)
			continue
		}
		s.add(`<circle class="chamber" cx="%.2f" cy="%.2f" r="%.2f"/>`, x(c.X), y(c.Y), r)
		s.add(`<text class="cyl" text-anchor="middle" x="%.2f" y="%.2f" font-size="%.2f">%s</text>`, x(c.X),
			y(c.Y)-r*0.74, r*0.24, c.Name)
	}
	for _, c := range slices.Concat(l.Plugs, l.Injectors) {
		r := x(c.D) / 2
		s.add(
			`<circle class="bolt" cx="%.2f" cy="%.2f" r="%.2f"/><circle class="bolt" cx="%.2f" cy="%.2f" r="%.2f"/>`,
			x(c.X), y(c.Y), r, x(c.X), y(c.Y), r*0.45,
		)
	}
}

func (m Map) valve(s *svg, v layout.Valve, cx, cy, r float64) {
	if m.Link != "" {
		s.add(`<a href="%s%s" aria-label="%s, %s">`, m.Link, v.ID, v.ID,
			cmp.Or(m.In, words.English).Say(m.Verdicts[v.ID].Label()))
	}
	class := "valve"
	if v.ID == m.Lit {
		class = "valve lit"
	}
	s.add(`<circle class="%s" cx="%.2f" cy="%.2f" r="%.2f" data-position="%s"/>`, class, cx, cy, r, v.ID)
	s.add(`<circle class="margin" cx="%.2f" cy="%.2f" r="%.2f"/>`, cx, cy, r*0.84)
	if m.Suspect[v.ID] {
		s.add(
			`<circle class="suspect" cx="%.2f" cy="%.2f" r="%.2f"><title>%s</title></circle>`, cx, cy, r*0.92,
			cmp.Or(m.In, words.English).Say("%s rests on suspect readings", v.ID),
		)
	}
	s.shape(m.Verdicts[v.ID], cx, cy-r*0.16, r*0.34)
	s.add(`<text class="pos" text-anchor="middle" x="%.2f" y="%.2f" font-size="%.2f">%s</text>`, cx, cy+r*0.62,
		r*0.42, v.ID)
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
		s.add(`<text class="linename" text-anchor="%s" x="%.2f" y="%.2f" font-size="%.2f">%s</text>`, anchor, tx,
			ty, size, label)
	}
	for _, c := range m.Layout.Corners {
		if c.Name == m.Lit {
			s.add(`<circle class="straightedge lit" cx="%.2f" cy="%.2f" r="5"/>`, x(c.X), y(c.Y))
		}
	}
}

// lineText is the size of the lines' names, millimetres.
func lineText(l layout.Layout) float64 {
	return min(9, max(l.Length.Millimetres(), 1.6*l.Width.Millimetres())/45)
}

// mark draws a mark, by shape: a crack as a jagged line, a leak as bubbles, the rest as a
// small box, each with its name beside it.
func (s *svg) mark(k MapMark, in *words.Language, x, y float64) {
	s.add(`<g class="mark k-%s"><title>%s</title>`, k.Grade, k.Says.In(in))
	switch k.Grade {
	case "crack":
		s.add(`<path d="M%.2f %.2fl4 4l-4 3l4 4l-3 3"/>`, x-1, y-7)
	case "leak":
		s.add(
			`<circle cx="%.2f" cy="%.2f" r="2.6"/><circle cx="%.2f" cy="%.2f" r="1.8"/><circle cx="%.2f" cy="%.2f" r="1.2"/>`,
			x, y, x+3.5, y-4, x-1.5, y-6,
		)
	case "erosion":
		s.add(`<path d="M%.2f %.2fq3-5 6 0t6 0M%.2f %.2fq3-5 6 0t6 0"/>`, x-6, y-1, x-6, y+4)
	default:
		s.add(`<rect x="%.2f" y="%.2f" width="7" height="7"/>`, x-3.5, y-3.5)
	}
	s.add(
		`<circle class="flag" cx="%.2f" cy="%.2f" r="5"/><text class="markname" text-anchor="middle" x="%.2f" y="%.2f" font-size="7">%s</text></g>`,
		x+10, y-9, x+10, y-6.5, k.Name,
	)
}
