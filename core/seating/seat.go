// Package seating holds the geometry of valve seats, interference fits at
// temperature, and the seal test.
package seating

import (
	"fmt"
	"math"
	"math/big"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
)

// SeatInput is a contact ring as it is and as it is wanted. Angles are in degrees from
// the face plane; diameters are of the ring's edges.
type SeatInput struct {
	Angle       quantity.Degrees `json:"angle" bare:"yes" bound:"positive" doc:"seat angle, degrees from the face"`
	Top         quantity.Degrees `json:"top" bare:"yes" bound:"positive" doc:"top cut, flatter than the seat"`
	Bottom      quantity.Degrees `json:"bottom" bare:"yes" bound:"positive" doc:"bottom cut, steeper than the seat"`
	Inner       length.Length    `json:"inner" doc:"ring's inner edge now, diameter"`
	Outer       length.Length    `json:"outer" doc:"ring's outer edge now, diameter"`
	ValveHead   length.Length    `json:"valve_head" doc:"valve head diameter"`
	TargetOuter length.Length    `json:"target_outer" doc:"outer edge wanted, diameter"`
	TargetWidth length.Length    `json:"target_width" doc:"ring width wanted, along the slope"`
}

// SeatOutput is the cuts that bring the ring to size. Depths are along the valve's axis,
// none below 0.
type SeatOutput struct {
	Width       length.Length `json:"width_nm"`        // ring now, along the slope
	TargetInner length.Length `json:"target_inner_nm"` // inner edge wanted, diameter
	MainDepth   length.Length `json:"main_depth_nm"`   // at the seat angle, so that the ring comes out full
	TopDepth    length.Length `json:"top_depth_nm"`    // top cut, brings the outer edge in
	BottomDepth length.Length `json:"bottom_depth_nm"` // bottom cut, brings the inner edge out
	Sink        length.Length `json:"sink_nm"`         // what the valve sinks by: the main cut
	RoomUsed    length.Length `json:"room_used_nm"`    // how far the top cut's outer edge moves out
	Inset       length.Length `json:"inset_nm"`        // ring's outer edge inside the valve's edge
}

// Slope returns how far a ring of a width along the slope reaches across: width cos a, on
// one side.
func Slope(angle quantity.Degrees, width length.Length) length.Length {
	return length.FromFloat(float64(width) * math.Cos(angle.Float()*math.Pi/180))
}

// Seat computes the cuts that bring a contact ring to its place and width. With angle a, top
// b and bottom g, cones meet at the ring's edges, so with ko = tan a - tan b and
// ki = tan g - tan a:
//
//	width        = (outer - inner) / (2 cos a)
//	target inner = target outer - 2 width wanted cos a
//	main         = the largest of 0, (target outer - outer)/2 ko, (inner - target inner)/2 ki
//	top          = (outer - target outer)/2 ko + main
//	bottom       = (target inner - inner)/2 ki + main
//	room used    = top / tan b
//
// The main cut goes as deep as the outer or the inner edge needs, so that the ring always
// comes out full. It returns a *field.Error for angles that are not in order.
func Seat(in SeatInput) (SeatOutput, error) {
	a, b, g := in.Angle.Float(), in.Top.Float(), in.Bottom.Float()
	switch {
	case a < 5 || a > 80:
		return SeatOutput{}, field.Errorf("angle", "a seat angle lies between 5 and 80 degrees")
	case b <= 0 || b >= a:
		return SeatOutput{}, field.Errorf("top",
			"the top cut must be flatter than the seat, and more than 0 degrees")
	case g <= a || g >= 90:
		return SeatOutput{}, field.Errorf("bottom",
			"the bottom cut must be steeper than the seat and below 90 degrees")
	case in.Inner >= in.Outer:
		return SeatOutput{}, field.Errorf("inner", "the inner edge must be smaller than the outer")
	}
	tan := func(deg float64) float64 { return math.Tan(deg * math.Pi / 180) }
	cos := math.Cos(a * math.Pi / 180)
	ko, ki := tan(a)-tan(b), tan(g)-tan(a)
	targetInner := float64(in.TargetOuter) - 2*float64(in.TargetWidth)*cos
	if targetInner <= 0 {
		return SeatOutput{}, field.Errorf("target_width", "wider than the seat has room for")
	}
	out, inner := float64(in.Outer-in.TargetOuter)/2*ko, (targetInner-float64(in.Inner))/2*ki
	main := max(0, -out, -inner)
	top := max(0, out+main)
	return SeatOutput{
		Width:       length.FromFloat(float64(in.Outer-in.Inner) / (2 * cos)),
		TargetInner: length.FromFloat(targetInner),
		MainDepth:   length.FromFloat(main),
		TopDepth:    length.FromFloat(top),
		BottomDepth: length.FromFloat(max(0, inner+main)),
		Sink:        length.FromFloat(main),
		RoomUsed:    length.FromFloat(top / tan(b)),
		Inset:       length.Div(in.ValveHead-in.TargetOuter, 2),
	}, nil
}

