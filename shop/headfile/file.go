// Package headfile holds everything the shop knows of one head, opened from its file: what
// was read, seen, decided, planned, quoted, worked and signed, with the judgement of it. It
// reads and works out; what people do to a head is written by the packages beside it. Begin
// with Open; OnHead opens a head within a transaction that writes.
package headfile

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"yatai/core/gate"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/store"
)

// Stages of a head's readings, in order.
const (
	AsReceived  = head.AsReceived
	AfterRepair = head.AfterRepair
	Final       = head.Final
)

// Stages lists the stages in order.
var Stages = head.Stages

// File is everything about one head.
type File struct {
	store.Head
	Layout     layout.Layout
	Sheet      store.LimitSheet
	Unit       length.Unit // of the sheet: what a bare number means
	Reader     length.Unit // of who reads it: sentences are in it; the sheet's where nobody reads
	Tools      []store.Tool
	Readings   []store.Reading // all, corrected ones too, oldest first
	Decisions  []store.Decision
	Signoffs   []store.Signoff
	Operations []store.Operation
	Notes      []store.Note
	Checks     map[uint]store.ZeroCheck // each tool's latest zero check
	Suspect    map[uint]store.ZeroCheck // by reading: the failed zero check that makes it suspect
	Releases   []store.Release
	Findings   []store.Finding // all, oldest first
	Photos     []store.Photo   // without their pictures
	Places     []store.Place   // what was said of its parts, oldest first
	Approved   Approved
	Records    []store.OpRecord
	Stints     []store.Stint          // who was at its operations, and when
	Own        []trade.Characteristic // the shop's own, of the model's sheet

	Received judge.Judgement // as received
	Now      judge.Judgement // by what stands
	Subject  *head.Head      // all of it as the core works on it

	settings map[string]string
	days     shop.Days                           // when people work
	stock    []head.Stock                        // what there is for this model, made for a plan
	ByStage  map[string]map[string]store.Reading // by stage, made when first asked for
	only     []string                            // of a sweep: the characteristics it judges
	UpTo     uint                                // of a sweep: the newest reading of the head it knows
}

// Open opens the file of the head with that tag.
func Open(ctx context.Context, s *shop.Shop, tag string) (*File, error) {
	return OpenIn(s, s.Store.Read(ctx), tag)
}

// OpenFor is Open for somebody who reads in a unit: what is said of the head is said in it.
func OpenFor(ctx context.Context, s *shop.Shop, tag string, reader length.Unit) (*File, error) {
	return openIn(s, s.Store.Read(ctx), tag, reader)
}

// OpenIn is Open within a transaction.
func OpenIn(s *shop.Shop, db store.DB, tag string) (*File, error) {
	return openIn(s, db, tag, length.None)
}

// In is the unit that is spoken in.
func (f *File) In() length.Unit {
	if f.Reader == length.None {
		return f.Unit
	}
	return f.Reader
}

func openIn(s *shop.Shop, db store.DB, tag string, reader length.Unit) (*File, error) {
	h, err := db.Head(tag)
	if err != nil {
		return nil, err
	}
	f, err := begin(s, db, h)
	if err != nil {
		return nil, err
	}
	f.Reader = reader
	for _, load := range []func() error{
		func() (err error) { f.Sheet, err = db.Sheet(h.SheetID); return },
		func() (err error) { f.Sheet.Limits, err = s.Cache.SheetLimits(db, h.SheetID); return },
		func() (err error) { f.Tools, err = db.Tools(); return },
		func() (err error) { f.Readings, err = s.Cache.HeadReadings(db, h.ID, nil); return },
		func() (err error) { f.Decisions, err = db.Decisions(h.ID); return },
		func() (err error) { f.Signoffs, err = db.Signoffs(h.ID); return },
		func() (err error) { f.Operations, err = db.Operations(h.ID); return },
		func() (err error) { f.Stints, err = db.Stints(idsOf(f.Operations)...); return },
		func() (err error) { f.Notes, err = db.Notes(h.ID); return },
		func() (err error) { f.Checks, err = db.LastZeroChecks(); return },
		func() (err error) { f.Findings, err = db.Findings(h.ID); return },
		func() (err error) { f.Photos, err = db.Photos(h.ID); return },
		func() (err error) { f.Places, err = db.Places(h.ID); return },
		func() (err error) { f.Approved.Quotes, err = Quotes(s, db, h.ID); return },
		func() (err error) { f.Records, err = db.OpRecords(h.ID); return },
		func() (err error) { f.settings, f.days, err = s.HeadSettings(db, h.Tag); return },
		func() error { return stocked(s, db, f) },
		func() error { f.nameTools(); return f.namePeople(db) },
		func() error { return f.suspects(db) },
	} {
		if err := load(); err != nil {
			return nil, err
		}
	}
	f.UpTo = shop.LastOf(f.Readings)
	f.fit()
	f.Judge()
	return f, nil
}

