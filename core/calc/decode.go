package calc

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math/big"
	"reflect"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/valvetrain"
)

// Bounds on what the door lets in.
const (
	maxList   = 10_000
	maxString = 200
)

var (
	lengthType = reflect.TypeFor[length.Length]()
	amountType = reflect.TypeFor[quantity.Amount]() // of a length: the calculations ask for lengths
	ratType    = reflect.TypeFor[*big.Rat]()
	valueType  = reflect.TypeFor[gauge.Value]()
	sizedType  = reflect.TypeFor[valvetrain.Sized]()

	quantityType = reflect.TypeFor[interface{ Kind() quantity.Kind }]()
)

// exact is a quantity to be filled: a *quantity.Newtons and the like.
type exact interface {
	Kind() quantity.Kind
	Set(*big.Rat)
}

// bare tells whether a quantity is given as a bare number of its base unit.
func bare(tag reflect.StructTag) bool { _, is := tag.Lookup("bare"); return is }

// decoder reads one JSON object into a struct by its tags, strictly: unknown and
// repeated keys, missing fields, wrong types, missing units and values out of bounds
// are errors that name the field.
type decoder struct {
	json       *json.Decoder
	inch, mmet int // lengths seen in inch and metric units
}

// decode fills the struct at in from data.
func decode(data []byte, in reflect.Value) (length.Unit, error) {
	d := &decoder{json: json.NewDecoder(bytes.NewReader(data))}
	d.json.UseNumber()
	if err := d.value("", in, ""); err != nil {
		return length.MM, err
	}
	if _, err := d.json.Token(); !errors.Is(err, io.EOF) {
		return length.MM, field.Errorf("", "something follows after the end of the input")
	}
	if d.inch > d.mmet {
		return length.In, nil
	}
	return length.MM, nil
}

// token returns the next token; a syntax error belongs to the field at path.
func (d *decoder) token(path string) (json.Token, error) {
	t, err := d.json.Token()
	if errors.Is(err, io.EOF) {
		return nil, field.Errorf(path, "the input ends too early")
	}
	if err != nil {
		return nil, field.Errorf(path, "not valid JSON: %v", err)
	}
	return t, nil
}

// value reads the next JSON value into v.
func (d *decoder) value(path string, v reflect.Value, tag reflect.StructTag) error {
	t, err := d.token(path)
	if err != nil {
		return err
	}
	if v.Kind() == reflect.Pointer && v.Type() != ratType {
		if t == nil {
			if _, optional := tag.Lookup("opt"); optional {
				return nil
			}
			return field.Errorf(path, "must not be null")
		}
		v.Set(reflect.New(v.Type().Elem()))
		v = v.Elem()
	}
	switch {
	case v.Type() == valueType && t == json.Delim('{'):
		return d.bracket(path, v)
	case v.Type() == valueType:
		var at length.Length
		err := d.scalar(path, reflect.ValueOf(&at).Elem(), `bound:"signed"`, t)
		v.Set(reflect.ValueOf(gauge.Exact(quantity.OfLength(at))))
		return err
	case v.Type() == lengthType || v.Type() == amountType || v.Type() == ratType || v.Type() == sizedType ||
		v.Type().Implements(quantityType):
		return d.scalar(path, v, tag, t)
	case v.Kind() == reflect.Struct && t == json.Delim('[') && listField(v.Type()) >= 0:
		i := listField(v.Type())
		return d.list(path, v.Field(i), v.Type().Field(i).Tag, t)
	case v.Kind() == reflect.Struct:
		return d.object(path, v, t)
	case v.Kind() == reflect.Slice:
		return d.list(path, v, tag, t)
	}
	return d.scalar(path, v, tag, t)
}

