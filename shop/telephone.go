package shop

import "strings"

// Telephone is what a number is looked for by: its last eight digits, without the zeros in front of a
// place's code, which stand there or not as somebody abroad or beside would dial. Empty for anything
// that is no telephone number, or has fewer than four digits.
func Telephone(text string) string {
	digits := strings.Map(func(r rune) rune {
		switch {
		case r >= '0' && r <= '9':
			return r
		case strings.ContainsRune(" +-/().", r):
			return -1
		}
		return 'x'
	}, text)
	digits = strings.TrimLeft(digits, "0")
	if len(digits) < 4 || strings.Contains(digits, "x") {
		return ""
	}
	return digits[max(0, len(digits)-8):]
}

// HasTelephone tells whether what is kept of how somebody is reached holds a number that is looked for.
func HasTelephone(kept, text string) bool {
	sought := Telephone(text)
	return sought != "" && strings.Contains(strings.Map(func(r rune) rune {
		if r >= '0' && r <= '9' {
			return r
		}
		return -1
	}, kept), sought)
}
