package intake

import (
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/parts"
	"yatai/store"
)

// Correction is how a head should have been taken in, as typed, and Sure, that what another model costs
// is known.
type Correction struct {
	IntakeForm
	Sure bool
}

// FormOf is a head's intake as it was typed in.
func FormOf(f *headfile.File) IntakeForm {
	promise := ""
	if f.Job.Promise != nil {
		promise = f.Job.Promise.UTC().Format(time.DateOnly)
	}
	return IntakeForm{
		Customer:  f.Job.Customer.Name,
		Contact:   f.Job.Customer.Contact,
		Machine:   f.Job.Machine.Name,
		Hours:     f.Job.Hours,
		Model:     strconv.FormatUint(uint64(f.ModelID), 10),
		Bank:      f.Bank,
		Marks:     f.Marks,
		Kind:      f.Job.Kind,
		Story:     f.Job.Story,
		CameWith:  f.Job.CameWith,
		Promise:   promise,
		Symptoms:  strings.Fields(f.Job.Symptoms),
		Regulated: f.Job.Regulated,
	}
}

// Beside are the other heads of the same order: what is corrected of the order is corrected of them.
func Beside(ctx context.Context, s *shop.Shop, f *headfile.File) ([]store.Head, error) {
	return others(s.Store.Read(ctx), f)
}

func others(tx store.DB, f *headfile.File) ([]store.Head, error) {
	all, err := tx.HeadsOfJob(f.JobID)
	return slices.DeleteFunc(all, func(h store.Head) bool { return h.ID == f.ID }), err
}

// Correct puts right how a head was taken in. Who owns it, why it is here and what its owner tells is
// of its order: the other heads of the order have it too. Everything read is kept. Another model leaves
// what it does not have in the file, where it counts no more, and is refused once work has begun that
// was decided by the old one. A job that was to be looked at only and is to be mended, or the other way,
// gets its work ordered anew: what was done stays done.
func Correct(ctx context.Context, s *shop.Shop, a shop.Actor, tag string, c Correction) error {
	if err := a.Must("take in a head"); err != nil {
		return err
	}
	c.Heads, c.With = "", ""
	job, _, model, err := c.read()
	if err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, c.WriteID, tag, func(tx store.DB, f *headfile.File) error {
		if f.HandedOverAt != nil {
			return field.Only("gone", "this head has left: what it was taken in as stands")
		}
		was := FormOf(f)
		job.ID, job.CustomerID, job.MachineID = f.JobID, f.Job.CustomerID, f.Job.MachineID
		if c.Customer != was.Customer || c.Machine != was.Machine {
			if job.CustomerID, job.MachineID, err = customerAndMachine(s, tx, c.IntakeForm); err != nil {
				return err
			}
		}
		changes := corrected(was, c.IntakeForm)
		if model != f.ModelID {
			other, err := remodel(s, tx, a, f, model, c.Sure)
			if err != nil {
				return err
			}
			changes = append(changes, shop.Change{What: "model", Was: f.Model.Name, Is: other.Name})
		}
		said := shop.Changes(changes...)
		if said == "" {
			return nil
		}
		f.Bank, f.Marks = c.Bank, c.Marks
		if err := errors.Join(tx.CorrectJob(job), tx.CorrectHead(f.Head),
			s.Note(tx, a, f.ID, "take-in corrected", said)); err != nil {
			return err
		}
		heads, err := others(tx, f)
		if err != nil {
			return err
		}
		for _, h := range heads {
			if err := s.Note(tx, a, h.ID, "take-in corrected", "of its order, with "+f.Tag); err != nil {
				return err
			}
		}
		if inspection(was.Kind) == inspection(c.Kind) {
			return nil
		}
		for _, h := range append([]store.Head{f.Head}, heads...) {
			if err := orderAnew(
				s, tx, a, h, "it came as "+strings.ToLower(KindLabel(was.Kind))+" and is "+strings.ToLower(KindLabel(c.Kind)),
			); err != nil {
				return err
			}
		}
		return nil
	})
}

