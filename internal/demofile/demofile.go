// Package demofile makes the demo's file for tests: once per process, a copy for each test.
package demofile

import (
	"context"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"yatai/demo"
	"yatai/shop"
	"yatai/shop/library"
	"yatai/store"
)

// Path returns the path of a fresh copy of the demo's file in a folder of the test's own.
func Path(t testing.TB) string {
	t.Helper()
	data, err := made()
	if err != nil {
		t.Fatal(err)
	}
	path := filepath.Join(t.TempDir(), "shop.db")
	if err := os.WriteFile(path, data, 0o600); err != nil {
		t.Fatal(err)
	}
	return path
}

var made = sync.OnceValues(func() ([]byte, error) {
	dir, err := os.MkdirTemp("", "yatai-test")
	if err != nil {
		return nil, err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	path := filepath.Join(dir, "demo.db")
	st, err := store.OpenToFill(path)
	if err != nil {
		return nil, err
	}
	s := shop.New(st, time.Now)
	if err := library.Equip(context.Background(), s); err != nil {
		return nil, err
	}
	if err := demo.Fill(context.Background(), s); err != nil {
		return nil, err
	}
	if err := st.Close(); err != nil {
		return nil, err
	}
	return os.ReadFile(path)
})
