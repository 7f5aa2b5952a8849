// Package route turns decisions into operations in the order they must be done, each
// with its station and minutes. Derive is its door.
package route

import (
	"slices"
)

// Kind is a kind of operation.
type Kind struct {
	Code    string
	Name    string
	Station string
	Rank    int      // the order of work: a lower rank comes first
	Setup   int      // minutes once
	Each    int      // minutes per position
	Implies []string // operations the same positions need afterwards
	After   string   // operation the head needs afterwards
	Proves  []string // characteristics it changes: they are read again at its positions
	Caution string   // shown where the work is done
	Whole   bool     // not left half done over night: hot, under pressure, or clamped
}

// School is where good people differ about the order.
type School struct {
	FaceFirst bool // face before seats and guides, instead of last
	Lap       bool // lap every seat that is cut, as a finish
}

// What has to be read again after work: a facing cut lifts every valve, a cut seat sinks
// its own.
var (
	guideFit  = []string{"guide.clearance", "guide.condition", "guide.form"}
	seatDone  = []string{"seat.width", "seat.runout", "valve.recession", "stem.height", "seat.condition", "spring.height"}
	valveDone = []string{"stem.dia", "guide.clearance", "valve.margin", "stem.height", "valve.face", "stem.condition", "tip.condition", "groove.condition"}
	faceDone  = []string{"face.line", "face.flatness", "face.finish", "head.thickness", "valve.recession", "injector.protrusion"}
)

