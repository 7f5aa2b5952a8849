package shop

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/route"
	"yatai/store"
)

// Groups of a quote's lines: what safety or function needs, what is near its limit, what is
// cheap while the head is open.
const (
	Must   = "must"
	Should = "should"
	Could  = "could"
)

// Groups lists them in order.
var Groups = []string{Must, Should, Could}

// QuotePage is a quote as the shop and the customer see it.
type QuotePage struct {
	store.Quote
	Approval *store.Approval
	Answers  map[int]bool // by line, once answered
	Expired  bool
	Superior bool // a later version of the same kind is there: this one is history
}

// Totals are what a quote comes to, in cents.
type Totals struct {
	Net, Discount, Minimum, Tax, Gross int64
	Minutes                            int
}

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
	var t Totals
	var labour int64
	for _, l := range q.Lines {
		if in(l) {
			t.Net, t.Minutes, labour = t.Net+l.Cents(), t.Minutes+l.Minutes, labour+l.LabourCents
		}
	}
	if t.Net == 0 {
		return t
	}
	t.Discount = rounded(labour*q.DiscountPPM, 1_000_000)
	if after := t.Net - t.Discount; after < q.MinimumCents {
		t.Minimum = q.MinimumCents - after
	}
	t.Tax = rounded((t.Net-t.Discount+t.Minimum)*q.TaxPPM, 1_000_000)
	t.Gross = t.Net - t.Discount + t.Minimum + t.Tax
	return t
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
			p.Superior = p.Superior || later.Kind == q.Kind
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

// reasons says in plain words why an operation is quoted: the findings it answers, with
// their readings and limits.
func (f *File) reasons(o route.Operation, min gauge.Verdict) string {
	var out []string
	for _, x := range f.Received.All() {
		if x.Verdict < min || x.Verdict == gauge.Doubt {
			continue
		}
		at := x.Position == "" && len(o.Positions) == 0 || slices.Contains(o.Positions, x.Position)
		_, answers := judge.RepairNamed(x, o.Code)
		if !at || !answers {
			continue
		}
		said := strings.TrimSpace(x.Position + " " + strings.ToLower(x.Label))
		if x.Finding == 0 && x.Limit != nil {
			said += " " + strings.TrimSpace(x.Figure(f.Unit)+" "+x.UnitName(f.Unit)) + ", allowed " + x.Limit.Text(f.Unit)
		}
		out = append(out, said)
		if len(out) == 6 {
			out = append(out, "and more")
			break
		}
	}
	if out != nil {
		return strings.Join(out, "; ")
	}
	return because[o.Code]
}

