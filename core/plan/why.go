package plan

import (
	"context"
	"fmt"
	"slices"

	"yatai/core/length"
	"yatai/core/trade"
)

// why says what stands in the way when no plan fits: the valves that fit with no allowed cut
// on their own, each with the limit that, let go alone, lets it fit; or, when every valve fits
// alone, that no one cut, no one row, or no sharing out of the shims suits them all.
func (p *problem) why(ctx context.Context) []Blocked {
	b := p.shimBox()
	var out []Blocked
	for _, v := range p.valves {
		if ctx.Err() != nil {
			return out
		}
		if !p.fitsAlone(v, b) {
			out = append(out, p.inTheWay(v, b))
		}
	}
	if len(out) > 0 {
		return out
	}
	for _, c := range p.cuts {
		all := true
		for _, v := range p.valves {
			all = all && p.fitsAt(v, b, c)
		}
		if !all {
			continue
		}
		if slices.ContainsFunc(p.valves, func(v *valve) bool { return p.spread[v.row] != nil }) {
			return []Blocked{{"", trade.RecessionRow.Code, "every valve fits alone; only their depths cannot be brought as near each other as they must be"}}
		}
		return []Blocked{{"", trade.ShimSize.Code, "each valve has a shim that fits, but there are not enough of them to go round"}}
	}
	return []Blocked{{"", "face_cut", "every valve fits alone, but no one cut of the face suits them all"}}
}

// fitsAlone tells whether a valve fits with some cut, by itself.
func (p *problem) fitsAlone(v *valve, b *box) bool {
	return slices.ContainsFunc(p.cuts, func(c length.Length) bool { return p.fitsAt(v, b, c) })
}

func (p *problem) fitsAt(v *valve, b *box, cut length.Length) bool {
	ways, settings := p.ways(v), p.shimSettings(v, b)
	for _, g := range p.gaskets {
		if p.bestOf(v, ways, common{cut: cut, gasket: g}, ^mask(0), settings).score != never {
			return true
		}
	}
	return false
}

// inTheWay names the limit that blocks a valve.
func (p *problem) inTheWay(v *valve, b *box) Blocked {
	if len(p.ways(v)) == 0 {
		for _, n := range v.needs {
			if len(n.answers) == 0 || len(v.held) > 0 {
				return Blocked{v.ID, n.feature.Code, "nothing that is allowed answers it: " + lower(n.feature.Label)}
			}
		}
		return Blocked{v.ID, "several", "no allowed set of repairs answers all its findings together"}
	}
	for i, c := range figureOf {
		if v.windows[i].limit == nil || !v.now[i].read && i != clearance {
			continue
		}
		kept, now := v.windows[i], v.now[i]
		v.windows[i], v.now[i].ok = window{}, true
		fits := p.fitsAlone(v, b)
		v.windows[i], v.now[i] = kept, now
		if !fits {
			continue
		}
		code := c.Code
		if i == lash && p.h.Model.Kind.Hydraulic() {
			code = trade.LashDry.Code
		}
		if i == lash {
			return Blocked{v.ID, code, p.lashWhy(v, b)}
		}
		return Blocked{
			v.ID, code,
			fmt.Sprintf(
				"no allowed set of actions brings its %s, now %s, to %s with the other limits kept", lower(c.Label), p.text(v.now[i].at), kept.limit.Text(p.h.Unit),
			),
		}
	}
	return Blocked{v.ID, "several", "more than one limit is in the way: no allowed set of actions meets them together"}
}

// lashWhy says why a valve's lash cannot be set.
func (p *problem) lashWhy(v *valve, b *box) string {
	limit := v.windows[lash].limit.Text(p.h.Unit)
	said := fmt.Sprintf("whatever is done inside the limits, its lash cannot be set: it is %s and must end at %s", p.text(v.now[lash].at), limit)
	switch {
	case b != nil && len(b.sizes) > 0:
		said += fmt.Sprintf("; shims can be had from %s to %s, and %s is fitted", p.text(b.sizes[0]), p.text(b.sizes[len(b.sizes)-1]), p.text(v.present))
	case len(p.rods) > 0 && v.presentKnown:
		least, most := p.rods[0].size, p.rods[0].size
		for _, r := range p.rods {
			least, most = min(least, r.size), max(most, r.size)
		}
		said += fmt.Sprintf("; pushrods can be had from %s to %s, and %s is fitted", p.text(least), p.text(most), p.text(v.present))
	case p.travel > 0:
		said += fmt.Sprintf("; the adjuster gives %s", p.text(p.travel))
	}
	return said
}
