package inout

import (
	"bytes"
	"errors"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"

	"yatai/core/words"
)

// Template returns a spreadsheet with the names of a kind's columns in a language, to be filled in, and
// beside it a sheet that says what belongs into each.
func (k Kind) Template(l *words.Language, unit string) ([]byte, error) {
	x := excelize.NewFile()
	first, help := x.GetSheetName(0), l.Say("What the columns are")
	names := k.Names(l, unit)
	_, err := x.NewSheet(help)
	err = errors.Join(err, x.SetSheetRow(first, "A1", &names),
		x.SetSheetRow(help, "A1", &[]string{l.Say("Column"), l.Say("Has to be there"), l.Say("As in")}))
	for i, c := range k.Columns {
		must := ""
		if k.needs(c.Code) {
			must = l.Say("yes")
		}
		at, failed := excelize.CoordinatesToCellName(1, i+2)
		err = errors.Join(err, failed, x.SetSheetRow(help, at, &[]string{names[i], must, c.Like}))
	}
	for _, sheet := range []string{first, help} {
		err = errors.Join(err, x.SetColWidth(sheet, "A", "L", width(names)))
	}
	var b bytes.Buffer
	err = errors.Join(err, x.Write(&b), x.Close())
	return b.Bytes(), err
}

// width is how wide columns are, in letters, for the longest name to be read.
func width(names []string) float64 {
	most := 12
	for _, n := range names {
		most = max(most, utf8.RuneCountInString(n)+2)
	}
	return float64(most)
}