// corrected are the changes of an intake but for its model.
func corrected(was, is IntakeForm) []shop.Change {
	return []shop.Change{
		{What: "customer", Was: was.Customer, Is: is.Customer}, {What: "machine", Was: was.Machine, Is: is.Machine},
		{What: "hours", Was: was.Hours, Is: is.Hours}, {What: "bank", Was: was.Bank, Is: is.Bank},
		{What: "marks", Was: was.Marks, Is: is.Marks},
		{What: "why it is here", Was: strings.ToLower(KindLabel(was.Kind)), Is: strings.ToLower(KindLabel(is.Kind))},
		{What: "story", Was: was.Story, Is: is.Story},
		{What: "came with it", Was: was.CameWith, Is: is.CameWith},
		{What: "promised", Was: was.Promise, Is: is.Promise},
		{What: "regulated", Was: was.Regulated, Is: is.Regulated},
		{What: "symptoms", Was: strings.Join(was.Symptoms, " "), Is: strings.Join(is.Symptoms, " ")},
	}
}

// KindLabel is what a kind of intake is called; its code where it is none.
func KindLabel(code string) string {
	for _, k := range IntakeKinds {
		if k.Code == code {
			return k.Label
		}
	}
	return code
}

// inspection tells whether a head of that kind is only looked at.
func inspection(kind string) bool {
	h := head.Head{Kind: kind}
	return h.Inspection()
}

// remodel makes a head one of another model, by its newest limits. What was decided by the old one is
// decided no more.
func remodel(
	s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, model uint, sure bool,
) (store.HeadModel, error) {
	m, err := tx.Model(model)
	if errors.Is(err, shop.ErrNotFound) {
		return m, field.Only("model", "the library has no such model")
	} else if err != nil {
		return m, err
	}
	sheets, err := tx.Sheets(model)
	if err != nil || len(sheets) == 0 {
		return m, errors.Join(err, field.Only("model", "this model has no limits yet"))
	}
	if why := fixed(f); why != "" {
		return m, field.Only("model", "%s: end this head as taken in by mistake, and take it in anew", why)
	}
	l, err := s.Cache.Layout(m)
	if err != nil {
		return m, err
	}
	own, err := tx.OwnCharacteristics(model)
	if err != nil {
		return m, err
	}
	readings, findings := f.Loses(headfile.HavingOf(headfile.KindOf(m), l, headfile.OwnCharacteristics(own)))
	if lost := readings + findings + len(f.Decisions); lost > 0 && !sure {
		return m, field.Only(
			"sure",
			"as %s it loses %s, %s and %s: they stay in its file and count no more. Tick this to go on",
			m.Name, shop.Plural(readings, "reading"), shop.Plural(findings, "finding"),
			shop.Plural(len(f.Decisions), "decision"),
		)
	}
	for _, d := range f.Decisions {
		if err := tx.ReplaceDecision(f.ID, d.Feature, s.Now()); err != nil {
			return m, err
		}
	}
	if err := orderAnew(s, tx, a, f.Head, "it is of another model: "+m.Name); err != nil {
		return m, err
	}
	f.ModelID, f.SheetID, f.Remodelled, f.WorkOrderAt = m.ID, sheets[0].ID, true, nil
	return m, nil
}

// fixed says why a head's model can no longer be corrected, "" while it can.
func fixed(f *headfile.File) string {
	for _, o := range f.Operations {
		if o.State != "waiting" && o.State != "skipped" && !headfile.Free(o.Code) {
			return "work has begun by this model's limits (" + headfile.OperationName(o.Code) + ")"
		}
	}
	for _, q := range f.Approved.Quotes {
		if q.SentAt != nil {
			return "a quote has been sent by this model"
		}
	}
	return ""
}

// orderAnew takes the order of a head's work back, so that it is ordered again: what waits leaves the
// route, and its parts are free; what is done or going on stays.
func orderAnew(s *shop.Shop, tx store.DB, a shop.Actor, h store.Head, why string) error {
	if h.WorkOrderAt == nil || h.ClosedAt != nil {
		return nil
	}
	f, err := headfile.OpenIn(s, tx, h.Tag)
	if err != nil {
		return err
	}
	for _, o := range f.Operations {
		if o.State == "waiting" {
			if err := parts.Free(s, tx, a, f, o); err != nil {
				return err
			}
		}
	}
	return errors.Join(tx.TakeBackOrder(h.ID), s.Note(tx, a, h.ID, "order taken back", why))
}
