package plan

import (
	"container/heap"
	"context"
	"maps"
	"math"
	"math/bits"
	"slices"

	"yatai/core/length"
	"yatai/core/trade"
)

// solution is the optimum of a problem.
type solution struct {
	common
	ops    mask
	valves []fitted
	score  score // of the whole head, setting-up and facing included
}

// maxAssignments bounds how often the shims are shared out: candidates come by their bound, so that the
// first that is assigned is nearly always the optimum and the bound proves it. Of heads with many ways there
// are fewer: so many fits.
const (
	maxAssignments   = 2000
	maxAssigned      = 600_000
	leastAssignments = 40
)

// solve finds the optimum: given the common choices of the head (face cut, gasket, which
// operations are set up, where a row's depths lie), valves are independent of each other, but
// for the lash shims, which are an assignment. Least cents first, then the largest smallest
// distance to a limit, then the least face cut and metal. ok is false when nothing fits.
//
// What a candidate costs if every valve had the box of shims to itself bounds it from below, and says
// nothing of whether the shims can be shared out: only what was assigned stands in the way of others.
func (p *problem) solve(ctx context.Context, minZ float64, targets bool) (best solution, ok bool, err error) {
	q := p.asked()
	best.score = never
	var queue candidates
	left := p.assignments(q)
	short := map[place]bool{} // where shims were found to be short
	try := func(x *candidate) {
		left--
		s, fits := p.exact(*x, q)
		if fits && s.score.less(best.score) {
			best, ok = s, true
		}
		if q.box == nil || fits && s.score.cents == x.bound.cents {
			return
		}
		// what is dearer where every valve has the box to itself may now be cheaper: the next windows, other work
		for _, y := range x.next() {
			heap.Push(&queue, y)
		}
		if at := (place{x.cut, x.gasket.change}); !short[at] || p.binds() {
			short[at] = true
			if s, fits := p.exact(candidate{common: x.common, ops: ^mask(0)}, q); fits && s.score.less(best.score) {
				best, ok = s, true
			}
		}
	}
	for _, cut := range p.cuts {
		if err := ctx.Err(); err != nil {
			return best, false, err
		}
		for _, g := range p.gaskets {
			c := common{cut: cut, gasket: g, minZ: minZ, targets: targets}
			head, fits := p.headScore(c)
			if !fits {
				continue
			}
			floor, needed := p.floor(q, c)
			if floor == math.MaxInt64 || head.cents+floor+p.setups(needed) > best.score.cents {
				continue
			}
			c.extra = p.extras(q.ways, c)
			some := p.candidates(c, head, q, best.score.cents)
			slices.SortStableFunc(some, func(a, b candidate) int { return a.bound.compare(b.bound) })
			if len(some) > 0 && some[0].bound.cents < best.score.cents { // what it costs keeps dearer cuts away
				try(&some[0])
				some = some[1:]
			}
			queue = append(queue, some...)
		}
	}
	heap.Init(&queue)
	for len(queue) > 0 {
		x := heap.Pop(&queue).(candidate)
		if !x.bound.less(best.score) {
			break
		}
		if left <= 0 {
			if x.bound.cents < best.score.cents {
				note(&p.missing, "more ways to share out the shims than are tried: a cheaper plan may have been missed")
			}
			break
		}
		if err := ctx.Err(); err != nil {
			return best, false, err
		}
		if try(&x); q.box == nil && ok { // without shims to share out the bound is the cost itself
			break
		}
	}
	return best, ok, nil
}

// assignments is how often the shims of a head are shared out at most.
func (p *problem) assignments(q question) int {
	pairs := 1
	for i := range q.pairs {
		pairs += len(q.pairs[i])
	}
	return min(maxAssignments, max(leastAssignments, maxAssigned/pairs))
}

// binds tells whether depths of a row are kept together: then the shims that are wanted hang on where.
func (p *problem) binds() bool {
	for _, s := range p.spread {
		if s != nil {
			return true
		}
	}
	return false
}

// extras says at which valves nothing but the lash asks for work: there the lash is set some
// other way first.
func (p *problem) extras(ways [][]way, c common) []int64 {
	out := make([]int64, len(p.valves))
	free := setting{travel: float64(length.Max)}
	for i, v := range p.valves {
		for k := range ways[i] {
			if w := &ways[i][k]; w.keep && !p.free {
				if _, ok := p.fit(v, w, &c, &free); ok {
					out[i] = needless
				}
				break
			}
		}
	}
	return out
}

