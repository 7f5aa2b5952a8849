package table_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"math/rand/v2"
	"runtime"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"yatai/shop/table"
)

func TestTablesAreReadAsTheyCome(t *testing.T) {
	utf16 := func(text string, bigFirst bool) string {
		var b strings.Builder
		for _, c := range []byte(text) { // of which all are ASCII here
			if bigFirst {
				b.WriteString(string([]byte{0, c}))
			} else {
				b.WriteString(string([]byte{c, 0}))
			}
		}
		return b.String()
	}
	for name, c := range map[string]struct{ file, as string }{
		"commas":              {"Name,Price\nGuide,1.50\n", "UTF-8"},
		"semicolons":          {"\ufeffName;Price\n\nGuide;1.50\n", "UTF-8"},
		"tabs":                {"Name\tPrice\t\nGuide\t1.50\t\t\n", "UTF-8"},
		"Windows":             {"Name,Price,Gr\xf6sse \x80\nGuide,1.50,8\n", "Windows-1252"},
		"UTF-16 with a mark":  {"\xff\xfe" + utf16("Name;Price\r\nGuide;1.50\r\n", false), "UTF-16"},
		"UTF-16, other order": {"\xfe\xff" + utf16("Name\tPrice\nGuide\t1.50\n", true), "UTF-16"},
		"UTF-16 without":      {utf16("Name,Price\nGuide,1.50\n", false), "UTF-16"},
		"UTF-16 big without":  {utf16("Name,Price\nGuide,1.50\n", true), "UTF-16"},
	} {
		x, err := table.Read(strings.NewReader(c.file))
		require.NoError(t, err, name)
		require.Len(t, x.Rows, 1, name)
		assert.Equal(t, []string{"Name", "Price"}, x.Columns[:2], name)
		assert.Equal(t, []string{"Guide", "1.50"}, x.Rows[0][:2], name)
		assert.Equal(t, c.as, x.ReadAs, name)
		if name == "Windows" {
			assert.Equal(t, "Grösse €", x.Columns[2])
		}
	}
	x, err := table.Read(strings.NewReader("Name\n\n\"two\nlines\"\nlast\n"))
	require.NoError(t, err)
	assert.Equal(t, []int{3, 5}, x.Lines, "as the file counts them")
	x, err = table.Read(strings.NewReader("Name\tSize\tPrice\nGuide\t\t1.50\n1/2\" stud\t12\t\n"))
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"Guide", "", "1.50"}, {"1/2\" stud", "12"}}, x.Rows, "pasted: a blank cell stays one")
}

// TestFiguresAreReadAsTheirColumnMeansThem goes through the ways a figure is written: in a column with a comma
// before decimals, with a point, in one that does not tell, and as a spreadsheet's own.
func TestFiguresAreReadAsTheirColumnMeansThem(t *testing.T) {
	const wrong, ask = "wrong", "ask"
	for _, c := range []struct{ text, comma, point, neither, sheet string }{
		{"12", "12", "12", "12", "12"},
		{"12.5", "12.5", "12.5", "12.5", "12.5"},
		{"12,50", "12.50", "12.50", "12.50", "12.50"},
		{"1.234,50", "1234.50", "1234.50", "1234.50", "1234.50"},
		{"1,234.50", "1234.50", "1234.50", "1234.50", "1234.50"},
		{"12.345.678,9", "12345678.9", "12345678.9", "12345678.9", "12345678.9"},
		{"1.234", "1234", "1.234", ask, "1.234"},
		{"1,234", "1.234", "1234", ask, ask},
		{"-1.234", "-1234", "-1.234", ask, "-1.234"},
		{"1,234,567", "1234567", "1234567", "1234567", "1234567"},
		{"0.125", "0.125", "0.125", "0.125", "0.125"},
		{"0,125", "0.125", "0.125", "0.125", "0.125"},
		{"1234,567", "1234.567", "1234.567", "1234.567", "1234.567"},
		{"-1.234,5", "-1234.5", "-1234.5", "-1234.5", "-1234.5"},
		{"1 234,50 €", "1234.50", "1234.50", "1234.50", "1234.50"},
		{"1\u00a0234,50", "1234.50", "1234.50", "1234.50", "1234.50"},
		{"1'234.50", "1234.50", "1234.50", "1234.50", "1234.50"},
		{"EUR 1.234", "1234", "1.234", ask, "1.234"},
		{"Fr. 12.50", "12.50", "12.50", "12.50", "12.50"},
		{"1,23.50", wrong, wrong, wrong, wrong},
		{"1.2.3", wrong, wrong, wrong, wrong},
		{"0,345.50", wrong, wrong, wrong, wrong},
		{"12,34,567", wrong, wrong, wrong, wrong},
		{"free of charge, 2 days", wrong, wrong, wrong, wrong},
	} {
		for _, kind := range []struct {
			of      table.Table
			decimal string
			want    string
		}{
			{table.Table{}, ",", c.comma}, {table.Table{}, ".", c.point}, {table.Table{}, "", c.neither},
			{table.Table{Sheet: true}, "", c.sheet},
		} {
			got, err := kind.of.Figure(c.text, kind.decimal)
			switch kind.want {
			case wrong:
				assert.ErrorContains(t, err, "is no figure", c.text)
			case ask:
				assert.ErrorContains(t, err, "more than a thousand, or not", c.text)
			default:
				require.NoError(t, err, c.text)
				assert.Equal(t, kind.want, got, "%q, decimal %q, sheet %v", c.text, kind.decimal, kind.of.Sheet)
			}
		}
	}
	for _, c := range []struct {
		cells         []string
		decimal, sign string
	}{
		{[]string{"1.234", "12.5"}, ".", ""},
		{[]string{"1.234", "12,5"}, ",", ""},
		{[]string{"1.234", "1.234.567"}, ",", ""},
		{[]string{"1,234", "words", "12"}, "", ","},
		{[]string{"1.234", "5.678 €"}, "", "."},
		{[]string{"12", ""}, "", ""},
		{nil, "", ""},
	} {
		decimal, sign := table.DecimalOf(c.cells)
		assert.Equal(t, c.decimal, decimal, c.cells)
		assert.Equal(t, c.sign, sign, c.cells)
	}
}

