package headpage

import (
	"context"
	"slices"

	"yatai/core/judge"
	"yatai/core/trade"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/web/page"
)

// Decisions are what Judge shows beside the head: the plan of the whole head, and the findings in groups
// with what it makes of them.
type Decisions struct {
	Newer  *lead.NewerSheet
	Plan   *lead.Planned // nil once the work is ordered, and of a head that is only looked at
	Groups []judge.Group
}

// Deciding collects them.
func Deciding(ctx context.Context, s *page.Site, f *headfile.File) (d Decisions, err error) {
	if d.Newer, err = lead.Newer(ctx, s.Shop, f); err != nil {
		return d, err
	}
	if f.WorkOrderAt != nil || f.Subject.Inspection() || len(f.Received.Findings()) == 0 {
		d.Groups = f.Received.Groups(nil)
		return d, nil
	}
	p, err := lead.Advice(ctx, s.Shop, f)
	if err != nil {
		return d, err
	}
	d.Plan, d.Groups = &p, f.Received.Groups(p.Advised)
	return d, nil
}

// GroupChoice is the answer ticked for a group: what was typed, what most of it is decided
// by, or else its usual answer. Findings that have another are exceptions.
func (d HeadData) GroupChoice(p page.Page, g judge.Group) string {
	if c := p.Val("group/" + g.Key); c != "" {
		return c
	}
	count, best := map[string]int{}, ""
	for _, x := range g.Findings {
		if c := d.Chosen(x); c != "" {
			if count[c]++; count[c] > count[best] {
				best = c
			}
		}
	}
	if best != "" {
		return best
	}
	return g.Usual()
}

// GroupReason is the reason typed or kept for leaving a group.
func (d HeadData) GroupReason(p page.Page, g judge.Group) string {
	if p.Values.Has("reason/" + g.Key) {
		return p.Val("reason/" + g.Key)
	}
	for _, x := range g.Findings {
		if d.Chosen(x) == trade.Leave {
			return d.Reason(x)
		}
	}
	return ""
}

// OwnChoice is the answer of a finding that differs from its group's, "" when it does not.
func (d HeadData) OwnChoice(p page.Page, x judge.Feature, group string) string {
	if p.Values.Has("choice/" + x.Key()) {
		return p.Val("choice/" + x.Key())
	}
	if c := d.Chosen(x); c != group {
		return c
	}
	return ""
}

// OwnReason is the reason typed or kept for leaving one finding.
func (d HeadData) OwnReason(p page.Page, x judge.Feature) string {
	if at := "reason/" + x.Key() + "/own"; p.Values.Has(at) {
		return p.Val(at)
	}
	if d.Chosen(x) == trade.Leave {
		return d.Reason(x)
	}
	return ""
}

// Differs tells whether the findings of a group were decided differently.
func (d HeadData) Differs(g judge.Group) bool {
	return slices.ContainsFunc(g.Findings, func(x judge.Feature) bool { return d.Chosen(x) != d.Chosen(g.Findings[0]) })
}

// Refused tells whether something typed for a group came back.
func (d HeadData) Refused(p page.Page, g judge.Group) bool {
	return slices.ContainsFunc(g.Findings, func(x judge.Feature) bool { return p.Err(x.Key()) != "" })
}

// NoAnswer says why nothing can be done about a finding.
func (d HeadData) NoAnswer(x judge.Feature) string { return judge.NoAnswer(x) }

// Undecided counts the findings without a decision.
func (d HeadData) Undecided() int {
	n := 0
	for _, x := range d.Received.Findings() {
		if d.Chosen(x) == "" {
			n++
		}
	}
	return n
}
