package trade

import (
	"yatai/core/gauge"
)

// What is read of a valve.
var (
	ValveMargin = characteristic(Characteristic{
		Code:    "valve.margin",
		Label:   "Margin",
		Line:    "thickness of the rim between face and head",
		Section: Valves,
		Where:   AtPosition,
		Low:     0,
		High:    20 * mm,
		Tools:   []string{"caliper"},
		Common:  true,
	})
	ValveHead = characteristic(Characteristic{
		Code:    "valve.head",
		Label:   "Valve head",
		Line:    "head diameter",
		Section: Valves,
		Where:   AtPosition,
		Low:     8 * mm,
		High:    200 * mm,
		Tools:   []string{"caliper"},
		OnSheet: true,
	})
	BackRing = characteristic(Characteristic{
		Code:    "valve.back_ring",
		Label:   "Ring left by the back cut",
		Line:    "width of the face between the margin and the back cut",
		Section: Valves,
		Where:   AtPosition,
		Low:     0,
		High:    20 * mm,
		Tools:   []string{"caliper"},
		OnSheet: true,
	})
	ValveLength = characteristic(Characteristic{
		Code:    "valve.length",
		Label:   "Valve length",
		Line:    "overall",
		Section: Valves,
		Where:   AtPosition,
		Low:     30 * mm,
		High:    500 * mm,
		Tools:   []string{"caliper"},
		OnSheet: true,
	})
	ValveTip = characteristic(Characteristic{
		Code:    "valve.tip",
		Label:   "Groove to tip",
		Line:    "keeper groove to the stem's tip",
		Section: Valves,
		Where:   AtPosition,
		Low:     0,
		High:    60 * mm,
		Tools:   []string{"caliper", "micrometer"},
		OnSheet: true,
	})
	ValveRunout = characteristic(Characteristic{
		Code:    "valve.runout",
		Label:   "Valve runout",
		Line:    "face against the stem, in the V-jig",
		Section: Valves,
		Where:   AtPosition,
		Low:     0,
		High:    5 * mm,
		Tools:   []string{"dial on pilot", "dial indicator"},
		OnSheet: true,
	})
	FaceAngle = characteristic(Characteristic{
		Code:    "valve.face_angle",
		Label:   "Valve face angle",
		Line:    "degrees from the head's plane",
		Section: Valves,
		Where:   AtPosition,
		Low:     10 * mm,
		High:    80 * mm,
		Tools:   []string{"protractor"},
		OnSheet: true,
		Unit:    Degree,
	})
	Interference = characteristic(Characteristic{
		Code:    "valve.interference",
		Label:   "Interference angle",
		Line:    "seat angle less face angle: above nothing the valve's outer edge meets first",
		Section: Valves,
		Where:   AtPosition,
		From:    []*Characteristic{SeatAngleAt, FaceAngle},
		Work:    less(SeatAngleAt, FaceAngle),
		Unit:    Degree,
	})
	StemHeight = characteristic(Characteristic{
		Code:    "stem.height",
		Label:   "Stem height",
		Line:    "stem tip above its datum, valve seated",
		Section: Valves,
		Where:   AtPosition,
		Low:     mm / 2,
		High:    300 * mm,
		Tools:   []string{"height gauge", "depth micrometer"},
		Common:  true,
	})
	ValveGap = characteristic(Characteristic{
		Code:    "valve.gap",
		Label:   "Gap between valve heads",
		Line:    "least distance between neighbouring valve heads",
		Section: Valves,
		Where:   AtPair,
		Bracket: true,
		Low:     0,
		High:    50 * mm,
		Tools:   []string{"feelers"},
		OnSheet: true,
	})
)

