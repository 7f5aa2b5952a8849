package trade

import (
	"slices"

	"yatai/core/length"
	"yatai/core/quantity"
)

// engines is why nothing of a head's work answers what is read of its engine.
const engines = "it is the engine's, not the head's: the customer is told"

// What is read of the engine's pistons and bores, where they came with the head or were read beside it.
var (
	Protrusion = characteristic(Characteristic{
		Code:     "piston.protrusion",
		Label:    "Piston protrusion",
		Section:  Pistons,
		Where:    AtCylinder,
		Line:     "at its top over the block's face, front and back; of each the mean of both ways it rocks",
		Places:   []string{"front", "back"},
		Low:      -10 * mm,
		High:     10 * mm,
		Tools:    []string{"dial on bridge", "depth micrometer"},
		OnSheet:  true,
		NoAnswer: engines,
		Told:     true,
	})
	ProtrusionSpread = characteristic(Characteristic{
		Code:     "protrusion.spread",
		Label:    "Piston protrusion, spread",
		Line:     "highest less lowest",
		Section:  Pistons,
		Where:    AtCylinder,
		Of:       Protrusion,
		NoAnswer: engines,
		Told:     true,
	})
	EngineBore = characteristic(Characteristic{
		Code:     "engine.bore",
		Label:    "Cylinder bore, read",
		Line:     "in two directions at three heights",
		Section:  Pistons,
		Where:    AtCylinder,
		Places:   topMiddleBottom,
		Least:    1,
		Dirs:     bothWays,
		Low:      20 * mm,
		High:     600 * mm,
		Tools:    []string{"bore gauge"},
		OnSheet:  true,
		NoAnswer: engines,
		Told:     true,
	})
	BoreTaper = characteristic(Characteristic{
		Code:     "bore.taper",
		Label:    "Cylinder bore, taper",
		Line:     "largest less smallest of the means at its heights",
		Section:  Pistons,
		Where:    AtCylinder,
		From:     []*Characteristic{EngineBore},
		Work:     taper,
		NoAnswer: engines,
		Told:     true,
	})
	BoreRound = characteristic(Characteristic{
		Code:     "bore.round",
		Label:    "Cylinder bore, out of round",
		Line:     "one direction less the other, where they differ most",
		Section:  Pistons,
		Where:    AtCylinder,
		From:     []*Characteristic{EngineBore},
		Work:     outOfRound,
		NoAnswer: engines,
		Told:     true,
	})
	PlugPiston = characteristic(Characteristic{
		Code:     "plug.piston",
		Label:    "Plug to piston",
		Line:     "by clay, the gasket as it will be fitted",
		Section:  Pistons,
		Where:    AtCylinder,
		Low:      0,
		High:     100 * mm,
		Tools:    []string{"caliper"},
		OnSheet:  true,
		Gasket:   true,
		NoAnswer: "a thinner cut, a thicker gasket, another plug: the lead's choice",
	})
	ValvePiston = characteristic(Characteristic{
		Code:     "valve.piston",
		Label:    "Valve to piston",
		Line:     "least, by clay or two light springs and a dial",
		Section:  Pistons,
		Where:    AtPosition,
		Low:      0,
		High:     50 * mm,
		Tools:    []string{"caliper", "dial indicator"},
		OnSheet:  true,
		Gasket:   true,
		NoAnswer: "a deeper seat, a thicker gasket, a pocket in the piston: the lead's choice",
	})
)

// heights are the readings of a bore by the height they were made at.
func heights(rs []Read) map[string][]Read { return grouped(rs, func(s Spot) string { return s.Place }) }

// taper is by how much the means of a bore at its heights differ.
func taper(p Place) (Derivation, bool) {
	all := p.Reads(EngineBore)
	by := heights(all)
	if len(by) < 2 {
		return Derivation{}, false
	}
	var means []quantity.Amount
	for _, rs := range by {
		var at []quantity.Amount
		for _, r := range rs {
			at = append(at, r.Value.At)
		}
		means = append(means, length.Mean(at))
	}
	u, differ := MaxU(all), slices.Max(means)-slices.Min(means)
	return Derivation{Low: differ, High: differ, U: length.RSS(u, u), From: ids(all)}, true
}

// outOfRound is by how much the directions of a bore differ at the height where they differ most.
func outOfRound(p Place) (Derivation, bool) {
	all := p.Reads(EngineBore)
	d, any := Derivation{From: ids(all)}, false
	for _, rs := range heights(all) {
		if lo, hi, _ := Ends(rs); len(rs) > 1 {
			any, d.High = true, max(d.High, hi-lo)
		}
	}
	u := MaxU(all)
	d.Low, d.U = d.High, length.RSS(u, u)
	return d, any
}
