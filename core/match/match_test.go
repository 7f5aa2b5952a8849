package match_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/match"
)

// least tries every assignment.
func least(cost [][]int64, row int, used map[int]bool) int64 {
	if row == len(cost) {
		return 0
	}
	best := int64(math.MaxInt64)
	for col, c := range cost[row] {
		if !used[col] {
			used[col] = true
			best = min(best, c+least(cost, row+1, used))
			delete(used, col)
		}
	}
	return best
}

func sum(cost [][]int64, took []int) (s int64) {
	for row, col := range took {
		s += cost[row][col]
	}
	return s
}

// bound is the least of cost and price in every row, added up, less all prices.
func bound(cost [][]int64, prices []int64) (total int64) {
	for _, row := range cost {
		at := int64(math.MaxInt64)
		for j, c := range row {
			at = min(at, c+prices[j])
		}
		total += at
	}
	for _, x := range prices {
		total -= x
	}
	return total
}

// TestAssignIsTheLeastOfAll holds Assign against every assignment of small matrices, square
// and wide, with ties and negative costs.
func TestAssignIsTheLeastOfAll(t *testing.T) {
	rnd := rand.New(rand.NewPCG(6, 28))
	for range 500 {
		n := 1 + rnd.IntN(5)
		m := n + rnd.IntN(3)
		cost := make([][]int64, n)
		for i := range cost {
			for range m {
				cost[i] = append(cost[i], rnd.Int64N(20)-5)
			}
		}
		took, prices := match.Assign(cost)
		require.Len(t, took, n)
		seen := map[int]bool{}
		for _, col := range took {
			assert.False(t, seen[col], "two rows took column %d", col)
			seen[col] = true
		}
		best := least(cost, 0, map[int]bool{})
		require.Equal(t, best, sum(cost, took), "%v", cost)
		require.Equal(t, best, bound(cost, prices), "with these prices: %v of %v", prices, cost)
		for j := range prices {
			require.GreaterOrEqual(t, prices[j], int64(0))
			if !seen[j] {
				require.Zero(t, prices[j], "column %d is left over", j)
			}
			prices[j] = rnd.Int64N(10)
		}
		require.LessOrEqual(t, bound(cost, prices), best, "with any prices: %v of %v", prices, cost)
	}
}

// TestAssignOfWhatCannotBe gives a pair that must not be a cost beyond all others: it is
// taken only when nothing else is left.
func TestAssignOfWhatCannotBe(t *testing.T) {
	const never = 1 << 40
	took, _ := match.Assign([][]int64{{never, 5}, {1, 1}})
	assert.Equal(t, []int{1, 0}, took)
	took, _ = match.Assign([][]int64{{never, never}, {never, 0}})
	assert.Equal(t, []int{0, 1}, took)
}

func BenchmarkAssign64x300(b *testing.B) {
	rnd := rand.New(rand.NewPCG(1, 1))
	cost := make([][]int64, 64)
	for i := range cost {
		for range 300 {
			cost[i] = append(cost[i], rnd.Int64N(1_000_000))
		}
	}
	for b.Loop() {
		match.Assign(cost)
	}
}
