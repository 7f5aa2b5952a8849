package draw

import (
	"fmt"
	"html/template"
	"math"

	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/surface"
)

// Relief draws the face's heights as a relief seen from above: bands of equal height with
// contour lines between them, the points that were read, and, when level is not nil, what
// cleans up when the face is cut down to it.
func Relief(l layout.Layout, in surface.FlatnessInput, level *length.Length, u length.Unit) template.HTML {
	var s svg
	h := l.Width.Millimetres()
	s.add(
		`<svg class="relief" viewBox="-22 -12 %.1f %.1f" role="img" aria-label="heights of the face; the figures are in the table">`,
		l.Length.Millimetres()+44, h+44,
	)
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, p := range in.Points {
		lo, hi = math.Min(lo, p.Z.Millimetres()), math.Max(hi, p.Z.Millimetres())
	}
	if len(in.Points) < 4 {
		s.add(`<rect class="casting" x="0" y="0" width="%.1f" height="%.1f"/></svg>`, l.Length.Millimetres(), h)
		return s.html()
	}
	z := interpolate(in.Points)
	const bands, cell = 8, 6.0
	step := math.Max((hi-lo)/bands, 1e-6)
	nx, ny := int(math.Ceil(l.Length.Millimetres()/cell)), int(math.Ceil(h/cell))
	for i := range nx {
		for k := range ny {
			x, y := (float64(i)+0.5)*cell, (float64(k)+0.5)*cell
			v := z(x, y)
			band := int(math.Min(bands-1, math.Max(0, (v-lo)/step)))
			class := fmt.Sprintf("b%d", band)
			if level != nil && v <= level.Millimetres() {
				class += " stays"
			}
			s.add(
				`<rect class="%s" x="%.1f" y="%.1f" width="%.1f" height="%.1f"/>`, class, x-cell/2,
				math.Max(0, h-y-cell/2),
				math.Min(cell, l.Length.Millimetres()-x+cell/2)+0.3, h-y+cell/2-math.Max(0, h-y-cell/2)+0.3,
			)
		}
	}
	for b := 1; b < bands; b++ {
		s.contour(z, lo+float64(b)*step, l.Length.Millimetres(), h, 5)
	}
	for _, c := range l.Chambers {
		s.add(`<circle class="chamber" cx="%.1f" cy="%.1f" r="%.1f"/>`, c.X.Millimetres(), h-c.Y.Millimetres(),
			c.D.Millimetres()/2)
	}
	for i, p := range in.Points {
		s.add(
			`<circle class="pt" cx="%.1f" cy="%.1f" r="2"/><text text-anchor="middle" x="%.1f" y="%.1f">%s</text>`,
			p.X.Millimetres(),
			h-p.Y.Millimetres(), p.X.Millimetres(), h-p.Y.Millimetres()-4+float64(i%2)*13, u.In(p.Z, u.Places()),
		)
	}
	s.add(`<rect class="casting" x="0" y="0" width="%.1f" height="%.1f" rx="4"/>`, l.Length.Millimetres(), h)
	for b := range bands {
		s.add(`<rect class="b%d" x="%.1f" y="%.1f" width="22" height="9"/>`, b, float64(b)*22, h+8)
	}
	s.add(
		`<text x="0" y="%.1f">%s</text><text x="%.1f" y="%.1f">%s %s, proud</text></svg>`, h+26,
		u.In(length.FromFloat(lo*1e6), u.Places()),
		22.0*bands-18, h+26, u.In(length.FromFloat(hi*1e6), u.Places()), u.Name,
	)
	return s.html()
}

// interpolate returns heights between the points, weighted by the inverse square of how far
// they are: for the eye only, never for a figure.
func interpolate(points []surface.Point) func(x, y float64) float64 {
	return func(x, y float64) float64 {
		var sum, weight float64
		for _, p := range points {
			d := (p.X.Millimetres()-x)*(p.X.Millimetres()-x) + (p.Y.Millimetres()-y)*(p.Y.Millimetres()-y)
			w := 1 / (d*d + 400)
			sum, weight = sum+w*p.Z.Millimetres(), weight+w
		}
		return sum / weight
	}
}

// contour draws the line of one height by marching squares.
func (s *svg) contour(z func(x, y float64) float64, at, w, h, cell float64) {
	s.WriteString(`<path class="contour" d="`)
	for x := 0.0; x < w; x += cell {
		for y := 0.0; y < h; y += cell {
			x2, y2 := math.Min(x+cell, w), math.Min(y+cell, h)
			corner := [4][3]float64{{x, y, z(x, y)}, {x2, y, z(x2, y)}, {x2, y2, z(x2, y2)}, {x, y2, z(x, y2)}}
			var cut [][2]float64
			for i := range 4 {
				a, b := corner[i], corner[(i+1)%4]
				if (a[2] < at) != (b[2] < at) {
					t := (at - a[2]) / (b[2] - a[2])
					cut = append(cut, [2]float64{a[0] + t*(b[0]-a[0]), a[1] + t*(b[1]-a[1])})
				}
			}
			if len(cut) >= 2 {
				fmt.Fprintf(s, "M%.1f %.1fL%.1f %.1f", cut[0][0], h-cut[0][1], cut[1][0], h-cut[1][1])
			}
		}
	}
	s.WriteString(`"/>`)
}
