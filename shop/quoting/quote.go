// Package quoting makes quotes from what was decided, sends them, and takes the customer's answer.
package quoting

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/price"
	"yatai/core/quote"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/headfile"
	"yatai/shop/week"
	"yatai/store"
)

// Draft is what somebody puts into a quote: a word to the customer, and lines of the shop's own, one to
// a line of text (see freeLines). Seen is how many quotes they saw; nil for whatever stands.
type Draft struct {
	Note, Free string
	Theirs     []string // codes of the kinds of parts the customer brings
	Goodwill   Goodwill
	Sooner     bool // an earlier day is offered beside it, for a surcharge
	Seen       *int
}

// MakeQuote writes the next version of a head's quote from its decisions: what they need as
// must, the repairs of what is near its limit as should, what the plan's richer alternative
// would renew as could. When a quote was approved already, what it does not cover becomes a
// supplement. It returns the version.
func MakeQuote(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, d Draft) (int, error) {
	if err := a.Must("quote"); err != nil {
		return 0, err
	}
	errs := field.Errors{}
	note := shop.Optional(errs, "note", d.Note, 500)
	own := freeLines(errs, d.Free)
	var good store.Quote
	d.Goodwill.read(errs, &good)
	for _, code := range d.Theirs {
		if trade.PartKindNamed(code) == nil {
			errs.Addf("theirs", "choose from the list")
		}
	}
	if err := errs.Err(); err != nil {
		return 0, err
	}
	visits, err := historyOf(ctx, s, tag)
	if err != nil {
		return 0, err
	}
	version := 0
	err = headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		have, err := headfile.Quotes(s, tx, f.ID)
		if err != nil {
			return err
		}
		if err := d.unseen(have); err != nil {
			return err
		}
		if open := f.Undecided(); len(open) > 0 && f.WorkOrderAt == nil {
			return field.Only("quote", "%s without a decision: %s", words.Of("%d findings", len(open)),
				strings.Join(open, ", "))
		}
		if err := theirs(s, tx, a, f, d.Theirs); err != nil {
			return err
		}
		q, done, err := begun(s, tx, a, f, have, good)
		if err != nil {
			return err
		}
		q.Note = note
		lines, ops, late, err := lined(ctx, s, tx, f, done, own, d.Sooner, visits)
		if err != nil {
			return err
		}
		forgive(lines, q)
		due, err := week.CouldBeReady(s, tx, f.Tag, f.Ready(s.Now(), ops))
		if err != nil {
			return err
		}
		q.Ready = &due
		if err := add(tx, &q, lines); err != nil {
			return err
		}
		version = q.Version
		said := fmt.Sprintf("%s %d", q.Kind, q.Version)
		if q.GoodwillPPM > 0 {
			said += fmt.Sprintf(", goodwill %d %%: %s; charged to %s", q.Goodwill(), q.GoodwillWhy, q.ChargedTo)
		}
		if d.Sooner {
			said += ", an earlier day offered"
		}
		if late != "" {
			said += "; it would make late: " + late
		}
		return s.Note(tx, a, f.ID, "quote made", said)
	})
	return version, err
}

// unseen tells of a quote that somebody wrote while this one was.
func (d Draft) unseen(have []headfile.QuotePage) error {
	n := len(have)
	if d.Seen == nil || n <= *d.Seen {
		return nil
	}
	return field.Only(
		"quote", "%s wrote %s %d meanwhile: it stands above. Write yours all the same and it comes after it",
		have[n-1].Person.Name, have[n-1].Kind, n,
	)
}

// lined are the lines of a head's next quote, and the work of those that must be done: what was not said
// yes to before, the shop's own, and an earlier day where one is offered; late is what that makes late.
func lined(
	ctx context.Context, s *shop.Shop, tx store.DB, f *headfile.File, done []route.Operation,
	own []store.QuoteLine, earlier bool, visits following.History,
) (lines []store.QuoteLine, ops []price.Priced, late string, err error) {
	quoted, err := quoted(ctx, s, tx, f, done)
	if err != nil {
		return nil, nil, "", err
	}
	if len(quoted)+len(own) == 0 {
		return nil, nil, "", field.Only("quote", "everything that is decided was quoted already")
	}
	waits(f, quoted, visits)
	lines, ops = written(quoted)
	lines = append(lines, own...)
	if earlier {
		var line store.QuoteLine
		if line, late, err = sooner(s, tx, f.Tag); err != nil {
			return nil, nil, "", err
		}
		lines = append(lines, line)
	}
	return lines, ops, late, nil
}

// begun is the next quote of a head before it has lines, and what was said yes to already: it is a
// supplement then. What the shop takes on itself is taken from good.
func begun(
	s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, have []headfile.QuotePage, good store.Quote,
) (q store.Quote, done []route.Operation, err error) {
	terms := f.Terms()
	saved, err := tx.Settings()
	if err != nil {
		return q, nil, err
	}
	currency, err := currency(s, tx)
	if err != nil {
		return q, nil, err
	}
	q = store.Quote{
		HeadID:       f.ID,
		Version:      len(have) + 1,
		Kind:         "quote",
		Currency:     currency,
		TaxPPM:       terms.Tax.LabourPPM,
		PartsTax:     terms.Tax.PartsPPM,
		Prices:       headfile.Prices(f.Job.Customer, shop.SettingsFor(saved, f.Tag)),
		MinimumCents: terms.Minimum,
		DiscountPPM:  terms.DiscountPPM,
		DepositPPM:   shop.SettingsFor(saved, f.Tag).PPM("deposit"),
		PersonID:     a.ID,
		At:           s.Now(),
		GoodwillPPM:  good.GoodwillPPM,
		GoodwillWhy:  good.GoodwillWhy,
		ChargedTo:    good.ChargedTo,
	}
	if q.GoodwillPPM > 0 {
		q.MinimumCents = 0
	}
	if slices.ContainsFunc(have, headfile.QuotePage.Accepted) { // after a no it is a quote as the first
		q.Kind, q.MinimumCents, q.DepositPPM = "supplement", 0, 0
		done = headfile.ApprovedWork(have)
	}
	return q, done, nil
}

