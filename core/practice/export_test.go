package practice

// What tests look at from outside.
var (
	Rounded = rounded
	Between = between
)
