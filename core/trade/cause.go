package trade

import "slices"

// Sign is something that may be seen, told or measured. What it looks at is one of: a
// characteristic out at a side (or, Inside, read and not out), grades of a
// part, a mark on the map, a symptom that was ticked, or one of the Special looks.
type Sign struct {
	Code  string
	Label string
	Check string // how to find out

	Of      *Characteristic
	Side    string // "" for either
	Inside  bool
	Part    *Part
	Grades  []string
	Not     bool // of a part: every place was looked at and none has the grades
	Mark    string
	Told    []*Symptom
	Special string
	Or      *Sign  // the same fact seen another way
	Fact    string // signs of one fact count as their strongest and half of the rest
}

// Absence tells whether the sign is that something is sound: it tells causes apart, and points to none
// by itself.
func (s *Sign) Absence() bool { return s.Inside || s.Not }

// The looks that no table can say.
const (
	LeakTurns  = "leak turns"  // the vacuum fails at some turns only
	LeakStays  = "leak stays"  // it fails at every turn
	AlongSweep = "along sweep" // a worn guide is worn along the sweep
	OneWetter  = "one wetter"  // some ports are wet and others dry
	WrongPart  = "wrong part"  // a new part is not to size
)

// sunk is the fact that a valve has sunk into its seat, however it was seen.
const sunk = "sunk"

// Signs are all of them.
var Signs = []*Sign{
	clearanceOver, clearanceIn, clearanceUnder, rockOver, portWet, portDry, oneWetter, carbonBack, smokeTold,
	oilTold, alongSweep, tipOff,
	tipDented, padWorn, adjusterOut, transfer, polished, scored, hungTold,
	recessionOver, lashLow, lashLostTold, misfireTold, dryFuelTold, burnt, seatSunk, dished, ringGaps, ringEven,
	seatRunout, vacuumFixed,
	vacuumTurns, valveBent, thud, overspeedTold, rattleTold, lowPressureTold,
	hollow, thicknessLow, thicknessIn, crackSeen, erosionSeen, ranHotTold, coolantTold, springsWeak, springsIn,
	floatsTold, stampSeen, proud,
	registerOut, wrongPart, noNameTold, corroded, stoodTold, rotatorSticks, mendedTold, shortSeal,
}

