package shop

import (
	"bytes"
	"encoding/csv"
	"regexp"
	"slices"
	"strings"

	"yatai/core/field"
)

// The texts of the mail that brings a quote, until the shop has its own. Words in braces are
// filled in.
const (
	usualMailSubject = "{kind} {version} for tag {tag}"
	usualMailText    = "Your {model}, our tag {tag}: we have looked at it and written down what it needs and why.\n\n" +
		"See it, and say yes or no line by line, until {until}:\n{link}\n\n{shop}"
)

// mailWords are what can be filled into the texts of a mail.
var mailWords = []string{"kind", "version", "tag", "model", "customer", "until", "link", "shop"}

var inBraces = regexp.MustCompile(`\{([^{}]*)\}`)

// CheckFilled refuses words in braces that are none of those that are filled in.
func CheckFilled(text string, words ...string) error {
	for _, m := range inBraces.FindAllStringSubmatch(text, -1) {
		if !slices.Contains(words, m[1]) {
			return field.Errorf("", "nothing fills in {%s}: there are {%s}", m[1], strings.Join(words, "}, {"))
		}
	}
	return nil
}

// checkMailText is CheckFilled of the mail with a quote.
func checkMailText(text string) error { return CheckFilled(text, mailWords...) }

// checkMailSubject also wants it to be one line.
func checkMailSubject(text string) error {
	if strings.ContainsAny(text, "\r\n") {
		return field.Errorf("", "one line")
	}
	return checkMailText(text)
}

// checkMailBody also wants the link in it: without it nobody can answer.
func checkMailBody(text string) error {
	if err := checkMailText(text); err != nil {
		return err
	}
	if !strings.Contains(text, "{link}") {
		return field.Errorf("", "the customer needs the {link} in it")
	}
	return nil
}

// Filled fills words into a text of a mail.
func Filled(text string, words map[string]string) string {
	return inBraces.ReplaceAllStringFunc(text, func(w string) string {
		if said, ok := words[strings.Trim(w, "{}")]; ok {
			return said
		}
		return w
	})
}

// How spreadsheets of the shop's country read a file of comma-separated values.
const (
	commaPoint     = "comma, decimal point"
	semicolonComma = "semicolon, decimal comma"
)

var decimal = regexp.MustCompile(`^-?[0-9]+\.[0-9]+$`)

// CSV writes rows as the shop's spreadsheets read them: apart by commas, or by semicolons with a
// decimal comma and a mark at the head that says how letters are written.
func CSV(set Settings, rows [][]string) ([]byte, error) {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	if set.Get("spreadsheets") == semicolonComma {
		b.WriteString("\ufeff")
		w.Comma = ';'
		told := make([][]string, len(rows))
		for i, row := range rows {
			told[i] = slices.Clone(row)
			for k, cell := range row {
				if decimal.MatchString(cell) {
					told[i][k] = strings.Replace(cell, ".", ",", 1)
				}
			}
		}
		rows = told
	}
	err := w.WriteAll(rows)
	return b.Bytes(), err
}

// Plain keeps a spreadsheet from reading what was typed as a formula. figure is the column, from 0, that
// may begin with a plus because a figure was typed there; -1 for none.
func Plain(cells []string, figure int) []string {
	for i, c := range cells {
		formula := strings.HasPrefix(c, "-") && strings.ContainsAny(c, "()!|")
		if formula || c != "" && strings.ContainsAny(c[:1], "=@\t\r") || strings.HasPrefix(c, "+") && i != figure {
			cells[i] = "'" + c
		}
	}
	return cells
}