// Material is what something is made of, by the name that heads and calculations know it by.
type Material string

// materials are those whose coefficient of thermal expansion is known, 1e-6 per kelvin.
var materials = []struct {
	name      Material
	expansion string
}{
	{"aluminium", "21.5"}, {"iron", "11.0"}, {"bronze", "18.0"}, {"brass", "19.0"}, {"steel", "11.7"},
	{"sinter", "11.5"}, {"valve_steel", "12.0"}, {"austenitic", "17.5"}, {"titanium", "8.9"},
}

// Choices lists the names of the materials.
func (Material) Choices() []string {
	var out []string
	for _, m := range materials {
		out = append(out, string(m.name))
	}
	return out
}

// FitInput is a part to go into a hole, both measured at 20 degrees C.
type FitInput struct {
	Hole         length.Length    `json:"hole" doc:"hole diameter at 20 C"`
	Part         length.Length    `json:"part" doc:"part diameter at 20 C"`
	HoleMaterial Material         `json:"hole_material" doc:"what the hole is in"`
	PartMaterial Material         `json:"part_material" doc:"what the part is of"`
	HoleTemp     quantity.Celsius `json:"hole_temp" doc:"temperature of the hole"`
	PartTemp     quantity.Celsius `json:"part_temp" doc:"temperature of the part"`
	Gap          *length.Length   `json:"gap" bound:"signed" opt:"" doc:"gap wanted at assembly"`
}

// FitOutput is the interference cold and the gap at the temperatures used.
type FitOutput struct {
	Interference length.Length `json:"interference_nm"` // part - hole at 20 C
	// hole - part at temperature; negative: it will not drop in
	Gap      length.Length     `json:"gap_nm"`
	HoleTemp *quantity.Decimal `json:"hole_temp_for_gap_c,omitempty"`
}

// coldest is absolute zero and hottest a temperature at which any head has melted, C.
var coldest, hottest = quantity.CelsiusOf(-27315, 100), quantity.CelsiusOf(1500, 1)

