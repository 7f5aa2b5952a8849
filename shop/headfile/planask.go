package headfile

import (
	"slices"

	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/trade"
)

// PlanAsk is a question to the planner: an alternative, and what the lead holds fast. Cut is
// nil when the planner chooses.
type PlanAsk struct {
	Alternative string
	Cut         *length.Length
	// head.Level, head.Tilted, or "" for what is cheaper
	Tilt string                       `json:",omitempty"`
	Hold map[string]map[string]string `json:",omitempty"` // by position and metal: see head.Holds
	// without what a little more off the face would change
	Brief   bool `json:"-"`
	Decided bool `json:"-"` // what is decided is done; without it all is open but what is left
}

// Held tells whether anything is held fast.
func (a PlanAsk) Held() bool {
	return a.Cut != nil || a.Tilt != "" || len(a.Hold) > 0
}

// Core is the question as the core takes it.
func (a PlanAsk) Core() head.Ask {
	out := head.Ask{Alternative: a.Alternative, FaceCut: a.Cut, Tilt: a.Tilt, Hold: a.Hold, Free: !a.Decided}
	if !slices.ContainsFunc(plan.Alternatives,
		func(x plan.Alternative) bool { return x.Code == a.Alternative }) {
		out.Alternative = plan.Balanced
	}
	return out
}

// Holding holds a metal of a valve to one of its choices.
func (a *PlanAsk) Holding(position, metal, choice string) {
	if a.Hold == nil {
		a.Hold = map[string]map[string]string{}
	}
	if a.Hold[position] == nil {
		a.Hold[position] = map[string]string{}
	}
	a.Hold[position][metal] = choice
}

// keptAsk is a question as a plan keeps it. Plans of before write what they hold by Seat, Valve and Guide.
type keptAsk struct {
	PlanAsk
	Seat, Valve, Guide map[string]string
}

// asked is the question that is kept.
func (k keptAsk) asked() PlanAsk {
	for metal, held := range map[trade.Metal]map[string]string{
		trade.SeatMetal: k.Seat, trade.ValveMetal: k.Valve, trade.GuideMetal: k.Guide,
	} {
		for id, choice := range held {
			k.Holding(id, string(metal), choice)
		}
	}
	return k.PlanAsk
}
