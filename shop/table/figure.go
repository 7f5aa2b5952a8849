package table

import (
	"math"
	"regexp"
	"strconv"
	"strings"
	"unicode"

	"yatai/core/field"
)

// figure is a figure without blanks, with the name of a currency or unit before or behind it.
var figure = regexp.MustCompile(`^(?:\pL{1,4}\.?)?(-?[0-9][0-9.,]*)\pL{0,4}$`)

// Figure rewrites a figure of a table as "1234.5": without what parts its thousands, its currency and
// its blanks, a point before its decimals. Both signs in one figure: the last is before the decimals.
// One sign twice parts thousands. One sign once parts thousands where three digits follow it, one to
// three stand before it, and the column holds what has no third decimal (whole is true: sums, counts),
// but not in a spreadsheet's own figure, whose point is always before decimals.
func (t Table) Figure(text string, whole bool) (string, error) {
	wrong := field.Errorf("", "%s is no figure like 1234.50", text)
	m := figure.FindStringSubmatch(strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Sc, r) || unicode.IsSpace(r) || r == '\'' || r == '’' {
			return -1
		}
		return r
	}, text))
	if m == nil {
		return "", wrong
	}
	bare := m[1]
	sign, other := ".", ","
	if strings.LastIndex(bare, other) > strings.LastIndex(bare, sign) {
		sign, other = other, sign
	}
	before, after, found := cutLast(bare, sign)
	switch {
	case !found:
		return bare, nil
	case strings.Contains(before, other):
		if !thousands(before, other) {
			return "", wrong
		}
		return strings.ReplaceAll(before, other, "") + "." + after, nil
	case strings.Contains(before, sign):
		if !thousands(bare, sign) {
			return "", wrong
		}
		return strings.ReplaceAll(bare, sign, ""), nil
	case whole && thousands(bare, sign) && !(t.Sheet && sign == "."):
		return before + after, nil
	}
	return before + "." + after, nil
}

func cutLast(text, sign string) (before, after string, found bool) {
	i := strings.LastIndex(text, sign)
	if i < 0 {
		return text, "", false
	}
	return text[:i], text[i+1:], true
}

// thousands tells whether a sign parts a whole figure's digits in threes: "12,345", not "0,345".
func thousands(bare, sign string) bool {
	for i, part := range strings.Split(strings.TrimPrefix(bare, "-"), sign) {
		if i == 0 && (part == "" || len(part) > 3 || part[0] == '0') || i > 0 && len(part) != 3 {
			return false
		}
	}
	return true
}

// mostDigits is how many digits of a figure a spreadsheet stands for; what it writes beyond them is
// the noise of its arithmetic.
const mostDigits = 15

// shortened is a spreadsheet's figure without digits that it does not stand for:
// 31.249999999999996 is 31.25. Other text, and what is shorter, is as it was.
func shortened(cell string) string {
	digits := strings.Trim(cell, "0123456789.-+eE")
	if len(cell) <= mostDigits || digits != "" || !strings.Contains(cell, ".") {
		return cell
	}
	v, err := strconv.ParseFloat(cell, 64)
	if err != nil || math.Abs(v) >= 1e15 {
		return cell
	}
	v, err = strconv.ParseFloat(strconv.FormatFloat(v, 'g', mostDigits, 64), 64)
	if err != nil {
		return cell
	}
	return strconv.FormatFloat(v, 'f', -1, 64)
}
