// Package experience is what the shop has learnt from its own heads: which causes were confirmed, which
// repairs came back, what work takes in whose hands, which tools drift, and which readings ever changed a
// decision. Of is its door; Proposals says what the owner might change by it.
package experience

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"yatai/core/gauge"
	"yatai/core/money"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/week"
	"yatai/store"
)

// mostHeads bounds the heads that are looked at: those that left last.
const mostHeads = 100

// Known is what the shop knows. Every row names the heads behind it, the newest first.
type Known struct {
	Heads    int // that left last, and are looked at
	Currency string
	Causes   []Cause   // the most often confirmed first
	Repairs  []Repair  // what came back most often first
	Work     []Work    // by operation and person
	Readings []Reading // in the order of the bench
	Tools    []Tool    // those whose checks show a sign first
	Proposed []Proposal
}

// Cause is how often a cause was called.
type Cause struct {
	Code, Name       string
	Confirmed, Ruled []string // heads where it was, and where it was ruled out
}

// Called are all heads it was called on.
func (c Cause) Called() []string { return slices.Concat(c.Confirmed, c.Ruled) }

// Repair is an operation that moves metal or renews a part, and what became of its heads.
type Repair struct {
	Code, Name string
	Heads      []string // it was done on
	Back       []string // of those, that came back because earlier work did not hold
	Charged    []string // and of these, whose comeback is charged to it
}

// Share is how many of its heads came back, 0 to 1.
func (r Repair) Share() float64 { return float64(len(r.Back)) / float64(max(1, len(r.Heads))) }

// Work is what an operation took in one person's hands, against what was planned, and what that is at the
// shop's hourly rate, in cents.
type Work struct {
	Code, Name, Person string
	Times              int
	Planned, Took      quantity.Minutes
	PlannedCents       int64
	TookCents          int64
	Heads              []string

	// of those of its heads that are billed, with parts, before tax, in cents: as quoted, and as billed with
	// what is given taken off
	Billed      []string
	QuotedCents int64
	BilledCents int64
}

// Share is what it took as a share of what was planned.
func (w Work) Share() float64 { return float64(w.Took) / float64(max(1, w.Planned)) }

// Reading is a characteristic that is read, and whether it ever changed what was decided.
type Reading struct {
	Code, Label string
	Times       int      // readings, all heads
	Heads       []string // it was read on
	Changed     []string // of those, where something was done because of it
}

// Tool is a tool with what its zero checks of a year say.
type Tool struct {
	ID     uint
	Name   string
	Checks int
	Failed int
	Signs  []string     // what chance does seldom; empty where it only varies
	Chart  *gauge.Chart // of those since it failed last; nil for too few
}

// Of returns what the shop knows.
func Of(ctx context.Context, s *shop.Shop, a shop.Actor) (Known, error) {
	var k Known
	if err := a.Must("see what the shop knows"); err != nil {
		return k, err
	}
	db := s.Store.Read(ctx)
	heads, err := db.LastLeft(mostHeads)
	if err != nil {
		return k, err
	}
	set, err := s.Settings(ctx, "")
	if err != nil {
		return k, err
	}
	k.Heads, k.Currency = len(heads), set.Get("currency")
	of := lookup(heads)
	if err := of.load(s, db); err != nil {
		return k, err
	}
	hands, err := week.Hands(ctx, s)
	if err != nil {
		return k, err
	}
	for _, fill := range []func() error{
		func() error { return k.causes(db, of) },
		func() error { return k.repairs(db, of) },
		func() error { return k.work(db, hands, set.Cents("rate")) },
		func() error { k.readings(of); return nil },
		func() error { return k.tools(db, s.Now()) },
		func() (err error) { k.Proposed, err = proposals(ctx, s, a, hands); return err },
	} {
		if err := fill(); err != nil {
			return k, err
		}
	}
	return k, nil
}

// heads are some heads by id, and their ids.
type heads struct {
	ids  []uint
	by   map[uint]store.Left
	done map[uint]shop.Done
}

func lookup(all []store.Left) heads {
	h := heads{by: map[uint]store.Left{}, done: map[uint]shop.Done{}}
	for _, x := range all {
		h.ids, h.by[x.ID] = append(h.ids, x.ID), x
	}
	return h
}

