package lead

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/price"
	"yatai/core/quote"
	"yatai/core/trade"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/web/page"
)

// decisions is the page on which a head is decided: the plan of the whole head, as work with what it
// answers, and what else may be done.
type decisions struct {
	P            *lead.Planned // nil of a head that is only looked at, or of which nothing was read
	Lines        []line        // the plan's work, in its order; none once it is ordered
	Rest         []judge.Group // what no work of the plan answers: in doubt, left, without an answer
	Beside       []quote.Line  // what should and could be done besides
	Newer        *lead.NewerSheet
	Kept         []headfile.KeptPlan
	Alternatives []plan.Alternative
	Most, Cut    length.Length // the facing cut's handle: its end, and where it stands
	Fixed        bool          // the facing cut is held
	Ask          string        // what is held, as a query
	Currency     string
	Bound        []string    // keys of what was chosen on this page and is not kept yet
	Holds        []head.Hold // the columns of the plan's table that can be held

	file *headfile.File
}

// line is work of the plan with what it answers.
type line struct {
	price.Priced
	Because string
	Sizes   string // at its positions, in their order, without the unit
	Groups  []judge.Group
}

// Follows tells whether nothing asked for it: it comes with the rest.
func (l line) Follows() bool { return len(l.Groups) == 0 }

// deciding works the page out for what is held and what is decided; bound is what was chosen since.
func deciding(
	ctx context.Context, s *page.Site, f *headfile.File, ask headfile.PlanAsk, bound []string,
) (d decisions, err error) {
	d = decisions{Bound: bound, Alternatives: plan.Alternatives, Holds: columns(f.Subject), file: f}
	if d.Newer, err = lead.Newer(ctx, s.Shop, f); err != nil {
		return d, err
	}
	set, err := s.Shop.Settings(ctx, "")
	if err != nil {
		return d, err
	}
	d.Currency = set.Get("currency")
	if d.Kept, err = headfile.Plans(ctx, s.Shop, f); err != nil {
		return d, err
	}
	if f.Subject.Inspection() || len(f.Readings)+len(f.Findings) == 0 {
		d.Rest = f.Received.Groups(nil)
		return d, nil
	}
	if len(d.Kept) > 0 && !ask.Held() && ask.Alternative == "" {
		ask = d.Kept[0].Ask
	}
	ask.Brief, ask.Decided = true, true
	p, err := lead.Plan(ctx, s.Shop, f, ask)
	if err != nil {
		return d, err
	}
	d.P, d.Ask = &p, query(ask).Encode()
	if d.Cut, d.Fixed = p.FaceCut, ask.Cut != nil; d.Fixed {
		d.Cut = *ask.Cut
	}
	d.Most = max(p.Most, 400*length.Micrometre, d.Cut)
	if f.WorkOrderAt != nil || !p.Feasible {
		d.Rest = f.Received.Groups(nil)
		return d, nil
	}
	d.arrange(f.Received.Groups(p.Advised))
	d.Beside, err = lead.Beside(ctx, s.Shop, f, quote.Decided(p.Plan))
	return d, err
}

// arrange puts findings under the work that answers them.
func (d *decisions) arrange(groups []judge.Group) {
	for _, o := range d.P.Operations {
		if !o.Always {
			d.Lines = append(d.Lines, line{Priced: o, Because: d.P.Because[o.Code], Sizes: d.sizes(o)})
		}
	}
	for _, g := range groups {
		if i := d.answers(g); i >= 0 {
			d.Lines[i].Groups = append(d.Lines[i].Groups, g)
		} else {
			d.Rest = append(d.Rest, g)
		}
	}
	slices.SortStableFunc(d.Lines, func(a, b line) int { return follows(a) - follows(b) })
}

// follows is 1 for work that nothing asked for, else 0.
func follows(l line) int {
	if l.Follows() {
		return 1
	}
	return 0
}

// answers is the line of work that answers a group, -1 for none: the repair's own, or of what is
// answered by work elsewhere the first that moves it at the same position.
func (d *decisions) answers(g judge.Group) int {
	choice, at := d.GroupChoice(page.Page{}, g), g.Findings[0].Position
	if r := trade.RepairNamed(choice); r != nil {
		return slices.IndexFunc(d.Lines, func(l line) bool { return l.Code == r.Does.Code })
	}
	if choice != trade.Planned {
		return -1
	}
	here := func(l line) bool { return at == "" || len(l.Positions) == 0 || slices.Contains(l.Positions, at) }
	moved := slices.IndexFunc(d.Lines, func(l line) bool {
		return here(l) && slices.ContainsFunc(l.Moves,
			func(m trade.Move) bool { return m.Of.Code == g.Findings[0].Code })
	})
	if moved >= 0 {
		return moved
	}
	c, _ := trade.ByCode(g.Findings[0].Code)
	remade := slices.IndexFunc(d.Lines, func(l line) bool {
		return here(l) && slices.ContainsFunc(c.Proves(),
			func(of *trade.Characteristic) bool { return l.Voided(of.Code) })
	})
	if remade >= 0 {
		return remade
	}
	return slices.IndexFunc(d.Lines, here)
}

