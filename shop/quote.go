package shop

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/price"
	"yatai/core/quote"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/store"
)

// Groups of a quote's lines: what safety or function needs, what is near its limit, what is
// cheap while the head is open.
const (
	Must   = quote.Must
	Should = quote.Should
	Could  = quote.Could
)

// Groups lists them in order.
var Groups = quote.Groups

// QuotePage is a quote as the shop and the customer see it.
type QuotePage struct {
	store.Quote
	Approval   *store.Approval
	Answers    map[int]bool // by line, once answered
	Expired    bool
	Superseded bool // a later version of the same kind is there: this one is history
}

// Totals are what a quote comes to, in cents.
type Totals = price.Totals

// Totals adds a quote's lines up: all of them, or those that were said yes to.
func (q QuotePage) Totals(groups ...string) Totals {
	return q.total(func(l store.QuoteLine) bool {
		if q.Answers != nil {
			return q.Answers[l.Seq]
		}
		return len(groups) == 0 || slices.Contains(groups, l.Grp)
	})
}

func (q QuotePage) total(in func(store.QuoteLine) bool) Totals {
	var labour, parts int64
	minutes := 0
	for _, l := range q.Lines {
		if in(l) {
			labour, parts, minutes = labour+l.LabourCents, parts+l.PartsCents, minutes+l.Minutes
		}
	}
	return price.Terms{DiscountPPM: q.DiscountPPM, TaxPPM: q.TaxPPM, Minimum: q.MinimumCents}.Total(labour, parts, minutes)
}

// Group lists a quote's lines of a group.
func (q QuotePage) Group(g string) []store.QuoteLine {
	return slices.DeleteFunc(slices.Clone(q.Lines), func(l store.QuoteLine) bool { return l.Grp != g })
}

// quotes loads a head's quotes, the oldest first, with their answers.
func (s *Shop) quotes(db store.DB, head uint) ([]QuotePage, error) {
	rows, err := db.Quotes(head)
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	answers, err := db.Approvals(head)
	if err != nil {
		return nil, err
	}
	var out []QuotePage
	for i, q := range rows {
		p := QuotePage{Quote: q, Expired: q.ExpiresAt != nil && s.now().After(*q.ExpiresAt)}
		for _, later := range rows[i+1:] {
			p.Superseded = p.Superseded || later.Kind == q.Kind
		}
		if a, answered := answers[q.ID]; answered {
			p.Approval, p.Answers = &a, map[int]bool{}
			if err := json.Unmarshal([]byte(a.Answers), &p.Answers); err != nil {
				return nil, fmt.Errorf("answer to quote %d: %w", q.Version, err)
			}
		}
		out = append(out, p)
	}
	return out, nil
}

// MakeQuote writes the next version of a head's quote from its decisions: what they need as
// must, the repairs of what is near its limit as should, what the plan's richer alternative
// would renew as could. When a quote was approved already, what it does not cover becomes a
// supplement. It returns the version.
func (s *Shop) MakeQuote(ctx context.Context, a Actor, writeID, tag, note string) (int, error) {
	if err := a.must("quote"); err != nil {
		return 0, err
	}
	errs := field.Errors{}
	note = optional(errs, "note", note, 500)
	if err := errs.Err(); err != nil {
		return 0, err
	}
	version := 0
	err := s.onHead(ctx, writeID, tag, func(tx store.DB, f *File) error {
		have, err := s.quotes(tx, f.ID)
		if err != nil {
			return err
		}
		if open := f.undecided(); len(open) > 0 && f.WorkOrderAt == nil {
			return field.Errors{"quote": plural(len(open), "finding") + " without a decision: " + strings.Join(open, ", ")}
		}
		terms := price.TermsOf(f.Subject)
		currency, err := s.currency(tx)
		if err != nil {
			return err
		}
		q := store.Quote{HeadID: f.ID, Version: len(have) + 1, Kind: "quote", Note: note, Currency: currency, TaxPPM: terms.TaxPPM, MinimumCents: terms.Minimum, DiscountPPM: terms.DiscountPPM, PersonID: a.ID, At: s.now()}
		var done []route.Operation
		if slices.ContainsFunc(have, func(q QuotePage) bool { return q.Approval != nil }) {
			q.Kind, q.MinimumCents = "supplement", 0
			done = approvedWork(have)
		}
		quoted, err := s.quoted(ctx, tx, f, done)
		if err != nil {
			return err
		}
		if len(quoted) == 0 {
			return field.Errors{"quote": "everything that is decided was quoted already"}
		}
		var lines []store.QuoteLine
		var ops []price.Priced
		for _, l := range quoted {
			if l.Group == Must {
				ops = append(ops, l.Priced)
			}
			lines = append(lines, store.QuoteLine{Grp: l.Group, Code: l.Code, Name: l.Name, Positions: strings.Join(l.Positions, " "), Reason: l.Reason, Minutes: l.Minutes, LabourCents: l.Labour, Parts: PartsText(l.Priced), PartsCents: l.PartsCents()})
		}
		due, err := s.couldBeReady(tx, f.Tag, ready(s.now(), ops))
		if err != nil {
			return err
		}
		q.Ready = &due
		if err := tx.Add(&q); err != nil {
			return err
		}
		for i := range lines {
			lines[i].QuoteID, lines[i].Seq = q.ID, i+1
		}
		if err := tx.Add(&lines); err != nil {
			return err
		}
		version = q.Version
		return s.note(tx, a, f.ID, "quote made", fmt.Sprintf("%s %d", q.Kind, q.Version))
	})
	return version, err
}

