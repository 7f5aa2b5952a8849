package words

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"
)

// figure is digits with points among them.
var figure = regexp.MustCompile(`[0-9]+(?:\.[0-9]+)+`)

// Comma writes the decimal figures in a text with a comma: "0.040 to 0.095 mm" as "0,040 to 0,095 mm".
// What has two points (a date, an address), and what goes on from a name ("G4.2", "file-1.2"), is none.
func Comma(text string) string {
	var b strings.Builder
	from := 0
	for _, m := range figure.FindAllStringIndex(text, -1) {
		at := strings.IndexByte(text[m[0]:m[1]], '.') + m[0]
		if strings.IndexByte(text[at+1:m[1]], '.') >= 0 || named(text[:m[0]]) {
			continue
		}
		b.WriteString(text[from:at])
		b.WriteByte(',')
		from = at + 1
	}
	return b.String() + text[from:]
}

// named tells whether a text ends in the middle of a name.
func named(before string) bool {
	last, _ := utf8.DecodeLastRuneInString(strings.TrimSuffix(before, "-"))
	return unicode.IsLetter(last) || unicode.IsDigit(last) || strings.ContainsRune("_/@", last)
}
