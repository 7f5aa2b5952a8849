package table_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"yatai/shop/table"
)

func TestTablesAreReadAsTheyCome(t *testing.T) {
	for name, file := range map[string]string{
		"commas":     "Name,Price\nGuide,1.50\n",
		"semicolons": "\ufeffName;Price\n\nGuide;1.50\n",
		"tabs":       "Name\tPrice\t\nGuide\t1.50\t\t\n",
		"Latin-1":    "Name,Price,Gr\xf6sse\nGuide,1.50,8\n",
	} {
		x, err := table.Read(strings.NewReader(file))
		require.NoError(t, err, name)
		require.Len(t, x.Rows, 1, name)
		assert.Equal(t, "Guide", x.Get(0, "name"), name)
		assert.Equal(t, "1.50", x.Get(0, "cost", "price"), name)
		assert.False(t, x.Has("cost"), name)
	}
	x, err := table.Read(strings.NewReader("Name\n\n\"two\nlines\"\nlast\n"))
	require.NoError(t, err)
	assert.Equal(t, []int{3, 5}, x.Lines, "as the file counts them")
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
