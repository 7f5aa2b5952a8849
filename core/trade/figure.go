package trade

import (
	"slices"
	"strings"

	"yatai/core/length"
	"yatai/core/quantity"
)

// Figure is a figure of the engine that a sheet gives: not a limit, but what plans, records
// and drawings compute with. Its Code is a key in files; Unit is zero for a length. Usual is
// what is supposed where the sheet gives none and the answer says so; nil when nothing may be.
type Figure struct {
	Code    string
	Label   string
	PerRole bool // given for intake and exhaust
	ByRole  bool // given for all valves, or for intake and exhaust where they differ
	Unit    quantity.Unit
	Signed  bool
	Usual   *quantity.Amount
	Why     string // where Usual comes from
}

// UnitText writes a value of the figure with its unit, u being the one for lengths.
func (f Figure) UnitText(v quantity.Amount, u length.Unit) string {
	return strings.TrimSpace(f.Unit.Or(u).Text(v))
}

var figures []*Figure

func figure(f Figure) *Figure {
	figures = append(figures, &f)
	return &f
}

func usual(l quantity.Amount) *quantity.Amount { return &l }

// The figures a sheet can give.
var (
	RockerRatio = figure(Figure{
		Code:  "rocker_ratio",
		Label: "Rocker ratio",
		Unit:  Ratio,
		Usual: usual(mm),
		Why:   "no ratio on the sheet: 1 is reckoned with",
	})
	GuideHeld    = figure(Figure{Code: "guide_length", Label: "Guide length, held"})
	RockOverhang = figure(Figure{Code: "rock_overhang", Label: "Rock test: dial beyond the guide"})

	SeatAngle = figure(Figure{
		Code:    "seat_angle",
		Label:   "Seat angle",
		PerRole: true,
		Unit:    Degree,
		Usual:   usual(45 * mm),
		Why:     "the commonest seat angle",
	})
	TopAngle = figure(Figure{
		Code:   "top_angle",
		Label:  "Top cut",
		ByRole: true,
		Unit:   Degree,
		Usual:  usual(30 * mm),
		Why:    "shop practice",
	})
	BottomAngle = figure(Figure{
		Code:   "bottom_angle",
		Label:  "Bottom cut",
		ByRole: true,
		Unit:   Degree,
		Usual:  usual(60 * mm),
		Why:    "shop practice",
	})
	InsertOuter = figure(Figure{Code: "insert_outer", Label: "Insert outside diameter", PerRole: true})
	SeatClean   = figure(Figure{
		Code:    "seat_clean",
		Label:   "Cut that cleans a seat up",
		PerRole: true,
		Usual:   usual(60 * um),
		Why:     "shop practice",
	})
	SeatMost = figure(Figure{
		Code:    "seat_most",
		Label:   "Most a seat may be cut",
		PerRole: true,
		Usual:   usual(300 * um),
		Why:     "shop practice",
	})
	InsertUp = figure(Figure{
		Code:   "insert_up",
		Label:  "New insert: seat set up to",
		ByRole: true,
		Usual:  usual(800 * um),
		Why:    "shop practice",
	})
	InsertDown = figure(Figure{
		Code:   "insert_down",
		Label:  "New insert: seat set down to",
		ByRole: true,
		Usual:  usual(300 * um),
		Why:    "shop practice",
	})

	ValveGrindCut = figure(Figure{
		Code:    "valve_grind",
		Label:   "Grind that cleans a valve face",
		PerRole: true,
		Usual:   usual(100 * um),
		Why:     "shop practice",
	})
	GrindRunout = figure(Figure{
		Code:    "grind_runout",
		Label:   "Valve runout that refacing still takes out",
		PerRole: true,
		Usual:   usual(50 * um),
		Why:     "shop practice",
	})
	NewMargin = figure(Figure{Code: "new_margin", Label: "New valve's margin", PerRole: true})
	NewLength = figure(
		Figure{Code: "new_tip", Label: "New valve longer than the one fitted, by", PerRole: true, Signed: true},
	)
	NewGroove = figure(Figure{
		Code:    "new_groove",
		Label:   "New valve's groove further from its head, by",
		PerRole: true,
		Signed:  true,
	})
	NewStem      = figure(Figure{Code: "new_stem", Label: "New valve's stem", PerRole: true})
	OversizeStem = figure(Figure{Code: "oversize_stem", Label: "Oversize stem to be had", PerRole: true})
	TipMost      = figure(Figure{Code: "tip_most", Label: "Most a tip may be ground", ByRole: true})
	Lift         = figure(Figure{Code: "lift", Label: "Valve lift", PerRole: true})
	SpringSolid  = figure(Figure{Code: "spring_solid", Label: "Spring, coils closed", ByRole: true})
	TargetLoad   = figure(
		Figure{Code: "target_load", Label: "Spring load aimed at, installed", ByRole: true, Unit: Newton},
	)
	Adjuster = figure(Figure{
		Code:  "adjuster",
		Label: "Adjuster: lash it can still give, either way",
		Usual: usual(mm),
		Why:   "an adjuster with its usual travel is supposed",
	})
	ShimStep = figure(Figure{Code: "shim_step", Label: "Lash shims to be ordered, step"})

	FaceMost  = figure(Figure{Code: "face_most", Label: "Most the face may be cut"})
	FaceAllow = figure(Figure{
		Code:  "face_allow",
		Label: "Facing: allowance over the gap",
		Usual: usual(30 * um),
		Why:   "shop practice",
	})
	FaceClean = figure(Figure{
		Code:  "face_clean",
		Label: "Least cut that makes a new surface",
		Usual: usual(50 * um),
		Why:   "shop practice",
	})

	RegisterDiscard = figure(Figure{Code: "register_discard", Label: "Barrel register: discard above"})
	InjectorWasher  = figure(Figure{Code: "injector_washer", Label: "Injector washer fitted"})
	CylinderBore    = figure(Figure{Code: "bore", Label: "Cylinder bore"})
	Stroke          = figure(Figure{Code: "stroke", Label: "Stroke"})
	ChamberGiven    = figure(Figure{Code: "chamber", Label: "Chamber volume, when not read", Unit: CC})
	ChamberArea     = figure(
		Figure{Code: "chamber_area", Label: "Chamber's open area at the face", Unit: SquareMM},
	)
	PistonCrown  = figure(Figure{Code: "piston", Label: "Piston crown, dish positive", Unit: CC, Signed: true})
	GasketFitted = figure(Figure{Code: "gasket", Label: "Gasket thickness, fitted"})
	GasketBore   = figure(Figure{Code: "gasket_bore", Label: "Gasket bore"})
	Deck         = figure(Figure{Code: "deck", Label: "Piston below the deck at top", Signed: true})
)

