package shop

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/store"
)

// covered tells whether an approved quote covers an operation at all of its positions.
func covered(have []QuotePage, code string, at []string) bool {
	left := slices.Clone(at)
	found := false
	for _, q := range have {
		for _, l := range q.Lines {
			if l.Code != code || !q.Answers[l.Seq] {
				continue
			}
			found = true
			on := strings.Fields(l.Positions)
			left = slices.DeleteFunc(left, func(p string) bool { return slices.Contains(on, p) })
		}
	}
	return found && len(left) == 0
}

// declined tells whether the customer said no to an operation, and who.
func declined(have []QuotePage, code string, at []string) (string, bool) {
	for _, q := range slices.Backward(have) {
		for _, l := range q.Lines {
			if q.Approval != nil && l.Code == code && !q.Answers[l.Seq] && l.Positions == strings.Join(at, " ") {
				return q.Approval.Name, true
			}
		}
	}
	return "", false
}

// QuoteByToken opens the quote a customer's link leads to, with its head. An unknown or an
// expired link is ErrNotFound.
func (s *Shop) QuoteByToken(ctx context.Context, token string) (*File, QuotePage, error) {
	db := s.st.Read(ctx)
	if len(token) < 20 || len(token) > 64 {
		return nil, QuotePage{}, ErrNotFound
	}
	q, err := db.QuoteByToken(hashToken(token))
	if err != nil {
		return nil, QuotePage{}, err
	}
	tag, err := db.TagOf(q.HeadID)
	if err != nil {
		return nil, QuotePage{}, err
	}
	f, err := s.file(db, tag)
	if err != nil {
		return nil, QuotePage{}, err
	}
	p, err := s.quoteOf(db, f, q.Version)
	if err == nil && p.Expired && p.Approval == nil {
		err = ErrNotFound
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
func (s *Shop) Approve(ctx context.Context, writeID, token string, ans Answer) error {
	f, q, err := s.QuoteByToken(ctx, token)
	if err != nil {
		return err
	}
	return s.approve(ctx, Actor{}, writeID, f.Tag, q.Version, ans, "on the page")
}

// ApproveVerbally records what a customer said by telephone or at the counter: by whom, and
// who heard it.
func (s *Shop) ApproveVerbally(ctx context.Context, a Actor, writeID, tag string, version int, ans Answer, how string) error {
	if err := a.must("quote"); err != nil {
		return err
	}
	errs := field.Errors{}
	how = required(errs, "how", how, "how was it said: by telephone, at the counter?", 100)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.approve(ctx, a, writeID, tag, version, ans, how+", heard by "+a.Name)
}

func (s *Shop) approve(ctx context.Context, a Actor, writeID, tag string, version int, ans Answer, how string) error {
	errs := field.Errors{}
	ans.Name = required(errs, "name", ans.Name, "who says so?", 100)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, f *File) error {
		q, err := s.quoteOf(tx, f, version)
		if err != nil {
			return err
		}
		if q.Approval != nil {
			return field.Errors{"name": "it was answered by " + q.Approval.Name + " already; the answer is frozen"}
		}
		if q.Superseded {
			return field.Errors{"name": "a newer quote has replaced this one"}
		}
		if ans.Call {
			call := store.Reminder{HeadID: f.ID, Due: s.now(), What: fmt.Sprintf("call %s about %s %d", ans.Name, q.Kind, q.Version)}
			if err := tx.Add(&call); err != nil {
				return err
			}
			return s.note(tx, a, f.ID, "customer asks for a call", ans.Name)
		}
		q.Answers = map[int]bool{}
		for _, l := range q.Lines {
			q.Answers[l.Seq] = ans.Must && (l.Grp == Must || slices.Contains(ans.Yes, l.Seq))
		}
		answers, err := json.Marshal(q.Answers)
		if err != nil {
			return err
		}
		frozen, err := json.Marshal(struct {
			Lines  []store.QuoteLine
			Totals Totals
		}{q.Lines, q.Totals()})
		if err != nil {
			return err
		}
		if err := tx.Add(&store.Approval{QuoteID: q.ID, Name: ans.Name, How: how, Answers: string(answers), Frozen: string(frozen), PersonID: a.ID, At: s.now()}); err != nil {
			return err
		}
		said := map[bool]string{true: "approved", false: "declined: the head goes back"}[ans.Must]
		return s.note(tx, a, f.ID, "quote "+said, fmt.Sprintf("%s %d by %s, %s", q.Kind, q.Version, ans.Name, how))
	})
}

// Approved is what stands approved of a head.
type Approved struct {
	Quotes []QuotePage
}

// Asked tells whether any quote has been answered.
func (q Approved) Asked() bool {
	return slices.ContainsFunc(q.Quotes, func(p QuotePage) bool { return p.Approval != nil })
}

// unapproved says why an operation may not start, "" when it may.
func (q Approved) unapproved(o store.Operation) string {
	switch {
	case free(o.Code) || covered(q.Quotes, o.Code, o.At()):
		return ""
	case !q.Asked():
		return "the customer has not approved anything yet: quote it first, or record what was said"
	}
	return "the customer has not approved this: write a supplement"
}

// extra are the decisions a customer's yes to should and could lines adds.
func (q Approved) extra() []route.Decision {
	var out []route.Decision
	for _, p := range q.Quotes {
		for _, l := range p.Lines {
			if l.Grp == Must || !p.Answers[l.Seq] {
				continue
			}
			at := strings.Fields(l.Positions)
			if len(at) == 0 {
				at = []string{""}
			}
			for _, id := range at {
				out = append(out, route.Decision{Code: l.Code, Position: id})
			}
		}
	}
	return out
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

// free tells whether an operation may start before anything is approved: it finds out what a
// head needs.
func free(code string) bool {
	k := trade.OperationNamed(code)
	return k != nil && k.Free
}
