package schema_test

import (
	"encoding/json"
	"reflect"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/schema"
)

type share float64

func (s share) MarshalJSON() ([]byte, error) { return []byte(strconv.Itoa(int(s))), nil }

type grade int

func (grade) MarshalText() ([]byte, error) { return []byte("sound"), nil }

type base struct {
	ID int `json:"id" need:"yes"`
}

type whole struct {
	base
	At     time.Time       `json:"at" doc:"when"`
	Left   *string         `json:"left,omitempty"`
	Part   *whole          `json:"part"`
	Names  []string        `json:"names"`
	Of     map[string]bool `json:"of,omitempty"`
	Share  share           `json:"share"`
	Grade  grade           `json:"grade"`
	Any    json.RawMessage `json:"any"`
	Secret string          `json:"-"`
	hidden float64
}

func described(t *testing.T, as schema.Dialect) map[string]any {
	t.Helper()
	_ = whole{}.hidden
	b, err := schema.Of(reflect.TypeFor[whole](), as, "Whole", "All of it.", func(s map[string]any) { s["patched"] = true })
	require.NoError(t, err)
	var s map[string]any
	require.NoError(t, json.Unmarshal(b, &s))
	return s
}

// TestWhatIsWrittenIsDescribed goes through the kinds of fields that an answer has.
func TestWhatIsWrittenIsDescribed(t *testing.T) {
	s := described(t, schema.Write{})
	assert.Equal(t, "Whole", s["title"])
	assert.Equal(t, true, s["patched"])
	assert.Equal(t, false, s["additionalProperties"])
	assert.ElementsMatch(t, []any{"id", "at", "part", "names", "share", "grade", "any"}, s["required"])
	null := map[string]any{"type": "null"}
	text := map[string]any{"type": "string"}
	assert.Equal(t, map[string]any{
		"id":    map[string]any{"type": "integer"},
		"at":    map[string]any{"type": "string", "format": "date-time", "description": "when"},
		"left":  map[string]any{"anyOf": []any{text, null}},
		"part":  map[string]any{"anyOf": []any{map[string]any{"type": "object"}, null}},
		"names": map[string]any{"type": []any{"array", "null"}, "items": text},
		"of":    map[string]any{"type": "object", "additionalProperties": map[string]any{"type": "boolean"}},
		"share": map[string]any{"type": "number"},
		"grade": text,
		"any":   map[string]any{},
	}, s["properties"])
}

// TestWhatIsReadIsBounded has the bounds of a file in its description, and only what must be there.
func TestWhatIsReadIsBounded(t *testing.T) {
	s := described(t, schema.Read{Bounds: schema.Bounds{Text: 10, List: 3}})
	assert.Equal(t, []any{"id"}, s["required"])
	p := s["properties"].(map[string]any)
	text := map[string]any{"type": "string", "maxLength": 10.0}
	assert.Equal(t, text, p["left"])
	assert.Equal(t, map[string]any{"type": "array", "maxItems": 3.0, "items": text}, p["names"])
}

func TestEachTypeHasItsName(t *testing.T) {
	b, err := schema.Each(map[string]reflect.Type{"one": reflect.TypeFor[base](), "two": reflect.TypeFor[share]()},
		schema.Write{}, "Two", "Of two.")
	require.NoError(t, err)
	assert.JSONEq(t, `{"$schema":"https://json-schema.org/draft/2020-12/schema","title":"Two","description":"Of two.",
		"$defs":{"two":{"type":"number"},"one":{"type":"object","additionalProperties":false,"required":["id"],
		"properties":{"id":{"type":"integer"}}}}}`, string(b))
}
