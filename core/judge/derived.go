package judge

import (
	"fmt"
	"math/big"

	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/seating"
	"yatai/core/surface"
	"yatai/core/valvetrain"
)

// derived are the position's characteristics that are computed from others. read returns
// the readings of a characteristic at the position. What is always derived shows without
// a limit of its own.
var derived = map[string]struct {
	always bool
	judge  func(s Sheet, f *Feature, read func(code string) []Reading)
}{
	"guide.clearance": {true, func(s Sheet, f *Feature, read func(string) []Reading) {
		s.clearance(f, read("guide.bore"), read("stem.dia"))
	}},
	"guide.form": {false, func(s Sheet, f *Feature, read func(string) []Reading) { s.form(f, read("guide.bore")) }},
	"guide.play": {true, func(s Sheet, f *Feature, read func(string) []Reading) {
		s.play(f, read("guide.rock"))
		if g, st := read("guide.bore"), read("stem.dia"); len(f.From) > 0 && len(g) > 0 && len(st) > 0 {
			gLo, gHi, _ := ends(g)
			sLo, sHi, _ := ends(st)
			f.Note += fmt.Sprintf("; by gauges %s to %s", gLo-sHi, gHi-sLo)
		}
	}},
	"guide.fit": {false, func(s Sheet, f *Feature, read func(string) []Reading) {
		s.difference(f, read("guide.outer"), read("guide.hole"))
	}},
	"seat.fit": {false, func(s Sheet, f *Feature, read func(string) []Reading) {
		s.difference(f, read("seat.outer"), read("seat.hole"))
	}},
	"seal.vacuum": {true, func(s Sheet, f *Feature, read func(string) []Reading) {
		s.vacuum(f, read("test.vacuum"), read("test.baseline"))
	}},
}

func (f *Feature) behind(rs ...Reading) {
	for _, r := range rs {
		f.From = append(f.From, r.ID)
	}
}

// ends returns the least and the most of what was read, a bracket by its two leaves.
func ends(rs []Reading) (lo, hi length.Length, bracket bool) {
	for i, r := range rs {
		a, b := r.Value.At, r.Value.At
		if r.Value.Bracket {
			a, b, bracket = r.Value.Go, r.Value.NoGo, true
		}
		if i == 0 {
			lo, hi = a, b
		}
		lo, hi = min(lo, a), max(hi, b)
	}
	return lo, hi, bracket
}

// clearance judges a guide against its stem. Without a limit on the sheet the general
// table is used, and its source says so. A guide known only by go and no-go gauges makes
// the clearance an interval.
func (s Sheet) clearance(f *Feature, guide, stem []Reading) {
	if len(guide) == 0 || len(stem) == 0 {
		return
	}
	f.behind(guide...)
	f.behind(stem...)
	gLo, gHi, gBracket := ends(guide)
	sLo, sHi, sBracket := ends(stem)
	if f.Limit == nil {
		f.Limit = General(f.Role, sHi)
	}
	if gBracket || sBracket {
		f.Low, f.High, f.Bracket = gLo-sHi, gHi-sLo, true
		if f.Limit != nil {
			v := gauge.Between(f.Low, f.High)
			res := gauge.Judge(v, 0, f.Limit.gauge())
			f.Verdict = res.Verdict
			f.settle(nil, v, res, f.Limit)
		}
		return
	}
	ug, us := maxU(guide), maxU(stem)
	c, err := valvetrain.Clear(valvetrain.ClearanceInput{Guide: places(guide), Stem: places(stem), FormLimit: formLimit, UGuide: &ug, UStem: &us})
	if err != nil {
		return
	}
	f.Low, f.High, f.U, f.Mean = c.Min, c.Max, *c.U, &c.Mean
	f.Note = shape(c)
	if f.Limit == nil {
		return
	}
	for _, end := range []struct {
		at  length.Length
		lim gauge.Limit
	}{{c.Min, gauge.Limit{Low: f.Limit.Low, Near: f.Limit.Near}}, {c.Max, gauge.Limit{High: f.Limit.High, Near: f.Limit.Near}}} {
		r := gauge.Judge(gauge.Exact(end.at), f.U, end.lim)
		if r.Verdict > f.Verdict {
			f.Verdict = r.Verdict
			f.settle(func() []gauge.Tool { return s.toolsFor("guide.bore", us) }, gauge.Exact(end.at), r, &Limit{Low: end.lim.Low, High: end.lim.High})
		}
	}
}

// formLimit is the difference between places of a guide that counts as form.
const formLimit = 5 * length.Micrometre

// shape names a guide's shape, and which way it is worn.
func shape(c valvetrain.Clearance) string {
	if c.Shape == nil {
		return ""
	}
	said := shapes[*c.Shape]
	if c.Oval {
		said += ", oval"
	}
	return said
}

// Wear is which way a guide is worn: the means across places of the readings along the
// sweep (A) and across it (B).
type Wear struct {
	Along, Across length.Length
	Says          string
}

// WearOf compares a guide's readings along the rocker's or cam's sweep with those across
// it; ok is false without readings of both. Wear follows the push: more along than across
// says that the sweep wore it, by bad rocker geometry when the ends differ too.
func WearOf(guide []Reading) (w Wear, ok bool) {
	by := map[string][]length.Length{}
	for _, r := range guide {
		by[r.Spot.Dir] = append(by[r.Spot.Dir], r.Value.At)
	}
	if by["A"] == nil || by["B"] == nil {
		return w, false
	}
	w.Along, w.Across = length.Mean(by["A"]), length.Mean(by["B"])
	switch d := w.Along - w.Across; {
	case d > formLimit:
		w.Says = "worn along the sweep, by " + d.String() + ": the push wore it"
	case d < -formLimit:
		w.Says = "worn across the sweep, by " + (-d).String() + ": not by the push"
	default:
		w.Says = "worn evenly round"
	}
	return w, true
}

