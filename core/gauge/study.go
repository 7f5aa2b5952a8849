package gauge

import (
	"fmt"
	"math"

	"yatai/core/field"
	"yatai/core/length"
)

// StudyInput is a crossed study: every person read every part the same number of times,
// blind. Readings[person][part][trial].
type StudyInput struct {
	People   []string            `json:"people" doc:"who read"`
	Parts    []string            `json:"parts" doc:"what was read"`
	Readings [][][]length.Length `json:"readings" doc:"by person, part and trial"`
}

// Components are standard deviations of a study by one method. A component that comes out
// below nothing is nothing.
type Components struct {
	Repeatability   length.Length `json:"repeatability_nm"`   // one person, one part, again
	Reproducibility length.Length `json:"reproducibility_nm"` // between people
	RR              length.Length `json:"rr_nm"`              // both, root of squares
	Part            length.Length `json:"part_nm"`            // between the parts
	U               length.Length `json:"u_nm"`               // 2 x RR: expanded, k = 2
	Share           float64       `json:"share"`              // RR of all that was seen, 0 to 1
}

// StudyOutput is a study worked out by both methods.
type StudyOutput struct {
	Range    Components `json:"range"`
	Variance Components `json:"variance"`
}

// The range method's factors: the inverse of the mean range of n normal values in standard
// deviations, for many samples (trials) and for a single one (people, parts).
var (
	trialFactor  = map[int]float64{2: 0.8862, 3: 0.5908, 4: 0.4857, 5: 0.4299}
	singleFactor = map[int]float64{2: 0.7071, 3: 0.5231, 4: 0.4467, 5: 0.4030, 6: 0.3742, 7: 0.3534, 8: 0.3375, 9: 0.3249, 10: 0.3146}
)

func (in StudyInput) check() error {
	if n := len(in.People); n < 2 || n > 3 {
		return field.Errorf("people", "two or three people")
	}
	if n := len(in.Parts); n < 5 || n > 10 {
		return field.Errorf("parts", "five to ten parts")
	}
	if len(in.Readings) != len(in.People) {
		return field.Errorf("readings", "one list for each person")
	}
	trials := 0
	for i, parts := range in.Readings {
		if len(parts) != len(in.Parts) {
			return field.Errorf(fmt.Sprintf("readings[%d]", i), "one list for each part")
		}
		for k, rs := range parts {
			if trials == 0 {
				trials = len(rs)
			}
			if len(rs) != trials || trials < 2 || trials > 3 {
				return field.Errorf(fmt.Sprintf("readings[%d][%d]", i, k), "two or three readings, the same number everywhere")
			}
		}
	}
	return nil
}

// Study works out a tool's repeatability and reproducibility, by ranges and by analysis of
// variance with the interaction of people and parts pooled into reproducibility. It returns
// a *field.Error for a study that is not crossed.
func Study(in StudyInput) (StudyOutput, error) {
	if err := in.check(); err != nil {
		return StudyOutput{}, err
	}
	return StudyOutput{in.byRange(), in.byVariance()}, nil
}

// means returns the means by person and part, by person, by part, and of all.
func (in StudyInput) means() (cell [][]float64, person, part []float64, all float64) {
	p, n, r := float64(len(in.People)), float64(len(in.Parts)), float64(len(in.Readings[0][0]))
	part = make([]float64, len(in.Parts))
	for i := range in.People {
		row := make([]float64, len(in.Parts))
		for k := range in.Parts {
			for _, l := range in.Readings[i][k] {
				row[k] += float64(l) / r
			}
			part[k] += row[k] / p
		}
		cell, person = append(cell, row), append(person, mean(row))
	}
	return cell, person, part, mean(part[:int(n)])
}

func mean(xs []float64) float64 {
	var sum float64
	for _, x := range xs {
		sum += x
	}
	return sum / float64(len(xs))
}

func spread(xs []float64) float64 {
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, x := range xs {
		lo, hi = math.Min(lo, x), math.Max(hi, x)
	}
	return hi - lo
}

func (in StudyInput) byRange() Components {
	_, person, part, _ := in.means()
	trials, n := len(in.Readings[0][0]), float64(len(in.Parts))
	var ranges []float64
	for i := range in.People {
		for k := range in.Parts {
			var rs []float64
			for _, l := range in.Readings[i][k] {
				rs = append(rs, float64(l))
			}
			ranges = append(ranges, spread(rs))
		}
	}
	ev := mean(ranges) * trialFactor[trials]
	av2 := math.Pow(spread(person)*singleFactor[len(in.People)], 2) - ev*ev/(n*float64(trials))
	return components(ev*ev, av2, math.Pow(spread(part)*singleFactor[len(in.Parts)], 2))
}

func (in StudyInput) byVariance() Components {
	cell, person, part, all := in.means()
	p, n, r := float64(len(in.People)), float64(len(in.Parts)), float64(len(in.Readings[0][0]))
	var ssPerson, ssPart, ssCell, ssError float64
	for _, m := range person {
		ssPerson += n * r * (m - all) * (m - all)
	}
	for _, m := range part {
		ssPart += p * r * (m - all) * (m - all)
	}
	for i := range in.People {
		for k := range in.Parts {
			ssCell += r * math.Pow(cell[i][k]-person[i]-part[k]+all, 2)
			for _, l := range in.Readings[i][k] {
				ssError += math.Pow(float64(l)-cell[i][k], 2)
			}
		}
	}
	msPerson, msPart := ssPerson/(p-1), ssPart/(n-1)
	msCell, msError := ssCell/((p-1)*(n-1)), ssError/(p*n*(r-1))
	both := math.Max(0, (msCell-msError)/r)
	return components(msError, math.Max(0, (msPerson-msCell)/(n*r))+both, (msPart-msCell)/(p*r))
}

// components turns variances into standard deviations.
func components(repeat, reproduce, part float64) Components {
	repeat, reproduce, part = math.Max(0, repeat), math.Max(0, reproduce), math.Max(0, part)
	rr := math.Sqrt(repeat + reproduce)
	c := Components{
		Repeatability: length.FromFloat(math.Sqrt(repeat)), Reproducibility: length.FromFloat(math.Sqrt(reproduce)),
		RR: length.FromFloat(rr), Part: length.FromFloat(math.Sqrt(part)), U: length.FromFloat(2 * rr),
	}
	if total := math.Sqrt(repeat + reproduce + part); total > 0 {
		c.Share = rr / total
	}
	return c
}
