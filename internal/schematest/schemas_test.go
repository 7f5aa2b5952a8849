package schematest_test

import (
	"encoding/json"
	"reflect"
	"testing"

	"github.com/stretchr/testify/require"

	"yatai/core/schema"
	"yatai/internal/schematest"
	"yatai/shop/supply"
	"yatai/store"
)

// TestWhatIsSaidToOthersIsDescribed holds the question to a supplier, its answer and the table of contents of
// a whole shop against their schemas.
func TestWhatIsSaidToOthersIsDescribed(t *testing.T) {
	for name, c := range map[string]struct {
		of           reflect.Type
		as           schema.Dialect
		title, about string
		like         any
	}{
		"supplier-question": {
			reflect.TypeFor[supply.Ask](), schema.Write{}, "Question to a supplier", "The parts of the stock.",
			supply.Ask{Format: "yatai-ask/1", Parts: []supply.Part{{Kind: "valve", Name: "Exhaust valve 36"}}},
		},
		"supplier-answer": {
			reflect.TypeFor[supply.Offers](), schema.Write{}, "Answer of a supplier",
			"What parts cost and how long they take.",
			supply.Offers{Format: "yatai-offers/1", Offers: []supply.Offer{{Cost: "24.10", Days: 5}}},
		},
		"shop": {
			reflect.TypeFor[store.Manifest](), schema.Write{}, "A whole shop",
			"What its folder holds: each table is a file of one JSON object a line, columns by name.",
			store.Manifest{Format: "yatai-shop/1", Tables: []string{"users"}},
		},
	} {
		made, err := schema.Of(c.of, c.as, c.title, c.about, nil)
		schematest.Same(t, name, made, err)
		said, err := json.Marshal(c.like)
		require.NoError(t, err)
		schematest.Holds(t, name, said)
	}
}
