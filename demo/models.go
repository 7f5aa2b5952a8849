package demo

import "yatai/shop/library"

// both gives the intake and the exhaust valves one limit.
func both(code string, l library.LimitEntry, into map[string]library.LimitEntry) {
	into[code+"/intake"], into[code+"/exhaust"] = l, l
}

// sheet joins lines for a role each with ones for both.
func sheet(rows, pairs map[string]library.LimitEntry) map[string]library.LimitEntry {
	for code, l := range pairs {
		both(code, l, rows)
	}
	return rows
}

// always names why a part is renewed whatever it measures.
func always(source string) library.LimitEntry { return library.LimitEntry{Source: source} }

type rows = map[string]library.LimitEntry

var alwaysRenewed = rows{
	"renew.seals/": always("shop practice"), "renew.keepers/": always("shop practice"),
	"renew.gasket/": always("shop practice"),
}

// models are the demo's head models. Engines, makers and documents are invented.
var models = []model{
	{
		form: library.ModelForm{
			Name:        "Brindlow G4",
			About:       "irrigation pump on dry gas, inline four",
			Material:    "iron",
			Drive:       "rocker",
			Unit:        "mm",
			Cylinders:   "4",
			Pattern:     "IE",
			Pitch:       "112",
			Bore:        "98",
			Width:       "164",
			IntakeHead:  "42.5",
			ExhaustHead: "38",
			Ignition:    "plug",
			Cooling:     "water",
			FirstAt:     "left",
		},
		limits: sheet(rows{
			"stem.dia/intake":  e("8.930", "", "0.005", "Brindlow sheet 2, line 11"),
			"stem.dia/exhaust": e("8.915", "", "0.005", "Brindlow sheet 2, line 12"),
			"guide.clearance/intake": e(
				"0.025", "0.080", "0.008", "Brindlow sheet 2, line 14",
			), "guide.clearance/exhaust": e("0.040", "0.095", "0.008", "Brindlow sheet 2, line 15"),
			"seat.width/intake":  e("1.2", "2.0", "0.1", "Brindlow sheet 3, line 2"),
			"seat.width/exhaust": e("1.4", "2.2", "0.1", "Brindlow sheet 3, line 3"),
			"valve.recession/intake": e(
				"0.40", "0.90", "0.05", "Brindlow sheet 3, line 7",
			), "valve.recession/exhaust": e("0.50", "1.00", "0.05", "Brindlow sheet 3, line 8"),
			"valve.margin/intake":  e("1.0", "", "0.1", "Brindlow sheet 2, line 17"),
			"valve.margin/exhaust": e("1.1", "", "0.1", "Brindlow sheet 2, line 18"),
			"head.thickness/": e(
				"98.20", "", "0.10", "Brindlow sheet 1, line 4",
			), "face.line/long": e(
				"", "0.08", "0.01", "Brindlow sheet 1, line 6",
			), "face.line/cross": e("", "0.05", "0.01", "Brindlow sheet 1, line 7"),
			"face.line/diagonal": e("", "0.08", "0.01", "Brindlow sheet 1, line 6"),
		}, rows{
			"seat.runout":   e("", "0.05", "0.01", "Brindlow sheet 3, line 5"),
			"stem.height":   e("45.90", "46.60", "0.05", "Brindlow sheet 3, line 9"),
			"spring.height": e("37.60", "38.80", "0.10", "Brindlow sheet 3, line 12"),
			"lash":          e("0.15", "0.40", "0.02", "Brindlow sheet 4, line 1"),
		}),
		target: sheet(rows{
			"guide.clearance/intake":  e("0.025", "0.055", "", "shop practice"),
			"guide.clearance/exhaust": e("0.055", "0.085", "", "shop practice"),
		}, rows{"seat.runout": e("", "0.03", "", "shop practice")}),
		fresh: rows{
			"stem.dia/intake":      e("8.952", "8.966", "", "Brindlow parts list"),
			"stem.dia/exhaust":     e("8.937", "8.951", "", "Brindlow parts list"),
			"valve.margin/intake":  e("1.4", "1.8", "", "Brindlow parts list"),
			"valve.margin/exhaust": e("1.6", "2.0", "", "Brindlow parts list"),
		},
		given: sheet(rows{
			"given.rocker_ratio/": g(
				"1.45", "Brindlow sheet 4, line 3",
			), "given.guide_length/": g(
				"52", "Brindlow sheet 2, line 10",
			), "given.rock_overhang/": g("24", "shop practice"), "given.top_angle/": g("30", "shop practice"),
			"given.bottom_angle/": g("60", "shop practice"),
			"given.insert_outer/intake": g(
				"46.0", "Brindlow sheet 3, line 14",
			), "given.insert_outer/exhaust": g(
				"42.0", "Brindlow sheet 3, line 14",
			), "given.new_margin/intake": g("1.6", "Brindlow parts list"),
			"given.new_margin/exhaust": g("1.8", "Brindlow parts list"),
			"given.insert_up/":         g("0.8", "shop practice"), "given.insert_down/": g("0.8", "shop practice"),
			"given.adjuster/": g(
				"0.80", "Brindlow sheet 4, line 4",
			), "given.tip_most/": g(
				"0.30", "Brindlow sheet 2, line 20",
			), "given.lift/intake": g("10.2", "Brindlow sheet 4, line 5"),
			"given.lift/exhaust": g("9.8", "Brindlow sheet 4, line 5"), "given.spring_solid/": g(
				"25.5", "Brindlow sheet 3, line 13",
			),
			"given.face_most/": g("0.40", "shop practice"), "given.face_allow/": g("0.03", "shop practice"),
			"given.bore/": g(
				"92", "Brindlow sheet 1, line 1",
			), "given.stroke/": g(
				"105", "Brindlow sheet 1, line 2",
			), "given.chamber/": g(
				"62.5", "Brindlow sheet 1, line 9",
			), "given.chamber_area/": g("5200", "measured here"),
			"given.piston/": g("4.0", "Brindlow sheet 1, line 10"), "given.gasket/": g(
				"1.40", "Brindlow sheet 1, line 11",
			), "given.gasket_bore/": g("94", "Brindlow sheet 1, line 11"),
			"given.deck/": g("0.10", "Brindlow sheet 1, line 12"),
		}, rows{
			"given.seat_angle": g("45", "Brindlow sheet 3, line 1"), "given.seat_clean": g("0.06", "shop practice"),
			"given.seat_most": g("0.40", "shop practice"), "given.valve_grind": g("0.10", "shop practice"),
		}),
		renew: alwaysRenewed,
	},
	{
		form: library.ModelForm{
			Name:        "Velderan V8",
			About:       "standby generator, one bank of a V8",
			Material:    "aluminium",
			Drive:       "bucket",
			Unit:        "mm",
			Cylinders:   "4",
			Pattern:     "IIEE",
			Pitch:       "104",
			Bore:        "90",
			Width:       "152",
			IntakeHead:  "33",
			ExhaustHead: "29",
			Ignition:    "plug",
			Cooling:     "water",
			FirstAt:     "left",
		},
		limits: sheet(rows{
			"stem.dia/intake":  e("5.965", "", "0.003", "Velderan bench book, page 31"),
			"stem.dia/exhaust": e("5.955", "", "0.003", "Velderan bench book, page 31"),
			"guide.clearance/intake": e(
				"0.018", "0.050", "0.005", "Velderan bench book, page 31",
			), "guide.clearance/exhaust": e("0.028", "0.062", "0.005", "Velderan bench book, page 31"),
			"seat.width/intake":    e("1.0", "1.6", "0.1", "Velderan bench book, page 33"),
			"seat.width/exhaust":   e("1.2", "1.8", "0.1", "Velderan bench book, page 33"),
			"valve.margin/intake":  e("0.8", "", "0.1", "Velderan bench book, page 32"),
			"valve.margin/exhaust": e("0.9", "", "0.1", "Velderan bench book, page 32"),
			"lash/intake":          e("0.15", "0.25", "0.01", "Velderan bench book, page 36"),
			"lash/exhaust":         e("0.25", "0.35", "0.01", "Velderan bench book, page 36"),
			"head.thickness/": e(
				"132.60", "", "0.05", "Velderan bench book, page 30",
			), "face.line/long": e(
				"", "0.06", "0.01", "Velderan bench book, page 30",
			), "face.line/cross": e(
				"", "0.04", "0.01", "Velderan bench book, page 30",
			), "face.line/diagonal": e("", "0.06", "0.01", "Velderan bench book, page 30"),
			"face.flatness/": e("", "0.06", "0.01", "Velderan bench book, page 30"),
		}, rows{
			"seat.runout":      e("", "0.04", "0.01", "Velderan bench book, page 33"),
			"stem.height":      e("38.40", "38.95", "0.05", "Velderan bench book, page 34"),
			"valve.recession":  e("0.00", "0.50", "0.03", "Velderan bench book, page 34"),
			"spring.height":    e("33.40", "34.60", "0.10", "Velderan bench book, page 35"),
			"shim.size":        e("2.20", "3.10", "", "Velderan bench book, page 36"),
			"spring.load_seat": e("170", "215", "5", "Velderan bench book, page 35"),
			"spring.spread":    e("", "22", "2", "shop practice"),
		}),
		fresh: rows{"stem.dia/intake": e("5.974", "5.986", "",
			"Velderan parts list"), "stem.dia/exhaust": e("5.964", "5.976", "", "Velderan parts list")},
		given: sheet(rows{
			"given.guide_length/": g(
				"38", "Velderan bench book, page 31",
			), "given.rock_overhang/": g(
				"18", "shop practice",
			), "given.top_angle/": g("30", "shop practice"), "given.bottom_angle/": g("60", "shop practice"),
			"given.insert_outer/intake": g(
				"36.0", "Velderan bench book, page 33",
			), "given.insert_outer/exhaust": g("32.0", "Velderan bench book, page 33"),
			"given.new_margin/intake": g(
				"1.3", "Velderan parts list",
			), "given.new_margin/exhaust": g(
				"1.4", "Velderan parts list",
			), "given.insert_up/": g("0.5", "shop practice"), "given.insert_down/": g("0.5", "shop practice"),
			"given.target_load/": g(
				"190", "Velderan bench book, page 35",
			), "given.tip_most/": g("0", "Velderan bench book, page 32"), "given.spring_solid/": g(
				"22.0", "Velderan bench book, page 35",
			),
			"given.face_most/": g(
				"0.20", "Velderan bench book, page 30",
			), "given.face_allow/": g("0.02", "shop practice"), "given.bore/": g(
				"84", "Velderan bench book, page 2",
			), "given.stroke/": g("88", "Velderan bench book, page 2"), "given.chamber/": g(
				"46.0", "Velderan bench book, page 30",
			), "given.chamber_area/": g("4300", "measured here"),
			"given.piston/": g("-1.5", "Velderan bench book, page 2"), "given.gasket/": g(
				"0.90", "Velderan bench book, page 30",
			), "given.gasket_bore/": g("86", "Velderan bench book, page 30"),
			"given.deck/": g("0.20", "Velderan bench book, page 2"),
		}, rows{
			"given.seat_angle": g("45", "Velderan bench book, page 33"),
			"given.seat_clean": g("0.04", "shop practice"),
			"given.seat_most":  g("0.25", "shop practice"), "given.valve_grind": g("0.08", "shop practice"),
			"given.lift": g("9.4", "Velderan bench book, page 36"),
		}),
		tightening: map[string]library.TighteningRow{
			"cam_caps": {Count: "10", Steps: "8 Nm; 20 Nm", How: "oiled", Source: "Velderan bench book, page 41"},
			"head_bolts": {
				Count: "10", Steps: "30 Nm; 60 Nm; wait 10 min; 90 deg; 90 deg", How: "oiled", New: "yes",
				Source: "Velderan bench book, page 12",
			},
		},
		renew:     alwaysRenewed,
		confirmed: true,
	},
	{form: library.ModelForm{
		Name:        "Ostrel 6D-24",
		About:       "snow groomer diesel, inline six, 24 valves with bridges",
		Material:    "iron",
		Drive:       "rocker",
		Unit:        "mm",
		Cylinders:   "6",
		Pattern:     "IIEE",
		Pitch:       "128",
		Bore:        "110",
		Width:       "186",
		IntakeHead:  "38",
		ExhaustHead: "35.5",
		Ignition:    "injector",
		Cooling:     "water",
		FirstAt:     "left",
	},
		limits: sheet(rows{
			"stem.dia/intake":    e("7.935", "", "0.004", "Ostrel overhaul data, table 7"),
			"stem.dia/exhaust":   e("7.920", "", "0.004", "Ostrel overhaul data, table 7"),
			"seat.width/intake":  e("1.6", "2.6", "0.1", "Ostrel overhaul data, table 9"),
			"seat.width/exhaust": e("1.8", "2.8", "0.1", "Ostrel overhaul data, table 9"),
			"valve.recession/intake": e(
				"0.90", "1.50", "0.05", "Ostrel overhaul data, table 8",
			), "valve.recession/exhaust": e("1.00", "1.60", "0.05", "Ostrel overhaul data, table 8"),
			"valve.margin/intake":  e("1.6", "", "0.1", "Ostrel overhaul data, table 7"),
			"valve.margin/exhaust": e("1.8", "", "0.1", "Ostrel overhaul data, table 7"),
			"head.thickness/": e(
				"109.70", "", "0.10", "Ostrel overhaul data, table 6",
			), "face.line/long": e(
				"", "0.10", "0.01", "Ostrel overhaul data, table 6",
			), "face.line/cross": e("", "0.05", "0.01", "Ostrel overhaul data, table 6"),
			"face.line/diagonal":   e("", "0.10", "0.01", "Ostrel overhaul data, table 6"),
			"injector.protrusion/": e("2.00", "2.60", "0.05", "Ostrel overhaul data, table 10"),
		}, rows{
			"seat.runout":      e("", "0.06", "0.01", "Ostrel overhaul data, table 9"),
			"stem.height":      e("61.60", "62.80", "0.05", "Ostrel overhaul data, table 8"),
			"spring.height":    e("45.00", "46.60", "0.10", "Ostrel overhaul data, table 11"),
			"spring.load_seat": e("300", "360", "10", "Ostrel overhaul data, table 11"),
			"spring.load_open": e("560", "680", "10", "Ostrel overhaul data, table 11"),
			"spring.spread":    e("", "40", "4", "shop practice"),
			"lash":             e("0.30", "0.55", "0.02", "Ostrel overhaul data, table 12"),
			"pushrod.length":   e("268.00", "272.00", "", "Ostrel parts list"),
		}),
		fresh: sheet(
			rows{"head.thickness/": e("110.00", "110.20", "0.01", "Ostrel drawing 6D-100")},
			rows{"guide.clearance": e("0.030", "0.060", "0.003", "Ostrel drawing 6D-112")},
		),
		given: sheet(rows{
			"given.rocker_ratio/": g(
				"1.6", "Ostrel overhaul data, table 12",
			), "given.guide_length/": g(
				"56", "Ostrel overhaul data, table 7",
			), "given.rock_overhang/": g(
				"26", "shop practice",
			), "given.top_angle/": g("30", "shop practice"), "given.bottom_angle/": g("60", "shop practice"),
			"given.insert_outer/intake": g(
				"42.0", "Ostrel overhaul data, table 9",
			), "given.insert_outer/exhaust": g("39.5", "Ostrel overhaul data, table 9"),
			"given.new_margin/intake": g(
				"2.3", "Ostrel parts list",
			), "given.new_margin/exhaust": g(
				"2.6", "Ostrel parts list",
			), "given.insert_up/": g("0.9", "shop practice"), "given.insert_down/": g("0.6", "shop practice"),
			"given.adjuster/": g(
				"0.10", "Ostrel overhaul data, table 12",
			), "given.target_load/": g("330", "Ostrel overhaul data, table 11"),
			"given.tip_most/": g("0.40", "Ostrel overhaul data, table 7"), "given.spring_solid/": g(
				"30.5", "Ostrel overhaul data, table 11",
			),
			"given.face_most/": g("0.30", "shop practice"), "given.face_allow/": g("0.03", "shop practice"),
			"given.bore/": g(
				"104", "Ostrel overhaul data, table 1",
			), "given.stroke/": g(
				"128", "Ostrel overhaul data, table 1",
			), "given.chamber/": g(
				"6.4", "Ostrel overhaul data, table 6",
			), "given.chamber_area/": g("400", "measured here"),
			"given.piston/": g("54", "Ostrel overhaul data, table 1"), "given.gasket/": g(
				"1.20", "Ostrel overhaul data, table 6",
			), "given.gasket_bore/": g("106", "Ostrel overhaul data, table 6"), "given.deck/": g(
				"-0.30", "Ostrel overhaul data, table 1",
			),
		}, rows{
			"given.seat_angle": g("45", "Ostrel overhaul data, table 9"),
			"given.seat_clean": g("0.06", "shop practice"),
			"given.seat_most":  g("0.35", "shop practice"), "given.valve_grind": g("0.10", "shop practice"),
			"given.lift": g("11.4", "Ostrel overhaul data, table 12"),
		}),
		renew: alwaysRenewed},
	{form: library.ModelForm{
		Name:        "Pendrick 2A",
		About:       "light-railway trolley, one of two air-cooled heads",
		Material:    "aluminium",
		Drive:       "rocker",
		Unit:        "mm",
		Cylinders:   "1",
		Pattern:     "IE",
		Pitch:       "118",
		Bore:        "82",
		Width:       "124",
		IntakeHead:  "36",
		ExhaustHead: "33",
		Ignition:    "plug",
		Cooling:     "air",
		FirstAt:     "left",
	},
		limits: sheet(rows{
			"stem.dia/intake": e(
				"7.940", "", "0.004", "Pendrick folder, leaf 9",
			), "stem.dia/exhaust": e(
				"7.930", "", "0.004", "Pendrick folder, leaf 9",
			), "head.thickness/": e("84.50", "", "0.10", "Pendrick folder, leaf 6"), "register.depth/": e(
				"3.00", "3.60", "0.05", "Pendrick folder, leaf 6; discard above 3.90",
			),
			"face.line/long": e(
				"", "0.05", "0.01", "Pendrick folder, leaf 6",
			), "face.line/cross": e("", "0.05", "0.01", "Pendrick folder, leaf 6"),
			"face.line/diagonal": e("", "0.05", "0.01", "Pendrick folder, leaf 6"),
		}, rows{
			"seat.width":      e("1.2", "2.0", "0.1", "Pendrick folder, leaf 10"),
			"seat.runout":     e("", "0.05", "0.01", "Pendrick folder, leaf 10"),
			"valve.recession": e("-0.20", "1.20", "0.05", "Pendrick folder, leaf 10"),
			"stem.height":     e("41.00", "42.20", "0.05", "Pendrick folder, leaf 11"),
			"valve.margin":    e("1.0", "", "0.1", "Pendrick folder, leaf 9"),
			"spring.height":   e("35.00", "36.40", "0.10", "Pendrick folder, leaf 11"),
		}),
		given: sheet(rows{
			"given.rocker_ratio/": g("1.2", "measured here"), "given.guide_length/": g("46", "measured here"),
			"given.rock_overhang/": g("20", "shop practice"), "given.top_angle/": g("30", "shop practice"),
			"given.bottom_angle/": g("60", "shop practice"), "given.insert_up/": g("0.8", "shop practice"),
			"given.tip_most/": g("0.25", "shop practice"), "given.face_most/": g("0.15", "shop practice"),
			"given.face_allow/": g("0.02", "shop practice"),
		},
			rows{
				"given.seat_angle": g("45", "Pendrick folder, leaf 10"), "given.seat_clean": g("0.06", "shop practice"),
				"given.seat_most": g("0.40", "shop practice"), "given.valve_grind": g("0.10", "shop practice"),
				"given.new_margin": g("1.6", "shop practice"), "given.insert_outer": g("40", "measured here"),
			}),
		renew: alwaysRenewed},
	{form: library.ModelForm{
		Name:        "Skarrow L1",
		About:       "one-cylinder racing launch, class rule",
		Material:    "aluminium",
		Drive:       "bucket",
		Unit:        "in",
		Cylinders:   "1",
		Pattern:     "IIEE",
		Pitch:       "4.6",
		Bore:        "3.5",
		Width:       "5.2",
		IntakeHead:  "1.26",
		ExhaustHead: "1.10",
		Ignition:    "plug",
		Cooling:     "water",
		FirstAt:     "left",
	},
		limits: sheet(rows{
			"head.thickness/":    e("4.300", "", "0.005", "Skarrow owner's notes"),
			"face.line/long":     e("", "0.002", "0.0005", "Skarrow owner's notes"),
			"face.line/cross":    e("", "0.002", "0.0005", "Skarrow owner's notes"),
			"face.line/diagonal": e("", "0.002", "0.0005", "Skarrow owner's notes"),
			"chamber.volume/":    e("26.0", "30.0", "0.3", "Skarrow owner's notes"),
		},
			rows{
				"stem.dia":        e("0.2160", "", "0.0002", "Skarrow owner's notes"),
				"seat.width":      e("0.035", "0.060", "0.004", "Skarrow owner's notes"),
				"seat.runout":     e("", "0.0015", "0.0004", "Skarrow owner's notes"),
				"valve.recession": e("0.000", "0.025", "0.001", "Skarrow owner's notes"),
				"stem.height":     e("1.480", "1.510", "0.002", "Skarrow owner's notes"),
				"valve.margin":    e("0.030", "", "0.004", "Skarrow owner's notes"),
				"port.depth":      e("1.10", "", "0.005", "Skarrow owner's notes"),
				"guide.depth":     e("1.60", "", "0.005", "Skarrow owner's notes"),
			}),
		class: sheet(
			rows{"head.thickness/": e("4.330", "", "0.002",
				"launch class rule 7.2"), "chamber.volume/": e("27.5", "", "0.2", "launch class rule 7.4")},
			rows{"port.depth": e("1.120", "", "0.002",
				"launch class rule 7.6"), "guide.depth": e("1.625", "", "0.002", "launch class rule 7.6")},
		),
		given: sheet(
			rows{
				"given.face_most/": g("0.006", "shop practice"), "given.face_allow/": g("0.001", "shop practice"),
				"given.top_angle/": g("30", "shop practice"), "given.bottom_angle/": g("60", "shop practice"),
			},
			rows{
				"given.seat_angle": g("45", "Skarrow owner's notes"),
				"given.seat_clean": g("0.002", "shop practice"), "given.seat_most": g("0.010", "shop practice"),
			},
		),
		renew: alwaysRenewed},
	{form: library.ModelForm{
		Name:        "Torvane H160",
		About:       "railcar, single-cylinder head with rotators, 160 bore",
		Material:    "iron",
		Drive:       "rocker",
		Unit:        "mm",
		Cylinders:   "1",
		Pattern:     "IIEE",
		Pitch:       "232",
		Bore:        "166",
		Width:       "260",
		IntakeHead:  "54",
		ExhaustHead: "50",
		Ignition:    "injector",
		Cooling:     "water",
		FirstAt:     "left",
	},
		limits: sheet(rows{
			"head.thickness/":      e("168.50", "", "0.20", "Torvane works standard 12"),
			"face.line/long":       e("", "0.05", "0.01", "Torvane works standard 12"),
			"face.line/cross":      e("", "0.05", "0.01", "Torvane works standard 12"),
			"face.line/diagonal":   e("", "0.05", "0.01", "Torvane works standard 12"),
			"injector.protrusion/": e("4.20", "5.00", "0.10", "Torvane works standard 15"),
		},
			rows{
				"stem.dia":        e("11.920", "", "0.006", "Torvane works standard 13"),
				"guide.clearance": e("0.060", "0.150", "0.010", "Torvane works standard 13"),
				"seat.width":      e("3.0", "4.5", "0.2", "Torvane works standard 14"),
				"seat.runout":     e("", "0.06", "0.01", "Torvane works standard 14"),
				"valve.recession": e("1.50", "3.20", "0.10", "Torvane works standard 14"),
				"stem.height":     e("88.00", "90.50", "0.10", "Torvane works standard 14"),
				"valve.margin":    e("3.0", "", "0.2", "Torvane works standard 13"),
				"spring.height":   e("62.00", "65.00", "0.20", "Torvane works standard 16"),
				"seat.room":       e("0.8", "", "0.2", "shop practice"),
			}),
		given: sheet(rows{
			"given.rocker_ratio/":  g("1.3", "Torvane works standard 17"),
			"given.guide_length/":  g("110", "Torvane works standard 13"),
			"given.rock_overhang/": g("40", "shop practice"), "given.top_angle/": g("20", "shop practice"),
			"given.bottom_angle/": g("60", "shop practice"), "given.insert_up/": g("2.0", "shop practice"),
			"given.tip_most/": g("0.50", "Torvane works standard 13"), "given.face_most/": g("0.50", "shop practice"),
			"given.face_allow/":   g("0.05", "shop practice"),
			"given.spring_solid/": g("42", "Torvane works standard 16"),
		},
			rows{
				"given.seat_angle": g("30", "Torvane works standard 14"), "given.seat_clean": g("0.10", "shop practice"),
				"given.seat_most": g("0.80", "shop practice"), "given.valve_grind": g("0.15", "shop practice"),
				"given.new_margin":   g("4.5", "Torvane parts list"),
				"given.insert_outer": g("60", "Torvane works standard 14"),
				"given.lift":         g("16.5", "Torvane works standard 17"),
			}),
		renew: rows{
			"renew.seals/": always("shop practice"), "renew.keepers/": always("shop practice"),
			"renew.rotators/": always("Torvane works standard 16"), "renew.gasket/": always("shop practice"),
		}},
}

