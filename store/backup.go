package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"time"

	"github.com/gofrs/flock"
)

// ErrInUse is returned when another program has the file.
var ErrInUse = errors.New("the file is in use by a running program: stop it first")

// Lock keeps a shop's file for one program, which serves it or puts another in its place.
// It returns what lets go of it. ErrInUse when another program has it.
func Lock(path string) (release func() error, err error) {
	names := []string{path + ".lock"}
	if real, err := filepath.EvalSymlinks(path); err == nil {
		names[0] = real + ".lock"
		if runtime.GOOS != "windows" { // there a lock on the file itself would keep its reader out
			names = append(names, real) // the file itself: by whatever name another program has it
		}
	}
	var held []*flock.Flock
	release = func() error {
		var errs []error
		for _, l := range held {
			errs = append(errs, l.Unlock())
		}
		return errors.Join(errs...)
	}
	for _, name := range names {
		l := flock.New(name)
		got, err := l.TryLock()
		if err == nil && !got {
			err = fmt.Errorf("%s: %w", path, ErrInUse)
		}
		if err != nil {
			return nil, errors.Join(err, release())
		}
		held = append(held, l)
	}
	return release, nil
}

// Backup writes a copy of the shop's file at path to a new file, as it is at one moment,
// photos and all, also while a program is writing to it. It is made under another name, checked,
// on the disk, and only then gets its own. The copy is a shop's file like any other, but for who was
// signed in: nobody is. It is an error when there is something at to already.
func Backup(ctx context.Context, path, to string) (err error) {
	if _, err := os.Stat(path); err != nil {
		return err
	}
	if _, err := os.Stat(to); !errors.Is(err, fs.ErrNotExist) {
		return errors.Join(fmt.Errorf("%s is there already", to), err)
	}
	db, err := sql.Open("sqlite", "file:"+filepath.ToSlash(path)+"?_pragma=busy_timeout(10000)")
	if err != nil {
		return err
	}
	defer func() { _ = db.Close() }()
	making := to + unfinished
	if err := removed(making); err != nil {
		return err
	}
	tidy(filepath.Dir(to))
	if _, err := db.ExecContext(ctx, "VACUUM INTO ?", making); err != nil {
		return errors.Join(fmt.Errorf("copy %s: %w", path, err), removed(making))
	}
	if err := errors.Join(signedOut(ctx, making), checkFile(ctx, making), synced(making)); err != nil {
		return errors.Join(fmt.Errorf("the copy: %w", err), removed(making))
	}
	return errors.Join(os.Rename(making, to), synced(filepath.Dir(to)))
}

// unfinished ends the name of a copy that is being made.
const unfinished = ".db.making"

// tidy takes away what a copying that was cut off has left in a folder: what has been unfinished for a day.
// What cannot be taken away stays: that stops no backup.
func tidy(folder string) {
	left, _ := filepath.Glob(filepath.Join(folder, "*"+unfinished)) // the pattern is no wrong one
	for _, name := range left {
		if info, err := os.Stat(name); err == nil && time.Since(info.ModTime()) > 24*time.Hour {
			_ = removed(name)
		}
	}
}

// signedOut ends every session in a copy: who finds a backup has nobody's key to the running shop.
func signedOut(ctx context.Context, path string) error {
	db, err := sql.Open("sqlite", "file:"+filepath.ToSlash(path))
	if err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, "DELETE FROM sessions")
	return errors.Join(err, db.Close())
}

// synced waits until a file, or what a folder lists, is on the disk.
func synced(path string) error {
	f, err := os.Open(path)
	if err != nil {
		return err
	}
	err = f.Sync()
	if runtime.GOOS == "windows" {
		err = nil // folders and files opened for reading cannot be synced there
	}
	return errors.Join(err, f.Close())
}

// Backup writes a copy of the open file, as the function Backup does.
func (s *Store) Backup(ctx context.Context, to string) error { return Backup(ctx, s.path, to) }

