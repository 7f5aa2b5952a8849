package engine

import (
	"fmt"
	"math/big"
	"slices"

	"yatai/core/field"
	"yatai/core/length"
)

// PistonHeight is a piston's protrusion read at two places.
type PistonHeight struct {
	ID string        `json:"id" doc:"cylinder"`
	A  length.Length `json:"a" bound:"signed" doc:"protrusion at the first place"`
	B  length.Length `json:"b" bound:"signed" doc:"protrusion at the second place"`
}

// Grade is a gasket and the protrusions it is for.
type Grade struct {
	Name string        `json:"name" doc:"name of the grade"`
	Low  length.Length `json:"low" bound:"signed" doc:"least protrusion, inclusive"`
	High length.Length `json:"high" bound:"signed" doc:"most protrusion, inclusive"`
}

// GasketInput is a block's pistons and the grades to choose from.
type GasketInput struct {
	Pistons []PistonHeight `json:"pistons" doc:"each piston, read at two places"`
	Grades  []Grade        `json:"grades" doc:"the gasket's grades"`
	Use     string         `json:"use" choices:"max,mean" doc:"what governs: the highest piston or the mean"`
	Outlier length.Length  `json:"outlier" bound:"nonneg" doc:"how far below the median a piston is called low"`
}

// GasketOutput is the grade to fit, and pistons low enough to look at rod or bearing.
type GasketOutput struct {
	Governing  length.Length `json:"governing_nm"`
	Grade      *string       `json:"grade"`
	LowPistons []string      `json:"low_pistons"`
}

// Gasket takes the mean of each piston's two readings; the largest or the mean of
// those governs, and the first grade that holds it, limits inclusive, is the answer.
func Gasket(in GasketInput) (GasketOutput, error) {
	for i, g := range in.Grades {
		if g.Low > g.High {
			return GasketOutput{}, field.Errorf(fmt.Sprintf("grades[%d].low", i), "the lower limit is above the upper")
		}
	}
	var means []*big.Rat
	sum := new(big.Rat)
	for _, p := range in.Pistons {
		m := length.MeanRat([]length.Length{p.A, p.B})
		means = append(means, m)
		sum.Add(sum, m)
	}
	sorted := slices.SortedFunc(slices.Values(means), (*big.Rat).Cmp)
	n := len(sorted)
	governing := sorted[n-1]
	if in.Use == "mean" {
		governing = sum.Quo(sum, big.NewRat(int64(n), 1))
	}
	out := GasketOutput{Governing: length.Round(governing), LowPistons: []string{}}
	for i := range in.Grades {
		g := &in.Grades[i]
		if governing.Cmp(g.Low.Rat()) >= 0 && governing.Cmp(g.High.Rat()) <= 0 {
			out.Grade = &g.Name
			break
		}
	}
	median := new(big.Rat).Add(sorted[(n-1)/2], sorted[n/2])
	median.Quo(median, big.NewRat(2, 1))
	for i, m := range means {
		if new(big.Rat).Sub(median, m).Cmp(in.Outlier.Rat()) > 0 {
			out.LowPistons = append(out.LowPistons, in.Pistons[i].ID)
		}
	}
	return out, nil
}

// Shell is a bearing shell by name and thickness.
type Shell struct {
	Name      string        `json:"name" doc:"mark of the shell"`
	Thickness length.Length `json:"thickness" doc:"wall thickness"`
}

// BearingInput is a housing, its journal and the shells to be had.
type BearingInput struct {
	Housing length.Length `json:"housing" doc:"housing bore"`
	Journal length.Length `json:"journal" doc:"journal diameter"`
	Shells  []Shell       `json:"shells" doc:"shells to be had"`
	Low     length.Length `json:"low" bound:"signed" doc:"least clearance, inclusive"`
	High    length.Length `json:"high" bound:"signed" doc:"most clearance, inclusive"`
}

// BearingOutput is the clearance per shell and the shell to fit.
type BearingOutput struct {
	Clearance []length.Length `json:"clearance_nm"`
	Choice    *string         `json:"choice"`
}

// Bearing computes housing - journal - 2 × thickness per shell and chooses the one
// inside the range and nearest its middle, the first of equals.
func Bearing(in BearingInput) (BearingOutput, error) {
	if in.Low > in.High {
		return BearingOutput{}, field.Errorf("low", "the lower limit is above the upper")
	}
	var out BearingOutput
	var best length.Length
	for i := range in.Shells {
		s := &in.Shells[i]
		c := in.Housing - in.Journal - 2*s.Thickness
		out.Clearance = append(out.Clearance, c)
		off := (2*c - in.Low - in.High).Abs()
		if c >= in.Low && c <= in.High && (out.Choice == nil || off < best) {
			out.Choice, best = &s.Name, off
		}
	}
	return out, nil
}

// PistonInput is a bore read at several places and its piston.
type PistonInput struct {
	Bore   []length.Length `json:"bore" doc:"bore readings"`
	Piston length.Length   `json:"piston" doc:"piston diameter"`
}

// PistonOutput is the piston's clearance.
type PistonOutput struct {
	Clearance length.Length `json:"clearance_nm"`
}

// Piston computes mean of the bore readings - piston.
func Piston(in PistonInput) (PistonOutput, error) {
	m := length.MeanRat(in.Bore)
	return PistonOutput{length.Round(m.Sub(m, in.Piston.Rat()))}, nil
}
