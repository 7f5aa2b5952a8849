package valvetrain

import (
	"math"
	"slices"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/match"
)

// Bucket is one bucket with the shim it has now.
type Bucket struct {
	ID   string        `json:"id" doc:"position"`
	Lash length.Length `json:"lash" bound:"signed" max:"20mm" doc:"lash now"`
	Shim length.Length `json:"shim" max:"50mm" doc:"shim fitted now"`
	Low  length.Length `json:"low" bound:"signed" max:"20mm" doc:"least lash, inclusive"`
	High length.Length `json:"high" bound:"signed" max:"20mm" doc:"most lash, inclusive"`
	Aim  length.Length `json:"aim" bound:"signed" max:"20mm" doc:"lash aimed at"`
}

// StockShim is a size of shim in the box.
type StockShim struct {
	Size  length.Length `json:"size" max:"50mm" doc:"thickness"`
	Count int64         `json:"count" bound:"nonneg" doc:"how many there are"`
}

// ShimsInput is a set of buckets and where shims can come from.
type ShimsInput struct {
	Buckets   []Bucket        `json:"buckets" doc:"the buckets to set"`
	Stock     []StockShim     `json:"stock" opt:"" empty:"yes" doc:"shims in the box"`
	Orderable []length.Length `json:"orderable" opt:"" empty:"yes" max:"50mm" doc:"sizes that can be bought, any number of each"`
}

// ShimChoice is the shim a bucket gets. Source is kept, moved (from another bucket),
// stock or order.
type ShimChoice struct {
	ID     string        `json:"id"`
	Shim   length.Length `json:"shim_nm"`
	Lash   length.Length `json:"lash_nm"`
	Source string        `json:"source"`
}

// ShimsOutput is the best assignment, or which buckets stand in its way.
type ShimsOutput struct {
	Feasible   bool          `json:"feasible"`
	Buckets    []ShimChoice  `json:"buckets,omitempty"`
	Bought     int           `json:"bought"`
	Deviation  length.Length `json:"deviation_nm"`
	BlockedIDs []string      `json:"blocked_ids"`
	Why        string        `json:"why,omitempty"`
}

// maxBuckets keeps the weights of the assignment inside an int64. The assignment takes about
// buckets² × (shims + buckets) steps, which maxShimWork bounds to about a second.
const (
	maxBuckets  = 500
	maxShimWork = 400_000_000
)

// Weights of the assignment, so that one sum orders by number bought, then by
// deviation in nanometres, then by how little is moved about.
const (
	shimTie    = 2048                       // over 2 * maxBuckets moves
	shimBought = 4e7 * shimTie * maxBuckets // over the largest sum of deviations
	shimNever  = math.MaxInt64 / 4
)

// shim is one shim that can be used once.
type shim struct {
	size   length.Length
	source string // "fitted", "stock" or "order"
	of     int    // bucket it is fitted to, for "fitted"
}

// Shims gives every bucket exactly one shim inside its range: new lash = lash +
// present shim - new shim. Fitted shims return to the pool, each shim is used once,
// and orderable sizes are bought. It minimises the number bought, then the sum of
// |new lash - aim|, then prefers shims that stay. It is an assignment problem and
// solved exactly.
func Shims(in ShimsInput) (ShimsOutput, error) {
	if err := checkBuckets(in.Buckets); err != nil {
		return ShimsOutput{}, err
	}
	n := len(in.Buckets)
	pool := shimPool(in)
	if work := n * n * (len(pool) + n); work > maxShimWork {
		return ShimsOutput{}, field.Errorf("stock",
			"%d buckets and %d different shims are too many to pair off at once", n, len(pool))
	}
	cost := make([][]int64, n)
	out := ShimsOutput{BlockedIDs: []string{}}
	orders := make([]length.Length, n)
	for i, b := range in.Buckets {
		row := make([]int64, len(pool)+n)
		for j := range row {
			row[j] = shimNever
		}
		fits := false
		for j, s := range pool {
			if off, ok := b.off(s.size); ok {
				row[j], fits = int64(off)*shimTie+s.tie(i), true
			}
		}
		best := length.Length(-1)
		for _, size := range in.Orderable {
			if off, ok := b.off(size); ok && (best < 0 || off < best) {
				best, orders[i], fits = off, size, true
				row[len(pool)+i] = shimBought + int64(off)*shimTie
			}
		}
		if !fits {
			out.BlockedIDs = append(out.BlockedIDs, b.ID)
		}
		cost[i] = row
	}
	if len(out.BlockedIDs) > 0 {
		out.Why = "no size fits these buckets"
		return out, nil
	}
	took, _ := match.Assign(cost)
	for i, b := range in.Buckets {
		j := took[i]
		if cost[i][j] >= shimNever {
			return ShimsOutput{
				BlockedIDs: []string{},
				Why:        "each bucket has a size that fits, but there are not enough shims to go round",
			}, nil
		}
		c := ShimChoice{ID: b.ID, Source: "order", Shim: orders[i]}
		if j < len(pool) {
			c.Shim, c.Source = pool[j].size, pool[j].source
			if c.Source == "fitted" {
				c.Source = map[bool]string{true: "kept", false: "moved"}[pool[j].of == i]
			}
		} else {
			out.Bought++
		}
		c.Lash = b.Lash + b.Shim - c.Shim
		out.Deviation += (c.Lash - b.Aim).Abs()
		out.Buckets = append(out.Buckets, c)
	}
	out.Feasible = true
	return out, nil
}

// off returns how far from its aim the bucket's lash would be with a shim of that
// size, and whether the lash would be inside the range.
func (b Bucket) off(size length.Length) (length.Length, bool) {
	lash := b.Lash + b.Shim - size
	return (lash - b.Aim).Abs(), lash >= b.Low && lash <= b.High
}

// tie is the small weight that makes a shim that stays better than one that moves,
// and that better than one from the box.
func (s shim) tie(bucket int) int64 {
	if s.source == "stock" {
		return 2
	}
	if s.of != bucket {
		return 1
	}
	return 0
}

// shimPool is the shims that can be used once: those fitted, and of the box the sizes that
// fit somewhere, no more of each than there are buckets.
func shimPool(in ShimsInput) []shim {
	var pool []shim
	for i, b := range in.Buckets {
		pool = append(pool, shim{b.Shim, "fitted", i})
	}
	count := map[length.Length]int64{}
	var sizes []length.Length
	for _, s := range in.Stock {
		if count[s.Size] == 0 {
			sizes = append(sizes, s.Size)
		}
		count[s.Size] = min(count[s.Size]+s.Count, int64(len(in.Buckets)))
	}
	for _, size := range sizes {
		if fits := slices.ContainsFunc(in.Buckets, func(b Bucket) bool { _, ok := b.off(size); return ok }); fits {
			for range count[size] {
				pool = append(pool, shim{size, "stock", -1})
			}
		}
	}
	return pool
}

func checkBuckets(bs []Bucket) error {
	if len(bs) > maxBuckets {
		return field.Errorf("buckets", "more than %d buckets", maxBuckets)
	}
	seen := map[string]bool{}
	for i, b := range bs {
		at := index("buckets", i)
		if seen[b.ID] {
			return field.Errorf(at+".id", "%s is there twice", b.ID)
		}
		seen[b.ID] = true
		if err := ordered(at+".low", b.Low, b.High); err != nil {
			return err
		}
		if b.Aim < b.Low || b.Aim > b.High {
			return field.Errorf(at+".aim", "the aim is outside the range")
		}
	}
	return nil
}
