package store

import (
	"bufio"
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path"
	"slices"
	"strings"

	"gorm.io/gorm"
)

// Manifest says what a folder with a whole shop holds. Tables stand in the order they are
// filled in; each is a file of one JSON object a line.
type Manifest struct {
	Format string   `json:"format"`
	Schema string   `json:"schema"` // the last migration the file had
	Tables []string `json:"tables"`
}

// The format of a whole shop, the manifest's name in its folder, and the folder of the tables.
const (
	wholeFormat  = "yatai-shop/1"
	ManifestName = "shop.json"
	tablesFolder = "tables"
)

// notWritten are tables that are the program's, not the shop's: sign-ins under way, answers
// kept for forms sent twice, what was migrated, sums that the movements make again, and practice.
var notWritten = []string{
	"sessions", "writes", "migrations", "stock_sums", "stock_reserved", "touches", "touches_summed",
	"practice_heads", "practice_secrets", // no heads of the shop, and sealed with what stays here
}

// secrets are columns that open doors: they are written empty.
var secrets = map[string][]string{
	"users":       {"password_hash", "pin_hash", "calendar_key"},
	"stations":    {"token_hash"},
	"quotes":      {"token_hash"},
	"customers":   {"fleet_hash"},
	"quote_links": {"token_hash"},
}

// longestLine bounds a line of a table's file: a photo and what stands beside it.
const longestLine = 64 << 20

// WriteWhole writes every table of the shop as it is at one moment. create makes a file of the
// folder by its name ("tables/heads.jsonl"); secret tells which settings are left out.
// Passwords, PINs, and the tokens of stations and quotes are left out too.
func (s *Store) WriteWhole(
	ctx context.Context, create func(name string) (io.WriteCloser, error),
	secret func(setting string) bool,
) error {
	return s.read.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		m := Manifest{Format: wholeFormat}
		if err := tx.Raw("SELECT id FROM migrations ORDER BY id DESC LIMIT 1").Scan(&m.Schema).Error; err != nil {
			return err
		}
		if err := tx.Raw(
			"SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name",
		).Scan(&m.Tables).Error; err != nil {
			return err
		}
		m.Tables = slices.DeleteFunc(m.Tables, func(t string) bool { return slices.Contains(notWritten, t) })
		for _, table := range m.Tables {
			if err := writeFile(create, path.Join(tablesFolder, table+".jsonl"), func(w io.Writer) error {
				return writeTable(tx, table, w, secret)
			}); err != nil {
				return fmt.Errorf("%s: %w", table, err)
			}
		}
		return writeFile(create, ManifestName, func(w io.Writer) error {
			enc := json.NewEncoder(w)
			enc.SetIndent("", "  ")
			return enc.Encode(m)
		})
	})
}

func writeFile(create func(string) (io.WriteCloser, error), name string, write func(io.Writer) error) error {
	f, err := create(name)
	if err != nil {
		return err
	}
	w := bufio.NewWriter(f)
	return errors.Join(write(w), w.Flush(), f.Close())
}

// column is a column of a table. Times are read as the text they are kept as.
type column struct{ Name, Type string }

func columnsOf(tx *gorm.DB, table string) ([]column, error) {
	var cols []column
	err := tx.Raw("SELECT name, type FROM pragma_table_info(?) ORDER BY cid", table).Scan(&cols).Error
	if err == nil && len(cols) == 0 {
		err = fmt.Errorf("there is no table %s", table)
	}
	return cols, err
}

func quoted(name string) string { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }

func writeTable(tx *gorm.DB, table string, w io.Writer, secret func(string) bool) error {
	cols, err := columnsOf(tx, table)
	if err != nil {
		return err
	}
	var read []string
	for _, c := range cols {
		if c.Type == "DATETIME" {
			read = append(read, "CAST("+quoted(c.Name)+" AS TEXT)")
		} else {
			read = append(read, quoted(c.Name))
		}
	}
	rows, err := tx.Raw("SELECT " + strings.Join(read, ", ") + " FROM " + quoted(table) + " ORDER BY 1").Rows()
	if err != nil {
		return err
	}
	defer func() { _ = rows.Close() }()
	enc := json.NewEncoder(w)
	enc.SetEscapeHTML(false)
	for rows.Next() {
		values, to := make([]any, len(cols)), make([]any, len(cols))
		for i := range values {
			to[i] = &values[i]
		}
		if err := rows.Scan(to...); err != nil {
			return err
		}
		row := make(map[string]any, len(cols))
		for i, c := range cols {
			row[c.Name] = values[i]
			if b, ok := values[i].([]byte); ok {
				row[c.Name] = base64.StdEncoding.EncodeToString(b)
			}
			if slices.Contains(secrets[table], c.Name) {
				row[c.Name] = ""
			}
		}
		if name, ok := row["name"].(string); ok && table == "settings" && secret(name) {
			continue
		}
		if err := enc.Encode(row); err != nil {
			return err
		}
	}
	return rows.Err()
}

