// Package match pairs things off at the least cost. Assign is its door.
package match

import "math"

// Assign solves the assignment problem for a cost matrix with at least as many
// columns as rows: took is a column for each row, all different, with the least sum.
// Prices say by column what its like once more would save, at least nothing, and nothing
// for a column that no row took: the least of cost+price in every row, added up, less all
// prices, is that least sum, and with any other prices no more than it. It grows shortest
// augmenting paths with potentials, O(rows² columns). The matrix must not be empty.
func Assign(cost [][]int64) (took []int, prices []int64) {
	n, m := len(cost), len(cost[0])
	rowPot, colPot := make([]int64, n+1), make([]int64, m+1)
	rowOf := make([]int, m+1) // row at each column, 1-based; 0 is free
	for i := 1; i <= n; i++ {
		rowOf[0] = i
		j0 := 0
		way, done := make([]int, m+1), make([]bool, m+1)
		least := make([]int64, m+1)
		for j := range least {
			least[j] = math.MaxInt64
		}
		for rowOf[j0] != 0 {
			done[j0] = true
			i0, j1, delta := rowOf[j0], 0, int64(math.MaxInt64)
			for j := 1; j <= m; j++ {
				if done[j] {
					continue
				}
				if c := cost[i0-1][j-1] - rowPot[i0] - colPot[j]; c < least[j] {
					least[j], way[j] = c, j0
				}
				if least[j] < delta {
					delta, j1 = least[j], j
				}
			}
			for j := 0; j <= m; j++ {
				if done[j] {
					rowPot[rowOf[j]] += delta
					colPot[j] -= delta
				} else {
					least[j] -= delta
				}
			}
			j0 = j1
		}
		for j0 != 0 {
			rowOf[j0] = rowOf[way[j0]]
			j0 = way[j0]
		}
	}
	took, prices = make([]int, n), make([]int64, m)
	for j := 1; j <= m; j++ {
		if rowOf[j] > 0 {
			took[rowOf[j]-1] = j - 1
		}
		prices[j-1] = -colPot[j]
	}
	return took, prices
}
