package cause

// Signs are what can be seen, told or measured.
var Signs = []Sign{
	{"clearance_over", "guide clearance over its limit", "read guides and stems", measured("guide.clearance", "high")},
	{"clearance_in", "guide clearances inside their limits", "read guides and stems", not(measured("guide.clearance", ""))},
	{"clearance_under", "guide clearance under its limit", "read the tightest place of guide and stem", measured("guide.clearance", "low")},
	{"port_wet", "oil-wet port and valve back", "look at the ports and the valves' backs", graded("port.condition", "oily")},
	{"port_dry", "dry ports", "look at the ports and the valves' backs", not(graded("port.condition", "oily"))},
	{"one_wetter", "one position wetter than its twin", "look at the ports and the valves' backs", someWet},
	{"smoke", "smoke, oil used", "ask how it smokes: on overrun or under load", told("smok", "uses oil", "oil use", "a little oil")},
	{"along_sweep", "guide worn along the sweep", "read the guides in both directions", alongSweep},
	{"tip_offcentre", "tip worn off centre", "look at the tips", graded("tip.condition", "offcentre")},
	{"tip_dented", "bounce marks on tips", "look at the tips", graded("tip.condition", "dented", "mushroomed")},
	{"pad_worn", "rocker pad worn", "look at the rockers", graded("rocker.condition", "pad_worn", "pad_through")},
	{"transfer", "metal transfer on the stem", "look at the stems", graded("stem.condition", "transfer")},
	{"polished", "polished even wear on the stem", "look at the stems", graded("stem.condition", "polished")},
	{"scored", "guide scored", "look into the guides", graded("guide.condition", "scored")},
	{"stuck", "valve stuck", "ask whether it hung cold or hot", told("stuck", "hung open", "hangs")},
	{"recession_over", "valve sunk beyond its limit", "read the recession", measured("valve.recession", "high")},
	{"lash_low", "lash short", "read the lash", measured("lash", "low")},
	{"lash_lost", "lash lost again and again", "ask how often the lash was set", told("lash")},
	{"misfire", "misfire hot, then cold", "ask when it misfires", told("misfire")},
	{"dry_fuel", "dry fuel", "ask for the fuel", func(e *Evidence) (State, string) {
		if s, said := told(" gas", "propane")(e); s == Yes {
			return s, said
		}
		return told("gas")(&Evidence{Story: e.Fuel})
	}},
	{"burnt", "burnt sector on a valve", "look at the valve faces", graded("valve.face", "burnt")},
	{"seat_sunk", "seat beaten below its land", "look at the seats", graded("seat.condition", "sunk")},
	{"dished", "valve face dished", "look at the valve faces", graded("valve.face", "dished")},
	{"ring_gaps", "ring with gaps", "blue the seat", graded("seat.condition", "gaps", "burnt")},
	{"ring_even", "even ring", "blue the seat", graded("seat.condition", "clean")},
	{"seat_runout", "seat runs out", "dial on a pilot in the guide", measured("seat.runout", "high")},
	{"vacuum_fixed", "vacuum fails at every turn", "vacuum, the valve turned between readings", noted("seal.vacuum", "every turn")},
	{"vacuum_turns", "the leak moves with the valve", "vacuum, the valve turned between readings", noted("seal.vacuum", "turns with the valve")},
	{"valve_runout", "valve runs out or is bent", "valve in the V-jig, dial on its face", either(measured("valve.runout", "high"), graded("stem.condition", "bent"))},
	{"thud", "the dropped valve thuds", "drop the valve into its seat", either(measured("test.drop", ""), noted("test.drop", "thud"))},
	{"overspeed", "over-revved", "ask for the speed and the timing", told("over-rev", "overrev", "revved", "overspeed", "ran away")},
	{"hollow", "face hollow lengthwise", "straightedge along the head", measured("face.line", "")},
	{"thickness_low", "thickness under its limit", "measure the thickness", measured("head.thickness", "low")},
	{"thickness_in", "thickness as it should be", "measure the thickness", not(measured("head.thickness", ""))},
	{"crack", "crack on the map", "dye or powder between the seats", marked("crack")},
	{"erosion", "erosion between chambers or to a passage", "look along the gasket's track", marked("erosion")},
	{"ran_hot", "ran hot", "ask for the coolant story", told("hot on", "ran hot", "overheat", "coolant")},
	{"springs_weak", "spring load under its limit", "spring tester", measured("spring.load_seat", "low")},
	{"springs_in", "spring loads inside their limits", "spring tester", not(measured("spring.load_seat", ""))},
	{"floats", "floats at speed", "ask how it pulls at full speed", told("float")},
	{"stamps", "stamps of earlier facings", "look for stamps on the rail", marked("stamp")},
	{"proud", "valves proud", "read the recession", measured("valve.recession", "low")},
	{"register", "barrel register out", "read the register", measured("register.depth", "")},
	{"wrong_part", "a new part is not to size", "measure every new part and compare it with the old", func(e *Evidence) (State, string) {
		if e.WrongPart {
			return Yes, "on the tray"
		}
		return Unknown, ""
	}},
	{"no_name", "parts without a name", "compare the whole box with the old parts", told("without a name", "plain box", "unbranded", "no name")},
	{"corroded", "stems pitted", "look at the stems", graded("stem.condition", "corroded")},
	{"stood", "stood for long", "ask how long it stood", told("stood", "sat for", "winters")},
	{"rotator", "rotator sticks", "turn it by hand", graded("rotator.condition", "sticks")},
	{"mended_lately", "mended lately", "ask who had it open last", told("new guides", "last time", "you did this")},
}

