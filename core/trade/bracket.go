package trade

import "strings"

// cutBracket cuts "0.05 0.06", "0.05/0.06" or "0.05 mm / 0.06 mm" in two. A fraction
// of an inch such as "1/16" is one size, not two, so the slash needs spaces around it
// unless both sides have a decimal sign.
func cutBracket(text string) (goes, nogo string, ok bool) {
	text = strings.TrimSpace(text)
	if a, b, found := strings.Cut(text, " / "); found {
		return a, b, true
	}
	if a, b, found := strings.Cut(text, "/"); found && strings.ContainsAny(a, ".,") {
		return strings.TrimSpace(a), strings.TrimSpace(b), true
	}
	parts := strings.Fields(text)
	switch {
	case len(parts) == 2 && startsNumber(parts[1]):
		return parts[0], parts[1], true
	case len(parts) == 3 && startsNumber(parts[1]): // "0.05 0.06 mm": the unit is for both
		return parts[0] + parts[2], parts[1] + parts[2], true
	case len(parts) == 4 && startsNumber(parts[2]):
		return parts[0] + parts[1], parts[2] + parts[3], true
	}
	return "", "", false
}

func startsNumber(s string) bool {
	return strings.ContainsAny(s[:1], ".,0123456789")
}
