package shop

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/route"
	"yatai/store"
)

// SheetRow is what one position of an operation needs: what to set, and the target with its
// limits at that moment, before what is still to come.
type SheetRow struct {
	ID       string
	Pilot    *length.Length // of a seat's cutter: the guide's bore as it is now
	Do       string         // "cut 0.07", "insert, seat 0.51 up"
	Target   *length.Length // of the proof reading
	Low      *length.Length
	High     *length.Length
	Proof    *store.Reading // read since the operation started
	Recorded *store.OpRecord
}

// Sheet is an operation's work sheet.
type Sheet struct {
	store.Operation
	route.Kind
	Rows     []SheetRow
	Proof    judge.Characteristic // what proves it; no code when nothing single does
	Datum    string
	Tool     string // tool, cutter or pilot
	Note     string // corrections for cuts still to come, schools
	Parts    string // what is taken from the shelf for it
	Fit      string // the interference its parts are pressed with, where the limit sheet has it
	Schools  []string
	Form     RecordForm
	Records  []store.OpRecord
	Why      string // why it may not start
	PlanFrom int    // version of the plan the figures are from; 0 without one
	Tools    []store.Tool
	Once     SheetRow // of an operation on the whole head
}

// proofs is what proves an operation, one reading at each position or place, from which
// datum it is read and what tool or pilot it takes.
var proofs = map[string]struct{ code, place, dir, datum, tool string }{
	"guide_new":   {"guide.bore", "middle", "A", "the guide's own bore", "bore gauge set on a ring of the bore to make"},
	"guide_liner": {"guide.bore", "middle", "A", "the guide's own bore", "bore gauge set on a ring of the bore to make"},
	"guide_hone":  {"guide.bore", "middle", "A", "the guide's own bore", "hone, bore gauge set on a ring"},
	"guide_ream":  {"guide.bore", "middle", "A", "the guide's own bore", "reamer of the next oversize"},
	"seat_cut":    {"valve.recession", "", "", "the face as it is at this moment", "cutter of the seat's three angles, pilot in the guide"},
	"valve_grind": {"valve.margin", "", "", "the valve's rim", "valve grinder, chuck on the stem's unworn part"},
	"valve_new":   {"stem.dia", "middle", "", "the new valve's stem", "micrometer"},
	"tip_grind":   {"stem.height", "", "", "the spring's pad, valve seated", "tip grinder, height gauge"},
	"spring_shim": {"spring.height", "", "", "the spring's pad", "height micrometer"},
	"face":        {"head.thickness", "", "", "the cover's rail", "surfacer, head clamped without strain"},
	"lash_set":    {"lash", "", "", "cam's base circle or rocker", "feelers"},
}

// fitOf is the fit of the parts an operation presses in.
var fitOf = map[string]string{"guide_new": "guide.fit", "guide_liner": "guide.fit", "seat_insert": "seat.fit"}

// Sheet works out an operation's work sheet.
func (s *Shop) Sheet(ctx context.Context, f *File, seq int) (Sheet, error) {
	o, err := f.operation(seq)
	if err != nil {
		return Sheet{}, err
	}
	db := s.st.Read(ctx)
	p, err := s.planner(db, f)
	if err != nil {
		return Sheet{}, err
	}
	return s.sheet(db, p, o)
}

func (s *Shop) sheet(db store.DB, p *planner, o store.Operation) (Sheet, error) {
	f := p.f
	k, _ := route.Named(o.Code)
	sh := Sheet{Operation: o, Kind: k, Form: recordForms[o.Code], Schools: p.schools(), Why: f.blocks(o)}
	if pr, ok := proofs[o.Code]; ok {
		sh.Proof, _ = judge.ByCode(pr.code)
		sh.Datum, sh.Tool = pr.datum, pr.tool
		for _, t := range f.Tools {
			if t.Kind == sh.Proof.ToolKind {
				sh.Tools = append(sh.Tools, t)
			}
		}
	}
	for _, r := range f.Records {
		if r.OperationID == o.ID {
			sh.Records = append(sh.Records, r)
		}
	}
	plans, err := db.Plans(f.ID)
	if err != nil {
		return sh, err
	}
	var done plan.Output
	var in struct {
		Ask PlanAsk
		In  plan.Input
	}
	if len(plans) > 0 {
		sh.PlanFrom = plans[0].Version
		for from, to := range map[string]any{plans[0].Answer: &done, plans[0].Input: &in} {
			if err := json.Unmarshal([]byte(from), to); err != nil {
				return sh, err
			}
		}
	}
	lash := map[string]LashRow{}
	if o.Code == "lash_set" && sh.PlanFrom > 0 {
		for _, l := range p.lash(&Planned{Out: done, In: in.In}) {
			lash[l.ID] = l
		}
	}
	coming := f.facingToCome(o, done)
	if coming > 0 && (o.Code == "seat_cut" || o.Code == "seat_insert") {
		sh.Note = fmt.Sprintf("The face is still to be cut by %s: depths here are that much more than they end up.", coming)
	}
	at := o.At()
	if partOf[o.Code] != "" {
		sh.Parts = f.price([]route.Operation{{Kind: k, Positions: at}}, p.set, p.stock, p.lead)[0].PartsText()
	}
	if len(at) > 0 {
		v, _ := f.Layout.Valve(at[0])
		if l := p.sheet.Limit(fitOf[o.Code], string(v.Role)); l != nil {
			sh.Fit = l.Text(f.Unit) + ", " + l.Source
		}
	}
	for _, id := range at {
		sh.Rows = append(sh.Rows, p.sheetRow(o, id, done, in.In, coming, lash[id]))
	}
	if len(at) == 0 {
		sh.Once = p.headRow(o, done)
	}
	for i := range sh.Rows {
		f.provenBy(&sh, &sh.Rows[i])
	}
	return sh, nil
}

