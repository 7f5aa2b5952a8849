// Package table reads tables that people bring: rows under a line of column names, as a CSV file
// or the first sheet of a spreadsheet. Read is its door.
//
// What is read is bounded before it is expanded: rows, columns, the length of a cell and of a
// line, and what a spreadsheet unpacks to. A file past a bound is refused, whatever its size.
package table

import (
	"bufio"
	"bytes"
	"encoding/csv"
	"errors"
	"io"
	"strings"

	"github.com/xuri/excelize/v2"

	"yatai/core/field"
)

// Table is a file of rows under a line of column names, as it was read.
type Table struct {
	Columns []string // as they stand, trimmed
	Rows    [][]string
	Lines   []int  // of each row in the file, counted from 1
	ReadAs  string // how the letters of a text file were written
	Sheet   bool   // it is a spreadsheet, whose figures have a point before their decimals

	since1904 bool // the spreadsheet counts its days from 1904
}

// Bounds of a table that is taken in.
const (
	MaxFile     = 8 << 20  // bytes of the file
	mostUnpack  = 32 << 20 // bytes a spreadsheet may unpack to
	mostRows    = 20_000
	mostColumns = 60
	mostCell    = 4_000   // bytes of one cell
	mostLine    = 256_000 // bytes of one line of a CSV file
)

// Read reads a CSV file (UTF-8, UTF-16 or Windows-1252, apart by commas, semicolons or tabs) or the
// first sheet of an XLSX file. Errors are about the field "file".
func Read(file io.Reader) (Table, error) {
	b, err := io.ReadAll(io.LimitReader(file, MaxFile+1))
	switch {
	case err != nil:
		return Table{}, err
	case len(b) > MaxFile:
		return Table{}, field.Only("file", "that is more than 8 MB")
	case len(bytes.TrimSpace(b)) == 0:
		return Table{}, field.Only("file", "choose a file: this one is empty")
	}
	t := Table{}
	if bytes.HasPrefix(b, []byte("PK\x03\x04")) {
		err = t.sheet(b)
	} else {
		err = t.csv(b)
	}
	switch {
	case err != nil:
		return Table{}, err
	case len(t.Rows) == 0:
		return Table{}, field.Only("file", "it needs a first line with the names of the columns, and rows below")
	}
	return t, nil
}

// add takes a row of the file in: the first that is not blank names the columns. A row past a
// bound is refused.
func (t *Table) add(line int, row []string) error {
	for len(row) > 0 && strings.TrimSpace(row[len(row)-1]) == "" {
		row = row[:len(row)-1]
	}
	if len(row) > mostColumns || len(t.Rows) >= mostRows {
		return field.Only("file", "at most 20 000 rows and 60 columns at a time")
	}
	for i, cell := range row {
		if len(cell) > 1 && cell[0] == '\'' && strings.ContainsRune("=+-@", rune(cell[1])) {
			row[i] = cell[1:] // as a table of ours keeps a spreadsheet from reading it as a formula
		}
		if len(cell) > mostCell {
			return field.Only("file", "line %d: a cell is longer than %d letters", line, mostCell)
		}
	}
	switch {
	case len(row) == 0:
	case t.Columns == nil:
		for _, name := range row {
			t.Columns = append(t.Columns, strings.TrimSpace(name))
		}
	default:
		t.Rows, t.Lines = append(t.Rows, row), append(t.Lines, line)
	}
	return nil
}

// CSV returns a reader of the records of a CSV file that finds out what its columns are kept apart
// by: commas, semicolons or tabs. A line longer than its bound ends it with ErrTooLong.
func CSV(file io.Reader) *csv.Reader {
	in := bufio.NewReader(&lines{in: file})
	if bom, _ := in.Peek(3); string(bom) == "\ufeff" {
		_, _ = in.Discard(3)
	}
	start, _ := in.Peek(1024)
	first, _, _ := bytes.Cut(start, []byte("\n"))
	r := csv.NewReader(in)
	for _, apart := range ";\t" {
		if bytes.Count(first, []byte(string(apart))) > bytes.Count(first, []byte(string(r.Comma))) {
			r.Comma = apart
		}
	}
	pasted := r.Comma == '\t' // its blank cells are no space to trim, and an inch mark opens no quotation
	r.FieldsPerRecord, r.TrimLeadingSpace, r.LazyQuotes = -1, !pasted, pasted
	return r
}

// ErrTooLong is what a CSV file with a line past its bound ends with.
var ErrTooLong = errors.New("a line is too long")

// lines passes a file on while no line of it is longer than its bound: a line of commas would be
// expanded to many times its size.
type lines struct {
	in   io.Reader
	long int // bytes since the last end of a line
}

func (l *lines) Read(p []byte) (int, error) {
	n, err := l.in.Read(p)
	for _, c := range p[:n] {
		if l.long++; c == '\n' {
			l.long = 0
		}
		if l.long > mostLine {
			return 0, ErrTooLong
		}
	}
	return n, err
}

func (t *Table) csv(b []byte) error {
	b, as, err := letters(b)
	if err != nil {
		return field.Only("file", "how its letters are written cannot be told: keep it as UTF-8")
	}
	t.ReadAs = as
	r := CSV(bytes.NewReader(b))
	for {
		row, err := r.Read()
		var bad *csv.ParseError
		switch {
		case errors.Is(err, io.EOF):
			return nil
		case errors.Is(err, ErrTooLong):
			return field.Only("file", "a line of it is longer than a table's can be")
		case errors.As(err, &bad):
			return field.Only("file", "line %d cannot be read: %s", bad.Line, bad.Err)
		case err != nil:
			return err
		}
		line, _ := r.FieldPos(0)
		if err := t.add(line, row); err != nil {
			return err
		}
	}
}

func (t *Table) sheet(b []byte) (err error) {
	x, err := excelize.OpenReader(bytes.NewReader(b), excelize.Options{
		UnzipSizeLimit: mostUnpack, UnzipXMLSizeLimit: mostUnpack, RawCellValue: true,
	})
	if err != nil {
		return field.Only("file", "this is no spreadsheet that can be read")
	}
	defer func() { err = errors.Join(err, x.Close()) }()
	t.Sheet = true
	if book, err := x.GetWorkbookProps(); err == nil && book.Date1904 != nil {
		t.since1904 = *book.Date1904
	}
	rows, err := x.Rows(x.GetSheetName(0))
	if err != nil {
		return field.Only("file", "its first sheet cannot be read")
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	for line := 1; rows.Next(); line++ {
		if line > 2*mostRows { // blank ones count too: each is made before it is looked at
			return field.Only("file", "at most 20 000 rows and 60 columns at a time")
		}
		row, err := rows.Columns()
		if err != nil {
			return field.Only("file", "its first sheet cannot be read")
		}
		for i := range row {
			row[i] = shortened(row[i])
		}
		if err := t.add(line, row); err != nil {
			return err
		}
	}
	return nil
}

// Column returns the cells of a column, trimmed; of a row that ends before it an empty one.
func (t Table) Column(i int) []string {
	out := make([]string, len(t.Rows))
	for row := range t.Rows {
		out[row] = t.Cell(row, i)
	}
	return out
}

// Cell is what stands in a row's column, trimmed; empty where the row ends before it.
func (t Table) Cell(row, i int) string {
	if i >= len(t.Rows[row]) {
		return ""
	}
	return strings.TrimSpace(t.Rows[row][i])
}
