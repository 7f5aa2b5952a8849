package paper_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"image"
	"image/jpeg"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"yatai/core/length"
	"yatai/core/words"
	"yatai/internal/demofile"
	"yatai/internal/schematest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/store"
	"yatai/web/paper"
)

func head(t *testing.T, tag string) *headfile.File {
	t.Helper()
	st, err := store.Open(demofile.Path(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	f, err := headfile.Open(t.Context(), shop.New(st, time.Now), tag)
	require.NoError(t, err)
	return f
}

// TestReadingsLeaveTheSameInEveryForm writes a head's readings three ways, for readers in both languages and
// both units: the exact value is the same in all, and what is shown is it in the reader's unit.
func TestReadingsLeaveTheSameInEveryForm(t *testing.T) {
	f := head(t, "T0413")
	j, err := paper.JSON(f)
	require.NoError(t, err)
	made, err := paper.ReadingsSchema()
	schematest.Same(t, "readings", made, err)
	schematest.Holds(t, "readings", j)
	var all paper.Readings
	require.NoError(t, json.Unmarshal(j, &all))
	require.Len(t, all.Readings, len(f.Readings))
	assert.Len(t, all.Findings, len(f.Findings))
	for _, to := range []paper.Reader{{words.English, length.MM}, {words.German, length.In}} {
		b, err := paper.CSV(f, shop.Settings{}, to)
		require.NoError(t, err)
		rows, err := csv.NewReader(bytes.NewReader(b)).ReadAll()
		require.NoError(t, err)
		require.Len(t, rows, len(f.Readings)+1)
		x, err := paper.XLSX(f, to)
		require.NoError(t, err)
		book, err := excelize.OpenReader(bytes.NewReader(x))
		require.NoError(t, err)
		cells, err := book.GetRows(book.GetSheetName(0), excelize.Options{RawCellValue: true})
		require.NoError(t, err)
		require.Len(t, cells, len(f.Readings)+1)
		assert.Equal(t, rows[0], cells[0])
		column := func(name string) int {
			at := slices.Index(rows[0], to.Words.Say(name))
			require.GreaterOrEqual(t, at, 0, "%s in %s", name, to.Words.Name)
			return at
		}
		value, unit, exact, in := column("Value"), column("Unit"), column("Exact value"), column("Exact in")
		for i, r := range f.Readings {
			row := rows[i+1]
			assert.Equal(t, int64(r.NM), all.Readings[i].Value)
			if r.Bracket {
				continue
			}
			assert.Equal(t, r.NM.Length().MM(), row[exact], "%s %s", r.Characteristic, r.Position)
			if row[in] == "mm" {
				assert.Equal(t, to.Unit.Name, row[unit])
				back, err := length.Parse(row[value], to.Unit)
				require.NoError(t, err)
				assert.InDelta(t, int64(r.NM), int64(back), float64(length.Thou)/20)
			}
			for _, at := range []int{value, exact} {
				text, err := strconv.ParseFloat(row[at], 64)
				require.NoError(t, err)
				number, err := strconv.ParseFloat(cells[i+1][at], 64)
				require.NoError(t, err)
				assert.InDelta(t, text, number, 1e-9)
			}
		}
	}
}

// TestNoTableNamesTheProgramsFields looks for codes in the tables that go out: a name with a dot or an
// underscore in it is one of the program's.
func TestNoTableNamesTheProgramsFields(t *testing.T) {
	f := head(t, "T0402")
	b, err := paper.CSV(f, shop.Settings{}, paper.Reader{Words: words.English, Unit: length.In})
	require.NoError(t, err)
	rows, err := csv.NewReader(bytes.NewReader(b)).ReadAll()
	require.NoError(t, err)
	code := regexp.MustCompile(`^[a-z]+[._][a-z._]+$`)
	for _, row := range rows {
		for _, cell := range row {
			assert.NotRegexp(t, code, cell)
		}
	}
}

func TestSpreadsheetsReadNoFormulas(t *testing.T) {
	f := head(t, "T0413")
	f.Readings = f.Readings[:1]
	f.Readings[0].Why = `=HYPERLINK("http://x")`
	f.Readings[0].Typed = "+9.012"
	b, err := paper.CSV(f, shop.Settings{}, paper.Reader{Words: words.English, Unit: length.MM})
	require.NoError(t, err)
	assert.Contains(t, string(b), `'=HYPERLINK`)
	assert.Contains(t, string(b), `,+9.012,`, "what was typed is a figure")
}

// quoted is the first quote of a head as paper shows it.
func quoted(f *headfile.File, ways paper.Ways, photos ...store.Photo) []paper.Quoted {
	return []paper.Quoted{{File: f, Q: f.Approved.Quotes[0], Ways: ways, Photos: photos}}
}

// content is what the first page of a PDF draws.
func content(t *testing.T, pdf []byte) string {
	t.Helper()
	ctx, err := api.ReadAndValidate(bytes.NewReader(pdf), model.NewDefaultConfiguration())
	require.NoError(t, err)
	r, err := pdfcpu.ExtractPageContent(ctx, 1)
	require.NoError(t, err)
	b, err := io.ReadAll(r)
	require.NoError(t, err)
	return string(b)
}

// TestALogoStandsOnPaper and only where the shop has one; a logo of any shape fits its corner.
func TestALogoStandsOnPaper(t *testing.T) {
	f := head(t, "T0414")
	plain, err := paper.Report(f, nil, paper.HouseOf(shop.Settings{}, shop.Logo{}), length.MM)
	require.NoError(t, err)
	assert.NotContains(t, string(plain), "/DCTDecode")
	for _, side := range []image.Point{{600, 20}, {600, 200}, {20, 600}} {
		var pic bytes.Buffer
		require.NoError(t, jpeg.Encode(&pic, image.NewGray(image.Rectangle{Max: side}), nil))
		logo := shop.Logo{JPEG: pic.Bytes(), Width: side.X, Height: side.Y}
		with, err := paper.Report(f, nil, paper.House{Name: "Tarn Street Head Works", Logo: logo}, length.MM)
		require.NoError(t, err)
		assert.Contains(t, string(with), "/DCTDecode")
		m := regexp.MustCompile(`q ([0-9.]+) 0 0 ([0-9.]+) [0-9.]+ ([0-9.]+) cm /I`).FindStringSubmatch(content(t, with))
		require.NotNil(t, m)
		w, err := strconv.ParseFloat(m[1], 64)
		require.NoError(t, err)
		h, err := strconv.ParseFloat(m[2], 64)
		require.NoError(t, err)
		assert.LessOrEqual(t, w, 60/25.4*72+0.1)
		assert.LessOrEqual(t, h, 11/25.4*72+0.1)
		assert.InDelta(t, float64(side.X)/float64(side.Y), w/h, 0.05*w/h, "its shape stays")
		line := regexp.MustCompile(`([0-9.]+) m [0-9.]+ [0-9.]+ l S`).FindStringSubmatch(content(t, with))
		require.NotNil(t, line)
		at, err := strconv.ParseFloat(line[1], 64)
		require.NoError(t, err)
		foot, err := strconv.ParseFloat(m[3], 64)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, foot, at, "above the line")
	}
}

func TestPaperIsWritten(t *testing.T) {
	f := head(t, "T0414")
	q, err := paper.Quotes(quoted(f, paper.Ways{}), paper.House{Name: "Tarn Street Head Works"})
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(q, []byte("%PDF-")))
	one, err := paper.Quotes(quoted(f, paper.Ways{Options: make([]lead.Planned, 1)}), paper.House{Name: "x"})
	require.NoError(t, err)
	ways, err := paper.Quotes(quoted(f, paper.Ways{
		Options: make([]lead.Planned, 2),
		Instead: []lead.Replacement{{StockItem: store.StockItem{Kind: "used head", Name: "Ostrel used head"}, Days: 6}},
	}), paper.House{Name: "x"})
	require.NoError(t, err)
	assert.Greater(t, len(ways), len(one)+200, "one way is no choice; three are a table")
	var pic bytes.Buffer
	require.NoError(t, jpeg.Encode(&pic, image.NewGray(image.Rect(0, 0, 80, 60)), nil))
	photo := store.Photo{Width: 80, Height: 60, JPEG: pic.Bytes(), Caption: "the worst seat"}
	with, err := paper.Quotes(quoted(f, paper.Ways{}, photo), paper.House{Name: "x"})
	require.NoError(t, err)
	assert.Contains(t, string(with), "/DCTDecode", "the photo is in it")
	r, err := paper.Report(f, nil, paper.House{Name: "Tarn Street Head Works"}, length.In)
	require.NoError(t, err)
	assert.Greater(t, len(r), 10_000)
	labels := paper.Labels(f, "http://shop.invalid/")
	assert.Equal(t, "http://shop.invalid/heads/T0414", labels[0].Code)
	labels[0].Says[0] = `<b>&"`
	svg, err := labels[0].SVG()
	require.NoError(t, err)
	assert.Contains(t, string(svg), "&lt;b&gt;&amp;&#34;")
	assert.Positive(t, strings.Count(string(svg), "M"))
	sheet, err := paper.LabelSheet(labels, paper.House{})
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(sheet, []byte("%PDF-")))
}

