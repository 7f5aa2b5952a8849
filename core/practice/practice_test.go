package practice_test

import (
	"flag"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"yatai/core/cause"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/plan"
	"yatai/core/practice"
	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// um is a thousandth of a millimetre.
const um = quantity.One / 1000

// TestMain draws fewer heads in a short run.
func TestMain(m *testing.M) {
	flag.Parse()
	checks := "40"
	if testing.Short() {
		checks = "8"
	}
	if err := flag.Set("rapid.checks", checks); err != nil {
		panic(err)
	}
	m.Run()
}

func lesson(t require.TestingT, code string) practice.Lesson {
	l, ok := practice.LessonNamed(code)
	require.True(t, ok, code)
	return l
}

// drawn is a head of a lesson, its key, level and trouble drawn by rapid.
func drawn(t *rapid.T, code string) *practice.Head {
	trouble := rapid.SampledFrom(practice.Troubles).Draw(t, "trouble").Code
	return practice.Draw(key(rapid.Uint64().Draw(t, "seed")), lesson(t, code), rapid.IntRange(1, 3).Draw(t, "level"), trouble)
}

// key is a key made of a seed.
func key(seed uint64) (k practice.Key) {
	r := rand.New(rand.NewPCG(seed, 1))
	for i := range k {
		k[i] = byte(r.UintN(256))
	}
	return k
}

// steady is how somebody holds a tool who knows how: a gauge is rocked for the least it shows, a micrometer
// closed until it clicks, a dial taken round.
func steady(p *practice.Head, t practice.Take, before []practice.Step) practice.Step {
	best := practice.Step{Kind: practice.StepRead, Tool: t.Tool, Of: t.Of, At: t.At.Key(), New: t.New}
	found := false
	for hand := -practice.HandMost; hand <= practice.HandMost; hand += 4 {
		t.Hand = hand
		s, ok := p.Shows(t, before)
		if !ok {
			continue
		}
		better := false
		switch p.Hands(t.Tool) {
		case practice.Rock:
			better = !found || s.Value.At < best.Value.At
		case practice.Press:
			better = s.Clicks
		default:
			better = hand == practice.HandMost
		}
		if better {
			best.Hand, best.Value, found = hand, s.Value, true
		}
	}
	return best
}

// thorough is what somebody does who checks every tool, reads everything once and looks at everything.
func thorough(p *practice.Head) (rec practice.Record) {
	for i := range p.Told.Tools {
		if p.Zeroed(i) {
			rec.Steps = append(rec.Steps, practice.Step{Kind: practice.StepZero, Tool: i, Set: true})
		}
	}
	for _, c := range p.Reads() {
		for _, s := range c.Spots(p.Told.Model.Layout) {
			take := practice.Take{Tool: p.ToolsFor(c)[0], Of: c.Code, At: s}
			rec.Steps = append(rec.Steps, steady(p, take, rec.Steps))
		}
	}
	for _, part := range p.Looks() {
		for _, at := range part.Positions(p.Told.Model.Layout) {
			g, _ := p.Grade(part.Code, at)
			rec.Steps = append(rec.Steps, practice.Step{Kind: practice.StepLook, Of: part.Code, At: at, Grade: g.Code})
		}
	}
	rec.Steps = append(rec.Steps, practice.Step{Kind: practice.StepFace})
	if p.Box() {
		for _, v := range p.Told.Model.Layout.Valves {
			at := trade.Spot{Position: v.ID}
			if step := steady(p, practice.Take{Tool: 1, Of: trade.Stem.Code, At: at, New: true}, rec.Steps); step.Value.At > 0 {
				rec.Steps = append(rec.Steps, step)
			}
		}
	}
	return rec
}

func TestEveryTroubleShowsItsCauseAndCanBePlanned(t *testing.T) {
	for _, trouble := range practice.Troubles {
		for level := practice.Easy; level <= practice.Hard; level++ {
			p := practice.Draw(key(uint64(level)), lesson(t, "exam"), level, trouble.Code)
			j := judge.Head(p.Truth)
			for _, f := range j.All() {
				assert.NotEqual(t, gauge.Doubt, f.Verdict, "%s %d %s: the truth has no doubt", trouble.Code, level, f.Key())
				assert.False(t, f.Limit != nil && f.Verdict == gauge.Unread, "%s is not read", f.Key())
			}
			out := j.Worst >= gauge.Out
			assert.Equal(t, trouble.Code != "sound" && trouble.Code != "tool", out, "%s %d", trouble.Code, level)
			if trouble.Cause != practice.None {
				all := cause.Weigh(p.Truth, j)
				require.NotEmpty(t, all)
				assert.Equal(t, trouble.Cause, all[0].Code, "%s %d", trouble.Code, level)
			}
			best, err := plan.Solve(t.Context(), p.Planned(), head.Ask{})
			require.NoError(t, err)
			assert.True(t, best.Feasible, "%s %d: %v", trouble.Code, level, best.Blocked)
		}
	}
}

func TestOneKeyIsOneHead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		seed := rapid.Uint64().Draw(t, "seed")
		a := practice.Draw(key(seed), lesson(t, "exam"), practice.Hard, "")
		b := practice.Draw(key(seed), lesson(t, "exam"), practice.Hard, "")
		require.Equal(t, a.Truth.Readings, b.Truth.Readings)
		take := practice.Take{Tool: 0, Of: trade.GuideBore.Code, At: trade.SpotOf("1E1.top.A"), Hand: 20}
		x, ok := a.Shows(take, nil)
		require.True(t, ok)
		y, _ := b.Shows(take, nil)
		require.Equal(t, x, y, "a reading asked for again is the same")
		other := practice.Draw(key(seed+1), lesson(t, "exam"), practice.Hard, "")
		require.NotEqual(t, a.Truth.Readings, other.Truth.Readings)
	})
}

