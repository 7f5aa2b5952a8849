package gauge

import (
	"fmt"
	"math"
	"math/big"

	"gonum.org/v1/gonum/mathext"

	"yatai/core/field"
	"yatai/core/quantity"
)

// StudyInput is a crossed study: every person read every part the same number of times,
// blind. Readings are by person, part and trial.
type StudyInput struct {
	Readings [][][]quantity.Amount `json:"readings" doc:"by person, part and trial; two people, two parts and two trials at least"`
	Alpha    *big.Rat              `json:"alpha" bound:"nonneg" opt:"" doc:"the interaction counts as repeatability when its probability is above this; else 0.25"`
}

// StudyOutput is what a study says of a tool with its method: standard deviations, rounded
// once each. A variance below 0 counts as 0.
type StudyOutput struct {
	Interaction     quantity.Amount  `json:"interaction_nm"`     // of people with parts; 0 when pooled
	PInteraction    quantity.Decimal `json:"p_interaction"`      // probability of its F against the error
	Pooled          bool             `json:"pooled"`             // the interaction counts as repeatability
	Repeatability   quantity.Amount  `json:"repeatability_nm"`   // one person, one part, again
	Reproducibility quantity.Amount  `json:"reproducibility_nm"` // between people: theirs and the interaction's
	GRR             quantity.Amount  `json:"grr_nm"`             // both, root of squares
	Part            quantity.Amount  `json:"part_nm"`            // between the parts
	Total           quantity.Amount  `json:"total_nm"`           // GRR and part, root of squares
	// whole part of sqrt 2 part / GRR; nil when GRR is 0
	Categories *int `json:"categories"`
	share      float64
}

// U is the expanded uncertainty (k = 2) a tool has by the study: twice GRR, in the unit that
// was read.
func (s StudyOutput) U() quantity.Amount { return 2 * s.GRR }

// Share is GRR of all that was seen to vary, 0 to 1.
func (s StudyOutput) Share() float64 { return s.share }

// maxStudy bounds a study's readings.
const maxStudy = 5000

func (in StudyInput) check() error {
	if len(in.Readings) < 2 {
		return field.Errorf("readings", "two people at least")
	}
	parts, trials, all := len(in.Readings[0]), 0, 0
	for i, person := range in.Readings {
		at := fmt.Sprintf("readings[%d]", i)
		if len(person) < 2 {
			return field.Errorf(at, "two parts at least")
		}
		if len(person) != parts {
			return field.Errorf(at, "every person reads every part")
		}
		for k, rs := range person {
			if i == 0 && k == 0 {
				trials = len(rs)
			}
			if len(rs) < 2 || len(rs) != trials {
				return field.Errorf(fmt.Sprintf("%s[%d]", at, k), "two readings at least, the same number everywhere")
			}
			if all += len(rs); all > maxStudy {
				return field.Errorf("readings", "more than %d readings", maxStudy)
			}
		}
	}
	return nil
}

// Study works out a tool's repeatability and reproducibility by analysis of variance with
// people, parts and their interaction. When the interaction's probability is above alpha it
// is pooled into repeatability. It returns a *field.Error for a study that is not crossed.
func Study(in StudyInput) (StudyOutput, error) {
	if err := in.check(); err != nil {
		return StudyOutput{}, err
	}
	alpha := 0.25
	if in.Alpha != nil {
		alpha = quantity.Float(in.Alpha)
	}
	sq := in.squares()
	var out StudyOutput
	repeat, msCell := sq.errors/sq.dfErrors, sq.cell/sq.dfCell
	out.PInteraction = quantity.Decimal(tail(msCell, repeat, sq.dfCell, sq.dfErrors))
	out.Pooled = float64(out.PInteraction) > alpha
	if out.Pooled {
		repeat = (sq.errors + sq.cell) / (sq.dfErrors + sq.dfCell)
		msCell = repeat
	}
	interaction := max(0, (msCell-repeat)/sq.trials)
	person := max(0, (sq.person/(sq.people-1)-msCell)/(sq.parts*sq.trials))
	part := max(0, (sq.part/(sq.parts-1)-msCell)/(sq.people*sq.trials))
	between := person + interaction
	sd := func(variance float64) quantity.Amount { return quantity.Amount(math.Round(math.Sqrt(variance))) }
	out.Repeatability, out.Interaction, out.Reproducibility = sd(repeat), sd(interaction), sd(between)
	out.GRR, out.Part, out.Total = sd(repeat+between), sd(part), sd(repeat+between+part)
	if grr := math.Sqrt(repeat + between); grr > 0 {
		n := int(math.Sqrt2 * math.Sqrt(part) / grr)
		out.Categories, out.share = &n, grr/math.Sqrt(repeat+between+part)
	}
	return out, nil
}

// tail is the probability of a ratio of two mean squares as large as this or larger.
func tail(ms, err, df, dfErr float64) float64 {
	switch {
	case err > 0:
		// the upper tail itself: 1 - CDF would lose it
		return mathext.RegIncBeta(dfErr/2, df/2, dfErr/(dfErr+df*ms/err))
	case ms > 0:
		return 0
	}
	return 1
}

// squares are a study's sums of squares, in nanometres squared, with their counts.
type squares struct {
	people, parts, trials      float64
	person, part, cell, errors float64
	dfCell, dfErrors           float64
}

func (in StudyInput) squares() squares {
	s := squares{
		people: float64(len(in.Readings)), parts: float64(len(in.Readings[0])),
		trials: float64(len(in.Readings[0][0])),
	}
	s.dfCell, s.dfErrors = (s.people-1)*(s.parts-1), s.people*s.parts*(s.trials-1)
	base := in.Readings[0][0][0] // squares of small numbers lose less
	var all float64
	person, part := make([]float64, len(in.Readings)), make([]float64, len(in.Readings[0]))
	cell := make([][]float64, len(person))
	for i := range person {
		cell[i] = make([]float64, len(part))
		for k := range part {
			for _, l := range in.Readings[i][k] {
				cell[i][k] += float64(l-base) / s.trials
			}
			person[i] += cell[i][k] / s.parts
			part[k] += cell[i][k] / s.people
			all += cell[i][k] / (s.people * s.parts)
		}
	}
	for _, m := range person {
		s.person += s.parts * s.trials * (m - all) * (m - all)
	}
	for k, m := range part {
		s.part += s.people * s.trials * (m - all) * (m - all)
		for i := range person {
			d := cell[i][k] - person[i] - m + all
			s.cell += s.trials * d * d
			for _, l := range in.Readings[i][k] {
				e := float64(l-base) - cell[i][k]
				s.errors += e * e
			}
		}
	}
	return s
}

// ToolU is the expanded uncertainty U (k = 2) of a tool: the root of the squares of what its
// certificate says, what a study of people and parts said (0 without one), and what its display
// can show, resolution / sqrt 12, doubled. It is never zero for a tool that shows numbers.
func ToolU(certificate, study, resolution quantity.Amount) quantity.Amount {
	shows := float64(resolution) / math.Sqrt(12) * 2
	return quantity.Amount(math.Round(
		math.Sqrt(float64(certificate)*float64(certificate) + float64(study)*float64(study) + shows*shows),
	))
}
