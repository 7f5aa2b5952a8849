package plan

import (
	"math"

	"yatai/core/length"
)

// sure is how many standard deviations from a limit count: beyond, one in thirty thousand
// ends outside, and metal is worth more.
const sure = 4.0

// score orders ways to treat valves: cents first, then the smallest distance to a limit in
// standard deviations, then metal, then how far a lash that is set lies off its middle.
type score struct {
	cents int64
	z     float64
	metal length.Length
	off   length.Length
}

var never = score{cents: math.MaxInt64}

func (s score) less(o score) bool {
	switch {
	case s.cents != o.cents:
		return s.cents < o.cents
	case math.Abs(s.z-o.z) > 1e-9:
		return s.z > o.z
	case s.metal != o.metal:
		return s.metal < o.metal
	}
	return s.off < o.off
}

// plus adds the score of another valve.
func (s score) plus(o score) score {
	if s.cents == math.MaxInt64 || o.cents == math.MaxInt64 {
		return never
	}
	return score{s.cents + o.cents, min(s.z, o.z), s.metal + o.metal, s.off + o.off}
}

// needless weighs work on a valve that nothing but its lash asks for: it comes after
// everything else that can be done about the lash, whatever that costs.
const needless = int64(1) << 36

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

// head-wide choices: a face cut and a gasket.
type common struct {
	cut     length.Length
	gasket  gasket
	minZ    float64           // every figure keeps that far from its limits
	rows    map[string]window // by row: where final recessions must lie
	extra   []int64           // by valve: what work costs more that nothing but its lash asks for
	targets bool              // shop targets bind what is worked on
}

// more is what a way costs more where nothing but the lash asks for work.
func (c common) more(v *valve, w *way) int64 {
	if w.keep || v.index >= len(c.extra) {
		return 0
	}
	return c.extra[v.index]
}

// fitted is a way with its open sizes chosen.
type fitted struct {
	way     *way
	s, t    length.Length
	setting setting
	score   score
}

// line is a figure's distance to one of its limits against the seat's cut, in standard
// deviations: (at + s)/sd when it grows with s, (at - s)/sd when it falls.
type line struct {
	at, sd float64
	up     bool
}

func (l line) z(s float64) float64 {
	if l.up {
		return (l.at + s) / l.sd
	}
	return (l.at - s) / l.sd
}

// fit chooses the seat's cut and the tip's grind of a way so that every figure ends inside
// its window and the smallest distance to a limit is as large as it gets. ok is false when
// nothing fits.
func (p *problem) fit(v *valve, w *way, c *common, set *setting) (fitted, bool) {
	if !w.tip {
		return p.fitTip(v, w, c, set, 0)
	}
	best := fitted{way: w, setting: *set, score: never}
	from, to := p.tipRange(v, w, c, set)
	for t := from; t <= to; t += grid {
		if f, ok := p.fitTip(v, w, c, set, t); ok && f.score.less(best.score) {
			best = f
			if best.score.z >= sure {
				break // more off the tip is only more metal
			}
		}
	}
	return best, best.score != never
}

// tipRange is how much may come off the tip for the stem's height and the lash to end inside
// with any cut of the seat: outside it nothing need be tried.
func (p *problem) tipRange(v *valve, w *way, c *common, set *setting) (from, to length.Length) {
	lo, hi := float64(grid), float64(v.tipMost)
	seatLow, seatHigh := float64(w.sMin), float64(w.sMax)
	if w.have[stemHeight] {
		win, at := v.windows[stemHeight], w.base[stemHeight]
		if win.high != nil {
			lo = max(lo, at+seatLow-float64(*win.high))
		}
		if win.low != nil {
			hi = min(hi, at+seatHigh-float64(*win.low))
		}
	}
	if w.have[lash] {
		win, at := v.windows[lash], w.base[lash]+p.lashMove(c, set)
		if win.low != nil {
			lo = max(lo, float64(*win.low)-set.travel-at+seatLow)
		}
		if win.high != nil {
			hi = min(hi, float64(*win.high)+set.travel-at+seatHigh)
		}
	}
	return ceil(length.FromFloat(lo), grid), floor(length.FromFloat(hi), grid)
}

// lashMove is what the head's choices and a setting add to a valve's lash.
func (p *problem) lashMove(c *common, set *setting) float64 {
	if !p.h.Model.Kind.Pushrods() {
		return set.add
	}
	return set.add + p.ratio*float64(c.gasket.change-c.cut)
}

// fitTip is fit with the tip's grind given.
func (p *problem) fitTip(v *valve, w *way, c *common, set *setting, t length.Length) (fitted, bool) {
	room := room{lo: float64(w.sMin), hi: float64(w.sMax), fixed: sure}
	still := w.sMin == 0 && w.sMax == 0 // the seat stays where it is
	off := length.Length(0)
	for i := range w.base {
		if !w.have[i] {
			continue
		}
		m := move{at: w.base[i], sd: w.sd[i], changed: w.changed[i], win: v.windows[i]}
		p.move(&m, v, c, set, t, i, still)
		if i == lash {
			off = m.off
			if set.travel > 0 { // what the adjuster can put right is not out
				m.changed, m.win = true, m.win.wider(length.FromFloat(set.travel))
			}
		}
		if !m.changed {
			if !v.now[i].ok {
				return fitted{}, false
			}
			if d, any := distance(m.at, m.win); any {
				room.fixed = min(room.fixed, d/max(1, m.sd))
			}
			continue
		}
		if c.targets {
			m.win = m.win.with(v.targets[i])
		}
		if !room.keep(&m, c.minZ) {
			return fitted{}, false
		}
	}
	s, z, ok := place(room.lines[:room.n], room.lo, room.hi, w.seat == doInsert)
	if !ok {
		return fitted{}, false
	}
	if w.solidAt(v, s) {
		return fitted{}, false
	}
	out := fitted{way: w, s: s, t: t, setting: *set}
	out.score = score{cents: w.cents + set.cents, z: min(room.fixed, z, sure), metal: t, off: off}
	out.score.cents += c.more(v, w)
	if w.seat == doCut {
		out.score.metal += s
	}
	return out, true
}