func TestNothingOfTheTruthIsTold(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawn(t, "exam")
		told := head.Encode(p.Told)
		require.Empty(t, told.Readings)
		require.Empty(t, told.Findings)
		require.Empty(t, told.Parts)
		file, err := told.JSON()
		require.NoError(t, err)
		for _, secret := range []string{p.Trouble.Code + `"`, p.Trouble.Name, "zero", "drift"} {
			require.NotContains(t, strings.ToLower(strings.ReplaceAll(string(file), `"guides`, "")), secret)
		}
		known := p.Known(practice.Record{})
		require.Empty(t, known.Readings)
		require.Empty(t, known.Findings)
	})
}

func TestTheBestPlanIsThePlannersOnTheTruth(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawn(t, "exam")
		best, err := plan.Solve(t.Context(), p.Planned(), head.Ask{})
		require.NoError(t, err)
		rec := practice.Record{Answers: practice.Answers{FaceCut: best.FaceCut, Hold: map[string]map[string]string{}}}
		for _, v := range best.Valves {
			rec.Answers.Hold[v.ID] = map[string]string{"seat": string(v.Seat), "valve": string(v.Valve), "guide": string(v.Guide)}
		}
		s, err := p.Score(t.Context(), rec)
		require.NoError(t, err)
		require.Equal(t, best.Cents, s.Best.Cents)
		require.Equal(t, best.Cents, s.Theirs.Cents, "what the planner chose can be held")
		require.InDelta(t, 1, skill(t, s, "plan").Share, 0)

		rec.Answers = practice.Answers{GiveUp: true}
		s, err = p.Score(t.Context(), rec)
		require.NoError(t, err)
		require.InDelta(t, 0, skill(t, s, "plan").Share, 0, "it can be mended")
	})
}

func skill(t require.TestingT, s practice.Score, code string) practice.Skill {
	for _, x := range s.Skills {
		if x.Code == code {
			return x
		}
	}
	require.Fail(t, "no skill "+code)
	return practice.Skill{}
}

func TestSomebodyThoroughFindsAllThatIsOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawn(t, "exam")
		rec := thorough(p)
		rec.Answers.Verdicts = map[string]string{}
		for _, f := range judge.Head(p.Known(rec)).All() {
			says := practice.SaysIn
			switch {
			case f.Verdict == gauge.Doubt:
				says = practice.SaysDoubt
			case f.Verdict >= gauge.Out:
				says = practice.SaysOut
			}
			rec.Answers.Verdicts[f.Key()] = says
		}
		rec.Answers.Cause = p.Trouble.Cause
		s, err := p.Score(t.Context(), rec)
		require.NoError(t, err)
		require.InDelta(t, 1, skill(t, s, "hand").Share, 0.05, "what a steady hand reads is within the tool's doubt")
		require.InDelta(t, 1, skill(t, s, "eye").Share, 0)
		found := skill(t, s, "find")
		require.Equal(t, found.Of, found.Right)
		require.InDelta(t, 1, skill(t, s, "cause").Share, 0)
		require.InDelta(t, 1, skill(t, s, "care").Share, 0)
		require.GreaterOrEqual(t, skill(t, s, "judge").Share, 0.9)
		require.LessOrEqual(t, s.Usual, s.Minutes, "tools were checked too")
	})
}

func TestATiltedGaugeReadsLarge(t *testing.T) {
	p := practice.Draw(key(3), lesson(t, "bore"), practice.Easy, "")
	take := practice.Take{Tool: 0, Of: trade.GuideBore.Code, At: trade.SpotOf("1E1.top.A")}
	best := steady(p, take, nil)
	last := best.Value.At
	for hand := best.Hand + 20; hand <= practice.HandMost; hand += 10 {
		take.Hand = hand
		s, _ := p.Shows(take, nil)
		assert.Greater(t, s.Value.At, last, "tilted further it reads larger")
		last = s.Value.At
	}
}

func TestAMicrometerTouchesClicksAndIsPressed(t *testing.T) {
	p := practice.Draw(key(4), lesson(t, "micrometer"), practice.Easy, "")
	take := practice.Take{Tool: 1, Of: trade.Stem.Code, At: trade.SpotOf("1I1.top")}
	right := steady(p, take, nil)
	take.Hand = -practice.HandMost
	open, _ := p.Shows(take, nil)
	assert.Greater(t, open.Value.At, right.Value.At)
	assert.Contains(t, open.Feel, "no click")
	take.Hand = practice.HandMost
	pressed, _ := p.Shows(take, nil)
	assert.Less(t, pressed.Value.At, right.Value.At)
	assert.Contains(t, pressed.Feel, "pressed")
}

func TestADialShowsWhatItHasGoneRound(t *testing.T) {
	p := practice.Draw(key(5), lesson(t, "seats"), practice.Easy, "")
	c := *trade.SeatRunout
	take := practice.Take{Tool: p.ToolsFor(c)[0], Of: c.Code, At: trade.SpotOf("1E1"), Hand: -practice.HandMost}
	s, ok := p.Shows(take, nil)
	require.True(t, ok)
	assert.Zero(t, s.Value.At, "not turned at all")
	take.Hand = -50
	half, _ := p.Shows(take, nil)
	take.Hand = practice.HandMost
	whole, _ := p.Shows(take, nil)
	assert.Greater(t, whole.Value.At, half.Value.At)
}

func TestAToolThatIsOffIsFoundAndSetRight(t *testing.T) {
	p := practice.Draw(key(6), lesson(t, "zero"), practice.Usual, "")
	u := p.Told.Tools[0].U
	off := p.Off(0, nil)
	assert.Greater(t, off.Abs(), 3*u, "the bore gauge is off by far more than its label says")
	assert.Less(t, p.Off(1, nil).Abs(), 2*p.Told.Tools[1].U, "and the micrometer is not")
	take := practice.Take{Tool: 0, Of: trade.GuideBore.Code, At: trade.SpotOf("1E1.top.A")}
	before := steady(p, take, nil)
	set := []practice.Step{{Kind: practice.StepZero, Tool: 0, Set: true}}
	after := steady(p, take, set)
	assert.InDelta(t, float64(off), float64(before.Value.At-after.Value.At), float64(2*u))
	looked := []practice.Step{{Kind: practice.StepZero, Tool: 0}}
	assert.Equal(t, before.Value, steady(p, take, looked).Value, "looked at only, it is as far off as before")
	assert.Less(t, p.Off(0, set).Abs(), u)
}

