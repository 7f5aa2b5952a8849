package trade

// What is read of each chamber.
var (
	ChamberVolume = characteristic(Characteristic{
		Code:    "chamber.volume",
		Label:   "Chamber volume",
		Line:    "burette, through a plate, valves and plug in",
		Section: Chambers,
		Where:   AtCylinder,
		Low:     mm,
		High:    3000 * mm,
		Tools:   []string{"burette"},
		OnSheet: true,
		Unit:    CC,
	})
	ChamberSpread = characteristic(Characteristic{
		Code:    "chamber.spread",
		Label:   "Chamber volume, spread",
		Line:    "largest less smallest",
		Section: Chambers,
		Where:   AtCylinder,
		Of:      ChamberVolume,
		Unit:    CC,
	})
	Injector = characteristic(Characteristic{
		Code:    "injector.protrusion",
		Label:   "Injector protrusion",
		Line:    "proud of the face",
		Section: Chambers,
		Where:   AtCylinder,
		Low:     -5 * mm,
		High:    15 * mm,
		Tools:   []string{"dial on bridge", "depth micrometer"},
		OnSheet: true,
		On:      Kind.Injectors,
	})
	Prechamber = characteristic(Characteristic{
		Code:    "prechamber.projection",
		Label:   "Prechamber projection",
		Line:    "proud of the face",
		Section: Chambers,
		Where:   AtCylinder,
		Low:     -5 * mm,
		High:    15 * mm,
		Tools:   []string{"dial on bridge", "depth micrometer"},
		OnSheet: true,
		On:      Kind.Injectors,
	})
	Sleeve = characteristic(Characteristic{
		Code:    "sleeve.projection",
		Label:   "Injector sleeve projection",
		Line:    "proud of the face",
		Section: Chambers,
		Where:   AtCylinder,
		Low:     -5 * mm,
		High:    15 * mm,
		Tools:   []string{"dial on bridge", "depth micrometer"},
		OnSheet: true,
		On:      Kind.Injectors,
	})
	PlugSeat = characteristic(Characteristic{
		Code:    "plug.seat",
		Label:   "Plug seat depth",
		Line:    "from the face to the plug's seat",
		Section: Chambers,
		Where:   AtCylinder,
		Low:     0,
		High:    150 * mm,
		Tools:   []string{"dial on bridge", "depth micrometer"},
		OnSheet: true,
	})
	Register = characteristic(Characteristic{
		Code:    "register.depth",
		Label:   "Barrel register depth",
		Line:    "at four places round the barrel's seat",
		Section: Chambers,
		Where:   AtCylinder,
		Places:  []string{"front", "right", "back", "left"},
		Low:     0,
		High:    60 * mm,
		Tools:   []string{"dial on bridge", "depth micrometer"},
		OnSheet: true,
		On:      Kind.AirCooled,
	})
)

// Parts that set heights in the chamber.
var (
	WasherPart = partKind(PartKind{Code: "injector washer", Name: "injector washer", Usual: 90, Sized: true})
	SleevePart = partKind(PartKind{Code: "injector sleeve", Name: "injector sleeve", Usual: 2200})
	BarrelShim = partKind(PartKind{Code: "barrel shim", Name: "barrel shim", Usual: 400, Sized: true})
)

