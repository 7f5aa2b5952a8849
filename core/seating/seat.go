// Package seating holds the geometry of valve seats, interference fits at
// temperature, and the seal test.
package seating

import (
	"math"
	"math/big"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
)

// SeatInput is a contact ring as it is and as it is wanted. Angles are in degrees from
// the face plane; diameters are of the ring's edges.
type SeatInput struct {
	Angle       *big.Rat      `json:"angle" kind:"number" bound:"positive" doc:"seat angle, degrees from the face"`
	Top         *big.Rat      `json:"top" kind:"number" bound:"nonneg" doc:"top cut, flatter than the seat"`
	Bottom      *big.Rat      `json:"bottom" kind:"number" bound:"positive" doc:"bottom cut, steeper than the seat"`
	Inner       length.Length `json:"inner" doc:"ring's inner edge now, diameter"`
	Outer       length.Length `json:"outer" doc:"ring's outer edge now, diameter"`
	ValveHead   length.Length `json:"valve_head" doc:"valve head diameter"`
	TargetOuter length.Length `json:"target_outer" doc:"outer edge wanted, diameter"`
	TargetWidth length.Length `json:"target_width" doc:"ring width wanted, along the slope"`
}

// SeatOutput is the cuts that bring the ring to size. Depths are along the valve's axis.
type SeatOutput struct {
	Width       length.Length `json:"width_nm"`        // ring now, along the slope
	MainDepth   length.Length `json:"main_depth_nm"`   // at the seat angle, to widen outwards
	TopDepth    length.Length `json:"top_depth_nm"`    // top cut, to bring the outer edge in
	BottomDepth length.Length `json:"bottom_depth_nm"` // bottom cut, to bring the inner edge out
	TargetInner length.Length `json:"target_inner_nm"`
	RingShort   length.Length `json:"ring_short_nm"` // how much narrower than wanted the ring stays
	Inset       length.Length `json:"inset_nm"`      // ring's outer edge inside the valve's edge
}

// Slope returns how far a ring of a width along the slope reaches across: width cos a, on
// one side.
func Slope(angle *big.Rat, width length.Length) length.Length {
	return length.FromFloat(float64(width) * math.Cos(quantity.Float(angle)*math.Pi/180))
}

// Seat computes width = (outer - inner) / (2 cos a) and the cuts to the ring wanted.
// Cones meet at the ring's edges: an edge moves by a depth times
// 2 / (tan a - tan b) at the top and 2 / (tan g - tan a) at the bottom. If the outer
// edge has to move out the seat goes deeper first, which moves the inner edge out as
// well. A ring that stays too narrow is told in RingShort: the main cut must go deeper.
func Seat(in SeatInput) (SeatOutput, error) {
	a, b, g := quantity.Float(in.Angle), quantity.Float(in.Top), quantity.Float(in.Bottom)
	switch {
	case a < 5 || a > 80:
		return SeatOutput{}, field.Errorf("angle", "a seat angle lies between 5 and 80 degrees")
	case b >= a:
		return SeatOutput{}, field.Errorf("top", "the top cut must be flatter than the seat")
	case g <= a || g >= 90:
		return SeatOutput{}, field.Errorf("bottom", "the bottom cut must be steeper than the seat and below 90 degrees")
	case in.Inner >= in.Outer:
		return SeatOutput{}, field.Errorf("inner", "the inner edge must be smaller than the outer")
	}
	tan := func(deg float64) float64 { return math.Tan(deg * math.Pi / 180) }
	cos := math.Cos(a * math.Pi / 180)
	topSlope, bottomSlope := tan(a)-tan(b), tan(g)-tan(a)
	targetInner := float64(in.TargetOuter) - 2*float64(in.TargetWidth)*cos
	if targetInner <= 0 {
		return SeatOutput{}, field.Errorf("target_width", "wider than the seat has room for")
	}
	inner, out := float64(in.Inner), SeatOutput{}
	if move := float64(in.TargetOuter - in.Outer); move > 0 {
		depth := move / 2 * topSlope
		inner -= 2 * depth / bottomSlope
		out.MainDepth = length.FromFloat(depth)
	} else {
		out.TopDepth = length.FromFloat(-move / 2 * topSlope)
	}
	if depth := (targetInner - inner) / 2 * bottomSlope; depth >= 0 {
		out.BottomDepth = length.FromFloat(depth)
	} else {
		out.RingShort = length.FromFloat((inner - targetInner) / (2 * cos))
	}
	out.Width = length.FromFloat(float64(in.Outer-in.Inner) / (2 * cos))
	out.TargetInner = length.FromFloat(targetInner)
	out.Inset = length.Div(in.ValveHead-in.TargetOuter, 2)
	return out, nil
}

// expansion is the coefficient of thermal expansion by material, 1e-6 per kelvin.
var expansion = map[string]string{
	"aluminium": "21.5", "iron": "11.0", "bronze": "18.0", "brass": "19.0", "steel": "11.7",
	"sinter": "11.5", "valve_steel": "12.0", "austenitic": "17.5", "titanium": "8.9",
}