func TestADroppedValveBouncesOrThuds(t *testing.T) {
	p := practice.Draw(key(7), lesson(t, "exam"), practice.Easy, "bent")
	ear := p.ToolsFor(*trade.Drop)[0]
	thuds := 0
	for _, v := range p.Told.Model.Layout.Valves {
		s, ok := p.Shows(practice.Take{Tool: ear, Of: trade.Drop.Code, At: trade.Spot{Position: v.ID}}, nil)
		require.True(t, ok)
		if len(s.Hits) < 4 {
			thuds++
			assert.Zero(t, s.Value.At)
		}
	}
	assert.Equal(t, 1, thuds)
}

func TestABentValveSealsInOnePlace(t *testing.T) {
	p := practice.Draw(key(8), lesson(t, "exam"), practice.Usual, "bent")
	tight := map[string]int{}
	for _, r := range p.Truth.Readings {
		if r.Of == trade.VacuumTurned.Code && trade.KPa.Of(84)-r.Value.At < trade.KPa.Of(4) {
			tight[r.Spot.Position]++
		}
	}
	ones := 0
	for _, n := range tight {
		if n == 1 {
			ones++
		}
	}
	assert.Equal(t, 1, ones, "one valve is tight at one of its four turns: %v", tight)
}

func TestWrongPartsAreInTheBox(t *testing.T) {
	p := practice.Draw(key(9), lesson(t, "exam"), practice.Easy, "wrong")
	require.True(t, p.Box())
	rec := thorough(p)
	known := p.Known(rec)
	require.NotEmpty(t, known.Parts)
	for _, x := range known.Parts {
		assert.True(t, x.New)
		assert.Equal(t, trade.ValvePart.Code, x.Part)
	}
	_, ok := p.Shows(practice.Take{Tool: 1, Of: trade.Stem.Code, At: trade.SpotOf("1I1"), New: true}, nil)
	assert.False(t, ok, "no new intake valve came")
	s, err := p.Score(t.Context(), practice.Record{})
	require.NoError(t, err)
	assert.False(t, kept(t, s, "Every new valve"))
	s, err = p.Score(t.Context(), rec)
	require.NoError(t, err)
	assert.True(t, kept(t, s, "Every new valve"))
}

func kept(t require.TestingT, s practice.Score, line string) bool {
	for _, c := range s.Cautions {
		if strings.HasPrefix(c.Line.String(), line) {
			return c.Kept
		}
	}
	require.Fail(t, "no caution "+line)
	return false
}

func TestCautionsOverlooked(t *testing.T) {
	p := practice.Draw(key(10), lesson(t, "exam"), practice.Easy, "overheated")
	s, err := p.Score(t.Context(), practice.Record{Steps: []practice.Step{
		{Kind: practice.StepRead, Of: trade.GuideBore.Code, At: "1I1.top.A"},
	}})
	require.NoError(t, err)
	assert.False(t, kept(t, s, "Every tool"), "read with before it was checked")
	assert.False(t, kept(t, s, "The thickness"))
	assert.False(t, kept(t, s, "The face was"))
	s, err = p.Score(t.Context(), thorough(p))
	require.NoError(t, err)
	assert.True(t, kept(t, s, "Every tool"))
	assert.True(t, kept(t, s, "The thickness"))
}

