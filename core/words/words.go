// Package words says the program's sentences in the language of who reads them.
//
// A sentence is known by its English words, which are also what is said where a language has none
// of its own. Language.Say formats one at once; a Text keeps a sentence with what fills it, for
// what is made in one place and read in another, by people of different languages.
//
//	de := words.In("de")
//	de.Say("%s under %s", "0,012 mm", "8,93 mm")
//	words.Of("not before %s", words.Of("the guide")).In(de)
package words

import (
	"embed"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"golang.org/x/text/feature/plural"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
	"golang.org/x/text/message/catalog"
)

//go:embed *.json
var files embed.FS

// Language is one that the program speaks. Use In to get one; it is safe for use by several
// goroutines.
type Language struct {
	Code string // as in HTML's lang attribute: "en", "de"
	Name string // in its own words

	months, long, days []string // months in short and whole, days in short
	weekdays           []string // and whole
	sep                string   // between a day and its month
	Comma              bool     // its figures have a decimal comma
	plain              map[string]string
	counts             map[string]bool  // the sentences with words of their own for one thing
	printer            *message.Printer // of those
}

// English is what the program was written in.
var English = &Language{
	Code:   "en",
	Name:   "English",
	sep:    " ",
	months: []string{"Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"},
	long: []string{
		"January", "February", "March", "April", "May", "June", "July", "August", "September", "October",
		"November", "December",
	},
	days: []string{"Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"},
	weekdays: []string{
		"Sunday", "Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday",
	},
}

// German is for the bench, the work sheet and the customer's page.
var German = &Language{
	Code:  "de",
	Name:  "Deutsch",
	sep:   ". ",
	Comma: true,
	months: []string{
		"Jan.", "Feb.", "März", "Apr.", "Mai", "Juni", "Juli", "Aug.", "Sept.", "Okt.", "Nov.", "Dez.",
	},
	long: []string{
		"Januar", "Februar", "März", "April", "Mai", "Juni", "Juli", "August", "September", "Oktober", "November",
		"Dezember",
	},
	days: []string{"So", "Mo", "Di", "Mi", "Do", "Fr", "Sa"},
	weekdays: []string{
		"Sonntag", "Montag", "Dienstag", "Mittwoch", "Donnerstag", "Freitag", "Samstag",
	},
}

// All are the languages, English first.
var All = []*Language{English, German}

// In returns the language with a code, English when there is none.
func In(code string) *Language {
	if i := slices.IndexFunc(All, func(l *Language) bool { return l.Code == code }); i >= 0 {
		return All[i]
	}
	return English
}

// forms are the words of one sentence: alike for every number, or by its plural form.
type forms map[string]string

func (f *forms) UnmarshalJSON(b []byte) error {
	var one string
	if json.Unmarshal(b, &one) == nil {
		*f = forms{"other": one}
		return nil
	}
	return json.Unmarshal(b, (*map[string]string)(f))
}

func init() {
	all := catalog.NewBuilder(catalog.Fallback(language.English))
	for _, l := range All {
		l.plain, l.counts = map[string]string{}, map[string]bool{}
		b, err := files.ReadFile(l.Code + ".json")
		if err != nil {
			panic(err) // it is part of the program
		}
		var said map[string]forms
		if err := json.Unmarshal(b, &said); err != nil {
			panic("words: " + l.Code + ".json: " + err.Error())
		}
		tag := language.Make(l.Code)
		for key, f := range said {
			l.plain[key] = f["other"]
			one, counts := f["one"]
			if !counts {
				continue
			}
			l.counts[key] = true
			msg := plural.Selectf(1, "%d", "one", one, "other", f["other"]) // by the first number in it
			if err := all.Set(tag, key, msg); err != nil {
				panic("words: " + l.Code + ".json: " + key + ": " + err.Error())
			}
		}
		l.printer = message.NewPrinter(tag, message.Catalog(all))
	}
}

