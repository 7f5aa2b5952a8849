package judge_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/length"
)

const um = length.Micrometre

// at makes readings of a characteristic with consecutive ids.
func at(code string, u length.Length, values map[judge.Spot]length.Length) []judge.Reading {
	var out []judge.Reading
	for sp, v := range values {
		out = append(out, judge.Reading{ID: uint(len(out) + 1), Characteristic: code, Spot: sp, Value: gauge.Exact(v), U: u})
	}
	return out
}

func limit(code string, low, high *length.Length) judge.Limit {
	return judge.Limit{Characteristic: code, Set: "service", Low: low, High: high, Source: "test"}
}

func TestRockIsConvertedAndCompared(t *testing.T) {
	l := twin(t)
	s := judge.Sheet{Layout: l, Limits: []judge.Limit{limit("guide.clearance", ptr(20*um), ptr(100*um))}, Given: map[string]length.Length{"given.guide_length": 48 * mm, "given.rock_overhang": 22 * mm}}
	rs := at("guide.rock", 0, map[judge.Spot]length.Length{{Position: "1E1"}: 250 * um})
	j := judge.Head(s, rs)
	f, ok := j.Feature("guide.play@1E1")
	require.True(t, ok)
	assert.Equal(t, length.Length(130_435), f.High)
	assert.Equal(t, gauge.Out, f.Verdict)
	rs = append(rs, at("guide.bore", 0, map[judge.Spot]length.Length{{Position: "1E1", Place: "top", Dir: "A"}: 8100 * um})...)
	rs = append(rs, at("stem.dia", 0, map[judge.Spot]length.Length{{Position: "1E1", Place: "top"}: 8000 * um})...)
	f, _ = judge.Head(s, rs).Feature("guide.play@1E1")
	assert.Contains(t, f.Note, "by gauges 0.1 mm")
	s.Given = nil
	f, _ = judge.Head(s, rs).Feature("guide.play@1E1")
	assert.Equal(t, gauge.Unread, f.Verdict, "without the guide's length nothing is said")
}

func TestGoGaugesMakeTheClearanceAnInterval(t *testing.T) {
	s := judge.Sheet{Layout: twin(t), Limits: []judge.Limit{limit("guide.clearance", ptr(20*um), ptr(60*um))}}
	stem := at("stem.dia", 0, map[judge.Spot]length.Length{{Position: "1I1", Place: "top"}: 8000 * um})
	verdict := func(goes, nogo length.Length) gauge.Verdict {
		bore := judge.Reading{ID: 9, Characteristic: "guide.bore", Spot: judge.Spot{Position: "1I1", Place: "top", Dir: "A"}, Value: gauge.Between(goes, nogo)}
		f, _ := judge.Head(s, append(stem, bore)).Feature("guide.clearance@1I1")
		assert.True(t, f.Bracket)
		return f.Verdict
	}
	assert.Equal(t, gauge.Sound, verdict(8030*um, 8050*um))
	assert.Equal(t, gauge.Doubt, verdict(8040*um, 8070*um))
	assert.Equal(t, gauge.Out, verdict(8070*um, 8090*um))
	assert.Equal(t, gauge.Doubt, verdict(8030*um, 40*mm), "a gauge that goes says nothing of how loose")
}

func TestSpreadsFitsAndFlatness(t *testing.T) {
	l := twin(t)
	s := judge.Sheet{Layout: l, Limits: []judge.Limit{limit("recession.spread", nil, ptr(50*um)), limit("guide.fit", ptr(20*um), ptr(40*um)), limit("face.flatness", nil, ptr(30*um)), limit("spring.spread", nil, ptr(20*mm))}}
	rs := at("valve.recession", 0, map[judge.Spot]length.Length{{Position: "1I1"}: 500 * um, {Position: "2I1"}: 560 * um, {Position: "1E1"}: 900 * um})
	rs = append(rs, at("guide.outer", 4*um, map[judge.Spot]length.Length{{Position: "1I1"}: 13_035 * um})...)
	rs = append(rs, at("guide.hole", 3*um, map[judge.Spot]length.Length{{Position: "1I1"}: 13_000 * um})...)
	rs = append(rs, at("spring.load_seat", 0, map[judge.Spot]length.Length{{Position: "1E1"}: 300 * mm, {Position: "2E1"}: 330 * mm})...)
	grid := map[judge.Spot]length.Length{}
	for i, g := range l.Grid() {
		grid[judge.Spot{Position: g.Name}] = length.Length(i%2) * 50 * um
	}
	j := judge.Head(s, append(rs, at("face.grid", 0, grid)...))
	f, _ := j.Feature("recession.spread/intake")
	assert.Equal(t, 60*um, f.High)
	assert.Equal(t, gauge.Out, f.Verdict, "a row of its own role: the exhaust does not count")
	f, _ = j.Feature("guide.fit@1I1")
	assert.Equal(t, 35*um, f.High)
	assert.Equal(t, 5*um, f.U, "both doubts")
	f, _ = j.Feature("spring.spread/exhaust")
	assert.Equal(t, "30.0", f.Figure(length.MM))
	assert.Equal(t, "N", f.UnitName(length.MM))
	f, _ = j.Feature("face.flatness")
	assert.Equal(t, gauge.Out, f.Verdict)
	assert.Contains(t, f.Note, "tilted to the best plane")
}

