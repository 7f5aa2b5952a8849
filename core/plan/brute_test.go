package plan

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/after"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/price"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/internal/sample"
)

// mixed is a small head with troubles of every kind a plan weighs at a valve: depth, stem, springs and
// their loads, guides, tips, seats and faces, rockers and lash. Every other one knows a repair of the
// shop's own.
func mixed(t *testing.T, r *rand.Rand, n int) *headtest.Head {
	one := func(of ...string) string { return of[r.IntN(len(of))] }
	h := headtest.New(t, 1, "IE").Both("valve.recession", "0.5", "1.0").Both("stem.height", "45.9", "46.6").
		Both("lash", "0.15", "0.40").
		Both("spring.height", "37.6", "38.8").Both("spring.load_seat", "240", "").Both("guide.clearance", "0.03", "0.09").
		Both("valve.margin", "1.0", "").
		Figure("tip_most", "0.20").Figure("insert_up", "0.3").Figure("insert_down", "0.10").Figure("adjuster", "0.3").
		Figure("face_most", "0.06")
	h.Limit("face.line/long", "", "0.05").Limit("head.thickness/", "98.0", "").All("head.thickness", "98.6")
	h.Limit("valve.piston/", "0.9", "")
	for _, role := range []string{"intake", "exhaust"} {
		h.Figure("new_margin/"+role, "1.6").Figure("lift/"+role, "10").Figure("spring_solid/"+role, "25.5").
			Figure("seat_most/"+role, "0.15").
			Figure("seat_clean/"+role, "0.05").Figure("valve_grind/"+role, "0.10").Limit("stem.dia/"+role+"/new", "7.95", "7.97")
	}
	for _, v := range h.Model.Layout.Valves {
		id := v.ID
		h.Read("valve.recession", id+" "+one("0.55", "0.70", "0.70", "0.93", "1.04", "1.08"))
		h.Read("stem.height", id+" "+one("45.85", "46.2", "46.2", "46.52", "46.64"))
		h.Read("spring.height", id+" "+one("38.2", "38.2", "38.75", "39.1")).Read("spring.load_seat",
			id+" "+one("235", "260", "260", "300"))
		h.Read("spring.load_open", id+" 540")
		h.Read("valve.margin", id+" "+one("0.95", "1.15", "1.5", "1.5")).Read("lash",
			id+" "+one("0.25 0.26", "0.25 0.26", "0.05 0.06", "0.50 0.51"))
		if n%2 == 1 {
			h.Read("valve.piston", id+" "+[]string{"0.70", "0.95", "1.2", "1.6"}[(n/2+int(id[1]))%4])
		}
		bore := one("8.00", "8.00", "8.10")
		for _, place := range []string{"top", "middle", "bottom"} {
			h.Read("stem.dia", id+"."+place+" "+one("7.96", "7.96", "7.93"))
			h.Read("guide.bore", id+"."+place+".A "+bore, id+"."+place+".B "+bore)
		}
		if r.IntN(4) == 0 {
			h.See("seat.condition", id, one("gaps", "heavy_pits"))
		}
		if r.IntN(4) == 0 {
			h.See("valve.face", id, one("burnt", "heavy_pits"))
		}
		if r.IntN(5) == 0 {
			h.See("spring.condition", id, one("broken", "rust_pits"))
		}
		if r.IntN(5) == 0 {
			h.See("tip.condition", id, one("dented", "mushroomed"))
		}
		if r.IntN(6) == 0 {
			h.See("rocker.condition", id, one("scored", "cracked"))
		}
	}
	if r.IntN(2) == 0 {
		h.All("face.line", one("0.06 0.07", "0.02 0.03"))
	}
	cents := func(n int64) *int64 { return &n }
	h.Stock = []head.Stock{
		{ID: 1, Kind: "valve", Count: 9, Price: cents(2400)}, {ID: 2, Kind: "insert", Count: 9, Price: cents(1900)},
		{ID: 3, Kind: "guide", Count: 9, Price: cents(1400)}, {ID: 4, Kind: "seal", Count: 9, Price: cents(100)},
		{ID: 5, Kind: "spring", Count: 9, Price: cents(int64(400 + r.IntN(3)*400))},
		{ID: 6, Kind: "rocker", Count: 9, Price: cents(4100)},
		{ID: 7, Kind: "keepers", Count: 9, Price: cents(180)}, {ID: 8, Kind: "liner", Count: 9, Price: cents(600)},
		{ID: 9, Kind: "spring shim", Size: 500_000, Count: 9, Price: cents(60)},
		{ID: 10, Kind: "spring shim", Size: 800_000, Count: 9, Price: cents(60)},
	}
	if n%3 == 0 {
		h.Model.Kind.Drive = trade.Bucket
		for _, id := range h.Positions() {
			h.Read("shim.size", id+" "+one("2.50", "2.60", "2.70"))
		}
		for i, size := range []length.Length{2_350_000, 2_450_000, 2_550_000, 2_650_000} {
			h.Stock = append(h.Stock, head.Stock{ID: uint(20 + i), Kind: "lash shim", Size: size, Count: 1, Price: cents(320)})
		}
	}
	if n%2 == 0 {
		own := trade.OwnRepair{
			Name: "Cap the tips", Works: trade.TipMetal, Station: trade.Assembly, Setup: 5, Each: 4, Least: 50_000,
			Most:  120_000,
			Moves: []trade.OwnMove{{Of: "lash", Times: -1}, {Of: "stem.height", Times: 1}}, Part: "hard cap",
		}
		h.Stock = append(h.Stock, head.Stock{ID: 30, Kind: "own: hard cap", Count: 9, Price: cents(int64(100 + n%4*900))})
		h.Sheet.Repairs = []*trade.Repair{trade.RepairNamed(own.Code())}
	}
	return h
}

