package shop

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/trade"
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
	Unit           string // what a bare number means in this sweep, mm or in; the sheet's when empty
	Entries        []Entry
}

// Record writes the readings of a sweep, all or none, and returns the sweep as it then
// stands. A spot that was read before is corrected: the new reading supersedes the old and
// Why is needed. Errors are keyed by spot ("2E1.top.A"), or "tool", "why", "stage"; the
// sweep comes with them. An entry whose client id is known already is passed over: it was
// written before.
func (s *Shop) Record(ctx context.Context, a Actor, tag string, f SweepForm) (*File, error) {
	if err := a.must("record a reading"); err != nil {
		return nil, err
	}
	file, err := s.bench(s.st.Read(ctx), tag, f.Characteristic)
	if err != nil {
		return nil, err
	}
	c, ok := file.Characteristic(f.Characteristic)
	if !ok || c.Derived() {
		return nil, ErrNotFound
	}
	rec, errs := file.recorder(c, f)
	if len(errs) == 0 {
		err = s.st.Write(ctx, func(tx store.DB) error { return rec.write(tx, s.stamp(a)) })
		if !errors.As(err, &errs) && err != nil {
			return nil, err
		}
	}
	file.judge()
	return file, errs.Err()
}

// stamp says who does something and when.
type stamp struct {
	person uint
	at     time.Time
}

func (s *Shop) stamp(a Actor) stamp { return stamp{a.ID, s.now()} }

// recorder writes the entries of one sweep.
type recorder struct {
	file  *File
	c     trade.Characteristic
	form  SweepForm
	unit  length.Unit // of a bare number
	tool  store.Tool
	entry trade.Entry
	spots []trade.Spot
}

// recorder checks how a sweep is read: no number can be read while that is not known.
func (f *File) recorder(c trade.Characteristic, form SweepForm) (*recorder, field.Errors) {
	errs := field.Errors{}
	form.Why = optional(errs, "why", form.Why, 200)
	rec := &recorder{file: f, c: c, form: form, unit: f.Unit, spots: c.Spots(f.Layout)}
	if form.Unit != "" {
		rec.unit = unitOf(form.Unit)
	}
	if !slices.Contains(Stages, form.Stage) {
		errs.Addf("stage", "choose when it was read")
	}
	var ok bool
	if rec.tool, ok = toolWith(f.Tools, form.Tool); !ok {
		errs.Addf("tool", "choose the tool in your hand")
	}
	if z, checked := f.Checks[rec.tool.ID]; checked && !z.Passed {
		errs.Addf("tool", "it failed its zero check (%s off): set it right and check it again first", z.OffNM)
	}
	rec.entry = trade.Entry{Mode: form.Mode, Division: rec.tool.Resolution}
	if m, ok := trade.ModeNamed(form.Mode); form.Mode != "" && !ok {
		errs.Addf("mode", "choose how it is read")
	} else if m.SetLabel != "" {
		var err error
		rec.entry.Set, err = c.Parse(form.Set, c.UnitFor(rec.unit))
		errs.Add("set", err)
	}
	return rec, errs
}

// write writes the entries and puts them into the file, all or none. Errors are as
// Record's.
func (rec *recorder) write(tx store.DB, by stamp) error {
	closed, err := tx.Closed(rec.file.ID)
	if err != nil {
		return err
	}
	if closed {
		return field.Errors{"stage": "this head is closed: its readings stand"}
	}
	later, err := tx.Readings(rec.file.ID, rec.file.upTo)
	if err != nil {
		return err
	}
	rec.file.add(slices.DeleteFunc(later, rec.file.elsewhere)...)
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
		rec.file.Readings, rec.file.standing = rec.file.Readings[:before], nil
	}
	return err
}

// add puts later readings into the file.
func (f *File) add(later ...store.Reading) {
	for _, r := range later {
		if t, ok := toolWith(f.Tools, r.ToolID); ok {
			r.Tool = &t
		}
		f.Readings = append(f.Readings, r)
		f.Standing(r.Stage)[spotKey(r)] = r
	}
}

