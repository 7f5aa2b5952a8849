// Package arch holds the test that keeps the program's arrows pointing one way.
package arch

import (
	"encoding/json"
	"errors"
	"go/ast"
	"go/parser"
	"go/token"
	"io"
	"io/fs"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// allowed says which parts of the program a part may import, beside the parts of core
// for everybody outside core. Order of the arrows: cmd, web, shop, store, core.
var allowed = map[string][]string{
	"core":     {"core"},
	"store":    {"core"},
	"shop":     {"core", "store", "shop"},
	"web":      {"core", "shop", "web"},
	"demo":     {"core", "shop"},
	"standin":  {"core"},
	"cmd":      {"core", "store", "shop", "web", "demo", "standin"},
	"internal": {"core", "store", "shop", "demo", "internal"}, // what tests share
}

// places says which of the shop's places a place may ask, beside the kernel. Order of the
// arrows: what is asked stands above who asks.
var places = map[string][]string{
	"shop/headfile":   {},
	"shop/parts":      {"shop/headfile"},
	"shop/week":       {"shop/headfile"},
	"shop/people":     {},
	"shop/supply":     {},
	"shop/trail":      {},
	"shop/quality":    {},
	"shop/customers":  {"shop/headfile"},
	"shop/table":      {},
	"shop/fleet":      {"shop/customers", "shop/following"},
	"shop/practising": {},
	"shop/experience": {"shop/bench", "shop/headfile", "shop/following", "shop/library", "shop/week"},
	"shop/inout":      {"shop/headfile", "shop/customers", "shop/intake", "shop/library", "shop/parts", "shop/table"},
	"shop/library":    {"shop/headfile", "shop/week"},
	"shop/intake":     {"shop/headfile", "shop/parts"},
	"shop/bench":      {"shop/headfile"},
	"shop/lead":       {"shop/headfile", "shop/parts"},
	"shop/quoting":    {"shop/following", "shop/headfile", "shop/parts", "shop/week"},
	"shop/billing":    {"shop/headfile"},
	"shop/work":       {"shop/headfile", "shop/parts", "shop/bench", "shop/lead"},
	"shop/following":  {"shop/headfile", "shop/parts", "shop/week", "shop/work"},
}

// frame is what a page is made with; the places of web import nothing else of web.
var frame = []string{"web/page", "web/headpage", "web/draw", "web/paper"}

// floors are core's packages from the ground up: a package imports only what stands on a floor
// below its own.
var floors = [][]string{
	{"core/length", "core/match", "core/schema", "core/words"},
	{"core/field"},
	{"core/quantity", "core/layout", "core/money"},
	{"core/schedule", "core/gauge", "core/valvetrain", "core/seating", "core/engine", "core/tray", "core/wear"},
	{"core/surface", "core/cuts", "core/trade"},
	{"core/head", "core/calc"},
	{"core/head/headtest", "core/judge", "core/route", "core/newpart"},
	{"core/price", "core/cause", "core/gate", "core/after"},
	{"core/plan", "core/bill", "core/invoice"},
	{"core/quote", "core/practice"},
	{"core/answer"},
}

// floorOf returns the floor a package of core stands on, -1 for none.
func floorOf(pkg string) int {
	return slices.IndexFunc(floors, func(f []string) bool { return slices.Contains(f, pkg) })
}

const module = "yatai/"

func TestArrowsPointOneWay(t *testing.T) {
	cmd := exec.Command("go", "list", "-json=ImportPath,Imports", "./...")
	cmd.Dir = "../.."
	out, err := cmd.Output()
	require.NoError(t, err)
	dec := json.NewDecoder(strings.NewReader(string(out)))
	seen := 0
	for {
		var p struct {
			ImportPath string
			Imports    []string
		}
		err := dec.Decode(&p)
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err)
		seen++
		part, _, _ := strings.Cut(strings.TrimPrefix(p.ImportPath, module), "/")
		may, known := allowed[part]
		require.True(t, known, "%s is part of nothing known", p.ImportPath)
		for _, imp := range p.Imports {
			if own, ok := strings.CutPrefix(imp, module); ok {
				to, _, _ := strings.Cut(own, "/")
				assert.Contains(t, may, to, "%s imports %s", p.ImportPath, imp)
				if part == "core" {
					at := floorOf(strings.TrimPrefix(p.ImportPath, module))
					assert.GreaterOrEqual(t, at, 0, "%s stands on no floor", p.ImportPath)
					assert.Less(t, floorOf(own), at, "%s imports %s", p.ImportPath, imp)
				}
				if part == "web" && p.ImportPath != module+"web" && to == "web" {
					assert.Contains(t, frame, own, "%s imports %s", p.ImportPath, imp)
				}
				if part == "shop" && to == "shop" && own != "shop" {
					asks := strings.TrimPrefix(p.ImportPath, module)
					may, known := places[asks]
					assert.True(t, known, "%s is no place of the shop, and imports %s", p.ImportPath, imp)
					assert.Contains(t, may, own, "%s imports %s", p.ImportPath, imp)
				}
				continue
			}
			if part == "core" {
				host, _, _ := strings.Cut(imp, "/")
				assert.True(t, !strings.Contains(host, ".") || strings.HasPrefix(imp, "gonum.org/") ||
					strings.HasPrefix(imp, "golang.org/x/text/"), "core imports %s", imp)
				assert.NotContains(t, []string{"os", "net/http", "log", "database/sql", "html/template"}, imp, "%s does I/O",
					p.ImportPath)
			}
		}
	}
	assert.Greater(t, seen, 12)
}

// TestCoreLooksAtNoClock reads core's source: it may reckon with times it is given, and
// never asks what time it is, nor waits.
func TestCoreLooksAtNoClock(t *testing.T) {
	files := 0
	err := filepath.WalkDir("../../core", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		files++
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		if err != nil {
			return err
		}
		ast.Inspect(f, func(n ast.Node) bool {
			if sel, ok := n.(*ast.SelectorExpr); ok {
				if pkg, ok := sel.X.(*ast.Ident); ok && pkg.Name == "time" {
					assert.NotContains(t, []string{
						"Now", "Since", "Until", "Sleep", "After", "AfterFunc", "NewTimer", "NewTicker", "Tick",
					}, sel.Sel.Name, path)
				}
			}
			return true
		})
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, files, 30)
}
