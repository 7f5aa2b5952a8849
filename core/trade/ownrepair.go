package trade

import (
	"cmp"
	"fmt"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
)

// OwnRepair is a repair that a shop declares itself, done at valves. Its code is the whole of it: a
// head keeps what was decided on it, whatever the shop declares later. OwnRepair.Code writes it,
// RepairNamed and OperationNamed read it.
type OwnRepair struct {
	Name        string
	Works       Metal  // one of OwnMetals
	Station     string // where it is done
	Setup, Each quantity.Minutes
	Least, Most length.Length // between which its size is chosen; both 0: it has none
	Moves       []OwnMove     // by its size; none where it has none
	Part        string        // what one is fitted of at each valve; "" for nothing. See OwnPart
}

// OwnMove is a figure of a valve that a shop's own repair moves, by Times its size: 1 or -1.
type OwnMove struct {
	Of    string // the characteristic's code
	Times int
}

// OtherMetal is worked by repairs of the shop's own that touch nothing another repair works on.
const OtherMetal Metal = "something else"

// OwnMetals are what a shop's own repair may work on, with the stage of the order it is done in and the
// machine whose scatter it takes. Guides and valves are not among them: what is made of them is worked out.
var OwnMetals = []Metal{SeatMetal, TipMetal, SpringMetal, OtherMetal}

var ownStages = map[Metal]*Stage{
	SeatMetal: SeatCutting, TipMetal: Refacing, SpringMetal: Springing, OtherMetal: Fitting,
}

// ownLike are the operations whose hands do it.
var ownLike = map[Metal]*Operation{
	SeatMetal: CutSeat, TipMetal: GrindTip, SpringMetal: NewSprings, OtherMetal: Assemble,
}

var ownScatters = map[Metal]string{TipMetal: "scatter.tip"}

// OwnMoved are the figures that a shop's own repair may move.
var OwnMoved = []*Characteristic{Recession, StemHeight, SpringHeight, ValveMargin, Lash, LashDry}

// ownPrefix begins the code of a shop's own repair; mostOwn bounds how many a program has met.
const (
	ownPrefix = "shop."
	mostOwn   = 4096
)

// MostOwnRepairs bounds how many repairs of its own a sheet has.
const MostOwnRepairs = 20

// mostOwnSize bounds a size: no work at a valve is that deep.
const mostOwnSize = 20 * length.Millimetre

// Check says what is wrong with a declaration, by its field.
func (o OwnRepair) Check() field.Errors {
	errs := field.Errors{}
	if strings.TrimSpace(o.Name) == "" || utf8.RuneCountInString(o.Name) > 60 {
		errs.Addf("name", "what is it called on the bench? 60 letters at most")
	}
	if !slices.Contains(OwnMetals, o.Works) {
		errs.Addf("works", "choose what it works on")
	}
	if !slices.Contains(Stations, o.Station) {
		errs.Addf("station", "choose where it is done")
	}
	if o.Setup < 0 || o.Setup > mostMinutes || o.Each < 1 || o.Each > mostMinutes {
		errs.Addf("minutes", "minutes once, and at each valve: 10+4")
	}
	switch {
	case o.Least < 0 || o.Most < o.Least || o.Most > mostOwnSize:
		errs.Addf("most", "a size from nothing to 20 mm, the least first")
	case o.Most == 0 && len(o.Moves) > 0:
		errs.Addf("most", "what it moves goes with its size: say the least and the most")
	case o.Most > 0 && len(o.Moves) == 0:
		errs.Addf("moves", "a size moves at least one figure")
	}
	if o.Part != "" && OwnPart(o.Part) == nil {
		errs.Addf("part", "what is the part called in the stock? %d letters at most, no commas", mostOwnPart)
	}
	for _, m := range o.Moves {
		known := slices.ContainsFunc(OwnMoved, func(c *Characteristic) bool { return c.Code == m.Of })
		if !known || m.Times != 1 && m.Times != -1 {
			errs.Addf("moves", "a figure of a valve goes up or down by the size")
		}
	}
	return errs
}

// Code writes the declaration as a code without spaces:
// "shop.Cap+tips;tip;assembly+bench;5+4;0..0.8;stem.height+,lash-", sizes in millimetres, and at its end
// the part where it uses one: ";hard+cap".
func (o OwnRepair) Code() string {
	var moves []string
	for _, m := range o.Moves {
		moves = append(moves, m.Of+map[bool]string{true: "+", false: "-"}[m.Times > 0])
	}
	slices.Sort(moves)
	size := ""
	if o.Most > 0 {
		size = o.Least.MM() + ".." + o.Most.MM()
	}
	parts := []string{
		url.QueryEscape(o.Name), url.QueryEscape(string(o.Works)), url.QueryEscape(o.Station),
		fmt.Sprintf("%d+%d", o.Setup, o.Each), size, strings.Join(moves, ","),
	}
	if o.Part != "" {
		parts = append(parts, url.QueryEscape(o.Part))
	}
	return ownPrefix + strings.Join(parts, ";")
}