// Fit computes, with expansion coefficients ah and ap,
//
//	gap = hole (1 + ah (Th - 20)) - part (1 + ap (Tp - 20))
//
// and, for a gap wanted, the hole temperature that gives it. It is exact.
func Fit(in FitInput) (FitOutput, error) {
	for _, t := range []struct {
		path string
		t    quantity.Celsius
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

func coefficient(material Material) *big.Rat {
	out := new(big.Rat)
	for _, m := range materials {
		if m.name == material {
			out.SetString(m.expansion)
		}
	}
	return out.Mul(out, big.NewRat(1, 1_000_000))
}

// growth is what a length of a material at temperature t is of itself at 20 C.
func growth(material Material, t quantity.Celsius) *big.Rat {
	k := new(big.Rat).Sub(t.Rat(), big.NewRat(20, 1))
	return k.Mul(k, coefficient(material)).Add(k, big.NewRat(1, 1))
}

// at returns the diameter d, measured at 20 C, at temperature t.
func at(d length.Length, material Material, t quantity.Celsius) *big.Rat {
	k := growth(material, t)
	return k.Mul(k, d.Rat())
}

// TemperatureInput is a length read on a part that was not at 20 degrees C, with a tool that
// may not have been either.
type TemperatureInput struct {
	Length       length.Length    `json:"length" doc:"the length as read"`
	Material     Material         `json:"material" doc:"what the part is of"`
	PartTemp     quantity.Celsius `json:"part_temp" doc:"temperature of the part"`
	ToolMaterial Material         `json:"tool_material" doc:"what the tool is of"`
	ToolTemp     quantity.Celsius `json:"tool_temp" doc:"temperature of the tool"`
}

// TemperatureOutput is the length at 20 degrees C.
type TemperatureOutput struct {
	At20 length.Length `json:"at_20_nm"`
}

// Temperature brings a length to 20 degrees C, with expansion coefficients at of the tool
// and ap of the part:
//
//	length (1 + at (tool - 20)) / (1 + ap (part - 20))
func Temperature(in TemperatureInput) (TemperatureOutput, error) {
	for _, t := range []struct {
		path string
		t    quantity.Celsius
	}{{"part_temp", in.PartTemp}, {"tool_temp", in.ToolTemp}} {
		if t.t.Cmp(coldest) < 0 || t.t.Cmp(hottest) > 0 {
			return TemperatureOutput{}, field.Errorf(t.path, "no workshop reaches that temperature")
		}
	}
	l := new(big.Rat).Mul(in.Length.Rat(), growth(in.ToolMaterial, in.ToolTemp))
	return TemperatureOutput{length.Round(l.Quo(l, growth(in.Material, in.PartTemp)))}, nil
}

// VacuumInput is a port held under vacuum with the bare valve on its seat, the valve
// turned between readings. Baseline is the tester's own reading with its cup blanked,
// taken the same day.
type VacuumInput struct {
	Baseline quantity.KPa   `json:"baseline" bound:"positive" doc:"the day's own maximum, cup blanked"`
	Drop     quantity.KPa   `json:"drop" bound:"nonneg" doc:"drop allowed from the baseline"`
	U        quantity.KPa   `json:"u" bound:"nonneg" opt:"" doc:"expanded uncertainty of the tester (k = 2); 0 when left out"`
	Readings []quantity.KPa `json:"readings" bound:"nonneg" doc:"readings, valve turned between them"`
}

// VacuumOutput says whether the seat holds, nil when the readings cannot tell, and what to
// suspect: nothing ("") while none fails; the valve when some fail and some hold, for the
// leak turns with it; the seat when all fail, two at least; else turn the valve and read on.
type VacuumOutput struct {
	Pass    *bool  `json:"pass"`
	Suspect string `json:"suspect"`
}

// What a vacuum test can point to.
const (
	SuspectValve = "valve"
	SuspectSeat  = "seat"
	SuspectTurn  = "turn"
)

// Vacuum judges a vacuum test. Against the limit baseline - drop a reading holds when it is
// at least limit + u, fails when it is less than limit - u, and else is in doubt. It returns
// a *field.Error for a reading above baseline + u: the cup was blanked on another day.
func Vacuum(in VacuumInput) (VacuumOutput, error) {
	if in.Drop.Cmp(in.Baseline) >= 0 {
		return VacuumOutput{}, field.Errorf("drop", "the drop allowed is as large as the baseline")
	}
	limit, most := in.Baseline.Sub(in.Drop), in.Baseline.Add(in.U)
	held, failed := 0, 0
	for i, r := range in.Readings {
		switch {
		case r.Cmp(most) > 0:
			return VacuumOutput{}, field.Errorf(fmt.Sprintf("readings[%d]", i),
				"higher than the baseline: blank the cup again today")
		case r.Cmp(limit.Add(in.U)) >= 0:
			held++
		case r.Cmp(limit.Sub(in.U)) < 0:
			failed++
		}
	}
	yes, no := true, false
	switch {
	case held == len(in.Readings):
		return VacuumOutput{Pass: &yes}, nil
	case failed == 0:
		return VacuumOutput{}, nil
	case held > 0:
		return VacuumOutput{&no, SuspectValve}, nil
	case failed == len(in.Readings) && failed > 1:
		return VacuumOutput{&no, SuspectSeat}, nil
	}
	return VacuumOutput{&no, SuspectTurn}, nil
}
