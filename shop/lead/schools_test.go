package lead_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/length"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/lead"
)

// TestTheClearanceAimedAtIsASchool compares the two schools on a head whose sheet has no
// target of its own.
func TestTheClearanceAimedAtIsASchool(t *testing.T) {
	f := shoptest.Open(t)
	const tag = "T0412"
	limits := func(role string) (lo, hi length.Length) {
		for _, l := range f.File(t, tag).Sheet.Limits {
			if l.Characteristic == "guide.clearance" && (l.Role == role || l.Role == "") && l.Kind == "service" {
				return l.Low.Length(), l.High.Length()
			}
		}
		t.Fatalf("no clearance for %s", role)
		return 0, 0
	}
	inLo, inHi := limits("intake")
	exLo, exHi := limits("exhaust")
	f.School(t, tag, "school.clearance", "maker's middle")
	middleIn, middleEx := f.Aim(t, tag, "1I1"), f.Aim(t, tag, "1E1")
	assert.Equal(t, (inLo+inHi)/2, middleIn)
	assert.Equal(t, (exLo+exHi)/2, middleEx)
	f.School(t, tag, "school.clearance", "tight intake, loose exhaust")
	tight, loose := f.Aim(t, tag, "1I1"), f.Aim(t, tag, "1E1")
	assert.Less(t, tight, middleIn)
	assert.Greater(t, loose, middleEx)
	assert.Greater(t, tight, inLo, "still within the limits")
	assert.Less(t, loose, exHi)
}

// TestSchoolsOfAHeadStayWithIt overrides the shop's school for one head: others follow the
// shop, and taking it back follows it again.
func TestSchoolsOfAHeadStayWithIt(t *testing.T) {
	f := shoptest.Open(t)
	get := func(tag string) trade.School {
		return f.File(t, tag).Subject.School()
	}
	f.School(t, "T0401", "school.face", "first")
	assert.True(t, get("T0401").FaceFirst)
	assert.False(t, get("T0404").FaceFirst)
	require.NoError(t, f.SetSettings(t.Context(), f.People[shop.Owner], shoptest.ID(),
		map[string]string{"school.face": "first", "school.lapping": "always"}, nil))
	assert.True(t, get("T0404").FaceFirst)
	assert.True(t, get("T0401").Lap, "what is not overridden follows the shop")
	f.School(t, "T0401", "school.face", "last")
	assert.False(t, get("T0401").FaceFirst)
	f.School(t, "T0401", "school.face", "")
	assert.True(t, get("T0401").FaceFirst)
	chief := f.People[shop.Lead]
	assert.ErrorContains(
		t, lead.SetSchools(t.Context(), f.Shop, chief, shoptest.ID(), "T0402", map[string]string{"school.face": "first"},
			nil),
		"ordered by the schools as they were",
	)
	assert.Error(t, lead.SetSchools(t.Context(), f.Shop, chief, shoptest.ID(), "T0401",
		map[string]string{"school.face": "sideways"}, nil))
	assert.ErrorIs(t, lead.SetSchools(t.Context(), f.Shop, f.People[shop.Counter], shoptest.ID(), "T0401", nil, nil),
		shop.ErrForbidden)
}

// TestWhatTheLeadHoldsIsHeld asks for plans with a seat or a valve held: the plan does that
// and nothing else there, or says that it cannot.
func TestWhatTheLeadHoldsIsHeld(t *testing.T) {
	f := shoptest.Open(t)
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
		p := f.PlanOf(
			t, "T0405", headfile.PlanAsk{Hold: map[string]map[string]string{"3I1": {"seat": c.seat, "valve": c.valve}}},
		)
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
