package intake

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/gate"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// ImportForm is a head file to take in. Whose it is the file does not say.
type ImportForm struct {
	WriteID, Customer, Machine string
	File                       []byte
}

// Imported is what became of a head file: the tag it has here, and what was left out.
type Imported struct {
	Tag  string
	Left []string
}

// Import takes a head in from a head file: its model, sheet and tools where the shop has none
// like them, its readings with the doubt they were taken with, what was seen, decided, worked
// and written down. Signatures and approvals are people's own and are not taken over. It keeps
// the file's tag where that is free. Errors of the file are under "file".
func Import(ctx context.Context, s *shop.Shop, a shop.Actor, form ImportForm) (Imported, error) {
	if err := a.Must("take in a head"); err != nil {
		return Imported{}, err
	}
	errs := field.Errors{}
	form.Customer = shop.Required(errs, "customer", form.Customer, "whose head is it?", 100)
	form.Machine = shop.Required(errs, "machine", form.Machine, "which machine or engine does it come from?",
		100)
	file, err := head.Parse(form.File)
	var h *head.Head
	if err == nil {
		h, err = file.Decode()
	}
	if err != nil {
		errs.Add("file", err)
	}
	if err := errs.Err(); err != nil {
		return Imported{}, err
	}
	im := importing{s: s, a: a, h: h, file: file}
	tag, err := s.Once(ctx, form.WriteID, func(tx store.DB) (string, error) { return im.write(tx, form) })
	return Imported{tag, im.left}, err
}

// importing is a head file on its way into the shop.
type importing struct {
	s    *shop.Shop
	a    shop.Actor
	h    *head.Head
	file head.File
	head store.Head
	seen map[uint]uint // the ids that findings have here, by those of the file
	left []string
}

func (im *importing) write(tx store.DB, form ImportForm) (string, error) {
	now := im.s.Now()
	model, sheet, err := im.model(tx)
	if err != nil {
		return "", err
	}
	job := store.Job{
		Kind: im.h.Kind, Story: im.h.Story, Hours: im.h.Hours, Symptoms: strings.Join(im.h.Symptoms, " "),
		Regulated: im.h.Regulated, CreatedAt: now,
	}
	if job.CustomerID, job.MachineID, err = customerAndMachine(im.s, tx,
		IntakeForm{Customer: form.Customer, Machine: form.Machine}); err != nil {
		return "", err
	}
	if err := tx.Add(&job); err != nil {
		return "", err
	}
	tag, err := freeTag(im.s, tx, im.h.Tag)
	if err != nil {
		return "", err
	}
	im.head = store.Head{
		Tag: tag, JobID: job.ID, ModelID: model, SheetID: sheet, Bank: im.h.Bank, Marks: im.h.Marks,
		CreatedAt: now,
	}
	if len(im.h.Operations) > 0 {
		im.head.WorkOrderAt = &now
	}
	if err := tx.Add(&im.head); err != nil {
		return "", err
	}
	ids, err := im.readings(tx)
	if err != nil {
		return "", err
	}
	for _, step := range []func(store.DB) error{
		im.findings, im.places, im.decisions, func(tx store.DB) error { return im.work(tx, ids) },
	} {
		if err := step(tx); err != nil {
			return "", err
		}
	}
	if n := len(im.h.Signoffs) + len(im.h.Approved); n > 0 {
		im.left = append(im.left, shop.Plural(n, "signature or approval")+": people's own, to be given here again")
	}
	return tag, im.s.Note(tx, im.a, im.head.ID, "taken in from a file", im.h.Tag)
}

// freeTag is the tag wanted where it can be one and is free, else the next.
func freeTag(s *shop.Shop, tx store.DB, wanted string) (string, error) {
	wanted = strings.ToUpper(strings.TrimSpace(wanted))
	if tagForm.MatchString(wanted) && !strings.HasPrefix(wanted, "TL-") { // which are labels of tools
		if _, err := tx.Head(wanted); errors.Is(err, shop.ErrNotFound) {
			return wanted, nil
		} else if err != nil {
			return "", err
		}
	}
	return nextTag(s, tx)
}

