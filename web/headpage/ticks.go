package headpage

import (
	"slices"

	"yatai/core/trade"
)

// Tick is a symptom on a form: whether it is ticked, and whether the owner's words propose it.
type Tick struct {
	*trade.Symptom
	On, Proposed bool
}

// Ticks are all symptoms with what is ticked, and what a story proposes besides.
func Ticks(story string, on []string) []Tick {
	proposed := trade.Proposed(story)
	var out []Tick
	for _, s := range trade.Symptoms {
		out = append(out, Tick{s, slices.Contains(on, s.Code), slices.Contains(proposed, s)})
	}
	return out
}