var (
	clearanceOver = &Sign{
		Code:  "clearance_over",
		Label: "guide clearance over its limit",
		Check: "read guides and stems",
		Of:    GuideClearance,
		Side:  High,
	}
	clearanceIn = &Sign{
		Code:   "clearance_in",
		Label:  "guide clearances inside their limits",
		Check:  "read guides and stems",
		Of:     GuideClearance,
		Inside: true,
	}
	clearanceUnder = &Sign{
		Code:  "clearance_under",
		Label: "guide clearance under its limit",
		Check: "read the tightest place of guide and stem",
		Of:    GuideClearance,
		Side:  Low,
	}
	rockOver = &Sign{
		Code:  "rock_over",
		Label: "valve head rocks too far",
		Check: "rock the valve head, dial on it",
		Of:    GuidePlay,
		Side:  High,
		Fact:  "worn",
	}
	portWet = &Sign{
		Code:   "port_wet",
		Label:  "oil-wet port and valve back",
		Check:  "look at the ports and the valves' backs",
		Part:   PortSeen,
		Grades: []string{"oily"},
	}
	portDry = &Sign{
		Code:   "port_dry",
		Label:  "dry ports",
		Check:  "look at the ports and the valves' backs",
		Part:   PortSeen,
		Grades: []string{"oily"},
		Not:    true,
	}
	oneWetter = &Sign{
		Code:    "one_wetter",
		Label:   "one position wetter than its twin",
		Check:   "look at the ports and the valves' backs",
		Special: OneWetter,
	}
	carbonBack = &Sign{
		Code:   "carbon_back",
		Label:  "carbon on the valve's back",
		Check:  "look at the valves' backs",
		Part:   PortSeen,
		Grades: []string{"carbon"},
	}
	smokeTold = &Sign{
		Code:  "smoke",
		Label: "smokes on overrun",
		Check: "ask how it smokes: on overrun or under load",
		Told:  []*Symptom{Smoke},
	}
	oilTold = &Sign{
		Code:  "oil_use",
		Label: "uses oil",
		Check: "ask how much oil it uses",
		Told:  []*Symptom{OilUse},
	}
	alongSweep = &Sign{
		Code:    "along_sweep",
		Label:   "guide worn along the sweep",
		Check:   "read the guides in both directions",
		Special: AlongSweep,
	}
	tipOff = &Sign{
		Code:   "tip_offcentre",
		Label:  "tip worn off centre",
		Check:  "look at the tips",
		Part:   TipSeen,
		Grades: []string{"offcentre"},
	}
	tipDented = &Sign{
		Code:   "tip_dented",
		Label:  "bounce marks on tips",
		Check:  "look at the tips",
		Part:   TipSeen,
		Grades: []string{"dented", "mushroomed"},
	}
	padWorn = &Sign{
		Code:   "pad_worn",
		Label:  "rocker pad worn",
		Check:  "look at the rockers",
		Part:   RockerSeen,
		Grades: []string{"pad_worn", "pad_through"},
	}
	adjusterOut = &Sign{
		Code:  "adjuster_out",
		Label: "adjuster out of its travel",
		Check: "measure how far the adjusters stand out",
		Of:    RockerAdjuster,
	}
	transfer = &Sign{
		Code:   "transfer",
		Label:  "metal transfer on the stem",
		Check:  "look at the stems",
		Part:   StemSeen,
		Grades: []string{"transfer"},
	}
	polished = &Sign{
		Code:   "polished",
		Label:  "polished even wear on the stem",
		Check:  "look at the stems",
		Part:   StemSeen,
		Grades: []string{"polished"},
	}
	scored = &Sign{
		Code:   "scored",
		Label:  "guide scored",
		Check:  "look into the guides",
		Part:   GuideSeen,
		Grades: []string{"scored"},
	}
	hungTold = &Sign{
		Code:  "stuck",
		Label: "valve hung",
		Check: "ask whether it hung cold or hot",
		Told:  []*Symptom{Hung},
	}
	recessionOver = &Sign{
		Code:  "recession_over",
		Label: "valve sunk beyond its limit",
		Check: "read the recession",
		Of:    Recession,
		Side:  High,
		Fact:  sunk,
	}
	lashLow = &Sign{
		Code:  "lash_low",
		Label: "lash short",
		Check: "read the lash",
		Of:    Lash,
		Side:  Low,
		Fact:  sunk,
	}
	lashLostTold = &Sign{
		Code:  "lash_lost",
		Label: "lash lost again and again",
		Check: "ask how often the lash was set",
		Told:  []*Symptom{LashLost},
		Fact:  sunk,
	}
	misfireTold = &Sign{
		Code:  "misfire",
		Label: "misfires",
		Check: "ask when it misfires",
		Told:  []*Symptom{Misfire, MisfireHot, MisfireCold},
	}
	dryFuelTold = &Sign{
		Code:  "dry_fuel",
		Label: "dry fuel",
		Check: "ask for the fuel",
		Told:  []*Symptom{DryFuel},
	}
	burnt = &Sign{
		Code:   "burnt",
		Label:  "burnt sector on a valve",
		Check:  "look at the valve faces",
		Part:   FaceSeen,
		Grades: []string{"burnt"},
	}
	seatSunk = &Sign{
		Code:   "seat_sunk",
		Label:  "seat beaten below its land",
		Check:  "look at the seats",
		Part:   SeatSeen,
		Grades: []string{"sunk"},
		Fact:   sunk,
	}
	dished = &Sign{
		Code:   "dished",
		Label:  "valve face dished",
		Check:  "look at the valve faces",
		Part:   FaceSeen,
		Grades: []string{"dished"},
		Fact:   sunk,
	}
	ringGaps = &Sign{
		Code:   "ring_gaps",
		Label:  "ring with gaps",
		Check:  "blue the seat",
		Part:   SeatSeen,
		Grades: []string{"gaps", "burnt"},
	}
	ringEven = &Sign{
		Code:   "ring_even",
		Label:  "even ring",
		Check:  "blue the seat",
		Part:   SeatSeen,
		Grades: []string{"clean"},
	}
	seatRunout = &Sign{
		Code:  "seat_runout",
		Label: "seat runs out",
		Check: "dial on a pilot in the guide",
		Of:    SeatRunout,
		Side:  High,
	}
	vacuumFixed = &Sign{
		Code:    "vacuum_fixed",
		Label:   "vacuum fails at every turn",
		Check:   "vacuum, the valve turned between readings",
		Special: LeakStays,
	}
	vacuumTurns = &Sign{
		Code:    "vacuum_turns",
		Label:   "the leak moves with the valve",
		Check:   "vacuum, the valve turned between readings",
		Special: LeakTurns,
	}
	valveBent = &Sign{
		Code:  "valve_runout",
		Label: "valve runs out or is bent",
		Check: "valve in the V-jig, dial on its face",
		Of:    ValveRunout,
		Side:  High,
		Or:    stemBent,
	}
	stemBent = &Sign{Code: "stem_bent", Part: StemSeen, Grades: []string{"bent"}}
	thud     = &Sign{
		Code:  "thud",
		Label: "the dropped valve thuds",
		Check: "drop the valve into its seat",
		Of:    Drop,
	}
	overspeedTold = &Sign{
		Code:  "overspeed",
		Label: "over-revved",
		Check: "ask for the speed and the timing",
		Told:  []*Symptom{Overspeed},
	}
	rattleTold = &Sign{
		Code:  "rattle",
		Label: "noise or rattle",
		Check: "ask when it rattles, cold or hot",
		Told:  []*Symptom{Rattle},
	}
	lowPressureTold = &Sign{
		Code:  "low_compression",
		Label: "low compression",
		Check: "ask for the compression of each cylinder",
		Told:  []*Symptom{LowPressure},
	}
	hollow = &Sign{
		Code:  "hollow",
		Label: "face hollow",
		Check: "straightedge along the head",
		Of:    FaceLine,
		Side:  High,
	}
	thicknessLow = &Sign{
		Code:  "thickness_low",
		Label: "thickness under its limit",
		Check: "measure the thickness",
		Of:    Thickness,
		Side:  Low,
	}
	thicknessIn = &Sign{
		Code:   "thickness_in",
		Label:  "thickness as it should be",
		Check:  "measure the thickness",
		Of:     Thickness,
		Inside: true,
	}
	crackSeen = &Sign{
		Code:  "crack",
		Label: "crack on the map",
		Check: "dye or powder between the seats",
		Mark:  "crack",
	}
	erosionSeen = &Sign{
		Code:  "erosion",
		Label: "erosion between chambers or to a passage",
		Check: "look along the gasket's track",
		Mark:  "erosion",
	}
	ranHotTold = &Sign{
		Code:  "ran_hot",
		Label: "ran hot",
		Check: "ask for the coolant story",
		Told:  []*Symptom{RanHot},
	}
	coolantTold = &Sign{
		Code:  "lost_coolant",
		Label: "lost coolant",
		Check: "ask for the coolant story",
		Told:  []*Symptom{LostCoolant},
	}
	springsWeak = &Sign{
		Code:  "springs_weak",
		Label: "spring load under its limit",
		Check: "spring tester",
		Of:    LoadSeat,
		Side:  Low,
	}
	springsIn = &Sign{
		Code:   "springs_in",
		Label:  "spring loads inside their limits",
		Check:  "spring tester",
		Of:     LoadSeat,
		Inside: true,
	}
	floatsTold = &Sign{
		Code:  "floats",
		Label: "floats at speed",
		Check: "ask how it pulls at full speed",
		Told:  []*Symptom{Floats},
	}
	stampSeen = &Sign{
		Code:  "stamps",
		Label: "stamps of earlier facings",
		Check: "look for stamps on the rail",
		Mark:  "stamp",
	}
	proud = &Sign{
		Code:  "proud",
		Label: "valves proud",
		Check: "read the recession",
		Of:    Recession,
		Side:  Low,
	}
	registerOut = &Sign{Code: "register", Label: "barrel register out", Check: "read the register", Of: Register}
	wrongPart   = &Sign{
		Code:    "wrong_part",
		Label:   "a new part is not to size",
		Check:   "measure every new part and compare it with the old",
		Special: WrongPart,
	}
	noNameTold = &Sign{
		Code:  "no_name",
		Label: "parts without a name",
		Check: "compare the whole box with the old parts",
		Told:  []*Symptom{NoName},
	}
	corroded = &Sign{
		Code:   "corroded",
		Label:  "stems pitted",
		Check:  "look at the stems",
		Part:   StemSeen,
		Grades: []string{"corroded"},
	}
	stoodTold = &Sign{
		Code:  "stood",
		Label: "stood for long",
		Check: "ask how long it stood",
		Told:  []*Symptom{Stood},
	}
	rotatorSticks = &Sign{
		Code:   "rotator",
		Label:  "rotator sticks",
		Check:  "turn it by hand",
		Part:   RotatorSeen,
		Grades: []string{"stiff", "sticks", "worn"},
	}
	mendedTold = &Sign{
		Code:  "mended_lately",
		Label: "mended lately",
		Check: "ask who had it open last",
		Told:  []*Symptom{MendedLately},
	}
	shortSeal = &Sign{
		Code:  "seal_loose",
		Label: "stem seal out of its size",
		Check: "measure the seals on stem and guide",
		Of:    SealStem,
	}
)

