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

// QuotesByToken opens the quotes a customer's link leads to, each with its head: the newest that was sent
// in its place, where one was. An unknown link is ErrNotFound; one that has ended is Ended.
func QuotesByToken(ctx context.Context, s *shop.Shop, token string) (headfile.Together, error) {
	return under(s, s.Store.Read(ctx), token)
}

func under(s *shop.Shop, db store.DB, token string) (headfile.Together, error) {
	if len(token) < 20 || len(token) > 64 {
		return nil, shop.ErrNotFound
	}
	hash := shop.HashToken(token)
	links, err := db.QuoteLinks(hash)
	if err != nil || len(links) == 0 {
		return nil, errors.Join(err, shop.ErrNotFound)
	}
	q, err := db.QuoteNumbered(links[0].QuoteID)
	if err != nil {
		return nil, err
	}
	tag, err := db.TagOf(q.HeadID)
	if err != nil {
		return nil, err
	}
	first, err := db.Head(tag)
	if err != nil {
		return nil, err
	}
	order, err := headfile.OfOrder(s, db, first.JobID)
	if err != nil {
		return nil, err
	}
	var t headfile.Together
	for _, h := range order {
		for _, q := range h.Quotes {
			if led, ok := leads(h, q, links, hash); ok {
				t = append(t, headfile.Joined{Head: h.Head, Q: led})
			}
		}
	}
	if len(t) == 0 {
		return nil, Ended{first.Job.Customer, first.Tag}
	}
	return t, nil
}

// leads is the quote that a link to one of a head's quotes leads to; ok is false where it leads
// there no more.
func leads(
	h headfile.Ordered, q headfile.QuotePage, links []store.QuoteLink, hash string,
) (headfile.QuotePage, bool) {
	i := slices.IndexFunc(
		links, func(l store.QuoteLink) bool { return l.QuoteID == q.ID && l.TokenHash == hash },
	)
	if i < 0 {
		return q, false
	}
	if q.Approval != nil {
		return q, true
	}
	if elsewhere(links, links[i]) {
		return q, false
	}
	for _, later := range h.Quotes {
		if later.Version > q.Version && later.Kind == q.Kind && later.SentAt != nil {
			q = later
		}
	}
	return q, !q.Expired || q.Approval != nil
}

// elsewhere tells whether the quote of a link was sent again to somebody else since: then whoever has
// the older one is not whom the shop means any more.
func elsewhere(links []store.QuoteLink, l store.QuoteLink) bool {
	last := l
	for _, other := range links { // the oldest first
		if other.QuoteID == l.QuoteID {
			last = other
		}
	}
	return last.Recipient != l.Recipient
}

// Answer is what a customer says to a quote, or to those of several heads at once: yes or no line by line.
// Must lines are one yes or no together.
type Answer struct {
	Name string
	Must bool
	No   bool   // the head goes back; neither yes nor no is no answer
	Yes  []Line // should and could lines said yes to
	Call bool   // asks for a call instead
}

// Line names a line of a head's quote.
type Line struct {
	Tag string
	Seq int
}

// Approve freezes a customer's answer given through the link.
func Approve(ctx context.Context, s *shop.Shop, writeID, token string, ans Answer) error {
	return approve(ctx, s, shop.Actor{}, writeID, ans, "on the page",
		func(tx store.DB) (headfile.Together, error) {
			return under(s, tx, token)
		})
}

// ApproveVerbally records what a customer said by telephone or at the counter: by whom, and
// who heard it.
func ApproveVerbally(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, version int, ans Answer,
	how string,
) error {
	if err := a.Must("quote"); err != nil {
		return err
	}
	errs := field.Errors{}
	how = shop.Required(errs, "how", how, "how was it said: by telephone, at the counter?", 100)
	if err := errs.Err(); err != nil {
		return err
	}
	return approve(ctx, s, a, writeID, ans, how+", heard by "+a.Name,
		func(tx store.DB) (headfile.Together, error) {
			h, err := tx.Head(tag)
			if err != nil {
				return nil, err
			}
			order, err := headfile.OfOrder(s, tx, h.JobID)
			if err != nil {
				return nil, err
			}
			q, err := quoteOf(order, h.ID, version)
			return headfile.QuotedWith(order, h, q), err
		})
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
		said.Yes = append(said.Yes, Line{tag, l.Seq})
	}
	return ApproveVerbally(ctx, s, a, writeID+"-yes", tag, q.Version, said, "at the counter")
}

