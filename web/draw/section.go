package draw

import (
	"html/template"
	"math"

	"yatai/core/gauge"
	"yatai/core/length"
)

// Section is one valve in its guide, as read. What was not read is nil.
type Section struct {
	Guide, Stem                              [3]*length.Length // means at top, middle, bottom
	Head                                     length.Length     // valve head diameter, of the layout
	Recession, StemHeight, Margin, SeatWidth *length.Length
	Says                                     map[string]gauge.Verdict // by characteristic
	Unit                                     length.Unit
}

// Of the section: where things stand in the picture, in its units. Heights above the
// port are not known, so only diameters are to scale; wear, recession and margin are
// drawn larger, and the drawing says by how much.
const (
	sectionMid  = 250.0
	sectionFace = 430.0
	sectionPad  = 165.0
	guideTop    = 130.0
	guideBottom = 330.0
	small       = 4.0 // recession and margin are drawn this much larger than diameters
)

// Draw draws the valve, its guide and its seat, with dimension lines for the readings.
func (c Section) Draw() template.HTML {
	var s svg
	k := 180 / math.Max(1, c.Head.Millimetres()) // picture units per millimetre
	stem, wear := c.wear(k)
	s.add(
		`<svg class="section" viewBox="0 0 520 480" role="img" aria-label="cross-section of the valve in its guide; the readings are in the table">`,
	)
	s.add(`<path class="block" d="M70 %.1fH450V%.1fH70Z"/>`, sectionPad, sectionFace)
	c.guide(&s, stem, wear)
	c.valve(&s, k, stem, wear)
	s.add(`<path class="face" d="M40 %.1fH480"/><path class="axis" d="M%.1f 20V470"/>`, sectionFace, sectionMid)
	if c.StemHeight != nil {
		s.dimension(c, "stem.height", 100, sectionPad, 40, c.StemHeight)
	}
	s.add(
		`<text class="note" x="70" y="474">diameters to scale; guide wear %.0f : 1, recession and margin %.0f : 1 against them</text></svg>`,
		wear/k, small,
	)
	return s.html()
}

// wear returns the drawn half width of the stem and the units per millimetre wear is
// drawn with: the widest guide stands 16 units off the stem.
func (c Section) wear(k float64) (stem, wear float64) {
	stem, most := 18.0, 0.0
	if b := c.base(); b > 0 {
		stem = b.Millimetres() / 2 * k
		for _, g := range c.Guide {
			if g != nil {
				most = math.Max(most, (*g-b).Millimetres()/2)
			}
		}
	}
	if most <= 0 {
		return stem, k
	}
	return stem, 16 / most
}

// base is the diameter wear is drawn from: the largest of the stem, or the smallest of
// the guide without one.
func (c Section) base() length.Length {
	var b length.Length
	for _, d := range c.Stem {
		if d != nil {
			b = max(b, *d)
		}
	}
	for _, d := range c.Guide {
		if d != nil && b == 0 {
			b = *d
		}
	}
	return b
}

func guideY(place int) float64 { return guideTop + 15 + float64(place)*(guideBottom-guideTop-30)/2 }

// half is the drawn half width of a diameter, wear enlarged.
func (c Section) half(d *length.Length, stem, wear float64) float64 {
	if d == nil {
		return stem
	}
	return stem + (*d-c.base()).Millimetres()/2*wear
}

func (c Section) guide(s *svg, stem, wear float64) {
	for _, side := range []float64{-1, 1} {
		s.add(`<path class="guide" d="M%.1f %.1f`, sectionMid+side*(stem+34), guideTop)
		s.add(`H%.1f`, sectionMid+side*c.half(c.Guide[0], stem, wear))
		for i := range c.Guide {
			s.add(`L%.1f %.1f`, sectionMid+side*c.half(c.Guide[i], stem, wear), guideY(i))
		}
		s.add(`L%.1f %.1fH%.1fZ"/>`, sectionMid+side*c.half(c.Guide[2], stem, wear), guideBottom,
			sectionMid+side*(stem+34))
	}
	for i, g := range c.Guide {
		if g == nil {
			continue
		}
		y, h := guideY(i), c.half(g, stem, wear)
		s.add(
			`<path class="dim %s" d="M%.1f %.1fH%.1fm-7 -4l7 4l-7 4M%.1f %.1fl7 -4m-7 4l7 4"/>`,
			c.class("guide.clearance"), sectionMid-h, y,
			sectionMid+h, sectionMid-h, y,
		)
		s.add(`<text class="%s" x="%.1f" y="%.1f">%s</text>`, c.class("guide.clearance"), sectionMid+stem+42, y+4,
			c.text(g))
		if d := c.Stem[i]; d != nil {
			s.add(`<text class="note" x="%.1f" y="%.1f">stem %s</text>`, sectionMid+stem+42, y+18, c.text(d))
		}
	}
}

