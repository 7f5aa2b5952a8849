package trade

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"yatai/core/length"
	"yatai/core/quantity"
)

// capTips is a repair no table of the trade has.
var capTips = OwnRepair{
	Name: "Cap the tips", Works: TipMetal, Station: Assembly, Setup: 5, Each: 4, Least: 100_000, Most: 800_000,
	Moves: []OwnMove{{"lash", -1}, {"stem.height", 1}},
}

func TestOwnRepairIsItsCode(t *testing.T) {
	assert.Equal(t, "shop.Cap+the+tips;tip;assembly+bench;5+4;0.1..0.8;lash-,stem.height+", capTips.Code())
	r := RepairNamed(capTips.Code())
	require.NotNil(t, r)
	assert.Same(t, r, RepairNamed(capTips.Code()), "the same declaration is the same repair")
	assert.Same(t, r.Does, OperationNamed(capTips.Code()))
	assert.Equal(t, []Move{{Lash, -1, BySize}, {StemHeight, 1, BySize}}, r.Does.Moves)
	assert.Equal(t, []*Characteristic{Lash, StemHeight}, r.Does.Voids)
	assert.Equal(t, Refacing, r.Does.Stage)
	assert.Equal(t, "scatter.tip", r.Does.Size.Scatter)
	assert.Equal(t, quantity.OfLength(100_000), r.Does.Size.Least(nil))
	assert.Equal(t, quantity.OfLength(800_000), r.Does.Size.Most(nil))
	assert.Equal(t, proofs, r.Does.Undoes)
	for _, x := range []struct {
		code, side string
		answers    bool
	}{
		{"stem.height", Low, true}, {"stem.height", High, false}, {"lash", High, true}, {"lash", Low, false},
		{"valve.recession", Low, false},
	} {
		found := false
		for _, a := range RepairsFor(x.code, x.side, Kind{Drive: Rocker}, r) {
			found = found || a == r
		}
		assert.Equal(t, x.answers, found, "%s out %s", x.code, x.side)
	}
	assert.True(t, r.Excludes(RepairNamed("tip_grind")))
	assert.False(t, r.Excludes(RepairNamed("seat_cut")))
	assert.Contains(t, r.Does.Brings(Kind{Drive: Rocker}, School{}), SetLash, "it moves the lash")
	last := RepairsFor("stem.height", Low, Kind{Drive: Rocker}, r)
	assert.Same(t, r, last[len(last)-1], "the trade's own come first")
}

// TestAnOwnRepairThatSinksAValveTakesItFromItsPiston, and asks for no reading of an engine that is elsewhere.
func TestAnOwnRepairThatSinksAValveTakesItFromItsPiston(t *testing.T) {
	own := OwnRepair{
		Name: "Ring", Works: SeatMetal, Station: Assembly, Each: 4, Most: 800_000,
		Moves: []OwnMove{{"valve.recession", -1}},
	}
	r := RepairNamed(own.Code())
	require.NotNil(t, r)
	assert.Equal(t, []Move{{Recession, -1, BySize}, {ValvePiston, -1, BySize}}, r.Does.Moves)
	assert.Equal(t, []*Characteristic{Recession}, r.Does.Voids)
}

// TestOwnRepairIsRefused takes one thing of a declaration that holds after another.
func TestOwnRepairIsRefused(t *testing.T) {
	assert.Empty(t, capTips.Check())
	for _, x := range []struct {
		field  string
		change func(*OwnRepair)
	}{
		{"name", func(o *OwnRepair) { o.Name = " " }},
		{"name", func(o *OwnRepair) { o.Name = strings.Repeat("x", 61) }},
		{"works", func(o *OwnRepair) { o.Works = GuideMetal }},
		{"works", func(o *OwnRepair) { o.Works = "" }},
		{"station", func(o *OwnRepair) { o.Station = "" }},
		{"station", func(o *OwnRepair) { o.Station = "attic" }},
		{"minutes", func(o *OwnRepair) { o.Each = 0 }},
		{"minutes", func(o *OwnRepair) { o.Setup = -1 }},
		{"minutes", func(o *OwnRepair) { o.Each = mostMinutes + 1 }},
		{"most", func(o *OwnRepair) { o.Least = -1 }},
		{"most", func(o *OwnRepair) { o.Most = o.Least - 1 }},
		{"most", func(o *OwnRepair) { o.Most = mostOwnSize + 1 }},
		{"most", func(o *OwnRepair) { o.Least, o.Most = 0, 0 }},
		{"moves", func(o *OwnRepair) { o.Moves = nil }},
		{"part", func(o *OwnRepair) { o.Part = "cap, hard" }},
		{"part", func(o *OwnRepair) { o.Part = strings.Repeat("x", 41) }},
		{"part", func(o *OwnRepair) { o.Part = " cap" }},
		{"part", func(o *OwnRepair) { o.Part = "a\tcap" }},
		{"part", func(o *OwnRepair) { o.Part = "cap\xff" }},
		{"moves", func(o *OwnRepair) { o.Moves = []OwnMove{{"stem.height", 2}} }},
		{"moves", func(o *OwnRepair) { o.Moves = []OwnMove{{"guide.bore", 1}} }},
	} {
		o := capTips
		x.change(&o)
		assert.Contains(t, o.Check(), x.field, "%+v", o)
	}
	edge := capTips
	edge.Name, edge.Least, edge.Most = strings.Repeat("x", 60), mostOwnSize, mostOwnSize
	edge.Setup, edge.Each = mostMinutes, mostMinutes
	assert.Empty(t, edge.Check())
	edge.Name = strings.Repeat("ö", 60)
	assert.Empty(t, edge.Check(), "letters, not bytes")
	assert.NotNil(t, RepairNamed(edge.Code()))
	edge.Setup, edge.Each, edge.Least = 0, 1, 0
	assert.Empty(t, edge.Check())
	plain := OwnRepair{Name: "Look", Works: OtherMetal, Station: Assembly, Each: 1}
	assert.Empty(t, plain.Check())
	assert.Nil(t, RepairNamed(plain.Code()).Does.Size)
}

