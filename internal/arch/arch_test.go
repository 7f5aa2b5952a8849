// Package arch holds the test that keeps the program's arrows pointing one way.
package arch

import (
	"encoding/json"
	"errors"
	"io"
	"os/exec"
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
	"shop":     {"core", "store"},
	"web":      {"core", "store", "shop", "web"},
	"demo":     {"core", "shop"},
	"standin":  {"core"},
	"cmd":      {"core", "store", "shop", "web", "demo", "standin"},
	"internal": {"store", "shop", "demo"}, // what tests share
}

const module = "headwright/"

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
				continue
			}
			if part == "core" {
				host, _, _ := strings.Cut(imp, "/")
				assert.True(t, !strings.Contains(host, ".") || strings.HasPrefix(imp, "gonum.org/"), "core imports %s", imp)
				assert.NotContains(t, []string{"os", "net/http", "time", "log", "database/sql", "html/template"}, imp, "%s does I/O or looks at a clock", p.ImportPath)
			}
		}
	}
	assert.Greater(t, seen, 12)
}