// figure is what a sound part usually measures, in its sheet's unit: base and scatter above it.
type figure struct {
	intake, exhaust, scatter float64
	places                   int
}

var usualFigures = map[string]map[string]figure{
	"Brindlow G4": {
		"guide.bore": {
			9.006, 9.012, 0.006, 3,
		}, "stem.dia": {8.958, 8.945, 0.006, 3}, "seat.width": {1.5, 1.7, 0.15, 2},
		"seat.runout": {0.015, 0, 0.012, 3}, "valve.recession": {0.58, 0.70, 0.1, 2},
		"stem.height": {
			46.10, 46.12, 0.2, 2,
		}, "valve.margin": {1.35, 1.5, 0.15, 2}, "head.thickness": {98.61, 0, 0.03, 3},
		"spring.height": {38.0, 0, 0.3, 2}, "lash": {0.22, 0.24, 0.06, 2},
	},
	"Velderan V8": {
		"guide.bore": {
			6.010, 6.012, 0.004, 3,
		}, "stem.dia": {5.978, 5.970, 0.004, 3}, "seat.width": {1.22, 1.42, 0.12, 2},
		"seat.runout": {0.01, 0, 0.01, 3}, "valve.recession": {0.2, 0.2, 0.1, 2},
		"stem.height": {
			38.55, 38.57, 0.2, 2,
		}, "valve.margin": {1.1, 1.2, 0.12, 2}, "head.thickness": {
			132.86, 0, 0.03, 3,
		}, "spring.height": {33.8, 0, 0.4, 2}, "spring.load_seat": {188, 0, 8, 0},
		"shim.size": {2.60, 2.55, 0.2, 2}, "lash": {
			0.16, 0.27, 0.05, 2,
		}, "face.grid": {0, 0, 0.012, 3},
	},
	"Ostrel 6D-24": {
		"guide.bore": {
			8.004, 8.010, 0.005, 3,
		}, "stem.dia": {7.962, 7.950, 0.006, 3}, "seat.width": {1.95, 2.15, 0.2, 2},
		"seat.runout": {0.018, 0, 0.015, 3}, "valve.recession": {1.1, 1.2, 0.15, 2},
		"stem.height": {
			62.1, 62.1, 0.2, 2,
		}, "valve.margin": {2.1, 2.4, 0.2, 2}, "head.thickness": {
			110.05, 0, 0.04, 3,
		}, "spring.height": {
			45.6, 0, 0.4, 2,
		}, "spring.load_seat": {322, 0, 14, 0}, "spring.load_open": {608, 0, 20, 0}, "lash": {0.36, 0, 0.1, 2},
		"pushrod.length": {
			270.4, 0, 0.1, 2,
		}, "injector.protrusion": {2.2, 0, 0.2, 2},
	},
	"Pendrick 2A": {
		"guide.bore": {
			8.000, 8.006, 0.004, 3,
		}, "stem.dia": {
			7.962, 7.955, 0.004, 3,
		}, "seat.width": {1.5, 1.6, 0.1, 2}, "seat.runout": {0.015, 0, 0.01, 3},
		"valve.recession": {0.4, 0.5, 0.1, 2}, "stem.height": {
			41.5, 41.5, 0.2, 2,
		}, "valve.margin": {1.4, 1.5, 0.1, 2}, "head.thickness": {85.6, 0, 0.05, 3},
		"register.depth": {3.2, 0, 0.03, 2}, "spring.height": {35.6, 0, 0.3, 2},
	},
	"Skarrow L1": {
		"guide.bore": {
			0.2182, 0.2184, 0.0001, 4,
		}, "stem.dia": {
			0.2168, 0.2165, 0.0001, 4,
		}, "seat.width": {
			0.045, 0.048, 0.004, 3,
		}, "seat.runout": {0.0005, 0, 0.0004, 4}, "valve.recession": {
			0.010, 0.012, 0.003, 3,
		}, "stem.height": {1.492, 0, 0.004, 3}, "valve.margin": {
			0.042, 0.045, 0.004, 3,
		}, "head.thickness": {4.338, 0, 0.002, 4}, "chamber.volume": {28.2, 0, 0.2, 1},
		"port.depth": {1.132, 0, 0.004, 3}, "guide.depth": {1.640, 0, 0.004, 3},
	},
	"Torvane H160": {
		"guide.bore": {
			12.030, 12.040, 0.01, 3,
		}, "stem.dia": {
			11.950, 11.945, 0.01, 3,
		}, "seat.width": {3.5, 3.7, 0.3, 2}, "seat.runout": {0.02, 0, 0.015, 3},
		"valve.recession": {2.2, 2.4, 0.2, 2}, "stem.height": {
			89.0, 89.1, 0.4, 2,
		}, "valve.margin": {4.0, 4.2, 0.2, 2}, "head.thickness": {
			169.4, 0, 0.06, 3,
		}, "spring.height": {63.4, 0, 0.6, 2}, "seat.room": {1.6, 1.5, 0.3, 2},
		"injector.protrusion": {4.6, 0, 0.1, 2},
	},
}

