// Package judge turns readings into verdicts: every characteristic of every position
// against the limits of the head's sheet, with the reason and the doubt, up to the
// worst of a position and of the head. Head is its door. It also holds the tables of
// what can be read (Characteristics) and what can be done about it (RepairsFor).
package judge

import (
	"slices"
	"strings"

	"headwright/core/field"
	"headwright/core/gauge"
	"headwright/core/layout"
	"headwright/core/length"
)

// Where a characteristic is read.
const (
	AtPosition = "position" // at each valve
	AtLine     = "line"     // along each straightedge line
	AtCorner   = "corner"   // at each place where the thickness is read
)

// Characteristic is something that can be read off a head. Its Code is a key in files,
// limits and URLs and never changes.
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
}

const mm = length.Millimetre

// Characteristics are the ones the bench reads, in the order they are read.
var Characteristics = []Characteristic{
	{Code: "guide.bore", Label: "Guide bore", Where: AtPosition, Places: []string{"top", "middle", "bottom"}, Dirs: []string{"A", "B"}, Low: 3 * mm, High: 40 * mm, ToolKind: "bore gauge"},
	{Code: "stem.dia", Label: "Stem", Where: AtPosition, Places: []string{"top", "middle", "bottom"}, Low: 3 * mm, High: 40 * mm, ToolKind: "micrometer"},
	{Code: "guide.clearance", Label: "Guide clearance", Where: AtPosition, Derived: true},
	{Code: "seat.width", Label: "Seat width", Where: AtPosition, Low: mm / 10, High: 20 * mm, ToolKind: "caliper"},
	{Code: "seat.runout", Label: "Seat runout", Where: AtPosition, Low: 0, High: 2 * mm, ToolKind: "dial on pilot"},
	{Code: "valve.recession", Label: "Valve recession", Where: AtPosition, Low: -10 * mm, High: 20 * mm, ToolKind: "dial on bridge"},
	{Code: "stem.height", Label: "Stem height", Where: AtPosition, Low: 5 * mm, High: 300 * mm, ToolKind: "height gauge"},
	{Code: "valve.margin", Label: "Margin", Where: AtPosition, Low: 0, High: 20 * mm, ToolKind: "caliper"},
	{Code: "guide.height", Label: "Guide height", Where: AtPosition, Low: 0, High: 100 * mm, ToolKind: "dial on bridge", OnSheet: true},
	{Code: "valve.head", Label: "Valve head", Where: AtPosition, Low: 8 * mm, High: 200 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "valve.length", Label: "Valve length", Where: AtPosition, Low: 30 * mm, High: 500 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "valve.runout", Label: "Valve runout", Where: AtPosition, Low: 0, High: 5 * mm, ToolKind: "dial on pilot", OnSheet: true},
	{Code: "seat.position", Label: "Ring inside the valve's edge", Where: AtPosition, Low: -5 * mm, High: 10 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "seat.room", Label: "Room to the insert's edge", Where: AtPosition, Low: 0, High: 20 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "spring.height", Label: "Spring installed height", Where: AtPosition, Low: 10 * mm, High: 150 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "spring.free", Label: "Spring free length", Where: AtPosition, Low: 10 * mm, High: 200 * mm, ToolKind: "caliper", OnSheet: true},
	{Code: "spring.pad", Label: "Spring pad depth", Where: AtPosition, Low: 0, High: 200 * mm, ToolKind: "dial on bridge", OnSheet: true},
	{Code: "bucket.clearance", Label: "Bucket clearance", Where: AtPosition, Low: 0, High: mm, ToolKind: "bore gauge", OnSheet: true},
	{Code: "port.depth", Label: "Port depth from the face", Where: AtPosition, Low: 0, High: 300 * mm, ToolKind: "dial on bridge", OnSheet: true},
	{Code: "lash", Label: "Lash", Where: AtPosition, Bracket: true, Low: 0, High: 5 * mm, ToolKind: "feelers", OnSheet: true},
	{Code: "head.thickness", Label: "Head thickness", Where: AtCorner, Low: 20 * mm, High: 600 * mm, ToolKind: "micrometer"},
	{Code: "face.line", Label: "Face under straightedge", Where: AtLine, Bracket: true, Low: 0, High: 5 * mm, ToolKind: "feelers"},
}

// ByCode returns the characteristic with that code.
func ByCode(code string) (Characteristic, bool) {
	i := slices.IndexFunc(Characteristics, func(c Characteristic) bool { return c.Code == code })
	if i < 0 {
		return Characteristic{}, false
	}
	return Characteristics[i], true
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

func (c Characteristic) one(text string, unit length.Unit) (length.Length, error) {
	l, err := length.Parse(text, unit)
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
	if o, err := length.Parse(text, other); err == nil && o >= c.Low && o <= c.High && o != l {
		return 0, field.Errorf("", "%s is no size for this, but %s %s would be: write the unit", unit.Text(l), text, other.Name)
	}
	return 0, field.Errorf("", "%s is no size for this: it lies between %s and %s", unit.Text(l), unit.Text(c.Low), unit.Text(c.High))
}
