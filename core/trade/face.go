package trade

// What is read of the face and the casting.
var (
	Thickness = characteristic(Characteristic{
		Code:    "head.thickness",
		Label:   "Head thickness",
		Line:    "at four places or more",
		Section: Face,
		Where:   AtCorner,
		Low:     20 * mm,
		High:    600 * mm,
		Tools:   []string{"micrometer", "caliper"},
		Common:  true,
	})
	Taper = characteristic(Characteristic{
		Code:    "head.taper",
		Label:   "Thickness, taper",
		Line:    "thickest less thinnest place",
		Section: Face,
		Where:   AtCorner,
		Of:      Thickness,
	})
	FaceLine = characteristic(Characteristic{
		Code:    "face.line",
		Label:   "Face under straightedge",
		Line:    "gap under a straightedge lengthwise, crosswise and diagonally",
		Section: Face,
		Where:   AtLine,
		Bracket: true,
		Low:     0,
		High:    5 * mm,
		Tools:   []string{"feelers"},
		Common:  true,
	})
	FaceGrid = characteristic(Characteristic{
		Code:    "face.grid",
		Label:   "Face heights on the plate",
		Line:    "height at points of a grid",
		Section: Face,
		Where:   AtGrid,
		Low:     -5 * mm,
		High:    5 * mm,
		Tools:   []string{"plate and dial"},
		OnSheet: true,
		NoLimit: true,
	})
	FaceFlatness = characteristic(Characteristic{
		Code:    "face.flatness",
		Label:   "Face, minimum zone",
		Line:    "least distance of two planes that hold the whole face",
		Section: Face,
		Where:   AtGrid,
		From:    []*Characteristic{FaceGrid},
	})
	FaceFinish = characteristic(Characteristic{
		Code:    "face.finish",
		Label:   "Face roughness",
		Line:    "against a comparator, for the gasket's kind",
		Section: Face,
		Where:   AtHead,
		Low:     0,
		High:    50 * mm,
		Tools:   []string{"roughness comparator"},
		OnSheet: true,
		Unit:    Rough,
	})
	Manifold = characteristic(Characteristic{
		Code:    "manifold.line",
		Label:   "Manifold face under straightedge",
		Line:    "intake and exhaust faces",
		Section: Face,
		Where:   AtHead,
		Places:  []string{"intake", "exhaust"},
		Bracket: true,
		Low:     0,
		High:    5 * mm,
		Tools:   []string{"feelers"},
		OnSheet: true,
	})
	CoverRail = characteristic(Characteristic{
		Code:    "cover.line",
		Label:   "Cover rail under straightedge",
		Line:    "left and right rail",
		Section: Face,
		Where:   AtHead,
		Places:  []string{"left", "right"},
		Bracket: true,
		Low:     0,
		High:    5 * mm,
		Tools:   []string{"feelers"},
		OnSheet: true,
	})
)

// The parts between head and block.
var (
	GasketPart = partKind(PartKind{Code: "gasket", Name: "head gasket", Usual: 6500, Sized: true})
	BoltsPart  = partKind(PartKind{Code: "bolts", Name: "head bolts, set", Usual: 4800})
)