func idsOf(ops []store.Operation) []uint {
	var out []uint
	for _, o := range ops {
		out = append(out, o.ID)
	}
	return out
}

// nameTools fills in each reading's tool: there are few, so that is quicker than asking for
// them with every reading.
func (f *File) nameTools() {
	tool := map[uint]*store.Tool{}
	for i := range f.Tools {
		tool[f.Tools[i].ID] = &f.Tools[i]
	}
	for i := range f.Readings {
		f.Readings[i].Tool = tool[f.Readings[i].ToolID]
	}
}

// namePeople fills in who read and who found what.
func (f *File) namePeople(db store.DB) error {
	people, err := db.Users()
	if err != nil {
		return err
	}
	who := map[uint]*store.User{}
	for i := range people {
		who[people[i].ID] = &people[i]
	}
	for i := range f.Readings {
		f.Readings[i].Person = who[f.Readings[i].PersonID]
	}
	for i := range f.Findings {
		if p := who[f.Findings[i].PersonID]; p != nil {
			f.Findings[i].Person = *p
		}
	}
	return nil
}

// OpenSweep opens only what a sweep of one characteristic needs: the readings of it, and of
// what is judged together with it, and their judgement. Everything else of the file is
// empty, also who read what.
func OpenSweep(ctx context.Context, s *shop.Shop, tag, characteristic string) (*File, error) {
	f, err := SweepIn(s, s.Store.Read(ctx), tag, characteristic)
	if err != nil {
		return nil, err
	}
	f.Judge()
	return f, nil
}

// SweepIn opens what a sweep needs, not judged yet.
func SweepIn(s *shop.Shop, db store.DB, tag, characteristic string) (*File, error) {
	h, err := db.Head(tag)
	if err != nil {
		return nil, err
	}
	f, err := begin(s, db, h)
	if err != nil {
		return nil, err
	}
	f.only = trade.Together(characteristic)
	for _, load := range []func() error{
		func() (err error) {
			f.Readings, err = s.Cache.HeadReadings(db, f.ID, func(r *store.Reading) bool {
				f.UpTo = r.ID
				return !f.Elsewhere(*r)
			})
			return
		},
		func() (err error) { f.Sheet.Limits, err = s.Cache.SheetLimits(db, f.SheetID); return },
		func() (err error) { f.Tools, err = db.Tools(); return },
		func() (err error) { f.Checks, err = db.LastZeroChecks(); return },
		func() error { return f.suspects(db) },
		func() (err error) {
			if f.WorkOrderAt != nil {
				f.Operations, err = db.Operations(f.ID)
			}
			return
		},
	} {
		if err := load(); err != nil {
			return nil, err
		}
	}
	f.nameTools()
	f.fit()
	return f, nil
}

// Elsewhere tells whether a reading is none of this sweep's.
func (f *File) Elsewhere(r store.Reading) bool { return !slices.Contains(f.only, r.Characteristic) }

// begin returns the file of a head with its layout and the shop's own characteristics.
func begin(s *shop.Shop, db store.DB, h store.Head) (*File, error) {
	f := &File{Head: h, Unit: shop.UnitOf(h.Model.Unit)}
	var err error
	if f.Layout, err = s.Cache.Layout(h.Model); err != nil {
		return nil, err
	}
	own, err := db.OwnCharacteristics(h.ModelID)
	f.Own = OwnCharacteristics(own)
	return f, err
}

