package billing

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// reminded is what the history calls a reminder of payment.
const reminded = "payment reminded"

// Overdue is for how many days the oldest bill that is not paid in full is past its day; 0 when none is.
func (a Account) Overdue(now time.Time) int { return overdue(a.Bills, a.Paid(), now) }

// overdue is for how many whole days the oldest of an order's bills that what was paid, and credited, does
// not cover is past its day; 0 when none is.
func overdue(bills []store.Bill, paid int64, now time.Time) int {
	var asked []store.Bill
	for _, b := range bills {
		if b.Credits != nil {
			paid -= b.Gross()
			continue
		}
		asked = append(asked, b)
	}
	slices.SortStableFunc(asked, func(a, b store.Bill) int { return a.Due.Compare(b.Due) })
	for _, b := range asked {
		if paid -= b.Gross(); paid < 0 {
			return max(0, int(now.Sub(b.Due).Hours()/24))
		}
	}
	return 0
}

// RemindForm reminds of what is open: by mail, or Told says how the customer heard of it.
type RemindForm struct {
	WriteID string
	Mail    bool
	Told    string
}

// Remind reminds a customer of what is open past its day: by a mail in their language, that goes to
// the outbox, or told in another way, which is written down. Errors are keyed "remind"; one
// reminder a day is enough.
func Remind(ctx context.Context, s *shop.Shop, a shop.Actor, tag string, form RemindForm) error {
	if err := a.Must("bill"); err != nil {
		return err
	}
	errs := field.Errors{}
	told := shop.Optional(errs, "remind", form.Told, 200)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, form.WriteID, tag, func(tx store.DB, f *headfile.File) error {
		acc, err := accountIn(s, tx, f, terms{})
		if err != nil {
			return err
		}
		switch to := f.Job.Customer; {
		case acc.Overdue(s.Now()) == 0:
			return field.Only("remind", "nothing is open past its day")
		case len(acc.Reminders) > 0 && s.Now().Sub(acc.Reminders[0].At) < 20*time.Hour:
			return field.Only("remind", "they were reminded today already")
		case !form.Mail && told == "":
			return field.Only("remind", "write down how they heard of it")
		case !form.Mail:
			return s.Note(tx, a, f.ID, reminded, told)
		case to.Email == "":
			return field.Only(
				"remind", "no mail address of %s is known: call them, and write down how they heard of it",
				to.Name,
			)
		default:
			saved, err := tx.Settings()
			if err != nil {
				return err
			}
			mail := reminder(f, acc, shop.SettingsFor(saved, tag))
			mail.At = s.Now()
			return errors.Join(tx.Add(&mail), s.Note(tx, a, f.ID, reminded, "by mail to "+to.Email))
		}
	})
}

// reminder is the mail that reminds of what is open, in the customer's language.
func reminder(f *headfile.File, a Account, set shop.Settings) store.Mail {
	last, in := a.Bills[len(a.Bills)-1], words.In(f.Job.Customer.Language)
	sum := shop.Cash(a.Open()) + " " + last.Currency
	return store.Mail{
		HeadID: f.ID, Recipient: f.Job.Customer.Email, Subject: in.Say("Bill %s: %s are open", last.Number, sum),
		Body: strings.Join([]string{
			in.Say("%s of our bill %s for your %s, our tag %s, are open; it was due on %s.", sum, last.Number,
				f.Model.Name, f.Tag, in.Long(last.Due)),
			in.Say("If you have paid meanwhile, thank you: our letters have crossed."), set.Get("shop_name"),
		}, "\n\n") + "\n",
	}
}

// remindersOf are the reminders among what happened to heads, oldest first, the newest first.
func remindersOf(events []store.Event) []store.Event {
	events = slices.DeleteFunc(events, func(e store.Event) bool { return e.What != reminded })
	slices.Reverse(events)
	return events
}
