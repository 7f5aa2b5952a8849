package head

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"strings"

	"yatai/core/field"
)

// Bounds on what a file may hold.
const (
	maxList = 20_000
	maxText = 4_000
	maxDeep = 12
)

// fill reads one JSON value into v, strictly: unknown and repeated keys, wrong types, missing
// fields that are tagged need, and lists and texts beyond the bounds are errors that name the
// field. Errors of syntax name the field they stand in.
func fill(data []byte, v any) error {
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	if err := fillValue(d, "", reflect.ValueOf(v).Elem(), 0); err != nil {
		return err
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return field.Errorf("", "something follows after the end of the file")
	}
	return nil
}

func fillValue(d *json.Decoder, path string, v reflect.Value, deep int) error {
	t, err := d.Token()
	if errors.Is(err, io.EOF) {
		return field.Errorf(path, "the file ends too early")
	}
	if err != nil {
		return field.Errorf(path, "not valid JSON: %v", err)
	}
	if deep > maxDeep {
		return field.Errorf(path, "nested too deep")
	}
	if v.Kind() == reflect.Pointer {
		if t == nil {
			return nil
		}
		v.Set(reflect.New(v.Type().Elem()))
		v = v.Elem()
	}
	switch v.Kind() {
	case reflect.Struct:
		return fillObject(d, path, v, t, deep)
	case reflect.Map:
		return fillMap(d, path, v, t, deep)
	case reflect.Slice:
		if t != json.Delim('[') {
			return field.Errorf(path, "must be a list")
		}
		for i := 0; d.More(); i++ {
			if i >= maxList {
				return field.Errorf(path, "more than %d entries", maxList)
			}
			e := reflect.New(v.Type().Elem()).Elem()
			if err := fillValue(d, fmt.Sprintf("%s[%d]", path, i), e, deep+1); err != nil {
				return err
			}
			v.Set(reflect.Append(v, e))
		}
		_, err := d.Token()
		return err
	case reflect.String:
		s, ok := t.(string)
		if !ok {
			return field.Errorf(path, "must be text")
		}
		if len(s) > maxText {
			return field.Errorf(path, "longer than %d characters", maxText)
		}
		v.SetString(s)
	case reflect.Bool:
		b, ok := t.(bool)
		if !ok {
			return field.Errorf(path, "must be true or false")
		}
		v.SetBool(b)
	case reflect.Int, reflect.Int64:
		n, ok := t.(json.Number)
		if !ok {
			return field.Errorf(path, "must be a whole number")
		}
		i, err := n.Int64()
		if err != nil || i > 1e12 || i < -1e12 {
			return field.Errorf(path, "must be a whole number of ordinary size")
		}
		v.SetInt(i)
	default:
		panic("head: no such kind in a head file: " + v.Kind().String())
	}
	return nil
}

func fillObject(d *json.Decoder, path string, v reflect.Value, t json.Token, deep int) error {
	if t != json.Delim('{') {
		return field.Errorf(path, "must be an object")
	}
	seen := map[string]bool{}
	for d.More() {
		t, err := d.Token()
		if err != nil {
			return field.Errorf(path, "not valid JSON: %v", err)
		}
		name, _ := t.(string)
		at := field.Join(path, name)
		i := fieldNamed(v.Type(), name)
		switch {
		case i < 0:
			return field.Errorf(clip(at), "there is no such field here")
		case seen[name]:
			return field.Errorf(at, "is given twice")
		}
		seen[name] = true
		if err := fillValue(d, at, v.Field(i), deep+1); err != nil {
			return err
		}
	}
	if _, err := d.Token(); err != nil {
		return field.Errorf(path, "not valid JSON: %v", err)
	}
	for i := range v.NumField() {
		if _, needed := v.Type().Field(i).Tag.Lookup("need"); needed && !seen[key(v.Type().Field(i))] {
			return field.Errorf(field.Join(path, key(v.Type().Field(i))), "is missing")
		}
	}
	return nil
}

// fieldNamed is which field of a struct has that name in a file; -1 where none has.
func fieldNamed(t reflect.Type, name string) int {
	for i := range t.NumField() {
		if key(t.Field(i)) == name {
			return i
		}
	}
	return -1
}

func fillMap(d *json.Decoder, path string, v reflect.Value, t json.Token, deep int) error {
	if t != json.Delim('{') {
		return field.Errorf(path, "must be an object")
	}
	v.Set(reflect.MakeMap(v.Type()))
	for d.More() {
		t, err := d.Token()
		if err != nil {
			return field.Errorf(path, "not valid JSON: %v", err)
		}
		name, _ := t.(string)
		if len(name) > 100 || v.Len() >= maxList {
			return field.Errorf(clip(path), "more or longer keys than a head file has")
		}
		if v.MapIndex(reflect.ValueOf(name)).IsValid() {
			return field.Errorf(field.Join(path, name), "is given twice")
		}
		e := reflect.New(v.Type().Elem()).Elem()
		if err := fillValue(d, field.Join(path, name), e, deep+1); err != nil {
			return err
		}
		v.SetMapIndex(reflect.ValueOf(name), e)
	}
	_, err := d.Token()
	return err
}

// key is a field's name in JSON.
func key(f reflect.StructField) string {
	name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
	return name
}

// clip keeps a path that somebody else chose to a sensible length.
func clip(path string) string {
	if len(path) > 200 {
		return path[:200]
	}
	return path
}