// Judge works out the judgements from what was read and seen. As long as nothing was since
// the head came in they are one.
func (f *File) Judge() {
	f.Subject = f.subject()
	f.Now = judge.Head(f.Subject)
	f.Received = f.Now
	if slices.ContainsFunc(f.Readings, func(r store.Reading) bool { return r.Stage != AsReceived }) ||
		slices.ContainsFunc(f.Findings, func(x store.Finding) bool { return x.Stage != AsReceived }) {
		f.Received = judge.Head(f.Subject.Until(AsReceived))
	}
	f.Subject.Parts = f.parts()
}

// OnHead runs write on the file of the head with that tag in a transaction, once for a
// client-made id.
func OnHead(
	ctx context.Context, s *shop.Shop, clientID, tag string, write func(tx store.DB, f *File) error,
) error {
	_, err := s.Once(ctx, clientID, func(tx store.DB) (string, error) {
		f, err := OpenIn(s, tx, tag)
		if err != nil {
			return "", err
		}
		return "", write(tx, f)
	})
	return err
}

// Characteristic returns what can be read on this head under a code, the shop's own too.
func (f *File) Characteristic(code string) (trade.Characteristic, bool) {
	return characteristic(f.Own, code)
}

// characteristic is the trade's of a code, or the shop's own.
func characteristic(own []trade.Characteristic, code string) (trade.Characteristic, bool) {
	if c, ok := trade.ByCode(code); ok {
		return c, true
	}
	i := slices.IndexFunc(own, func(c trade.Characteristic) bool { return c.Code == code })
	if i < 0 {
		return trade.Characteristic{}, false
	}
	return own[i], true
}

// Spot is where the reading was taken.
func spotOf(r store.Reading) trade.Spot {
	return trade.Spot{Position: r.Position, Place: r.Place, Dir: r.Dir}
}

// Standing lists the readings of a stage that no correction supersedes, by
// characteristic and spot: "guide.bore 2E1.top.A". The map is the file's own: do not
// change it.
func (f *File) Standing(stage string) map[string]store.Reading {
	if f.ByStage == nil {
		f.ByStage = map[string]map[string]store.Reading{}
		for _, stage := range Stages {
			f.ByStage[stage] = map[string]store.Reading{}
		}
		for _, r := range f.Readings {
			f.ByStage[r.Stage][SpotKey(r)] = r
		}
	}
	return f.ByStage[stage]
}

// SpotKey names what was read where: "guide.bore 2E1.top.A".
func SpotKey(r store.Reading) string { return r.Characteristic + " " + spotOf(r).Key() }

// Counting returns the readings that stand for a characteristic at a position.
func (f *File) Counting(code, position string) []head.Reading { return f.Subject.Reads(code, position) }

// Mean returns the mean of what now counts for a characteristic at a place of a position,
// nil when nothing was read there.
func (f *File) Mean(code, position, place string) *quantity.Amount {
	var all []quantity.Amount
	for _, r := range f.Subject.Reads(code, position) {
		if r.Spot.Place == place {
			all = append(all, r.Value.At)
		}
	}
	if all == nil {
		return nil
	}
	m := length.Mean(all)
	return &m
}

// Progress is how many spots of a characteristic have been read at a stage.
type Progress struct {
	trade.Characteristic
	Read, Of int
	Wanted   bool // by the head's sheet
	Suspect  int  // how many of the readings are suspect
}