// load fills in what was read, decided and done. Of a head that has left that never changes: it is kept.
func (h heads) load(s *shop.Shop, db store.DB) error {
	var ask []uint
	for _, id := range h.ids {
		known, ok := s.Cache.Done.Get(id)
		if !ok {
			ask = append(ask, id)
			known = shop.Done{Read: map[string]int{}, Acted: map[string]bool{}}
		}
		h.done[id] = known
	}
	if len(ask) == 0 {
		return nil
	}
	counts, err := db.ReadCounts(ask)
	if err != nil {
		return err
	}
	decided, err := db.DecisionsOf(ask)
	if err != nil {
		return err
	}
	operations, err := db.DoneAt(ask)
	if err != nil {
		return err
	}
	for _, n := range counts {
		h.done[n.HeadID].Read[n.Characteristic] = n.Count
	}
	for _, d := range decided {
		code, _, _ := strings.Cut(strings.ReplaceAll(d.Feature, "/", "@"), "@")
		if d.Choice != "" && d.Choice != trade.Leave {
			h.done[d.HeadID].Acted[code] = true
		}
	}
	for _, o := range operations {
		if d := h.done[o.HeadID]; !slices.Contains(d.Work, o.Code) {
			d.Work = append(d.Work, o.Code)
			h.done[o.HeadID] = d
		}
	}
	for _, id := range ask {
		if h.by[id].HandedOverAt != nil {
			s.Cache.Done.Add(id, h.done[id])
		}
	}
	return nil
}

// causes counts what was confirmed and ruled out; the last word on each head counts.
func (k *Known) causes(db store.DB, of heads) error {
	calls, err := db.CauseCalls(of.ids...)
	if err != nil {
		return err
	}
	type call struct {
		head  uint
		cause string
	}
	last := map[call]string{}
	for _, c := range calls {
		last[call{c.HeadID, c.Cause}] = c.State
	}
	at := map[string]*Cause{}
	for _, id := range of.ids {
		for _, c := range trade.Causes {
			state := last[call{id, c.Code}]
			if state != "confirmed" && state != "ruled out" {
				continue
			}
			if at[c.Code] == nil {
				at[c.Code] = &Cause{Code: c.Code, Name: c.Name}
			}
			if state == "confirmed" {
				at[c.Code].Confirmed = append(at[c.Code].Confirmed, of.by[id].Tag)
			} else {
				at[c.Code].Ruled = append(at[c.Code].Ruled, of.by[id].Tag)
			}
		}
	}
	for _, c := range at {
		k.Causes = append(k.Causes, *c)
	}
	slices.SortFunc(k.Causes, func(a, b Cause) int {
		return cmp.Or(cmp.Compare(len(b.Confirmed), len(a.Confirmed)), cmp.Compare(a.Name, b.Name))
	})
	return nil
}

// repairs counts the work that was done, and what came back of it.
func (k *Known) repairs(db store.DB, of heads) error {
	back, err := db.CameBack(of.ids)
	if err != nil {
		return err
	}
	charged := map[string]string{} // to what the comeback of a head is charged, by its tag
	came := map[string]bool{}
	for _, b := range back {
		came[b.Earlier] = true
		charged[b.Earlier] = cmp.Or(charged[b.Earlier], b.ChargedTo)
	}
	at := map[string]*Repair{}
	for _, id := range of.ids {
		tag := of.by[id].Tag
		for _, code := range of.done[id].Work {
			op := trade.OperationNamed(code)
			if op == nil || op.Always || op.Inspect {
				continue
			}
			r := at[code]
			if r == nil {
				r = &Repair{Code: code, Name: op.Name}
				at[code] = r
			}
			r.Heads = append(r.Heads, tag)
			if came[tag] {
				r.Back = append(r.Back, tag)
				if strings.EqualFold(charged[tag], headfile.ChargedTo(op)) {
					r.Charged = append(r.Charged, tag)
				}
			}
		}
	}
	for _, r := range at {
		slices.SortFunc(r.Heads, newest)
		slices.SortFunc(r.Back, newest)
		slices.SortFunc(r.Charged, newest)
		k.Repairs = append(k.Repairs, *r)
	}
	slices.SortFunc(k.Repairs, func(a, b Repair) int {
		return cmp.Or(cmp.Compare(len(b.Back), len(a.Back)), cmp.Compare(len(b.Heads), len(a.Heads)),
			cmp.Compare(a.Name, b.Name))
	})
	return nil
}

