package lead

import (
	"context"

	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/shop"
	"yatai/shop/headfile"
)

// Together are the heads of an order that are of one model, planned as a pair or set: one face cut
// for all, beside what each would get and cost alone.
type Together struct {
	plan.Together
	Tags  []string
	Alone []plan.Plan
}

// More is how much more the set costs than its heads planned alone.
func (t Together) More() int64 {
	more := t.Cents()
	for _, p := range t.Alone {
		more -= p.Cents
	}
	return more
}

// Alike tells whether all would be faced alike anyway.
func (t Together) Alike() bool {
	for _, p := range t.Alone {
		if p.FaceCut != t.Alone[0].FaceCut {
			return false
		}
	}
	return true
}

// RoleDepths says how far the depths of a role lie apart over all heads.
type RoleDepths struct {
	Role  layout.Role
	Apart length.Length
}

// Depths says it of each role of which enough is known.
func (t Together) Depths() []RoleDepths {
	var out []RoleDepths
	for _, role := range []layout.Role{layout.Intake, layout.Exhaust} {
		if apart, ok := t.Apart(role); ok {
			out = append(out, RoleDepths{role, apart})
		}
	}
	return out
}

// Set plans a head together with the other heads of its order; ok is false where there is none of
// its model that is still to be planned and was measured.
func Set(
	ctx context.Context, s *shop.Shop, f *headfile.File, ask headfile.PlanAsk,
) (t Together, ok bool, err error) {
	if f.WorkOrderAt != nil {
		return t, false, nil
	}
	heads, err := s.Store.Read(ctx).HeadsOfJob(f.JobID)
	if err != nil {
		return t, false, err
	}
	set := []*headfile.File{f}
	for _, h := range heads {
		if h.ID == f.ID || h.ModelID != f.ModelID || h.WorkOrderAt != nil || len(set) == plan.MostTogether {
			continue
		}
		other, err := headfile.Open(ctx, s, h.Tag)
		if err != nil {
			return t, false, err
		}
		if len(other.Readings) > 0 {
			set = append(set, other)
		}
	}
	if len(set) < 2 {
		return t, false, nil
	}
	core := ask.Core()
	var subjects []*head.Head
	for _, x := range set {
		alone, err := plan.Judged(ctx, x.Subject, x.Now, core)
		if err != nil {
			return t, false, err
		}
		t.Tags, t.Alone, subjects = append(t.Tags, x.Tag), append(t.Alone, alone), append(subjects, x.Subject)
	}
	t.Together, err = plan.Set(ctx, subjects, core)
	return t, true, err
}
