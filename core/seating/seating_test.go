package seating_test

import (
	"math"
	"math/big"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/seating"
)

const mm = length.Millimetre

func deg(n int64) quantity.Degrees { return (quantity.Amount(n) * quantity.One).Degrees() }

func kPa(n int64) quantity.KPa { return (quantity.Amount(n) * quantity.One).KPa() }

// TestSeatCutsLandOnTheRing cuts the cones as told and looks where the ring's edges are.
func TestSeatCutsLandOnTheRing(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	tan := func(d float64) float64 { return math.Tan(d * math.Pi / 180) }
	for range 2000 {
		in := seating.SeatInput{
			Angle: deg(45), Top: deg(int64(15 + r.IntN(25))), Bottom: deg(int64(55 + r.IntN(20))), Inner: 33 * mm,
			ValveHead: 38 * mm,
		}
		in.Outer = in.Inner + length.Length(r.IntN(int(3*mm))) + mm/10
		in.TargetOuter = 35*mm + length.Length(r.IntN(int(2*mm)))
		in.TargetWidth = mm + length.Length(r.IntN(int(mm)))
		out, err := seating.Seat(in)
		require.NoError(t, err)
		top := in.Top.Float()
		bottom := in.Bottom.Float()
		outer := float64(in.Outer) + 2*float64(out.MainDepth)/(1-tan(top)) - 2*float64(out.TopDepth)/(1-tan(top))
		inner := float64(in.Inner) - 2*float64(out.MainDepth)/(tan(bottom)-1) + 2*float64(out.BottomDepth)/(tan(bottom)-1)
		assert.InDelta(t, float64(in.TargetOuter), outer, 20)
		width := (outer - inner) / (2 * math.Cos(math.Pi/4))
		assert.InDelta(t, float64(in.TargetWidth), width, 20, "the ring always comes out full")
		assert.True(t, out.MainDepth == 0 || out.TopDepth == 0 || out.BottomDepth == 0,
			"no deeper than one of the edges needs")
		assert.Equal(t, out.MainDepth, out.Sink)
		assert.InDelta(t, float64(out.TopDepth)/tan(top), float64(out.RoomUsed), 5)
	}
}

func TestFitAtRoomTemperatureIsTheInterference(t *testing.T) {
	gap := 20 * length.Micrometre
	in := seating.FitInput{
		Hole: 13 * mm, Part: 13*mm + 35_000, HoleMaterial: "aluminium", PartMaterial: "bronze",
		HoleTemp: quantity.CelsiusOf(20, 1), PartTemp: quantity.CelsiusOf(20, 1), Gap: &gap,
	}
	out, err := seating.Fit(in)
	require.NoError(t, err)
	assert.Equal(t, -out.Interference, out.Gap)
	in.HoleTemp.Set(new(big.Rat).SetFloat64(float64(*out.HoleTemp)))
	again, err := seating.Fit(in)
	require.NoError(t, err)
	assert.InDelta(t, float64(gap), float64(again.Gap), 5, "the temperature told gives the gap wanted")
}

func TestVacuumTurnsWithTheValve(t *testing.T) {
	test := func(readings ...int64) seating.VacuumOutput {
		in := seating.VacuumInput{Baseline: kPa(84), Drop: kPa(4)}
		for _, r := range readings {
			in.Readings = append(in.Readings, kPa(r))
		}
		out, err := seating.Vacuum(in)
		require.NoError(t, err)
		return out
	}
	assert.True(t, *test(80, 84).Pass, "inclusive")
	assert.Equal(t, "turn", test(60).Suspect, "one reading alone does not tell")
	in := seating.VacuumInput{Baseline: kPa(84), Drop: kPa(4), U: kPa(1), Readings: []quantity.KPa{kPa(80), kPa(79)}}
	out, err := seating.Vacuum(in)
	require.NoError(t, err)
	assert.Nil(t, out.Pass, "inside the tester's doubt nothing is told")
	in.Readings = []quantity.KPa{kPa(86)}
	_, err = seating.Vacuum(in)
	assert.Error(t, err, "more than the cup blanked gave")
	assert.Equal(t, "valve", test(80, 79).Suspect)
	assert.Equal(t, "seat", test(79, 60).Suspect)
}

// TestAnAngleLiesBelowTheFacePlane: 90 degrees are none, whichever of the two has them.
func TestAnAngleLiesBelowTheFacePlane(t *testing.T) {
	deg := func(n int64) quantity.Degrees { return (quantity.Amount(n) * quantity.One).Degrees() }
	for _, x := range []struct {
		face, seat int64
		wrong      string
	}{{90, 45, "face"}, {91, 91, "face"}, {45, 90, "seat"}, {89, 90, "seat"}, {89, 89, ""}} {
		_, err := seating.Angle(seating.AngleInput{Face: deg(x.face), Seat: deg(x.seat)})
		if x.wrong == "" {
			assert.NoError(t, err)
			continue
		}
		var e *field.Error
		if assert.ErrorAs(t, err, &e) {
			assert.Equal(t, x.wrong, e.Field, "%d %d", x.face, x.seat)
		}
	}
}

