// Package judge turns readings into verdicts: every characteristic of every position
// against the limits of the head's sheet, with the reason and the doubt, up to the
// worst of a position and of the head. Head is its door. It also holds the tables of
// what can be read (Characteristics) and what can be done about it (RepairsFor).
package judge

import (
	"math/big"
	"strings"

	"yatai/core/field"
	"yatai/core/gauge"
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
	AtGrid     = "grid"     // at each point of the face's grid
	AtPair     = "pair"     // between the neighbouring valve heads of a cylinder
	AtHead     = "head"     // once for the head, or at the places named
)

// Wheres lists where a shop's own characteristic can be read.
var Wheres = []string{AtPosition, AtCylinder, AtJournal, AtHead}

// Characteristic is something that can be read off a head. Its Code is a key in files,
// limits and URLs and never changes. Values are whole nanometres, or whole millionths of
// Unit for what is not a length.
type Characteristic struct {
	Code     string
	Label    string
	Where    string
	Places   []string // within a position, spring end first
	Dirs     []string // A along the rocker's or cam's sweep, B across it
	Bracket  bool     // read with feelers: two leaves
	Low      length.Length
	High     length.Length // no head has a reading outside Low..High
	ToolKind string        // tool usually taken
	Derived  bool          // computed from others, not read
	OnSheet  bool          // wanted only where the model's sheet has a limit for it
	Unit     length.Unit   // of what is not a length; zero for a length
	Words    []string      // what fails, what passes: read as 0 and 1
	Feeds    string        // judged only through that derived characteristic
	LimitOf  string        // derived: judged by the limit of that
	Of       string        // derived: the difference of the largest and the smallest of that
}

const mm = length.Millimetre

// The units of what is not a length. Their Size is what a whole one counts.
var (
	Newton   = length.Unit{Name: "N", Size: mm}
	CC       = length.Unit{Name: "cc", Size: mm}
	Degree   = length.Unit{Name: "deg", Size: mm}
	KPa      = length.Unit{Name: "kPa", Size: mm}
	Minute   = length.Unit{Name: "min", Size: mm}
	Rough    = length.Unit{Name: "um Ra", Size: mm}
	Passes   = length.Unit{Name: "passes", Size: mm}
	PassFail = length.Unit{Name: "", Size: mm} // 1 when it passes, 0 when it does not
)

// Units are the units by name, for a shop's own characteristics; a length has none.
var Units = map[string]length.Unit{"length": {}, "N": Newton, "cc": CC, "deg": Degree, "kPa": KPa, "min": Minute}

// UnitFor is the unit c is read and shown in, u being the one for lengths.
func (c Characteristic) UnitFor(u length.Unit) length.Unit {
	if c.Unit.Size != 0 {
		return c.Unit
	}
	return u
}

var topMiddleBottom = []string{"top", "middle", "bottom"}

