package plan

import (
	"math"
	"slices"

	"yatai/core/after"
	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/match"
	"yatai/core/price"
	"yatai/core/trade"
	"yatai/core/words"
)

// Where a lash shim or a pushrod comes from.
const (
	Kept     = "kept"
	Moved    = "moved" // from another bucket
	InStock  = "stock"
	Order    = "order"
	Adjusted = "adjuster"
)

// settings lists the ways to set a valve's lash: as it is, by the adjuster, by a pushrod. The
// shims of bucket heads are one question for the whole head: see box.
func (p *problem) settings(v *valve) []setting {
	k := p.h.Model.Kind
	out := []setting{{size: v.present, from: p.from(v)}}
	if !v.now.Figures[after.Lash].Read {
		return out
	}
	setLash := p.costs.eachLash
	if k.Adjusters() && p.travel > 0 {
		out = append(out, setting{
			travel: float64(p.travel), ops: p.setLash, cents: setLash, size: v.present, from: Adjusted,
		})
	}
	if !v.presentKnown {
		return out
	}
	for _, r := range p.rods {
		if r.size == v.present {
			continue
		}
		s := setting{
			add: p.ratio * float64(v.present-r.size), ops: p.bits(trade.NewPushrod),
			cents: price.Each(p.h, trade.NewPushrod) + r.cents*p.costs.parts,
			size:  r.size, from: Order,
		}
		if p.setLash != 0 {
			s.cents += setLash
		}
		if r.stock {
			s.from = InStock
		}
		if k.Solid() && p.travel > 0 {
			s.travel = float64(p.travel)
		}
		out = append(out, s)
	}
	return out
}

func (p *problem) from(v *valve) string {
	if v.presentKnown {
		return Kept
	}
	return ""
}

// box is the lash shims of a bucket head: those fitted, those in the box, and the sizes that
// can be bought.
type box struct {
	sizes []length.Length         // all that can be had, each once
	stock map[length.Length]int   // how many of a size lie in the box
	cents map[length.Length]int64 // what one of the box or from the supplier costs
	order map[length.Length]bool  // can be bought
	index map[length.Length]int   // where a size stands among all
}

// place is where a size stands among all; ok is false where the box has none of it.
func (b *box) place(size length.Length) (k int, ok bool) {
	if b == nil {
		return 0, false
	}
	k, ok = b.index[size]
	return k, ok
}

// maxSizes bounds the sizes of shims that are tried.
const maxSizes = 400

// shimBox collects the shims of a bucket head, nil for other drives and for one whose shims
// were not read.
func (p *problem) shimBox() *box {
	if !p.h.Model.Kind.Buckets() || !p.h.Model.Kind.Solid() {
		return nil
	}
	b := &box{stock: map[length.Length]int{}, cents: map[length.Length]int64{}, order: map[length.Length]bool{}}
	any := false
	for _, v := range p.valves {
		if v.presentKnown && v.now.Figures[after.Lash].Read {
			any = true
			b.sizes = append(b.sizes, v.present)
		}
	}
	if !any {
		return nil
	}
	usual := trade.LashShimPart.Usual
	for _, s := range p.h.Stock {
		if s.Kind != trade.LashShimPart.Code || s.Size == 0 {
			continue
		}
		b.sizes, b.stock[s.Size], b.order[s.Size] = append(b.sizes, s.Size), b.stock[s.Size]+s.Count, true
		b.cents[s.Size] = usual
		if s.Price != nil {
			b.cents[s.Size], usual = *s.Price, *s.Price
		}
	}
	step, _, ok := p.h.Size(trade.ShimStep, "")
	l := p.h.Limit(trade.ShimSize.Code, "")
	if l == nil {
		l = p.h.Limit(trade.ShimSize.Code, string(layout.Intake))
	}
	if ok && step > 0 {
		least, most := p.shimRange(l, step)
		for size := least; size <= most && len(b.sizes) < 4*maxSizes; size += step {
			b.sizes, b.order[size] = append(b.sizes, size), true
		}
	}
	slices.Sort(b.sizes)
	b.sizes = slices.Compact(b.sizes)
	if len(b.sizes) > maxSizes {
		b.sizes = b.sizes[:maxSizes]
		note(&p.missing, "more sizes of shims than are tried")
	}
	b.index = map[length.Length]int{}
	for k, size := range b.sizes {
		b.index[size] = k
		if _, priced := b.cents[size]; !priced {
			b.cents[size] = usual
		}
	}
	return b
}

