package trade

import (
	"fmt"
	"slices"
	"yatai/core/quantity"
)

// Leave is the code of the decision to leave a finding as it is, with a reason.
const Leave = "leave"

// Planned is the code of the decision that the plan answers a finding by what it does
// elsewhere.
const Planned = "planned"

// The sides a characteristic can be out at.
const (
	Low  = "low"
	High = "high"
)

// Answer is a finding that a repair answers: a characteristic out at a side, or at either
// when Side is empty; or a part, whatever its grade: the rule says which.
type Answer struct {
	Of   *Characteristic
	Side string
	Part *Part
	Mark string // of the map's marks: which
}

// Metal names what a repair works on. Two repairs of the same metal at one position are
// never both done.
type Metal string

// The metals.
const (
	GuideMetal    Metal = "guide"
	SeatMetal     Metal = "seat"
	ValveMetal    Metal = "valve"
	TipMetal      Metal = "tip"
	SpringMetal   Metal = "spring"
	ShimMetal     Metal = "spring shim" // a new spring may stand on one
	RockerMetal   Metal = "rocker"
	FaceMetal     Metal = "face"
	RegisterMetal Metal = "register"
	MarkMetal     Metal = "mark"
	CamMetal      Metal = "cam"
	Whole         Metal = "head"
)

// Ruling says whether something is allowed here, and why or why not.
type Ruling struct {
	OK  bool
	Why string
}

// Yes allows.
var Yes = Ruling{OK: true}

// No forbids, with the reason.
func No(format string, args ...any) Ruling { return Ruling{Why: fmt.Sprintf(format, args...)} }

// Case is a finding on a head, with what a repair's permission may hang on.
type Case interface {
	Finding() string               // code of what is out
	Text(a quantity.Amount) string // a length in the unit of the head's sheet
	Kind() Kind
	Valve() Valve                           // of the finding's position
	Out() (side string, by quantity.Amount) // how the finding is out
	// what stands of a part here, "" when it was not looked at
	Grade(p *Part) string
	Read(c *Characteristic) (lo, hi, u quantity.Amount, ok bool) // what stands here, derived or read
	Limit(c *Characteristic) (low, high *quantity.Amount)        // that judges it here
	Figure(f *Figure) (quantity.Amount, bool)                    // of the sheet or as usual
	NewStem() (stem, u quantity.Amount, ok bool)                 // of the new valve for here
	// parts of the kind are on the shop's list, or it has no list
	Listed(k *PartKind) bool
	FaceCut() quantity.Amount               // what the face will need at least
	Ring() quantity.Amount                  // the main cut of a full ring, where width or place are out; else 0
	Passed() (passes int, full, known bool) // lapping that was recorded here
	Suspect() string                        // what a failed vacuum test points to here: see seating
}

// Excludes tells whether another repair works the same metal in another way: never both at one
// position. Marks stand each for itself.
func (r *Repair) Excludes(o *Repair) bool {
	return o != nil && o != r && o.Works == r.Works && r.Works != MarkMetal
}

// Repair is something that can be done about a finding. Its Code is also the operation's.
type Repair struct {
	Code    string
	Name    string
	Choice  string // what a plan calls it among those of its metal: cut, grind, new
	Changes string // what else it moves
	Answers []Answer
	Works   Metal
	Does    *Operation
	Allowed func(Case) Ruling // by what the part is and how it looks; nil: always
	Fits    func(Case) Ruling // by its sizes, taken alone; a plan of the whole head works that out itself
	Order   int               // among the answers of one finding, the cheaper first
}

var repairs []*Repair

// repair declares one.
func repair(r Repair) *Repair {
	repairs = append(repairs, &r)
	return &r
}

// Repairs lists all repairs.
func Repairs() []*Repair { return slices.Clone(repairs) }

// RepairNamed returns the repair with that code, the trade's or one a shop has declared itself; nil
// when there is none.
func RepairNamed(code string) *Repair {
	i := slices.IndexFunc(repairs, func(r *Repair) bool { return r.Code == code })
	if i < 0 {
		return ownRepair(code)
	}
	return repairs[i]
}

// RepairsFor lists the repairs that answer a finding by its code and side, on heads of kind
// k, cheapest first, with those of a shop's own. They may be forbidden: Rule says.
func RepairsFor(code, side string, k Kind, own ...*Repair) []*Repair {
	var out []*Repair
	if c, ok := ByCode(code); ok && c.LimitOf != nil { // the same thing, found in another way
		code = c.LimitOf.Code
	}
	for _, r := range slices.Concat(repairs, own) {
		if r.Does.Exists(k) && slices.ContainsFunc(r.Answers, func(a Answer) bool { return a.Is(code, side) }) {
			out = append(out, r)
		}
	}
	slices.SortStableFunc(out, func(a, b *Repair) int { return a.Order - b.Order })
	return out
}

// Is tells whether the answer is to a finding of that code, out at that side.
func (a Answer) Is(code, side string) bool {
	switch {
	case a.Part != nil && a.Mark != "":
		return code == MarkCode+"."+a.Mark
	case a.Part != nil:
		return code == a.Part.Code
	}
	return code == a.Of.Code && (a.Side == "" || a.Side == side)
}

// Rule says whether the repair is allowed for a case, taken alone.
func (r *Repair) Rule(c Case) Ruling {
	if said := r.Permits(c); !said.OK || r.Fits == nil {
		return said
	}
	return r.Fits(c)
}

// Permits says whether the repair is allowed by what the part is and how it looks, whatever
// its sizes.
func (r *Repair) Permits(c Case) Ruling {
	if r.Allowed == nil {
		return Yes
	}
	return r.Allowed(c)
}

// all allows what every rule allows; the first that forbids says why.
func all(rules ...func(Case) Ruling) func(Case) Ruling {
	return func(c Case) Ruling {
		said := Yes
		for _, rule := range rules {
			r := rule(c)
			if !r.OK {
				return r
			}
			if r.Why != "" {
				said.Why = r.Why
			}
		}
		return said
	}
}

// grades forbids where a part has one of the grades.
func grades(p *Part, why string, codes ...string) func(Case) Ruling {
	return func(c Case) Ruling {
		if slices.Contains(codes, c.Grade(p)) {
			return No("%s", why)
		}
		return Yes
	}
}

// listed forbids where the shop's list of parts has none of a kind: it does not fit them.
func listed(kind **PartKind) func(Case) Ruling {
	return func(c Case) Ruling {
		if !c.Listed(*kind) {
			return No("no %s is on the shop's list of parts", (*kind).Name)
		}
		return Yes
	}
}

// valves forbids where the valve is such a one.
func valves(such func(Valve) bool, why string) func(Case) Ruling {
	return func(c Case) Ruling {
		if such(c.Valve()) {
			return No("%s", why)
		}
		return Yes
	}
}
