package headfile

import (
	"slices"
	"strings"

	"yatai/core/route"
	"yatai/core/trade"
	"yatai/core/words"
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

// Declined tells whether the customer said no to an operation, and who.
func Declined(have []QuotePage, code string, at []string) (string, bool) {
	for _, q := range slices.Backward(have) {
		for _, l := range q.Lines {
			if q.Approval != nil && l.Code == code && !q.Answers[l.Seq] && l.Positions == strings.Join(at, " ") {
				return q.Approval.Name, true
			}
		}
	}
	return "", false
}

// Approved is what stands approved of a head.
type Approved struct {
	Quotes []QuotePage
}

// Asked tells whether any quote has been answered.
func (q Approved) Asked() bool {
	return slices.ContainsFunc(q.Quotes, func(p QuotePage) bool { return p.Approval != nil })
}

// Unapproved says why an operation may not start, "" when it may.
func (q Approved) Unapproved(o store.Operation) words.Text {
	switch {
	case Free(o.Code) || covered(q.Quotes, o.Code, o.At()):
		return words.Text{}
	case !q.Asked():
		return words.Of("the customer has not approved anything yet: quote it first, or record what was said")
	}
	return words.Of("the customer has not approved this: write a supplement")
}

// Extra are the decisions a customer's yes to should and could lines adds.
func (q Approved) Extra() []route.Decision {
	var out []route.Decision
	for _, p := range q.Quotes {
		for _, l := range p.Lines {
			if l.Grp == Must || !p.Answers[l.Seq] {
				continue
			}
			out = append(out, route.DecisionsOf(l.Code, strings.Fields(l.Positions))...)
		}
	}
	return out
}

// Free tells whether an operation may start before anything is approved: it finds out what a
// head needs.
func Free(code string) bool {
	k := trade.OperationNamed(code)
	return k != nil && k.Free
}