// TestNoDeclaredWorkIsCheaper does to small heads every set of the declared repairs, in every size, by what
// is declared of them alone: a plan is found where one of them brings all that is known inside, and none of
// those costs less by the price list than the plan.
func TestNoDeclaredWorkIsCheaper(t *testing.T) {
	t.Run("valves each for itself", func(t *testing.T) { noneCheaper(t, func(*problem, int) {}) })
	t.Run("depths kept together", func(t *testing.T) {
		noneCheaper(t, func(p *problem, n int) {
			spread := []length.Length{50_000, 100_000, 200_000}[n%3]
			p.spread = map[string]*length.Length{"both": &spread}
			for _, v := range p.valves {
				v.row = "both"
			}
		})
	})
}

// noneCheaper holds plans of small heads against everything that can be done to them; ask changes what is asked.
func noneCheaper(t *testing.T, ask func(p *problem, n int)) {
	r := rand.New(rand.NewPCG(23, 3))
	done, refused, kinds := 0, 0, map[string]int{}
	for n := range sample.Times(5, 100) {
		h := mixed(t, r, n)
		p := pose(h.Head, judge.Head(h.Head), head.Ask{Alternative: Balanced})
		p.free = true
		ask(p, n)
		best, ok, err := p.solve(t.Context(), 0, false)
		require.NoError(t, err)
		b := &forced{p: p, priced: map[string]int64{}}
		least, how, found := b.least()
		if !assert.Equal(t, found, ok, "head %d: %v; the plan says %v", n, how, ok) || !ok {
			refused++
			continue
		}
		var whole labour
		for i, v := range p.valves {
			f := best.valves[i]
			x := labour{shims: []length.Length{f.setting.size}}
			for _, r := range f.way.repairs {
				kinds[string(r.Works)]++
				x.ds = append(x.ds, route.Decision{Code: r.Code, Position: v.ID})
			}
			if f.setting.travel > 0 || f.setting.size != v.present {
				x.ds = append(x.ds, route.Decision{Code: trade.SetLash.Code, Position: v.ID})
			}
			if f.setting.size != v.present {
				kinds["shim"]++
			}
			whole = whole.and(x)
		}
		whole = whole.faced(best.cut)
		assert.Equal(t, least, b.price(whole), "head %d: %v is cheaper than %v", n, how, whole)
		done++
	}
	assert.Greater(t, done, sample.Times(5, 30)-1)
	t.Log(done, "planned,", refused, "refused", kinds)
}

// forced tries everything that can be done to a head.
type forced struct {
	p      *problem
	priced map[string]int64
}

// labour is some decisions, and the lash shims that end under the buckets.
type labour struct {
	ds     []route.Decision
	shims  []length.Length
	depths []length.Length // that the seat of the one valve it is done at may come to
}

func (w labour) and(o labour) labour {
	return labour{ds: slices.Concat(w.ds, o.ds), shims: slices.Concat(w.shims, o.shims)}
}

// within tells whether two valves' seats may come as near each other as they must.
func (w labour) within(o labour, spread *length.Length) bool {
	return spread == nil || slices.ContainsFunc(w.depths, func(a length.Length) bool {
		return slices.ContainsFunc(o.depths, func(b length.Length) bool { return (a - b).Abs() <= *spread })
	})
}

func (w labour) faced(cut length.Length) labour {
	if cut > 0 {
		w.ds = append(w.ds, route.Decision{Code: trade.FaceHead.Code})
	}
	return w
}

