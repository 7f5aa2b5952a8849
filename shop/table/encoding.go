package table

import (
	"bytes"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

// How the letters of a file can be written, as ReadAs says it.
const (
	UTF8        = "UTF-8"
	UTF16       = "UTF-16"
	Windows1252 = "Windows-1252"
)

// letters returns a file's text as UTF-8, and how it was written: in UTF-16 where it says so in its
// first bytes or every other byte is zero, else in UTF-8 where it is that, else as older spreadsheets
// write it.
func letters(b []byte) (text []byte, as string, err error) {
	var from encoding.Encoding
	switch as = written(b); as {
	case UTF16:
		order := unicode.LittleEndian
		if len(b) > 0 && (b[0] == 0xfe || b[0] == 0) {
			order = unicode.BigEndian
		}
		from = unicode.UTF16(order, unicode.UseBOM)
	case Windows1252:
		from = charmap.Windows1252
	default:
		return b, as, nil
	}
	text, err = from.NewDecoder().Bytes(b)
	return text, as, err
}

func written(b []byte) string {
	start := b[:min(len(b), 1024)]
	zeros := bytes.Count(start, []byte{0})
	switch {
	case bytes.HasPrefix(b, []byte{0xff, 0xfe}), bytes.HasPrefix(b, []byte{0xfe, 0xff}), zeros*3 > len(start):
		return UTF16
	case utf8.Valid(b):
		return UTF8
	}
	return Windows1252
}
