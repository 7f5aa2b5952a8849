package work

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/gate"
	"yatai/core/head"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/parts"
	"yatai/store"
)

// SignDeviation lets a feature pass the gate as it is now, with the lead's reason. It
// holds only for the figures of this moment: another reading asks again.
func SignDeviation(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, feature, reason string,
) error {
	if err := a.Must("sign a deviation"); err != nil {
		return err
	}
	errs := field.Errors{}
	reason = shop.Required(errs, feature, reason, "say why it may pass", 400)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, file *headfile.File) error {
		figure := ""
		if !strings.HasPrefix(feature, head.LeftOut) && !strings.HasPrefix(feature, gate.Record) {
			x, ok := file.Now.Feature(feature)
			if !ok {
				return shop.ErrNotFound
			}
			figure = file.Figure(x)
		}
		if file.ClosedAt != nil || !slices.ContainsFunc(file.Open(),
			func(l headfile.GateLine) bool { return l.Feature == feature }) {
			return field.Only(feature, "there is nothing to sign here")
		}
		if err := tx.Add(&store.Signoff{
			HeadID: file.ID, Feature: feature, Figure: figure, Reason: reason, PersonID: a.ID, At: s.Now(),
		}); err != nil {
			return err
		}
		return s.Note(tx, a, file.ID, "deviation signed", feature+": "+reason)
	})
}

// CloseForm is what passing the final check takes. Releaser and Licence are demanded for
// regulated work: the product's limits are a record, the release is the licensed person's.
// Record is what the final check writes down, by field: where that is all that is still to be done it is
// begun and finished by passing.
type CloseForm struct {
	WriteID, Refit, Releaser, Licence string
	Record                            map[string]string
}

// CloseHead passes the final gate. It refuses while anything is open.
func CloseHead(ctx context.Context, s *shop.Shop, a shop.Actor, tag string, c CloseForm) error {
	if err := a.Must("close a head"); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, c.WriteID, tag, func(tx store.DB, file *headfile.File) error {
		errs := field.Errors{}
		c.Refit = shop.Optional(errs, "refit", c.Refit, 2000)
		if file.Job.Regulated != "" {
			c.Releaser = shop.Required(errs, "releaser", c.Releaser, "this is regulated work: who releases it?", 100)
			c.Licence = shop.Required(errs, "licence", c.Licence, "with which licence?", 100)
		}
		if err := errs.Err(); err != nil {
			return err
		}
		if file.ClosedAt != nil {
			return shop.ErrStale
		}
		if file, err := checked(s, tx, a, file, c); err != nil {
			return err
		} else if open := file.Open(); len(open) > 0 {
			return field.Only("gate", "%s not proven yet; the first is %s (%s)", shop.Plural(len(open), "thing"),
				open[0].What, open[0].Why)
		}
		if err := tx.CloseHead(file.ID, s.Now(), c.Refit, c.Releaser, c.Licence); err != nil {
			return err
		}
		return s.Note(tx, a, file.ID, "closed", c.Releaser)
	})
}

// checked does the final check of a head where it is the one operation that is left, and returns the head's
// file as it is then.
func checked(s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, c CloseForm) (*headfile.File, error) {
	o, left := f.Checking()
	if !left || len(c.Record) == 0 {
		return f, nil
	}
	if o.State == "waiting" {
		if _, err := tx.StartOperation(o.ID, a.ID, s.Now(), shop.LastOf(f.Readings)); err != nil {
			return f, err
		}
		o.State = "running"
	}
	if err := bench.KeepRecord(s, tx, a, f, c.WriteID, o,
		map[string]map[string]string{"": c.Record}); err != nil {
		return f, err
	}
	f, err := headfile.OpenIn(s, tx, f.Tag)
	if err != nil {
		return f, err
	}
	if o, err = f.Operation(o.Seq); err != nil {
		return f, err
	}
	said, _, err := finish(s, tx, a, f, o, "", "")
	if err != nil {
		return f, err
	}
	if err := s.Note(tx, a, f.ID, said, headfile.OperationName(o.Code)); err != nil {
		return f, err
	}
	return headfile.OpenIn(s, tx, f.Tag)
}

// claimed are the open lines of the gate of a head whose work is claimed to be done.
func claimed(file *headfile.File) []headfile.GateLine {
	if file.Ended != "" {
		return nil
	}
	return file.Open()
}

// HandOver records who took the head away.
func HandOver(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, to string) error {
	if err := a.Must("hand over a head"); err != nil {
		return err
	}
	errs := field.Errors{}
	to = shop.Required(errs, "handed_to", to, "who takes it?", 100)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, file *headfile.File) error {
		if file.ClosedAt == nil {
			return field.Only("handed_to", "the final check has not passed yet")
		}
		if file.HandedOverAt != nil {
			return shop.ErrStale
		}
		for _, l := range claimed(file) { // a tool may have failed its zero check since
			if l.Tool != 0 {
				return field.Only("handed_to", "not yet: %s (%s)", l.What, l.Why)
			}
		}
		if err := parts.FreeAll(s, tx, a, file); err != nil {
			return err
		}
		if err := tx.HandOver(file.ID, s.Now(), to); err != nil {
			return err
		}
		if file.Ended != "" { // nothing was done that is looked at again
			return s.Note(tx, a, file.ID, "handed over", to)
		}
		values, err := tx.Settings()
		if err != nil {
			return err
		}
		set := shop.SettingsFor(values, tag)
		remind := store.Reminder{
			HeadID: file.ID, Due: s.Now().AddDate(0, 0, set.Int("recheck_days")),
			What: fmt.Sprintf("lash and leaks after %d hours: %s, %s", set.Int("recheck_hours"), file.Model.Name,
				file.Job.Customer.Name),
		}
		if err := tx.Add(&remind); err != nil {
			return err
		}
		return s.Note(tx, a, file.ID, "handed over", to)
	})
}