// form judges a guide's form: the largest of its taper, bell mouth and ovality.
func (s Sheet) form(f *Feature, guide []Reading) {
	if _, _, bracket := ends(guide); len(guide) == 0 || bracket {
		return
	}
	u := maxU(guide)
	c, err := valvetrain.Clear(valvetrain.ClearanceInput{Guide: places(guide), Stem: places(guide), FormLimit: formLimit, UGuide: &u, UStem: &u})
	if err != nil {
		return
	}
	worst := c.OutOfRound
	for _, d := range []*length.Length{c.Taper, c.Bellmouth} {
		if d != nil {
			worst = max(worst, d.Abs())
		}
	}
	r := Reading{Value: gauge.Exact(worst), U: length.RSS(u, u)}
	s.judge(f, []Reading{r})
	f.From = nil
	f.behind(guide...)
	f.Note, f.At = shape(c), ""
}

// play converts the rock of a valve's head to a clearance; the sheet must give the guide's
// length and the dial's overhang.
func (s Sheet) play(f *Feature, rock []Reading) {
	g, l := s.Given["given.guide_length"], s.Given["given.rock_overhang"]
	if len(rock) == 0 {
		return
	}
	if g == 0 {
		f.behind(rock...)
		f.Note = "the sheet does not give the guide's length: the rock cannot be converted"
		f.Limit = nil
		return
	}
	var out []Reading
	for _, r := range rock {
		r.Value, r.U = gauge.Exact(valvetrain.Tilt(r.Value.At, g, l)), valvetrain.Tilt(r.U, g, l)
		out = append(out, r)
	}
	s.judge(f, out)
	f.Note = fmt.Sprintf("rock %s over %s of guide, dial %s beyond", rock[0].Value.At, g, l)
}

// difference judges the first less the second: an interference.
func (s Sheet) difference(f *Feature, part, hole []Reading) {
	if len(part) == 0 || len(hole) == 0 {
		return
	}
	p, h := part[0], hole[0]
	s.judge(f, []Reading{{ID: p.ID, Spot: p.Spot, Value: gauge.Exact(p.Value.At - h.Value.At), U: length.RSS(p.U, h.U)}})
	f.behind(h)
}

// spread judges the largest less the smallest of a row.
func (s Sheet) spread(f *Feature, row []Reading) {
	if len(row) < 2 {
		return
	}
	lo, hi, _ := ends(row)
	u := maxU(row)
	s.judge(f, []Reading{{Value: gauge.Exact(hi - lo), U: length.RSS(u, u)}})
	f.From, f.At = nil, ""
	f.behind(row...)
}

// flatness judges the minimum zone of the face's grid.
func (s Sheet) flatness(f *Feature, grid map[string][]Reading) {
	var in surface.FlatnessInput
	var rs []Reading
	for _, g := range s.Layout.Grid() {
		for _, r := range grid[g.Name] {
			in.Points = append(in.Points, surface.Point{X: g.X, Y: g.Y, Z: r.Value.At})
			rs = append(rs, r)
		}
	}
	out, err := surface.Flatness(in)
	if err != nil {
		return
	}
	u := maxU(rs)
	s.judge(f, []Reading{{Value: gauge.Exact(out.Zone), U: length.RSS(u, u)}})
	f.From, f.At = nil, ""
	f.behind(rs...)
	f.Note = fmt.Sprintf("level on its datum it needs %s, tilted to the best plane %s", out.CutLevel, out.CutBest)
}

// generalVacuum is what a port may lose where a sheet has no limit: a general trade value.
var generalVacuum = 5 * KPa.Size

// vacuum judges what a port loses from the day's own baseline, the valve turned between
// readings: what turns with the valve is the valve's, what stays is the seat's.
func (s Sheet) vacuum(f *Feature, turns, base []Reading) {
	if len(turns) == 0 || len(base) == 0 {
		return
	}
	if f.Limit == nil {
		f.Limit = &Limit{Characteristic: f.Code, Role: f.Role, Set: "service", High: &generalVacuum, Source: "general table", Unit: KPa}
	}
	if f.Limit.High == nil {
		return
	}
	b := base[0]
	kpa := func(l length.Length) *big.Rat { return big.NewRat(int64(l), int64(mm)) }
	in := seating.VacuumInput{Baseline: kpa(b.Value.At), Drop: kpa(*f.Limit.High)}
	var lost []Reading
	var u length.Length
	for _, r := range turns {
		in.Readings = append(in.Readings, kpa(r.Value.At))
		u = max(u, r.U)
		r.Value = gauge.Exact(b.Value.At - r.Value.At)
		lost = append(lost, r)
	}
	s.judge(f, lost)
	f.behind(b)
	in.U = kpa(u)
	out, err := seating.Vacuum(in)
	if err != nil {
		f.Note = err.Error()
		return
	}
	f.Note = map[string]string{"turn": "it fails: turn the valve and read again", "valve": "the leak turns with the valve: bent or off centre", "seat": "it leaks at every turn: the seat", "": ""}[out.Suspect]
}

// shapes are the guide's shapes in words.
var shapes = map[string]string{
	"straight": "straight", "bellmouthed": "bell-mouthed at both ends", "barrelled": "barrelled",
	"opens_top": "opens to the spring end", "opens_bottom": "opens to the port",
}
