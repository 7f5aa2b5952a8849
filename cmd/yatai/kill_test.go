package main

import (
	"database/sql"
	"errors"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/demofile"
	"yatai/internal/sample"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// asProgram names the variable by which this test's own binary is the program.
const asProgram = "YATAI_TEST_AS_PROGRAM"

// TestMain runs the program itself when a test has started this binary as one.
func TestMain(m *testing.M) {
	if os.Getenv(asProgram) != "" {
		main()
		return
	}
	os.Exit(m.Run())
}

// kills is how often a test kills the program: more with YATAI_KILLS.
func kills(usual int) int {
	if n, err := strconv.Atoi(os.Getenv("YATAI_KILLS")); err == nil && n > 0 {
		return n
	}
	return sample.Times(3, usual)
}

// killed starts the program and kills it after a while; it tells whether it was done before.
func killed(t *testing.T, after time.Duration, args ...string) bool {
	t.Helper()
	cmd := exec.Command(os.Args[0], args...)
	cmd.Env = append(os.Environ(), asProgram+"=yes")
	require.NoError(t, cmd.Start())
	done := make(chan error, 1)
	go func() { done <- cmd.Wait() }()
	select {
	case err := <-done:
		return err == nil
	case <-time.After(after):
		require.NoError(t, cmd.Process.Kill())
		<-done
		return false
	}
}

// ran is how long a whole run of the program takes, and leaves what it does.
func ran(t *testing.T, args ...string) time.Duration {
	t.Helper()
	begun := time.Now()
	require.True(t, killed(t, time.Minute, args...), "%v", args)
	return time.Since(begun)
}

// readings counts a head's readings in a shop's file that has to be sound.
func readings(t *testing.T, path, tag string) int {
	t.Helper()
	require.NoError(t, doctorCmd{DB: path}.Run())
	st, err := store.Open(path)
	require.NoError(t, err)
	defer func() { require.NoError(t, st.Close()) }()
	f, err := headfile.Open(t.Context(), shop.New(st, time.Now), tag)
	require.NoError(t, err)
	return len(f.Readings)
}

// TestKilledInABackup kills the backup at moments spread over its run: what has the backup's name
// is a whole one, or not there, and the next try goes through.
func TestKilledInABackup(t *testing.T) {
	path := demofile.Path(t)
	want := readings(t, path, "T0401")
	whole := ran(t, "backup", "--db", path, "--to", filepath.Join(t.TempDir(), "first.db"))
	n := kills(6)
	for i := range n {
		to := filepath.Join(t.TempDir(), "backup.db")
		killed(t, whole*time.Duration(i+1)/time.Duration(n+1), "backup", "--db", path, "--to", to)
		if _, err := os.Stat(to); !errors.Is(err, fs.ErrNotExist) {
			require.NoError(t, err)
			assert.Equal(t, want, readings(t, to, "T0401"), "what is there is whole")
			continue
		}
		ran(t, "backup", "--db", path, "--to", to)
		assert.Equal(t, want, readings(t, to, "T0401"))
	}
	assert.Equal(t, want, readings(t, path, "T0401"), "the shop's own file is untouched")
}

// TestKilledInAnImport kills the import of a whole shop at moments spread over its run: a file
// that was not finished is never taken for a shop, and the next try goes through.
func TestKilledInAnImport(t *testing.T) {
	path, folder := demofile.Path(t), filepath.Join(t.TempDir(), "shop")
	want := readings(t, path, "T0401")
	ran(t, "export", "--db", path, "--to", folder)
	whole := ran(t, "import", folder, "--db", filepath.Join(t.TempDir(), "first.db"))
	n := kills(6)
	for i := range n {
		to := filepath.Join(t.TempDir(), "new.db")
		if !killed(t, whole*time.Duration(i+1)/time.Duration(n+1), "import", folder, "--db", to) {
			if _, err := os.Stat(to); err == nil {
				st, err := store.Open(to)
				require.NoError(t, err, "what was begun is no broken file")
				heads, err := st.Read(t.Context()).Tags()
				require.NoError(t, err)
				require.NoError(t, st.Close())
				if len(heads) == 0 { // nothing of it is in: it is begun again
					require.NoError(t, os.Remove(to))
				}
			}
			if _, err := os.Stat(to); errors.Is(err, fs.ErrNotExist) {
				ran(t, "import", folder, "--db", to)
			}
		}
		assert.Equal(t, want, readings(t, to, "T0401"), "all of it or nothing")
	}
}

// TestKilledInAMigration kills the program while it brings an older file up to date: the file is
// then the older one or the newer, with everything in it, and a copy of the older lies beside it.
func TestKilledInAMigration(t *testing.T) {
	demo := demofile.Path(t)
	want := readings(t, demo, "T0401")
	older := filepath.Join(t.TempDir(), "older.db")
	copyFile(t, demo, older)
	undoLast(t, older)
	n := kills(8)
	for i := range n {
		path := filepath.Join(t.TempDir(), "shop.db")
		copyFile(t, older, path)
		killed(t, time.Duration(20+i*15)*time.Millisecond, "serve", "--db", path, "--addr", "127.0.0.1:0")
		assert.Equal(t, want, readings(t, path, "T0401"))
	}
}

// undoLast makes a file as the version before the last migration left it.
func undoLast(t *testing.T, path string) {
	t.Helper()
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	for _, statement := range []string{
		"DROP TRIGGER movement_written", "DROP TRIGGER movement_taken_back", "DROP TRIGGER item_taken_back",
		"DROP TABLE stock_sums", "DROP TABLE stock_reserved",
		"DROP INDEX operations_done", "DROP INDEX heads_handed", "DROP INDEX heads_open", "DROP INDEX heads_earlier",
		"DELETE FROM migrations WHERE id = '0013_stock_sums'", "PRAGMA wal_checkpoint(TRUNCATE)",
	} {
		_, err := db.Exec(statement)
		require.NoError(t, err, statement)
	}
	require.NoError(t, db.Close())
}

func copyFile(t *testing.T, from, to string) {
	t.Helper()
	b, err := os.ReadFile(from)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(to, b, 0o600))
}
