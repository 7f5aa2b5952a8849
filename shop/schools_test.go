package shop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/lead"
)

// school sets one of a head's schools.
func (f *fixture) school(t *testing.T, tag, name, value string) {
	t.Helper()
	require.NoError(t, lead.SetSchools(t.Context(), f.Shop, f.people[shop.Lead], id(), tag, map[string]string{name: value}, nil))
}

// aim is the clearance the plan makes a position's guide for.
func (f *fixture) aim(t *testing.T, tag, position string) length.Length {
	t.Helper()
	file := f.file(t, tag)
	v, ok := file.Layout.Valve(position)
	require.True(t, ok, position)
	aim := plan.Aim(file.Subject, v)
	require.NotNil(t, aim, "%s has no aim", position)
	return *aim
}

// TestTheClearanceAimedAtIsASchool compares the two schools on a head whose sheet has no
// target of its own.
func TestTheClearanceAimedAtIsASchool(t *testing.T) {
	f := open(t)
	const tag = "T0412"
	limits := func(role string) (lo, hi length.Length) {
		for _, l := range f.file(t, tag).Sheet.Limits {
			if l.Characteristic == "guide.clearance" && (l.Role == role || l.Role == "") && l.Kind == "service" {
				return l.Low.Length(), l.High.Length()
			}
		}
		t.Fatalf("no clearance for %s", role)
		return 0, 0
	}
	inLo, inHi := limits("intake")
	exLo, exHi := limits("exhaust")
	f.school(t, tag, "school.clearance", "maker's middle")
	middleIn, middleEx := f.aim(t, tag, "1I1"), f.aim(t, tag, "1E1")
	assert.Equal(t, (inLo+inHi)/2, middleIn)
	assert.Equal(t, (exLo+exHi)/2, middleEx)
	f.school(t, tag, "school.clearance", "tight intake, loose exhaust")
	tight, loose := f.aim(t, tag, "1I1"), f.aim(t, tag, "1E1")
	assert.Less(t, tight, middleIn)
	assert.Greater(t, loose, middleEx)
	assert.Greater(t, tight, inLo, "still within the limits")
	assert.Less(t, loose, exHi)
}

// TestSchoolsOfAHeadStayWithIt overrides the shop's school for one head: others follow the
// shop, and taking it back follows it again.
func TestSchoolsOfAHeadStayWithIt(t *testing.T) {
	f := open(t)
	get := func(tag string) trade.School {
		return f.file(t, tag).Subject.School()
	}
	f.school(t, "T0401", "school.face", "first")
	assert.True(t, get("T0401").FaceFirst)
	assert.False(t, get("T0404").FaceFirst)
	require.NoError(t, f.SetSettings(t.Context(), f.people[shop.Owner], id(), map[string]string{"school.face": "first", "school.lapping": "always"}, nil))
	assert.True(t, get("T0404").FaceFirst)
	assert.True(t, get("T0401").Lap, "what is not overridden follows the shop")
	f.school(t, "T0401", "school.face", "last")
	assert.False(t, get("T0401").FaceFirst)
	f.school(t, "T0401", "school.face", "")
	assert.True(t, get("T0401").FaceFirst)
	chief := f.people[shop.Lead]
	assert.ErrorContains(
		t, lead.SetSchools(t.Context(), f.Shop, chief, id(), "T0402", map[string]string{"school.face": "first"}, nil),
		"ordered by the schools as they were",
	)
	assert.Error(t, lead.SetSchools(t.Context(), f.Shop, chief, id(), "T0401", map[string]string{"school.face": "sideways"}, nil))
	assert.ErrorIs(t, lead.SetSchools(t.Context(), f.Shop, f.people[shop.Counter], id(), "T0401", nil, nil), shop.ErrForbidden)
}

// TestWhatTheLeadHoldsIsHeld asks for plans with a seat or a valve held: the plan does that
// and nothing else there, or says that it cannot.
func TestWhatTheLeadHoldsIsHeld(t *testing.T) {
	f := open(t)
	for _, c := range []struct {
		seat, valve string
		is          func(seat, valve string) bool
	}{
		{"insert", "", func(s, _ string) bool { return s == "insert" }},
		{"cut", "", func(s, _ string) bool { return s == "cut" }},
		{"keep", "", func(s, _ string) bool { return s == "keep" }},
		{"", "new", func(_, v string) bool { return v == "new" }},
		{"", "keep", func(_, v string) bool { return v == "keep" }},
	} {
		p := f.planOf(t, "T0405", headfile.PlanAsk{Seat: map[string]string{"3I1": c.seat}, Valve: map[string]string{"3I1": c.valve}})
		if !p.Feasible {
			assert.NotEmpty(t, p.Refused(), "%+v", c)
			continue
		}
		for _, v := range p.Valves {
			if v.ID == "3I1" {
				assert.True(t, c.is(v.Seat, v.Valve), "held %q %q, planned %s %s", c.seat, c.valve, v.Seat, v.Valve)
			}
		}
	}
}
