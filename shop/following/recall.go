package following

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/work"
	"yatai/store"
)

// What may turn out to have been wrong.
const (
	ByTool   = "tool"   // a tool that failed: the heads it has read
	ByPart   = "part"   // an item of the stock: the heads it was used for
	ByLot    = "lot"    // a delivery of an item: the heads it may have been used for
	ByWork   = "work"   // an operation, as a setting of its machine was off: the heads it was begun at
	BySetUp  = "setup"  // a cutter, a machine, its setting: the heads somebody wrote it down for
	ByPerson = "person" // the heads somebody read, looked at or worked on
	BySheet  = "sheet"  // a version of a model's limits: the heads that are held against it
)

// Suspicion is what may have been wrong, and between which days, both included; empty is without an end. What
// is the id of a tool, an item, a delivery, a person or a sheet, the code of an operation, or what was
// written down that one was done with.
type Suspicion struct{ By, What, From, To string }

// TouchedHead is a head that it touched: how often, and when first and last.
type TouchedHead struct {
	store.Head
	Count       int
	First, Last time.Time
}

// Left tells whether the head is no longer in the shop.
func (h TouchedHead) Left() bool { return h.HandedOverAt != nil }

// order is 0 of a head that has left, 1 of one that is here.
func order(h TouchedHead) int {
	if h.Left() {
		return 0
	}
	return 1
}

// Recall is all that something touched: the heads that have left first, of both the last touched
// first. Name is what it is called, Counted what is counted of it.
type Recall struct {
	Suspicion
	Name, Counted string
	Heads         []TouchedHead
	More          bool // there are more than are told: a shorter time tells them
}

// Gone counts the heads that have left.
func (r Recall) Gone() int {
	i := slices.IndexFunc(r.Heads, func(h TouchedHead) bool { return !h.Left() })
	if i < 0 {
		return len(r.Heads)
	}
	return i
}

// Touched answers what something has touched. Errors are keyed "what", "from" and "to".
func Touched(ctx context.Context, s *shop.Shop, a shop.Actor, q Suspicion) (Recall, error) {
	if err := a.Must("see the history"); err != nil {
		return Recall{}, err
	}
	db := s.Store.Read(ctx)
	if more, err := db.Unsummed(); err != nil {
		return Recall{}, err
	} else if more {
		if err := s.Store.Write(ctx, store.DB.SumTouches); err != nil {
			return Recall{}, err
		}
	}
	return recall(db, q)
}

// idOf reads an id, 0 where it is none: nothing has that.
func idOf(text string) uint {
	id, err := strconv.ParseUint(text, 10, 32)
	if err != nil {
		return 0
	}
	return uint(id)
}

// source is where a kind of suspicion is looked up.
type source struct {
	counted string
	name    func(db store.DB, what string) (string, error)
	heads   func(db store.DB, what string, from, to time.Time) ([]store.Touched, error)
}

var sources = map[string]source{
	ByTool: {"readings", func(db store.DB, what string) (string, error) {
		t, err := db.Tool(idOf(what))
		return t.Name, err
	}, func(db store.DB, what string, from, to time.Time) ([]store.Touched, error) {
		return db.TouchedByTool(idOf(what), from, to)
	}},
	ByPart: {"uses", func(db store.DB, what string) (string, error) {
		it, err := db.StockItem(idOf(what))
		return it.Name, err
	}, func(db store.DB, what string, from, to time.Time) ([]store.Touched, error) {
		return db.TouchedByPart(idOf(what), from, to)
	}},
	ByLot: {"uses", func(db store.DB, what string) (string, error) {
		o, it, err := delivery(db, what)
		if err != nil {
			return "", err
		}
		return o.Named(it.Name), nil
	}, touchedByLot},
	BySetUp: {"operations", func(_ store.DB, what string) (string, error) { return what, nil }, store.DB.TouchedBySetUp},
	ByPerson: {"entries", func(db store.DB, what string) (string, error) {
		p, err := db.User(idOf(what))
		return p.Name, err
	}, func(db store.DB, what string, from, to time.Time) ([]store.Touched, error) {
		return db.TouchedByPerson(idOf(what), from, to)
	}},
	ByWork: {"operations", func(_ store.DB, what string) (string, error) {
		if o := trade.OperationNamed(what); o != nil {
			return o.Name, nil
		}
		return "", shop.ErrNotFound
	}, store.DB.TouchedByWork},
	BySheet: {"sheets", func(db store.DB, what string) (string, error) {
		sheet, err := db.Sheet(idOf(what))
		if err != nil {
			return "", err
		}
		m, err := db.Model(sheet.ModelID)
		return fmt.Sprintf("%s, sheet version %d", m.Name, sheet.Version), err
	}, func(db store.DB, what string, from, to time.Time) ([]store.Touched, error) {
		return db.TouchedBySheet(idOf(what), from, to)
	}},
}

