package trade

import "yatai/core/gauge"

// What is read of what drives the valves.
var (
	Lash = characteristic(Characteristic{
		Code:    "lash",
		Label:   "Lash",
		Line:    "cam's base circle or rocker to the valve, by feelers",
		Section: Drive,
		Where:   AtPosition,
		Bridge:  offBridges,
		Bracket: true,
		Low:     0,
		High:    5 * mm,
		Tools:   []string{"feelers"},
		OnSheet: true,
		On:      Kind.Solid,
		Common:  true,
	})
	LashDry = characteristic(Characteristic{
		Code:    "lash.dry",
		Label:   "Lash, lifter collapsed",
		Line:    "with a collapsed hydraulic lifter",
		Section: Drive,
		Where:   AtPosition,
		Bracket: true,
		Low:     0,
		High:    8 * mm,
		Tools:   []string{"feelers"},
		OnSheet: true,
		On:      Kind.Hydraulic,
	})
	LashHot = characteristic(Characteristic{
		Code:     "lash.hot",
		Label:    "Lash, hot",
		Line:     "by feelers at running temperature; what is read cold is held against the cold lash",
		Section:  Drive,
		Where:    AtPosition,
		Bridge:   offBridges,
		Bracket:  true,
		Low:      0,
		High:     5 * mm,
		Tools:    []string{"feelers"},
		OnSheet:  true,
		On:       Kind.Solid,
		NoAnswer: "set it cold as the sheet says, and read it hot again in the engine",
		Told:     true,
	})
	Preload = characteristic(Characteristic{
		Code:     "lifter.preload",
		Label:    "Lifter preload",
		Line:     "how far the lifter's plunger is pressed in, the valve closed",
		Section:  Drive,
		Where:    AtPosition,
		Low:      0,
		High:     10 * mm,
		Tools:    []string{"caliper", "dial indicator"},
		OnSheet:  true,
		On:       Kind.Hydraulic,
		NoAnswer: "another length of pushrod or stem, or another lifter: the lead's choice",
	})
	ShimSize = characteristic(Characteristic{
		Code:    "shim.size",
		Label:   "Lash shim fitted",
		Line:    "thickness of the shim on the bucket",
		Section: Drive,
		Where:   AtPosition,
		Low:     mm / 2,
		High:    20 * mm,
		Tools:   []string{"micrometer"},
		OnSheet: true,
		On:      shimmed,
	})
	BucketClearance = characteristic(Characteristic{
		Code:    "bucket.clearance",
		Label:   "Bucket clearance",
		Line:    "bucket to its bore",
		Section: Drive,
		Where:   AtPosition,
		Low:     0,
		High:    mm,
		Tools:   []string{"bore gauge", "micrometer"},
		OnSheet: true,
		On:      Kind.Buckets,
	})
	RockerPad = characteristic(Characteristic{
		Code:    "rocker.pad",
		Label:   "Rocker pad wear",
		Line:    "depth of the hollow in the pad",
		Section: Drive,
		Where:   AtPosition,
		Low:     0,
		High:    5 * mm,
		Tools:   []string{"caliper"},
		OnSheet: true,
		On:      Kind.Rockers,
	})
	RockerBush = characteristic(Characteristic{
		Code:    "rocker.bush",
		Label:   "Rocker bush clearance",
		Line:    "bush to shaft",
		Section: Drive,
		Where:   AtPosition,
		Low:     0,
		High:    2 * mm,
		Tools:   []string{"bore gauge"},
		OnSheet: true,
		On:      Kind.Rockers,
	})
	RockerAdjuster = characteristic(Characteristic{
		Code:    "rocker.adjuster",
		Label:   "Adjuster thread showing",
		Line:    "how far the adjuster stands out",
		Section: Drive,
		Where:   AtPosition,
		Low:     0,
		High:    40 * mm,
		Tools:   []string{"caliper"},
		OnSheet: true,
		On:      Kind.Rockers,
	})
	RockerKind = characteristic(Characteristic{
		Code:    "rocker.kind",
		Label:   "Kind of rocker",
		Line:    "number the kinds of rockers in the box, 1, 2 and so on: by their shape, side or casting mark",
		Section: Drive,
		Where:   AtPosition,
		Low:     Number.Of(1),
		High:    Number.Of(99),
		Tools:   []string{"eye"},
		OnSheet: true,
		Unit:    Number,
		Kinds:   true,
		On:      Kind.Rockers,
	})
	RockerRead = characteristic(Characteristic{
		Code:    "rocker.ratio",
		Label:   "Rocker's ratio",
		Line:    "valve's lift over the pushrod's or the cam's",
		Section: Drive,
		Where:   AtPosition,
		Low:     mm / 2,
		High:    4 * mm,
		Tools:   []string{"eye"},
		OnSheet: true,
		Unit:    Ratio,
		On:      Kind.Rockers,
	})
	PushrodLength = characteristic(Characteristic{
		Code:    "pushrod.length",
		Label:   "Pushrod length",
		Line:    "overall",
		Section: Drive,
		Where:   AtPosition,
		Low:     20 * mm,
		High:    900 * mm,
		Tools:   []string{"height gauge", "caliper"},
		OnSheet: true,
		On:      Kind.Pushrods,
	})
	PushrodRunout = characteristic(Characteristic{
		Code:    "pushrod.runout",
		Label:   "Pushrod runout",
		Line:    "rolled on the plate, dial in the middle",
		Section: Drive,
		Where:   AtPosition,
		Low:     0,
		High:    5 * mm,
		Tools:   []string{"dial indicator"},
		OnSheet: true,
		On:      Kind.Pushrods,
	})
	SealStem = characteristic(Characteristic{
		Code:    "seal.stem",
		Label:   "Seal's bore on the stem",
		Line:    "stem seal's bore where it grips the stem",
		Section: Drive,
		Where:   AtPosition,
		Low:     2 * mm,
		High:    40 * mm,
		Tools:   []string{"caliper"},
		OnSheet: true,
	})
	SealGuide = characteristic(Characteristic{
		Code:    "seal.guide",
		Label:   "Seal's bore on the guide",
		Line:    "stem seal's bore where it grips the guide",
		Section: Drive,
		Where:   AtPosition,
		Low:     4 * mm,
		High:    60 * mm,
		Tools:   []string{"caliper"},
		OnSheet: true,
	})
	SealSqueeze = characteristic(Characteristic{
		Code:    "seal.squeeze",
		Label:   "Seal's squeeze on the guide",
		Line:    "guide outside at its top less the seal's body",
		Section: Drive,
		Where:   AtPosition,
		From:    []*Characteristic{GuideOuter, SealGuide},
		Work:    less(GuideOuter, SealGuide),
	})
	LipSqueeze = characteristic(Characteristic{
		Code:    "seal.lip_squeeze",
		Label:   "Seal's squeeze on the stem",
		Line:    "stem less the seal's lip",
		Section: Drive,
		Where:   AtPosition,
		From:    []*Characteristic{Stem, SealStem},
		Work:    less(Stem, SealStem),
	})
)

