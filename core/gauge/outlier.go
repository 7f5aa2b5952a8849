package gauge

import (
	"slices"

	"yatai/core/length"
)

// Outlier returns the index of the reading farthest from the median of its row, how far
// it is, and whether it stands out: farther than five times the row's own median
// departure and than least. A row of fewer than four readings has no outlier.
func Outlier(row []length.Length, least length.Length) (index int, away length.Length, ok bool) {
	if len(row) < 4 {
		return 0, 0, false
	}
	middle := median(row)
	off := make([]length.Length, len(row))
	for i, l := range row {
		off[i] = (l - middle).Abs()
		if off[i] > away {
			index, away = i, off[i]
		}
	}
	return index, away, away > 5*median(off) && away > least
}

// median is the middle of ls, the mean of the two middles of an even number.
func median(ls []length.Length) length.Length {
	s := slices.Sorted(slices.Values(ls))
	return length.Div(s[(len(s)-1)/2]+s[len(s)/2], 2)
}
