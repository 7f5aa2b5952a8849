package answer

import (
	"yatai/core/cause"
	"yatai/core/head"
	"yatai/core/judge"
)

// CausesAnswer is why a head may have failed, the likeliest first.
type CausesAnswer struct {
	Causes []CauseAnswer `json:"causes"`
	Next   string        `json:"next"` // the check that would tell most
}

// CauseAnswer is one cause with its signs.
type CauseAnswer struct {
	Code  string       `json:"code"`
	Name  string       `json:"name"`
	Score float64      `json:"score"`
	At    []string     `json:"at"`
	Signs []SignAnswer `json:"signs"`
	// what speaks against it: signs that were found, and strong ones that are known to be missing
	Against []AgainstAnswer `json:"against"`
	Mend    string          `json:"mend"`
}

// AgainstAnswer is a sign that speaks against a cause.
type AgainstAnswer struct {
	SignAnswer
	Missing bool `json:"missing"` // it would speak for the cause, and is not there
}

// SignAnswer is a sign that was found.
type SignAnswer struct {
	Code   string   `json:"code"`
	Label  string   `json:"label"`
	At     []string `json:"at"`
	Weight int      `json:"weight"`
}

// Causes weighs why a head failed, from what was received.
func Causes(h *head.Head) CausesAnswer {
	received := h.Until(head.AsReceived)
	all := cause.Weigh(received, judge.Head(received))
	out := CausesAnswer{Causes: []CauseAnswer{}}
	for _, w := range all {
		c := CauseAnswer{
			Code: w.Code, Name: w.Name, Score: w.Score, At: some(w.At), Signs: []SignAnswer{},
			Against: []AgainstAnswer{}, Mend: w.Mend,
		}
		for _, f := range append(append([]cause.Found{}, w.For...), w.Against...) {
			if f.State == cause.Yes {
				c.Signs = append(c.Signs, SignAnswer{f.Code, f.Label, some(f.At), f.Weight})
			}
		}
		for _, f := range w.Against {
			c.Against = append(
				c.Against, AgainstAnswer{SignAnswer{f.Code, f.Label, some(f.At), f.Weight}, f.State == cause.No},
			)
		}
		out.Causes = append(out.Causes, c)
	}
	if s, _, ok := cause.Next(all); ok {
		out.Next = s.Check
	}
	return out
}
