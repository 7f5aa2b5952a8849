package headfile

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/price"
	"yatai/core/quote"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/shop"
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

// Accepted tells whether it was answered with a yes to any of it.
func (q QuotePage) Accepted() bool {
	for _, yes := range q.Answers {
		if yes {
			return true
		}
	}
	return false
}

// Unpriced counts the parts of its lines, of those that were said yes to once it is answered, whose price
// was not known: the totals have nothing for them.
func (q QuotePage) Unpriced() int {
	n := 0
	for _, l := range q.Lines {
		if q.Answers == nil || q.Answers[l.Seq] {
			n += l.Unpriced
		}
	}
	return n
}

// Group lists a quote's lines of a group.
func (q QuotePage) Group(g string) []store.QuoteLine {
	return slices.DeleteFunc(slices.Clone(q.Lines), func(l store.QuoteLine) bool { return l.Grp != g })
}

// Beside are the lines of a group that are work: an earlier day stands alone.
func (q QuotePage) Beside(g string) []store.QuoteLine {
	return slices.DeleteFunc(q.Group(g), func(l store.QuoteLine) bool { return l.Sooner != nil })
}

// Earlier are the lines that offer an earlier day.
func (q QuotePage) Earlier() []store.QuoteLine {
	return slices.DeleteFunc(slices.Clone(q.Lines), func(l store.QuoteLine) bool { return l.Sooner == nil })
}

// Quotes loads the quotes of heads, head by head, the oldest first, with their answers.
func Quotes(s *shop.Shop, db store.DB, heads ...uint) ([]QuotePage, error) {
	rows, err := db.Quotes(heads...)
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	answers, err := db.Approvals(heads...)
	if err != nil {
		return nil, err
	}
	var out []QuotePage
	for i, q := range rows {
		p := QuotePage{Quote: q, Expired: q.ExpiresAt != nil && s.Now().After(*q.ExpiresAt)}
		for _, later := range rows[i+1:] {
			p.Superseded = p.Superseded || later.HeadID == q.HeadID && later.Kind == q.Kind
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

// ApprovedCents returns what was said yes to of some heads' quotes, with tax, in cents by head,
// and which have a quote that waits for an answer.
func ApprovedCents(db store.DB, heads []uint) (cents map[uint]int64, waiting map[uint]bool, err error) {
	rows, err := db.Quotes(heads...)
	if err != nil {
		return nil, nil, err
	}
	answers, err := db.Approvals(heads...)
	if err != nil {
		return nil, nil, err
	}
	cents, waiting = map[uint]int64{}, map[uint]bool{}
	for _, q := range rows {
		a, answered := answers[q.ID]
		if waiting[q.HeadID] = !answered && q.SentAt != nil; !answered { // the newest says
			continue
		}
		p := QuotePage{Quote: q, Answers: map[int]bool{}}
		if err := json.Unmarshal([]byte(a.Answers), &p.Answers); err != nil {
			return nil, nil, fmt.Errorf("answer to quote %d: %w", q.Version, err)
		}
		cents[q.HeadID] += p.Totals().Gross
	}
	return cents, waiting, nil
}

// ApprovedWork is what customers have said yes to, as a route: a supplement is what goes
// beyond it.
func ApprovedWork(have []QuotePage) []route.Operation {
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

// PlannedSizes says which lash shims, pushrods and spring shims the head's plan puts in, nil without one.
func PlannedSizes(s *shop.Shop, db store.DB, f *File) (price.Sizes, error) {
	plans, err := PlansIn(s, db, f)
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

// shimSlack is how far a shim may be read from what it was read as before. Trade practice.
const shimSlack = 10 * length.Micrometre

// ShimsRead are the lash shims that were read since an operation was begun, but for those that were in the
// same places before, moved or not: they were taken from the box. Nil when there are none.
func (f *File) ShimsRead(o store.Operation) price.Sizes {
	was, is := map[string]length.Length{}, map[string]length.Length{}
	for _, r := range f.Readings {
		switch {
		case r.Characteristic != trade.ShimSize.Code || o.BegunAfter < 0:
		case int(r.ID) > o.BegunAfter:
			is[r.Position] = r.NM.Length()
		default:
			was[r.Position] = r.NM.Length()
		}
	}
	var came []length.Length
	for position := range is {
		if n, ok := was[position]; ok {
			came = append(came, n)
		}
	}
	put := map[string]length.Length{}
	for _, v := range f.Layout.Valves {
		n, ok := is[v.ID]
		if !ok {
			continue
		}
		i := slices.IndexFunc(came, func(c length.Length) bool { return max(c-n, n-c) <= shimSlack })
		if i < 0 {
			put[v.ID] = n
			continue
		}
		came = slices.Delete(came, i, i+1)
	}
	if len(put) == 0 {
		return nil
	}
	return func(kind *trade.PartKind, position string) (length.Length, bool) {
		n, ok := put[position]
		if !ok || kind != trade.LashShimPart {
			return 0, false
		}
		for _, it := range f.Subject.Stock { // it is booked as what the box calls it
			if it.Kind == kind.Code && max(it.Size-n, n-it.Size) <= shimSlack {
				return it.Size, true
			}
		}
		return n, true
	}
}

// Routed is the route of a head as it stands: ordered, or derived from its decisions.
func (f *File) Routed() []route.Operation {
	if f.WorkOrderAt != nil {
		return OperationsOf(f.Operations)
	}
	return f.Derived()
}

// Derived is the route that the head's decisions come to, ordered or not.
func (f *File) Derived() []route.Operation {
	return route.Derive(f.Subject, slices.Concat(f.Decided(), route.Renewals(f.Subject)))
}

// Decided returns the decisions as the route takes them.
func (f *File) Decided() []route.Decision {
	var out []route.Decision
	for _, d := range f.Decisions {
		if d.Choice != trade.Leave {
			out = append(out, route.Decision{Code: d.Choice, Position: d.Position})
		}
	}
	return out
}

// Until is when a quote's link ends.
func (q QuotePage) Until() time.Time {
	if q.ExpiresAt == nil {
		return time.Time{}
	}
	return *q.ExpiresAt
}
