package trade

import "yatai/core/gauge"

// What is read of cam bores and their journals.
var (
	CamBore = characteristic(Characteristic{
		Code: "cam.bore", Label: "Cam bore", Line: "cap pulled down, in two directions", Section: Cam, Where: AtJournal, Dirs: bothWays,
		Low: 10 * mm, High: 120 * mm, Tools: []string{"bore gauge"}, OnSheet: true, On: Kind.CamInHead,
	})
	CamJournal = characteristic(Characteristic{
		Code: "cam.journal", Label: "Cam journal", Line: "the cam's journal", Section: Cam, Where: AtJournal, Low: 10 * mm, High: 120 * mm,
		Tools: []string{"micrometer"}, OnSheet: true, On: Kind.CamInHead,
	})
	CamClearance = characteristic(Characteristic{
		Code: "cam.clearance", Label: "Cam clearance", Line: "bore less journal, or by a gauging strip", Section: Cam, Where: AtJournal, Low: 0,
		High: mm, Tools: []string{"gauging strip"}, OnSheet: true, On: Kind.CamInHead, From: []*Characteristic{CamBore, CamJournal},
		Work: less(CamBore, CamJournal),
	})
)

// CamSeen is what eyes see of a cam bore and its cap.
var CamSeen = part(Part{Code: "cam.condition", Label: "Cam bore and cap", Where: AtJournal, On: Kind.CamInHead, Grades: []Grade{
	{"clean", "clean", "even sheen all round", gauge.Sound},
	{"scored", "scored", "lines along the sweep a nail catches", gauge.Out},
	{"picked_up", "picked up", "metal of the bore torn off, or galled on the cap", gauge.Renew},
}})

// The work on cam bores.
var (
	DressCam = operation(Operation{
		Code: "cam_dress", Name: "Dress cam bores and caps", Station: Press, Stage: Boring, Setup: 25, On: Kind.CamInHead,
		Voids: []*Characteristic{CamBore, CamClearance}, Looks: []*Part{CamSeen}, Caution: "Wash every trace of grit out of the oil ways.",
	})
	LineBore = operation(Operation{
		Code: "line_bore", Name: "Line bore", Station: SeatBench, Stage: Boring, Setup: 180, On: Kind.CamInHead,
		Voids: []*Characteristic{CamBore, CamClearance}, Looks: []*Part{CamSeen}, Whole: true, Caution: "Eye protection.",
	})
)

// What can be done about them.
var (
	_ = repair(Repair{
		Code: "cam_dress", Name: "Dress the bore and its cap", Changes: "clearance a little", Works: CamMetal, Does: DressCam, Order: 10,
		Answers: []Answer{
			{Part: CamSeen}, {Of: CamClearance, Side: Low},
		},
		Allowed: grades(CamSeen, "what is torn off is not dressed back", "picked_up"),
	})
	_ = repair(Repair{
		Code: "line_bore", Name: "Line bore", Changes: "cam height, drive", Works: CamMetal, Does: LineBore, Order: 30,
		Answers: []Answer{{Of: CamBore}, {Of: CamClearance}, {Of: CamJournal}, {Part: CamSeen}},
	})
)
