package answer_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"yatai/core/answer"
	"yatai/internal/schematest"
)

// TestAnswersKeepToTheirSchemas asks every question of the scenarios' heads.
func TestAnswersKeepToTheirSchemas(t *testing.T) {
	for _, q := range answer.Questions {
		made, err := q.Schema()
		schematest.Same(t, "answer-"+q.Name, made, err)
	}
	for name, h := range heads(t) {
		file, err := json.Marshal(h)
		require.NoError(t, err)
		for _, q := range answer.Questions {
			said, err := answer.Run(t.Context(), q.Name, file)
			require.NoError(t, err, name)
			schematest.Holds(t, "answer-"+q.Name, said)
		}
	}
}
