package seating

import (
	"math/big"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
)

// CounterboreInput is an insert and how it is to sit.
type CounterboreInput struct {
	Outer        length.Length `json:"insert_outer" doc:"the insert's outside diameter"`
	Interference length.Length `json:"interference" bound:"nonneg" doc:"how tight it is pressed"`
	Height       length.Length `json:"insert_height" doc:"the insert's height"`
	StandUp      length.Length `json:"stand_up" bound:"signed" doc:"how far it stands out of the counterbore; negative sinks it"`
}

// CounterboreOutput is the counterbore to make.
type CounterboreOutput struct {
	Bore  length.Length `json:"bore_nm"`
	Depth length.Length `json:"depth_nm"`
}

// Counterbore works out the hole for an insert: its bore is the outside less the interference, its depth
// the height less what stands up.
func Counterbore(in CounterboreInput) (CounterboreOutput, error) {
	out := CounterboreOutput{Bore: in.Outer - in.Interference, Depth: in.Height - in.StandUp}
	switch {
	case out.Bore <= 0:
		return out, field.Errorf("interference", "more than the insert itself")
	case out.Depth <= 0:
		return out, field.Errorf("stand_up", "the insert would not stand in the head at all")
	}
	return out, nil
}

// SealInput is a stem seal with its guide and stem. A squeeze's range has two ends.
type SealInput struct {
	GuideOuter   length.Length   `json:"guide_outer" doc:"guide outside, where the seal sits"`
	SealBore     length.Length   `json:"seal_bore" doc:"the seal's body, inside"`
	Stem         length.Length   `json:"stem" doc:"the valve's stem"`
	LipBore      length.Length   `json:"lip_bore" doc:"the seal's lip, inside"`
	GuideSqueeze []length.Length `json:"guide_squeeze" bound:"signed" doc:"least and most squeeze on the guide, inclusive"`
	LipSqueeze   []length.Length `json:"lip_squeeze" bound:"signed" doc:"least and most squeeze on the stem, inclusive"`
}

// SealOutput is how a seal grips: inside, under or over its range.
type SealOutput struct {
	GuideSqueeze length.Length `json:"guide_squeeze_nm"`
	LipSqueeze   length.Length `json:"lip_squeeze_nm"`
	Guide        string        `json:"guide"`
	Lip          string        `json:"lip"`
}

// Seal holds both grips of a stem seal against the ranges its kind gives.
func Seal(in SealInput) (SealOutput, error) {
	out := SealOutput{GuideSqueeze: in.GuideOuter - in.SealBore, LipSqueeze: in.Stem - in.LipBore}
	var err error
	if out.Guide, err = within("guide_squeeze", out.GuideSqueeze, in.GuideSqueeze); err != nil {
		return out, err
	}
	out.Lip, err = within("lip_squeeze", out.LipSqueeze, in.LipSqueeze)
	return out, err
}

func within(path string, at length.Length, ends []length.Length) (string, error) {
	switch {
	case len(ends) != 2 || ends[0] > ends[1]:
		return "", field.Errorf(path, "the least and the most, in that order")
	case at < ends[0]:
		return "under", nil
	case at > ends[1]:
		return "over", nil
	}
	return "inside", nil
}

// AngleInput is a valve's face and its seat, and the interference the shop's school wants.
type AngleInput struct {
	Face   quantity.Degrees `json:"face" bound:"positive" doc:"the valve face's angle"`
	Seat   quantity.Degrees `json:"seat" bound:"positive" doc:"the seat's angle"`
	Wanted quantity.Degrees `json:"wanted" doc:"interference wanted: the seat steeper than the face by so much"`
	Within quantity.Degrees `json:"within" bound:"nonneg" doc:"how far off it may be, inclusive"`
}

// AngleOutput is the interference angle in thousandths of a degree and where the contact begins.
type AngleOutput struct {
	Interference int64  `json:"interference_mdeg"`
	Contact      string `json:"contact"` // outer, inner or full
	OK           bool   `json:"ok"`
}

// Angle compares a face with its seat: a flatter face touches at its outer edge first.
func Angle(in AngleInput) (AngleOutput, error) {
	if in.Face.Float() >= 90 || in.Seat.Float() >= 90 {
		path := "face"
		if in.Face.Float() < 90 {
			path = "seat"
		}
		return AngleOutput{}, field.Errorf(path, "an angle from the face plane lies below 90 degrees")
	}
	diff := new(big.Rat).Sub(in.Seat.Rat(), in.Face.Rat())
	off := new(big.Rat).Sub(diff, in.Wanted.Rat())
	thousandths := length.Round(new(big.Rat).Mul(diff, big.NewRat(1000, 1)))
	out := AngleOutput{
		Interference: int64(thousandths), Contact: "full", OK: off.Abs(off).Cmp(in.Within.Rat()) <= 0,
	}
	switch diff.Sign() {
	case 1:
		out.Contact = "outer"
	case -1:
		out.Contact = "inner"
	}
	return out, nil
}