// BenchmarkReport writes a whole report, tagged.
func BenchmarkReport(b *testing.B) {
	st, err := store.Open(demofile.Path(b))
	require.NoError(b, err)
	b.Cleanup(func() { _ = st.Close() })
	f, err := headfile.Open(b.Context(), shop.New(st, time.Now), "T0402")
	require.NoError(b, err)
	for b.Loop() {
		_, err := paper.Report(f, nil, paper.House{Name: "Hill Heads"}, length.MM)
		require.NoError(b, err)
	}
}

// TestPaperOfTheShop: on US Letter where the shop prints on it, with bookmarks for its parts.
func TestPaperOfTheShop(t *testing.T) {
	f := head(t, "T0405")
	for paperName, height := range map[string]float64{"A4": 841.89, "US Letter": 792} {
		set := shop.SettingsFor(map[string]string{"paper": paperName, "shop_name": "Hill Heads", "shop_phone": "0123"}, "")
		r, err := paper.Report(f, nil, paper.HouseOf(set, shop.Logo{}), length.MM)
		require.NoError(t, err)
		pages, err := api.PageDims(bytes.NewReader(r), nil)
		require.NoError(t, err)
		assert.InDelta(t, height, pages[0].Height, 0.01)
		assert.Contains(t, string(r), "/Outlines")
	}
}

func TestPositionsAsPeopleReadThem(t *testing.T) {
	f := head(t, "T0405")
	assert.Equal(t, "all 8", headfile.AllOf(f.Layout, "1I1 1E1 2I1 2E1 3I1 3E1 4I1 4E1").String())
	assert.Equal(t, "all 4 exhaust", headfile.AllOf(f.Layout, "4E1 1E1 2E1 3E1").String())
	assert.Equal(t, "1I1 1E1 2I1 2E1", headfile.AllOf(f.Layout, "1I1 1E1 2I1 2E1").String())
	assert.Equal(t, "", headfile.AllOf(f.Layout, "").String())
}
