package trade

import (
	"yatai/core/gauge"
)

// What is read of springs and where they stand.
var (
	SpringHeight = characteristic(Characteristic{
		Code: "spring.height", Label: "Spring installed height", Line: "retainer's underside to the pad, installed", Section: Springs,
		Where: AtPosition, Low: 5 * mm, High: 150 * mm, Tools: []string{"caliper", "height micrometer", "height gauge"}, OnSheet: true,
	})
	SpringPad = characteristic(Characteristic{
		Code: "spring.pad", Label: "Spring pad depth", Line: "from the cover's rail; deeper is lower", Section: Springs, Where: AtPosition,
		Low: 0, High: 200 * mm, Tools: []string{"dial on bridge", "depth micrometer"}, OnSheet: true, NoLimit: true,
	})
	PadSpread = characteristic(Characteristic{
		Code: "pad.spread", Label: "Spring pads, spread", Line: "deepest less shallowest pad", Section: Springs, Where: AtPosition, Of: SpringPad,
	})
	SpringFree = characteristic(Characteristic{
		Code: "spring.free", Label: "Spring free length", Line: "on the plate", Section: Springs, Where: AtPosition, Low: 10 * mm, High: 200 * mm,
		Tools: []string{"caliper"}, OnSheet: true,
	})
	SpringSquare = characteristic(Characteristic{
		Code: "spring.square", Label: "Spring lean", Line: "over its length, against a square", Section: Springs, Where: AtPosition, Low: 0,
		High: 20 * mm, Tools: []string{"square and feeler"}, OnSheet: true,
	})
	LoadSeat = characteristic(Characteristic{
		Code: "spring.load_seat", Label: "Spring load, installed", Line: "at the installed height", Section: Springs, Where: AtPosition, Low: mm,
		High: 9000 * mm, Tools: []string{"spring tester"}, OnSheet: true, Unit: Newton,
	})
	LoadOpen = characteristic(Characteristic{
		Code: "spring.load_open", Label: "Spring load, open", Line: "at the installed height less the lift", Section: Springs, Where: AtPosition,
		Low: mm, High: 9000 * mm, Tools: []string{"spring tester"}, OnSheet: true, Unit: Newton,
	})
	LoadSpread = characteristic(Characteristic{
		Code: "spring.spread", Label: "Spring load, spread of the set", Line: "strongest less weakest", Section: Springs, Where: AtPosition,
		Of: LoadSeat, Unit: Newton,
	})
)

// SpringSeen is what eyes see of a spring.
var SpringSeen = part(Part{Code: "spring.condition", Label: "Spring", Grades: []Grade{
	{"sound", "sound", "no marks", gauge.Sound},
	{"rust_pits", "rust pits", "pits in the wire", gauge.Renew},
	{"rubbed", "rubbed", "flats where coils or pocket touch", gauge.Out},
	{"leaning", "leaning", "out of square by eye", gauge.Out},
	{"broken", "broken", "in two", gauge.Renew},
}})

// The parts under a valve's retainer.
var (
	SpringPart = partKind(PartKind{
		Code: "spring", Name: "spring", Dims: []*Characteristic{SpringFree, LoadSeat}, First: []*Characteristic{SpringFree}, Usual: 950,
	})
	ShimPart = partKind(PartKind{Code: "spring shim", Name: "spring shim", Usual: 60, Sized: true})
)

// The work on springs and their pads.
var (
	LevelPads = operation(Operation{
		Code: "pad_cut", Name: "Level the spring pads", Station: SeatBench, Stage: Padding, Setup: 15, Each: 8,
		Size: &Size{Label: "pad cut", Metal: true, Scatter: "scatter.seat"}, Moves: []Move{{SpringHeight, 1, BySize}},
		Undoes: []*Operation{FinalWash, Assemble, FinalCheck},
		Voids:  []*Characteristic{SpringPad, SpringHeight, GuideHeight}, Caution: "Eye protection. Never into a water or oil way.",
		Proof: &Proof{Of: SpringPad, Datum: "the cover's rail", Tool: "pad cutter on a pilot in the guide, depth micrometer"},
	})
	ShimSpring = operation(Operation{
		Code: "spring_shim", Name: "Shim springs", Station: Assembly, Stage: Springing, Setup: 5, Each: 3,
		Size: &Size{Label: "spring shim"}, Moves: []Move{{SpringHeight, -1, BySize}},
		Voids: []*Characteristic{SpringHeight, LoadSeat}, Because: "the work moves the spring's height", Caution: springCaution, Uses: ShimPart,
		Proof: &Proof{Of: SpringHeight, Datum: "the spring's pad", Tool: "height micrometer"},
	})
	NewSprings = operation(Operation{
		Code: "spring_new", Name: "New springs", Station: Assembly, Stage: Springing, Setup: 5, Each: 2,
		Voids: []*Characteristic{SpringFree, SpringHeight, LoadSeat, LoadOpen, SpringSquare}, Looks: []*Part{SpringSeen},
		Because: "renewed as a set", Caution: springCaution, Uses: SpringPart,
	})
)

// What can be done about springs.
var (
	_ = repair(Repair{Code: "spring_shim", Name: "Shim the spring", Changes: "load", Works: ShimMetal, Does: ShimSpring, Order: 10,
		Answers: []Answer{{Of: SpringHeight, Side: High}, {Of: LoadSeat, Side: Low}},
		Allowed: all(grades(SpringSeen, "a broken or pitted spring is renewed", "broken", "rust_pits")),
		Fits:    coilsOpen})
	_ = repair(Repair{Code: "pad_cut", Name: "Level the pads to the lowest", Changes: "spring heights", Works: "pad", Does: LevelPads, Order: 20,
		Answers: []Answer{{Of: PadSpread}, {Of: SpringHeight, Side: Low}}})
	_ = repair(Repair{Code: "spring_new", Name: "New springs, as a set", Changes: "load", Works: SpringMetal, Does: NewSprings, Order: 30,
		Answers: []Answer{{Of: LoadSeat}, {Of: LoadOpen}, {Of: LoadSpread}, {Of: SpringFree}, {Of: SpringSquare}, {Part: SpringSeen}}})
)

// coilsOpen allows a shim while the coils stay open at full lift.
func coilsOpen(c Case) Ruling {
	_, hi, _, read := c.Read(SpringHeight)
	lift, liftKnown := c.Figure(Lift)
	solid, solidKnown := c.Figure(SpringSolid)
	_, by := c.Out()
	if c.Finding() != SpringHeight.Code {
		by = 0 // a load: how thick the shim is the plan says
	}
	if read && liftKnown && solidKnown && hi-by-lift <= solid {
		return No("the coils would close: %s installed less %s of lift, %s solid", c.Text(hi-by), c.Text(lift), c.Text(solid))
	}
	return Yes
}