// Characteristics are the ones the bench reads, in the order they are read.
var Characteristics = []Characteristic{
	{Code: "guide.bore", Label: "Guide bore", Where: AtPosition, Places: topMiddleBottom, Dirs: []string{"A", "B"}, Low: 3 * mm, High: 40 * mm, ToolKind: "bore gauge", Feeds: "guide.clearance"},
	{Code: "stem.dia", Label: "Stem", Where: AtPosition, Places: topMiddleBottom, Low: 3 * mm, High: 40 * mm, ToolKind: "micrometer"},
	{Code: "guide.clearance", Label: "Guide clearance", Where: AtPosition, Derived: true},
	{Code: "guide.form", Label: "Guide form", Where: AtPosition, Derived: true},
	{Code: "seat.width", Label: "Seat width", Where: AtPosition, Low: mm / 10, High: 20 * mm, ToolKind: "caliper"},
	{Code: "seat.runout", Label: "Seat runout", Where: AtPosition, Low: 0, High: 2 * mm, ToolKind: "dial on pilot"},
	{Code: "valve.recession", Label: "Valve recession", Where: AtPosition, Low: -10 * mm, High: 20 * mm, ToolKind: "dial on bridge"},
	{Code: "recession.spread", Label: "Recession, spread of the row", Where: AtPosition, Derived: true, Of: "valve.recession"},
	{Code: "stem.height", Label: "Stem height", Where: AtPosition, Low: 5 * mm, High: 300 * mm, ToolKind: "height gauge"},
	{Code: "valve.margin", Label: "Margin", Where: AtPosition, Low: 0, High: 20 * mm, ToolKind: "caliper"},
	{Code: "guide.rock", Label: "Rock of the valve head", Where: AtPosition, Low: 0, High: 5 * mm, ToolKind: "dial indicator", OnSheet: true, Feeds: "guide.play"},
	{Code: "guide.play", Label: "Clearance by rocking", Where: AtPosition, Derived: true, LimitOf: "guide.clearance"},
	{Code: "guide.height", Label: "Guide height", Where: AtPosition, Low: 0, High: 100 * mm, ToolKind: "dial on bridge", OnSheet: true},
	{Code: "guide.depth", Label: "Guide depth from the face", Where: AtPosition, Low: 0, High: 300 * mm, ToolKind: "dial on bridge", OnSheet: true},
	{Code: "guide.hole", Label: "Hole for the guide", Where: AtPosition, Low: 5 * mm, High: 60 * mm, ToolKind: "bore gauge", OnSheet: true, Feeds: "guide.fit"},
	{Code: "guide.outer", Label: "Guide outside", Where: AtPosition, Low: 5 * mm, High: 60 * mm, ToolKind: "micrometer", OnSheet: true, Feeds: "guide.fit"},
	{Code: "guide.fit", Label: "Guide interference", Where: AtPosition, Derived: true},
	{Code: "valve.head", Label: "Valve head", Where: AtPosition, Low: 8 * mm, High: 200 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "valve.length", Label: "Valve length", Where: AtPosition, Low: 30 * mm, High: 500 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "valve.tip", Label: "Groove to tip", Where: AtPosition, Low: 0, High: 60 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "valve.runout", Label: "Valve runout", Where: AtPosition, Low: 0, High: 5 * mm, ToolKind: "dial on pilot", OnSheet: true},
	{Code: "valve.face_angle", Label: "Valve face angle", Where: AtPosition, Low: 10 * mm, High: 80 * mm, ToolKind: "protractor", OnSheet: true, Unit: Degree},
	{Code: "seat.angle", Label: "Seat angle", Where: AtPosition, Low: 10 * mm, High: 80 * mm, ToolKind: "protractor", OnSheet: true, Unit: Degree},
	{Code: "seat.position", Label: "Ring inside the valve's edge", Where: AtPosition, Low: -5 * mm, High: 10 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "seat.room", Label: "Room to the insert's edge", Where: AtPosition, Low: 0, High: 20 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "seat.hole", Label: "Hole for the insert", Where: AtPosition, Low: 8 * mm, High: 250 * mm, ToolKind: "bore gauge", OnSheet: true, Feeds: "seat.fit"},
	{Code: "seat.outer", Label: "Insert outside", Where: AtPosition, Low: 8 * mm, High: 250 * mm, ToolKind: "micrometer", OnSheet: true, Feeds: "seat.fit"},
	{Code: "seat.fit", Label: "Insert interference", Where: AtPosition, Derived: true},
	{Code: "spring.height", Label: "Spring installed height", Where: AtPosition, Low: 10 * mm, High: 150 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "spring.free", Label: "Spring free length", Where: AtPosition, Low: 10 * mm, High: 200 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "spring.square", Label: "Spring lean", Where: AtPosition, Low: 0, High: 20 * mm, ToolKind: "square and feeler", OnSheet: true},
	{Code: "spring.load_seat", Label: "Spring load, installed", Where: AtPosition, Low: 1 * mm, High: 9000 * mm, ToolKind: "spring tester", OnSheet: true, Unit: Newton},
	{Code: "spring.load_open", Label: "Spring load, open", Where: AtPosition, Low: 1 * mm, High: 9000 * mm, ToolKind: "spring tester", OnSheet: true, Unit: Newton},
	{Code: "spring.spread", Label: "Spring load, spread of the set", Where: AtPosition, Derived: true, Of: "spring.load_seat", Unit: Newton},
	{Code: "spring.pad", Label: "Spring pad depth", Where: AtPosition, Low: 0, High: 200 * mm, ToolKind: "dial on bridge", OnSheet: true},
	{Code: "bucket.clearance", Label: "Bucket clearance", Where: AtPosition, Low: 0, High: mm, ToolKind: "bore gauge", OnSheet: true},
	{Code: "shim.size", Label: "Lash shim fitted", Where: AtPosition, Low: mm / 2, High: 20 * mm, ToolKind: "micrometer", OnSheet: true},
	{Code: "port.depth", Label: "Port depth from the face", Where: AtPosition, Low: 0, High: 300 * mm, ToolKind: "dial on bridge", OnSheet: true},
	{Code: "seal.stem", Label: "Seal's bore on the stem", Where: AtPosition, Low: 2 * mm, High: 40 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "seal.guide", Label: "Seal's bore on the guide", Where: AtPosition, Low: 4 * mm, High: 60 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "rocker.pad", Label: "Rocker pad wear", Where: AtPosition, Low: 0, High: 5 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "rocker.bush", Label: "Rocker bush clearance", Where: AtPosition, Low: 0, High: 2 * mm, ToolKind: "bore gauge", OnSheet: true},
	{Code: "rocker.adjuster", Label: "Adjuster thread showing", Where: AtPosition, Low: 0, High: 40 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "pushrod.length", Label: "Pushrod length", Where: AtPosition, Low: 20 * mm, High: 900 * mm, ToolKind: "height gauge", OnSheet: true},
	{Code: "pushrod.runout", Label: "Pushrod runout", Where: AtPosition, Low: 0, High: 5 * mm, ToolKind: "dial indicator", OnSheet: true},
	{Code: "lash", Label: "Lash", Where: AtPosition, Bracket: true, Low: 0, High: 5 * mm, ToolKind: "feelers", OnSheet: true},
	{Code: "lash.dry", Label: "Lash, lifter collapsed", Where: AtPosition, Bracket: true, Low: 0, High: 8 * mm, ToolKind: "feelers", OnSheet: true},
	{Code: "valve.gap", Label: "Gap between valve heads", Where: AtPair, Bracket: true, Low: 0, High: 50 * mm, ToolKind: "feelers", OnSheet: true},
	{Code: "head.thickness", Label: "Head thickness", Where: AtCorner, Low: 20 * mm, High: 600 * mm, ToolKind: "micrometer"},
	{Code: "head.taper", Label: "Thickness, taper", Where: AtCorner, Derived: true, Of: "head.thickness"},
	{Code: "face.line", Label: "Face under straightedge", Where: AtLine, Bracket: true, Low: 0, High: 5 * mm, ToolKind: "feelers"},
	{Code: "face.grid", Label: "Face heights on the plate", Where: AtGrid, Low: -5 * mm, High: 5 * mm, ToolKind: "plate and dial", OnSheet: true, Feeds: "face.flatness"},
	{Code: "face.flatness", Label: "Face, minimum zone", Where: AtGrid, Derived: true},
	{Code: "face.finish", Label: "Face roughness", Where: AtHead, Low: 0, High: 50 * mm, ToolKind: "roughness comparator", OnSheet: true, Unit: Rough},
	{Code: "manifold.line", Label: "Manifold face under straightedge", Where: AtHead, Places: []string{"intake", "exhaust"}, Bracket: true, Low: 0, High: 5 * mm, ToolKind: "feelers", OnSheet: true},
	{Code: "cover.line", Label: "Cover rail under straightedge", Where: AtHead, Places: []string{"left", "right"}, Bracket: true, Low: 0, High: 5 * mm, ToolKind: "feelers", OnSheet: true},
	{Code: "chamber.volume", Label: "Chamber volume", Where: AtCylinder, Low: 1 * mm, High: 3000 * mm, ToolKind: "burette", OnSheet: true, Unit: CC},
	{Code: "chamber.spread", Label: "Chamber volume, spread", Where: AtCylinder, Derived: true, Of: "chamber.volume", Unit: CC},
	{Code: "injector.protrusion", Label: "Injector protrusion", Where: AtCylinder, Low: -5 * mm, High: 15 * mm, ToolKind: "dial on bridge", OnSheet: true},
	{Code: "plug.seat", Label: "Plug seat depth", Where: AtCylinder, Low: 0, High: 150 * mm, ToolKind: "dial on bridge", OnSheet: true},
	{Code: "register.depth", Label: "Barrel register depth", Where: AtCylinder, Places: []string{"front", "right", "back", "left"}, Low: 0, High: 60 * mm, ToolKind: "dial on bridge", OnSheet: true},
	{Code: "cam.bore", Label: "Cam bore", Where: AtJournal, Dirs: []string{"A", "B"}, Low: 10 * mm, High: 120 * mm, ToolKind: "bore gauge", OnSheet: true},
	{Code: "cam.clearance", Label: "Cam clearance by strip", Where: AtJournal, Low: 0, High: mm, ToolKind: "gauging strip", OnSheet: true},
	{Code: "test.baseline", Label: "Vacuum, cup blanked", Where: AtHead, Low: mm, High: 101 * mm, ToolKind: "vacuum tester", OnSheet: true, Unit: KPa, Feeds: "test.vacuum"},
	{Code: "test.vacuum", Label: "Vacuum, valve turned", Where: AtPosition, Places: []string{"0", "90", "180", "270"}, Low: 0, High: 101 * mm, ToolKind: "vacuum tester", OnSheet: true, Unit: KPa, Feeds: "seal.vacuum"},
	{Code: "seal.vacuum", Label: "Vacuum lost from the day's baseline", Where: AtPosition, Derived: true, Unit: KPa},
	{Code: "test.liquid", Label: "Liquid held", Where: AtPosition, Low: 0, High: 600 * mm, ToolKind: "clock", OnSheet: true, Unit: Minute},
	{Code: "test.drop", Label: "Dropped valve", Where: AtPosition, Low: 0, High: mm, ToolKind: "ear", OnSheet: true, Unit: PassFail, Words: []string{"thuds", "bounces"}},
	{Code: "lap.log", Label: "Lapping passes", Where: AtPosition, Places: []string{"coarse", "fine"}, Low: 0, High: 99 * mm, ToolKind: "eye", OnSheet: true, Unit: Passes},
	{Code: "lap.ring", Label: "Ring after lapping", Where: AtPosition, Low: 0, High: mm, ToolKind: "eye", OnSheet: true, Unit: PassFail, Words: []string{"gaps", "full"}},
}

