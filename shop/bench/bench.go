// Package bench is what a technician does at the bench: readings in sweeps, graded findings,
// marks, records of tests, zero checks and studies of tools, the tray of parts. Begin with
// Record.
package bench

import (
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Entry is one reading as typed. ClientID is made where it was typed; Why is needed
// when a reading is there already and this one corrects it.
type Entry struct {
	ClientID string
	Spot     trade.Spot
	Text     string
}

// SweepForm is what a sweep writes: one characteristic, one tool, one stage.
type SweepForm struct {
	Characteristic string
	Stage          string
	Tool           uint
	Why            string
	Mode           string // a trade.Mode's code; direct when empty
	Set            string // size set on, or the bar, as typed
	Warm           string // how warm the part is, as "35C" or "95F"; a bare number is degrees C; empty: 20
	Unit           string // what a bare number means in this sweep, mm or in; the sheet's when empty
	Entries        []Entry
}

// Record writes the readings of a sweep, all or none, and returns the sweep as it then
// stands. At a spot that was read before the new reading supersedes the old. Read with another tool
// that doubts no more, or after work there, it is a reading like any other; else it is a correction
// and Why is needed. Errors are keyed by spot ("2E1.top.A"), or "tool", "why", "stage"; the
// sweep comes with them. An entry whose client id is known already is passed over: it was
// written before.
func Record(
	ctx context.Context, s *shop.Shop, a shop.Actor, tag string, f SweepForm,
) (*headfile.File, error) {
	if err := a.Must("record a reading"); err != nil {
		return nil, err
	}
	file, err := headfile.SweepIn(s, s.Store.Read(ctx), tag, f.Characteristic)
	if err != nil {
		return nil, err
	}
	c, ok := file.Characteristic(f.Characteristic)
	if !ok || c.Derived() {
		return nil, shop.ErrNotFound
	}
	rec, errs := Recorder(file, c, f)
	if len(errs) == 0 {
		err = s.Store.Write(ctx, func(tx store.DB) error { return rec.Write(tx, Stamp(s, a)) })
		if !errors.As(err, &errs) && err != nil {
			return nil, err
		}
	}
	file.Judge()
	return file, errs.Err()
}

// stamp says who does something and when.
type stamp struct {
	person uint
	at     time.Time
}

// Stamp returns who writes and when, for readings that are written now.
func Stamp(s *shop.Shop, a shop.Actor) stamp { return stamp{a.ID, s.Now()} }

// recorder writes the entries of one sweep.
type recorder struct {
	file  *headfile.File
	c     trade.Characteristic
	form  SweepForm
	unit  length.Unit // of a bare number
	tool  store.Tool
	entry trade.Entry
	spots []trade.Spot
}

// Bare is what a bare number of the sweep means, on a sheet kept in a unit.
func (f SweepForm) Bare(sheet length.Unit) length.Unit {
	if f.Unit == "" {
		return sheet
	}
	return shop.UnitOf(f.Unit)
}

// Recorder checks how a sweep is read: no number can be read while that is not known.
func Recorder(f *headfile.File, c trade.Characteristic, form SweepForm) (*recorder, field.Errors) {
	errs := field.Errors{}
	form.Why = shop.Optional(errs, "why", form.Why, 200)
	rec := &recorder{file: f, c: c, form: form, unit: form.Bare(f.Unit), spots: c.Spots(f.Layout)}
	if !slices.Contains(headfile.Stages, form.Stage) {
		errs.Addf("stage", "choose when it was read")
	}
	var ok bool
	if rec.tool, ok = headfile.ToolWith(f.Tools, form.Tool); !ok {
		errs.Addf("tool", "choose the tool in your hand")
	} else if rec.tool.RetiredAt != nil {
		errs.Addf("tool", "it is retired: take another")
	}
	if z, checked := f.Checks[rec.tool.ID]; checked && !z.Passed {
		errs.Addf("tool", "it failed its zero check (%s off): set it right and check it again first",
			rec.tool.Text(z.OffNM))
	}
	rec.entry = trade.Entry{Mode: form.Mode, Leaves: rec.tool.Set(), Division: rec.tool.Resolution}
	if m, ok := trade.ModeNamed(form.Mode); form.Mode != "" && !ok {
		errs.Addf("mode", "choose how it is read")
	} else if m.SetLabel != "" {
		var err error
		rec.entry.Set, err = c.Parse(form.Set, rec.unit)
		errs.Add("set", err)
	}
	if warm := strings.TrimSpace(form.Warm); warm != "" {
		if _, err := strconv.ParseFloat(strings.ReplaceAll(warm, ",", "."), 64); err == nil {
			warm += "C"
		}
		var t quantity.Celsius
		switch err := t.Parse(warm); {
		case err != nil:
			errs.Addf("warm", "degrees, like 35 or 95F")
		case t.Float() < -20 || t.Float() > 120:
			errs.Addf("warm", "no part is measured at that")
		}
		rec.entry.Warm = &t
	}
	return rec, errs
}

// Write writes the entries and puts them into the file, all or none. Errors are as
// Record's.
func (rec *recorder) Write(tx store.DB, by stamp) error {
	closed, err := tx.Closed(rec.file.ID)
	if err != nil {
		return err
	}
	if closed {
		return field.Only("stage", "this head is closed: its readings stand")
	}
	later, err := tx.Readings(rec.file.ID, rec.file.UpTo)
	if err != nil {
		return err
	}
	rec.file.Add(slices.DeleteFunc(later, rec.file.Elsewhere)...)
	before := len(rec.file.Readings)
	errs := field.Errors{}
	for _, e := range rec.form.Entries {
		if err = rec.one(tx, errs, by, e); err != nil {
			break
		}
	}
	if err == nil {
		err = errs.Err()
	}
	if err != nil {
		rec.file.Readings, rec.file.ByStage = rec.file.Readings[:before], nil
	}
	return err
}

// one writes one entry, or notes in errs why not.
func (rec *recorder) one(tx store.DB, errs field.Errors, by stamp, e Entry) error {
	key := e.Spot.Key()
	if !slices.Contains(rec.spots, e.Spot) {
		errs.Addf(key, "%s has no such place on this head", words.Of(rec.c.Label))
		return nil
	}
	if len(e.ClientID) < 8 || len(e.ClientID) > shop.MaxID {
		errs.Addf(key, "the form has lost its id: load the page again")
		return nil
	}
	entry := rec.entry
	entry.Made = rec.c.MadeOf(headfile.KindOf(rec.file.Model), headfile.ValveAt(rec.file, e.Spot.Position))
	v, err := rec.c.ReadAs(entry, e.Text, rec.unit)
	if err != nil {
		errs.Add(key, err)
		return nil
	}
	r := store.Reading{
		ClientID:       e.ClientID,
		HeadID:         rec.file.ID,
		Characteristic: rec.c.Code,
		Position:       e.Spot.Position,
		Place:          e.Spot.Place,
		Dir:            e.Spot.Dir,
		Stage:          rec.form.Stage,
		Typed:          strings.TrimSpace(e.Text),
		NM:             v.At,
		GoNM:           v.Go,
		NoGoNM:         v.NoGo,
		Bracket:        v.Bracket,
		ToolID:         rec.tool.ID,
		Method:         "direct",
		PersonID:       by.person,
		At:             by.at,
	}
	r.Typed = rec.said(entry, r.Typed, v)
	if !v.Bracket { // the bracket itself is the doubt
		r.U = rec.tool.Doubt(v.At)
	}
	if v.Bracket && rec.c.Bracket {
		r.Method = "bracket"
	} else if worked := entry.Worked(r.Typed, v.At, rec.c.UnitFor(rec.unit)); worked != "" {
		if r.Method = entry.Mode; entry.Warm != nil && (r.Method == "" || r.Method == "direct") {
			r.Method = "warm"
		}
		r.Typed = worked
	}
	if before, err := tx.ReadingByClient(e.ClientID); err == nil {
		if before.HeadID != r.HeadID || before.NM != r.NM || before.NoGoNM != r.NoGoNM ||
			before.ToolID != r.ToolID {
			errs.Addf(key, "this reading was sent before with another value: load the page again")
		}
		return nil
	}
	if !rec.stands(errs, key, &r) {
		return nil
	}
	if len(errs) > 0 {
		return nil
	}
	if err := tx.Add(&r); err != nil {
		return err
	}
	rec.file.Add(r)
	return nil
}

// stands tells whether a reading is one beside what stands at its spot: it says something new, and why where
// it takes another's place.
func (rec *recorder) stands(errs field.Errors, key string, r *store.Reading) bool {
	old, ok := rec.file.Standing(r.Stage)[headfile.SpotKey(*r)]
	if !ok {
		return true
	}
	if rec.same(old, *r) {
		return false // however it was typed, it says nothing new
	}
	r.Supersedes, r.Why = &old.ID, rec.form.Why
	if r.Why == "" {
		r.Why = rec.again(old, *r)
	}
	switch {
	case r.Why != "":
		return true
	case old.ToolID != r.ToolID:
		errs.Addf(key, "%s has read it already as %s, with less doubt: say below why this is better",
			words.Of(rec.toolName(old)), words.Of(old.Typed))
	default:
		errs.Addf(key, "it was read before as %s: say below why this corrects it", old.Typed)
	}
	return false
}

// said is what was typed as it is kept: with its unit where a bare number would mean another one when it is
// read again, and with both leaves where one was typed.
func (rec *recorder) said(entry trade.Entry, typed string, v gauge.Value) string {
	switch {
	case len(entry.Leaves) > 0 && rec.c.Alone(typed):
		return rec.c.Named(rec.c.Show(v.Go, rec.unit)+" "+rec.c.Show(v.NoGo, rec.unit), rec.unit)
	case rec.unit != rec.file.Unit && (entry.Mode == "" || entry.Mode == "direct"):
		return rec.c.Named(typed, rec.unit)
	}
	return typed
}

// same tells whether a reading is what stands there already: the same size by the same tool, with
// nothing done since and no reason given.
func (rec *recorder) same(old, r store.Reading) bool {
	return old.NM == r.NM && old.GoNM == r.GoNM && old.NoGoNM == r.NoGoNM && old.Bracket == r.Bracket &&
		old.ToolID == r.ToolID &&
		strings.TrimSpace(rec.form.Why) == "" && !rec.file.Worked(old)
}

// again is why a reading takes the place of one of the same stage without being a correction: a tool
// with no more doubt reads it after another, or work has changed the place since. Empty when it is one.
func (rec *recorder) again(old, r store.Reading) string {
	switch {
	case old.ToolID != r.ToolID && doubt(r) <= doubt(old):
		return "read with another tool"
	case rec.file.Worked(old):
		return "read again after work"
	}
	return ""
}

// doubt is how far from its reading a value may be: half the bracket where that is all that is known.
func doubt(r store.Reading) quantity.Amount {
	if r.Bracket {
		return (r.NoGoNM - r.GoNM).Abs() / 2
	}
	return r.U
}

// toolName is the name of the tool of a reading.
func (rec *recorder) toolName(r store.Reading) string {
	t, _ := headfile.ToolWith(rec.file.Tools, r.ToolID)
	return t.Name
}
