package draw

import (
	"html/template"
	"math"
)

// Worn is a figure over the hours its head has run, as it is drawn: what was read at each visit, the limit it
// nears, and where it goes from now.
type Worn struct {
	Alt    string
	Read   []WornAt // the oldest first; the last is now
	Limit  *float64
	Early  float64 // hours from now until the limit is passed, one in ten earlier; +Inf for never
	Late   float64
	Slopes [2]float64                 // change per hour, eight of ten between them
	Write  func(value float64) string // of a figure
	Hours  func(hours float64) string
}

// WornAt is a reading at so many hours, with its standard uncertainty. Left is true of what it left with:
// the wear begins again from there.
type WornAt struct {
	Hours, Value, SD float64
	Left             bool
}

// Wear draws it: whiskers of two standard uncertainties, lines between what a head left with and came back
// with, and a fan of what eight of ten would do, to the limit.
func Wear(w Worn) template.HTML {
	if len(w.Read) == 0 {
		return ""
	}
	first, now := w.Read[0], w.Read[len(w.Read)-1]
	ahead := now.Hours - first.Hours
	if w.Limit != nil && !math.IsInf(w.Early, 1) {
		ahead = min(max(ahead/4, 1.15*min(w.Late, 1.6*w.Early)), 3*max(ahead, 1))
	}
	low, high := math.Inf(1), math.Inf(-1)
	for _, p := range w.Read {
		low, high = min(low, p.Value-2*p.SD), max(high, p.Value+2*p.SD)
	}
	if w.Limit != nil {
		low, high = min(low, *w.Limit), max(high, *w.Limit)
	}
	if low == high {
		low, high = low-1, high+1
	}
	low, high = low-(high-low)*0.08, high+(high-low)*0.08
	end := now.Hours + ahead
	x := func(hours float64) float64 { return 40 + 400*(hours-first.Hours)/max(1, end-first.Hours) }
	y := func(v float64) float64 { return 12 + 150*(high-min(high, max(low, v)))/(high-low) }
	var s svg
	s.add(`<svg class="zerochart wear" viewBox="0 0 560 200" role="img" aria-label="%s">`, w.Alt)
	if ahead > 0 {
		s.add(`<path class="band" d="M%.1f %.1f`, x(now.Hours), y(now.Value))
		const steps = 12
		for i := range steps + 1 {
			h := ahead * float64(i) / steps
			s.add(`L%.1f %.1f`, x(now.Hours+h), y(now.Value+2*now.SD*0.64+w.Slopes[1]*h))
		}
		for i := steps; i >= 0; i-- {
			h := ahead * float64(i) / steps
			s.add(`L%.1f %.1f`, x(now.Hours+h), y(now.Value-2*now.SD*0.64+w.Slopes[0]*h))
		}
		s.add(`Z"/>`)
	}
	s.add(`<path class="dim" d="M12 164H448"/><path class="dim" d="M%.1f 12V164"/>`, x(now.Hours))
	if w.Limit != nil {
		s.add(`<path class="limit" stroke-dasharray="6 4" d="M12 %.1fH448"/>`, y(*w.Limit))
		s.add(`<text x="454" y="%.1f">%s</text>`, y(*w.Limit)+4, w.Write(*w.Limit))
		if from, to := now.Hours+w.Early, now.Hours+min(w.Late, ahead); from < end {
			s.add(`<path class="limit" stroke-width="5" d="M%.1f %.1fH%.1f"/>`, x(from), y(*w.Limit), x(min(to, end)))
		}
	}
	written := math.Inf(-1) // where hours were written last
	for i, p := range w.Read {
		if i > 0 && w.Read[i-1].Left {
			s.add(`<path class="line" d="M%.1f %.1fL%.1f %.1f"/>`,
				x(w.Read[i-1].Hours), y(w.Read[i-1].Value), x(p.Hours), y(p.Value))
		}
		s.add(`<path class="line" d="M%.1f %.1fV%.1f"/>`, x(p.Hours), y(p.Value+2*p.SD), y(p.Value-2*p.SD))
		s.add(`<circle class="point" cx="%.1f" cy="%.1f" r="3.5"/>`, x(p.Hours), y(p.Value))
		if at := x(p.Hours); !p.Left && at-written > 52 {
			written = at
			s.add(`<text x="%.1f" y="182" text-anchor="middle">%s</text>`, x(p.Hours), w.Hours(p.Hours))
		}
	}
	if w.Limit == nil || math.Abs(y(now.Value)-y(*w.Limit)) > 14 {
		s.add(`<text x="454" y="%.1f">%s</text>`, y(now.Value)+4, w.Write(now.Value))
	}
	s.add(`</svg>`)
	return s.html()
}
