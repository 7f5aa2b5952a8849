package gauge

import (
	"slices"

	"yatai/core/length"
	"yatai/core/quantity"
)

// Outlier returns the index of the reading farthest from the median of its row, how far
// it is, and whether it stands out: farther than five times the row's own median
// departure and than least. A row of fewer than four readings has no outlier.
func Outlier(row []quantity.Amount, least quantity.Amount) (index int, away quantity.Amount, ok bool) {
	if len(row) < 4 {
		return 0, 0, false
	}
	middle := median(row)
	off := make([]quantity.Amount, len(row))
	for i, l := range row {
		off[i] = (l - middle).Abs()
		if off[i] > away {
			index, away = i, off[i]
		}
	}
	return index, away, away > 5*median(off) && away > least
}

// median is the middle of ls, the mean of the two middles of an even number.
func median(ls []quantity.Amount) quantity.Amount {
	s := slices.Sorted(slices.Values(ls))
	return length.Div(s[(len(s)-1)/2]+s[len(s)/2], 2)
}
