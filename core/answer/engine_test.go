package answer_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strconv"

	"yatai/core/head"
)

// engine is an ill head whose engine was read too: pistons that stand out, gaskets by grade, injectors with
// their washers, plugs, how near valves come to pistons, spring loads, and a stock that has some of each size.
// What is cut from the face moves all of them.
func engine(r *rand.Rand) *kit {
	k := ill(r)
	k.Tools = append(k.Tools, head.FileTool{Name: "spring tester", Kind: "spring tester", U: "2N"},
		head.FileTool{Name: "burette", Kind: "burette", U: "0.2cc"})
	some := func(low, step, n int, kind, role, price string) {
		for i := range n {
			if r.IntN(4) == 0 {
				continue
			}
			k.Stock = append(k.Stock, head.FileStock{
				Kind: kind, Name: kind + " " + strconv.Itoa(i), Role: role, Size: um(low + i*step), Count: r.IntN(4), Price: price,
				Days: r.IntN(5),
			})
		}
	}
	cylinders := map[string]bool{}
	for _, at := range k.ids {
		cylinders[at[:1]] = true
		if r.IntN(3) > 0 {
			k.read("valve.piston", at, 700+r.IntN(900), "caliper")
		}
		k.load(at, 210+r.IntN(40))
	}
	for _, role := range []string{"exhaust", "intake"} {
		k.limit("valve.piston", role, 700+r.IntN(3)*100, 0, 50)
		k.Sheet.Limits = append(k.Sheet.Limits,
			head.FileLimit{Of: "spring.load_seat", Role: role, Set: "service", Low: "220N", High: "260N", Near: "5N"})
		k.figures(map[string]string{"target_load/" + role: "240N"})
	}
	some(500, 250, 3, "spring shim", "", "0.60")
	out := 450 + r.IntN(250)
	for c := range len(cylinders) {
		k.read("piston.protrusion", fmt.Sprint("C", c+1), out+r.IntN(60), "dial on bridge")
	}
	for i, upTo := range []int{500, 600, 700} {
		if r.IntN(5) > 0 {
			k.Stock = append(k.Stock, head.FileStock{
				Kind: "gasket", Name: fmt.Sprint(i+1, " notches"), Size: um(1200 + 100*i), UpTo: um(upTo), Count: r.IntN(3),
				Price: fmt.Sprint(60+5*i, ".00"), Days: r.IntN(4),
			})
		}
	}
	k.figures(map[string]string{"gasket": um(1200 + 100*r.IntN(3))})
	if r.IntN(2) == 0 {
		k.Model.Ignition = "injector"
		for c := range len(cylinders) {
			k.read("injector.protrusion", fmt.Sprint("C", c+1), 2400+r.IntN(500), "dial on bridge")
		}
		k.limit("injector.protrusion", "", 2300, 2900, 50)
		k.figures(map[string]string{"injector_washer": um(1000 + 500*r.IntN(3))})
		some(1000, 250, 7, "injector washer", "", "0.90")
	}
	if r.IntN(2) == 0 {
		for c := range len(cylinders) {
			at := fmt.Sprint("C", c+1)
			k.Readings = append(k.Readings,
				head.FileReading{Of: "chamber.volume", At: at, Is: fmt.Sprintf("%d.%dcc", 40+r.IntN(3), r.IntN(10)), Tool: "burette"})
		}
		k.figures(map[string]string{"bore": "86mm", "stroke": "86mm", "piston": "2cc", "chamber_area": "4200mm2"})
	}
	if k.Model.Drive == "bucket" {
		some(2000, 50, 24, "lash shim", "", "4.20")
	} else if r.IntN(2) == 0 {
		some(180_000, 250, 6, "pushrod", []string{"", "intake", "exhaust"}[r.IntN(3)], "18.00")
	}
	if r.IntN(3) > 0 {
		k.gap("face.line", []string{"L1", "L2", "D1"}[r.IntN(3)], 60+r.IntN(200))
	}
	if r.IntN(3) == 0 {
		k.Settings["school.depths"] = "all alike"
	}
	k.Ask.FaceCut = []string{"", "", "", um(50 + 50*r.IntN(6))}[r.IntN(4)]
	k.read("stem.height", k.ids[0], 45_850+r.IntN(900), "height gauge")
	return k
}

// load reads a spring's load at its installed height.
func (k *kit) load(at string, n int) {
	k.Readings = slices.DeleteFunc(k.Readings,
		func(x head.FileReading) bool { return x.Of == "spring.load_seat" && x.At == at })
	k.Readings = append(k.Readings,
		head.FileReading{Of: "spring.load_seat", At: at, Is: strconv.Itoa(n) + "N", Tool: "spring tester"})
}
