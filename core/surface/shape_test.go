package surface_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/length"
	"yatai/core/surface"
)

// plate makes a grid of 5 by 3 points with heights by f, micrometres, x and y from -2 and -1.
func plate(f func(x, y int) int) []surface.Point {
	var out []surface.Point
	for x := -2; x <= 2; x++ {
		for y := -1; y <= 1; y++ {
			out = append(out, surface.Point{
				X: length.Length(x) * 100 * length.Millimetre, Y: length.Length(y) * 60 * length.Millimetre,
				Z: length.Length(f(x, y)) * length.Micrometre,
			})
		}
	}
	return out
}

func TestFormIsNamed(t *testing.T) {
	for says, f := range map[string]func(x, y int) int{
		"hollow lengthwise":  func(x, _ int) int { return 20 * x * x },
		"high in the middle": func(x, _ int) int { return -20 * x * x },
		"twisted":            func(x, y int) int { return 30 * x * y },
		"crowned across":     func(_, y int) int { return -40 * y * y },
		"no form":            func(int, int) int { return 3 },
	} {
		form, ok := surface.FormOf(plate(f))
		require.True(t, ok)
		assert.Contains(t, form.Says(10*length.Micrometre, length.MM), says)
	}
	_, ok := surface.FormOf(plate(func(int, int) int { return 0 })[:3])
	assert.False(t, ok)
}