// Progress counts the readings of a stage per characteristic.
func (f *File) Progress(stage string) []Progress {
	read, suspect := map[string]int{}, map[string]int{}
	for _, r := range f.Standing(stage) {
		if f.Worked(r) {
			continue
		}
		read[r.Characteristic]++
		if f.IsSuspect(r.ID) {
			suspect[r.Characteristic]++
		}
	}
	var out []Progress
	has := map[string]bool{}
	for i := range f.Sheet.Limits {
		if l := &f.Sheet.Limits[i]; l.Kind != SetGiven && l.Kind != SetRenew {
			has[l.Characteristic] = true
		}
	}
	for _, c := range slices.Concat(trade.Characteristics, f.Own) {
		if !c.Derived() && c.Exists(KindOf(f.Model)) && len(c.Positions(f.Layout)) > 0 {
			out = append(out, Progress{c, read[c.Code], len(c.Spots(f.Layout)), Wants(c, has) ||
				stage != AsReceived && len(f.Asked(c.Code)) > 0, suspect[c.Code]})
		}
	}
	return out
}

// Wants tells whether a characteristic has to be read on a head whose sheet has limits for
// the codes of has: always, or when it or something made of it is on the sheet.
func Wants(c trade.Characteristic, has map[string]bool) bool {
	if !c.OnSheet || has[c.Code] {
		return true
	}
	for code := range has {
		d, ok := trade.ByCode(code)
		if ok && (d.Of != nil && d.Of.Code == c.Code || len(d.Tools) == 0 &&
			slices.ContainsFunc(d.From, func(from *trade.Characteristic) bool { return from.Code == c.Code })) {
			return true
		}
	}
	return false
}

// Decision returns the decision in force on a feature.
func (f *File) Decision(feature string) (store.Decision, bool) {
	i := slices.IndexFunc(f.Decisions, func(d store.Decision) bool { return d.Feature == feature })
	if i < 0 {
		return store.Decision{}, false
	}
	return f.Decisions[i], true
}

// NewestDecision is the id of the newest decision in force, 0 when nothing is decided.
func (f *File) NewestDecision() uint {
	if len(f.Decisions) == 0 {
		return 0
	}
	return f.Decisions[len(f.Decisions)-1].ID
}

// AllOf writes positions as people read them: "all 24" for every valve of a head, "all 12 exhaust" for
// every one of a role, else as they are.
func AllOf(l layout.Layout, positions string) words.Text {
	at := strings.Fields(positions)
	if len(at) < 4 {
		return words.Of(positions)
	}
	byRole, all := map[layout.Role]int{}, map[layout.Role]int{}
	for _, v := range l.Valves {
		all[v.Role]++
		if slices.Contains(at, v.ID) {
			byRole[v.Role]++
		}
	}
	if len(at) == len(l.Valves) {
		return words.Of("all %d", len(at))
	}
	for role, n := range byRole {
		if n == len(at) && n == all[role] {
			if role == layout.Intake {
				return words.Of("all %d intake", n)
			}
			return words.Of("all %d exhaust", n)
		}
	}
	return words.Of(positions)
}

// OperationName is an operation's name by its code; the code of one there is no more.
func OperationName(code string) string {
	if o := trade.OperationNamed(code); o != nil {
		return o.Name
	}
	return code
}

// DecisionText is what was decided, in words: a repair's name, or why none.
func DecisionText(d store.Decision) string {
	if rep := trade.RepairNamed(d.Choice); rep != nil {
		return rep.Name
	}
	if d.Choice == trade.Planned {
		return "answered by " + cmp.Or(d.Reason, "the plan")
	}
	return "left: " + d.Reason
}

// DoneText is what became of a decision, told from the work: what was done, what was left out and why, or
// that it is still to come.
func (f *File) DoneText(d store.Decision) string {
	if trade.RepairNamed(d.Choice) == nil || f.WorkOrderAt == nil {
		return DecisionText(d)
	}
	text := DecisionText(d) + ": not on the route"
	for _, o := range f.Operations {
		if o.Code != d.Choice || d.Position != "" && o.Positions != "" && !slices.Contains(o.At(), d.Position) {
			continue
		}
		switch o.State {
		case "done":
			return DecisionText(d)
		case "skipped":
			text = DecisionText(d) + ": left out, " + o.SkipReason
		default:
			text = DecisionText(d) + ": not done yet"
		}
	}
	return text
}

