package page

import (
	"bytes"

	"golang.org/x/net/html"

	"yatai/core/words"
)

// asWritten are the elements whose text stays as it is: what is typed, sent, or read by a program.
var asWritten = map[string]bool{
	"script": true, "style": true, "pre": true, "code": true, "kbd": true, "textarea": true,
	"option": true, "title": true,
}

// withCommas writes the figures in a page's text with a decimal comma. What its fields hold stays as
// it is: both are read.
func withCommas(page []byte) []byte {
	var b bytes.Buffer
	b.Grow(len(page))
	z, within := html.NewTokenizer(bytes.NewReader(page)), 0
	for {
		kind := z.Next()
		raw := z.Raw()
		switch kind {
		case html.ErrorToken:
			b.Write(raw)
			return b.Bytes()
		case html.StartTagToken, html.EndTagToken:
			raw = bytes.Clone(raw) // asking for the name changes it
			if name, _ := z.TagName(); asWritten[string(name)] {
				within += map[html.TokenType]int{html.StartTagToken: 1, html.EndTagToken: -1}[kind]
			}
			b.Write(raw)
		case html.TextToken:
			if within > 0 {
				b.Write(raw)
			} else {
				b.WriteString(words.Comma(string(raw)))
			}
		default:
			b.Write(raw)
		}
	}
}