// stocked is what lies on the demo's shelves.
var stocked = []struct {
	kind, name, size, model, role, price string
	count, least                         int
}{
	{"valve", "Brindlow valve, intake", "", "Brindlow G4", "intake", "31.00", 4, 2}, {
		"valve", "Brindlow valve, exhaust", "", "Brindlow G4", "exhaust", "36.50", 2, 4,
	}, {"guide", "Brindlow guide", "", "Brindlow G4", "", "14.20", 9, 8}, {
		"insert", "Brindlow insert, exhaust, hard", "", "Brindlow G4", "exhaust", "22.00", 3, 4,
	}, {"insert", "Brindlow insert, intake", "", "Brindlow G4", "intake", "19.50", 4, 2},
	{"valve", "Velderan valve, intake", "", "Velderan V8", "intake", "42.00", 0, 2}, {
		"valve", "Velderan valve, exhaust", "", "Velderan V8", "exhaust", "48.00", 8, 2,
	}, {"guide", "Velderan guide", "", "Velderan V8", "", "16.80", 6, 4}, {
		"insert", "Velderan insert, exhaust", "", "Velderan V8", "exhaust", "24.00", 2, 2,
	},
	{"valve", "Ostrel valve, intake", "", "Ostrel 6D-24", "intake", "29.00", 6, 4}, {
		"valve", "Ostrel valve, exhaust", "", "Ostrel 6D-24", "exhaust", "33.00", 3, 4,
	}, {
		"insert", "Ostrel insert, exhaust", "", "Ostrel 6D-24", "exhaust", "21.00", 6, 6,
	}, {"spring", "Ostrel spring", "", "Ostrel 6D-24", "", "8.60", 10, 24},
	{
		"pushrod", "Ostrel pushrod 270.40", "270.40", "Ostrel 6D-24", "", "21.00", 4, 2,
	}, {
		"pushrod", "Ostrel pushrod 270.60", "270.60", "Ostrel 6D-24", "", "21.00", 8, 2,
	}, {"pushrod", "Ostrel pushrod 270.80", "270.80", "Ostrel 6D-24", "", "21.00", 6, 2},
	{"valve", "Torvane valve, exhaust", "", "Torvane H160", "exhaust", "164.00", 1, 2},
	{"rotator", "Torvane rotator", "", "Torvane H160", "", "74.00", 5, 4},
	{
		"spring shim", "Spring shim 0.40", "0.40", "", "", "0.80", 40, 20,
	}, {
		"spring shim", "Spring shim 0.80", "0.80", "", "", "0.90", 26, 20,
	}, {
		"seal", "Stem seal 8 mm", "8.00", "", "", "1.90", 64, 48,
	}, {
		"seal", "Stem seal 6 mm", "6.00", "", "", "1.70", 10, 48,
	}, {"seal", "Stem seal 9 mm", "9.00", "", "", "1.90", 40, 24},
	{"seal", "Stem seal 12 mm", "12.00", "", "", "4.20", 8, 4}, {
		"seal", "Stem seal 5.5 mm", "5.50", "", "", "2.10", 12, 4,
	}, {"keepers", "Keepers, pair", "", "", "", "2.20", 120, 24}, {
		"gasket", "Head gasket, made to order", "", "", "", "72.00", 1, 1,
	},
	{"gasket", "Brindlow gasket, two notches", "1.40", "Brindlow G4", "", "58.00", 2, 1}, {
		"gasket", "Brindlow gasket, three notches", "1.55", "Brindlow G4", "", "61.00", 1, 1,
	}, {"gasket", "Brindlow gasket, four notches", "1.70", "Brindlow G4", "", "64.00", 0, 0},
	{
		"exchange head", "Brindlow G4 exchange head, ready", "", "Brindlow G4", "", "1180.00", 0, 0,
	}, {"used head", "Brindlow G4 used core", "", "Brindlow G4", "", "360.00", 1, 0}, {
		"exchange head", "Ostrel 6D-24 exchange head, ready", "", "Ostrel 6D-24", "", "2350.00", 0, 0,
	}, {"used head", "Pendrick 2A used core", "", "Pendrick 2A", "", "420.00", 1, 0},
}
