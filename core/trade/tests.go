package trade

// What the tests read.
var (
	VacuumBlanked = characteristic(Characteristic{
		Code:    "test.baseline",
		Label:   "Vacuum, cup blanked",
		Line:    "the tester's own reading of the day",
		Section: Tests,
		Where:   AtHead,
		Low:     mm,
		High:    101 * mm,
		Tools:   []string{"vacuum tester"},
		OnSheet: true,
		Unit:    KPa,
		NoLimit: true,
	})
	VacuumTurned = characteristic(Characteristic{
		Code:    "test.vacuum",
		Label:   "Vacuum, valve turned",
		Line:    "port held under vacuum, bare valve, no spring, turned between readings",
		Section: Tests,
		Where:   AtPosition,
		Places:  []string{"0", "90", "180", "270"},
		Least:   leastTurns,
		Low:     0,
		High:    101 * mm,
		Tools:   []string{"vacuum tester"},
		OnSheet: true,
		Unit:    KPa,
		NoLimit: true,
	})
	VacuumLost = characteristic(Characteristic{
		Code:    "seal.vacuum",
		Label:   "Vacuum lost from the day's baseline",
		Line:    "what the port loses",
		Section: Tests,
		Where:   AtPosition,
		From:    []*Characteristic{VacuumTurned, VacuumBlanked},
		Work:    lost,
		Unit:    KPa,
		Always:  true,
	})
	Liquid = characteristic(Characteristic{
		Code:    "test.liquid",
		Label:   "Liquid held",
		Line:    "minutes the chamber held solvent",
		Section: Tests,
		Where:   AtPosition,
		Low:     0,
		High:    600 * mm,
		Tools:   []string{"clock"},
		OnSheet: true,
		Unit:    Minute,
	})
	Drop = characteristic(Characteristic{
		Code:    "test.drop",
		Label:   "Dropped valve",
		Line:    "the dropped valve bounces or thuds",
		Section: Tests,
		Where:   AtPosition,
		Low:     0,
		High:    mm,
		Tools:   []string{"ear"},
		OnSheet: true,
		Unit:    PassFail,
		Words:   []string{"thuds", "bounces"},
	})
	LapLog = characteristic(Characteristic{
		Code:     "lap.log",
		Label:    "Lapping passes",
		Line:     "coarse and fine paste",
		Section:  Tests,
		Where:    AtPosition,
		Places:   []string{"coarse", "fine"},
		Low:      0,
		High:     99 * mm,
		Tools:    []string{"eye"},
		OnSheet:  true,
		Unit:     Passes,
		NoAnswer: "a count: the ring is judged",
	})
	LapRing = characteristic(Characteristic{
		Code:    "lap.ring",
		Label:   "Ring after lapping",
		Line:    "evenly matte all round, full width",
		Section: Tests,
		Where:   AtPosition,
		Low:     0,
		High:    mm,
		Tools:   []string{"eye"},
		OnSheet: true,
		Unit:    PassFail,
		Words:   []string{"gaps", "full"},
	})
)

// The tests as work.
var (
	PressureTest = operation(Operation{
		Code:    "pressure_test",
		Name:    "Pressure test",
		Station: TestTank,
		Stage:   Testing,
		Setup:   45,
		Alone:   20,
		Last:    5,
		On:      Kind.WaterCooled,
		Always:  true,
		Free:    true,
		Whole:   true,
		Because: "tested before money is spent on machining",
		Caution: pressureCaution,
		Record:  pressureRecord,
	})
	Retest = operation(Operation{
		Code:    "pressure_retest",
		Name:    "Pressure test again",
		Station: TestTank,
		Stage:   Retesting,
		Setup:   45,
		Alone:   20,
		Last:    5,
		On:      Kind.WaterCooled,
		Whole:   true,
		Because: "tested again: an insert or a weld was made",
		Caution: pressureCaution,
		Record:  pressureRecord,
	})
	SealTest = operation(Operation{
		Code:    "seal_test",
		Name:    "Seal test",
		Station: Assembly,
		Stage:   BareTesting,
		Setup:   5,
		Each:    3,
		Always:  true,
		Every:   true,
		Because: "every seat is proven before the head leaves",
		Caution: "Solvent: ventilation, no flame, gloves.",
		Record:  sealRecord,
	})
)

// proofs are what work at a seat, valve, guide or face takes away where it was made before: the seat
// is tested, the head washed, assembled and checked again.
var proofs = []*Operation{SealTest, FinalWash, Assemble, FinalCheck}

const pressureCaution = "Low pressure, shielded, relief valve fitted, plates bolted, nobody in line."

// What every head that is mended gets besides.
var (
	WashHead = operation(Operation{
		Code:    "wash",
		Name:    "Wash and scrape",
		Station: Wash,
		Stage:   Washing,
		Setup:   40,
		Alone:   25,
		Always:  true,
		Free:    true,
		Inspect: true,
		Because: "every head is washed before it is tested",
		Caution: "Eye protection, extraction; treat unknown gasket dust as hazardous and work it wet.",
	})
	FinalWash = operation(Operation{
		Code:    "wash_final",
		Name:    "Final wash",
		Station: Wash,
		Stage:   Clearing,
		Setup:   30,
		Alone:   15,
		Always:  true,
		Because: "grit left behind ruins the guides in the first hour",
		Caution: "Blow out oil and water ways with eye protection on.",
		Record:  done(cleanFields...),
	})
	Assemble = operation(Operation{
		Code:    "assemble",
		Name:    "Assemble with new seals",
		Station: Assembly,
		Stage:   Assembling,
		Setup:   15,
		Each:    5,
		Always:  true,
		Every:   true,
		Because: "new stem seals always; parts back in their own places",
		Caution: springCaution,
		Uses:    SealPart,
		Record: done(
			Field{Name: "seals", Label: "New seals on every stem", Kind: "yes"},
			Field{Name: "order", Label: "Every part in its own place", Kind: "yes"},
			Field{Name: "keepers", Label: "Keepers seated, springs tapped", Kind: "yes"},
		),
	})
	FinalCheck = operation(Operation{
		Code:    "final_check",
		Name:    "Final check",
		Station: FinalBench,
		Stage:   Checking,
		Setup:   20,
		Always:  true,
		Because: "all readings again where work was done",
		Record: done(append([]Field{
			{Name: "places", Label: "Parts in their places, nothing left over", Kind: "yes"},
		}, cleanFields...)...),
	})

	MeasureHead = operation(Operation{
		Code:    "measure",
		Name:    "Measure and judge",
		Station: Inspection,
		Stage:   Testing,
		Setup:   30,
		Inspect: true,
		Free:    true,
		Because: "what the answer is made of",
	})
	ReportHead = operation(Operation{
		Code:    "report",
		Name:    "Answer and report",
		Station: Counter,
		Stage:   Checking,
		Setup:   15,
		Inspect: true,
		Because: "complies or not, and by how much",
	})
)

var cleanFields = []Field{
	{Name: "guides", Label: "Guides wiped until clean", Kind: "yes"},
	{Name: "threads", Label: "Threads run free", Kind: "yes"},
	{Name: "ways", Label: "Oil and water ways blown through", Kind: "yes"},
}
