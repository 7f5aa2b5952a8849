// Package cuts finds the cheapest set of actions that puts a whole head inside its
// limits: what to take off the face, and for each valve what to do with its seat, its
// face, its tip and its spring. Solve is its door, and its answer is an exact optimum.
//
// Cuts interact: facing lifts every valve, a reground valve sinks, a sunk valve's stem
// rises and its spring gets longer. The formulas are those of valvetrain.Stack.
package cuts

import (
	"fmt"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/valvetrain"
)

// Range is a pair of inclusive limits.
type Range struct {
	Low  length.Length `json:"low" bound:"signed" doc:"least, inclusive"`
	High length.Length `json:"high" bound:"signed" doc:"most, inclusive"`
}

// Face is the head's thickness and the cuts it may be given.
type Face struct {
	CutMin       length.Length `json:"cut_min" bound:"nonneg" doc:"least cut that cleans the face up; 0 if it may stay"`
	CutMax       length.Length `json:"cut_max" bound:"nonneg" doc:"most the face may be cut"`
	Thickness    length.Length `json:"thickness" doc:"head thickness now"`
	ThicknessMin length.Length `json:"thickness_min" bound:"nonneg" doc:"least thickness allowed"`
}

// Role is the limits of the intake or the exhaust valves.
type Role struct {
	Recession    Range                `json:"recession" doc:"valve recession allowed"`
	StemHeight   Range                `json:"stem_height" doc:"stem height allowed"`
	SpringHeight Range                `json:"spring_height" doc:"spring installed height allowed"`
	MarginMin    length.Length        `json:"margin_min" bound:"nonneg" doc:"least margin"`
	NewValve     *valvetrain.NewValve `json:"new_valve" opt:"" doc:"what a new valve is like"`
}

// Roles are the limits by role.
type Roles struct {
	Intake  *Role `json:"intake" opt:"" doc:"intake valves"`
	Exhaust *Role `json:"exhaust" opt:"" doc:"exhaust valves"`
}

func (r Roles) of(role string) *Role {
	if role == "intake" {
		return r.Intake
	}
	return r.Exhaust
}

// Insert is how far a new insert lets the seat be set from where it is now.
type Insert struct {
	Up   length.Length `json:"up" bound:"nonneg" doc:"above where the seat is now"`
	Down length.Length `json:"down" bound:"nonneg" doc:"below where the seat is now"`
}

// ValveCost is the cost of a new valve by role, in whole cents.
type ValveCost struct {
	Intake  int64 `json:"intake" bound:"nonneg" doc:"new intake valve, cents"`
	Exhaust int64 `json:"exhaust" bound:"nonneg" doc:"new exhaust valve, cents"`
}

// Costs are what actions cost, in whole cents.
type Costs struct {
	Face       int64     `json:"face" bound:"nonneg" doc:"facing, cents"`
	SeatCut    int64     `json:"seat_cut" bound:"nonneg" doc:"cutting one seat, cents"`
	Insert     int64     `json:"insert" bound:"nonneg" doc:"one new insert, cents"`
	ValveGrind int64     `json:"valve_grind" bound:"nonneg" doc:"refacing one valve, cents"`
	NewValve   ValveCost `json:"new_valve" doc:"one new valve"`
	TipGrind   int64     `json:"tip_grind" bound:"nonneg" doc:"grinding one tip, cents"`
	SpringShim int64     `json:"spring_shim" bound:"nonneg" doc:"one spring shim, cents"`
}

// Seat is what may be done to a seat. No cut is possible without CutMin and CutMax.
type Seat struct {
	AsIs   bool           `json:"as_is" doc:"the seat may stay uncut"`
	CutMin *length.Length `json:"cut_min" bound:"nonneg" opt:"" doc:"cut that cleans it up"`
	CutMax *length.Length `json:"cut_max" bound:"nonneg" opt:"" doc:"most it has left"`
	Insert bool           `json:"insert" opt:"false" doc:"a new insert is allowed"`
}

// Valve is what may be done to a valve. It cannot be ground without Grind.
type Valve struct {
	AsIs    bool           `json:"as_is" doc:"the face may stay"`
	Grind   *length.Length `json:"grind" bound:"nonneg" opt:"" doc:"axial grind that cleans the face up"`
	Replace bool           `json:"replace" opt:"false" doc:"a new valve is allowed"`
}

// Position is one valve as measured.
type Position struct {
	ID           string        `json:"id" doc:"position"`
	Role         string        `json:"role" choices:"intake,exhaust" doc:"intake or exhaust"`
	Recession    length.Length `json:"recession" bound:"signed" doc:"recession now"`
	StemHeight   length.Length `json:"stem_height" doc:"stem height now"`
	SpringHeight length.Length `json:"spring_height" doc:"spring installed height now"`
	Margin       length.Length `json:"margin" bound:"nonneg" doc:"margin now"`
	Seat         Seat          `json:"seat" doc:"what may be done to the seat"`
	Valve        Valve         `json:"valve" doc:"what may be done to the valve"`
	Stem         *Range        `json:"stem" opt:"" doc:"stem height allowed at this valve, within its role's: what lash can still be set for"`
}

