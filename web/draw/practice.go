package draw

import (
	"hash/fnv"
	"html/template"
	"math"
	"math/rand/v2"

	"yatai/core/practice"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// Dial draws a dial that goes round once in a tenth of a millimetre, its needle where the value puts it; alt
// says in words what it shows.
func Dial(at quantity.Amount, alt string) template.HTML {
	const round = quantity.One / 10
	var s svg
	s.add(`<svg class="dial" viewBox="0 0 120 120" role="img" aria-label="%s">`, alt)
	s.add(`<circle class="rim" cx="60" cy="60" r="56"/>`)
	turn := func(share, r float64) (x, y float64) {
		a := 2 * math.Pi * share
		return 60 + r*math.Sin(a), 60 - r*math.Cos(a)
	}
	for i := range 50 {
		from := 50.0
		if i%5 == 0 {
			from = 44
		}
		x1, y1 := turn(float64(i)/50, from)
		x2, y2 := turn(float64(i)/50, 54)
		s.add(`<path class="tick" d="M%.1f %.1fL%.1f %.1f"/>`, x1, y1, x2, y2)
	}
	for i := range 10 {
		x, y := turn(float64(i)/10, 36)
		s.add(`<text x="%.1f" y="%.1f">%d</text>`, x, y+3.5, i*10)
	}
	x, y := turn(float64(((at%round)+round)%round)/float64(round), 48)
	bx, by := turn(float64(((at%round)+round)%round)/float64(round)+0.5, 12)
	s.add(`<path class="needle" d="M%.1f %.1fL%.1f %.1f"/><circle class="hub" cx="60" cy="60" r="4"/></svg>`, bx, by, x, y)
	return s.html()
}

// Hits draws what is heard of a dropped valve: each blow a line as high as it is loud, over half a second.
func Hits(hits []practice.Hit, alt string) template.HTML {
	var s svg
	s.add(`<svg class="dial hits" viewBox="0 0 240 80" role="img" aria-label="%s"><path class="tick" d="M8 70H232"/>`, alt)
	for _, h := range hits {
		x := 12 + 400*h.At
		for k := range 4 { // it rings on a little
			s.add(`<path class="needle" d="M%.1f 70v%.1f"/>`, x+3*float64(k), -60*h.Loud*math.Pow(0.5, float64(k)))
		}
	}
	s.add(`</svg>`)
	return s.html()
}

// seenPart is a part being drawn: in a picture of 200 by 140, its middle at 100, 70.
type seenPart struct {
	*svg
	r *rand.Rand // where pits and lumps lie
}

// Part draws a part as eyes see it, by its code and its grade's. The drawing names neither: who looks has to
// see it. at is where the part is, alt says in words what is drawn.
func Part(code, grade, at, alt string) template.HTML {
	var s svg
	h := fnv.New64a()
	_, _ = h.Write([]byte(code + at))
	p := seenPart{&s, rand.New(rand.NewPCG(h.Sum64(), 7))}
	s.add(`<svg class="seen" viewBox="0 0 200 140" role="img" aria-label="%s">`, alt)
	switch code {
	case trade.FaceSeen.Code:
		p.disc(62, 44, grade)
	case trade.SeatSeen.Code:
		p.seat(grade)
	case trade.StemSeen.Code:
		p.stem(grade)
	case trade.TipSeen.Code:
		p.tip(grade)
	case trade.GuideSeen.Code:
		p.guide(grade)
	case trade.RockerSeen.Code:
		p.rocker(grade)
	case trade.PortSeen.Code:
		p.port(grade)
	}
	s.add(`</svg>`)
	return s.html()
}

// dots strews n dots of up to size over a ring between two radii.
func (p seenPart) dots(n int, in, out, size float64) {
	for range n {
		a, r := p.r.Float64()*2*math.Pi, in+(out-in)*p.r.Float64()
		p.add(`<circle class="pit" cx="%.1f" cy="%.1f" r="%.1f"/>`, 100+r*math.Cos(a), 70+r*math.Sin(a),
			size*(0.5+p.r.Float64()/2))
	}
}

// sector blackens a part of a ring, between two radii.
func (p seenPart) sector(in, out, from, wide float64) {
	x := func(r, a float64) float64 { return 100 + r*math.Cos(a) }
	y := func(r, a float64) float64 { return 70 + r*math.Sin(a) }
	to := from + wide
	p.add(`<path class="burn" d="M%.1f %.1fA%.1f %.1f 0 0 1 %.1f %.1f`,
		x(out, from), y(out, from), out, out, x(out, to), y(out, to))
	p.add(`L%.1f %.1fA%.1f %.1f 0 0 0 %.1f %.1fZ"/>`, x(in, to), y(in, to), in, in, x(in, from), y(in, from))
}

// ray is a crack from one radius to another.
func (p seenPart) ray(in, out float64) {
	a := p.r.Float64() * 2 * math.Pi
	c, s := math.Cos(a), math.Sin(a)
	mid := (in + out) / 2
	p.add(`<path class="crack" d="M%.1f %.1fL%.1f %.1fL%.1f %.1f"/>`, 100+in*c, 70+in*s, 100+mid*c-4*s, 70+mid*s+4*c,
		100+out*c, 70+out*s)
}

// ring draws what is common to a valve's face and a seat: what happens to a ring between two radii.
func (p seenPart) ring(in, out float64, grade string) {
	switch grade {
	case "light_pits":
		p.dots(14, in, out, 1.4)
	case "heavy_pits":
		p.dots(70, in, out, 3)
	case "burnt":
		p.sector(in-3, out+4, p.r.Float64()*6, 0.6)
	case "cracked":
		p.ray(in-8, out+6)
	}
}

// disc is a valve's head from below, its face a ring between two radii.
func (p seenPart) disc(out, in float64, grade string) {
	p.add(`<circle class="metal" cx="100" cy="70" r="%.0f"/><circle class="bright" cx="100" cy="70" r="%.0f"/>`, out+4, out)
	p.add(`<circle class="metal" cx="100" cy="70" r="%.0f"/><circle class="edge" cx="100" cy="70" r="9"/>`, in)
	if grade == "dished" {
		for r := in + 3; r < out; r += 3 {
			p.add(`<circle class="hollow" cx="100" cy="70" r="%.0f"/>`, r)
		}
	}
	p.ring(in, out, grade)
}

// seat is a seat from below, with the valve's ring on it in blue.
func (p seenPart) seat(grade string) {
	p.add(`<circle class="metal" cx="100" cy="70" r="62"/><circle class="bright" cx="100" cy="70" r="56"/>` +
		`<circle class="dark" cx="100" cy="70" r="38"/>`)
	switch grade {
	case "gaps":
		p.add(`<circle class="blued" cx="100" cy="70" r="47" stroke-dasharray="62 14 40 22 70 9"/>`)
	case "sunk":
		p.add(`<circle class="blued wide" cx="100" cy="70" r="47"/><circle class="hollow" cx="100" cy="70" r="55"/>` +
			`<circle class="hollow" cx="100" cy="70" r="52.5"/>`)
	case "loose":
		p.add(`<circle class="blued" cx="100" cy="70" r="47"/><circle class="crack" cx="103" cy="72" r="60"/>`)
	default:
		p.add(`<circle class="blued" cx="100" cy="70" r="47"/>`)
	}
	p.ring(40, 55, grade)
}

// stem is a valve's stem lying down, its head to the right.
func (p seenPart) stem(grade string) {
	body := `M10 58H150Q165 58 186 30V110Q165 82 150 82H10Z`
	if grade == "bent" {
		body = `M10 82Q80 46 150 58Q165 58 186 30V110Q165 82 150 82Q80 70 10 106Z`
	}
	p.add(`<path class="metal" d="%s"/>`, body)
	switch grade {
	case "polished":
		p.add(`<path class="bright" d="M30 58.5H70V81.5H30ZM96 58.5H136V81.5H96Z"/>`)
	case "ridge":
		p.add(`<path class="bright" d="M34 61H132V79H34Z"/><path class="crack" d="M34 57V83M132 57V83"/>`)
	case "transfer":
		for range 9 {
			x, y := 28+100*p.r.Float64(), 60+14*p.r.Float64()
			p.add(`<path class="lump" d="M%.1f %.1fq9 -4 16 0q-3 6 -9 5q-6 1 -7 -5Z"/>`, x, y)
		}
	case "corroded":
		for range 46 {
			p.add(`<circle class="pit" cx="%.1f" cy="%.1f" r="%.1f"/>`, 16+130*p.r.Float64(), 60+20*p.r.Float64(),
				1+2*p.r.Float64())
		}
	}
}

// tip is a stem's tip from above.
func (p seenPart) tip(grade string) {
	if grade == "mushroomed" {
		p.add(`<path class="metal" d="M70 120V60Q48 58 52 40Q100 18 148 40Q152 58 130 60V120Z"/>`)
		return
	}
	p.add(`<circle class="metal" cx="100" cy="70" r="58"/><circle class="edge" cx="100" cy="70" r="52"/>`)
	switch grade {
	case "offcentre":
		p.add(`<ellipse class="bright" cx="132" cy="70" rx="15" ry="30"/><path class="crack" d="M146 44q8 26 0 52"/>`)
	case "dented":
		p.add(`<ellipse class="bright" cx="100" cy="70" rx="13" ry="34"/>`)
		for range 8 {
			p.add(`<circle class="burn" cx="%.1f" cy="%.1f" r="4"/>`, 78+44*p.r.Float64(), 46+48*p.r.Float64())
		}
	default:
		p.add(`<ellipse class="bright" cx="100" cy="70" rx="13" ry="34"/>`)
	}
}

// guide is a guide cut open along its axis, with the stem in it where it shows by rocking.
func (p seenPart) guide(grade string) {
	p.add(`<path class="metal" d="M40 14H160V126H40Z"/><path class="bright" d="M72 14H128V126H72Z"/>`)
	switch grade {
	case "scored":
		for range 9 {
			x := 76 + 48*p.r.Float64()
			p.add(`<path class="crack" d="M%.1f %.1fv%.1f"/>`, x, 20+30*p.r.Float64(), 40+40*p.r.Float64())
		}
	case "cracked":
		p.add(`<path class="crack" d="M44 20l20 22l-12 18l18 26l-14 34"/>`)
	case "loose":
		p.add(`<path class="burn" d="M36 14h4v112h-4ZM160 14h4v112h-4Z"/>`)
	case "rocks_slightly":
		p.add(`<path class="edge" d="M82 4L88 136H118L112 4Z"/>`)
	case "rocks_clearly":
		p.add(`<path class="edge" d="M74 4L98 136H126L102 4Z"/>`)
	}
}

// rocker is a rocker from its side, its pad down to the left.
func (p seenPart) rocker(grade string) {
	pad := `Q34 112 58 96`
	switch grade {
	case "pad_worn":
		pad = `Q30 104 36 99Q44 93 58 96`
	case "pad_through":
		pad = `Q24 98 40 88Q50 84 58 96`
	}
	p.add(`<path class="metal" d="M58 96Q70 62 100 62Q150 56 182 40L186 58Q150 84 100 92Q84 94 76 104Q54 124 20 110%s"/>`, pad)
	if grade == "bush_worn" {
		p.add(`<ellipse class="dark" cx="108" cy="76" rx="16" ry="12"/>`)
	} else {
		p.add(`<circle class="dark" cx="108" cy="76" r="11"/>`)
	}
	if grade == "cracked" {
		p.add(`<path class="crack" d="M124 62l6 8l-4 8l8 8"/>`)
	}
}

// port is a port seen from its flange, the valve's back in it.
func (p seenPart) port(grade string) {
	p.add(`<ellipse class="metal" cx="100" cy="70" rx="78" ry="60"/><ellipse class="edge" cx="100" cy="74" rx="62" ry="46"/>` +
		`<path class="bright" d="M60 104Q92 78 94 30H106Q108 78 140 104Z"/>`)
	switch grade {
	case "oily":
		for range 12 {
			x, y := 48+104*p.r.Float64(), 34+60*p.r.Float64()
			p.add(`<path class="wet" d="M%.1f %.1fq5 8 0 12q-5 -4 0 -12Z"/>`, x, y)
		}
		p.add(`<path class="wet" d="M62 106Q100 92 138 106Q100 118 62 106Z"/>`)
	case "carbon":
		for range 26 {
			p.add(`<circle class="burn" cx="%.1f" cy="%.1f" r="%.1f"/>`, 62+76*p.r.Float64(), 62+44*p.r.Float64(),
				3+5*p.r.Float64())
		}
	}
}

// Scores draws shares from 0 to 1 one after the other, the newest to the right.
func Scores(shares []float64, alt string) template.HTML {
	var s svg
	s.add(`<svg class="zerochart scores" viewBox="0 0 300 60" role="img" aria-label="%s">`, alt)
	s.add(`<path class="limit" d="M6 8H294"/><path class="dim" d="M6 52H294"/>`)
	at := func(i int) (x, y float64) {
		return 10 + 280*float64(i)/float64(max(1, len(shares)-1)), 52 - 44*shares[i]
	}
	for i := range shares {
		x, y := at(i)
		if i > 0 {
			px, py := at(i - 1)
			s.add(`<path class="line" d="M%.1f %.1fL%.1f %.1f"/>`, px, py, x, y)
		}
		s.add(`<circle class="point" cx="%.1f" cy="%.1f" r="3"/>`, x, y)
	}
	s.add(`</svg>`)
	return s.html()
}
