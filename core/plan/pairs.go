package plan

import (
	"cmp"
	"math"
	"slices"

	"yatai/core/after"
	"yatai/core/length"
)

// question is what every candidate is tried with: each valve's ways, and these with the settings of its lash.
type question struct {
	ways    [][]way
	pairs   [][]pairing
	reaches [][]run                       // by valve: the depths its ways can come to
	near    map[place][][]int32           // by valve: those of its pairs whose depth and lash can end inside
	rows    map[place]map[string][]window // where each row's depths may lie
	any     map[asking][]int64            // by valve: see anyLash
	box     *box
	scarce
}

// place is where a head's choices bring its valves: a face cut, and what a gasket is thicker.
type place struct{ cut, gasket length.Length }

// asking is a place with what its figures have to keep.
type asking struct {
	place
	minZ    float64
	targets bool
}

// asked lists what can be done, once.
func (p *problem) asked() *question {
	if p.known != nil {
		return p.known
	}
	n := len(p.valves)
	q := &question{
		ways: make([][]way, n), reaches: make([][]run, n), pairs: make([][]pairing, n), near: map[place][][]int32{},
		rows: map[place]map[string][]window{}, any: map[asking][]int64{}, box: p.shimBox(),
	}
	var some []pairing
	for i, v := range p.valves {
		q.ways[i] = p.possible(v)
		slices.SortStableFunc(q.ways[i], func(a, b way) int { return cmp.Compare(a.cents, b.cents) })
		some = p.pairings(some[:0], v, q.ways[i], q.box)
		q.pairs[i], q.reaches[i] = slices.Clone(some), v.reaches(q.ways[i])
	}
	p.known = q
	return q
}

// possible lists the ways of a valve that some cut of the face and some setting of its lash may suit:
// those whose other figures, which neither moves, can end inside. Most cannot, and are tried no more.
func (p *problem) possible(v *valve) []way {
	open := v.open(after.Recession, after.Lash, after.Piston)
	return slices.DeleteFunc(p.ways(v), func(w way) bool {
		_, ok := p.fit(open, &w, &common{}, &setting{})
		return !ok
	})
}

// open is the valve as if nothing bound those of its figures.
func (v *valve) open(figures ...int) *valve {
	o := *v
	for _, i := range figures {
		o.windows[i], o.targets[i], o.ok[i] = window{}, window{}, true
	}
	return &o
}

// nearby are, by valve, which of its pairs have a depth and a lash that can end inside with a head's choices,
// the cheapest first: most have not.
func (p *problem) nearby(q *question, c *common) [][]int32 {
	at := place{c.cut, c.gasket.change}
	near, known := q.near[at]
	if known {
		return near
	}
	near = make([][]int32, len(p.valves))
	var some []int32
	pushrods := p.h.Model.Kind.Pushrods() // of others the lash hangs on no choice of the head
	for i, v := range p.valves {
		some = some[:0]
		cut := v.local(c.cut)
		in := v.windows[after.Recession].uncut(cut)
		for k := range q.pairs[i] {
			x := &q.pairs[i][k]
			if x.fits(in) || cut == 0 && !x.way.Figures[after.Recession].Changed {
				if !pushrods || p.reaches(v, x.way, c, x.setting) {
					some = append(some, int32(k))
				}
			}
		}
		near[i] = slices.Clone(some)
	}
	q.near[at] = near
	return near
}

// anyLash is, by valve, what the cheapest of its ways that fits with a head's choices costs,
// whatever is done about its lash; the largest number there is where none does.
func (p *problem) anyLash(q *question, c *common) []int64 {
	at := asking{place{c.cut, c.gasket.change}, c.minZ, c.targets}
	if known, ok := q.any[at]; ok {
		return known
	}
	free, out := setting{travel: float64(length.Max)}, make([]int64, len(p.valves))
	for i, v := range p.valves {
		out[i] = math.MaxInt64
		for k := range q.ways[i] {
			if w := &q.ways[i][k]; w.cents < out[i] {
				if _, ok := p.fit(v, w, c, &free); ok {
					out[i] = w.cents
				}
			}
		}
	}
	q.any[at] = out
	return out
}

// floor is what the valves cost at least with a head's choices: each the cheapest of its ways that fits,
// whatever is done about its lash, or the cheapest of its pairs whose depth and lash can end inside; the
// largest number there is when one of them cannot be put right. Needed is what some valve has in all of
// its pairs.
func (p *problem) floor(q *question, c common) (total int64, needed mask) {
	near, any := p.nearby(q, &c), p.anyLash(q, &c)
	for i, v := range p.valves {
		least := any[i]
		paired, all := int64(math.MaxInt64), ^mask(0)
		for _, k := range near[i] {
			x := &q.pairs[i][k]
			paired, all = min(paired, p.cents(q, &c, v, x)), all&x.ops
		}
		if least == math.MaxInt64 || paired == math.MaxInt64 {
			return math.MaxInt64, 0
		}
		total += max(least, paired)
		needed |= all
	}
	return total - q.scarce.all, needed
}