// Input is a whole head: limits, costs and its valves as measured.
type Input struct {
	Grid        length.Length   `json:"grid" doc:"all cuts are multiples of this"`
	Face        Face            `json:"face" doc:"the head's face"`
	Roles       Roles           `json:"roles" doc:"limits by role"`
	Spread      *length.Length  `json:"spread" bound:"nonneg" opt:"" doc:"largest difference in final recession within a role"`
	TipGrindMax length.Length   `json:"tip_grind_max" bound:"nonneg" doc:"most a tip may be ground"`
	SpringShims []length.Length `json:"spring_shims" opt:"" empty:"yes" doc:"shims to be had; at most one per valve"`
	Insert      Insert          `json:"insert" opt:"" doc:"where a new insert lets the seat be set"`
	Costs       Costs           `json:"costs" doc:"what actions cost"`
	Valves      []Position      `json:"valves" doc:"the valves"`
}

// Bounds on the size of a question, so that an answer is always quick.
const (
	maxValves = 256
	maxSteps  = 5_000 // grid steps in any one range of cuts
	maxShims  = 50
)

// check refuses what cannot be planned, naming the field.
func (in *Input) check() error {
	g := in.Grid
	steps := func(path string, l length.Length) error {
		if l/g > maxSteps {
			return field.Errorf(path, "more than %d steps of the grid", maxSteps)
		}
		return nil
	}
	if in.Face.CutMin > in.Face.CutMax {
		return field.Errorf("face.cut_min", "larger than the most the face may be cut")
	}
	if ceil(in.Face.CutMin, g) > in.Face.CutMax {
		return field.Errorf("face.cut_min", "no multiple of the grid lies between the least and the most cut")
	}
	if len(in.Valves) > maxValves {
		return field.Errorf("valves", "more than %d valves", maxValves)
	}
	if len(in.SpringShims) > maxShims {
		return field.Errorf("spring_shims", "more than %d shims", maxShims)
	}
	for _, s := range []struct {
		path string
		l    length.Length
	}{
		{"face.cut_max", in.Face.CutMax}, {"tip_grind_max", in.TipGrindMax}, {"insert.up", in.Insert.Up},
		{"insert.down", in.Insert.Down},
	} {
		if err := steps(s.path, s.l); err != nil {
			return err
		}
	}
	for name, r := range map[string]*Role{"intake": in.Roles.Intake, "exhaust": in.Roles.Exhaust} {
		if r == nil {
			continue
		}
		for what, rg := range map[string]Range{
			"recession": r.Recession, "stem_height": r.StemHeight, "spring_height": r.SpringHeight,
		} {
			if rg.Low > rg.High {
				return field.Errorf("roles."+name+"."+what+".low", "the lower limit is above the upper")
			}
		}
		if err := steps("roles."+name+".recession", r.Recession.High-r.Recession.Low); err != nil {
			return err
		}
	}
	return in.checkValves(steps)
}

// checkValves says what is wrong with the valves; steps refuses what is more than can be tried.
func (in *Input) checkValves(steps func(path string, l length.Length) error) error {
	seen := map[string]bool{}
	for i, v := range in.Valves {
		at := fmt.Sprintf("valves[%d]", i)
		if v.ID == "" || seen[v.ID] {
			return field.Errorf(at+".id", "every valve needs an id of its own")
		}
		seen[v.ID] = true
		role := in.Roles.of(v.Role)
		if role == nil {
			return field.Errorf("roles."+v.Role, "no limits for the %s valves", v.Role)
		}
		if v.Valve.Replace && role.NewValve == nil {
			return field.Errorf("roles."+v.Role+".new_valve", "%s may get a new valve, but none is described", v.ID)
		}
		if (v.Seat.CutMin == nil) != (v.Seat.CutMax == nil) {
			return field.Errorf(at+".seat.cut_min", "give both cut_min and cut_max, or neither")
		}
		if v.Seat.CutMin != nil {
			if *v.Seat.CutMin > *v.Seat.CutMax {
				return field.Errorf(at+".seat.cut_min", "larger than the most it has left")
			}
			if err := steps(at+".seat.cut_max", *v.Seat.CutMax); err != nil {
				return err
			}
		}
	}
	return nil
}

// ceil and floor return the nearest multiple of g not below, not above l.
func ceil(l, g length.Length) length.Length { return -floor(-l, g) }

func floor(l, g length.Length) length.Length {
	q := l / g
	if l%g < 0 {
		q--
	}
	return q * g
}
