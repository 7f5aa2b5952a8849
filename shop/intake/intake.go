// Package intake is how a head comes in: over the counter, from a head file, with its
// customer, machine, symptoms and photos.
package intake

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// IntakeKind is why a head comes in.
type IntakeKind struct{ Code, Label, Question string }

// IntakeKinds are the kinds of intake.
var IntakeKinds = []IntakeKind{
	{"rebuild", "Rebuild", "How worn is it, what does it need, what will it cost?"},
	{"failed", "Failed in service", "What broke, why, is it worth saving?"},
	{"comeback", "Comeback", "Which of our numbers was wrong?"},
	{"bought-in", "New or bought in", "Is it really to size?"},
	{"rules", "Rules check", "Does it meet the class rule?"},
	{"core", "Core", "Is it worth buying as an exchange unit?"},
}

// IntakeForm is a head being taken in, as typed.
type IntakeForm struct {
	WriteID  string
	Customer string // known by name, or new
	Contact  string
	Machine  string
	Hours    string
	Model    string // id of a head model
	Bank     string
	Marks    string
	Kind     string
	Story    string
	CameWith string
	Promise  string // 2006-01-02, may be empty

	Symptoms []string // codes of what the owner tells, see trade.Symptoms

	Regulated string // one of Regulations, may be empty
	With      string // tag of a head it came with, of a pair or a set: they share the order
	Heads     string // how many of the model came, "" for one; their marks are apart by ";"
}

// Regulations are the kinds of work a licensed person has to release.
var Regulations = []string{"aircraft", "vessel in class", "emergency plant", "road-legal emissions"}

// MostHeads bounds how many heads are taken in at once.
const MostHeads = 24

// TakeIn takes in a head, or the heads of a set, and returns the tag, of a set the first's.
func TakeIn(ctx context.Context, s *shop.Shop, a shop.Actor, f IntakeForm) (string, error) {
	if err := a.Must("take in a head"); err != nil {
		return "", err
	}
	job, set, model, err := f.read()
	if err != nil {
		return "", err
	}
	return s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		sheets, err := tx.Sheets(model)
		if err != nil {
			return "", err
		}
		if len(sheets) == 0 {
			return "", field.Only("model", "the library has no such model")
		}
		if m, err := tx.Model(model); err != nil || m.RetiredAt != nil {
			return "", errors.Join(
				err, field.Only("model", "this model is retired: choose another, or take it into use again"),
			)
		}
		with, err := sharedJob(s, tx, f)
		if err != nil {
			return "", err
		}
		if with.ID != 0 {
			job = with
		} else {
			job.CreatedAt = s.Now()
			if job.CustomerID, job.MachineID, err = customerAndMachine(s, tx, f); err != nil {
				return "", err
			}
			if err := tx.Add(&job); err != nil {
				return "", err
			}
		}
		return hang(s, tx, a, f, store.Head{JobID: job.ID, ModelID: model, SheetID: sheets[0].ID}, set)
	})
}

// hang gives each head of a set its tag and writes it, alike but for its place in the set. It
// returns the first tag.
func hang(
	s *shop.Shop, tx store.DB, a shop.Actor, f IntakeForm, alike store.Head, set int,
) (first string, err error) {
	for n := range set {
		h := alike
		h.Bank, h.Marks, h.CreatedAt = f.Bank, f.Marks, s.Now()
		if set > 1 {
			h.Bank, h.Marks = fmt.Sprintf("%d of %d", n+1, set), marksOf(f.Marks, n, set)
		}
		if h.Tag, err = nextTag(s, tx); err != nil {
			return "", err
		}
		if err := tx.Add(&h); err != nil {
			return "", err
		}
		if err := s.Note(tx, a, h.ID, "taken in", f.Kind+" for "+f.Customer); err != nil {
			return "", err
		}
		first = cmp.Or(first, h.Tag)
	}
	return first, nil
}

// read reads the form: the job as it is written down, how many heads are taken in at once, and
// of which model. It trims the form's texts.
func (f *IntakeForm) read() (job store.Job, set int, model uint, err error) {
	errs := field.Errors{}
	f.Customer = shop.Required(errs, "customer", f.Customer, "whose head is it?", 100)
	f.Contact = shop.Optional(errs, "contact", f.Contact, 200)
	f.Machine = shop.Required(errs, "machine", f.Machine, "which machine or engine does it come from?", 100)
	f.Hours = shop.Optional(errs, "hours", f.Hours, 30)
	f.Bank = shop.Optional(errs, "bank", f.Bank, 30)
	f.Marks = shop.Optional(errs, "marks", f.Marks, 200)
	f.Story = shop.Optional(errs, "story", f.Story, 4000)
	f.CameWith = shop.Optional(errs, "came_with", f.CameWith, 2000)
	if !slices.ContainsFunc(IntakeKinds, func(k IntakeKind) bool { return k.Code == f.Kind }) {
		errs.Addf("kind", "why is it here?")
	}
	var promise *time.Time
	if f.Promise != "" {
		day, err := time.Parse(time.DateOnly, f.Promise)
		if err != nil || day.Year() < 2000 || day.Year() > 2200 {
			errs.Addf("promise", "a date like 2031-05-20")
		}
		promise = &day
	}
	if f.Regulated != "" && !slices.Contains(Regulations, f.Regulated) {
		errs.Addf("regulated", "choose one")
	}
	f.With = strings.ToUpper(shop.Optional(errs, "with", f.With, 20))
	set = 1
	if f.Heads != "" {
		if set, _ = strconv.Atoi(f.Heads); set < 1 || set > MostHeads {
			errs.Addf("heads", "from 1 to %d", MostHeads)
		}
	}
	symptoms := ticked(errs, f.Symptoms)
	id, err := strconv.ParseUint(f.Model, 10, 32)
	if err != nil {
		errs.Addf("model", "choose the head's model")
	}
	job = store.Job{
		Kind: f.Kind, Story: f.Story, Symptoms: symptoms, CameWith: f.CameWith, Hours: f.Hours, Promise: promise,
		Regulated: f.Regulated,
	}
	return job, set, uint(id), errs.Err()
}

