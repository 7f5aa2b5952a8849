package trade

import (
	"fmt"
	"slices"
	"strconv"
	"time"

	"yatai/core/gauge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/seating"
	"yatai/core/valvetrain"
)

// Read is a reading as what is derived from it sees it.
type Read struct {
	ID    uint
	Spot  Spot
	Value gauge.Value
	U     quantity.Amount
	At    time.Time // zero where nobody says
}

// Place is one place of a head as a derivation sees it.
type Place interface {
	Position() string
	At(position string) Place // another place of the same head
	Role() layout.Role
	Text(a quantity.Amount) string // a length in the unit of the head's sheet
	Layout() layout.Layout
	Reads(c *Characteristic) []Read // what stands at the place; of the head where c is read on the head
	Figure(f *Figure) (quantity.Amount, bool)
	Setting(name string) string
}

// Derivation is what follows from readings: the least and the most of it, or two leaves
// between which it lies. U is its expanded doubt, Rest the part of it that From[0] has no
// share in: a better tool for From[0] leaves that.
type Derivation struct {
	Low, High quantity.Amount
	Bracket   bool
	Mean      *quantity.Amount
	U, Rest   quantity.Amount
	Note      string
	Suspect   string    // of a seal test: seating.SuspectValve and so on
	Instead   *Fallback // the limit where the sheet has none
	Unknown   string    // why nothing follows although something was read
	From      []uint    // the readings behind it
}

// Fallback is a limit of the trade, for where a sheet has none.
type Fallback struct {
	Low, High *quantity.Amount
	Near      quantity.Amount
	Source    string
	Asks      bool // what lies outside is a question to the lead, and no verdict
}

// Work derives a characteristic at a place; ok is false when too little was read.
type Work func(p Place) (d Derivation, ok bool)

