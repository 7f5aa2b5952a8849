package library

import (
	"cmp"
	"context"
	"slices"

	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Life is what heads of a model came to in this shop: the last of them that were mended, mostHeads at most.
type Life struct {
	Heads    int
	Work     []LifeWork // what not every head gets, the most frequent first
	Parts    []LifePart
	Price    Spread // before tax, in cents: what was quoted for the work that was done
	Days     Spread // from take-in to the final check
	Currency string
}

// LifeWork is an operation, on how many heads it was done, and how long they had run: Spread is of those
// whose hours are known, in the unit most are counted in.
type LifeWork struct {
	Name  string
	Heads int
	Ran   Spread
	Unit  string
}

// LifePart is a kind of part: how many heads took any, how many the head that took most, and how many are
// free in the stock for this model.
type LifePart struct {
	Name  string
	Heads int
	Most  int
	Free  int

	kind string
}

// Order is how many to order now, so that the head that takes most has them there.
func (p LifePart) Order() int { return max(0, p.Most-p.Free) }

// Spread is between which figures eight of ten lie, and the middle one.
type Spread struct{ Low, Middle, High int64 }

const (
	mostHeads  = 100 // that are looked at: older ones say less of today's prices
	fewestSaid = 4   // heads before anything is said of a model
)

// Told tells whether there are heads enough to say something by.
func (l Life) Told() bool { return l.Heads >= fewestSaid }

// LifeOf is what heads of a model came to.
func LifeOf(ctx context.Context, s *shop.Shop, model uint) (Life, error) {
	db := s.Store.Read(ctx)
	heads, err := db.LastDone(model, mostHeads)
	if err != nil || len(heads) < fewestSaid {
		return Life{Heads: len(heads)}, err
	}
	set, err := s.Settings(ctx, "")
	if err != nil {
		return Life{}, err
	}
	var ids []uint
	var days []int64
	for _, h := range heads {
		ids, days = append(ids, h.ID), append(days, int64(h.ClosedAt.Sub(h.CreatedAt).Hours()/24))
	}
	done, err := db.DoneAt(ids)
	if err != nil {
		return Life{}, err
	}
	lines, err := db.QuotedLines(ids)
	if err != nil {
		return Life{}, err
	}
	l := Life{
		Heads: len(heads), Days: spread(days), Price: spread(pricesOf(lines, done)),
		Currency: set.Get("currency"),
	}
	ran, unit := hoursOf(heads)
	l.Work, l.Parts = workOf(done, ran, unit)
	return l, l.stock(db, model)
}

// hoursOf is how long heads had run when they came, by head, in the unit that most are counted in.
func hoursOf(heads []store.Head) (ran map[uint]int64, unit string) {
	count := map[string]int{}
	for _, h := range heads {
		if _, u, ok := h.Job.Counter(); ok {
			if count[u]++; count[u] > count[unit] {
				unit = u
			}
		}
	}
	ran = map[uint]int64{}
	for _, h := range heads {
		if n, u, ok := h.Job.Counter(); ok && u == unit {
			ran[h.ID] = int64(n)
		}
	}
	return ran, unit
}

// stock counts what is free of the parts that heads of the model take.
func (l *Life) stock(db store.DB, model uint) error {
	items, err := db.StockItems()
	if err != nil {
		return err
	}
	counts, reserved, err := db.StockCounts()
	if err != nil {
		return err
	}
	for i := range l.Parts {
		p := &l.Parts[i]
		for _, it := range items {
			if it.Kind == p.kind && (it.ModelID == 0 || it.ModelID == model) {
				p.Free += max(0, counts[it.ID]-reserved[it.ID])
			}
		}
	}
	return nil
}

// workOf counts what was done, and the parts it took, by heads.
func workOf(done []store.Operation, ran map[uint]int64, unit string) (work []LifeWork, parts []LifePart) {
	heads, used := map[string]map[uint]bool{}, map[*trade.PartKind]map[uint]int{}
	for _, o := range done {
		k := trade.OperationNamed(o.Code)
		if k == nil {
			continue
		}
		if !k.Always && !k.Inspect {
			if heads[o.Code] == nil {
				heads[o.Code] = map[uint]bool{}
			}
			heads[o.Code][o.HeadID] = true
		}
		if k.Uses != nil && !k.Always {
			if used[k.Uses] == nil {
				used[k.Uses] = map[uint]int{}
			}
			used[k.Uses][o.HeadID] += max(1, len(o.At()))
		}
	}
	for code, on := range heads {
		w := LifeWork{Name: headfile.OperationName(code), Heads: len(on), Unit: unit}
		var all []int64
		for id := range on {
			if n, known := ran[id]; known {
				all = append(all, n)
			}
		}
		w.Ran = spread(all)
		work = append(work, w)
	}
	for kind, on := range used {
		p := LifePart{Name: kind.Name, Heads: len(on), kind: kind.Code}
		for _, n := range on {
			p.Most = max(p.Most, n)
		}
		parts = append(parts, p)
	}
	slices.SortFunc(
		work, func(a, b LifeWork) int { return cmp.Or(b.Heads-a.Heads, cmp.Compare(a.Name, b.Name)) },
	)
	slices.SortFunc(
		parts, func(a, b LifePart) int { return cmp.Or(b.Heads-a.Heads, cmp.Compare(a.Name, b.Name)) },
	)
	return work, parts
}

// pricesOf is what was quoted for the work that was done, by head: of its newest quote and the supplements
// to it. The lines of the oldest quotes come first; a head without any is none of them.
func pricesOf(lines []store.QuotedLine, done []store.Operation) (out []int64) {
	type job struct {
		head uint
		code string
	}
	did := map[job]bool{}
	for _, o := range done {
		did[job{o.HeadID, o.Code}] = true
	}
	cents, newest := map[uint]int64{}, map[uint]uint{}
	for _, l := range lines {
		if l.Kind == "quote" && newest[l.HeadID] != l.QuoteID {
			cents[l.HeadID], newest[l.HeadID] = 0, l.QuoteID
		}
		if did[job{l.HeadID, l.Code}] {
			cents[l.HeadID] += l.Cents
		}
	}
	for _, c := range cents {
		if c > 0 {
			out = append(out, c)
		}
	}
	return out
}

// spread is the figure that a tenth of them lie below, the middle one, and the one a tenth lie above, by
// nearest rank; nothing of fewer than fewestSaid.
func spread(all []int64) Spread {
	if len(all) < fewestSaid {
		return Spread{}
	}
	slices.Sort(all)
	rank := func(tenths int) int64 { return all[(tenths*(len(all)-1)+5)/10] }
	return Spread{rank(1), rank(5), rank(9)}
}
