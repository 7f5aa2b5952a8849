package judge_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// change makes a healthy head into a case of a rule.
type change func(*headtest.Head)

func made(v trade.Valve) change {
	return func(h *headtest.Head) { h.Model.Valves[layout.Exhaust] = v }
}

func seen(part, grade string) change { return func(h *headtest.Head) { h.See(part, "1E1", grade) } }

func read(code string, at ...string) change { return func(h *headtest.Head) { h.Read(code, at...) } }

func limit(key, low, high string) change { return func(h *headtest.Head) { h.Limit(key, low, high) } }

func figure(key, text string) change { return func(h *headtest.Head) { h.Figure(key, text) } }

// bored reads the exhaust's guide and stem at all their places.
func bored(bore, stem string) change {
	return func(h *headtest.Head) {
		for _, p := range []string{"top", "middle", "bottom"} {
			h.Read("guide.bore", "1E1."+p+".A "+bore, "1E1."+p+".B "+bore).Read("stem.dia", "1E1."+p+" "+stem)
		}
	}
}

func drive(d string) change { return func(h *headtest.Head) { h.Model.Kind.Drive = d } }

func airCooled(h *headtest.Head) { h.Model.Kind.Cooling = "air" }

func all(changes ...change) change {
	return func(h *headtest.Head) {
		for _, c := range changes {
			c(h)
		}
	}
}

// Findings that rules are asked about.
var (
	pits   = seen("valve.face", "light_pits")
	heavy  = seen("valve.face", "heavy_pits")
	gaps   = seen("seat.condition", "gaps")
	margin = func(is, least string) change {
		return all(limit("valve.margin/exhaust", least, ""), read("valve.margin", "1E1 "+is),
			figure("valve_grind/exhaust", "0.10"))
	}
	width = func(is string) change {
		return all(limit("seat.width/exhaust", "1.2", "2.2"), read("seat.width", "1E1 "+is))
	}
	high = func(is string) change {
		return all(limit("stem.height/exhaust", "45.9", "46.6"), read("stem.height", "1E1 "+is))
	}
	play = limit("guide.clearance/exhaust", "0.04", "0.095")
)

