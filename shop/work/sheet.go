package work

import (
	"context"
	"encoding/json"
	"slices"
	"strings"

	"yatai/core/after"
	"yatai/core/engine"
	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/newpart"
	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/parts"
	"yatai/store"
)

// SheetRow is what one position of an operation needs: what to set, and the target with its
// limits at that moment, before what is still to come.
type SheetRow struct {
	ID       string
	Pilot    *length.Length   // of a seat's cutter: the guide's bore as it is now
	Do       words.Text       // "cut 0.07", "insert, seat 0.51 up"
	Cuts     words.Text       // of a seat: its main, top and bottom cut, as on the Seats page
	Against  words.Text       // of a seat cut to end like others: how far from which
	Target   *quantity.Amount // of the proof reading
	Low      *quantity.Amount
	High     *quantity.Amount
	Proof    *store.Reading // read since the operation started
	Recorded *store.OpRecord
}

// Sheet is an operation's work sheet.
type Sheet struct {
	store.Operation
	Kind     *trade.Operation
	Rows     []SheetRow
	Proof    trade.Characteristic // what proves it; no code when nothing single does
	Datum    string
	Tool     string     // tool, cutter or pilot
	Note     words.Text // corrections for cuts still to come
	Parts    string     // what is taken from the shelf for it
	Fit      string     // the interference its parts are pressed with, where the limit sheet has it
	Schools  []words.Text
	Form     trade.Record
	Records  []store.OpRecord
	Why      words.Text // why it may not start
	Missing  words.Text // what of its record is still missing
	PlanFrom int        // version of the plan the figures are from; 0 without one
	Tools    []store.Tool
	Once     SheetRow          // of an operation on the whole head
	Lacks    []parts.Lack      // of what it uses, what the stock has not
	Bolts    *trade.Tightening // how the head's bolts are pulled down, nil where its model does not say
	Holes    []Hole            // threaded holes it is decided for
	SetUps   []store.SetUp     // what it was done with
	Usual    []string          // what operations of its kind were done with before, the newest first
	ticked   trade.Values      // what its last record says yes to
}

// Unit is the unit the proof of the operation is read in, lengths in u.
func (sh Sheet) Unit(u length.Unit) quantity.Unit { return sh.Proof.UnitFor(u) }

// Ticks are the record's fields where each of them is only said yes to, by what they are of; none where
// something else is written down.
func (sh Sheet) Ticks() (out []TickGroup) {
	if !sh.Form.Ticked() {
		return nil
	}
	for _, f := range sh.Form.Fields {
		if n := len(out); n == 0 || f.Tightens != nil &&
			(out[n-1].Tightens == nil || out[n-1].Tightens.Of != f.Tightens.Of) {
			out = append(out, TickGroup{Tightens: f.Tightens})
		}
		out[len(out)-1].Fields = append(out[len(out)-1].Fields, Tick{f, sh.ticked[f.Name] == "yes"})
	}
	return out
}

// Tick is a field that is said yes to, and whether it stands so.
type Tick struct {
	trade.Field
	Done bool
}

// bolts is how the head's bolts are pulled down, nil where its model does not say.
func bolts(f *headfile.File) *trade.Tightening {
	for _, t := range f.Subject.Sheet.Tightening {
		if t.Of == trade.HeadBolts.Code {
			return &t
		}
	}
	return nil
}

// Hole is a threaded hole that an operation is decided for.
type Hole struct {
	Where  words.Text // what is wrong and where: as the map says
	Thread string
	Drills engine.ThreadOutput // of a thread that was said
}

// holesOf are the threaded holes an operation is decided for, in the order they were marked.
func holesOf(f *headfile.File, k *trade.Operation) (out []Hole) {
	for _, x := range f.Now.Own {
		if d, decided := f.Decision(x.Key()); !decided || d.Choice != k.Code || !trade.Threaded(x.Grade) {
			continue
		}
		for _, mark := range f.Findings {
			if mark.ID == x.Finding {
				h := Hole{Where: x.Name, Thread: mark.Thread}
				if h.Thread != "" {
					h.Drills, _ = engine.Thread(engine.ThreadInput{Thread: h.Thread}) // it was read when it was marked
				}
				out = append(out, h)
			}
		}
	}
	return out
}

