// Package cause weighs why a head failed. Signs are what readings, findings and the story
// say, each yes, no or not known; causes are tables of the signs that speak for and against
// them. Weigh is its door. A score is never shown without its list: a person confirms or
// rejects each cause.
package cause

import (
	"slices"
	"strings"

	"yatai/core/gauge"
	"yatai/core/judge"
)

// State is what is known of a sign.
type State int8

// The states.
const (
	Unknown State = iota
	Yes
	No
)

// Evidence is all that is known of a head.
type Evidence struct {
	Judgement judge.Judgement // as received
	Guides    map[string][]judge.Reading
	Story     string // the owner's words and what came with it
	Fuel      string // about the model
	WrongPart bool   // a new part was not to size
}

// Sign is something that may be seen. Check says how to find out.
type Sign struct {
	Code  string
	Label string
	Check string
	look  func(e *Evidence) (State, string)
}

// seen is Yes with where, No when everything was looked at, else Unknown.
func seen(yes []string, complete bool) (State, string) {
	switch {
	case len(yes) > 0:
		return Yes, strings.Join(yes, ", ")
	case complete:
		return No, ""
	}
	return Unknown, ""
}

// measured looks at the features of a code: Yes where the verdict is out on that side ("" for
// either), No when all were read and none is.
func measured(code, side string) func(*Evidence) (State, string) {
	return func(e *Evidence) (State, string) {
		var yes []string
		any, all := false, true
		for _, f := range e.Judgement.All() {
			if f.Code != code {
				continue
			}
			any = true
			all = all && len(f.From) > 0
			if f.Verdict == gauge.Out && (side == "" || f.Side == side) {
				yes = append(yes, or(f.Position, f.Label))
			}
		}
		return seen(yes, any && all)
	}
}

// graded looks at the findings of a part: Yes where one of the grades is, No when every
// position was looked at and none is.
func graded(part string, grades ...string) func(*Evidence) (State, string) {
	p, _ := judge.PartNamed(part)
	return func(e *Evidence) (State, string) {
		var yes []string
		all := len(e.Judgement.Positions) > 0
		for _, pos := range e.Judgement.Positions {
			f, there := pos.Feature(part)
			all = all && there
			for _, g := range grades {
				if gr, ok := p.Grade(g); ok && there && f.Label == p.Label+": "+gr.Label {
					yes = append(yes, pos.ID)
				}
			}
		}
		return seen(yes, all)
	}
}

// marked looks for a mark on the map. That none is there says nothing.
func marked(grade string) func(*Evidence) (State, string) {
	return func(e *Evidence) (State, string) {
		for _, f := range e.Judgement.Own {
			if f.Code == judge.Mark+"."+grade {
				return Yes, or(f.Note, f.Label)
			}
		}
		return Unknown, ""
	}
}

// told looks for words in the story. That it does not have them says nothing.
func told(words ...string) func(*Evidence) (State, string) {
	return func(e *Evidence) (State, string) {
		story := strings.ToLower(e.Story)
		for _, w := range words {
			if strings.Contains(story, w) {
				return Yes, "the story says “" + w + "”"
			}
		}
		return Unknown, ""
	}
}

// noted looks for words in the notes of a code's features.
func noted(code, words string) func(*Evidence) (State, string) {
	return func(e *Evidence) (State, string) {
		var yes []string
		any := false
		for _, f := range e.Judgement.All() {
			if f.Code == code && len(f.From) > 0 {
				any = true
				if strings.Contains(f.Note, words) {
					yes = append(yes, f.Position)
				}
			}
		}
		return seen(yes, any)
	}
}

// not turns a sign round.
func not(look func(*Evidence) (State, string)) func(*Evidence) (State, string) {
	return func(e *Evidence) (State, string) {
		s, said := look(e)
		return map[State]State{Yes: No, No: Yes}[s], said
	}
}

// either is Yes when one of the signs is, No when one is No and none Yes.
func either(looks ...func(*Evidence) (State, string)) func(*Evidence) (State, string) {
	return func(e *Evidence) (State, string) {
		out := Unknown
		for _, look := range looks {
			s, said := look(e)
			if s == Yes {
				return s, said
			}
			out = max(out, s)
		}
		return out, ""
	}
}

