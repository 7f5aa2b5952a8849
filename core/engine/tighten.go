package engine

import (
	"fmt"
	"math"
	"slices"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
)

// Bolt is a bolt by id and place on the face.
type Bolt struct {
	ID string        `json:"id" doc:"bolt"`
	X  length.Length `json:"x" bound:"signed" doc:"along the head"`
	Y  length.Length `json:"y" bound:"signed" doc:"across the head"`
}

// TightenInput is a bolt pattern with the stages to pull it down in.
type TightenInput struct {
	Bolts  []Bolt   `json:"bolts" doc:"the bolts"`
	Stages []string `json:"stages" opt:"" empty:"yes" doc:"torques, one pass each: 30Nm"`
	Steps  []string `json:"steps" opt:"" empty:"yes" doc:"angles after the torques, one pass each: 90deg"`
}

// Pass is one go round the bolts.
type Pass struct {
	Stage string   `json:"stage"`
	Order []string `json:"order"`
}

// TightenOutput is the order of a pass and the passes in turn.
type TightenOutput struct {
	Order  []string `json:"order"`
	Passes []Pass   `json:"passes"`
}

// sameRing is how much two bolts' distances from the middle may differ and still count
// as equal: castings are not drawn to the micrometre.
const sameRing = float64(length.Millimetre / 2)

// Tighten orders bolts from the middle of the pattern outwards, crossing sides: rings
// of equal distance in turn, and within a ring always the bolt farthest from the one
// just pulled. It is a proposal: a maker's own order goes before it.
func Tighten(in TightenInput) (TightenOutput, error) {
	if len(in.Bolts) > maxBolts {
		return TightenOutput{}, field.Errorf("bolts", "more than %d bolts", maxBolts)
	}
	if err := checkTighten(in); err != nil {
		return TightenOutput{}, err
	}
	lo, hi := in.Bolts[0], in.Bolts[0]
	for _, b := range in.Bolts {
		lo.X, lo.Y, hi.X, hi.Y = min(lo.X, b.X), min(lo.Y, b.Y), max(hi.X, b.X), max(hi.Y, b.Y)
	}
	mx, my := float64(lo.X+hi.X)/2, float64(lo.Y+hi.Y)/2
	fromMiddle := func(b Bolt) float64 { return math.Hypot(float64(b.X)-mx, float64(b.Y)-my) }
	left := slices.SortedStableFunc(slices.Values(in.Bolts), func(a, b Bolt) int {
		return int(fromMiddle(a)/float64(length.Micrometre)) - int(fromMiddle(b)/float64(length.Micrometre))
	})
	var out TightenOutput
	last := Bolt{X: length.Length(mx), Y: length.Length(my)}
	for len(left) > 0 {
		ring := 1
		for ring < len(left) && fromMiddle(left[ring])-fromMiddle(left[0]) <= sameRing {
			ring++
		}
		far, best := 0, -1.0
		for i, b := range left[:ring] {
			if d := math.Hypot(float64(b.X-last.X), float64(b.Y-last.Y)); d > best+1 {
				far, best = i, d
			}
		}
		last = left[far]
		out.Order = append(out.Order, last.ID)
		left = slices.Delete(left, far, far+1)
	}
	for _, s := range slices.Concat(in.Stages, in.Steps) {
		out.Passes = append(out.Passes, Pass{s, out.Order})
	}
	return out, nil
}

// Bounds on a pattern: no head has more bolts, or is pulled down in more passes.
const (
	maxBolts  = 500
	maxPasses = 20
)

func checkTighten(in TightenInput) error {
	seen := map[string]bool{}
	for i, b := range in.Bolts {
		if seen[b.ID] {
			return field.Errorf(fmt.Sprintf("bolts[%d].id", i), "%s is there twice", b.ID)
		}
		seen[b.ID] = true
	}
	if len(in.Stages)+len(in.Steps) > maxPasses {
		return field.Errorf("stages", "more than %d stages and steps", maxPasses)
	}
	for _, list := range []struct {
		path  string
		texts []string
		kind  quantity.Kind
	}{{"stages", in.Stages, quantity.Torque}, {"steps", in.Steps, quantity.Angle}} {
		for i, t := range list.texts {
			at := fmt.Sprintf("%s[%d]", list.path, i)
			n, err := quantity.Parse(t, list.kind)
			if err != nil {
				return field.Under(at, err)
			}
			if n.Sign() <= 0 {
				return field.Errorf(at, "must be more than nothing")
			}
		}
	}
	return nil
}