// ParseOwnRepair reads a declaration as Code writes it.
func ParseOwnRepair(code string) (OwnRepair, error) {
	rest, own := strings.CutPrefix(code, ownPrefix)
	parts := strings.Split(rest, ";")
	if !own || len(parts) != 6 && len(parts) != 7 || len(code) > 1000 {
		return OwnRepair{}, fmt.Errorf("%q declares no repair", code)
	}
	var o OwnRepair
	var errs [8]error
	o.Name, errs[0] = url.QueryUnescape(parts[0])
	works, err := url.QueryUnescape(parts[1])
	o.Works, errs[1] = Metal(works), err
	o.Station, errs[2] = url.QueryUnescape(parts[2])
	o.Setup, o.Each, errs[3] = TwoMinutes(parts[3])
	if least, most, two := strings.Cut(parts[4], ".."); two {
		o.Least, errs[4] = length.Parse(least, length.MM)
		o.Most, errs[5] = length.Parse(most, length.MM)
	}
	for _, m := range strings.FieldsFunc(parts[5], func(r rune) bool { return r == ',' }) {
		of, sign := m[:len(m)-1], m[len(m)-1]
		times, ok := map[byte]int{'+': 1, '-': -1}[sign]
		if !ok {
			errs[6] = strconv.ErrSyntax
		}
		o.Moves = append(o.Moves, OwnMove{of, times})
	}
	if len(parts) == 7 {
		o.Part, errs[7] = url.QueryUnescape(parts[6])
	}
	if err := cmp.Or(errs[:]...); err != nil {
		return OwnRepair{}, err
	}
	if err := o.Check().Err(); err != nil {
		return OwnRepair{}, err
	}
	if o.Code() != code { // one declaration, one code
		return OwnRepair{}, fmt.Errorf("%q is not written as %q", code, o.Code())
	}
	return o, nil
}

// met are things of shops' own that the program has met, by what says all of them: the same is the
// same thing.
type met[T any] struct {
	sync.RWMutex
	by map[string]*T
}

// of returns what was met under a name, made where it is new; nil where that makes none, or too
// many were met.
func (m *met[T]) of(name string, made func() *T) *T {
	m.RLock()
	x := m.by[name]
	m.RUnlock()
	if x != nil {
		return x
	}
	if x = made(); x == nil {
		return nil
	}
	m.Lock()
	defer m.Unlock()
	if first := m.by[name]; first != nil || len(m.by) >= mostOwn {
		return first
	}
	m.by[name] = x
	return x
}

// Repairs by their code and kinds of parts by their name.
var (
	ownRepairs = met[Repair]{by: map[string]*Repair{}}
	ownParts   = met[PartKind]{by: map[string]*PartKind{}}
)

// ownRepair is the repair that a code declares, nil when it declares none.
func ownRepair(code string) *Repair {
	if !strings.HasPrefix(code, ownPrefix) {
		return nil
	}
	return ownRepairs.of(code, func() *Repair {
		o, err := ParseOwnRepair(code)
		if err != nil {
			return nil
		}
		return o.repair(code)
	})
}

// Own tells whether a shop has declared it itself.
func (r *Repair) Own() bool { return r.Does.Like != nil }

// repair is the declaration as the trade's own are declared.
func (o OwnRepair) repair(code string) *Repair {
	op := &Operation{
		Code:    code,
		Name:    o.Name,
		Station: o.Station,
		Stage:   ownStages[o.Works],
		Setup:   o.Setup,
		Each:    o.Each,
		Undoes:  proofs,
		Like:    ownLike[o.Works],
		Caution: "Declared by this shop: its maker's instructions and the shop's own rules hold.",
	}
	if o.Part != "" {
		op.Uses = OwnPart(o.Part)
	}
	r := &Repair{Code: code, Name: o.Name, Choice: o.Name, Works: o.Works, Does: op, Order: 90}
	if o.Most > 0 {
		least, most := quantity.OfLength(o.Least), quantity.OfLength(o.Most)
		op.Size = &Size{
			Label:   o.Name,
			Metal:   true,
			Scatter: cmp.Or(ownScatters[o.Works], "scatter.seat"),
			Least:   func(Case) quantity.Amount { return least },
			Most:    func(Case) quantity.Amount { return most },
		}
	}
	for _, m := range o.Moves {
		i := slices.IndexFunc(OwnMoved, func(c *Characteristic) bool { return c.Code == m.Of })
		c := OwnMoved[i]
		op.Moves = append(op.Moves, Move{c, m.Times, BySize})
		if c == Recession { // a valve that sits deeper is as much further from its piston
			op.Moves = append(op.Moves, Move{ValvePiston, m.Times, BySize})
		}
		op.Voids = append(op.Voids, c)
		r.Answers = append(r.Answers, Answer{Of: c, Side: map[bool]string{true: Low, false: High}[m.Times > 0]})
	}
	return r
}

// ownPart begins the code of a kind of part of the shop's own; mostOwnPart bounds its name, letters.
const (
	ownPart     = "own: "
	mostOwnPart = 40
)

// usualOwn is what a part of the shop's own is weighed by where no price is known, cents: about the middle
// of the trade's kinds.
const usualOwn = 1500

// OwnPart is the kind of part that a shop keeps under a name of its own, for its own repairs; the same name
// is the same kind. It is nil where the name is none: without letters, with commas, spaces around it or more
// than 40 letters.
func OwnPart(name string) *PartKind {
	if name == "" || name != strings.TrimSpace(name) || utf8.RuneCountInString(name) > mostOwnPart ||
		!utf8.ValidString(name) ||
		strings.ContainsFunc(name, func(r rune) bool { return r == ',' || unicode.IsControl(r) }) {
		return nil
	}
	return ownParts.of(name, func() *PartKind {
		return &PartKind{Code: ownPart + name, Name: name, Usual: usualOwn}
	})
}