// shimReach is how far from the shims that are fitted others are ordered where the sheet does not say
// between which sizes they come: trade practice.
const shimReach = 1000 * length.Micrometre

// shimRange is between which sizes shims can be ordered in a step: by the sheet's range, where it has
// one; an end that it leaves open lies in reach of the shims that are fitted.
func (p *problem) shimRange(l *head.Limit, step length.Length) (least, most length.Length) {
	first := true
	for _, v := range p.valves {
		if !v.presentKnown {
			continue
		}
		if first {
			least, most, first = v.present, v.present, false
		}
		least, most = min(least, v.present), max(most, v.present)
	}
	least, most = max(step, least-shimReach), most+shimReach
	if l != nil && l.Low != nil {
		least = l.Low.Length()
	} else {
		least = ceil(least, step)
	}
	if l != nil && l.High != nil {
		most = l.High.Length()
	}
	return least, most
}

// shim is the setting of a valve's lash by a shim of a size. The price of one that is bought
// or taken from the box is the assignment's.
func (p *problem) shim(v *valve, size length.Length) setting {
	s := setting{add: float64(v.present - size), size: size, from: Kept}
	if size != v.present {
		s.ops, s.cents, s.from = p.setLash, p.costs.eachLash, Moved
	}
	return s
}

// shimSettings are the settings of a valve by every shim that can be had, as if it had the
// box to itself: one of another bucket costs nothing.
func (p *problem) shimSettings(v *valve, b *box) []setting {
	if b == nil || !v.presentKnown || !v.now.Figures[after.Lash].Read {
		return p.settings(v)
	}
	fitted := map[length.Length]bool{}
	for _, o := range p.valves {
		if o != v && o.presentKnown {
			fitted[o.present] = true
		}
	}
	out := []setting{p.shim(v, v.present)}
	for _, size := range b.sizes {
		if size == v.present {
			continue
		}
		s := p.shim(v, size)
		switch {
		case fitted[size]:
		case b.stock[size] > 0:
			s.from, s.cents = InStock, s.cents+b.cents[size]*p.costs.parts
		default:
			s.from, s.cents = Order, s.cents+b.cents[size]*p.costs.parts
		}
		out = append(out, s)
	}
	return out
}

// weight puts a score into one number for the assignment, in its order: cents, then how far it is
// short of enough, then whether a shim is ordered, then how far from sure, then metal, then how far
// off the middle of the lash.
func weight(s score) int64 {
	if s == never {
		return forbidden
	}
	short, rest := enough-min(s.z, enough), sure-max(s.z, enough)
	metal, off := min(15, s.metal/(50*length.Micrometre)), min(3, s.off/(16*length.Micrometre))
	return s.cents*aCent + int64(short*1000)<<13 + int64(s.orders)*anOrder + int64(rest*31)<<6 +
		int64(metal)<<2 + int64(off)
}

// What a cent and an ordered shim weigh: more than all that comes after them.
const (
	aCent   = int64(1) << 24
	anOrder = int64(1) << 12
)

// shares are how the valves of a bucket head come out: of some it is chosen which shim they have, out says of
// the others.
type shares struct {
	buckets []int      // the valves whose shims are shared out
	cols    []column   // those there are
	rows    [][]fitted // by valve and size of the box
	out     []fitted
}