// delivery is one that was booked in, with its item.
func delivery(db store.DB, what string) (o store.PartOrder, it store.StockItem, err error) {
	if o, err = db.PartOrder(idOf(what)); err != nil {
		return o, it, err
	}
	if o.ReceivedAt == nil || !o.OK {
		return o, it, shop.ErrNotFound
	}
	it, err = db.StockItem(o.ItemID)
	return o, it, err
}

// touchedByLot are the heads an item was used for from when a delivery of it came until none was left for the
// first time: nobody says which of those in a bin is taken first, so any of them may be of it.
func touchedByLot(db store.DB, what string, from, to time.Time) ([]store.Touched, error) {
	o, _, err := delivery(db, what)
	if err != nil {
		return nil, err
	}
	if o.ReceivedAt.After(from) {
		from = *o.ReceivedAt
	}
	_, moves, err := db.Deliveries([]uint{o.ItemID})
	if err != nil {
		return nil, err
	}
	if gone, used := o.UsedUp(moves); used && gone.Before(to) {
		to = gone.Add(time.Nanosecond) // who took the last one, too
	}
	return db.TouchedByPart(o.ItemID, from, to)
}

// recall looks a suspicion up.
func recall(db store.DB, q Suspicion) (out Recall, err error) {
	errs := field.Errors{}
	from := dayOr(errs, "from", q.From, time.Date(2000, 1, 1, 0, 0, 0, 0, time.Local))
	to := dayOr(errs, "to", q.To, time.Date(2200, 1, 1, 0, 0, 0, 0, time.Local)).AddDate(0, 0, 1)
	src, known := sources[q.By]
	if !known || q.What == "" {
		errs.Addf("what", "choose what may have been wrong")
	}
	if err := errs.Err(); err != nil {
		return out, err
	}
	out.Suspicion, out.Counted = q, src.counted
	if out.Name, err = src.name(db, q.What); errors.Is(err, shop.ErrNotFound) {
		return out, field.Only("what", "choose what may have been wrong")
	} else if err != nil {
		return out, err
	}
	found, err := src.heads(db, q.What, from, to)
	if err != nil {
		return out, err
	}
	if out.More = len(found) > store.MostTouched; out.More {
		found = found[:store.MostTouched]
	}
	ids := make([]uint, len(found))
	for i, t := range found {
		ids[i] = t.HeadID
	}
	heads, err := db.HeadsOf(ids)
	if err != nil {
		return out, err
	}
	by := map[uint]store.Head{}
	for _, h := range heads {
		by[h.ID] = h
	}
	for _, t := range found {
		out.Heads = append(out.Heads, TouchedHead{by[t.HeadID], t.Count, t.First, t.Last})
	}
	slices.SortStableFunc(out.Heads, func(a, b TouchedHead) int { // who has left has to be called
		return cmp.Compare(order(a), order(b))
	})
	return out, nil
}

// dayOr reads a day as it begins here, another where nothing was typed.
func dayOr(errs field.Errors, name, text string, other time.Time) time.Time {
	if text = strings.TrimSpace(text); text == "" {
		return other
	}
	day, err := time.ParseInLocation(time.DateOnly, text, time.Local)
	if err != nil || day.Year() < 2000 || day.Year() > 2200 {
		errs.Addf(name, "a date like 2031-05-20")
		return other
	}
	return day
}

// RecallForm is what is done about heads that something touched: a reminder at each of Tags for a day, or a
// letter to the customer of each that has an address for mail. In it {customer}, {machine} and
// {tag} are filled in.
type RecallForm struct {
	Suspicion
	WriteID   string
	Tags      []string
	Day, What string // of the reminder
	Letter    string // "" for none
	Retest    string // the code of a test for the routes of those that are worked on; "" for none
}

// asked is a RecallForm that was checked.
type asked struct {
	tags   []string
	day    time.Time
	what   string
	letter string
	retest *trade.Operation // nil for none
}

// check reads a form. Errors are as Call's.
func (form RecallForm) check() (q asked, err error) {
	errs := field.Errors{}
	q.tags = form.Tags
	q.what = shop.Optional(errs, "what_to_do", form.What, 200)
	q.letter = shop.Optional(errs, "letter", form.Letter, 4000)
	errs.Add("letter", shop.CheckFilled(q.letter, "customer", "machine", "tag"))
	q.day = dayOr(errs, "day", form.Day, time.Time{})
	named := func(o *trade.Operation) bool { return o.Code == form.Retest }
	if i := slices.IndexFunc(work.TestsAgain, named); i >= 0 {
		q.retest = work.TestsAgain[i]
	} else if form.Retest != "" {
		errs.Addf("retest", "choose a test")
	}
	switch {
	case len(q.tags) == 0:
		errs.Addf("tags", "tick the heads it is about")
	case q.what == "" && q.letter == "" && form.Retest == "":
		errs.Addf("what_to_do", "say what is to be done, choose a test, or write a letter")
	case q.what != "" && q.day.IsZero():
		errs.Addf("day", "a date like 2031-05-20")
	}
	return q, errs.Err()
}