// object reads the rest of an object into the fields of v.
func (d *decoder) object(path string, v reflect.Value, t json.Token) error {
	if t != json.Delim('{') {
		return field.Errorf(path, "must be an object")
	}
	seen := map[string]bool{}
	for d.json.More() {
		t, err := d.token(path)
		if err != nil {
			return err
		}
		name, _ := t.(string)
		at := field.Join(path, name)
		f, ok := fieldNamed(v.Type(), name)
		switch {
		case !ok:
			return field.Errorf(clip(at), "there is no such field here")
		case seen[name]:
			return field.Errorf(clip(at), "is given twice")
		}
		seen[name] = true
		if err := d.value(at, v.FieldByIndex(f.Index), f.Tag); err != nil {
			return err
		}
	}
	if _, err := d.token(path); err != nil {
		return err
	}
	for i := range v.NumField() {
		f := v.Type().Field(i)
		name := f.Tag.Get("json")
		if seen[name] {
			continue
		}
		def, optional := f.Tag.Lookup("opt")
		at := field.Join(path, name)
		if !optional {
			return field.Errorf(at, "is missing")
		}
		if def != "" && f.Type == lengthType {
			l, err := length.Parse(def, length.None)
			if err != nil {
				return field.Under(at, err)
			}
			v.Field(i).SetInt(int64(l))
		}
	}
	return nil
}

// bracket reads the rest of {"go":..., "nogo":...} into a gauge.Value.
func (d *decoder) bracket(path string, v reflect.Value) error {
	var b struct {
		Go   length.Length `json:"go" bound:"nonneg"`
		NoGo length.Length `json:"nogo"`
	}
	if err := d.object(path, reflect.ValueOf(&b).Elem(), json.Delim('{')); err != nil {
		return err
	}
	if b.NoGo <= b.Go {
		return field.Errorf(field.Join(path, "nogo"),
			"the leaf that does not go must be thicker than the one that goes")
	}
	v.Set(reflect.ValueOf(gauge.Between(quantity.OfLength(b.Go), quantity.OfLength(b.NoGo))))
	return nil
}

func (d *decoder) list(path string, v reflect.Value, tag reflect.StructTag, t json.Token) error {
	if t != json.Delim('[') {
		return field.Errorf(path, "must be a list")
	}
	for i := 0; d.json.More(); i++ {
		if i >= maxList {
			return field.Errorf(path, "more than %d entries", maxList)
		}
		e := reflect.New(v.Type().Elem()).Elem()
		if err := d.value(fmt.Sprintf("%s[%d]", path, i), e, tag); err != nil {
			return err
		}
		v.Set(reflect.Append(v, e))
	}
	if _, err := d.token(path); err != nil {
		return err
	}
	if v.Len() == 0 && tag.Get("empty") == "" {
		return field.Errorf(path, "the list is empty")
	}
	return nil
}

// scalar reads one token into v.
func (d *decoder) scalar(path string, v reflect.Value, tag reflect.StructTag, t json.Token) error {
	switch {
	case t == nil:
		return field.Errorf(path, "must not be null")
	case v.Type() == lengthType, v.Type() == amountType, v.Type() == sizedType:
		return d.length(path, v, tag, t)
	case v.Type() == ratType:
		n, err := number(path, tag, t)
		v.Set(reflect.ValueOf(n))
		return err
	case v.Type().Implements(quantityType):
		to := v.Addr().Interface().(exact)
		read := withUnit
		if bare(tag) {
			read = func(path string, tag reflect.StructTag, t json.Token, _ quantity.Kind) (*big.Rat, error) {
				return number(path, tag, t)
			}
		}
		n, err := read(path, tag, t, to.Kind())
		to.Set(n)
		return err
	case v.Kind() == reflect.String:
		s, ok := t.(string)
		if !ok {
			return field.Errorf(path, "must be text")
		}
		return text(path, v, tag, s)
	case v.Kind() == reflect.Bool:
		b, ok := t.(bool)
		if !ok {
			return field.Errorf(path, "must be true or false")
		}
		v.SetBool(b)
		return nil
	}
	n, ok := t.(json.Number)
	if !ok {
		return field.Errorf(path, "must be a whole number")
	}
	i, err := n.Int64()
	if err != nil || i > 1e15 || i < -1e15 {
		return field.Errorf(path, "must be a whole number of ordinary size")
	}
	v.SetInt(i)
	return bounded(path, tag, int(min(1, max(-1, i))))
}

