package judge

import (
	"slices"

	"yatai/core/length"
)

// Given is a figure of the engine that a sheet gives: not a limit, but what the plan and
// the drawings compute with. Unit is zero for a length; Ratio is a bare number.
type Given struct {
	Code    string
	Label   string
	PerRole bool
	Unit    length.Unit
	Signed  bool
}

// Ratio is the unit of a bare number.
var Ratio = length.Unit{Name: "", Size: mm}

// SquareMM is the unit of an area.
var SquareMM = length.Unit{Name: "mm2", Size: mm}

// Givens are the figures a sheet can give.
var Givens = []Given{
	{"given.rocker_ratio", "Rocker ratio", false, Ratio, false},
	{"given.guide_length", "Guide length, held", false, length.Unit{}, false},
	{"given.rock_overhang", "Rock test: dial beyond the guide", false, length.Unit{}, false},
	{"given.seat_angle", "Seat angle", true, Degree, false},
	{"given.top_angle", "Top cut", false, Degree, false},
	{"given.bottom_angle", "Bottom cut", false, Degree, false},
	{"given.insert_outer", "Insert outside diameter", true, length.Unit{}, false},
	{"given.seat_clean", "Cut that cleans a seat up", true, length.Unit{}, false},
	{"given.seat_most", "Most a seat may be cut", true, length.Unit{}, false},
	{"given.insert_up", "New insert: seat set up to", false, length.Unit{}, false},
	{"given.insert_down", "New insert: seat set down to", false, length.Unit{}, false},
	{"given.valve_grind", "Grind that cleans a valve face", true, length.Unit{}, false},
	{"given.new_margin", "New valve's margin", true, length.Unit{}, false},
	{"given.new_tip", "New valve longer than the one fitted, by", true, length.Unit{}, true},
	{"given.new_groove", "New valve's groove further from its head, by", true, length.Unit{}, true},
	{"given.tip_most", "Most a tip may be ground", false, length.Unit{}, false},
	{"given.lift", "Valve lift", true, length.Unit{}, false},
	{"given.spring_solid", "Spring, coils closed", false, length.Unit{}, false},
	{"given.face_most", "Most the face may be cut", false, length.Unit{}, false},
	{"given.face_allow", "Facing: allowance over the gap", false, length.Unit{}, false},
	{"given.adjuster", "Adjuster: lash it can still give, either way", false, length.Unit{}, false},
	{"given.target_load", "Spring load aimed at, installed", false, Newton, false},
	{"given.bore", "Cylinder bore", false, length.Unit{}, false},
	{"given.stroke", "Stroke", false, length.Unit{}, false},
	{"given.chamber", "Chamber volume, when not read", false, CC, false},
	{"given.chamber_area", "Chamber's open area at the face", false, SquareMM, false},
	{"given.piston", "Piston crown, dish positive", false, CC, true},
	{"given.gasket", "Gasket thickness, fitted", false, length.Unit{}, false},
	{"given.gasket_bore", "Gasket bore", false, length.Unit{}, false},
	{"given.deck", "Piston below the deck at top", false, length.Unit{}, true},
}

// GivenNamed returns the given with that code.
func GivenNamed(code string) (Given, bool) {
	i := slices.IndexFunc(Givens, func(g Given) bool { return g.Code == code })
	if i < 0 {
		return Given{}, false
	}
	return Givens[i], true
}

// Renewals are the parts a sheet can name as renewed whatever they measure.
var Renewals = []struct{ Code, Label string }{
	{"renew.seals", "Stem seals"}, {"renew.keepers", "Keepers"}, {"renew.springs", "Springs"}, {"renew.valves_exhaust", "Exhaust valves"},
	{"renew.gasket", "Head gasket"}, {"renew.bolts", "Head bolts"}, {"renew.rotators", "Rotators"},
}

// Give returns a figure the sheet gives, for a role where it is given by role.
func (s Sheet) Give(code, role string) (length.Length, bool) {
	if v, ok := s.Given[code+"/"+role]; ok {
		return v, true
	}
	v, ok := s.Given[code]
	return v, ok
}
