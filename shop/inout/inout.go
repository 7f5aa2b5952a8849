// Package inout takes tables in, of customers, machines, stock, prices, limits and jobs of before the
// program, and lets the whole shop out. A table is looked at first: Look says what its columns are read
// as and what would become of each row, and writes nothing; Take writes the rows that can be, and keeps
// the others as a file to be mended; Undo takes it back as far as nothing has been done with it since.
package inout

import (
	"cmp"
	"context"
	"encoding/json"
	"io"
	"strconv"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/library"
	"yatai/shop/table"
	"yatai/store"
)

func itoa(n int) string { return strconv.Itoa(n) }

// Fates of a row.
const (
	New     = "new"
	Changed = "changes"
	Same    = "is there"
	Refused = "refused"
)

// Fates are all of them, what wants a look first.
var Fates = []string{Refused, Changed, New, Same}

// Row is a row of a table with what would become of it, and why.
type Row struct {
	Line    int
	Name    string
	Fate    string
	Why     string
	Changes []Change           // of one that is there otherwise
	Asks    []library.LimitRow // of limits: the lines that it can be, where nobody knows
}

// Change is what a row changes: what of it, as it was, and as it would be.
type Change struct{ What, Was, Now string }

// Fate is what would become of a table.
type Fate struct {
	Kind, File string
	ReadAs     string // how the letters of a text file were written
	Model      string // whose limits they are
	Columns    []Found
	Rows       []Row
	Left       [][]string // the rows that are refused, under the file's own columns and what is wrong
}

// Count is how many rows have a fate.
func (f Fate) Count(fate string) int {
	n := 0
	for _, r := range f.Rows {
		if r.Fate == fate {
			n++
		}
	}
	return n
}

// Good is how many rows would write something.
func (f Fate) Good() int { return f.Count(New) + f.Count(Changed) }

// Form is a table to take in, with what a person says of it.
type Form struct {
	WriteID string // of a table that is taken
	Kind    string
	Name    string // of the file
	File    io.Reader
	Said    Said
	Unit    string // of lengths that name none; millimetres, or the sheet's, where it is empty
	Model   string // whose limits they are
	Source  string // where limits are from that do not say it themselves
}

// Look says what would become of a table, and writes nothing.
func Look(ctx context.Context, s *shop.Shop, a shop.Actor, form Form) (Fate, error) {
	k, f, t, err := read(ctx, s, a, form)
	if err != nil {
		return f, err
	}
	in := &taking{Table: t, s: s, a: a, form: form, kind: k, dry: true, tx: s.Store.Read(ctx)}
	return f, in.rows(ctx, &f)
}

// Take writes the rows of a table that are new or change something; those that are refused stay in
// Fate.Left, and with the list of what was taken in. What was said of its columns is known next time.
func Take(ctx context.Context, s *shop.Shop, a shop.Actor, form Form) (Fate, error) {
	k, f, t, err := read(ctx, s, a, form)
	if err != nil {
		return f, err
	}
	_, err = s.Once(ctx, form.WriteID, func(tx store.DB) (string, error) {
		in := &taking{Table: t, s: s, a: a, form: form, kind: k, tx: tx}
		if err := in.rows(ctx, &f); err != nil {
			return "", err
		}
		switch n := f.Count(Refused); {
		case f.Good() == 0 && n > 0:
			return "", field.Only("file", "no row of it can be taken in: see what is wrong with each")
		case f.Good() == 0:
			return "", field.Only("file", "all of it is there already")
		}
		return in.keep(f)
	})
	return f, err
}

// read reads a table and finds what its columns are.
func read(ctx context.Context, s *shop.Shop, a shop.Actor, form Form) (Kind, Fate, table.Table, error) {
	f := Fate{Kind: form.Kind, File: form.Name}
	k, ok := KindNamed(form.Kind)
	if !ok {
		return k, f, table.Table{}, field.Only("kind", "choose what it is")
	}
	if err := a.Must(k.Right); err != nil {
		return k, f, table.Table{}, err
	}
	if _, err := k.ofModel(form.Model); err != nil {
		return k, f, table.Table{}, err
	}
	t, err := table.Read(form.File)
	if err != nil {
		return k, f, t, err
	}
	if k.Most > 0 && len(t.Rows) > k.Most {
		return k, f, t, field.Only("file", "at most %d rows of these at a time", k.Most)
	}
	before, err := s.Store.Read(ctx).ColumnNames(k.Code)
	if err != nil {
		return k, f, t, err
	}
	f.ReadAs, f.Columns = t.ReadAs, k.found(t, form.Said, before)
	return k, f, t, k.wrong(f.Columns)
}

// rows finds what becomes of each row.
func (t *taking) rows(ctx context.Context, f *Fate) error {
	t.at, t.seen, t.columns = map[string]int{}, map[string]int{}, f.Columns
	for i, c := range f.Columns {
		if c.As != LeftOut {
			t.at[c.As] = i
		}
	}
	if err := t.known(ctx); err != nil {
		return err
	}
	f.Rows, f.Left, f.Model = nil, nil, t.model.Name
	for i := range t.Rows {
		r, err := t.kind.row(t, i)
		if err != nil {
			return err
		}
		r.Line = t.Lines[i]
		f.Rows = append(f.Rows, r)
		if r.Fate == Refused {
			f.Left = append(f.Left, t.left(i, r.Why))
		}
	}
	if f.Left != nil {
		f.Left = append([][]string{append(t.padded(t.Columns), wrongColumn)}, f.Left...)
	}
	return nil
}

// wrongColumn is the last column of rows to be mended.
const wrongColumn = "What is wrong"

// left is a row to be mended: as it stands in the file, and what is wrong with it.
func (t *taking) left(row int, why string) []string { return append(t.padded(t.Rows[row]), why) }

// padded is a row with a cell for each column; what an earlier look found wrong is left out of it.
func (t *taking) padded(row []string) []string {
	n := len(t.Columns)
	if n > 0 && t.Columns[n-1] == wrongColumn {
		n--
	}
	out := make([]string, n, n+1)
	copy(out, row)
	return out
}

// keep writes what is new, and what takes it back; it returns what was done.
func (t *taking) keep(f Fate) (string, error) {
	if err := t.write(); err != nil {
		return "", err
	}
	said := itoa(f.Count(New)) + " new, " + itoa(f.Count(Changed)) + " changed"
	if n := f.Count(Refused); n > 0 {
		said += ", " + itoa(n) + " left to be mended"
	}
	back, err := json.Marshal(t.back)
	if err != nil {
		return "", err
	}
	left := ""
	if f.Left != nil {
		b, err := json.Marshal(f.Left)
		if err != nil {
			return "", err
		}
		left = string(b)
	}
	if err := t.tx.Add(&store.Import{
		Kind: f.Kind, Name: f.File, Said: said, Back: string(back), LeftRows: left, PersonID: t.a.ID,
		At: t.s.Now(),
	}); err != nil {
		return "", err
	}
	for _, c := range f.Columns {
		if c.Name == "" {
			continue
		}
		if err := t.tx.NameColumn(store.ColumnName{
			Kind: f.Kind, Name: lower(c.Name), Means: c.As, Written: cmp.Or(string(c.Order), c.Sign),
		}); err != nil {
			return "", err
		}
	}
	return said, t.s.Note(t.tx, t.a, 0, "table taken in", f.Kind+" "+f.File+": "+said)
}
