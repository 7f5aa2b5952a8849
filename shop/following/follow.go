// Package following is what the shop owes after the work: reminders, earlier visits, calendars,
// and mail that is sent for it.
package following

import (
	"context"
	"crypto/rand"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/parts"
	"yatai/shop/week"
	"yatai/store"
)

// Due is a reminder with its head's tag.
type Due struct {
	store.Reminder
	Tag     string
	Overdue bool
}

// FollowUps lists what is to be done about heads that have left, the next first.
func FollowUps(ctx context.Context, s *shop.Shop) ([]Due, error) {
	db := s.Store.Read(ctx)
	rows, err := db.Reminders()
	if err != nil {
		return nil, err
	}
	var ids []uint
	for _, r := range rows {
		ids = append(ids, r.HeadID)
	}
	tags, err := db.TagsOf(ids)
	var out []Due
	for _, r := range rows {
		out = append(out, Due{r, tags[r.HeadID], s.Now().After(r.Due)})
	}
	return out, err
}

// Remind adds a reminder to a head.
func Remind(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, day, what string) error {
	if err := a.Must("quote"); err != nil {
		return err
	}
	errs := field.Errors{}
	what = shop.Required(errs, "what", what, "what is to be done?", 200)
	on := dayOr(errs, "day", day, time.Time{})
	if strings.TrimSpace(day) == "" {
		errs.Addf("day", "a date like 2031-05-20")
	}
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		if err := tx.Add(reminder(f.ID, on, what)); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "reminder set", day+": "+what)
	})
}

// reminder is one of a head on a day.
func reminder(head uint, day time.Time, what string) *store.Reminder {
	return &store.Reminder{HeadID: head, Due: shop.Date(day), What: what}
}

// Reminded marks a reminder as done.
func Reminded(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint) error {
	if err := a.Must("quote"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		due, err := tx.Reminders()
		if err != nil {
			return "", err
		}
		i := slices.IndexFunc(due, func(r store.Reminder) bool { return r.ID == id })
		if i < 0 {
			return "", shop.ErrNotFound
		}
		if _, err := tx.Reminded(id, s.Now()); err != nil {
			return "", err
		}
		return "", s.Note(tx, a, due[i].HeadID, "reminder done", due[i].What)
	})
	return err
}

// CalendarKey returns the key of the calendar's address, made the first time it is asked for.
func CalendarKey(ctx context.Context, s *shop.Shop, a shop.Actor) (string, error) {
	if err := a.Must("quote"); err != nil {
		return "", err
	}
	set, err := s.Settings(ctx, "")
	if err != nil || set.Get(shop.CalendarKey) != "" {
		return set.Get(shop.CalendarKey), err
	}
	key := rand.Text()
	return key, s.Store.Write(ctx, func(tx store.DB) error { return tx.Set(shop.CalendarKey, key) })
}

// Calendar writes promises, when heads will be ready by the week's plan, reminders and
// parts to come as iCalendar; of somebody's own key, what they do by the plan. A wrong key is
// ErrNotFound.
func Calendar(ctx context.Context, s *shop.Shop, key string) (string, error) {
	set, err := s.Settings(ctx, "")
	if err != nil {
		return "", err
	}
	db := s.Store.Read(ctx)
	if key == "" || set.Get(shop.CalendarKey) != key {
		return ownCalendar(s, db, set, key)
	}
	heads, err := db.OpenHeads()
	if err != nil {
		return "", err
	}
	cal := ics.NewCalendarFor(set.Get("shop_name"))
	cal.SetMethod(ics.MethodPublish)
	add := func(id string, day time.Time, what string) {
		e := cal.AddEvent(id + "@yatai")
		e.SetDtStampTime(s.Now())
		e.SetAllDayStartAt(day)
		e.SetAllDayEndAt(day.AddDate(0, 0, 1))
		e.SetSummary(what)
	}
	for _, h := range heads {
		if h.Job.Promise != nil {
			add("promise-"+h.Tag, *h.Job.Promised(),
				fmt.Sprintf("%s promised: %s, %s", h.Tag, h.Model.Name, h.Job.Customer.Name))
		}
	}
	week, err := week.ReckonIn(s, db)
	if err != nil {
		return "", err
	}
	for _, h := range week.Heads {
		if h.Known && h.Left > 0 {
			add("ready-"+h.Tag, h.Outcome.Done, fmt.Sprintf("%s ready by the week's plan: %s", h.Tag, h.Model.Name))
		}
	}
	due, err := FollowUps(ctx, s)
	if err != nil {
		return "", err
	}
	for _, r := range due {
		add("reminder-"+strconv.Itoa(int(r.ID)), r.Due, r.Tag+": "+r.What)
	}
	stock, err := parts.Stock(ctx, s)
	if err != nil {
		return "", err
	}
	for _, o := range stock.Orders {
		if o.ReceivedAt == nil {
			add("order-"+strconv.Itoa(int(o.ID)), o.Due,
				strings.TrimSpace(fmt.Sprintf("%d x %s due %s", o.Count, o.Item.Name, o.Tag)))
		}
	}
	return cal.Serialize(ics.WithNewLineWindows), nil
}

// OwnCalendarKey returns the secret in the address of somebody's own calendar, "" until it is made.
func OwnCalendarKey(ctx context.Context, s *shop.Shop, a shop.Actor) (string, error) {
	u, err := s.Store.Read(ctx).User(a.ID)
	return u.CalendarKey, err
}

// MakeOwnCalendar makes the secret of somebody's own calendar, a new one where there is one.
func MakeOwnCalendar(ctx context.Context, s *shop.Shop, a shop.Actor) error {
	return s.Store.Write(ctx, func(tx store.DB) error { return tx.SetCalendarKey(a.ID, rand.Text()) })
}

// ownCalendar writes what somebody does by the week's plan as iCalendar.
func ownCalendar(s *shop.Shop, db store.DB, set shop.Settings, key string) (string, error) {
	u, ok, err := db.UserByCalendarKey(key)
	if err != nil {
		return "", err
	}
	if !ok {
		return "", shop.ErrNotFound
	}
	w, err := week.ReckonIn(s, db)
	if err != nil {
		return "", err
	}
	cal := ics.NewCalendarFor(set.Get("shop_name"))
	cal.SetMethod(ics.MethodPublish)
	_, bars := w.ByPerson()
	for _, b := range bars {
		if b.Station != u.Name {
			continue
		}
		for i, p := range b.Pieces {
			e := cal.AddEvent(
				fmt.Sprintf("%s-%d-%d@yatai", strings.NewReplacer("/", "-", " ", "-").Replace(b.ID), u.ID, i),
			)
			e.SetDtStampTime(s.Now())
			e.SetStartAt(p.Start)
			e.SetEndAt(p.End)
			e.SetSummary(w.Task(b.ID))
		}
	}
	return cal.Serialize(ics.WithNewLineWindows), nil
}

// mostBefore bounds the jobs of before the program that are shown of a head.
const mostBefore = 20

// Before lists the jobs of before the program on a head with the same marks, the newest first.
func Before(ctx context.Context, s *shop.Shop, f *headfile.File) ([]store.OldJob, error) {
	return s.Store.Read(ctx).OldJobsMarked(f.Marks, mostBefore)
}