// assign gives every valve of a bucket head its shim and its way at once, for given common
// choices and a set of operations that may be used: the cheapest way to put a valve right
// with a shim, and then an assignment, exactly. ok is false when there are not enough
// shims that fit.
func (p *problem) assign(c common, set mask, q *question) (s shares, ok bool) {
	near := p.nearby(q, &c)
	s = shares{rows: make([][]fitted, len(p.valves)), out: make([]fitted, len(p.valves))}
	for i, v := range p.valves {
		if !v.presentKnown || !v.now.Figures[after.Lash].Read {
			if s.out[i] = p.bestOf(v, q.pairs[i], near[i], &c, set); s.out[i].score == never {
				return s, false
			}
			continue
		}
		s.buckets = append(s.buckets, i)
		s.rows[i] = p.bestShims(v, q.pairs[i], near[i], &c, set, q.box)
	}
	if len(s.buckets) == 0 {
		return s, true
	}
	s.cols = p.columns(q.box, s.buckets)
	q.scarce = p.scarcity(q.box, &s)
	return s, p.share(q.box, &s, math.Inf(-1))
}

// surer shares the shims out anew, for the same cents, so that the smallest distance to a limit is
// the largest.
func (p *problem) surer(x *candidate, q *question, s *shares, best solution) solution {
	var levels []float64
	most := sure
	for _, i := range s.buckets {
		least := math.Inf(-1)
		for k := range s.rows[i] {
			if f := &s.rows[i][k]; f.score != never {
				levels, least = append(levels, f.score.z), max(least, f.score.z)
			}
		}
		most = min(most, least)
	}
	slices.Sort(levels)
	levels = slices.DeleteFunc(slices.Compact(levels),
		func(z float64) bool { return z <= best.score.z || z > most })
	for low, high := 0, len(levels)-1; low <= high; {
		n := (low + high + 1) / 2
		if is := best; p.share(q.box, s, levels[n]) {
			if is = p.summed(x, s.out); is.score.cents == best.score.cents && is.score.less(best.score) {
				best, low = is, n+1
				continue
			}
		}
		high = n - 1
	}
	return best
}

// bestShims are the best of a bucket's ways with each of the box's sizes and the operations of set
// alone; what a shim costs is the assignment's.
func (p *problem) bestShims(v *valve, pairs []pairing, near []int32, c *common, set mask, b *box) []fitted {
	best := make([]fitted, len(b.sizes))
	for k := range best {
		best[k].score = never
	}
	in := c.rows[v.row].uncut(v.local(c.cut))
	for _, k := range near {
		x := &pairs[k]
		if !x.fits(in) {
			continue
		}
		s := p.shim(v, x.setting.size)
		to, ops := &best[x.shim], x.way.ops|s.ops
		if ops&^set != 0 || p.together(x.way, &s)+p.more(c, v, x.way, ops) > to.score.cents {
			continue
		}
		if f, ok := p.fit(v, x.way, c, &s); ok && f.score.less(to.score) {
			*to = f
		}
	}
	return best
}

// forbidden is a cost that no assignment may take.
const forbidden = int64(1) << 58

// column is a shim that can be given to a valve: which of the box's sizes, in the valve of, or in the
// box (-1).
type column struct{ size, of int }

// columns are the shims there are: those fitted in buckets, and as many of the box as can be used.
func (p *problem) columns(b *box, buckets []int) (cols []column) {
	for _, i := range buckets {
		cols = append(cols, column{b.index[p.valves[i].present], i})
	}
	for k, size := range b.sizes {
		for range min(b.stock[size], len(buckets)) {
			cols = append(cols, column{k, -1})
		}
	}
	return cols
}