// one writes one entry, or notes in errs why not.
func (rec *recorder) one(tx store.DB, errs field.Errors, by stamp, e Entry) error {
	key := e.Spot.Key()
	if !slices.Contains(rec.spots, e.Spot) {
		errs.Addf(key, "%s has no such place on this head", rec.c.Label)
		return nil
	}
	if len(e.ClientID) < 8 || len(e.ClientID) > maxID {
		errs.Addf(key, "the form has lost its id: load the page again")
		return nil
	}
	v, err := rec.c.ReadAs(rec.entry, e.Text, rec.unit)
	if err != nil {
		errs.Add(key, err)
		return nil
	}
	r := store.Reading{
		ClientID: e.ClientID, HeadID: rec.file.ID, Characteristic: rec.c.Code, Position: e.Spot.Position, Place: e.Spot.Place, Dir: e.Spot.Dir,
		Stage: rec.form.Stage, Typed: strings.TrimSpace(e.Text), NM: v.At, GoNM: v.Go, NoGoNM: v.NoGo, Bracket: v.Bracket,
		ToolID: rec.tool.ID, Method: "direct", PersonID: by.person, At: by.at,
	}
	if !v.Bracket { // the bracket itself is the doubt
		r.U = head.Tool{U: rec.tool.U, PPM: rec.tool.UPPM}.Doubt(v.At)
	}
	if v.Bracket && rec.c.Bracket {
		r.Method = "bracket"
	} else if worked := rec.entry.Worked(r.Typed, v.At, rec.c.UnitFor(rec.unit)); worked != "" {
		r.Method, r.Typed = rec.entry.Mode, worked
	}
	if before, err := tx.ReadingByClient(e.ClientID); err == nil {
		if before.HeadID != r.HeadID || before.NM != r.NM || before.NoGoNM != r.NoGoNM {
			errs.Addf(key, "this reading was sent before with another value: load the page again")
		}
		return nil
	}
	if old, ok := rec.file.Standing(r.Stage)[spotKey(r)]; ok {
		if rec.form.Why == "" {
			errs.Addf(key, "it was read before as %s: say below why this corrects it", old.Typed)
			return nil
		}
		r.Supersedes, r.Why = &old.ID, rec.form.Why
	}
	if len(errs) > 0 {
		return nil
	}
	if err := tx.Add(&r); err != nil {
		return err
	}
	rec.file.add(r)
	return nil
}

func toolWith(tools []store.Tool, id uint) (store.Tool, bool) {
	i := slices.IndexFunc(tools, func(t store.Tool) bool { return t.ID == id })
	if i < 0 {
		return store.Tool{}, false
	}
	return tools[i], true
}

// JudgedAt returns the judgement readings of a stage are shown by: as received for
// itself, what stands now for the later ones.
func (f *File) JudgedAt(stage string) judge.Judgement {
	if stage == AsReceived {
		return f.Received
	}
	return f.Now
}

// SpotVerdict is what is said of one standing reading, for the row of a sweep: the worst
// of the features that speak for it.
func (f *File) SpotVerdict(c trade.Characteristic, r store.Reading) gauge.Verdict {
	j := f.JudgedAt(r.Stage)
	switch c.Where {
	case trade.AtPosition:
		p, _ := j.Position(r.Position)
		worst := gauge.Unread
		for _, x := range p.Speaks(c.Code) {
			worst = max(worst, x.Verdict)
		}
		return worst
	case trade.AtLine:
		line, _ := f.Layout.Line(r.Position)
		x, _ := j.Feature("face.line/" + line.Kind)
		if x.At != r.Position && x.Verdict > gauge.Sound && x.Limit != nil {
			return gauge.Judge(gauge.Between(r.GoNM, r.NoGoNM), 0, gauge.Limit{High: x.Limit.High, Near: x.Limit.Near}).Verdict
		}
		return x.Verdict
	}
	x, ok := j.Feature(c.Code)
	if !ok && r.Position != "H" {
		x, ok = j.Feature(judge.Feature{Code: c.Code, Position: r.Position}.Key())
	}
	if !ok && c.Feeds() != "" {
		x, _ = j.Feature(c.Feeds())
	}
	return x.Verdict
}

// Shown is what a reading's field shows: what was typed, or the size that came of it.
func (f *File) Shown(r store.Reading) string {
	if r.Method == "direct" || r.Bracket {
		return r.Typed
	}
	c, _ := f.Characteristic(r.Characteristic)
	return c.Show(r.NM, f.Unit)
}

// Outlier finds the reading of a sweep that stands out of its row (its role's readings of
// the stage), worth reading once more; ok is false when none does.
func (f *File) Outlier(c trade.Characteristic, stage string) (r store.Reading, away length.Length, ok bool) {
	if c.Where != trade.AtPosition {
		return r, 0, false
	}
	rows := map[layout.Role][]store.Reading{}
	standing := f.Standing(stage)
	for _, spot := range c.Spots(f.Layout) {
		if rd, read := standing[c.Code+" "+spot.Key()]; read {
			v, _ := f.Layout.Valve(spot.Position)
			rows[v.Role] = append(rows[v.Role], rd)
		}
	}
	for _, row := range rows {
		var ls []length.Length
		for _, rd := range row {
			ls = append(ls, rd.NM)
		}
		if i, far, out := gauge.Outlier(ls, 3*row[0].Tool.U); out && far > away {
			r, away, ok = row[i], far, true
		}
	}
	return r, away, ok
}
