package schedule

import (
	"fmt"
	"iter"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/words"
)

// Shift is a stretch of working time within a day, in minutes after midnight: 480 to 720.
type Shift struct{ From, To int }

// Hours are the working hours of a week by weekday, Sunday first, as in time.Weekday.
// The shifts of a day are in order and do not touch.
type Hours [7][]Shift

// doors are the ways people write hours that mean the same: a longer stroke between two times, a point in
// one.
var doors = strings.NewReplacer(" – ", "-", " - ", "-", "–", "-", "—", "-", ".", ":", " Uhr", "")

// ParseHours reads working hours as they are written on a door, days in any of the program's languages:
// groups of days with their shifts, apart by semicolons: "Mon-Thu 8:00-12:00 12:30-16:30; Fri 8:00-13:00",
// "Mo-Fr 8.00–16.30 Uhr". Later groups take the place of earlier ones for the same day. Hours without any
// shift are an error, and so are shifts that overlap or end before they begin.
func ParseHours(text string) (Hours, error) {
	var h Hours
	open := false
	for _, group := range strings.Split(doors.Replace(text), ";") {
		words := strings.Fields(group)
		if len(words) == 0 {
			continue
		}
		days, err := parseDays(words[0])
		if err != nil {
			return h, err
		}
		var shifts []Shift
		for _, w := range words[1:] {
			s, err := parseShift(w)
			if err != nil {
				return h, err
			}
			if len(shifts) > 0 && s.From <= shifts[len(shifts)-1].To {
				return h, field.Errorf("hours", "%s begins before the shift in front of it has ended", w)
			}
			shifts = append(shifts, s)
			open = true
		}
		for _, d := range days {
			h[d] = shifts
		}
	}
	if !open {
		return h, field.Errorf("hours", "no working hours: write them like Mon-Fri 8:00-12:00 12:30-16:30")
	}
	return h, nil
}

func parseDays(text string) ([]int, error) {
	from, to, span := strings.Cut(text, "-")
	if !span {
		to = from
	}
	for _, l := range words.All {
		a, ok := l.ReadWeekday(strings.TrimRight(from, ":"))
		b, ok2 := l.ReadWeekday(strings.TrimRight(to, ":"))
		if !ok || !ok2 {
			continue
		}
		out := []int{int(a)}
		for d := a; d != b; {
			d = (d + 1) % 7
			out = append(out, int(d))
		}
		return out, nil
	}
	return nil, field.Errorf("hours", "%s: name days like Mon-Fri or Sat", text)
}

func parseShift(text string) (Shift, error) {
	var s Shift
	from, to, span := strings.Cut(text, "-")
	if span {
		var ok, ok2 bool
		s.From, ok = parseClock(from)
		s.To, ok2 = parseClock(to)
		if ok && ok2 && s.From < s.To {
			return s, nil
		}
	}
	return s, field.Errorf("hours", "%s: write a shift like 8:00-12:00", text)
}

// timeOfDay is one as it is written.
var timeOfDay = regexp.MustCompile(`^([0-9]{1,2}):([0-5][0-9])$`)

// parseClock reads a time of day, 24:00 being the end of the day.
func parseClock(text string) (int, bool) {
	m := timeOfDay.FindStringSubmatch(text)
	if m == nil {
		return 0, false
	}
	h, _ := strconv.Atoi(m[1]) // digits
	minutes, _ := strconv.Atoi(m[2])
	at := h*60 + minutes
	return at, at <= 24*60
}

// String writes the hours as ParseHours reads them, days of equal hours together.
func (h Hours) String() string {
	var groups []string
	order := []int{1, 2, 3, 4, 5, 6, 0}
	for i := 0; i < 7; {
		k := i
		for k+1 < 7 && slices.Equal(h[order[k+1]], h[order[i]]) {
			k++
		}
		if shifts := h[order[i]]; len(shifts) > 0 {
			name := func(d int) string { return words.English.Weekday(time.Weekday(d)) }
			g := name(order[i])
			if k > i {
				g += "-" + name(order[k])
			}
			for _, s := range shifts {
				g += fmt.Sprintf(" %d:%02d-%d:%02d", s.From/60, s.From%60, s.To/60, s.To%60)
			}
			groups = append(groups, g)
		}
		i = k + 1
	}
	return strings.Join(groups, "; ")
}

