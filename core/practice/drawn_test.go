package practice_test

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/practice"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// careless is what somebody does who checks nothing, reads every second place with the hand in the middle,
// looks at half the parts and takes each for the grade after the first, and calls everything sound.
func careless(p *practice.Head) (rec practice.Record) {
	rec.Answers.Verdicts = map[string]string{}
	for _, c := range p.Reads() {
		tools := p.ToolsFor(c)
		for i, at := range c.Spots(p.Told.Model.Layout) {
			take := practice.Take{Tool: tools[i%len(tools)], Of: c.Code, At: at}
			if s, ok := p.Shows(take, rec.Steps); ok && i%2 == 0 {
				rec.Steps = append(rec.Steps, practice.Step{
					Kind: practice.StepRead, Tool: take.Tool, Of: c.Code, At: at.Key(), Value: s.Value,
				})
			}
		}
	}
	for _, part := range p.Looks() {
		for i, at := range part.Positions(p.Told.Model.Layout) {
			if i%2 == 0 {
				rec.Steps = append(rec.Steps, practice.Step{
					Kind: practice.StepLook, Of: part.Code, At: at, Grade: part.Grades[i%4/2].Code,
				})
			}
		}
	}
	for _, f := range judge.Head(p.Known(rec)).All() {
		rec.Answers.Verdicts[f.Key()] = practice.SaysIn
	}
	return rec
}

// TestAKeyIsTheSameHeadInEveryVersion: an exam by number and a shared file are the same head after the program
// was brought up to date, with the same readings and the same score. What is meant to change is written anew
// with WRITE=1.
func TestAKeyIsTheSameHeadInEveryVersion(t *testing.T) {
	const at = "testdata/drawn.txt"
	var b strings.Builder
	for _, trouble := range practice.Troubles {
		for level := practice.Easy; level <= practice.Hard; level++ {
			for seed := range uint64(2) {
				p := practice.Draw(key(100+seed), lesson(t, "exam"), level, trouble.Code)
				fmt.Fprintf(&b, "%s %d %d %s\n", trouble.Code, level, seed, told(t, p))
			}
		}
	}
	for _, l := range practice.Lessons {
		p := practice.Draw(key(200), l, l.Level, "")
		fmt.Fprintf(&b, "%s %s %s\n", l.Code, p.Trouble.Code, told(t, p))
	}
	if os.Getenv("WRITE") != "" {
		require.NoError(t, os.MkdirAll("testdata", 0o755))
		require.NoError(t, os.WriteFile(at, []byte(b.String()), 0o644))
	}
	was, err := os.ReadFile(at)
	require.NoError(t, err)
	assert.Equal(t, strings.Split(string(was), "\n"), strings.Split(b.String(), "\n"))
}

// told is a head in short: sums of its truth and of what a careless hand reads of it, and the score that gives.
func told(t *testing.T, p *practice.Head) string {
	sum := func(x any) string {
		s := sha256.Sum256(fmt.Appendf(nil, "%v", x))
		return hex.EncodeToString(s[:4])
	}
	var truth []string
	for _, r := range p.Truth.Readings {
		truth = append(truth, fmt.Sprint(r.Of, r.Spot.Key(), r.Value))
	}
	for _, f := range p.Truth.Findings {
		truth = append(truth, fmt.Sprint(f.Part, f.Position, f.Grade, f.X, f.Y))
	}
	for _, x := range p.Truth.Parts {
		truth = append(truth, fmt.Sprint(x.Position, x.Is))
	}
	rec := careless(p)
	var read []string
	for i := range p.Told.Tools {
		read = append(read, fmt.Sprint(p.Off(i, nil), p.Off(i, rec.Steps)))
	}
	for _, s := range rec.Steps {
		read = append(read, fmt.Sprint(s.Of, s.At, s.Value))
	}
	s, err := p.Score(t.Context(), rec)
	require.NoError(t, err)
	var score []string
	for _, k := range s.Skills {
		score = append(score, fmt.Sprintf("%s %d/%d %.3f", k.Code, k.Right, k.Of, k.Share))
	}
	return strings.Join([]string{sum(truth), sum(read), strings.Join(score, ", ")}, " ")
}

