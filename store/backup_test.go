package store

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func names(t *testing.T, path string) []string {
	t.Helper()
	s, err := Open(path)
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	all, err := s.Read(t.Context()).Customers()
	require.NoError(t, err)
	var out []string
	for _, c := range all {
		out = append(out, c.Name)
	}
	return out
}

// TestABackupIsOneMoment copies a file while somebody writes to it in pairs: the copy never
// has half a pair.
func TestABackupIsOneMoment(t *testing.T) {
	dir := t.TempDir()
	path := filepath.Join(dir, "shop.db")
	s, err := Open(path)
	require.NoError(t, err)
	ctx, stop := context.WithCancel(t.Context())
	var writer sync.WaitGroup
	writer.Go(func() {
		for n := 0; ctx.Err() == nil; n++ {
			_ = s.Write(context.Background(), func(d DB) error {
				for _, half := range []string{"a", "b"} {
					if err := d.Add(&Customer{Name: fmt.Sprint(half, n), CreatedAt: time.Now()}); err != nil {
						return err
					}
				}
				return nil
			})
		}
	})
	for i := range 5 {
		to := filepath.Join(dir, fmt.Sprintf("backup%d.db", i))
		require.NoError(t, s.Backup(t.Context(), to))
		assert.Zero(t, len(names(t, to))%2)
		assert.ErrorContains(t, s.Backup(t.Context(), to), "there already")
	}
	stop()
	writer.Wait()
	require.NoError(t, s.Close())
	assert.Error(t, Backup(t.Context(), filepath.Join(dir, "none.db"), filepath.Join(dir, "x.db")))
	assert.NoFileExists(t, filepath.Join(dir, "none.db"), "looking makes no file")
}

// TestABackupTidiesWhatWasCutOff a day ago and longer; what may still be made stays.
func TestABackupTidiesWhatWasCutOff(t *testing.T) {
	dir := t.TempDir()
	path := filepath.Join(dir, "shop.db")
	s, err := Open(path)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	old, young, other := filepath.Join(dir, "monday.db.making"), filepath.Join(dir, "today.db.making"), filepath.Join(dir, "plum.making")
	for _, name := range []string{old, young, other} {
		require.NoError(t, os.WriteFile(name, []byte("half"), 0o600))
		require.NoError(t, os.Chtimes(name, time.Time{}, time.Now().Add(-25*time.Hour)))
	}
	require.NoError(t, os.Chtimes(young, time.Time{}, time.Now().Add(-23*time.Hour)))
	require.NoError(t, Backup(t.Context(), path, filepath.Join(dir, "backup.db")))
	assert.NoFileExists(t, old)
	assert.FileExists(t, young)
	assert.FileExists(t, other, "no copy of a shop")
}

func TestRestoreKeepsWhatWasThere(t *testing.T) {
	dir := t.TempDir()
	path, backup := filepath.Join(dir, "shop.db"), filepath.Join(dir, "backup.db")
	s, err := Open(path)
	require.NoError(t, err)
	add := func(name string) {
		require.NoError(
			t, s.Write(t.Context(), func(d DB) error { return d.Add(&Customer{Name: name, CreatedAt: time.Now()}) }),
		)
	}
	add("first")
	require.NoError(t, s.Backup(t.Context(), backup))
	add("second")
	release, err := Lock(path)
	require.NoError(t, err)
	_, err = Lock(path)
	assert.ErrorIs(t, err, ErrInUse)
	_, err = Restore(t.Context(), backup, path, time.Now())
	assert.ErrorIs(t, err, ErrInUse, "while a program serves it")
	require.NoError(t, s.Close())
	require.NoError(t, release())

	kept, err := Restore(t.Context(), backup, path, time.Date(2031, 2, 3, 4, 5, 6, 0, time.UTC))
	require.NoError(t, err)
	assert.Equal(t, path+".before-20310203-040506", kept)
	assert.Equal(t, []string{"first"}, names(t, path))
	assert.Equal(t, []string{"first", "second"}, names(t, kept))
	assert.NoFileExists(t, path+".restoring")

	elsewhere := filepath.Join(dir, "new.db")
	kept, err = Restore(t.Context(), backup, elsewhere, time.Now())
	require.NoError(t, err)
	assert.Empty(t, kept)
	assert.Equal(t, []string{"first"}, names(t, elsewhere))
}