// longest is the longest shift of the week, in minutes.
func (h Hours) longest() int {
	most := 0
	for _, day := range h {
		for _, s := range day {
			most = max(most, s.To-s.From)
		}
	}
	return most
}

// Between is the working time between two times.
func (h Hours) Between(from, to time.Time) time.Duration {
	var sum time.Duration
	for sp := range newCalendar(from, attendance{hours: h}).from(from) {
		if !sp.Start.Before(to) {
			break
		}
		if sp.End.After(to) {
			sp.End = to
		}
		sum += sp.End.Sub(sp.Start)
	}
	return sum
}

// Span is a stretch of time, End not included.
type Span struct{ Start, End time.Time }

// horizon bounds how many days ahead anything is planned.
const horizon = 2 * 366

// calendar is the working time that one or more have in common, from a day on, laid out as far
// as it was asked for.
type calendar struct {
	of    []attendance
	spans []Span
	day   time.Time // the next to be laid out
	left  int       // days until the horizon
}

// attendance is when a station is open, or a person is there.
type attendance struct {
	hours  Hours
	closed map[string]bool // days, as 2031-12-24
}

func newCalendar(from time.Time, of ...attendance) *calendar {
	return &calendar{of: of, day: time.Date(from.Year(), from.Month(), from.Day(), 0, 0, 0, 0,
		from.Location()), left: horizon}
}

// more lays out the next day; false at the horizon.
func (c *calendar) more() bool {
	if c.left == 0 {
		return false
	}
	var shifts []Shift
	for i, a := range c.of {
		if len(a.closed) > 0 && a.closed[c.day.Format(time.DateOnly)] {
			shifts = nil
			break
		}
		if own := a.hours[c.day.Weekday()]; i == 0 {
			shifts = own
		} else {
			shifts = common(shifts, own)
		}
	}
	for _, s := range shifts {
		c.spans = append(c.spans, Span{clock(c.day, s.From), clock(c.day, s.To)})
	}
	c.day, c.left = c.day.AddDate(0, 0, 1), c.left-1
	return true
}

// common returns the stretches that are in both, in order.
func common(a, b []Shift) []Shift {
	var out []Shift
	for _, x := range a {
		for _, y := range b {
			if from, to := max(x.From, y.From), min(x.To, y.To); from < to {
				out = append(out, Shift{from, to})
			}
		}
	}
	return out
}

// from yields the working time from t on, in order, until the horizon.
func (c *calendar) from(t time.Time) iter.Seq[Span] {
	return func(yield func(Span) bool) {
		i, hi := 0, len(c.spans) // the first that ends after t
		for i < hi {
			if mid := (i + hi) / 2; c.spans[mid].End.After(t) {
				hi = mid
			} else {
				i = mid + 1
			}
		}
		for {
			for ; i < len(c.spans); i++ {
				sp := c.spans[i]
				if sp.Start.Before(t) {
					sp.Start = t
				}
				if sp.Start.Before(sp.End) && !yield(sp) {
					return
				}
			}
			if !c.more() {
				return
			}
		}
	}
}

// within yields the working time from t on that is laid out already.
func (c *calendar) within(t time.Time) iter.Seq[Span] {
	return func(yield func(Span) bool) {
		for _, sp := range c.spans {
			if sp.Start.Before(t) {
				sp.Start = t
			}
			if sp.Start.Before(sp.End) && !yield(sp) {
				return
			}
		}
	}
}

// clock is the time on the wall, minutes after midnight of a day: on days when the clocks
// change it is still what the wall shows.
func clock(day time.Time, minutes int) time.Time {
	return time.Date(day.Year(), day.Month(), day.Day(), 0, minutes, 0, 0, day.Location())
}
