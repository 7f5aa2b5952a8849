package plan

import (
	"cmp"
	"math"
	"sort"

	"yatai/core/after"
	"yatai/core/length"
)

// sure is how many standard deviations from a limit count: beyond, one in thirty thousand
// ends outside, and metal is worth more.
const sure = 4.0

// enough is how many standard deviations from a limit are enough where more would have a part
// ordered: 98 of a hundred end inside.
const enough = 2.0

// score orders ways to treat valves: cents first, then the smallest distance to a limit in standard
// deviations, as far as it is short of enough, then the parts that are there before those that are
// ordered, then the rest of the distance, then metal, then how far a lash that is set lies off its middle.
type score struct {
	cents  int64
	z      float64
	orders int
	metal  length.Length
	off    length.Length
}

var never = score{cents: math.MaxInt64}

func (s score) less(o score) bool { return s.compare(o) < 0 }

// compare is negative where s is better than o.
func (s score) compare(o score) int {
	return cmp.Or(
		cmp.Compare(s.cents, o.cents), further(min(s.z, enough), min(o.z, enough)),
		cmp.Compare(s.orders, o.orders), further(s.z, o.z), cmp.Compare(s.metal, o.metal),
		cmp.Compare(s.off, o.off),
	)
}

// further is negative where a distance is larger than another, by more than what reckoning leaves.
func further(a, b float64) int {
	if math.Abs(a-b) > 1e-9 {
		return cmp.Compare(b, a)
	}
	return 0
}

// plus adds the score of another valve.
func (s score) plus(o score) score {
	if s.cents == math.MaxInt64 || o.cents == math.MaxInt64 {
		return never
	}
	return score{s.cents + o.cents, min(s.z, o.z), s.orders + o.orders, s.metal + o.metal, s.off + o.off}
}

// needless weighs work that goes against the one preference there is: shims before metal, on a valve that
// nothing but its lash asks for. It comes after everything else, whatever that costs.
const needless = int64(1) << 30

// setting is a way to set a valve's lash: what it adds to it, and how far either way it can
// be set besides.
type setting struct {
	add    float64
	travel float64
	ops    mask
	cents  int64
	size   length.Length // shim or pushrod
	from   string        // kept, moved, stock, order, adjuster; "" when nothing is known
}

// orders is how many parts a setting orders.
func (s *setting) orders() int {
	if s.from == Order {
		return 1
	}
	return 0
}

// head-wide choices: a face cut and a gasket.
type common struct {
	cut     length.Length
	gasket  gasket
	minZ    float64           // every figure keeps that far from its limits
	rows    map[string]window // by row: where final recessions must lie
	extra   []int64           // by valve: what work costs more that nothing but its lash asks for
	targets bool              // shop targets bind what is worked on
}

// together is what a way and a setting cost: the lash is set once, whatever moved it.
func (p *problem) together(w *way, set *setting) int64 {
	cents := w.cents + set.cents
	if w.ops&set.ops&p.setLash != 0 {
		cents -= p.costs.eachLash
	}
	return cents
}

// more is what a way that takes some operations with its setting costs more with the head's choices: where
// nothing but the lash asks for work, and where the face's cut has the lash set again.
func (p *problem) more(c *common, v *valve, w *way, ops mask) int64 {
	var cents int64
	if !w.keep && v.index < len(c.extra) {
		cents = c.extra[v.index]
	}
	if ops&p.setLash == 0 && p.resets(c) {
		cents += p.costs.eachLash
	}
	return cents
}

// resets tells whether the head's choices have every valve's lash set again.
func (p *problem) resets(c *common) bool {
	return p.setLash != 0 && c.cut > 0 && p.h.Model.Kind.Pushrods()
}

// fitted is a way with its open sizes chosen.
type fitted struct {
	way     *way
	sizes   [maxOpen]length.Length // of the way's open ones
	setting setting
	score   score
}

