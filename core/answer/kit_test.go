package answer_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"yatai/core/head"
)

// kit is a healthy head as a head file, to be made ill: every limit and reading is there, everything is
// sound. Sizes are in micrometres.
type kit struct {
	head.File
	ids  []string
	stem map[string]int // by role
}

// Sizes of the kit's heads by role, in micrometres.
var (
	recessions = map[string][2]int{"intake": {400, 900}, "exhaust": {500, 1000}}
	clearances = map[string][2]int{"intake": {25, 80}, "exhaust": {40, 95}}
	margins    = map[string]int{"intake": 1000, "exhaust": 1100}
	newMargins = map[string]int{"intake": 1600, "exhaust": 1800}
)

func um(n int) string { return fmt.Sprintf("%d.%03dmm", n/1000, n%1000) }

func roleOf(at string) string {
	if at[1] == 'I' {
		return "intake"
	}
	return "exhaust"
}

// newKit makes a healthy head with valves in patterns.
func newKit(drive, cooling string, patterns ...string) *kit {
	k := &kit{stem: map[string]int{"intake": 7960, "exhaust": 7946}}
	k.File = head.File{
		Format: head.Format, Head: head.FileHead{Tag: "S00", Kind: "rebuild", Unit: "mm"},
		Model: head.FileModel{
			Name: "Sample", Material: "iron", Cooling: cooling, Drive: drive, Lifter: "solid", Ignition: "plug",
			Cylinders: len(patterns),
			Patterns:  patterns, Pitch: "112mm", Bore: "98mm", Width: "164mm",
			Valves: map[string]head.FileValve{"intake": {Head: "42.5mm"}, "exhaust": {Head: "38mm"}},
		},
		Sheet:    head.FileSheet{Figures: map[string]string{}},
		Settings: map[string]string{"rate": "60.00"},
	}
	for name, u := range map[string]string{
		"bore gauge": "0.003mm", "micrometer": "0.002mm", "caliper": "0.02mm", "dial on pilot": "0.003mm",
		"dial on bridge": "0.004mm",
		"height gauge":   "0.01mm", "feelers": "0mm", "vacuum tester": "0.5kPa",
	} {
		k.Tools = append(k.Tools, head.FileTool{Name: name, Kind: name, U: u})
	}
	lash := map[string][2]int{"intake": {150, 400}, "exhaust": {150, 400}}
	if drive == "bucket" {
		lash = map[string][2]int{"intake": {150, 250}, "exhaust": {250, 350}}
		k.Sheet.Figures["shim_step"] = "0.05mm"
		k.limit("shim.size", "", 1500, 3600, 0)
	} else {
		k.Sheet.Figures["adjuster"], k.Sheet.Figures["rocker_ratio"] = "0.8mm", "1.45"
	}
	for role, s := range k.stem {
		k.limit("stem.dia", role, s-30, 0, 3)
		k.limit("guide.clearance", role, clearances[role][0], clearances[role][1], 5)
		k.limit("seat.width", role, 1200, 2200, 50)
		k.limit("seat.runout", role, 0, 50, 5)
		k.limit("valve.recession", role, recessions[role][0], recessions[role][1], 30)
		k.limit("stem.height", role, 45_900, 46_600, 30)
		k.limit("spring.height", role, 37_600, 38_800, 50)
		k.limit("valve.margin", role, margins[role], 0, 50)
		k.limit("lash", role, lash[role][0], lash[role][1], 10)
		k.Sheet.Limits = append(k.Sheet.Limits,
			head.FileLimit{Of: "stem.dia", Role: role, Set: "new", Low: um(s - 8), High: um(s + 6)})
		k.figures(map[string]string{
			"new_margin/" + role: um(newMargins[role]), "lift/" + role: "10mm", "valve_grind/" + role: "0.10mm",
			"seat_clean/" + role: "0.06mm",
			"seat_most/" + role:  "0.40mm", "seat_angle/" + role: "45deg",
		})
	}
	k.limit("head.thickness", "", 98_200, 0, 50)
	for kind, most := range map[string]int{"long": 80, "cross": 50, "diagonal": 80} {
		k.limit("face.line", kind, 0, most, 10)
	}
	k.figures(map[string]string{
		"guide_length": "52mm", "insert_up": "0.8mm", "insert_down": "0.8mm", "tip_most": "0.30mm", "face_most": "0.40mm",
		"face_allow":   "0.03mm",
		"spring_solid": "25.5mm",
	})
	for c, pattern := range patterns {
		seen := map[rune]int{}
		for _, letter := range pattern {
			seen[letter]++
			k.healthy(fmt.Sprintf("%d%c%d", c+1, letter, seen[letter]), lash)
		}
	}
	for i := range 4 {
		k.read("head.thickness", fmt.Sprint("T", i+1), 98_600, "micrometer")
	}
	lines := []string{"L1", "L2", "L3", "D1", "D2"}
	for i := range len(patterns) + 1 {
		lines = append(lines, fmt.Sprint("X", i+1))
	}
	for _, l := range lines {
		k.gap("face.line", l, 20)
	}
	return k
}

