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

// Signs are those that can stand before decimals.
var Signs = []string{".", ","}

// DecimalOf finds which sign stands before the decimals of a column's figures, a point or a comma: by those
// that can be read in one way only. Where no cell tells, and there is one like 1.234 that is either more than
// a thousand or a little more than one, it is empty, and sign is what that has.
func DecimalOf(cells []string) (decimal, sign string) {
	for _, c := range cells {
		m := figure.FindStringSubmatch(bare(c))
		if m == nil {
			continue
		}
		switch has, evident := signOf(m[1]); {
		case has == "":
		case evident:
			return has, ""
		default:
			sign = has
		}
	}
	return "", sign
}

// signOf is the sign before a figure's decimals, and whether it can be no other: both signs in one figure,
// and the last is before the decimals; one sign twice parts thousands, and the other would be; one sign once
// can part thousands only where three digits follow it and one to three, no zero first, stand before it. A
// figure without a sign has none.
func signOf(bare string) (sign string, evident bool) {
	sign, other := ".", ","
	if strings.LastIndex(bare, other) > strings.LastIndex(bare, sign) {
		sign, other = other, sign
	}
	before, _, found := cutLast(bare, sign)
	switch {
	case !found:
		return "", true
	case strings.Contains(before, other):
		return sign, true
	case strings.Contains(before, sign):
		return other, true
	}
	return sign, !thousands(bare, sign)
}

// bare is a text without blanks, what parts thousands beside them, and the sign of a currency.
func bare(text string) string {
	return strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Sc, r) || unicode.IsSpace(r) || r == '\'' || r == '’' {
			return -1
		}
		return r
	}, text)
}

// Figure rewrites a figure of a table as "1234.5": without what parts its thousands, its currency and its
// blanks, a point before its decimals. One like 1.234, which can be read in two ways, is read by the sign
// that stands before the decimals of its column; a spreadsheet's own has a point there.
func (t Table) Figure(text, decimal string) (string, error) {
	wrong := field.Errorf("", "%s is no figure like 1234.50", text)
	m := figure.FindStringSubmatch(bare(text))
	if m == nil {
		return "", wrong
	}
	sign, evident := signOf(m[1])
	if !evident {
		if sign = decimal; t.Sheet && strings.Contains(m[1], ".") {
			sign = "."
		}
		if sign == "" {
			return "", field.Errorf("", "is %s more than a thousand, or not? Say it at its column", text)
		}
	}
	if sign == "" {
		return m[1], nil
	}
	other := strings.Trim(".,", sign)
	before, after, found := cutLast(m[1], sign)
	if strings.Contains(before, sign) || strings.Contains(after, other) ||
		strings.Contains(before, other) && !thousands(before, other) {
		return "", wrong
	}
	whole := strings.ReplaceAll(before, other, "")
	if !found {
		return whole, nil
	}
	return whole + "." + after, nil
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
