package trade

import "yatai/core/gauge"

// What is read of guides and the stems in them.
var (
	GuideBore = characteristic(Characteristic{
		Code:    "guide.bore",
		Label:   "Guide bore",
		Line:    "inside diameter at top, middle and bottom, along the sweep and across it",
		Section: Guides,
		Where:   AtPosition,
		Places:  topMiddleBottom,
		Dirs:    bothWays,
		Low:     3 * mm,
		High:    40 * mm,
		Tools:   []string{"bore gauge", "small-hole gauge", "tapered pilot"},
		NoLimit: true,
	})
	Stem = characteristic(Characteristic{
		Code:    "stem.dia",
		Label:   "Stem",
		Line:    "valve stem diameter at top, middle and bottom; a worn stem is too thin",
		Section: Guides,
		Where:   AtPosition,
		Places:  topMiddleBottom,
		Low:     3 * mm,
		High:    40 * mm,
		Tools:   []string{"micrometer", "caliper"},
	})

	GuideClearance = characteristic(Characteristic{
		Code:    "guide.clearance",
		Label:   "Guide clearance",
		Line:    "guide less stem: its largest is held against the upper limit, its smallest against the lower",
		Section: Guides,
		Where:   AtPosition,
		From:    []*Characteristic{GuideBore, Stem},
		Work:    clearance,
		Always:  true,
		Common:  true,
	})
	GuideForm = characteristic(Characteristic{
		Code:    "guide.form",
		Label:   "Guide form",
		Line:    "taper, bell mouth or ovality, the largest of them",
		Section: Guides,
		Where:   AtPosition,
		From:    []*Characteristic{GuideBore},
		Work:    form,
	})
	GuideRock = characteristic(Characteristic{
		Code:    "guide.rock",
		Label:   "Rock of the valve head",
		Line:    "side play of the valve head, valve held at a stated lift",
		Section: Guides,
		Where:   AtPosition,
		Low:     0,
		High:    5 * mm,
		Tools:   []string{"dial indicator"},
		OnSheet: true,
		NoLimit: true,
	})
	RockWays = characteristic(Characteristic{
		Code:    "guide.rock_ways",
		Label:   "Rock of the valve head, both ways",
		Line:    "as the rock, pushed along the rocker's or cam's sweep and across it",
		Section: Guides,
		Where:   AtPosition,
		Dirs:    bothWays,
		Low:     0,
		High:    5 * mm,
		Tools:   []string{"dial indicator"},
		OnSheet: true,
		NoLimit: true,
	})
	GuidePlay = characteristic(Characteristic{
		Code:    "guide.play",
		Label:   "Clearance by rocking",
		Line:    "the rock turned into a clearance",
		Section: Guides,
		Where:   AtPosition,
		From:    []*Characteristic{GuideRock, RockWays},
		Work:    play,
		LimitOf: GuideClearance,
		Always:  true,
	})
	GuideHeight = characteristic(Characteristic{
		Code:    "guide.height",
		Label:   "Guide height",
		Line:    "guide above the spring pad",
		Section: Guides,
		Where:   AtPosition,
		Low:     0,
		High:    100 * mm,
		Tools:   []string{"dial on bridge", "depth micrometer"},
		OnSheet: true,
	})
	GuideDepth = characteristic(Characteristic{
		Code:    "guide.depth",
		Label:   "Guide depth from the face",
		Line:    "from the face over a bar, for class rules",
		Section: Guides,
		Where:   AtPosition,
		Low:     0,
		High:    300 * mm,
		Tools:   []string{"dial on bridge", "depth micrometer"},
		OnSheet: true,
	})
	GuideLength = characteristic(Characteristic{
		Code:    "guide.length",
		Label:   "Guide length",
		Line:    "overall",
		Section: Guides,
		Where:   AtPosition,
		Low:     10 * mm,
		High:    300 * mm,
		Tools:   []string{"caliper"},
		OnSheet: true,
	})
	GuideHole = characteristic(Characteristic{
		Code:    "guide.hole",
		Label:   "Hole for the guide",
		Line:    "in the head, guide out",
		Section: Guides,
		Where:   AtPosition,
		Low:     5 * mm,
		High:    60 * mm,
		Tools:   []string{"bore gauge"},
		OnSheet: true,
		NoLimit: true,
	})
	GuideOuter = characteristic(Characteristic{
		Code:    "guide.outer",
		Label:   "Guide outside",
		Line:    "of the guide that goes in",
		Section: Guides,
		Where:   AtPosition,
		Low:     5 * mm,
		High:    60 * mm,
		Tools:   []string{"micrometer"},
		OnSheet: true,
		NoLimit: true,
	})
	GuideFit = characteristic(Characteristic{
		Code:    "guide.fit",
		Label:   "Guide interference",
		Line:    "guide outside less its hole",
		Section: Guides,
		Where:   AtPosition,
		From:    []*Characteristic{GuideOuter, GuideHole},
		Work:    less(GuideOuter, GuideHole),
	})
)