// because says why operations are quoted that answer no finding of their own.
var because = map[string]string{
	"wash": "every head is washed before it is tested", "pressure_test": "tested before money is spent on machining", "pressure_retest": "tested again: an insert or a weld was made", "wash_final": "grit left behind ruins the guides in the first hour",
	"assemble": "new stem seals always; parts back in their own places", "seal_test": "every seat is proven before the head leaves", "final_check": "all readings again where work was done", "seat_cut": "a seat is only as true as its guide: cut after the guide", "face": "needed by the plan",
	"keeper_new": "renewed as a rule of the shop", "rotator_new": "renewed whatever they measure, by the sheet", "spring_new": "renewed as a set", "valve_grind": "the plan refaces them to bring the depth right", "lash_set": "the work moves the lash", "tip_grind": "the plan brings the stem heights right", "spring_shim": "the work moves the spring's height", "lap": "a finish and a test", "scrap": "cannot be mended safely",
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
		p, err := s.planner(tx, f)
		if err != nil {
			return err
		}
		have, err := s.quotes(tx, f.ID)
		if err != nil {
			return err
		}
		if open := f.undecided(); len(open) > 0 && f.WorkOrderAt == nil {
			return field.Errors{"quote": plural(len(open), "finding") + " without a decision: " + strings.Join(open, ", ")}
		}
		q := store.Quote{HeadID: f.ID, Version: len(have) + 1, Kind: "quote", Note: note, Currency: p.set.Get("currency"), TaxPPM: p.set.PPM("tax"), MinimumCents: p.set.Cents("minimum"), DiscountPPM: p.set.PPM("discount"), PersonID: a.ID, At: s.now()}
		lines := p.lines()
		if slices.ContainsFunc(have, func(q QuotePage) bool { return q.Approval != nil }) {
			q.Kind, q.MinimumCents = "supplement", 0
			lines = slices.DeleteFunc(lines, func(l store.QuoteLine) bool {
				return l.Grp != Must || covered(have, l.Code, strings.Fields(l.Positions))
			})
			if len(lines) == 0 {
				return field.Errors{"quote": "everything that is decided was quoted already"}
			}
		}
		var ops []Priced
		for _, l := range lines {
			if k, ok := route.Named(l.Code); ok && l.Grp == Must {
				ops = append(ops, f.price([]route.Operation{{Kind: k, Positions: strings.Fields(l.Positions), Minutes: l.Minutes}}, p.set, p.stock, p.lead)...)
			}
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

// routed is the route of a head as it stands: ordered, or derived from its decisions.
func (f *File) routed(school route.School) []route.Operation {
	if f.WorkOrderAt != nil {
		var out []route.Operation
		for _, o := range f.Operations {
			if k, ok := route.Named(o.Code); ok && o.State != "skipped" {
				out = append(out, route.Operation{Kind: k, Positions: o.At(), Minutes: o.Minutes})
			}
		}
		return out
	}
	return route.Derive(f.positions(), f.decided(), school)
}

func (f *File) positions() []string {
	var ids []string
	for _, v := range f.Layout.Valves {
		ids = append(ids, v.ID)
	}
	return ids
}

func (f *File) decided() []route.Decision {
	var out []route.Decision
	for _, d := range f.Decisions {
		if d.Choice != judge.Leave {
			out = append(out, route.Decision{Code: d.Choice, Position: d.Position})
		}
	}
	return out
}

// lines are a quote's lines.
func (p *planner) lines() []store.QuoteLine {
	f := p.f
	must := f.routed(p.set.School())
	lines := p.quoted(Must, must, gauge.Doubt)
	has := func(ops []route.Operation, code, at string) bool {
		return slices.ContainsFunc(ops, func(o route.Operation) bool {
			return o.Code == code && (at == "" || len(o.Positions) == 0 || slices.Contains(o.Positions, at))
		})
	}
	var near []route.Decision
	for _, x := range f.Received.All() {
		rs := judge.RepairsFor(x)
		if x.Verdict != gauge.Near || len(rs) == 0 || slices.ContainsFunc(rs, func(r judge.Repair) bool { return has(must, r.Code, x.Position) }) {
			continue
		}
		near = append(near, route.Decision{Code: rs[0].Code, Position: x.Position})
	}
	should := p.only(near)
	lines = append(lines, p.quoted(Should, should, gauge.Near)...)
	if rich := p.answer(PlanAsk{Alternative: "renew", Brief: true}); rich.Feasible() && f.WorkOrderAt == nil {
		var more []route.Decision
		for _, d := range rich.Out.Valves {
			for what, code := range map[string]string{d.Seat: "seat_insert", d.Valve: "valve_new"} {
				if (what == "insert" || what == "new") && !has(must, code, d.ID) && !has(should, code, d.ID) {
					more = append(more, route.Decision{Code: code, Position: d.ID})
				}
			}
		}
		slices.SortFunc(more, func(a, b route.Decision) int {
			return cmp.Or(strings.Compare(a.Code, b.Code), strings.Compare(a.Position, b.Position))
		})
		for _, l := range p.quoted(Could, p.only(more), gauge.Sound) {
			l.Reason = "has used up half of its room; cheaper while the head is open"
			lines = append(lines, l)
		}
	}
	return lines
}

// only are the operations of some decisions, without what every head gets.
func (p *planner) only(ds []route.Decision) []route.Operation {
	var out []route.Operation
	for _, o := range route.Derive(p.f.positions(), ds, p.set.School()) {
		if slices.ContainsFunc(ds, func(d route.Decision) bool { return d.Code == o.Code }) {
			out = append(out, o)
		}
	}
	return out
}

func (p *planner) quoted(group string, ops []route.Operation, least gauge.Verdict) []store.QuoteLine {
	var out []store.QuoteLine
	for _, o := range p.f.price(ops, p.set, p.stock, p.lead) {
		l := store.QuoteLine{Grp: group, Code: o.Code, Name: o.Name, Positions: strings.Join(o.Positions, " "), Reason: p.f.reasons(o.Operation, least), Minutes: o.Minutes, LabourCents: o.Labour, Parts: o.PartsText()}
		for _, u := range o.Parts {
			l.PartsCents += u.Cents
		}
		if l.Reason == "" {
			l.Reason = "by the plan"
		}
		out = append(out, l)
	}
	return out
}

func hashOf(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
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
		if err := tx.SetQuote(q.ID, map[string]any{"sent_at": s.now(), "token_hash": hashOf(token), "expires_at": until}); err != nil {
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
