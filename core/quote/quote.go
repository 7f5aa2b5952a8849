// Package quote makes a customer's lines of a head's plan: what must be done, what should be
// while it is open, and what could be, each with what it implies and why, priced so that they
// add up. Head and Lines are its doors.
package quote

import (
	"context"
	"slices"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/money"
	"yatai/core/plan"
	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/core/words"
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

// Line is a line of a quote.
type Line struct {
	price.Priced
	Group  string
	Reason words.Text
	With   string // the line of its group that brings it along, "" for one of its own
}

// Key names a line among those of its head: "should/lap".
func (l Line) Key() string { return l.Group + "/" + l.Code }

// Routes are the operations of some lines.
func Routes(lines ...Line) []route.Operation {
	var out []route.Operation
	for _, l := range lines {
		out = append(out, l.Operation)
	}
	return out
}

// Quote is a head's lines with what they come to.
type Quote struct {
	Lines   []Line
	Totals  price.Totals
	Unknown []string
}

// Head quotes a head by its plan: what the plan does as must, what is near its limit as
// should, what the plan that renews more would renew as could. The totals are of all lines.
func Head(ctx context.Context, h *head.Head) (Quote, error) {
	j := judge.Head(h)
	p, err := plan.Judged(ctx, h, j, h.Ask)
	if err != nil {
		return Quote{}, err
	}
	rich, err := plan.Judged(ctx, h, j, Rich(h))
	if err != nil {
		return Quote{}, err
	}
	q := Quote{Lines: append(must(h, p), Extra(h, j, rich, Decided(p))...)}
	q.Totals = Total(price.TermsOf(h), q.Lines)
	var ops []price.Priced
	for _, l := range q.Lines {
		ops = append(ops, l.Priced)
	}
	_, _, q.Unknown = price.Sum(ops)
	return q, nil
}

// Decided is the route of a plan.
func Decided(p plan.Plan) []route.Operation {
	var out []route.Operation
	for _, o := range p.Operations {
		out = append(out, o.Operation)
	}
	return out
}

// must are the lines of a plan.
func must(h *head.Head, p plan.Plan) []Line {
	var out []Line
	for _, o := range p.Operations {
		out = append(out, Line{Priced: o, Group: Must, Reason: words.Of(p.Because[o.Code])})
	}
	return out
}

// Total adds lines up by the shop's terms.
func Total(t price.Terms, lines []Line) price.Totals {
	var c money.Charge
	var minutes quantity.Minutes
	for _, l := range lines {
		c, minutes = c.Plus(money.Charge{Labour: l.Labour, Parts: l.PartsCents()}), minutes+l.Minutes
	}
	return t.Total(c, minutes)
}

// Rich is the question whose plan says what could be renewed: whatever is decided.
func Rich(h *head.Head) head.Ask {
	ask := h.Ask
	ask.Alternative, ask.Free = plan.Renew, true
	return ask
}

// Extra are the should and could lines beside a route that is done anyway: the usual repair
// of what is near its limit, and what rich, the plan that renews more, would renew. Each brings
// what it implies, charged by what is still to be done for it: what the route has already is not
// charged again.
func Extra(h *head.Head, j judge.Judgement, rich plan.Plan, have []route.Operation) []Line {
	if h.Inspection() {
		return nil
	}
	var near []route.Decision
	for _, f := range j.All() {
		if f.Verdict != gauge.Near {
			continue
		}
		if r := j.Usual(f); r != nil && !has(have, r.Code, f.Position) && r.Works != trade.Whole &&
			!worked(have, r, f.Position) {
			near = append(near, route.Decision{Code: r.Code, Position: f.Position})
		}
	}
	lines := beside(h, j, Should, near, have, gauge.Near, words.Text{})
	if !rich.Feasible {
		return lines
	}
	have = append(have, Routes(lines...)...)
	var more []route.Decision
	for _, v := range rich.Valves {
		for _, o := range []*trade.Operation{trade.FitInsert, trade.FitValve, trade.FitGuide} {
			if slices.Contains(v.Repairs, o.Code) && !has(have, o.Code, v.ID) &&
				!worked(have, trade.RepairNamed(o.Code), v.ID) {
				more = append(more, route.Decision{Code: o.Code, Position: v.ID})
			}
		}
	}
	used := words.Of("has used up half of its room; cheaper while the head is open")
	return append(lines, beside(h, j, Could, more, have, gauge.Sound, used)...)
}

// has tells whether a route does an operation at a position.
func has(ops []route.Operation, code, at string) bool {
	return slices.ContainsFunc(ops, func(o route.Operation) bool {
		return o.Code == code && (at == "" || len(o.Positions) == 0 || slices.Contains(o.Positions, at))
	})
}

// worked tells whether a route works the metal of a repair at a position in another way already.
func worked(ops []route.Operation, r *trade.Repair, at string) bool {
	return slices.ContainsFunc(ops, func(o route.Operation) bool {
		return r.Excludes(trade.RepairNamed(o.Code)) && has(ops, o.Code, at) &&
			!slices.Contains(r.Does.Implies, o.Operation) // an insert has its seat cut
	})
}

// Less is what a route does beyond another, position by position: what is there already is not
// done, or charged, again, and what is set up anyway is not set up again.
func Less(h *head.Head, ops, have []route.Operation) []route.Operation {
	var out []route.Operation
	for _, o := range ops {
		if slices.ContainsFunc(have, func(x route.Operation) bool { return x.Code == o.Code }) {
			o.Positions = slices.DeleteFunc(slices.Clone(o.Positions),
				func(id string) bool { return has(have, o.Code, id) })
			if len(o.Positions) == 0 {
				continue
			}
			o.Minutes, o.SetUp = h.Labour(o.Operation).Each*quantity.Minutes(len(o.Positions)), true
		}
		out = append(out, o)
	}
	return out
}

// Of prices a route as lines of a group, each with its reason from findings at least that bad.
// sizes may be nil.
func Of(
	h *head.Head, j judge.Judgement, group string, ops []route.Operation, least gauge.Verdict,
	sizes price.Sizes,
) []Line {
	var out []Line
	for _, p := range price.Operations(h, ops, sizes) {
		out = append(out, Line{Priced: p, Group: group, Reason: Reason(h, j, p.Operation, least)})
	}
	return out
}

// beside prices decisions beside a route: only what the route does not do already. What comes
// along with them says so.
func beside(
	h *head.Head, j judge.Judgement, group string, ds []route.Decision, have []route.Operation,
	least gauge.Verdict, reason words.Text,
) []Line {
	out := Of(h, j, group, Less(h, route.Only(h, ds), have), least, nil)
	for i := range out {
		l := &out[i]
		switch {
		case !slices.ContainsFunc(ds, func(d route.Decision) bool { return d.Code == l.Code }):
			l.Reason, l.With = words.Of("comes with the others of this group"), group
		case reason.Sentence != "":
			l.Reason = reason
		}
	}
	return out
}

// Reason says in plain words why an operation is quoted: the findings it answers, with their
// readings and limits; else its own reason.
func Reason(h *head.Head, j judge.Judgement, o route.Operation, least gauge.Verdict) words.Text {
	var out []words.Text
	for _, f := range j.All() {
		if f.Verdict < least || f.Verdict == gauge.Doubt {
			continue
		}
		at := f.Position == "" && len(o.Positions) == 0 || slices.Contains(o.Positions, f.Position)
		if !at || !slices.ContainsFunc(judge.Answers(h, f),
			func(r *trade.Repair) bool { return r.Code == o.Code }) {
			continue
		}
		said := f.Named()
		said.Mid = true
		if f.Position != "" {
			said = words.Of("%s %s", f.Position, said)
		}
		switch {
		case f.Finding != 0 || f.Limit == nil:
		case f.Words != nil:
			said = words.Of("%s: %s", said, f.Figured(h.Unit))
		default:
			figure := words.Join(" ", f.Figured(h.Unit), words.Of(f.UnitName(h.Unit)))
			said = words.Of("%s %s, allowed %s", said, figure, f.Limit.Said(h.Unit))
		}
		if out = append(out, said); len(out) == 6 {
			out = append(out, words.Of("and more"))
			break
		}
	}
	if out != nil {
		return words.Join("; ", out...)
	}
	if o.Operation.Because != "" {
		return words.Of(o.Operation.Because)
	}
	return words.Of("by the plan")
}