// alongSweep is Yes where a guide is worn along the sweep and opens at an end: by a push
// that is not straight.
func alongSweep(e *Evidence) (State, string) {
	var yes []string
	any := false
	for _, p := range e.Judgement.Positions {
		w, ok := judge.WearOf(e.Guides[p.ID])
		if !ok {
			continue
		}
		any = true
		f, _ := p.Feature("guide.clearance")
		if strings.HasPrefix(w.Says, "worn along") && f.Verdict >= gauge.Doubt {
			yes = append(yes, p.ID)
		}
	}
	return seen(yes, any)
}

// someWet is Yes when some ports are wet and others dry: one wetter than its twin.
func someWet(e *Evidence) (State, string) {
	s, said := graded("port.condition", "oily")(e)
	if s == Yes && len(strings.Split(said, ", ")) < len(e.Judgement.Positions) {
		return Yes, said + " and not the others"
	}
	return Unknown, ""
}

func or(a, b string) string {
	if a != "" {
		return a
	}
	return b
}

// Found is a sign as it was found, with the weight it has for a cause.
type Found struct {
	Sign
	State  State
	Said   string
	Weight int
}

// Weighed is a cause with its evidence. Score is the weights that speak for it less those
// that speak against; Most is what it would be if everything spoke for it.
type Weighed struct {
	Cause
	For     []Found
	Against []Found
	Open    []Found // not known yet
	Score   int
	Most    int
}

// Weigh looks at every sign once and returns the causes that anything speaks for, the
// likeliest first.
func Weigh(e Evidence) []Weighed {
	type look struct {
		state State
		said  string
	}
	looked := map[string]look{}
	for _, s := range Signs {
		st, said := s.look(&e)
		looked[s.Code] = look{st, said}
	}
	var out []Weighed
	for _, c := range Causes {
		w := Weighed{Cause: c}
		for _, p := range c.Signs {
			s := signNamed(p.Sign)
			l := looked[p.Sign]
			f := Found{s, l.state, l.said, p.Weight}
			if p.Weight > 0 {
				w.Most += p.Weight
			}
			switch {
			case l.state == Unknown:
				w.Open = append(w.Open, f)
			case l.state == Yes && p.Weight > 0:
				w.For = append(w.For, f)
				w.Score += p.Weight
			case l.state == Yes:
				w.Against = append(w.Against, f)
				w.Score += p.Weight
			case p.Weight > 1: // a strong sign that is known to be missing
				w.Against = append(w.Against, f)
				w.Score--
			}
		}
		if len(w.For) > 0 {
			out = append(out, w)
		}
	}
	slices.SortStableFunc(out, func(a, b Weighed) int { return b.Score - a.Score })
	return out
}

// Next returns the check that would best separate the leading causes: the sign not known
// yet whose weights differ most between the first and the best of the others. ok is false
// when every sign of the leading causes is known.
func Next(all []Weighed) (s Sign, between []string, ok bool) {
	if len(all) == 0 {
		return s, nil, false
	}
	leading := all[:min(3, len(all))]
	best := 0
	for _, f := range leading[0].Open {
		for _, other := range leading[1:] {
			if d := gap(f.Weight, weightOf(other.Cause, f.Code)); d > best {
				best, s, between, ok = d, f.Sign, []string{leading[0].Name, other.Name}, true
			}
		}
		if len(leading) == 1 && f.Weight > best {
			best, s, between, ok = f.Weight, f.Sign, []string{leading[0].Name}, true
		}
	}
	for _, other := range leading[1:] {
		for _, f := range other.Open {
			if d := gap(f.Weight, weightOf(leading[0].Cause, f.Code)); d > best {
				best, s, between, ok = d, f.Sign, []string{leading[0].Name, other.Name}, true
			}
		}
	}
	return s, between, ok
}

func gap(a, b int) int {
	if a < b {
		return b - a
	}
	return a - b
}

func weightOf(c Cause, sign string) int {
	for _, p := range c.Signs {
		if p.Sign == sign {
			return p.Weight
		}
	}
	return 0
}

func signNamed(code string) Sign {
	i := slices.IndexFunc(Signs, func(s Sign) bool { return s.Code == code })
	return Signs[i]
}

// Named returns the cause with that code.
func Named(code string) (Cause, bool) {
	i := slices.IndexFunc(Causes, func(c Cause) bool { return c.Code == code })
	if i < 0 {
		return Cause{}, false
	}
	return Causes[i], true
}
