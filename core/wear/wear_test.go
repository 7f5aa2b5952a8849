package wear_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/wear"
)

// stretch is one over 1000 h, read with a standard uncertainty of 1.
func stretch(left, came float64) wear.Stretch {
	return wear.Stretch{Hours: 1000, Left: wear.Figure{At: left, SD: 1}, Came: wear.Figure{At: came, SD: 1}}
}

// TestOnePlaceAlone is what is worked by hand: nothing but its own two readings speaks.
func TestOnePlaceAlone(t *testing.T) {
	t.Parallel()
	r := wear.Pool([]wear.Place{{stretch(10, 40)}}).Of(0)
	require.NotNil(t, r)
	assert.InDelta(t, 0.03, r.Mean(), 1e-12)
	low, high := r.Within(0.6826895)
	assert.InEpsilon(t, 0.03-math.Sqrt2/1000, low, 1e-5)
	assert.InEpsilon(t, 0.03+math.Sqrt2/1000, high, 1e-5)
	assert.InEpsilon(t, 1000, r.Until(70, false, 0.5), 1e-5, "thirty more")
	// sd of now + 1000 h: 2*came - left
	assert.InDelta(t, 0.5*math.Erfc(1/math.Sqrt2), r.Reached(70+math.Sqrt(5), false, 1000), 1e-9)
	assert.Zero(t, r.Until(39, false, 0.5), "it is past it")
	assert.True(t, math.IsInf(r.Until(5, true, 0.5), 1), "it does not fall")
	assert.InEpsilon(t, 2000, r.Now(wear.Figure{At: 10, SD: 1}).Until(70, false, 0.5), 1e-5, "after a repair")
}

// TestWhatFalls is what grows, seen in a mirror.
func TestWhatFalls(t *testing.T) {
	t.Parallel()
	up := wear.Pool([]wear.Place{{stretch(10, 40)}, {stretch(12, 30)}})
	down := wear.Pool([]wear.Place{{stretch(-10, -40)}, {stretch(-12, -30)}})
	for i := range 2 {
		for _, p := range []float64{0.1, 0.5, 0.9} {
			assert.InEpsilon(t, up.Of(i).Until(80, false, p), down.Of(i).Until(-80, true, p), 1e-5)
		}
	}
}

// TestOthersSpeak: a place that was read coarsely is drawn to the others, the more they are alike; one of which
// nothing was read has their rate.
func TestOthersSpeak(t *testing.T) {
	t.Parallel()
	coarse := wear.Place{{Hours: 1000, Left: wear.Figure{At: 10, SD: 20}, Came: wear.Figure{At: 70, SD: 20}}}
	alike := []wear.Place{coarse, {stretch(10, 30)}, {stretch(10, 31)}, {stretch(11, 30)}, {stretch(10, 29)}}
	apart := []wear.Place{coarse, {stretch(10, 30)}, {stretch(10, 90)}, {stretch(11, 60)}, {stretch(10, 15)}}
	alone := wear.Pool(alike[:1]).Of(0).Mean()
	assert.InDelta(t, 0.06, alone, 1e-9)
	assert.InDelta(t, 0.020, wear.Pool(alike).Of(0).Mean(), 0.003)
	low, high := wear.Pool(alike).Of(0).Within(0.8)
	lowApart, highApart := wear.Pool(apart).Of(0).Within(0.8)
	assert.Less(t, high-low, (highApart-lowApart)/2)
	fresh := wear.Pool(append(alike, nil)).Of(5)
	require.NotNil(t, fresh)
	assert.InDelta(t, 0.020, fresh.Mean(), 0.003)
	assert.Panics(t, func() { fresh.Reached(50, false, 10) }, "nobody knows where it is now")
	assert.InDelta(t, 1000, fresh.Now(wear.Figure{At: 30, SD: 1}).Until(50, false, 0.5), 200)
}

