package demo

import (
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/library"
)

type step func(f *filler, tag string, j *job) error

type model struct {
	form                               library.ModelForm
	limits                             map[string]library.LimitEntry
	given, target, fresh, class, renew map[string]library.LimitEntry // the sheet's other sets
	tightening                         map[string]library.TighteningRow
	confirmed                          bool // by a second person
}

// g is a figure of the engine that a sheet gives.
func g(figure, source string) library.LimitEntry {
	return library.LimitEntry{Low: figure, Source: source}
}

func e(low, high, near, source string) library.LimitEntry {
	return library.LimitEntry{Low: low, High: high, Near: near, Source: source}
}

// job is a head of the demo: how many hours ago it came, in how many days it is due, and
// the steps it has gone.
type job struct {
	model     string
	ago       float64
	left      float64 // how many hours ago it left; 0 while it is here
	late      bool    // half of its bill is paid, and that late
	due       int
	form      intake.IntakeForm
	steps     []step
	with      int    // number of the tag it came with, of a pair
	regulated string // why a licensed person releases it
	coarse    string // position whose guide was read with the coarser gauge
}

// when is how many hours ago a head was a part of its way through the shop: 1 as it came,
// 0 as it leaves.
func (j *job) when(part float64) float64 { return j.left + (j.ago-j.left)*part }

// worn is the pump head that has run 6140 hours on dry gas: guides worn by rocker
// geometry, a sunk seat with a thin valve, a reading too close to tell.
var worn = map[string]string{
	"guide.bore 1E1.top.A": "9.041", "guide.bore 1E1.middle.A": "9.028", "guide.bore 1E1.bottom.A": "9.066",
	"guide.bore 3E1.top.A": "9.030", "guide.bore 3E1.bottom.A": "9.061", "guide.bore 3E1.bottom.B": "9.040",
	"guide.bore 4I1.bottom.A": "9.030", "stem.dia 4I1.bottom": "8.957", "stem.dia 4I1.top": "8.960",
	"stem.dia 4I1.middle": "8.960",
	"valve.recession 2E1": "1.56", "valve.margin 2E1": "0.86", "stem.height 2E1": "46.72",
	"face.line L2": "0.12 0.15", "face.line L1": "0.10 0.12", "face.line D1": "0.06 0.08",
	"lash 2E1": "0.03 0.05", "spring.height 2E1": "38.62",
}

var wornMended = map[string]string{
	"guide.bore 1E1": "9.002", "guide.bore 3E1": "9.003", "stem.dia 1E1": "8.950", "stem.dia 3E1": "8.949",
	"seat.width 1E1": "1.7", "seat.width 3E1": "1.75", "seat.runout 1E1": "0.012", "seat.runout 3E1": "0.015",
	"valve.recession 1E1": "0.78", "valve.recession 3E1": "0.80", "stem.height 1E1": "46.30",
	"stem.height 3E1":   "46.28",
	"spring.height 1E1": "38.20", "spring.height 3E1": "38.15", "lash 1E1": "0.22 0.24", "lash 3E1": "0.22 0.24",
}

