package words

import (
	"regexp"
	"strings"
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

// named tells whether a text ends in the middle of a name, which a sign does not begin.
func named(before string) bool {
	before = strings.TrimSuffix(before, "-")
	if before == "" {
		return false
	}
	c := before[len(before)-1]
	return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '_' || c == '/' || c == '@' || c >= 0x80 && !strings.HasSuffix(before, "±") && !strings.HasSuffix(before, "–") && !strings.HasSuffix(before, "“")
}