func TestOtherSetsAreHeldBeside(t *testing.T) {
	target := limit("seat.runout", nil, ptr(30*um))
	target.Set = "target"
	s := judge.Sheet{Layout: twin(t), Limits: []judge.Limit{limit("seat.runout", nil, ptr(50*um)), target}}
	rs := at("seat.runout", 0, map[judge.Spot]length.Length{{Position: "1I1"}: 40 * um})
	f, _ := judge.Head(s, rs).Feature("seat.runout@1I1")
	assert.Equal(t, gauge.Sound, f.Verdict, "inside the service limit")
	h, ok := f.Against("target")
	require.True(t, ok)
	assert.Equal(t, gauge.Out, h.Verdict)
	assert.Contains(t, f.Why(length.MM), "shop target 0.03 mm max (test): out")
	s.Set = "target"
	f, _ = judge.Head(s, rs).Feature("seat.runout@1I1")
	assert.Equal(t, gauge.Out, f.Verdict, "judged by the target when that governs")
}

// TestEveryModeOfEntry types one number each way.
func TestEveryModeOfEntry(t *testing.T) {
	bore, _ := judge.ByCode("guide.bore")
	for _, c := range []struct {
		mode, text string
		set        length.Length
		want       gauge.Value
	}{
		{"pilot", "8.034", 0, gauge.Exact(8034 * um)},
		{"go gauges", "8.03 8.06", 0, gauge.Between(8030*um, 8060*um)},
		{"pass or fail", "+", 8030 * um, gauge.Between(8030*um, bore.High+1)},
		{"pass or fail", "-", 8030 * um, gauge.Between(bore.Low, 8030*um)},
		{"two sides", "8.02 8.04", 0, gauge.Exact(8030 * um)},
	} {
		e := judge.Entry{Mode: c.mode, Set: c.set}
		got, err := bore.ReadAs(e, c.text, length.MM)
		require.NoError(t, err, c.mode)
		assert.Equal(t, c.want, got, c.mode)
		assert.NotEmpty(t, e.Worked(c.text, got.At, length.MM), c.mode)
	}
	for mode, bad := range map[string][]string{"go gauges": {"8.06 8.03", "8.03", "a b"}, "pass or fail": {"maybe", "", "8.03"}, "pilot": {"80.3 cubits", ""}} {
		for _, text := range bad {
			_, err := bore.ReadAs(judge.Entry{Mode: mode, Set: 8030 * um}, text, length.MM)
			assert.Error(t, err, "%s %q", mode, text)
		}
	}
	drop, _ := judge.ByCode("test.drop")
	for text, want := range map[string]length.Length{"+": mm, "b": mm, "bounces": mm, "1": mm, "-": 0, "thuds": 0, "0": 0} {
		v, err := drop.Read(text, length.MM)
		require.NoError(t, err, text)
		assert.Equal(t, want, v.At, text)
	}
	load, _ := judge.ByCode("spring.load_seat")
	for text, want := range map[string]length.Length{"310": 310 * mm, "310N": 310 * mm, "70lbf": 311_375_513} {
		v, err := load.Read(text, length.In)
		require.NoError(t, err, text)
		assert.Equal(t, want, v.At, "%s: not a length, whatever the sheet's unit", text)
	}
	_, err := load.Read("310mm", length.MM)
	assert.Error(t, err)
}

// TestEveryCharacteristicShowsWhatItReads reads a value in the middle of what can be, shows
// it and reads that again.
func TestEveryCharacteristicShowsWhatItReads(t *testing.T) {
	for _, c := range judge.Characteristics {
		if c.Derived || c.Bracket {
			continue
		}
		for _, u := range []length.Unit{length.MM, length.In} {
			text := c.Show((c.Low+c.High)/2, u)
			v, err := c.Read(text, u)
			require.NoError(t, err, "%s %q", c.Code, text)
			assert.Equal(t, text, c.Show(v.At, u), c.Code)
		}
		assert.NotEmpty(t, c.Spots(twin(t)), c.Code)
	}
}

// TestGradesAreTold checks that every grade can be told from its neighbours, and that what
// is bad can be mended.
func TestGradesAreTold(t *testing.T) {
	for _, p := range judge.Parts {
		seen := map[string]bool{}
		for _, g := range p.Grades {
			assert.False(t, seen[g.Code] || seen[g.Line], "%s %s", p.Code, g.Code)
			seen[g.Code], seen[g.Line] = true, true
			code := p.Code
			if p.Code == judge.Mark {
				code = judge.Mark + "." + g.Code
			}
			if g.Verdict >= gauge.Out {
				assert.NotEmpty(t, judge.RepairsFor(judge.Feature{Code: code}), code)
			}
			assert.True(t, judge.IsFinding(code), code)
		}
	}
}

