package head

import (
	"reflect"

	"yatai/core/schema"
)

// Schema is the JSON Schema (2020-12) of the head file, made from the types that read it.
// docs/schemas/headfile.schema.json is this.
func Schema() ([]byte, error) {
	return schema.Of(reflect.TypeFor[File](), schema.Read{Bounds: schema.Bounds{Text: maxText, List: maxList}},
		"Head file", "Everything about one cylinder head: lengths and other quantities are text with their unit.",
		func(s map[string]any) {
			s["properties"].(map[string]any)["format"] = map[string]any{"const": Format}
		})
}
