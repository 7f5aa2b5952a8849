package judge

import "slices"

// Leave is the code of the decision to leave a finding as it is, with a reason.
const Leave = "leave"

// Planned is the code of the decision that the plan answers a finding by what it does
// elsewhere.
const Planned = "planned"

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
	{"valve.face_angle", "", []Repair{{"valve_grind", "Reface the valve", "margin, recession, stem and spring height", "margin would fall below its least"}}},
	{"seat.angle", "", []Repair{{"seat_cut", "Cut main, top and bottom", "recession, stem and spring height, lash", "no room left to the insert's edge"}}},
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
	{"valve.face", "", []Repair{
		{"lap", "Lap", "nearly nothing", "coated or titanium valve; pits a nail catches"},
		{"valve_grind", "Reface the valve", "margin, recession, stem and spring height", "margin would fall below its least; hollow or coated valve"},
		{"valve_new", "New valve", "clearance, margin, heights: measure it before it is trusted", ""},
	}},
	{"stem.condition", "", []Repair{{"valve_new", "New valve", "clearance, margin, heights: measure it before it is trusted", ""}}},
	{"tip.condition", "", []Repair{
		{"tip_grind", "Grind the tip", "lash", "tip's hardening used up"},
		{"valve_new", "New valve", "clearance, margin, heights: measure it before it is trusted", ""},
	}},
	{"groove.condition", "", []Repair{{"valve_new", "New valve", "clearance, margin, heights: measure it before it is trusted", ""}}},
	{"seat.condition", "", []Repair{
		{"lap", "Lap", "nearly nothing", "coated or titanium valve; pits a nail catches"},
		{"seat_cut", "Cut main, top and bottom", "recession, stem and spring height, lash", "no room left to the insert's edge"},
		{"seat_insert", "New insert", "restores depth; pressure test after", "counterbore beyond oversize"},
	}},
	{"guide.condition", "", []Repair{{"guide_new", "New guide", "bore centre moves; seat is cut afterwards", "no material left round the hole"}}},
	{"spring.condition", "", []Repair{{"spring_new", "New springs, as a set", "load", ""}}},
	{"bucket.condition", "", []Repair{{"bucket_new", "New bucket", "lash", ""}}},
	{"rocker.condition", "", []Repair{{"rocker_mend", "Rebush or reface the rocker", "lash", "cracked, or worn through its hardening"}, {"rocker_new", "New rocker", "lash", ""}}},
	{"keeper.condition", "", []Repair{{"keeper_new", "New keepers", "nothing else", ""}}},
	{"rotator.condition", "", []Repair{{"rotator_new", "New rotator", "spring height", ""}}},
	{"mark.crack", "", []Repair{
		{"weld", "Weld or stitch, and pressure test", "everything near it: before all machining", "casting known not to weld; crack reaches oil or a seat bore; the shop's own rule"},
		{"scrap", "Scrap the head", "all of it", ""},
	}},
	{"mark.leak", "", []Repair{
		{"weld", "Weld or stitch, and pressure test", "everything near it: before all machining", "casting known not to weld"},
		{"plug_new", "New core plug", "nothing else", "the leak is not at a plug"},
		{"scrap", "Scrap the head", "all of it", ""},
	}},
	{"mark.thread", "", []Repair{{"thread_chase", "Chase the thread", "nothing else", "stripped"}, {"thread_insert", "Thread insert", "nothing else", ""}}},
	{"mark.stud", "", []Repair{{"stud_out", "Extract the stud", "nothing else", ""}, {"thread_insert", "Drill out, thread insert", "nothing else", ""}}},
	{"guide.form", "", []Repair{{"guide_liner", "Fit a liner", "bore centre moves; seat is cut afterwards", "no material left round the hole"}, {"guide_new", "New guide", "bore centre moves; seat is cut afterwards", "no material left round the hole"}}},
	{"guide.play", "high", []Repair{{"guide_new", "New guide", "bore centre moves; seat is cut afterwards", "no material left round the hole"}}},
	{"recession.spread", "", []Repair{{"seat_cut", "Cut the shallow ones deeper", "recession, stem and spring height, lash", "recession would leave its range"}, {"seat_insert", "New insert at the deep one", "restores depth; pressure test after", "counterbore beyond oversize"}}},
	{"spring.load_seat", "", []Repair{{"spring_shim", "Shim within the coil clearance", "load", "coils would close at full lift"}, {"spring_new", "New springs, as a set", "load", ""}}},
	{"spring.load_open", "", []Repair{{"spring_new", "New springs, as a set", "load", ""}}},
	{"spring.spread", "", []Repair{{"spring_new", "New springs, as a set", "load", ""}}},
	{"spring.square", "", []Repair{{"spring_new", "New springs, as a set", "load", ""}}},
	{"seal.vacuum", "", []Repair{{"lap", "Lap", "nearly nothing", "coated or titanium valve"}, {"seat_cut", "Cut main, top and bottom", "recession, stem and spring height, lash", "no room left to the insert's edge"}, {"valve_new", "New valve", "clearance, margin, heights: measure it before it is trusted", ""}}},
	{"face.flatness", "", []Repair{{"face", "Face the head", "thickness, every valve's recession, ratio, drive", "thickness would fall below its least"}}},
	{"face.finish", "", []Repair{{"face", "Face the head", "thickness, every valve's recession, ratio, drive", "thickness would fall below its least"}}},
	{"register.depth", "", []Repair{{"register_lap", "Lap to its own barrel", "ratio, drive geometry, pushrods", "register depth above its discard limit"}, {"register_shim", "Shim under the barrel", "gives back what was cut", ""}}},
	{"injector.protrusion", "", []Repair{{"injector_shim", "Washer under the injector", "nothing else", "no washer of that size"}}},
	{"cam.bore", "", []Repair{{"line_bore", "Line bore", "cam height, drive", "no oversize shells"}, {"scrap", "Scrap the head", "all of it", ""}}},
	{"cam.clearance", "", []Repair{{"line_bore", "Line bore", "cam height, drive", "no oversize shells"}}},
	{"chamber.volume", "", []Repair{{"chamber_even", "Even the chambers", "ratio", ""}}},
	{"chamber.spread", "", []Repair{{"chamber_even", "Even the chambers", "ratio", ""}}},
	{"head.taper", "", []Repair{{"face", "Face the head", "thickness, every valve's recession, ratio, drive", "thickness would fall below its least"}}},
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

