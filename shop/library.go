package shop

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"headwright/core/field"
	"headwright/core/judge"
	"headwright/core/layout"
	"headwright/core/length"
	"headwright/store"
)

// Model is a head model with its layout and newest sheet.
type Model struct {
	store.HeadModel
	Layout layout.Layout
	Sheet  store.LimitSheet
	Own    []judge.Characteristic
}

// Unit is what a bare number means on the model's sheets.
func (m Model) SheetUnit() length.Unit { return unitOf(m.Unit) }

// Models lists the library.
func (s *Shop) Models(ctx context.Context) ([]store.HeadModel, error) { return s.st.Read(ctx).Models() }

// Model returns a model with its newest sheet.
func (s *Shop) Model(ctx context.Context, id uint) (Model, error) {
	db := s.st.Read(ctx)
	hm, err := db.Model(id)
	if err != nil {
		return Model{}, err
	}
	l, err := s.known.layout(hm)
	if err != nil {
		return Model{}, err
	}
	sheets, err := db.Sheets(id)
	if err == nil && len(sheets) == 0 {
		err = ErrNotFound
	}
	if err != nil {
		return Model{}, err
	}
	own, err := db.OwnCharacteristics(id)
	return Model{hm, l, sheets[0], ownCharacteristics(own)}, err
}

// ModelForm is a head model to add, as typed. Lengths may carry their unit; bare ones
// are in Unit.
type ModelForm struct {
	WriteID                                     string
	Name, About, Material, Drive, Unit          string
	Cylinders, Pattern                          string
	Pitch, Bore, Width, IntakeHead, ExhaustHead string
	Ignition                                    string // plug or injector
	Cooling                                     string // water or air
	FirstAt                                     string // left or right
}

// ModelChoices are the words allowed in the choices of a ModelForm.
var ModelChoices = map[string][]string{
	"material": {"iron", "aluminium"}, "drive": {"rocker", "bucket"}, "unit": {"mm", "in"},
	"ignition": {"plug", "injector"}, "cooling": {"water", "air"}, "first_at": {"left", "right"},
}

// AddModel adds a model of a regular head with an empty sheet and returns its id.
func (s *Shop) AddModel(ctx context.Context, a Actor, f ModelForm) (uint, error) {
	if err := a.must("edit limits"); err != nil {
		return 0, err
	}
	errs := field.Errors{}
	f.Name = required(errs, "name", f.Name, "a model needs a name", 60)
	f.About = optional(errs, "about", f.About, 200)
	for name, value := range map[string]string{"material": f.Material, "drive": f.Drive, "unit": f.Unit, "ignition": f.Ignition, "cooling": f.Cooling, "first_at": f.FirstAt} {
		if !slices.Contains(ModelChoices[name], value) {
			errs.Addf(name, "choose one")
		}
	}
	n, err := strconv.Atoi(strings.TrimSpace(f.Cylinders))
	if err != nil {
		errs.Addf("cylinders", "a whole number")
	}
	spec := layout.InlineSpec{Cylinders: n, Pattern: strings.ToUpper(strings.TrimSpace(f.Pattern)), Injector: f.Ignition == "injector", AirCooled: f.Cooling == "air", FirstAtRight: f.FirstAt == "right"}
	for _, l := range []struct {
		name, text string
		to         *length.Length
	}{{"pitch", f.Pitch, &spec.Pitch}, {"bore", f.Bore, &spec.Bore}, {"width", f.Width, &spec.Width}, {"intake_head", f.IntakeHead, &spec.IntakeHead}, {"exhaust_head", f.ExhaustHead, &spec.ExhaustHead}} {
		var err error
		*l.to, err = length.Parse(l.text, unitOf(f.Unit))
		errs.Add(l.name, err)
	}
	if err := errs.Err(); err != nil {
		return 0, err
	}
	lay, err := layout.Inline(spec)
	if err != nil {
		return 0, err
	}
	text, err := json.Marshal(lay)
	if err != nil {
		return 0, err
	}
	m := store.HeadModel{Name: f.Name, About: f.About, Material: f.Material, Drive: f.Drive, Unit: f.Unit, Layout: string(text), CreatedAt: s.now()}
	answer, err := s.once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		if err := tx.Add(&m); err != nil {
			return "", err
		}
		sheet := store.LimitSheet{ModelID: m.ID, Version: 1, Note: "empty", PersonID: a.ID, CreatedAt: s.now()}
		if err := tx.Add(&sheet); err != nil {
			return "", err
		}
		return strconv.FormatUint(uint64(m.ID), 10), s.note(tx, a, 0, "model added", m.Name)
	})
	if store.IsDuplicate(err) {
		return 0, field.Errors{"name": "a model of that name is there already"}
	}
	if err != nil {
		return 0, err
	}
	id, err := strconv.ParseUint(answer, 10, 32)
	return uint(id), err
}

