// Package field carries the one kind of error the core returns for mistaken
// input: a message that belongs to a named field, so that a page can show it
// beside that field and the command line can name it.
package field

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
)

// Error is a mistaken input. Field is a path such as "stem.top[1]"; an empty
// path means the input as a whole. Message is a sentence without the field's name.
type Error struct {
	Field   string `json:"field"`
	Message string `json:"message"`
}

func (e *Error) Error() string {
	if e.Field == "" {
		return e.Message
	}
	return e.Field + ": " + e.Message
}

// Errorf returns an *Error for path with a formatted message.
func Errorf(path, format string, args ...any) error {
	return &Error{Field: path, Message: fmt.Sprintf(format, args...)}
}

// Under puts path in front of the field err names; an err that names none gets
// path itself. Index paths ("[2]") join without a dot.
func Under(path string, err error) error {
	var e *Error
	if !errors.As(err, &e) {
		return &Error{Field: path, Message: err.Error()}
	}
	return &Error{Field: Join(path, e.Field), Message: e.Message}
}

// Join joins two parts of a path.
func Join(a, b string) string {
	if a == "" || b == "" || strings.HasPrefix(b, "[") {
		return a + b
	}
	return a + "." + b
}

// Errors are the mistakes of a whole form, by field.
type Errors map[string]string

// Add notes err under path. A nil err is ignored; the first message per field stays.
func (e Errors) Add(path string, err error) {
	if err == nil {
		return
	}
	var fe *Error
	msg := err.Error()
	if errors.As(err, &fe) {
		msg = fe.Message
	}
	if _, there := e[path]; !there {
		e[path] = msg
	}
}

// Addf notes a formatted message under path.
func (e Errors) Addf(path, format string, args ...any) {
	e.Add(path, Errorf(path, format, args...))
}

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
		parts = append(parts, f+": "+m)
	}
	return strings.Join(parts, "; ")
}

// JSON writes err as {"error":{"field":...,"message":...}} with a line end, the form the
// command line and the API share. An err that names no field has an empty one.
func JSON(err error) []byte {
	var e *Error
	if !errors.As(err, &e) {
		e = &Error{Message: err.Error()}
	}
	b, err := json.Marshal(map[string]*Error{"error": e})
	if err != nil {
		panic(err) // two strings can always be written
	}
	return append(b, '\n')
}
