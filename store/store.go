// Package store keeps the shop in one SQLite file through GORM. It is the only place
// that knows SQL. Open is its door; Store.Write runs a transaction on the one writing
// connection, Store.Read gives a reader. Success of Write means it is on disk.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/go-gormigrate/gormigrate/v2"
	"github.com/libtnb/sqlite"
	"gorm.io/gorm"
	driver "modernc.org/sqlite"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors of a store. ErrFull and ErrReplaced: nothing was written.
var (
	ErrNotFound = errors.New("not found")
	ErrFull     = errors.New("the disk is full, nothing was kept: make room on it, then send this again")
	ErrReplaced = errors.New(
		"the shop's file was taken away or replaced under the running program, nothing was kept: put it back, or start the program again",
	)
	ErrNewer = errors.New("written by a newer version of this program: use that one")
)

// Store is an open shop file.
type Store struct {
	path        string
	opened      fs.FileInfo // the file that was opened: it has to stay the one at path
	write, read *gorm.DB
	sessions    *sql.DB
}

// dialector is GORM's SQLite dialect on the driver written in Go; it knows that
// driver's errors.
type dialector struct{ sqlite.Dialector }

// codes are SQLite's result codes, extended ones too.
var codes = map[int]error{
	1555: gorm.ErrDuplicatedKey, 2067: gorm.ErrDuplicatedKey, 787: gorm.ErrForeignKeyViolated,
	13: ErrFull,
}

func (d dialector) Translate(err error) error {
	var e *driver.Error
	if errors.As(err, &e) {
		if known, ok := codes[e.Code()]; ok {
			return known
		}
	}
	return err
}

func dsn(path, sync string, more ...string) string {
	q := url.Values{
		"_pragma":      {"journal_mode(WAL)", "synchronous(" + sync + ")", "foreign_keys(1)", "busy_timeout(5000)"},
		"_time_format": {"sqlite"},
	}
	for _, m := range more {
		k, v, _ := strings.Cut(m, "=")
		q.Add(k, v)
	}
	return "file:" + filepath.ToSlash(path) + "?" + q.Encode()
}

func open(path, sync string, conns int, more ...string) (*gorm.DB, error) {
	db, err := sql.Open("sqlite", dsn(path, sync, more...))
	if err != nil {
		return nil, err
	}
	db.SetMaxOpenConns(conns)
	db.SetMaxIdleConns(conns)
	return gorm.Open(dialector{sqlite.Dialector{Conn: db}}, &gorm.Config{
		Logger: sqlLog{}, TranslateError: true, PrepareStmt: true, SkipDefaultTransaction: true,
		NowFunc: func() time.Time { return time.Now().UTC() },
	})
}

// Open opens the file at path, making it if need be, and brings it up to date. A file that an
// older version has written is copied beside it first; one of a newer version is ErrNewer.
func Open(path string) (*Store, error) { return openAs(path, "FULL") }

// OpenToFill opens a file that is being made anew, such as the demo's: what is written is
// certain to be on disk only once it is closed.
func OpenToFill(path string) (*Store, error) { return openAs(path, "OFF") }

func openAs(path, sync string) (*Store, error) {
	s := &Store{path: path}
	if err := keepBefore(path); err != nil {
		return nil, fmt.Errorf("open %s: %w", path, err)
	}
	var err error
	if s.write, err = open(path, sync, 1, "_txlock=immediate"); err != nil {
		return nil, fmt.Errorf("open %s: %w", path, err)
	}
	if err = s.migrate(""); err != nil {
		return nil, fmt.Errorf("bring %s up to date: %w", path, err)
	}
	if s.read, err = open(path, sync, 4, "_pragma=query_only(1)"); err != nil {
		return nil, fmt.Errorf("open %s for reading: %w", path, err)
	}
	if s.sessions, err = sql.Open("sqlite", dsn(path, sync)); err != nil {
		return nil, err
	}
	s.sessions.SetMaxOpenConns(2)
	s.opened, err = os.Stat(path)
	return s, err
}

// keepBefore copies a file that is about to be migrated: PATH.before-MIGRATION.
func keepBefore(path string) error {
	if info, err := os.Stat(path); errors.Is(err, fs.ErrNotExist) || err == nil && info.Size() == 0 {
		return nil
	} else if err != nil {
		return err
	}
	ids, err := migrationIDs()
	if err != nil {
		return err
	}
	has, err := migrated(path)
	if err != nil || len(has) == 0 {
		return err
	}
	for _, id := range has {
		if !slices.Contains(ids, id) {
			return fmt.Errorf("%w (%s)", ErrNewer, id)
		}
	}
	last := ids[len(ids)-1]
	copied := path + ".before-" + last
	if _, err := os.Stat(copied); slices.Contains(has, last) || err == nil {
		return nil
	}
	return Backup(context.Background(), path, copied)
}