// What eyes see of a valve.
var (
	FaceSeen = part(Part{Code: "valve.face", Label: "Valve face", Grades: []Grade{
		{"clean", "clean", "a matte ring all round, no marks", gauge.Sound},
		{"light_pits", "light pits", "specks a nail does not catch", gauge.Near},
		{"heavy_pits", "heavy pits", "pits a nail catches, across the ring", gauge.Out},
		{"dished", "dished", "hollow where the seat has beaten it", gauge.Out},
		{"burnt", "burnt", "a sector melted or channelled", gauge.Renew},
		{"cracked", "cracked", "a line from the rim inwards", gauge.Renew},
	}})
	StemSeen = part(Part{Code: "stem.condition", Label: "Stem", Grades: []Grade{
		{"clean", "clean", "even, no marks", gauge.Sound},
		{"polished", "polished wear", "bright where the guide runs", gauge.Near},
		{"ridge", "ridge", "a step at the guide's edge", gauge.Out},
		{"transfer", "metal transfer", "guide metal smeared on the stem", gauge.Renew},
		{"bent", "bent", "rolls out of true on the plate", gauge.Renew},
		{"corroded", "corroded", "pitted from standing or acid", gauge.Out},
	}})
	TipSeen = part(Part{Code: "tip.condition", Label: "Tip", Grades: []Grade{
		{"clean", "clean", "flat, a centred mark", gauge.Sound},
		{"offcentre", "worn off centre", "the rocker's mark lies to one side", gauge.Near},
		{"dented", "dented", "a hollow where the rocker strikes", gauge.Out},
		{"mushroomed", "mushroomed", "spread over the stem's edge", gauge.Renew},
	}})
	GrooveSeen = part(Part{Code: "groove.condition", Label: "Keeper groove", Grades: []Grade{
		{"sharp", "sharp", "edges square", gauge.Sound},
		{"worn", "worn", "edges rounded or stepped", gauge.Renew},
	}})
	KeeperSeen = part(Part{Code: "keeper.condition", Label: "Keepers", Grades: []Grade{
		{"sound", "sound", "grip all round", gauge.Sound},
		{"worn", "worn", "stepped or turning on the stem", gauge.Renew},
	}})
	RotatorSeen = part(Part{
		Code:  "rotator.condition",
		Label: "Rotator",
		With:  func(v Valve) bool { return !v.Plain },
		Grades: []Grade{
			{"free", "turns freely", "by hand, both ways as made", gauge.Sound},
			{"stiff", "turns stiffly", "in jerks: dirt between the balls and their tracks", gauge.Out},
			{"sticks", "sticks", "does not turn", gauge.Renew},
			{"worn", "worn inside", "tracks, balls or disc spring worn or corroded", gauge.Renew},
		},
	})
	PortSeen = part(Part{Code: "port.condition", Label: "Port", Grades: []Grade{
		{"dry", "dry", "dull grey or brown", gauge.Sound},
		{"oily", "oil-wet", "wet with oil, or oil coke on the valve's back", gauge.Near},
		{"carbon", "choked with carbon", "thick dry carbon, also on the valve's back", gauge.Near},
	}})
)

// The parts of a valve.
var (
	ValvePart = partKind(PartKind{
		Code:  "valve",
		Name:  "valve",
		Usual: 2800,
		Dims:  []*Characteristic{Stem, ValveMargin, ValveHead, ValveLength, ValveTip, FaceAngle},
		First: []*Characteristic{Stem, ValveMargin},
	})
	KeeperPart  = partKind(PartKind{Code: "keepers", Name: "keepers", Usual: 180})
	RotatorPart = partKind(PartKind{Code: "rotator", Name: "rotator", Usual: 2600})
)