// TestADisplayShowsItsSteps: rounded to the nearest, a half away from nothing, on either side of it.
func TestADisplayShowsItsSteps(t *testing.T) {
	for _, c := range []struct{ at, step, shown quantity.Amount }{
		{14, 10, 10}, {15, 10, 20}, {-14, 10, -10}, {-15, 10, -20}, {0, 10, 0}, {17, 0, 17}, {1005, 1000, 1000},
	} {
		assert.Equal(t, c.shown, practice.Rounded(c.at, c.step), "%d in steps of %d", c.at, c.step)
	}
}

func TestLeavesAreOfHundredthsAndThenOfTwentieths(t *testing.T) {
	for _, c := range []struct{ gap, goes, nogo quantity.Amount }{
		{0, 0, 30}, {29, 0, 30}, {30, 30, 40}, {39, 30, 40}, {40, 40, 50}, {199, 190, 200}, {200, 200, 250},
		{249, 200, 250}, {250, 250, 300},
	} {
		assert.Equal(t, gauge.Between(c.goes*um, c.nogo*um), practice.Between(c.gap*um), "%d um", c.gap)
	}
}

// TestAMicrometerHasRoomBetweenItsFirstClickAndTooMany: thirteen stands of the hand read the same, one before
// them reads large, one after them small.
func TestAMicrometerHasRoomBetweenItsFirstClickAndTooMany(t *testing.T) {
	p := practice.Draw(key(14), lesson(t, "micrometer"), practice.Easy, "")
	take := practice.Take{Tool: 2, Of: trade.Stem.Code, At: trade.SpotOf("1I1.top")} // a caliper gives most
	var values []quantity.Amount
	first, clicks := -1, 0
	for hand := -practice.HandMost; hand <= practice.HandMost; hand++ {
		take.Hand = hand
		s, ok := p.Shows(take, nil)
		require.True(t, ok)
		if s.Clicks {
			if clicks++; first < 0 {
				first = len(values)
			}
		}
		values = append(values, s.Value.At)
	}
	assert.Equal(t, 13, clicks)
	right := values[first]
	assert.Equal(t, right, values[first+12])
	assert.InDelta(t, float64(right-14*um), float64(values[first+12+20]), float64(10*um), "20 too far, 0.7 um each")
	assert.InDelta(t, float64(right+32*um), float64(values[first-40]), float64(10*um), "40 too little, 0.8 um each")
}

// TestAGaugeIsAsTrueAsItsCosine: twenty steps are one degree.
func TestAGaugeIsAsTrueAsItsCosine(t *testing.T) {
	p := practice.Draw(key(15), lesson(t, "bore"), practice.Easy, "")
	take := practice.Take{Tool: 0, Of: trade.GuideBore.Code, At: trade.SpotOf("2E1.bottom.B")}
	least := quantity.Amount(1 << 62)
	first, last := 0, 0 // stands that show it: the display has steps
	for hand := -practice.HandMost; hand <= practice.HandMost; hand++ {
		take.Hand = hand
		s, _ := p.Shows(take, nil)
		if s.Value.At < least {
			least, first = s.Value.At, hand
		}
		if s.Value.At == least {
			last = hand
		}
	}
	at := (first + last) / 2
	for at+40 > practice.HandMost { // look at the other side
		at -= 80
	}
	take.Hand = at + 40
	s, _ := p.Shows(take, nil)
	assert.InDelta(t, 8000*0.000609, float64(s.Value.At-least)/float64(um), 1.6, "2 degrees: 1/cos is 1.000609")
}

