package quoting

import (
	"errors"
	"fmt"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/schedule"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/week"
	"yatai/store"
)

// heldAt is the hour until which an earlier day is held, of the next day on which the shop is open.
const heldAt = 12

// sooner is a line that offers an earlier day for a surcharge: what a day of another head's lateness costs,
// for all the days that heads promised to others would be later, and the least. What it would make late is
// told to the shop alone.
func sooner(s *shop.Shop, tx store.DB, tag string) (line store.QuoteLine, makesLate string, err error) {
	saved, err := tx.Settings()
	if err != nil {
		return line, "", err
	}
	set := shop.SettingsFor(saved, tag)
	held := nextNoon(s.Now().Local(), set.Get("hours"))
	first, ok, err := week.TakenFirst(s, tx, tag, held)
	if err != nil {
		return line, "", err
	}
	if !ok {
		return line, "", field.Only("sooner", "it would be done on no earlier day if it were taken before all others")
	}
	cents := Surcharge(set.Cents("sooner_day"), set.Cents("sooner_least"), first.Late)
	ready := first.Ready.UTC()
	because := words.Of("done by %s, before others; held until %s, %s", first.Ready.Local(), held, held.Format("15:04"))
	for _, c := range first.Heads {
		makesLate += fmt.Sprintf(", %s by %.0f h", c.Job, (c.Late - c.WasLate).Hours())
	}
	held = held.UTC()
	return store.QuoteLine{
		Grp: headfile.Could, Name: "An earlier day", Reason: because.String(), Said: because.Kept(), PartsCents: cents,
		Sooner: &ready, Held: &held,
	}, strings.TrimPrefix(makesLate, ", "), nil
}

// Surcharge is what an earlier day costs, in whole cents, rounded up: so much for each day of lateness it
// causes, and at least so much.
func Surcharge(day, least int64, late time.Duration) int64 {
	const full = int64(24 * time.Hour / time.Second)
	return max(least, (day*int64(late/time.Second)+full-1)/full)
}

// nextNoon is noon of the next day after now on which there is work.
func nextNoon(now time.Time, hours string) time.Time {
	open, err := schedule.ParseHours(hours)
	at := time.Date(now.Year(), now.Month(), now.Day()+1, heldAt, 0, 0, 0, now.Location())
	for range 7 {
		if err != nil || len(open[at.Weekday()]) > 0 {
			break
		}
		at = at.AddDate(0, 0, 1)
	}
	return at
}

// held says that an earlier day that was said yes to is held no more.
func held(t headfile.Together, now time.Time) error {
	for _, j := range t {
		for _, l := range j.Q.Lines {
			if l.Held != nil && now.After(*l.Held) && j.Q.Answers[l.Seq] {
				return field.Only("name", "the earlier day was held until %s and is given away: answer without it, or ask for a call",
					l.Held.Local().Format("2 Jan 15:04"))
			}
		}
	}
	return nil
}

// takeFirst takes a head before all others whose earlier day was said yes to, and promises it.
func takeFirst(s *shop.Shop, tx store.DB, a shop.Actor, j headfile.Joined) error {
	for _, l := range j.Q.Lines {
		if l.Sooner == nil || !j.Q.Answers[l.Seq] {
			continue
		}
		day := shop.Date(l.Sooner.Local())
		var err error
		if j.Job.Promise == nil || j.Job.Promise.After(day) {
			err = tx.SetPromise(j.JobID, day)
		}
		return errors.Join(
			err, week.TakeFirst(tx, j.Head),
			s.Note(tx, a, j.ID, "taken before others", "promised by "+day.Format("2 Jan")+": the customer pays for it"),
		)
	}
	return nil
}