// Call sets reminders, puts tests on routes and writes letters for the heads that were ticked, of those that
// were touched; all or none. It returns the tags of heads whose customer has no address for mail: they
// are called. Errors are keyed "tags", "day", "what_to_do", "letter" and "retest".
func Call(ctx context.Context, s *shop.Shop, a shop.Actor, form RecallForm) (tocall []string, err error) {
	if err := a.Must("see the history"); err != nil {
		return nil, err
	}
	q, err := form.check()
	if err != nil {
		return nil, err
	}
	answer, err := s.Once(ctx, form.WriteID, func(tx store.DB) (string, error) {
		if err := tx.SumTouches(); err != nil {
			return "", err
		}
		r, err := recall(tx, form.Suspicion)
		if err != nil {
			return "", err
		}
		var call []string
		tested := false
		for _, h := range r.Heads {
			if !slices.Contains(q.tags, h.Tag) {
				continue
			}
			again, err := q.about(s, tx, a, h, r.Name)
			if err != nil {
				return "", err
			}
			tested = tested || again
			if q.letter != "" && h.Job.Customer.Email == "" {
				call = append(call, h.Tag)
			}
		}
		if q.retest != nil && !tested {
			return "", field.Only("retest", "none of the ticked heads is in work, or it waits for this test already: set a reminder")
		}
		return strings.Join(call, " "), nil
	})
	return strings.Fields(answer), err
}

// about does what was asked about one head, as name touched it; tested is whether a test was put on its
// route.
func (q asked) about(
	s *shop.Shop, tx store.DB, a shop.Actor, h TouchedHead, name string,
) (tested bool, err error) {
	if q.what != "" {
		if err := tx.Add(reminder(h.ID, q.day, q.what)); err != nil {
			return false, err
		}
	}
	if q.retest != nil && !h.Left() {
		f, err := headfile.OpenIn(s, tx, h.Tag)
		if err != nil {
			return false, err
		}
		if tested, err = work.TestAgain(s, tx, a, f, q.retest, name+" may have been wrong"); err != nil {
			return false, err
		}
	}
	if to := h.Job.Customer; q.letter != "" && to.Email != "" {
		if err := tx.Add(&store.Mail{
			HeadID: h.ID, Recipient: to.Email, Subject: h.Job.Machine.Name + ", " + h.Tag,
			Body: shop.Filled(q.letter, map[string]string{
				"customer": to.Name, "machine": h.Job.Machine.Name, "tag": h.Tag,
			}) + "\n", At: s.Now(),
		}); err != nil {
			return false, err
		}
	}
	return tested, s.Note(tx, a, h.ID, "recalled", name)
}

// Suspects are what may be chosen as a suspicion.
type Suspects struct {
	Tools  []store.Tool
	Parts  []store.StockItem
	Lots   []LotName
	Work   []*trade.Operation
	SetUps []string
	People []store.User
	Sheets []SheetName
}

// mostNames bounds how many deliveries and set-ups can be chosen: the newest.
const mostNames = 300

// LotName is a delivery of an item.
type LotName struct {
	store.PartOrder
	Item string
}

// SheetName is a version of a model's limits.
type SheetName struct {
	ID    uint
	Model string
	store.LimitSheet
}

// AllSuspects lists them.
func AllSuspects(ctx context.Context, s *shop.Shop) (out Suspects, err error) {
	db := s.Store.Read(ctx)
	if out.Tools, err = db.Tools(); err != nil {
		return out, err
	}
	if out.Parts, err = db.StockItems(); err != nil {
		return out, err
	}
	came, err := db.CameIn(mostNames)
	if err != nil {
		return out, err
	}
	for _, o := range came {
		if i := slices.IndexFunc(out.Parts, func(it store.StockItem) bool { return it.ID == o.ItemID }); i >= 0 {
			out.Lots = append(out.Lots, LotName{o, out.Parts[i].Name})
		}
	}
	if out.SetUps, err = db.SetUpNames("", mostNames); err != nil {
		return out, err
	}
	if out.People, err = db.Users(); err != nil {
		return out, err
	}
	models, err := db.Models()
	if err != nil {
		return out, err
	}
	out.Work = trade.Operations()
	names := map[uint]string{}
	for _, m := range models {
		names[m.ID] = m.Name
		for _, r := range headfile.OwnRepairs(m) {
			if !slices.Contains(out.Work, r.Does) {
				out.Work = append(out.Work, r.Does)
			}
		}
	}
	sheets, err := db.AllSheets()
	for _, x := range sheets {
		out.Sheets = append(out.Sheets, SheetName{x.ID, names[x.ModelID], x})
	}
	return out, err
}
