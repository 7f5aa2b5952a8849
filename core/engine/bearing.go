package engine

import (
	"fmt"
	"slices"

	"yatai/core/field"
	"yatai/core/length"
)

// Shell is a bearing shell by name and thickness.
type Shell struct {
	Name      string        `json:"name" doc:"mark of the shell"`
	Thickness length.Length `json:"thickness" doc:"wall thickness"`
}

// Code is a mark that stands for a range of sizes: the letter stamped on a case.
type Code struct {
	Name string        `json:"name" doc:"the mark"`
	Low  length.Length `json:"low" doc:"least size it stands for, inclusive"`
	High length.Length `json:"high" doc:"largest size it stands for, inclusive"`
}

// BearingInput is a housing, its journal and the shells to be had.
type BearingInput struct {
	Housing      length.Length `json:"housing" doc:"housing bore"`
	Journal      length.Length `json:"journal" doc:"journal diameter"`
	Shells       []Shell       `json:"shells" doc:"shells to be had"`
	Low          length.Length `json:"low" bound:"signed" doc:"least clearance, inclusive"`
	High         length.Length `json:"high" bound:"signed" doc:"most clearance, inclusive"`
	HousingCodes []Code        `json:"housing_codes" opt:"" doc:"marks of the housing with what they stand for"`
	JournalCodes []Code        `json:"journal_codes" opt:"" doc:"marks of the journal with what they stand for"`
}

// BearingOutput is the clearance per shell and the shell to fit; and, where codes were
// given, the mark each reading belongs to, nil when none holds it.
type BearingOutput struct {
	Clearance   []length.Length `json:"clearance_nm"`
	Choice      *string         `json:"choice"`
	HousingCode *string         `json:"housing_code"`
	JournalCode *string         `json:"journal_code"`
}

// Bearing computes housing - journal - 2 × thickness per shell and chooses the one inside
// the range and nearest its middle, the first of equals. The first code whose range holds
// a reading is its own: is the letter stamped on the case still true?
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
	var err error
	if out.HousingCode, err = codeOf("housing_codes", in.Housing, in.HousingCodes); err != nil {
		return BearingOutput{}, err
	}
	out.JournalCode, err = codeOf("journal_codes", in.Journal, in.JournalCodes)
	return out, err
}

// codeOf is the first of the codes that holds a size.
func codeOf(path string, size length.Length, codes []Code) (*string, error) {
	for i, c := range codes {
		if c.Low > c.High {
			return nil, field.Errorf(fmt.Sprintf("%s[%d].low", path, i), "the lower limit is above the upper")
		}
	}
	i := slices.IndexFunc(codes, func(c Code) bool { return size >= c.Low && size <= c.High })
	if i < 0 {
		return nil, nil
	}
	return &codes[i].Name, nil
}

// Bore is a cylinder bore as read: one list, or by its places.
type Bore struct {
	All    []length.Length `json:"all" opt:"" list:"here" doc:"bore readings, wherever they were taken"`
	Top    []length.Length `json:"top" opt:"" doc:"readings near the top"`
	Middle []length.Length `json:"middle" opt:"" doc:"readings in the middle"`
	Bottom []length.Length `json:"bottom" opt:"" doc:"readings near the bottom"`
}

// PistonInput is a bore and its piston. With a limit the readings are judged.
type PistonInput struct {
	Bore   Bore           `json:"bore" doc:"bore readings: a list, or by place"`
	Piston length.Length  `json:"piston" doc:"piston diameter"`
	Low    *length.Length `json:"low" bound:"signed" opt:"" doc:"least clearance, inclusive"`
	High   *length.Length `json:"high" bound:"signed" opt:"" doc:"most clearance, inclusive"`
}

// PistonOutput is the piston's clearance. Taper is nil without readings at top and bottom,
// Verdict without a limit.
type PistonOutput struct {
	Clearance  length.Length  `json:"clearance_nm"`    // mean of the bore readings - piston
	Least      length.Length  `json:"least_nm"`        // smallest bore reading - piston
	Taper      *length.Length `json:"taper_nm"`        // mean of top - mean of bottom
	OutOfRound length.Length  `json:"out_of_round_nm"` // the largest over places of largest - smallest
	Fits       bool           `json:"fits"`            // Least is more than 0
	// sound when every reading's clearance is inside, else out
	Verdict *string `json:"verdict"`
}

// Piston computes what is left between a bore and its piston.
func Piston(in PistonInput) (PistonOutput, error) {
	b := in.Bore
	all := slices.Concat(b.All, b.Top, b.Middle, b.Bottom)
	if len(all) == 0 {
		return PistonOutput{}, field.Errorf("bore", "no reading of the bore")
	}
	if in.Low != nil && in.High != nil && *in.Low > *in.High {
		return PistonOutput{}, field.Errorf("low", "the lower limit is above the upper")
	}
	m := length.MeanRat(all)
	out := PistonOutput{Clearance: length.Round(m.Sub(m, in.Piston.Rat())), Least: slices.Min(all) - in.Piston}
	out.Fits = out.Least > 0
	for _, at := range [][]length.Length{b.All, b.Top, b.Middle, b.Bottom} {
		if len(at) > 0 {
			out.OutOfRound = max(out.OutOfRound, slices.Max(at)-slices.Min(at))
		}
	}
	if len(b.Top) > 0 && len(b.Bottom) > 0 {
		t := length.MeanRat(b.Top)
		taper := length.Round(t.Sub(t, length.MeanRat(b.Bottom)))
		out.Taper = &taper
	}
	if in.Low != nil || in.High != nil {
		verdict := "sound"
		if in.Low != nil && out.Least < *in.Low || in.High != nil && slices.Max(all)-in.Piston > *in.High {
			verdict = "out"
		}
		out.Verdict = &verdict
	}
	return out, nil
}
