package quoting

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// QuoteByToken opens the quote a customer's link leads to, with its head. An unknown or an
// expired link is ErrNotFound.
func QuoteByToken(ctx context.Context, s *shop.Shop, token string) (*headfile.File, headfile.QuotePage, error) {
	db := s.Store.Read(ctx)
	if len(token) < 20 || len(token) > 64 {
		return nil, headfile.QuotePage{}, shop.ErrNotFound
	}
	q, err := db.QuoteByToken(shop.HashToken(token))
	if err != nil {
		return nil, headfile.QuotePage{}, err
	}
	tag, err := db.TagOf(q.HeadID)
	if err != nil {
		return nil, headfile.QuotePage{}, err
	}
	f, err := headfile.OpenIn(s, db, tag)
	if err != nil {
		return nil, headfile.QuotePage{}, err
	}
	p, err := quoteOf(s, db, f, q.Version)
	if err == nil && p.Expired && p.Approval == nil {
		err = shop.ErrNotFound
	}
	return f, p, err
}

// Answer is what a customer says to a quote: yes or no line by line. Must lines are one
// yes or no together.
type Answer struct {
	Name string
	Must bool
	Yes  []int // should and could lines said yes to
	Call bool  // asks for a call instead
}

// Approve freezes a customer's answer given through the link.
func Approve(ctx context.Context, s *shop.Shop, writeID, token string, ans Answer) error {
	f, q, err := QuoteByToken(ctx, s, token)
	if err != nil {
		return err
	}
	return approve(ctx, s, shop.Actor{}, writeID, f.Tag, q.Version, ans, "on the page")
}

// ApproveVerbally records what a customer said by telephone or at the counter: by whom, and
// who heard it.
func ApproveVerbally(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, version int, ans Answer, how string) error {
	if err := a.Must("quote"); err != nil {
		return err
	}
	errs := field.Errors{}
	how = shop.Required(errs, "how", how, "how was it said: by telephone, at the counter?", 100)
	if err := errs.Err(); err != nil {
		return err
	}
	return approve(ctx, s, a, writeID, tag, version, ans, how+", heard by "+a.Name)
}

func approve(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, version int, ans Answer, how string) error {
	errs := field.Errors{}
	ans.Name = shop.Required(errs, "name", ans.Name, "who says so?", 100)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		q, err := quoteOf(s, tx, f, version)
		if err != nil {
			return err
		}
		if q.Approval != nil {
			return field.Only("name", "it was answered by %s already; the answer is frozen", q.Approval.Name)
		}
		if q.Superseded {
			return field.Only("name", "a newer quote has replaced this one")
		}
		if f.ClosedAt != nil && !ans.Call { // whoever reads it later is called, nothing is counted
			return field.Only("name", "the head is finished or goes back: ask for a call, and the shop tells you how it stands")
		}
		if ans.Call {
			call := store.Reminder{HeadID: f.ID, Due: s.Now(), What: fmt.Sprintf("call %s about %s %d", ans.Name, q.Kind, q.Version)}
			if err := tx.Add(&call); err != nil {
				return err
			}
			return s.Note(tx, a, f.ID, "customer asks for a call", ans.Name)
		}
		q.Answers = map[int]bool{}
		for _, l := range q.Lines {
			q.Answers[l.Seq] = ans.Must && (l.Grp == headfile.Must || slices.Contains(ans.Yes, l.Seq))
		}
		answers, err := json.Marshal(q.Answers)
		if err != nil {
			return err
		}
		frozen, err := json.Marshal(struct {
			Lines  []store.QuoteLine
			Totals headfile.Totals
		}{q.Lines, q.Totals()})
		if err != nil {
			return err
		}
		if err := tx.Add(&store.Approval{
			QuoteID: q.ID, Name: ans.Name, How: how, Answers: string(answers), Frozen: string(frozen), PersonID: a.ID, At: s.Now(),
		}); err != nil {
			return err
		}
		said := map[bool]string{true: "approved", false: "declined: the head goes back"}[ans.Must]
		return s.Note(tx, a, f.ID, "quote "+said, fmt.Sprintf("%s %d by %s, %s", q.Kind, q.Version, ans.Name, how))
	})
}

// ParseSeqs reads line numbers.
func ParseSeqs(texts []string) []int {
	var out []int
	for _, t := range texts {
		if n, err := strconv.Atoi(t); err == nil {
			out = append(out, n)
		}
	}
	return out
}
