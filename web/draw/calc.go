package draw

import (
	"html/template"
	"math"

	"yatai/core/engine"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/seating"
	"yatai/core/surface"
	"yatai/core/valvetrain"
)

// BesideTable is said of a drawing whose figures stand in a table below it.
const BesideTable = "drawing of the answer; the figures are in the table below"

// Calc draws what explains a calculation's answer, from its input and output structs; alt is said
// in place of the picture. A calculation without a drawing gets none.
func Calc(name, alt string, in, out any) template.HTML {
	d, ok := drawings[name]
	if !ok {
		return ""
	}
	return d(alt, in, out)
}

// drawings are the calculators' drawings by the calculation's name.
var drawings = map[string]func(alt string, in, out any) template.HTML{
	"clearance": drawing(guideSection),
	"verdict":   drawing(verdictWindow),
	"spring":    drawing(springLine),
	"seat":      drawing(seatRing),
	"flatness":  drawing(surfaceRelief),
	"tighten":   drawing(boltOrder),
	"shims":     drawing(shimBox),
}

// drawing wraps a drawing of known types. Its picture is 480 by 240 units.
func drawing[I, O any](f func(*svg, I, O)) func(alt string, in, out any) template.HTML {
	return func(alt string, in, out any) template.HTML {
		i, ok := in.(I)
		o, ok2 := out.(O)
		if !ok || !ok2 {
			return ""
		}
		var s svg
		s.add(`<svg class="drawing" viewBox="0 0 480 240" role="img" aria-label="%s">`, alt)
		f(&s, i, o)
		s.WriteString(`</svg>`)
		return s.html()
	}
}

// guideSection draws the guide's bore and the stem in it, wear exaggerated so that the
// largest difference fills the picture.
func guideSection(s *svg, in valvetrain.ClearanceInput, out valvetrain.Clearance) {
	all := append(in.Guide.All(), in.Stem.All()...)
	least, most := all[0], all[0]
	for _, l := range all {
		least, most = min(least, l), max(most, l)
	}
	half := func(l length.Length) float64 { // drawn half width of a diameter
		return 34 + 40*float64(l-least)/math.Max(1, float64(most-least))
	}
	const mid = 240.0
	ys := []float64{30, 115, 200}
	places := func(p valvetrain.Places) (xs, yy []float64) {
		for i, rs := range [][]length.Length{p.Top, p.Middle, p.Bottom} {
			if len(rs) > 0 {
				xs, yy = append(xs, half(length.Mean(rs))), append(yy, ys[i])
			}
		}
		return xs, yy
	}
	for _, side := range []float64{-1, 1} {
		xs, yy := places(in.Guide)
		s.add(`<path class="hatch" d="M%.1f %.1f`, mid+side*105, yy[0])
		for i := range xs {
			s.add(`L%.1f %.1f`, mid+side*xs[i], yy[i])
		}
		s.add(`L%.1f %.1fZ"/>`, mid+side*105, yy[len(yy)-1])
		xs, yy = places(in.Stem)
		s.add(`<path class="blue" d="M%.1f %.1f`, mid+side*xs[0], yy[0]-22)
		for i := range xs {
			s.add(`L%.1f %.1f`, mid+side*xs[i], yy[i])
		}
		s.add(`L%.1f %.1f"/>`, mid+side*xs[len(xs)-1], yy[len(yy)-1]+30)
	}
	for i, name := range []string{"top", "middle", "bottom"} {
		s.add(`<text x="60" y="%.1f">%s</text>`, ys[i]+4, name)
	}
	s.add(`<text x="360" y="30">%s to</text><text x="360" y="46">%s</text>`, out.Min.String(), out.Max.String())
	s.add(`<text x="360" y="200">not to scale:</text><text x="360" y="214">wear drawn full</text>`)
}

// verdictWindow draws the reading between its limits.
func verdictWindow(s *svg, in gauge.VerdictInput, out gauge.VerdictOutput) {
	f := judge.Feature{
		Verdict: out.Verdict, Low: in.Value.At, High: in.Value.At, U: quantity.OfLength(in.U), From: []uint{1},
		Limit: &head.Limit{
			Low: quantity.MaybeLength(in.Low), High: quantity.MaybeLength(in.High),
			Near: quantity.OfLength(in.Near),
		},
	}
	if in.Value.Bracket {
		f.Low, f.High, f.Bracket = in.Value.Go, in.Value.NoGo, true
	}
	from, to := span(f)
	at := func(a quantity.Amount) float64 { return 30 + 420*min(1, max(0, (a.Float()-from)/(to-from))) }
	s.add(`<path d="M20 120H460"/>`)
	for _, l := range []*length.Length{in.Low, in.High} {
		if l != nil {
			s.add(
				`<path stroke-width="3" d="M%.1f 70V170"/><text x="%.1f" y="188" text-anchor="middle">%s</text>`,
				at(quantity.OfLength(*l)),
				at(quantity.OfLength(*l)), l.String(),
			)
		}
	}
	u := f.U
	if f.Bracket {
		u = 0
	}
	a, b := at(f.Low-u), at(f.High+u)
	s.add(`<path class="blue" d="M%.1f 120H%.1fM%.1f 105V135M%.1f 105V135"/>`, a, b, a, b)
	s.add(`<rect class="fillblue" x="%.1f" y="96" width="%.1f" height="48"/>`, at(f.Low)-3,
		at(f.High)-at(f.Low)+6)
	s.add(`<text x="240" y="40" text-anchor="middle">%s</text>`, out.Verdict.Label())
}

