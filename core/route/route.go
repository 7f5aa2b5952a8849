// Package route turns decisions into operations in the order they must be done, each with
// its positions and minutes. Derive is its door.
package route

import (
	"slices"
	"strings"

	"yatai/core/head"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// Decision is a repair decided for a position; Position is empty for the head.
type Decision struct{ Code, Position string }

// DecisionsOf are the decisions for an operation at some positions; at none, for the head.
func DecisionsOf(code string, positions []string) []Decision {
	if len(positions) == 0 {
		return []Decision{{Code: code}}
	}
	var out []Decision
	for _, id := range positions {
		out = append(out, Decision{code, id})
	}
	return out
}

// Operation is a step of the route.
type Operation struct {
	*trade.Operation
	Positions []string // in the head's order; empty: the whole head
	Shafts    []string // of one that is done to camshafts: which
	Minutes   quantity.Minutes
	SetUp     bool // it is set up anyway: only the positions are charged
}

// Derive returns the operations for a set of decisions on a head, in the order they must be
// done. What a decision implies is added: a new guide's seat is cut afterwards, an insert is
// followed by a pressure test; so is what every such head gets. What a head of its kind does
// not have is left out, and unknown codes are passed over. A head that is scrapped gets
// nothing else; one that is only inspected is neither dismantled nor assembled.
func Derive(h *head.Head, decisions []Decision) []Operation {
	r := routing{h, h.School(), map[*trade.Operation]map[string]bool{}}
	if slices.ContainsFunc(decisions, func(d Decision) bool { return d.Code == trade.Scrap.Code }) {
		r.add(trade.Scrap, "")
		return r.operations()
	}
	for _, o := range trade.Operations() {
		if h.Inspection() && o.Inspect || !h.Inspection() && o.Always {
			r.add(o, "")
			if o.Every {
				for _, id := range h.Positions() {
					r.add(o, id)
				}
			}
		}
	}
	for _, d := range decisions {
		if o := trade.OperationNamed(d.Code); o != nil && !h.Inspection() {
			r.addAt(o, d.Position)
		}
	}
	return r.operations()
}

// Only returns the operations of some decisions, with what they imply, without what every
// head gets.
func Only(h *head.Head, decisions []Decision) []Operation {
	r := routing{h, h.School(), map[*trade.Operation]map[string]bool{}}
	for _, d := range decisions {
		if o := trade.OperationNamed(d.Code); o != nil {
			r.addAt(o, d.Position)
		}
	}
	return r.operations()
}

// Renewals are the decisions of what a sheet has renewed whatever it measures.
func Renewals(h *head.Head) []Decision {
	var out []Decision
	for _, code := range h.Sheet.Renew {
		r, ok := trade.RenewalNamed(code)
		if !ok || r.Does() == trade.Assemble {
			continue
		}
		o := r.Does()
		if o.Each == 0 {
			out = append(out, Decision{o.Code, ""})
			continue
		}
		for _, v := range h.Model.Layout.Valves {
			if r.Role == "" || r.Role == string(v.Role) {
				out = append(out, Decision{o.Code, v.ID})
			}
		}
	}
	return out
}

// routing collects operations with their positions.
type routing struct {
	h      *head.Head
	school trade.School
	at     map[*trade.Operation]map[string]bool
}

// addAt adds an operation at a position; at a pair of valves at both.
func (r *routing) addAt(o *trade.Operation, position string) {
	for _, id := range r.h.Model.Layout.ValvesAt(position) {
		r.add(o, id)
	}
}

func (r *routing) add(o *trade.Operation, position string) {
	if o, position = o.At(r.h.Model.Layout, position); !o.Exists(r.h.Model.Kind) {
		return
	}
	if r.at[o] == nil {
		r.at[o] = map[string]bool{}
	}
	switch {
	case o.PerShaft:
		r.at[o][r.h.Model.Layout.ShaftOf(position)] = true
	case r.h.Role(position) != "":
		r.at[o][position] = true
	}
	for _, next := range o.Brings(r.h.Model.Kind, r.school) {
		r.add(next, position)
	}
	if o.Drives && r.h.Model.Kind.Pushrods() { // it moves the lash of all
		for _, id := range r.h.Positions() {
			r.add(trade.SetLash, id)
		}
	}
	for _, next := range o.Needs {
		r.add(next, "")
	}
}

// operations are what was collected, in order.
func (r *routing) operations() []Operation {
	var out []Operation
	var own []*trade.Operation
	for o := range r.at {
		if o.Like != nil {
			own = append(own, o)
		}
	}
	slices.SortFunc(own, func(a, b *trade.Operation) int { return strings.Compare(a.Code, b.Code) })
	for _, o := range append(trade.Operations(), own...) {
		if r.at[o] == nil {
			continue
		}
		op := Operation{Operation: o}
		for _, v := range r.h.Model.Layout.Valves {
			if r.at[o][v.ID] {
				op.Positions = append(op.Positions, v.ID)
			}
		}
		for _, shaft := range r.h.Model.Layout.Shafts() {
			if o.PerShaft && r.at[o][shaft] {
				op.Shafts = append(op.Shafts, shaft)
			}
		}
		op.Minutes = r.h.Labour(o).Minutes(len(op.Positions))
		out = append(out, op)
	}
	slices.SortStableFunc(out, func(a, b Operation) int { return a.Place(r.school) - b.Place(r.school) })
	return out
}
