package store

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestAStoreThatKeeps: a file that can be written can be, and nothing is; one that was replaced cannot.
func TestAStoreThatKeeps(t *testing.T) {
	path := filepath.Join(t.TempDir(), "shop.db")
	s, err := Open(path)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	require.NoError(t, s.Keeps(t.Context()))
	room, ok := s.Room()
	assert.Equal(t, ok, room > 0)
	require.NoError(t, os.Rename(path, path+".away"))
	require.ErrorIs(t, s.Keeps(t.Context()), ErrReplaced)
	_, ok = roomOf(filepath.Join(t.TempDir(), "nowhere", "shop.db"))
	assert.False(t, ok)
}
