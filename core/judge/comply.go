package judge

import (
	"strings"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// Compliance is the answer to a rules check, or to whether a part bought in is to size.
type Compliance struct {
	Rule    string    // what it is held against, "" when nobody asked
	Limits  int       // how many limits of it are held
	Against []Feature // outside
	Open    []Feature // unread, or too close to tell
}

// Compliance holds a head that is only inspected against the class rule, or a new part's sizes, and
// against what was seen of it: grades and marks count as figures do.
func (j Judgement) Compliance() Compliance {
	set := j.head.Governing()
	out := Compliance{Rule: map[string]string{head.Class: "the class rule", head.New: "a new part's sizes"}[set]}
	if out.Rule == "" {
		return out
	}
	for _, f := range j.All() {
		if f.Finding != 0 && f.Verdict >= gauge.Out { // a crack complies with nothing
			out.Against = append(out.Against, f)
		}
		if f.Finding != 0 || f.Limit == nil || f.Limit.Set != set {
			continue
		}
		out.Limits++
		switch f.Verdict {
		case gauge.Out, gauge.Renew:
			out.Against = append(out.Against, f)
		case gauge.Unread, gauge.Doubt:
			out.Open = append(out.Open, f)
		}
	}
	return out
}

// Left is how far what was read of a feature is from a class rule that holds it, on the side that
// work moves it to: what may still come off, negative past the rule. Ok is false where no rule does.
func (f Feature) Left() (left quantity.Amount, ok bool) {
	l := f.Limit
	if l == nil || l.Set != head.Class || len(f.From) == 0 || f.Finding != 0 {
		return 0, false
	}
	low := l.Low != nil
	if low && l.High != nil {
		low = !trade.WorkRaises(f.Code)
	}
	if low {
		return f.Low - *l.Low, true
	}
	if l.High != nil {
		return *l.High - f.High, true
	}
	return 0, false
}

// OK tells whether every limit was read and is kept.
func (c Compliance) OK() bool { return c.Limits > 0 && len(c.Against)+len(c.Open) == 0 }

// Says is the answer in a sentence, "" when nobody asked.
func (c Compliance) Says() string {
	names := func(fs []Feature) string {
		var out []string
		for _, x := range fs {
			out = append(out, strings.TrimSpace(x.Position+" "+strings.ToLower(x.Label)))
		}
		return strings.Join(out, ", ")
	}
	switch {
	case c.Rule == "":
		return ""
	case c.OK():
		return "It complies with " + c.Rule + "."
	case len(c.Against) > 0:
		return "It does not comply with " + c.Rule + ": " + names(c.Against) + "."
	case c.Limits == 0:
		return "The sheet has no limits of " + c.Rule + ": nothing can be said."
	}
	return "Nobody can say yet whether it complies with " + c.Rule + ": " + names(c.Open) +
		" not read, or too close to tell."
}

// Complies answers yes or no, nil while that cannot be said or nobody asked.
func (j Judgement) Complies() *bool {
	c := j.Compliance()
	if ok := c.OK(); ok || len(c.Against) > 0 {
		return &ok
	}
	return nil
}
