// Package demofile makes the demo's file for tests: once for a test run, a copy for each test.
package demofile

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"io/fs"
	"os"
	"path/filepath"
	"runtime"
	"slices"
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

// fresh is how old a file may be that another package's tests have made: its days are today's.
const fresh = 10 * time.Minute

// made returns the demo's file. The packages of one test run, each a process of its own, share one
// that was made from the same source in the same time zone.
var made = sync.OnceValues(func() ([]byte, error) {
	source, err := sourceHash()
	if err != nil {
		return nil, err
	}
	shared := filepath.Join(os.TempDir(), "yatai-demo-"+source+".db")
	if i, err := os.Stat(shared); err == nil && time.Since(i.ModTime()) < fresh {
		return os.ReadFile(shared)
	}
	dir, err := os.MkdirTemp("", "yatai-test")
	if err != nil {
		return nil, err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	path := filepath.Join(dir, "demo.db")
	if err := fill(path); err != nil {
		return nil, err
	}
	data, err := os.ReadFile(path)
	if err == nil {
		err = os.Rename(path, shared) // whole or not at all, whoever else does the same
	}
	return data, err
})

// fill makes a shop's file and fills it with the demo.
func fill(path string) error {
	st, err := store.OpenToFill(path)
	if err != nil {
		return err
	}
	s := shop.New(st, time.Now)
	if err := library.Equip(context.Background(), s); err != nil {
		return err
	}
	if err := demo.Fill(context.Background(), s, "http://127.0.0.1:8417"); err != nil {
		return err
	}
	return st.Close()
}

// sourceHash stands for everything that the demo's file is made from, and the time zone.
func sourceHash() (string, error) {
	_, here, _, _ := runtime.Caller(0)
	root := filepath.Join(filepath.Dir(here), "..", "..")
	sum := sha256.New()
	_, _ = sum.Write([]byte(os.Getenv("TZ") + runtime.Version()))
	for _, part := range []string{"core", "store", "shop", "demo", "internal"} {
		err := filepath.WalkDir(filepath.Join(root, part), func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !slices.Contains([]string{".go", ".sql", ".json"}, filepath.Ext(path)) {
				return err
			}
			text, err := os.ReadFile(path)
			_, _ = sum.Write(text)
			return err
		})
		if err != nil {
			return "", err
		}
	}
	return hex.EncodeToString(sum.Sum(nil))[:16], nil
}
