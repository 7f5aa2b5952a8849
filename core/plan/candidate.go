package plan

import "slices"

// candidate is a head's common choices with a bound on what a plan with them costs: what it
// would cost if every valve had the box of shims to itself.
type candidate struct {
	common
	ops   mask
	bound score
	fixed score // of the head itself, and of setting up
	in    []row // where the depths of its rows lie
	last  int   // the row whose window was changed last
}

// row is where the depths of a row's valves may lie, with what they cost there, the best first; at is the one
// that is tried.
type row struct {
	name  string
	spots []cost
	at    int
}

// cost is what a row's valves cost at least in a window.
type cost struct {
	window
	score
}

// settle works out the bound of a candidate and its windows.
func (x *candidate) settle() {
	x.bound, x.rows = x.fixed, map[string]window{}
	for _, r := range x.in {
		s := r.spots[r.at]
		x.bound = x.bound.plus(s.score)
		if s.low != nil {
			x.rows[r.name] = s.window
		}
	}
}

// next are the candidates with the next window of one row, each once however it is come by.
func (x *candidate) next() (out []candidate) {
	for k := x.last; k < len(x.in); k++ {
		if x.in[k].at+1 == len(x.in[k].spots) {
			continue
		}
		y := *x
		y.in, y.last = slices.Clone(x.in), k
		y.in[k].at++
		y.settle()
		out = append(out, y)
	}
	return out
}

// candidates are a heap, the one that is better at best on top.
type candidates []candidate

func (c candidates) Len() int           { return len(c) }
func (c candidates) Less(i, j int) bool { return c[i].bound.less(c[j].bound) }
func (c candidates) Swap(i, j int)      { c[i], c[j] = c[j], c[i] }
func (c *candidates) Push(x any)        { *c = append(*c, x.(candidate)) }
func (c *candidates) Pop() any {
	last := len(*c) - 1
	x := (*c)[last]
	*c = (*c)[:last]
	return x
}