// TickGroup is what of a record is ticked together: the steps of a tightening, or what Tightens is nil for.
type TickGroup struct {
	Tightens *trade.Tightening
	Fields   []Tick
}

// SheetOf works out an operation's work sheet.
func SheetOf(ctx context.Context, s *shop.Shop, f *headfile.File, seq int) (Sheet, error) {
	o, err := f.Operation(seq)
	if err != nil {
		return Sheet{}, err
	}
	return sheet(s, s.Store.Read(ctx), f, o)
}

// written fills in what was written down of the operation, and what is offered.
func (sh *Sheet) written(db store.DB, f *headfile.File) (err error) {
	for _, r := range f.Records {
		if r.OperationID == sh.Operation.ID {
			sh.Records = append(sh.Records, r)
			sh.ticked = nil
			_ = json.Unmarshal([]byte(r.Data), &sh.ticked) // damaged: nothing stands
		}
	}
	if sh.SetUps, err = db.SetUpsOf(sh.Operation.ID); err != nil {
		return err
	}
	sh.Usual, err = db.SetUpNames(sh.Code, usualSetUps)
	return err
}

func sheet(s *shop.Shop, db store.DB, f *headfile.File, o store.Operation) (Sheet, error) {
	k := trade.OperationNamed(o.Code)
	if k == nil {
		return Sheet{}, shop.ErrNotFound
	}
	sh := Sheet{
		Operation: o, Kind: k, Schools: lead.Schools(f.Subject), Why: blocks(f, o),
		Missing: f.Unrecorded(o), Bolts: bolts(f), Holes: holesOf(f, k),
	}
	if form := f.RecordOf(o.Code); form != nil {
		sh.Form = *form
	}
	if k.Proof != nil {
		sh.Proof, sh.Datum, sh.Tool = *k.Proof.Of, k.Proof.Datum, k.Proof.Tool
		sh.Tools = f.ToolsFor(sh.Proof)
	}
	if err := sh.written(db, f); err != nil {
		return sh, err
	}
	plans, err := headfile.PlansIn(s, db, f)
	if err != nil {
		return sh, err
	}
	var kept headfile.KeptPlan
	if len(plans) > 0 {
		kept = plans[0]
		sh.PlanFrom = kept.Version
	}
	sizes, err := headfile.PlannedSizes(s, db, f)
	if err != nil {
		return sh, err
	}
	coming := facingToCome(f, o, kept)
	if coming > 0 && (k == trade.CutSeat || k == trade.FitInsert) {
		sh.Note = words.Of("The face is still to be cut by %s: depths here are that much more than they end up.",
			f.In().Text(coming))
	}
	at := o.At()
	if k.Uses != nil {
		if sh.Lacks, err = parts.Lacking(s, db, f, o); err != nil {
			return sh, err
		}
		sh.Parts = headfile.PartsText(
			price.Operations(f.Subject, headfile.OperationsOf([]store.Operation{o}), sizes)[0],
		)
	}
	if k.Fit != nil && len(at) > 0 {
		if l := f.Subject.Limit(k.Fit.Code, string(f.Subject.Role(at[0]))); l != nil {
			sh.Fit = l.Text(f.In()) + ", " + l.Source
		}
	}
	for _, id := range at {
		sh.Rows = append(sh.Rows, sheetRow(f, k, id, kept, coming))
	}
	if len(at) == 0 {
		sh.Once = headRow(f, k, kept)
	}
	if k == trade.CutSeat && f.Subject.Setting("school.depths") == "all alike" {
		alike(sh.Rows, cameIn(f, at), f.Subject.Role, f.In())
	}
	for i := range sh.Rows {
		provenBy(f, &sh, &sh.Rows[i])
	}
	return sh, nil
}

