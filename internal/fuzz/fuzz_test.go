package fuzz

import (
	"encoding/json"
	"errors"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"yatai/core/calc"
	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/schedule"
	"yatai/shop/table"
)

// FuzzDoor looks for a panic of a calculation, and for an answer that is not JSON.
func FuzzDoor(f *testing.F) {
	for _, c := range calc.All() {
		f.Add(c.Name, c.Example)
		f.Add(c.Name, strings.ReplaceAll(c.Example, "mm", "in"))
	}
	f.Fuzz(func(t *testing.T, name, input string) {
		r, err := calc.Run(name, []byte(input))
		if err != nil {
			var fe *field.Error
			if !errors.As(err, &fe) || fe.Message() == "" {
				t.Fatal("an error without a message")
			}
			return
		}
		if b, err := r.JSON(); err == nil && !json.Valid(b) {
			t.Fatalf("not JSON: %s", b)
		}
	})
}

// FuzzDecode reads any text as a head file: what was read can be written and read again.
func FuzzDecode(f *testing.F) {
	files, _ := filepath.Glob("../../core/answer/testdata/0*.json")
	if len(files) == 0 {
		f.Fatal("no head to begin with")
	}
	for _, name := range files {
		data, err := os.ReadFile(name)
		if err != nil {
			f.Fatal(err)
		}
		var s struct{ Head json.RawMessage }
		if err := json.Unmarshal(data, &s); err != nil {
			f.Fatal(err)
		}
		f.Add([]byte(s.Head))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		h, err := head.Decode(data)
		if err != nil {
			return
		}
		text, err := head.Encode(h).JSON()
		if err != nil {
			t.Fatal(err)
		}
		if _, err = head.Decode(text); err != nil {
			t.Fatalf("what was read cannot be written and read again: %v", err)
		}
	})
}

// FuzzParse reads any text as a length.
func FuzzParse(f *testing.F) {
	for _, s := range []string{"3.5 thou", "0,2795 in", "1 1/2 thou", "-0.05mm", "1.2.3", "3/8in", "−1 µm", "1e9mm"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		l, err := length.Parse(s, length.MM)
		if err != nil {
			if l != 0 {
				t.Fatalf("%q: an error and a length", s)
			}
			return
		}
		if l.Abs() > length.Max {
			t.Fatalf("%q is too long", s)
		}
		if !strings.ContainsAny(s, "0123456789") {
			t.Fatalf("%q has no digit and became %s", s, l)
		}
	})
}

// FuzzParseHours reads any text as hours of work: what was read can be written and read again.
func FuzzParseHours(f *testing.F) {
	f.Add("Mon-Thu 8:00-12:00 12:30-16:30; Fri 8:00-13:00")
	f.Add("Mon 00:00-00:10")
	f.Fuzz(func(t *testing.T, text string) {
		h, err := schedule.ParseHours(text)
		if err != nil {
			return
		}
		again, err := schedule.ParseHours(h.String())
		if err != nil {
			t.Fatalf("%s: %v", h, err)
		}
		for d := range h {
			if !slices.Equal(h[d], again[d]) {
				t.Fatalf("%q as %q", text, h)
			}
		}
	})
}

// FuzzTable reads any file as a table: one that is not refused has rows.
func FuzzTable(f *testing.F) {
	f.Add([]byte("name;email\nx;y\n"))
	f.Add([]byte("\ufeffkind,name,size,count\nvalve,a,1,2\n"))
	f.Fuzz(func(t *testing.T, file []byte) {
		x, err := table.Read(strings.NewReader(string(file)))
		if err == nil && (len(x.Rows) == 0 || len(x.Lines) != len(x.Rows)) {
			t.Fatal("nothing read, and nothing said")
		}
	})
}