func TestWhatToolsReach(t *testing.T) {
	p := practice.Draw(key(16), lesson(t, "exam"), practice.Easy, "")
	names := func(c *trade.Characteristic) (out []string) {
		for _, n := range p.ToolsFor(*c) {
			out = append(out, p.Told.Tools[n].Name)
		}
		return out
	}
	assert.Equal(t, []string{"thickness micrometer", "caliper"}, names(trade.Thickness))
	assert.Equal(t, []string{"outside micrometer", "caliper"}, names(trade.Stem))
	assert.Equal(t, []string{"bore gauge"}, names(trade.GuideBore))
	for _, n := range []int{-1, len(p.Told.Tools)} {
		assert.False(t, p.Zeroed(n))
		assert.Equal(t, practice.Still, p.Hands(n))
		_, ok := p.Shows(practice.Take{Tool: n, Of: trade.Stem.Code, At: trade.SpotOf("1I1.top")}, nil)
		assert.False(t, ok)
	}
	assert.True(t, p.Zeroed(0))
	assert.False(t, p.Zeroed(8), "feelers have none")
}

func TestAGradeIsOfItsPartAndPlace(t *testing.T) {
	p := practice.Draw(key(17), lesson(t, "exam"), practice.Easy, "bent")
	bent := 0
	for _, v := range p.Told.Model.Layout.Valves {
		g, ok := p.Grade(trade.StemSeen.Code, v.ID)
		require.True(t, ok)
		if g.Code == "bent" {
			bent++
		} else {
			assert.Equal(t, "clean", g.Code)
		}
		face, _ := p.Grade(trade.FaceSeen.Code, v.ID)
		assert.Equal(t, "clean", face.Code)
	}
	assert.Equal(t, 1, bent)
	_, ok := p.Grade(trade.StemSeen.Code, "9I1")
	assert.False(t, ok)
}

// TestWhatReadingCost: how many, how long, how many off the truth, and what they found.
func TestWhatReadingCost(t *testing.T) {
	p := practice.Draw(key(18), lesson(t, "micrometer"), practice.Easy, "")
	var rec practice.Record
	for _, place := range trade.Stem.Places {
		for _, off := range []quantity.Amount{0, 20 * um} {
			at := trade.Spot{Position: "1I1", Place: place}
			s := steady(p, practice.Take{Tool: 1, Of: trade.Stem.Code, At: at}, rec.Steps)
			s.Value.At += off
			rec.Steps = append(rec.Steps, s)
		}
	}
	s, err := p.Score(t.Context(), rec)
	require.NoError(t, err)
	require.Len(t, s.Costs, 1)
	c := s.Costs[0]
	assert.Equal(t, []int{6, 120, 3}, []int{c.Taken, c.Seconds, c.Wrong})
	assert.InDelta(t, 0.5, skill(t, s, "hand").Share, 0)
	assert.Equal(t, quantity.Minutes(4), s.Usual, "twelve places at 20 s")
}

// TestWhoReadsLittleHasNotBeenQuick: time counts where half of the figures were read.
func TestWhoReadsLittleHasNotBeenQuick(t *testing.T) {
	p := practice.Draw(key(19), lesson(t, "micrometer"), practice.Easy, "")
	read := func(positions ...string) practice.Skill {
		var rec practice.Record
		for _, at := range positions {
			take := practice.Take{Tool: 1, Of: trade.Stem.Code, At: trade.SpotOf(at + ".top")}
			rec.Steps = append(rec.Steps, steady(p, take, rec.Steps))
		}
		s, err := p.Score(t.Context(), rec)
		require.NoError(t, err)
		return skill(t, s, "time")
	}
	assert.Zero(t, read().Of)
	assert.Zero(t, read("1I1").Of, "one of four")
	assert.Positive(t, read("1I1", "1E1").Of, "two of four")
	assert.InDelta(t, 1, read("1I1", "1E1").Share, 0)
}