// cameIn is how deep valves sat when they came in, by position; those that were read.
func cameIn(f *headfile.File, at []string) map[string]quantity.Amount {
	out := map[string]quantity.Amount{}
	for _, id := range at {
		if x, ok := f.Received.Feature(trade.Recession.Code + "@" + id); ok && len(x.From) > 0 {
			out[id] = x.High
		}
	}
	return out
}

// facingToCome is how much will still be cut off the face after an operation.
func facingToCome(f *headfile.File, o store.Operation, kept headfile.KeptPlan) length.Length {
	for _, later := range f.Operations {
		if later.Code == trade.FaceHead.Code && later.Seq > o.Seq && later.State != "skipped" {
			return kept.Out.FaceCut
		}
	}
	return 0
}

// provenBy notes the reading and the record of a row made since the operation started.
func provenBy(f *headfile.File, sh *Sheet, row *SheetRow) {
	if pr := sh.Kind.Proof; pr != nil {
		if r, ok := f.Standing(headfile.AfterRepair)[pr.Of.Code+" "+trade.Spot{
			Position: row.ID, Place: pr.Place, Dir: pr.Dir,
		}.Key()]; ok && sh.BegunAfter >= 0 && int(r.ID) > sh.BegunAfter {
			row.Proof = &r
		}
	}
	for i := range sh.Records {
		if sh.Records[i].Position == row.ID {
			row.Recorded = &sh.Records[i]
		}
	}
}