// Pull is a sign and what it weighs for a cause: negative speaks against it.
type Pull struct {
	Sign   string
	Weight int
}

// Cause is why a head may have failed. Mend is what outside the head has to be mended, or
// what a customer should know.
type Cause struct {
	Code  string
	Name  string
	Signs []Pull
	Mend  string
}

// Causes are the causes with what points to them and what speaks against them.
var Causes = []Cause{
	{"guide_worn", "guide worn, oil drawn in", []Pull{{"clearance_over", 3}, {"port_wet", 2}, {"one_wetter", 1}, {"smoke", 1}, {"port_dry", -2}}, "Seals and guides; look for what wore the guide."},
	{"seals_gone", "stem seals gone", []Pull{{"port_wet", 2}, {"clearance_in", 2}, {"smoke", 1}, {"clearance_over", -2}, {"port_dry", -2}}, "New seals; crankcase breathing."},
	{"geometry", "rocker geometry wrong", []Pull{{"along_sweep", 3}, {"tip_offcentre", 2}, {"pad_worn", 1}, {"clearance_over", 1}}, "Pushrods, adjusters and rocker pads: set the geometry before the new guides run."},
	{"too_tight", "clearance too tight", []Pull{{"transfer", 3}, {"clearance_under", 3}, {"stuck", 2}, {"scored", 1}, {"polished", -2}}, "Hone size and guide material of the last repair."},
	{"sinking", "seat recession", []Pull{{"recession_over", 3}, {"lash_lost", 2}, {"lash_low", 1}, {"dry_fuel", 2}, {"misfire", 1}, {"seat_sunk", 1}, {"dished", 1}}, "Hard inserts for this fuel; check the lash every season."},
	{"tight_lash", "tight lash burnt the valve", []Pull{{"burnt", 3}, {"lash_low", 2}, {"ring_gaps", 1}, {"ring_even", -1}}, "Lash after the first hours; whether the adjuster holds."},
	{"seat_out", "seat runs out", []Pull{{"seat_runout", 3}, {"vacuum_fixed", 2}, {"ring_gaps", 1}, {"vacuum_turns", -2}}, "Guide first, then the seat."},
	{"bent", "valve bent", []Pull{{"valve_runout", 3}, {"vacuum_turns", 3}, {"thud", 1}, {"overspeed", 2}, {"vacuum_fixed", -2}}, "Timing, governor, marks on the piston."},
	{"overheated", "overheated", []Pull{{"hollow", 2}, {"thickness_in", 1}, {"crack", 2}, {"ran_hot", 3}, {"erosion", -1}}, "Coolant level, thermostat, radiator, pump: before the head goes back."},
	{"gasket", "gasket failed first", []Pull{{"erosion", 3}, {"ran_hot", 1}}, "Block deck, bolts and torque."},
	{"weak_springs", "weak springs", []Pull{{"springs_weak", 3}, {"floats", 2}, {"tip_dented", 1}, {"springs_in", -3}}, "Springs as a set; installed heights."},
	{"overfaced", "overfaced before", []Pull{{"thickness_low", 3}, {"stamps", 2}, {"proud", 2}, {"register", 1}, {"thickness_in", -2}}, "Thicker gasket or a shim under the barrel; the next facing is the last or none."},
	{"wrong_part", "wrong part", []Pull{{"wrong_part", 3}, {"no_name", 1}}, "Compare the whole box with the old parts before any is fitted."},
	{"grit", "grit left in", []Pull{{"scored", 2}, {"mended_lately", 2}}, "Cleaning record of the earlier job."},
	{"corrosion", "corrosion", []Pull{{"corroded", 3}, {"stood", 2}}, "Fuel sulphur, coolant; how it is laid up."},
	{"rotator_stuck", "rotator stuck", []Pull{{"rotator", 3}, {"ring_gaps", 1}, {"ring_even", -1}}, "Rotators turned by hand at every service."},
}
