package wear

import "math"

// Rate is what is known of a place's change per hour and of its figure of now: a mixture of normals.
type Rate struct {
	parts  []part
	hasNow bool // the figure of now is known with it
}

// part is one of them: means, variances and the covariance of the figure and the rate.
type part struct {
	weight            float64
	now, rate         float64
	vNow, vRate, both float64
}

// Mean is the expected change per hour.
func (r *Rate) Mean() float64 {
	sum := 0.0
	for _, p := range r.parts {
		sum += p.weight * p.rate
	}
	return sum
}

// Within is between which changes per hour it lies with a probability, as much being left on both sides.
func (r *Rate) Within(probability float64) (low, high float64) {
	cdf := func(x float64) float64 {
		sum := 0.0
		for _, p := range r.parts {
			sum += p.weight * below(x, p.rate, p.vRate)
		}
		return sum
	}
	widest := 0.0
	for _, p := range r.parts {
		widest = max(widest, math.Sqrt(p.vRate))
	}
	from, to := r.Mean()-40*widest, r.Mean()+40*widest
	return quantile(cdf, (1-probability)/2, from, to), quantile(cdf, (1+probability)/2, from, to)
}

// Now gives a place another figure of now than it came with last: after a repair, say.
func (r *Rate) Now(f Figure) *Rate {
	out := &Rate{hasNow: true}
	for _, p := range r.parts {
		p.now, p.vNow, p.both = f.At, f.SD*f.SD, 0
		out.parts = append(out.parts, p)
	}
	return out
}

// Reached is how likely a figure that may grow to limit, or fall to it where falls, is past it after so
// many hours more. It panics where the figure of now is not known.
func (r *Rate) Reached(limit float64, falls bool, hours float64) float64 {
	if !r.hasNow {
		panic("wear: the figure of now is not known")
	}
	sum := 0.0
	for _, p := range r.parts {
		mean := p.now + p.rate*hours
		v := p.vNow + 2*hours*p.both + hours*hours*p.vRate
		past := 1 - below(limit, mean, v)
		if falls {
			past = 1 - past
		}
		sum += p.weight * past
	}
	return min(1, sum)
}

// longest bounds what is looked ahead, hours: more than any engine runs.
const longest = 1e6

// Until is after how many hours more a figure is past its limit with a probability: 0 where it is so
// likely past it now, +Inf where it is not expected to be for longer than an engine runs.
func (r *Rate) Until(limit float64, falls bool, probability float64) float64 {
	past := func(hours float64) float64 { return r.Reached(limit, falls, hours) }
	if past(0) >= probability {
		return 0
	}
	if past(longest) < probability {
		return math.Inf(1)
	}
	return quantile(past, probability, 0, longest)
}

// quantile is where a rising function reaches a value, between from and to, to a millionth of itself.
func quantile(f func(float64) float64, value, from, to float64) float64 {
	for range 60 {
		at := (from + to) / 2
		if to-from <= 1e-6*math.Abs(at) {
			break
		}
		if f(at) < value {
			from = at
		} else {
			to = at
		}
	}
	return to
}

// below is how likely a normal with a mean and a variance is below x.
func below(x, mean, variance float64) float64 {
	if variance <= 0 {
		if x < mean {
			return 0
		}
		return 1
	}
	return math.Erfc((mean-x)/math.Sqrt(2*variance)) / 2
}
