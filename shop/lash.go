package shop

import (
	"fmt"
	"math/big"
	"slices"

	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/valvetrain"
)

// LashRow is how a position's lash is set after the plan.
type LashRow struct {
	ID          string
	Before      length.Length
	After       length.Length // when nothing is changed
	Set         length.Length // when it is set as Size says
	Present     length.Length // shim or pushrod fitted now
	Size        length.Length
	Source      string // kept, moved, stock, order; adjuster
	Low, High   length.Length
	Impossible  string
	HasFigures  bool
	StockItemID uint
}

// lashNow is a position's lash as read, the middle of its two leaves, and its limits; ok is
// false when either is not known.
func (p *planner) lashNow(v layout.Valve) (lash, low, high length.Length, ok bool) {
	lim := p.sheet.Limit("lash", string(v.Role))
	rs := p.f.Counting("lash", v.ID)
	if lim == nil || lim.Low == nil || lim.High == nil || len(rs) == 0 {
		return 0, 0, 0, false
	}
	r := rs[0].Value
	if r.Bracket {
		return (r.Go + r.NoGo) / 2, *lim.Low, *lim.High, true
	}
	return r.At, *lim.Low, *lim.High, true
}

// ratio is the rocker's, 1 without one.
func (p *planner) ratio() length.Length { return p.give("given.rocker_ratio", "", length.Millimetre) }

// times multiplies a length by the rocker's ratio.
func (p *planner) times(l length.Length) length.Length {
	return length.Round(new(big.Rat).Mul(l.Rat(), big.NewRat(int64(p.ratio()), int64(length.Millimetre))))
}

// reach is how far a lash can be changed by what is to be had: the least and the most that
// can be added to it, and what was fitted.
func (p *planner) reach(v layout.Valve) (least, most, present length.Length) {
	sizes := lengths(p.sizes)
	if p.f.Model.Drive == "bucket" {
		if m := p.f.Mean("shim.size", v.ID, ""); m != nil {
			present = *m
			sizes = append(sizes, present)
			return present - slices.Max(sizes), present - slices.Min(sizes), present
		}
		return 0, 0, 0
	}
	travel := length.Millimetre
	if len(p.sizes) > 0 {
		travel = 0
	}
	travel = p.give("given.adjuster", "", travel)
	if m := p.f.Mean("pushrod.length", v.ID, ""); m != nil && len(sizes) > 0 {
		present = *m
		sizes = append(sizes, present)
		return p.times(present-slices.Max(sizes)) - travel, p.times(present-slices.Min(sizes)) + travel, present
	}
	return -travel, travel, 0
}

// rises are how far each valve's stem may rise, with the face as it is, for its lash still
// to be set: lash - rise, plus what a shim, a pushrod or the adjuster gives, must end inside.
// A valve whose lash is not known has none.
func (p *planner) rises() map[string]plan.Range {
	out := map[string]plan.Range{}
	for _, v := range p.f.Layout.Valves {
		if lash, low, high, ok := p.lashNow(v); ok {
			least, most, _ := p.reach(v)
			out[v.ID] = plan.Range{Low: lash + least - high, High: lash + most - low}
		}
	}
	return out
}

// windows narrows each valve's stem height to what its lash can still be set for, with the
// face cut by c: under rockers that brings the valve nearer by ratio x cut.
func (p *planner) windows(in *plan.Input, c length.Length) {
	if p.f.Model.Drive == "rocker" {
		c = p.times(c)
	} else {
		c = 0
	}
	for i := range in.Valves {
		v := &in.Valves[i]
		if rise, ok := p.rise[v.ID]; ok {
			v.Stem = &plan.Range{Low: v.StemHeight - c + rise.Low, High: v.StemHeight - c + rise.High}
		}
	}
}

// words says why a valve is blocked; where the lash stands in the way of its stem height, it
// says that.
func (p *planner) words(b plan.Blocked, in plan.Input) string {
	v, ok := p.f.Layout.Valve(b.ID)
	if ok && p.lashBlocks(b.ID, in) {
		if lash, low, high, known := p.lashNow(v); known {
			_, most, present := p.reach(v)
			what := map[string]string{"bucket": "thinnest shim", "rocker": "shortest pushrod"}[p.f.Model.Drive]
			if present != 0 && lash+most < high {
				size := present - most
				if p.f.Model.Drive == "rocker" {
					size = slices.Min(append(lengths(p.sizes), present))
				}
				return fmt.Sprintf("%s: whatever is done inside the limits, its lash cannot be set: it is %s, and the %s to be had, %s, gives at most %s more; it must end at %s to %s", b.ID, lash, what, size, most, low, high)
			}
		}
	}
	if b.ID == "" {
		return b.Why
	}
	return b.ID + ": " + b.Why
}

