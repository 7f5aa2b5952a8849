package plan

import (
	"cmp"
	"maps"
	"math"
	"math/bits"
	"slices"
	"sort"

	"yatai/core/after"
	"yatai/core/length"
)

// spot is a window for a row's depths with what the row costs at least in it: its valves, and what all the
// ways of some of them need set up.
type spot struct {
	window
	cents  int64
	needed mask
}

// spots are the windows of a row, the lowest first and all as wide, in which every valve may fit.
func (p *problem) spots(row string, all []window, q *question, c *common) (out []spot) {
	near, lows, wide := p.nearby(q, c), make([]float64, len(all)), float64(*all[0].high-*all[0].low)
	for k, w := range all {
		lows[k] = float64(*w.low)
		out = append(out, spot{window: w})
	}
	at := cheapestAt(len(all))
	for i, v := range p.valves {
		if v.row != row {
			continue
		}
		at.clear()
		local := float64(v.local(c.cut))
		for _, k := range near[i] {
			x := &q.pairs[i][k]
			from, to := sort.SearchFloat64s(lows, x.from-local-wide-1), sort.SearchFloat64s(lows, x.to-local+2)
			at.add(from, to, atLeast{p.cents(q, c, v, x), x.ops})
		}
		for k, one := range at.each() {
			if s := &out[k]; one.cents == math.MaxInt64 || s.cents == math.MaxInt64 {
				s.cents = math.MaxInt64
			} else {
				s.cents, s.needed = s.cents+one.cents, s.needed|one.needed
			}
		}
	}
	return slices.DeleteFunc(out, func(s spot) bool { return s.cents == math.MaxInt64 })
}

// atLeast is what a valve costs at least somewhere, and what all that it can have there needs set up.
type atLeast struct {
	cents  int64
	needed mask
}

func (a *atLeast) take(b atLeast) { a.cents, a.needed = min(a.cents, b.cents), a.needed&b.needed }

// ranges is what a valve costs at least at each of some windows, from what it costs over ranges of them:
// level k holds it over 2^k windows from each on, so that a range is two of a level, which may overlap.
type ranges [][]atLeast

func cheapestAt(windows int) ranges {
	r := make(ranges, bits.Len(uint(windows)))
	for k := range r {
		r[k] = make([]atLeast, windows)
	}
	return r
}

func (r ranges) clear() {
	for _, level := range r {
		for n := range level {
			level[n] = atLeast{math.MaxInt64, ^mask(0)}
		}
	}
}

// add takes in what is had from window from to before to.
func (r ranges) add(from, to int, a atLeast) {
	if from >= to {
		return
	}
	k := bits.Len(uint(to-from)) - 1
	r[k][from].take(a)
	r[k][to-1<<k].take(a)
}

// each is what the valve costs at least at each window.
func (r ranges) each() []atLeast {
	for k := len(r) - 1; k > 0; k-- {
		half := 1 << (k - 1)
		for n := 0; n+half < len(r[k]); n++ {
			r[k-1][n].take(r[k][n])
			r[k-1][n+half].take(r[k][n])
		}
	}
	return r[0]
}

// likely are the windows of those spots that are tried: none that costs more than most at least, the cheapest
// first, and of those that cost the same some, evenly, where all of them would take long.
func (p *problem) likely(spots []spot, pairs int, most int64) (out []window) {
	same := map[int64][]window{}
	for _, s := range spots {
		if cents := s.cents + p.setups(s.needed); cents <= most {
			same[cents] = append(same[cents], s.window)
		}
	}
	left := max(leastWindows, maxFits/max(1, pairs))
	for _, cents := range slices.Sorted(maps.Keys(same)) {
		if left > 0 {
			some := thinned(same[cents], left)
			out, left = append(out, some...), left-len(some)
		}
	}
	return out
}

// narrowed leaves of the windows of each row those that are tried, for at most so many cents; false
// where a row has none. Rows that nothing keeps together stay as they are.
func (p *problem) narrowed(windows map[string][]window, q *question, c *common, most int64) bool {
	near, spots, least := p.nearby(q, c), map[string][]spot{}, map[string]int64{}
	var total int64
	for row, all := range windows {
		if len(all) == 1 && all[0].low == nil {
			continue
		}
		if len(all) == 0 {
			return false
		}
		spots[row] = p.spots(row, all, q, c)
		if len(spots[row]) == 0 {
			return false
		}
		least[row] = slices.MinFunc(spots[row], func(a, b spot) int { return cmp.Compare(a.cents, b.cents) }).cents
		total += least[row]
	}
	for row := range spots {
		count := 0
		for i, v := range p.valves {
			if v.row == row {
				count += len(near[i])
			}
		}
		windows[row] = p.likely(spots[row], count, most-total+least[row])
	}
	return true
}