// What eyes see of it.
var (
	BucketSeen = part(Part{
		Code:  "bucket.condition",
		Label: "Bucket",
		On:    Kind.Buckets,
		Grades: []Grade{
			{"clean", "clean", "even sheen", gauge.Sound},
			{"galled", "galled", "torn along the skirt", gauge.Renew},
		},
	})
	RockerSeen = part(Part{
		Code:  "rocker.condition",
		Label: "Rocker",
		On:    func(k Kind) bool { return !k.Buckets() },
		Grades: []Grade{
			{"sound", "sound", "pad smooth, bush free", gauge.Sound},
			{"pad_worn", "pad worn", "a hollow in the pad", gauge.Out},
			{"pad_through", "pad worn through its hardening", "bright and soft in the hollow", gauge.Renew},
			{"cracked", "cracked", "a line at the arm or bore", gauge.Renew},
			{"bush_worn", "bush worn", "rocks on its shaft", gauge.Out},
		},
	})
)

// The parts of the drive.
var (
	LashShimPart = partKind(PartKind{
		Code:  "lash shim",
		Name:  "lash shim",
		Dims:  []*Characteristic{ShimSize},
		First: []*Characteristic{ShimSize},
		Usual: 350,
		Sized: true,
	})
	BucketPart = partKind(PartKind{Code: "bucket", Name: "bucket", Usual: 3100})
	RockerPart = partKind(PartKind{
		Code:  "rocker",
		Name:  "rocker",
		Dims:  []*Characteristic{RockerKind, RockerRead},
		First: []*Characteristic{RockerKind},
		Usual: 5200,
	})
	PushrodPart = partKind(PartKind{
		Code:  "pushrod",
		Name:  "pushrod",
		Dims:  []*Characteristic{PushrodLength},
		Usual: 2000,
		Sized: true,
	})
	SealPart = partKind(PartKind{
		Code:  "seal",
		Name:  "stem seal",
		Dims:  []*Characteristic{SealStem, SealGuide},
		Usual: 140,
		Sized: true,
	})
)

