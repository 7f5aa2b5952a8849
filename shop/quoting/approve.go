package quoting

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Ended is a customer's link that has ended, or was replaced, and nothing newer was sent: whose shop it is.
type Ended struct {
	Customer store.Customer
	Tag      string
}

// Error says that the link has ended.
func (Ended) Error() string { return "this link has ended" }

// QuoteByToken opens the quote a customer's link leads to, with its head: the newest that was sent in
// its place, where one was. An unknown link is ErrNotFound; one that has ended is Ended.
func QuoteByToken(ctx context.Context, s *shop.Shop, token string) (*headfile.File, headfile.QuotePage, error) {
	db := s.Store.Read(ctx)
	if len(token) < 20 || len(token) > 64 {
		return nil, headfile.QuotePage{}, shop.ErrNotFound
	}
	hash := shop.HashToken(token)
	links, err := db.QuoteLinks(hash)
	if err != nil || len(links) == 0 {
		return nil, headfile.QuotePage{}, errors.Join(err, shop.ErrNotFound)
	}
	q, err := db.QuoteNumbered(links[0].QuoteID)
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
	if err != nil || p.Approval != nil {
		return f, p, err
	}
	if elsewhere(links, hash) {
		return f, p, Ended{f.Job.Customer, f.Tag}
	}
	for _, later := range f.Approved.Quotes {
		if later.Version > p.Version && later.Kind == p.Kind && later.SentAt != nil {
			p = later
		}
	}
	if p.Expired && p.Approval == nil {
		return f, p, Ended{f.Job.Customer, f.Tag}
	}
	return f, p, nil
}

// elsewhere tells whether the quote of a link was sent again to somebody else since: then whoever has
// the older one is not whom the shop means any more.
func elsewhere(links []store.QuoteLink, hash string) bool {
	i := slices.IndexFunc(links, func(l store.QuoteLink) bool { return l.TokenHash == hash })
	return links[i].Recipient != links[len(links)-1].Recipient
}

// Answer is what a customer says to a quote: yes or no line by line. Must lines are one
// yes or no together.
type Answer struct {
	Name string
	Must bool
	No   bool  // the head goes back; neither yes nor no is no answer
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

// YesAtOnce writes the quote of what is ordered and the customer's yes to all of it, given while they stand
// at the counter.
func YesAtOnce(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, name string) error {
	if len(writeID) < shop.MinID {
		return shop.ErrNoID
	}
	if _, err := MakeQuote(ctx, s, a, writeID+"-quote", tag, Draft{}); err != nil {
		return err
	}
	f, err := headfile.Open(ctx, s, tag)
	if err != nil {
		return err
	}
	q := f.Approved.Quotes[len(f.Approved.Quotes)-1]
	said := Answer{Name: name, Must: true}
	for _, l := range q.Lines {
		said.Yes = append(said.Yes, l.Seq)
	}
	return ApproveVerbally(ctx, s, a, writeID+"-yes", tag, q.Version, said, "at the counter")
}

func approve(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, version int, ans Answer, how string) error {
	errs := field.Errors{}
	ans.Name = shop.Required(errs, "name", ans.Name, "who says so?", 100)
	if !ans.Must && !ans.No && !ans.Call {
		errs.Addf("must", "say yes or no: without either nothing is decided")
	}
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
			return call(s, tx, a, f, q, ans.Name)
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
		if err := answered(s, tx, f); err != nil {
			return err
		}
		said := map[bool]string{true: "approved", false: "declined: the head goes back"}[ans.Must]
		return s.Note(tx, a, f.ID, "quote "+said, fmt.Sprintf("%s %d by %s, %s", q.Kind, q.Version, ans.Name, how))
	})
}

// calls begins what a reminder to call a customer says.
const calls = "call "

// waiting lists the reminders to call the head's customer that nobody has done.
func waiting(tx store.DB, f *headfile.File) ([]store.Reminder, error) {
	all, err := tx.Reminders()
	return slices.DeleteFunc(all, func(r store.Reminder) bool {
		return r.HeadID != f.ID || r.DoneAt != nil || !strings.HasPrefix(r.What, calls)
	}), err
}

// call has somebody call the customer: asked for again before it is done it is still one call.
func call(s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, q headfile.QuotePage, name string) error {
	have, err := waiting(tx, f)
	if err != nil {
		return err
	}
	if len(have) == 0 {
		what := fmt.Sprintf("%s%s about %s %d", calls, name, q.Kind, q.Version)
		if err := tx.Add(&store.Reminder{HeadID: f.ID, Due: s.Now(), What: what}); err != nil {
			return err
		}
	}
	return s.Note(tx, a, f.ID, "customer asks for a call", name)
}

// answered ends the calls that a customer asked for before they answered.
func answered(s *shop.Shop, tx store.DB, f *headfile.File) error {
	have, err := waiting(tx, f)
	if err != nil {
		return err
	}
	for _, r := range have {
		if _, err := tx.Reminded(r.ID, s.Now()); err != nil {
			return err
		}
	}
	return nil
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
