// Package layout describes where things are on a head's face: chambers, valves, bolts,
// plugs, water holes and the lines a straightedge is laid along. Every list, map and
// sheet follows a layout's order. Inline makes one for a regular head in a row.
//
// Coordinates are from the face's lower left corner, x along the head and y across it,
// the face towards the viewer as it lies on the bench.
package layout

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/words"
)

// Role is what a valve is for.
type Role string

// The roles.
const (
	Intake  Role = "intake"
	Exhaust Role = "exhaust"
)

// Letter is the role's letter in a position's name.
func (r Role) Letter() string { return map[Role]string{Intake: "I", Exhaust: "E"}[r] }

// Valve is one valve's place. ID is cylinder, role, index: "2E1".
type Valve struct {
	ID       string        `json:"id"`
	Cylinder int           `json:"cylinder"`
	Role     Role          `json:"role"`
	X        length.Length `json:"x"`
	Y        length.Length `json:"y"`
	Head     length.Length `json:"head"` // valve head diameter
}

// Spot is a round thing on the face, by its middle and diameter.
type Spot struct {
	Name string        `json:"name,omitempty"`
	X    length.Length `json:"x"`
	Y    length.Length `json:"y"`
	D    length.Length `json:"d"`
}

// Line is where a straightedge is laid. Kind is long, cross or diagonal.
type Line struct {
	Name string        `json:"name"`
	Kind string        `json:"kind"`
	X1   length.Length `json:"x1"`
	Y1   length.Length `json:"y1"`
	X2   length.Length `json:"x2"`
	Y2   length.Length `json:"y2"`
}

// Layout is a head's face.
type Layout struct {
	Length    length.Length `json:"length"`
	Width     length.Length `json:"width"`
	Chambers  []Spot        `json:"chambers"`
	Valves    []Valve       `json:"valves"`
	Bolts     []Spot        `json:"bolts"`
	Plugs     []Spot        `json:"plugs,omitempty"`
	Injectors []Spot        `json:"injectors,omitempty"`
	// 2: one for the intakes, one for the exhausts; else one
	Camshafts int `json:"camshafts,omitempty"`
	// where a rocker works two valves through a bridge: Guided or Floating; "" for none
	Bridges string `json:"bridges,omitempty"`
	Water   []Spot `json:"water,omitempty"`
	Lines   []Line `json:"lines"`
	Corners []Spot `json:"corners"` // places where the thickness is read
}

// Valve returns the valve at a position.
func (l Layout) Valve(id string) (Valve, bool) {
	i := slices.IndexFunc(l.Valves, func(v Valve) bool { return v.ID == id })
	if i < 0 {
		return Valve{}, false
	}
	return l.Valves[i], true
}

// Line returns the straightedge line of that name.
func (l Layout) Line(name string) (Line, bool) {
	i := slices.IndexFunc(l.Lines, func(v Line) bool { return v.Name == name })
	if i < 0 {
		return Line{}, false
	}
	return l.Lines[i], true
}

// Shafts names the camshafts: A, or A for the intakes and B for the exhausts.
func (l Layout) Shafts() []string {
	if l.Camshafts == 2 {
		return []string{"A", "B"}
	}
	return []string{"A"}
}

// Journals names the cam bearings from the first cylinder's end, one more on each shaft than there are
// cylinders: J1, J2; by their shaft where there are two: A1, A2, B1.
func (l Layout) Journals() []string {
	var out []string
	for _, shaft := range l.Shafts() {
		if l.Camshafts != 2 {
			shaft = "J"
		}
		for i := range len(l.Chambers) + 1 {
			out = append(out, fmt.Sprintf("%s%d", shaft, i+1))
		}
	}
	return out
}

// ShaftOf names the camshaft that a position hangs on: its own, a journal's or a valve's.
func (l Layout) ShaftOf(position string) string {
	if l.Camshafts == 2 {
		if v, ok := l.Valve(position); ok && v.Role == Exhaust || !ok && strings.HasPrefix(position, "B") {
			return "B"
		}
	}
	return "A"
}

// The kinds of bridges: on a pin of the head, or on their valves alone.
const (
	Guided   = "guided"
	Floating = "floating"
)

// BridgeAt is the bridge over a valve: its fixed valve, the first of the two of a role in a
// cylinder, by which it is named, and the other. ok is false where no bridge is.
func (l Layout) BridgeAt(id string) (fixed, other string, ok bool) {
	v, known := l.Valve(id)
	if l.Bridges == "" || !known {
		return "", "", false
	}
	var pair []string
	for _, o := range l.Valves {
		if o.Cylinder == v.Cylinder && o.Role == v.Role {
			pair = append(pair, o.ID)
		}
	}
	if len(pair) != 2 {
		return "", "", false
	}
	return pair[0], pair[1], true
}

