package draw

import (
	"html/template"
	"math"

	"yatai/core/head"
	"yatai/core/length"
)

// Rose draws a guide seen along its axis: at top, middle and bottom an ellipse with the
// size along the sweep (A, left and right) and across it (B, up and down), wear enlarged so
// that the widest stands out by a third. What was read one way only is drawn round.
func Rose(guide []head.Reading, u length.Unit) template.HTML {
	size := map[string]map[string]length.Length{}
	least, most := length.Length(math.MaxInt64), length.Length(0)
	for _, r := range guide {
		if size[r.Spot.Place] == nil {
			size[r.Spot.Place] = map[string]length.Length{}
		}
		size[r.Spot.Place][r.Spot.Dir] = r.Value.At.Length()
		least, most = min(least, r.Value.At.Length()), max(most, r.Value.At.Length())
	}
	const mid, base, room = 80.0, 45.0, 25.0
	var s svg
	s.add(`<svg class="rose" viewBox="0 0 160 172" role="img" aria-label="guide seen along its axis">`)
	s.add(`<path class="axis" d="M4 %.0fH156M%.0f 4V156"/>`, mid, mid)
	at := func(l length.Length) float64 {
		if l == 0 || most == least {
			return base
		}
		return base + room*float64(l-least)/float64(most-least)
	}
	for _, place := range []string{"top", "middle", "bottom"} {
		p := size[place]
		if p == nil {
			continue
		}
		a, b := p["A"], p["B"]
		if a == 0 {
			a = b
		}
		if b == 0 {
			b = a
		}
		s.add(`<ellipse class="r-%s" cx="%.0f" cy="%.0f" rx="%.2f" ry="%.2f"/>`, place, mid, mid, at(a), at(b))
	}
	s.add(
		`<text x="128" y="74">A</text><text x="86" y="14">B</text><text class="note" x="2" y="169">top solid, middle dotted, bottom blue; %s to %s %s</text></svg>`,
		u.In(least, u.Places()), u.In(most, u.Places()), u.Name,
	)
	return s.html()
}
