package demo

import "headwright/shop"

type step func(f *filler, tag string, j *job) error

type model struct {
	form   shop.ModelForm
	limits map[string]shop.LimitEntry
}

func e(low, high, near, source string) shop.LimitEntry {
	return shop.LimitEntry{Low: low, High: high, Near: near, Source: source}
}

// models are the demo's head models. Engines, makers and documents are invented.
var models = []model{
	{shop.ModelForm{Name: "Brindlow G4", About: "irrigation pump on dry gas, inline four", Material: "iron", Drive: "rocker", Unit: "mm", Cylinders: "4", Pattern: "IE", Pitch: "112", Bore: "98", Width: "164", IntakeHead: "42.5", ExhaustHead: "38", Ignition: "plug", Cooling: "water", FirstAt: "left"}, map[string]shop.LimitEntry{
		"stem.dia/intake": e("8.930", "", "0.005", "Brindlow sheet 2, line 11"), "stem.dia/exhaust": e("8.915", "", "0.005", "Brindlow sheet 2, line 12"),
		"guide.clearance/intake": e("0.025", "0.080", "0.008", "Brindlow sheet 2, line 14"), "guide.clearance/exhaust": e("0.040", "0.095", "0.008", "Brindlow sheet 2, line 15"),
		"seat.width/intake": e("1.2", "2.0", "0.1", "Brindlow sheet 3, line 2"), "seat.width/exhaust": e("1.4", "2.2", "0.1", "Brindlow sheet 3, line 3"),
		"seat.runout/intake": e("", "0.05", "0.01", "Brindlow sheet 3, line 5"), "seat.runout/exhaust": e("", "0.05", "0.01", "Brindlow sheet 3, line 5"),
		"valve.recession/intake": e("0.40", "0.90", "0.05", "Brindlow sheet 3, line 7"), "valve.recession/exhaust": e("0.50", "1.00", "0.05", "Brindlow sheet 3, line 8"),
		"stem.height/intake": e("45.90", "46.60", "0.05", "Brindlow sheet 3, line 9"), "stem.height/exhaust": e("45.90", "46.60", "0.05", "Brindlow sheet 3, line 9"),
		"valve.margin/intake": e("1.0", "", "0.1", "Brindlow sheet 2, line 17"), "valve.margin/exhaust": e("1.1", "", "0.1", "Brindlow sheet 2, line 18"),
		"head.thickness/": e("98.20", "", "0.10", "Brindlow sheet 1, line 4"), "face.line/long": e("", "0.08", "0.01", "Brindlow sheet 1, line 6"), "face.line/cross": e("", "0.05", "0.01", "Brindlow sheet 1, line 7"), "face.line/diagonal": e("", "0.08", "0.01", "Brindlow sheet 1, line 6"),
	}},
	{shop.ModelForm{Name: "Velderan V8", About: "standby generator, one bank of a V8", Material: "aluminium", Drive: "bucket", Unit: "mm", Cylinders: "4", Pattern: "IIEE", Pitch: "104", Bore: "90", Width: "152", IntakeHead: "33", ExhaustHead: "29", Ignition: "plug", Cooling: "water", FirstAt: "left"}, map[string]shop.LimitEntry{
		"stem.dia/intake": e("5.965", "", "0.003", "Velderan bench book, page 31"), "stem.dia/exhaust": e("5.955", "", "0.003", "Velderan bench book, page 31"),
		"guide.clearance/intake": e("0.018", "0.050", "0.005", "Velderan bench book, page 31"), "guide.clearance/exhaust": e("0.028", "0.062", "0.005", "Velderan bench book, page 31"),
		"seat.width/intake": e("1.0", "1.6", "0.1", "Velderan bench book, page 33"), "seat.width/exhaust": e("1.2", "1.8", "0.1", "Velderan bench book, page 33"),
		"seat.runout/intake": e("", "0.04", "0.01", "Velderan bench book, page 33"), "seat.runout/exhaust": e("", "0.04", "0.01", "Velderan bench book, page 33"),
		"stem.height/intake": e("38.40", "38.95", "0.05", "Velderan bench book, page 34"), "stem.height/exhaust": e("38.40", "38.95", "0.05", "Velderan bench book, page 34"),
		"valve.margin/intake": e("0.8", "", "0.1", "Velderan bench book, page 32"), "valve.margin/exhaust": e("0.9", "", "0.1", "Velderan bench book, page 32"),
		"head.thickness/": e("132.60", "", "0.05", "Velderan bench book, page 30"), "face.line/long": e("", "0.06", "0.01", "Velderan bench book, page 30"), "face.line/cross": e("", "0.04", "0.01", "Velderan bench book, page 30"), "face.line/diagonal": e("", "0.06", "0.01", "Velderan bench book, page 30"),
	}},
	{shop.ModelForm{Name: "Ostrel 6D-24", About: "snow groomer diesel, inline six, 24 valves with bridges", Material: "iron", Drive: "rocker", Unit: "mm", Cylinders: "6", Pattern: "IIEE", Pitch: "128", Bore: "110", Width: "186", IntakeHead: "38", ExhaustHead: "35.5", Ignition: "injector", Cooling: "water", FirstAt: "left"}, map[string]shop.LimitEntry{
		"stem.dia/intake": e("7.935", "", "0.004", "Ostrel overhaul data, table 7"), "stem.dia/exhaust": e("7.920", "", "0.004", "Ostrel overhaul data, table 7"),
		"seat.width/intake": e("1.6", "2.6", "0.1", "Ostrel overhaul data, table 9"), "seat.width/exhaust": e("1.8", "2.8", "0.1", "Ostrel overhaul data, table 9"),
		"seat.runout/intake": e("", "0.06", "0.01", "Ostrel overhaul data, table 9"), "seat.runout/exhaust": e("", "0.06", "0.01", "Ostrel overhaul data, table 9"),
		"valve.recession/intake": e("0.90", "1.50", "0.05", "Ostrel overhaul data, table 8"), "valve.recession/exhaust": e("1.00", "1.60", "0.05", "Ostrel overhaul data, table 8"),
		"valve.margin/intake": e("1.6", "", "0.1", "Ostrel overhaul data, table 7"), "valve.margin/exhaust": e("1.8", "", "0.1", "Ostrel overhaul data, table 7"),
		"head.thickness/": e("109.70", "", "0.10", "Ostrel overhaul data, table 6"), "face.line/long": e("", "0.10", "0.01", "Ostrel overhaul data, table 6"), "face.line/cross": e("", "0.05", "0.01", "Ostrel overhaul data, table 6"), "face.line/diagonal": e("", "0.10", "0.01", "Ostrel overhaul data, table 6"),
	}},
}