// GuideSeen is what eyes see of a guide.
var GuideSeen = part(Part{Code: "guide.condition", Label: "Guide", Grades: []Grade{
	{"clean", "clean", "smooth", gauge.Sound},
	{"scored", "scored", "lines along the bore", gauge.Out},
	{"cracked", "cracked", "a line at an end", gauge.Renew},
	{"loose", "loose in the head", "moves by hand or tap", gauge.Renew},
	{"rocks_slightly", "rocks slightly", "by feel, the valve held open 10 mm: read it", gauge.Near},
	{"rocks_clearly", "rocks clearly", "by feel, the valve held open 10 mm", gauge.Out},
}})

// The parts guides are renewed with.
var (
	GuidePart = partKind(
		PartKind{Code: "guide", Name: "guide", Dims: []*Characteristic{GuideOuter, GuideLength}, Usual: 1400},
	)
	LinerPart = partKind(PartKind{Code: "liner", Name: "liner", Usual: 900})
)

var guideMoves = []*Characteristic{GuideBore, SeatRunout, SeatWidth}

// The work on guides. A guide's seat is cut on a pilot in it: a new bore moves its middle.
var (
	HoneGuide = operation(Operation{
		Code:    "guide_hone",
		Name:    "Hone guides",
		Station: GuideBench,
		Stage:   Guiding,
		Setup:   10,
		Each:    8,
		Undoes:  proofs,
		Voids:   []*Characteristic{GuideBore},
		Looks:   []*Part{GuideSeen},
		Caution: "Eye protection. Wash every trace of grit out.",
		Proof:   boreProof("hone, bore gauge set on a ring"),
	})
	ReamGuide = operation(Operation{
		Code:    "guide_ream",
		Name:    "Ream guides oversize",
		Station: GuideBench,
		Stage:   Guiding,
		Setup:   15,
		Each:    10,
		Implies: []*Operation{CutSeat, FitValve},
		Undoes:  proofs,
		Voids:   guideMoves,
		Looks:   []*Part{GuideSeen},
		Caution: "Eye protection.",
		Proof:   boreProof("reamer of the next oversize"),
	})
	LineGuide = operation(Operation{
		Code:    "guide_liner",
		Name:    "Fit guide liners",
		Station: GuideBench,
		Stage:   Guiding,
		Setup:   15,
		Each:    18,
		Implies: []*Operation{CutSeat},
		Undoes:  proofs,
		Voids:   guideMoves,
		Looks:   []*Part{GuideSeen},
		Caution: "Eye protection.",
		Uses:    LinerPart,
		Proof:   boreProof("bore gauge set on a ring of the bore to make"),
		Fit:     GuideFit,
	})
	FitGuide = operation(Operation{
		Code:    "guide_new",
		Name:    "New guides",
		Station: GuideBench,
		Stage:   Guiding,
		Setup:   20,
		Each:    22,
		Implies: []*Operation{CutSeat},
		Undoes:  proofs,
		Voids: append([]*Characteristic{GuideHeight, GuideDepth, GuideOuter, GuideHole},
			guideMoves...),
		Looks:   []*Part{GuideSeen},
		Whole:   true,
		Caution: "Hot head and chilled guides burn: gloves, face shield, ventilation, never a closed container.",
		Uses:    GuidePart,
		Proof:   boreProof("bore gauge set on a ring of the bore to make"),
		Fit:     GuideFit,
	})
)

