// Package schema describes the program's JSON for other programs, as JSON Schema (2020-12), made from the
// types that are read and written. Of is its door.
package schema

import (
	"encoding"
	"encoding/json"
	"reflect"
	"slices"
	"strings"
	"time"
)

// Bounds of a file that is read; zero has none.
type Bounds struct {
	Text int // bytes of a text
	List int // of the things in a list
}

// Read describes a file that the program reads: a key it does not have is refused, and those tagged
// need:"…" have to be there. Write describes what it writes: every key that is not left out when it is empty
// is there, and a list that nobody filled is null.
type (
	Read  struct{ Bounds }
	Write struct{}
)

// Dialect is which of the two a description is for.
type Dialect interface {
	text() map[string]any
	list(items map[string]any) map[string]any
	needs(f reflect.StructField) bool
	open(of map[string]any) map[string]any // what a pointer is to
}

func (r Read) text() map[string]any { return map[string]any{"type": "string", "maxLength": r.Text} }

func (r Read) list(items map[string]any) map[string]any {
	return map[string]any{"type": "array", "maxItems": r.List, "items": items}
}

func (Read) needs(f reflect.StructField) bool          { return f.Tag.Get("need") != "" }
func (Read) open(of map[string]any) map[string]any     { return of }
func (Write) text() map[string]any                     { return map[string]any{"type": "string"} }
func (Write) list(items map[string]any) map[string]any { return orNull("array", "items", items) }
func (Write) open(of map[string]any) map[string]any    { return map[string]any{"anyOf": []any{of, null}} }
func (Write) needs(f reflect.StructField) bool {
	return !strings.Contains(f.Tag.Get("json"), "omitempty")
}

var null = map[string]any{"type": "null"}

func orNull(kind, key string, of any) map[string]any {
	return map[string]any{"type": []string{kind, "null"}, key: of}
}

// Each describes several types in one document, each under its name in "$defs".
func Each(types map[string]reflect.Type, as Dialect, title, description string) ([]byte, error) {
	each := map[string]any{}
	for name, t := range types {
		each[name] = of(t, as, nil)
	}
	b, err := json.MarshalIndent(map[string]any{
		"$schema": dialect, "title": title, "description": description, "$defs": each,
	}, "", "  ")
	return append(b, '\n'), err
}

const dialect = "https://json-schema.org/draft/2020-12/schema"

// Of describes a type. Fields are named by their json tags and explained by their doc tags; patch, where it
// is not nil, adds to the description of the whole.
func Of(t reflect.Type, as Dialect, title, description string, patch func(map[string]any)) ([]byte, error) {
	s := of(t, as, nil)
	s["$schema"] = dialect
	s["title"], s["description"] = title, description
	if patch != nil {
		patch(s)
	}
	b, err := json.MarshalIndent(s, "", "  ")
	return append(b, '\n'), err
}

var (
	moment = reflect.TypeFor[time.Time]()
	raw    = reflect.TypeFor[json.RawMessage]()
	own    = reflect.TypeFor[json.Marshaler]()
	texts  = reflect.TypeFor[encoding.TextMarshaler]()
)

// written describes a type that writes itself, by how it writes nothing: as a number, or as text.
func written(t reflect.Type, as Dialect) map[string]any {
	if b, err := json.Marshal(reflect.Zero(t).Interface()); err == nil && len(b) > 0 && b[0] != '"' {
		return map[string]any{"type": "number"}
	}
	return as.text()
}

// of describes a type within others; one that holds itself is described once, and is any object within.
func of(t reflect.Type, as Dialect, within []reflect.Type) map[string]any {
	switch {
	case t == moment:
		return map[string]any{"type": "string", "format": "date-time"}
	case t == raw, t.Kind() == reflect.Interface:
		return map[string]any{}
	case t.Kind() != reflect.Pointer && (t.Implements(own) || t.Implements(texts)):
		return written(t, as)
	}
	switch t.Kind() {
	case reflect.Pointer:
		return as.open(of(t.Elem(), as, within))
	case reflect.Slice, reflect.Array:
		return as.list(of(t.Elem(), as, within))
	case reflect.Map:
		return map[string]any{"type": "object", "additionalProperties": of(t.Elem(), as, within)}
	case reflect.Bool:
		return map[string]any{"type": "boolean"}
	case reflect.Int, reflect.Int64, reflect.Uint:
		return map[string]any{"type": "integer"}
	case reflect.Float64:
		return map[string]any{"type": "number"}
	case reflect.Struct:
		if slices.Contains(within, t) {
			return map[string]any{"type": "object"}
		}
		return object(t, as, append(slices.Clone(within), t))
	}
	return as.text()
}

// object describes a struct, what is embedded in it as its own.
func object(t reflect.Type, as Dialect, within []reflect.Type) map[string]any {
	properties, wanted := map[string]any{}, []string{}
	for _, f := range reflect.VisibleFields(t) {
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if f.Anonymous || !f.IsExported() || name == "-" {
			continue
		}
		if name == "" {
			name = f.Name
		}
		p := of(f.Type, as, within)
		if doc := f.Tag.Get("doc"); doc != "" {
			p["description"] = doc
		}
		properties[name] = p
		if as.needs(f) {
			wanted = append(wanted, name)
		}
	}
	s := map[string]any{"type": "object", "properties": properties, "additionalProperties": false}
	if len(wanted) > 0 {
		s["required"] = wanted
	}
	return s
}
