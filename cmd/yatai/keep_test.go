package main

import (
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/demofile"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/people"
	"yatai/store"
)

// TestAnOwnerLockedOutComesBackIn makes a shop on the command line, forgets the password
// and gets in again.
func TestAnOwnerLockedOutComesBackIn(t *testing.T) {
	path := filepath.Join(t.TempDir(), "shop.db")
	signIn := func(name, password string) error {
		st, err := store.Open(path)
		require.NoError(t, err)
		defer func() { _ = st.Close() }()
		_, err = people.SignIn(t.Context(), shop.New(st, time.Now), "here", name, password)
		return err
	}
	assert.ErrorContains(t, userPasswordCmd{DB: path, Name: "Runa"}.run(strings.NewReader("x\n")), "no owner yet")
	require.NoError(
		t, userAddCmd{DB: path, Name: "Runa", Role: shop.Technician}.run(strings.NewReader("forgotten-at-once\n")),
	)
	require.NoError(t, signIn("Runa", "forgotten-at-once"), "the first is the owner, whatever was asked for")
	require.NoError(t, userAddCmd{DB: path, Name: "Ilka", Role: shop.Technician}.run(strings.NewReader("long-enough-1")))
	assert.Error(t, userAddCmd{DB: path, Name: "Odo", Role: shop.Lead}.run(strings.NewReader("short\n")))
	assert.Error(t, userAddCmd{DB: path, Name: "Ilka", Role: shop.Lead}.run(strings.NewReader("long-enough-2\n")),
		"somebody of that name is there")
	for _, typed := range []string{"", "\n", "short\n"} {
		assert.Error(t, userPasswordCmd{DB: path, Name: "Runa"}.run(strings.NewReader(typed)), "%q", typed)
	}
	assert.ErrorContains(t, userPasswordCmd{DB: path, Name: "Nobody"}.run(strings.NewReader("long-enough-3\n")),
		"nobody is called")
	require.NoError(t, userPasswordCmd{DB: path, Name: "runa"}.run(strings.NewReader("long-enough-3\r\n")))
	require.NoError(t, signIn("Runa", "long-enough-3"))
	assert.Error(t, signIn("Runa", "forgotten-at-once"))
	require.NoError(t, userListCmd{DB: path}.Run())

	release, err := store.Lock(path)
	require.NoError(t, err)
	assert.ErrorIs(t, userPasswordCmd{DB: path, Name: "Runa"}.run(strings.NewReader("long-enough-4\n")), store.ErrInUse,
		"a program serves it")
	require.NoError(t, release())
}

// TestBackupAndRestoreOnTheCommandLine takes the demo away and puts it back.
func TestBackupAndRestoreOnTheCommandLine(t *testing.T) {
	dir := t.TempDir()
	path, copied := demofile.Path(t), filepath.Join(dir, "backup.db")
	require.NoError(t, backupCmd{DB: path, To: copied}.Run())
	assert.Error(t, backupCmd{DB: path, To: copied}.Run(), "a backup is never written over")
	back := filepath.Join(dir, "shop.db")
	require.NoError(t, restoreCmd{From: copied, DB: back}.Run())
	require.NoError(t, doctorCmd{DB: back}.Run())
	st, err := store.Open(back)
	require.NoError(t, err)
	f, err := headfile.Open(t.Context(), shop.New(st, time.Now), "T0401")
	require.NoError(t, err)
	assert.NotEmpty(t, f.Readings)
	require.NoError(t, st.Close())
	release, err := store.Lock(back)
	require.NoError(t, err)
	assert.ErrorIs(t, restoreCmd{From: copied, DB: back}.Run(), store.ErrInUse)
	assert.ErrorIs(t, serve(back, listening{Addr: "127.0.0.1:0"}, nil), store.ErrInUse,
		"two programs never serve one file")
	require.NoError(t, release())
}
