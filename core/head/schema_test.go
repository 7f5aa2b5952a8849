package head_test

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
)

const schemaFile = "../../docs/headfile.schema.json"

// TestTheSchemaIsTheOneInDocs: WRITE=1 go test ./core/head writes it anew.
func TestTheSchemaIsTheOneInDocs(t *testing.T) {
	want, err := head.Schema()
	require.NoError(t, err)
	if os.Getenv("WRITE") != "" {
		require.NoError(t, os.WriteFile(schemaFile, want, 0o644))
	}
	have, err := os.ReadFile(schemaFile)
	require.NoError(t, err)
	assert.Equal(t, string(want), string(have))
}

// TestTheSchemaTakesWhatDecodeTakes holds every scenario's head against the schema, as it is
// and with a key that is none.
func TestTheSchemaTakesWhatDecodeTakes(t *testing.T) {
	doc, err := os.ReadFile(schemaFile)
	require.NoError(t, err)
	parsed, err := jsonschema.UnmarshalJSON(bytes.NewReader(doc))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("headfile.json", parsed))
	schema, err := c.Compile("headfile.json")
	require.NoError(t, err)
	files, err := filepath.Glob("../answer/testdata/*.json")
	require.NoError(t, err)
	for _, name := range files {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		var s struct{ Head map[string]any }
		require.NoError(t, json.Unmarshal(data, &s))
		require.NoError(t, schema.Validate(s.Head), name)
		s.Head["extra"] = 1
		assert.Error(t, schema.Validate(s.Head), name)
	}
}