// tables are the valves' choices by row, window and valve, and what they cost at least together,
// setting-up apart; nil when some row cannot be put right for at most so many cents.
func (p *problem) tables(
	c common, windows map[string][]window, q *question, most int64,
) (map[string][][][]choice, int64) {
	if !p.narrowed(windows, q, &c, most) {
		return nil, 0
	}
	near := p.nearby(q, &c)
	tables, least := map[string][][][]choice{}, int64(0)
	for name, rows := range windows {
		best := int64(math.MaxInt64)
		for _, row := range rows {
			cr := c
			cr.rows = map[string]window{}
			if row.low != nil {
				cr.rows[name] = row
			}
			var table [][]choice
			for i, v := range p.valves {
				if v.row != name {
					continue
				}
				table = append(table, p.choices(q, v, near[i], cr))
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
	fewWindows   = 200
	maxFits      = 8_000
	leastWindows = 8
)

// windows is how many places of a row's depths are tried: of heads with many ways fewer, further apart.
func (q *question) windows() int {
	pairs := 1
	for i := range q.pairs {
		pairs += len(q.pairs[i])
	}
	return min(maxWindows, max(fewWindows, maxWindows*1000/pairs))
}

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

// rowWindows are the windows in which a row's final depths may lie, by row, the lowest first: one
// that does not bind where nothing says how far they may lie apart, else one from every depth that
// may be the least of them.
func (p *problem) rowWindows(c *common, q *question) map[string][]window {
	at := place{c.cut, c.gasket.change}
	if known, ok := q.rows[at]; ok {
		return known
	}
	out := map[string][]window{}
	q.rows[at] = out
	for _, v := range p.valves {
		if out[v.row] != nil {
			continue
		}
		spread := p.spread[v.row]
		if spread == nil || !slices.ContainsFunc(p.valves, func(o *valve) bool {
			return o.row == v.row && o.now.Figures[after.Recession].Read
		}) {
			out[v.row] = []window{{}}
			continue
		}
		windows := []window{}
		for _, low := range p.lowest(v.row, *spread, q, c) {
			high := low + *spread
			windows = append(windows, window{&low, &high, nil})
		}
		out[v.row] = thinned(windows, q.windows())
	}
	return out
}

// lowest are the depths of a row's valves that may be the least of all, so that no other lies more
// than spread above it, in order.
func (p *problem) lowest(row string, spread length.Length, q *question, c *common) (out []length.Length) {
	near := p.nearby(q, c)
	low, high := math.Inf(-1), math.Inf(1)
	for i, v := range p.valves {
		if v.row != row {
			continue
		}
		from, to, local := math.Inf(1), math.Inf(-1), float64(v.local(c.cut))
		for _, k := range near[i] {
			x := &q.pairs[i][k]
			from, to = min(from, x.from-local), max(to, x.to-local)
		}
		low, high = max(low, from-float64(spread)), min(high, to)
	}
	if math.IsInf(high, 0) { // some valve cannot be put right
		return nil
	}
	var runs []run
	for i, v := range p.valves {
		if v.row != row {
			continue
		}
		local := v.local(c.cut)
		for _, r := range q.reaches[i] {
			r.from, r.to = r.from-local, r.to-local
			if d := low - 1 - float64(r.from); d > 0 && !math.IsInf(d, 0) {
				r.from += ceil(length.FromFloat(d), grid)
			}
			if float64(r.to) > high+1 {
				r.to = r.from + floor(length.FromFloat(high+1)-r.from, grid)
			}
			runs = append(runs, r)
		}
	}
	for _, r := range joined(runs) {
		for at := r.from; at <= r.to; at += grid {
			out = append(out, at)
		}
	}
	slices.Sort(out)
	return out
}

// run is depths, every grid from the first to the last.
type run struct{ from, to length.Length }

// phase is where the depths of a run lie between two multiples of the grid.
func (r run) phase() length.Length { return ((r.from % grid) + grid) % grid }

// joined are the same depths in as few runs, which share none.
func joined(runs []run) (out []run) {
	runs = slices.DeleteFunc(runs, func(r run) bool { return r.to < r.from })
	slices.SortFunc(runs, func(a, b run) int {
		return cmp.Or(cmp.Compare(a.phase(), b.phase()), cmp.Compare(a.from, b.from))
	})
	for _, r := range runs {
		if n := len(out) - 1; n >= 0 && out[n].phase() == r.phase() && r.from <= out[n].to+grid {
			out[n].to = max(out[n].to, r.to)
		} else {
			out = append(out, r)
		}
	}
	return out
}

// reaches are the depths that the ways of a valve that was read can come to, the face uncut.
func (v *valve) reaches(ways []way) (out []run) {
	if !v.now.Figures[after.Recession].Read {
		return nil
	}
	for k := range ways {
		if f := &ways[k].Figures[after.Recession]; f.Known {
			at := length.FromFloat(f.At)
			least, most := ways[k].depths()
			out = append(out, run{at + least, at + most})
		}
	}
	return joined(out)
}