// move is what becomes of one of a valve's figures before the seat's cut is chosen: it lies at at,
// with standard deviation sd, and goes by slope for what is cut off the seat.
type move struct {
	at, sd  float64
	slope   int
	changed bool          // it is not as it was read any more
	win     window        // where it must end
	off     length.Length // of a lash: how far from the middle it must stay
}

// move adds to figure i what the head's choices, the lash's setting and a ground tip do to it.
func (p *problem) move(m *move, v *valve, c *common, set *setting, t length.Length, i int, still bool) {
	switch i {
	case recession:
		local := float64(v.local(c.cut))
		m.at, m.slope = m.at-local, 1
		if local > 0 {
			m.changed, m.sd = true, math.Hypot(m.sd, p.scatter.face)
		}
		if row, ok := c.rows[v.row]; ok {
			m.win = m.win.with(row)
			if !inside(m.at, m.win, still) {
				m.changed = true
			}
		}
	case stemHeight:
		m.at, m.slope = m.at-float64(t), 1
	case springHeight:
		m.slope = 1
	case lash:
		add := p.lashMove(c, set)
		m.at, m.slope = m.at+float64(t)+add, -1
		if add != 0 {
			m.changed, m.sd = true, math.Hypot(m.sd, p.ratio*p.scatter.face)
		}
		if m.win.low != nil && m.win.high != nil && (m.changed || set.ops != 0) {
			m.off = max(0, length.FromFloat(math.Abs(m.at-float64(*m.win.low+*m.win.high)/2)-set.travel))
		}
	}
	if still {
		m.slope = 0
	} else if m.slope != 0 {
		m.changed = true
	}
}

// room is what a valve's figures leave for the seat's cut: from lo to hi, the lines it has to keep
// below, and how sure the figures are that do not hang on it.
type room struct {
	lines  [2 * figures]line
	n      int
	lo, hi float64
	fixed  float64
}

// keep takes a figure's limits into the room, kept minZ standard deviations away from; false when
// nothing is left.
func (r *room) keep(m *move, minZ float64) bool {
	sd := max(1, m.sd)
	for k, limit := range [2]*length.Length{m.win.low, m.win.high} {
		if limit == nil {
			continue
		}
		up := k == 0
		gap := m.at - float64(*limit)
		if !up {
			gap = -gap
		}
		gap0 := gap - minZ*sd
		switch {
		case m.slope == 0:
			if gap0 < 0 {
				return false
			}
			r.fixed = min(r.fixed, gap/sd)
		case (m.slope > 0) == up: // grows with the cut: it must be at least -gap
			r.lo = max(r.lo, -gap0)
			r.lines[r.n], r.n = line{gap, sd, true}, r.n+1
		default:
			r.hi = min(r.hi, gap0)
			r.lines[r.n], r.n = line{gap, sd, false}, r.n+1
		}
	}
	return true
}

// solidAt tells whether the spring's coils would close at full lift, or its load leave its
// limits.
func (w *way) solidAt(v *valve, s length.Length) bool {
	if !w.have[springHeight] || !w.changed[springHeight] && s == 0 {
		return false
	}
	height := w.base[springHeight] + float64(s)
	if v.lift > 0 && v.solid > 0 && height-float64(v.lift) <= float64(v.solid) {
		return true
	}
	if l := v.loads; l != nil {
		load := l.seat - l.rate*(height-float64(v.now[springHeight].at))/1e6
		if l.limit.Low != nil && load < l.limit.Low.Float() || l.limit.High != nil && load > l.limit.High.Float() {
			return true
		}
	}
	return false
}

// place chooses a seat's cut on the grid between lo and hi: where the smallest distance is
// largest; beyond what is sure the shallowest that is sure; an insert, which costs no metal,
// in the middle.
func place(lines []line, lo, hi float64, middle bool) (length.Length, float64, bool) {
	first, last := ceil(length.Length(math.Ceil(lo)), grid), floor(length.Length(math.Floor(hi)), grid)
	if first > last {
		return 0, 0, false
	}
	level := sure
	if middle {
		level = math.Inf(1)
	}
	for _, a := range lines { // where a rising and a falling line meet
		for _, b := range lines {
			if a.up && !b.up {
				level = min(level, (a.at+b.at)/(a.sd+b.sd))
			}
		}
	}
	from, to := float64(first), float64(last)
	if !math.IsInf(level, 1) {
		for _, l := range lines {
			if l.up {
				from = max(from, level*l.sd-l.at)
			} else {
				to = min(to, l.at-level*l.sd)
			}
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
		for _, l := range lines {
			z = min(z, l.z(float64(s)))
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

// inside tells whether a value that stays lies inside a window.
func inside(at float64, w window, still bool) bool {
	d, any := distance(at, w)
	return !still || !any || d >= 0
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
