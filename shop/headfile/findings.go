package headfile

import (
	"slices"

	"yatai/core/trade"
	"yatai/store"
)

// Standings lists the findings that stand, oldest first.
func (f *File) Standings(stages ...string) []store.Finding {
	replaced := map[uint]bool{}
	for _, x := range f.Findings {
		if x.Supersedes != nil && slices.Contains(stages, x.Stage) {
			replaced[*x.Supersedes] = true
		}
	}
	var out []store.Finding
	last := map[string]int{}
	for _, x := range f.Findings {
		if !slices.Contains(stages, x.Stage) || replaced[x.ID] {
			continue
		}
		if at, there := last[x.Part+x.Position]; there && x.Part != trade.MarkCode {
			out[at] = x
			continue
		}
		last[x.Part+x.Position] = len(out)
		out = append(out, x)
	}
	return out
}

// Graded returns the finding that stands on a part at a position.
func (f *File) Graded(part, position string, stages ...string) (store.Finding, bool) {
	all := f.Standings(stages...)
	i := slices.IndexFunc(all, func(x store.Finding) bool { return x.Part == part && x.Position == position })
	if i < 0 {
		return store.Finding{}, false
	}
	return all[i], true
}

// Calculations are the kept calculations among the head's notes.
func (f *File) Calculations() []store.Note {
	return slices.DeleteFunc(slices.Clone(f.Notes),
		func(n store.Note) bool { return n.Input == "" || n.Kind == CrackNote })
}

// CrackNote is the kind of note that records a crack test.
const CrackNote = "crack test"
