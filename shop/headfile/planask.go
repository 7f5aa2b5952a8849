package headfile

import (
	"slices"

	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/plan"
)

// PlanAsk is a question to the planner: an alternative, and what the lead holds fast. Cut is
// nil when the planner chooses; Seat, Valve and Guide are by position.
type PlanAsk struct {
	Alternative        string
	Cut                *length.Length
	Tilt               string `json:",omitempty"` // head.Level, head.Tilted, or "" for what is cheaper
	Seat, Valve, Guide map[string]string
	Brief              bool `json:"-"` // without what a little more off the face would change
	Decided            bool `json:"-"` // what is decided is done; without it all is open but what is left
}

// Held tells whether anything is held fast.
func (a PlanAsk) Held() bool {
	return a.Cut != nil || a.Tilt != "" || len(a.Seat)+len(a.Valve)+len(a.Guide) > 0
}

// Core is the question as the core takes it.
func (a PlanAsk) Core() head.Ask {
	out := head.Ask{Alternative: a.Alternative, FaceCut: a.Cut, Tilt: a.Tilt, Hold: map[string]map[string]string{}, Free: !a.Decided}
	if !slices.ContainsFunc(plan.Alternatives, func(x plan.Alternative) bool { return x.Code == a.Alternative }) {
		out.Alternative = plan.Balanced
	}
	for what, held := range map[string]map[string]string{"seat": a.Seat, "valve": a.Valve, "guide": a.Guide} {
		for id, v := range held {
			if out.Hold[id] == nil {
				out.Hold[id] = map[string]string{}
			}
			out.Hold[id][what] = v
		}
	}
	return out
}