// healthy reads a valve as it should be.
func (k *kit) healthy(at string, lash map[string][2]int) {
	role := roleOf(at)
	k.ids = append(k.ids, at)
	k.stems(at, k.stem[role])
	play := (clearances[role][0] + clearances[role][1]) / 2
	k.bores(at, k.stem[role]+play, k.stem[role]+play, k.stem[role]+play)
	k.read("seat.width", at, 1700, "caliper")
	k.read("seat.runout", at, 20, "dial on pilot")
	k.read("valve.recession", at, (recessions[role][0]+recessions[role][1])/2, "dial on bridge")
	k.read("stem.height", at, 46_200, "height gauge")
	k.read("spring.height", at, 38_200, "caliper")
	k.read("valve.margin", at, newMargins[role]-50, "caliper")
	k.gap("lash", at, (lash[role][0]+lash[role][1])/2-5)
	if k.Model.Drive == "bucket" {
		k.read("shim.size", at, 2600, "micrometer")
	}
}

func (k *kit) figures(all map[string]string) {
	for name, v := range all {
		k.Sheet.Figures[name] = v
	}
}

// limit gives the sheet a service limit; 0 is an open end.
func (k *kit) limit(of, role string, low, high, near int) {
	l := head.FileLimit{Of: of, Role: role, Set: "service", Near: um(near)}
	if low != 0 {
		l.Low = um(low)
	}
	if high != 0 {
		l.High = um(high)
	}
	k.Sheet.Limits = append(k.Sheet.Limits, l)
}

// drop takes a service limit off the sheet.
func (k *kit) drop(of, role string) {
	k.Sheet.Limits = slices.DeleteFunc(k.Sheet.Limits,
		func(l head.FileLimit) bool { return l.Of == of && l.Role == role && l.Set == "service" })
}

// unread takes readings out; of every place when at is empty.
func (k *kit) unread(of, at string) {
	k.Readings = slices.DeleteFunc(k.Readings,
		func(r head.FileReading) bool { return r.Of == of && (at == "" || r.At == at) })
}

func (k *kit) read(of, at string, n int, tool string) {
	k.unread(of, at)
	k.Readings = append(k.Readings, head.FileReading{Of: of, At: at, Is: um(n), Tool: tool})
}

func (k *kit) gap(of, at string, n int) {
	k.unread(of, at)
	k.Readings = append(k.Readings, head.FileReading{Of: of, At: at, Go: um(n), NoGo: um(n + 10), Tool: "feelers"})
}

func (k *kit) stems(at string, n int) {
	for _, p := range []string{"top", "middle", "bottom"} {
		k.read("stem.dia", at+"."+p, n, "micrometer")
	}
}

func (k *kit) bores(at string, top, middle, bottom int) {
	for p, n := range map[string]int{"top": top, "middle": middle, "bottom": bottom} {
		for _, dir := range []string{"A", "B"} {
			k.read("guide.bore", at+"."+p+"."+dir, n, "bore gauge")
		}
	}
}

func (k *kit) see(part, at, grade string) {
	k.Findings = append(k.Findings, head.FileFinding{Part: part, At: at, Grade: grade})
}

func (k *kit) did(code string, at ...string) {
	n := len(k.Readings)
	k.Operations = append(k.Operations, head.FileOperation{Code: code, At: at, State: "done", Readings: &n})
}

func (k *kit) record(code, at string, values ...string) {
	n, v := len(k.Readings), map[string]string{}
	for i := 0; i < len(values); i += 2 {
		v[values[i]] = values[i+1]
	}
	k.Records = append(k.Records, head.FileRecord{Operation: code, At: at, Values: v, Readings: &n})
}

// proven has the head washed, tested, assembled and checked.
func (k *kit) proven() {
	clean := []string{"guides", "yes", "threads", "yes", "ways", "yes"}
	k.did("wash")
	if k.Model.Cooling != "air" {
		k.did("pressure_test")
		k.record("pressure_test", "", "pressure", "2bar", "water", "60C", "minutes", "20", "leaks", "0")
	}
	k.did("wash_final")
	k.did("seal_test", k.ids...)
	k.did("assemble", k.ids...)
	k.did("final_check")
	for _, id := range k.ids {
		k.record("seal_test", id, "baseline", "84kPa", "vacuum", "84 84 84 84 kPa")
	}
	k.record("wash_final", "", clean...)
	k.record("assemble", "", "seals", "yes", "order", "yes", "keepers", "yes")
	k.record("final_check", "", append(clean, "places", "yes")...)
}

// again reads everything once more, as after a repair.
func (k *kit) again() {
	for _, r := range slices.Clone(k.Readings) {
		r.Stage = "after repair"
		k.Readings = append(k.Readings, r)
	}
}

