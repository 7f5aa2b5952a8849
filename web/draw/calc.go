package draw

import "html/template"

// Calc draws what explains a calculation's answer: the drawing named, from its input and
// output in JSON. A calculation without a drawing gets none.
func Calc(name string, input, output []byte) template.HTML {
	d, ok := drawings[name]
	if !ok {
		return ""
	}
	return d(input, output)
}

// drawings are the drawings of the calculators, by name.
var drawings = map[string]func(input, output []byte) template.HTML{}
