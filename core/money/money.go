// Package money reads and writes amounts of money: whole cents, exactly.
package money

import (
	"fmt"
	"strconv"
	"strings"

	"yatai/core/field"
)

// Parse reads an amount of money, "1,250.00" or "1250,5", in whole cents, not negative.
func Parse(text string) (int64, error) {
	text = strings.TrimSpace(text)
	if strings.Contains(text, ".") {
		text = strings.ReplaceAll(text, ",", "")
	}
	whole, frac, _ := strings.Cut(strings.ReplaceAll(text, ",", "."), ".")
	if len(frac) > 2 || whole == "" && frac == "" {
		return 0, field.Errorf("", "an amount like 125.50")
	}
	n, err := strconv.ParseUint(whole+(frac + "00")[:2], 10, 40)
	if err != nil {
		return 0, field.Errorf("", "an amount like 125.50")
	}
	return int64(n), nil
}

// Text writes whole cents: "1250.50".
func Text(cents int64) string {
	sign := ""
	if cents < 0 {
		sign, cents = "-", -cents
	}
	return fmt.Sprintf("%s%d.%02d", sign, cents/100, cents%100)
}

// Share is n times ppm millionths, halves up; n and ppm not negative.
func Share(n, ppm int64) int64 { return Div(n*ppm, 1_000_000) }

// Div divides, halves up.
func Div(n, by int64) int64 { return (n + by/2) / by }
