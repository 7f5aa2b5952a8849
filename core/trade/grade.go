package trade

import (
	"slices"

	"yatai/core/gauge"
	"yatai/core/layout"
)

// Grade is one thing eyes can see on a part, with the verdict it carries and a line that
// tells it from its neighbours.
type Grade struct {
	Code    string
	Label   string
	Line    string
	Verdict gauge.Verdict
}

// Part is a part of a place that is looked at and graded, its grades from best to worst.
// Where is AtPosition, AtJournal or AtShaft, or AtHead for what is marked on the map.
type Part struct {
	Code   string
	Label  string
	Where  string
	On     func(Kind) bool
	Bridge bridging         // where it is on heads with bridges
	With   func(Valve) bool // the valves that have it; nil: all
	Grades []Grade
}

var parts []*Part

// part declares one.
func part(p Part) *Part {
	if p.Where == "" {
		p.Where = AtPosition
	}
	parts = append(parts, &p)
	return &p
}

// Positions lists where the part is on a head, in the head's order.
func (p Part) Positions(l layout.Layout) []string {
	return Characteristic{Where: p.Where, Bridge: p.Bridge}.Positions(l)
}

// Exists tells whether heads of kind k have it.
func (p Part) Exists(k Kind) bool { return p.On == nil || p.On(k) }

// lookedAt is the order in which parts are looked at.
var lookedAt = []string{
	"valve.face", "stem.condition", "tip.condition", "groove.condition", "seat.condition", "guide.condition",
	"spring.condition",
	"bucket.condition", "rocker.condition", "keeper.condition", "rotator.condition", "port.condition",
	"cam.condition",
	"camshaft.condition", MarkCode,
}

// Parts are the parts that are graded, in the order they are looked at.
var Parts []Part

func init() {
	slices.SortStableFunc(parts, func(a, b *Part) int {
		return slices.Index(lookedAt, a.Code) - slices.Index(lookedAt, b.Code)
	})
	for _, p := range parts {
		Parts = append(Parts, *p)
	}
}

// PartNamed returns the part with that code.
func PartNamed(code string) (Part, bool) {
	i := slices.IndexFunc(Parts, func(p Part) bool { return p.Code == code })
	if i < 0 {
		return Part{}, false
	}
	return Parts[i], true
}

// Grade returns the part's grade with that code.
func (p Part) Grade(code string) (Grade, bool) {
	i := slices.IndexFunc(p.Grades, func(g Grade) bool { return g.Code == code })
	if i < 0 {
		return Grade{}, false
	}
	return p.Grades[i], true
}

// MarkCode is the part code of what is placed on the map of the face: cracks, leaks and the
// like. A head can have any number of them.
const MarkCode = "mark"
