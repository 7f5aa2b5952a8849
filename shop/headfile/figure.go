package headfile

import (
	"strings"

	"yatai/core/gate"
	"yatai/core/judge"
)

// Figure freezes what a feature said at the moment somebody decided or signed.
func (f *File) Figure(x judge.Feature) string { return gate.Figure(x, f.In()) }

// Undecided lists the findings without a decision.
func (f *File) Undecided() []string {
	var open []string
	for _, x := range f.Received.Findings() {
		if _, ok := f.Decision(x.Key()); !ok {
			open = append(open, strings.TrimSpace(x.Position+" "+strings.ToLower(x.Label)))
		}
	}
	return open
}
