package inout

import (
	"bytes"
	"encoding/csv"
	"errors"
	"io"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"

	"yatai/core/field"
)

// table is a file of rows under a line of column names, as it was read.
type table struct {
	columns []string // in lower case, as they stand
	rows    [][]string
	lines   []int // of each row in the file, counted from 1
}

// Bounds of a table that is taken in.
const (
	MaxFile  = 8 << 20
	mostRows = 20_000
	mostCols = 60
)

// readTable reads a CSV file (UTF-8 or Latin-1, apart by commas, semicolons or tabs) or the first
// sheet of an XLSX file. Errors are about the field "file".
func readTable(name string, file io.Reader) (table, error) {
	b, err := io.ReadAll(io.LimitReader(file, MaxFile+1))
	switch {
	case err != nil:
		return table{}, err
	case len(b) > MaxFile:
		return table{}, field.Only("file", "that is more than 8 MB")
	case len(bytes.TrimSpace(b)) == 0:
		return table{}, field.Only("file", "choose a file: this one is empty")
	}
	var rows [][]string
	if bytes.HasPrefix(b, []byte("PK\x03\x04")) {
		rows, err = sheetRows(b)
	} else {
		rows, err = csvRows(b)
	}
	if err != nil {
		return table{}, err
	}
	t := table{}
	for i, r := range rows {
		if strings.TrimSpace(strings.Join(r, "")) == "" {
			continue
		}
		if t.columns == nil {
			for _, c := range r {
				t.columns = append(t.columns, strings.ToLower(strings.TrimSpace(c)))
			}
			continue
		}
		t.rows, t.lines = append(t.rows, r), append(t.lines, i+1)
	}
	switch {
	case len(t.rows) == 0:
		return t, field.Only("file", "it needs a first line with the names of the columns, and rows below")
	case len(t.rows) > mostRows || len(t.columns) > mostCols:
		return t, field.Only("file", "at most 20 000 rows and 60 columns at a time")
	}
	return t, nil
}

func csvRows(b []byte) ([][]string, error) {
	b = bytes.TrimPrefix(b, []byte("\ufeff"))
	if !utf8.Valid(b) { // an older spreadsheet's Latin-1
		out := make([]rune, len(b))
		for i, c := range b {
			out[i] = rune(c)
		}
		b = []byte(string(out))
	}
	first, _, _ := bytes.Cut(b, []byte("\n"))
	r := csv.NewReader(bytes.NewReader(b))
	for _, sep := range ";\t" {
		if bytes.Count(first, []byte(string(sep))) > bytes.Count(first, []byte(string(r.Comma))) {
			r.Comma = sep
		}
	}
	r.FieldsPerRecord, r.TrimLeadingSpace = -1, true
	var rows [][]string
	for len(rows) <= mostRows+1 {
		rec, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var bad *csv.ParseError
		if errors.As(err, &bad) {
			return nil, field.Only("file", "line %d cannot be read: %s", bad.Line, bad.Err)
		}
		if err != nil {
			return nil, err
		}
		rows = append(rows, rec)
	}
	return rows, nil
}

func sheetRows(b []byte) (rows [][]string, err error) {
	x, err := excelize.OpenReader(bytes.NewReader(b), excelize.Options{UnzipSizeLimit: 64 << 20, UnzipXMLSizeLimit: 32 << 20, RawCellValue: true})
	if err != nil {
		return nil, field.Only("file", "this is no spreadsheet that can be read")
	}
	defer func() { err = errors.Join(err, x.Close()) }()
	in, err := x.Rows(x.GetSheetName(0))
	if err != nil {
		return nil, field.Only("file", "its first sheet cannot be read")
	}
	defer func() { err = errors.Join(err, in.Close()) }()
	for in.Next() && len(rows) <= mostRows+1 {
		r, err := in.Columns()
		if err != nil {
			return nil, field.Only("file", "its first sheet cannot be read")
		}
		rows = append(rows, r)
	}
	return rows, nil
}

// get returns what stands in a row under one of some column names, trimmed.
func (t table) get(row int, names ...string) string {
	for i, c := range t.columns {
		for _, n := range names {
			if c == n && i < len(t.rows[row]) {
				return strings.TrimSpace(t.rows[row][i])
			}
		}
	}
	return ""
}

// has tells whether there is a column of one of some names.
func (t table) has(names ...string) bool {
	for _, c := range t.columns {
		for _, n := range names {
			if c == n {
				return true
			}
		}
	}
	return false
}
