package trade

import (
	"slices"

	"yatai/core/quantity"
)

// Gain is what a figure moves by when an operation is done.
type Gain string

// The gains. Of a new valve they are what it measures less what the present one does.
const (
	BySize   Gain = "size"   // what is cut, ground, set or shimmed: see Size
	ByMargin Gain = "margin" // a thicker rim puts the seat's line further from the head's flat
	ByLength Gain = "length" // overall
	ByGroove Gain = "groove" // from the head's flat to the keeper groove
)

// Move is a figure that an operation moves: by Times the gain.
type Move struct {
	Of    *Characteristic
	Times int
	Gain  Gain
}

// Size is what an operation's size may be: the depth of a cut, the thickness of a shim. Axial, in
// nanometres. Where Least and Most are the same it is no choice. A part that comes in sizes is
// chosen from what can be had of it.
type Size struct {
	Label   string
	Least   func(Case) quantity.Amount
	Most    func(Case) quantity.Amount
	Metal   bool   // it takes metal that is not put back: less is better
	Scatter string // the setting with the standard deviation of what the machine makes; "" for none
}

// figureOf bounds a size by a figure of the sheet, times so much; 0 where there is none.
func figureOf(f *Figure, times quantity.Amount) func(Case) quantity.Amount {
	return func(c Case) quantity.Amount {
		at, _ := c.Figure(f)
		return times * at
	}
}

// rises are what goes with a valve that sits deeper by the size: it and what hangs on it.
func rises(gain Gain, times int) []Move {
	return []Move{
		{Recession, times, gain}, {StemHeight, times, gain}, {SpringHeight, times, gain}, {Lash, -times, gain},
		{LashDry, -times, gain},
		{ValvePiston, times, gain},
	}
}

// moves puts lists of moves together.
func moves(lists ...[]Move) []Move {
	var out []Move
	for _, l := range lists {
		out = append(out, l...)
	}
	return out
}

// WorkRaises tells whether the first operation that moves a characteristic by its size makes it more.
func WorkRaises(code string) bool {
	for _, o := range operations {
		for _, m := range o.Moves {
			if m.Of.Code == code && m.Gain == BySize {
				return m.Times > 0
			}
		}
	}
	return false
}

// Moved tells whether the operation moves a figure on heads of kind k.
func (o *Operation) Moved(c *Characteristic, k Kind) bool {
	for _, m := range o.Moves {
		if m.Of == c && c.Exists(k) {
			return true
		}
	}
	return o.Drives && k.Pushrods() && (c == Lash || c == LashDry) && c.Exists(k)
}

// Brings are the operations that the same positions need as well: what is implied, lapping as a
// finish where the school wants it, and the lash set wherever it was moved.
func (o *Operation) Brings(k Kind, school School) []*Operation {
	var out []*Operation
	for _, next := range o.Implies {
		if next.Exists(k) {
			out = append(out, next)
		}
	}
	if o == CutSeat && school.Lap {
		out = append(out, Lap)
	}
	if o != SetLash && SetLash.Exists(k) && o.Moved(Lash, k) {
		out = append(out, SetLash)
	}
	return out
}

// MovedFigures are the figures of a valve that work moves, in the order they are shown.
func MovedFigures(k Kind) []*Characteristic {
	lash := Lash
	if k.Hydraulic() {
		lash = LashDry
	}
	return []*Characteristic{
		Recession, StemHeight, SpringHeight, ValveMargin, GuideClearance, lash, LoadSeat, ValvePiston,
	}
}

// Makes tells whether the operation makes a characteristic anew, to its limits: a repair that does it answers
// it, or the part that it uses is bought to it. What it only changes is no better known after it than before.
func (o *Operation) Makes(c *Characteristic) bool {
	if !o.Voided(c.Code) || o.Little || slices.ContainsFunc(o.Moves,
		func(m Move) bool { return m.Of.Code == c.Code }) {
		return false
	}
	if o.Uses != nil && slices.ContainsFunc(o.Uses.Dims,
		func(d *Characteristic) bool { return d.Code == c.Code }) {
		return true
	}
	return slices.ContainsFunc(repairs, func(r *Repair) bool {
		return r.Does == o && slices.ContainsFunc(r.Answers, func(a Answer) bool {
			return a.Of != nil && slices.ContainsFunc(a.Of.Proves(),
				func(of *Characteristic) bool { return of.Code == c.Code })
		})
	})
}
