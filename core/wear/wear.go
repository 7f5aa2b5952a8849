// Package wear says how fast a figure changes with the hours a head runs, and when it will reach its
// limit, from what it left the shop with and came back with.
//
// A [Place] is one position of one head; its [Stretch]es are the times between two visits. [Pool] lets
// places of one kind, the same figure of heads of one model, say something of each other: one stretch
// read with a coarse gauge says little alone, many say what is usual. [Rates.Of] is then the [Rate] of
// one place, and [Rate.Until] when it reaches a limit.
//
// Method: a place wears in proportion to hours, at a rate of its own. Rates of one kind scatter
// normally about a mean that is not known, by a standard deviation that is not known either; what was
// read scatters normally about the truth by its standard uncertainty. The mean has no prior; the
// deviation has a half-Cauchy one, as wide as half the usual rate, and is integrated over numerically. Given
// it, everything is normal and exact: the rate and the figure of now have a joint normal distribution,
// because a reading too large makes both too large. What comes out is a mixture of such normals.
//
// Limits: heads that are worked harder from some day on, wear that begins slowly and then runs, and
// places whose readings share an error (one ring that is off) are not what is reckoned with.
package wear

import (
	"math"
	"slices"
)

// Figure is what was read: a value and its standard uncertainty, both in the figure's own unit.
type Figure struct{ At, SD float64 }

// Stretch is the time between two visits: the hours run, more than none, what a place left with and
// what it came back with.
type Stretch struct {
	Hours float64
	Left  Figure
	Came  Figure
}

// rate is what a stretch says of the change per hour.
func (s Stretch) rate() Figure {
	return Figure{(s.Came.At - s.Left.At) / s.Hours, math.Hypot(s.Came.SD, s.Left.SD) / s.Hours}
}

// Place is one position of one head: its stretches, the oldest first.
type Place []Stretch

// belief is a normal distribution by its mean and precision; nothing is known at precision 0.
type belief struct{ mean, precision float64 }

// and is what two independent beliefs say together.
func (b belief) and(c belief) belief {
	p := b.precision + c.precision
	if p == 0 {
		return belief{}
	}
	return belief{(b.mean*b.precision + c.mean*c.precision) / p, p}
}

// widened is a belief of something that differs from what b is of by a standard deviation.
func (b belief) widened(sd float64) belief {
	if b.precision == 0 {
		return b
	}
	return belief{b.mean, 1 / (1/b.precision + sd*sd)}
}

// told is what stretches say of a place's rate.
func told(of []Stretch) (b belief) {
	for _, s := range of {
		r := s.rate()
		b = b.and(belief{r.At, 1 / (r.SD * r.SD)})
	}
	return b
}

// Rates is what places of one kind say of each other.
type Rates struct {
	places []Place
	alone  []belief // what each says by itself
	spread []spread
}

// spread is a standard deviation of rates, and how likely it is.
type spread struct{ sd, weight float64 }

// steps is how many deviations are tried; they lie from a hundredth of the usual rate to ten times it.
const steps = 60

// unlikely is how likely a deviation must be to be reckoned with: all that are left out together are less
// than a thousandth.
const unlikely = 1e-3 / steps

// least is the smallest standard uncertainty of a figure that is reckoned with, as a part of the largest
// change: what was read without any doubt would silence all else.
const least = 1e-4

// Pool makes what places of one kind say. Places without a stretch are known by the others alone.
func Pool(places []Place) *Rates {
	r := &Rates{}
	most := 0.0
	for _, p := range places {
		for _, s := range p {
			most = max(most, math.Abs(s.Came.At-s.Left.At))
		}
	}
	for _, p := range places {
		var own Place
		for _, s := range p {
			s.Left.SD, s.Came.SD = max(s.Left.SD, most*least), max(s.Came.SD, most*least)
			if s.Hours > 0 && s.Left.SD > 0 && s.Came.SD > 0 {
				own = append(own, s)
			}
		}
		r.places, r.alone = append(r.places, own), append(r.alone, told(own))
	}
	usual := 0.0
	all := belief{}
	for _, b := range r.alone {
		all = all.and(b)
	}
	if all.precision > 0 {
		usual = max(math.Abs(all.mean), 1/math.Sqrt(all.precision))
	}
	r.weigh(usual)
	return r
}

// weigh finds how likely each deviation is; half the usual rate is nothing special.
func (r *Rates) weigh(usual float64) {
	if usual == 0 { // nothing was read, or nothing changed: then they do not differ either
		r.spread = []spread{{0, 1}}
		return
	}
	width, best := usual/2, math.Inf(-1)
	for i := range steps {
		sd := usual * math.Exp(math.Log(0.01)+float64(i)/(steps-1)*math.Log(1000))
		log := -math.Log1p(sd*sd/(width*width)) + math.Log(sd) // the prior, and the step's width
		mean := r.mean(sd, -1)
		if mean.precision > 0 {
			log -= math.Log(mean.precision) / 2
		}
		for _, b := range r.alone {
			if b = b.widened(sd); b.precision > 0 {
				off := b.mean - mean.mean
				log += (math.Log(b.precision) - off*off*b.precision) / 2
			}
		}
		r.spread, best = append(r.spread, spread{sd, log}), max(best, log)
	}
	sum := 0.0
	for i := range r.spread {
		r.spread[i].weight = math.Exp(r.spread[i].weight - best)
		sum += r.spread[i].weight
	}
	for i := range r.spread {
		r.spread[i].weight /= sum
	}
	r.spread = slices.DeleteFunc(r.spread, func(s spread) bool { return s.weight < unlikely })
}

// mean is what the places but one say of the mean rate, if rates scatter by sd about it.
func (r *Rates) mean(sd float64, but int) (b belief) {
	for i, own := range r.alone {
		if i != but {
			b = b.and(own.widened(sd))
		}
	}
	return b
}

// Of is the rate of a place, by what it and the others say. Its figure of now is what it came with last.
// It is nil where nothing at all is known of such places.
func (r *Rates) Of(place int) *Rate {
	own := r.places[place]
	out := &Rate{}
	for _, s := range r.spread {
		others := r.mean(s.sd, place).widened(s.sd)
		if len(own) == 0 {
			if others.precision > 0 {
				out.parts = append(out.parts, part{weight: s.weight, rate: others.mean, vRate: 1 / others.precision})
			}
			continue
		}
		last := own[len(own)-1]
		out.parts = append(out.parts, last.joint(others.and(told(own[:len(own)-1])), s.weight))
		out.hasNow = true
	}
	if len(out.parts) == 0 {
		return nil
	}
	return out
}

// joint is what a stretch says of the figure at its end and of the rate together, before being what is
// known of the rate without it.
func (s Stretch) joint(before belief, weight float64) part {
	left, came := 1/(s.Left.SD*s.Left.SD), 1/(s.Came.SD*s.Came.SD)
	xx, xr, rr := left+came, -s.Hours*left, s.Hours*s.Hours*left+before.precision
	x, r := s.Left.At*left+s.Came.At*came, -s.Hours*s.Left.At*left+before.mean*before.precision
	det := xx*rr - xr*xr
	return part{
		weight: weight,
		now:    (rr*x - xr*r) / det, rate: (xx*r - xr*x) / det,
		vNow: rr / det, vRate: xx / det, both: -xr / det,
	}
}
