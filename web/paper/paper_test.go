package paper_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"image"
	"image/jpeg"
	"strings"
	"testing"
	"time"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"yatai/core/length"
	"yatai/internal/demofile"
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

// TestReadingsLeaveTheSameInEveryForm writes a head's readings three ways.
func TestReadingsLeaveTheSameInEveryForm(t *testing.T) {
	f := head(t, "T0413")
	b, err := paper.CSV(f, shop.Settings{})
	require.NoError(t, err)
	rows, err := csv.NewReader(bytes.NewReader(b)).ReadAll()
	require.NoError(t, err)
	assert.Len(t, rows, len(f.Readings)+1)
	j, err := paper.JSON(f)
	require.NoError(t, err)
	var all struct {
		Readings []struct {
			Position string
			Value    int64 `json:"value_nm"`
		}
		Findings []any
	}
	require.NoError(t, json.Unmarshal(j, &all))
	assert.Len(t, all.Readings, len(f.Readings))
	assert.Len(t, all.Findings, len(f.Findings))
	x, err := paper.XLSX(f)
	require.NoError(t, err)
	book, err := excelize.OpenReader(bytes.NewReader(x))
	require.NoError(t, err)
	cells, err := book.GetRows("Readings")
	require.NoError(t, err)
	require.Len(t, cells, len(f.Readings)+1)
	for i, r := range f.Readings {
		assert.Equal(t, int64(r.NM), all.Readings[i].Value)
		if !r.Bracket {
			assert.Equal(t, r.NM.Length().MM(), rows[i+1][9], "%s %s", r.Characteristic, r.Position)
		}
	}
}

func TestSpreadsheetsReadNoFormulas(t *testing.T) {
	f := head(t, "T0413")
	f.Readings = f.Readings[:1]
	f.Readings[0].Why = `=HYPERLINK("http://x")`
	b, err := paper.CSV(f, shop.Settings{})
	require.NoError(t, err)
	assert.Contains(t, string(b), `'=HYPERLINK`)
}

// quoted is the first quote of a head as paper shows it.
func quoted(f *headfile.File, ways paper.Ways, photos ...store.Photo) []paper.Quoted {
	return []paper.Quoted{{File: f, Q: f.Approved.Quotes[0], Ways: ways, Photos: photos}}
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
		r, err := paper.Report(f, nil, paper.HouseOf(set), length.MM)
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