// Kinds are the operations, by rank. The precedence is the trade's: test before money
// is spent on machining, heat before what must stay true, guides before seats, inserts
// before the pressure retest, grinding before the final wash, final check last.
var Kinds = []Kind{
	{Code: "scrap", Name: "Scrap, with the customer's word", Station: "dispatch", Rank: 5, Setup: 10, Caution: "Mark the casting so that nobody fits it again."},
	{Code: "wash", Name: "Wash and scrape", Station: "wash", Rank: 10, Setup: 40, Caution: "Eye protection, extraction; treat unknown gasket dust as hazardous and work it wet."},
	{Code: "pressure_test", Name: "Pressure test", Station: "test tank", Rank: 20, Setup: 45, Whole: true, Caution: "Low pressure, shielded, relief valve fitted, plates bolted, nobody in line."},
	{Code: "straighten", Name: "Straighten", Station: "press and fitting bench", Rank: 25, Setup: 120, After: "face", Proves: []string{"face.line"}, Whole: true, Caution: "Hot head: gloves, face shield. Keep clear of the clamps' line."},
	{Code: "weld", Name: "Weld or stitch", Station: "press and fitting bench", Rank: 22, Setup: 180, After: "pressure_retest", Proves: []string{"mark.crack", "mark.leak"}, Whole: true, Caution: "Fumes, burns: a qualified welder, ventilation. Sodium-filled valves out of the head. Test again after."},
	{Code: "plug_new", Name: "New core plug", Station: "press and fitting bench", Rank: 23, Setup: 20, After: "pressure_retest", Proves: []string{"mark.leak"}, Caution: "Eye protection."},
	{Code: "thread_chase", Name: "Chase threads", Station: "press and fitting bench", Rank: 26, Setup: 15, Proves: []string{"mark.thread"}, Caution: "Eye protection."},
	{Code: "stud_out", Name: "Extract studs", Station: "press and fitting bench", Rank: 26, Setup: 40, Proves: []string{"mark.stud"}, Caution: "Eye protection; a heated stud burns."},
	{Code: "thread_insert", Name: "Thread inserts", Station: "press and fitting bench", Rank: 27, Setup: 30, Proves: []string{"mark.thread", "mark.stud"}, Caution: "Eye protection."},
	{Code: "line_bore", Name: "Line bore", Station: "seat machine", Rank: 29, Setup: 180, Proves: []string{"cam.bore", "cam.clearance"}, Whole: true, Caution: "Eye protection."},
	{Code: "guide_hone", Name: "Hone guides", Station: "guide bench", Rank: 30, Setup: 10, Each: 8, Proves: guideFit, Caution: "Eye protection. Wash every trace of grit out."},
	{Code: "guide_ream", Name: "Ream guides oversize", Station: "guide bench", Rank: 31, Setup: 15, Each: 10, Implies: []string{"seat_cut", "valve_new"}, Proves: guideFit, Caution: "Eye protection."},
	{Code: "guide_liner", Name: "Fit guide liners", Station: "guide bench", Rank: 32, Setup: 15, Each: 18, Implies: []string{"seat_cut"}, Proves: guideFit, Caution: "Eye protection."},
	{Code: "guide_new", Name: "New guides", Station: "guide bench", Rank: 33, Setup: 20, Each: 22, Implies: []string{"seat_cut"}, Proves: guideFit, Whole: true, Caution: "Hot head and chilled guides burn: gloves, face shield, ventilation, never a closed container."},
	{Code: "seat_insert", Name: "New inserts", Station: "seat machine", Rank: 40, Setup: 20, Each: 35, Implies: []string{"seat_cut"}, Proves: seatDone, After: "pressure_retest", Whole: true, Caution: "Hot head and chilled inserts burn: gloves, face shield, ventilation, never a closed container."},
	{Code: "pressure_retest", Name: "Pressure test again", Station: "test tank", Rank: 45, Setup: 45, Whole: true, Caution: "Low pressure, shielded, relief valve fitted, plates bolted, nobody in line."},
	{Code: "seat_cut", Name: "Cut seats", Station: "seat machine", Rank: 50, Setup: 15, Each: 12, Proves: seatDone, Caution: "Eye protection. The seat is only as true as its guide."},
	{Code: "valve_grind", Name: "Reface valves", Station: "valve grinder", Rank: 53, Setup: 10, Each: 6, Proves: []string{"valve.face", "valve.margin", "valve.face_angle", "valve.recession", "stem.height", "spring.height"}, Caution: "Eye protection. Never grind a hollow or sodium-filled valve through; coated valves are not ground."},
	{Code: "valve_new", Name: "New valves, measured", Station: "press and fitting bench", Rank: 54, Setup: 5, Each: 6, Proves: valveDone, Caution: "Sodium-filled valves: never cut, weld, crush or machine through."},
	{Code: "tip_grind", Name: "Grind tips", Station: "valve grinder", Rank: 57, Setup: 10, Each: 4, Proves: []string{"stem.height", "tip.condition"}, Caution: "Eye protection. Stay within the hardening."},
	{Code: "lap", Name: "Lap", Station: "press and fitting bench", Rank: 60, Setup: 5, Each: 6, Proves: []string{"seat.width", "seal.vacuum"}, Caution: "No paste near a guide. Wash out everything."},
	{Code: "spring_shim", Name: "Shim springs", Station: "assembly bench", Rank: 62, Setup: 5, Each: 3, Proves: []string{"spring.height", "spring.load_seat"}, Caution: "Springs: eye protection, compressor seated, hands clear."},
	{Code: "spring_new", Name: "New springs", Station: "assembly bench", Rank: 63, Setup: 5, Each: 2, Proves: []string{"spring.free", "spring.height", "spring.condition", "spring.load_seat", "spring.load_open", "spring.spread", "spring.square"}, Caution: "Springs: eye protection, compressor seated, hands clear."},
	{Code: "keeper_new", Name: "New keepers", Station: "assembly bench", Rank: 64, Setup: 2, Each: 1, Proves: []string{"keeper.condition"}, Caution: "Springs: eye protection, compressor seated, hands clear."},
	{Code: "rotator_new", Name: "New rotators", Station: "assembly bench", Rank: 65, Setup: 2, Each: 2, Proves: []string{"rotator.condition", "spring.height"}, Caution: "Springs: eye protection, compressor seated, hands clear."},
	{Code: "bucket_new", Name: "New buckets", Station: "assembly bench", Rank: 66, Setup: 2, Each: 2, Proves: []string{"bucket.condition", "bucket.clearance"}},
	{Code: "rocker_mend", Name: "Mend rockers", Station: "press and fitting bench", Rank: 67, Setup: 10, Each: 15, Proves: []string{"rocker.condition"}, Caution: "Eye protection."},
	{Code: "rocker_new", Name: "New rockers", Station: "assembly bench", Rank: 68, Setup: 2, Each: 3, Proves: []string{"rocker.condition"}},
	{Code: "register_lap", Name: "Lap the barrel register", Station: "press and fitting bench", Rank: 68, Setup: 30, Proves: []string{"register.depth"}, Caution: "No paste near a guide. Wash out everything."},
	{Code: "register_shim", Name: "Shim under the barrel: note for refit", Station: "counter", Rank: 76, Setup: 5},
	{Code: "chamber_even", Name: "Even the chambers", Station: "seat machine", Rank: 69, Setup: 40, Proves: []string{"chamber.volume", "chamber.spread"}, Caution: "Eye protection, extraction."},
	{Code: "injector_shim", Name: "Washers under the injectors", Station: "assembly bench", Rank: 89, Setup: 10, Proves: []string{"injector.protrusion"}},
	{Code: "lash_set", Name: "Set the lash", Station: "assembly bench", Rank: 91, Setup: 5, Each: 4, Proves: []string{"lash"}},
	{Code: "face", Name: "Face the head", Station: "surfacer", Rank: 70, Setup: 60, Proves: faceDone, Whole: true, Caution: "Clamped without strain; eye protection; rated lifting gear, nobody under."},
	{Code: "gasket_thick", Name: "Thicker gasket: note for refit", Station: "counter", Rank: 75, Setup: 5},
	{Code: "wash_final", Name: "Final wash", Station: "wash", Rank: 80, Setup: 30, Caution: "Blow out oil and water ways with eye protection on."},
	{Code: "assemble", Name: "Assemble with new seals", Station: "assembly bench", Rank: 90, Setup: 15, Each: 5, Caution: "Springs: eye protection, compressor seated, hands clear."},
	{Code: "seal_test", Name: "Seal test", Station: "assembly bench", Rank: 92, Setup: 5, Each: 3, Caution: "Solvent: ventilation, no flame, gloves."},
	{Code: "final_check", Name: "Final check", Station: "final check", Rank: 99, Setup: 20},
}

