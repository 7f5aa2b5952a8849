package trade

import "slices"

// Stage is a step of the order of work. What must come before it is named, with the reason.
type Stage struct {
	Name  string
	After []Before
}

// Before is a stage that comes first, and why.
type Before struct {
	Stage   *Stage
	Because string
}

var stages []*Stage

func stage(name string, after ...Before) *Stage {
	s := &Stage{name, after}
	stages = append(stages, s)
	return s
}

// The stages, in the order of the trade. The face comes after the seats or before the guides,
// and the seal test before the springs or after them, by the school: see School.
var (
	Scrapping = stage("Scrapping")
	Washing   = stage("Washing")
	Testing   = stage("Testing", Before{Washing, "wash before it is tested"})
	Heat      = stage("Welding and heat", Before{Testing, "test before money is spent on machining"})
	Threading = stage("Threads", Before{Heat, "welding and heat before what has to stay true"})
	Boring    = stage("Cam bores", Before{Heat, "welding and heat before what has to stay true"})
	Receiving = stage("New valves", Before{Testing, "test before money is spent"})
	Guiding   = stage(
		"Guides", Before{Heat, "welding and heat before what has to stay true"},
		Before{Receiving, "a guide is made for the stem that will run in it"},
		Before{Threading, "threads before what has to stay clean"},
		Before{Boring, "cam bores before what is measured from them"},
	)
	Inserting = stage("Inserts", Before{Guiding, "guides before seats: a seat is cut on a pilot in its guide"})
	Retesting = stage("Testing again", Before{Inserting, "the pressure test again after an insert"},
		Before{Heat, "the pressure test again after a weld"})
	SeatCutting = stage(
		"Seats", Before{Inserting, "the insert before its seat is cut"},
		Before{Guiding, "guides before seats: a seat is cut on a pilot in its guide"},
	)
	Refacing = stage("Valve faces", Before{Testing, "test before money is spent on machining"})
	Lapping  = stage("Lapping", Before{SeatCutting, "cut before lapping"},
		Before{Refacing, "reface before lapping"})
	Padding = stage("Spring pads", Before{Heat, "welding and heat before what has to stay true"})
	Fitting = stage("Valve gear", Before{Testing, "test before money is spent on machining"})
	Facing  = stage("Facing", Before{Heat, "welding and heat before what has to stay true"},
		Before{Boring, "cam bores before what is measured from them"})
	Clearing = stage(
		"Final wash", Before{Lapping, "grinding before the final wash"},
		Before{Facing, "grinding before the final wash"},
		Before{Padding, "grinding before the final wash"}, Before{Fitting, "grinding before the final wash"},
		Before{Retesting, "the water out before the final wash"},
		Before{SeatCutting, "grinding before the final wash"},
		Before{Refacing, "grinding before the final wash"},
	)
	BareTesting = stage("Seal test, bare valves", Before{Clearing, "wash before the seats are proven"})
	Springing   = stage("Springs", Before{Clearing, "wash before assembly"},
		Before{BareTesting, "bare valves are tested before the springs go in"})
	Assembling  = stage("Assembly", Before{Springing, "the springs are chosen before they go in"})
	LashSetting = stage("Setting", Before{Assembling, "assembled before it is set"})
	SealTesting = stage("Seal test, assembled",
		Before{Assembling, "assembled before the seal test with springs"})
	Telling  = stage("For the refit")
	Checking = stage(
		"Final check", Before{Telling, "the final check last"}, Before{LashSetting, "the final check last"},
		Before{SealTesting, "the final check last"},
	)
)

// School is where good people differ about the order.
type School struct {
	FaceFirst bool // face before guides and seats, instead of last
	Lap       bool // lap every seat that is cut, as a finish
	Assembled bool // the seal test with the springs in, instead of on bare valves
}

// before lists what comes before a stage in a school.
func (s *Stage) before(school School) []Before {
	if s == Facing && !school.FaceFirst {
		return append(slices.Clone(s.After), Before{SeatCutting, "the face finishes the head"},
			Before{Lapping, "the face finishes the head"})
	}
	if (s == Guiding || s == Inserting || s == SeatCutting) && school.FaceFirst {
		return append(slices.Clone(s.After), Before{Facing, "depths are measured from a finished face"})
	}
	return s.After
}

// precedes tells whether a comes before b, directly or by way of others, and why.
func precedes(a, b *Stage, school School) (string, bool) {
	for _, p := range b.before(school) {
		if p.Stage == a {
			return p.Because, true
		}
	}
	for _, p := range b.before(school) {
		if _, ok := precedes(a, p.Stage, school); ok {
			return p.Because, true
		}
	}
	return "", false
}

// sorted are the stages in an order that every edge of a school agrees with, otherwise as
// they are declared.
func sorted(school School) []*Stage {
	var out []*Stage
	var visit func(*Stage)
	visit = func(s *Stage) {
		if slices.Contains(out, s) {
			return
		}
		for _, p := range s.before(school) {
			visit(p.Stage)
		}
		out = append(out, s)
	}
	for _, s := range stages {
		visit(s)
	}
	return out
}

// places are the stages' places by school, worked out once.
var places = func() map[School]map[*Stage]int {
	out := map[School]map[*Stage]int{}
	for i := range 8 {
		school := School{i&1 > 0, i&2 > 0, i&4 > 0}
		out[school] = map[*Stage]int{}
		for k, s := range sorted(school) {
			out[school][s] = k
		}
	}
	return out
}()