// TestVerdicts is the truth table of a verdict: what is true, what the reading says, what was said.
func TestVerdicts(t *testing.T) {
	p := practice.Draw(key(11), lesson(t, "micrometer"), practice.Easy, "")
	var sound, worn string
	for _, f := range judge.Head(p.Truth).All() {
		if f.Code == trade.Stem.Code && f.Verdict < gauge.Doubt {
			sound = f.Position
		} else if f.Code == trade.Stem.Code {
			worn = f.Position
		}
	}
	limit := func(at string) quantity.Amount { return *p.Told.Limit(trade.Stem.Code, string(p.Told.Role(at))).Low }
	for _, c := range []struct {
		name, at            string
		by                  quantity.Amount // what was read, above its limit; 0: nothing
		says                string
		right, luck, misled bool
		missed              bool
	}{
		{"sound, read so, said so", sound, 20 * um, practice.SaysIn, true, false, false, false},
		{"sound, read so, said out", sound, 20 * um, practice.SaysOut, false, false, false, false},
		{"sound, read out, said out", sound, -20 * um, practice.SaysOut, false, false, true, false},
		{"sound, read out, said in", sound, -20 * um, practice.SaysIn, true, false, false, false},
		{"sound, too close, said in", sound, um, practice.SaysIn, true, true, false, false},
		{"sound, too close, said so", sound, um, practice.SaysDoubt, true, false, false, false},
		{"sound, read so, said doubtful", sound, 20 * um, practice.SaysDoubt, false, false, false, false},
		{"sound, not read", sound, 0, practice.SaysIn, false, false, false, false},
		{"worn, read so, said so", worn, -20 * um, practice.SaysOut, true, false, false, false},
		{"worn, read sound, said sound", worn, 20 * um, practice.SaysIn, false, false, true, false},
		{"worn, too close, said out", worn, -um, practice.SaysOut, true, true, false, false},
		{"worn, nothing said", worn, -20 * um, "", false, false, false, false},
		{"worn, not read", worn, 0, "", false, false, false, true},
	} {
		rec := practice.Record{Answers: practice.Answers{Verdicts: map[string]string{"stem.dia@" + c.at: c.says}}}
		if c.by != 0 {
			for _, place := range trade.Stem.Places {
				rec.Steps = append(rec.Steps, practice.Step{
					Kind: practice.StepRead, Tool: 1, Of: trade.Stem.Code, At: c.at + "." + place,
					Value: gauge.Exact(limit(c.at) + c.by),
				})
			}
		}
		s, err := p.Score(t.Context(), rec)
		require.NoError(t, err)
		for _, v := range s.Verdicts {
			if v.Truth.Key() == "stem.dia@"+c.at {
				assert.Equal(t, []bool{c.right, c.luck, c.misled, c.missed}, []bool{v.Right, v.Luck, v.Misled, v.Missed}, c.name)
			}
		}
	}
}

// TestWhatReadingCostAndWasWorth: minutes at the shop's rate, and the job for what a characteristic alone
// tells where it was read.
func TestWhatReadingCostAndWasWorth(t *testing.T) {
	p := practice.Draw(key(3), lesson(t, "exam"), practice.Easy, "bent")
	var all []practice.Step
	for _, c := range []*trade.Characteristic{trade.ValveRunout, trade.ValveMargin} {
		for _, at := range c.Spots(p.Told.Model.Layout) {
			all = append(all, steady(p, practice.Take{Tool: p.ToolsFor(*c)[0], Of: c.Code, At: at}, all))
		}
	}
	cost := func(steps []practice.Step) map[string]practice.Cost {
		s, err := p.Score(t.Context(), practice.Record{Steps: steps})
		require.NoError(t, err)
		out := map[string]practice.Cost{}
		for _, c := range s.Costs {
			out[c.Of.Code] = c
		}
		return out
	}
	told := cost(all)
	bent, margin := told[trade.ValveRunout.Code], told[trade.ValveMargin.Code]
	assert.Equal(t, 1, bent.Out)
	assert.Equal(t, money(t, p, bent.Seconds), bent.Cents)
	assert.Zero(t, margin.Out)
	assert.Zero(t, margin.Worth, "it told nothing")
	best, err := plan.Solve(t.Context(), p.Planned(), head.Ask{})
	require.NoError(t, err)
	assert.Positive(t, bent.Worth)
	assert.LessOrEqual(t, bent.Worth, best.Cents)

	sound := slices.DeleteFunc(slices.Clone(all), func(s practice.Step) bool {
		return s.Of != trade.ValveRunout.Code || s.Value.At > 30*um
	})
	require.Len(t, sound, 5)
	assert.Zero(t, cost(sound)[trade.ValveRunout.Code].Worth, "it was not read where it is bent")
}

// money is what seconds cost at the rate of the shop.
func money(t *testing.T, p *practice.Head, seconds int) int64 {
	t.Helper()
	rate := price.Rate(p.Told)
	require.Positive(t, rate)
	return (int64(seconds)*rate + 1800) / 3600
}

