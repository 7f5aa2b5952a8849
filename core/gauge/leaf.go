package gauge

import (
	"yatai/core/field"
	"yatai/core/length"
)

// LeafInput is a set of feelers and the leaves that were tried.
type LeafInput struct {
	Set   []length.Length `json:"set" doc:"the leaves of the set"`
	Goes  length.Length   `json:"goes" bound:"nonneg" doc:"the leaf that goes, with a light drag"`
	Stops *length.Length  `json:"stops" opt:"" doc:"the leaf that does not; without it the next of the set is taken"`
}

// LeafOutput is the gap as a bracket.
type LeafOutput struct {
	Go   length.Length `json:"go_nm"`
	NoGo length.Length `json:"nogo_nm"`
}

// Leaf reads one leaf, or two, as a bracket: a leaf alone stands for the gap up to the next larger of its
// set.
func Leaf(in LeafInput) (LeafOutput, error) {
	out := LeafOutput{Go: in.Goes}
	if in.Stops != nil {
		if out.NoGo = *in.Stops; out.NoGo <= out.Go {
			return out, field.Errorf("stops", "the leaf that does not go is thicker than the one that goes")
		}
		return out, nil
	}
	for _, leaf := range in.Set {
		if leaf > out.Go && (out.NoGo == 0 || leaf < out.NoGo) {
			out.NoGo = leaf
		}
	}
	if out.NoGo == 0 {
		return out, field.Errorf("goes", "the set has no larger leaf: try one that stops")
	}
	return out, nil
}