// Sets of a sheet's lines that are not limits: figures of the engine, and parts renewed
// whatever they measure.
const (
	SetGiven = "given"
	SetRenew = "renew"
)

// SetLabels names the sets of a sheet's lines, in the order they are edited.
var SetLabels = func() []LimitRow {
	var out []LimitRow
	for _, s := range judge.Sets {
		out = append(out, LimitRow{Code: s.Code, Label: s.Label})
	}
	return append(out, LimitRow{Code: SetGiven, Label: "Figures of the engine"}, LimitRow{Code: SetRenew, Label: "Renewed always"})
}()

// LimitRow is a line of a sheet that a model can have: a characteristic and a role. Unit
// is the one its figures are in when they are not lengths.
type LimitRow struct {
	Code, Label, Role string
	Unit              length.Unit
	parse             func(text string, unit length.Unit) (length.Length, error)
}

// Key names the row's fields in a form.
func (r LimitRow) Key() string { return r.Code + "/" + r.Role }

// LimitRows lists the lines a set of a sheet can have, the shop's own characteristics last.
func LimitRows(set string, own ...judge.Characteristic) []LimitRow {
	both := []string{"intake", "exhaust"}
	var out []LimitRow
	add := func(c judge.Characteristic, label string, roles ...string) {
		for _, r := range roles {
			out = append(out, LimitRow{c.Code, label, r, c.Unit, c.Parse})
		}
	}
	switch set {
	case SetGiven:
		for _, g := range judge.Givens {
			c := judge.Characteristic{Code: g.Code, Unit: g.Unit}
			if g.PerRole {
				add(c, g.Label, both...)
			} else {
				add(c, g.Label, "")
			}
		}
		return out
	case SetRenew:
		for _, r := range judge.Renewals {
			out = append(out, LimitRow{Code: r.Code, Label: r.Label})
		}
		return out
	}
	for _, c := range slices.Concat(judge.Characteristics, own) {
		switch {
		case c.Feeds != "" || c.LimitOf != "":
		case c.Where == judge.AtPosition:
			add(c, c.Label, both...)
		case c.Where == judge.AtLine:
			add(c, c.Label, "long", "cross", "diagonal")
		default:
			add(c, c.Label, "")
		}
	}
	return out
}

// LimitEntry is one line of a sheet as typed. A figure given stands in Low.
type LimitEntry struct{ Low, High, Near, Source string }

// EditSheet writes a new version of a model's sheet: one set of it from what was typed per
// LimitRow key, the others as they were. Heads taken in before keep theirs. version is the
// version that was edited: when somebody else has written a newer one meanwhile, nothing is
// written and the error says so. It returns the new version.
func (s *Shop) EditSheet(ctx context.Context, a Actor, writeID string, model uint, version int, set, note string, rows map[string]LimitEntry) (int, error) {
	if err := a.must("edit limits"); err != nil {
		return 0, err
	}
	m, err := s.Model(ctx, model)
	if err != nil {
		return 0, err
	}
	errs := field.Errors{}
	note = required(errs, "note", note, "say what changed and why", 200)
	if !slices.ContainsFunc(SetLabels, func(l LimitRow) bool { return l.Code == set }) {
		return 0, ErrNotFound
	}
	sheet := store.LimitSheet{ModelID: model, Note: note, PersonID: a.ID, CreatedAt: s.now()}
	for _, row := range LimitRows(set, m.Own...) {
		if l, ok := rows[row.Key()].read(errs, row, set, m.SheetUnit()); ok {
			sheet.Limits = append(sheet.Limits, l)
		}
	}
	if err := errs.Err(); err != nil {
		return 0, err
	}
	answer, err := s.once(ctx, writeID, func(tx store.DB) (string, error) {
		sheets, err := tx.Sheets(model)
		if err != nil {
			return "", err
		}
		if sheets[0].Version != version {
			return "", field.Errors{"note": fmt.Sprintf("somebody wrote version %d meanwhile (%s): look at it first, yours is kept here", sheets[0].Version, sheets[0].Note)}
		}
		sheet.Version = version + 1
		for _, l := range sheets[0].Limits {
			if l.Kind != set {
				l.ID, l.SheetID = 0, 0
				sheet.Limits = append(sheet.Limits, l)
			}
		}
		if err := tx.Add(&sheet); err != nil {
			return "", err
		}
		return strconv.Itoa(sheet.Version), s.note(tx, a, 0, "sheet edited", fmt.Sprintf("%s version %d: %s", m.Name, sheet.Version, note))
	})
	if err != nil {
		return 0, err
	}
	return strconv.Atoi(answer)
}

