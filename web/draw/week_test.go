package draw_test

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/schedule"
	"yatai/web/draw"
)

// weekOf plans some tasks at two stations from a Monday afternoon on.
func weekOf(t *testing.T, jobs ...schedule.Job) (schedule.Problem, schedule.Result) {
	t.Helper()
	h, err := schedule.ParseHours("Mon-Fri 8:00-12:00 12:30-16:00")
	require.NoError(t, err)
	p := schedule.Problem{
		Now: time.Date(2031, 3, 3, 14, 0, 0, 0, time.UTC), Closed: map[string]bool{"2031-03-05": true}, Jobs: jobs,
		Stations: []schedule.Station{
			{Name: "surfacer", Capacity: 1, Hours: h}, {Name: "bench & press", Capacity: 3, Hours: h},
		},
	}
	r, err := schedule.Plan(p)
	require.NoError(t, err)
	return p, r
}

func plain(b schedule.Bar) draw.WeekBar {
	return draw.WeekBar{Label: b.Job, Says: b.Job + " <turn>", Link: "/heads/" + b.Job, Firm: true}
}

func TestTheWeekDrawsEveryBarOnItsDay(t *testing.T) {
	p, r := weekOf(t,
		schedule.Job{Name: "T1", Tasks: []schedule.Task{
			{ID: "T1/1", Station: "surfacer", Minutes: 300}, {ID: "T1/2", Station: "bench & press", Minutes: 30},
		}},
		schedule.Job{Name: "T2", Tasks: []schedule.Task{
			{ID: "T2/1", Station: "bench & press", Minutes: 200}, {ID: "T2/2", Station: "surfacer", Minutes: 0},
		}})
	svg := string(draw.Week(p, r.Bars, nil, 0, plain))
	wellFormed(t, "week", svg)
	assert.Equal(t, 3, strings.Count(svg, `class="bar"`), "what takes no time is not drawn")
	assert.Contains(t, svg, "bench &amp; press")
	assert.Contains(t, svg, "T1 &lt;turn&gt;, Mon 3 Mar 14:00 to Tue 4 Mar 11:00")
	assert.Contains(t, svg, "Tue 4 Mar</text>")
	assert.NotContains(t, svg, "Wed 5 Mar</text>", "nobody works")
	assert.Contains(t, svg, `class="now"`)
	for _, m := range regexp.MustCompile(`<rect x="([\d.]+)" y="[\d.]+" width="([\d.]+)"`).FindAllStringSubmatch(svg, -1) {
		x, err := strconv.ParseFloat(m[1], 64)
		require.NoError(t, err)
		wide, err := strconv.ParseFloat(m[2], 64)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, x, 150.0, "right of the stations' names")
		assert.LessOrEqual(t, x+wide, 1240.1, "within the sheet")
		assert.Positive(t, wide)
	}
}

func TestFlagsOfTheWeekDoNotLieOnEachOther(t *testing.T) {
	p, r := weekOf(t, schedule.Job{Name: "T1", Tasks: []schedule.Task{{ID: "T1/1", Station: "surfacer", Minutes: 900}}})
	var flags []draw.WeekFlag
	for i := range 4 {
		flags = append(flags, draw.WeekFlag{
			Row: "promised", At: time.Date(2031, 3, 4, 23, 59, 0, 0, time.UTC), Tag: fmt.Sprint("T", i), Says: "promised",
			Late: i == 0,
		})
	}
	flags = append(flags, draw.WeekFlag{
		Row: "parts come", At: time.Date(2032, 1, 1, 0, 0, 0, 0, time.UTC), Tag: "T9", Says: "far away",
	})
	svg := string(draw.Week(p, r.Bars, flags, 0, plain))
	wellFormed(t, "flags", svg)
	last := 0.0
	for _, m := range regexp.MustCompile(`class="flag[^>]*>.*?<path d="M([\d.]+)`).FindAllStringSubmatch(svg, -1) {
		x, err := strconv.ParseFloat(m[1], 64)
		require.NoError(t, err)
		assert.Greater(t, x, last)
		last = x
	}
	assert.Equal(t, 4, strings.Count(svg, `class="flag`), "what lies behind the last day is not drawn")
	assert.Contains(t, svg, "parts come")
}

func TestAnEmptyWeekIsStillASheet(t *testing.T) {
	p, r := weekOf(t)
	svg := string(draw.Week(p, r.Bars, nil, 0, plain))
	wellFormed(t, "empty", svg)
	assert.Contains(t, svg, "surfacer")
	p.Stations = nil
	wellFormed(t, "no station", string(draw.Week(p, nil, nil, 0, plain)))
}