// TestOwnRepairReadsOnlyWhatItWrites gives nonsense, and what is written in another way.
func TestOwnRepairReadsOnlyWhatItWrites(t *testing.T) {
	code := capTips.Code()
	for _, text := range []string{
		"", "shop.", "shop.;;;;;", strings.Replace(code, "shop.", "", 1), code + ";",
		strings.Replace(code, "0.1..", "0.10..", 1),
		strings.Replace(code, "lash-,stem.height+", "stem.height+,lash-", 1), strings.Replace(code, "lash-", "lash", 1),
		strings.Replace(code, "5+4", "a+4", 1), strings.Replace(code, "tip;", "%zz;", 1), code + strings.Repeat(" ", 500),
	} {
		_, err := ParseOwnRepair(text)
		assert.Error(t, err, text)
		assert.Nil(t, RepairNamed(text), text)
		assert.Nil(t, OperationNamed(text), text)
	}
	rapid.Check(t, func(t *rapid.T) {
		o := OwnRepair{
			Name: rapid.StringN(1, 15, 60).Draw(t, "name"), Works: rapid.SampledFrom(OwnMetals).Draw(t, "works"),
			Station: rapid.SampledFrom(Stations).Draw(t, "station"), Setup: quantity.Minutes(rapid.IntRange(0, 90).
					Draw(t, "once")),
			Each:  quantity.Minutes(rapid.IntRange(1, 90).Draw(t, "each")),
			Least: length.Length(rapid.IntRange(0, 10_000_000).Draw(t, "least")),
		}
		o.Part = rapid.StringN(0, 12, 40).Draw(t, "part")
		o.Most = o.Least + length.Length(rapid.IntRange(1, 10_000_000).Draw(t, "more"))
		o.Moves = []OwnMove{
			{rapid.SampledFrom(OwnMoved).Draw(t, "of").Code, rapid.SampledFrom([]int{1, -1}).Draw(t, "times")},
		}
		if len(o.Check()) > 0 {
			t.Skip("no such declaration")
		}
		back, err := ParseOwnRepair(o.Code())
		require.NoError(t, err)
		require.Equal(t, o, back)
	})
}

// TestWhatWorkMakes: what is answered or bought to size is made, what is moved or only changed is not.
func TestWhatWorkMakes(t *testing.T) {
	for _, x := range []struct {
		o     *Operation
		of    *Characteristic
		makes bool
	}{
		{CutSeat, SeatWidth, true}, {CutSeat, SeatRunout, true}, {CutSeat, SeatRoom, false}, {CutSeat, Recession, false},
		{CutSeat, GuideBore, false},
		{FitValve, Stem, true}, {FitValve, ValveHead, true}, {FitValve, ValveRunout, true}, {FitValve, SeatWidth, false},
		{FitValve, ValveMargin, false},
		{FitGuide, GuideBore, true}, {FitGuide, SeatWidth, false}, {Lap, SeatWidth, false}, {GrindTip, ValveTip, false},
		{NewSprings, LoadSeat, true},
		{FaceHead, FaceLine, true}, {FaceHead, Thickness, false},
	} {
		assert.Equal(t, x.makes, x.o.Makes(x.of), "%s %s", x.o.Code, x.of.Code)
	}
}

// TestAPartOfTheShopsOwn: a repair that fits one says so in its code, and the stock keeps it under its name.
func TestAPartOfTheShopsOwn(t *testing.T) {
	with := capTips
	with.Part = "hard cap"
	assert.Equal(t, capTips.Code()+";hard+cap", with.Code())
	uses := RepairNamed(with.Code()).Does.Uses
	require.NotNil(t, uses)
	assert.Same(t, uses, OwnPart("hard cap"))
	assert.Same(t, uses, PartKindNamed(uses.Code))
	assert.Equal(t, PartKind{Code: "own: hard cap", Name: "hard cap", Usual: 1500}, *uses)
	assert.Nil(t, RepairNamed(capTips.Code()).Does.Uses)
	assert.Nil(t, PartKindNamed("own: "))
	assert.NotContains(t, PartKinds(), uses, "it is one shop's")
	longest := with
	longest.Part = strings.Repeat("x", 40)
	assert.Empty(t, longest.Check())
}
