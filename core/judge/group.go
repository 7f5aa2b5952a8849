package judge

import (
	"fmt"
	"slices"
	"strings"

	"yatai/core/gauge"
	"yatai/core/trade"
)

// Group is findings that are decided together: the same thing is wrong with each, and the
// same repairs are allowed.
type Group struct {
	Key      string // of its first finding
	Label    string
	Verdict  gauge.Verdict
	Findings []Feature
	Allowed  []Offer // cheapest first
	Refused  []Offer // with the reason, and where it differs the position
	// what the plan of the whole head makes of it: a repair, planned or leave; "" where there is none
	Advised string
}

// Positions names where the group's findings are, "head" for one that has no position.
func (g Group) Positions() []string {
	var out []string
	for _, f := range g.Findings {
		at := f.Position
		if at == "" {
			at = "head"
		}
		out = append(out, at)
	}
	return out
}

// InDoubt tells whether the group's readings cannot tell.
func (g Group) InDoubt() bool { return g.Verdict == gauge.Doubt }

// Usual is what the plan makes of the group's findings, else their cheapest allowed answer, "" when
// there is none. What is in doubt is read again or released before anything is done about it.
func (g Group) Usual() string {
	switch {
	case g.InDoubt():
		return ""
	case g.Advised != "":
		return g.Advised
	case len(g.Allowed) == 0:
		return ""
	}
	return g.Allowed[0].Code
}

// Keys are the keys of the group's findings, apart by spaces.
func (g Group) Keys() string {
	var out []string
	for _, f := range g.Findings {
		out = append(out, f.Key())
	}
	return strings.Join(out, " ")
}

// kin is what the findings of one group have in common. Marks stand each for itself.
type kin struct {
	code, side, grade, allowed, mark, advised string
	verdict                                   gauge.Verdict
}

// Groups puts the findings that are decided together side by side, in the order of the
// first of each. Advised says, by a finding's key, what the plan of the whole head makes of it; nil
// where there is no plan.
func (j Judgement) Groups(advised func(key string) string) []Group {
	var out []Group
	place := map[kin]int{}
	var kins []kin                     // of each group
	refused := []map[string][]string{} // of each group, by repair: why, by position
	findings := j.Findings()
	if advised != nil { // what was left stands beside its like, where there is some
		slices.SortStableFunc(findings, func(a, b Feature) int { return left(a, advised) - left(b, advised) })
	}
	for _, f := range findings {
		offers := j.Offers(f)
		k := kin{code: f.Code, side: f.Side, grade: f.Grade, verdict: f.Verdict}
		if f.Position == "" && f.Finding != 0 {
			k.mark = f.Key()
		}
		if advised != nil && f.Verdict >= gauge.Out {
			k.advised = advised(f.Key())
		}
		for _, o := range offers {
			if o.OK {
				k.allowed += o.Code + " "
			}
		}
		i, known := place[k]
		if !known && k.advised == trade.Leave { // beside the first of its like
			i = slices.IndexFunc(kins, func(like kin) bool { like.advised = k.advised; return like == k })
			known = i >= 0
		}
		if !known {
			i = len(out)
			place[k], kins = i, append(kins, k)
			g := Group{Key: f.Key(), Label: f.Label, Verdict: f.Verdict, Advised: k.advised}
			for _, o := range offers {
				if o.OK {
					g.Allowed = append(g.Allowed, o)
				} else {
					g.Refused = append(g.Refused, o)
				}
			}
			out, refused = append(out, g), append(refused, map[string][]string{})
		}
		out[i].Findings = append(out[i].Findings, f)
		for _, o := range offers {
			if !o.OK {
				refused[i][o.Code] = append(refused[i][o.Code], o.Why)
			}
		}
	}
	for i := range out {
		g := &out[i]
		for n := range g.Refused {
			why := refused[i][g.Refused[n].Code]
			if len(slices.Compact(slices.Clone(why))) > 1 {
				at := g.Positions()
				for p := range why {
					why[p] = at[p] + ": " + why[p]
				}
				g.Refused[n].Ruling = trade.Ruling{Why: strings.Join(why, "; ")}
			}
		}
	}
	return out
}

// left is 1 for a finding that is left as it is, else 0.
func left(f Feature, advised func(key string) string) int {
	if f.Verdict >= gauge.Out && advised(f.Key()) == trade.Leave {
		return 1
	}
	return 0
}

// Inside says how likely the true value lies inside the limit, in percent, "" where nobody
// would ask: without a limit, without a reading, or where it is as good as certain.
func (f Feature) Inside() string {
	if f.Limit == nil || len(f.From) == 0 || f.PInside < 0.001 || f.PInside > 0.999 {
		return ""
	}
	return fmt.Sprintf("%.0f %% likely to be inside", 100*f.PInside)
}