// model finds the shop's model and sheet like the file's, or adds them.
func (im *importing) model(tx store.DB) (model, sheet uint, err error) {
	m := im.h.Model
	layout, err := json.Marshal(m.Layout)
	if err != nil {
		return 0, 0, err
	}
	row := store.HeadModel{
		Name:         m.Name,
		About:        m.About,
		Material:     m.Kind.Material,
		Drive:        m.Kind.Drive,
		Lifter:       m.Kind.Lifter,
		Cooling:      m.Kind.Cooling,
		Ignition:     m.Kind.Ignition,
		Unit:         im.h.Unit.Name,
		Layout:       string(layout),
		CreatedAt:    im.s.Now(),
		IntakeValve:  headfile.ValveText(m.Valves["intake"]),
		ExhaustValve: headfile.ValveText(m.Valves["exhaust"]),
	}
	models, err := tx.Models()
	if err != nil {
		return 0, 0, err
	}
	taken := map[string]bool{}
	for _, have := range models {
		taken[have.Name] = true
		if have.Name == row.Name && headfile.KindOf(have) == m.Kind && have.Unit == row.Unit &&
			have.IntakeValve == row.IntakeValve &&
			have.ExhaustValve == row.ExhaustValve && have.Layout == row.Layout {
			row.ID = have.ID
		}
	}
	lines := im.lines()
	if row.ID != 0 {
		sheets, err := tx.Sheets(row.ID)
		if err != nil {
			return 0, 0, err
		}
		have, err := im.s.Cache.SheetLimits(tx, sheets[0].ID)
		if err != nil {
			return 0, 0, err
		}
		if sameLines(have, lines) {
			return row.ID, sheets[0].ID, nil
		}
		err = im.addSheet(tx, row.ID, sheets[0].Version+1, lines, &sheet)
		return row.ID, sheet, err
	}
	for n := 2; taken[row.Name]; n++ {
		row.Name = fmt.Sprintf("%s (%d)", m.Name, n)
	}
	for _, r := range im.h.Sheet.Repairs {
		row.OwnRepairs = strings.TrimSpace(row.OwnRepairs + " " + r.Code)
	}
	if row.Tightening, err = headfile.TighteningText(im.h.Sheet.Tightening); err != nil {
		return 0, 0, err
	}
	if err := tx.Add(&row); err != nil {
		return 0, 0, err
	}
	if len(im.h.Sheet.Own) > 0 {
		im.left = append(
			im.left,
			shop.Plural(len(im.h.Sheet.Own), "characteristic")+" of the file's own: add them to the model",
		)
	}
	err = im.addSheet(tx, row.ID, 1, lines, &sheet)
	return row.ID, sheet, err
}

func (im *importing) addSheet(tx store.DB, model uint, version int, lines []store.Limit, id *uint) error {
	sheet := store.LimitSheet{
		ModelID: model, Version: version, Note: "from the head file of " + im.h.Tag, PersonID: im.a.ID,
		CreatedAt: im.s.Now(), Limits: lines,
	}
	err := tx.Add(&sheet)
	*id = sheet.ID
	return err
}

// lines are the file's sheet as the shop keeps one.
func (im *importing) lines() []store.Limit {
	var out []store.Limit
	for _, l := range im.h.Sheet.Limits {
		if _, known := trade.ByCode(l.Characteristic); known {
			out = append(out, store.Limit{
				Characteristic: l.Characteristic, Role: l.Role, Kind: l.Set, Low: l.Low, High: l.High,
				Near: l.Near, Source: l.Source,
			})
		}
	}
	for name, v := range im.h.Sheet.Figures {
		code, role, _ := strings.Cut(name, "/")
		out = append(out, store.Limit{
			Characteristic: headfile.GivenPrefix + code, Role: role, Kind: headfile.SetGiven, Low: &v,
			Source: "head file",
		})
	}
	for _, part := range im.h.Sheet.Renew {
		out = append(out, store.Limit{
			Characteristic: headfile.RenewPrefix + part, Kind: headfile.SetRenew, Source: "head file",
		})
	}
	slices.SortStableFunc(out, func(a, b store.Limit) int {
		return strings.Compare(a.Characteristic+"/"+a.Role+a.Kind, b.Characteristic+"/"+b.Role+b.Kind)
	})
	return out
}

