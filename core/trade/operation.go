package trade

import (
	"slices"
	"strings"
	"sync"
	"yatai/core/quantity"
)

// The stations of a new shop, and of every shop that lacks one of them.
const (
	Counter    = "counter"
	Wash       = "wash"
	TestTank   = "test tank"
	Inspection = "inspection bench"
	Grinder    = "valve grinder"
	GuideBench = "guide bench"
	SeatBench  = "seat machine"
	Surfacer   = "surfacer"
	Press      = "press and fitting bench"
	Assembly   = "assembly bench"
	FinalBench = "final check"
	Dispatch   = "dispatch"
)

// Stations lists them in the order a head passes.
var Stations = []string{
	Counter, Wash, TestTank, Inspection, Grinder, GuideBench, SeatBench, Surfacer, Press, Assembly,
	FinalBench, Dispatch,
}

// Operation is a kind of work. Its Code is a key in files and never changes.
type Operation struct {
	Code     string
	Name     string
	Station  string
	Stage    *Stage
	Setup    quantity.Minutes  // once
	Each     quantity.Minutes  // at each position
	Alone    quantity.Minutes  // of the set-up, in which it runs with nobody there
	Last     quantity.Minutes  // of the set-up at the end, when somebody looks again
	On       func(Kind) bool   // heads that can have it; nil: all
	Implies  []*Operation      // what the same positions need as well
	Needs    []*Operation      // what the head needs as well
	Size     *Size             // what is chosen of it; nil: nothing
	Moves    []Move            // the figures it moves, and by what
	Bridge   bool              // done at bridges, each by its fixed valve
	Drives   bool              // done to the whole head it moves the lash of pushrods, by their ratio
	Voids    []*Characteristic // what it changes: it has to be read again where it was done
	Little   bool              // what it changes it changes little: read again it is what it was, or better
	Undoes   []*Operation      // proofs that do not stand any longer where it was done
	Looks    []*Part           // what has to be looked at again
	Caution  string            // shown where the work is done
	Because  string            // why it is done when no finding of its own asks for it
	Whole    bool              // not left half done over night: hot, under pressure, or clamped
	Free     bool              // may start before the customer has approved anything
	Always   bool              // every head that is mended gets it
	Every    bool              // of one that is always done: at every position
	Inspect  bool              // a head that is only inspected gets it
	Uses     *PartKind         // the part used at each position, or once
	PerEach  int               // how many of it at each position; 0 counts as 1
	PerHole  bool              // one at each cylinder; of one by size where one is wanted
	PerShaft bool              // one for each camshaft it is done at
	Record   *Record           // written down before it is finished
	Proof    *Proof            // the one reading that proves it
	Fit      *Characteristic   // the interference its parts are pressed with
	Marks    bool              // it answers marks on the map
	Like     *Operation        // who can do that can do it: of a shop's own; nil: it is learnt by itself
}

// Skill is the code of what somebody must be able to do for it.
func (o *Operation) Skill() string {
	if o.Like != nil {
		return o.Like.Code
	}
	return o.Code
}

// Exists tells whether heads of kind k can have it.
func (o Operation) Exists(k Kind) bool { return o.On == nil || o.On(k) }

// Voided tells whether the operation changes a characteristic, by its code: it has to be read again.
func (o *Operation) Voided(code string) bool {
	return slices.ContainsFunc(o.Voids, func(c *Characteristic) bool { return c.Code == code })
}

// Proof is what proves an operation: one reading at each position or place, from which
// datum it is read and what tool or pilot it takes.
type Proof struct {
	Of                *Characteristic
	Place, Dir, Datum string
	Tool              string
}

var operations []*Operation

// operation declares one.
func operation(o Operation) *Operation {
	operations = append(operations, &o)
	return &o
}

// Operations are all kinds of work, in the order of the trade: the face last.
func Operations() []*Operation {
	out := slices.Clone(operations)
	slices.SortStableFunc(out, func(a, b *Operation) int { return a.Place(School{}) - b.Place(School{}) })
	return out
}

// OperationNamed returns the operation with that code, the trade's or one a shop has declared itself;
// nil when there is none.
func OperationNamed(code string) *Operation {
	if o := operationsByCode()[code]; o != nil {
		return o
	}
	if r := ownRepair(code); r != nil {
		return r.Does
	}
	return nil
}

var operationsByCode = sync.OnceValue(func() map[string]*Operation {
	all := map[string]*Operation{}
	for _, o := range operations {
		all[o.Code] = o
	}
	return all
})

// Place is where the operation comes in a school's order: a smaller one comes first.
func (o *Operation) Place(school School) int {
	s := o.Stage
	if o == SealTest && school.Assembled {
		s = SealTesting
	}
	return places[school][s]
}

// Precedes tells whether a must come before b, whoever plans, and why. The face may come
// before or after the seats: that is a school.
func Precedes(a, b *Operation) (string, bool) {
	if a == b {
		return "", false
	}
	why := ""
	for i, school := range []School{{}, {FaceFirst: true}} {
		said, ok := precedes(a.Stage, b.Stage, school)
		if !ok {
			return "", false
		}
		if i == 0 {
			why = said
		}
	}
	return why, true
}

// PartKind is a kind of part the shop keeps or buys. Dims are what a new one is measured for,
// First what of them has to be read before it is trusted. Usual is a price in cents to weigh plans
// by where none is known: it is never shown or charged.
type PartKind struct {
	Code  string
	Name  string
	Dims  []*Characteristic
	First []*Characteristic
	Usual int64
	Sized bool // kept by size
}

var partKinds []*PartKind

func partKind(p PartKind) *PartKind {
	partKinds = append(partKinds, &p)
	return &p
}

// PartKinds lists the kinds of parts.
func PartKinds() []*PartKind { return slices.Clone(partKinds) }

// PartKindNamed returns the kind with that code, a shop's own too; nil when there is none.
func PartKindNamed(code string) *PartKind {
	if name, own := strings.CutPrefix(code, ownPart); own {
		return OwnPart(name)
	}
	i := slices.IndexFunc(partKinds, func(p *PartKind) bool { return p.Code == code })
	if i < 0 {
		return nil
	}
	return partKinds[i]
}

// Again is the operation that is done once more where one has failed, or was undone: itself, but for the
// first pressure test, which is followed by the second.
func (o *Operation) Again() *Operation {
	if o == PressureTest {
		return Retest
	}
	return o
}
