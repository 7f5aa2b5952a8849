package shop

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/trade"
	"yatai/store"
)

// RecordWork writes an operation's record, once or for a position, and judges it. What
// fails stops the operation and asks the lead. Errors are keyed "rec/POSITION/FIELD".
func (s *Shop) RecordWork(ctx context.Context, a Actor, writeID, tag string, seq int, rows map[string]map[string]string) error {
	if err := a.must("work an operation"); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, f *File) error {
		o, err := f.operation(seq)
		if err != nil {
			return err
		}
		form := recordOf(o.Code)
		if form == nil {
			return ErrNotFound
		}
		if o.State != "running" && o.State != "held" && o.State != "done" {
			return field.Errors{at(seq): "start it first"}
		}
		if f.ClosedAt != nil {
			return field.Errors{at(seq): "this head is closed: its records stand"}
		}
		errs := field.Errors{}
		var bad []string
		for position, v := range rows {
			if form.Each && !slices.Contains(o.At(), position) || !form.Each && position != "" {
				return ErrNotFound
			}
			err := form.Check(v)
			var said trade.Judged
			if err == nil {
				said, err = form.Judge(v, judge.RecordCase{Head: f.Subject, Position: position})
			}
			if err != nil {
				errs.Add("rec/"+position+"/"+fieldOf(err), err)
				continue
			}
			if err := s.recordReadings(tx, a, f, form, writeID, position, v); err != nil {
				return err
			}
			okay, say := said.OK, strings.TrimSpace(said.Says+" "+said.Warn)
			v["says"] = say
			data, err := json.Marshal(v)
			if err != nil {
				return err
			}
			if !okay {
				bad = append(bad, strings.TrimSpace(position+" "+say))
			}
			if err := tx.Add(&store.OpRecord{OperationID: o.ID, Kind: o.Code, Position: position, Data: string(data), OK: okay, PersonID: a.ID, At: s.now()}); err != nil {
				return err
			}
		}
		if len(rows) == 0 {
			errs.Addf(at(seq), "nothing was written down")
		}
		if err := errs.Err(); err != nil {
			return err
		}
		if bad != nil && o.State == "running" {
			slices.Sort(bad)
			if _, err := tx.HoldOperation(o.ID, strings.Join(bad, "; ")); err != nil {
				return err
			}
		}
		return s.note(tx, a, f.ID, "recorded", o.Code)
	})
}

// recordOf is the form of an operation's record, nil when it has none.
func recordOf(code string) *trade.Record {
	if k := trade.OperationNamed(code); k != nil {
		return k.Record
	}
	return nil
}

// recordReadings writes what a record says as readings too: both are one and the same data.
// It takes the shop's first tool of the kind; without one there is only the record.
func (s *Shop) recordReadings(tx store.DB, a Actor, f *File, form *trade.Record, writeID, position string, v trade.Values) error {
	for n, r := range head.FieldReadings(form, head.Record{Position: position, Values: v}) {
		c, _ := trade.ByCode(r.Of)
		i := slices.IndexFunc(f.Tools, func(t store.Tool) bool { return slices.Contains(c.Tools, t.Kind) })
		if i < 0 {
			continue
		}
		t := f.Tools[i]
		row := store.Reading{
			ClientID: hashToken(fmt.Sprint(writeID, "/", position, "/", n))[:40], HeadID: f.ID, Characteristic: r.Of, Position: r.Spot.Position, Place: r.Spot.Place, Dir: r.Spot.Dir, Stage: AfterRepair,
			Typed: r.Typed, NM: r.Value.At, U: head.Tool{U: t.U, PPM: t.UPPM}.Doubt(r.Value.At), ToolID: t.ID, Method: "record", PersonID: a.ID, At: s.now(),
		}
		if old, ok := f.Standing(AfterRepair)[spotKey(row)]; ok {
			if old.NM == row.NM {
				continue
			}
			row.Supersedes, row.Why = &old.ID, "recorded again"
		}
		if err := tx.Add(&row); err != nil {
			return err
		}
		row.Tool = &t
		f.add(row)
	}
	return nil
}

// unrecorded says what of an operation's record is still missing or fails, "" when nothing is.
func (f *File) unrecorded(o store.Operation) string {
	form := recordOf(o.Code)
	if form == nil {
		return ""
	}
	at := []string{""}
	if form.Each {
		at = o.At()
	}
	var lacks, fails []string
	for _, id := range at {
		r, ok := f.Recorded(o.Code, id)
		switch {
		case !ok:
			lacks = append(lacks, id)
		case !r.OK:
			fails = append(fails, strings.TrimSpace(id+" "+RecordSays(r)))
		}
	}
	switch {
	case fails != nil:
		return "its record fails: " + strings.Join(fails, "; ")
	case lacks != nil:
		return strings.TrimSpace("write its record down first " + strings.Join(lacks, " "))
	}
	return ""
}

// fieldOf is the field an error names.
func fieldOf(err error) string {
	name, _, _ := strings.Cut(err.Error(), ":")
	return name
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

// RecordSays is what a record comes to in words.
func RecordSays(r store.OpRecord) string {
	var v map[string]string
	if json.Unmarshal([]byte(r.Data), &v) != nil {
		return ""
	}
	return v["says"]
}