// TestEachRuleOfTheTrade is a truth table: one row a case, each boundary and each clause alone. Readings
// have a doubt of 0.002 mm.
func TestEachRuleOfTheTrade(t *testing.T) {
	for _, c := range []struct {
		name, finding, repair string
		is                    change
		allowed               bool
		why                   string
	}{
		{"steel is lapped", "valve.face@1E1", "lap", pits, true, ""},
		{"titanium is not", "valve.face@1E1", "lap", all(pits,
			made(trade.Valve{Material: "titanium"})), false, "titanium valves are never lapped"},
		{"nor is a coat", "valve.face@1E1", "lap", all(pits,
			made(trade.Valve{Material: "steel", Coated: true})), false, "coated"},
		{"nor a hollow stem", "valve.face@1E1", "lap", all(pits,
			made(trade.Valve{Material: "steel", Hollow: true})), false, "hollow"},
		{"austenitic is", "valve.face@1E1", "lap", all(pits, made(trade.Valve{Material: "austenitic"})), true, ""},
		{"pits a nail catches are not", "valve.face@1E1", "lap", heavy, false, "ground, not lapped"},
		{"a dished face is not", "valve.face@1E1", "lap", seen("valve.face", "dished"), false, "ground, not lapped"},
		{"a burnt one is not", "valve.face@1E1", "lap", seen("valve.face", "burnt"), false, "renewed"},
		{"a bent valve is not", "valve.face@1E1", "lap", all(pits, seen("stem.condition", "bent")), false, "bent"},
		{
			"one that runs out is not", "valve.face@1E1", "lap", all(pits, read("valve.runout", "1E1 0.060")), false,
			"the valve runs out",
		},
		{"one that runs out little is", "valve.face@1E1", "lap", all(pits, read("valve.runout", "1E1 0.052")), true, ""},
		{"gaps in a ring are lapped", "seat.condition@1E1", "lap", gaps, true, ""},
		{
			"pits that break it are not", "seat.condition@1E1", "lap", seen("seat.condition", "heavy_pits"), false,
			"cut, not lapped",
		},
		{"a sunk seat is not", "seat.condition@1E1", "lap", seen("seat.condition", "sunk"), false, "not lapped"},
		{
			"a seat that runs out is not", "seat.condition@1E1", "lap",
			all(gaps, limit("seat.runout/exhaust", "", "0.05"), read("seat.runout", "1E1 0.053")),
			false, "runs out",
		},
		{
			"one that may run out is", "seat.condition@1E1", "lap",
			all(gaps, limit("seat.runout/exhaust", "", "0.05"), read("seat.runout", "1E1 0.052")),
			true, "",
		},
		{"a tenth too wide is lapped", "seat.width@1E1", "lap", width("2.30"), true, ""},
		{"more is not", "seat.width@1E1", "lap", width("2.301"), false, "too wide"},
		{
			"a ring that did not fill is not lapped on", "seat.condition@1E1", "lap",
			all(gaps, read("lap.ring", "1E1 -"), read("lap.log", "1E1.coarse 4")),
			false, "not full after 4 passes",
		},
		{"one that filled may be", "seat.condition@1E1", "lap", all(gaps, read("lap.ring", "1E1 +"),
			read("lap.log", "1E1.coarse 4")), true, ""},

		{"steel is ground", "valve.face@1E1", "valve_grind", heavy, true, ""},
		{"its margin is read first", "valve.face@1E1", "valve_grind", all(heavy,
			limit("valve.margin/exhaust", "1.1", "")), true, "the margin was not read"},
		{"titanium is not", "valve.face@1E1", "valve_grind", all(heavy,
			made(trade.Valve{Material: "titanium"})), false, "titanium"},
		{"a coat is not", "valve.face@1E1", "valve_grind", all(heavy,
			made(trade.Valve{Material: "steel", Coated: true})), false, "coated"},
		{
			"a hollow valve is not", "valve.face@1E1", "valve_grind",
			all(heavy, made(trade.Valve{Material: "steel", Hollow: true})),
			false, "hollow valves are never cut",
		},
		{"a cracked one is not", "valve.face@1E1", "valve_grind", seen("valve.face", "cracked"), false, "renewed"},
		{"a bent one is not", "valve.face@1E1", "valve_grind", all(heavy, seen("stem.condition", "bent")), false, "renewed"},
		{
			"one with transfer is not", "valve.face@1E1", "valve_grind", all(heavy, seen("stem.condition", "transfer")),
			false, "renewed",
		},
		{"its margin stays with its doubt", "valve.face@1E1", "valve_grind", all(heavy, margin("1.202", "1.1")), true, ""},
		{"or it is not", "valve.face@1E1", "valve_grind", all(heavy, margin("1.2019", "1.1")), false, "1.1 mm is the least"},
		{
			"what refacing takes out of a runout", "valve.face@1E1", "valve_grind",
			all(heavy, read("valve.runout", "1E1 0.05")), true, "",
		},
		{
			"and what it does not", "valve.face@1E1", "valve_grind", all(heavy, read("valve.runout", "1E1 0.051")),
			false, "the valve is bent",
		},

		{"a loose insert is not cut", "seat.condition@1E1", "seat_cut", seen("seat.condition", "loose"), false, "renewed"},
		{"a burnt one is", "seat.condition@1E1", "seat_cut", seen("seat.condition", "burnt"), true, ""},
		{
			"no room, no cut", "seat.condition@1E1", "seat_cut",
			all(gaps, limit("seat.room/exhaust", "0.5", ""), read("seat.room", "1E1 0.499")),
			false, "is the least",
		},
		{"room, a cut", "seat.condition@1E1", "seat_cut", all(gaps, limit("seat.room/exhaust", "0.5", ""),
			read("seat.room", "1E1 0.5")), true, ""},
		{
			"not past its depth", "seat.condition@1E1", "seat_cut",
			all(gaps, limit("valve.recession/exhaust", "0.5", "1.0"), figure("seat_clean/exhaust", "0.06"),
				read("valve.recession", "1E1 0.941")),
			false, "would sink the valve",
		},
		{
			"just to its depth", "seat.condition@1E1", "seat_cut",
			all(gaps, limit("valve.recession/exhaust", "0.5", "1.0"), figure("seat_clean/exhaust", "0.06"),
				read("valve.recession", "1E1 0.94")),
			true, "",
		},

		{
			"a tip within its hardening", "stem.height@1E1", "tip_grind", all(high("46.9"), figure("tip_most", "0.30")),
			true, "",
		},
		{
			"and past it", "stem.height@1E1", "tip_grind", all(high("46.901"), figure("tip_most", "0.30")), false,
			"its hardening allows",
		},
		{"nobody says how hard", "stem.height@1E1", "tip_grind", high("46.7"), false, "does not say"},
		{
			"a mushroomed one", "tip.condition@1E1", "tip_grind",
			all(seen("tip.condition", "mushroomed"), figure("tip_most", "0.30")),
			false, "new valve",
		},

		{
			"a worn stem in a good guide", "guide.clearance@1E1", "valve_new",
			all(play, bored("8.05", "7.94"), figure("new_stem/exhaust", "7.98")),
			true, "",
		},
		{
			"is no reason for a guide", "guide.clearance@1E1", "guide_new",
			all(play, bored("8.05", "7.94"), figure("new_stem/exhaust", "7.98")),
			false, "good with a new stem",
		},
		{
			"a worn guide takes one", "guide.clearance@1E1", "guide_new",
			all(play, bored("8.08", "7.98"), figure("new_stem/exhaust", "7.98")),
			true, "",
		},
		{
			"a new valve does not help it", "guide.clearance@1E1", "valve_new",
			all(play, bored("8.08", "7.98"), figure("new_stem/exhaust", "7.98")),
			false, "over its limit with a new stem too",
		},
		{
			"no oversize stem, no reaming", "guide.clearance@1E1", "guide_ream", all(play, bored("8.08", "7.98")), false,
			"is known to be had",
		},
		{
			"an oversize stem that fills it", "guide.clearance@1E1", "guide_ream",
			all(play, bored("8.08", "7.98"), figure("oversize_stem/exhaust", "8.20"), figure("new_stem/exhaust", "7.98")),
			true, "",
		},
		{
			"and one that does not", "guide.clearance@1E1", "guide_ream",
			all(play, bored("8.08", "7.98"), figure("oversize_stem/exhaust", "8.08")),
			false, "would not fill it",
		},
		{"a tight guide is honed", "guide.clearance@1E1", "guide_hone", all(play, bored("8.01", "7.98")), true, ""},
		{
			"with room for its doubt", "guide.clearance@1E1", "guide_hone",
			all(play, bored("8.01", "7.98"), read("guide.bore", "1E1.top.A 8.0625")),
			false, "where the guide is widest",
		},
		{"a cracked one is not", "guide.condition@1E1", "guide_hone", seen("guide.condition", "cracked"), false, "renewed"},
		{
			"one that rocks clearly by feel is not", "guide.condition@1E1", "guide_hone",
			seen("guide.condition", "rocks_clearly"), false, "wider",
		},
		{
			"but it is renewed", "guide.condition@1E1", "guide_new", seen("guide.condition", "rocks_clearly"), true, "",
		},
		{
			"a loose one carries no liner", "guide.condition@1E1", "guide_liner", seen("guide.condition", "loose"),
			false, "no liner",
		},

		{
			"a journal under its size is a camshaft's", "cam.journal@J1", "cam_new",
			all(drive("bucket"), limit("cam.journal/", "23.96", "24.00"), read("cam.journal", "J1 23.94")),
			true, "",
		},
		{
			"a clearance in a good bore is too", "cam.clearance@J1", "line_bore",
			all(drive("bucket"), limit("cam.clearance/", "", "0.08"),
				limit("cam.bore/", "24.00", "24.05"), read("cam.bore", "J1.A 24.04", "J1.B 24.04"),
				read("cam.journal", "J1 23.94")),
			false, "the bore is inside its limit",
		},
		{
			"in a wide bore it is bored", "cam.clearance@J1", "line_bore",
			all(drive("bucket"), limit("cam.clearance/", "", "0.08"),
				limit("cam.bore/", "24.00", "24.03"), read("cam.bore", "J1.A 24.06", "J1.B 24.06"),
				read("cam.journal", "J1 23.97")),
			true, "",
		},
		{
			"with a good journal no camshaft", "cam.clearance@J1", "cam_new",
			all(drive("bucket"), limit("cam.clearance/", "", "0.08"),
				limit("cam.journal/", "23.96", "24.00"), read("cam.bore", "J1.A 24.06", "J1.B 24.06"),
				read("cam.journal", "J1 23.97")),
			false, "the bore is worn",
		},

		{
			"a journal that may be good proves nothing", "cam.clearance@J1", "line_bore",
			all(drive("bucket"), limit("cam.clearance/", "", "0.08"), limit("cam.journal/", "23.96", "24.00"),
				read("cam.bore", "J1.A 24.06", "J1.B 24.06"), read("cam.journal", "J1 23.959")),
			true, "",
		},
		{"a worn rocker is mended", "rocker.condition@1E1", "rocker_mend", seen("rocker.condition", "pad_worn"), true, ""},
		{
			"one worn through is not", "rocker.condition@1E1", "rocker_mend", seen("rocker.condition", "pad_through"),
			false, "renewed, never mended",
		},
		{
			"nor a cracked one", "rocker.condition@1E1", "rocker_mend", seen("rocker.condition", "cracked"), false,
			"renewed, never mended",
		},

		{
			"a deep register is not lapped", "register.depth@C1", "register_lap",
			all(airCooled, limit("register.depth/", "2.0", "2.4"), read("register.depth", "C1.front 2.5")),
			false, "makes it deeper",
		},
		{
			"it is shimmed", "register.depth@C1", "register_shim",
			all(airCooled, limit("register.depth/", "2.0", "2.4"), read("register.depth", "C1.front 2.5")),
			true, "",
		},
		{
			"not beyond its discard", "register.depth@C1", "register_shim",
			all(airCooled, limit("register.depth/", "2.0", "2.4"), figure("register_discard", "2.6"),
				read("register.depth", "C1.front 2.61")),
			false, "beyond its discard",
		},
		{
			"a new margin brings a sunk valve up", "valve.recession@1E1", "valve_new",
			all(
				limit("valve.recession/exhaust", "0.5", "1.0"), read("valve.recession", "1E1 1.3"),
				figure("new_margin/exhaust", "1.5"), limit("valve.margin/exhaust", "1.1", ""),
				read("valve.margin", "1E1 1.2"),
			),
			true, "",
		},
		{
			"as far as it is thicker", "valve.recession@1E1", "valve_new",
			all(
				limit("valve.recession/exhaust", "0.5", "1.0"), read("valve.recession", "1E1 1.301"),
				figure("new_margin/exhaust", "1.5"), limit("valve.margin/exhaust", "1.1", ""),
				read("valve.margin", "1E1 1.2"),
			),
			false, "the seat is sunk",
		},
	} {
		t.Run(c.finding+" "+c.repair+", "+c.name, func(t *testing.T) {
			h := headtest.New(t, 1, "IE")
			c.is(h)
			j := judge.Head(h.Head)
			f, ok := j.Feature(c.finding)
			require.True(t, ok)
			said := j.Allows(f, c.repair)
			assert.Equal(t, c.allowed, said.OK, said.Why)
			assert.Contains(t, said.Why, c.why)
		})
	}
}