// valve draws stem, head, seat and contact ring.
func (c Section) valve(s *svg, k, stem, wear float64) {
	r := c.Head.Millimetres() / 2 * k
	sunk, margin := 0.0, 1.2*k*small
	if c.Recession != nil {
		sunk = c.Recession.Millimetres() * k * small
	}
	if c.Margin != nil {
		margin = c.Margin.Millimetres() * k * small
	}
	bottom := sectionFace - sunk
	top := bottom - margin
	neck := stem * 0.92
	for _, side := range []float64{-1, 1} {
		s.add(
			`<path class="insert" d="M%.1f %.1fV%.1fH%.1fL%.1f %.1fL%.1f %.1fV%.1fZ"/>`, sectionMid+side*(r+18),
			sectionFace, top-34,
			sectionMid+side*(r-20), sectionMid+side*(r-20), top-20, sectionMid+side*(r+1), top+1, sectionFace,
		)
	}
	s.add(`<path class="valvebody" d="M%.1f %.1fV40H%.1fV%.1f`, sectionMid-neck, guideBottom+10, sectionMid+neck,
		guideBottom+10)
	s.add(`Q%.1f %.1f %.1f %.1fL%.1f %.1fV%.1fH%.1fV%.1f`, sectionMid+neck, top-26, sectionMid+r-24, top-24,
		sectionMid+r, top, bottom, sectionMid-r, top)
	s.add(`L%.1f %.1fQ%.1f %.1f %.1f %.1fZ"/>`, sectionMid-r+24, top-24, sectionMid-neck, top-26,
		sectionMid-neck, guideBottom+10)
	for _, side := range []float64{-1, 1} {
		s.add(`<path class="ring" d="M%.1f %.1fL%.1f %.1f"/>`, sectionMid+side*(r-4), top-4, sectionMid+side*(r-16),
			top-16)
	}
	label := func(code, name string, l *length.Length, x, y, toX, toY float64, anchor string) {
		if l != nil {
			s.add(
				`<path class="dim %s" d="M%.1f %.1fL%.1f %.1f"/><text class="%s" text-anchor="%s" x="%.1f" y="%.1f">%s %s</text>`, c.class(code), x,
				y-4, toX, toY, c.class(code), anchor, x, y, name, c.text(l),
			)
		}
	}
	label("seat.width", "ring", c.SeatWidth, sectionMid+r+34, sectionFace-64, sectionMid+r-8, top-10, "start")
	label("valve.recession", "recession", c.Recession, sectionMid+r-30, sectionFace+24, sectionMid+r-50,
		bottom+sunk/2, "start")
	label("valve.margin", "margin", c.Margin, sectionMid-r+10, sectionFace+24, sectionMid-r, (top+bottom)/2,
		"end")
}

func (c Section) class(code string) string { return "d-" + c.Says[code].String() }

func (c Section) text(l *length.Length) string { return c.Unit.In(*l, c.Unit.Places()) }

// dimension draws an upright dimension line with its figure.
func (s *svg) dimension(c Section, code string, x, from, to float64, l *length.Length) {
	s.add(
		`<path class="dim %s" d="M%.1f %.1fV%.1fm-4 7l4 -7l4 7M%.1f %.1fm-4 -7l4 7l4 -7M%.1f %.1fH%.1f"/>`,
		c.class(code), x, from, to, x, from,
		x-14, to, sectionMid-20,
	)
	s.add(`<text class="%s" text-anchor="end" x="%.1f" y="%.1f">%s</text>`, c.class(code), x-8, (from+to)/2+4,
		c.text(l))
}
