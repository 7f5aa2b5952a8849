package shop

import (
	"context"
	"slices"
	"strings"

	"headwright/core/field"
	"headwright/core/gauge"
	"headwright/core/judge"
	"headwright/core/layout"
	"headwright/core/length"
	"headwright/store"
)

// Entry is one reading as typed. ClientID is made where it was typed; Why is needed
// when a reading is there already and this one corrects it.
type Entry struct {
	ClientID string
	Spot     judge.Spot
	Text     string
}

// SweepForm is what a sweep writes: one characteristic, one tool, one stage.
type SweepForm struct {
	Characteristic string
	Stage          string
	Tool           uint
	Why            string
	Mode           string // a judge.Mode's code; direct when empty
	Set            string // size set on, or the bar, as typed
	Unit           string // what a bare number means in this sweep, mm or in; the sheet's when empty
	Entries        []Entry
}

// Record writes the readings of a sweep, all or none. A spot that was read before is
// corrected: the new reading supersedes the old and Why is needed. Errors are keyed by
// spot ("2E1.top.A"), or "tool", "why", "stage". An entry whose client id is known
// already is passed over: it was written before.
func (s *Shop) Record(ctx context.Context, a Actor, tag string, f SweepForm) error {
	if err := a.must("record a reading"); err != nil {
		return err
	}
	errs := field.Errors{}
	f.Why = optional(errs, "why", f.Why, 200)
	if !slices.Contains(Stages, f.Stage) {
		errs.Addf("stage", "choose when it was read")
	}
	db := s.st.Read(ctx)
	tools, err := db.Tools()
	if err != nil {
		return err
	}
	checks, err := db.LastZeroChecks()
	if err != nil {
		return err
	}
	return s.st.Write(ctx, func(tx store.DB) error {
		file, err := s.bench(tx, tag)
		if err != nil {
			return err
		}
		c, ok := file.Characteristic(f.Characteristic)
		if !ok || c.Derived {
			return ErrNotFound
		}
		if f.Unit != "" {
			file.Unit = unitOf(f.Unit)
		}
		var positions []string
		for _, e := range f.Entries {
			positions = append(positions, e.Spot.Position)
		}
		if file.Readings, err = tx.ReadingsAt(file.ID, c.Code, positions...); err != nil {
			return err
		}
		tool, ok := toolWith(tools, f.Tool)
		if !ok {
			errs.Addf("tool", "choose the tool in your hand")
		}
		if z, checked := checks[tool.ID]; checked && !z.Passed {
			errs.Addf("tool", "it failed its zero check (%s off): set it right and check it again first", z.OffNM)
		}
		if file.ClosedAt != nil {
			errs.Addf("stage", "this head is closed: its readings stand")
		}
		entry := judge.Entry{Mode: f.Mode, Division: tool.Resolution}
		if m, ok := judge.ModeNamed(f.Mode); f.Mode != "" && !ok {
			errs.Addf("mode", "choose how it is read")
		} else if m.SetLabel != "" {
			entry.Set, err = c.Parse(f.Set, c.UnitFor(file.Unit))
			errs.Add("set", err)
		}
		if len(errs) > 0 { // no number can be read while it is not known how
			return errs
		}
		spots := c.Spots(file.Layout)
		standing := file.Standing(f.Stage)
		for _, e := range f.Entries {
			if err := s.recordOne(tx, errs, a, file, c, tool, f, entry, spots, standing, e); err != nil {
				return err
			}
		}
		return errs.Err()
	})
}

// recordOne writes one entry, or notes in errs why not.
func (s *Shop) recordOne(tx store.DB, errs field.Errors, a Actor, file *File, c judge.Characteristic, tool store.Tool, f SweepForm, entry judge.Entry, spots []judge.Spot, standing map[string]store.Reading, e Entry) error {
	key := e.Spot.Key()
	if !slices.Contains(spots, e.Spot) {
		errs.Addf(key, "%s has no such place on this head", c.Label)
		return nil
	}
	if len(e.ClientID) < 8 || len(e.ClientID) > maxID {
		errs.Addf(key, "the form has lost its id: load the page again")
		return nil
	}
	v, err := c.ReadAs(entry, e.Text, file.Unit)
	if err != nil {
		errs.Add(key, err)
		return nil
	}
	r := store.Reading{
		ClientID: e.ClientID, HeadID: file.ID, Characteristic: c.Code, Position: e.Spot.Position, Place: e.Spot.Place, Dir: e.Spot.Dir,
		Stage: f.Stage, Typed: strings.TrimSpace(e.Text), NM: v.At, GoNM: v.Go, NoGoNM: v.NoGo, Bracket: v.Bracket,
		ToolID: tool.ID, Method: "direct", PersonID: a.ID, At: s.now(),
	}
	if v.Bracket && c.Bracket {
		r.Method = "bracket"
	} else if worked := entry.Worked(r.Typed, v.At, c.UnitFor(file.Unit)); worked != "" {
		r.Method, r.Typed = entry.Mode, worked
	}
	if before, err := tx.ReadingByClient(e.ClientID); err == nil {
		if before.HeadID != r.HeadID || before.NM != r.NM || before.NoGoNM != r.NoGoNM {
			errs.Addf(key, "this reading was sent before with another value: load the page again")
		}
		return nil
	}
	if old, ok := standing[c.Code+" "+key]; ok {
		if f.Why == "" {
			errs.Addf(key, "it was read before as %s: say below why this corrects it", old.Typed)
			return nil
		}
		r.Supersedes, r.Why = &old.ID, f.Why
	}
	if len(errs) > 0 {
		return nil
	}
	err = tx.Add(&r)
	standing[c.Code+" "+key] = r
	return err
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
func (f *File) SpotVerdict(c judge.Characteristic, r store.Reading) gauge.Verdict {
	j := f.JudgedAt(r.Stage)
	switch c.Where {
	case judge.AtPosition:
		p, _ := j.Position(r.Position)
		worst := gauge.Unread
		for _, x := range p.Speaks(c.Code) {
			worst = max(worst, x.Verdict)
		}
		return worst
	case judge.AtLine:
		line, _ := f.Layout.Line(r.Position)
		x, _ := j.Feature("face.line/" + line.Kind)
		if x.At != r.Position && x.Verdict > gauge.Sound && x.Limit != nil {
			return gauge.Judge(gauge.Between(r.GoNM, r.NoGoNM), 0, gauge.Limit{High: x.Limit.High, Near: x.Limit.Near}).Verdict
		}
		return x.Verdict
	}
	x, ok := j.Feature(c.Code)
	if !ok && c.Feeds != "" {
		x, _ = j.Feature(c.Feeds)
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
func (f *File) Outlier(c judge.Characteristic, stage string) (r store.Reading, away length.Length, ok bool) {
	if c.Where != judge.AtPosition {
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