// TestAnAngleMayBeOffByExactlyWhatIsAllowed, and by no more.
func TestAnAngleMayBeOffByExactlyWhatIsAllowed(t *testing.T) {
	deg := func(thousandths int64) quantity.Degrees { return quantity.Amount(thousandths * 1000).Degrees() }
	for seat, ok := range map[int64]bool{45_249: false, 45_250: true, 45_500: true, 45_750: true, 45_751: false} {
		out, err := seating.Angle(seating.AngleInput{Face: deg(45_000), Seat: deg(seat), Wanted: deg(500), Within: deg(250)})
		require.NoError(t, err)
		assert.Equal(t, ok, out.OK, seat)
	}
}

// TestWhatASeatIsSaidToBe: its width along the cone, the inner edge of the ring wanted, and how far the ring
// ends from the valve's edge; what no cutter can do is refused, at the angle where it begins.
func TestWhatASeatIsSaidToBe(t *testing.T) {
	in := seating.SeatInput{
		Angle: deg(60), Top: deg(30), Bottom: deg(75), Inner: 33 * mm, Outer: 36 * mm, TargetOuter: 35 * mm,
		TargetWidth: 2 * mm, ValveHead: 38 * mm,
	}
	out, err := seating.Seat(in)
	require.NoError(t, err)
	assert.Equal(t, 3*mm, out.Width, "half of 3 mm by the cosine of 60 degrees")
	assert.Equal(t, 33*mm, out.TargetInner)
	assert.Equal(t, 3*mm/2, out.Inset)

	refused := func(change func(*seating.SeatInput)) string {
		x := in
		change(&x)
		var e *field.Error
		if _, err := seating.Seat(x); err != nil {
			require.ErrorAs(t, err, &e)
			return e.Field
		}
		return ""
	}
	for _, c := range []struct {
		angle, top, bottom int64
		wrong              string
	}{
		{5, 1, 75, ""}, {4, 1, 75, "angle"}, {80, 30, 85, ""}, {81, 30, 85, "angle"}, {60, 0, 75, "top"},
		{60, 1, 75, ""}, {60, 59, 75, ""}, {60, 60, 75, "top"}, {60, 30, 60, "bottom"}, {60, 30, 61, ""},
		{60, 30, 89, ""}, {60, 30, 90, "bottom"},
	} {
		assert.Equal(t, c.wrong, refused(func(x *seating.SeatInput) {
			x.Angle, x.Top, x.Bottom = deg(c.angle), deg(c.top), deg(c.bottom)
		}), "%v", c)
	}
	assert.Equal(t, "inner", refused(func(x *seating.SeatInput) { x.Inner = x.Outer }))
	wide := func(w length.Length) string { return refused(func(x *seating.SeatInput) { x.TargetWidth = w }) }
	assert.Equal(t, "target_width", wide(35*mm), "the ring would close")
	assert.Empty(t, wide(35*mm-1000))
}

// TestTheColdestAndTheHottestPart: a fit is reckoned from absolute zero to where any head has melted, and by
// no other material's growth.
func TestTheColdestAndTheHottestPart(t *testing.T) {
	fit := func(hole, part quantity.Celsius) (seating.FitOutput, error) {
		return seating.Fit(seating.FitInput{
			Hole: 10 * mm, Part: 10 * mm, HoleMaterial: "aluminium", PartMaterial: "iron",
			HoleTemp: hole, PartTemp: part,
		})
	}
	room := quantity.CelsiusOf(20, 1)
	for _, c := range []struct {
		at quantity.Celsius
		ok bool
	}{
		{quantity.CelsiusOf(-27315, 100), true}, {quantity.CelsiusOf(-27316, 100), false},
		{quantity.CelsiusOf(1500, 1), true}, {quantity.CelsiusOf(15001, 10), false},
	} {
		_, err := fit(c.at, room)
		assert.Equal(t, c.ok, err == nil)
		_, err = fit(room, c.at)
		assert.Equal(t, c.ok, err == nil)
	}
	out, err := fit(quantity.CelsiusOf(120, 1), room)
	require.NoError(t, err)
	assert.Equal(t, length.Length(21_500), out.Gap, "10 mm of aluminium, 100 K at 21.5 millionths")
	out, err = fit(room, quantity.CelsiusOf(120, 1))
	require.NoError(t, err)
	assert.Equal(t, length.Length(-11_000), out.Gap)
}

// TestADropAsLargeAsTheBaselineIsRefused.
func TestADropAsLargeAsTheBaselineIsRefused(t *testing.T) {
	_, err := seating.Vacuum(seating.VacuumInput{Baseline: kPa(84), Drop: kPa(84), Readings: []quantity.KPa{kPa(80)}})
	assert.Error(t, err)
	_, err = seating.Vacuum(seating.VacuumInput{Baseline: kPa(84), Drop: kPa(83), Readings: []quantity.KPa{kPa(80)}})
	assert.NoError(t, err)
}
