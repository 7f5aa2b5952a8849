package draw

import (
	"html/template"
	"math"

	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/quantity"
)

// Shift draws a figure before and after between its limits: posts, near zone hatched, the
// figure now as an open mark, an arrow to the one after with its doubt as whiskers.
func Shift(m *plan.Figure, u length.Unit) template.HTML {
	const w, mid = 132.0, 13.0
	var s svg
	if !m.Known {
		return ""
	}
	now, in := m.Now, m.Unit(u)
	if !m.Read {
		now = m.After
	}
	doubt := quantity.Amount(math.Round(2 * m.SD))
	s.add(
		`<svg class="window shift" viewBox="0 0 %.0f 26" role="img" aria-label="%s from %s to %s %s, %s">`, w,
		m.Label, in.In(now, in.Places()),
		in.In(m.After, in.Places()), in.Name, m.Verdict().Label(),
	)
	s.add(`<path class="scale" d="M0 %.0fH%.0f"/>`, mid, w)
	if m.Limit != nil {
		f := judge.Feature{Limit: m.Limit, Low: min(now, m.After), High: max(now, m.After), From: []uint{0}}
		from, to := span(f)
		at := func(l quantity.Amount) float64 {
			return math.Min(w-4, math.Max(4, (l.Float()-from)/(to-from)*w))
		}
		if l := m.Limit.Low; l != nil {
			s.hatch(at(*l), at(*l+m.Limit.Near), mid)
			s.add(`<path class="post" d="M%.2f 3V23"/>`, at(*l))
		}
		if h := m.Limit.High; h != nil {
			s.hatch(at(*h-m.Limit.Near), at(*h), mid)
			s.add(`<path class="post" d="M%.2f 3V23"/>`, at(*h))
		}
		class, a, b := "m-"+m.Verdict().String(), at(now), at(m.After)
		if doubt > 0 {
			lo, hi := at(m.After-doubt), at(m.After+doubt)
			s.add(`<path class="whisker %s" d="M%.2f %.0fH%.2fM%.2f 9V17M%.2f 9V17"/>`, class, lo, mid, hi, lo, hi)
		}
		if math.Abs(a-b) > 2 {
			tip := math.Copysign(4, b-a)
			s.add(
				`<circle class="was" cx="%.2f" cy="%.0f" r="3.4"/><path class="arrow" d="M%.2f %.0fH%.2fM%.2f %.0fl%.1f -3.5M%.2f %.0fl%.1f 3.5"/>`, a,
				mid, a+tip*0.8, mid, b-tip, b-tip*0.9, mid, -tip, b-tip*0.9, mid, -tip,
			)
		}
		if m.Target != nil {
			s.add(`<path class="notch" d="M%.2f 25l-3.5 -5h7z"/>`, at(*m.Target))
		}
		s.add(`<rect class="mark %s" x="%.2f" y="7" width="4" height="12"/>`, class, b-2)
	}
	s.WriteString(`</svg>`)
	return s.html()
}
