package trade

import "yatai/core/gauge"

// What is read of cam bores and their journals.
var (
	CamBore = characteristic(Characteristic{
		Code:    "cam.bore",
		Label:   "Cam bore",
		Line:    "cap pulled down, in two directions",
		Section: Cam,
		Where:   AtJournal,
		Dirs:    bothWays,
		Low:     10 * mm,
		High:    120 * mm,
		Tools:   []string{"bore gauge"},
		OnSheet: true,
		On:      Kind.CamInHead,
	})
	CamJournal = characteristic(Characteristic{
		Code:    "cam.journal",
		Label:   "Cam journal",
		Line:    "the cam's journal",
		Section: Cam,
		Where:   AtJournal,
		Low:     10 * mm,
		High:    120 * mm,
		Tools:   []string{"micrometer"},
		OnSheet: true,
		On:      Kind.CamInHead,
	})
	CamClearance = characteristic(Characteristic{
		Code:    "cam.clearance",
		Label:   "Cam clearance",
		Line:    "bore less journal, or by a gauging strip",
		Section: Cam,
		Where:   AtJournal,
		Low:     0,
		High:    mm,
		Tools:   []string{"gauging strip"},
		OnSheet: true,
		On:      Kind.CamInHead,
		From:    []*Characteristic{CamBore, CamJournal},
		Work:    less(CamBore, CamJournal),
	})
	CamLobe = characteristic(Characteristic{
		Code:    "cam.lobe",
		Label:   "Cam lobe height",
		Line:    "over the nose and the base circle, at the valve's own lobe",
		Section: Cam,
		Where:   AtPosition,
		Low:     10 * mm,
		High:    150 * mm,
		Tools:   []string{"micrometer"},
		OnSheet: true,
		On:      Kind.CamInHead,
	})
	CamFloat = characteristic(Characteristic{
		Code:    "cam.float",
		Label:   "Camshaft end float",
		Line:    "pushed to and fro, caps pulled down, dial on its end",
		Section: Cam,
		Where:   AtShaft,
		Low:     0,
		High:    3 * mm,
		Tools:   []string{"dial indicator"},
		OnSheet: true,
		On:      Kind.CamInHead,
	})
	CamRunout = characteristic(Characteristic{
		Code:    "cam.runout",
		Label:   "Camshaft runout",
		Line:    "turned on its end journals, dial on the middle one",
		Section: Cam,
		Where:   AtShaft,
		Low:     0,
		High:    3 * mm,
		Tools:   []string{"dial indicator"},
		OnSheet: true,
		On:      Kind.CamInHead,
	})
)

// CamSeen is what eyes see of a cam bore and its cap.
var CamSeen = part(
	Part{
		Code:  "cam.condition",
		Label: "Cam bore and cap",
		Where: AtJournal,
		On:    Kind.CamInHead,
		Grades: []Grade{
			{"clean", "clean", "even sheen all round", gauge.Sound},
			{"scored", "scored", "lines along the sweep a nail catches", gauge.Out},
			{"picked_up", "picked up", "metal of the bore torn off, or galled on the cap", gauge.Renew},
		},
	},
)

// CamshaftSeen is what eyes see of a camshaft: which journal or lobe its note says.
var CamshaftSeen = part(
	Part{
		Code:  "camshaft.condition",
		Label: "Camshaft",
		Where: AtShaft,
		On:    Kind.CamInHead,
		Grades: []Grade{
			{"even", "even", "journals and lobes bright, no marks", gauge.Sound},
			{"light_lines", "light lines", "lines a nail does not catch", gauge.Near},
			{"scored", "scored", "lines on a journal a nail catches", gauge.Out},
			{"blue", "blue", "a journal or lobe ran hot", gauge.Out},
			{"pitted", "pitted", "pits on a lobe, or its nose worn flat", gauge.Renew},
			{"cracked", "cracked", "a line across a journal or a lobe", gauge.Renew},
		},
	},
)

// CamPart is a camshaft, new or reground.
var CamPart = partKind(
	PartKind{Code: "camshaft", Name: "camshaft", Dims: []*Characteristic{CamJournal}, Usual: 18_000},
)