// Figures are all of them, in the order a sheet lists them.
func Figures() []*Figure { return slices.Clone(figures) }

// FigureNamed returns the figure with that code, nil when there is none.
func FigureNamed(code string) *Figure {
	i := slices.IndexFunc(figures, func(f *Figure) bool { return f.Code == code })
	if i < 0 {
		return nil
	}
	return figures[i]
}

// Renewal is a part that a sheet can name as renewed whatever it measures.
type Renewal struct {
	Code, Label string
	Does        func() *Operation // what renews it
	Role        string            // only the valves of this role; "" for all
}

// Renewals are the parts a sheet can name.
var Renewals = []Renewal{
	{"seals", "Stem seals", func() *Operation { return Assemble }, ""},
	{"keepers", "Keepers", func() *Operation { return NewKeepers }, ""},
	{"springs", "Springs", func() *Operation { return NewSprings }, ""},
	{"valves_intake", "Intake valves", func() *Operation { return FitValve }, "intake"},
	{"valves_exhaust", "Exhaust valves", func() *Operation { return FitValve }, "exhaust"},
	{"gasket", "Head gasket", func() *Operation { return NewGasket }, ""},
	{"bolts", "Head bolts", func() *Operation { return NewBolts }, ""},
	{"rotators", "Rotators", func() *Operation { return NewRotators }, ""},
}

// RenewalNamed returns the renewal with that code.
func RenewalNamed(code string) (Renewal, bool) {
	i := slices.IndexFunc(Renewals, func(r Renewal) bool { return r.Code == code })
	if i < 0 {
		return Renewal{}, false
	}
	return Renewals[i], true
}
