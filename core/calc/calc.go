// Package calc is the one door to every calculation of the core: by name, with JSON
// in and JSON out. The command line, the HTTP API and the calculator pages all come
// through Run, so they give the same answer.
//
// A calculation declares itself once, in a table of this package: its name and purpose,
// its formula in words, where it holds, an example, and a function from an input struct
// to an output struct. The input struct's tags are its fields' documentation, units and
// bounds; from them come the strict decoding, the help of the command line, the
// machine-readable description and the form of the page.
//
// Tags of an input field:
//
//	json     its name
//	doc      what it is, in words
//	bound    positive (when absent), nonneg or signed
//	opt      present when the field may be left out; its text is the default
//	bare     present when a quantity is a bare number of its base unit
//	choices  of a text: the words allowed, where its type does not know them
//	max      of a length: the largest that makes sense
//	empty    present when a list may be empty
//	list     present on the list that may stand in the place of its whole object
package calc

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/schema"
)

// Calc is a calculation by name.
type Calc struct {
	Name    string // "rock"
	Title   string // "Rock test to clearance"
	Purpose string // one line
	Formula string // the formula in words, several lines
	Valid   string // where it holds and where it does not
	Source  string // where the rule comes from
	Example string // an input, JSON

	in, out reflect.Type
	run     func(in reflect.Value, unit length.Unit) (any, []Step, error)
}

// Result is an answer: Value marshals to the calculation's JSON, Steps are the worked
// steps with the numbers put in. Input is the calculation's input struct, as decoded.
type Result struct {
	Input any
	Value any
	Steps []Step
}

// Step is one line of the worked answer.
type Step struct {
	What string `json:"what"`
	Sum  string `json:"sum"`
}

// define completes a Calc with its function and the function that works its steps.
func define[I, O any](c Calc, f func(I) (O, error), steps func(*Work, I, O)) Calc {
	c.in, c.out = reflect.TypeFor[I](), reflect.TypeFor[O]()
	c.run = func(in reflect.Value, unit length.Unit) (any, []Step, error) {
		v := in.Interface().(I)
		out, err := f(v)
		if err != nil {
			return nil, nil, err
		}
		w := &Work{unit: unit}
		steps(w, v, out)
		return out, w.steps, nil
	}
	return c
}

// All returns the calculations in the order they are listed.
func All() []Calc { return slices.Clone(registry) }

// Named returns the calculation of that name.
func Named(name string) (Calc, bool) {
	i := slices.IndexFunc(registry, func(c Calc) bool { return c.Name == name })
	if i < 0 {
		return Calc{}, false
	}
	return registry[i], true
}

// Run answers the calculation name for the JSON object input. The error is always a
// *field.Error that names the field, "calc" for an unknown name.
func Run(name string, input []byte) (Result, error) {
	c, ok := Named(name)
	if !ok {
		return Result{}, field.Errorf("calc", "there is no calculation of that name")
	}
	return c.Run(input)
}

// Run answers the calculation for the JSON object input.
func (c Calc) Run(input []byte) (Result, error) {
	in := reflect.New(c.in).Elem()
	unit, err := decode(input, in)
	if err != nil {
		return Result{}, err
	}
	value, steps, err := c.run(in, unit)
	if err != nil {
		return Result{}, field.Under("", err)
	}
	return Result{in.Interface(), value, steps}, nil
}

// JSON returns the answer as indented JSON.
func (r Result) JSON() ([]byte, error) {
	b, err := json.MarshalIndent(r.Value, "", "  ")
	if err != nil {
		return nil, field.Errorf("", "the figures lead to no finite number")
	}
	return append(b, '\n'), nil
}

// Field describes one field of an input.
type Field struct {
	Name string `json:"name"`
	// length, value, number, integer, text, choice, yes/no, object, a quantity's name; "list of ..."
	Type     string   `json:"type"`
	Doc      string   `json:"doc"`
	Units    []string `json:"units,omitempty"`
	Bound    string   `json:"bound,omitempty"`
	Optional bool     `json:"optional,omitempty"`
	Default  string   `json:"default,omitempty"`
	Choices  []string `json:"choices,omitempty"`
	List     bool     `json:"list,omitempty"`
	Depth    int      `json:"depth,omitempty"`  // of a list: how many lists lie in each other
	Fields   []Field  `json:"fields,omitempty"` // of an object, or of a list's objects
}

// Fields describes the calculation's input.
func (c Calc) Fields() []Field { return fieldsOf(c.in) }