// ConfirmSheet records that a second person has held a model's newest sheet against its
// documents. Regulated work needs a sheet that is confirmed.
func (s *Shop) ConfirmSheet(ctx context.Context, a Actor, writeID string, model uint, version int) error {
	if err := a.must("confirm limits"); err != nil {
		return err
	}
	_, err := s.once(ctx, writeID, func(tx store.DB) (string, error) {
		sheets, err := tx.Sheets(model)
		switch {
		case err != nil:
			return "", err
		case len(sheets) == 0:
			return "", ErrNotFound
		case sheets[0].Version != version:
			return "", ErrStale
		case sheets[0].PersonID == a.ID:
			return "", field.Errors{"confirm": "a second person confirms it: you wrote this version"}
		case sheets[0].ConfirmedBy != nil:
			return "", ErrStale
		}
		if err := tx.SetSheet(sheets[0].ID, map[string]any{"confirmed_by": a.ID, "confirmed_at": s.now()}); err != nil {
			return "", err
		}
		return "", s.note(tx, a, 0, "sheet confirmed", fmt.Sprintf("model %d version %d", model, version))
	})
	return err
}

// read turns what was typed into a line; ok is false for an empty one.
func (e LimitEntry) read(errs field.Errors, row LimitRow, set string, unit length.Unit) (store.Limit, bool) {
	l := store.Limit{Characteristic: row.Code, Role: row.Role, Kind: set, Source: strings.TrimSpace(e.Source)}
	if set == SetRenew {
		if len(l.Source) > 200 {
			errs.Addf(row.Key()+"/source", "longer than 200 characters")
		}
		return l, l.Source != ""
	}
	one := func(name, text string) *length.Length {
		if strings.TrimSpace(text) == "" {
			return nil
		}
		v, err := row.parse(text, unit)
		errs.Add(row.Key()+"/"+name, err)
		return &v
	}
	l.Low, l.High = one("low", e.Low), one("high", e.High)
	if near := one("near", e.Near); near != nil {
		l.Near = *near
		if *near < 0 {
			errs.Addf(row.Key()+"/near", "not negative")
		}
	}
	if g, given := judge.GivenNamed(row.Code); given && l.Low != nil && *l.Low < 0 && !g.Signed {
		errs.Addf(row.Key()+"/low", "not negative")
	}
	if l.Low == nil && l.High == nil {
		if l.Source != "" {
			errs.Addf(row.Key()+"/low", "a source without a limit")
		}
		return l, false
	}
	if l.Low != nil && l.High != nil && *l.Low > *l.High {
		errs.Addf(row.Key()+"/low", "above the upper limit")
	}
	if l.Source == "" || len(l.Source) > 200 {
		errs.Addf(row.Key()+"/source", "where is it from: document and page, or shop practice")
	}
	return l, true
}

// OwnForm is a characteristic a shop adds to a model's sheet.
type OwnForm struct{ WriteID, Label, Spot, Unit, Stat, ToolKind string }

// OwnStats are what of a shop's own characteristic is held against its limits.
var OwnStats = []string{"each reading", "spread of all"}

