package valvetrain

import (
	"math/big"

	"yatai/core/length"
)

// NewValve is how a new valve differs from the one measured as it is: its own margin, and
// what is longer about it. A thicker margin puts its seat line that much further from the
// head's flat, so that the whole valve sits lower: a new valve is the inverse of all the
// grinding the old one has had.
type NewValve struct {
	Margin       length.Length `json:"margin" doc:"margin of the new valve"`
	LengthChange length.Length `json:"length_change" bound:"signed" doc:"overall length of the new valve, less that of the present one as it is"`
	GrooveChange length.Length `json:"groove_change" bound:"signed" doc:"head's flat to keeper groove of the new valve, less that of the present one"`
}

// StackInput is one valve as measured and a set of actions on it. All lengths are
// along the stem's axis; a cut of thickness n, normal to a face at angle a, sinks the
// valve by n / cos a.
type StackInput struct {
	Drive          string        `json:"drive" choices:"bucket,rocker" doc:"what opens the valve: a bucket under a cam in the head, or a rocker with pushrod"`
	Ratio          *big.Rat      `json:"ratio" bound:"positive" doc:"rocker ratio; 1 for a bucket"`
	Recession      length.Length `json:"recession" bound:"signed" doc:"valve head below the face, positive; above it, negative"`
	StemHeight     length.Length `json:"stem_height" doc:"stem tip above its datum, valve seated"`
	SpringHeight   length.Length `json:"spring_height" doc:"retainer's underside to pad, installed"`
	Lash           length.Length `json:"lash" bound:"signed" doc:"lash at the valve as it is"`
	Margin         length.Length `json:"margin" bound:"nonneg" doc:"thickness of the valve's rim"`
	FaceCut        length.Length `json:"face_cut" bound:"nonneg" doc:"taken off the head's face"`
	GasketChange   length.Length `json:"gasket_change" bound:"signed" doc:"new gasket thickness less old"`
	SeatCut        length.Length `json:"seat_cut" bound:"signed" doc:"how much deeper the seat gets; negative with a new insert"`
	FaceGrind      length.Length `json:"face_grind" bound:"nonneg" doc:"what refacing sinks the valve by"`
	TipGrind       length.Length `json:"tip_grind" bound:"nonneg" doc:"taken off the stem's tip"`
	LashShimChange length.Length `json:"lash_shim_change" bound:"signed" doc:"new lash shim less old"`
	PushrodChange  length.Length `json:"pushrod_change" bound:"signed" doc:"new pushrod length less old"`
	SpringShim     length.Length `json:"spring_shim" bound:"nonneg" doc:"shim put under the spring"`
	PadCut         length.Length `json:"pad_cut" bound:"nonneg" doc:"cut off the spring's pad"`
	NewValve       *NewValve     `json:"new_valve" opt:"" doc:"a new valve, if one goes in"`
}

// StackOutput is the valve after the actions.
type StackOutput struct {
	Recession    length.Length `json:"recession_nm"`
	Margin       length.Length `json:"margin_nm"`
	StemHeight   length.Length `json:"stem_height_nm"`
	SpringHeight length.Length `json:"spring_height_nm"`
	Rise         length.Length `json:"rise_nm"` // new stem height less old
	Lash         length.Length `json:"lash_nm"`
}

// Stack computes what a set of actions does to one valve. With seat cut s, face grind
// f, face cut c, tip grind t and, for a new valve, m = new margin - margin:
//
//	recession' = recession + s + f - c - m
//	margin'    = (new margin or margin) - f
//	stem'      = stem + s + f - t - m + length change
//	spring'    = spring + s + f - m + groove change - spring shim + pad cut
//	rise e     = stem' - stem
//	lash'      = lash - e - lash shim change                       (bucket)
//	lash'      = lash - e + ratio (gasket change - c - pushrod change)  (rocker)
func Stack(in StackInput) (StackOutput, error) {
	nv := NewValve{Margin: in.Margin}
	if in.NewValve != nil {
		nv = *in.NewValve
	}
	sink := in.SeatCut + in.FaceGrind
	out := StackOutput{
		Recession:  in.Recession + sink - in.FaceCut - (nv.Margin - in.Margin),
		Margin:     nv.Margin - in.FaceGrind,
		StemHeight: in.StemHeight + sink - in.TipGrind - (nv.Margin - in.Margin) + nv.LengthChange,
		SpringHeight: in.SpringHeight + sink - (nv.Margin - in.Margin) + nv.GrooveChange - in.SpringShim +
			in.PadCut,
	}
	out.Rise = out.StemHeight - in.StemHeight
	out.Lash = in.Lash - out.Rise
	if in.Drive == "bucket" {
		out.Lash -= in.LashShimChange
		return out, nil
	}
	move := (in.GasketChange - in.FaceCut - in.PushrodChange).Rat()
	out.Lash = length.Round(move.Mul(move, in.Ratio).Add(move, out.Lash.Rat()))
	return out, nil
}

// Sized is a length together with the text it was given as.
type Sized struct {
	Text string
	Size length.Length
}

// PushrodInput is a rocker's lash and the pushrods to be had.
type PushrodInput struct {
	Lash      length.Length `json:"lash" bound:"signed" doc:"lash now, at the valve"`
	Ratio     *big.Rat      `json:"ratio" bound:"positive" doc:"rocker ratio"`
	Present   length.Length `json:"present" doc:"pushrod fitted now"`
	Available []Sized       `json:"available" doc:"pushrods to be had"`
	Low       length.Length `json:"low" bound:"signed" doc:"least lash, inclusive"`
	High      length.Length `json:"high" bound:"signed" doc:"most lash, inclusive"`
}

// PushrodOutput is the lash each pushrod would give, and the one to fit.
type PushrodOutput struct {
	Lash   []length.Length `json:"lash_nm"`
	Choice *string         `json:"choice"`
}

// Pushrod computes the lash with each pushrod, lash + ratio (present - new), and
// chooses the one inside the range and nearest its middle, the first of equals.
func Pushrod(in PushrodInput) (PushrodOutput, error) {
	if err := ordered("low", in.Low, in.High); err != nil {
		return PushrodOutput{}, err
	}
	var out PushrodOutput
	best := -1
	off := func(i int) length.Length { return (2*out.Lash[i] - in.Low - in.High).Abs() }
	for i, p := range in.Available {
		move := (in.Present - p.Size).Rat()
		lash := length.Round(move.Mul(move, in.Ratio).Add(move, in.Lash.Rat()))
		out.Lash = append(out.Lash, lash)
		if lash >= in.Low && lash <= in.High && (best < 0 || off(i) < off(best)) {
			best = i
		}
	}
	if best >= 0 {
		out.Choice = &in.Available[best].Text
	}
	return out, nil
}
