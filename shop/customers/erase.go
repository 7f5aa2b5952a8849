package customers

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/shop"
	"yatai/store"
)

// EraseForm is a customer's wish to be erased. Name is typed again, so that nobody is erased by a slip.
type EraseForm struct{ WriteID, Name, Why string }

// Erase erases what is kept of a customer but need not be: how they are reached, notes, mails, photographs,
// links, the names of their machines, jobs of before the program, and what the history says of them. What
// was measured and done stays, for who holds the head next; bills, payments and answers to quotes stay, and
// where they were billed their name and address with these, for as long as bills are kept. Nothing is erased
// while a head of theirs is here or money is open. Errors are keyed "erase_name" and "erase_why".
func Erase(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, form EraseForm) error {
	if err := a.Must("erase a customer"); err != nil {
		return err
	}
	errs := field.Errors{}
	why := shop.Required(errs, "erase_why", form.Why, "say who asked for it, and how", 200)
	if err := errs.Err(); err != nil {
		return err
	}
	_, err := s.Once(ctx, form.WriteID, func(tx store.DB) (string, error) {
		c, err := tx.Customer(id)
		if err != nil {
			return "", err
		}
		if strings.TrimSpace(form.Name) != c.Name {
			return "", field.Only("erase_name", "type %s, as it stands above", c.Name)
		}
		heads, err := tx.HeadsOfCustomer(id, allHeads)
		if err != nil {
			return "", err
		}
		if err := free(tx, heads); err != nil {
			return "", err
		}
		if err := erase(s, tx, c, heads); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfCustomer, id), "customer erased", why)
	})
	return err
}

// free tells whether nothing of a customer's is under way: no head is here, and no money open.
func free(tx store.DB, heads []store.Head) error {
	for _, h := range heads {
		if h.HandedOverAt == nil {
			return field.Only("erase_name", "%s is still here: hand it over first", h.Tag)
		}
	}
	bills, err := tx.Bills(idsOf(heads)...)
	if err != nil {
		return err
	}
	payments, err := tx.Payments(idsOf(heads)...)
	if err != nil {
		return err
	}
	job, open := map[uint]uint{}, map[uint]int64{} // an order's heads share their bills
	for _, h := range heads {
		job[h.ID] = h.JobID
	}
	for _, b := range bills {
		open[job[b.HeadID]] += b.Gross()
	}
	for _, p := range payments {
		open[job[p.HeadID]] -= p.Cents
	}
	for _, h := range heads {
		if cents := open[h.JobID]; cents != 0 {
			return field.Only("erase_name", "%s are open for %s: settle them first", shop.Cash(cents), h.Tag)
		}
	}
	return nil
}

// erase erases a customer; the name and address stay where a bill of theirs must be kept.
func erase(s *shop.Shop, tx store.DB, c store.Customer, heads []store.Head) error {
	now, ids := s.Now(), idsOf(heads)
	name, address := nobody(c.ID), ""
	saved, err := tx.Settings()
	if err != nil {
		return err
	}
	if must, err := billed(tx, ids, keptFrom(saved, now)); err != nil {
		return err
	} else if must {
		name, address = c.Name, c.Address
	}
	if err := errors.Join(tx.EraseOf(ids, now), tx.EraseFromTables(c.ID, c.Name)); err != nil {
		return err
	}
	machines, err := tx.Machines(c.ID)
	if err != nil {
		return err
	}
	for n, m := range machines {
		if err := tx.RenameMachine(m.ID, fmt.Sprintf("machine %d", n+1)); err != nil {
			return err
		}
	}
	if err := tx.EraseOldJobs(c.ID); err != nil {
		return err
	}
	said := []string{c.Email, c.Telephone, c.Contact}
	said = slices.DeleteFunc(said, func(w string) bool { return len(w) < leastSaid })
	if err := tx.Silence(shop.About(shop.OfCustomer, c.ID), ids, said); err != nil {
		return err
	}
	return tx.EraseCustomer(c.ID, name, address, now)
}

// leastSaid is how long what a customer is reached by must be to be looked for in the history: of less every
// line might hold it.
const leastSaid = 5

// nobody is what a customer is called whose name is erased.
func nobody(id uint) string { return fmt.Sprintf("erased customer %d", id) }

// keptFrom is from when on bills must still be kept.
func keptFrom(saved map[string]string, now time.Time) time.Time {
	return now.AddDate(-shop.SettingsFor(saved, "").Int("bills_kept"), 0, 0)
}

// billed tells whether there is a bill of some heads from a time on.
func billed(tx store.DB, heads []uint, from time.Time) (bool, error) {
	bills, err := tx.Bills(heads...)
	return slices.ContainsFunc(bills, func(b store.Bill) bool { return b.At.After(from) }), err
}

// leftRowsKept is how many days rows of a table wait to be mended.
const leftRowsKept = 30

// Tidy removes what is kept no longer: rows of tables that nobody mended, mails and photographs older than
// the settings say, and the names of customers who were erased and whose bills need not be kept any more.
func Tidy(ctx context.Context, s *shop.Shop) error {
	return s.Store.Write(ctx, func(tx store.DB) error {
		saved, err := tx.Settings()
		if err != nil {
			return err
		}
		set := shop.SettingsFor(saved, "")
		for key, drop := range map[string]func(time.Time) (int64, error){
			"mails_kept": tx.DropMails, "photos_kept": tx.DropPhotos,
		} {
			if days := set.Int(key); days > 0 {
				if _, err := drop(s.Now().AddDate(0, 0, -days)); err != nil {
					return err
				}
			}
		}
		if err := tx.ForgetLeftRows(s.Now().AddDate(0, 0, -leftRowsKept)); err != nil {
			return err
		}
		erased, err := tx.Erased()
		if err != nil {
			return err
		}
		for _, c := range erased {
			if c.Name == nobody(c.ID) {
				continue
			}
			heads, err := tx.HeadsOfCustomer(c.ID, allHeads)
			if err != nil {
				return err
			}
			if must, err := billed(tx, idsOf(heads), keptFrom(saved, s.Now())); err != nil {
				return err
			} else if !must {
				if err := tx.EraseCustomer(c.ID, nobody(c.ID), "", *c.Erased); err != nil {
					return err
				}
			}
		}
		return nil
	})
}
