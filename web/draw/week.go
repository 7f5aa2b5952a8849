package draw

import (
	"fmt"
	"html/template"
	"slices"
	"strings"
	"time"

	"yatai/core/schedule"
)

// WeekBar is what the drawing of the week shows of a bar besides its times.
type WeekBar struct {
	Label string // on the bar: the tag
	Says  string // what it is: "T0404 cut seats"
	Link  string
	Late  bool // of a head that will be late
	Firm  bool // of ordered work
	Moves bool // it may be put to another time
}

// WeekFlag is something that happens at a time: a promise, a part that comes.
type WeekFlag struct {
	Row  string // "promised", "parts come"
	At   time.Time
	Tag  string
	Says string
	Link string
	Late bool
}

// The week's drawing, in its own units.
const (
	weekWide  = 1240.0
	weekNames = 150.0 // the stations' names
	weekLane  = 20.0
	weekHead  = 22.0
)

// weekDays is how many days are drawn where nobody says.
const weekDays = 9

// dayColumn is a day of the drawing: its working time from the first opening to the last
// closing of all stations.
type dayColumn struct {
	open, shut time.Time
	x, wide    float64
}

// Week draws the stations over the days of a plan: a lane for each place of a station that
// is used, a bar for each operation on the hours it takes, and what is promised and what
// comes above them. Days on which no station works are left out; what lies behind the last
// day drawn is not drawn, and the head's line says when it is done. most is how many days are
// drawn at most; 0 is a week and the next days.
func Week(
	p schedule.Problem, bars []schedule.Bar, flags []WeekFlag, most int, show func(schedule.Bar) WeekBar,
) template.HTML {
	stations, now := p.Stations, p.Now
	if most < 1 {
		most = weekDays
	}
	days := dayColumns(p, bars, most)
	used, lanes := map[string]int{}, 0
	for _, b := range bars {
		used[b.Station] = max(used[b.Station], b.Unit+1)
	}
	var rows []string
	for _, f := range flags {
		if !slices.Contains(rows, f.Row) {
			rows = append(rows, f.Row)
		}
	}
	for _, st := range stations {
		lanes += max(1, used[st.Name])
	}
	high := weekHead + float64(lanes+len(rows))*weekLane + 3*float64(len(stations)+len(rows))
	var s svg
	s.add(
		`<svg class="week" viewBox="0 0 %.0f %.0f" role="group" aria-label="stations over the days, from %s" data-days="%s">`, weekWide, high+2,
		now.Format("Mon 2 Jan"), columns(days),
	)
	for i, d := range days {
		class := "dayline"
		if i == 0 {
			class = "dayline today"
		}
		s.add(
			`<path class="%s" d="M%.1f 0V%.1f"/><text class="dayname" x="%.1f" y="14" font-size="13">%s</text>`, class,
			d.x, high, d.x+5,
			d.open.Format("Mon 2 Jan"),
		)
	}
	y := weekHead
	for _, row := range rows {
		s.add(`<text class="place" x="2" y="%.1f" font-size="13.500">%s</text>`, y+14.5, row)
		weekFlags(&s, days, flags, row, y)
		y += weekLane + 3
		s.add(`<path class="stationline" d="M0 %.1fH%.0f"/>`, y-1, weekWide)
	}
	for _, st := range stations {
		s.add(`<text class="place" x="2" y="%.1f" font-size="13.500">%s</text>`, y+14.5, st.Name)
		for unit := range max(1, used[st.Name]) {
			for _, b := range bars {
				if b.Station == st.Name && b.Unit == unit && b.Minutes > 0 {
					weekBar(&s, days, b, show(b), y+2)
				}
			}
			y += weekLane
		}
		y += 3
		s.add(`<path class="stationline" d="M0 %.1fH%.0f"/>`, y-1, weekWide)
	}
	if len(days) > 0 {
		if at := days[0].at(now); at > days[0].x {
			s.add(`<path class="now" d="M%.1f 16V%.1f"/>`, at, high)
		}
	}
	s.WriteString(`</svg>`)
	return s.html()
}

// dayColumns lays out the days from now on that any station works, as far as there are
// bars, from the earliest opening to the latest closing.
func dayColumns(p schedule.Problem, bars []schedule.Bar, most int) []dayColumn {
	stations, now, closed := p.Stations, p.Now, p.Closed
	end := now
	for _, b := range bars {
		if b.End.After(end) {
			end = b.End
		}
	}
	var days []dayColumn
	day := time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, now.Location())
	for range 3 * most {
		open, shut := 24*60, 0
		for _, st := range stations {
			if shifts := st.Hours[day.Weekday()]; len(shifts) > 0 {
				open, shut = min(open, shifts[0].From), max(shut, shifts[len(shifts)-1].To)
			}
		}
		c := dayColumn{
			open: day.Add(time.Duration(open) * time.Minute), shut: day.Add(time.Duration(shut) * time.Minute),
		}
		if open < shut && !closed[day.Format(time.DateOnly)] && c.shut.After(now) {
			days = append(days, c)
		}
		day = day.AddDate(0, 0, 1)
		if len(days) == most || len(days) > 1 && day.After(end) {
			break
		}
	}
	for i := range days {
		days[i].wide = (weekWide - weekNames) / float64(len(days))
		days[i].x = weekNames + float64(i)*days[i].wide
	}
	return days
}