// move is a figure on the way to its place: where it lies with all open sizes at nothing, how it goes
// with each, and where it must end.
type move struct {
	figure  int // see after.Count
	at, sd  float64
	slopes  [maxOpen]float64
	changed bool
	low     float64 // its limits, -Inf where open
	high    float64
	least   float64 // where it must end: inside its limits by so many standard deviations as are asked for, a
	most    float64 // depth also where its row's are kept together, which is no limit to keep a distance from
}

// maxOpen bounds the open sizes of a way: of each metal that has any one, a shop's own repairs among them.
const maxOpen = 4

// fit chooses the open sizes of a way so that every figure ends inside its window and the smallest
// distance to a limit is as large as it gets. ok is false when nothing fits.
func (p *problem) fit(v *valve, w *way, c *common, set *setting) (fitted, bool) {
	if !p.reaches(v, w, c, set) {
		return fitted{}, false
	}
	figures, fixed, off, ok := p.bound(v, w, c, set)
	if !ok {
		return fitted{}, false
	}
	out := fitted{
		way: w, setting: *set,
		score: score{
			cents:  p.together(w, set) + p.more(c, v, w, w.ops|set.ops),
			z:      fixed,
			orders: set.orders(),
			off:    off,
		},
	}
	if !p.place(w, figures, len(w.open)-1, &out) {
		return fitted{}, false
	}
	return out, true
}

// bound lists the figures that a way moves and where they must end, in the first scratch. Fixed is how near
// those that stay come to their limits, in standard deviations; ok is false when one of these is out.
func (p *problem) bound(
	v *valve, w *way, c *common, set *setting,
) (figures []move, fixed float64, off length.Length, ok bool) {
	all := &p.scratch[0]
	fixed = sure
	n := 0
	for i := range w.Figures {
		f := &w.Figures[i]
		if f.Made {
			continue
		}
		if !f.Known {
			if !f.Changed && !v.ok[i] {
				return nil, 0, 0, false
			}
			continue
		}
		m := move{figure: i, at: f.At, sd: w.sd[i], changed: f.Changed}
		for k := range w.open {
			m.slopes[k] = w.open[k].slopes[i]
		}
		win := v.windows[i]
		off += p.common(&m, &win, v, w, c, set, i)
		if !m.changed {
			if !v.ok[i] {
				return nil, 0, 0, false
			}
			if d, any := distance(m.at, win); any {
				fixed = min(fixed, d/max(1, m.sd))
			}
			continue
		}
		if c.targets {
			win = win.with(v.targets[i])
		}
		if i == after.Clearance && win.low != nil {
			x := *win.low + length.FromFloat(w.Apart)
			win.low = &x
		}
		if i == after.SpringHeight && v.closed > 0 {
			win = win.with(window{low: &v.closed})
		}
		m.low, m.high = math.Inf(-1), math.Inf(1)
		if win.low != nil {
			m.low = float64(*win.low)
		}
		if win.high != nil {
			m.high = float64(*win.high)
		}
		apart := c.minZ * max(1, m.sd)
		m.least, m.most = m.low+apart, m.high-apart
		if row := c.rows[v.row]; i == after.Recession && row.low != nil {
			m.least, m.most = max(m.least, float64(*row.low)), min(m.most, float64(*row.high))
		}
		if math.IsInf(m.least, -1) && math.IsInf(m.most, 1) {
			continue
		}
		all[n], n = m, n+1
	}
	return all[:n], fixed, off, true
}

// span is between which the first n open sizes, all but one, may bring a figure.
func (m *move) span(w *way, but, n int) (least, most float64) {
	least, most = m.at, m.at
	for k := range n {
		if k != but {
			x, y := m.slopes[k]*float64(w.open[k].least), m.slopes[k]*float64(w.open[k].most)
			least, most = least+min(x, y), most+max(x, y)
		}
	}
	return least, most
}