var lengthUnits = []string{"mm", "in", "thou", "um", "h", "nm"}

func fieldsOf(t reflect.Type) []Field {
	var out []Field
	for i := range t.NumField() {
		sf := t.Field(i)
		f := Field{Name: sf.Tag.Get("json"), Doc: sf.Tag.Get("doc")}
		f.Default, f.Optional = sf.Tag.Lookup("opt")
		ft := sf.Type
		for ft.Kind() == reflect.Slice {
			f.List, f.Depth, ft = true, f.Depth+1, ft.Elem()
		}
		if ft.Kind() == reflect.Pointer && ft != ratType {
			ft = ft.Elem()
		}
		f.describe(ft, sf.Tag)
		f.Type = strings.Repeat("list of ", f.Depth) + f.Type
		out = append(out, f)
	}
	return out
}

func (f *Field) describe(t reflect.Type, tag reflect.StructTag) {
	bound := tag.Get("bound")
	if bound == "" {
		bound = "positive"
	}
	switch {
	case t == lengthType, t == amountType, t == sizedType:
		f.Type, f.Units, f.Bound = "length", lengthUnits, bound
	case t == valueType:
		f.Type, f.Units = "value", lengthUnits
	case t == ratType || bare(tag):
		f.Type, f.Bound = "number", bound
	case t.Implements(quantityType):
		k := reflect.Zero(t).Interface().(interface{ Kind() quantity.Kind }).Kind()
		f.Type, f.Units, f.Bound = k.Name, k.Units(), tag.Get("bound")
	case t.Kind() == reflect.Struct:
		f.Type, f.Fields = "object", fieldsOf(t)
	case t.Kind() == reflect.Bool:
		f.Type = "yes/no"
	case choices(t, tag) != nil:
		f.Type, f.Choices = "choice", choices(t, tag)
	case t.Kind() == reflect.String:
		f.Type = "text"
	default:
		f.Type, f.Bound = "integer", bound
	}
}

// Description is a calculation as GET /api/calc tells it.
type Description struct {
	Name    string          `json:"name"`
	Title   string          `json:"title"`
	Purpose string          `json:"purpose"`
	Formula string          `json:"formula"`
	Valid   string          `json:"valid"`
	Source  string          `json:"source"`
	Fields  []Field         `json:"fields"`
	Example json.RawMessage `json:"example"`
}

// Describe returns the machine-readable description.
func (c Calc) Describe() Description {
	return Description{
		c.Name, c.Title, c.Purpose, c.Formula, c.Valid, c.Source, c.Fields(), json.RawMessage(c.Example),
	}
}

// Help returns the description for the command line.
func (c Calc) Help() string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: %s\n\n%s\n\n", c.Name, c.Purpose, c.Formula)
	fmt.Fprintf(&b, "Holds: %s\n\nThe rule: %s\n\n", c.Valid, c.Source)
	b.WriteString("Fields:\n")
	helpFields(&b, c.Fields(), "  ")
	fmt.Fprintf(&b, "\nExample:\n  %s\n", c.Example)
	return b.String()
}

func helpFields(b *strings.Builder, fs []Field, indent string) {
	for _, f := range fs {
		notes := []string{f.Type}
		if f.Bound != "" {
			notes = append(
				notes,
				map[string]string{"positive": "more than 0", "nonneg": "0 or more", "signed": "either sign"}[f.Bound],
			)
		}
		if len(f.Choices) > 0 {
			notes = append(notes, strings.Join(f.Choices, " | "))
		}
		if f.Optional {
			note := "optional"
			if f.Default != "" {
				note += ", " + f.Default + " when left out"
			}
			notes = append(notes, note)
		}
		fmt.Fprintf(b, "%s%-18s %s (%s)\n", indent, f.Name, f.Doc, strings.Join(notes, "; "))
		helpFields(b, f.Fields, indent+"  ")
	}
}

// Schemas are the JSON Schemas of what can be asked of the calculations: their list, and the answer of each.
func Schemas() (list, answers []byte, err error) {
	list, err = schema.Of(reflect.TypeFor[[]Description](), schema.Write{}, "Calculations",
		"Every calculation the program has, with its fields.", nil)
	if err != nil {
		return nil, nil, err
	}
	types := map[string]reflect.Type{}
	for _, c := range All() {
		types[c.Name] = c.out
	}
	answers, err = schema.Each(types, schema.Write{}, "Answers of the calculations", "By the calculation's name.")
	return list, answers, err
}