func boreProof(tool string) *Proof {
	return &Proof{Of: GuideBore, Place: "middle", Dir: "A", Datum: "the guide's own bore", Tool: tool}
}

// What can be done about guides. Never two of them at one position.
var (
	_ = repair(Repair{
		Code:    "guide_hone",
		Choice:  "hone",
		Name:    "Hone to size",
		Changes: "clearance only",
		Works:   GuideMetal,
		Does:    HoneGuide,
		Order:   10,
		Answers: []Answer{{Of: GuideClearance, Side: Low}, {Part: GuideSeen}},
		Allowed: all(grades(GuideSeen, "a cracked or loose guide is renewed", "cracked", "loose"),
			grades(GuideSeen, "a valve that rocks clearly rocks more in a wider guide", "rocks_clearly"), staysInside),
	})
	_ = repair(Repair{
		Code:    "guide_ream",
		Choice:  "ream",
		Name:    "Ream to the next oversize stem",
		Changes: "new valve with oversize stem; seat is cut afterwards",
		Works:   GuideMetal,
		Does:    ReamGuide,
		Order:   35,
		Answers: []Answer{{Of: GuideClearance, Side: High}, {Of: GuidePlay, Side: High}},
		Allowed: func(c Case) Ruling {
			size, ok := c.Figure(OversizeStem)
			_, bore, _, read := c.Read(GuideBore)
			switch {
			case !ok:
				return No("no valve with an oversize stem is known to be had")
			case read && size <= bore:
				return No("the bore is %s already: the oversize stem of %s would not fill it", c.Text(bore), c.Text(size))
			}
			return grades(GuideSeen, "a cracked or loose guide is renewed", "cracked", "loose")(c)
		},
		Fits: guideIsWorn,
	})
	_ = repair(Repair{
		Code:    "guide_liner",
		Choice:  "liner",
		Name:    "Fit a liner",
		Changes: "bore centre moves; seat is cut afterwards",
		Works:   GuideMetal,
		Does:    LineGuide,
		Order:   40,
		Answers: []Answer{{Of: GuideClearance}, {Of: GuideForm}, {Of: GuidePlay, Side: High}, {Part: GuideSeen}},
		Allowed: all(grades(GuideSeen, "a cracked or loose guide carries no liner", "cracked", "loose"),
			listed(&LinerPart)),
		Fits: guideIsWorn,
	})
	_ = repair(Repair{
		Code:    "guide_new",
		Choice:  "new",
		Name:    "New guide",
		Changes: "bore centre moves; seat is cut afterwards; pressed to its height",
		Works:   GuideMetal,
		Does:    FitGuide,
		Order:   45,
		Answers: []Answer{
			{Of: GuideClearance}, {Of: GuideForm}, {Of: GuidePlay, Side: High}, {Part: GuideSeen}, {Of: GuideHeight},
			{Of: GuideLength},
			{Of: GuideFit}, {Of: GuideDepth}, {Of: ValveGap}, {Of: GapOpen},
		},
		Fits: guideIsWorn,
	})
)

// guideIsWorn forbids a guide where the stem alone is worn: the guide is good with a new one.
func guideIsWorn(c Case) Ruling {
	side, _ := c.Out()
	if f := c.Finding(); side != High || f != GuideClearance.Code && f != GuidePlay.Code {
		return Yes
	}
	if said := stemIsWorn(c); said == Yes {
		return No("the guide is good with a new stem: new valve alone")
	}
	return Yes
}

// staysInside allows honing while the largest clearance has room left.
func staysInside(c Case) Ruling {
	side, by := c.Out()
	if side != Low {
		return Yes
	}
	_, hi, u, read := c.Read(GuideClearance)
	if _, high := c.Limit(GuideClearance); read && high != nil && hi+by+u > *high {
		return No("where the guide is widest it would go over %s", c.Text(*high))
	}
	return Yes
}
