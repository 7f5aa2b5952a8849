package draw

import (
	"html/template"

	"yatai/core/layout"
)

// FaceToMove draws a face to scale with everything on it that can be moved: each thing says what
// it is and what it is called (data-what, data-name), and the drawing how high it is (data-width).
func FaceToMove(l layout.Layout) template.HTML {
	var s svg
	h := l.Width.Millimetres()
	s.add(
		`<svg class="headmap move" viewBox="-4 -4 %.2f %.2f" role="group" aria-label="the face, to be moved on" data-width="%.3f">`,
		l.Length.Millimetres()+8, h+8, h,
	)
	s.add(`<rect class="casting" x="0" y="0" width="%.2f" height="%.2f" rx="4"/>`, l.Length.Millimetres(), h)
	spot := func(what, class string, sp layout.Spot) {
		s.add(
			`<circle class="%s" data-what="%s" data-name="%s" tabindex="0" role="button" aria-label="%s %s" cx="%.3f" cy="%.3f" r="%.3f"/>`,
			class, what, sp.Name, what, sp.Name, sp.X.Millimetres(), h-sp.Y.Millimetres(),
			max(1, sp.D.Millimetres()/2),
		)
	}
	for _, c := range l.Chambers {
		spot("chamber", "chamber", c)
	}
	for _, c := range l.Water {
		spot("water", "water", c)
	}
	for _, c := range l.Bolts {
		spot("bolt", "bolt", c)
	}
	for _, v := range l.Valves {
		spot("valve", "valve "+string(v.Role), layout.Spot{Name: v.ID, X: v.X, Y: v.Y, D: v.Head})
		s.add(
			`<text class="cyl" text-anchor="middle" pointer-events="none" x="%.2f" y="%.2f" font-size="%.2f">%s</text>`, v.X.Millimetres(),
			h-v.Y.Millimetres()+v.Head.Millimetres()*0.1, v.Head.Millimetres()*0.28, v.ID,
		)
	}
	for _, c := range l.Plugs {
		spot("plug", "plug", c)
	}
	for _, c := range l.Injectors {
		spot("injector", "injector", c)
	}
	s.WriteString(`</svg>`)
	return s.html()
}