// ByCode returns the characteristic with that code.
func ByCode(code string) (Characteristic, bool) {
	i, ok := numbered[code]
	if !ok {
		return Characteristic{}, false
	}
	return Characteristics[i], true
}

// numbered finds a characteristic's place in Characteristics by its code.
var numbered = func() map[string]int {
	out := make(map[string]int, len(Characteristics))
	for i, c := range Characteristics {
		out[c.Code] = i
	}
	return out
}()

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

// SpotOf reads a key as Key writes it.
func SpotOf(key string) Spot {
	var s Spot
	s.Position, key, _ = strings.Cut(key, ".")
	s.Place, s.Dir, _ = strings.Cut(key, ".")
	return s
}

// Spots lists where c is read on a head, in the head's order.
func (c Characteristic) Spots(l layout.Layout) []Spot {
	var names []string
	switch c.Where {
	case AtPosition:
		for _, v := range l.Valves {
			names = append(names, v.ID)
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
	case AtGrid:
		for _, v := range l.Grid() {
			names = append(names, v.Name)
		}
	case AtPair:
		names = l.Pairs()
	case AtHead:
		names = []string{"H"}
	}
	orEmpty := func(s []string) []string {
		if len(s) == 0 {
			return []string{""}
		}
		return s
	}
	var out []Spot
	for _, n := range names {
		for _, p := range orEmpty(c.Places) {
			for _, d := range orEmpty(c.Dirs) {
				out = append(out, Spot{n, p, d})
			}
		}
	}
	return out
}

// Read reads what was typed for c on a sheet kept in unit. A bracket is two leaves
// apart by a space or a slash, "0.05 0.06"; one leaf alone, "0.03", means that it does
// not go and none thinner does. A value no head can have is refused; one that would
// make sense in the other unit is questioned.
func (c Characteristic) Read(text string, unit length.Unit) (gauge.Value, error) {
	unit = c.UnitFor(unit)
	if c.Words != nil {
		return c.word(text)
	}
	if !c.Bracket {
		l, err := c.one(text, unit)
		return gauge.Exact(l), err
	}
	goes, nogo, two := cutBracket(text)
	if !two {
		l, err := c.one(text, unit)
		if err == nil && l <= 0 {
			err = field.Errorf("", "the leaf that does not go must have a thickness")
		}
		return gauge.Between(0, l), err
	}
	lo, err := c.one(goes, unit)
	if err != nil {
		return gauge.Value{}, err
	}
	hi, err := c.one(nogo, unit)
	if err != nil {
		return gauge.Value{}, err
	}
	if hi <= lo {
		return gauge.Value{}, field.Errorf("", "first the largest leaf that goes, then the smallest that does not")
	}
	return gauge.Between(lo, hi), nil
}

// word reads what passes or fails: "+" or 1, "-" or 0, or the word itself or its first letter.
func (c Characteristic) word(text string) (gauge.Value, error) {
	text = strings.ToLower(strings.TrimSpace(text))
	for i, w := range c.Words {
		if text == w || text == w[:1] || text == []string{"-", "+"}[i] || text == []string{"0", "1"}[i] {
			return gauge.Exact(length.Length(i) * mm), nil
		}
	}
	return gauge.Value{}, field.Errorf("", "+ or %s when it passes, - or %s when it does not", c.Words[1], c.Words[0])
}

// quantities are how the units that are not lengths may be typed.
var quantities = map[string]quantity.Kind{"N": quantity.Force, "cc": quantity.Volume, "kPa": quantity.Pressure, "deg": quantity.Angle}

// Parse reads one number of c's unit; bare is what a number without a unit means.
func (c Characteristic) Parse(text string, bare length.Unit) (length.Length, error) {
	if c.Unit.Size == 0 {
		return length.Parse(text, bare)
	}
	n, rest, err := length.Number(text)
	if err != nil {
		return 0, err
	}
	if kind, known := quantities[c.Unit.Name]; known && rest != "" {
		if n, err = quantity.Parse(text, kind); err != nil {
			return 0, err
		}
	} else if rest != "" && rest != c.Unit.Name {
		return 0, field.Errorf("", "it is read in %s", c.Unit.Name)
	}
	if limit := new(big.Rat).SetInt64(1_000_000); new(big.Rat).Abs(n).Cmp(limit) > 0 {
		return 0, field.Errorf("", "no head has that")
	}
	return length.Round(n.Mul(n, c.Unit.Size.Rat())), nil
}

func (c Characteristic) one(text string, unit length.Unit) (length.Length, error) {
	l, err := c.Parse(text, unit)
	if err != nil {
		return 0, field.Under("", err)
	}
	if l >= c.Low && l <= c.High {
		return l, nil
	}
	other := length.In
	if unit == length.In {
		other = length.MM
	}
	if o, err := length.Parse(text, other); err == nil && c.Unit.Size == 0 && o >= c.Low && o <= c.High && o != l {
		return 0, field.Errorf("", "%s is no size for this, but %s %s would be: write the unit", unit.Text(l), text, other.Name)
	}
	return 0, field.Errorf("", "%s is no size for this: it lies between %s and %s", unit.Text(l), unit.Text(c.Low), unit.Text(c.High))
}

// Show writes a value of c in a unit for lengths, without the unit: "0.034", "bounces".
func (c Characteristic) Show(l length.Length, u length.Unit) string {
	if c.Words != nil {
		return c.Words[min(1, max(0, int(l/mm)))]
	}
	u = c.UnitFor(u)
	return u.In(l, u.Places())
}
