package judge

import "slices"

// Leave is the code of the decision to leave a finding as it is, with a reason.
const Leave = "leave"

// Repair is something that can be done about a finding. Its Code is also the operation
// it becomes (package route).
type Repair struct {
	Code      string
	Name      string
	Changes   string // what else it moves
	Forbidden string // when it may not be done
}

// repairs lists what can be done per characteristic and side, cheapest first; side "low",
// "high" or "" for either.
var repairs = []struct {
	code, side string
	repairs    []Repair
}{
	{"guide.clearance", "high", []Repair{
		{"guide_ream", "Ream to the next oversize stem", "new valve with oversize stem; seat is cut afterwards", "no oversize valve to be had"},
		{"guide_liner", "Fit a liner", "bore centre moves; seat is cut afterwards", "no material left round the hole"},
		{"guide_new", "New guide", "bore centre moves; seat is cut afterwards", "no material left round the hole"},
	}},
	{"guide.clearance", "low", []Repair{
		{"guide_hone", "Hone to size", "clearance only", ""},
		{"guide_new", "New guide", "bore centre moves; seat is cut afterwards", "no material left round the hole"},
	}},
	{"stem.dia", "", []Repair{{"valve_new", "New valve", "clearance, margin, heights: measure it before it is trusted", ""}}},
	{"seat.width", "low", []Repair{
		{"lap", "Lap", "nearly nothing", "coated or titanium valve"},
		{"seat_cut", "Cut main, top and bottom", "recession, stem and spring height, lash", "no room left to the insert's edge"},
		{"seat_insert", "New insert", "restores depth; pressure test after", "counterbore beyond oversize"},
	}},
	{"seat.width", "high", []Repair{
		{"seat_cut", "Narrow with top and bottom cuts", "recession, stem and spring height, lash", "no room left to the insert's edge"},
		{"seat_insert", "New insert", "restores depth; pressure test after", "counterbore beyond oversize"},
	}},
	{"seat.runout", "", []Repair{
		{"seat_cut", "Cut the seat true to its guide", "recession, stem and spring height, lash", "no room left to the insert's edge"},
		{"seat_insert", "New insert", "restores depth; pressure test after", "counterbore beyond oversize"},
	}},
	{"valve.recession", "high", []Repair{
		{"seat_insert", "New insert", "restores depth; pressure test after", "counterbore beyond oversize"},
	}},
	{"valve.recession", "low", []Repair{
		{"seat_cut", "Cut the seat deeper", "stem and spring height, lash", "no room left to the insert's edge"},
	}},
	{"stem.height", "high", []Repair{
		{"tip_grind", "Grind the tip", "lash", "tip's hardening used up: insert instead"},
		{"seat_insert", "New insert", "restores depth; pressure test after", "counterbore beyond oversize"},
	}},
	{"stem.height", "low", []Repair{
		{"seat_cut", "Cut the seat deeper", "recession, spring height, lash", "recession would leave its range"},
		{"valve_new", "New valve", "clearance, margin, heights: measure it before it is trusted", ""},
	}},
	{"valve.margin", "", []Repair{{"valve_new", "New valve", "recession, clearance, heights: measure it before it is trusted", ""}}},
	{"valve.runout", "", []Repair{{"valve_new", "New valve", "recession, clearance, heights: measure it before it is trusted", ""}}},
	{"valve.head", "", []Repair{{"valve_new", "New valve", "recession, clearance, heights: measure it before it is trusted", ""}}},
	{"valve.length", "", []Repair{{"valve_new", "New valve", "recession, clearance, heights: measure it before it is trusted", ""}}},
	{"guide.height", "", []Repair{{"guide_new", "New guide", "bore centre moves; seat is cut afterwards", "no material left round the hole"}}},
	{"seat.position", "", []Repair{{"seat_cut", "Cut main, top and bottom", "recession, stem and spring height, lash", "no room left to the insert's edge"}}},
	{"seat.room", "", []Repair{{"seat_insert", "New insert", "restores depth; pressure test after", "counterbore beyond oversize"}}},
	{"spring.height", "", []Repair{
		{"spring_shim", "Shim the spring", "load", "coils would close at full lift"},
		{"spring_new", "New springs, as a set", "load", ""},
	}},
	{"spring.free", "", []Repair{{"spring_new", "New springs, as a set", "load", ""}}},
	{"lash", "", []Repair{{"lash_set", "Set the lash", "nothing else", "no shim or adjuster travel left"}}},
	{"face.line", "", []Repair{
		{"face", "Face the head", "thickness, every valve's recession, ratio, drive", "thickness would fall below its least"},
		{"straighten", "Straighten, then face", "cam bores too", "a casting known to crack"},
	}},
	{"head.thickness", "", []Repair{{"gasket_thick", "Thicker gasket or shim under the head", "ratio, drive", "the class rule or the maker forbids it"}}},
}

// RepairsFor lists what can be done about a finding, cheapest first.
func RepairsFor(f Feature) []Repair {
	for _, r := range repairs {
		if r.code == f.Code && (r.side == "" || r.side == f.Side) {
			return slices.Clone(r.repairs)
		}
	}
	return nil
}

// RepairNamed returns the repair with that code among those for the finding.
func RepairNamed(f Feature, code string) (Repair, bool) {
	rs := RepairsFor(f)
	i := slices.IndexFunc(rs, func(r Repair) bool { return r.Code == code })
	if i < 0 {
		return Repair{}, false
	}
	return rs[i], true
}

// spokenFor lists, by characteristic, the features that say something about a reading of
// it, where that is not the feature of its own code alone: a guide's bore is judged by the
// clearance, a stem by its own limit and the clearance.
var spokenFor = map[string][]string{
	"guide.bore": {"guide.clearance"},
	"stem.dia":   {"stem.dia", "guide.clearance"},
}

// Speaks returns the position's features that say something about a reading of code.
func (p Position) Speaks(code string) []Feature {
	codes, ok := spokenFor[code]
	if !ok {
		codes = []string{code}
	}
	var out []Feature
	for _, c := range codes {
		if f, there := p.Feature(c); there {
			out = append(out, f)
		}
	}
	return out
}

// Together lists the characteristics whose readings are judged with those of code: a
// guide's bore with its stem, anything else alone.
func Together(code string) []string {
	if pair := Proves("guide.clearance"); slices.Contains(pair, code) {
		return pair
	}
	return []string{code}
}

// Proves lists the characteristics that have to be read again after a repair of code.
func Proves(code string) []string {
	if code == "guide.clearance" {
		return []string{"guide.bore", "stem.dia"}
	}
	return []string{code}
}