// share gives every bucket a shim so that together they cost least and none comes nearer to a limit
// than so many standard deviations: its own, another's, one of the box, or one that is ordered.
// False when some bucket can have none.
func (p *problem) share(b *box, s *shares, z float64) bool {
	cols, cost := s.cols, make([][]int64, len(s.buckets))
	bought := make([]int, len(s.buckets)) // the size to order where one is ordered
	for k, i := range s.buckets {
		row := make([]int64, len(cols)+len(s.buckets))
		for j := range row {
			row[j] = forbidden
		}
		p.shimCosts(row, b, i, cols, s.rows[i], z)
		row[len(cols)+k], bought[k] = p.orderCost(b, s.rows[i], z)
		cost[k] = row
	}
	took, _ := match.Assign(cost)
	for k, i := range s.buckets {
		j := took[k]
		if cost[k][j] >= forbidden {
			return false
		}
		shim, from := column{bought[k], -1}, Order
		if j < len(cols) {
			shim, from = cols[j], whence(cols[j], i)
		}
		s.out[i] = p.given(b, i, b.sizes[shim.size], from, s.rows[i][shim.size])
	}
	return true
}

// shimCosts fills in what each shim that is there costs in valve i.
func (p *problem) shimCosts(row []int64, b *box, i int, cols []column, ends []fitted, z float64) {
	for j, col := range cols {
		f := &ends[col.size]
		if f.score == never || f.score.z < z {
			continue
		}
		row[j] = weight(f.score) + p.centsOf(b, col)*aCent
		if col.of != i {
			row[j]++
		}
	}
}

// orderCost is what the best shim costs that can be ordered, and which of the box's sizes it is.
func (p *problem) orderCost(b *box, ends []fitted, z float64) (best int64, size int) {
	best = forbidden
	for k, s := range b.sizes {
		if !b.order[s] || ends[k].score == never || ends[k].score.z < z {
			continue
		}
		if w := weight(ends[k].score) + p.centsOf(b, column{k, -1})*aCent + anOrder; w < best {
			best, size = w, k
		}
	}
	return best, size
}

// whence says where a shim comes from for valve i.
func whence(shim column, i int) string {
	switch shim.of {
	case i:
		return Kept
	case -1:
		return InStock
	}
	return Moved
}

// given is how valve i comes out with a shim of that size.
func (p *problem) given(b *box, i int, size length.Length, from string, f fitted) fitted {
	f.setting.from = from
	switch from {
	case Moved:
		if size == p.valves[i].present { // another of the same size: it stays
			f.setting.from = Kept
		}
	case InStock:
		f.score.cents += p.centsOf(b, column{b.index[size], -1})
	case Order:
		f.score.cents += p.centsOf(b, column{b.index[size], -1})
		f.score.orders = 1
	}
	return f
}

// bestOf is the best of those pairs of a valve that are near, with the operations of set alone.
func (p *problem) bestOf(v *valve, pairs []pairing, near []int32, c *common, set mask) fitted {
	best, in := fitted{score: never}, c.rows[v.row].uncut(v.local(c.cut))
	for _, k := range near {
		x := &pairs[k]
		if x.ops&^set != 0 || !x.fits(in) || x.cents+p.more(c, v, x.way, x.ops) > best.score.cents {
			continue
		}
		if f, ok := p.fit(v, x.way, c, x.setting); ok && f.score.less(best.score) {
			best = f
		}
	}
	return best
}

// present reads what is fitted to set a valve's lash now.
func (p *problem) fittedNow(v *valve) {
	c := trade.PushrodLength
	if p.h.Model.Kind.Buckets() {
		c = trade.ShimSize
	}
	if !c.Exists(p.h.Model.Kind) {
		return
	}
	at, read := p.h.Mean(c.Code, v.ID)
	v.present, v.presentKnown = at.Length(), read
	if v.now.Figures[after.Lash].Read && !v.ok[after.Lash] && !read &&
		(p.h.Model.Kind.Buckets() || len(p.rods) > 0) {
		note(&p.missing, v.ID+" "+words.Lower(c.Label)+": not read, so that nothing can be chosen for its lash")
	}
}

// target is the shop's target of a characteristic, where it has one.
func (p *problem) target(c *trade.Characteristic, role layout.Role) window {
	return windowIn(p.h.Sheet.LimitOf(head.Target, c.Code, string(role)))
}