// currency is the shop's.
func (s *Shop) currency(db store.DB) (string, error) {
	v, err := db.Settings()
	return Settings{v, ""}.Get("currency"), err
}

// approvedWork is what customers have said yes to, as a route: a supplement is what goes
// beyond it.
func approvedWork(have []QuotePage) []route.Operation {
	var out []route.Operation
	for _, q := range have {
		for _, l := range q.Lines {
			if k := trade.OperationNamed(l.Code); k != nil && q.Answers[l.Seq] {
				out = append(out, route.Operation{Operation: k, Positions: strings.Fields(l.Positions)})
			}
		}
	}
	return out
}

// quoted are the lines of a head's next quote: what its route does beyond what was said yes to
// already, and, on the first quote, what should and could be done besides.
func (s *Shop) quoted(ctx context.Context, db store.DB, f *File, done []route.Operation) ([]quote.Line, error) {
	sizes, err := s.plannedSizes(db, f)
	if err != nil {
		return nil, err
	}
	must := f.routed()
	lines := quote.Of(f.Subject, f.Received, Must, quote.Less(must, done), gauge.Doubt, sizes)
	if done != nil || f.WorkOrderAt != nil {
		return lines, nil
	}
	more, err := quote.Extra(ctx, f.Subject, f.Received, must)
	return append(lines, more...), err
}

// plannedSizes says which lash shims, pushrods and spring shims the head's plan puts in.
func (s *Shop) plannedSizes(db store.DB, f *File) (price.Sizes, error) {
	plans, err := s.plans(db, f)
	if err != nil || len(plans) == 0 {
		return nil, err
	}
	return func(kind *trade.PartKind, position string) (length.Length, bool) {
		v, ok := plans[0].Valve(position)
		switch {
		case !ok:
		case kind == trade.ShimPart:
			return v.Shim, v.Shim > 0
		case kind == trade.LashShimPart && v.LashShim != nil:
			return *v.LashShim, v.LashFrom == plan.InStock || v.LashFrom == plan.Order
		case kind == trade.PushrodPart && v.Pushrod != nil:
			return *v.Pushrod, true
		}
		return 0, false
	}, nil
}

// routed is the route of a head as it stands: ordered, or derived from its decisions.
func (f *File) routed() []route.Operation {
	if f.WorkOrderAt != nil {
		return operationsOf(f.Operations)
	}
	return route.Derive(f.Subject, slices.Concat(f.decided(), route.Renewals(f.Subject)))
}

func (f *File) decided() []route.Decision {
	var out []route.Decision
	for _, d := range f.Decisions {
		if d.Choice != trade.Leave {
			out = append(out, route.Decision{Code: d.Choice, Position: d.Position})
		}
	}
	return out
}

// SendQuote puts a quote into the customer's hands: a mail in the outbox with a link nobody
// can guess, which ends when the quote does. A later link to the same quote ends the earlier.
func (s *Shop) SendQuote(ctx context.Context, a Actor, writeID, tag string, version int, to string) error {
	if err := a.must("quote"); err != nil {
		return err
	}
	errs := field.Errors{}
	to = required(errs, "to", to, "where does it go? a mail address, or how the customer is reached", 200)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, f *File) error {
		q, err := s.quoteOf(tx, f, version)
		if err != nil {
			return err
		}
		if q.Approval != nil {
			return field.Errors{"to": "it was answered already"}
		}
		v, err := tx.Settings()
		if err != nil {
			return err
		}
		set := Settings{v, tag}
		token := rand.Text() // 128 random bits and more
		until := s.now().AddDate(0, 0, max(1, set.Int("quote_days")))
		if err := tx.SetQuote(q.ID, map[string]any{"sent_at": s.now(), "token_hash": hashToken(token), "expires_at": until}); err != nil {
			return err
		}
		body := fmt.Sprintf("Your %s, our tag %s: we have looked at it and written down what it needs and why.\n\nSee it, and say yes or no line by line, until %s:\n%s/q/%s\n\n%s", f.Model.Name, f.Tag, due(until), strings.TrimRight(set.Get("public"), "/"), token, set.Get("shop_name"))
		if err := tx.Add(&store.Mail{HeadID: f.ID, Recipient: to, Subject: fmt.Sprintf("%s %d for tag %s", strings.ToUpper(q.Kind[:1])+q.Kind[1:], q.Version, f.Tag), Body: body, At: s.now()}); err != nil {
			return err
		}
		return s.note(tx, a, f.ID, "quote sent", fmt.Sprintf("%s %d to %s", q.Kind, q.Version, to))
	})
}

func (s *Shop) quoteOf(db store.DB, f *File, version int) (QuotePage, error) {
	all, err := s.quotes(db, f.ID)
	if err != nil {
		return QuotePage{}, err
	}
	for _, q := range all {
		if q.Version == version {
			return q, nil
		}
	}
	return QuotePage{}, ErrNotFound
}

// Until is when a quote's link ends.
func (q QuotePage) Until() time.Time {
	if q.ExpiresAt == nil {
		return time.Time{}
	}
	return *q.ExpiresAt
}
