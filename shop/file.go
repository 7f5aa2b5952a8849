package shop

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/store"
)

// Stages of a head's readings, in order.
const (
	AsReceived  = "as received"
	AfterRepair = "after repair"
	Final       = "final"
)

// Stages lists the stages in order.
var Stages = []string{AsReceived, AfterRepair, Final}

// File is everything about one head.
type File struct {
	store.Head
	Layout     layout.Layout
	Sheet      store.LimitSheet
	Unit       length.Unit // of the sheet: what a bare number means
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
	Own        []judge.Characteristic // the shop's own, of the model's sheet

	Received judge.Judgement // as received
	Now      judge.Judgement // with what was read after repair

	counting []judge.Reading                     // the readings behind Now
	standing map[string]map[string]store.Reading // by stage, made when first asked for
	only     []string                            // of a sweep: the characteristics it judges
	upTo     uint                                // of a sweep: the newest reading of the head it knows
}

// File opens the file of the head with that tag.
func (s *Shop) File(ctx context.Context, tag string) (*File, error) {
	return s.file(s.st.Read(ctx), tag)
}

func (s *Shop) file(db store.DB, tag string) (*File, error) {
	h, err := db.Head(tag)
	if err != nil {
		return nil, err
	}
	f, err := s.open(db, h)
	if err != nil {
		return nil, err
	}
	for _, load := range []func() error{
		func() (err error) { f.Sheet, err = db.Sheet(h.SheetID); return },
		func() (err error) { f.Sheet.Limits, err = s.known.sheetLimits(db, h.SheetID); return },
		func() (err error) { f.Tools, err = db.Tools(); return },
		func() (err error) { f.Readings, err = s.known.headReadings(db, h.ID, nil); return },
		func() (err error) { f.Decisions, err = db.Decisions(h.ID); return },
		func() (err error) { f.Signoffs, err = db.Signoffs(h.ID); return },
		func() (err error) { f.Operations, err = db.Operations(h.ID); return },
		func() (err error) { f.Notes, err = db.Notes(h.ID); return },
		func() (err error) { f.Checks, err = db.LastZeroChecks(); return },
		func() (err error) { f.Findings, err = db.Findings(h.ID); return },
		func() (err error) { f.Photos, err = db.Photos(h.ID); return },
		func() (err error) { f.Places, err = db.Places(h.ID); return },
		func() (err error) { f.Approved.Quotes, err = s.quotes(db, h.ID); return },
		func() (err error) { f.Records, err = db.OpRecords(h.ID); return },
		func() error { f.tooled(); return f.peopled(db) },
		func() error { return f.suspects(db) },
	} {
		if err := load(); err != nil {
			return nil, err
		}
	}
	f.judge()
	return f, nil
}

// tooled fills in each reading's tool: there are few, so that is quicker than asking for
// them with every reading.
func (f *File) tooled() {
	tool := map[uint]*store.Tool{}
	for i := range f.Tools {
		tool[f.Tools[i].ID] = &f.Tools[i]
	}
	for i := range f.Readings {
		f.Readings[i].Tool = tool[f.Readings[i].ToolID]
	}
}

