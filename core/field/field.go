// Package field carries the one kind of error the core returns for mistaken
// input: a message that belongs to a named field, so that a page can show it
// beside that field and the command line can name it.
package field

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"yatai/core/words"
)

// Error is a mistaken input. Field is a path such as "stem.top[1]"; an empty
// path means the input as a whole. Says is a sentence without the field's name, kept with what
// fills it, so that it can be said in the language of who reads it.
type Error struct {
	Field string
	Says  words.Text
}

// Message says what is wrong in English.
func (e *Error) Message() string { return e.Says.String() }

func (e *Error) Error() string {
	if e.Field == "" {
		return e.Message()
	}
	return e.Field + ": " + e.Message()
}

// MarshalJSON writes {"field": ..., "message": ...}, the message in English.
func (e *Error) MarshalJSON() ([]byte, error) {
	return json.Marshal(map[string]string{"field": e.Field, "message": e.Message()})
}

// Errorf returns an *Error for path with a sentence and what fills it, as fmt.Sprintf has it.
func Errorf(path, sentence string, args ...any) error {
	if false {
		_ = fmt.Sprintf(sentence, args...) // tells go vet that it is filled like that
	}
	return &Error{Field: path, Says: words.Of(sentence, args...)}
}

// Text is what an error says, without the field it names. An error from elsewhere says its own
// text, in whatever language it has.
func Text(err error) words.Text {
	var e *Error
	if errors.As(err, &e) {
		return e.Says
	}
	return words.Of(err.Error())
}

// Under puts path in front of the field err names; an err that names none gets
// path itself. Index paths ("[2]") join without a dot.
func Under(path string, err error) error {
	var e *Error
	if !errors.As(err, &e) {
		return &Error{Field: path, Says: Text(err)}
	}
	return &Error{Field: Join(path, e.Field), Says: e.Says}
}

// Join joins two parts of a path.
func Join(a, b string) string {
	if a == "" || b == "" || strings.HasPrefix(b, "[") {
		return a + b
	}
	return a + "." + b
}

// Errors are the mistakes of a whole form, by field.
type Errors map[string]words.Text

// Only returns the mistakes of a form with a single one.
func Only(path, sentence string, args ...any) Errors {
	e := Errors{}
	e.Addf(path, sentence, args...)
	return e
}

// Add notes err under path. A nil err is ignored; the first message per field stays.
func (e Errors) Add(path string, err error) {
	if err != nil {
		e.Note(path, Text(err))
	}
}

// Addf notes a sentence and what fills it under path.
func (e Errors) Addf(path, sentence string, args ...any) {
	e.Add(path, Errorf(path, sentence, args...))
}

// Note notes a text under path; the first message per field stays.
func (e Errors) Note(path string, says words.Text) {
	if _, there := e[path]; !there {
		e[path] = says
	}
}

// Message is what is said of a field in English, empty when it is fine.
func (e Errors) Message(path string) string { return e[path].String() }

// Err returns e as an error, or nil when nothing was noted.
func (e Errors) Err() error {
	if len(e) == 0 {
		return nil
	}
	return e
}

func (e Errors) Error() string {
	parts := make([]string, 0, len(e))
	for f, m := range e {
		parts = append(parts, f+": "+m.String())
	}
	slices.Sort(parts)
	return strings.Join(parts, "; ")
}

// JSON writes err as {"error":{"field":...,"message":...}} with a line end, the form the
// command line and the API share. An err that names no field has an empty one.
func JSON(err error) []byte {
	var e *Error
	if !errors.As(err, &e) {
		e = &Error{Says: Text(err)}
	}
	b, err := json.Marshal(map[string]*Error{"error": e})
	if err != nil {
		panic(err) // two strings can always be written
	}
	return append(b, '\n')
}