// TestASlipIsTypedOtherThanShown: by more than the tool's doubt, in either direction.
func TestASlipIsTypedOtherThanShown(t *testing.T) {
	p := practice.Draw(key(4), lesson(t, "micrometer"), practice.Easy, "")
	u := p.Told.Tools[1].U
	for by, slip := range map[quantity.Amount]int{0: 0, u: 0, -u: 0, u + 1: 1, -u - 1: 1} {
		step := steady(p, practice.Take{Tool: 1, Of: trade.Stem.Code, At: trade.SpotOf("1I1.top")}, nil)
		step.Value.At += by
		s, err := p.Score(t.Context(), practice.Record{Steps: []practice.Step{step}})
		require.NoError(t, err)
		assert.Equal(t, slip, s.Costs[0].Slips, by)
	}
	p = practice.Draw(key(4), lesson(t, "feelers"), practice.Easy, "")
	at := trade.FaceLine.Spots(p.Told.Model.Layout)[0]
	tool := p.ToolsFor(*trade.FaceLine)[0]
	shown, _ := p.Shows(practice.Take{Tool: tool, Of: trade.FaceLine.Code, At: at}, nil)
	for nogo, slip := range map[quantity.Amount]int{shown.Value.NoGo: 0, shown.Value.NoGo + um: 1} {
		s, err := p.Score(t.Context(), practice.Record{Steps: []practice.Step{{
			Kind: practice.StepRead, Tool: tool, Of: trade.FaceLine.Code, At: at.Key(),
			Value: gauge.Between(shown.Value.Go, nogo),
		}}})
		require.NoError(t, err)
		assert.Equal(t, slip, s.Costs[0].Slips)
	}
}

func TestTheLastOfAPlaceStands(t *testing.T) {
	p := practice.Draw(key(12), lesson(t, "micrometer"), practice.Easy, "")
	read := func(at quantity.Amount) practice.Step {
		return practice.Step{Kind: practice.StepRead, Tool: 1, Of: trade.Stem.Code, At: "1I1.top", Value: gauge.Exact(at)}
	}
	h := p.Known(practice.Record{Steps: []practice.Step{read(7_960 * um), read(7_940 * um)}})
	require.Len(t, h.Standing(), 1)
	assert.Equal(t, 7_940*um, h.Standing()[0].Value.At)
}

func TestSecondsAreOfWhatWasDone(t *testing.T) {
	p := practice.Draw(key(13), lesson(t, "bore"), practice.Easy, "")
	rec := practice.Record{Steps: []practice.Step{
		{Kind: practice.StepRead, Tool: 0}, {Kind: practice.StepRead, Tool: 1}, {Kind: practice.StepLook},
		{Kind: practice.StepZero, Tool: 0}, {Kind: practice.StepFace},
	}}
	assert.Equal(t, 30+20+20+90+20, p.Seconds(rec))
	assert.Equal(t, quantity.Minutes(3), p.Minutes(rec))
	assert.Equal(t, quantity.Minutes(4), p.Minutes(practice.Record{Steps: append(rec.Steps, practice.Step{})}))
}

func TestFeelersHaveTheGapBetweenThem(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := drawn(t, "feelers")
		tool := p.ToolsFor(*trade.FaceLine)[0]
		for _, r := range p.Truth.Readings {
			if r.Of != trade.FaceLine.Code {
				continue
			}
			s, ok := p.Shows(practice.Take{Tool: tool, Of: r.Of, At: r.Spot}, nil)
			require.True(t, ok)
			require.True(t, s.Value.Bracket)
			require.LessOrEqual(t, s.Value.Go, r.Value.Go)
			require.Greater(t, s.Value.NoGo, r.Value.Go)
			require.LessOrEqual(t, s.Value.NoGo-s.Value.Go, 50*um)
		}
	})
}

func TestLessonsAreWhole(t *testing.T) {
	for _, l := range practice.Lessons {
		p := practice.Draw(key(1), l, l.Level, "")
		assert.NotEmpty(t, p.Reads(), l.Code)
		for _, c := range p.Reads() {
			assert.NotEmpty(t, p.ToolsFor(c), "%s: nothing reads %s", l.Code, c.Code)
		}
		judged := 0
		for _, f := range judge.Head(p.Truth).All() {
			if f.Limit != nil && f.Finding == 0 {
				judged++
				assert.NotEqual(t, gauge.Unread, f.Verdict, "%s: %s", l.Code, f.Key())
			}
		}
		assert.Positive(t, judged, l.Code)
		_, err := head.Encode(p.Told).JSON()
		require.NoError(t, err)
	}
}