// headScore is what the head's own choices cost and how near its own figures come to their
// limits; fits is false when one of them cannot be.
func (p *problem) headScore(c common) (score, bool) {
	s := score{cents: c.gasket.cents, z: sure, metal: 0}
	if c.cut > 0 {
		s.cents += p.costs.whole(trade.FaceHead)
	}
	for _, f := range p.headFigures(c) {
		if f.Fixed != nil { // an operation puts it right
			s.cents += p.costs.whole(f.Fixed) + p.costs.each(f.Fixed, "")
			continue
		}
		if !f.Fits {
			return s, false
		}
		if f.Known && f.SD > 0 && f.Changed {
			if d, any := f.distance(); any {
				s.z = min(s.z, d/f.SD)
			}
		}
	}
	for _, o := range p.beside {
		other, fits := o.headScore(c)
		if !fits {
			return s, false
		}
		s = s.plus(other)
	}
	return s, true
}

// unions lists the sets of operations that valves' choices can come to together: what is set up is set
// up for all.
func unions(tables map[string][][][]choice, with mask) []mask {
	sets := map[mask]bool{}
	for _, rows := range tables {
		for _, table := range rows {
			for _, cs := range table {
				for _, x := range cs {
					sets[x.ops] = true
				}
			}
		}
	}
	known := map[mask]bool{with: true}
	out := []mask{with}
	for _, s := range slices.Sorted(maps.Keys(sets)) {
		for _, o := range out {
			if u := o | s; !known[u] {
				known[u] = true
				out = append(out, u)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b mask) int { return bits.OnesCount32(uint32(a)) - bits.OnesCount32(uint32(b)) })
	return out
}

// candidates are the sets of operations worth trying with some common choices, each with its
// bound. What costs more than least at best is passed over.
func (p *problem) candidates(c common, head score, q question, least int64) []candidate {
	windows := p.rowWindows(c, q.ways)
	tables, rest := p.tables(c, windows, q, least-head.cents)
	if tables == nil || head.cents+rest > least {
		return nil
	}
	var with mask
	if p.resets(&c) {
		with = p.setLash
	}
	var out []candidate
	for _, set := range unions(tables, with) {
		x := candidate{common: c, ops: set, fixed: head}
		x.fixed.cents += p.setups(set)
		if rest+x.fixed.cents > least {
			continue
		}
		fits := true
		for _, name := range slices.Sorted(maps.Keys(tables)) {
			y := row{name: name}
			for k, table := range tables[name] {
				if s := sum(table, set); s != never {
					y.spots = append(y.spots, cost{windows[name][k], s})
				}
			}
			slices.SortStableFunc(y.spots, func(a, b cost) int { return a.score.compare(b.score) })
			x.in, fits = append(x.in, y), fits && len(y.spots) > 0
		}
		if !fits {
			continue
		}
		if x.settle(); x.bound.cents <= least {
			if q.box == nil { // a dearer bound may turn out cheaper once the shims are shared out
				least = x.bound.cents
			}
			out = append(out, x)
		}
	}
	if q.box != nil {
		return out
	}
	return slices.DeleteFunc(out, func(x candidate) bool { return x.bound.cents > least })
}

// setups is what it costs to set a set of operations up.
func (p *problem) setups(set mask) (cents int64) {
	for i, o := range p.ops {
		if set&(1<<i) != 0 {
			cents += p.costs.setup(o)
		}
	}
	return cents
}

// exact works out a candidate: each valve's best, the shims of a bucket head assigned.
func (p *problem) exact(x candidate, q question) (solution, bool) {
	s := solution{common: x.common, ops: x.ops}
	if q.box != nil {
		s.valves = p.assign(x.common, x.ops, q)
	} else {
		near := p.nearby(q, &x.common)
		for i, v := range p.valves {
			f := p.bestOf(v, q.pairs[i], near[i], &x.common, x.ops)
			if f.score == never {
				return s, false
			}
			s.valves = append(s.valves, f)
		}
	}
	if s.valves == nil {
		return s, false
	}
	var used mask
	if p.resets(&x.common) {
		used = p.setLash
	}
	s.score, _ = p.headScore(x.common)
	s.score.metal += x.cut
	for i := range s.valves {
		f := &s.valves[i]
		used |= f.way.ops | f.setting.ops
		s.score = s.score.plus(f.score)
	}
	s.score.cents += p.setups(used)
	s.ops = used
	return s, true
}