// migrated lists the migrations a file has had, without changing it.
func migrated(path string) (ids []string, err error) {
	db, err := sql.Open("sqlite", "file:"+filepath.ToSlash(path)+"?mode=ro&_pragma=busy_timeout(5000)")
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var tables int
	if err := db.QueryRow("SELECT count(*) FROM sqlite_master WHERE name = 'migrations'").
		Scan(&tables); err != nil || tables == 0 {
		return nil, err
	}
	rows, err := db.Query("SELECT id FROM migrations ORDER BY id")
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	for rows.Next() {
		var id string
		if err := rows.Scan(&id); err != nil {
			return nil, err
		}
		ids = append(ids, id)
	}
	return ids, rows.Err()
}

// migrate applies the numbered files of migrations that the file has not had, up to and
// with the one of that id, or all of them.
func (s *Store) migrate(upTo string) error {
	ids, err := migrationIDs()
	if err != nil {
		return err
	}
	var steps []*gormigrate.Migration
	for _, id := range ids {
		text, err := migrations.ReadFile("migrations/" + id + ".sql")
		if err != nil {
			return err
		}
		steps = append(steps, &gormigrate.Migration{
			ID:      id,
			Migrate: func(tx *gorm.DB) error { return tx.Exec(string(text)).Error },
		})
	}
	options := *gormigrate.DefaultOptions
	options.UseTransaction = true
	m := gormigrate.New(s.write.Session(&gorm.Session{PrepareStmt: false}), &options, steps)
	if upTo != "" {
		return m.MigrateTo(upTo)
	}
	return m.Migrate()
}

// migrationIDs are the numbered files of migrations, by name and in order.
func migrationIDs() ([]string, error) {
	names, err := fs.Glob(migrations, "migrations/*.sql")
	for i, name := range names {
		names[i] = strings.TrimSuffix(filepath.Base(name), ".sql")
	}
	return names, err
}

// Close closes the file.
func (s *Store) Close() error {
	var errs []error
	for _, g := range []*gorm.DB{s.read, s.write} {
		db, err := g.DB()
		if err == nil {
			err = db.Close()
		}
		errs = append(errs, err)
	}
	return errors.Join(append(errs, s.sessions.Close())...)
}

// Sessions is the connection the web's sessions are kept through.
func (s *Store) Sessions() *sql.DB { return s.sessions }

// Check runs SQLite's own check of the file.
func (s *Store) Check(ctx context.Context) error {
	var said []string
	if err := s.read.WithContext(ctx).Raw("PRAGMA integrity_check").Scan(&said).Error; err != nil {
		return err
	}
	if len(said) != 1 || said[0] != "ok" {
		return fmt.Errorf("integrity check: %s", strings.Join(said, "; "))
	}
	var broken []struct{ Table string }
	if err := s.read.WithContext(ctx).Raw("PRAGMA foreign_key_check").Scan(&broken).Error; err != nil {
		return err
	}
	if len(broken) > 0 {
		return fmt.Errorf("%d rows point at nothing", len(broken))
	}
	return nil
}

// DB runs queries, inside a transaction or not.
type DB struct {
	g    *gorm.DB
	open bool // in a transaction that may yet be taken back
}

// Settled tells whether all that d sees is there to stay: it is not inside a transaction.
func (d DB) Settled() bool { return !d.open }

// Read returns a reader. It sees everything that Write has answered.
func (s *Store) Read(ctx context.Context) DB { return DB{g: s.read.WithContext(ctx)} }

// Write runs f in a transaction on the writing connection. ErrFull when the disk is full,
// ErrReplaced when the file is not the one any more that was opened.
func (s *Store) Write(ctx context.Context, f func(DB) error) error {
	if now, err := os.Stat(s.path); err != nil || !os.SameFile(s.opened, now) {
		return ErrReplaced
	}
	return s.write.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return f(DB{g: tx, open: true}) })
}

// Add inserts rows: a pointer to a model or to a slice of them.
func (d DB) Add(rows any) error {
	return d.g.Omit("Head", "Job", "Customer", "Machine", "Model", "Tool", "Person", "Lines").Create(rows).Error
}

// IsDuplicate tells whether err says that a unique value is there already.
func IsDuplicate(err error) bool { return errors.Is(err, gorm.ErrDuplicatedKey) }

func one[T any](g *gorm.DB) (T, error) {
	var v T
	err := g.Take(&v).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		err = ErrNotFound
	}
	return v, err
}

func many[T any](g *gorm.DB) ([]T, error) {
	var v []T
	err := g.Find(&v).Error
	return v, err
}

func (d DB) set(model any, id uint, values map[string]any) error {
	return d.g.Model(model).Where("id = ?", id).Updates(values).Error
}