// limits puts the limits of a characteristic at a position into a row, the shop's target
// before the limit, both moved by what is still to come.
func (row *SheetRow) limits(h *head.Head, c *trade.Characteristic, role string, shift quantity.Amount) {
	l := h.Limit(c.Code, role)
	if t := h.Sheet.LimitOf(head.Target, c.Code, role); t != nil {
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

// sheetRow is what one position needs of an operation, by the plan that was kept.
func sheetRow(
	f *headfile.File, k *trade.Operation, id string, kept headfile.KeptPlan, coming length.Length,
) SheetRow {
	row := SheetRow{ID: id}
	h, role := f.Subject, string(f.Subject.Role(id))
	v, planned := kept.Valve(id)
	mm := f.In().Whole
	if k.Proof != nil && k.Proof.Of != trade.GuideBore && k.Proof.Of != trade.Stem {
		shift := quantity.Amount(0)
		if k.Proof.Of == trade.Recession {
			shift = quantity.OfLength(coming)
		}
		row.limits(h, k.Proof.Of, role, shift)
	}
	switch k {
	case trade.FitGuide, trade.LineGuide, trade.HoneGuide, trade.ReamGuide:
		guideRow(f, &row, k, id)
	case trade.CutSeat, trade.FitInsert:
		seatRow(f, &row, k, id, kept, coming)
	case trade.GrindFace:
		grind, _, _ := h.Size(trade.ValveGrindCut, h.Role(id))
		row.Do, row.Target = words.Of("reface %s along the stem", mm(grind)), quantity.MaybeLength(v.Margin)
	case trade.FitValve:
		if l := h.Sheet.LimitOf(head.New, trade.Stem.Code, role); l != nil {
			row.Low, row.High = l.Low, l.High
		}
		row.Do = words.Of("measure stem, head, margin, length and groove before it is trusted")
	case trade.GrindTip:
		if planned {
			row.Do, row.Target = words.Of("grind %s", mm(v.Tip)), quantity.MaybeLength(v.StemH)
		}
	case trade.ShimSpring:
		if row.Do = words.Of("no plan says which shim: work it out under Springs, lash"); planned && v.Shim > 0 {
			row.Do, row.Target = words.Of("shim %s", mm(v.Shim)), quantity.MaybeLength(v.SpringH)
		}
	case trade.LevelPads:
		if planned {
			row.Do = words.Of("cut %s", mm(v.Pad))
			if m := f.Mean(trade.SpringPad.Code, id, ""); m != nil {
				x := *m + quantity.OfLength(v.Pad)
				row.Target = &x
			}
		}
	case trade.SetLash, trade.NewPushrod:
		row.limits(h, trade.Lash, role, 0)
		row.Do = words.Of("set by the adjuster")
		switch {
		case v.LashShim != nil:
			row.Do = words.Of("shim %s, %s", mm(*v.LashShim), words.Of(v.LashFrom))
		case h.Model.Kind.Buckets():
			row.Do = words.Of("no plan says which shim: work it out under Springs, lash")
		case v.Pushrod != nil && k == trade.NewPushrod:
			row.Do = words.Of("pushrod %s", mm(*v.Pushrod))
		}
		row.Target = quantity.MaybeLength(v.Lash)
	default:
		for _, own := range v.Own {
			if own.Code == k.Code && own.Size > 0 {
				row.Do = words.Of("by %s", mm(own.Size))
			}
		}
	}
	return row
}

// comes tells whether an operation is still on the route at a position, or was done there.
func comes(f *headfile.File, k *trade.Operation, id string) bool {
	return slices.ContainsFunc(f.Operations, func(o store.Operation) bool {
		return o.Code == k.Code && o.State != "skipped" && slices.Contains(o.At(), id)
	})
}

// guideRow is the bore to make for a guide: for the stem that will run in it, the new valve's where one
// is on the route.
func guideRow(f *headfile.File, row *SheetRow, k *trade.Operation, id string) {
	lv, _ := f.Layout.Valve(id)
	v := after.At(f.Subject, f.Now, lv, after.Scatter(f.Subject))
	if _, measured := f.Subject.NewPart(trade.ValvePart.Code, id); measured || comes(f, trade.FitValve, id) {
		v.Do(trade.RepairNamed(trade.FitValve.Code), 0)
	}
	v.Do(trade.RepairNamed(k.Code), 0)
	if v.Bore == nil {
		row.Do = words.Of("measure the stem that goes in first")
		return
	}
	row.Target = quantity.MaybeLength(v.Bore)
	if l := f.Subject.Limit(trade.GuideClearance.Code, string(lv.Role)); l != nil && l.Low != nil &&
		l.High != nil {
		lo, hi := quantity.OfLength(*v.Stem)+*l.Low, quantity.OfLength(*v.Stem)+*l.High
		row.Low, row.High = &lo, &hi
	}
	row.Do = words.Of("bore %s for a stem of %s", f.In().Text(*v.Bore), f.In().Text(*v.Stem))
}

// seatRow is the depth to make for a seat and its three cuts, of exactly the seat that will be there: of
// a new insert none is known before it is in.
func seatRow(
	f *headfile.File, row *SheetRow, k *trade.Operation, id string, kept headfile.KeptPlan,
	coming length.Length,
) {
	for _, r := range f.Subject.Reads(trade.GuideBore.Code, id) {
		if b := r.Value.At.Length(); row.Pilot == nil || b < *row.Pilot {
			row.Pilot = &b
		}
	}
	u := f.In()
	lv, _ := f.Layout.Valve(id)
	v, planned := kept.Valve(id)
	insert := comes(f, trade.FitInsert, id)
	ring := judge.Ring(f.Subject, lv, nil, nil)
	switch {
	case insert && k == trade.FitInsert:
		row.Cuts = counterbore(f, lv)
	case insert:
		row.Cuts = words.Of("from the insert's own blank: ring %s wide, its outer edge at %s",
			u.Text(ring.In.TargetWidth), u.Text(ring.In.TargetOuter))
	default:
		if ring = ring.To(v.SeatCut); ring.Out != nil {
			row.Cuts = words.Of("main %s, top %s, bottom %s", u.In(ring.Out.MainDepth, 2), u.In(ring.Out.TopDepth, 2),
				u.In(ring.Out.BottomDepth, 2))
		}
	}
	row.Do = words.Of("clean up")
	if !planned || v.Recession == nil {
		return
	}
	target := *v.Recession + coming
	row.Target = quantity.MaybeLength(&target)
	switch {
	case v.Seat == "insert":
		row.Do = words.Of("new insert, seat at %s", u.Text(target))
	case v.Seat == "cut":
		row.Do = words.Of("cut %s", u.Text(v.SeatCut))
	default:
		row.Do = words.Of("clean up only")
	}
}

// counterbore is the hole to make for an insert: its outside less the middle of the interference it is
// pressed with. Nothing where the sheet does not give both.
func counterbore(f *headfile.File, lv layout.Valve) words.Text {
	outer, _, known := f.Subject.Size(trade.InsertOuter, lv.Role)
	if p, ok := f.Subject.NewPart(trade.InsertPart.Code, lv.ID); ok && p.Is[trade.SeatOuter.Code] > 0 {
		outer, known = p.Is[trade.SeatOuter.Code].Length(), true
	}
	l := f.Subject.Limit(trade.SeatFit.Code, string(lv.Role))
	if !known || l == nil || l.Low == nil || l.High == nil {
		return words.Text{}
	}
	tight := ((*l.Low + *l.High) / 2).Length()
	return words.Of("counterbore %s for an insert of %s, %s tight", f.In().Text(outer-tight), f.In().Text(outer),
		f.In().Text(tight))
}

// headRow is what the whole head needs of an operation.
func headRow(f *headfile.File, k *trade.Operation, kept headfile.KeptPlan) SheetRow {
	row := SheetRow{}
	if k != trade.FaceHead {
		return row
	}
	cut := kept.Out.FaceCut
	if cut == 0 {
		cut = f.Received.FaceNeed().Cut
	}
	by := f.In().Whole(cut)
	row.Do = words.Of("cut %s", by)
	if t := kept.Out.Tilt; t != nil {
		row.Do = words.Of(
			"cut %s, the head tilted to the best plane of its face: indicate a rise of %s per %s along and %s across",
			by, f.In().Text(rise(t.Along)),
			f.In().Text(metre/10), f.In().Text(rise(t.Across)),
		)
	} else if x, ok := f.Received.Feature(trade.Thickness.Code); ok && len(x.From) > 0 {
		t := x.Low - quantity.OfLength(cut)
		row.Target = &t
	}
	if l := f.Subject.Limit(trade.Thickness.Code, ""); l != nil {
		row.Low, row.High = l.Low, l.High
	}
	return row
}

// metre and rise say a slope in micrometres a metre as an indicator shows it over a tenth of one.
const metre = 1000 * length.Millimetre

func rise(perMetre quantity.Decimal) length.Length {
	return length.FromFloat(float64(perMetre) * float64(length.Micrometre) / 10)
}

// blocks says why a waiting operation may not start; nothing when it may.
func blocks(f *headfile.File, o store.Operation) words.Text {
	if before := f.Waits(o); before != nil {
		return words.Of("first finish: %s", words.Of(headfile.OperationName(before.Code)))
	}
	return f.Approved.Unapproved(o)
}

// Prove records the proof readings typed on a work sheet, by position, with a tool, and, when
// ends says so, finishes the operation: all of it or none. A bare number is in unit, mm or in; the
// sheet's when empty. A reading outside its limits of the moment stops the operation and asks the
// lead; held tells.
func Prove(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, seq int, tool uint,
	typed map[string]string, unit string, ends bool,
) (held bool, err error) {
	if err := a.Must("work an operation"); err != nil {
		return false, err
	}
	err = headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		o, err := f.Operation(seq)
		if err != nil {
			return err
		}
		sh, err := sheet(s, tx, f, o)
		if err != nil {
			return err
		}
		if sh.State != "running" && sh.State != "held" {
			return field.Only(headfile.OperationKey(seq), "start it first")
		}
		form, bad, errs := proofs(f, &sh, writeID, tool, typed, unit)
		if err := errs.Err(); err != nil {
			return err
		}
		rec, errs := bench.Recorder(f, sh.Proof, form)
		if err := errs.Err(); err != nil {
			return err
		}
		if err := rec.Write(tx, bench.Stamp(s, a)); err != nil {
			return err
		}
		if len(bad) > 0 {
			held = true
			if _, err := tx.EndStints(o.ID, 0, s.Now()); err != nil {
				return err
			}
			why := words.Join("; ", bad...)
			if _, err := tx.HoldOperation(o.ID, why); err != nil {
				return err
			}
			return s.Note(tx, a, f.ID, "held", headfile.OperationName(o.Code)+": "+why.String())
		}
		if !ends || len(sh.Lacks) > 0 { // what was proven stands; the parts are asked for when it is finished
			return nil
		}
		said, moved, err := finish(s, tx, a, f, o, "", "")
		if err == nil && !moved {
			err = shop.ErrStale
		}
		if err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, said, headfile.OperationName(o.Code))
	})
	return held, err
}

