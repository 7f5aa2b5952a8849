package library

import (
	"errors"
	"io"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/table"
	"yatai/store"
)

// limitColumns are the columns of a sheet as a CSV file. Figures are bare, in the line's
// unit; what is a figure of the engine stands under low.
var limitColumns = []string{"set", "characteristic", "role", "unit", "low", "high", "near", "source"}

// LimitsCSV writes a model's sheet as a CSV file that ReadLimits reads.
func LimitsCSV(m Model, set shop.Settings) ([]byte, error) {
	rows := [][]string{limitColumns}
	for _, label := range SetLabels {
		for _, row := range RowsOf(label.Code, m) {
			i := slices.IndexFunc(m.Sheet.Limits, func(l store.Limit) bool {
				return l.Kind == label.Code && l.Characteristic == row.Code && l.Role == row.Role
			})
			var l store.Limit // of an empty sheet every line it could have is written, to be filled in
			switch {
			case i >= 0:
				l = m.Sheet.Limits[i]
			case len(m.Sheet.Limits) > 0:
				continue
			}
			unit := row.Unit.Or(m.SheetUnit())
			show := func(x *quantity.Amount) string {
				if x == nil || label.Code == headfile.SetRenew {
					return ""
				}
				return unit.Bare(*x)
			}
			near := ""
			if l.Near != 0 {
				near = show(&l.Near)
			}
			name := unit.Name
			if label.Code == headfile.SetRenew {
				name = ""
			}
			rows = append(
				rows, []string{label.Code, row.Code, row.Role, name, show(l.Low), show(l.High), near, l.Source},
			)
		}
	}
	return shop.CSV(set, rows)
}

// mostLimits bounds a file of limits.
const mostLimits = 2000

// ReadLimits reads one set of a model's sheet from a CSV file, by LimitRow key, as somebody
// would have typed it: nothing is written, and nothing but the file's shape is judged.
// Columns may stand in any order, apart by commas or semicolons; unit, near and role may be
// missing. Errors are about the field "file" and name the line.
func ReadLimits(m Model, set string, file io.Reader) (map[string]LimitEntry, error) {
	r := table.CSV(file)
	names, err := r.Read()
	if err != nil {
		return nil, field.Errorf("file", "this is no CSV file with a line of columns")
	}
	column := map[string]int{}
	for i, n := range names {
		column[strings.ToLower(strings.TrimSpace(n))] = i
	}
	for _, need := range []string{"set", "characteristic", "low", "high", "source"} {
		if _, ok := column[need]; !ok {
			return nil, field.Errorf("file", "the first line has no column %q: it needs %s", need,
				strings.Join(limitColumns, ", "))
		}
	}
	rows := RowsOf(set, m)
	out := map[string]LimitEntry{}
	for line := 2; ; line++ {
		rec, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil || line > mostLimits {
			return nil, field.Errorf("file", "line %d cannot be read", line)
		}
		get := func(name string) string {
			if i, ok := column[name]; ok && i < len(rec) {
				return strings.TrimSpace(rec[i])
			}
			return ""
		}
		if get("set") != set {
			continue
		}
		i := slices.IndexFunc(
			rows, func(x LimitRow) bool { return x.Code == get("characteristic") && x.Role == get("role") },
		)
		if i < 0 {
			return nil, field.Errorf("file", "line %d: this sheet has no %s", line,
				strings.TrimSpace(get("characteristic")+" "+get("role")))
		}
		unit, err := rows[i].fileUnit(get("unit"))
		if err != nil {
			return nil, field.Errorf("file", "line %d: %s", line, err)
		}
		figure := func(name string) string {
			if text := get(name); text != "" {
				return text + unit
			}
			return ""
		}
		out[rows[i].Key()] = LimitEntry{
			Low: figure("low"), High: figure("high"), Near: figure("near"), Source: get("source"),
		}
	}
	if len(out) == 0 {
		return nil, field.Errorf("file", "the file has no line of the set %q", set)
	}
	return out, nil
}

// fileUnit is what a file's unit adds to a figure of the row: a length may be in mm or in,
// anything else is in the row's own unit.
func (r LimitRow) fileUnit(name string) (string, error) {
	switch {
	case name == "" || r.Unit.Size != 0 && name == r.Unit.Name:
		return "", nil
	case r.Unit.Size == 0 && (name == length.MM.Name || name == length.In.Name):
		return " " + name, nil
	case r.Unit.Size != 0:
		return "", errors.New("it is read in " + r.Unit.Name + ", not in " + name)
	}
	return "", errors.New("mm or in, not " + name)
}