// The work on the drive.
var (
	SetLash = operation(Operation{
		Code:    "lash_set",
		Name:    "Set the lash",
		Station: Assembly,
		Stage:   LashSetting,
		Setup:   5,
		Each:    4,
		On:      Kind.Solid,
		Voids:   []*Characteristic{Lash, ShimSize},
		Because: "the work moves the lash",
		Proof:   &Proof{Of: Lash, Datum: "cam's base circle or rocker", Tool: "feelers"},
	})
	NewPushrod = operation(Operation{
		Code:    "pushrod_new",
		Name:    "Other pushrods",
		Station: Assembly,
		Stage:   LashSetting,
		Setup:   5,
		Each:    3,
		On:      Kind.Pushrods,
		Moves:   []Move{{Lash, -1, BySize}, {LashDry, -1, BySize}},
		Voids:   []*Characteristic{PushrodLength, PushrodRunout, Lash, LashDry, Preload},
		Because: "the work moves the lash",
		Uses:    PushrodPart,
	})
	NewBuckets = operation(Operation{
		Code:    "bucket_new",
		Name:    "New buckets",
		Station: Assembly,
		Stage:   Springing,
		Setup:   2,
		Each:    2,
		On:      Kind.Buckets,
		Implies: []*Operation{SetLash},
		Voids:   []*Characteristic{BucketClearance, Lash},
		Looks:   []*Part{BucketSeen},
		Uses:    BucketPart,
	})
	MendRocker = operation(Operation{
		Code:    "rocker_mend",
		Name:    "Mend rockers",
		Station: Press,
		Stage:   Fitting,
		Setup:   10,
		Each:    15,
		On:      func(k Kind) bool { return !k.Buckets() },
		Implies: []*Operation{SetLash},
		Voids:   []*Characteristic{RockerPad, RockerBush, Lash},
		Looks:   []*Part{RockerSeen},
		Caution: "Eye protection.",
	})
	NewRockers = operation(Operation{
		Code:    "rocker_new",
		Name:    "New rockers",
		Station: Assembly,
		Stage:   Springing,
		Setup:   2,
		Each:    3,
		On:      func(k Kind) bool { return !k.Buckets() },
		Implies: []*Operation{SetLash},
		Voids:   []*Characteristic{RockerPad, RockerBush, RockerAdjuster, RockerKind, RockerRead, Lash},
		Looks:   []*Part{RockerSeen},
		Uses:    RockerPart,
	})
	NewSeals = operation(Operation{
		Code:    "seal_new",
		Name:    "Stem seals of the right size",
		Station: Assembly,
		Stage:   Springing,
		Setup:   2,
		Each:    1,
		Voids:   []*Characteristic{SealStem, SealGuide},
		Uses:    SealPart,
	})
)

// What can be done about it.
var (
	_ = repair(Repair{
		Code:    "lash_set",
		Name:    "Set the lash",
		Changes: "nothing else",
		Works:   "lash",
		Does:    SetLash,
		Order:   10,
		Answers: []Answer{{Of: Lash}, {Of: ShimSize}},
	})
	_ = repair(Repair{
		Code:    "pushrod_new",
		Name:    "Pushrod of another length",
		Changes: "lash",
		Works:   "pushrod",
		Does:    NewPushrod,
		Order:   20,
		Answers: []Answer{
			{Of: Lash}, {Of: LashDry}, {Of: PushrodLength}, {Of: PushrodRunout}, {Of: RockerAdjuster},
			{Of: Preload},
		},
	})
	_ = repair(Repair{
		Code:    "bucket_new",
		Name:    "New bucket",
		Changes: "lash",
		Works:   "bucket",
		Does:    NewBuckets,
		Order:   20,
		Answers: []Answer{{Part: BucketSeen}, {Of: BucketClearance}},
	})
	_ = repair(Repair{
		Code:    "rocker_mend",
		Name:    "Rebush or reface the rocker",
		Changes: "lash",
		Works:   RockerMetal,
		Does:    MendRocker,
		Order:   10,
		Answers: []Answer{
			{Part: RockerSeen}, {Of: RockerPad}, {Of: RockerBush},
		},
		Allowed: grades(
			RockerSeen, "a rocker that is cracked or worn through its hardening is renewed, never mended",
			"cracked", "pad_through",
		),
	})
	_ = repair(Repair{
		Code:    "rocker_new",
		Name:    "New rocker",
		Changes: "lash",
		Works:   RockerMetal,
		Does:    NewRockers,
		Order:   20,
		Answers: []Answer{
			{Part: RockerSeen}, {Of: RockerPad}, {Of: RockerBush}, {Of: RockerAdjuster}, {Of: RockerKind},
			{Of: RockerRead},
		},
	})
	_ = repair(Repair{
		Code:    "seal_new",
		Name:    "Seals of the right size",
		Changes: "nothing else",
		Works:   "seal",
		Does:    NewSeals,
		Answers: []Answer{{Of: SealStem}, {Of: SealGuide}, {Of: SealSqueeze}, {Of: LipSqueeze}},
	})
)