// TestWhatWasSeenComplies: grades and marks count in the answer to a rule, and what is left to it is told
// on the side that work moves it to.
func TestWhatWasSeenComplies(t *testing.T) {
	rule := func(changes ...change) judge.Judgement {
		h := headtest.New(t, 1, "IE")
		h.Kind = "rules"
		low, high := 98_450*quantity.One/1000, 900*quantity.One/1000
		h.Sheet.Limits = append(h.Sheet.Limits,
			head.Limit{Characteristic: "head.thickness", Set: head.Class, Low: &low, Source: "class book"},
			head.Limit{Characteristic: "valve.recession", Set: head.Class, High: &high, Source: "class book"})
		h.Sheet = h.Sheet.Indexed()
		h.All("head.thickness", "98.60").All("valve.recession", "0.75")
		all(changes...)(h)
		return judge.Head(h.Head)
	}
	yes := rule()
	require.NotNil(t, yes.Complies())
	assert.True(t, *yes.Complies())
	left := func(key string) string {
		f, _ := yes.Feature(key)
		at, ok := f.Left()
		require.True(t, ok)
		return length.MM.Text(at.Length())
	}
	assert.Equal(t, "0.15 mm", left("head.thickness"))
	assert.Equal(t, "0.15 mm", left("valve.recession@1E1"), "to the most it may be")
	cracked := rule(seen("seat.condition", "sunk"))
	require.NotNil(t, cracked.Complies())
	assert.False(t, *cracked.Complies(), "what is out by its looks")
}
