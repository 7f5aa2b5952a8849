package plan

import (
	"cmp"
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
	ties             = 12 // which part of them may go into a larger distance to a limit for the same cents
)

// solve finds the optimum: given the common choices of the head (face cut, gasket, which
// operations are set up, where a row's depths lie), valves are independent of each other, but
// for the lash shims, which are an assignment. Least cents first, then the largest smallest
// distance to a limit, then the least face cut and metal. ok is false when nothing fits.
//
// What a candidate costs if every valve had the box of shims to itself, scarce ones reckoned
// dearer, bounds it from below, and says nothing of whether the shims can be shared out: only what
// was assigned stands in the way of others.
func (p *problem) solve(ctx context.Context, minZ float64, targets bool) (best solution, ok bool, err error) {
	return p.cheaper(ctx, minZ, targets, math.MaxInt64)
}

// cheaper finds the optimum where it costs less than so many cents.
func (p *problem) cheaper(
	ctx context.Context, minZ float64, targets bool, than int64,
) (best solution, ok bool, err error) {
	q := p.asked()
	w := &solver{problem: p, q: q, left: p.assignments(q), short: map[place]bool{}}
	w.ties = w.spare()
	w.best.score = score{cents: than, z: math.Inf(1)}
	for _, at := range p.starts(ctx, q, common{minZ: minZ, targets: targets}) {
		if ctx.Err() != nil {
			break
		}
		w.open(at)
	}
	heap.Init(&w.queue)
	for len(w.queue) > 0 {
		x := heap.Pop(&w.queue).(candidate)
		if !x.bound.less(w.best.score) {
			break
		}
		if x.bound.cents == w.best.score.cents {
			w.ties--
		}
		if w.left <= 0 || w.ties < 0 {
			if x.bound.cents < w.best.score.cents {
				note(&p.missing, "more ways to share out the shims than are tried: a cheaper plan may have been missed")
			}
			break
		}
		if ctx.Err() != nil {
			break
		}
		if !w.took(&x) {
			w.besides(&x)
		}
		if q.box == nil && w.ok { // without shims to share out the bound is the cost itself
			break
		}
	}
	return w.best, w.ok && ctx.Err() == nil, ctx.Err()
}

// start is a choice of the head's own with what it and its valves cost at least.
type start struct {
	common
	head  score
	cents int64
}

// starts are the choices of a head that may do, the one that costs least at least first.
func (p *problem) starts(ctx context.Context, q *question, c common) (out []start) {
	for _, c.cut = range p.cuts {
		if ctx.Err() != nil {
			return out
		}
		for _, c.gasket = range p.gaskets {
			if head, fits := p.headScore(c); fits {
				if floor, needed := p.floor(q, c); floor != math.MaxInt64 {
					out = append(out, start{c, head, head.cents + floor + p.setups(needed)})
				}
			}
		}
	}
	slices.SortStableFunc(out, func(a, b start) int { return cmp.Compare(a.cents, b.cents) })
	return out
}

// solver is a solution on the way.
type solver struct {
	*problem
	q     *question
	best  solution
	ok    bool
	queue candidates
	left  int            // how often the shims may still be shared out
	ties  int            // and how often for no fewer cents
	short map[place]bool // where shims were found to be short
}

// open brings the candidates of a choice of the head's own into the queue. The best of them is worked out at
// once: what it costs keeps dearer choices away, and what its shims are worth brings the bounds of
// the others up.
func (w *solver) open(at start) {
	if at.cents > w.best.score.cents {
		return
	}
	c := at.common
	c.extra = w.extras(w.q.ways, c)
	for round := 1; ; round++ {
		floor, needed := w.floor(w.q, c)
		if at.head.cents+floor+w.setups(needed) > w.best.score.cents {
			return
		}
		most := w.best.score.cents
		if w.ties <= 0 {
			most--
		}
		some := w.candidates(c, at.head, w.q, most)
		slices.SortStableFunc(some, func(a, b candidate) int { return a.bound.compare(b.bound) })
		if len(some) == 0 || some[0].bound.cents >= w.best.score.cents {
			w.ties -= min(1, len(some))
			w.queue = append(w.queue, some...)
			return
		}
		proven := w.took(&some[0])
		if proven || w.q.box == nil || round == maxRounds {
			if w.queue = append(w.queue, some[1:]...); !proven {
				w.besides(&some[0])
			}
			return
		}
	}
}

