// Package trade is what the trade knows, one declaration for each thing: the kinds of heads,
// what can be read on them (Characteristic), what eyes can see (Part with its Grades), what
// can be done about a finding (Repair, with the rule that allows it), the work (Operation,
// with what comes before it, its record and its proof), the parts it uses, the figures a
// sheet gives, the symptoms an owner tells, and the causes with their signs.
//
// Every table here is read by the judgement, the planner, the gate, the price, the pages and
// the head file; none of them has a list of its own. A thing is added by one value in one
// file; TestTables tells what it still lacks. Values refer to each other by pointer, so that
// the compiler checks them. Repairs name the findings they answer, operations the
// characteristics they change; characteristics name nothing but what they are made of.
package trade

import (
	"cmp"
	"slices"
	"strings"

	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
)

// Where a characteristic is read.
const (
	AtPosition = "position" // at each valve
	AtLine     = "line"     // along each straightedge line
	AtCorner   = "corner"   // at each place where the thickness is read
	AtCylinder = "cylinder" // at each cylinder
	AtJournal  = "journal"  // at each cam bearing, from the first cylinder's end
	AtShaft    = "shaft"    // at each camshaft
	AtGrid     = "grid"     // at each point of the face's grid
	AtPair     = "pair"     // between the neighbouring valve heads of a cylinder
	AtHead     = "head"     // once for the head, or at the places named
)

// Wheres lists where a shop's own characteristic can be read.
var Wheres = []string{AtPosition, AtCylinder, AtJournal, AtHead}

// Section is a part of the sheet and of the bench's list, in the order heads are read.
type Section int

// The sections.
const (
	Guides Section = iota
	Seats
	Valves
	Springs
	Drive
	Face
	Chambers
	Cam
	Pistons
	Tests
	Own // the shop's own
)

var sectionNames = [...]string{
	"Guides and stems", "Seats", "Valves", "Springs", "Valve drive", "Face and thickness", "Chambers",
	"Camshafts",
	"Pistons and bores", "Tests", "The shop's own",
}

func (s Section) String() string { return sectionNames[s] }

// Characteristic is something that can be read off a head, or is derived from what was. Its
// Code is a key in files, limits and URLs and never changes. Values are whole nanometres, or
// whole millionths of Unit for what is not a length.
type Characteristic struct {
	Code     string
	Label    string
	Line     string // what it is and how it is read, for who asks
	Section  Section
	Where    string
	Places   []string // within a position, spring end first
	Least    int      // how many of its places are enough; 0: all of them
	Dirs     []string // A along the rocker's or cam's sweep, B across it
	Bracket  bool     // read with feelers: two leaves
	Low      quantity.Amount
	High     quantity.Amount // no head has a reading outside Low..High
	Tools    []string        // kinds of tools it is read with, the usual one first
	OnSheet  bool            // wanted only where the model's sheet has a limit for it
	Common   bool            // nearly every maker's sheet has a limit for it: typed first
	Unit     quantity.Unit   // of what is not a length; zero for a length
	Kinds    bool            // it tells kinds apart: a new part is of the old one's kind
	Words    []string        // what fails, what passes: read as 0 and 1
	On       func(Kind) bool
	NoLimit  bool     // it has none of its own: only what is derived from it is judged
	Answers  []string // of a shop's own: codes of the repairs that answer it
	NoAnswer string   // why nothing can be done about it when it is out; "" when something can
	Gasket   bool     // read over the head's gasket: it grows as that is thicker
	Told     bool     // out it is told and left by the lead: no plan of the head waits for it

	From    []*Characteristic // derived: what it is made of; the first names the tools that settle it
	Bridge  bridging          // where it is on heads with bridges
	Work    Work              // derived at each place: how; nil for what is read or a spread
	Always  bool              // derived: shown without a limit of its own
	LimitOf *Characteristic   // derived: judged by the limit of that
	Of      *Characteristic   // derived: the difference of the largest and the smallest of that
}

// Derived tells whether it is computed from others and never read.
func (c Characteristic) Derived() bool {
	return c.Of != nil || len(c.From) > 0 && c.Places == nil && c.Tools == nil
}

// ToolKind is the kind of tool usually taken, "" for what is derived.
func (c Characteristic) ToolKind() string {
	if len(c.Tools) == 0 {
		return ""
	}
	return c.Tools[0]
}

// Exists tells whether heads of kind k have it.
func (c Characteristic) Exists(k Kind) bool { return c.On == nil || c.On(k) }

// A millimetre and a micrometre, for the tables here.
const (
	mm = quantity.One
	um = mm / 1000
)

// The units of what is not a length. Their Size is what a whole one counts.
var (
	Newton   = quantity.Unit{Name: "N", Size: mm}
	CC       = quantity.Unit{Name: "cc", Size: mm}
	Degree   = quantity.Unit{Name: "deg", Size: mm}
	KPa      = quantity.Unit{Name: "kPa", Size: mm}
	Minute   = quantity.Unit{Name: "min", Size: mm, Digits: quantity.None}
	Rough    = quantity.Unit{Name: "um Ra", Size: mm}
	Passes   = quantity.Unit{Name: "passes", Size: mm, Digits: quantity.None}
	PassFail = quantity.Unit{Name: "", Size: mm}            // 1 when it passes, 0 when it does not
	Ratio    = quantity.Unit{Name: "", Size: mm, Digits: 2} // a bare number
	Number   = quantity.Unit{Name: "", Size: mm, Digits: quantity.None}
	Percent  = quantity.Unit{Name: "%", Size: mm}
	SquareMM = quantity.Unit{Name: "mm2", Size: mm}
)

