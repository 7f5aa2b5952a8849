package store

import (
	"errors"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func fresh(t *testing.T) *Store {
	t.Helper()
	s, err := Open(filepath.Join(t.TempDir(), "shop.db"))
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func TestFileIsSetUpSafely(t *testing.T) {
	s := fresh(t)
	for pragma, want := range map[string]string{"journal_mode": "wal", "synchronous": "2", "foreign_keys": "1"} {
		var got string
		require.NoError(t, s.write.Raw("PRAGMA "+pragma).Scan(&got).Error)
		assert.Equal(t, want, got, pragma)
	}
	require.NoError(t, s.Check(t.Context()))
	assert.Error(t, s.read.Exec("INSERT INTO customers (name, created_at) VALUES ('x', 0)").Error, "a reader cannot write")
}

func TestOpenTwiceMigratesOnce(t *testing.T) {
	path := filepath.Join(t.TempDir(), "shop.db")
	for range 2 {
		s, err := Open(path)
		require.NoError(t, err)
		require.NoError(t, s.Close())
	}
}

// TestMigratesFromEveryEarlierVersion makes a file of each earlier version, puts something
// in it and opens it with the program of today.
func TestMigratesFromEveryEarlierVersion(t *testing.T) {
	names, err := migrations.ReadDir("migrations")
	require.NoError(t, err)
	for _, n := range names {
		path := filepath.Join(t.TempDir(), "shop.db")
		old := &Store{}
		old.write, err = open(path, "FULL", 1, "_txlock=immediate")
		require.NoError(t, err)
		require.NoError(t, old.migrate(strings.TrimSuffix(n.Name(), ".sql")), n.Name())
		require.NoError(
			t,
			old.write.Exec("INSERT INTO tools (name, kind, resolution, u) VALUES ('Old gauge', 'bore gauge', 1000, 4000)").Error,
		)
		db, err := old.write.DB()
		require.NoError(t, err)
		require.NoError(t, db.Close())
		s, err := Open(path)
		require.NoError(t, err, n.Name())
		tools, err := s.Read(t.Context()).Tools()
		require.NoError(t, err)
		assert.Equal(t, "Old gauge", tools[0].Name)
		require.NoError(t, s.Check(t.Context()))
		require.NoError(t, s.Close())
	}
}

func TestDuplicatesAndStrangersAreRefused(t *testing.T) {
	s := fresh(t)
	add := func(row any) error { return s.Write(t.Context(), func(d DB) error { return d.Add(row) }) }
	require.NoError(t, add(&Customer{Name: "Mossfield", CreatedAt: time.Now()}))
	assert.True(t, IsDuplicate(add(&Customer{Name: "MOSSFIELD", CreatedAt: time.Now()})), "names differ by more than case")
	assert.Error(t, add(&Machine{CustomerID: 99, Name: "of nobody"}))
	_, err := s.Read(t.Context()).Head("T9999")
	assert.ErrorIs(t, err, ErrNotFound)
}

// TestWhatStandsIsNeverChanged tries to change and to delete rows of the tables that only
// grow: what was read, found, approved or written down stays.
func TestWhatStandsIsNeverChanged(t *testing.T) {
	s := fresh(t)
	require.NoError(t, s.Write(t.Context(), func(d DB) error { return d.Add(&Event{At: time.Now(), What: "x"}) }))
	assert.ErrorContains(t, s.write.Exec("UPDATE events SET what = 'y'").Error, "never changed")
	assert.ErrorContains(t, s.write.Exec("DELETE FROM events").Error, "never deleted")
	for _, table := range []string{"readings", "events", "zero_checks", "findings", "approvals", "limits"} {
		var triggers int
		require.NoError(t, s.write.Raw("SELECT count(*) FROM sqlite_master WHERE type = 'trigger' AND tbl_name = ?",
			table).Scan(&triggers).Error)
		assert.Equal(t, 2, triggers, table)
	}
}

// TestAReaderSeesOnlyWhatIsSettled reads while a transaction is open, and after it was
// taken back.
func TestAReaderSeesOnlyWhatIsSettled(t *testing.T) {
	s := fresh(t)
	assert.True(t, s.Read(t.Context()).Settled())
	refused := errors.New("refused")
	err := s.Write(t.Context(), func(d DB) error {
		assert.False(t, d.Settled())
		require.NoError(t, d.Add(&Customer{Name: "Half written", CreatedAt: time.Now()}))
		seen, err := s.Read(t.Context()).Customers()
		require.NoError(t, err)
		assert.Empty(t, seen)
		return refused
	})
	assert.ErrorIs(t, err, refused)
	seen, err := s.Read(t.Context()).Customers()
	require.NoError(t, err)
	assert.Empty(t, seen)
}

func TestManyWritersAtOnce(t *testing.T) {
	s := fresh(t)
	var wg sync.WaitGroup
	for i := range 8 {
		wg.Go(func() {
			for k := range 20 {
				err := s.Write(t.Context(), func(d DB) error {
					if _, err := d.LastHead(); err != nil {
						return err
					}
					return d.KeepAnswer(Write{ClientID: string(rune('a'+i)) + time.Duration(k).String(), At: time.Now()})
				})
				assert.NoError(t, err)
			}
		})
	}
	wg.Wait()
}
