package draw

import (
	"html/template"
	"math"
	"slices"

	"yatai/core/gauge"
)

// Share draws a part of a whole as a bar beside others: most is the longest whole of its table. alt says in
// words what is seen.
func Share(part, whole, most int, alt string) template.HTML {
	length := func(n int) float64 { return 120 * float64(n) / float64(max(1, most)) }
	var s svg
	s.add(`<svg class="knownbar" viewBox="0 0 120 14" role="img" aria-label="%s">`, alt)
	s.add(`<rect class="whole" x="0" y="3" width="%.1f" height="8"/>`, length(whole))
	s.add(`<rect class="part" x="0" y="3" width="%.1f" height="8"/></svg>`, length(part))
	return s.html()
}

// Against draws what something took as a share of what was planned, between half and twice as much: planned
// is the line in the middle. What lies further stands at its end. alt says in words what is seen.
func Against(share float64, alt string) template.HTML {
	at := func(share float64) float64 { return 60 + 52*math.Log2(min(max(share, 0.5), 2)) }
	var s svg
	s.add(`<svg class="knownbar" viewBox="0 0 120 14" role="img" aria-label="%s">`, alt)
	s.add(`<path class="scale" d="M8 7H112M60 1V13M8 4V10M112 4V10"/>`)
	s.add(`<path class="way" d="M60 7H%.1f"/><circle class="point" cx="%.1f" cy="7" r="3.5"/></svg>`, at(share), at(share))
	return s.html()
}

// Spark draws a tool's zero checks small: between which they lie while nothing changes, and what is a sign.
// alt says in words what is seen.
func Spark(c gauge.Chart, alt string) template.HTML {
	low, high := min(c.Low, slices.Min(c.Values)), max(c.High, slices.Max(c.Values))
	if low == high {
		low, high = low-1, high+1
	}
	x := func(i int) float64 { return 4 + 112*float64(i)/float64(max(1, len(c.Values)-1)) }
	y := func(i int) float64 { return 3 + 24*float64(high-c.Values[i])/float64(high-low) }
	var s svg
	s.add(`<svg class="zerochart spark" viewBox="0 0 120 30" role="img" aria-label="%s">`, alt)
	s.add(`<rect class="band" x="0" y="%.1f" width="120" height="%.1f"/>`,
		3+24*float64(high-c.High)/float64(high-low), 24*float64(c.High-c.Low)/float64(high-low))
	for i := range c.Values {
		if i > 0 {
			s.add(`<path class="line" d="M%.1f %.1fL%.1f %.1f"/>`, x(i-1), y(i-1), x(i), y(i))
		}
	}
	for _, sign := range c.Signs {
		for _, i := range sign.At {
			s.point(x(i), y(i), true)
		}
	}
	s.add(`</svg>`)
	return s.html()
}