// springLine draws load against length with the readings, seat and open points.
func springLine(s *svg, in valvetrain.SpringInput, out valvetrain.SpringOutput) {
	lo, hi := (in.Installed - in.Lift).Millimetres(), in.Installed.Millimetres()
	lo = min(lo, in.Solid.Millimetres())
	top := float64(out.Open)
	for _, r := range in.Readings {
		l := (r.Length - in.RetainerStep).Millimetres()
		lo, hi, top = min(lo, l), max(hi, l), max(top, r.Load.Float())
	}
	hi += (hi - lo) * 0.1
	x := func(mm float64) float64 { return 50 + 400*(hi-mm)/(hi-lo) }
	y := func(n float64) float64 { return 200 - 170*n/(top*1.1) }
	load := func(mm float64) float64 {
		return float64(out.Seat) + float64(out.Rate)*(in.Installed.Millimetres()-mm)
	}
	s.add(`<path d="M50 20V200H460"/><text x="54" y="18">N</text><text x="400" y="232">shorter</text>`)
	s.add(
		`<path class="hatch" d="M%.1f 200V24H456V200Z"/><text x="%.1f" y="36">solid</text>`,
		x(in.Solid.Millimetres())-0.5,
		max(60, x(in.Solid.Millimetres())-44),
	)
	s.add(`<path class="blue" d="M%.1f %.1fL%.1f %.1f"/>`, x(hi), y(load(hi)), x(lo), y(load(lo)))
	for _, r := range in.Readings {
		s.add(`<circle cx="%.1f" cy="%.1f" r="4"/>`, x((r.Length - in.RetainerStep).Millimetres()),
			y(r.Load.Float()))
	}
	for _, p := range []struct {
		name string
		l    length.Length
		n    quantity.Decimal
	}{{"seat", in.Installed, out.Seat}, {"open", in.Installed - in.Lift, out.Open}} {
		px, py := x(p.l.Millimetres()), y(float64(p.n))
		s.add(
			`<path class="dim" stroke-dasharray="3 3" d="M%.1f 200V%.1fH50"/><circle class="fillblue" cx="%.1f" cy="%.1f" r="4"/>`+
				`<text x="%.1f" y="216" text-anchor="middle">%s</text><text x="%.1f" y="%.1f" text-anchor="end">%s N</text>`,
			px, py, px, py, px, p.name, px-6, py-6, p.n.String(),
		)
	}
}

// seatRing draws half a seat in section, to scale: the ring now and the ring wanted.
func seatRing(s *svg, in seating.SeatInput, out seating.SeatOutput) {
	tan := func(r float64) float64 { return math.Tan(r * math.Pi / 180) }
	a, b, g := in.Angle.Float(), in.Top.Float(), in.Bottom.Float()
	innerR, outerR := in.Inner.Millimetres()/2, in.Outer.Millimetres()/2
	wantIn, wantOut := out.TargetInner.Millimetres()/2, in.TargetOuter.Millimetres()/2
	least, most := min(innerR, wantIn)-1, max(outerR, wantOut, in.ValveHead.Millimetres()/2)+1
	drop := (max(outerR, wantOut)-min(innerR, wantIn))*tan(a) + 0.5*tan(g)
	k := min(420/(most-least), 150/drop)
	x := func(r float64) float64 { return 30 + (r-least)*k }
	// depth grows towards the port; the ring's outer edge now is the zero
	y := func(d float64) float64 { return 50 + d*k }
	line := func(class string, inR, outR, sink float64) {
		depth := func(r float64) float64 { return sink + (outerR-r)*tan(a) }
		s.add(`<path class="thin" d="M%.1f %.1fL%.1f %.1f"/>`, x(outR), y(depth(outR)), x(outR+1),
			y(depth(outR)-tan(b)))
		s.add(`<path class="thin" d="M%.1f %.1fL%.1f %.1f"/>`, x(inR), y(depth(inR)), x(inR-0.5),
			y(depth(inR)+0.5*tan(g)))
		s.add(`<path class="%s" d="M%.1f %.1fL%.1f %.1f"/>`, class, x(inR), y(depth(inR)), x(outR), y(depth(outR)))
	}
	line("", innerR, outerR, 0)
	line("blue", wantIn, wantOut, out.MainDepth.Millimetres())
	v := x(in.ValveHead.Millimetres() / 2)
	s.add(
		`<path class="dim" stroke-dasharray="4 3" d="M%.1f 20V220"/><text class="blue" x="%.1f" y="16" text-anchor="middle">valve's edge</text>`,
		v, v,
	)
	s.add(`<text x="30" y="232">ring now, and wanted in blue; to scale, half section</text>`)
}