// choice is the best that a valve can do with exactly the operations of a set.
type choice struct {
	ops   mask
	score score
}

// pairing is a way to treat a valve with a way to set its lash.
type pairing struct {
	way     *way
	setting *setting
	ops     mask
	shim    int32   // which of the box's sizes; -1 for none of them
	cents   int64   // of both together
	from    float64 // between which depths of its seat it may fit, the face uncut
	to      float64
}

// uncut is a window of depths as it lies before the face is cut by so much there.
func (w window) uncut(cut length.Length) span {
	s := span{math.Inf(-1), math.Inf(1)}
	if w.low != nil {
		s.least = float64(*w.low+cut) - 1 // a nanometre is no matter of the sizes
	}
	if w.high != nil {
		s.most = float64(*w.high+cut) + 1
	}
	return s
}

// fits tells whether a pair may fit with the depth of its valve in a span.
func (x *pairing) fits(in span) bool { return x.to >= in.least && x.from <= in.most }

// pairings adds to out a valve's ways with the settings of its lash, cheapest first: what is found early
// shows that most of the rest need not be tried. Those are left out whose lash no choice of the head
// brings inside: of bucket heads, whose lash hangs on none of them.
func (p *problem) pairings(out []pairing, v *valve, ways []way, b *box) []pairing {
	settings := p.shimSettings(v, b)
	open := v.open(after.Recession, after.Piston) // which go with the face
	if p.h.Model.Kind.Pushrods() {                // as their lash does
		open = v.open(after.Recession, after.Piston, after.Lash)
	}
	for i := range ways {
		w := &ways[i]
		d := depths{problem: p, v: open, w: w, shims: b != nil}
		for k := range settings {
			s := &settings[k]
			if p.h.Model.Kind.Pushrods() || w.within(after.Lash, v.windows[after.Lash], s.add, s.travel) {
				x := pairing{way: w, setting: s, ops: w.ops | s.ops, cents: p.together(w, s), shim: -1}
				if k, any := b.place(s.size); any && v.presentKnown && v.now.Figures[after.Lash].Read {
					x.shim = int32(k)
				}
				var ok bool
				if x.from, x.to, ok = d.with(s); ok {
					out = append(out, x)
				}
			}
		}
	}
	slices.SortStableFunc(out, func(a, b pairing) int { return cmp.Compare(a.cents, b.cents) })
	return out
}

// choices are the best of a valve by the operations it takes; none that costs more and takes
// more than another.
func (p *problem) choices(q *question, v *valve, some []int32, c common) []choice {
	var out []choice
	in := c.rows[v.row].uncut(v.local(c.cut))
	for _, k := range some {
		x := &q.pairs[v.index][k]
		if !x.fits(in) {
			continue
		}
		cents := p.cents(q, &c, v, x)
		if slices.ContainsFunc(out, func(o choice) bool { return o.ops&^x.ops == 0 && o.score.cents < cents }) {
			continue // another does with less, and costs less
		}
		f, ok := p.fit(v, x.way, &c, x.setting)
		if !ok {
			continue
		}
		if f.score.cents = cents; q.box != nil {
			f.score.orders = 0 // one that is there may do
		}
		if i := slices.IndexFunc(out, func(o choice) bool { return o.ops == x.ops }); i < 0 {
			out = append(out, choice{x.ops, f.score})
		} else if f.score.less(out[i].score) {
			out[i].score = f.score
		}
	}
	return slices.DeleteFunc(slices.Clone(out), func(x choice) bool {
		return slices.ContainsFunc(
			out, func(o choice) bool { return o.ops != x.ops && o.ops&^x.ops == 0 && o.score.less(x.score) },
		)
	})
}

// cheapest is what a row costs at least, setting-up apart.
func cheapest(table [][]choice) int64 {
	var total int64
	for _, cs := range table {
		best := int64(math.MaxInt64)
		for _, x := range cs {
			best = min(best, x.score.cents)
		}
		if best == math.MaxInt64 {
			return best
		}
		total += best
	}
	return total
}

// sum adds up a row's best choices with the operations of a set.
func sum(table [][]choice, set mask) score {
	total := score{z: sure}
	for _, cs := range table {
		best := never
		for _, x := range cs {
			if x.ops&^set == 0 && x.score.less(best) {
				best = x.score
			}
		}
		if total = total.plus(best); total == never {
			return never
		}
	}
	return total
}
