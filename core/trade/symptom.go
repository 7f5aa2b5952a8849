package trade

import (
	"slices"
	"strings"
	"unicode"
)

// Symptom is something the owner tells, ticked at take-in. Words are phrases that propose the
// tick; a person confirms it.
type Symptom struct {
	Code  string
	Label string
	Words []string
}

// The symptoms that can be ticked, in the order they are asked.
var (
	Smoke = &Symptom{
		"smoke", "smokes on overrun", []string{"smokes", "smoke", "smoked", "smoking", "blue smoke"},
	}
	OilUse = &Symptom{"oil_use", "uses oil", []string{
		"uses oil", "used oil", "burns oil", "oil use", "uses a little oil",
	}}
	Misfire    = &Symptom{"misfire", "misfires", []string{"misfire", "misfires", "misfired", "misfiring"}}
	MisfireHot = &Symptom{
		"misfire_hot", "misfires hot", []string{"misfires hot", "misfire hot", "misfires when hot"},
	}
	MisfireCold = &Symptom{
		"misfire_cold", "misfires cold", []string{"misfires cold", "misfire cold", "misfires when cold"},
	}
	LashLost = &Symptom{
		"lash_lost", "lash lost again",
		[]string{
			"lost its lash", "lash lost", "lash was lost", "no lash", "lash vanished", "lash gone",
			"thinner shims",
		},
	}
	RanHot = &Symptom{
		"ran_hot", "ran hot", []string{"ran hot", "overheated", "overheats", "boiled", "went hot"},
	}
	LostCoolant = &Symptom{"lost_coolant", "lost coolant", []string{
		"lost coolant", "lost its coolant", "loses coolant", "lost water", "loses water",
	}}
	Rattle = &Symptom{"rattle", "noise or rattle", []string{
		"rattle", "rattles", "rattled", "knocks", "noise", "noisy", "ticks",
	}}
	LowPressure = &Symptom{"low_compression", "low compression", []string{
		"low compression", "no compression", "down on compression",
	}}
	Stood = &Symptom{"stood", "stood for long", []string{
		"stood for", "stood outside", "sat for", "stood unused", "laid up", "winters",
	}}
	Overspeed = &Symptom{"overspeed", "over-revved", []string{
		"over revved", "overrevved", "overspeed", "ran away", "revved",
	}}
	Hung    = &Symptom{"stuck", "valve hung", []string{"stuck", "hung open", "hung", "hangs"}}
	Floats  = &Symptom{"floats", "floats at speed", []string{"floats", "floated", "valve float"}}
	DryFuel = &Symptom{
		"dry_fuel", "dry fuel (gas)", []string{"gas", "dry gas", "propane", "on gas", "natural gas"},
	}
	MendedLately = &Symptom{"mended_lately", "mended lately", []string{
		"new guides", "last time", "you did this", "was mended", "rebuilt lately",
	}}
	NoName = &Symptom{
		"no_name", "parts without a name", []string{"without a name", "plain box", "unbranded", "no name"},
	}
)

// Symptoms lists them in the order they are asked.
var Symptoms = []*Symptom{
	Smoke, OilUse, Misfire, MisfireHot, MisfireCold, LashLost, RanHot, LostCoolant, Rattle, LowPressure, Stood,
	Overspeed, Hung, Floats,
	DryFuel, MendedLately, NoName,
}

// SymptomNamed returns the symptom with that code, nil when there is none.
func SymptomNamed(code string) *Symptom {
	i := slices.IndexFunc(Symptoms, func(s *Symptom) bool { return s.Code == code })
	if i < 0 {
		return nil
	}
	return Symptoms[i]
}

// denials are words that turn what follows into its opposite.
var denials = []string{
	"no", "not", "never", "without", "nothing", "neither", "nor", "isn't", "wasn't", "didn't", "doesn't",
	"hasn't", "hadn't", "don't",
}

// denied is how many words a denial reaches.
const denied = 4

// Proposed lists the symptoms a story's words propose: whole words in their order, none that
// is denied just before. They are proposals: a person ticks.
func Proposed(story string) []*Symptom {
	var out []*Symptom
	for sentence := range strings.FieldsFuncSeq(strings.ToLower(story),
		func(r rune) bool { return strings.ContainsRune(".;!?\n", r) }) {
		words := strings.FieldsFunc(
			sentence, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '\'' },
		)
		for _, s := range Symptoms {
			if !slices.Contains(out, s) && slices.ContainsFunc(s.Words,
				func(phrase string) bool { return said(words, strings.Fields(phrase)) }) {
				out = append(out, s)
			}
		}
	}
	slices.SortFunc(
		out, func(a, b *Symptom) int { return slices.Index(Symptoms, a) - slices.Index(Symptoms, b) },
	)
	return out
}

// said tells whether a phrase is among some words, not denied. A phrase that denies by itself
// ("no lash") is meant so.
func said(words, phrase []string) bool {
	for i := 0; i+len(phrase) <= len(words); i++ {
		if !slices.Equal(words[i:i+len(phrase)], phrase) {
			continue
		}
		before := words[max(0, i-denied):i]
		if !slices.ContainsFunc(before, func(w string) bool { return slices.Contains(denials, w) }) {
			return true
		}
	}
	return false
}
