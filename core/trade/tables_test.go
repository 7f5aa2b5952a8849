package trade_test

import (
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/layout"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// kinds are all the sorts of head there can be.
func kinds() (out []trade.Kind) {
	for _, d := range trade.Drives {
		for _, l := range trade.Lifters {
			for _, c := range trade.Coolings {
				for _, m := range trade.Materials {
					for _, i := range trade.Ignitions {
						out = append(out, trade.Kind{Drive: d, Lifter: l, Cooling: c, Material: m, Ignition: i})
					}
				}
			}
		}
	}
	return out
}

var codeForm = regexp.MustCompile(`^[a-z_]+(\.[a-z_]+)*( [a-z]+)?$`)

// TestTables walks everything the trade declares: nothing is declared twice or half, nothing
// points at what a head cannot have, and nothing can be out without an answer.
func TestTables(t *testing.T) {
	seen := map[string]bool{}
	once := func(table, code string) {
		assert.Regexp(t, codeForm, code, table)
		assert.False(t, seen[table+code], "%s %s is declared twice", table, code)
		seen[table+code] = true
	}
	for _, c := range trade.Characteristics {
		once("characteristic", c.Code)
		assert.NotEmpty(t, c.Label, c.Code)
		assert.NotEmpty(t, c.Line, c.Code)
		if !c.Derived() {
			assert.NotEmpty(t, c.Tools, "%s is read with nothing", c.Code)
			assert.Less(t, c.Low, c.High, "%s has no range", c.Code)
		}
		for _, kind := range c.Tools {
			_, ok := trade.ToolKindNamed(kind)
			assert.True(t, ok, "%s: no tool kind %s", c.Code, kind)
		}
		for _, from := range c.From {
			if !slices.ContainsFunc(kinds(), func(k trade.Kind) bool { return c.Exists(k) && from.Exists(k) }) {
				t.Errorf("%s is made of %s, and no head has both", c.Code, from.Code)
			}
		}
	}
	for _, r := range trade.Repairs() {
		once("repair", r.Code)
		require.NotNil(t, r.Does, r.Code)
		assert.NotEmpty(t, r.Name, r.Code)
		assert.NotEmpty(t, r.Works, r.Code)
		assert.NotEmpty(t, r.Answers, "%s answers nothing", r.Code)
	}
	for _, o := range trade.Operations() {
		once("operation", o.Code)
		assert.NotEmpty(t, o.Name, o.Code)
		assert.Contains(t, trade.Stations, o.Station, o.Code)
		assert.NotNil(t, o.Stage, o.Code)
		if o.Proof != nil {
			assert.Contains(t, o.Voids, o.Proof.Of, "%s is proven by what it does not change", o.Code)
			assert.NotEmpty(t, o.Proof.Datum, o.Code)
		}
		if o.Uses != nil {
			assert.NotNil(t, trade.PartKindNamed(o.Uses.Code))
		}
		if o.Record != nil {
			assert.NotNil(t, o.Record.Judge, o.Code)
			for _, f := range o.Record.Fields {
				assert.NotEmpty(t, f.Label, o.Code)
			}
		}
	}
	for _, s := range trade.Symptoms {
		once("symptom", s.Code)
	}
	told := map[*trade.Sign]bool{}
	for _, c := range trade.Causes {
		once("cause", c.Code)
		assert.NotEmpty(t, c.Mend, c.Code)
		assert.NotEmpty(t, c.Signs, c.Code)
		for _, p := range c.Signs {
			assert.NotZero(t, p.Weight, c.Code)
			told[p.Sign] = true
		}
	}
	for _, s := range trade.Signs {
		once("sign", s.Code)
		assert.NotEmpty(t, s.Check, s.Code)
		assert.True(t, told[s], "%s tells nothing", s.Code)
	}
	for _, f := range trade.Figures() {
		once("figure", f.Code)
	}
	for _, s := range trade.Settings {
		once("setting", s.Name)
		assert.NoError(t, s.Check(s.Usual), "the default of %s is refused", s.Name)
	}
}

// TestWhatCanBeOutHasAnAnswer holds on every sort of head: a limit that can be missed has a
// repair, or says why there is none; so has everything eyes can find.
func TestWhatCanBeOutHasAnAnswer(t *testing.T) {
	for _, k := range kinds() {
		for _, c := range trade.Characteristics {
			if !c.Exists(k) || c.NoLimit {
				continue
			}
			for _, side := range []string{trade.Low, trade.High} {
				if len(trade.RepairsFor(c.Code, side, k)) == 0 && c.NoAnswer == "" {
					t.Errorf("%s %s on %v: nothing answers it", c.Code, side, k)
				}
			}
		}
		for _, p := range trade.Parts {
			if !p.Exists(k) {
				continue
			}
			for _, g := range p.Grades {
				code := p.Code
				if p.Code == trade.MarkCode {
					code += "." + g.Code
				}
				if g.Verdict >= gauge.Doubt && len(trade.RepairsFor(code, "", k)) == 0 {
					t.Errorf("%s %s on %v: nothing answers it", p.Code, g.Code, k)
				}
			}
		}
	}
}

// TestNothingIsOfferedThatCannotBe asks every sort of head for every repair of everything.
func TestNothingIsOfferedThatCannotBe(t *testing.T) {
	for _, k := range kinds() {
		for _, c := range trade.Characteristics {
			for _, side := range []string{trade.Low, trade.High} {
				for _, r := range trade.RepairsFor(c.Code, side, k) {
					assert.True(t, r.Does.Exists(k), "%s on %v", r.Code, k)
				}
			}
		}
	}
	air := trade.Kind{Drive: trade.Bucket, Lifter: "solid", Cooling: "air", Material: "aluminium", Ignition: "plug"}
	assert.False(t, trade.OperationNamed("pressure_test").Exists(air))
	for _, code := range []string{"rocker.pad", "pushrod.length", "injector.protrusion"} {
		c, _ := trade.ByCode(code)
		assert.False(t, c.Exists(air), code)
	}
}

// TestPrecedenceHasNoCircle: of two operations at most one must come first, in every school.
func TestPrecedenceHasNoCircle(t *testing.T) {
	ops := trade.Operations()
	for _, a := range ops {
		for _, b := range ops {
			_, ab := trade.Precedes(a, b)
			_, ba := trade.Precedes(b, a)
			assert.False(t, ab && ba, "%s and %s both first", a.Code, b.Code)
		}
	}
}

// TestProposedSymptomsCountDeclaredWords never takes a word inside another for a symptom.
func TestProposedSymptoms(t *testing.T) {
	has := func(story string) (out []string) {
		for _, s := range trade.Proposed(story) {
			out = append(out, s.Code)
		}
		return out
	}
	assert.NotEmpty(t, has("Misfires hot, then cold."))
	assert.Empty(t, has(""))
	assert.Empty(t, has(strings.Repeat("dismissal ", 9)))
}

// TestTheGlossarySpeaksOfWhatThereIs looks whether each usual mistake belongs to a characteristic,
// and whether every characteristic that is read says what it is.
func TestTheGlossarySpeaksOfWhatThereIs(t *testing.T) {
	said := 0
	for _, c := range trade.Characteristics {
		assert.NotEmpty(t, c.Line, c.Code)
		if c.Mistake() != "" {
			said++
			assert.False(t, c.Derived(), c.Code)
		}
	}
	assert.Equal(t, trade.MistakesSaid(), said)
}

// TestTheGeneralTableOfClearances holds it against the table itself: every line up to its stem, and no more.
func TestTheGeneralTableOfClearances(t *testing.T) {
	const mm, um = quantity.One, quantity.One / 1000
	for _, x := range []struct {
		stem                         quantity.Amount
		inLow, inHigh, exLow, exHigh quantity.Amount // micrometres
	}{
		{5 * mm, 15, 45, 25, 60}, {7 * mm, 15, 45, 25, 60}, {7*mm + um, 20, 55, 35, 70}, {9 * mm, 20, 55, 35, 70},
		{9*mm + um, 30, 70, 50, 90},
		{12 * mm, 30, 70, 50, 90}, {12*mm + um, 45, 90, 70, 120}, {16 * mm, 45, 90, 70, 120},
	} {
		for role, want := range map[layout.Role][2]quantity.Amount{
			layout.Intake: {x.inLow * um, x.inHigh * um}, layout.Exhaust: {x.exLow * um, x.exHigh * um},
		} {
			g := trade.GeneralClearance(role, x.stem)
			require.NotNil(t, g, x.stem)
			assert.Equal(t, want, [2]quantity.Amount{*g.Low, *g.High}, "%s %v", role, x.stem)
		}
	}
	for _, stem := range []quantity.Amount{5*mm - um, 16*mm + um} {
		assert.Nil(t, trade.GeneralClearance(layout.Intake, stem), stem)
	}
}

// TestTheSealTestComesBeforeOrAfterTheSprings as the shop's school has it.
func TestTheSealTestComesBeforeOrAfterTheSprings(t *testing.T) {
	assembled, bare := trade.School{Assembled: true}, trade.School{}
	assert.Greater(t, trade.SealTest.Place(assembled), trade.Assemble.Place(assembled))
	assert.Less(t, trade.SealTest.Place(bare), trade.Assemble.Place(bare))
	assert.Less(t, trade.FinalWash.Place(assembled), trade.Assemble.Place(assembled), "no other operation moves")
}

// TestUsualFiguresStand holds what is supposed where a sheet says nothing, in nanometres or millionths.
func TestUsualFiguresStand(t *testing.T) {
	is := map[string]int{}
	for _, f := range trade.Figures() {
		if f.Usual != nil {
			is[f.Code] = int(*f.Usual)
			assert.NotEmpty(t, f.Why, "%s says why", f.Code)
		}
	}
	assert.Equal(t, map[string]int{
		"rocker_ratio": 1_000_000, "seat_angle": 45_000_000, "top_angle": 30_000_000, "bottom_angle": 60_000_000,
		"seat_clean": 60_000,
		"seat_most":  300_000, "insert_up": 800_000, "insert_down": 300_000, "valve_grind": 100_000, "grind_runout": 50_000,
		"adjuster":   1_000_000,
		"face_allow": 30_000, "face_clean": 50_000,
	}, is)
}