var jobs = []job{
	{
		model: "Brindlow G4",
		ago:   76,
		due:   4,
		form: intake.IntakeForm{
			Customer: "Mossfield Growers",
			Contact:  "by radio, channel 12",
			Machine:  "Pump house 3",
			Hours:    "6140",
			Kind:     "failed",
			Marks:    "G4-2 0318, stamp 5 on the rail",
			Symptoms: []string{"misfire_hot", "misfire_cold", "lash_lost", "dry_fuel"},
			Story:    "Misfires hot, then cold. The lash on 2 was gone again, third time this season.",
			CameWith: "Valves in place, no rocker gear, two keepers missing",
		},
		steps: []step{
			measure(headfile.AsReceived, 0, worn), looked(headfile.AsReceived, map[string]map[string]string{
				"port.condition": {"*": "dry", "1E1": "oily: oil on the valve's back", "3E1": "oily"}, "tip.condition": {
					"*": "clean", "1E1": "offcentre", "3E1": "offcentre: the mark lies to the outside",
				},
				"valve.face": {
					"*": "clean", "2E1": "dished: beaten by a dry seat",
				}, "seat.condition": {"*": "clean", "2E1": "sunk"}, "rocker.condition": {"*": "sound", "1E1": "pad_worn"},
			}),
		},
		coarse: "4I1",
	},
	{
		model:     "Velderan V8",
		ago:       52,
		due:       6,
		regulated: "emergency plant",
		form: intake.IntakeForm{
			Customer: "Fellside Clinic",
			Contact:  "estates office",
			Machine:  "Standby set 1",
			Hours:    "811",
			Kind:     "failed",
			Bank:     "left",
			Marks:    "VL 22 107",
			Symptoms: []string{"ran_hot", "lost_coolant"},
			Story:    "Ran hot on test. Coolant down by three litres.",
			CameWith: "Complete with buckets and shims in a numbered tray",
		},
		steps: []step{measure(headfile.AsReceived, 0, map[string]string{
			"face.line L1": "0.10 0.12", "face.line L2": "0.15 0.20", "face.line L3": "0.10 0.12",
			"face.line D1":   "0.08 0.10",
			"guide.bore 2E1": "6.031", "seat.width 3E2": "2.05", "lash 3I1": "0.08 0.10",
			"face.grid G1": "0.126", "face.grid G2": "0.100", "face.grid G3": "0.073", "face.grid G4": "0.044",
			"face.grid G5": "0.028",
			"face.grid G6": "0.040", "face.grid G7": "0.070", "face.grid G8": "0.098", "face.grid G9": "0.124",
			"face.grid G10": "0.134", "face.grid G11": "0.062", "face.grid G12": "0.000", "face.grid G13": "0.058",
			"face.grid G14": "0.130",
			"face.grid G15": "0.128", "face.grid G16": "0.102", "face.grid G17": "0.068", "face.grid G18": "0.048",
			"face.grid G19": "0.032",
			"face.grid G20": "0.048", "face.grid G21": "0.074", "face.grid G22": "0.106", "face.grid G23": "0.132"}),
			marked(
				[4]string{"crack", "178", "74", "9 mm, dye holds, between the seats"},
				[4]string{"stamp", "14", "140", "0.10 stamped, an earlier facing"},
			), looked(
				headfile.AsReceived, map[string]map[string]string{
					"seat.condition": {"*": "clean", "2E1": "light_pits", "3E2": "heavy_pits"},
				},
			), decide(true, map[string]lead.Choice{"*mark.crack": {Choice: "weld"}}), worked(3, true)},
	},
	{
		model: "Velderan V8",
		ago:   51,
		due:   6,
		with:  402,
		form: intake.IntakeForm{
			Customer: "Fellside Clinic",
			Machine:  "Standby set 1",
			Hours:    "811",
			Kind:     "failed",
			Bank:     "right",
			Marks:    "VR 22 094",
			Story:    "The pair of the left one.",
			CameWith: "Complete",
		},
		steps: []step{measure(headfile.AsReceived, 2, nil)},
	},
	{model: "Ostrel 6D-24", ago: 30, due: 9, form: intake.IntakeForm{
		Customer: "High Pistes",
		Contact:  "workshop, ask for Bran",
		Machine:  "Groomer 7",
		Hours:    "9320",
		Kind:     "rebuild",
		Marks:    "6D 4471",
		Symptoms: []string{"oil_use"},
		Story:    "Season overhaul. Uses a little oil.",
		CameWith: "Bridges and injectors in a crate",
	},
		steps: []step{measure(headfile.AsReceived, 1, nil)}},
	{model: "Brindlow G4", ago: 170, due: -1, form: intake.IntakeForm{
		Customer: "Lower Leat Water",
		Machine:  "Lift station B",
		Hours:    "4020",
		Kind:     "rebuild",
		Marks:    "G4-2 0291",
		Symptoms: []string{"smoke"},
		Story:    "Smokes on overrun.",
		CameWith: "Complete",
	},
		steps: []step{
			measure(headfile.AsReceived, 0, map[string]string{
				"guide.bore 1E1.bottom.A": "9.060", "guide.bore 3E1.bottom.A": "9.058",
			}),
			decide(true, nil), worked(99, false), measure(headfile.AfterRepair, 0, wornMended),
		}},
	{model: "Brindlow G4", ago: 240, due: 1, form: intake.IntakeForm{
		Customer: "Mossfield Growers",
		Machine:  "Pump house 1",
		Hours:    "2210",
		Kind:     "comeback",
		Marks:    "G4-1 0877",
		Symptoms: []string{"rattle", "mended_lately"},
		Story:    "You did this one in spring. Ticks when cold.",
		CameWith: "Complete",
	},
		steps: []step{
			measure(headfile.AsReceived, 0, nil), decide(true, nil), worked(99, false),
			passGate(
				"Gasket dry and clean. Torque in three stages from the middle outwards, as the maker's book says. Lash again after 50 hours.",
			),
		}},
	{
		model: "Ostrel 6D-24", ago: 5, due: 12,
		form: intake.IntakeForm{
			Customer: "High Pistes", Machine: "Groomer 2", Hours: "unknown", Kind: "bought-in", Marks: "none",
			Story: "Bought as new, wants to know that it is.", CameWith: "Bare casting with guides and seats",
		},
	},
	{
		model: "Brindlow G4",
		ago:   4600,
		left:  4500,
		due:   0,
		form: intake.IntakeForm{
			Customer: "Mossfield Growers",
			Machine:  "Pump house 1",
			Hours:    "1310",
			Kind:     "rebuild",
			Marks:    "G4-1 0877",
			Story:    "Season service.",
			CameWith: "Complete",
		},
		steps: []step{
			measure(headfile.AsReceived, 0, map[string]string{"valve.recession 2E1": "0.60"}), decide(true, nil),
			worked(99, false),
			passGate("Lash again after 50 hours."), handedOver("the growers' van"), earlierOf("T0406"),
		},
	},
	{model: "Pendrick 2A", ago: 60, due: 14, form: intake.IntakeForm{
		Customer: "Hollin Light Railway",
		Contact:  "signal box, mornings",
		Machine:  "Inspection trolley",
		Hours:    "unknown",
		Kind:     "failed",
		Bank:     "front",
		Marks:    "P2 front, three stamps on the fin",
		Symptoms: []string{"stuck", "mended_lately"},
		Story:    "Valve stuck open when hot. Somebody fitted new guides in winter.",
		CameWith: "Rockers and pushrods in a bag",
	},
		steps: []step{measure(headfile.AsReceived, 0, map[string]string{
			"guide.bore 1E1": "7.976", "guide.bore 1E1.middle.A": "7.974", "guide.bore 1E1.middle.B": "7.973",
			"head.thickness T1": "84.55",
			"head.thickness T2": "84.54", "head.thickness T3": "84.57", "head.thickness T4": "84.56",
			"register.depth C1.front": "3.55",
			"register.depth C1.right": "3.66", "register.depth C1.back": "3.58", "register.depth C1.left": "3.62",
			"valve.recession 1E1": "-0.26",
		}),
			looked(headfile.AsReceived, map[string]map[string]string{
				"stem.condition":  {"*": "clean", "1E1": "transfer: bronze on the stem, half way up"},
				"guide.condition": {"*": "clean", "1E1": "scored"},
			}), marked([4]string{"stamp", "10", "116", "three facings stamped"})}},
	{
		model: "Pendrick 2A",
		ago:   59,
		due:   14,
		with:  409,
		form: intake.IntakeForm{
			Customer: "Hollin Light Railway",
			Machine:  "Inspection trolley",
			Hours:    "unknown",
			Kind:     "failed",
			Bank:     "rear",
			Marks:    "P2 rear",
			Story:    "The pair of the front one.",
			CameWith: "Bare",
		},
		steps: []step{measure(headfile.AsReceived, 0, map[string]string{
			"head.thickness T1": "84.21", "head.thickness T2": "84.18", "head.thickness T3": "84.24",
			"head.thickness T4":       "84.22",
			"register.depth C1.front": "3.94", "register.depth C1.right": "4.02", "register.depth C1.back": "3.97",
			"register.depth C1.left": "3.91",
			"face.line L1":           "0.06 0.08", "face.line L2": "0.08 0.10",
		}),
			marked([4]string{
				"crack", "69", "66", "seat to plug, powder shows it through to the port",
			}), decide(true, map[string]lead.Choice{"*mark.crack": {Choice: "scrap"}})},
	},
	{model: "Skarrow L1", ago: 20, due: 2, form: intake.IntakeForm{
		Customer: "Tarn Launch Club",
		Contact:  "boathouse",
		Machine:  "Launch 11",
		Hours:    "38",
		Kind:     "rules",
		Marks:    "L1-011",
		Story:    "Club scrutineering before the autumn regatta.",
		CameWith: "Complete, sealed",
	},
		steps: []step{
			measure(headfile.AsReceived, 0, map[string]string{
				"port.depth 1E2": "1.118", "head.thickness T3": "4.3305", "test.baseline H": "84",
				"test.vacuum 1I1": "82", "test.vacuum 1I2": "82.5",
				"test.vacuum 1E1": "81", "test.vacuum 1E2": "82",
			}),
		}},
	{model: "Torvane H160", ago: 34, due: 21, form: intake.IntakeForm{
		Customer: "Northern Railcars",
		Contact:  "depot stores",
		Machine:  "Car 3, cylinder 2",
		Hours:    "14200",
		Kind:     "rebuild",
		Bank:     "2",
		Marks:    "H160 cast 88/14",
		Symptoms: []string{"stood"},
		Story:    "Stood two winters. Valves and rotators came mixed in one box.",
		CameWith: "Four valves, four rotators, eight keepers, loose",
	},
		steps: []step{measure(
			headfile.AsReceived, 0, map[string]string{
				"seat.width 1E1": "5.1", "seat.room 1E1": "0.9", "seat.width 1E2": "4.2",
			},
		), looked(headfile.AsReceived, map[string]map[string]string{
			"stem.condition":    {"*": "clean", "1E1": "corroded: acid, from the port side", "1E2": "corroded"},
			"rotator.condition": {"*": "free", "1E1": "sticks"},
			"port.condition":    {"1I1": "dry", "1I2": "oily", "1E1": "carbon", "1E2": "dry"},
		}),
			placed("", map[string]string{
				"1I1/valve": "unknown", "1I2/valve": "unknown", "1E1/valve": "unknown", "1E2/valve": "unknown",
				"1I1/keepers": "unknown",
				"1I2/keepers": "unknown", "1E1/keepers": "unknown", "1E2/keepers": "unknown",
			})}},
	{model: "Brindlow G4", ago: 26, due: 7, form: intake.IntakeForm{
		Customer: "Lower Leat Water",
		Machine:  "Fire pump 2",
		Hours:    "402",
		Kind:     "failed",
		Marks:    "G4-2 0344",
		Symptoms: []string{"overspeed"},
		Story:    "Over-revved when the hose burst. Pops back into the intake since.",
		CameWith: "Complete",
	},
		steps: []step{
			measure(headfile.AsReceived, 0, map[string]string{
				"guide.bore 4E1.bottom.A": "9.032", "guide.bore 2E1.bottom.A": "9.032", "test.baseline H": "84",
				"test.vacuum 3I1.0":  "82",
				"test.vacuum 3I1.90": "70", "test.vacuum 3I1.180": "66", "test.vacuum 3I1.270": "81",
				"test.vacuum 3E1": "82", "test.vacuum 2I1": "82",
				"test.vacuum 2E1": "81.5", "test.drop 3I1": "-", "valve.runout 3I1": "0.11", "valve.runout 3E1": "0.01",
			}),
			looked(headfile.AsReceived, map[string]map[string]string{
				"stem.condition": {"*": "clean", "3I1": "bent"}, "seat.condition": {"*": "clean"},
			}),
		}},
	{model: "Ostrel 6D-24", ago: 46, due: 5, form: intake.IntakeForm{
		Customer: "High Pistes",
		Contact:  "workshop, ask for Bran",
		Machine:  "Groomer 4",
		Hours:    "11050",
		Kind:     "rebuild",
		Marks:    "6D 4390",
		Symptoms: []string{"floats"},
		Story:    "Second overhaul. Valve seats were cut last time as well. Floats at full speed.",
		CameWith: "Complete with pushrods",
	},
		steps: []step{measure(headfile.AsReceived, 0, map[string]string{
			"valve.recession 2E1": "1.71", "valve.recession 2E2": "1.68", "valve.recession 5E1": "1.66",
			"stem.height 2E1": "62.92",
			"stem.height 2E2": "62.86", "stem.height 5E1": "62.84", "lash 2E1": "0.02 0.04", "lash 2E2": "0.06 0.08",
			"lash 5E1":             "0.08 0.10",
			"spring.height 2E1":    "46.55",
			"spring.load_seat 3I1": "268", "spring.load_seat 4E2": "281", "spring.load_seat 6I2": "275",
			"seat.width 2E1": "3.1",
			"seat.width 5E1": "3.0", "valve.margin 4E1": "1.92",
		}), looked(headfile.AsReceived, map[string]map[string]string{
			"spring.condition": {"*": "sound", "3I1": "rubbed"},
			"valve.face":       {"*": "light_pits", "2E1": "heavy_pits", "5E1": "heavy_pits"},
			"seat.condition":   {"*": "light_pits", "2E1": "heavy_pits"},
		}), planned, quoted, ordered("Ostrel spring", "24", 260)}},
	{
		model:     "Velderan V8",
		ago:       130,
		due:       3,
		regulated: "emergency plant",
		form: intake.IntakeForm{
			Customer: "Valley Surgery",
			Contact:  "practice manager",
			Machine:  "Standby set",
			Hours:    "640",
			Kind:     "failed",
			Bank:     "left",
			Marks:    "VL 22 131",
			Symptoms: []string{"no_name", "low_compression"},
			Story:    "One cylinder dead after a cold start. New valves came with the head, in a plain box.",
			CameWith: "Complete, eight new valves without a name",
		},
		steps: []step{measure(headfile.AsReceived, 0,
			map[string]string{"valve.margin 1E1": "0.62", "seat.runout 1E1": "0.09"}), looked(
			headfile.AsReceived, map[string]map[string]string{
				"valve.face": {"*": "clean", "1E1": "burnt: a sector of ten degrees"},
			},
		), decide(true, nil), worked(3, false), placed("", map[string]string{"1E1/valve": "new"}),
			measure(headfile.AfterRepair, 0, map[string]string{"stem.dia 1E1": "5.991", "valve.margin 1E1": "1.42"})},
	},
	{model: "Ostrel 6D-24", ago: 9, due: 10, form: intake.IntakeForm{
		Customer: "Dale Plant Breakers",
		Contact:  "yard",
		Machine:  "off the shelf",
		Hours:    "unknown",
		Kind:     "core",
		Marks:    "6D 3802",
		Story:    "Offered as an exchange core.",
		CameWith: "Bare casting",
	},
		steps: []step{measure(headfile.AsReceived, 3, nil)}},
}