// Speaks returns the position's features that say something about a reading of code: its
// own, and what it feeds. A stem is judged by its own limit and the clearance.
func (p Position) Speaks(code string) []Feature {
	c, _ := ByCode(code)
	codes := []string{code, c.Feeds}
	if code == "stem.dia" {
		codes = append(codes, "guide.clearance")
	}
	var out []Feature
	for _, c := range codes {
		if f, there := p.Feature(c); there {
			out = append(out, f)
		}
	}
	return out
}

// together lists the characteristics that are judged as one.
var together = [][]string{{"guide.bore", "stem.dia"}, {"guide.outer", "guide.hole"}, {"seat.outer", "seat.hole"}, {"test.vacuum", "test.baseline"}}

// Together lists the characteristics whose readings are judged with those of code.
func Together(code string) []string {
	for _, t := range together {
		if slices.Contains(t, code) {
			return t
		}
	}
	return []string{code}
}

// Proves lists the characteristics that have to be read again after a repair of code, the
// one a head is asked for first.
func Proves(code string) []string {
	if code == "guide.clearance" || code == "guide.form" {
		return []string{"guide.bore", "stem.dia"}
	}
	for _, c := range Characteristics {
		if c.Feeds == code {
			return []string{c.Code}
		}
	}
	if c, ok := ByCode(code); ok && c.Of != "" {
		return []string{c.Of}
	}
	return []string{code}
}
