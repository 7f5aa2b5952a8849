package store

import (
	"context"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func addCustomer(s *Store, name string) error {
	return s.Write(context.Background(), func(d DB) error { return d.Add(&Customer{Name: name, CreatedAt: time.Now()}) })
}

// TestAFullDiskIsSaidAndKeepsWhatWasThere fills the file up to a bound, as a disk would.
func TestAFullDiskIsSaidAndKeepsWhatWasThere(t *testing.T) {
	s := fresh(t)
	require.NoError(t, addCustomer(s, "before"))
	var pages int
	require.NoError(t, s.write.Raw("PRAGMA page_count").Scan(&pages).Error)
	require.NoError(t, s.write.Exec(fmt.Sprintf("PRAGMA max_page_count = %d", pages+2)).Error)
	var err error
	for i := 0; err == nil && i < 100; i++ {
		err = s.Write(t.Context(), func(d DB) error {
			return d.Add(&Photo{HeadID: 1, JPEG: make([]byte, 1<<16), PersonID: 1, At: time.Now()})
		})
	}
	require.ErrorIs(t, err, ErrFull)
	require.NoError(t, s.write.Exec("PRAGMA max_page_count = 1000000").Error)
	require.NoError(t, addCustomer(s, "after"), "it goes on when there is room again")
	all, err := s.Read(t.Context()).Customers()
	require.NoError(t, err)
	assert.Len(t, all, 2)
}

// TestAFileTakenAwayIsNoticed removes and replaces the file under an open store.
func TestAFileTakenAwayIsNoticed(t *testing.T) {
	path := filepath.Join(t.TempDir(), "shop.db")
	s, err := Open(path)
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	require.NoError(t, addCustomer(s, "one"))
	require.NoError(t, os.Rename(path, path+".away"))
	require.ErrorIs(t, addCustomer(s, "two"), ErrReplaced)
	require.NoError(t, os.WriteFile(path, nil, 0o600))
	require.ErrorIs(t, addCustomer(s, "three"), ErrReplaced, "another file in its place")
	require.NoError(t, os.Remove(path))
	require.NoError(t, os.Rename(path+".away", path))
	require.NoError(t, addCustomer(s, "four"), "put back, it goes on")
}

// TestAFileIsHeldOnceByWhateverName locks a file by another name, a link and a symbolic link.
func TestAFileIsHeldOnceByWhateverName(t *testing.T) {
	dir := t.TempDir()
	path := filepath.Join(dir, "shop.db")
	require.NoError(t, os.WriteFile(path, nil, 0o600))
	hard, soft := filepath.Join(dir, "hard.db"), filepath.Join(dir, "soft.db")
	require.NoError(t, os.Link(path, hard))
	require.NoError(t, os.Symlink(path, soft))
	release, err := Lock(path)
	require.NoError(t, err)
	for _, other := range []string{path, hard, soft} {
		_, err := Lock(other)
		require.ErrorIs(t, err, ErrInUse, other)
	}
	require.NoError(t, release())
	release, err = Lock(hard)
	require.NoError(t, err)
	require.NoError(t, release())
}

// TestANewerFileIsLeftAlone opens a file that knows a migration this program does not.
func TestANewerFileIsLeftAlone(t *testing.T) {
	path := filepath.Join(t.TempDir(), "shop.db")
	s, err := Open(path)
	require.NoError(t, err)
	require.NoError(t, s.write.Exec("INSERT INTO migrations (id) VALUES ('9999_of_the_future')").Error)
	require.NoError(t, s.Close())
	_, err = Open(path)
	require.ErrorIs(t, err, ErrNewer)
	require.ErrorIs(t, Examine(t.Context(), path), ErrNewer)
	missing := filepath.Join(t.TempDir(), "none.db")
	require.Error(t, Examine(t.Context(), missing))
	assert.NoFileExists(t, missing, "looking makes nothing")
}

// TestACopyIsKeptBeforeMigrating opens a file of an earlier version.
func TestACopyIsKeptBeforeMigrating(t *testing.T) {
	path := filepath.Join(t.TempDir(), "shop.db")
	ids, err := migrationIDs()
	require.NoError(t, err)
	old := &Store{}
	old.write, err = open(path, "FULL", 1, "_txlock=immediate")
	require.NoError(t, err)
	require.NoError(t, old.migrate(ids[len(ids)-2]))
	db, err := old.write.DB()
	require.NoError(t, err)
	require.NoError(t, db.Close())
	s, err := Open(path)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	has, err := migrated(path + ".before-" + ids[len(ids)-1])
	require.NoError(t, err)
	assert.Equal(t, ids[:len(ids)-1], has)
}

// TestAWholeShopIsReadStrictly spoils a written shop in every way that matters: nothing is left
// at the path then.
func TestAWholeShopIsReadStrictly(t *testing.T) {
	s := fresh(t)
	require.NoError(t, addCustomer(s, "Ümlaut & Söhne <b>"))
	folder := t.TempDir()
	create := func(name string) (io.WriteCloser, error) {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(folder, name)), 0o755))
		return os.Create(filepath.Join(folder, name))
	}
	require.NoError(t, s.WriteWhole(t.Context(), create, func(string) bool { return false }))
	to := filepath.Join(t.TempDir(), "new.db")
	require.NoError(t, ReadWhole(t.Context(), os.DirFS(folder), to))
	assert.Equal(t, []string{"Ümlaut & Söhne <b>"}, names(t, to))
	require.ErrorContains(t, ReadWhole(t.Context(), os.DirFS(folder), to), "there already")

	customers, manifest := filepath.Join(folder, "tables", "customers.jsonl"), filepath.Join(folder, ManifestName)
	for _, c := range []struct{ path, from, to, says string }{
		{customers, `"name":`, `"nom":`, "name is missing"},
		{customers, `"id":1`, `"id":1.5`, "id"},
		{customers, `"id":1`, `"id":1,"more":2`, "more is no column"},
		{customers, `"id":1`, `"id":[1]`, "id is no plain value"},
		{manifest, `yatai-shop/1`, `yatai-shop/9`, "format"},
		{manifest, `"schema": "0`, `"schema": "9`, "newer program"},
		{manifest, `"customers"`, `"customers; DROP TABLE heads"`, "there is no table"},
	} {
		was, err := os.ReadFile(c.path)
		require.NoError(t, err)
		require.Contains(t, string(was), c.from)
		require.NoError(t, os.WriteFile(c.path, []byte(strings.Replace(string(was), c.from, c.to, 1)), 0o600))
		spoilt := filepath.Join(t.TempDir(), "spoilt.db")
		require.ErrorContains(t, ReadWhole(t.Context(), os.DirFS(folder), spoilt), c.says)
		_, err = os.Stat(spoilt)
		assert.ErrorIs(t, err, fs.ErrNotExist)
		require.NoError(t, os.WriteFile(c.path, was, 0o600))
	}
}
