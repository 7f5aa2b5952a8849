package paper

import (
	"bytes"
	"strings"
	"testing"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/words"
)

// TestEverythingOnAPageIsMarked writes a document of several pages, breaks a paragraph and a table
// between them, and reads it again: it is valid, each page opens and closes its marks, and the tree
// knows all of them, in the order they were written.
func TestEverythingOnAPageIsMarked(t *testing.T) {
	s := newSheet("All kinds", "foot", House{Name: "Hill Heads", Phone: "0123"}, words.German)
	s.heading("A long story")
	s.text(10, false, strings.Repeat("It ran without oil for an hour and was then driven home. ", 140))
	s.heading("A long table")
	s.row([]float64{40, 60}, true, "At", "Reads")
	for range 90 {
		s.row([]float64{40, 60}, false, "1I1", "")
	}
	s.text(10, false, "The end.")
	file, err := s.bytes()
	require.NoError(t, err)
	require.NoError(t, api.Validate(bytes.NewReader(file), nil))

	ctx, err := api.ReadContext(bytes.NewReader(file), model.NewDefaultConfiguration())
	require.NoError(t, err)
	require.NoError(t, ctx.EnsurePageCount())
	require.Greater(t, ctx.PageCount, 3)
	catalog, err := ctx.Catalog()
	require.NoError(t, err)
	assert.Equal(t, "(de)", catalog["Lang"].(types.StringLiteral).PDFString())
	root, err := ctx.DereferenceDict(catalog["StructTreeRoot"])
	require.NoError(t, err)
	numbers := root["ParentTree"].(types.Dict)["Nums"].(types.Array)
	for i := 1; i <= ctx.PageCount; i++ {
		page, _, _, err := ctx.PageDict(i, false)
		require.NoError(t, err)
		content, err := ctx.PageContent(page, i)
		require.NoError(t, err)
		opened := bytes.Count(content, []byte(" BDC")) + bytes.Count(content, []byte(" BMC"))
		assert.Equal(t, opened, bytes.Count(content, []byte("EMC")), "page %d", i)
		assert.Len(t, numbers[2*(i-1)+1].(types.Array), bytes.Count(content, []byte(" BDC")), "page %d", i)
		assert.Equal(t, types.Integer(i-1), page["StructParents"])
	}

	var kinds []string
	pages := map[string]map[int]bool{} // of the parts of each kind
	for _, n := range s.doc.nodes {
		kinds = append(kinds, n.kind)
		pages[n.kind] = map[int]bool{}
		for _, m := range n.marks {
			pages[n.kind][m.page] = true
		}
	}
	assert.Equal(t, []string{"P", "P", "H1", "H2", "P", "H2", "Table", "P"}, kinds)
	assert.Len(t, s.doc.nodes[4].marks, 2, "a paragraph on two pages is one paragraph")
	table := s.doc.nodes[6]
	assert.Len(t, table.nodes, 91)
	assert.Equal(t, "TH", table.nodes[0].nodes[0].kind)
	assert.Empty(t, table.nodes[1].nodes[1].marks, "an empty cell is a cell")
}

// TestLettersThatBarlowLacks writes a name that the product's own font has no letters for.
func TestLettersThatBarlowLacks(t *testing.T) {
	s := newSheet("Größe ±0.004 “so” · 7.98 – 8.03", "", House{}, words.English)
	for text, font := range map[string]string{
		"Größe ±0.004 “so” · –": ownFont, "Мастерская головок": wideFont, "Ψ4": wideFont, "a\tb\nc": ownFont,
	} {
		s.write("B", 9, text)
		s.CellFormat(10, 4, text, "", 1, "L", false, 0, "")
		assert.Equal(t, font, s.GetFontFamily(), text)
	}
	file, err := s.bytes()
	require.NoError(t, err)
	require.NoError(t, api.Validate(bytes.NewReader(file), nil))
}