// FitInput is a part to go into a hole, both measured at 20 degrees C.
type FitInput struct {
	Hole         length.Length  `json:"hole" doc:"hole diameter at 20 C"`
	Part         length.Length  `json:"part" doc:"part diameter at 20 C"`
	HoleMaterial string         `json:"hole_material" choices:"aluminium,iron,bronze,brass,steel,sinter,valve_steel,austenitic,titanium" doc:"what the hole is in"`
	PartMaterial string         `json:"part_material" choices:"aluminium,iron,bronze,brass,steel,sinter,valve_steel,austenitic,titanium" doc:"what the part is of"`
	HoleTemp     *big.Rat       `json:"hole_temp" kind:"temperature" doc:"temperature of the hole"`
	PartTemp     *big.Rat       `json:"part_temp" kind:"temperature" doc:"temperature of the part"`
	Gap          *length.Length `json:"gap" bound:"signed" opt:"" doc:"gap wanted at assembly"`
}

// FitOutput is the interference cold and the gap at the temperatures used.
type FitOutput struct {
	Interference length.Length     `json:"interference_nm"` // part - hole at 20 C
	Gap          length.Length     `json:"gap_nm"`          // hole - part at temperature; negative: it will not drop in
	HoleTemp     *quantity.Decimal `json:"hole_temp_for_gap_c,omitempty"`
}

// coldest is absolute zero and hottest a temperature at which any head has melted, C.
var coldest, hottest = big.NewRat(-27315, 100), big.NewRat(1500, 1)

// Fit computes, with expansion coefficients ah and ap,
//
//	gap = hole (1 + ah (Th - 20)) - part (1 + ap (Tp - 20))
//
// and, for a gap wanted, the hole temperature that gives it. It is exact.
func Fit(in FitInput) (FitOutput, error) {
	for _, t := range []struct {
		path string
		t    *big.Rat
	}{{"hole_temp", in.HoleTemp}, {"part_temp", in.PartTemp}} {
		if t.t.Cmp(coldest) < 0 || t.t.Cmp(hottest) > 0 {
			return FitOutput{}, field.Errorf(t.path, "no workshop reaches that temperature")
		}
	}
	hole, part := at(in.Hole, in.HoleMaterial, in.HoleTemp), at(in.Part, in.PartMaterial, in.PartTemp)
	out := FitOutput{Interference: in.Part - in.Hole, Gap: length.Round(hole.Sub(hole, part))}
	if in.Gap != nil {
		// T = 20 + ((gap + part hot) / hole - 1) / ah
		t := new(big.Rat).Add(in.Gap.Rat(), part)
		t.Quo(t, in.Hole.Rat()).Sub(t, big.NewRat(1, 1))
		t.Quo(t, coefficient(in.HoleMaterial)).Add(t, big.NewRat(20, 1))
		d := quantity.Decimal(quantity.Float(t))
		out.HoleTemp = &d
	}
	return out, nil
}

func coefficient(material string) *big.Rat {
	r, _ := new(big.Rat).SetString(expansion[material])
	return r.Mul(r, big.NewRat(1, 1_000_000))
}

// at returns the diameter d, measured at 20 C, at temperature t.
func at(d length.Length, material string, t *big.Rat) *big.Rat {
	k := new(big.Rat).Sub(t, big.NewRat(20, 1))
	k.Mul(k, coefficient(material)).Add(k, big.NewRat(1, 1))
	return k.Mul(k, d.Rat())
}

// VacuumInput is a port held under vacuum with the bare valve on its seat, the valve
// turned between readings. Baseline is the tester's own reading with its cup blanked,
// taken the same day.
type VacuumInput struct {
	Baseline *big.Rat   `json:"baseline" kind:"pressure" bound:"positive" doc:"the day's own maximum, cup blanked"`
	Drop     *big.Rat   `json:"drop" kind:"pressure" bound:"nonneg" doc:"drop allowed from the baseline"`
	Readings []*big.Rat `json:"readings" kind:"pressure" bound:"nonneg" doc:"readings, valve turned between them"`
}

// VacuumOutput says whether the seat holds and, if not, what to suspect: the valve
// when the leak turns with it, the seat when every reading fails.
type VacuumOutput struct {
	Pass    bool   `json:"pass"`
	Suspect string `json:"suspect"`
}

// Vacuum judges a vacuum test: every reading must reach baseline - drop.
func Vacuum(in VacuumInput) (VacuumOutput, error) {
	if in.Drop.Cmp(in.Baseline) >= 0 {
		return VacuumOutput{}, field.Errorf("drop", "the drop allowed is as large as the baseline")
	}
	least := new(big.Rat).Sub(in.Baseline, in.Drop)
	held := 0
	for _, r := range in.Readings {
		if r.Cmp(least) >= 0 {
			held++
		}
	}
	switch held {
	case len(in.Readings):
		return VacuumOutput{Pass: true}, nil
	case 0:
		return VacuumOutput{Suspect: "seat"}, nil
	}
	return VacuumOutput{Suspect: "valve"}, nil
}