// reaches tells whether the depth of a way's seat and its lash can end inside their windows with the
// head's choices and a setting, whatever its open sizes are: most ways cannot, and this finds it first.
func (p *problem) reaches(v *valve, w *way, c *common, set *setting) bool {
	local, add := float64(v.local(c.cut)), p.lashMove(c, set)
	return w.within(after.Recession, v.windows[after.Recession].with(c.rows[v.row]), -local, 0) &&
		w.within(after.Lash, v.windows[after.Lash], add, set.travel)
}

// within tells whether a figure, moved by so much besides, can end inside a window or so far beside it.
func (w *way) within(i int, win window, by, beside float64) bool {
	f := &w.Figures[i]
	if !f.Known || f.Made || !f.Changed && by == 0 && beside == 0 {
		return true
	}
	return !(win.low != nil && w.spans[i].most+by+beside < float64(*win.low) ||
		win.high != nil && w.spans[i].least+by-beside > float64(*win.high))
}

// common adds to a figure what the head's choices and the lash's setting do to it, and returns how
// far a lash that is set lies off its middle.
func (p *problem) common(
	m *move, win *window, v *valve, w *way, c *common, set *setting, i int,
) (off length.Length) {
	switch i {
	case after.Recession:
		local := float64(v.local(c.cut))
		m.at -= local
		if local > 0 {
			m.changed, m.sd = true, math.Hypot(m.sd, p.scatter[after.Face])
		}
		// a way with other depths is needed, or this one's cut
		if d, any := distance(m.at, c.rows[v.row]); any && d < 0 {
			m.changed = true
		}
	case after.Piston:
		local := float64(v.local(c.cut))
		m.at += float64(c.gasket.change) - local
		m.changed = m.changed || local > 0 || c.gasket.change != 0
		if local > 0 {
			m.sd = math.Hypot(m.sd, p.scatter[after.Face])
		}
	case after.Lash:
		add := p.lashMove(c, set)
		if m.at += add; add != 0 {
			m.changed, m.sd = true, math.Hypot(m.sd, p.ratio*p.scatter[after.Face])
		}
		if set.travel > 0 { // what the adjuster can put right is not out
			m.changed = true
		}
		if win.low != nil && win.high != nil && (m.changed || set.ops != 0) {
			off = max(0, length.FromFloat(math.Abs(m.at-float64(*win.low+*win.high)/2)-set.travel))
		}
		if set.travel > 0 {
			*win = win.wider(length.FromFloat(set.travel))
		}
	}
	return off
}

// lashMove is what the head's choices and a setting add to a valve's lash.
func (p *problem) lashMove(c *common, set *setting) float64 {
	if !p.h.Model.Kind.Pushrods() {
		return set.add
	}
	return set.add + p.ratio*float64(c.gasket.change-c.cut)
}

// place chooses the open sizes of a way, the first of them by where the smallest distance is largest,
// the others by search. out takes the best; false when nothing fits.
func (p *problem) place(w *way, figures []move, k int, out *fitted) bool {
	if k > 0 {
		return p.search(w, figures, k, out)
	}
	r := room{lo: math.Inf(-1), hi: math.Inf(1), fixed: out.score.z}
	middle, metal := false, false
	if k == 0 {
		size := w.open[0].repair.Does.Size
		r.lo, r.hi = float64(w.open[0].least), float64(w.open[0].most)
		middle, metal = !size.Metal, size.Metal
	}
	for i := range figures {
		if !r.keep(&figures[i]) {
			return false
		}
	}
	if k < 0 {
		out.score.z = min(r.fixed, sure)
		return true
	}
	s, z, ok := choose(r.lines[:r.n], r.lo, r.hi, middle)
	if !ok {
		return false
	}
	out.sizes[0] = s
	out.score.z = min(r.fixed, z, sure)
	if metal {
		out.score.metal += s
	}
	return true
}

// stride is how many multiples of the grid are passed over before the best of the rest is looked for.
const stride = 8

