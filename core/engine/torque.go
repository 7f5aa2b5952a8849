package engine

import (
	"fmt"
	"math"
	"math/big"

	"yatai/core/field"
	"yatai/core/quantity"
)

// TorqueStage is one stage of pulling bolts down: a torque, an angle, or a slackening.
type TorqueStage struct {
	Torque  string            `json:"torque" opt:"" doc:"30Nm, 22lbft, 265lbin"`
	Angle   *quantity.Degrees `json:"angle" bound:"positive" opt:"" doc:"90deg"`
	Slacken bool              `json:"slacken" opt:"" doc:"the bolts are slackened"`
}

// TorqueInput is the stages of a book, and the unit they are wanted in.
type TorqueInput struct {
	Stages []TorqueStage `json:"stages" doc:"in turn"`
	Unit   string        `json:"unit" choices:"Nm,lbft" doc:"what torques are wanted in"`
}

// TorqueStep is a stage as it is wanted: one of its fields.
type TorqueStep struct {
	NewtonMetres *quantity.Decimal `json:"newton_metres,omitempty"`
	PoundFeet    *quantity.Decimal `json:"pound_feet,omitempty"`
	Degrees      *quantity.Decimal `json:"deg,omitempty"`
	Slacken      bool              `json:"slacken,omitempty"`
}

// TorqueOutput is the stages as they are wanted.
type TorqueOutput struct {
	Stages []TorqueStep `json:"stages"`
}

// maxStages bounds a book's stages.
const maxStages = 100

// Torque tells stages in a unit, to one decimal. A torque that is not above the one before it is refused,
// unless the bolts are slackened between.
func Torque(in TorqueInput) (TorqueOutput, error) {
	if len(in.Stages) > maxStages {
		return TorqueOutput{}, field.Errorf("stages", "more than %d stages", maxStages)
	}
	var out TorqueOutput
	var last *big.Rat
	for i, s := range in.Stages {
		at := fmt.Sprintf("stages[%d]", i)
		var step TorqueStep
		switch {
		case (s.Torque != "") == (s.Angle != nil) && !s.Slacken || s.Slacken && (s.Torque != "" || s.Angle != nil):
			return TorqueOutput{}, field.Errorf(at, "one of torque, angle and slacken")
		case s.Slacken:
			step.Slacken, last = true, nil
		case s.Angle != nil:
			d := quantity.Decimal(s.Angle.Float())
			step.Degrees = &d
		default:
			n, err := quantity.Parse(s.Torque, quantity.Torque)
			if err != nil {
				return TorqueOutput{}, field.Under(at+".torque", err)
			}
			if n.Sign() <= 0 || last != nil && n.Cmp(last) <= 0 {
				return TorqueOutput{}, field.Errorf(at+".torque",
					"a torque is above the one before it, unless the bolts are slackened between")
			}
			last = n
			step.NewtonMetres, step.PoundFeet = told(n, in.Unit)
		}
		out.Stages = append(out.Stages, step)
	}
	return out, nil
}

// told is a torque to one decimal, in the unit wanted.
func told(nm *big.Rat, unit string) (newtonMetres, poundFeet *quantity.Decimal) {
	tenth := func(n *big.Rat) *quantity.Decimal {
		x := quantity.Decimal(math.Round(10*quantity.Float(n)) / 10)
		return &x
	}
	if unit == "Nm" {
		return tenth(nm), nil
	}
	one, err := quantity.Parse("1lbft", quantity.Torque)
	if err != nil {
		panic(err) // the unit is one of the kind's
	}
	return nil, tenth(new(big.Rat).Quo(nm, one))
}