// Restore puts a backup in the place of the shop's file at path, brought up to date and
// checked before. What was there is kept beside it, byte by byte and in whatever state it is, with
// its write-ahead log, under the name that is returned: empty when there was nothing. Nobody may
// have the file: ErrInUse.
func Restore(ctx context.Context, backup, path string, now time.Time) (kept string, err error) {
	if real, err := filepath.EvalSymlinks(path); err == nil {
		path = real // its log lies beside the file, not beside the link
	}
	release, err := Lock(path)
	if err != nil {
		return "", err
	}
	defer func() { err = errors.Join(err, release()) }()
	if err := checkFile(ctx, backup); err != nil {
		return "", fmt.Errorf("the backup: %w", err)
	}
	fresh := path + ".restoring"
	defer func() { err = errors.Join(err, removed(fresh)) }()
	if err := errors.Join(removed(fresh), copyFile(backup, fresh)); err != nil {
		return "", err
	}
	st, err := Open(fresh)
	if err != nil {
		return "", fmt.Errorf("the backup: %w", err)
	}
	if err := errors.Join(st.Check(ctx), st.Close()); err != nil {
		return "", fmt.Errorf("the backup: %w", err)
	}
	if kept, err = keepBeside(path, now); err != nil {
		return "", fmt.Errorf("keep what is there: %w", err)
	}
	return kept, errors.Join(removed(path), os.Rename(fresh, path), synced(filepath.Dir(path)))
}

// parts are the files of a database beside each other: the file, its log, the log's index.
var parts = []string{"", "-wal", "-shm"}

// keepBeside gives the files of the database at path a second name, or copies them where the disk has
// no second names. It returns the new name of the database, empty when there was nothing.
func keepBeside(path string, now time.Time) (string, error) {
	if _, err := os.Lstat(path); errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	name := path + ".before-" + now.Format("20060102-150405")
	kept := name
	for n := 2; ; n++ { // two in one second
		if _, err := os.Lstat(kept); errors.Is(err, fs.ErrNotExist) {
			break
		}
		kept = fmt.Sprintf("%s-%d", name, n)
	}
	for _, part := range parts {
		err := os.Link(path+part, kept+part)
		if err != nil && !errors.Is(err, fs.ErrNotExist) {
			err = copyFile(path+part, kept+part)
		}
		if err != nil && !errors.Is(err, fs.ErrNotExist) {
			return "", err
		}
	}
	return kept, synced(filepath.Dir(path))
}

// Examine checks a shop's file without changing, migrating or making it. ErrInUse when a program
// has it: that one checks it itself.
func Examine(ctx context.Context, path string) (err error) {
	if _, err := os.Stat(path); err != nil {
		return err
	}
	release, err := Lock(path)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, release()) }()
	ids, err := migrationIDs()
	if err != nil {
		return err
	}
	has, err := migrated(path)
	if err != nil {
		return fmt.Errorf("%s is no shop's file: %w", path, err)
	}
	for _, id := range has {
		if !slices.Contains(ids, id) {
			return fmt.Errorf("%s: %w (%s)", path, ErrNewer, id)
		}
	}
	return checkFile(ctx, path)
}

// checkFile checks that a file is a sound shop's file, without changing it.
func checkFile(ctx context.Context, path string) error {
	if _, err := os.Stat(path); err != nil {
		return err
	}
	db, err := sql.Open("sqlite", "file:"+filepath.ToSlash(path)+"?mode=ro")
	if err != nil {
		return err
	}
	defer func() { _ = db.Close() }()
	var said string
	if err := db.QueryRowContext(ctx, "PRAGMA integrity_check").Scan(&said); err != nil {
		return fmt.Errorf("%s is no shop's file: %w", path, err)
	}
	if said != "ok" {
		return fmt.Errorf("%s is damaged: %s", path, said)
	}
	var heads, broken int
	if err := db.QueryRowContext(ctx, "SELECT count(*) FROM heads").Scan(&heads); err != nil {
		return fmt.Errorf("%s is no shop's file: %w", path, err)
	}
	if err := db.QueryRowContext(ctx, "SELECT count(*) FROM pragma_foreign_key_check").
		Scan(&broken); err != nil {
		return err
	}
	if broken > 0 {
		return fmt.Errorf("%s is damaged: %d rows point at nothing", path, broken)
	}
	return nil
}

// removed takes a database file away with what belongs to it; nothing there is no error.
func removed(path string) error {
	var errs []error
	for _, part := range parts {
		if err := os.Remove(path + part); !errors.Is(err, fs.ErrNotExist) {
			errs = append(errs, err)
		}
	}
	return errors.Join(errs...)
}

// copyFile copies a file and waits until it is on the disk.
func copyFile(from, to string) (err error) {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer func() { _ = in.Close() }()
	out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	return errors.Join(err, out.Sync(), out.Close())
}
