package shop

import (
	"strings"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
)

// Compliance is the answer to a rules check, or to whether a part bought in is to size.
type Compliance struct {
	Asked   bool
	Known   bool // everything that the rule limits was read, and clearly enough to tell
	OK      bool
	Against []judge.Feature // outside
	Open    []judge.Feature // unread, or too close to tell
	Rule    string          // what it is held against
}

// Compliance answers what an inspection was asked for: whether the head keeps the class rule,
// or has a new part's sizes.
func (f *File) Compliance() Compliance {
	set := f.Subject.Governing()
	if set == "" {
		return Compliance{}
	}
	out := Compliance{Asked: true, Rule: map[string]string{head.Class: "the class rule", head.New: "a new part's sizes"}[set]}
	for _, x := range f.Now.All() {
		if x.Limit == nil || x.Limit.Set != set {
			continue
		}
		switch x.Verdict {
		case gauge.Out, gauge.Renew:
			out.Against = append(out.Against, x)
		case gauge.Unread, gauge.Doubt:
			out.Open = append(out.Open, x)
		}
	}
	said := f.Now.Complies()
	out.Known, out.OK = said != nil, said != nil && *said
	return out
}

// Says is the answer in a sentence.
func (c Compliance) Says() string {
	names := func(fs []judge.Feature) string {
		var out []string
		for _, x := range fs {
			out = append(out, strings.TrimSpace(x.Position+" "+strings.ToLower(x.Label)))
		}
		return strings.Join(out, ", ")
	}
	switch {
	case !c.Asked:
		return ""
	case c.OK:
		return "It complies with " + c.Rule + "."
	case c.Known:
		return "It does not comply with " + c.Rule + ": " + names(c.Against) + "."
	case len(c.Open) == 0:
		return "The sheet has no limits of " + c.Rule + ": nothing can be said."
	}
	return "Nobody can say yet whether it complies with " + c.Rule + ": " + names(c.Open) + " not read, or too close to tell."
}