// sizes writes what is made at each position of an operation, "" where it has no sizes.
func (d *decisions) sizes(o price.Priced) string {
	u := d.file.In()
	if o.Operation.Operation == trade.FaceHead {
		return u.Text(d.P.FaceCut)
	}
	var out []string
	for _, v := range d.P.Valves {
		if size, ok := v.SizeOf(o.Operation.Operation); ok && slices.Contains(o.Positions, v.ID) {
			up := ""
			if size < 0 { // an insert stands up
				size, up = -size, " up"
			}
			out = append(out, u.In(size, u.Places())+up)
		}
	}
	if len(out) == 0 {
		return ""
	}
	return strings.Join(out, ", ") + " " + u.Name
}

// Cents is what the lines of a group of what is done besides come to.
func (d decisions) Cents(group string) (cents int64) {
	for _, l := range d.Beside {
		if l.Group == group {
			cents += l.Priced.Cents()
		}
	}
	return cents
}

// Group lists what is done besides of a group.
func (d decisions) Group(group string) []quote.Line {
	return slices.DeleteFunc(slices.Clone(d.Beside), func(l quote.Line) bool { return l.Group != group })
}

// Next is the version that the plan would be kept as.
func (d decisions) Next() int { return len(d.Kept) + 1 }

// GroupChoice is the answer ticked for a group: what was typed, what most of it is decided
// by, or else its usual answer. Findings that have another are exceptions.
func (d decisions) GroupChoice(p page.Page, g judge.Group) string {
	if c := p.Val("group/" + g.Key); c != "" {
		return c
	}
	count, best := map[string]int{}, ""
	for _, x := range g.Findings {
		if c := cmp.Or(d.chosen(x), g.Usual()); c != "" {
			if count[c]++; count[c] > count[best] {
				best = c
			}
		}
	}
	return best
}

// mostShown is how many findings of a group stand in the open.
const mostShown = 2

// First are the findings of a group that stand in the open.
func (d decisions) First(g judge.Group) []judge.Feature {
	return g.Findings[:min(mostShown, len(g.Findings))]
}

// Further are the others.
func (d decisions) Further(g judge.Group) []judge.Feature { return g.Findings[len(d.First(g)):] }

// GroupReason is the reason typed or kept for leaving a group.
func (d decisions) GroupReason(p page.Page, g judge.Group) string {
	if p.Values.Has("reason/" + g.Key) {
		return p.Val("reason/" + g.Key)
	}
	for _, x := range g.Findings {
		if d.chosen(x) == trade.Leave {
			return d.reason(x)
		}
	}
	return ""
}

// OwnChoice is the answer of a finding that differs from its group's, "" when it does not.
func (d decisions) OwnChoice(p page.Page, x judge.Feature, group string) string {
	if p.Values.Has("choice/" + x.Key()) {
		return p.Val("choice/" + x.Key())
	}
	if c := d.chosen(x); c != group {
		return c
	}
	return ""
}

// OwnReason is the reason typed or kept for leaving one finding.
func (d decisions) OwnReason(p page.Page, x judge.Feature) string {
	if at := "reason/" + x.Key() + "/own"; p.Values.Has(at) {
		return p.Val(at)
	}
	if d.chosen(x) == trade.Leave {
		return d.reason(x)
	}
	return ""
}

// Open tells whether a group's other answers stand open: something was changed there or came back.
func (d decisions) Open(p page.Page, g judge.Group) bool {
	return g.InDoubt() || len(g.Allowed) == 0 || slices.ContainsFunc(g.Findings, func(x judge.Feature) bool {
		return p.Err(x.Key()) != "" || d.chosen(x) != d.chosen(g.Findings[0]) || slices.Contains(d.Bound, x.Key())
	})
}

// NoAnswer says why nothing can be done about a finding.
func (d decisions) NoAnswer(x judge.Feature) string { return judge.NoAnswer(x) }

// Undecided counts the findings without a decision.
func (d decisions) Undecided() int {
	n := 0
	for _, x := range d.file.Received.Findings() {
		if dec, ok := d.file.Decision(x.Key()); !ok || dec.ID == 0 {
			n++
		}
	}
	return n
}

// Doubts counts the findings that have to be read again or released before the work is ordered.
func (d decisions) Doubts() int {
	n := 0
	for _, x := range d.file.Received.Findings() {
		if x.Verdict == gauge.Doubt && d.chosen(x) == "" {
			n++
		}
	}
	return n
}

func (d decisions) chosen(x judge.Feature) string {
	dec, _ := d.file.Decision(x.Key())
	return dec.Choice
}

func (d decisions) reason(x judge.Feature) string {
	dec, _ := d.file.Decision(x.Key())
	return dec.Reason
}
