// Package schematest holds what the program writes against the JSON Schemas in docs/schemas.
package schematest

import (
	"bytes"
	"os"
	"path/filepath"
	"runtime"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/require"
)

// path is where the schema of a name is.
func path(name string) string {
	_, here, _, _ := runtime.Caller(0)
	return filepath.Join(filepath.Dir(here), "../../docs/schemas", name+".schema.json")
}

// Same fails where the schema in docs is not the one that is made now. WRITE=1 writes it anew.
func Same(t *testing.T, name string, made []byte, err error) {
	t.Helper()
	require.NoError(t, err)
	if os.Getenv("WRITE") != "" {
		require.NoError(t, os.WriteFile(path(name), made, 0o644))
	}
	have, err := os.ReadFile(path(name))
	require.NoError(t, err)
	require.Equal(t, string(made), string(have), "WRITE=1 go test writes it anew")
}

// Holds fails where a document does not keep to a schema in docs.
func Holds(t *testing.T, name string, document []byte) {
	t.Helper()
	v, err := jsonschema.UnmarshalJSON(bytes.NewReader(document))
	require.NoError(t, err)
	require.NoError(t, Compile(t, name).Validate(v), name)
}

// Compile returns a schema in docs.
func Compile(t *testing.T, name string) *jsonschema.Schema {
	t.Helper()
	b, err := os.ReadFile(path(name))
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(b))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource(name, doc))
	s, err := c.Compile(name)
	require.NoError(t, err)
	return s
}