// search tries the multiples of the grid that an open size can be. The smallest distance is concave in it, so
// that the best lies beside the best of every eighth; where none of these fits, all are tried.
func (p *problem) search(w *way, figures []move, k int, out *fitted) bool {
	from, to := reachOf(w, figures, k, k)
	if k == 1 {
		meets := false
		if from, to, meets = roomy(w, figures, 1, from, to); !meets {
			return false
		}
	}
	best, at, found := *out, from, false
	try := func(s length.Length) {
		next := &p.tried[k]
		*next = *out
		moved := &p.scratch[k]
		for i := range figures {
			moved[i] = figures[i]
			moved[i].at += figures[i].slopes[k] * float64(s)
		}
		next.sizes[k] = s
		if w.open[k].repair.Does.Size.Metal {
			next.score.metal += s
		}
		if p.place(w, moved[:len(figures)], k-1, next) && (!found || next.score.less(best.score)) {
			best, at, found = *next, s, true
		}
	}
	sweep := func(first, last, step length.Length) {
		// more is only more metal
		for s := first; s <= last && !(found && s > at && best.score.z >= sure); s += step {
			try(s)
		}
	}
	if to-from > 2*stride*grid {
		if sweep(from, to, stride*grid); found {
			sweep(max(from, at-(stride-1)*grid), min(to, at+(stride-1)*grid), grid)
			*out = best
			return true
		}
	}
	sweep(from, to, grid)
	*out = best
	return found
}

// roomy is between which values from from to to of one of two open sizes the other has any room
// left; ok is false where there are none. By how much it has none is convex, so that its least, and
// where it ends, are found by halving.
func roomy(w *way, figures []move, of int, from, to length.Length) (first, last length.Length, ok bool) {
	first, last = from, to
	for {
		if from > to {
			return 0, 0, false
		}
		mid := from + floor((to-from)/2, grid)
		here := short(w, figures, of, mid)
		if here <= 0 {
			from, to = mid, mid
			break
		}
		if mid == to || short(w, figures, of, mid+grid) > here {
			to = mid - grid
		} else {
			from = mid + grid
		}
	}
	below := sort.Search(int((from-first)/grid),
		func(n int) bool { return short(w, figures, of, from-length.Length(n+1)*grid) > 0 })
	above := sort.Search(int((last-to)/grid),
		func(n int) bool { return short(w, figures, of, to+length.Length(n+1)*grid) > 0 })
	return from - length.Length(below)*grid, to + length.Length(above)*grid, true
}

// short is by how much the figures leave one of two open sizes no room, in nanometres, with some
// value of the other; nothing or less where they leave some.
func short(w *way, figures []move, of int, value length.Length) float64 {
	other := 1 - of
	lo, hi, by := float64(w.open[other].least), float64(w.open[other].most), 0.0
	for i := range figures {
		m := &figures[i]
		at, slope := m.at+m.slopes[of]*float64(value), m.slopes[other]
		switch {
		case slope > 0:
			lo, hi = max(lo, (m.least-at)/slope), min(hi, (m.most-at)/slope)
		case slope < 0:
			lo, hi = max(lo, (m.most-at)/slope), min(hi, (m.least-at)/slope)
		default:
			by = max(by, m.least-at, at-m.most)
		}
	}
	return max(by, lo-hi-1) // a nanometre is no matter of the sizes
}

// reachOf is between which multiples of the grid an open size may lie for every figure to end inside
// with some of the first n sizes, which are open too: outside it nothing need be tried.
func reachOf(w *way, figures []move, k, n int) (from, to length.Length) {
	lo, hi := float64(w.open[k].least), float64(w.open[k].most)
	for i := range figures {
		m := &figures[i]
		if m.slopes[k] == 0 {
			continue
		}
		least, most := m.span(w, k, n)
		x, y := (m.least-most)/m.slopes[k], (m.most-least)/m.slopes[k]
		lo, hi = max(lo, min(x, y)), min(hi, max(x, y))
	}
	if lo > hi {
		return 1, 0
	}
	return ceil(length.Length(math.Ceil(lo)), grid), floor(length.Length(math.Floor(hi)), grid)
}