// figure is what a sound part usually measures, millimetres: base and scatter above it.
type figure struct {
	intake, exhaust, scatter float64
	places                   int
}

var usualFigures = map[string]map[string]figure{
	"Brindlow G4": {
		"guide.bore": {9.006, 9.012, 0.006, 3}, "stem.dia": {8.958, 8.945, 0.006, 3}, "seat.width": {1.5, 1.7, 0.15, 2}, "seat.runout": {0.015, 0, 0.012, 3}, "valve.recession": {0.58, 0.70, 0.1, 2},
		"stem.height": {46.10, 46.12, 0.2, 2}, "valve.margin": {1.35, 1.5, 0.15, 2}, "head.thickness": {98.61, 0, 0.03, 3},
	},
	"Velderan V8": {
		"guide.bore": {6.010, 6.012, 0.004, 3}, "stem.dia": {5.978, 5.970, 0.004, 3}, "seat.width": {1.22, 1.42, 0.12, 2}, "seat.runout": {0.01, 0, 0.01, 3}, "valve.recession": {0.2, 0.2, 0.1, 2},
		"stem.height": {38.55, 38.57, 0.2, 2}, "valve.margin": {1.1, 1.2, 0.12, 2}, "head.thickness": {132.86, 0, 0.03, 3},
	},
	"Ostrel 6D-24": {
		"guide.bore": {8.004, 8.010, 0.005, 3}, "stem.dia": {7.962, 7.950, 0.006, 3}, "seat.width": {1.95, 2.15, 0.2, 2}, "seat.runout": {0.018, 0, 0.015, 3}, "valve.recession": {1.1, 1.2, 0.15, 2},
		"stem.height": {62.1, 62.1, 0.2, 2}, "valve.margin": {2.1, 2.4, 0.2, 2}, "head.thickness": {110.05, 0, 0.04, 3},
	},
}

// job is a head of the demo: how many hours ago it came, in how many days it is due, and
// the steps it has gone.
type job struct {
	model  string
	ago    float64
	due    int
	form   shop.IntakeForm
	steps  []step
	coarse string // position whose guide was read with the coarser gauge
}

