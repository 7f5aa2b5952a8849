package plan

import (
	"math"
	"slices"
	"strings"

	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/valvetrain"
	"yatai/core/words"
)

// atPairs are the features of the pairs a valve belongs to.
func (p *problem) atPairs(id string) []judge.Feature {
	var out []judge.Feature
	for _, f := range p.pairs {
		if one, other, pair := strings.Cut(f.Position, "-"); pair && (one == id || other == id) {
			out = append(out, f)
		}
	}
	return out
}

// gaps adds what the gaps between open valve heads come to when their guides are as the plan has
// them: the gap at rest less half of each head's swing. A pair that would still touch, or come nearer
// than the sheet lets it, is in the way of the plan.
func (p *problem) gaps(out *Plan) {
	for _, f := range p.j.All() {
		one, other, pair := strings.Cut(f.Position, "-")
		if f.Code != trade.GapOpen.Code || !pair || len(f.From) == 0 || f.Limit == nil {
			continue
		}
		rest := p.h.Reads(trade.ValveGap.Code, f.Position)
		if len(rest) == 0 {
			continue
		}
		lo, _, _ := trade.Ends(head.ReadsOf(rest))
		after, sd, changed, known := float64(lo), float64(rest[0].U)/2, false, true
		for _, id := range []string{one, other} {
			held, _, _ := p.h.Size(trade.GuideHeld, "")
			reach, _, ok := p.h.Size(trade.OpenReach, p.h.Role(id))
			i := slices.IndexFunc(out.Valves, func(v Valve) bool { return v.ID == id })
			if !ok || held == 0 || i < 0 {
				known = false
				break
			}
			c := out.Valves[i].Figure(trade.GuideClearance.Code)
			if c == nil || !c.Known {
				known = false
				break
			}
			after -= float64(valvetrain.Swing(max(0, c.After).Length(), held, reach)) / 2
			sd = math.Hypot(sd, float64(valvetrain.Swing(quantity.Amount(math.Round(c.SD)).Length(), held, reach))/2)
			changed = changed || c.Changed
		}
		if !known || !changed {
			continue
		}
		x := Figure{
			Code:     f.Code,
			Label:    f.Label,
			Position: f.Position,
			Now:      f.Low,
			After:    quantity.Amount(math.Round(after)),
			Known:    true,
			Read:     true,
			Changed:  true,
			SD:       sd,
			Limit:    f.Limit,
			Fits:     true,
		}
		x.inside()
		if x.Limit.Low != nil && x.After < *x.Limit.Low {
			x.Fits = false
			p.blocked = append(p.blocked, Blocked{f.Position, f.Code,
				words.Lower(f.Label) + " comes to " + p.text(x.After.Length()) + " with the guides of the plan, and " +
					x.Limit.Text(p.h.Unit) + " is wanted: valves with smaller heads, or guides of less clearance"})
		}
		out.Own = append(out.Own, x)
	}
}
