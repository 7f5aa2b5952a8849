package table

import (
	"regexp"
	"strconv"
	"strings"
	"time"

	"github.com/xuri/excelize/v2"

	"yatai/core/field"
	"yatai/core/words"
)

// Order is which of two figures of a day comes first.
type Order string

// The orders of days written with strokes, like 5/6/2019.
const (
	DayFirst   Order = "day first"
	MonthFirst Order = "month first"
)

// Orders are the two.
var Orders = []Order{DayFirst, MonthFirst}

// strokes are days that are written in either order.
var strokes = regexp.MustCompile(`^([0-9]{1,2})[/-]([0-9]{1,2})[/-]([0-9]{2}|[0-9]{4})$`)

// OrderOf finds in which order a column's days are written: by those that can be read in one only.
// Both is true where no cell tells, and there is one that could be read either way.
func OrderOf(cells []string) (order Order, both bool) {
	for _, c := range cells {
		m := strokes.FindStringSubmatch(withoutHours(c))
		if m == nil {
			continue
		}
		first, _ := strconv.Atoi(m[1])
		second, _ := strconv.Atoi(m[2])
		switch {
		case first > 12 && second <= 12:
			return DayFirst, false
		case second > 12 && first <= 12:
			return MonthFirst, false
		case first != second:
			both = true
		}
	}
	return "", both
}

// dayForms are how days are written that can be read in one way only.
var dayForms = []string{
	time.DateOnly, "2006/1/2", "20060102", "2.1.2006", "2.1.06", "2 Jan 2006", "2 January 2006",
	"Jan 2, 2006", "January 2, 2006", "2-Jan-2006", "2-Jan-06",
}

// Day reads a day as people and spreadsheets write it, in either language, a time of day behind it
// left out; a spreadsheet's own is a count of days. Days with strokes are read in the order given.
func (t Table) Day(text string, order Order) (time.Time, error) {
	text = withoutHours(text)
	if m := strokes.FindStringSubmatch(text); m != nil {
		day, month := m[1], m[2]
		switch {
		case order == "" && m[1] != m[2]:
			return time.Time{}, field.Errorf("", "is the day first, or the month? Say it at its column")
		case order == MonthFirst:
			day, month = month, day
		}
		text = day + "." + month + "." + m[3]
	}
	for _, form := range dayForms {
		if at, err := time.Parse(form, english(text)); err == nil {
			return at, nil
		}
	}
	if n, err := strconv.ParseFloat(text, 64); err == nil {
		if at, err := excelize.ExcelDateToTime(n, t.since1904); err == nil {
			return at, nil
		}
	}
	return time.Time{}, field.Errorf("", "a date like 2019-05-20 or 20.5.2019")
}

var hours = regexp.MustCompile(`[T ][0-9]{1,2}:[0-9]{2}.*$`)

func withoutHours(text string) string { return hours.ReplaceAllString(strings.TrimSpace(text), "") }

// english is a day with a month's German name as the forms have it: "20. Mai 2019" as "20 May 2019".
func english(text string) string {
	parts := strings.Fields(text)
	if len(parts) != 3 || !strings.HasSuffix(parts[0], ".") {
		return text
	}
	if m, ok := words.German.ReadMonth(parts[1]); ok {
		return strings.TrimSuffix(parts[0], ".") + " " + m.String() + " " + parts[2]
	}
	return text
}
