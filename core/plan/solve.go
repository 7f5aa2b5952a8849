package plan

import (
	"cmp"
	"context"
	"maps"
	"math"
	"math/bits"
	"slices"

	"yatai/core/after"
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

// candidate is a head's common choices with a bound on what a plan with them costs: what it
// would cost if every valve had the box of shims to itself.
type candidate struct {
	common
	ops   mask
	bound score
}

// maxAssignments bounds how many candidates' shims are assigned: they come by their bound, so
// that the first that is assigned is nearly always the optimum and the bound proves it.
const maxAssignments = 2000

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
	var candidates []candidate
	least := int64(math.MaxInt64)
	for _, cut := range p.cuts {
		if err := ctx.Err(); err != nil {
			return best, false, err
		}
		floor, needed := p.floor(q, common{cut: cut, minZ: minZ, targets: targets})
		if floor == math.MaxInt64 {
			continue
		}
		floor += p.setups(needed)
		for _, g := range p.gaskets {
			c := common{cut: cut, gasket: g, minZ: minZ, targets: targets}
			head, fits := p.headScore(c)
			if !fits || head.cents+floor > least {
				continue
			}
			c.extra = p.extras(q.ways, c)
			if q.box != nil {
				// with everything that may be set up: where that cannot be shared out, nothing can
				s, fits := p.exact(candidate{common: c, ops: ^mask(0)}, q)
				if !fits && !p.binds() {
					continue
				}
				if fits {
					least = min(least, s.score.cents)
					if s.score.less(best.score) {
						best, ok = s, true
					}
				}
			}
			some := p.candidates(c, head, q, least)
			for _, x := range some {
				if q.box == nil {
					least = min(least, x.bound.cents)
				}
			}
			candidates = append(candidates, some...)
			if q.box != nil && p.binds() && len(some) > 0 { // what one of them costs keeps dearer cuts of the face away
				s, fits := p.exact(slices.MinFunc(some, byBound), q)
				if fits && s.score.less(best.score) {
					best, ok, least = s, true, min(least, s.score.cents)
				}
			}
		}
	}
	slices.SortStableFunc(candidates, byBound)
	for n, x := range candidates {
		if !x.bound.less(best.score) {
			break
		}
		if n >= maxAssignments {
			note(&p.missing, "more ways to share out the shims than are tried: a cheaper plan may have been missed")
			break
		}
		if err := ctx.Err(); err != nil {
			return best, false, err
		}
		s, fits := p.exact(x, q)
		if fits && s.score.less(best.score) {
			best, ok = s, true
		}
		if q.box == nil && ok { // without shims to share out the bound is the cost itself
			break
		}
	}
	return best, ok, nil
}

