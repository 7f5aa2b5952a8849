package calc_test

import (
	"bytes"
	"encoding/json"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/require"

	"yatai/core/calc"
	"yatai/internal/schematest"
)

// TestAnswersKeepToTheirSchemas works the example of every calculation.
func TestAnswersKeepToTheirSchemas(t *testing.T) {
	list, answers, err := calc.Schemas()
	schematest.Same(t, "calculations", list, err)
	schematest.Same(t, "calculation-answers", answers, err)
	var all []calc.Description
	c := jsonschema.NewCompiler()
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(answers))
	require.NoError(t, err)
	require.NoError(t, c.AddResource("answers.json", doc))
	for _, k := range calc.All() {
		all = append(all, k.Describe())
		res, err := calc.Run(k.Name, []byte(k.Example))
		require.NoError(t, err, k.Name)
		said, err := res.JSON()
		require.NoError(t, err)
		v, err := jsonschema.UnmarshalJSON(bytes.NewReader(said))
		require.NoError(t, err)
		s, err := c.Compile("answers.json#/$defs/" + k.Name)
		require.NoError(t, err)
		require.NoError(t, s.Validate(v), k.Name)
	}
	said, err := json.Marshal(all)
	require.NoError(t, err)
	schematest.Holds(t, "calculations", said)
}
