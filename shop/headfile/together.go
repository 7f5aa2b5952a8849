package headfile

import (
	"slices"
	"strings"
	"time"

	"yatai/core/money"
	"yatai/shop"
	"yatai/store"
)

// Ordered is a head of an order with all its quotes, the oldest first.
type Ordered struct {
	store.Head // with its model
	Quotes     []QuotePage
}

// OfOrder loads the heads of an order with their quotes.
func OfOrder(s *shop.Shop, db store.DB, job uint) ([]Ordered, error) {
	heads, err := db.HeadsOfJob(job)
	if err != nil {
		return nil, err
	}
	var ids []uint
	for _, h := range heads {
		ids = append(ids, h.ID)
	}
	quotes, err := Quotes(s, db, ids...)
	if err != nil {
		return nil, err
	}
	var out []Ordered
	for _, h := range heads {
		out = append(out, Ordered{
			h, slices.DeleteFunc(slices.Clone(quotes), func(q QuotePage) bool { return q.HeadID != h.ID }),
		})
	}
	return out, nil
}

// Unanswered is the head's newest quote when it waits for an answer.
func (o Ordered) Unanswered() (QuotePage, bool) {
	n := len(o.Quotes)
	if n == 0 || o.Quotes[n-1].Approval != nil || o.ClosedAt != nil {
		return QuotePage{}, false
	}
	return o.Quotes[n-1], true
}

// Joined is one of the quotes that a customer answers together, with its head.
type Joined struct {
	store.Head // with its model
	Q          QuotePage
}

// Together are the quotes of heads of one order that went out under one link: one sum, one answer. A head
// quoted alone is one of one.
type Together []Joined

// QuotedWith is a head's quote, and those of other heads of its order that were sent under the same link.
func QuotedWith(order []Ordered, h store.Head, q QuotePage) Together {
	t := Together{{h, q}}
	for _, other := range order {
		for _, p := range other.Quotes {
			if other.ID != h.ID && q.TokenHash != "" && p.TokenHash == q.TokenHash && !p.Superseded {
				t = append(t, Joined{other.Head, p})
			}
		}
	}
	return t
}

// Deposit is what is asked for before the work begins, of all of them: in cents with tax.
func (t Together) Deposit() int64 { return money.Share(t.Totals("must").Gross, t[0].Q.DepositPPM) }

// Tags names the heads: "T0402, T0403".
func (t Together) Tags() string {
	var tags []string
	for _, j := range t {
		tags = append(tags, j.Tag)
	}
	return strings.Join(tags, ", ")
}

// Has tells whether a head is one of them.
func (t Together) Has(tag string) bool {
	return slices.ContainsFunc(t, func(j Joined) bool { return j.Tag == tag })
}

// Models names what the heads are, each model once.
func (t Together) Models() string {
	var names []string
	for _, j := range t {
		if !slices.Contains(names, j.Model.Name) {
			names = append(names, j.Model.Name)
		}
	}
	return strings.Join(names, ", ")
}

// Waiting are those that nobody has answered and that can still be answered: their head has not left.
func (t Together) Waiting() Together {
	return slices.DeleteFunc(slices.Clone(t),
		func(j Joined) bool { return j.Q.Approval != nil || j.ClosedAt != nil })
}

// Superseded tells whether a newer quote has replaced one that waits.
func (t Together) Superseded() bool {
	return slices.ContainsFunc(t.Waiting(), func(j Joined) bool { return j.Q.Superseded })
}

// Answered is the first answer that was given to any of them, nil when there is none yet.
func (t Together) Answered() *store.Approval {
	for _, j := range t {
		if j.Q.Approval != nil {
			return j.Q.Approval
		}
	}
	return nil
}

// Until is when the first of them ends, nil where none was sent.
func (t Together) Until() *time.Time {
	var until *time.Time
	for _, j := range t {
		if at := j.Q.ExpiresAt; at != nil && (until == nil || at.Before(*until)) {
			until = at
		}
	}
	return until
}

// Ready is when the last of them could be ready, by an earlier day where one was said yes to; nil when it was
// said of none.
func (t Together) Ready() *time.Time {
	var ready *time.Time
	for _, j := range t {
		at := j.Q.Ready
		for _, l := range j.Q.Earlier() {
			if j.Q.Answers[l.Seq] {
				at = l.Sooner
			}
		}
		if at != nil && (ready == nil || at.After(*ready)) {
			ready = at
		}
	}
	return ready
}

// Unpriced counts the parts whose price is not known.
func (t Together) Unpriced() int {
	n := 0
	for _, j := range t {
		n += j.Q.Unpriced()
	}
	return n
}

// Totals adds them up, in the lines of some groups or in all: to the cent what the heads are billed one by
// one. The least charge is asked once for all of them.
func (t Together) Totals(groups ...string) Totals {
	var sum Totals
	for i, least := range t.least(groups...) {
		q := t[i].Q
		q.MinimumCents = least
		sum = sum.Plus(q.Totals(groups...))
	}
	return sum
}

// Shared are the quotes with the least charge shared out, by what was said yes to.
func (t Together) Shared() Together {
	out := slices.Clone(t)
	for i, least := range t.least() {
		out[i].Q.MinimumCents = least
	}
	return out
}

// least shares the least charge out, in cents per quote: the first that asks for one and has a line at a
// price is to come to what the others leave of it.
func (t Together) least(groups ...string) []int64 {
	least, takes := make([]int64, len(t)), -1
	var all, own, want int64 // cents after discount, before tax
	for i, j := range t {
		asked := j.Q.MinimumCents
		if j.Q.Approval != nil { // it was shared out when it was answered
			least[i] = asked
			continue
		}
		j.Q.MinimumCents = 0
		one := j.Q.Totals(groups...)
		all += one.Net - one.Discount
		want = max(want, asked)
		if takes < 0 && asked > 0 && one.Net > 0 {
			takes, own = i, one.Net-one.Discount
		}
	}
	if takes >= 0 {
		least[takes] = max(0, want-(all-own))
	}
	return least
}