// Pull is a sign and what it weighs for a cause: negative speaks against it.
type Pull struct {
	Sign   *Sign
	Weight int
}

// Cause is why a head may have failed. Mend is what outside the head has to be mended, or
// what a customer should know.
type Cause struct {
	Code  string
	Name  string
	On    func(Kind) bool // heads it can happen to; nil: all
	Signs []Pull
	Mend  string
}

// Causes are the causes with what points to them and what speaks against them.
var Causes = []*Cause{
	{
		"guide_worn", "guide worn, oil drawn in", nil,
		[]Pull{
			{clearanceOver, 3}, {rockOver, 2}, {portWet, 2}, {carbonBack, 1}, {oneWetter, 1}, {smokeTold, 1},
			{oilTold, 1}, {portDry, -2},
		},
		"Seals and guides; look for what wore the guide.",
	},
	{
		"seals_gone", "stem seals gone", nil,
		[]Pull{
			{portWet, 2}, {shortSeal, 2}, {carbonBack, 1}, {clearanceIn, 2}, {smokeTold, 1}, {oilTold, 1},
			{clearanceOver, -2}, {portDry, -2},
		},
		"New seals; crankcase breathing.",
	},
	{
		"geometry", "rocker geometry wrong", Kind.Rockers,
		[]Pull{{alongSweep, 3}, {tipOff, 2}, {adjusterOut, 2}, {padWorn, 1}, {rattleTold, 1}, {clearanceOver, 1}},
		"Pushrods, adjusters and rocker pads: set the geometry before the new guides run.",
	},
	{
		"too_tight", "clearance too tight", nil,
		[]Pull{{transfer, 3}, {clearanceUnder, 3}, {hungTold, 2}, {scored, 1}, {polished, -2}},
		"Hone size and guide material of the last repair.",
	},
	{
		"sinking", "seat recession", nil,
		[]Pull{
			{recessionOver, 3}, {lashLostTold, 2}, {dryFuelTold, 2}, {lashLow, 1}, {misfireTold, 1},
			{seatSunk, 1}, {dished, 1},
		},
		"Hard inserts for this fuel; check the lash every season.",
	},
	{
		"tight_lash", "tight lash burnt the valve", Kind.Solid,
		[]Pull{{burnt, 3}, {lashLow, 2}, {ringGaps, 1}, {lowPressureTold, 1}, {ringEven, -1}},
		"Lash after the first hours; whether the adjuster holds.",
	},
	{"seat_out", "seat runs out", nil, []Pull{
		{seatRunout, 3}, {vacuumFixed, 2}, {ringGaps, 1}, {vacuumTurns, -2},
	}, "Guide first, then the seat."},
	{
		"bent", "valve bent", nil, []Pull{
			{valveBent, 3}, {vacuumTurns, 3}, {thud, 1}, {overspeedTold, 2}, {vacuumFixed, -2},
		},
		"Timing, governor, marks on the piston.",
	},
	{
		"overheated", "overheated", nil,
		[]Pull{{hollow, 2}, {thicknessIn, 1}, {crackSeen, 2}, {ranHotTold, 3}, {coolantTold, 1}, {erosionSeen, -1}},
		"Coolant level, thermostat, radiator, pump: before the head goes back.",
	},
	{"gasket", "gasket failed first", nil, []Pull{
		{erosionSeen, 3}, {coolantTold, 1}, {ranHotTold, 1},
	}, "Block deck, bolts and torque."},
	{
		"weak_springs", "weak springs", nil,
		[]Pull{{springsWeak, 3}, {floatsTold, 2}, {tipDented, 1}, {carbonBack, 1}, {springsIn, -3}},
		"Springs as a set; installed heights.",
	},
	{
		"overfaced", "overfaced before", nil,
		[]Pull{
			{thicknessLow, 3}, {stampSeen, 2}, {proud, 2}, {adjusterOut, 1}, {registerOut, 1},
			{thicknessIn, -2},
		},
		"Thicker gasket or a shim under the barrel; the next facing is the last or none.",
	},
	{
		"wrong_part", "wrong part", nil, []Pull{{wrongPart, 3}, {noNameTold, 1}},
		"Compare the whole box with the old parts before any is fitted.",
	},
	{"grit", "grit left in", nil, []Pull{{scored, 2}, {mendedTold, 2}}, "Cleaning record of the earlier job."},
	{
		"corrosion", "corrosion", nil, []Pull{{corroded, 3}, {stoodTold, 2}},
		"Fuel sulphur, coolant; how it is laid up.",
	},
	{"rotator_stuck", "rotator stuck", nil, []Pull{
		{rotatorSticks, 3}, {ringGaps, 1}, {ringEven, -1},
	}, "Rotators turned by hand at every service."},
}

// CauseNamed returns the cause with that code, nil when there is none.
func CauseNamed(code string) *Cause {
	i := slices.IndexFunc(Causes, func(c *Cause) bool { return c.Code == code })
	if i < 0 {
		return nil
	}
	return Causes[i]
}