// add writes a quote with its lines, numbered.
func add(tx store.DB, q *store.Quote, lines []store.QuoteLine) error {
	if err := tx.Add(q); err != nil {
		return err
	}
	for i := range lines {
		lines[i].QuoteID, lines[i].Seq = q.ID, i+1
	}
	return tx.Add(&lines)
}

// theirs keeps which kinds of parts the customer brings, and works the rest out by it.
func theirs(s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, codes []string) error {
	was := headfile.TheirsOf(f.Head)
	if slices.Equal(was, codes) {
		return nil
	}
	f.Theirs, f.Subject.Theirs = strings.Join(codes, ","), codes
	return errors.Join(tx.SetTheirs(f.ID, f.Theirs), s.Note(tx, a, f.ID, "customer's own parts",
		shop.Changes(shop.Change{What: "brings", Was: strings.Join(was, ", "), Is: strings.Join(codes, ", ")})))
}

// written are the lines of a quote as they are kept, and the work of those that must be done.
func written(quoted []quote.Line) (lines []store.QuoteLine, must []price.Priced) {
	for _, l := range quoted {
		if l.Group == headfile.Must {
			must = append(must, l.Priced)
		}
		lines = append(lines, store.QuoteLine{
			Grp:         l.Group,
			Code:        l.Code,
			Name:        l.Name,
			Positions:   strings.Join(l.Positions, " "),
			Reason:      l.Reason.String(),
			Said:        l.Reason.Kept(),
			Minutes:     l.Minutes,
			LabourCents: l.Labour,
			Parts:       headfile.PartsText(l.Priced),
			PartsCents:  l.PartsCents(),
			Unpriced:    headfile.Unpriced(l.Priced),
		})
	}
	return lines, must
}

// mostFree bounds the free lines of a quote.
const mostFree = 20

// freeLines reads what is no work of the trade: "Fetched and brought back = 35.00", one to a line;
// "could: Painted = 20" is in another group. Their price is not discounted as labour.
func freeLines(errs field.Errors, text string) []store.QuoteLine {
	var out []store.QuoteLine
	for n, line := range strings.Split(text, "\n") {
		if line = strings.TrimSpace(line); line == "" {
			continue
		}
		name, price, ok := strings.Cut(line, "=")
		cents, err := shop.ParseCents(strings.TrimSpace(price))
		group := headfile.Must
		if g, rest, said := strings.Cut(name, ":"); said &&
			slices.Contains(headfile.Groups, strings.ToLower(strings.TrimSpace(g))) {
			group, name = strings.ToLower(strings.TrimSpace(g)), rest
		}
		name = strings.TrimSpace(name)
		switch {
		case !ok || err != nil || name == "" || len(name) > 120:
			errs.Addf("free", "line %d: write it like Fetched and brought back = 35.00", n+1)
			return nil
		case len(out) == mostFree:
			errs.Addf("free", "at most %d of them", mostFree)
			return nil
		}
		out = append(out, store.QuoteLine{
			Grp: group, Name: name, Reason: words.Of("as agreed").String(), PartsCents: cents,
		})
	}
	return out
}

// currency is the shop's.
func currency(s *shop.Shop, db store.DB) (string, error) {
	v, err := db.Settings()
	return shop.SettingsFor(v, "").Get("currency"), err
}

// quoted are the lines of a head's next quote: what its route does beyond what was said yes to
// already, and, on the first quote, what should and could be done besides.
func quoted(
	ctx context.Context, s *shop.Shop, db store.DB, f *headfile.File, done []route.Operation,
) ([]quote.Line, error) {
	sizes, err := headfile.PlannedSizes(s, db, f)
	if err != nil {
		return nil, err
	}
	if done != nil {
		return quote.Of(f.Subject, f.Received, headfile.Must, quote.Less(f.Subject, f.Routed(), done), gauge.Doubt,
			sizes), nil
	}
	rich, err := headfile.Solve(ctx, s, f, quote.Rich(f.Subject))
	if err != nil {
		return nil, err
	}
	must := f.Derived()
	more := quote.Extra(f.Subject, f.Received, rich, must)
	if f.WorkOrderAt != nil { // ordered before it was asked for: what is on the route, grouped all the same
		more = slices.DeleteFunc(more, func(l quote.Line) bool {
			return len(quote.Less(f.Subject, quote.Routes(l), f.Routed())) > 0
		})
		have := slices.Concat(must, quote.Routes(more...))
		must = append(must, quote.Less(f.Subject, f.Routed(), have)...) // what was added by hand
	}
	return append(quote.Of(f.Subject, f.Received, headfile.Must, must, gauge.Doubt, sizes), more...), nil
}

// quoteOf is the version of a head's quote among those of its order.
func quoteOf(order []headfile.Ordered, head uint, version int) (headfile.QuotePage, error) {
	for _, h := range order {
		for _, q := range h.Quotes {
			if h.ID == head && q.Version == version {
				return q, nil
			}
		}
	}
	return headfile.QuotePage{}, shop.ErrNotFound
}
