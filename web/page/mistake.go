package page

// Mistake is something wrong in a long form, told on top of it too with a link to its field.
type Mistake struct {
	Field string // its name in the form
	Label string // what the field is called on the page
	Says  string
}