// byBound puts the candidate first that is better at best.
func byBound(a, b candidate) int {
	switch {
	case a.bound.less(b.bound):
		return -1
	case b.bound.less(a.bound):
		return 1
	}
	return 0
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

// question is what every candidate is tried with: each valve's ways and settings.
type question struct {
	ways     [][]way
	settings [][]setting
	pairs    [][]pairing
	box      *box
}

// asked lists what can be done, once.
func (p *problem) asked() question {
	if p.known != nil {
		return *p.known
	}
	n := len(p.valves)
	q := question{ways: make([][]way, n), settings: make([][]setting, n), pairs: make([][]pairing, n), box: p.shimBox()}
	for i, v := range p.valves {
		q.ways[i] = p.possible(v)
		slices.SortStableFunc(q.ways[i], func(a, b way) int { return cmp.Compare(a.cents, b.cents) })
		q.settings[i] = p.shimSettings(v, q.box)
		q.pairs[i] = pairings(q.ways[i], q.settings[i])
	}
	p.known = &q
	return q
}

// possible lists the ways of a valve that some cut of the face and some setting of its lash may suit:
// those whose other figures, which neither moves, can end inside. Most cannot, and are tried no more.
func (p *problem) possible(v *valve) []way {
	open := *v
	for _, i := range []int{after.Recession, after.Lash} {
		open.windows[i], open.targets[i], open.ok[i] = window{}, window{}, true
	}
	return slices.DeleteFunc(p.ways(v), func(w way) bool {
		_, ok := p.fit(&open, &w, &common{}, &setting{})
		return !ok
	})
}

// floor is what the valves cost at least with a face cut: each the cheapest of its ways that fits, whatever
// is done about its lash, or the cheapest of its pairs whose depth and lash can end inside; the largest
// number there is when one of them cannot be put right. Needed is what some valve has in all of its pairs.
func (p *problem) floor(q question, c common) (total int64, needed mask) {
	free := setting{travel: float64(length.Max)}
	for i, v := range p.valves {
		least := int64(math.MaxInt64)
		for k := range q.ways[i] {
			if w := &q.ways[i][k]; w.cents < least {
				if _, ok := p.fit(v, w, &c, &free); ok {
					least = w.cents
				}
			}
		}
		paired, all := int64(math.MaxInt64), ^mask(0)
		for k := range q.pairs[i] {
			if x := &q.pairs[i][k]; p.reaches(v, x.way, &c, &x.setting) {
				paired, all = min(paired, x.cents+p.more(&c, v, x.way, &x.setting)), all&x.ops
			}
		}
		if least == math.MaxInt64 || paired == math.MaxInt64 {
			return math.MaxInt64, 0
		}
		total += max(least, paired)
		needed |= all
	}
	return total, needed
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

// choice is the best that a valve can do with exactly the operations of a set.
type choice struct {
	ops   mask
	score score
}

// pairing is a way to treat a valve with a way to set its lash.
type pairing struct {
	way     *way
	setting setting
	ops     mask
	cents   int64
}

// pairings lists a valve's ways with its settings, cheapest first: what is found early shows
// that most of the rest need not be tried.
func pairings(ways []way, settings []setting) []pairing {
	out := make([]pairing, 0, len(ways)*len(settings))
	for i := range ways {
		for _, s := range settings {
			out = append(out, pairing{&ways[i], s, ways[i].ops | s.ops, ways[i].cents + s.cents})
		}
	}
	slices.SortStableFunc(out, func(a, b pairing) int { return cmp.Compare(a.cents, b.cents) })
	return out
}

// choices are the best of a valve by the operations it takes; none that costs more and takes
// more than another.
func (p *problem) choices(v *valve, pairs []pairing, c common) []choice {
	var out []choice
	for i := range pairs {
		x := &pairs[i]
		cents := x.cents + p.more(&c, v, x.way, &x.setting)
		if slices.ContainsFunc(out, func(o choice) bool { return o.ops&^x.ops == 0 && o.score.cents < cents }) {
			continue // another does with less, and costs less
		}
		f, ok := p.fit(v, x.way, &c, &x.setting)
		if !ok {
			continue
		}
		if i := slices.IndexFunc(out, func(o choice) bool { return o.ops == x.ops }); i < 0 {
			out = append(out, choice{x.ops, f.score})
		} else if f.score.less(out[i].score) {
			out[i].score = f.score
		}
	}
	return slices.DeleteFunc(slices.Clone(out), func(x choice) bool {
		return slices.ContainsFunc(out, func(o choice) bool { return o.ops != x.ops && o.ops&^x.ops == 0 && o.score.less(x.score) })
	})
}

// candidates are the sets of operations worth trying with some common choices, each with its
// bound. What costs more than least at best is passed over.
func (p *problem) candidates(c common, head score, q question, least int64) []candidate {
	windows := p.rowWindows(c, q.ways)
	tables, rest := p.tables(c, windows, q.pairs)
	if tables == nil || head.cents+rest > least {
		return nil
	}
	var with mask
	if p.resets(&c) {
		with = p.setLash
	}
	var out []candidate
	for _, set := range unions(tables, with) {
		total := head
		total.cents += p.setups(set)
		if rest+total.cents > least {
			continue
		}
		cr := c
		cr.rows = map[string]window{}
		for name, rows := range tables {
			best, at := never, -1
			for k, table := range rows {
				if s := sum(table, set); s.less(best) {
					best, at = s, k
				}
			}
			total = total.plus(best)
			if at >= 0 && windows[name][at].low != nil {
				cr.rows[name] = windows[name][at]
			}
		}
		if total != never && total.cents <= least {
			if q.box == nil { // a dearer bound may turn out cheaper once the shims are shared out
				least = total.cents
			}
			out = append(out, candidate{cr, set, total})
		}
	}
	if q.box != nil {
		return out
	}
	return slices.DeleteFunc(out, func(x candidate) bool { return x.bound.cents > least })
}

// count is how many pairs the valves of a row have.
func (p *problem) count(pairs [][]pairing, row string) (n int) {
	for i, v := range p.valves {
		if v.row == row {
			n += len(pairs[i])
		}
	}
	return n
}

// alone are the pairs without those of a row's valves that fit nowhere, wherever the row lies: most of them,
// and they need not be tried in every window.
func (p *problem) alone(pairs [][]pairing, c common, row string) [][]pairing {
	c.rows = nil
	out := slices.Clone(pairs)
	for i, v := range p.valves {
		if v.row != row {
			continue
		}
		out[i] = nil
		for j := range pairs[i] {
			if _, ok := p.fit(v, pairs[i][j].way, &c, &pairs[i][j].setting); ok {
				out[i] = append(out[i], pairs[i][j])
			}
		}
	}
	return out
}

// tables are the valves' choices by row, window and valve, and what they cost at least together,
// setting-up apart; nil when some row cannot be put right. Windows are thinned out where there are so many
// ways that all of them would take long.
func (p *problem) tables(c common, windows map[string][]window, pairs [][]pairing) (map[string][][][]choice, int64) {
	tables, least := map[string][][][]choice{}, int64(0)
	for name, rows := range windows {
		best := int64(math.MaxInt64)
		if len(rows) > 1 {
			pairs = p.alone(pairs, c, name)
			rows = thinned(rows, max(leastWindows, maxFits/max(1, p.count(pairs, name))))
			windows[name] = rows
		}
		for _, row := range rows {
			cr := c
			cr.rows = map[string]window{}
			if row.low != nil {
				cr.rows[name] = row
			}
			var table [][]choice
			for i, v := range p.valves {
				if v.row == name {
					table = append(table, p.choices(v, pairs[i], cr))
				}
			}
			tables[name] = append(tables[name], table)
			best = min(best, cheapest(table))
		}
		if best == math.MaxInt64 {
			return nil, 0
		}
		least += best
	}
	return tables, least
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

// depths are between which cuts of its seat, or settings of an insert, a way may choose.
func (w *way) depths() (least, most length.Length) {
	for _, o := range w.open {
		if o.slopes[after.Recession] > 0 {
			return o.least, o.most
		}
	}
	return 0, 0
}

// Bounds of the places of a row's depths that are tried: of their number, and of how often a way is tried
// in one of them. However many ways there are, some places are tried, further apart.
const (
	maxWindows   = 400
	maxFits      = 8_000
	leastWindows = 12
)

// thinned is at most so many of the windows, evenly: they overlap by far.
func thinned(all []window, most int) []window {
	if len(all) <= most {
		return all
	}
	step := (len(all) + most - 1) / most
	var out []window
	for i := 0; i < len(all); i += step {
		out = append(out, all[i])
	}
	return out
}

// rowWindows are the windows in which a row's final depths may lie, by row: one that does
// not bind where nothing says how far they may lie apart.
func (p *problem) rowWindows(c common, ways [][]way) map[string][]window {
	out := map[string][]window{}
	for _, first := range p.valves {
		name := first.row
		if out[name] != nil {
			continue
		}
		spread := p.spread[name]
		if spread == nil {
			out[name] = []window{{}}
			continue
		}
		var starts []length.Length
		for i, v := range p.valves {
			if v.row != name || !v.now.Figures[after.Recession].Read {
				continue
			}
			for _, w := range ways[i] {
				if !w.Figures[after.Recession].Known {
					continue
				}
				at := length.FromFloat(w.Figures[after.Recession].At) - v.local(c.cut)
				least, most := w.depths()
				for s := least; s <= most && len(starts) < 50*maxWindows; s += grid {
					starts = append(starts, at+s, at+s-*spread)
				}
			}
		}
		slices.Sort(starts)
		starts = slices.Compact(starts)
		for _, low := range starts {
			high := low + *spread
			out[name] = append(out[name], window{&low, &high, nil})
		}
		out[name] = thinned(out[name], maxWindows)
		if len(starts) == 0 {
			out[name] = []window{{}}
		}
	}
	return out
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
		s.valves = p.assign(x.common, x.ops, q.ways, q.box)
	} else {
		for i, v := range p.valves {
			f := p.bestOf(v, q.ways[i], x.common, x.ops, q.settings[i])
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
