package engine

import (
	"fmt"
	"slices"

	"yatai/core/field"
	"yatai/core/length"
)

// PistonTop is how far a piston stands proud of the block, at two places, rocked both ways.
type PistonTop struct {
	Front []length.Length `json:"front" bound:"signed" doc:"at the front, rocked both ways"`
	Back  []length.Length `json:"back" bound:"signed" doc:"at the back, rocked both ways"`
}

// ThickGrade is a gasket for pistons up to a protrusion.
type ThickGrade struct {
	Name string        `json:"name" doc:"the grade's name"`
	UpTo length.Length `json:"up_to" bound:"signed" doc:"the most its pistons may stand proud, inclusive"`
}

// ProtrusionInput is the pistons of an engine and the gaskets to be had.
type ProtrusionInput struct {
	Pistons []PistonTop  `json:"pistons" doc:"one a cylinder"`
	Grades  []ThickGrade `json:"grades" doc:"the gaskets, in any order"`
}

// ProtrusionOutput is each piston's mean and the grade that the highest needs.
type ProtrusionOutput struct {
	Each    []length.Length `json:"each_nm"`
	Highest length.Length   `json:"highest_nm"`
	Lowest  length.Length   `json:"lowest_nm"`
	Spread  length.Length   `json:"spread_nm"`
	Grade   string          `json:"grade"`
}

// Protrusion takes each piston's mean of its readings at both places and chooses the thinnest gasket whose
// most is not below the highest.
func Protrusion(in ProtrusionInput) (ProtrusionOutput, error) {
	var out ProtrusionOutput
	for i, p := range in.Pistons {
		if len(p.Front) != len(p.Back) {
			return out, field.Errorf(fmt.Sprintf("pistons[%d].back", i),
				"as many readings at the back as at the front")
		}
		out.Each = append(out.Each, length.Mean(slices.Concat(p.Front, p.Back)))
	}
	out.Highest, out.Lowest = slices.Max(out.Each), slices.Min(out.Each)
	out.Spread = out.Highest - out.Lowest
	best := -1
	for i, g := range in.Grades {
		if g.UpTo >= out.Highest && (best < 0 || g.UpTo < in.Grades[best].UpTo) {
			best = i
		}
	}
	if best < 0 {
		return out, field.Errorf("grades", "no gasket is for pistons that stand %s proud", out.Highest)
	}
	out.Grade = in.Grades[best].Name
	return out, nil
}
