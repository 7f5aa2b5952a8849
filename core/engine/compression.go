// Package engine holds what the head does to the rest of the engine: compression
// ratio, gasket grade, bearing and piston clearance, and the order of its bolts.
package engine

import (
	"math"
	"math/big"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
)

// ValveChange is a valve of the cylinder and how much deeper it lies afterwards.
type ValveChange struct {
	Head            length.Length `json:"head" doc:"valve head diameter"`
	RecessionChange length.Length `json:"recession_change" bound:"signed" doc:"recession after less before"`
}

// CompressionInput is one cylinder and what is done to it.
type CompressionInput struct {
	Bore        length.Length `json:"bore" doc:"cylinder bore"`
	Stroke      length.Length `json:"stroke" doc:"stroke"`
	Chamber     quantity.CC   `json:"chamber" bound:"nonneg" doc:"chamber volume in the head, before"`
	GasketBore  length.Length `json:"gasket_bore" doc:"bore of the gasket"`
	Gasket      length.Length `json:"gasket" bound:"nonneg" doc:"gasket thickness, fitted"`
	Deck        length.Length `json:"deck" bound:"signed" doc:"positive when the piston stops below the block's face"`
	Piston      quantity.CC   `json:"piston" doc:"piston crown, positive for a dish"`
	FaceCut     length.Length `json:"face_cut" bound:"nonneg" doc:"taken off the head's face"`
	ChamberArea *big.Rat      `json:"chamber_area_mm2" bound:"nonneg" doc:"open area of the chamber at the face, mm²"`
	Valves      []ValveChange `json:"valves" opt:"" empty:"yes" doc:"valves that end up deeper or higher"`
}

// CompressionOutput is the ratio before and after.
type CompressionOutput struct {
	Before        quantity.Decimal `json:"before"`
	After         quantity.Decimal `json:"after"`
	ChamberAfter  quantity.Decimal `json:"chamber_after_cc"`
	GasketRestore length.Length    `json:"gasket_restore_nm"` // gasket that gives the ratio before again
}

// Compression computes the ratio (swept + clearance) / clearance before and after,
// where clearance is chamber + gasket + deck + piston and the chamber afterwards is
//
//	chamber - area × cut + sum of pi/4 head² × recession change
func Compression(in CompressionInput) (CompressionOutput, error) {
	disc := func(d, h length.Length) float64 { // volume in cc
		return math.Pi / 4 * d.Millimetres() * d.Millimetres() * h.Millimetres() / 1000
	}
	chamber := in.Chamber.Float()
	after := chamber - quantity.Float(in.ChamberArea)*in.FaceCut.Millimetres()/1000
	for _, v := range in.Valves {
		after += disc(v.Head, v.RecessionChange)
	}
	rest := disc(in.GasketBore, in.Gasket) + disc(in.Bore, in.Deck) + in.Piston.Float()
	if chamber+rest <= 0 {
		return CompressionOutput{}, field.Errorf("chamber", "no room is left above the piston")
	}
	if after+rest <= 0 {
		return CompressionOutput{}, field.Errorf("face_cut", "this cut leaves no room above the piston")
	}
	swept := disc(in.Bore, in.Stroke)
	ratio := func(v float64) quantity.Decimal { return quantity.Decimal((swept + v) / v) }
	perMM := disc(in.GasketBore, length.Millimetre)
	restore := in.Gasket.Millimetres() + (chamber-after)/perMM
	if math.Abs(restore) > length.Max.Millimetres() {
		return CompressionOutput{}, field.Errorf("gasket_bore", "no gasket could give the ratio back")
	}
	return CompressionOutput{
		Before: ratio(chamber + rest), After: ratio(after + rest), ChamberAfter: quantity.Decimal(after),
		GasketRestore: length.FromFloat(restore * float64(length.Millimetre)),
	}, nil
}