// The work on chambers.
var (
	EvenChambers = operation(Operation{
		Code:    "chamber_even",
		Name:    "Even the chambers",
		Station: SeatBench,
		Stage:   Facing,
		Setup:   40,
		Voids:   []*Characteristic{ChamberVolume},
		Caution: "Eye protection, extraction. Never near a seat that is finished.",
	})
	ShimInjector = operation(Operation{
		Code:    "injector_shim",
		Name:    "Washers under the injectors",
		Station: Assembly,
		Stage:   LashSetting,
		Setup:   10,
		On:      Kind.Injectors,
		Voids:   []*Characteristic{Injector},
		Uses:    WasherPart,
		PerHole: true,
		Because: "facing brings the injectors nearer the piston",
	})
	SetPrechambers = operation(Operation{
		Code:    "prechamber_set",
		Name:    "Reset prechambers",
		Station: Press,
		Stage:   Fitting,
		Setup:   40,
		On:      Kind.Injectors,
		Voids:   []*Characteristic{Prechamber},
		Because: "facing leaves them proud of the new face",
		Undoes:  []*Operation{FinalWash, FinalCheck},
		Caution: "Eye protection. Never driven out over a finished seat.",
		Proof:   &Proof{Of: Prechamber, Datum: "the face as it is at this moment", Tool: "dial on bridge"},
	})
	NewSleeves = operation(Operation{
		Code:    "sleeve_new",
		Name:    "New injector sleeves",
		Station: Press,
		Stage:   Fitting,
		Setup:   50,
		On:      Kind.Injectors,
		Needs:   []*Operation{Retest},
		Voids:   []*Characteristic{Sleeve, Injector},
		Uses:    SleevePart,
		PerHole: true,
		Undoes:  []*Operation{Retest, FinalWash, FinalCheck},
		Because: "facing leaves them proud of the new face",
		Caution: "Eye protection. A sleeve that leaks fills the cylinder: tested under pressure after.",
		Proof:   &Proof{Of: Sleeve, Datum: "the face as it is at this moment", Tool: "dial on bridge"},
	})
	PlugSeatCut = operation(Operation{
		Code:    "plug_seat",
		Name:    "Plug seats",
		Station: Press,
		Stage:   Threading,
		Setup:   15,
		Voids:   []*Characteristic{PlugSeat},
		Caution: "Eye protection.",
	})
	LapRegister = operation(Operation{
		Code:    "register_lap",
		Name:    "Lap the barrel register",
		Station: Press,
		Stage:   Fitting,
		Setup:   30,
		On:      Kind.AirCooled,
		Voids:   []*Characteristic{Register},
		Caution: "No paste near a guide. Wash out everything.",
	})
	CutRegister = operation(Operation{
		Code:    "register_cut",
		Name:    "Cut the barrel register",
		Station: SeatBench,
		Stage:   Facing,
		Setup:   45,
		On:      Kind.AirCooled,
		Voids:   []*Characteristic{Register},
		Whole:   true,
		Caution: "Eye protection.",
	})
	ShimBarrel = operation(Operation{
		Code:    "register_shim",
		Name:    "Shim under the barrel: note for refit",
		Station: Counter,
		Stage:   Telling,
		Setup:   5,
		On:      Kind.AirCooled,
		Uses:    BarrelShim,
		Because: "gives back what was cut",
	})
)

// What can be done about them.
var (
	_ = repair(Repair{
		Code:    "chamber_even",
		Name:    "Even the chambers",
		Changes: "ratio",
		Works:   "chamber",
		Does:    EvenChambers,
		Order:   20,
		Answers: []Answer{{Of: ChamberVolume}, {Of: ChamberSpread}},
	})
	_ = repair(Repair{
		Code:    "injector_shim",
		Name:    "Washer under the injector",
		Changes: "nothing else",
		Works:   "injector",
		Does:    ShimInjector,
		Order:   10,
		Answers: []Answer{{Of: Injector}},
	})
	_ = repair(Repair{
		Code:    "prechamber_set",
		Name:    "Reset the prechamber",
		Changes: "nothing else",
		Works:   "prechamber",
		Does:    SetPrechambers,
		Order:   10,
		Answers: []Answer{{Of: Prechamber}},
	})
	_ = repair(Repair{
		Code:    "sleeve_new",
		Name:    "New injector sleeve",
		Changes: "injector's protrusion; pressure test after",
		Works:   "sleeve",
		Does:    NewSleeves,
		Order:   10,
		Answers: []Answer{{Of: Sleeve}},
	})
	_ = repair(Repair{
		Code:    "plug_seat",
		Name:    "Recut the plug's seat, or a washer",
		Changes: "reach of the plug",
		Works:   "plug",
		Does:    PlugSeatCut,
		Order:   10,
		Answers: []Answer{{Of: PlugSeat}},
	})
	_ = repair(Repair{
		Code:    "register_lap",
		Name:    "Lap to its own barrel",
		Changes: "ratio, drive geometry, pushrods",
		Works:   RegisterMetal,
		Does:    LapRegister,
		Order:   10,
		Answers: []Answer{{Of: Register}},
		Allowed: registerStays,
	})
	_ = repair(Repair{
		Code:    "register_cut",
		Name:    "Cut the register deeper",
		Changes: "ratio, drive geometry, pushrods",
		Works:   RegisterMetal,
		Does:    CutRegister,
		Order:   20,
		Answers: []Answer{{Of: Register, Side: Low}},
		Allowed: registerStays,
	})
	_ = repair(Repair{
		Code:    "register_shim",
		Name:    "Shim under the barrel",
		Changes: "gives back what was cut",
		Works:   "barrel",
		Does:    ShimBarrel,
		Order:   15,
		Answers: []Answer{{Of: Register, Side: High}},
		Allowed: notDiscarded,
	})
)

// registerStays allows lapping or cutting a register while it stays inside: both only make
// it deeper.
func registerStays(c Case) Ruling {
	if side, by := c.Out(); side == High {
		return No("it is %s too deep already, and this makes it deeper", c.Text(by))
	}
	return notDiscarded(c)
}

// notDiscarded forbids mending a register beyond its discard limit.
func notDiscarded(c Case) Ruling {
	most, ok := c.Figure(RegisterDiscard)
	if _, hi, _, read := c.Read(Register); ok && read && hi > most {
		return No("at %s it is beyond its discard limit of %s: scrap or weld", c.Text(hi), c.Text(most))
	}
	return Yes
}
