package answer_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"yatai/core/answer"
	"yatai/internal/schematest"
)

// TestAnswersKeepToTheirSchemas asks every question of every scenario's head.
func TestAnswersKeepToTheirSchemas(t *testing.T) {
	for _, q := range answer.Questions {
		made, err := q.Schema()
		schematest.Same(t, "answer-"+q.Name, made, err)
	}
	files, err := filepath.Glob("testdata/*.json")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, name := range files {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		var s struct{ Head json.RawMessage }
		require.NoError(t, json.Unmarshal(data, &s))
		for _, q := range answer.Questions {
			said, err := answer.Run(t.Context(), q.Name, s.Head)
			require.NoError(t, err, name)
			schematest.Holds(t, "answer-"+q.Name, said)
		}
	}
}
