package headfile

import (
	"encoding/json"
	"slices"
	"strings"

	"yatai/core/trade"
	"yatai/core/words"
	"yatai/store"
)

// RecordOf is the form of an operation's record on this head, nil when it has none.
func (f *File) RecordOf(code string) *trade.Record {
	if k := trade.OperationNamed(code); k != nil {
		return f.Subject.Sheet.Record(k)
	}
	return nil
}

// Unrecorded says what of an operation's record is still missing or fails, "" when nothing is.
func (f *File) Unrecorded(o store.Operation) words.Text {
	form := f.RecordOf(o.Code)
	if form == nil {
		return words.Text{}
	}
	at := []string{""}
	if form.Each {
		at = o.At()
	}
	var lacks []string
	var fails []words.Text
	for _, id := range at {
		r, ok := f.Recorded(o.Code, id)
		switch {
		case !ok:
			lacks = append(lacks, id)
		case !r.OK && form.Ticked():
			return RecordSays(r)
		case !r.OK:
			fails = append(fails, words.Join(" ", words.Of(id), RecordSays(r)))
		}
	}
	switch {
	case fails != nil:
		return words.Of("its record fails: %s", words.Join("; ", fails...))
	case strings.Join(lacks, "") != "":
		return words.Of("write its record down first %s", strings.Join(lacks, " "))
	case lacks != nil:
		return words.Of("write its record down first")
	}
	return words.Text{}
}

// HasFailed tells whether an operation is done and its record says that it failed.
func (f *File) HasFailed(o store.Operation) bool { return o.State == "done" && len(f.Failed(o)) > 0 }

// Failed are the positions, "" the whole head, at which an operation's own record says that it failed; none
// while something of the record is still missing.
func (f *File) Failed(o store.Operation) []string {
	form := f.RecordOf(o.Code)
	if form == nil || form.Ticked() {
		return nil
	}
	at := []string{""}
	if form.Each {
		at = o.At()
	}
	var out []string
	for _, id := range at {
		i := slices.IndexFunc(
			f.Records, func(r store.OpRecord) bool { return r.OperationID == o.ID && r.Position == id },
		)
		if _, ok := f.Recorded(o.Code, id); !ok {
			return nil
		}
		for n := len(f.Records) - 1; i >= 0 && n >= i; n-- {
			if r := f.Records[n]; r.OperationID == o.ID && r.Position == id {
				if !r.OK {
					out = append(out, id)
				}
				break
			}
		}
	}
	return out
}

// Recorded returns the last record of an operation's kind at a position, and whether there
// is one.
func (f *File) Recorded(code, position string) (store.OpRecord, bool) {
	for _, r := range slices.Backward(f.Records) {
		if r.Kind == code && r.Position == position {
			return r, true
		}
	}
	return store.OpRecord{}, false
}

// RecordSays is what a record comes to, for any language. Older ones have it in English among their fields.
func RecordSays(r store.OpRecord) words.Text {
	var v map[string]string
	_ = json.Unmarshal([]byte(r.Data), &v) // damaged: it says nothing
	return words.Back(r.Said, v["says"])
}

// ChargedTo names an operation as what a comeback is charged to: "work: new guides".
func ChargedTo(o *trade.Operation) string { return "work: " + strings.ToLower(o.Name) }