// Pairs names the gaps between valves of a cylinder that lie nearest each other:
// "1I1-1E1". Each valve is in one of them at least.
func (l Layout) Pairs() []string {
	var out []string
	for i, a := range l.Valves {
		best, least := -1, math.Inf(1)
		for k, b := range l.Valves {
			gap := math.Hypot((a.X-b.X).Millimetres(), (a.Y-b.Y).Millimetres()) - (a.Head+b.Head).Millimetres()/2
			if k != i && a.Cylinder == b.Cylinder && gap < least {
				best, least = k, gap
			}
		}
		if best < 0 {
			continue
		}
		name := l.Valves[min(i, best)].ID + "-" + l.Valves[max(i, best)].ID
		if !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return out
}

// ValvesAt returns the valves a position names: both of a pair, else the position itself.
func (l Layout) ValvesAt(position string) []string {
	if one, other, ok := strings.Cut(position, "-"); ok && slices.Contains(l.Pairs(), position) {
		return []string{one, other}
	}
	return []string{position}
}

// Grid is where the face's height is read on a surface plate: three rows along the head,
// at the ends and between the cylinders, and beside each cylinder in the outer rows.
func (l Layout) Grid() []Spot {
	var xs []length.Length
	for _, line := range l.Lines {
		if line.Kind == "cross" {
			xs = append(xs, line.X1)
		}
	}
	var out []Spot
	rows := []length.Length{l.Width / 20, l.Width / 2, l.Width - l.Width/20}
	for i, y := range rows {
		at := slices.Clone(xs)
		if i != 1 {
			for _, c := range l.Chambers {
				at = append(at, c.X)
			}
		}
		slices.Sort(at)
		for _, x := range at {
			out = append(out, Spot{Name: fmt.Sprintf("G%d", len(out)+1), X: x, Y: y})
		}
	}
	return out
}

// Near names the place on the face nearest a point, in words: "between 2I1 and 2E1". A layout
// without anything on it says nothing.
func (l Layout) Near(x, y length.Length) words.Text {
	type near struct {
		name words.Text
		away float64
	}
	var all []near
	add := func(name words.Text, px, py, d length.Length) {
		all = append(all, near{
			name, math.Max(0, math.Hypot((px-x).Millimetres(), (py-y).Millimetres())-d.Millimetres()/2),
		})
	}
	for _, v := range l.Valves {
		add(words.Of(v.ID), v.X, v.Y, v.Head)
	}
	for _, s := range l.Plugs {
		add(words.Of("plug %s", s.Name), s.X, s.Y, s.D)
	}
	for _, s := range l.Injectors {
		add(words.Of("injector %s", s.Name), s.X, s.Y, s.D)
	}
	for _, s := range l.Bolts {
		add(words.Of("bolt %s", s.Name), s.X, s.Y, s.D)
	}
	for i, s := range l.Water {
		add(words.Of("water hole %d", i+1), s.X, s.Y, s.D)
	}
	slices.SortStableFunc(all, func(a, b near) int { return cmp.Compare(a.away, b.away) })
	switch {
	case len(all) == 0:
		return words.Text{}
	case all[0].away == 0 || len(all) == 1:
		return words.Of("at %s", all[0].name)
	case all[1].away > 2.5*all[0].away+4:
		return words.Of("near %s", all[0].name)
	}
	return words.Of("between %s and %s", all[0].name, all[1].name)
}

// Clone returns a copy that shares nothing with l.
func (l Layout) Clone() Layout {
	l.Chambers, l.Valves, l.Bolts = slices.Clone(l.Chambers), slices.Clone(l.Valves), slices.Clone(l.Bolts)
	l.Plugs, l.Injectors, l.Water = slices.Clone(l.Plugs), slices.Clone(l.Injectors), slices.Clone(l.Water)
	l.Lines, l.Corners = slices.Clone(l.Lines), slices.Clone(l.Corners)
	return l
}

// Move puts something of the face at another place, adds it when there is none of that name,
// or takes it away when its diameter is 0. What is chamber, valve, bolt, plug, injector or
// water; a valve can only be moved.
func (l *Layout) Move(what string, to Spot) error {
	if to.X < 0 || to.X > l.Length || to.Y < 0 || to.Y > l.Width {
		return field.Errorf("x", "that is beside the face")
	}
	if what == "valve" {
		i := slices.IndexFunc(l.Valves, func(v Valve) bool { return v.ID == to.Name })
		if i < 0 || to.D <= 0 {
			return field.Errorf("name", "there is no valve %s", to.Name)
		}
		l.Valves[i].X, l.Valves[i].Y, l.Valves[i].Head = to.X, to.Y, to.D
		return nil
	}
	lists := map[string]*[]Spot{
		"chamber": &l.Chambers, "bolt": &l.Bolts, "plug": &l.Plugs, "injector": &l.Injectors,
		"water": &l.Water,
	}
	list := lists[what]
	if list == nil {
		return field.Errorf("what", "chamber, valve, bolt, plug, injector or water")
	}
	i := slices.IndexFunc(*list, func(s Spot) bool { return s.Name == to.Name })
	switch {
	case to.D < 0:
		return field.Errorf("d", "must not be negative")
	case i >= 0 && to.D == 0 && what != "chamber":
		*list = slices.Delete(*list, i, i+1)
	case i >= 0 && to.D > 0:
		(*list)[i] = to
	case what == "chamber" || to.D == 0:
		return field.Errorf("name", "there is no %s %s", what, to.Name)
	case len(*list) >= 200:
		return field.Errorf("name", "no head has that many")
	default:
		*list = append(*list, to)
	}
	return nil
}

// Mirror is the layout seen from the cover's side: left and right change places.
func (l Layout) Mirror() Layout {
	spots := func(in []Spot) []Spot {
		out := slices.Clone(in)
		for i := range out {
			out[i].X = l.Length - out[i].X
		}
		return out
	}
	m := l
	m.Chambers, m.Bolts, m.Plugs = spots(l.Chambers), spots(l.Bolts), spots(l.Plugs)
	m.Injectors, m.Water, m.Corners = spots(l.Injectors), spots(l.Water), spots(l.Corners)
	m.Valves, m.Lines = slices.Clone(l.Valves), nil
	for i := range m.Valves {
		m.Valves[i].X = l.Length - m.Valves[i].X
	}
	return m
}

// InlineSpec describes a regular head in a row.
type InlineSpec struct {
	Cylinders    int           // 1 to 12
	Pattern      string        // valves of every cylinder along the head, as letters: "IE", "IIEE"
	Patterns     []string      // by cylinder where they differ, as in a mirrored row: "IE", "EI"
	Pitch        length.Length // between cylinders
	Bore         length.Length
	Width        length.Length
	IntakeHead   length.Length // valve head diameters
	ExhaustHead  length.Length
	Injector     bool   // an injector in place of a spark plug
	Camshafts    int    // in the head: 2 or less
	Bridges      string // Guided, Floating or "" for none
	AirCooled    bool   // no water holes
	FirstAtRight bool   // cylinder 1 at the right as it lies on the bench
}

// pattern is the valves of a cylinder along the head.
func (s InlineSpec) pattern(cylinder int) string {
	if cylinder <= len(s.Patterns) {
		return s.Patterns[cylinder-1]
	}
	return s.Pattern
}

// check refuses heads that cannot be.
func (s InlineSpec) check() error {
	errs := field.Errors{}
	if s.Cylinders < 1 || s.Cylinders > 12 {
		errs.Addf("cylinders", "from 1 to 12")
	}
	if len(s.Patterns) > 0 && len(s.Patterns) != s.Cylinders {
		errs.Addf("patterns", "one for each of the %d cylinders", s.Cylinders)
	}
	for k := range min(max(1, s.Cylinders), 12) {
		pattern, at := s.pattern(k+1), "pattern"
		if len(s.Patterns) > 0 {
			at = fmt.Sprintf("patterns[%d]", k)
		}
		i, e := strings.Count(pattern, "I"), strings.Count(pattern, "E")
		if i+e != len(pattern) || i < 1 || e < 1 || len(pattern) > 5 {
			errs.Addf(at, "2 to 5 letters I and E, in order along the head, such as IE or IIEE")
		}
	}
	within := func(name string, l, lo, hi length.Length) bool {
		if l < lo || l > hi {
			errs.Addf(name, "must lie between %s and %s", lo, hi)
			return false
		}
		return true
	}
	mm := length.Millimetre
	if !within("bore", s.Bore, 30*mm, 500*mm) {
		return errs.Err() // the rest is held against it
	}
	within("pitch", s.Pitch, s.Bore, 700*mm)
	within("width", s.Width, s.Bore, 800*mm)
	if s.Camshafts < 0 || s.Camshafts > 2 {
		errs.Addf("camshafts", "one or two")
	}
	if !slices.Contains([]string{"", Guided, Floating}, s.Bridges) {
		errs.Addf("bridges", "guided or floating")
	}
	within("intake_head", s.IntakeHead, 8*mm, s.Bore*7/10)
	within("exhaust_head", s.ExhaustHead, 8*mm, s.Bore*7/10)
	return errs.Err()
}

// Inline returns the layout of a regular head in a row: two valves of a cylinder lie
// along the head, four as two rows. It returns field.Errors for a head that cannot be.
func Inline(s InlineSpec) (Layout, error) {
	if err := s.check(); err != nil {
		return Layout{}, err
	}
	mm := length.Millimetre
	l := Layout{Length: s.Pitch*length.Length(s.Cylinders) + 20*mm, Width: s.Width}
	if l.Bridges = s.Bridges; s.Camshafts == 2 {
		l.Camshafts = 2
	}
	midY := s.Width / 2
	for c := 1; c <= s.Cylinders; c++ {
		place := c - 1
		if s.FirstAtRight {
			place = s.Cylinders - c
		}
		cx := 10*mm + s.Pitch/2 + s.Pitch*length.Length(place)
		l.Chambers = append(l.Chambers, Spot{fmt.Sprint(c), cx, midY, s.Bore})
		l.Valves = append(l.Valves, s.cylinder(c, cx, midY)...)
		hole := Spot{fmt.Sprint(c), cx, midY, 12 * mm}
		if len(s.pattern(c)) < 4 {
			hole.Y = midY - s.Bore*3/10
		}
		if s.Injector {
			l.Injectors = append(l.Injectors, hole)
		} else {
			l.Plugs = append(l.Plugs, hole)
		}
	}
	edge := s.Width / 10
	for i := 0; i <= s.Cylinders; i++ {
		x := 10*mm + s.Pitch*length.Length(i)
		x = min(max(x, 12*mm), l.Length-12*mm)
		for _, y := range []length.Length{edge, s.Width - edge} {
			l.Bolts = append(l.Bolts, Spot{X: x, Y: y, D: 12 * mm})
			if !s.AirCooled {
				in := edge + 24*mm
				if y > midY {
					in = s.Width - in
				}
				l.Water = append(l.Water, Spot{X: x, Y: in, D: 9 * mm})
			}
		}
		l.Lines = append(l.Lines, Line{fmt.Sprintf("X%d", i+1), "cross", x, 4 * mm, x, s.Width - 4*mm})
	}
	for i := range l.Bolts {
		l.Bolts[i].Name = fmt.Sprint(i + 1)
	}
	x1, x2 := 6*mm, l.Length-6*mm
	long := []Line{
		{"L1", "long", x1, edge * 2, x2, edge * 2}, {"L2", "long", x1, midY, x2, midY},
		{"L3", "long", x1, s.Width - edge*2, x2, s.Width - edge*2},
	}
	l.Lines = slices.Concat(long, l.Lines, []Line{
		{"D1", "diagonal", x1, 6 * mm, x2, s.Width - 6*mm}, {"D2", "diagonal", x1, s.Width - 6*mm, x2, 6 * mm},
	})
	for i, x := range []length.Length{8 * mm, l.Length - 8*mm} {
		for j, y := range []length.Length{8 * mm, s.Width - 8*mm} {
			l.Corners = append(l.Corners, Spot{Name: fmt.Sprintf("T%d", 2*i+j+1), X: x, Y: y})
		}
	}
	return l, nil
}

// cylinder places the valves of cylinder c around its middle.
func (s InlineSpec) cylinder(c int, cx, cy length.Length) []Valve {
	pattern := s.pattern(c)
	n := len(pattern)
	count := map[Role]int{}
	var out []Valve
	for i, letter := range pattern {
		role, head := Intake, s.IntakeHead
		if letter == 'E' {
			role, head = Exhaust, s.ExhaustHead
		}
		count[role]++
		v := Valve{ID: fmt.Sprintf("%d%c%d", c, letter, count[role]), Cylinder: c, Role: role, Head: head}
		off := s.Bore * 23 / 100
		if n < 4 {
			v.X, v.Y = cx+off*length.Length(2*i-n+1), cy+s.Bore/10
		} else {
			// two rows: roles side by side along the head, indices across it
			side := map[Role]length.Length{Intake: -1, Exhaust: 1}[role]
			of := strings.Count(pattern, role.Letter())
			v.X, v.Y = cx+side*off, cy+off*length.Length(2*count[role]-1-of)*2/length.Length(max(2, of))
		}
		out = append(out, v)
	}
	return out
}