// Closing says how the head stands at its end, for its report: not released, passed and by whom, or
// that it goes back without its work.
func (f *File) Closing() string {
	switch {
	case f.Ended != "":
		return fmt.Sprintf("It goes back without its work (%s: %s), %s. Nothing is claimed to be proven.", f.Ended,
			f.EndedWhy, f.EndedState)
	case f.ClosedAt == nil:
		return "The final check has not passed: this is not a release."
	case f.Releaser != "":
		day := f.ClosedAt.Local().Format("2 January 2006")
		return fmt.Sprintf("Final check passed %s. Regulated work (%s), released by %s, licence %s.", day,
			f.Job.Regulated, f.Releaser, f.Licence)
	}
	return "Final check passed " + f.ClosedAt.Local().Format("2 January 2006") + "."
}

// SignedFor says what a signature is for: a feature by its key, or an operation that was left out.
func SignedFor(feature string) string {
	if code, out := strings.CutPrefix(feature, head.LeftOut); out {
		return OperationName(code) + ", left out"
	}
	if of, record := strings.CutPrefix(feature, gate.Record); record {
		code, at, _ := strings.Cut(of, "@")
		return strings.TrimSpace(OperationName(code) + ", record " + at)
	}
	return feature
}

// Step is a step of the route card with its state: done, now or ahead.
type Step struct {
	Code, Name, State string

	Said words.Text
}

// Steps are the steps of the head's route card.
func (f *File) Steps() []Step {
	read, of := 0, 0
	for _, p := range f.Progress(AsReceived) {
		if p.Wanted {
			read, of = read+p.Read, of+p.Of
		}
	}
	open := 0
	for _, x := range f.Received.Findings() {
		if _, ok := f.Decision(x.Key()); !ok {
			open++
		}
	}
	worked := 0
	for _, o := range f.Operations {
		if o.State == "done" || o.State == "skipped" {
			worked++
		}
	}
	ordered := f.WorkOrderAt != nil
	tested, marks := f.CrackTest()
	quoted := words.Of("not yet")
	for _, q := range f.Approved.Quotes {
		quoted = words.Of("waits for an answer")
		if q.Approval != nil {
			quoted = words.Of("answered")
		}
	}
	crack, judged := words.Of("not yet"), words.Of("%d open", open)
	if tested {
		crack = words.Of("%d marks", marks)
	}
	if ordered {
		judged = words.Of("work ordered")
	}
	steps := []Step{
		{"intake", "Take in", "done", words.Of("%s", f.CreatedAt)},
		{"tray", "Strip", state(len(f.Places) > 0 || read > 0 ||
			ordered), words.Of("%d parts noted", len(f.Places))},
		{"map", "Crack test", state(tested || ordered), crack},
		{"measure", "Measure", state(read == of || ordered), words.Of("%d of %d", read, of)},
		{"judge", "Judge", state(ordered || f.Approved.Asked() && open == 0), judged},
		{"quote", "Quote", state(f.Approved.Asked()), quoted},
		{
			"work", "Work", state(ordered && worked == len(f.Operations)),
			words.Of("%d of %d", worked, len(f.Operations)),
		},
		{"check", "Check", state(f.ClosedAt != nil), words.Text{}},
		{"handover", "Hand over", state(f.HandedOverAt != nil), words.Of(f.HandedTo)},
	}
	for i := range steps {
		// stripping and testing hold nobody up
		if steps[i].State != "done" && steps[i].Code != "tray" && steps[i].Code != "map" {
			steps[i].State = "now"
			break
		}
	}
	return steps
}

// CrackTest tells whether the head was tested for cracks, and how many marks it has.
func (f *File) CrackTest() (tested bool, marks int) {
	for _, x := range f.Standings(Stages...) {
		if x.Part == trade.MarkCode {
			marks++
		}
	}
	tested = marks > 0 || slices.ContainsFunc(f.Notes, func(n store.Note) bool { return n.Kind == CrackNote })
	_, pressed := f.Recorded("pressure_test", "")
	return tested || pressed, marks
}

func state(done bool) string {
	if done {
		return "done"
	}
	return "ahead"
}