// The work on valves.
var (
	FitValve = operation(Operation{
		Code:    "valve_new",
		Name:    "New valves, measured",
		Station: Press,
		Stage:   Receiving,
		Setup:   5,
		Each:    6,
		Undoes:  proofs,
		Moves: moves(rises(ByMargin, -1), []Move{
			{StemHeight, 1, ByLength}, {Lash, -1, ByLength}, {LashDry, -1, ByLength}, {SpringHeight, 1, ByGroove},
			{ValveMargin, 1, ByMargin},
		}),
		Voids: []*Characteristic{
			Stem, ValveMargin, ValveRunout, ValveHead, ValveLength, ValveTip, FaceAngle, BackRing, Recession,
			SeatWidth, StemHeight, SpringHeight,
			Lash, LashDry, VacuumTurned, Liquid, Drop,
		},
		Looks:   []*Part{FaceSeen, StemSeen, TipSeen, GrooveSeen},
		Caution: "Sodium-filled valves: never cut, weld, crush or machine through.",
		Uses:    ValvePart,
		Proof:   &Proof{Of: Stem, Place: "middle", Datum: "the new valve's stem", Tool: "micrometer"},
	})
	GrindFace = operation(Operation{
		Code:    "valve_grind",
		Name:    "Reface valves",
		Station: Grinder,
		Stage:   Refacing,
		Setup:   10,
		Each:    6,
		Undoes:  proofs,
		Size: &Size{
			Label:   "reface",
			Least:   figureOf(ValveGrindCut, 1),
			Most:    figureOf(ValveGrindCut, 1),
			Metal:   true,
			Scatter: "scatter.grind",
		},
		Moves: moves(rises(BySize, 1), []Move{{ValveMargin, -1, BySize}}),
		Voids: []*Characteristic{
			ValveMargin, FaceAngle, BackRing, ValveRunout, Recession, StemHeight, SpringHeight, Lash, LashDry,
		},
		Looks:   []*Part{FaceSeen},
		Because: "the plan refaces them to bring the depth right",
		Caution: "Eye protection. Never grind a hollow or sodium-filled valve through; coated valves are not ground.",
		Proof: &Proof{
			Of: ValveMargin, Datum: "the valve's rim", Tool: "valve grinder, chuck on the stem's unworn part",
		},
	})
	GrindTip = operation(Operation{
		Code:    "tip_grind",
		Name:    "Grind tips",
		Station: Grinder,
		Stage:   Refacing,
		Setup:   10,
		Each:    4,
		Size:    &Size{Label: "tip ground", Most: figureOf(TipMost, 1), Metal: true, Scatter: "scatter.tip"},
		Moves:   []Move{{StemHeight, -1, BySize}, {Lash, 1, BySize}, {LashDry, 1, BySize}},
		Undoes:  []*Operation{FinalWash, FinalCheck},
		Voids:   []*Characteristic{StemHeight, Lash, LashDry, ValveTip},
		Looks:   []*Part{TipSeen},
		Because: "the plan brings the stem heights right",
		Caution: "Eye protection. Stay within the hardening.",
		Proof:   &Proof{Of: StemHeight, Datum: "the spring's pad, valve seated", Tool: "tip grinder, height gauge"},
	})
	NewKeepers = operation(Operation{
		Code:    "keeper_new",
		Name:    "New keepers",
		Station: Assembly,
		Stage:   Springing,
		Setup:   2,
		Each:    1,
		Looks:   []*Part{KeeperSeen},
		Caution: springCaution,
		Because: "renewed as a rule of the shop",
		Uses:    KeeperPart,
	})
	OpenRotators = operation(Operation{
		Code:    "rotator_apart",
		Name:    "Take rotators apart",
		Station: Assembly,
		Stage:   Springing,
		Setup:   5,
		Each:    6,
		Looks:   []*Part{RotatorSeen},
		Caution: springCaution,
		Record:  rotatorRecord,
	})
	NewRotators = operation(Operation{
		Code:    "rotator_new",
		Name:    "New rotators",
		Station: Assembly,
		Stage:   Springing,
		Setup:   2,
		Each:    2,
		Voids:   []*Characteristic{SpringHeight},
		Looks:   []*Part{RotatorSeen},
		Caution: springCaution,
		Because: "renewed whatever they measure, by the sheet",
		Uses:    RotatorPart,
	})
)

const springCaution = "Springs: eye protection, compressor seated, hands clear."

// What can be done about valves.
var (
	_ = repair(Repair{
		Code:    "valve_grind",
		Name:    "Reface the valve",
		Choice:  "grind",
		Changes: "margin, recession, stem and spring height",
		Works:   ValveMetal,
		Does:    GrindFace,
		Order:   20,
		Answers: []Answer{
			{Part: FaceSeen}, {Of: FaceAngle}, {Of: Interference}, {Of: BackRing, Side: High},
			{Of: ValveRunout, Side: High},
		},
		Allowed: all(
			valves(Valve.Titanium, "titanium valves are never ground"),
			valves(func(v Valve) bool { return v.Coated }, "coated valves are never ground"),
			grades(FaceSeen, "a burnt or cracked valve is renewed", "burnt", "cracked"),
			valves(func(v Valve) bool { return v.Hollow },
				"hollow valves are never cut or ground: the stem may hold sodium"),
			grades(StemSeen, "a bent valve, or one with metal transfer, is renewed", "bent", "transfer"),
			grindableRunout, marginLeft),
	})
	_ = repair(Repair{
		Code:    "valve_new",
		Name:    "New valve",
		Choice:  "new",
		Changes: "clearance, margin, recession, heights: measure it before it is trusted",
		Works:   ValveMetal,
		Does:    FitValve,
		Order:   30,
		Answers: []Answer{
			{Of: Stem}, {Of: GuideClearance, Side: High}, {Of: GuidePlay, Side: High}, {Of: ValveMargin},
			{Of: ValveRunout}, {Of: ValveHead},
			{Of: ValveLength}, {Of: ValveTip}, {Of: FaceAngle}, {Of: BackRing}, {Of: Recession, Side: High},
			{Of: StemHeight}, {Of: LashDry},
			{Of: SpringHeight, Side: High}, {Of: VacuumLost}, {Of: Liquid}, {Of: Drop}, {Of: LapRing}, {Of: ValveGap},
			{Part: FaceSeen},
			{Part: StemSeen}, {Part: TipSeen}, {Part: GrooveSeen},
		},
		Fits: newValveHelps,
	})
	_ = repair(Repair{
		Code:    "tip_grind",
		Name:    "Grind the tip",
		Changes: "stem height, lash",
		Works:   TipMetal,
		Does:    GrindTip,
		Order:   10,
		Answers: []Answer{{Of: StemHeight, Side: High}, {Of: LashDry, Side: Low}, {Part: TipSeen}},
		Allowed: all(grades(TipSeen, "a mushroomed tip has lost its hardening: new valve", "mushroomed")),
		Fits:    withinHardening,
	})
	_ = repair(Repair{
		Code:    "keeper_new",
		Name:    "New keepers",
		Changes: "nothing else",
		Works:   "keeper",
		Does:    NewKeepers,
		Answers: []Answer{{Part: KeeperSeen}},
	})
	_ = repair(Repair{
		Code:    "rotator_apart",
		Name:    "Take the rotator apart",
		Changes: "nothing else: washed, looked at, put together as the maker says",
		Works:   "rotator",
		Does:    OpenRotators,
		Order:   10,
		Answers: []Answer{{Part: RotatorSeen}},
		Allowed: all(grades(RotatorSeen, "one that does not turn or is worn inside is renewed", "sticks", "worn")),
	})
	_ = repair(Repair{
		Code:    "rotator_new",
		Name:    "New rotator",
		Changes: "spring height",
		Works:   "rotator",
		Does:    NewRotators,
		Order:   20,
		Answers: []Answer{{Part: RotatorSeen}},
	})
)

