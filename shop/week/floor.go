package week

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"yatai/core/calc"
	"yatai/core/field"
	"yatai/core/layout"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Card is a head as it hangs on the floor.
type Card struct {
	store.Head
	Station string
	Waiting string // what it waits for, or what is being done
	Running bool
	Since   time.Time
	Late    bool
	For     string // measuring, lead, customer, work, check or collection
	By      uint   // who works on it
	Pinned  string // the newest note that is to be seen here
}

// FloorStations lists the places a head can be, in the order of the work.
var FloorStations = []string{
	"inspection bench", "lead", "wash", "test tank", "guide bench", "seat machine", "valve grinder",
	"press and fitting bench", "surfacer",
	"assembly bench", "final check", "counter", "dispatch",
}

// Floor returns the heads in the shop by where they are and what they wait for.
func Floor(ctx context.Context, s *shop.Shop) ([]Card, error) {
	db := s.Store.Read(ctx)
	heads, err := db.OpenHeads()
	if err != nil || len(heads) == 0 {
		return nil, err
	}
	var ids []uint
	for _, h := range heads {
		ids = append(ids, h.ID)
	}
	ops, err := db.Operations(ids...)
	if err != nil {
		return nil, err
	}
	counts, err := db.CountReadings(headfile.AsReceived, ids...)
	if err != nil {
		return nil, err
	}
	limits, err := db.LimitCodes()
	if err != nil {
		return nil, err
	}
	asked, answered, err := db.AnsweredHeads(ids...)
	if err != nil {
		return nil, err
	}
	pinned, err := db.NewestNotes(NotePinned, ids...)
	if err != nil {
		return nil, err
	}
	byHead := map[uint][]store.Operation{}
	for _, o := range ops {
		byHead[o.HeadID] = append(byHead[o.HeadID], o)
	}
	var cards []Card
	for _, h := range heads {
		c := card(s, h, byHead[h.ID], counts[h.ID], limits[h.SheetID])
		if c.For == "lead" && asked[h.ID] && !answered[h.ID] || c.For == "work" && !c.Running && !answered[h.ID] {
			c.Station, c.Waiting, c.For = "counter", "the customer's answer", "customer"
		}
		c.Pinned = pinned[h.ID]
		due := h.Job.Promised()
		c.Late = due != nil && s.Now().After(due.AddDate(0, 0, 1))
		cards = append(cards, c)
	}
	return cards, nil
}

// card works out where one head is.
func card(
	s *shop.Shop, h store.Head, ops []store.Operation, counts map[string]int, limits map[string]bool,
) Card {
	c := Card{Head: h, Since: h.CreatedAt}
	if h.ClosedAt != nil {
		c.Station, c.Waiting, c.Since = "dispatch", "to be collected", *h.ClosedAt
		if h.Ended != "" {
			c.Waiting = "to be collected, " + h.Ended
		}
		c.For = "collection"
		return c
	}
	if h.WorkOrderAt == nil {
		c.Station, c.Waiting, c.For = "lead", "to be judged", "lead"
		if l, err := s.Cache.Layout(h.Model); err == nil {
			if read, of := wanted(l, counts, limits); read < of {
				c.Station, c.Waiting, c.For = "inspection bench", "measured "+shop.CountOf(read, of), "measuring"
			}
		}
		return c
	}
	c.Station, c.Waiting, c.Since, c.For = "final check", "the final gate", *h.WorkOrderAt, "check"
	for _, o := range ops {
		k := trade.OperationNamed(o.Code)
		if k == nil {
			continue
		}
		switch o.State {
		case "done", "skipped":
			if o.FinishedAt != nil {
				c.Since = *o.FinishedAt
			}
			continue
		case "running":
			c.Running, c.Since, c.By = true, *o.StartedAt, *o.StartedBy
		}
		c.Station, c.Waiting, c.For = k.Station, strings.ToLower(k.Name), "work"
		if o.State == "held" {
			c.Waiting, c.For = "the lead: "+o.Held, "lead"
		}
		return c
	}
	return c
}

// wanted counts what has been read and what there is to read on a head whose sheet has
// these limits.
func wanted(l layout.Layout, counts map[string]int, limits map[string]bool) (read, of int) {
	for _, c := range trade.Characteristics {
		if !c.Derived() && headfile.Wants(c, limits) {
			read, of = read+counts[c.Code], of+len(c.Spots(l))
		}
	}
	return read, of
}

// Trail lists a head's audit trail, the newest first.
func Trail(ctx context.Context, s *shop.Shop, head uint) ([]store.Event, error) {
	return s.Store.Read(ctx).Events(head)
}

// Others are the other heads of a head's order: a pair, or a set.
func Others(ctx context.Context, s *shop.Shop, f *headfile.File) ([]store.Head, error) {
	heads, err := s.Store.Read(ctx).HeadsOfJob(f.JobID)
	return slices.DeleteFunc(heads, func(h store.Head) bool { return h.ID == f.ID }), err
}

// KeepCalc runs a calculation again and keeps it on a head as a note with its input.
func KeepCalc(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, name, input, text string) error {
	if err := a.Must("keep a note"); err != nil {
		return err
	}
	errs := field.Errors{}
	text = shop.Optional(errs, "text", text, 400)
	if err := errs.Err(); err != nil {
		return err
	}
	r, err := calc.Run(name, []byte(input))
	if err != nil {
		return err
	}
	kept, err := json.Marshal(struct {
		Value any         `json:"value"`
		Steps []calc.Step `json:"steps"`
	}{r.Value, r.Steps})
	if err != nil {
		return err
	}
	_, err = s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		h, err := tx.Head(tag)
		if err != nil {
			return "", field.Only("tag", "no head has this tag")
		}
		if err := tx.Add(&store.Note{
			HeadID: h.ID, Kind: name, Input: input, Output: string(kept), Text: text, PersonID: a.ID,
			At: s.Now(),
		}); err != nil {
			return "", err
		}
		return "", s.Note(tx, a, h.ID, "calculation kept", name)
	})
	return err
}
