package trade

import (
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
)

// What is read of springs and where they stand.
var (
	SpringHeight = characteristic(Characteristic{
		Code:    "spring.height",
		Label:   "Spring installed height",
		Line:    "retainer's underside to the pad, installed",
		Section: Springs,
		Where:   AtPosition,
		Low:     5 * mm,
		High:    150 * mm,
		Tools:   []string{"caliper", "height micrometer", "height gauge"},
		OnSheet: true,
		Common:  true,
	})
	SpringPad = characteristic(Characteristic{
		Code:    "spring.pad",
		Label:   "Spring pad depth",
		Line:    "from the cover's rail; deeper is lower",
		Section: Springs,
		Where:   AtPosition,
		Low:     0,
		High:    200 * mm,
		Tools:   []string{"dial on bridge", "depth micrometer"},
		OnSheet: true,
		NoLimit: true,
	})
	PadSpread = characteristic(Characteristic{
		Code:    "pad.spread",
		Label:   "Spring pads, spread",
		Line:    "deepest less shallowest pad",
		Section: Springs,
		Where:   AtPosition,
		Of:      SpringPad,
	})
	SpringFree = characteristic(Characteristic{
		Code:    "spring.free",
		Label:   "Spring free length",
		Line:    "on the plate",
		Section: Springs,
		Where:   AtPosition,
		Low:     10 * mm,
		High:    200 * mm,
		Tools:   []string{"caliper"},
		OnSheet: true,
	})
	SpringSquare = characteristic(Characteristic{
		Code:    "spring.square",
		Label:   "Spring lean",
		Line:    "over its length, against a square",
		Section: Springs,
		Where:   AtPosition,
		Low:     0,
		High:    20 * mm,
		Tools:   []string{"square and feeler"},
		OnSheet: true,
	})
	LoadSeat = characteristic(Characteristic{
		Code:    "spring.load_seat",
		Label:   "Spring load, installed",
		Line:    "at the installed height",
		Section: Springs,
		Where:   AtPosition,
		Low:     mm,
		High:    9000 * mm,
		Tools:   []string{"spring tester"},
		OnSheet: true,
		Unit:    Newton,
	})
	LoadOpen = characteristic(Characteristic{
		Code:    "spring.load_open",
		Label:   "Spring load, open",
		Line:    "at the installed height less the lift",
		Section: Springs,
		Where:   AtPosition,
		Low:     mm,
		High:    9000 * mm,
		Tools:   []string{"spring tester"},
		OnSheet: true,
		Unit:    Newton,
	})
	BookSeat = characteristic(Characteristic{
		Code:    "spring.book_seat",
		Label:   "Spring load, book's closed length",
		Line:    "pressed to the length that the book gives for the valve closed",
		Section: Springs,
		Where:   AtPosition,
		Low:     mm,
		High:    9000 * mm,
		Tools:   []string{"spring tester"},
		OnSheet: true,
		Unit:    Newton,
	})
	BookOpen = characteristic(Characteristic{
		Code:    "spring.book_open",
		Label:   "Spring load, book's open length",
		Line:    "pressed to the length that the book gives for the valve open",
		Section: Springs,
		Where:   AtPosition,
		Low:     mm,
		High:    9000 * mm,
		Tools:   []string{"spring tester"},
		OnSheet: true,
		Unit:    Newton,
	})
	LoadReckoned = characteristic(Characteristic{
		Code:    "spring.load_reckoned",
		Label:   "Spring load, installed, by its rate",
		Line:    "from the loads at the book's two lengths, at the height it is installed at",
		Section: Springs,
		Where:   AtPosition,
		From:    []*Characteristic{BookSeat, BookOpen, SpringHeight},
		Work:    byRate,
		LimitOf: LoadSeat,
		Unit:    Newton,
		Always:  true,
	})
	LoadSpread = characteristic(Characteristic{
		Code:    "spring.spread",
		Label:   "Spring load, spread of the set",
		Line:    "strongest less weakest",
		Section: Springs,
		Where:   AtPosition,
		Of:      LoadSeat,
		Unit:    Newton,
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
		Code:  "spring",
		Name:  "spring",
		Dims:  []*Characteristic{SpringFree, LoadSeat},
		First: []*Characteristic{SpringFree},
		Usual: 950,
	})
	ShimPart = partKind(PartKind{Code: "spring shim", Name: "spring shim", Usual: 60, Sized: true})
)

