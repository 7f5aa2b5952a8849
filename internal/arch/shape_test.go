package arch_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a reader can take in: the longest line in characters, the longest function in lines.
const (
	widest  = 160
	longest = 70
	table   = "places" // the mux: a table of routes
)

// TestLinesAndFunctionsCanBeReadAtOnce reads every Go file of the program.
func TestLinesAndFunctionsCanBeReadAtOnce(t *testing.T) {
	set := token.NewFileSet()
	files := 0
	err := filepath.WalkDir("../..", func(path string, d fs.DirEntry, err error) error {
		if err == nil && d.IsDir() && (d.Name() == "node_modules" || strings.HasPrefix(d.Name(), ".") && path != "../..") {
			return filepath.SkipDir
		}
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") {
			return err
		}
		files++
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		for i, line := range strings.Split(string(text), "\n") {
			if n := utf8.RuneCountInString(line); n > widest {
				assert.Fail(t, "a line too long", "%s:%d has %d characters", path, i+1, n)
			}
		}
		file, err := parser.ParseFile(set, path, text, 0)
		require.NoError(t, err)
		for _, decl := range file.Decls {
			f, ok := decl.(*ast.FuncDecl)
			if !ok || f.Body == nil || strings.HasSuffix(path, "_test.go") || f.Name.Name == table {
				continue
			}
			if n := set.Position(f.Body.End()).Line - set.Position(f.Body.Pos()).Line; n > longest {
				assert.Fail(t, "a function too long", "%s: %s has %d lines", path, f.Name.Name, n)
			}
		}
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, files, 300)
}
