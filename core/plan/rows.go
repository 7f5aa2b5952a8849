package plan

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"yatai/core/after"
	"yatai/core/length"
)

// deep is a valve's pair with the depths of its seat between which it may fit.
type deep struct {
	pair     int32
	from, to float64
}

// in tells whether it may fit with its depth in a window.
func (d *deep) in(w window) bool {
	return w.low == nil || d.to >= float64(*w.low)-1 && d.from <= float64(*w.high)+1
}

// inside are the pairs that may fit in a window.
func inside(pairs []deep, w window) (out []int32) {
	for k := range pairs {
		if pairs[k].in(w) {
			out = append(out, pairs[k].pair)
		}
	}
	return out
}

// deeps are, by valve, the pairs of a row that may fit somewhere with a head's choices, the cheapest first.
func (p *problem) deeps(row string, q question, c *common) [][]deep {
	near := p.nearby(q, c)
	out := make([][]deep, len(p.valves))
	for i, v := range p.valves {
		if v.row != row {
			continue
		}
		for _, k := range near[i] {
			x := &q.pairs[i][k]
			if from, to, ok := p.depths(v, x.way, c, &x.setting); ok {
				out[i] = append(out[i], deep{k, from, to})
			}
		}
	}
	return out
}

// spot is a window for a row's depths with what the row costs at least in it: its valves, and what all the
// ways of some of them need set up.
type spot struct {
	window
	cents  int64
	needed mask
}

// spots are the windows of a row in which every valve may fit.
func (p *problem) spots(row string, all []window, pairs [][]deep, q question, c *common) (out []spot) {
	for _, w := range all {
		s := spot{window: w}
		for i, v := range p.valves {
			if v.row != row {
				continue
			}
			least, with := int64(math.MaxInt64), ^mask(0)
			for k := range pairs[i] {
				if d := &pairs[i][k]; d.in(w) {
					x := &q.pairs[i][d.pair]
					least, with = min(least, x.cents+p.more(c, v, x.way, &x.setting)), with&x.ops
				}
			}
			if least == math.MaxInt64 {
				s.cents = least
				break
			}
			s.cents, s.needed = s.cents+least, s.needed|with
		}
		if s.cents < math.MaxInt64 {
			out = append(out, s)
		}
	}
	return out
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

// narrowed leaves of the windows of each row those that are tried, for at most so many cents; pairs are the
// ways there may be in them, by row and valve. Rows that have one window alone stay as they are.
func (p *problem) narrowed(windows map[string][]window, q question, c *common, most int64) map[string][][]deep {
	pairs, spots, least := map[string][][]deep{}, map[string][]spot{}, map[string]int64{}
	var total int64
	for row, all := range windows {
		if len(all) == 1 {
			continue
		}
		pairs[row] = p.deeps(row, q, c)
		spots[row] = p.spots(row, all, pairs[row], q, c)
		if len(spots[row]) == 0 {
			return nil
		}
		least[row] = slices.MinFunc(spots[row], func(a, b spot) int { return cmp.Compare(a.cents, b.cents) }).cents
		total += least[row]
	}
	for row := range pairs {
		count := 0
		for _, some := range pairs[row] {
			count += len(some)
		}
		windows[row] = p.likely(spots[row], count, most-total+least[row])
	}
	return pairs
}

// tables are the valves' choices by row, window and valve, and what they cost at least together,
// setting-up apart; nil when some row cannot be put right for at most so many cents.
func (p *problem) tables(c common, windows map[string][]window, q question, most int64) (map[string][][][]choice, int64) {
	near := p.nearby(q, &c)
	pairs := p.narrowed(windows, q, &c, most)
	if pairs == nil {
		return nil, 0
	}
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
				some := near[i]
				if pairs[name] != nil {
					some = inside(pairs[name][i], row)
				}
				table = append(table, p.choices(v, q.pairs[i], some, cr))
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
