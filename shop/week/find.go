package week

import (
	"context"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Hit is a head that was looked for: where it is and what it waits for, and what of it was found.
type Hit struct {
	Card
	Open bool   // it is in the shop
	Note string // the note that says what was looked for; empty when something else does
	Owed int64  // cents of its order that were billed and are not paid; less than nothing where too much was
}

// mostHits bounds what a search lists.
const mostHits = 50

// Find looks for heads by tag, customer, how they are reached, machine, model, marks, the owner's story,
// notes and the number of a bill. A telephone number is found by its digits, however it is written. The
// newest come first, those in the shop before those that have left.
func Find(ctx context.Context, s *shop.Shop, text string) ([]Hit, error) {
	text = strings.TrimSpace(text)
	if text == "" || len(text) > 100 {
		return nil, nil
	}
	db := s.Store.Read(ctx)
	heads, err := db.SearchHeads(text, shop.Telephone(text), billNumber(text), mostHits)
	if err != nil || len(heads) == 0 {
		return nil, err
	}
	cards, err := Floor(ctx, s)
	if err != nil {
		return nil, err
	}
	notes, err := db.NotesLike(text, ids(heads)...)
	if err != nil {
		return nil, err
	}
	owed := map[uint]int64{}
	owing, err := db.Owed(mostHits, jobs(heads)...)
	for _, o := range owing {
		owed[o.JobID] = o.Cents()
	}
	if err != nil {
		return nil, err
	}
	var hits []Hit
	for _, h := range heads {
		hit := Hit{Card: Card{Head: h}, Note: notes[h.ID], Owed: owed[h.JobID]}
		if i := slices.IndexFunc(cards, func(c Card) bool { return c.ID == h.ID }); i >= 0 {
			hit.Card, hit.Open = cards[i], true
		}
		hits = append(hits, hit)
	}
	slices.SortStableFunc(hits, func(a, b Hit) int {
		switch {
		case a.Open == b.Open:
			return 0
		case a.Open:
			return -1
		}
		return 1
	})
	return hits, nil
}

func ids(heads []store.Head) []uint {
	out := make([]uint, len(heads))
	for i, h := range heads {
		out[i] = h.ID
	}
	return out
}

func jobs(heads []store.Head) []uint {
	out := make([]uint, len(heads))
	for i, h := range heads {
		out[i] = h.JobID
	}
	return out
}

// billNumber is what a bill is looked for by: at least four of its digits, with what stands between them.
func billNumber(text string) string {
	digits := 0
	for _, r := range text {
		if r >= '0' && r <= '9' {
			digits++
		} else if r != '-' {
			return ""
		}
	}
	if digits < 4 {
		return ""
	}
	return text
}

// Kinds of notes that people write on a job.
const (
	NoteKept   = "note"   // stays with the head
	NotePinned = "pinned" // is shown on the floor as well while the head is in the shop, until a newer one is
)

// KeepNote writes a note on a head's job, with who and when: "called, wants it Thursday".
func KeepNote(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, text string, pinned bool) error {
	if err := a.Must("write a note"); err != nil {
		return err
	}
	errs := field.Errors{}
	text = shop.Required(errs, "note", text, "what is to be remembered?", 400)
	if err := errs.Err(); err != nil {
		return err
	}
	kind := NoteKept
	if pinned {
		kind = NotePinned
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		if err := tx.Add(
			&store.Note{HeadID: f.ID, Kind: kind, Text: text, PersonID: a.ID, At: s.Now()},
		); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "note written", text)
	})
}
