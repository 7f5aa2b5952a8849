package library

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/week"
	"yatai/store"
)

// Tools lists the tools.
func Tools(ctx context.Context, s *shop.Shop) ([]store.Tool, error) { return s.Store.Read(ctx).Tools() }

// ZeroChecks returns each tool's latest zero check, by tool.
func ZeroChecks(ctx context.Context, s *shop.Shop) (map[uint]store.ZeroCheck, error) {
	return s.Store.Read(ctx).LastZeroChecks()
}

// ToolForm is a tool to add, as typed; bare lengths are in Unit, millimetres where it is empty.
type ToolForm struct {
	Unit                                                                  string
	WriteID, Name, Kind, Resolution, U, Percent, Standard, Tolerance, Due string

	Leaves string // of feelers
}

// ToolKinds are the kinds of tools.
func ToolKinds() []string {
	var out []string
	for _, k := range trade.ToolKinds {
		out = append(out, k.Name)
	}
	return out
}

// read turns what was typed into a tool. Its doubt is made of what is typed as such, which is
// what its certificate says, and what its display can show.
func (f ToolForm) read(t *store.Tool) error {
	errs := field.Errors{}
	t.Name, t.Kind = shop.Required(errs, "name", f.Name, "a tool needs a name", 80), f.Kind
	if !slices.Contains(ToolKinds(), f.Kind) {
		errs.Addf("kind", "choose what it is used for")
	}
	kind, _ := trade.ToolKindNamed(f.Kind)
	eye := kind.Eye
	for _, l := range []struct {
		name, text string
		to         *quantity.Amount
		optional   bool
	}{
		{"resolution", f.Resolution, &t.Resolution, false}, {"u", f.U, &t.CalU, eye},
		{"standard", f.Standard, &t.Standard, true},
		{"tolerance", f.Tolerance, &t.Tolerance, true},
	} {
		if l.optional && strings.TrimSpace(l.text) == "" {
			*l.to = 0
			continue
		}
		var err error
		*l.to, err = t.Parse(l.text, shop.UnitOf(f.Unit))
		errs.Add(l.name, err)
		if *l.to < 0 || *l.to > quantity.Max/10 {
			errs.Addf(l.name, "no tool has that")
		}
	}
	t.UPPM = 0
	if strings.TrimSpace(f.Percent) != "" {
		p, err := quantity.ParseIn(f.Percent, quantity.Unit{Name: "%", Size: 10_000})
		errs.Add("percent", err)
		if t.UPPM = int64(p); p < 0 || p > 500_000 {
			errs.Addf("percent", "no tool has that")
		}
	}
	if t.Standard > 0 && t.Tolerance == 0 {
		errs.Addf("tolerance", "how far off its standard may it read?")
	}
	leaves, err := trade.ParseLeaves(f.Leaves, shop.UnitOf(f.Unit))
	if errs.Add("leaves", err); len(leaves) > 0 && t.Kind != "feelers" {
		errs.Addf("leaves", "only a set of feelers has leaves")
	}
	t.Leaves = leaves.String()
	t.CalibrationDue = nil
	if f.Due != "" {
		day, err := time.Parse(time.DateOnly, f.Due)
		if err != nil {
			errs.Addf("due", "a date like 2031-05-20")
		}
		t.CalibrationDue = &day
	}
	t.U = gauge.ToolU(t.CalU, t.StudyU, t.Resolution)
	if eye && t.CalU == 0 {
		t.U = 0 // there is no number to doubt, or the bracket is the doubt
	}
	return errs.Err()
}

// AddTool adds a tool to the register; the owner does.
func AddTool(ctx context.Context, s *shop.Shop, a shop.Actor, f ToolForm) error {
	if err := a.Must("add a tool"); err != nil {
		return err
	}
	t := store.Tool{}
	if err := f.read(&t); err != nil {
		return err
	}
	_, err := s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		if err := tx.Add(&t); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfTool, t.ID), "tool added", t.Name)
	})
	if store.IsDuplicate(err) {
		return field.Only("name", "a tool of that name is there already")
	}
	return err
}

// toolChanges says what was changed of a tool.
func toolChanges(was, is store.Tool) string {
	due := func(t store.Tool) string {
		if t.CalibrationDue == nil {
			return ""
		}
		return t.CalibrationDue.Format(time.DateOnly)
	}
	ppm := func(t store.Tool) string { return fmt.Sprintf("%d millionths", t.UPPM) }
	return shop.Changes(
		shop.Change{What: "name", Was: was.Name, Is: is.Name},
		shop.Change{What: "reads to", Was: was.Text(was.Resolution), Is: is.Text(is.Resolution)},
		shop.Change{What: "U", Was: was.Text(was.U), Is: is.Text(is.U)},
		shop.Change{What: "U grows by", Was: ppm(was), Is: ppm(is)},
		shop.Change{What: "calibration due", Was: due(was), Is: due(is)},
		shop.Change{What: "standard", Was: was.Text(was.Standard), Is: is.Text(is.Standard)},
		shop.Change{What: "leaves", Was: was.Leaves, Is: is.Leaves},
		shop.Change{What: "may be off by", Was: was.Text(was.Tolerance), Is: is.Text(is.Tolerance)},
	)
}

// ChangeTool keeps what is known of a tool: a new certificate, a new date, another doubt.
// Readings keep the doubt they were taken with.
func ChangeTool(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, f ToolForm) error {
	if err := a.Must("add a tool"); err != nil {
		return err
	}
	_, err := s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		t, err := tx.Tool(id)
		if err != nil {
			return "", err
		}
		was := t
		if err := f.read(&t); err != nil {
			return "", err
		}
		if err := tx.ChangeTool(t); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfTool, id), "tool changed", t.Name+": "+toolChanges(was, t))
	})
	if store.IsDuplicate(err) {
		return field.Only("name", "a tool of that name is there already")
	}
	return err
}

// RetireTool takes a tool out of use, or back into it.
func RetireTool(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint, retire bool) error {
	if err := a.Must("add a tool"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		t, err := tx.Tool(id)
		if err != nil {
			return "", err
		}
		t.RetiredAt = nil
		if retire {
			now := s.Now()
			t.RetiredAt = &now
		}
		if err := tx.ChangeTool(t); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfTool, id),
			map[bool]string{true: "tool retired", false: "tool in use again"}[retire], t.Name)
	})
	return err
}

// starterTools is the register a new shop begins with: usual uncertainties, which the
// shop's own figures replace.
var starterTools = []store.Tool{
	{
		Name: "Dial bore gauge on ring", Kind: "bore gauge", Resolution: 1000, U: 4000, Standard: 8_000_000,
		Tolerance: 2000,
	},
	{
		Name: "Small-hole gauge and micrometer", Kind: "bore gauge", Resolution: 1000, U: 8000,
		Standard: 8_000_000, Tolerance: 4000,
	},
	{
		Name: "Outside micrometer", Kind: "micrometer", Resolution: 1000, U: 4000, Standard: 25_000_000,
		Tolerance: 2000,
	},
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
func Equip(ctx context.Context, s *shop.Shop) error {
	return s.Store.Write(ctx, func(tx store.DB) error {
		if have, err := tx.Tools(); err != nil {
			return err
		} else if len(have) == 0 {
			tools := slices.Clone(starterTools)
			for i := range tools {
				tools[i].CalU = tools[i].U
			}
			if err := errors.Join(tx.Add(&tools),
				s.Note(tx, shop.Actor{}, 0, "tools set up", shop.Plural(len(tools), "tool"))); err != nil {
				return err
			}
		}
		return week.SetUpStations(s, tx)
	})
}
