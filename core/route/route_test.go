package route_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/judge"
	"yatai/core/route"
)

func codes(ops []route.Operation) (out []string) {
	for _, o := range ops {
		out = append(out, o.Code)
	}
	return out
}

func TestDeriveKeepsPrecedence(t *testing.T) {
	ops := route.Derive([]string{"1I1", "1E1"}, []route.Decision{{Code: "face"}, {Code: "seat_insert", Position: "1E1"}, {Code: "guide_new", Position: "1I1"}}, route.School{})
	assert.Equal(t, []string{"wash", "pressure_test", "guide_new", "seat_insert", "pressure_retest", "seat_cut", "face", "wash_final", "assemble", "seal_test", "final_check"}, codes(ops))
	cut := ops[5]
	assert.Equal(t, []string{"1I1", "1E1"}, cut.Positions, "a new guide and an insert both need their seat cut")
	assert.Equal(t, 15+2*12, cut.Minutes)
}

func TestReamingNeedsAnOversizeValve(t *testing.T) {
	got := codes(route.Derive([]string{"1I1"}, []route.Decision{{Code: "guide_ream", Position: "1I1"}}, route.School{}))
	assert.Contains(t, got, "valve_new")
	assert.Less(t, slices.Index(got, "guide_ream"), slices.Index(got, "seat_cut"))
}

// TestWorkProvesWhatIsRead checks that what an operation has to prove can be read.
func TestWorkProvesWhatIsRead(t *testing.T) {
	for _, k := range route.Kinds {
		for _, code := range k.Proves {
			_, ok := judge.ByCode(code)
			assert.True(t, ok || judge.IsFinding(code), code)
		}
	}
}

func TestFaceFirstIsASchool(t *testing.T) {
	got := codes(route.Derive([]string{"1I1"}, []route.Decision{{Code: "face"}, {Code: "seat_cut", Position: "1I1"}}, route.School{FaceFirst: true}))
	assert.Less(t, slices.Index(got, "face"), slices.Index(got, "seat_cut"))
}

// TestEveryRepairIsAnOperation checks that what can be decided can also be worked.
func TestEveryRepairIsAnOperation(t *testing.T) {
	for _, c := range judge.Characteristics {
		for _, side := range []string{"low", "high"} {
			for _, r := range judge.RepairsFor(judge.Feature{Code: c.Code, Side: side}) {
				k, ok := route.Named(r.Code)
				assert.True(t, ok, r.Code)
				assert.NotEmpty(t, k.Station)
			}
		}
	}
}