// The work on the faces. Everything measured from the face moves when it is cut.
var (
	FaceHead = operation(Operation{
		Code:    "face",
		Name:    "Face the head",
		Station: Surfacer,
		Stage:   Facing,
		Setup:   60,
		Whole:   true,
		Because: "needed by the plan",
		Drives:  true,
		Undoes:  []*Operation{FinalWash, Assemble, FinalCheck},
		Size:    &Size{Label: "face cut", Metal: true, Scatter: "scatter.face"},
		Moves: []Move{
			{Thickness, -1, BySize}, {Recession, -1, BySize}, {Injector, 1, BySize}, {Prechamber, 1, BySize},
			{Sleeve, 1, BySize},
			{PlugSeat, -1, BySize}, {Register, -1, BySize}, {PortDepth, -1, BySize}, {GuideDepth, -1, BySize},
			{ChamberVolume, -1, BySize},
			{PlugPiston, -1, BySize}, {ValvePiston, -1, BySize},
		},
		Voids: []*Characteristic{
			FaceLine, FaceGrid, FaceFinish, Thickness, Recession, Injector, Prechamber, Sleeve, PlugSeat,
			ChamberVolume, PortDepth, GuideDepth, Register,
		},
		Caution: "Clamped without strain; eye protection; rated lifting gear, nobody under.",
		Proof: &Proof{
			Of: Thickness, Datum: "the cover's rail", Tool: "surfacer, head clamped without strain",
		},
	})
	Straighten = operation(Operation{
		Code:    "straighten",
		Name:    "Straighten",
		Station: Press,
		Stage:   Heat,
		Setup:   120,
		Alone:   80,
		Last:    10,
		Needs:   []*Operation{FaceHead},
		Voids:   []*Characteristic{FaceLine, FaceGrid, CamBore},
		Whole:   true,
		Caution: "Hot head: gloves, face shield. Keep clear of the clamps' line.",
	})
	FaceSide = operation(Operation{
		Code:    "face_manifold",
		Name:    "Face the manifold side",
		Station: Surfacer,
		Stage:   Facing,
		Setup:   45,
		Voids:   []*Characteristic{Manifold},
		Whole:   true,
		Caution: "Clamped without strain; eye protection; rated lifting gear, nobody under.",
	})
	FaceRail = operation(Operation{
		Code:    "face_cover",
		Name:    "Face the cover rail",
		Station: Surfacer,
		Stage:   Facing,
		Setup:   45,
		Voids:   []*Characteristic{CoverRail, Thickness, SpringPad},
		Whole:   true,
		Caution: "Clamped without strain; eye protection; rated lifting gear, nobody under.",
	})
	Thicker = operation(Operation{
		Code:    "gasket_thick",
		Name:    "Thicker gasket: note for refit",
		Station: Counter,
		Stage:   Telling,
		Setup:   5,
		Uses:    GasketPart,
		Because: "gives back what was faced off",
	})
	NewGasket = operation(Operation{
		Code:    "gasket_new",
		Name:    "New head gasket, for refit",
		Station: Counter,
		Stage:   Telling,
		Setup:   2,
		Uses:    GasketPart,
		Because: "renewed whatever it measures, by the sheet",
	})
	NewBolts = operation(Operation{
		Code:    "bolts_new",
		Name:    "New head bolts, for refit",
		Station: Counter,
		Stage:   Telling,
		Setup:   2,
		Uses:    BoltsPart,
		Because: "renewed whatever they measure, by the sheet",
	})
	Scrap = operation(Operation{
		Code:    "scrap",
		Name:    "Scrap, with the customer's word",
		Station: Dispatch,
		Stage:   Scrapping,
		Setup:   10,
		Marks:   true,
		Because: "cannot be mended safely",
		Caution: "Mark the casting so that nobody fits it again.",
	})
)

// What can be done about the faces and the casting.
var (
	_ = repair(Repair{
		Code:    "face",
		Name:    "Face the head",
		Changes: "thickness, every valve's recession, ratio, drive",
		Works:   FaceMetal,
		Does:    FaceHead,
		Order:   10,
		Answers: []Answer{
			{Of: FaceLine}, {Of: FaceFlatness}, {Of: FaceFinish}, {Of: Taper},
		},
		Fits: thickEnough,
	})
	_ = repair(Repair{
		Code:    "straighten",
		Name:    "Straighten, then face",
		Changes: "cam bores too",
		Works:   FaceMetal,
		Does:    Straighten,
		Order:   20,
		Answers: []Answer{{Of: FaceLine}, {Of: FaceFlatness}},
	})
	_ = repair(Repair{
		Code:    "face_manifold",
		Name:    "Face that side",
		Changes: "nothing else",
		Works:   "manifold",
		Does:    FaceSide,
		Answers: []Answer{{Of: Manifold}},
	})
	_ = repair(Repair{
		Code:    "face_cover",
		Name:    "Face the rail",
		Changes: "thickness",
		Works:   "rail",
		Does:    FaceRail,
		Answers: []Answer{{Of: CoverRail}},
	})
	_ = repair(Repair{
		Code:    "gasket_thick",
		Name:    "Thicker gasket or shim under the head",
		Changes: "ratio, drive",
		Works:   "gasket",
		Does:    Thicker,
		Order:   10,
		Answers: []Answer{{Of: Thickness}},
	})
	_ = repair(Repair{
		Code:    "scrap",
		Name:    "Scrap the head",
		Changes: "all of it",
		Works:   Whole,
		Does:    Scrap,
		Order:   90,
		Answers: []Answer{
			{Of: Thickness}, {Of: Register, Side: High}, {Of: CamBore}, {Part: CamSeen},
			{Part: MarkSeen, Mark: "crack"},
			{Part: MarkSeen, Mark: "leak"},
		},
	})
)

// thickEnough allows facing while enough is left of the head.
func thickEnough(c Case) Ruling {
	lo, _, _, read := c.Read(Thickness)
	low, _ := c.Limit(Thickness)
	cut := c.FaceCut()
	if most, ok := c.Figure(FaceMost); ok && cut > most {
		return No("it needs %s, and at most %s may come off", c.Text(cut), c.Text(most))
	}
	if read && low != nil && lo-cut < *low {
		return No("it needs %s, which leaves %s, and %s is the least", c.Text(cut), c.Text(lo-cut), c.Text(*low))
	}
	return Yes
}