// line is a figure's distance to one of its limits against a size, in standard deviations:
// (at + slope s)/sd.
type line struct{ at, slope, sd float64 }

func (l *line) z(s float64) float64 { return (l.at + l.slope*s) / l.sd }

// room is what a valve's figures leave for a size: from lo to hi, the lines it has to keep
// below, and how sure the figures are that do not hang on it.
type room struct {
	lines  [2 * after.Count]line
	n      int
	lo, hi float64
	fixed  float64
}

// keep takes a figure's limits into the room; false when nothing is left.
func (r *room) keep(m *move) bool {
	sd := max(1, m.sd)
	for _, side := range [2]struct{ sign, limit, end float64 }{{1, m.low, m.least}, {-1, m.high, m.most}} {
		slope, left := side.sign*m.slopes[0], side.sign*(m.at-side.end)
		switch {
		case slope == 0 && left < 0:
			return false
		case slope > 0:
			r.lo = max(r.lo, -left/slope)
		case slope < 0:
			r.hi = min(r.hi, -left/slope)
		}
		if math.IsInf(side.limit, 0) {
			continue
		}
		l := line{side.sign * (m.at - side.limit), slope, sd}
		if slope == 0 {
			r.fixed = min(r.fixed, l.at/sd)
			continue
		}
		r.lines[r.n], r.n = l, r.n+1
	}
	return true
}

// choose picks a size on the grid between lo and hi: where the smallest distance is largest; beyond
// what is sure the least that is sure; of what costs no metal, in the middle.
func choose(lines []line, lo, hi float64, middle bool) (length.Length, float64, bool) {
	first, last := ceil(length.Length(math.Ceil(lo-1e-6)), grid), floor(length.Length(math.Floor(hi+1e-6)), grid)
	if first > last {
		return 0, 0, false
	}
	level := sure
	if middle {
		level = math.Inf(1)
	}
	for _, a := range lines { // where a rising and a falling line meet
		for _, b := range lines {
			if a.slope > 0 && b.slope < 0 {
				s := (b.at/b.sd - a.at/a.sd) / (a.slope/a.sd - b.slope/b.sd)
				level = min(level, a.z(s))
			}
		}
	}
	if math.IsInf(level, 1) { // no two limits face each other
		level = sure
	}
	from, to := float64(first), float64(last)
	for _, l := range lines {
		if l.slope > 0 {
			from = max(from, (level*l.sd-l.at)/l.slope)
		} else {
			to = min(to, (level*l.sd-l.at)/l.slope)
		}
	}
	at := from
	if middle {
		at = (from + to) / 2
	}
	best, bestZ := length.Length(0), math.Inf(-1)
	for _, s := range []length.Length{ceil(length.FromFloat(at), grid), floor(length.FromFloat(at), grid)} {
		s = min(max(s, first), last)
		z := sure
		for i := range lines {
			z = min(z, lines[i].z(float64(s)))
		}
		if z > bestZ+1e-9 {
			best, bestZ = s, z
		}
	}
	return best, bestZ, true
}

// distance is how far a value lies inside a window; any is false when it has no ends.
func distance(at float64, w window) (d float64, any bool) {
	d = math.Inf(1)
	if w.low != nil {
		d, any = min(d, at-float64(*w.low)), true
	}
	if w.high != nil {
		d, any = min(d, float64(*w.high)-at), true
	}
	return d, any
}

// with is the window that lies in both.
func (w window) with(o window) window {
	if o.low != nil && (w.low == nil || *o.low > *w.low) {
		w.low = o.low
	}
	if o.high != nil && (w.high == nil || *o.high < *w.high) {
		w.high = o.high
	}
	return w
}

// wider is the window with both ends moved outwards.
func (w window) wider(by length.Length) window {
	move := func(l *length.Length, d length.Length) *length.Length {
		if l == nil {
			return nil
		}
		x := *l + d
		return &x
	}
	return window{move(w.low, -by), move(w.high, by), w.limit}
}
