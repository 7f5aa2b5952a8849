// Package draw makes the drawings of the pages as SVG, from data: the head map, the
// limit window and the verdict shapes. Everything is to scale; what is exaggerated says
// so. Drawings carry classes, and the style sheet gives them their colours, so that
// they print well and need no inline style.
package draw

import (
	"fmt"
	"html/template"
	"strings"

	"yatai/core/gauge"
)

// svg collects SVG elements. Numbers are written with two decimals; text is escaped.
type svg struct{ strings.Builder }

func (s *svg) add(format string, args ...any) {
	for i, a := range args {
		if t, ok := a.(string); ok {
			args[i] = template.HTMLEscapeString(t)
		}
	}
	fmt.Fprintf(s, format, args...)
}

func (s *svg) html() template.HTML {
	return template.HTML(s.String()) //nolint:gosec // built here, text escaped in add
}

// shape draws the verdict's shape around x, y with radius r. Shape comes before colour:
// unread a dotted ring, sound a disc, near a disc with a flat, in doubt a ring with two
// facing ticks, out an open diamond, renew a diamond crossed.
func (s *svg) shape(v gauge.Verdict, x, y, r float64) {
	w := r * 0.28
	switch v {
	case gauge.Sound:
		s.add(`<circle class="v-sound" cx="%.2f" cy="%.2f" r="%.2f"/>`, x, y, r)
	case gauge.Near:
		dx, dy := r*0.8, r*0.6
		s.add(`<path class="v-near" d="M%.2f %.2fA%.2f %.2f 0 1 0 %.2f %.2fZ"/>`, x-dx, y-dy, r, r, x+dx, y-dy)
	case gauge.Doubt:
		s.add(`<circle class="v-doubt" cx="%.2f" cy="%.2f" r="%.2f" stroke-width="%.2f"/>`, x, y, r-w/2, w)
		s.add(`<path class="v-doubt" stroke-width="%.2f" d="M%.2f %.2fh%.2fM%.2f %.2fh%.2f"/>`, w, x-r*0.6, y,
			r*0.42, x+r*0.18, y, r*0.42)
	case gauge.Out, gauge.Renew:
		s.add(`<path class="v-out" stroke-width="%.2f" d="M%.2f %.2fL%.2f %.2fL%.2f %.2fL%.2f %.2fZ"/>`, w, x, y-r,
			x+r, y, x, y+r, x-r, y)
		if v == gauge.Renew {
			s.add(`<path class="v-out" stroke-width="%.2f" d="M%.2f %.2fL%.2f %.2fM%.2f %.2fL%.2f %.2f"/>`, w, x-r/2,
				y-r/2, x+r/2, y+r/2, x+r/2, y-r/2, x-r/2, y+r/2)
		}
	default:
		s.add(
			`<circle class="v-unread" cx="%.2f" cy="%.2f" r="%.2f" stroke-width="%.2f" stroke-dasharray="%.2f %.2f"/>`,
			x, y, r-w/2, w*0.8, w, w*1.1,
		)
	}
}

// Verdict is the verdict's shape as a small picture, with its word for who cannot see it.
func Verdict(v gauge.Verdict, label string) template.HTML {
	var s svg
	s.add(`<svg class="shape" viewBox="0 0 20 20" role="img" aria-label="%s">`, label)
	s.shape(v, 10, 10, 8)
	s.WriteString(`</svg>`)
	return s.html()
}