func (k *kit) json() []byte {
	b, err := json.Marshal(k.File)
	if err != nil {
		panic(err)
	}
	return b
}

// copied is a kit that can be changed by itself.
func (k *kit) copied() *kit {
	c := *k
	if err := json.Unmarshal(k.json(), &c.File); err != nil {
		panic(err)
	}
	return &c
}

// ill is a head with troubles drawn by chance.
func ill(r *rand.Rand) *kit {
	one := func(of ...string) string { return of[r.IntN(len(of))] }
	var patterns []string
	for range 1 + r.IntN(3) {
		patterns = append(patterns, one("IE", "EI", "IIE"))
	}
	k := newKit(one("rocker", "rocker", "bucket", "overhead rocker"), one("water", "water", "air"), patterns...)
	for _, at := range k.ids {
		if r.IntN(100) < 45 {
			continue
		}
		role := roleOf(at)
		for range 1 + r.IntN(2) {
			s := k.stem[role]
			switch one("stem", "guide", "sunk", "thin", "wide", "pits", "heavy", "lash", "high", "burnt", "gaps") {
			case "stem":
				k.stems(at, s-10-r.IntN(50))
			case "guide":
				k.bores(at, s+60+r.IntN(60), s+50+r.IntN(30), s+60+r.IntN(70))
			case "sunk":
				k.read("valve.recession", at, recessions[role][1]-100+r.IntN(600), "dial on bridge")
			case "thin":
				k.read("valve.margin", at, margins[role]-100+r.IntN(350), "caliper")
			case "wide":
				k.read("seat.width", at, 2000+r.IntN(700), "caliper")
			case "pits":
				k.see("valve.face", at, "light_pits")
			case "heavy":
				k.see("valve.face", at, "heavy_pits")
			case "burnt":
				k.see("valve.face", at, "burnt")
			case "gaps":
				k.see("seat.condition", at, one("gaps", "heavy_pits"))
			case "high":
				k.read("stem.height", at, 46_400+r.IntN(500), "height gauge")
			case "lash":
				k.gap("lash", at, 20+r.IntN(480))
			}
		}
	}
	if r.IntN(10) < 4 {
		k.gap("face.line", "L2", 20+r.IntN(120))
	}
	k.Stock = []head.FileStock{
		{Kind: "guide", Name: "guide", Count: 8, Price: "14.00"},
		{Kind: "insert", Role: "intake", Name: "insert in", Count: 4, Price: "19.00"},
		{Kind: "insert", Role: "exhaust", Name: "insert ex", Count: 4, Price: "22.00"},
		{Kind: "valve", Role: "intake", Name: "valve in", Count: 8, Price: "24.00"},
		{Kind: "valve", Role: "exhaust", Name: "valve ex", Count: 8, Price: "31.00"},
	}
	if k.Model.Drive == "bucket" {
		for i := range []int{0, 3, 8}[r.IntN(3)] {
			size := um(50 * (40 + r.IntN(24)))
			k.Stock = append(k.Stock, head.FileStock{
				Kind: "lash shim", Name: fmt.Sprint("shim ", i), Size: size, Count: 1 + r.IntN(2), Price: "3.20",
			})
		}
	}
	return k
}

// fight is a bucket head with few shims whose valves want the same ones.
func fight(r *rand.Rand) *kit {
	k := newKit("bucket", "water", []string{"IE", "IIE", "EI"}[r.IntN(3)])
	if r.IntN(10) < 8 {
		delete(k.Sheet.Figures, "shim_step")
	}
	k.Sheet.Figures["tip_most"] = um(100 * r.IntN(4))
	for _, at := range k.ids {
		k.gap("lash", at, 60+10*r.IntN(36))
		k.read("shim.size", at, []int{2400, 2500, 2550, 2600, 2700}[r.IntN(5)], "micrometer")
		if r.IntN(2) == 0 {
			k.see("seat.condition", at, "heavy_pits")
			k.read("valve.recession", at, recessions[roleOf(at)][1]-150+r.IntN(350), "dial on bridge")
		}
	}
	k.Stock = []head.FileStock{
		{Kind: "valve", Role: "intake", Name: "in", Count: 8, Price: "28.00"},
		{Kind: "valve", Role: "exhaust", Name: "ex", Count: 8, Price: "41.00"},
		{Kind: "insert", Role: "intake", Name: "in", Count: 4, Price: "19.00"},
		{Kind: "insert", Role: "exhaust", Name: "ex", Count: 4, Price: "23.00"},
	}
	for i := range r.IntN(4) {
		size := []int{2350, 2450, 2500, 2650, 3000}[r.IntN(5)]
		k.Stock = append(k.Stock, head.FileStock{
			Kind: "lash shim", Name: fmt.Sprint("shim ", i), Size: um(size), Count: 1 + r.IntN(2), Price: "3.20",
		})
	}
	return k
}

// keyed tells whether a key is of a position.
func keyed(key, at string) bool { return strings.HasSuffix(key, "@"+at) }