// grindableRunout allows refacing a valve that runs out while that is little.
func grindableRunout(c Case) Ruling {
	_, hi, _, read := c.Read(ValveRunout)
	if most, ok := c.Figure(GrindRunout); read && ok && hi > most {
		return No("it runs out by %s, more than refacing takes out (%s): the valve is bent", c.Text(hi),
			c.Text(most))
	}
	return Yes
}

// marginLeft allows refacing while the margin stays at its least, with its doubt.
func marginLeft(c Case) Ruling {
	low, _ := c.Limit(ValveMargin)
	grind, _ := c.Figure(ValveGrindCut)
	lo, _, u, read := c.Read(ValveMargin)
	switch {
	case low == nil:
		return Yes
	case !read:
		return Ruling{OK: true, Why: "the margin was not read: read it before it is ground"}
	case lo-grind-u < *low:
		return No("it would leave a margin of %s with a doubt of %s, and %s is the least", c.Text(lo-grind),
			c.Text(u), c.Text(*low))
	}
	return Yes
}

// withinHardening allows grinding a tip by what its hardening allows in all.
func withinHardening(c Case) Ruling {
	most, ok := c.Figure(TipMost)
	if !ok {
		return No("the sheet does not say how much of a tip may be ground")
	}
	if side, by := c.Out(); side == High && by > most {
		return No("%s would have to come off, and its hardening allows %s", c.Text(by), c.Text(most))
	}
	return Yes
}

// newValveHelps allows a new valve where it answers the finding: a worn stem in a good
// guide, a depth or a height that all the grinding of the old one has made.
func newValveHelps(c Case) Ruling {
	margin, _, _, read := c.Read(ValveMargin)
	fresh, known := c.Figure(NewMargin)
	gain := fresh - margin
	f := c.Finding()
	switch f {
	case GuideClearance.Code, GuidePlay.Code:
		return stemIsWorn(c)
	case Recession.Code, SpringHeight.Code:
		side, by := c.Out()
		switch {
		case side != High:
			return No("a new valve does not sit deeper")
		case !read || !known:
			return No("margin or the new valve's margin is not known: nothing says that it would sit higher")
		case gain < by:
			return No("its margin gives %s of the %s that are missing: the seat is sunk", c.Text(max(0, gain)),
				c.Text(by))
		}
	case StemHeight.Code:
		side, by := c.Out()
		if side == High && read && known && gain < by {
			return No("a new margin gives %s of the %s that are missing", c.Text(max(0, gain)), c.Text(by))
		}
	case ValveGap.Code, GapOpen.Code:
		return No("a new valve's head is as large")
	}
	return Yes
}

// stemIsWorn allows a new valve as the answer to a clearance when the guide is good with it.
func stemIsWorn(c Case) Ruling {
	_, bore, _, read := c.Read(GuideBore)
	_, high := c.Limit(GuideClearance)
	stem, _, known := c.NewStem()
	if read && high != nil && known {
		if bore-stem > *high {
			return No("the guide is over its limit with a new stem too: %s", c.Text(bore-stem))
		}
		if lo, _, _, ok := c.Read(Stem); ok && lo >= stem {
			return No("the stem is as new: the guide is worn")
		}
		return Yes
	}
	if low, _ := c.Limit(Stem); low != nil {
		if lo, _, _, ok := c.Read(Stem); ok && lo >= *low {
			return No("the stem is inside its limit: the guide is worn")
		}
	}
	return Ruling{OK: true, Why: "the new stem is not known: measure it, then the guide with it"}
}