// Named returns the kind with that code.
func Named(code string) (Kind, bool) {
	i := slices.IndexFunc(Kinds, func(k Kind) bool { return k.Code == code })
	if i < 0 {
		return Kind{}, false
	}
	return Kinds[i], true
}

// Decision is a repair decided for a position; Position is empty for the head.
type Decision struct {
	Code     string
	Position string
}

// Operation is a step of the route.
type Operation struct {
	Kind
	Positions []string // in the head's order; empty: the whole head
	Minutes   int
}

// always are the operations every head gets.
var always = []string{"wash", "pressure_test", "wash_final", "assemble", "seal_test", "final_check"}

// Derive returns the operations for a set of decisions on a head with these positions
// (in its order), in the order they must be done. What a decision implies is added: a
// new guide's seat is cut afterwards, an insert is followed by a pressure test. Unknown
// codes are passed over. A head that is scrapped gets nothing else.
func Derive(positions []string, decisions []Decision, school School) []Operation {
	at := map[string]map[string]bool{}
	var add func(code, position string)
	add = func(code, position string) {
		k, ok := Named(code)
		if !ok {
			return
		}
		if code == "seat_cut" && school.Lap {
			defer add("lap", position)
		}
		if at[code] == nil {
			at[code] = map[string]bool{}
		}
		if position != "" {
			at[code][position] = true
		}
		for _, next := range k.Implies {
			add(next, position)
		}
		if k.After != "" {
			add(k.After, "")
		}
	}
	if slices.ContainsFunc(decisions, func(d Decision) bool { return d.Code == "scrap" }) {
		k, _ := Named("scrap")
		return []Operation{{Kind: k, Minutes: k.Setup}}
	}
	for _, code := range always {
		add(code, "")
	}
	for _, p := range positions {
		add("assemble", p)
		add("seal_test", p)
	}
	for _, d := range decisions {
		add(d.Code, d.Position)
	}
	var out []Operation
	for _, k := range Kinds {
		if at[k.Code] == nil {
			continue
		}
		if k.Code == "face" && school.FaceFirst {
			k.Rank = 28
		}
		op := Operation{Kind: k, Minutes: k.Setup}
		for _, p := range positions {
			if at[k.Code][p] {
				op.Positions = append(op.Positions, p)
				op.Minutes += k.Each
			}
		}
		out = append(out, op)
	}
	slices.SortStableFunc(out, func(a, b Operation) int { return a.Rank - b.Rank })
	return out
}