// marksOf are the marks of the n-th head of a set: what stands at its place where there are as
// many apart by ";" as heads, else all.
func marksOf(marks string, n, set int) string {
	if each := strings.Split(marks, ";"); len(each) == set {
		return strings.TrimSpace(each[n])
	}
	return marks
}

// ticked are the symptoms that were ticked, as they are kept.
func ticked(errs field.Errors, codes []string) string {
	for _, c := range codes {
		if trade.SymptomNamed(c) == nil {
			errs.Addf("symptoms", "there is nothing of the name %q to tick", c)
		}
	}
	return strings.Join(codes, " ")
}

// TellSymptoms keeps what the owner tells of a head's order, all of it: what was ticked before
// and is not any more is taken back.
func TellSymptoms(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, codes []string,
) error {
	if err := a.Must("call a cause"); err != nil {
		return err
	}
	errs := field.Errors{}
	symptoms := ticked(errs, codes)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		if err := tx.SetSymptoms(f.JobID, symptoms); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "symptoms", symptoms)
	})
}

// tagForm is what tags look like: short enough to be stamped and called out.
var tagForm = regexp.MustCompile(`^[A-Z][A-Z0-9-]{0,9}$`)

// nextTag is the tag of the next head.
func nextTag(s *shop.Shop, tx store.DB) (string, error) {
	last, err := tx.LastHead()
	if err != nil {
		return "", err
	}
	values, err := tx.Settings()
	if err != nil {
		return "", err
	}
	// a head file may have brought one along
	for n := int(last) + max(1, shop.SettingsFor(values, "").Int("first_tag")); ; n++ {
		tag := fmt.Sprintf("T%04d", n)
		if _, err := tx.Head(tag); errors.Is(err, shop.ErrNotFound) {
			return tag, nil
		} else if err != nil {
			return "", err
		}
	}
}

// sharedJob returns the order of the head this one came with, an empty one without.
func sharedJob(s *shop.Shop, tx store.DB, f IntakeForm) (store.Job, error) {
	if f.With == "" {
		return store.Job{}, nil
	}
	h, err := tx.Head(f.With)
	if errors.Is(err, shop.ErrNotFound) {
		return store.Job{}, field.Only("with", "no head has this tag")
	}
	if err == nil && h.Job.Customer.Name != f.Customer {
		err = field.Only("with", "that head is %s's", h.Job.Customer.Name)
	}
	return h.Job, err
}

// LinkEarlier links a head to an earlier visit of the same casting, by tags.
func LinkEarlier(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, earlier string) error {
	if err := a.Must("take in a head"); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		earlier = strings.ToUpper(strings.TrimSpace(earlier))
		e, err := tx.Head(earlier)
		if errors.Is(err, shop.ErrNotFound) || earlier == tag {
			return field.Only("earlier", "no other head has this tag")
		}
		if err != nil {
			return err
		}
		if e.ModelID != f.ModelID {
			return field.Only("earlier", "that is a %s", e.Model.Name)
		}
		if !e.CreatedAt.Before(f.CreatedAt) {
			return field.Only("earlier", "that head came after this one")
		}
		if err := tx.SetEarlier(f.ID, earlier); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "earlier visit linked", earlier)
	})
}

// customerAndMachine finds or makes both.
func customerAndMachine(s *shop.Shop, tx store.DB, f IntakeForm) (customer, machine uint, err error) {
	c, err := tx.CustomerNamed(f.Customer)
	if errors.Is(err, shop.ErrNotFound) {
		c = store.Customer{Name: f.Customer, Contact: f.Contact, CreatedAt: s.Now()}
		err = tx.Add(&c)
	}
	if err != nil {
		return 0, 0, err
	}
	m, err := tx.MachineNamed(c.ID, f.Machine)
	if errors.Is(err, shop.ErrNotFound) {
		m = store.Machine{CustomerID: c.ID, Name: f.Machine}
		err = tx.Add(&m)
	}
	return c.ID, m.ID, err
}

// Customers lists the customers.
func Customers(ctx context.Context, s *shop.Shop) ([]store.Customer, error) {
	return s.Store.Read(ctx).Customers()
}