// approve keeps an answer to what asked finds: to all heads of it that wait, or to none.
func approve(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, ans Answer, how string,
	asked func(tx store.DB) (headfile.Together, error),
) error {
	errs := field.Errors{}
	ans.Name = shop.Required(errs, "name", ans.Name, "who says so?", 100)
	if !ans.Must && !ans.No && !ans.Call {
		errs.Addf("must", "say yes or no: without either nothing is decided")
	}
	if err := errs.Err(); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		t, err := asked(tx)
		if err != nil {
			return "", err
		}
		if err := answerable(t, ans); err != nil {
			return "", err
		}
		if ans.Call {
			return "", call(s, tx, a, t[0], ans.Name)
		}
		t = t.Waiting()
		for i := range t {
			t[i].Q.Answers = map[int]bool{}
			for _, l := range t[i].Q.Lines {
				t[i].Q.Answers[l.Seq] = ans.Must && (l.Grp == headfile.Must ||
					slices.Contains(ans.Yes, Line{t[i].Tag, l.Seq}))
			}
		}
		if err := held(t, s.Now()); err != nil {
			return "", err
		}
		if ans.Must { // a refused quote stays as it was
			t = t.Shared()
		}
		for _, j := range t {
			if err := freeze(s, tx, a, j, ans, how); err != nil {
				return "", err
			}
		}
		return "", nil
	})
	return err
}

// answerable says why an answer cannot be kept.
func answerable(t headfile.Together, ans Answer) error {
	open := slices.DeleteFunc(slices.Clone(t), func(j headfile.Joined) bool { return j.Q.Approval != nil })
	switch {
	case len(open) == 0:
		return field.Only("name", "it was answered by %s already; the answer is frozen", t.Answered().Name)
	case open.Superseded():
		return field.Only("name", "a newer quote has replaced this one")
	case len(open.Waiting()) == 0 && !ans.Call: // whoever reads it later is called, nothing is counted
		return field.Only(
			"name", "the head is finished or goes back: ask for a call, and the shop tells you how it stands",
		)
	}
	return nil
}

// freeze keeps the answer to one head's quote, as it stood.
func freeze(s *shop.Shop, tx store.DB, a shop.Actor, j headfile.Joined, ans Answer, how string) error {
	q := j.Q
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
	said := map[bool]string{true: "approved", false: "declined: the head goes back"}[ans.Must]
	return errors.Join(
		tx.ShareLeast(q.ID, q.MinimumCents),
		tx.Add(&store.Approval{
			QuoteID: q.ID, Name: ans.Name, How: how, Answers: string(answers), Frozen: string(frozen), PersonID: a.ID,
			At: s.Now(),
		}),
		answered(s, tx, j.ID),
		takeFirst(s, tx, a, j),
		s.Note(tx, a, j.ID, "quote "+said, fmt.Sprintf("%s %d by %s, %s", q.Kind, q.Version, ans.Name, how)),
	)
}

// calls begins what a reminder to call a customer says.
const calls = "call "

// waiting lists the reminders to call the head's customer that nobody has done.
func waiting(tx store.DB, head uint) ([]store.Reminder, error) {
	all, err := tx.Reminders()
	return slices.DeleteFunc(all, func(r store.Reminder) bool {
		return r.HeadID != head || r.DoneAt != nil || !strings.HasPrefix(r.What, calls)
	}), err
}

// call has somebody call the customer: asked for again before it is done it is still one call.
func call(s *shop.Shop, tx store.DB, a shop.Actor, j headfile.Joined, name string) error {
	have, err := waiting(tx, j.ID)
	if err != nil {
		return err
	}
	if len(have) == 0 {
		what := fmt.Sprintf("%s%s about %s %d", calls, name, j.Q.Kind, j.Q.Version)
		if err := tx.Add(&store.Reminder{HeadID: j.ID, Due: s.Now(), What: what}); err != nil {
			return err
		}
	}
	return s.Note(tx, a, j.ID, "customer asks for a call", name)
}

// answered ends the calls that a customer asked for before they answered.
func answered(s *shop.Shop, tx store.DB, head uint) error {
	have, err := waiting(tx, head)
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

// ParseLines reads names of lines: "T0402/3".
func ParseLines(texts []string) []Line {
	var out []Line
	for _, text := range texts {
		tag, seq, _ := strings.Cut(text, "/")
		if n, err := strconv.Atoi(seq); err == nil {
			out = append(out, Line{tag, n})
		}
	}
	return out
}