// Own returns a language's own words for a sentence, as they are written, the plural's for one that
// counts; false when it has none.
func (l *Language) Own(sentence string) (string, bool) {
	own, ok := l.plain[sentence]
	return own, ok
}

// Sentences lists what a language has words of its own for.
func (l *Language) Sentences() []string { return slices.Sorted(maps.Keys(l.plain)) }

// Say says a sentence, filled as by fmt.Sprintf. A Text among the arguments is said in the same
// language, a time.Time is written as a day without its year; a sentence that the language has no
// words for is said in English.
func (l *Language) Say(sentence string, args ...any) string {
	own, ok := l.plain[sentence]
	if !ok {
		own = sentence
	}
	if len(args) == 0 {
		return own
	}
	filled := make([]any, len(args))
	for i, a := range args {
		switch v := a.(type) {
		case Text:
			a = v.In(l)
		case time.Time:
			a = l.Short(v, v)
		}
		filled[i] = a
	}
	if l.counts[sentence] {
		return l.printer.Sprintf(sentence, filled...)
	}
	return fmt.Sprintf(own, filled...)
}

// Text is a sentence and what fills it. The zero Text says nothing.
type Text struct {
	Sentence string `json:"say"`
	Args     []any  `json:"with,omitempty"` // strings, whole numbers, days and Texts
	Mid      bool   `json:"mid,omitempty"`  // a name in the middle of a sentence
}

// Of keeps a sentence with what fills it: strings, whole numbers, days and Texts.
func Of(sentence string, args ...any) Text { return Text{Sentence: sentence, Args: args} }

// Mid is a thing's name in the middle of a sentence: small in English, as German has its nouns.
func Mid(name string) Text { return Text{Sentence: name, Mid: true} }

// Lower is a label within a sentence: its first letter small.
func Lower(label string) string {
	if label == "" {
		return label
	}
	return strings.ToLower(label[:1]) + label[1:]
}

// Join puts texts one after the other with sep between them; those that say nothing are left out.
func Join(sep string, texts ...Text) Text {
	all := Text{}
	for _, t := range texts {
		if t.Sentence == "" {
			continue
		}
		if all.Args != nil {
			all.Sentence += strings.ReplaceAll(sep, "%", "%%")
		}
		all.Sentence += "%s"
		all.Args = append(all.Args, t)
	}
	return all
}

// Kept writes the text as JSON, to be read back by Back.
func (t Text) Kept() string {
	b, err := json.Marshal(t)
	if err != nil {
		panic(err) // what fills a text can always be written
	}
	return string(b)
}

// Back reads what Kept wrote; where nothing was kept the text is what was said in English.
func Back(kept, english string) Text {
	var t Text
	if json.Unmarshal([]byte(kept), &t) != nil {
		return Of(english)
	}
	return t
}

// In says the text in a language.
func (t Text) In(l *Language) string {
	said := l.Say(t.Sentence, t.Args...)
	if t.Mid && l == English {
		return strings.ToLower(said)
	}
	return said
}

// String says it in English.
func (t Text) String() string { return t.In(English) }

// UnmarshalJSON reads what Marshal wrote, Texts within Texts; what is written as a moment is one again.
func (t *Text) UnmarshalJSON(b []byte) error {
	var raw struct {
		Say  string
		With []json.RawMessage
		Mid  bool
	}
	if err := json.Unmarshal(b, &raw); err != nil {
		return err
	}
	*t = Text{Sentence: raw.Say, Mid: raw.Mid}
	for _, a := range raw.With {
		var text Text
		var s string
		var n int
		switch {
		case json.Unmarshal(a, &s) == nil:
			if at, err := time.Parse(time.RFC3339Nano, s); err == nil {
				t.Args = append(t.Args, at)
				continue
			}
			t.Args = append(t.Args, s)
		case json.Unmarshal(a, &n) == nil:
			t.Args = append(t.Args, n)
		case json.Unmarshal(a, &text) == nil:
			t.Args = append(t.Args, text)
		default:
			return fmt.Errorf("words: %s fills no sentence", a)
		}
	}
	return nil
}