// AddOwn adds a characteristic of the shop's own to a model.
func (s *Shop) AddOwn(ctx context.Context, a Actor, model uint, f OwnForm) error {
	if err := a.must("edit limits"); err != nil {
		return err
	}
	errs := field.Errors{}
	o := store.OwnCharacteristic{ModelID: model, Label: required(errs, "label", f.Label, "what is it called on the bench?", 60), Spot: f.Spot, Unit: f.Unit, Stat: f.Stat, ToolKind: f.ToolKind}
	if !slices.Contains(judge.Wheres, f.Spot) {
		errs.Addf("spot", "choose where it is read")
	}
	if _, ok := judge.Units[f.Unit]; !ok {
		errs.Addf("unit", "choose its unit")
	}
	if !slices.Contains(OwnStats, f.Stat) {
		errs.Addf("stat", "choose what is held against the limits")
	}
	if !slices.Contains(ToolKinds(), f.ToolKind) {
		errs.Addf("tool_kind", "choose what it is read with")
	}
	if err := errs.Err(); err != nil {
		return err
	}
	_, err := s.once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		if _, err := tx.Model(model); err != nil {
			return "", err
		}
		have, err := tx.OwnCharacteristics(model)
		if err != nil {
			return "", err
		}
		o.Code = fmt.Sprintf("own.%d.%d", model, len(have)+1)
		if err := tx.Add(&o); err != nil {
			return "", err
		}
		return "", s.note(tx, a, 0, "characteristic added", o.Label)
	})
	if store.IsDuplicate(err) {
		return field.Errors{"label": "this model has one of that name"}
	}
	return err
}

// ownCharacteristics turns a shop's own characteristics into ones that can be read. One
// judged by its spread has a second, derived one that carries the limit.
func ownCharacteristics(own []store.OwnCharacteristic) []judge.Characteristic {
	var out []judge.Characteristic
	for _, o := range own {
		u := judge.Units[o.Unit]
		c := judge.Characteristic{Code: o.Code, Label: o.Label, Where: o.Spot, Low: -length.Metre, High: length.Metre, ToolKind: o.ToolKind, Unit: u}
		if u.Size != 0 {
			c.Low, c.High = 0, 1_000_000*length.Millimetre
		}
		out = append(out, c)
		if o.Stat == OwnStats[1] {
			out[len(out)-1].Feeds = o.Code + ".spread"
			out = append(out, judge.Characteristic{Code: o.Code + ".spread", Label: o.Label + ", spread", Where: o.Spot, Derived: true, Of: o.Code, Unit: u})
		}
	}
	return out
}

// Tools lists the tools.
func (s *Shop) Tools(ctx context.Context) ([]store.Tool, error) { return s.st.Read(ctx).Tools() }

// ZeroChecks returns each tool's latest zero check, by tool.
func (s *Shop) ZeroChecks(ctx context.Context) (map[uint]store.ZeroCheck, error) {
	return s.st.Read(ctx).LastZeroChecks()
}

// ToolForm is a tool to add, as typed; bare lengths are millimetres.
type ToolForm struct {
	WriteID, Name, Kind, Resolution, U, Percent, Standard, Tolerance, Due string
}

// ToolKinds are the kinds of tool the characteristics are read with.
func ToolKinds() []string {
	var out []string
	for _, c := range judge.Characteristics {
		if c.ToolKind != "" && !slices.Contains(out, c.ToolKind) {
			out = append(out, c.ToolKind)
		}
	}
	return out
}

// AddTool adds a tool to the register; the owner does.
func (s *Shop) AddTool(ctx context.Context, a Actor, f ToolForm) error {
	if err := a.must("add a tool"); err != nil {
		return err
	}
	errs := field.Errors{}
	t := store.Tool{Name: required(errs, "name", f.Name, "a tool needs a name", 80), Kind: f.Kind}
	if !slices.Contains(ToolKinds(), f.Kind) {
		errs.Addf("kind", "choose what it is used for")
	}
	for _, l := range []struct {
		name, text string
		to         *length.Length
		optional   bool
	}{{"resolution", f.Resolution, &t.Resolution, false}, {"u", f.U, &t.U, false}, {"standard", f.Standard, &t.Standard, true}, {"tolerance", f.Tolerance, &t.Tolerance, true}} {
		if l.optional && strings.TrimSpace(l.text) == "" {
			continue
		}
		var err error
		*l.to, err = length.Parse(l.text, length.MM)
		errs.Add(l.name, err)
		if *l.to < 0 || *l.to > length.Metre {
			errs.Addf(l.name, "no tool has that")
		}
	}
	if strings.TrimSpace(f.Percent) != "" {
		p, err := length.Parse(f.Percent, length.Unit{Name: "%", Size: 10_000})
		errs.Add("percent", err)
		if t.UPPM = int64(p); p < 0 || p > 500_000 {
			errs.Addf("percent", "no tool has that")
		}
	}
	if t.Standard > 0 && t.Tolerance == 0 {
		errs.Addf("tolerance", "how far off its standard may it read?")
	}
	if f.Due != "" {
		day, err := time.Parse(time.DateOnly, f.Due)
		if err != nil {
			errs.Addf("due", "a date like 2031-05-20")
		}
		t.CalibrationDue = &day
	}
	if err := errs.Err(); err != nil {
		return err
	}
	_, err := s.once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		if err := tx.Add(&t); err != nil {
			return "", err
		}
		return "", s.note(tx, a, 0, "tool added", t.Name)
	})
	if store.IsDuplicate(err) {
		return field.Errors{"name": "a tool of that name is there already"}
	}
	return err
}