// sameLines tells whether two sheets say the same, whatever their order and sources.
func sameLines(a, b []store.Limit) bool {
	text := func(ls []store.Limit) []string {
		at := func(l *quantity.Amount) string {
			if l == nil {
				return "-"
			}
			return strconv.FormatInt(int64(*l), 10)
		}
		var out []string
		for _, l := range ls {
			out = append(out, fmt.Sprint(l.Kind, " ", l.Characteristic, " ", l.Role, " ", at(l.Low), " ", at(l.High),
				" ", l.Near))
		}
		slices.Sort(out)
		return out
	}
	return slices.Equal(text(a), text(b))
}

// tool finds the shop's tool of a reading, or adds the file's.
func (im *importing) tool(tx store.DB, have *[]store.Tool, r head.Reading) (uint, error) {
	c, _ := im.h.Sheet.Characteristic(r.Of)
	t := head.Tool{Name: r.Tool, Kind: c.ToolKind()}
	if i := slices.IndexFunc(im.h.Tools, func(x head.Tool) bool { return x.Name == r.Tool }); i >= 0 &&
		r.Tool != "" {
		t = im.h.Tools[i]
	} else {
		kind, _ := trade.ToolKindNamed(t.Kind)
		t.Name, t.U, t.PPM = "not named in the file: "+t.Kind, kind.U, kind.PPM
	}
	if i := slices.IndexFunc(*have, func(x store.Tool) bool {
		return strings.EqualFold(x.Name, t.Name) && (x.Kind == t.Kind || t.Kind == "")
	}); i >= 0 {
		return (*have)[i].ID, nil
	}
	for slices.ContainsFunc(*have, func(x store.Tool) bool { return strings.EqualFold(x.Name, t.Name) }) {
		t.Name += ", " + t.Kind // a tool of another kind has that name here
	}
	row := store.Tool{Name: t.Name, Kind: t.Kind, U: t.U, UPPM: t.PPM}
	if err := tx.Add(&row); err != nil {
		return 0, err
	}
	*have = append(*have, row)
	return row.ID, nil
}

// when reads a time of the file; what has none is of now.
func (im *importing) when(text string) time.Time {
	if t, err := time.Parse(time.RFC3339, text); err == nil {
		return t
	}
	return im.s.Now()
}

// readings writes the readings and returns their ids in the order of the file.
func (im *importing) readings(tx store.DB) ([]uint, error) {
	tools, err := tx.Tools()
	if err != nil {
		return nil, err
	}
	var ids []uint
	stands := map[string]uint{}
	for i, r := range im.h.Readings {
		tool, err := im.tool(tx, &tools, r)
		if err != nil {
			return nil, err
		}
		row := store.Reading{
			ClientID:       shop.HashToken(fmt.Sprint("file/", im.head.ID, "/", i))[:40],
			HeadID:         im.head.ID,
			Characteristic: r.Of,
			Position:       r.Spot.Position,
			Place:          r.Spot.Place,
			Dir:            r.Spot.Dir,
			Stage:          r.Stage,
			Typed:          r.Typed,
			NM:             r.Value.At,
			GoNM:           r.Value.Go,
			NoGoNM:         r.Value.NoGo,
			Bracket:        r.Value.Bracket,
			U:              r.U,
			ToolID:         tool,
			Method:         "file",
			PersonID:       im.a.ID,
			At:             im.s.Now(),
		}
		if i < len(im.file.Readings) {
			x := im.file.Readings[i]
			row.At = im.when(x.AtTime)
			if row.Typed == "" {
				row.Typed = strings.TrimSpace(x.Is + x.Go + " " + x.NoGo)
			}
		}
		key := r.Stage + " " + headfile.SpotKey(row)
		if old, again := stands[key]; again {
			row.Supersedes, row.Why = &old, "read again, in the file"
		}
		if err := tx.Add(&row); err != nil {
			return nil, err
		}
		stands[key] = row.ID
		ids = append(ids, row.ID)
	}
	return ids, nil
}

