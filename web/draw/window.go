package draw

import (
	"html/template"
	"math"

	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/quantity"
)

// Window draws where a feature lies between its limits: limits as posts, the near zone
// hatched, the reading as a bar with its doubt as whiskers. Without a limit or a reading
// it is an empty line.
func Window(f judge.Feature) template.HTML {
	const w, mid = 132.0, 13.0
	var s svg
	s.add(`<svg class="window" viewBox="0 0 %.0f 26" role="img" aria-label="%s">`, w, f.Verdict.Label())
	s.add(`<path class="scale" d="M0 %.0fH%.0f"/>`, mid, w)
	if f.Limit != nil && (f.Limit.Low != nil || f.Limit.High != nil) {
		from, to := span(f)
		at := func(l quantity.Amount) float64 {
			x := (l.Float() - from) / (to - from) * w
			return math.Min(w-3, math.Max(3, x))
		}
		if f.Limit.Low != nil {
			s.hatch(at(*f.Limit.Low), at(*f.Limit.Low+f.Limit.Near), mid)
			s.add(`<path class="post" d="M%.2f 3V23"/>`, at(*f.Limit.Low))
		}
		if f.Limit.High != nil {
			s.hatch(at(*f.Limit.High-f.Limit.Near), at(*f.Limit.High), mid)
			s.add(`<path class="post" d="M%.2f 3V23"/>`, at(*f.Limit.High))
		}
		if len(f.From) > 0 {
			class := "m-" + f.Verdict.String()
			u := f.U
			if f.Bracket {
				u = 0
			}
			lo, hi := at(f.Low-u), at(f.High+u)
			s.add(`<path class="whisker %s" d="M%.2f %.0fH%.2fM%.2f 9V17M%.2f 9V17"/>`, class, lo, mid, hi, lo, hi)
			a, b := at(f.Low), at(f.High)
			s.add(`<rect class="mark %s" x="%.2f" y="7" width="%.2f" height="12"/>`, class, a-1.5, math.Max(3, b-a+3))
		}
	}
	s.WriteString(`</svg>`)
	return s.html()
}

// span returns the ends of the window's scale in base units: the limits with room on
// both sides, or round a single limit as far as the reading needs.
func span(f judge.Feature) (from, to float64) {
	lim := f.Limit
	if lim.Low != nil && lim.High != nil {
		lo, hi := lim.Low.Float(), lim.High.Float()
		room := (hi-lo)/2 + 1e-6
		return lo - room, hi + room
	}
	post := lim.Low
	if post == nil {
		post = lim.High
	}
	p := post.Float()
	reach := math.Max(4*lim.Near.Float(), math.Abs(p)*0.1)
	reach = math.Max(reach, 0.01)
	if len(f.From) > 0 {
		far := math.Max(math.Abs(f.Low.Float()-p), math.Abs(f.High.Float()-p))
		reach = math.Max(reach, math.Min(far*1.2, reach*6))
	}
	return p - reach, p + reach
}

func (s *svg) hatch(a, b, mid float64) {
	for x := a; x < b-1; x += 3 {
		s.add(`<path class="near" d="M%.2f %.2fl3 -5"/>`, x, mid+6)
	}
}

// Judged collects the worst verdict per position for a map.
func Judged(j judge.Judgement) map[string]gauge.Verdict {
	out := map[string]gauge.Verdict{}
	for _, p := range j.Positions {
		out[p.ID] = p.Worst
	}
	return out
}