// TestNothingIsKnown of places that were never read again.
func TestNothingIsKnown(t *testing.T) {
	t.Parallel()
	assert.Nil(t, wear.Pool([]wear.Place{nil, {}}).Of(1))
	assert.Nil(t, wear.Pool([]wear.Place{{{Left: wear.Figure{At: 1, SD: 1}, Came: wear.Figure{At: 2, SD: 1}}}}).Of(0),
		"no hours were run")
	still := wear.Pool([]wear.Place{{stretch(10, 10)}, {stretch(10, 10)}}).Of(0)
	assert.InDelta(t, 0, still.Mean(), 1e-12)
	assert.True(t, math.IsInf(still.Until(50, false, 0.9), 1))
	exact := wear.Place{{Hours: 100, Left: wear.Figure{At: 10}, Came: wear.Figure{At: 20}}}
	assert.InDelta(t, 0.1, wear.Pool([]wear.Place{exact, {stretch(10, 30)}}).Of(0).Mean(), 0.01, "without any doubt")
}

// TestAnIntervalHoldsAsOftenAsItSays: on fleets whose wear is known, the hours to the limit lie between the tenth
// and the ninetieth part of a hundred in eight of ten cases, whether heads are alike or not, read well or not;
// somewhat more often where heads are more alike than is supposed of any.
func TestAnIntervalHoldsAsOftenAsItSays(t *testing.T) {
	t.Parallel()
	for _, x := range []struct{ places, visits, apart, coarse float64 }{
		{1, 1, 0.3, 0.1}, {1, 3, 0.3, 0.3}, {3, 1, 0.1, 0.2}, {8, 1, 0.3, 0.2}, {8, 2, 0.1, 0.5}, {24, 1, 0.3, 0.5},
		{24, 3, 0.2, 0.1}, {60, 1, 0, 0.4},
	} {
		t.Run(fmt.Sprintf("%v", x), func(t *testing.T) {
			t.Parallel()
			r := rand.New(rand.NewPCG(uint64(x.places), uint64(100*x.apart)))
			held, of := 0, 0
			for of < 1500 {
				usual := math.Exp(r.NormFloat64()) / 100
				sd := x.coarse * usual * 1000 // of a reading, as a part of what 1000 h wear
				var places []wear.Place
				var rates, now []float64
				for range int(x.places) {
					rate := usual * (1 + x.apart*r.NormFloat64())
					var p wear.Place
					at := 0.0
					for range int(x.visits) {
						hours := 500 + 2000*r.Float64()
						left := at
						at += rate * hours
						p = append(p, wear.Stretch{
							Hours: hours,
							Left:  wear.Figure{At: left + sd*r.NormFloat64(), SD: sd},
							Came:  wear.Figure{At: at + sd*r.NormFloat64(), SD: sd},
						})
					}
					places, rates, now = append(places, p), append(rates, rate), append(now, at)
				}
				pool := wear.Pool(places)
				i := r.IntN(len(places))
				limit := now[i] + usual*(1000+3000*r.Float64())
				if rates[i] <= 0 {
					continue
				}
				of++
				of, truth := pool.Of(i), (limit-now[i])/rates[i]
				if of.Until(limit, false, 0.1) <= truth && truth <= of.Until(limit, false, 0.9) {
					held++
				}
			}
			share := float64(held) / float64(of)
			assert.Greater(t, share, 0.76)
			assert.Less(t, share, 0.92)
		})
	}
}

func Example() {
	read := func(at float64) wear.Figure { return wear.Figure{At: at, SD: 0.002} } // millimetres
	fleet := wear.Pool([]wear.Place{
		{{Hours: 2000, Left: read(0.045), Came: read(0.069)}},
		{{Hours: 1500, Left: read(0.042), Came: read(0.058)}},
		{{Hours: 2600, Left: read(0.047), Came: read(0.081)}},
	})
	of := fleet.Of(0)
	fmt.Printf("%.4f mm in 1000 h, past 0.095 mm after %.0f to %.0f h more\n",
		1000*of.Mean(), of.Until(0.095, false, 0.1), of.Until(0.095, false, 0.9))
	// Output: 0.0121 mm in 1000 h, past 0.095 mm after 1775 to 2604 h more
}