// guideAt makes the six readings of a guide from its places, both directions alike but for
// what B has more.
func guideAt(top, middle, bottom, more length.Length) []judge.Reading {
	values := map[judge.Spot]length.Length{}
	for place, v := range map[string]length.Length{"top": top, "middle": middle, "bottom": bottom} {
		values[judge.Spot{Position: "1E1", Place: place, Dir: "A"}] = v
		values[judge.Spot{Position: "1E1", Place: place, Dir: "B"}] = v + more
	}
	return at("guide.bore", 2*um, values)
}

func TestFormIsJudgedWhereTheSheetHasALimit(t *testing.T) {
	s := judge.Sheet{Layout: twin(t), Limits: []judge.Limit{limit("guide.form", nil, ptr(20*um))}}
	for _, c := range []struct {
		what                      string
		top, middle, bottom, more length.Length
		worst                     length.Length
		verdict                   gauge.Verdict
		shape                     string
	}{
		{"straight", 8000, 8000, 8000, 0, 0, gauge.Sound, "straight"},
		{"opens to the port", 8000, 8012, 8040, 0, 40 * um, gauge.Out, "opens"},
		{"bell mouth", 8030, 8000, 8028, 0, 28 * um, gauge.Out, "bell"},
		{"oval", 8000, 8000, 8000, 30, 30 * um, gauge.Out, "oval"},
		{"at the limit, within the doubt", 8000, 8000, 8020, 0, 20 * um, gauge.Doubt, ""},
	} {
		f, ok := judge.Head(s, guideAt(c.top*um, c.middle*um, c.bottom*um, c.more*um)).Feature("guide.form@1E1")
		require.True(t, ok, c.what)
		assert.Equal(t, c.worst, f.High, c.what)
		assert.Equal(t, c.verdict, f.Verdict, c.what)
		assert.Contains(t, f.Note, c.shape, c.what)
		assert.Len(t, f.From, 6, "the readings behind it")
	}
	_, ok := judge.Head(judge.Sheet{Layout: twin(t)}, guideAt(8000*um, 8000*um, 8040*um, 0)).Feature("guide.form@1E1")
	assert.False(t, ok, "no limit, no verdict on form")
}

// TestAFitIsTheDifferenceOfTwo holds a new guide against its hole, with both doubts.
func TestAFitIsTheDifferenceOfTwo(t *testing.T) {
	s := judge.Sheet{Layout: twin(t), Limits: []judge.Limit{limit("guide.fit", ptr(20*um), ptr(50*um))}}
	fit := func(outer, hole, u length.Length) judge.Feature {
		rs := append(at("guide.outer", u, map[judge.Spot]length.Length{{Position: "1E1"}: outer}), at("guide.hole", u, map[judge.Spot]length.Length{{Position: "1E1"}: hole})...)
		f, _ := judge.Head(s, rs).Feature("guide.fit@1E1")
		return f
	}
	assert.Equal(t, gauge.Sound, fit(14_035*um, 14_000*um, 3*um).Verdict)
	assert.Equal(t, gauge.Out, fit(14_070*um, 14_000*um, 3*um).Verdict)
	assert.Equal(t, gauge.Doubt, fit(14_023*um, 14_000*um, 3*um).Verdict, "sqrt(3²+3²) over the limit")
	assert.Equal(t, gauge.Sound, fit(14_025*um, 14_000*um, 3*um).Verdict)
}

// TestReadingsOfOthersChangeNothing judges a head with and without readings at other
// positions: what is said of a position is its own.
func TestReadingsOfOthersChangeNothing(t *testing.T) {
	s := judge.Sheet{Layout: twin(t), Limits: []judge.Limit{limit("guide.clearance", ptr(20*um), ptr(60*um)), limit("seat.width", ptr(mm), ptr(2*mm)), limit("valve.recession", ptr(0), ptr(mm))}}
	own := append(guideAt(8000*um, 8000*um, 8040*um, 0), at("stem.dia", 0, map[judge.Spot]length.Length{{Position: "1E1", Place: "top"}: 7960 * um})...)
	own = append(own, at("seat.width", 0, map[judge.Spot]length.Length{{Position: "1E1"}: 3 * mm})...)
	alone, _ := judge.Head(s, own).Position("1E1")
	others := at("seat.width", 0, map[judge.Spot]length.Length{{Position: "1I1"}: mm, {Position: "2E1"}: 9 * mm})
	among, _ := judge.Head(s, append(append([]judge.Reading{}, own...), others...)).Position("1E1")
	assert.Equal(t, alone, among)
	j := judge.Head(s, append(own, others...))
	assert.Equal(t, gauge.Out, j.Worst)
	for _, f := range j.All() {
		got, ok := j.Feature(f.Key())
		require.True(t, ok, f.Key())
		assert.Equal(t, f, got)
	}
	_, ok := j.Feature("seat.width@9E9")
	assert.False(t, ok)
}