// TestWhatIsNoBackupIsRefused tries to restore other things: the shop's file stays.
func TestWhatIsNoBackupIsRefused(t *testing.T) {
	dir := t.TempDir()
	path := filepath.Join(dir, "shop.db")
	s, err := Open(path)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	before, err := os.ReadFile(path)
	require.NoError(t, err)
	torn := filepath.Join(dir, "torn.db")
	require.NoError(t, os.WriteFile(torn, append([]byte{}, before[:len(before)/2]...), 0o600))
	text := filepath.Join(dir, "text.db")
	require.NoError(t, os.WriteFile(text, []byte("these are not the heads you look for"), 0o600))
	for _, bad := range []string{torn, text, filepath.Join(dir, "none.db"), dir} {
		_, err := Restore(t.Context(), bad, path, time.Now())
		assert.Error(t, err, bad)
	}
	after, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, before, after)
}

// TestRestoreOverWhateverIsThere puts a backup over files that no database reads any more: each is kept
// byte by byte, its log too.
func TestRestoreOverWhateverIsThere(t *testing.T) {
	dir := t.TempDir()
	path, backup := filepath.Join(dir, "shop.db"), filepath.Join(dir, "backup.db")
	s, err := Open(path)
	require.NoError(t, err)
	require.NoError(t, s.Write(t.Context(), func(d DB) error {
		if err := d.g.Exec("INSERT INTO sessions (token, data, expiry) VALUES ('theirs', x'00', 9e9)").Error; err != nil {
			return err
		}
		return d.Add(&Customer{Name: "first", CreatedAt: time.Now()})
	}))
	require.NoError(t, s.Backup(t.Context(), backup))
	require.NoError(t, s.Close())
	sound, err := os.ReadFile(path)
	require.NoError(t, err)
	torn := append([]byte{}, sound...)
	for i := 4096; i < len(torn); i += 3 {
		torn[i] ^= 0x5a
	}
	for name, was := range map[string][]byte{
		"nothing in it": {}, "half": sound[:len(sound)/2], "torn": torn, "text": []byte("no shop"),
	} {
		t.Run(name, func(t *testing.T) {
			require.NoError(t, os.WriteFile(path, was, 0o600))
			require.NoError(t, os.WriteFile(path+"-wal", []byte("a log of it"), 0o600))
			kept, err := Restore(t.Context(), backup, path, time.Date(2031, 2, 3, 4, 5, 6, 0, time.UTC))
			require.NoError(t, err)
			assert.Equal(t, []string{"first"}, names(t, path))
			for part, wanted := range map[string][]byte{"": was, "-wal": []byte("a log of it")} {
				got, err := os.ReadFile(kept + part)
				require.NoError(t, err)
				assert.Equal(t, wanted, got, "kept as it was: %s", part)
			}
		})
	}
	restored, err := Open(path)
	require.NoError(t, err)
	defer func() { assert.NoError(t, restored.Close()) }()
	var signedIn int64
	require.NoError(t, restored.Read(t.Context()).g.Table("sessions").Count(&signedIn).Error)
	assert.Zero(t, signedIn, "nobody's session is in a backup")
}

// TestRestoreThroughALink puts a backup where a link points: the link stays.
func TestRestoreThroughALink(t *testing.T) {
	dir := t.TempDir()
	path, backup, link := filepath.Join(dir, "shop.db"), filepath.Join(dir, "backup.db"), filepath.Join(dir, "link.db")
	s, err := Open(path)
	require.NoError(t, err)
	require.NoError(t, s.Backup(t.Context(), backup))
	require.NoError(t, s.Close())
	require.NoError(t, os.Symlink(path, link))
	kept, err := Restore(t.Context(), backup, link, time.Now())
	require.NoError(t, err)
	assert.Equal(t, dir, filepath.Dir(kept))
	real, err := filepath.EvalSymlinks(link)
	require.NoError(t, err)
	assert.Equal(t, "shop.db", filepath.Base(real))
}
