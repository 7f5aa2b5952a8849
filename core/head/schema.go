package head

import (
	"encoding/json"
	"reflect"
	"strings"
)

// Schema is the JSON Schema (2020-12) of the head file, made from the types that read it.
// docs/headfile.schema.json is this.
func Schema() ([]byte, error) {
	s := schemaOf(reflect.TypeFor[File]())
	s["$schema"] = "https://json-schema.org/draft/2020-12/schema"
	s["title"] = "Head file"
	s["description"] = "Everything about one cylinder head: lengths and other quantities are text with their unit."
	s["properties"].(map[string]any)["format"] = map[string]any{"const": Format}
	b, err := json.MarshalIndent(s, "", "  ")
	return append(b, '\n'), err
}

// schemaOf describes a type: a key is refused that it does not have, and wanted where its tag
// says so.
func schemaOf(t reflect.Type) map[string]any {
	switch t.Kind() {
	case reflect.Pointer:
		return schemaOf(t.Elem())
	case reflect.Slice:
		return map[string]any{"type": "array", "maxItems": maxList, "items": schemaOf(t.Elem())}
	case reflect.Map:
		return map[string]any{"type": "object", "additionalProperties": schemaOf(t.Elem())}
	case reflect.Bool:
		return map[string]any{"type": "boolean"}
	case reflect.Int:
		return map[string]any{"type": "integer"}
	case reflect.Struct:
		properties, wanted := map[string]any{}, []string{}
		for i := range t.NumField() {
			f := t.Field(i)
			name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
			p := schemaOf(f.Type)
			if doc := f.Tag.Get("doc"); doc != "" {
				p["description"] = doc
			}
			properties[name] = p
			if f.Tag.Get("need") != "" {
				wanted = append(wanted, name)
			}
		}
		s := map[string]any{"type": "object", "properties": properties, "additionalProperties": false}
		if len(wanted) > 0 {
			s["required"] = wanted
		}
		return s
	}
	return map[string]any{"type": "string", "maxLength": maxText}
}