func (d *decoder) length(path string, v reflect.Value, tag reflect.StructTag, t json.Token) error {
	s, ok := t.(string)
	if !ok {
		return field.Errorf(path, `must be text with a unit, such as "6.97 mm"`)
	}
	l, err := length.Parse(s, length.None)
	if err != nil {
		return field.Under(path, err)
	}
	if strings.HasSuffix(s, "in") || strings.HasSuffix(s, "thou") || strings.HasSuffix(s, "t") {
		d.inch++
	} else {
		d.mmet++
	}
	if most := tag.Get("max"); most != "" {
		m, err := length.Parse(most, length.None)
		if err != nil {
			return field.Under(path, err)
		}
		if l.Abs() > m {
			return field.Errorf(path, "larger than %s: no head has that size", m)
		}
	}
	if v.Type() == sizedType {
		v.Set(reflect.ValueOf(valvetrain.Sized{Text: s, Size: l}))
	} else {
		v.SetInt(int64(l))
	}
	return bounded(path, tag, int(min(1, max(-1, l))))
}

// number reads a bare number.
func number(path string, tag reflect.StructTag, t json.Token) (*big.Rat, error) {
	n, ok := t.(json.Number)
	if !ok {
		return nil, field.Errorf(path, "must be a number")
	}
	f, err := n.Float64()
	if err != nil || len(n) > 30 || f > 1e9 || f < -1e9 || f != 0 && f < 1e-9 && f > -1e-9 {
		return nil, field.Errorf(path, "must be a number of ordinary size")
	}
	r, _ := new(big.Rat).SetString(n.String())
	return r, bounded(path, tag, r.Sign())
}

// withUnit reads a quantity of a kind with its unit, in the kind's base unit.
func withUnit(path string, tag reflect.StructTag, t json.Token, k quantity.Kind) (*big.Rat, error) {
	s, ok := t.(string)
	if !ok {
		return nil, field.Errorf(path, "must be text with a unit")
	}
	r, err := quantity.Parse(s, k)
	if err != nil {
		return nil, field.Under(path, err)
	}
	if r.Cmp(big.NewRat(1e9, 1)) > 0 || r.Cmp(big.NewRat(-1e9, 1)) < 0 {
		return nil, field.Errorf(path, "must be of ordinary size")
	}
	if _, set := tag.Lookup("bound"); !set {
		return r, nil
	}
	return r, bounded(path, tag, r.Sign())
}

// choices are the words that a text may be: what its type knows, or its tag; nil: any.
func choices(t reflect.Type, tag reflect.StructTag) []string {
	if c, ok := reflect.Zero(t).Interface().(interface{ Choices() []string }); ok {
		return c.Choices()
	}
	if c := tag.Get("choices"); c != "" {
		return strings.Split(c, ",")
	}
	return nil
}

func text(path string, v reflect.Value, tag reflect.StructTag, s string) error {
	if strings.TrimSpace(s) == "" {
		return field.Errorf(path, "nothing was given")
	}
	if len(s) > maxString {
		return field.Errorf(path, "longer than %d characters", maxString)
	}
	if c := choices(v.Type(), tag); c != nil && !slices.Contains(c, s) {
		return field.Errorf(path, "must be one of %s", strings.Join(c, ", "))
	}
	v.SetString(s)
	return nil
}

// bounded checks a sign against the tag's bound; without one a value must be positive.
func bounded(path string, tag reflect.StructTag, sign int) error {
	switch b := tag.Get("bound"); {
	case b == "signed", b == "nonneg" && sign >= 0, sign > 0:
		return nil
	case b == "nonneg":
		return field.Errorf(path, "must not be negative")
	}
	return field.Errorf(path, "must be more than nothing")
}

// listField is the field of t that takes a list given in the place of its object, -1 when
// there is none.
func listField(t reflect.Type) int {
	for i := range t.NumField() {
		if _, here := t.Field(i).Tag.Lookup("list"); here {
			return i
		}
	}
	return -1
}

func fieldNamed(t reflect.Type, name string) (reflect.StructField, bool) {
	for i := range t.NumField() {
		if f := t.Field(i); f.Tag.Get("json") == name {
			return f, true
		}
	}
	return reflect.StructField{}, false
}

// clip keeps a path that somebody else chose to a sensible length.
func clip(path string) string {
	if len(path) > maxString {
		return path[:maxString]
	}
	return path
}
