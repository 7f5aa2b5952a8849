package head_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/internal/schematest"
)

func TestTheSchemaIsTheOneInDocs(t *testing.T) {
	made, err := head.Schema()
	schematest.Same(t, "headfile", made, err)
}

// TestTheSchemaTakesWhatDecodeTakes holds every scenario's head against the schema, as it is
// and with a key that is none.
func TestTheSchemaTakesWhatDecodeTakes(t *testing.T) {
	schema := schematest.Compile(t, "headfile")
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