// least is the cheapest work that brings all inside.
func (b *forced) least() (cents int64, how labour, found bool) {
	for _, cut := range b.p.cuts {
		c := common{cut: cut, gasket: b.p.gaskets[0]}
		if _, fits := b.p.headScore(c); !fits {
			continue
		}
		var each [][]labour
		for _, v := range b.p.valves {
			each = append(each, b.at(v, cut))
		}
		for _, x := range each[0] {
			for _, y := range each[1] {
				w := x.and(y).faced(cut)
				if v, o := b.p.valves[0], b.p.valves[1]; v.row == o.row && !x.within(y, b.p.spread[v.row]) || !b.had(w) {
					continue
				}
				if is := b.price(w); !found || is < cents {
					cents, how, found = is, w, true
				}
			}
		}
	}
	return cents, how, found
}

// bought tells at which valves a shim is taken from the box or ordered: one that another bucket gives up
// costs nothing.
func (b *forced) bought(w labour) map[string]length.Length {
	out := map[string]length.Length{}
	given := map[length.Length]int{}
	for i, v := range b.p.valves {
		if w.shims[i] != v.present {
			given[v.present]++
		}
	}
	for i, v := range b.p.valves {
		switch size := w.shims[i]; {
		case size == v.present:
		case given[size] > 0:
			given[size]--
		default:
			out[v.ID] = size
		}
	}
	return out
}

// had tells whether the shims that are bought can be had.
func (b *forced) had(w labour) bool {
	for _, size := range b.bought(w) {
		if !slices.ContainsFunc(
			b.p.h.Stock, func(s head.Stock) bool { return s.Kind == trade.LashShimPart.Code && s.Size == size },
		) {
			return false
		}
	}
	return true
}

// price is what some work costs by the price list, with what every head gets.
func (b *forced) price(w labour) int64 {
	key := fmt.Sprint(w)
	if cents, known := b.priced[key]; known {
		return cents
	}
	ds, bought := w.ds, b.bought(w)
	if slices.ContainsFunc(ds, func(d route.Decision) bool { return d.Code == trade.NewSprings.Code }) { // as a set
		for _, id := range b.p.h.Positions() {
			ds = append(ds, route.Decision{Code: trade.NewSprings.Code, Position: id})
		}
	}
	sizes := func(kind *trade.PartKind, position string) (length.Length, bool) {
		if kind == trade.ShimPart {
			return 500_000, true // the other one costs the same
		}
		size, buy := bought[position]
		return size, buy
	}
	cents, _, _ := price.Sum(price.Operations(b.p.h, route.Derive(b.p.h, ds), sizes))
	b.priced[key] = cents
	return cents
}

// at lists the sets of repairs, each with the lash set or not, that can bring a valve inside in some sizes.
func (b *forced) at(v *valve, cut length.Length) []labour {
	var can []*trade.Repair
	for _, r := range b.p.h.Sheet.AllRepairs() {
		o := r.Does
		if o.Each == 0 || !o.Exists(b.p.h.Model.Kind) || o == trade.SetLash || o == trade.NewPushrod || o == trade.LevelPads {
			continue
		}
		asked := slices.ContainsFunc(v.needs, func(n need) bool { return slices.Contains(n.answers, r.Code) })
		if (asked || len(o.Moves) > 0) && b.p.j.Permits(judge.Feature{Position: v.ID}, r).OK {
			can = append(can, r)
		}
	}
	var out []labour
	var choose func(i int, set []*trade.Repair)
	choose = func(i int, set []*trade.Repair) {
		if i == len(can) {
			if !b.whole(set) || !b.answers(v, set) {
				return
			}
			for _, l := range b.lashes(v) {
				w := labour{shims: []length.Length{l.shim}}
				if b.fits(v, set, 0, after.At(b.p.h, b.p.j, v.Valve, b.p.scatter), cut, l, &w.depths) {
					for _, r := range set {
						w.ds = append(w.ds, route.Decision{Code: r.Code, Position: v.ID})
					}
					if l.travel > 0 || l.shim != v.present {
						w.ds = append(w.ds, route.Decision{Code: trade.SetLash.Code, Position: v.ID})
					}
					out = append(out, w)
				}
			}
			return
		}
		choose(i+1, set)
		if !slices.ContainsFunc(set, func(r *trade.Repair) bool { return r.Excludes(can[i]) }) {
			choose(i+1, append(slices.Clip(set), can[i]))
		}
	}
	choose(0, nil)
	return out
}

// lash is a way to set a valve's lash: with a shim, or an adjuster that goes so far either way.
type lash struct {
	shim   length.Length
	travel float64
}

