package trade_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// TestASettingIsTakenToItsEnds: the end itself is taken, what lies beyond is not.
func TestASettingIsTakenToItsEnds(t *testing.T) {
	for _, c := range []struct {
		name, typed string
		ok          bool
	}{
		{"test_minutes", "0", true},
		{"test_minutes", "-1", false},
		{"test_minutes", "100000", true},
		{"test_minutes", "100001", false},
		{"test_minutes", "ten", false},
		{"scatter.seat", "0mm", true},
		{"scatter.seat", "1mm", true},
		{"scatter.seat", "1.001mm", false},
		{"scatter.seat", "-0.001mm", false},
		{"tax", "100", true},
		{"tax", "100.01", false},
		{"tax", "0", true},
		{"test_pressure.iron", "0kPa", true},
		{"test_pressure.iron", "3bar", true},
		{"test_pressure.iron", "3.01bar", false},
		{"test_pressure.iron", "-1kPa", false},
		{"school.face", "first", true},
		{"school.face", "sideways", false},
		{"hands.face", "1", true},
		{"hands.face", "4", true},
		{"hands.face", "5", false},
		{"hands.face", "0", false},
		{"hands.face", "two", false},
	} {
		s, known := trade.SettingNamed(c.name)
		if !known {
			t.Errorf("no setting %s", c.name)
			continue
		}
		assert.Equal(t, c.ok, s.Check(c.typed) == nil, "%s %s: %v", c.name, c.typed, s.Check(c.typed))
	}
}

// TestAUnitIsWrittenOnceForSeveralPressures: at the end, apart or not; without one they are kPa.
func TestAUnitIsWrittenOnceForSeveralPressures(t *testing.T) {
	for text, want := range map[string][]string{
		"82 81 80":         {"82", "81", "80"},
		"82 81 kPa":        {"82", "81"},
		"0.82 0.81 bar":    {"82", "81"},
		"0.82 0.81bar":     {"82", "81"},
		"0.82bar 81kPa":    {"82", "81"},
		"0.82bar 0.81 bar": {"82", "81"},
		"1bar":             {"100"},
	} {
		got, err := trade.Pressures(text)
		require.NoError(t, err, text)
		var have []string
		for _, p := range got {
			have = append(have, p.String())
		}
		require.Len(t, have, len(want), text)
		for i := range want {
			assert.Contains(t, have[i], want[i], text)
		}
	}
	_, err := trade.Pressures("82 soft")
	assert.Error(t, err)
}

// TestAProofIsMadeAgainByItself but for the first pressure test, which is followed by the second.
func TestAProofIsMadeAgainByItself(t *testing.T) {
	for _, o := range trade.Operations() {
		want := o
		if o == trade.PressureTest {
			want = trade.Retest
		}
		assert.Same(t, want, o.Again(), o.Code)
	}
}

// TestSymptomsAreProposedInTheirOrder whatever the order of the story.
func TestSymptomsAreProposedInTheirOrder(t *testing.T) {
	var story string
	for i := len(trade.Symptoms) - 1; i >= 0; i-- {
		story += trade.Symptoms[i].Words[0] + ". "
	}
	got := trade.Proposed(story)
	require.Greater(t, len(got), 3)
	last := -1
	for _, s := range got {
		at := -1
		for i, x := range trade.Symptoms {
			if x == s {
				at = i
			}
		}
		assert.Greater(t, at, last, s.Code)
		last = at
	}
}

// TestWhatMovesTheLashHasItSet on every sort of head that has a lash to set, and setting it brings nothing.
func TestWhatMovesTheLashHasItSet(t *testing.T) {
	for _, k := range kinds() {
		for _, o := range trade.Operations() {
			if !o.Exists(k) {
				continue
			}
			brings := false
			for _, b := range o.Brings(k, trade.School{}) {
				brings = brings || b == trade.SetLash
			}
			want := o != trade.SetLash && trade.SetLash.Exists(k) && o.Moved(trade.Lash, k)
			for _, b := range o.Implies {
				want = want || b == trade.SetLash && b.Exists(k)
			}
			assert.Equal(t, want, brings, "%s on %v", o.Code, k)
		}
	}
	solid := trade.Kind{Drive: trade.Rocker, Lifter: "solid", Cooling: "water", Material: "iron", Ignition: "plug"}
	assert.Contains(t, trade.CutSeat.Brings(solid, trade.School{}), trade.SetLash)
	assert.NotContains(t, trade.SetLash.Brings(solid, trade.School{}), trade.SetLash)
	solid.Lifter = "hydraulic"
	assert.NotContains(t, trade.CutSeat.Brings(solid, trade.School{}), trade.SetLash)
}