// starterTools is the register a new shop begins with: usual uncertainties, which the
// shop's own figures replace.
var starterTools = []store.Tool{
	{Name: "Dial bore gauge on ring", Kind: "bore gauge", Resolution: 1000, U: 4000, Standard: 8_000_000, Tolerance: 2000},
	{Name: "Small-hole gauge and micrometer", Kind: "bore gauge", Resolution: 1000, U: 8000, Standard: 8_000_000, Tolerance: 4000},
	{Name: "Outside micrometer", Kind: "micrometer", Resolution: 1000, U: 4000, Standard: 25_000_000, Tolerance: 2000},
	{Name: "Caliper", Kind: "caliper", Resolution: 10000, U: 30000, Standard: 25_000_000, Tolerance: 20000},
	{Name: "Dial on pilot", Kind: "dial on pilot", Resolution: 1000, U: 5000},
	{Name: "Dial on bridge", Kind: "dial on bridge", Resolution: 10000, U: 8000},
	{Name: "Depth micrometer", Kind: "dial on bridge", Resolution: 1000, U: 6000},
	{Name: "Height gauge", Kind: "height gauge", Resolution: 10000, U: 20000},
	{Name: "Straightedge and feelers", Kind: "feelers", Resolution: 10000, U: 0},
	{Name: "Tapered pilot", Kind: "bore gauge", Resolution: 1000, U: 5000},
	{Name: "Bore gauge zeroed on the stem", Kind: "bore gauge", Resolution: 1000, U: 3000},
	{Name: "Dial indicator on a stand", Kind: "dial indicator", Resolution: 10000, U: 10000},
	{Name: "Surface plate and 0.001 dial", Kind: "plate and dial", Resolution: 1000, U: 4000},
	{Name: "Spring tester", Kind: "spring tester", Resolution: 1_000_000, UPPM: 20_000},
	{Name: "Protractor", Kind: "protractor", Resolution: 100_000, U: 200_000},
	{Name: "Square and feelers", Kind: "square and feeler", Resolution: 50_000, U: 100_000},
	{Name: "Burette and plate", Kind: "burette", Resolution: 100_000, U: 200_000},
	{Name: "Vacuum tester", Kind: "vacuum tester", Resolution: 500_000, U: 500_000},
	{Name: "Roughness comparator", Kind: "roughness comparator", Resolution: 100_000, U: 400_000},
	{Name: "Gauging strip", Kind: "gauging strip", Resolution: 10_000, U: 13_000},
	{Name: "Bench clock", Kind: "clock", Resolution: 1_000_000, U: 100_000},
	{Name: "By ear", Kind: "ear", Resolution: 1_000_000},
	{Name: "By eye", Kind: "eye", Resolution: 1_000_000},
}

// Equip gives an empty shop its first tools. It does nothing when there are any.
func (s *Shop) Equip(ctx context.Context) error {
	return s.st.Write(ctx, func(tx store.DB) error {
		if have, err := tx.Tools(); err != nil {
			return err
		} else if len(have) == 0 {
			tools := slices.Clone(starterTools)
			if err := tx.Add(&tools); err != nil {
				return err
			}
		}
		return s.setUpStations(tx)
	})
}

// ErrStale is returned when somebody else was faster.
var ErrStale = errors.New("somebody else was faster: this is how it stands now")
