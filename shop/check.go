package shop

import (
	"context"
	"fmt"
	"slices"

	"yatai/core/field"
	"yatai/core/gate"
	"yatai/store"
)

// GateLine is something the final check wants proven. Feature is set when the lead may sign
// it as a deviation, Tool when suspect readings with it may be released.
type GateLine struct {
	Key, What, Why string
	OK             bool
	Feature        string
	Tool           uint
	Signed         *store.Signoff
}

// Gate lists what must be proven before the head can be closed: the core's gate over all the
// file knows, what only the shop knows besides.
func (f *File) Gate() []GateLine {
	var lines []GateLine
	if f.WorkOrderAt == nil && !f.Subject.Inspection() {
		lines = append(lines, GateLine{Key: "order", What: "Work order", Why: "no work has been ordered yet"})
	}
	if f.Job.Regulated != "" && f.Sheet.ConfirmedBy == nil {
		lines = append(lines, GateLine{Key: "sheet", What: "Limit sheet", Why: "regulated work (" + f.Job.Regulated + "): a second person has to confirm the sheet it was judged by"})
	}
	for _, l := range gate.Judged(f.Subject, f.Now).Lines {
		if l.Key == "release" { // who releases it, and with which licence, is asked for when it is closed
			continue
		}
		x := GateLine{Key: l.Key, What: l.What, Why: l.Why, OK: l.OK, Feature: l.Feature}
		if l.Tool != "" {
			for _, t := range f.Tools {
				if t.Name == l.Tool {
					x.Tool = t.ID
				}
			}
		}
		if l.Signed != nil {
			for i := range f.Signoffs {
				if s := &f.Signoffs[i]; s.Feature == l.Feature && s.Figure == l.Signed.Figure {
					x.Signed = s
				}
			}
		}
		lines = append(lines, x)
	}
	slices.SortStableFunc(lines, func(a, b GateLine) int { // what is open comes first
		switch {
		case a.OK == b.OK:
			return 0
		case b.OK:
			return -1
		}
		return 1
	})
	return lines
}

// Asked lists where a characteristic has to be read again because of work that was done:
// positions, lines or corners.
func (f *File) Asked(code string) []string {
	c, ok := f.Characteristic(code)
	if !ok {
		return nil
	}
	var at []string
	for _, id := range c.Positions(f.Layout) {
		if f.Subject.Voider(code, id) != nil && !f.Subject.Proven(&c, id) {
			at = append(at, id)
		}
	}
	return at
}

// Open returns what still stands in the gate's way.
func (f *File) Open() []GateLine {
	return slices.DeleteFunc(f.Gate(), func(l GateLine) bool { return l.OK })
}

// SignDeviation lets a feature pass the gate as it is now, with the lead's reason. It
// holds only for the figures of this moment: another reading asks again.
func (s *Shop) SignDeviation(ctx context.Context, a Actor, writeID, tag, feature, reason string) error {
	if err := a.must("sign a deviation"); err != nil {
		return err
	}
	errs := field.Errors{}
	reason = required(errs, feature, reason, "say why it may pass", 400)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, file *File) error {
		x, ok := file.Now.Feature(feature)
		if !ok {
			return ErrNotFound
		}
		if file.ClosedAt != nil || !slices.ContainsFunc(file.Open(), func(l GateLine) bool { return l.Feature == feature }) {
			return field.Errors{feature: "there is nothing to sign here"}
		}
		if err := tx.Add(&store.Signoff{HeadID: file.ID, Feature: feature, Figure: file.figure(x), Reason: reason, PersonID: a.ID, At: s.now()}); err != nil {
			return err
		}
		return s.note(tx, a, file.ID, "deviation signed", feature+": "+reason)
	})
}

// CloseForm is what passing the final check takes. Releaser and Licence are demanded for
// regulated work: the product's limits are a record, the release is the licensed person's.
type CloseForm struct{ WriteID, Refit, Releaser, Licence string }

// CloseHead passes the final gate. It refuses while anything is open.
func (s *Shop) CloseHead(ctx context.Context, a Actor, tag string, c CloseForm) error {
	if err := a.must("close a head"); err != nil {
		return err
	}
	return s.onHead(ctx, c.WriteID, tag, func(tx store.DB, file *File) error {
		errs := field.Errors{}
		c.Refit = optional(errs, "refit", c.Refit, 2000)
		if file.Job.Regulated != "" {
			c.Releaser = required(errs, "releaser", c.Releaser, "this is regulated work: who releases it?", 100)
			c.Licence = required(errs, "licence", c.Licence, "with which licence?", 100)
		}
		if err := errs.Err(); err != nil {
			return err
		}
		if file.ClosedAt != nil {
			return ErrStale
		}
		if open := file.Open(); len(open) > 0 {
			return field.Errors{"gate": fmt.Sprintf("%s not proven yet; the first is %s (%s)", plural(len(open), "thing"), open[0].What, open[0].Why)}
		}
		if err := tx.SetHead(file.ID, map[string]any{"closed_at": s.now(), "refit": c.Refit, "releaser": c.Releaser, "licence": c.Licence}); err != nil {
			return err
		}
		return s.note(tx, a, file.ID, "closed", c.Releaser)
	})
}

// HandOver records who took the head away.
func (s *Shop) HandOver(ctx context.Context, a Actor, writeID, tag, to string) error {
	if err := a.must("hand over a head"); err != nil {
		return err
	}
	errs := field.Errors{}
	to = required(errs, "handed_to", to, "who takes it?", 100)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, file *File) error {
		if file.ClosedAt == nil {
			return field.Errors{"handed_to": "the final check has not passed yet"}
		}
		if file.HandedOverAt != nil {
			return ErrStale
		}
		if err := tx.SetHead(file.ID, map[string]any{"handed_over_at": s.now(), "handed_to": to}); err != nil {
			return err
		}
		values, err := tx.Settings()
		if err != nil {
			return err
		}
		set := Settings{values, tag}
		remind := store.Reminder{HeadID: file.ID, Due: s.now().AddDate(0, 0, set.Int("recheck_days")), What: fmt.Sprintf("lash and leaks after %d hours: %s, %s", set.Int("recheck_hours"), file.Model.Name, file.Job.Customer.Name)}
		if err := tx.Add(&remind); err != nil {
			return err
		}
		return s.note(tx, a, file.ID, "handed over", to)
	})
}