// Units are the units by name, for a shop's own characteristics; a length has none.
var Units = map[string]quantity.Unit{
	"length": {}, "N": Newton, "cc": CC, "deg": Degree, "kPa": KPa, "min": Minute,
}

// UnitFor is the unit c is read and shown in, u being the one for lengths.
func (c Characteristic) UnitFor(u length.Unit) quantity.Unit { return c.Unit.Or(u) }

var topMiddleBottom = []string{"top", "middle", "bottom"}

var characteristics []*Characteristic

// characteristic declares one.
func characteristic(c Characteristic) *Characteristic {
	characteristics = append(characteristics, &c)
	return &c
}

// Characteristics are all of the trade's, in the order they are read.
var Characteristics []Characteristic

// numbered finds a characteristic's place in Characteristics by its code.
var numbered = map[string]int{}

func init() {
	slices.SortStableFunc(
		characteristics, func(a, b *Characteristic) int { return cmp.Compare(a.Section, b.Section) },
	)
	for i, c := range characteristics {
		Characteristics = append(Characteristics, *c)
		numbered[c.Code] = i
	}
}

// ByCode returns the characteristic with that code.
func ByCode(code string) (Characteristic, bool) {
	i, ok := numbered[code]
	if !ok {
		return Characteristic{}, false
	}
	return Characteristics[i], true
}

// Feeds is the code of what c is judged by when it has no limit of its own, "" else.
func (c Characteristic) Feeds() string {
	if !c.NoLimit {
		return ""
	}
	for _, d := range characteristics {
		for _, from := range d.From {
			if from.Code == c.Code {
				return d.Code
			}
		}
	}
	return ""
}

// Together lists the codes whose readings are judged with those of code: what is derived
// from both.
func Together(code string) []string {
	out := []string{code}
	for _, d := range characteristics {
		if !slices.ContainsFunc(d.From, func(f *Characteristic) bool { return f.Code == code }) {
			continue
		}
		for _, f := range d.From {
			if !slices.Contains(out, f.Code) {
				out = append(out, f.Code)
			}
		}
	}
	return out
}

// Proves lists what has to be read so that code is known: itself, or what it is made of.
func (c Characteristic) Proves() []*Characteristic {
	switch {
	case c.Of != nil:
		return []*Characteristic{c.Of}
	case c.Derived():
		return c.From
	}
	return []*Characteristic{&c}
}

// Spot is one place to read: position or line or corner, place and direction.
type Spot struct {
	Position string // "2E1"; the line's or corner's name for a characteristic of the head
	Place    string
	Dir      string
}

// Key writes the spot as one word: "2E1.top.A".
func (s Spot) Key() string {
	k := s.Position
	if s.Place != "" {
		k += "." + s.Place
	}
	if s.Dir != "" {
		k += "." + s.Dir
	}
	return k
}

// At writes where within its position, or which line, a spot is.
func (s Spot) At() string {
	if s.Place == "" {
		return s.Position
	}
	return s.Within()
}

// Within writes where within its position a spot is, empty when there is one only.
func (s Spot) Within() string { return strings.TrimSpace(s.Place + " " + s.Dir) }

// SpotOf reads a key as Key writes it.
func SpotOf(key string) Spot {
	var s Spot
	s.Position, key, _ = strings.Cut(key, ".")
	if s.Place, s.Dir, _ = strings.Cut(key, "."); s.Dir == "" && slices.Contains(bothWays, s.Place) {
		s.Place, s.Dir = "", s.Place // read two ways at one place: "J2.A"
	}
	return s
}

// bothWays are the directions a bore is read in: A along the rocker's or cam's sweep, B across
// it.
var bothWays = []string{"A", "B"}

// Positions lists where c is read on a head, in the head's order, places apart.
func (c Characteristic) Positions(l layout.Layout) []string {
	var names []string
	switch c.Where {
	case AtPosition:
		for _, v := range l.Valves {
			if c.Bridge.at(l, v.ID) {
				names = append(names, v.ID)
			}
		}
	case AtLine:
		for _, v := range l.Lines {
			names = append(names, v.Name)
		}
	case AtCorner:
		for _, v := range l.Corners {
			names = append(names, v.Name)
		}
	case AtCylinder:
		for _, v := range l.Chambers {
			names = append(names, "C"+v.Name)
		}
	case AtJournal:
		names = l.Journals()
	case AtShaft:
		names = l.Shafts()
	case AtGrid:
		for _, v := range l.Grid() {
			names = append(names, v.Name)
		}
	case AtPair:
		names = l.Pairs()
	case AtHead:
		names = []string{"H"}
	}
	return names
}

// Here tells whether c, of what is read at valves, is read at this one: see Bridge.
func (c Characteristic) Here(l layout.Layout, id string) bool { return c.Bridge.at(l, id) }

// Rank orders the spots of one position as c lists its places and directions: a smaller one first.
func (c Characteristic) Rank(s Spot) int {
	return (slices.Index(c.Places, s.Place)+1)*(len(c.Dirs)+1) + slices.Index(c.Dirs, s.Dir) + 1
}

// Spots lists the places where c is read on a head, in the head's order.
func (c Characteristic) Spots(l layout.Layout) []Spot {
	orEmpty := func(s []string) []string {
		if len(s) == 0 {
			return []string{""}
		}
		return s
	}
	var out []Spot
	for _, n := range c.Positions(l) {
		for _, p := range orEmpty(c.Places) {
			for _, d := range orEmpty(c.Dirs) {
				out = append(out, Spot{n, p, d})
			}
		}
	}
	return out
}
