package store

import (
	"bytes"
	"log/slog"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestFailedStatementsAreLogged: a statement that fails is in the log without its values, one
// that finds nothing is not.
func TestFailedStatementsAreLogged(t *testing.T) {
	var b bytes.Buffer
	before := slog.Default()
	slog.SetDefault(slog.New(slog.NewTextHandler(&b, nil)))
	defer slog.SetDefault(before)
	s, err := Open(filepath.Join(t.TempDir(), "shop.db"))
	require.NoError(t, err)
	defer s.Close()
	assert.Empty(t, b.String(), "opening goes well")
	_, err = s.Read(t.Context()).Tool(999)
	require.Error(t, err)
	assert.Empty(t, b.String(), "nothing found is an answer")

	require.Error(t, s.Read(t.Context()).g.Exec("UPDATE tools SET name = ?", "Maren Holt").Error,
		"the reading side does not write")
	assert.Contains(t, b.String(), "UPDATE tools SET name")
	assert.NotContains(t, b.String(), "Maren")
}