// TestLoadsOfAnInchSheetArePounds: a bare number means the unit that is shown; one with its unit means that.
func TestLoadsOfAnInchSheetArePounds(t *testing.T) {
	for _, x := range []struct {
		c    trade.Characteristic
		text string
		unit length.Unit
		want quantity.Amount
	}{
		{*trade.LoadSeat, "205", length.MM, 205_000_000}, {*trade.LoadSeat, "46", length.In, 204_618_212},
		{*trade.LoadSeat, "205 N", length.In, 205_000_000},
		{*trade.LoadSeat, "205N", length.In, 205_000_000}, {*trade.LoadSeat, "46 lbf", length.MM, 204_618_212},
		{*trade.VacuumTurned, "25", length.In, 84_659_725},
		{*trade.VacuumTurned, "84 kPa", length.In, 84_000_000},
		{*trade.VacuumTurned, "84", length.MM, 84_000_000}, {*trade.ChamberVolume, "28", length.In, 28_000_000},
	} {
		v, err := x.c.Read(x.text, x.unit)
		require.NoError(t, err, "%s %s", x.c.Code, x.text)
		assert.InDelta(t, float64(x.want), float64(v.At), 20, "%s %s", x.c.Code, x.text)
	}
	_, err := trade.VacuumTurned.Read("84", length.In)
	assert.ErrorContains(t, err, "84 kPa would be: write the unit")
	assert.Equal(t, "46.0", trade.LoadSeat.Show(204_618_212, length.In))
}

// TestAWordIsReadInEachOfItsForms: what passes and what fails, by its word, its letter, a sign or a digit.
func TestAWordIsReadInEachOfItsForms(t *testing.T) {
	for _, c := range trade.Characteristics {
		if c.Words == nil {
			continue
		}
		for i, w := range c.Words {
			for _, text := range []string{
				w, w[:1], strings.ToUpper(w), " " + w + " ", []string{"-", "+"}[i], []string{"0", "1"}[i],
			} {
				v, err := c.Read(text, length.MM)
				require.NoError(t, err, "%s %q", c.Code, text)
				assert.Equal(t, quantity.Amount(i)*quantity.One, v.At, "%s %q", c.Code, text)
			}
		}
		for _, text := range []string{"", "2", "x", "++", c.Words[0] + c.Words[1]} {
			_, err := c.Read(text, length.MM)
			assert.Error(t, err, "%s %q", c.Code, text)
		}
	}
}

// TestANamedSizeReadsTheSameOnEitherSheet: what was typed in one unit says so, and means the same on a sheet
// that is kept in the other.
func TestANamedSizeReadsTheSameOnEitherSheet(t *testing.T) {
	for _, x := range []struct {
		c           trade.Characteristic
		text, named string
		unit        length.Unit
	}{
		{*trade.Stem, "0.2795", "0.2795 in", length.In}, {*trade.Stem, " 7.1 ", "7.1 mm", length.MM},
		{*trade.Stem, "7.1mm", "7.1mm", length.In},
		{*trade.Stem, "0.2795\"", "0.2795\"", length.MM}, {*trade.Lash, "0.008 0.010", "0.008 0.010 in", length.In},
		{*trade.Lash, "0.20/0.25", "0.20 0.25 mm", length.MM}, {*trade.LoadSeat, "46", "46 lbf", length.In},
		{*trade.LoadSeat, "205", "205 N", length.MM},
	} {
		assert.Equal(t, x.named, x.c.Named(x.text, x.unit))
		was, err := x.c.Read(x.text, x.unit)
		require.NoError(t, err, x.text)
		for _, sheet := range []length.Unit{length.MM, length.In} {
			is, err := x.c.Read(x.named, sheet)
			require.NoError(t, err, x.named)
			assert.InDelta(t, float64(was.At), float64(is.At), 20, x.named)
			assert.Equal(t, was.NoGo, is.NoGo, x.named)
		}
	}
	assert.Empty(t, trade.Stem.Named(" ", length.In))
}

// TestMinutesOfAnOperation: once and at each position, none below nothing or beyond what an operation may take.
func TestMinutesOfAnOperation(t *testing.T) {
	for text, want := range map[string][2]quantity.Minutes{
		"20+12": {20, 12}, "20": {20, 0}, "0+0": {0, 0}, "2000+2000": {2000, 2000}, " 3 + 4 ": {3, 4},
	} {
		once, each, err := trade.TwoMinutes(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, [2]quantity.Minutes{once, each}, text)
	}
	for _, text := range []string{"", "x", "20+", "20+x", "-1", "-1+2", "2+-1", "2001", "1+2001", "2001+1"} {
		_, _, err := trade.TwoMinutes(text)
		assert.Error(t, err, text)
	}
}

// TestANumberIsReadInItsOwnUnit: with or without it, and in no other.
func TestANumberIsReadInItsOwnUnit(t *testing.T) {
	others := 0
	for _, c := range trade.Characteristics {
		if c.Unit.Size == 0 {
			continue
		}
		others++
		bare, err := c.Parse("7.5", length.MM)
		require.NoError(t, err, c.Code)
		said, err := c.Parse("7.5 "+c.Unit.Name, length.MM)
		require.NoError(t, err, c.Code)
		assert.Equal(t, bare, said, c.Code)
		_, err = c.Parse("7.5 furlongs", length.MM)
		assert.Error(t, err, c.Code)
		_, err = c.Parse("1000000", length.MM)
		assert.NoError(t, err, c.Code)
		_, err = c.Parse("1000001", length.MM)
		assert.Error(t, err, c.Code)
	}
	assert.Greater(t, others, 5)
}
