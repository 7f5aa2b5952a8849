package gauge

import (
	"math"
	"slices"

	"yatai/core/quantity"
)

// Ranges is the range chart of a study: how far apart the trials of one person at one part lie. Chance keeps
// them under Most, D4 mean ranges; what lies above was read otherwise than the rest, by a slip, a burr or a
// hand that does not hold the tool as the others do.
type Ranges struct {
	Of   [][]quantity.Amount // by person and part
	Mean quantity.Amount
	Most quantity.Amount
	Out  []Cell // above it, in the order of people and parts
}

// Cell is a person at a part of a study, both counted from 0.
type Cell struct{ Person, Part int }

// d4 is D4 by trials: how many mean ranges three standard deviations of a range reach, from 2 trials on. Of
// normal readings, from tables of the usual control charts.
var d4 = []float64{3.267, 2.574, 2.282, 2.114, 2.004, 1.924, 1.864, 1.816, 1.777}

// Ranges charts a study's ranges. It returns a *field.Error for a study that is not crossed; ok is false for
// more trials than ten, where ranges say less than deviations.
func (in StudyInput) Ranges() (r Ranges, ok bool, err error) {
	if err := in.check(); err != nil {
		return r, false, err
	}
	trials := len(in.Readings[0][0])
	if trials-2 >= len(d4) {
		return r, false, nil
	}
	sum, n := quantity.Amount(0), quantity.Amount(0)
	for _, person := range in.Readings {
		var of []quantity.Amount
		for _, rs := range person {
			of = append(of, slices.Max(rs)-slices.Min(rs))
			sum, n = sum+of[len(of)-1], n+1
		}
		r.Of = append(r.Of, of)
	}
	mean := float64(sum) / float64(n)
	r.Mean = quantity.Amount(math.Round(mean))
	r.Most = quantity.Amount(math.Round(mean * d4[trials-2]))
	for i, of := range r.Of {
		for k, x := range of {
			if float64(x) > mean*d4[trials-2] {
				r.Out = append(r.Out, Cell{i, k})
			}
		}
	}
	return r, true, nil
}
