package demo

import (
	"time"

	"yatai/core/schedule"
	"yatai/shop"
)

// hours are the demo's: the usual ones.
var hours = func() schedule.Hours {
	h, err := schedule.ParseHours(shop.UsualHours)
	if err != nil {
		panic(err)
	}
	return h
}()

// begins is how long after opening the demo's day is, at least: something has been done by then.
const begins = 90 * time.Minute

// Clock returns the demo's clock, whatever the time is: as fast as now, and as late while the shop is
// open and has been for a while. At another time it begins in the next forenoon of the shop, and never
// before last, when something was written in its file. Times are local.
func Clock(now func() time.Time, last time.Time) func() time.Time {
	at := now().Local()
	to := at
	for day := at; ; day = day.AddDate(0, 0, 1) {
		open, shut, ok := opening(day)
		if from := open.Add(begins); ok && at.Before(shut.Add(-begins)) {
			if to.Before(from) {
				to = from
			}
			break
		}
	}
	if to.Before(last) {
		to = last.Add(time.Minute)
	}
	ahead := to.Sub(at)
	return func() time.Time { return now().Add(ahead) }
}

// opening is when the shop opens and shuts on a day, the time between its shifts left out; ok is false
// where it does not open.
func opening(day time.Time) (open, shut time.Time, ok bool) {
	shifts := hours[day.Weekday()]
	if len(shifts) == 0 {
		return open, shut, false
	}
	at := func(minutes int) time.Time {
		return time.Date(day.Year(), day.Month(), day.Day(), 0, minutes, 0, 0, day.Location())
	}
	return at(shifts[0].From), at(shifts[len(shifts)-1].To), true
}

// inHours is a time of the past as it would be in the shop's hours, later times later: what lies between
// the opening of one day and the opening of the next falls into the hours of the first. What lies
// between the last opening and now stays. All of it stays while the shop is shut, or has just opened: a
// clock of one's own.
func inHours(t, now time.Time) time.Time {
	t, now = t.Local(), now.Local()
	open, shut, ok := opening(now)
	if !ok || now.Before(open.Add(begins)) || !now.Before(shut) || !t.Before(open) {
		return t
	}
	day, next := t, t
	open, shut, ok = opening(day)
	for !ok || t.Before(open) {
		day = day.AddDate(0, 0, -1)
		open, shut, ok = opening(day)
	}
	for next = day.AddDate(0, 0, 1); ; next = next.AddDate(0, 0, 1) {
		if again, _, ok := opening(next); ok {
			part := float64(t.Sub(open)) / float64(again.Sub(open))
			return open.Add(time.Duration(part * float64(shut.Sub(open))))
		}
	}
}

// fits is the first time from t on at which so much can be done before the shop shuts, or the opening of the
// first day long enough.
func fits(t time.Time, long time.Duration) time.Time {
	t = t.Local()
	for day := t; ; day = time.Date(day.Year(), day.Month(), day.Day()+1, 0, 0, 0, 0, day.Location()) {
		open, shut, ok := opening(day)
		if !ok {
			continue
		}
		if open.Before(t) {
			open = t
		}
		if !open.Add(long).After(shut) || long > shut.Sub(open) && open.After(t) {
			return open
		}
	}
}