// maxRounds is how often the candidates of one choice of the head's own are bounded anew.
const maxRounds = 3

// spare is how often more may be tried for the same cents: where no shims are shared out as often
// as there is.
func (w *solver) spare() int {
	if w.q.box == nil {
		return math.MaxInt
	}
	return w.left / ties
}

// besides opens what lies beside a candidate that costs more than it was bound to: what is dearer
// where every valve has the box to itself may be cheaper then, the next windows or other work.
func (w *solver) besides(x *candidate) {
	if w.q.box == nil {
		return
	}
	for _, y := range x.next() {
		heap.Push(&w.queue, y)
	}
	if at := (place{x.cut, x.gasket.change}); !w.short[at] || w.binds() {
		w.short[at] = true
		w.took(&candidate{common: x.common, ops: ^mask(0)})
	}
}

// took works out a candidate and keeps it where it is better than the best so far; true where it
// costs what it is bound to at least.
func (w *solver) took(x *candidate) bool {
	w.left--
	s, fits := w.exact(x, w.q, w.best.score.cents)
	if fits && s.score.less(w.best.score) {
		if s.score.cents < w.best.score.cents {
			w.ties = w.spare()
		}
		w.best, w.ok = s, true
	}
	return fits && s.score.cents == x.bound.cents
}

// assignments is how often the shims of a head are shared out at most.
func (p *problem) assignments(q *question) int {
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
	slices.SortStableFunc(
		out, func(a, b mask) int { return bits.OnesCount32(uint32(a)) - bits.OnesCount32(uint32(b)) },
	)
	return out
}

// candidates are the sets of operations worth trying with some common choices, each with its
// bound. What costs more than least at best is passed over.
func (p *problem) candidates(c common, head score, q *question, least int64) []candidate {
	windows := maps.Clone(p.rowWindows(&c, q))
	most := least
	if most < math.MaxInt64 {
		most += q.scarce.all - head.cents
	}
	tables, rest := p.tables(c, windows, q, most)
	if tables == nil || head.cents+rest-q.scarce.all > least {
		return nil
	}
	var with mask
	if p.resets(&c) {
		with = p.setLash
	}
	head.cents -= q.scarce.all
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

// exact works out a candidate: each valve's best, the shims of a bucket head assigned; where it
// costs no more than most, so that it is as sure as it can be.
func (p *problem) exact(x *candidate, q *question, most int64) (best solution, ok bool) {
	if q.box != nil {
		s, fits := p.assign(x.common, x.ops, q)
		if !fits {
			return best, false
		}
		if best = p.summed(x, s.out); best.score.cents <= most {
			best = p.surer(x, q, &s, best)
		}
		return best, true
	}
	near := p.nearby(q, &x.common)
	valves := make([]fitted, len(p.valves))
	for i, v := range p.valves {
		if valves[i] = p.bestOf(v, q.pairs[i], near[i], &x.common, x.ops); valves[i].score == never {
			return best, false
		}
	}
	return p.summed(x, valves), true
}

// summed is the solution in which the valves come out so.
func (p *problem) summed(x *candidate, valves []fitted) solution {
	s := solution{common: x.common, valves: slices.Clone(valves)}
	if p.resets(&x.common) {
		s.ops = p.setLash
	}
	s.score, _ = p.headScore(x.common)
	s.score.metal += x.cut
	for i := range valves {
		f := &valves[i]
		s.ops |= f.way.ops | f.setting.ops
		s.score = s.score.plus(f.score)
	}
	s.score.cents += p.setups(s.ops)
	return s
}
