package bench

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
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// RecordWork writes an operation's record, once or for a position, and judges it. What
// fails stops the operation and asks the lead. Errors are keyed "rec/POSITION/FIELD".
func RecordWork(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, seq int,
	rows map[string]map[string]string,
) error {
	if err := a.Must("work an operation"); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		o, err := f.Operation(seq)
		if err != nil {
			return err
		}
		return KeepRecord(s, tx, a, f, writeID, o, rows)
	})
}

// KeepRecord is RecordWork within a transaction, under the id of the write.
func KeepRecord(
	s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, under string, o store.Operation,
	rows map[string]map[string]string,
) error {
	form := f.RecordOf(o.Code)
	if form == nil {
		return shop.ErrNotFound
	}
	if o.State != "running" && o.State != "held" && o.State != "done" {
		return field.Only(headfile.OperationKey(o.Seq), "start it first")
	}
	if f.ClosedAt != nil {
		return field.Only(headfile.OperationKey(o.Seq), "this head is closed: its records stand")
	}
	errs := field.Errors{}
	var bad []words.Text
	for position, v := range rows {
		if form.Each && !slices.Contains(o.At(), position) || !form.Each && position != "" {
			return shop.ErrNotFound
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
		if err := recordReadings(s, tx, a, f, form, under, position, v); err != nil {
			return err
		}
		say := said.All()
		data, err := json.Marshal(v)
		if err != nil {
			return err
		}
		if !said.OK && !form.Ticked() {
			bad = append(bad, words.Join(" ", words.Of(position), say))
		}
		if err := tx.Add(&store.OpRecord{
			OperationID: o.ID, Kind: o.Code, Position: position, Data: string(data), Said: say.Kept(), OK: said.OK,
			PersonID: a.ID, At: s.Now(),
		}); err != nil {
			return err
		}
	}
	if len(rows) == 0 {
		errs.Addf(headfile.OperationKey(o.Seq), "nothing was written down")
	}
	if err := errs.Err(); err != nil {
		return err
	}
	if bad != nil && o.State == "running" {
		slices.SortFunc(bad, func(a, b words.Text) int { return strings.Compare(a.String(), b.String()) })
		if _, err := tx.EndStints(o.ID, 0, s.Now()); err != nil {
			return err
		}
		if _, err := tx.HoldOperation(o.ID, words.Join("; ", bad...)); err != nil {
			return err
		}
	}
	return s.Note(tx, a, f.ID, "recorded", headfile.OperationName(o.Code))
}

// recordReadings writes what a record says as readings too: both are one and the same data.
// It takes the shop's first tool of the kind; without one there is only the record.
func recordReadings(
	s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, form *trade.Record,
	writeID, position string, v trade.Values,
) error {
	for n, r := range head.FieldReadings(form, head.Record{Position: position, Values: v}) {
		c, _ := trade.ByCode(r.Of)
		i := slices.IndexFunc(
			f.Tools, func(t store.Tool) bool { return t.RetiredAt == nil && slices.Contains(c.Tools, t.Kind) },
		)
		if i < 0 {
			continue
		}
		t := f.Tools[i]
		row := store.Reading{
			ClientID:       shop.HashToken(fmt.Sprint(writeID, "/", position, "/", n))[:40],
			HeadID:         f.ID,
			Characteristic: r.Of,
			Position:       r.Spot.Position,
			Place:          r.Spot.Place,
			Dir:            r.Spot.Dir,
			Stage:          headfile.AfterRepair,
			Typed:          r.Typed,
			NM:             r.Value.At,
			U:              t.Doubt(r.Value.At),
			ToolID:         t.ID,
			Method:         "record",
			PersonID:       a.ID,
			At:             s.Now(),
		}
		if old, ok := f.Standing(headfile.AfterRepair)[headfile.SpotKey(row)]; ok {
			if old.NM == row.NM && !f.Worked(old) {
				continue
			}
			row.Supersedes, row.Why = &old.ID, "recorded again"
		}
		if err := tx.Add(&row); err != nil {
			return err
		}
		row.Tool = &t
		f.Add(row)
	}
	return nil
}

// fieldOf is the field an error names.
func fieldOf(err error) string {
	name, _, _ := strings.Cut(err.Error(), ":")
	return name
}