// ReadWhole makes a new shop's file at path from a folder that WriteWhole has written. It is
// brought up to date and checked; nothing is left at path when anything is wrong. It is an
// error when there is something at path already.
func ReadWhole(ctx context.Context, folder fs.FS, file string) (err error) {
	text, err := fs.ReadFile(folder, ManifestName)
	if err != nil {
		return err
	}
	var m Manifest
	if err := json.Unmarshal(text, &m); err != nil {
		return fmt.Errorf("%s: %w", ManifestName, err)
	}
	if m.Format != wholeFormat {
		return fmt.Errorf("%s: the format is %q, not %q", ManifestName, m.Format, wholeFormat)
	}
	if known, err := migrationIDs(); err != nil || !slices.Contains(known, m.Schema) {
		return errors.Join(
			err, fmt.Errorf("%s: written by a newer program (%s): use that one", ManifestName, m.Schema),
		)
	}
	if _, err := os.Stat(file); !errors.Is(err, fs.ErrNotExist) {
		return errors.Join(fmt.Errorf("%s is there already: a whole shop goes into a new file", file), err)
	}
	fresh := file + ".reading"
	defer func() { err = errors.Join(err, removed(fresh)) }()
	if err := removed(fresh); err != nil {
		return err
	}
	if err := fill(ctx, folder, m, fresh); err != nil {
		return err
	}
	st, err := Open(fresh)
	if err != nil {
		return err
	}
	if err := errors.Join(st.Check(ctx), st.Close()); err != nil {
		return err
	}
	return os.Rename(fresh, file)
}

// fill makes a file at the manifest's state and puts the tables' rows into it.
func fill(ctx context.Context, folder fs.FS, m Manifest, file string) (err error) {
	g, err := open(file, "FULL", 1, "_txlock=immediate")
	if err != nil {
		return err
	}
	db, err := g.DB()
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	if err := (&Store{write: g}).migrate(m.Schema); err != nil {
		return err
	}
	return g.WithContext(ctx).Session(&gorm.Session{PrepareStmt: false}).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("PRAGMA defer_foreign_keys = 1").Error; err != nil {
			return err
		}
		for _, table := range m.Tables {
			if err := readTable(tx, folder, table); err != nil {
				return fmt.Errorf("%s: %w", table, err)
			}
		}
		return nil
	})
}

func readTable(tx *gorm.DB, folder fs.FS, table string) error {
	cols, err := columnsOf(tx, table)
	if err != nil {
		return err
	}
	f, err := folder.Open(path.Join(tablesFolder, table+".jsonl"))
	if err != nil {
		return err
	}
	defer func() { _ = f.Close() }()
	var names, marks []string
	for _, c := range cols {
		names, marks = append(names, quoted(c.Name)), append(marks, "?")
	}
	insert := "INSERT INTO " + quoted(table) + " (" + strings.Join(names, ", ") + ") VALUES (" +
		strings.Join(marks, ", ") + ")"
	lines := bufio.NewScanner(f)
	lines.Buffer(nil, longestLine)
	for n := 1; lines.Scan(); n++ {
		values, err := rowOf(lines.Bytes(), cols)
		if err != nil {
			return fmt.Errorf("line %d: %w", n, err)
		}
		if err := tx.Exec(insert, values...).Error; err != nil {
			return fmt.Errorf("line %d: %w", n, err)
		}
	}
	return lines.Err()
}

// rowOf reads a line as the values of a table's columns, exactly: numbers are whole.
func rowOf(line []byte, cols []column) ([]any, error) {
	dec := json.NewDecoder(strings.NewReader(string(line)))
	dec.UseNumber()
	row := map[string]any{}
	if err := dec.Decode(&row); err != nil {
		return nil, err
	}
	var out []any
	for _, c := range cols {
		v, there := row[c.Name]
		if !there {
			return nil, fmt.Errorf("%s is missing", c.Name)
		}
		delete(row, c.Name)
		switch x := v.(type) {
		case json.Number:
			n, err := x.Int64()
			if err != nil {
				return nil, fmt.Errorf("%s: %w", c.Name, err)
			}
			v = n
		case string:
			if c.Type == "BLOB" {
				b, err := base64.StdEncoding.DecodeString(x)
				if err != nil {
					return nil, fmt.Errorf("%s: %w", c.Name, err)
				}
				v = b
			}
		case nil, bool:
		default:
			return nil, fmt.Errorf("%s is no plain value", c.Name)
		}
		out = append(out, v)
	}
	for name := range row {
		return nil, fmt.Errorf("%s is no column", name)
	}
	return out, nil
}