// The work on cam bores and camshafts.
var (
	DressCam = operation(Operation{
		Code:    "cam_dress",
		Name:    "Dress cam bores and caps",
		Station: Press,
		Stage:   Boring,
		Setup:   25,
		On:      Kind.CamInHead,
		Voids:   []*Characteristic{CamBore, CamClearance},
		Looks:   []*Part{CamSeen},
		Caution: "Wash every trace of grit out of the oil ways.",
	})
	NewCam = operation(Operation{
		Code:     "cam_new",
		Name:     "New or reground camshaft",
		Station:  Assembly,
		Stage:    Boring,
		Setup:    20,
		On:       Kind.CamInHead,
		Voids:    []*Characteristic{CamJournal, CamClearance, CamLobe, CamFloat, CamRunout},
		Looks:    []*Part{CamSeen, CamshaftSeen},
		Uses:     CamPart,
		PerShaft: true,
		Caution:  "Caps keep their places and their arrows; torqued as the maker says.",
	})
	LineBore = operation(Operation{
		Code:    "line_bore",
		Name:    "Line bore",
		Station: SeatBench,
		Stage:   Boring,
		Setup:   180,
		On:      Kind.CamInHead,
		Voids:   []*Characteristic{CamBore, CamClearance},
		Looks:   []*Part{CamSeen},
		Whole:   true,
		Caution: "Eye protection.",
	})
)

// What can be done about them.
var (
	_ = repair(Repair{
		Code:    "cam_dress",
		Name:    "Dress the bore and its cap",
		Changes: "clearance a little",
		Works:   CamMetal,
		Does:    DressCam,
		Order:   10,
		Answers: []Answer{
			{Part: CamSeen}, {Of: CamClearance, Side: Low},
		},
		Allowed: grades(CamSeen, "what is torn off is not dressed back", "picked_up"),
	})
	_ = repair(Repair{
		Code:    "line_bore",
		Name:    "Line bore",
		Changes: "cam height, drive",
		Works:   CamMetal,
		Does:    LineBore,
		Order:   30,
		Answers: []Answer{{Of: CamBore}, {Of: CamClearance}, {Part: CamSeen}},
		Allowed: boreIsWorn,
	})
	_ = repair(Repair{
		Code:    "cam_new",
		Name:    "New or reground camshaft",
		Changes: "clearance",
		Works:   "camshaft",
		Does:    NewCam,
		Order:   20,
		Answers: []Answer{
			{Of: CamJournal}, {Of: CamClearance, Side: High}, {Of: CamLobe}, {Of: CamFloat}, {Of: CamRunout},
			{Part: CamshaftSeen},
		},
		Allowed: journalIsWorn,
	})
)

// under tells whether what was read of c here is below its least, with its doubt; known is false
// where it was not read or has no least.
func under(c Case, of *Characteristic) (is, known bool) {
	lo, _, u, read := c.Read(of)
	low, _ := c.Limit(of)
	return read && low != nil && lo+u < *low, read && low != nil
}

// over is the same of the most.
func over(c Case, of *Characteristic) (is, known bool) {
	_, hi, u, read := c.Read(of)
	_, high := c.Limit(of)
	return read && high != nil && hi-u > *high, read && high != nil
}

// boreIsWorn allows line boring as the answer to a clearance where the housing is not known to be
// good: a worn journal is the camshaft's.
func boreIsWorn(c Case) Ruling {
	if c.Finding() != CamClearance.Code {
		return Yes
	}
	if large, known := over(c, CamBore); known && !large {
		return No("the bore is inside its limit: the camshaft's journal is worn")
	}
	if thin, known := under(c, CamJournal); known && thin {
		return No("the journal is under its size: boring does not cure a camshaft")
	}
	return Yes
}

// journalIsWorn allows a new camshaft as the answer to a clearance where the journal is not known to
// be good.
func journalIsWorn(c Case) Ruling {
	if thin, known := under(c, CamJournal); c.Finding() == CamClearance.Code && known && !thin {
		return No("the journal is inside its limit: the bore is worn")
	}
	return Yes
}
