package plan

import (
	"yatai/core/match"
)

// scarce is what the shims of a box are reckoned dearer in bounds, because more valves want them
// than there are. Whatever the prices: what every valve costs at least with them, added up, less
// what all the shims there are come to, is no more than any way to share the shims out costs.
// Prices of one way that was worked out bring the bounds of those that are like it close to what these cost.
type scarce struct {
	more []int64 // by size of the box: what a shim costs more at least, in cents
	all  int64   // what the shims there are come to, in cents
}

// cents is what a pair costs at least with a head's choices: its own, what these ask for, and what its shim
// is reckoned dearer.
func (p *problem) cents(q *question, c *common, v *valve, x *pairing) int64 {
	cents := x.cents + p.more(c, v, x.way, x.ops)
	if x.shim >= 0 && q.scarce.more != nil {
		cents += q.scarce.more[x.shim]
	}
	return cents
}

// unfit is what a shim costs where it cannot be had or does not suit, when cents alone are shared out.
const unfit = int64(1) << 46

// scarcity prices the shims by how each bucket comes out with every size: by what one more of a
// kind would save.
func (p *problem) scarcity(b *box, s *shares) scarce {
	cols, cost := s.cols, make([][]int64, len(s.buckets))
	for k, i := range s.buckets {
		row := make([]int64, len(cols)+len(s.buckets))
		for j := range row {
			row[j] = unfit
		}
		for j, col := range cols {
			if f := &s.rows[i][col.size]; f.score != never {
				row[j] = f.score.cents + p.centsOf(b, col)
			}
		}
		for n, size := range b.sizes {
			if f := &s.rows[i][n]; b.order[size] && f.score != never {
				row[len(cols)+k] = min(row[len(cols)+k], f.score.cents+p.centsOf(b, column{n, -1}))
			}
		}
		cost[k] = row
	}
	_, prices := match.Assign(cost)
	return p.spreadOut(b, cols, prices)
}

// spreadOut turns prices of single shims into what each size costs more at least: shims of one kind cost the
// least that any of them does.
func (p *problem) spreadOut(b *box, cols []column, prices []int64) scarce {
	type kind struct {
		size   int
		fitted bool
	}
	least, count := map[kind]int64{}, map[kind]int64{}
	for j, col := range cols {
		k := kind{col.size, col.of >= 0}
		if count[k]++; count[k] == 1 {
			least[k] = prices[j]
		}
		least[k] = min(least[k], prices[j])
	}
	s := scarce{more: make([]int64, len(b.sizes))}
	for k, cents := range least {
		s.all += cents * count[k]
	}
	for n, size := range b.sizes {
		with, without := unfit, unfit // what one costs at least, with the prices and without
		for _, k := range [2]kind{{n, true}, {n, false}} {
			if count[k] > 0 {
				is := p.centsOf(b, column{n, -1})
				if k.fitted {
					is = 0
				}
				with, without = min(with, is+least[k]), min(without, is)
			}
		}
		if b.order[size] {
			with, without = min(with, p.centsOf(b, column{n, -1})), min(without, p.centsOf(b, column{n, -1}))
		}
		s.more[n] = with - without
	}
	return s
}

// centsOf is what a shim that is there costs: one that is fitted nothing.
func (p *problem) centsOf(b *box, col column) int64 {
	if col.of >= 0 {
		return 0
	}
	return b.cents[b.sizes[col.size]] * p.costs.parts
}