// lashes are those there are at a valve.
func (b *forced) lashes(v *valve) []lash {
	if !b.p.h.Model.Kind.Buckets() {
		return []lash{{v.present, 0}, {v.present, float64(b.p.travel)}}
	}
	var out []lash
	for _, o := range b.p.valves {
		out = append(out, lash{shim: o.present})
	}
	for _, s := range b.p.h.Stock {
		if s.Kind == trade.LashShimPart.Code {
			out = append(out, lash{shim: s.Size})
		}
	}
	return out
}

// whole tells whether what each of some repairs implies is done by one of them, or by another of its metal
// that implies it too.
func (b *forced) whole(set []*trade.Repair) bool {
	for _, r := range set {
		for _, o := range r.Does.Implies {
			as := trade.RepairNamed(o.Code)
			if as == nil || o.Size == nil && len(o.Moves) == 0 {
				continue
			}
			if !slices.ContainsFunc(set, func(q *trade.Repair) bool {
				return q.Does == o || q.Works == as.Works && slices.Contains(q.Does.Implies, o)
			}) {
				return false
			}
		}
	}
	return true
}

// answers tells whether a set answers what was seen at a valve: what was measured its figures say.
func (b *forced) answers(v *valve, set []*trade.Repair) bool {
	for _, n := range v.needs {
		if n.figure >= 0 || len(n.answers) == 0 {
			continue
		}
		if !slices.ContainsFunc(set, func(r *trade.Repair) bool {
			return slices.Contains(n.answers, r.Code) || slices.ContainsFunc(r.Does.Implies, func(o *trade.Operation) bool {
				return slices.Contains(n.answers, o.Code)
			})
		}) {
			return false
		}
	}
	return true
}

// fits tells whether some sizes of a set bring every figure of a valve inside, with the face cut by so much
// and the lash set in a way, and adds the depths its seat then comes to.
func (b *forced) fits(
	v *valve, set []*trade.Repair, i int, is after.Valve, cut length.Length, l lash, depths *[]length.Length,
) bool {
	if i < len(set) {
		any := false
		for _, size := range b.sizes(v, set[i]) {
			next := is
			next.Do(set[i], float64(size))
			any = b.fits(v, set, i+1, next, cut, l, depths) || any
			if any && b.p.spread[v.row] == nil {
				return true
			}
		}
		return any
	}
	for k := range is.Figures {
		f := is.Figures[k]
		low, high := v.windows[k].low, v.windows[k].high
		at, apart, beside := f.At, 0.0, 0.0
		switch k {
		case after.Recession, after.Piston:
			at, f.Changed = at-float64(cut), f.Changed || cut > 0
		case after.Lash:
			if b.p.h.Model.Kind.Pushrods() {
				at, f.Changed = at-b.p.ratio*float64(cut), f.Changed || cut > 0
			}
			at += float64(v.present - l.shim)
			beside, f.Changed = l.travel, f.Changed || l.travel > 0 || l.shim != v.present
		case after.Clearance:
			apart = is.Apart
		case after.SpringHeight:
			if f.Changed && f.Known && v.closed > 0 && at < float64(v.closed) {
				return false
			}
		}
		switch {
		case f.Made:
		case k == after.Piston && !f.Read: // the engine did not come along
		case !f.Known:
			if f.Changed || !v.ok[k] {
				return false
			}
		case !f.Changed:
			if !v.ok[k] {
				return false
			}
		case low != nil && at-apart+beside < float64(*low), high != nil && at-beside > float64(*high):
			return false
		}
	}
	if at := length.FromFloat(is.Figures[after.Recession].At) - cut; !slices.Contains(*depths, at) {
		*depths = append(*depths, at)
	}
	return true
}

// sizes are those a repair can be done in at a valve.
func (b *forced) sizes(v *valve, r *trade.Repair) []length.Length {
	size := r.Does.Size
	switch {
	case size == nil:
		return []length.Length{0}
	case r.Does.Uses != nil && r.Does.Uses.Sized:
		var out []length.Length
		for _, s := range b.p.h.Stock {
			if s.Kind == r.Does.Uses.Code {
				out = append(out, s.Size)
			}
		}
		return out
	}
	at := b.p.j.CaseAt(v.ID)
	from, to := 0*grid, 0*grid
	if size.Least != nil {
		from = size.Least(at).Length()
	}
	if size.Most != nil {
		to = size.Most(at).Length()
	}
	if from == 0 && to > 0 {
		from = grid
	}
	var out []length.Length
	for s := ceil(from, grid); s <= to; s += grid {
		out = append(out, s)
	}
	return out
}