// peopled fills in who read and who found what.
func (f *File) peopled(db store.DB) error {
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

// Sweep opens only what a sweep of one characteristic needs: the readings of it, and of
// what is judged together with it, and their judgement. Everything else of the file is
// empty, also who read what.
func (s *Shop) Sweep(ctx context.Context, tag, characteristic string) (*File, error) {
	f, err := s.bench(s.st.Read(ctx), tag, characteristic)
	if err != nil {
		return nil, err
	}
	f.judge()
	return f, nil
}

// bench opens what a sweep needs, not judged yet.
func (s *Shop) bench(db store.DB, tag, characteristic string) (*File, error) {
	h, err := db.Head(tag)
	if err != nil {
		return nil, err
	}
	f, err := s.open(db, h)
	if err != nil {
		return nil, err
	}
	f.only = judge.Together(characteristic)
	for _, load := range []func() error{
		func() (err error) {
			f.Readings, err = s.known.headReadings(db, f.ID, func(r *store.Reading) bool {
				f.upTo = r.ID
				return !f.elsewhere(*r)
			})
			return
		},
		func() (err error) { f.Sheet.Limits, err = s.known.sheetLimits(db, f.SheetID); return },
		func() (err error) { f.Tools, err = db.Tools(); return },
		func() (err error) { f.Checks, err = db.LastZeroChecks(); return },
		func() error { return f.suspects(db) },
	} {
		if err := load(); err != nil {
			return nil, err
		}
	}
	f.tooled()
	return f, nil
}

// elsewhere tells whether a reading is none of this sweep's.
func (f *File) elsewhere(r store.Reading) bool { return !slices.Contains(f.only, r.Characteristic) }

// open returns the file of a head with its layout and the shop's own characteristics.
func (s *Shop) open(db store.DB, h store.Head) (*File, error) {
	f := &File{Head: h, Unit: unitOf(h.Model.Unit)}
	var err error
	if f.Layout, err = s.known.layout(h.Model); err != nil {
		return nil, err
	}
	own, err := db.OwnCharacteristics(h.ModelID)
	f.Own = ownCharacteristics(own)
	return f, err
}

// judge works out the judgements from the readings. As long as nothing was read or seen
// since the head came in they are one.
func (f *File) judge() {
	sheet := f.judgeSheet()
	received := f.current(AsReceived)
	f.Received = judge.Head(sheet, received, f.seen(AsReceived)...)
	f.counting, f.Now = received, f.Received
	if slices.ContainsFunc(f.Readings, func(r store.Reading) bool { return r.Stage != AsReceived }) ||
		slices.ContainsFunc(f.Findings, func(x store.Finding) bool { return x.Stage != AsReceived }) {
		f.counting = f.current(Stages...)
		f.Now = judge.Head(sheet, f.counting, f.seen(Stages...)...)
	}
}

// onHead runs write on the file of the head with that tag in a transaction, once for a
// client-made id.
func (s *Shop) onHead(ctx context.Context, clientID, tag string, write func(tx store.DB, f *File) error) error {
	_, err := s.once(ctx, clientID, func(tx store.DB) (string, error) {
		f, err := s.file(tx, tag)
		if err != nil {
			return "", err
		}
		return "", write(tx, f)
	})
	return err
}

func (f *File) judgeSheet() judge.Sheet {
	sheet := judge.Sheet{Layout: f.Layout, Tools: map[string][]gauge.Tool{}, Own: f.Own, Set: governing[f.Job.Kind], Given: map[string]length.Length{}}
	for _, l := range f.Sheet.Limits {
		if l.Kind == SetGiven && l.Low != nil {
			sheet.Given[strings.TrimSuffix(l.Characteristic+"/"+l.Role, "/")] = *l.Low
			continue
		}
		if f.only != nil && !f.judgesHere(l.Characteristic) {
			continue
		}
		sheet.Limits = append(sheet.Limits, judge.Limit{Characteristic: l.Characteristic, Role: l.Role, Set: l.Kind, Low: l.Low, High: l.High, Near: l.Near, Source: l.Source})
	}
	for _, t := range f.Tools {
		sheet.Tools[t.Kind] = append(sheet.Tools[t.Kind], gauge.Tool{Name: t.Name, U: t.U})
	}
	return sheet
}

// judgesHere tells whether a limit is for what this sweep reads, or for what is made of it.
func (f *File) judgesHere(code string) bool {
	for _, read := range f.only {
		c, _ := judge.ByCode(read)
		if fed, ok := judge.ByCode(c.Feeds); ok && fed.LimitOf == code {
			return true
		}
	}
	return slices.ContainsFunc(append(judge.Proves(code), strings.TrimSuffix(code, ".spread")), func(c string) bool { return slices.Contains(f.only, c) })
}

// governing is the set that judges by the kind of intake, where the sheet has a limit in
// it: a rules check by the class rule, a part bought in by the maker's figures for a new one.
var governing = map[string]string{"rules": "class", "bought-in": "new"}

// Characteristic returns what can be read on this head under a code, the shop's own too.
func (f *File) Characteristic(code string) (judge.Characteristic, bool) {
	if c, ok := judge.ByCode(code); ok {
		return c, true
	}
	i := slices.IndexFunc(f.Own, func(c judge.Characteristic) bool { return c.Code == code })
	if i < 0 {
		return judge.Characteristic{}, false
	}
	return f.Own[i], true
}

// Spot is where the reading was taken.
func spotOf(r store.Reading) judge.Spot {
	return judge.Spot{Position: r.Position, Place: r.Place, Dir: r.Dir}
}

// Standing lists the readings of a stage that no correction supersedes, by
// characteristic and spot: "guide.bore 2E1.top.A". The map is the file's own: do not
// change it.
func (f *File) Standing(stage string) map[string]store.Reading {
	if f.standing == nil {
		f.standing = map[string]map[string]store.Reading{}
		for _, stage := range Stages {
			f.standing[stage] = map[string]store.Reading{}
		}
		for _, r := range f.Readings {
			f.standing[r.Stage][spotKey(r)] = r
		}
	}
	return f.standing[stage]
}

// spotKey names what was read where: "guide.bore 2E1.top.A".
func spotKey(r store.Reading) string { return r.Characteristic + " " + spotOf(r).Key() }

// current returns the readings that count: of each characteristic at each position, the
// ones of the latest of the stages in which any was read.
func (f *File) current(stages ...string) []judge.Reading {
	type at struct{ characteristic, position string }
	latest := map[at]string{}
	for _, r := range f.Readings {
		k := at{r.Characteristic, r.Position}
		if slices.Contains(stages, r.Stage) && slices.Index(stages, r.Stage) >= slices.Index(stages, latest[k]) {
			latest[k] = r.Stage
		}
	}
	var out []judge.Reading
	for _, stage := range stages {
		for _, r := range f.Standing(stage) {
			if latest[at{r.Characteristic, r.Position}] != stage {
				continue
			}
			v := gauge.Exact(r.NM)
			if r.Bracket {
				v = gauge.Between(r.GoNM, r.NoGoNM)
			}
			out = append(out, judge.Reading{ID: r.ID, Characteristic: r.Characteristic, Spot: spotOf(r), Value: v, U: doubt(r), Tool: r.Tool.Name})
		}
	}
	slices.SortFunc(out, func(a, b judge.Reading) int { return int(a.ID) - int(b.ID) })
	return out
}

// doubt is a reading's expanded uncertainty: its tool's, and what grows with the reading.
func doubt(r store.Reading) length.Length {
	return r.Tool.U + length.Length(int64(r.NM.Abs())/1_000_000*r.Tool.UPPM)
}

// Counting returns the readings that now count for a characteristic at a position.
func (f *File) Counting(code, position string) []judge.Reading {
	var out []judge.Reading
	for _, r := range f.counting {
		if r.Characteristic == code && r.Spot.Position == position {
			out = append(out, r)
		}
	}
	return out
}

// Mean returns the mean of what now counts for a characteristic at a place of a position,
// nil when nothing was read there.
func (f *File) Mean(code, position, place string) *length.Length {
	var all []length.Length
	for _, r := range f.counting {
		if r.Characteristic == code && r.Spot.Position == position && r.Spot.Place == place {
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
	judge.Characteristic
	Read, Of int
	Wanted   bool // by the head's sheet
	Suspect  int  // how many of the readings are suspect
}

// Progress counts the readings of a stage per characteristic.
func (f *File) Progress(stage string) []Progress {
	read, suspect := map[string]int{}, map[string]int{}
	for _, r := range f.Standing(stage) {
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
	for _, c := range slices.Concat(judge.Characteristics, f.Own) {
		if !c.Derived {
			out = append(out, Progress{c, read[c.Code], len(c.Spots(f.Layout)), wants(c, has), suspect[c.Code]})
		}
	}
	return out
}

// wants tells whether a characteristic has to be read on a head whose sheet has limits for
// the codes of has: always, or when it or something made of it is on the sheet.
func wants(c judge.Characteristic, has map[string]bool) bool {
	if !c.OnSheet || has[c.Code] || c.Feeds != "" && has[c.Feeds] {
		return true
	}
	for code := range has {
		if d, ok := judge.ByCode(code); ok && d.Of == c.Code {
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

// Step is a step of the route card with its state: done, now or ahead.
type Step struct {
	Code, Name, State, Said string
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
	quoted := "not yet"
	for _, q := range f.Approved.Quotes {
		quoted = "waits for an answer"
		if q.Approval != nil {
			quoted = "answered"
		}
	}
	steps := []Step{
		{"intake", "Take in", "done", f.CreatedAt.Format("2 Jan")},
		{"tray", "Strip", state(len(f.Places) > 0 || read > 0 || ordered), plural(len(f.Places), "part") + " noted"},
		{"map", "Crack test", state(tested || ordered), map[bool]string{true: plural(marks, "mark"), false: "not yet"}[tested]},
		{"measure", "Measure", state(read == of || ordered), count(read, of)},
		{"judge", "Judge", state(ordered || f.Approved.Asked() && open == 0), map[bool]string{true: "work ordered", false: fmt.Sprintf("%d open", open)}[ordered]},
		{"quote", "Quote", state(f.Approved.Asked()), quoted},
		{"work", "Work", state(ordered && worked == len(f.Operations)), count(worked, len(f.Operations))},
		{"check", "Check", state(f.ClosedAt != nil), ""},
		{"handover", "Hand over", state(f.HandedOverAt != nil), f.HandedTo},
	}
	for i := range steps {
		if steps[i].State != "done" && steps[i].Code != "tray" && steps[i].Code != "map" { // stripping and testing hold nobody up
			steps[i].State = "now"
			break
		}
	}
	return steps
}

// CrackTest tells whether the head was tested for cracks, and how many marks it has.
func (f *File) CrackTest() (tested bool, marks int) {
	for _, x := range f.Standings(Stages...) {
		if x.Part == judge.Mark {
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