// facingToCome is how much will still be cut off the face after an operation.
func (f *File) facingToCome(o store.Operation, done plan.Output) length.Length {
	for _, later := range f.Operations {
		if later.Code == "face" && later.Seq > o.Seq && later.State != "skipped" {
			return done.FaceCut
		}
	}
	return 0
}

// provenBy notes the reading and the record of a row made since the operation started.
func (f *File) provenBy(sh *Sheet, row *SheetRow) {
	pr := proofs[sh.Operation.Code]
	if r, ok := f.Standing(AfterRepair)[pr.code+" "+judge.Spot{Position: row.ID, Place: pr.place, Dir: pr.dir}.Key()]; ok && sh.StartedAt != nil && !r.At.Before(*sh.StartedAt) {
		row.Proof = &r
	}
	for i := range sh.Records {
		if sh.Records[i].Position == row.ID {
			row.Recorded = &sh.Records[i]
		}
	}
}

// sheetRow is what one position needs of an operation.
func (p *planner) sheetRow(o store.Operation, id string, done plan.Output, in plan.Input, coming length.Length, lash LashRow) SheetRow {
	row := SheetRow{ID: id}
	v, _ := p.f.Layout.Valve(id)
	role := string(v.Role)
	limits := func(code string, shift length.Length) {
		l := p.sheet.Limit(code, role)
		if t := p.sheet.LimitOf("target", code, role); t != nil {
			l = t
		}
		if l == nil {
			return
		}
		if l.Low != nil {
			x := *l.Low + shift
			row.Low = &x
		}
		if l.High != nil {
			x := *l.High + shift
			row.High = &x
		}
	}
	aim := func(l length.Length) { row.Target = &l }
	mm := func(l length.Length) string { return p.f.Unit.In(l, p.f.Unit.Places()) + " " + p.f.Unit.Name }
	i := slices.IndexFunc(done.Valves, func(d plan.Done) bool { return d.ID == id })
	var d plan.Done
	if i >= 0 {
		d = done.Valves[i]
	}
	switch o.Code {
	case "guide_new", "guide_liner", "guide_hone", "guide_ream":
		l := p.sheet.Limit("guide.clearance", role)
		stems := p.f.Counting("stem.dia", id)
		if len(stems) == 0 {
			row.Do = "measure the stem that goes in first"
			return row
		}
		stem := stems[0].Value.At
		for _, r := range stems {
			stem = max(stem, r.Value.At)
		}
		if l == nil {
			l = judge.General(role, stem)
		}
		if l != nil && l.Low != nil && l.High != nil {
			t := p.clearanceTarget(*l, v.Role)
			aim(stem + t)
			lo, hi := stem+*l.Low, stem+*l.High
			row.Low, row.High = &lo, &hi
			row.Do = "bore " + mm(stem+t) + " for a stem of " + mm(stem)
		}
	case "seat_cut", "seat_insert":
		for _, r := range p.f.Counting("guide.bore", id) {
			if b := r.Value.At; row.Pilot == nil || b < *row.Pilot {
				row.Pilot = &b
			}
		}
		limits("valve.recession", coming)
		if i < 0 {
			row.Do = "clean up"
			return row
		}
		aim(d.Recession + coming)
		switch {
		case d.Seat == "insert":
			row.Do = "new insert, seat at " + mm(d.Recession+coming)
		case d.Seat == "cut":
			row.Do = "cut " + mm(d.SeatCut)
		default:
			row.Do = "clean up only"
		}
	case "valve_grind":
		limits("valve.margin", 0)
		row.Do = "reface " + mm(p.give("given.valve_grind", role, 100*length.Micrometre)) + " along the stem"
		if i >= 0 {
			aim(d.Margin)
		}
	case "valve_new":
		if l := p.sheet.LimitOf("new", "stem.dia", role); l != nil {
			row.Low, row.High = l.Low, l.High
		}
		row.Do = "measure stem, head, margin, length and groove before it is trusted"
	case "tip_grind":
		limits("stem.height", 0)
		if i >= 0 {
			row.Do = "grind " + mm(d.TipGrind)
			aim(d.StemHeight)
		}
	case "spring_shim":
		limits("spring.height", 0)
		if i >= 0 {
			row.Do = "shim " + mm(d.SpringShim)
			aim(d.SpringHeight)
		}
	case "lash_set":
		limits("lash", 0)
		if lash.Size != 0 {
			row.Do = map[string]string{"bucket": "shim ", "rocker": "pushrod "}[p.f.Model.Drive] + mm(lash.Size) + " from " + lash.Source
		} else {
			row.Do = "set by the adjuster"
		}
		if lash.HasFigures {
			aim(lash.Set)
		}
	}
	return row
}

