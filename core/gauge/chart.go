package gauge

import (
	"math"

	"yatai/core/quantity"
	"yatai/core/words"
)

// Chart is a control chart of single values in the order they were made: how far off a tool was at each of
// its zero checks. While nothing changes nearly all lie between Low and High; what does not look like
// chance is a Sign. Method: individuals and moving range; the bounds lie 2.66 mean moving ranges from the
// mean, three standard deviations of what varies from one value to the next.
type Chart struct {
	Values    []quantity.Amount
	Mean      quantity.Amount
	Low, High quantity.Amount
	Signs     []Sign
	Step      float64 // by which it moves from one to the next, where a sign says that it does now; else 0
}

// Sign is something that chance does seldom, with the values it is seen at, counted from 0.
type Sign struct {
	Says words.Text
	At   []int
}

// The usual rules: so many in a row on one side of the mean, or each beyond the one before.
const (
	onOneSide = 8
	steadily  = 6
	fewest    = 8 // below it a chart says nothing
)

// Charted is the chart of some values; ok is false where they are fewer than eight.
func Charted(values []quantity.Amount) (c Chart, ok bool) {
	n := quantity.Amount(len(values))
	if n < fewest {
		return Chart{}, false
	}
	var sum, moved quantity.Amount
	for i, v := range values {
		sum += v
		if i > 0 {
			moved += (v - values[i-1]).Abs()
		}
	}
	c = Chart{Values: values, Mean: quantity.Amount(math.Round(float64(sum) / float64(n)))}
	width := quantity.Amount(math.Round(2.66 * float64(moved) / float64(n-1)))
	c.Low, c.High = c.Mean-width, c.Mean+width
	c.sign(words.Of("outside of what it varies by"), 1, func(i int) int {
		switch {
		case values[i] > c.High:
			return 1
		case values[i] < c.Low:
			return -1
		}
		return 0
	})
	c.sign(words.Of("%d in a row on one side", onOneSide), onOneSide,
		func(i int) int { return side(values[i] - c.Mean) })
	if s, now := c.now(); now && len(s.At) >= onOneSide {
		c.Step = slope(values)
	}
	c.sign(words.Of("%d in a row, each further than the one before", steadily), steadily, func(i int) int {
		if i == 0 {
			return 0
		}
		return side(values[i] - values[i-1])
	})
	if s, now := c.now(); now && len(s.At) >= steadily {
		c.Step = slope(values[s.At[0]:])
	}
	return c, true
}

// now is the last of the signs, and whether it is seen at the last value.
func (c Chart) now() (s Sign, now bool) {
	if len(c.Signs) == 0 {
		return Sign{}, false
	}
	s = c.Signs[len(c.Signs)-1]
	return s, s.At[len(s.At)-1] == len(c.Values)-1
}

// side is on which side of nothing a lies.
func side(a quantity.Amount) int {
	switch {
	case a > 0:
		return 1
	case a < 0:
		return -1
	}
	return 0
}

// sign notes every run of at least so many values that lie on the same side, each run once.
func (c *Chart) sign(says words.Text, least int, on func(i int) int) {
	from := 0
	for i := range len(c.Values) + 1 {
		if i < len(c.Values) && i > 0 && on(i) == on(i-1) && on(i) != 0 {
			continue
		}
		if run := i - from; i > 0 && on(i-1) != 0 && run >= least {
			s := Sign{Says: says}
			for k := from; k < i; k++ {
				s.At = append(s.At, k)
			}
			c.Signs = append(c.Signs, s)
		}
		from = i
	}
}

// slope is the least squares' change from one value to the next.
func slope(values []quantity.Amount) float64 {
	n := float64(len(values))
	var mean, num, den float64
	for _, v := range values {
		mean += float64(v) / n
	}
	for i, v := range values {
		x := float64(i) - (n-1)/2
		num, den = num+x*(float64(v)-mean), den+x*x
	}
	return num / den
}

// Left is how many more checks it takes until the next would be further off than a tolerance either way, at
// the pace it moves; ok is false where no sign says that it moves, or it moves towards nothing.
func (c Chart) Left(tolerance quantity.Amount) (checks int, ok bool) {
	last := float64(c.Values[len(c.Values)-1])
	if c.Step == 0 || tolerance <= 0 || c.Step*float64(c.Mean) < 0 && c.Step*last < 0 {
		return 0, false
	}
	end := math.Copysign(float64(tolerance), c.Step)
	return max(0, int(math.Floor((end-last)/c.Step))), true
}