// surfaceRelief draws the points of a grid seen from above: proud ones blue, low ones
// brown, by size of the departure; the ones that hold the zone are ringed.
func surfaceRelief(s *svg, in surface.FlatnessInput, out surface.FlatnessOutput) {
	lo, hi := in.Points[0], in.Points[0]
	for _, p := range in.Points {
		lo.X, lo.Y, lo.Z = min(lo.X, p.X), min(lo.Y, p.Y), min(lo.Z, p.Z)
		hi.X, hi.Y, hi.Z = max(hi.X, p.X), max(hi.Y, p.Y), max(hi.Z, p.Z)
	}
	k := min(420/math.Max(1, float64(hi.X-lo.X)), 170/math.Max(1, float64(hi.Y-lo.Y)))
	holds := map[int]bool{}
	for _, i := range out.Touching {
		holds[i] = true
	}
	mid := float64(lo.Z+hi.Z) / 2
	for i, p := range in.Points {
		x, y := 30+float64(p.X-lo.X)*k, 200-float64(p.Y-lo.Y)*k
		off := (float64(p.Z) - mid) / math.Max(1, float64(hi.Z-lo.Z))
		class := "high"
		if off < 0 {
			class = "low"
		}
		s.add(`<circle class="%s" cx="%.1f" cy="%.1f" r="%.1f"/>`, class, x, y, 4+16*math.Abs(off))
		if holds[i] {
			s.add(`<circle class="blue" cx="%.1f" cy="%.1f" r="%.1f"/>`, x, y, 7+16*math.Abs(off))
		}
	}
	s.add(`<text x="30" y="234">blue proud, brown low, by size; ringed: they hold the zone of %s</text>`,
		out.Zone.String())
}

// boltOrder draws the pattern with each bolt's turn.
func boltOrder(s *svg, in engine.TightenInput, out engine.TightenOutput) {
	lo, hi := in.Bolts[0], in.Bolts[0]
	turn := map[string]int{}
	for _, b := range in.Bolts {
		lo.X, lo.Y, hi.X, hi.Y = min(lo.X, b.X), min(lo.Y, b.Y), max(hi.X, b.X), max(hi.Y, b.Y)
	}
	for i, id := range out.Order {
		turn[id] = i + 1
	}
	k := min(410/math.Max(1, float64(hi.X-lo.X)), 170/math.Max(1, float64(hi.Y-lo.Y)))
	for _, b := range in.Bolts {
		x, y := 35+float64(b.X-lo.X)*k, 205-float64(b.Y-lo.Y)*k
		s.add(
			`<circle cx="%.1f" cy="%.1f" r="15"/><text class="blue" x="%.1f" y="%.1f" text-anchor="middle" font-weight="700">%d</text>`,
			x, y, x, y+4, turn[b.ID],
		)
		if turn[b.ID] == 1 {
			s.add(`<circle class="blue" cx="%.1f" cy="%.1f" r="19"/>`, x, y)
		}
	}
}

// shimBox draws a compartment per bucket with the shim it gets and where it comes from.
func shimBox(s *svg, _ valvetrain.ShimsInput, out valvetrain.ShimsOutput) {
	cols := 6
	for i, c := range out.Buckets {
		if i >= 4*cols { // the table below has them all
			break
		}
		x, y := 12+float64(i%cols)*76, 10+float64(i/cols)*56
		class := map[string]string{"kept": "", "order": "high"}[c.Source]
		s.add(`<rect class="%s" x="%.1f" y="%.1f" width="72" height="52"/>`+
			`<text x="%.1f" y="%.1f">%s</text><text x="%.1f" y="%.1f" font-weight="700">%s</text><text x="%.1f" y="%.1f">%s</text>`,
			class, x, y, x+5, y+14, c.ID, x+5, y+30, c.Shim.MM(), x+5, y+46, c.Source)
	}
}