// TestAnySumIsReadBackHoweverItIsWritten writes sums with each pair of signs, with and without what parts
// thousands: each is read as the sum it is.
func TestAnySumIsReadBackHoweverItIsWritten(t *testing.T) {
	rnd := rand.New(rand.NewPCG(28, 4))
	for range 5_000 {
		cents := rnd.Int64N(1_000_000_000)
		want := fmt.Sprintf("%d.%02d", cents/100, cents%100)
		for _, signs := range []string{".,", ",.", "' .", "  ,", " ."} {
			parted, decimal := signs[:1], signs[len(signs)-1:]
			digits := strconv.FormatInt(cents/100, 10)
			for i := len(digits) - 3; i > 0; i -= 3 {
				digits = digits[:i] + parted + digits[i:]
			}
			text := digits + decimal + fmt.Sprintf("%02d", cents%100)
			got, err := table.Table{}.Figure(text, "")
			require.NoError(t, err, text)
			require.Equal(t, want, got, text)
		}
	}
}

func TestDaysAreReadInOneOrder(t *testing.T) {
	var x table.Table
	for text, want := range map[string]string{
		"2019-05-20": "2019-05-20", "20.5.2019": "2019-05-20", "20.05.19": "2019-05-20", "20190520": "2019-05-20",
		"20 May 2019": "2019-05-20", "20. Mai 2019": "2019-05-20", "3. Okt. 2019": "2019-10-03",
		"May 20, 2019": "2019-05-20", "20-May-2019": "2019-05-20", "2019/5/20": "2019-05-20",
		"2019-05-20 08:30:00": "2019-05-20", "2019-05-20T08:30:00Z": "2019-05-20", "43605": "2019-05-20",
		"5/5/2019": "2019-05-05",
	} {
		at, err := x.Day(text, "")
		require.NoError(t, err, text)
		assert.Equal(t, want, at.Format(time.DateOnly), text)
	}
	for _, bad := range []string{"", "soon", "31.2.2019", "2019-13-01", "20. Brumaire 2019"} {
		_, err := x.Day(bad, table.DayFirst)
		assert.ErrorContains(t, err, "a date like", bad)
	}
	_, err := x.Day("5/6/2019", "")
	require.ErrorContains(t, err, "is the day first")
	for order, want := range map[table.Order]string{table.DayFirst: "2019-06-05", table.MonthFirst: "2019-05-06"} {
		at, err := x.Day("5/6/2019", order)
		require.NoError(t, err)
		assert.Equal(t, want, at.Format(time.DateOnly), order)
	}
	_, err = x.Day("13/25/2019", table.MonthFirst)
	require.Error(t, err)
	for _, c := range []struct {
		cells []string
		order table.Order
		both  bool
	}{
		{[]string{"5/6/2019", "20/6/2019"}, table.DayFirst, false},
		{[]string{"5/6/2019", "6-20-2019 10:00"}, table.MonthFirst, false},
		{[]string{"5/6/2019", "12/12/2019"}, "", true},
		{[]string{"12/12/2019", "5.6.2019", ""}, "", false},
		{nil, "", false},
	} {
		order, both := table.OrderOf(c.cells)
		assert.Equal(t, c.order, order, c.cells)
		assert.Equal(t, c.both, both, c.cells)
	}
}

