package arch_test

import (
	"go/ast"
	"go/parser"
	"go/scanner"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a reader can take in: the longest line in characters, whatever texts stand in it, and with them; the
// longest function in lines.
const (
	widest  = 110
	texts   = 160
	longest = 70
	table   = "places" // the mux: a table of routes
)

// quoted is how much of each line of a file stands in texts: characters by line, the first 1.
func quoted(file *token.File, text []byte) map[int]int {
	in, scan := map[int]int{}, scanner.Scanner{}
	scan.Init(file, text, nil, 0)
	for {
		pos, kind, lit := scan.Scan()
		if kind == token.EOF {
			return in
		}
		if kind == token.STRING {
			for i, part := range strings.Split(lit, "\n") {
				in[file.Line(pos)+i] += utf8.RuneCountInString(part)
			}
		}
	}
}

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
		most := widest
		if strings.HasSuffix(path, "_test.go") {
			most += 10
		}
		in := quoted(token.NewFileSet().AddFile(path, -1, len(text)), text)
		for i, line := range strings.Split(string(text), "\n") {
			if n := utf8.RuneCountInString(line); n > texts || n-in[i+1] > most {
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

// TestTemplatesCanBeReadAtOnce: lines of templates hold to 140 characters, the sentences in them apart.
func TestTemplatesCanBeReadAtOnce(t *testing.T) {
	views, err := filepath.Glob("../../web/views/*.html")
	require.NoError(t, err)
	require.Greater(t, len(views), 50)
	sentence := regexp.MustCompile(`"[^"]{60,}"`)
	for _, path := range views {
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		for i, line := range strings.Split(string(text), "\n") {
			if n := utf8.RuneCountInString(sentence.ReplaceAllString(line, "")); n > 140 {
				assert.Fail(t, "a line too long", "%s:%d has %d characters", path, i+1, n)
			}
		}
	}
}