// headRow is what the whole head needs of an operation.
func (p *planner) headRow(o store.Operation, done plan.Output) SheetRow {
	row := SheetRow{}
	if o.Code != "face" {
		return row
	}
	cut := done.FaceCut
	if cut == 0 {
		cut, _ = p.faceNeeds()
	}
	row.Do = "cut " + p.f.Unit.In(cut, p.f.Unit.Places()) + " " + p.f.Unit.Name
	if x, ok := p.f.Received.Feature("head.thickness"); ok && len(x.From) > 0 {
		t := x.Low - cut
		row.Target = &t
	}
	if l := p.sheet.Limit("head.thickness", ""); l != nil {
		row.Low, row.High = l.Low, l.High
	}
	return row
}

// blocks says why a waiting operation may not start, "" when it may.
func (f *File) blocks(o store.Operation) string {
	for _, before := range f.Operations {
		if before.Seq < o.Seq && before.State != "done" && before.State != "skipped" {
			k, _ := route.Named(before.Code)
			return "first finish: " + k.Name
		}
	}
	return f.Approved.unapproved(o)
}

// Prove records the proof readings typed on a work sheet, by position, with a tool. One
// outside its limits of the moment stops the operation and asks the lead.
func (s *Shop) Prove(ctx context.Context, a Actor, writeID, tag string, seq int, tool uint, typed map[string]string) (held bool, err error) {
	if err := a.must("work an operation"); err != nil {
		return false, err
	}
	f, err := s.File(ctx, tag)
	if err != nil {
		return false, err
	}
	sh, err := s.Sheet(ctx, f, seq)
	if err != nil {
		return false, err
	}
	if sh.State != "running" && sh.State != "held" {
		return false, field.Errors{at(seq): "start it first"}
	}
	pr := proofs[sh.Operation.Code]
	form := SweepForm{Characteristic: pr.code, Stage: AfterRepair, Tool: tool, Why: "proof of the work"}
	errs := field.Errors{}
	var bad []string
	rows := sh.Rows
	if len(rows) == 0 {
		rows = []SheetRow{sh.Once}
		rows[0].ID = f.Layout.Corners[0].Name
	}
	t, _ := toolWith(f.Tools, tool)
	for _, row := range rows {
		text := strings.TrimSpace(typed[row.ID])
		if text == "" {
			continue
		}
		v, err := sh.Proof.Read(text, f.Unit)
		if err != nil {
			errs.Add(row.ID, err)
			continue
		}
		form.Entries = append(form.Entries, Entry{ClientID: writeID + "-" + row.ID, Spot: judge.Spot{Position: row.ID, Place: pr.place, Dir: pr.dir}, Text: text})
		if row.Low == nil && row.High == nil {
			continue
		}
		if r := gauge.Judge(v, t.U, gauge.Limit{Low: row.Low, High: row.High}); r.Verdict == gauge.Out {
			word := map[string]string{"high": "over", "low": "under"}[r.Side]
			bad = append(bad, fmt.Sprintf("%s reads %s, %s %s", row.ID, text, (-r.Distance).String(), word))
		}
	}
	if len(form.Entries) == 0 && len(errs) == 0 {
		errs.Addf(at(seq), "read what proves it, or finish and read later: the final check will ask")
	}
	if err := errs.Err(); err != nil {
		return false, err
	}
	if _, err := s.Record(ctx, a, tag, form); err != nil {
		return false, err
	}
	if len(bad) == 0 {
		return false, nil
	}
	return true, s.onHead(ctx, writeID+"-hold", tag, func(tx store.DB, file *File) error {
		o, err := file.operation(seq)
		if err != nil {
			return err
		}
		if _, err := tx.SetOperation(o.ID, "running", map[string]any{"state": "held", "held": strings.Join(bad, "; ")}); err != nil {
			return err
		}
		return s.note(tx, a, file.ID, "held", o.Code+": "+strings.Join(bad, "; "))
	})
}