// worn is the pump head that has run 6140 hours on dry gas: guides worn by rocker
// geometry, a sunk seat with a thin valve, a reading too close to tell.
var worn = map[string]string{
	"guide.bore 1E1.top.A": "9.041", "guide.bore 1E1.middle.A": "9.028", "guide.bore 1E1.bottom.A": "9.066",
	"guide.bore 3E1.top.A": "9.030", "guide.bore 3E1.bottom.A": "9.061", "guide.bore 3E1.bottom.B": "9.040",
	"guide.bore 4I1.bottom.A": "9.030", "stem.dia 4I1.bottom": "8.957", "stem.dia 4I1.top": "8.960", "stem.dia 4I1.middle": "8.960",
	"valve.recession 2E1": "1.16", "valve.margin 2E1": "0.86", "stem.height 2E1": "46.72",
	"face.line L2": "0.12 0.15", "face.line L1": "0.10 0.12", "face.line D1": "0.06 0.08",
}

var wornMended = map[string]string{
	"guide.bore 1E1": "9.002", "guide.bore 3E1": "9.003", "stem.dia 1E1": "8.950", "stem.dia 3E1": "8.949",
	"seat.width 1E1": "1.7", "seat.width 3E1": "1.75", "seat.runout 1E1": "0.012", "seat.runout 3E1": "0.015",
	"valve.recession 1E1": "0.78", "valve.recession 3E1": "0.80", "stem.height 1E1": "46.30", "stem.height 3E1": "46.28",
}

var jobs = []job{
	{model: "Brindlow G4", ago: 76, due: 4, form: shop.IntakeForm{Customer: "Mossfield Growers", Contact: "by radio, channel 12", Machine: "Pump house 3", Hours: "6140", Kind: "failed", Marks: "G4-2 0318, stamp 5 on the rail", Story: "Misfires hot, then cold. The lash on 2 was gone again, third time this season.", CameWith: "Valves in place, no rocker gear, two keepers missing"},
		steps: []step{measure(shop.AsReceived, 0, worn)}, coarse: "4I1"},
	{model: "Velderan V8", ago: 52, due: 6, form: shop.IntakeForm{Customer: "Fellside Clinic", Contact: "estates office", Machine: "Standby set 1", Hours: "811", Kind: "failed", Bank: "left", Marks: "VL 22 107", Story: "Ran hot on test. Coolant down by three litres.", CameWith: "Complete with buckets and shims in a numbered tray"},
		steps: []step{measure(shop.AsReceived, 0, map[string]string{"face.line L1": "0.10 0.12", "face.line L2": "0.15 0.20", "face.line L3": "0.10 0.12", "face.line D1": "0.08 0.10", "guide.bore 2E1": "6.031", "seat.width 3E2": "2.05"}), decide(true, nil), work(4, true)}},
	{model: "Velderan V8", ago: 51, due: 6, form: shop.IntakeForm{Customer: "Fellside Clinic", Machine: "Standby set 1", Hours: "811", Kind: "failed", Bank: "right", Marks: "VR 22 094", Story: "The pair of the left one.", CameWith: "Complete"},
		steps: []step{measure(shop.AsReceived, 2, nil)}},
	{model: "Ostrel 6D-24", ago: 30, due: 9, form: shop.IntakeForm{Customer: "High Pistes", Contact: "workshop, ask for Bran", Machine: "Groomer 7", Hours: "9320", Kind: "rebuild", Marks: "6D 4471", Story: "Season overhaul. Uses a little oil.", CameWith: "Bridges and injectors in a crate"},
		steps: []step{measure(shop.AsReceived, 1, nil)}},
	{model: "Brindlow G4", ago: 170, due: -1, form: shop.IntakeForm{Customer: "Lower Leat Water", Machine: "Lift station B", Hours: "4020", Kind: "rebuild", Marks: "G4-2 0291", Story: "Smokes on overrun.", CameWith: "Complete"},
		steps: []step{measure(shop.AsReceived, 0, map[string]string{"guide.bore 1E1.bottom.A": "9.060", "guide.bore 3E1.bottom.A": "9.058"}), decide(true, nil), work(99, false), measure(shop.AfterRepair, 0, wornMended)}},
	{model: "Brindlow G4", ago: 240, due: 1, form: shop.IntakeForm{Customer: "Mossfield Growers", Machine: "Pump house 1", Hours: "2210", Kind: "comeback", Marks: "G4-1 0877", Story: "You did this one in spring. Ticks when cold.", CameWith: "Complete"},
		steps: []step{measure(shop.AsReceived, 0, nil), decide(true, nil), work(99, false), passGate("Gasket dry and clean. Torque in three stages from the middle outwards, as the maker's book says. Lash again after 50 hours.")}},
	{model: "Ostrel 6D-24", ago: 5, due: 12, form: shop.IntakeForm{Customer: "High Pistes", Machine: "Groomer 2", Hours: "unknown", Kind: "bought-in", Marks: "none", Story: "Bought as new, wants to know that it is.", CameWith: "Bare casting with guides and seats"}},
}