func TestASpreadsheetIsReadByItsFirstSheet(t *testing.T) {
	x := excelize.NewFile()
	for i, row := range [][]any{{"Name", "Price"}, {"Guide", 1.5}, {}, {"Valve", 24}} {
		require.NoError(t, x.SetSheetRow("Sheet1", fmt.Sprint("A", i+1), &row))
	}
	var b bytes.Buffer
	require.NoError(t, x.Write(&b))
	got, err := table.Read(&b)
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"Guide", "1.5"}, {"Valve", "24"}}, got.Rows)
	assert.Equal(t, []int{2, 4}, got.Lines)
	assert.True(t, got.Sheet)
}

// TestASpreadsheetsNoiseIsNoFigure reads what arithmetic leaves in a cell, and what only looks like it.
func TestASpreadsheetsNoiseIsNoFigure(t *testing.T) {
	for kept, want := range map[string]string{
		"31.249999999999996":    "31.25",
		"0.30000000000000004":   "0.3",
		"-7.0199999999999996":   "-7.02",
		"1.0000000000000001E-2": "0.01",
		"4912345678901234":      "4912345678901234",
		"7.0001":                "7.0001",
		"1.2.2019 to 3.4.2019":  "1.2.2019 to 3.4.2019",
	} {
		got, err := table.Read(bytes.NewReader(sheet(t, `<row r="1"><c r="A1" t="s"><v>0</v></c></row>`+
			`<row r="2"><c r="A2"><v>`+kept+`</v></c></row>`, "Name")))
		require.NoError(t, err)
		assert.Equal(t, [][]string{{want}}, got.Rows)
	}
}

// sheet is a spreadsheet whose first sheet's rows, and the texts they share, are written by hand.
func sheet(t *testing.T, rows, texts string) []byte {
	t.Helper()
	var b bytes.Buffer
	x := excelize.NewFile()
	require.NoError(t, x.SetCellStr("Sheet1", "A1", "x"))
	require.NoError(t, x.Write(&b))
	in, err := zip.NewReader(bytes.NewReader(b.Bytes()), int64(b.Len()))
	require.NoError(t, err)
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, f := range in.File {
		to, err := w.Create(f.Name)
		require.NoError(t, err)
		switch f.Name {
		case "xl/worksheets/sheet1.xml":
			_, err = io.WriteString(
				to,
				`<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>`+rows+
					`</sheetData></worksheet>`,
			)
		case "xl/sharedStrings.xml":
			_, err = io.WriteString(
				to,
				`<sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><si><t>`+texts+`</t></si></sst>`,
			)
		default:
			from, failed := f.Open()
			require.NoError(t, failed)
			_, err = io.Copy(to, from)
		}
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	return out.Bytes()
}

// TestWhatExpandsIsRefused gives files that are small and would become large: each is refused in
// little memory, with a message.
func TestWhatExpandsIsRefused(t *testing.T) {
	far := func(n int) string {
		var b strings.Builder
		for i := 1; i <= n; i++ {
			fmt.Fprintf(&b, `<row r="%d"><c r="XFD%d"><v>1</v></c></row>`, i, i)
		}
		return b.String()
	}
	for name, file := range map[string][]byte{
		"cells in the last column": sheet(t, far(20_000), "x"),
		"rows far down": sheet(
			t, `<row r="1"><c r="A1"><v>1</v></c></row><row r="1048576"><c r="A1048576"><v>1</v></c></row>`, "x",
		),
		"a cell of megabytes":     sheet(t, `<row r="1"><c r="A1" t="s"><v>0</v></c></row>`, strings.Repeat("a", 20<<20)),
		"a cell past all bounds":  sheet(t, `<row r="1"><c r="A1" t="s"><v>0</v></c></row>`, strings.Repeat("a", 60<<20)),
		"commas":                  []byte("a,b\n" + strings.Repeat(",", 7<<20)),
		"a quoted cell of commas": []byte("a,b\n\"" + strings.Repeat(",\n", 3<<20)),
		"rows without end":        []byte(strings.Repeat("a,b\n", 1<<20)),
	} {
		var before, after runtime.MemStats
		runtime.GC()
		runtime.ReadMemStats(&before)
		began := time.Now()
		_, err := table.Read(bytes.NewReader(file))
		runtime.ReadMemStats(&after)
		assert.Error(t, err, name)
		assert.Less(t, int(after.TotalAlloc-before.TotalAlloc)>>20, 400, "%s: MB allocated in all", name)
		t.Logf("%s: %d kB, %v, %d MB: %v", name, len(file)>>10, time.Since(began).Round(time.Millisecond),
			(after.TotalAlloc-before.TotalAlloc)>>20, err)
	}
}
