package plan

import (
	"context"
	"fmt"
	"slices"

	"yatai/core/after"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
)

// why says what stands in the way when no plan fits: the valves that fit with no allowed cut
// on their own, each with the limit that, let go alone, lets it fit; or, when every valve fits
// alone, that no one cut, no one row, or no sharing out of the shims suits them all.
func (p *problem) why(ctx context.Context) []Blocked {
	b := p.shimBox()
	var out []Blocked
	ways := p.asked().ways
	for i, v := range p.valves {
		if ctx.Err() != nil {
			return out
		}
		if !p.fitsAlone(v, b, ways[i]) {
			out = append(out, p.inTheWay(v, b))
		}
	}
	if len(out) > 0 {
		return out
	}
	for _, c := range p.cuts {
		all := true
		for i, v := range p.valves {
			all = all && p.fitsAt(v, b, c, ways[i])
		}
		if !all {
			continue
		}
		if slices.ContainsFunc(p.valves, func(v *valve) bool { return p.spread[v.row] != nil }) {
			return []Blocked{{
				"", trade.RecessionRow.Code,
				"every valve fits alone; only their depths cannot be brought as near each other as they must be",
			}}
		}
		return []Blocked{
			{"", trade.ShimSize.Code, "each valve has a shim that fits, but there are not enough of them to go round"},
		}
	}
	return []Blocked{{"", "face_cut", "every valve fits alone, but no one cut of the face suits them all"}}
}

// fitsAlone tells whether a valve fits with some cut, by itself.
func (p *problem) fitsAlone(v *valve, b *box, ways []way) bool {
	return slices.ContainsFunc(p.cuts, func(c length.Length) bool { return p.fitsAt(v, b, c, ways) })
}

func (p *problem) fitsAt(v *valve, b *box, cut length.Length, ways []way) bool {
	settings := p.shimSettings(v, b)
	for _, g := range p.gaskets {
		c := common{cut: cut, gasket: g}
		for i := range ways {
			if slices.ContainsFunc(settings, func(s setting) bool { _, ok := p.fit(v, &ways[i], &c, &s); return ok }) {
				return true
			}
		}
	}
	return false
}

// inTheWay names the limit that blocks a valve.
func (p *problem) inTheWay(v *valve, b *box) Blocked {
	ways := p.ways(v)
	if len(ways) == 0 {
		if b, banned := p.banned(v); banned {
			return b
		}
		all := p.treatments(v)
		for i, n := range v.needs {
			if !slices.ContainsFunc(all, func(w way) bool { return v.answered(&w, v.needs[i:i+1]) }) {
				said := "nothing that is allowed and not ruled out by what is held answers it: " +
					words.Lower(n.feature.Label) + p.refusals(n.feature)
				return Blocked{v.ID, n.feature.Code, said}
			}
		}
		return Blocked{v.ID, "several", "no allowed set of repairs answers all its findings together"}
	}
	for i, c := range trade.MovedFigures(p.h.Model.Kind) {
		now := &v.now.Figures[i]
		if v.windows[i].limit == nil || !now.Read && i != after.Clearance {
			continue
		}
		kept, ok := v.windows[i], v.ok[i]
		v.windows[i], v.ok[i] = window{}, true
		fits := p.fitsAlone(v, b, ways)
		v.windows[i], v.ok[i] = kept, ok
		if !fits {
			continue
		}
		switch i {
		case after.Lash:
			return Blocked{v.ID, c.Code, p.lashWhy(v, b)}
		case after.SpringHeight, after.Load:
			if len(p.sizes(trade.ShimPart)) == 0 {
				return Blocked{v.ID, c.Code, p.outOf(c, now, kept) + ": no spring shim is in stock or on the list"}
			}
		}
		return Blocked{v.ID, c.Code, p.outOf(c, now, kept)}
	}
	return Blocked{
		v.ID, "several", "more than one limit is in the way: no allowed set of actions meets them together",
	}
}

// outOf says that a figure cannot be brought to its limit.
func (p *problem) outOf(c *trade.Characteristic, now *after.Figure, w window) string {
	is := c.UnitFor(p.h.Unit).Text(quantity.Amount(now.At))
	return fmt.Sprintf(
		"no allowed set of actions brings its %s, now %s, to %s with the other limits kept", words.Lower(c.Label),
		is, w.limit.Text(p.h.Unit),
	)
}

// banned names a held choice that may not be done, and why.
func (p *problem) banned(v *valve) (Blocked, bool) {
	for _, r := range p.h.Sheet.AllRepairs() {
		if h := v.held[string(r.Works)]; h == "" || h != r.Choice {
			continue
		}
		if said := p.j.Permits(judge.Feature{Position: v.ID}, r); !said.OK {
			return Blocked{v.ID, r.Code, words.Lower(r.Name) + " is held and may not be done: " + said.Why}, true
		}
		if size := r.Does.Size; size != nil && size.Most != nil {
			if least, most := p.bounds(v, size); least > most {
				why := size.Label + " of " + p.text(length.FromFloat(least)) + " is needed, and " +
					p.text(length.FromFloat(most)) + " is the most there is room for"
				return Blocked{v.ID, r.Code, words.Lower(r.Name) + " is held and may not be done: a " + why}, true
			}
		}
	}
	return Blocked{}, false
}

// refusals are the reasons why nothing answers a finding, each repair's once.
func (p *problem) refusals(f judge.Feature) string {
	said := ""
	for _, o := range p.j.Offers(f) {
		if !o.OK {
			said += "; " + words.Lower(o.Name) + ": " + o.Why
		}
	}
	return said
}

// lashWhy says why a valve's lash cannot be set.
func (p *problem) lashWhy(v *valve, b *box) string {
	limit := v.windows[after.Lash].limit.Text(p.h.Unit)
	is := p.text(length.FromFloat(v.now.Figures[after.Lash].At))
	said := fmt.Sprintf(
		"whatever is done inside the limits, its lash cannot be set: it is %s and must end at %s", is,
		limit,
	)
	switch {
	case b != nil && len(b.sizes) > 0:
		said += fmt.Sprintf("; shims can be had from %s to %s, and %s is fitted", p.text(b.sizes[0]),
			p.text(b.sizes[len(b.sizes)-1]), p.text(v.present))
	case len(p.rods) > 0 && v.presentKnown:
		least, most := p.rods[0].size, p.rods[0].size
		for _, r := range p.rods {
			least, most = min(least, r.size), max(most, r.size)
		}
		said += fmt.Sprintf("; pushrods can be had from %s to %s, and %s is fitted", p.text(least), p.text(most),
			p.text(v.present))
	case p.travel > 0:
		said += fmt.Sprintf("; the adjuster gives %s", p.text(p.travel))
	}
	return said
}