// proofs reads the proof readings of a sheet as a sweep, and says which are outside their
// limits of the moment.
func proofs(
	f *headfile.File, sh *Sheet, writeID string, tool uint, typed map[string]string, unit string,
) (form bench.SweepForm, bad []words.Text, errs field.Errors) {
	pr, errs := sh.Kind.Proof, field.Errors{}
	form = bench.SweepForm{
		Characteristic: sh.Proof.Code, Stage: headfile.AfterRepair, Tool: tool, Why: "proof of the work",
		Unit: unit,
	}
	rows := sh.Rows
	if len(rows) == 0 {
		rows = []SheetRow{sh.Once}
		rows[0].ID = f.Layout.Corners[0].Name
	}
	t, _ := headfile.ToolWith(f.Tools, tool)
	for _, row := range rows {
		text := strings.TrimSpace(typed[row.ID])
		if text == "" || pr == nil {
			continue
		}
		v, err := sh.Proof.Read(text, form.Bare(f.Unit), t.Set()...)
		if err != nil {
			errs.Add(row.ID, err)
			continue
		}
		form.Entries = append(form.Entries, bench.Entry{
			ClientID: writeID + "-" + row.ID, Spot: trade.Spot{Position: row.ID, Place: pr.Place, Dir: pr.Dir},
			Text: text,
		})
		if row.Low == nil && row.High == nil {
			continue
		}
		if r := gauge.Judge(v, t.Doubt(v.At), gauge.Limit{Low: row.Low, High: row.High}); r.Verdict == gauge.Out {
			by := sh.Proof.UnitFor(f.In()).Text(-r.Distance)
			if r.Side == trade.Low {
				bad = append(bad, words.Of("%s reads %s, %s under", row.ID, text, by))
			} else {
				bad = append(bad, words.Of("%s reads %s, %s over", row.ID, text, by))
			}
		}
	}
	if len(form.Entries) == 0 && len(errs) == 0 {
		errs.Addf(headfile.OperationKey(sh.Seq),
			"read what proves it, or finish and read later: the final check will ask")
	}
	return form, bad, errs
}

// wrongPart says what is wrong with a new part that an operation fits, nothing where all are to size: it
// is not finished with one that was found wrong.
func wrongPart(f *headfile.File, o store.Operation) words.Text {
	k := trade.OperationNamed(o.Code)
	if k == nil || k.Uses == nil {
		return words.Text{}
	}
	for _, x := range newpart.Compare(f.Subject) {
		if wrong := x.Wrong(); x.Kind == k.Uses && slices.Contains(o.At(), x.Position) && wrong.Sentence != "" {
			return words.Of("%s, new %s: %s. Another goes in before this is finished.", x.Position,
				words.Of(x.Kind.Name), wrong)
		}
	}
	return words.Text{}
}
