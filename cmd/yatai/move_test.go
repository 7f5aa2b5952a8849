package main

import (
	"bytes"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/demofile"
	"yatai/store"
)

// contents reads every file of a folder, by its path in it.
func contents(t *testing.T, folder string) map[string]string {
	t.Helper()
	out := map[string]string{}
	require.NoError(t, filepath.WalkDir(folder, func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		b, err := os.ReadFile(path)
		name, _ := filepath.Rel(folder, path)
		out[name] = string(b)
		return err
	}))
	assert.Greater(t, len(out), 40)
	return out
}

// TestAShopsHeadsGoOutAndIntoAnother exports the demo, takes all of it into a new shop, and
// asks about an exported head on the command line.
func TestAShopsHeadsGoOutAndIntoAnother(t *testing.T) {
	folder, path := filepath.Join(t.TempDir(), "out"), filepath.Join(t.TempDir(), "shop.db")
	require.NoError(t, exportCmd{DB: demofile.Path(t), To: folder}.Run())
	files, err := filepath.Glob(filepath.Join(folder, "T*.json"))
	require.NoError(t, err)
	require.Len(t, files, 28)
	assert.FileExists(t, filepath.Join(folder, "stock.csv"))

	again, whole := filepath.Join(t.TempDir(), "again"), filepath.Join(t.TempDir(), "whole.db")
	require.NoError(t, importCmd{From: folder, DB: whole}.Run())
	require.NoError(t, exportCmd{DB: whole, To: again}.Run())
	assert.Equal(t, contents(t, folder), contents(t, again), "out and in again is the same shop")
	for name, text := range contents(t, folder) {
		assert.NotContains(t, text, "$argon2id$", "%s holds a password", name)
	}

	require.NoError(t, os.Remove(filepath.Join(folder, store.ManifestName))) // only the heads, into another shop
	require.NoError(t, userAddCmd{DB: path, Name: "Runa"}.run(strings.NewReader("long-enough-1\n")))
	require.NoError(t, importCmd{From: folder, DB: path, Customer: "moved", Machine: "all"}.Run())
	bad := filepath.Join(folder, "bad.json")
	require.NoError(t, os.WriteFile(bad, []byte("{"), 0o600))
	assert.ErrorContains(t, importCmd{From: bad, DB: path, Customer: "moved", Machine: "all"}.Run(), "file:")

	for _, q := range []string{"judge", "plan", "check", "causes", "quote"} {
		var out, wrong bytes.Buffer
		assert.Equal(t, 0, runAsk(q, []string{filepath.Join(folder, "T0401.json")}, nil, &out, &wrong), wrong.String())
		assert.Contains(t, out.String(), "{")
		assert.Equal(t, 2, runAsk(q, []string{bad}, nil, &out, &wrong))
		assert.Contains(t, wrong.String(), `{"error":{"field":`)
	}
}