// The work on springs and their pads.
var (
	LevelPads = operation(Operation{
		Code:    "pad_cut",
		Name:    "Level the spring pads",
		Station: SeatBench,
		Stage:   Padding,
		Setup:   15,
		Each:    8,
		Size:    &Size{Label: "pad cut", Metal: true, Scatter: "scatter.seat"},
		Moves:   []Move{{SpringHeight, 1, BySize}},
		Undoes:  []*Operation{FinalWash, Assemble, FinalCheck},
		Voids:   []*Characteristic{SpringPad, SpringHeight, GuideHeight},
		Caution: "Eye protection. Never into a water or oil way.",
		Proof: &Proof{
			Of: SpringPad, Datum: "the cover's rail",
			Tool: "pad cutter on a pilot in the guide, depth micrometer",
		},
	})
	ShimSpring = operation(Operation{
		Code:    "spring_shim",
		Name:    "Shim springs",
		Station: Assembly,
		Stage:   Springing,
		Setup:   5,
		Each:    3,
		Size:    &Size{Label: "spring shim"},
		Moves:   []Move{{SpringHeight, -1, BySize}},
		Voids:   []*Characteristic{SpringHeight, LoadSeat},
		Because: "the work moves the spring's height",
		Caution: springCaution,
		Uses:    ShimPart,
		Proof:   &Proof{Of: SpringHeight, Datum: "the spring's pad", Tool: "height micrometer"},
	})
	NewSprings = operation(Operation{
		Code:    "spring_new",
		Name:    "New springs",
		Station: Assembly,
		Stage:   Springing,
		Setup:   5,
		Each:    2,
		Voids:   []*Characteristic{SpringFree, SpringHeight, LoadSeat, LoadOpen, BookSeat, BookOpen, SpringSquare},
		Looks:   []*Part{SpringSeen},
		Because: "renewed as a set",
		Caution: springCaution,
		Uses:    SpringPart,
	})
)

// What can be done about springs.
var (
	_ = repair(Repair{
		Code:    "spring_shim",
		Name:    "Shim the spring",
		Changes: "load",
		Works:   ShimMetal,
		Does:    ShimSpring,
		Order:   10,
		Answers: []Answer{{Of: SpringHeight, Side: High}, {Of: LoadSeat, Side: Low}, {Of: LoadReckoned, Side: Low}},
		Allowed: all(grades(SpringSeen, "a broken or pitted spring is renewed", "broken", "rust_pits")),
		Fits:    coilsOpen,
	})
	_ = repair(Repair{
		Code:    "pad_cut",
		Name:    "Level the pads to the lowest",
		Changes: "spring heights",
		Works:   "pad",
		Does:    LevelPads,
		Order:   20,
		Answers: []Answer{{Of: PadSpread}, {Of: SpringHeight, Side: Low}},
	})
	_ = repair(Repair{
		Code:    "spring_new",
		Name:    "New springs, as a set",
		Changes: "load",
		Works:   SpringMetal,
		Does:    NewSprings,
		Order:   30,
		Answers: []Answer{
			{Of: LoadSeat}, {Of: LoadOpen}, {Of: LoadSpread}, {Of: SpringFree}, {Of: SpringSquare},
			{Part: SpringSeen}, {Of: BookSeat}, {Of: BookOpen}, {Of: LoadReckoned},
		},
	})
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
		return No("the coils would close: %s installed less %s of lift, %s solid", c.Text(hi-by), c.Text(lift),
			c.Text(solid))
	}
	return Yes
}

// The lengths at which the book gives a spring's loads.
var (
	BookSeatAt = figure(Figure{Code: "book_seat", Label: "Spring: book's length, closed", PerRole: true})
	BookOpenAt = figure(Figure{Code: "book_open", Label: "Spring: book's length, open", PerRole: true})
)

// byRate is the load of a spring at the height it is installed at: its load at the book's closed
// length, and its rate from both, for as much as it stands shorter or longer: P = Ps + (Po - Ps)
// (Ls - h) / (Ls - Lo).
func byRate(p Place) (Derivation, bool) {
	closed, open, height := p.Reads(BookSeat), p.Reads(BookOpen), p.Reads(SpringHeight)
	if len(closed) == 0 || len(open) == 0 || len(height) == 0 {
		return Derivation{}, false
	}
	d := Derivation{From: ids(closed, open, height)}
	ls, knownS := p.Figure(BookSeatAt)
	lo, knownO := p.Figure(BookOpenAt)
	if !knownS || !knownO || ls <= lo {
		d.Unknown = "the sheet does not give the book's two lengths, the closed one longer: its rate is not known"
		return d, true
	}
	at := func(rs []Read) quantity.Amount { lo, hi, _ := Ends(rs); return (lo + hi) / 2 }
	ps, po, h := at(closed), at(open), at(height)
	of := func(load, over quantity.Amount) quantity.Amount { return length.Div(load*over, int64(ls-lo)) }
	d.Low = ps + of(po-ps, ls-h)
	d.High = d.Low
	d.U = length.RSS(of(MaxU(closed), h-lo), of(MaxU(open), ls-h), of(po-ps, MaxU(height)))
	return d, true
}