// lashBlocks tells whether a valve would fit if its lash could be set for anything.
func (p *planner) lashBlocks(id string, in plan.Input) bool {
	i := slices.IndexFunc(in.Valves, func(v plan.Position) bool { return v.ID == id })
	in.Valves, in.Spread = []plan.Position{in.Valves[i]}, nil
	in.Valves[0].Stem = nil
	out, err := plan.Solve(in)
	return err == nil && out.Feasible
}

// lash sets the lash end to end: shims by exact assignment, pushrods one by one, or the
// adjuster's travel.
func (p *planner) lash(out *Planned) []LashRow {
	var rows []LashRow
	var in valvetrain.ShimsInput
	for i, d := range out.Out.Valves {
		v, _ := p.f.Layout.Valve(d.ID)
		lash, low, high, ok := p.lashNow(v)
		if !ok {
			continue
		}
		r := LashRow{ID: d.ID, Before: lash, Low: low, High: high, HasFigures: true}
		r.After = lash - (d.StemHeight - out.In.Valves[i].StemHeight)
		_, _, r.Present = p.reach(v)
		if p.f.Model.Drive == "rocker" {
			r.After -= p.times(out.Out.FaceCut)
			p.pushrod(&r)
		} else if r.Present != 0 && r.After >= low && r.After <= high {
			r.Size, r.Set, r.Source = r.Present, r.After, "kept" // what is inside is left alone
		} else if r.Present != 0 {
			in.Buckets = append(in.Buckets, valvetrain.Bucket{ID: d.ID, Lash: r.After, Shim: r.Present, Low: low, High: high, Aim: (low + high) / 2})
		}
		rows = append(rows, r)
	}
	if len(in.Buckets) == 0 {
		return rows
	}
	for _, it := range p.sizes {
		if n := p.stock.Free(it.ID); n > 0 {
			in.Stock = append(in.Stock, valvetrain.StockShim{Size: it.SizeNM, Count: int64(n)})
		}
		in.Orderable = append(in.Orderable, it.SizeNM)
	}
	set, err := valvetrain.Shims(in)
	for i := range rows {
		r := &rows[i]
		if r.Source != "" || r.Present == 0 {
			continue
		}
		if err != nil {
			r.Impossible = err.Error()
			continue
		}
		if slices.Contains(set.BlockedIDs, r.ID) {
			r.Impossible = fmt.Sprintf("no shim to be had gives a lash of %s to %s", r.Low, r.High)
		}
		for _, c := range set.Buckets {
			if c.ID == r.ID {
				r.Size, r.Set, r.Source = c.Shim, c.Lash, c.Source
			}
		}
		for _, it := range p.sizes {
			if it.SizeNM == r.Size {
				r.StockItemID = it.ID
			}
		}
	}
	return rows
}

// pushrod chooses a pushrod, or the adjuster where the lash can be set by it.
func (p *planner) pushrod(r *LashRow) {
	usual := length.Millimetre
	if len(p.sizes) > 0 {
		usual = 0
	}
	travel, middle := p.give("given.adjuster", "", usual), (r.Low+r.High)/2
	if d := (r.After - middle).Abs(); d <= travel {
		r.Source, r.Set, r.Size = "adjuster", middle, r.Present
		return
	}
	if r.Present == 0 {
		if r.After >= r.Low && r.After <= r.High {
			r.Source, r.Set = "as it is", r.After
			return
		}
		r.Impossible = fmt.Sprintf("the lash ends at %s, outside %s to %s, and the adjuster gives %s", r.After, r.Low, r.High, travel)
		return
	}
	in := valvetrain.PushrodInput{Lash: r.After, Ratio: big.NewRat(int64(p.ratio()), int64(length.Millimetre)), Present: r.Present, Low: r.Low - travel, High: r.High + travel}
	sizes := append(lengths(p.sizes), r.Present)
	for _, l := range sizes {
		in.Available = append(in.Available, valvetrain.Sized{Text: l.String(), Size: l})
	}
	out, err := valvetrain.Pushrod(in)
	if err != nil || out.Choice == nil {
		r.Impossible = fmt.Sprintf("the lash ends at %s; no pushrod from %s to %s brings it to %s to %s", r.After, slices.Min(sizes), slices.Max(sizes), r.Low, r.High)
		return
	}
	for i, l := range sizes {
		if l.String() == *out.Choice {
			r.Size, r.Set = l, min(max(out.Lash[i], r.Low), r.High) // the adjuster gives the rest
		}
	}
	r.Source = "kept"
	if r.Size != r.Present {
		r.Source = "order"
		for _, it := range p.sizes {
			if it.SizeNM == r.Size {
				r.StockItemID = it.ID
				if p.stock.Free(it.ID) > 0 {
					r.Source = "stock"
				}
			}
		}
	}
}