// Ends returns the least and the most of what was read, a bracket by its two leaves.
func Ends(rs []Read) (lo, hi quantity.Amount, bracket bool) {
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

// grouped are readings by something of their spots.
func grouped(rs []Read, by func(Spot) string) map[string][]Read {
	out := map[string][]Read{}
	for _, r := range rs {
		out[by(r.Spot)] = append(out[by(r.Spot)], r)
	}
	return out
}

// MaxU is the largest doubt of some readings.
func MaxU(rs []Read) quantity.Amount {
	var u quantity.Amount
	for _, r := range rs {
		u = max(u, r.U)
	}
	return u
}

func ids(of ...[]Read) []uint {
	var out []uint
	for _, rs := range of {
		for _, r := range rs {
			out = append(out, r.ID)
		}
	}
	return out
}

func byPlace(rs []Read) valvetrain.Places {
	var p valvetrain.Places
	at := map[string]*[]length.Length{"top": &p.Top, "middle": &p.Middle, "bottom": &p.Bottom}
	for _, r := range rs {
		place := at[r.Spot.Place]
		if place == nil { // a guide taken short: one figure for the whole of it
			place = &p.Middle
		}
		*place = append(*place, r.Value.At.Length())
	}
	return p
}

// FormLimit is the difference between places of a guide that counts as form.
const FormLimit = 5 * length.Micrometre

// clearance is what a guide and its stem leave: its largest value is held against the upper
// limit, its smallest against the lower. Known only by go and no-go gauges, it is an interval.
func clearance(p Place) (Derivation, bool) {
	guide, stem := p.Reads(GuideBore), p.Reads(Stem)
	if len(guide) == 0 || len(stem) == 0 {
		return Derivation{}, false
	}
	d := Derivation{From: ids(guide, stem)}
	gLo, gHi, gBracket := Ends(guide)
	sLo, sHi, sBracket := Ends(stem)
	d.Instead = GeneralClearance(p.Role(), sHi)
	if gBracket || sBracket {
		d.Low, d.High, d.Bracket = gLo-sHi, gHi-sLo, true
		return d, true
	}
	ug, us := MaxU(guide).Length(), MaxU(stem).Length()
	c, err := valvetrain.Clear(valvetrain.ClearanceInput{
		Guide:     byPlace(guide),
		Stem:      byPlace(stem),
		FormLimit: FormLimit,
		UGuide:    &ug,
		UStem:     &us,
	})
	if err != nil {
		return d, false
	}
	d.Low, d.High, d.Mean = quantity.OfLength(c.Min), quantity.OfLength(c.Max), quantity.MaybeLength(&c.Mean)
	d.U, d.Rest, d.Note = quantity.OfLength(*c.U), MaxU(stem), shape(c)
	return d, true
}

// generalClearance is the general table: guide clearance by stem diameter, in micrometres,
// general trade values.
var generalClearance = []struct {
	upTo                         quantity.Amount
	inLow, inHigh, exLow, exHigh quantity.Amount
}{
	{7 * mm, 15, 45, 25, 60}, {9 * mm, 20, 55, 35, 70}, {12 * mm, 30, 70, 50, 90}, {16 * mm, 45, 90, 70, 120},
}

// GeneralClearance is the general table's limit for a stem of 5 to 16 mm, nil outside that.
func GeneralClearance(role layout.Role, stem quantity.Amount) *Fallback {
	if stem < 5*mm {
		return nil
	}
	for _, g := range generalClearance {
		if stem > g.upTo {
			continue
		}
		lo, hi := g.inLow*um, g.inHigh*um
		if role == layout.Exhaust {
			lo, hi = g.exLow*um, g.exHigh*um
		}
		return &Fallback{Low: &lo, High: &hi, Near: 5 * um, Source: "general table", Asks: true}
	}
	return nil
}

// shapes are the guide's shapes in words.
var shapes = map[string]string{
	"straight": "straight", "bellmouthed": "bell-mouthed at both ends", "barrelled": "barrelled",
	"opens_top": "opens to the spring end", "opens_bottom": "opens to the port",
}

// shape names a guide's shape.
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

// form is the largest of a guide's taper, bell mouth and ovality.
func form(p Place) (Derivation, bool) {
	guide := p.Reads(GuideBore)
	if _, _, bracket := Ends(guide); len(guide) < 2 || bracket {
		return Derivation{}, false
	}
	u := MaxU(guide).Length()
	c, err := valvetrain.Clear(valvetrain.ClearanceInput{
		Guide:     byPlace(guide),
		Stem:      byPlace(guide),
		FormLimit: FormLimit,
		UGuide:    &u,
		UStem:     &u,
	})
	if err != nil {
		return Derivation{}, false
	}
	worst := c.OutOfRound
	for _, d := range []*length.Length{c.Taper, c.Bellmouth} {
		if d != nil {
			worst = max(worst, d.Abs())
		}
	}
	at := quantity.OfLength(worst)
	return Derivation{
		Low:  at,
		High: at,
		U:    quantity.OfLength(length.RSS(u, u)),
		Note: shape(c),
		From: ids(guide),
	}, true
}

// play converts the rock of a valve's head to a clearance; the sheet must give the guide's
// length and the dial's overhang.
func play(p Place) (Derivation, bool) {
	both := p.Reads(RockWays)
	rock := append(slices.Clip(p.Reads(GuideRock)), both...)
	if len(rock) == 0 {
		return Derivation{}, false
	}
	d := Derivation{From: ids(rock)}
	g, _ := p.Figure(GuideHeld)
	l, _ := p.Figure(RockOverhang)
	if g == 0 {
		d.Unknown = "the sheet does not give the guide's length: the rock cannot be converted"
		return d, true
	}
	lo, hi, _ := Ends(rock)
	tilt := func(a quantity.Amount) quantity.Amount {
		return quantity.OfLength(valvetrain.Tilt(a.Length(), g.Length(), l.Length()))
	}
	d.Low, d.High, d.U = tilt(lo), tilt(hi), tilt(MaxU(rock))
	d.Note = fmt.Sprintf("rock %s over %s of guide, dial %s beyond", p.Text(hi), p.Text(g), p.Text(l))
	if said := worn(both, p); said != "" {
		d.Note += "; " + said
	}
	if guide, stem := p.Reads(GuideBore), p.Reads(Stem); len(guide) > 0 && len(stem) > 0 {
		gLo, gHi, _ := Ends(guide)
		sLo, sHi, _ := Ends(stem)
		d.Note += fmt.Sprintf("; by gauges %s to %s", p.Text(gLo-sHi), p.Text(gHi-sLo))
	}
	return d, true
}

// worn says which way a valve's head rocks further, where both ways were read and differ by more
// than their doubt.
func worn(both []Read, p Place) string {
	by := grouped(both, func(s Spot) string { return s.Dir })
	if by["A"] == nil || by["B"] == nil {
		return ""
	}
	_, along, _ := Ends(by["A"])
	_, across, _ := Ends(by["B"])
	switch u := length.RSS(MaxU(by["A"]), MaxU(by["B"])); {
	case along-across > u:
		return fmt.Sprintf("it rocks %s more along the sweep than across it: worn by the push",
			p.Text(along-across))
	case across-along > u:
		return fmt.Sprintf("it rocks %s more across the sweep than along it", p.Text(across-along))
	}
	return ""
}

// less derives the first less the second: an interference, a play.
func less(first, second *Characteristic) Work {
	return func(p Place) (Derivation, bool) {
		a, b := p.Reads(first), p.Reads(second)
		if len(a) == 0 || len(b) == 0 {
			return Derivation{}, false
		}
		aLo, aHi, aBracket := Ends(a)
		bLo, bHi, bBracket := Ends(b)
		d := Derivation{
			Low:  aLo - bHi,
			High: aHi - bLo,
			Bracket: (aBracket || bBracket) &&
				aHi-bLo > aLo-bHi,
			From: ids(a, b),
		}
		if !d.Bracket {
			d.U, d.Rest = length.RSS(MaxU(a), MaxU(b)), MaxU(b)
		}
		return d, true
	}
}

// share derives the throat as a share of its valve's head, in percent: 100 t / h.
func share(p Place) (Derivation, bool) {
	throat, head := p.Reads(Throat), p.Reads(ValveHead)
	if len(throat) == 0 || len(head) == 0 {
		return Derivation{}, false
	}
	tLo, tHi, _ := Ends(throat)
	hLo, hHi, _ := Ends(head)
	if hLo <= 0 {
		return Derivation{}, false
	}
	percent := func(t, h quantity.Amount) quantity.Amount { return length.Div(100*mm*t, int64(h)) }
	d := Derivation{Low: percent(tLo, hHi), High: percent(tHi, hLo), From: ids(throat, head)}
	d.Rest = length.Div(d.High*MaxU(head), int64(hLo))
	d.U = length.RSS(percent(MaxU(throat), hLo), d.Rest)
	return d, true
}

// GeneralDrop is how much vacuum a port may lose where neither sheet nor setting says: a
// general trade value.
var GeneralDrop = KPa.Of(5)

// lost is what a port loses from the day's own baseline, the valve turned between readings:
// what turns with the valve is the valve's, what stays is the seat's.
func lost(p Place) (Derivation, bool) {
	turns, base := p.Reads(VacuumTurned), p.Reads(VacuumBlanked)
	if len(turns) == 0 || len(base) == 0 {
		return Derivation{}, false
	}
	blanked := baseline(turns, base)
	lo, hi, _ := Ends(turns)
	d := Derivation{
		Low:     blanked.Value.At - hi,
		High:    blanked.Value.At - lo,
		U:       max(MaxU(turns), MaxU(base)),
		From:    ids(turns, base),
		Instead: &Fallback{High: &GeneralDrop, Source: "general table"},
	}
	if hours, _ := strconv.Atoi(p.Setting(BlankedHours)); aged(blanked, turns, time.Duration(hours)*time.Hour) {
		d.Unknown = fmt.Sprintf(
			"the cup was blanked more than %d h before: today's best is read again, then the port", hours,
		)
	}
	return d, true
}

// aged tells whether a baseline is older than it may be when some port was read; what has no time is not.
func aged(base Read, turns []Read, may time.Duration) bool {
	return may > 0 && !base.At.IsZero() && slices.ContainsFunc(turns, func(r Read) bool {
		return r.At.Sub(base.At) > may
	})
}

// baseline is what the tester showed blanked, last before the port was read.
func baseline(turns, base []Read) Read {
	var last uint
	for _, r := range turns {
		last = max(last, r.ID)
	}
	b := base[0]
	for _, r := range base {
		if r.ID <= last {
			b = r
		}
	}
	return b
}

// SuspectOf says what a failed vacuum test points to, with the drop that judges it.
func SuspectOf(turns, base []Read, drop quantity.Amount) string {
	if len(turns) == 0 || len(base) == 0 {
		return ""
	}
	in := seating.VacuumInput{
		Baseline: baseline(turns, base).Value.At.KPa(), Drop: drop.KPa(),
		U: max(MaxU(turns), MaxU(base)).KPa(),
	}
	for _, r := range turns {
		in.Readings = append(in.Readings, r.Value.At.KPa())
	}
	out, err := seating.Vacuum(in)
	if err != nil {
		return ""
	}
	return out.Suspect
}

// SuspectSays puts a suspect in words.
var SuspectSays = map[string]string{
	seating.SuspectTurn:  "it fails: turn the valve and read again",
	seating.SuspectValve: "the leak turns with the valve: bent or off centre",
	seating.SuspectSeat:  "it leaks at every turn: the seat",
}

// What the dropped valve and its vacuum say together, with what to look at next.
const (
	ThudSays   = "it holds vacuum but thuds: bent, or tight in its guide; look at the valve's runout and the guide"
	BounceSays = "it bounces but leaks: the seat; look at its ring"
)

// Wear is which way a guide is worn: the means across places of the readings along the
// sweep (A) and across it (B).
type Wear struct {
	Along, Across length.Length
	Sweep         bool // more along than across: the push wore it
	Says          string
}

// WearOf compares, with lengths told in u, a guide's readings along the rocker's or cam's sweep
// with those across it; ok is false without readings of both. Wear follows the push: more along than across
// says that the sweep wore it, by bad rocker geometry when the ends differ too.
func WearOf(guide []Read, u length.Unit) (w Wear, ok bool) {
	by := map[string][]length.Length{}
	for _, r := range guide {
		by[r.Spot.Dir] = append(by[r.Spot.Dir], r.Value.At.Length())
	}
	if by["A"] == nil || by["B"] == nil {
		return w, false
	}
	w.Along, w.Across = length.Mean(by["A"]), length.Mean(by["B"])
	switch d := w.Along - w.Across; {
	case d > FormLimit:
		w.Sweep, w.Says = true, "worn along the sweep, by "+u.Text(d)+": the push wore it"
	case d < -FormLimit:
		w.Says = "worn across the sweep, by " + u.Text(-d) + ": not by the push"
	default:
		w.Says = "worn evenly round"
	}
	return w, true
}
