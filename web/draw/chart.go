package draw

import (
	"html/template"
	"slices"

	"yatai/core/gauge"
	"yatai/core/quantity"
)

// ZeroChart draws a tool's zero checks in the order they were made: between which they lie while nothing
// changes, the tolerance either way where there is one, and what is a sign as a filled diamond. alt says in
// words what is seen; write writes a figure.
func ZeroChart(
	c gauge.Chart, tolerance quantity.Amount, alt string, write func(quantity.Amount) string,
) template.HTML {
	low, high := min(c.Low, -tolerance, slices.Min(c.Values)), max(c.High, tolerance, slices.Max(c.Values))
	if low == high {
		low, high = low-1, high+1
	}
	y := func(a quantity.Amount) float64 { return 20 + 160*float64(high-a)/float64(high-low) }
	x := func(i int) float64 { return 20 + 420*float64(i)/float64(max(1, len(c.Values)-1)) }
	var s svg
	s.add(`<svg class="zerochart" viewBox="0 0 560 200" role="img" aria-label="%s">`, alt)
	s.add(`<rect class="band" x="12" y="%.1f" width="436" height="%.1f"/>`, y(c.High), y(c.Low)-y(c.High))
	s.add(`<path class="dim" d="M12 %.1fH448"/>`, y(0))
	s.add(`<text x="454" y="%.1f">0</text>`, y(0)+4)
	if tolerance > 0 {
		for _, end := range []quantity.Amount{tolerance, -tolerance} {
			s.add(`<path class="limit" stroke-dasharray="6 4" d="M12 %.1fH448"/>`, y(end))
			s.add(`<text x="454" y="%.1f">%s</text>`, y(end)+4, write(end))
		}
	}
	signs := map[int]bool{}
	for _, sign := range c.Signs {
		for _, i := range sign.At {
			signs[i] = true
		}
	}
	for i := range c.Values {
		if i > 0 {
			s.add(`<path class="line" d="M%.1f %.1fL%.1f %.1f"/>`, x(i-1), y(c.Values[i-1]), x(i), y(c.Values[i]))
		}
	}
	for i, v := range c.Values {
		s.point(x(i), y(v), signs[i])
	}
	s.add(`</svg>`)
	return s.html()
}

// point draws a value of a chart: a disc, and a filled diamond where it is a sign.
func (s *svg) point(x, y float64, sign bool) {
	if sign {
		s.add(`<path class="sign" d="M%.1f %.1fl5 5l-5 5l-5 -5Z"/>`, x, y-5)
		return
	}
	s.add(`<circle class="point" cx="%.1f" cy="%.1f" r="3.5"/>`, x, y)
}

// RangeChart draws a study's ranges person after person: between none and the most that chance keeps them
// under, what lies above as a filled diamond. alt says in words what is seen; write writes a figure.
func RangeChart(
	r gauge.Ranges, people []string, alt string, write func(quantity.Amount) string,
) template.HTML {
	high, n := r.Most, 0
	for _, of := range r.Of {
		high, n = max(high, slices.Max(of)), n+len(of)
	}
	if high == 0 {
		high = 1
	}
	y := func(a quantity.Amount) float64 { return 20 + 140*float64(high-a)/float64(high) }
	x := func(i int) float64 { return 20 + 420*float64(i)/float64(max(1, n-1)) }
	var s svg
	s.add(`<svg class="zerochart" viewBox="0 0 560 190" role="img" aria-label="%s">`, alt)
	s.add(`<rect class="band" x="12" y="%.1f" width="436" height="%.1f"/>`, y(r.Most), y(0)-y(r.Most))
	s.add(`<path class="dim" d="M12 %.1fH448"/>`, y(r.Mean))
	s.add(`<text x="454" y="%.1f">%s</text><text x="454" y="%.1f">%s</text>`, y(r.Most)+4, write(r.Most),
		y(r.Mean)+4, write(r.Mean))
	i := 0
	for p, of := range r.Of {
		s.add(`<text x="%.1f" y="184">%s</text>`, x(i), people[p])
		for k, v := range of {
			if k > 0 {
				s.add(`<path class="line" d="M%.1f %.1fL%.1f %.1f"/>`, x(i-1), y(of[k-1]), x(i), y(v))
			}
			s.point(x(i), y(v), slices.Contains(r.Out, gauge.Cell{Person: p, Part: k}))
			i++
		}
	}
	s.add(`</svg>`)
	return s.html()
}