// newest orders tags, the newest first.
func newest(a, b string) int { return cmp.Or(cmp.Compare(len(b), len(a)), cmp.Compare(b, a)) }

// work tells what operations took, by person.
func (k *Known) work(db store.DB, hands []week.Hand, rate int64) error {
	people, err := db.Users()
	if err != nil {
		return err
	}
	name := map[uint]string{}
	for _, p := range people {
		name[p.ID] = p.Name
	}
	var ids []uint
	for _, h := range hands {
		ids = append(ids, h.Heads...)
	}
	slices.Sort(ids)
	ids = slices.Compact(ids)
	tags, err := db.TagsOf(ids)
	if err != nil {
		return err
	}
	type line struct {
		head uint
		code string
	}
	lines, err := db.Priced(ids)
	if err != nil {
		return err
	}
	priced := map[line]store.Priced{}
	for _, p := range lines {
		priced[line{p.HeadID, p.Code}] = p
	}
	for _, h := range hands {
		w := Work{
			Code: h.Code, Name: h.Name, Person: name[h.PersonID], Times: h.Times, Planned: h.Planned, Took: h.Actual,
			PlannedCents: money.Div(rate*int64(h.Planned), 60), TookCents: money.Div(rate*int64(h.Actual), 60),
		}
		for _, id := range h.Heads {
			w.Heads = append(w.Heads, tags[id])
			if p, billed := priced[line{id, h.Code}]; billed {
				w.Billed = append(w.Billed, tags[id])
				w.QuotedCents, w.BilledCents = w.QuotedCents+p.Quoted, w.BilledCents+p.Billed
			}
		}
		k.Work = append(k.Work, w)
	}
	return nil
}

// readings tells of each characteristic whether anything was ever done because of it: its own finding, or
// that of what is derived from it.
func (k *Known) readings(of heads) {
	for _, c := range trade.Characteristics {
		r := Reading{Code: c.Code, Label: c.Label}
		speaks := spokenBy(c)
		for _, id := range of.ids {
			done, tag := of.done[id], of.by[id].Tag
			if done.Read[c.Code] == 0 {
				continue
			}
			r.Times, r.Heads = r.Times+done.Read[c.Code], append(r.Heads, tag)
			if slices.ContainsFunc(speaks, func(code string) bool { return done.Acted[code] }) {
				r.Changed = append(r.Changed, tag)
			}
		}
		if len(r.Heads) > 0 {
			slices.SortFunc(r.Heads, newest)
			slices.SortFunc(r.Changed, newest)
			k.Readings = append(k.Readings, r)
		}
	}
}

// spokenBy are the codes of what a reading of c speaks for: c itself, and what is derived from it.
func spokenBy(c trade.Characteristic) []string {
	out := []string{c.Code}
	for _, d := range trade.Characteristics {
		from := func(x *trade.Characteristic) bool { return x.Code == c.Code }
		if d.Of != nil && from(d.Of) || slices.ContainsFunc(d.From, from) {
			out = append(out, d.Code)
		}
	}
	return out
}

// tools looks at the zero checks of a year.
func (k *Known) tools(db store.DB, now time.Time) error {
	tools, err := db.Tools()
	if err != nil {
		return err
	}
	checks, err := db.ZeroChecksSince(now.AddDate(-1, 0, 0))
	if err != nil {
		return err
	}
	by := map[uint][]store.ZeroCheck{}
	for _, z := range checks {
		by[z.ToolID] = append(by[z.ToolID], z)
	}
	for _, t := range tools {
		x := Tool{ID: t.ID, Name: t.Name, Checks: len(by[t.ID])}
		for _, z := range by[t.ID] {
			if !z.Passed {
				x.Failed++
			}
		}
		if c, _, ok := (bench.ToolPage{Checks: by[t.ID]}).Charted(); ok {
			x.Chart = &c
			for _, sign := range c.Signs {
				x.Signs = append(x.Signs, sign.Says.String())
			}
		}
		if x.Checks > 0 {
			k.Tools = append(k.Tools, x)
		}
	}
	slices.SortStableFunc(k.Tools, func(a, b Tool) int {
		return cmp.Or(cmp.Compare(len(b.Signs)+b.Failed, len(a.Signs)+a.Failed), cmp.Compare(a.Name, b.Name))
	})
	return nil
}
