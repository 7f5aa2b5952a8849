package plan

import (
	"math"
	"slices"

	"yatai/core/trade"
	"yatai/core/words"
)

// bridges adds how far apart the stems under each bridge end as the plan has them, where the sheet
// says how far they may. A bridge that would stand too steep is in the way of the plan.
func (p *problem) bridges(out *Plan) {
	stem := func(id string) *Figure {
		i := slices.IndexFunc(out.Valves, func(v Valve) bool { return v.ID == id })
		if i < 0 {
			return nil
		}
		return out.Valves[i].Figure(trade.StemHeight.Code)
	}
	for _, id := range trade.BridgeStep.Positions(p.h.Model.Layout) {
		limit := p.h.Limit(trade.BridgeStep.Code, string(p.h.Role(id)))
		_, other, _ := p.h.Model.Layout.BridgeAt(id)
		one, two := stem(id), stem(other)
		if limit == nil || one == nil || two == nil || !one.Known || !two.Known || !one.Changed && !two.Changed {
			continue
		}
		x := Figure{
			Code:     trade.BridgeStep.Code,
			Label:    trade.BridgeStep.Label,
			Position: id,
			Now:      (one.Now - two.Now).Abs(),
			After:    (one.After - two.After).Abs(),
			Known:    true,
			Read:     one.Read && two.Read,
			Changed:  true,
			SD:       math.Hypot(one.SD, two.SD),
			Limit:    limit,
		}
		x.inside()
		if x.Fits = limit.High == nil || x.After <= *limit.High; !x.Fits {
			p.blocked = append(p.blocked, Blocked{id, x.Code, words.Lower(x.Label) + " comes to " +
				p.text(x.After.Length()) + ", and " + limit.Text(p.h.Unit) +
				" is wanted: hold what brings both stems to one height"})
		}
		out.Own = append(out.Own, x)
	}
}

// bridged tells whether the plan brings the stems under a bridge within what the sheet wants.
func bridged(out *Plan, position string) bool {
	return slices.ContainsFunc(out.Own, func(f Figure) bool {
		return f.Code == trade.BridgeStep.Code && f.Position == position && f.Fits
	})
}
