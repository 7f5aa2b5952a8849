package words

import (
	"strconv"
	"strings"
	"time"
)

// Date writes a day in the shop's time zone, with its year when it is not now's: "Mon 2 Jan",
// "Mo 2. Jan. 2033".
func (l *Language) Date(t, now time.Time) string {
	return l.days[t.Local().Weekday()] + " " + l.Short(t, now)
}

// Short writes a day without its weekday: "2 Jan", "2. Jan. 2033".
func (l *Language) Short(t, now time.Time) string {
	t = t.Local()
	said := strconv.Itoa(t.Day()) + l.sep + l.months[t.Month()-1]
	if t.Year() != now.Local().Year() {
		said += t.Format(" 2006")
	}
	return said
}

// Long writes a day as letters do: "2 January 2033", "2. Januar 2033".
func (l *Language) Long(t time.Time) string {
	t = t.Local()
	return strconv.Itoa(t.Day()) + l.sep + l.long[t.Month()-1] + t.Format(" 2006")
}

// Clock writes a moment: "2 Jan 15:04".
func (l *Language) Clock(t, now time.Time) string {
	return l.Short(t, now) + t.Local().Format(" 15:04")
}

// ReadMonth is the month a text names in the language, whole or shortened.
func (l *Language) ReadMonth(text string) (time.Month, bool) {
	for i := range 12 {
		if text == l.long[i] || text == l.months[i] {
			return time.Month(i + 1), true
		}
	}
	return 0, false
}

// Weekday is a day of the week in short: "Mon".
func (l *Language) Weekday(d time.Weekday) string { return l.days[d] }

// ReadWeekday is the day of the week a text names in the language, whole or shortened, in any case.
func (l *Language) ReadWeekday(text string) (time.Weekday, bool) {
	text = strings.TrimSuffix(text, ".")
	for i := range 7 {
		if strings.EqualFold(text, l.days[i]) || strings.EqualFold(text, l.weekdays[i]) {
			return time.Weekday(i), true
		}
	}
	return 0, false
}
