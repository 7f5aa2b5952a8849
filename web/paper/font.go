package paper

import (
	_ "embed"
	"sync"

	"codeberg.org/go-fonts/liberation/liberationsansbold"
	"codeberg.org/go-fonts/liberation/liberationsansregular"
	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/sfnt"
)

// The paper is written in the product's own letters. They are Latin ones: a text that has others,
// a customer's name say, is written in letters that have those too.
const (
	ownFont  = "barlow"
	wideFont = "liberation"
)

//go:embed fonts/barlow-regular.ttf
var barlowRegular []byte

//go:embed fonts/barlow-semibold.ttf
var barlowSemibold []byte

// addFonts makes both known to a document.
func addFonts(p *fpdf.Fpdf) {
	p.AddUTF8FontFromBytes(ownFont, "", barlowRegular)
	p.AddUTF8FontFromBytes(ownFont, "B", barlowSemibold)
	p.AddUTF8FontFromBytes(wideFont, "", liberationsansregular.TTF)
	p.AddUTF8FontFromBytes(wideFont, "B", liberationsansbold.TTF)
}

// barlow is the product's own font, to be asked what it can write.
var barlow = sync.OnceValue(func() *sfnt.Font {
	f, err := sfnt.Parse(barlowRegular)
	if err != nil {
		panic(err) // it is part of the program
	}
	return f
})

// write takes the font for a text up. style is "B" or empty, size in points.
func (s *sheet) write(style string, size float64, text string) {
	font := ownFont
	var b sfnt.Buffer
	for _, r := range text {
		if glyph, err := barlow().GlyphIndex(&b, r); r != '\n' && r != '\t' && (err != nil || glyph == 0) {
			font = wideFont
			break
		}
	}
	s.SetFont(font, style, size)
}
