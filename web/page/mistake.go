package page

import "strings"

// Anchor is how a part of a page is named in its address: "the-shop".
func Anchor(name string) string { return strings.ReplaceAll(strings.ToLower(name), " ", "-") }

// Mistake is something wrong in a long form, told on top of it too with a link to its field.
type Mistake struct {
	Field string // its name in the form
	Label string // what the field is called on the page
	Says  string
}