// columns writes where the days lie, for what moves a bar: for each its x and width in the
// drawing, its opening and closing in seconds.
func columns(days []dayColumn) string {
	var out []string
	for _, d := range days {
		out = append(out, fmt.Sprintf("%.1f %.1f %d %d", d.x, d.wide, d.open.Unix(), d.shut.Unix()))
	}
	return strings.Join(out, ";")
}

// at is where a time of the day lies, kept within the column.
func (d dayColumn) at(t time.Time) float64 {
	part := float64(t.Sub(d.open)) / float64(d.shut.Sub(d.open))
	return d.x + d.wide*min(1, max(0, part))
}

// weekBar draws a bar: a box for each stretch of working time, one beside the other, and
// its tag on the longest.
func weekBar(s *svg, days []dayColumn, b schedule.Bar, w WeekBar, y float64) {
	type box struct{ x, wide float64 }
	var boxes []box
	for _, p := range b.Pieces {
		i := slices.IndexFunc(days, func(d dayColumn) bool { return p.Start.Before(d.shut) && p.End.After(d.open) })
		if i < 0 {
			continue
		}
		x := days[i].at(p.Start)
		next := box{x, max(2.5, days[i].at(p.End)-x)}
		if n := len(boxes); n > 0 && next.x-boxes[n-1].x-boxes[n-1].wide < days[i].wide/8 &&
			next.x > boxes[n-1].x && boxes[n-1].x >= days[i].x {
			boxes[n-1].wide = next.x + next.wide - boxes[n-1].x // over the break of the day: one box
			continue
		}
		boxes = append(boxes, next)
	}
	if boxes == nil {
		return
	}
	class := []string{"bar"}
	for word, is := range map[string]bool{"late": w.Late, "open": !w.Firm, "running": b.Running} {
		if is {
			class = append(class, word)
		}
	}
	slices.Sort(class)
	longest := boxes[0]
	for _, x := range boxes {
		if x.wide > longest.wide {
			longest = x
		}
	}
	label, name := w.Label, w.Says+", "+barTimes(b)
	if longest.wide < 40 { // the end of the tag will do
		label = label[max(0, len(label)-2):]
		name = label + ": " + name // what is seen is in what is said
	}
	s.add(`<a href="%s" class="%s" aria-label="%s"`, w.Link, strings.Join(class, " "), name)
	if w.Moves {
		s.add(` data-bar="%s" data-start="%d"`, b.ID, b.Start.Unix())
	}
	s.add(`><title>%s</title>`, w.Says+", "+barTimes(b))
	for _, x := range boxes {
		s.add(`<rect x="%.1f" y="%.1f" width="%.1f" height="%.1f"/>`, x.x, y, x.wide, weekLane-3)
	}
	if longest.wide > 17 {
		s.add(`<text aria-hidden="true" x="%.1f" y="%.1f" font-size="11.500">%s</text>`, longest.x+2, y+12.5, label)
	}
	s.WriteString(`</a>`)
}

// weekFlags draws what happens in a row: a mark on its time with the tag beside it, one
// below the other's end where they would meet.
func weekFlags(s *svg, days []dayColumn, flags []WeekFlag, row string, y float64) {
	free := 0.0
	for _, f := range flags {
		i := slices.IndexFunc(days, func(d dayColumn) bool {
			return !f.At.After(d.shut) || f.At.YearDay() == d.open.YearDay() && f.At.Year() == d.open.Year()
		})
		if f.Row != row || i < 0 {
			continue
		}
		x := max(min(days[i].at(f.At), days[i].x+days[i].wide-50), free)
		free = x + 48
		class := "flag"
		if f.Late {
			class = "flag late"
		}
		s.add(
			`<a href="%s" class="%s" aria-label="%s"><title>%s</title><path d="M%.1f %.1fl7 0l-3.500 8z"/>`+
				`<text aria-hidden="true" x="%.1f" y="%.1f" font-size="11.500">%s</text></a>`,
			f.Link, class, f.Says, f.Says, x, y+5, x+9, y+14, f.Tag,
		)
	}
}

// barTimes writes when a bar is: "Tue 24 Nov 7:30 to 10:12".
func barTimes(b schedule.Bar) string {
	end := "15:04"
	if b.End.YearDay() != b.Start.YearDay() || b.End.Year() != b.Start.Year() {
		end = "Mon 2 Jan 15:04"
	}
	return fmt.Sprintf("%s to %s", b.Start.Format("Mon 2 Jan 15:04"), b.End.Format(end))
}
