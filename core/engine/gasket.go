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
	told := map[string]bool{}
	for i, p := range in.Pistons {
		if told[p.ID] {
			return GasketOutput{}, field.Errorf(fmt.Sprintf("pistons[%d].id", i), "piston %s is there twice", p.ID)
		}
		told[p.ID] = true
	}
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

// ReachInput is what stands proud of the face, and where the piston stops.
type ReachInput struct {
	Protrusion length.Length `json:"protrusion" bound:"signed" doc:"what stands proud of the face: plug, injector, valve"`
	Gasket     length.Length `json:"gasket" bound:"nonneg" doc:"gasket thickness, fitted"`
	Deck       length.Length `json:"deck" bound:"signed" doc:"how far below the block's face the piston stops"`
}

// ReachOutput is what is left between the two; negative when they touch.
type ReachOutput struct {
	Clearance length.Length `json:"clearance_nm"`
}

// Reach computes gasket + deck - protrusion.
func Reach(in ReachInput) (ReachOutput, error) {
	return ReachOutput{in.Gasket + in.Deck - in.Protrusion}, nil
}
