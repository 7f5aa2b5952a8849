package draw_test

import (
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/quantity"
	"yatai/web/draw"
)

// drawnAt is a number of a picture.
func drawnAt(t *testing.T, picture, pattern string) float64 {
	t.Helper()
	found := regexp.MustCompile(pattern).FindStringSubmatch(picture)
	require.NotEmpty(t, found, picture)
	n, err := strconv.ParseFloat(found[1], 64)
	require.NoError(t, err)
	return n
}

func TestAShareIsDrawnBesideTheLongestOfItsTable(t *testing.T) {
	p := string(draw.Share(2, 5, 10, "two <of> five"))
	assert.InDelta(t, 60, drawnAt(t, p, `"whole"[^>]* width="([^"]+)"`), 0.1)
	assert.InDelta(t, 24, drawnAt(t, p, `"part"[^>]* width="([^"]+)"`), 0.1)
	assert.Contains(t, p, "two &lt;of&gt; five")
	assert.InDelta(t, 0, drawnAt(t, string(draw.Share(0, 0, 0, "")), `"whole"[^>]* width="([^"]+)"`), 0.1)
}

func TestWhatWorkTookStandsAgainstWhatWasPlanned(t *testing.T) {
	for share, at := range map[float64]float64{1: 60, 2: 112, 0.5: 8, 9: 112, 0: 8, 1.41421356: 86} {
		assert.InDelta(t, at, drawnAt(t, string(draw.Against(share, "")), `cx="([^"]+)"`), 0.1, share)
	}
}

func TestASparkMarksItsSigns(t *testing.T) {
	c := gauge.Chart{
		Values: []quantity.Amount{0, 10, -10, 90}, Low: -20, High: 20, Signs: []gauge.Sign{{At: []int{3}}},
	}
	p := string(draw.Spark(c, "checks"))
	assert.Equal(t, 1, strings.Count(p, `class="sign"`))
	assert.Equal(t, 3, strings.Count(p, `class="line"`))
	assert.InDelta(t, 24*40/110., drawnAt(t, p, `"band"[^>]* height="([^"]+)"`), 0.1)
	assert.NotContains(t, string(draw.Spark(gauge.Chart{Values: []quantity.Amount{0}}, "")), "NaN")
}