func (im *importing) findings(tx store.DB) error {
	im.seen = map[uint]uint{}
	stands := map[string]uint{}
	for _, x := range im.h.Findings {
		row := store.Finding{
			HeadID:   im.head.ID,
			Part:     x.Part,
			Grade:    x.Grade,
			Position: x.Position,
			X:        x.X,
			Y:        x.Y,
			Note:     x.Note,
			Thread:   x.Thread,
			Stage:    x.Stage,
			PersonID: im.a.ID,
			At:       im.s.Now(),
		}
		key := x.Stage + " " + x.Part + " " + x.Position
		if old, again := stands[key]; again && x.Part != trade.MarkCode {
			row.Supersedes = &old
		}
		if old := im.seen[x.Replaces]; x.Replaces != 0 && old != 0 {
			row.Supersedes = &old
		}
		if err := tx.Add(&row); err != nil {
			return err
		}
		im.seen[x.ID], stands[key] = row.ID, row.ID
	}
	return nil
}

func (im *importing) places(tx store.DB) error {
	for _, p := range im.h.Parts {
		state := ""
		switch {
		case p.Missing:
			state = "missing"
		case p.New:
			state = "new"
		}
		if state == "" || p.Position == "" {
			continue
		}
		if len(p.Is) > 0 {
			im.left = append(im.left, fmt.Sprintf("sizes of the new %s at %s: measure it here", p.Part, p.Position))
		}
		if err := tx.Add(&store.Place{
			HeadID: im.head.ID, Position: p.Position, Part: p.Part, State: state, Evidence: "head file",
			PersonID: im.a.ID, At: im.s.Now(),
		}); err != nil {
			return err
		}
	}
	return nil
}

func (im *importing) decisions(tx store.DB) error {
	j := judge.Head(im.h.Until(head.AsReceived))
	for _, d := range im.h.Decisions {
		x, ok := j.Feature(d.Finding)
		if !ok {
			continue // of the plan, or of a finding that is none by this sheet
		}
		if err := tx.Add(&store.Decision{
			HeadID:   im.head.ID,
			Feature:  head.MarkKey(d.Finding, im.seen),
			Position: x.Position,
			Choice:   d.Choice,
			Reason:   d.Reason,
			Figure:   gate.Figure(x, im.h.Unit),
			PersonID: im.a.ID,
			At:       im.s.Now(),
		}); err != nil {
			return err
		}
	}
	return nil
}

// work writes the route with what was written down of it. A reading of the file is known by
// its count, here by its id.
func (im *importing) work(tx store.DB, ids []uint) error {
	rows := map[string]uint{}
	for i, o := range im.h.Operations {
		k := trade.OperationNamed(o.Code)
		row := store.Operation{
			HeadID:     im.head.ID,
			Seq:        i + 1,
			Code:       o.Code,
			Positions:  strings.Join(o.At, " "),
			Minutes:    im.h.Labour(k).Minutes(len(o.At)),
			State:      o.State,
			SkipReason: o.Why,
			BegunAfter: o.Begun,
		}
		if o.Begun > 0 && len(ids) > 0 {
			row.BegunAfter = int(ids[min(o.Begun, len(ids))-1])
		}
		x := im.file.Operations[i]
		if o.Started() {
			t := im.when(x.Started)
			row.StartedAt, row.StartedBy = &t, &im.a.ID
		}
		if o.State == head.Done || o.State == head.Skipped {
			t := im.when(x.Finished)
			row.FinishedAt, row.FinishedBy = &t, &im.a.ID
		}
		if err := tx.Add(&row); err != nil {
			return err
		}
		rows[o.Code] = row.ID
	}
	for _, r := range im.h.Records {
		op, ok := rows[r.Operation]
		if !ok {
			im.left = append(im.left, "the record of "+r.Operation+": it is not on the route")
			continue
		}
		k := trade.OperationNamed(r.Operation)
		values := map[string]string{}
		for name, v := range r.Values {
			values[name] = v
		}
		said, err := im.h.Sheet.Record(k).Judge(r.Values, judge.RecordCase{Head: im.h, Position: r.Position})
		if err != nil {
			said.Says = field.Text(err)
		}
		data, err := json.Marshal(values)
		if err != nil {
			return err
		}
		if err := tx.Add(&store.OpRecord{
			OperationID: op, Kind: r.Operation, Position: r.Position, Data: string(data), Said: said.All().Kept(),
			OK: said.OK, PersonID: im.a.ID, At: im.s.Now(),
		}); err != nil {
			return err
		}
	}
	return nil
}
