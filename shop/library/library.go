// Package library is what the shop looks things up in: head models with their limit sheets and
// own characteristics, and the register of tools.
package library

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Model is a head model with its layout and newest sheet.
type Model struct {
	store.HeadModel
	Layout layout.Layout
	Sheet  store.LimitSheet
	Own    []trade.Characteristic
}

// Unit is what a bare number means on the model's sheets.
func (m Model) SheetUnit() length.Unit { return shop.UnitOf(m.Unit) }

// Models lists the library.
func Models(ctx context.Context, s *shop.Shop) ([]store.HeadModel, error) {
	return s.Store.Read(ctx).Models()
}

// ModelOf returns a model with its newest sheet.
func ModelOf(ctx context.Context, s *shop.Shop, id uint) (Model, error) {
	db := s.Store.Read(ctx)
	hm, err := db.Model(id)
	if err != nil {
		return Model{}, err
	}
	l, err := s.Cache.Layout(hm)
	if err != nil {
		return Model{}, err
	}
	sheets, err := db.Sheets(id)
	if err == nil && len(sheets) == 0 {
		err = shop.ErrNotFound
	}
	if err != nil {
		return Model{}, err
	}
	own, err := db.OwnCharacteristics(id)
	return Model{hm, l, sheets[0], headfile.OwnCharacteristics(own)}, err
}

// ModelForm is a head model to add, as typed. Lengths may carry their unit; bare ones
// are in Unit.
type ModelForm struct {
	WriteID                                     string
	Name, About, Material, Drive, Unit          string
	Cylinders                                   string
	Pattern                                     string // of every cylinder, or of each, apart by spaces: "IE EI"
	Pitch, Bore, Width, IntakeHead, ExhaustHead string
	Ignition, Cooling, Lifter                   string
	Camshafts                                   string // in the head: 1 or 2
	Bridges                                     string // none, or of which kind
	IntakeValve, ExhaustValve                   string // material, then coated and hollow: "steel hollow"
	FirstAt                                     string // left or right
	// readings and findings of heads that are here may count no more
	Sure bool
}

// ModelChoices are the words allowed in the choices of a ModelForm.
var ModelChoices = map[string][]string{
	"material": trade.Materials, "drive": trade.Drives, "lifter": trade.Lifters, "unit": {"mm", "in"},
	"ignition": trade.Ignitions, "cooling": trade.Coolings, "first_at": {"left", "right"},
	"camshafts": {"1", "2"}, "bridges": {"none", layout.Guided, layout.Floating},
}

// AddModel adds a model of a regular head with an empty sheet and returns its id.
func AddModel(ctx context.Context, s *shop.Shop, a shop.Actor, f ModelForm) (uint, error) {
	if err := a.Must("edit limits"); err != nil {
		return 0, err
	}
	errs := field.Errors{}
	f.Name = shop.Required(errs, "name", f.Name, "a model needs a name", 60)
	f.About = shop.Optional(errs, "about", f.About, 200)
	f.Lifter, f.Camshafts = cmp.Or(f.Lifter, trade.Lifters[0]), cmp.Or(f.Camshafts, "1")
	f.Bridges = cmp.Or(f.Bridges, "none")
	for name, value := range map[string]string{
		"material": f.Material, "drive": f.Drive, "lifter": f.Lifter, "unit": f.Unit, "ignition": f.Ignition,
		"cooling":  f.Cooling,
		"first_at": f.FirstAt, "camshafts": f.Camshafts, "bridges": f.Bridges,
	} {
		if !slices.Contains(ModelChoices[name], value) {
			errs.Addf(name, "choose one")
		}
	}
	errs.Add("camshafts", trade.Kind{Drive: f.Drive}.CheckCamshafts(f.camshafts()))
	errs.Add("bridges", trade.Kind{Drive: f.Drive}.CheckBridges(f.bridges()))
	lay, err := f.layout(errs)
	if err != nil {
		return 0, err
	}
	text, err := json.Marshal(lay)
	if err != nil {
		return 0, err
	}
	m := store.HeadModel{
		Name:         f.Name,
		About:        f.About,
		Material:     f.Material,
		Drive:        f.Drive,
		Lifter:       f.Lifter,
		Cooling:      f.Cooling,
		Ignition:     f.Ignition,
		Unit:         f.Unit,
		Layout:       string(text),
		CreatedAt:    s.Now(),
		IntakeValve:  headfile.ValveText(headfile.ValveOf(f.IntakeValve)),
		ExhaustValve: headfile.ValveText(headfile.ValveOf(f.ExhaustValve)),
	}
	answer, err := s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		if err := tx.Add(&m); err != nil {
			return "", err
		}
		sheet := store.LimitSheet{ModelID: m.ID, Version: 1, Note: "empty", PersonID: a.ID, CreatedAt: s.Now()}
		if err := tx.Add(&sheet); err != nil {
			return "", err
		}
		return strconv.FormatUint(uint64(m.ID), 10), s.NoteAbout(tx, a, shop.About(shop.OfModel, m.ID),
			"model added", m.Name)
	})
	if store.IsDuplicate(err) {
		return 0, errTaken
	}
	if err != nil {
		return 0, err
	}
	id, err := strconv.ParseUint(answer, 10, 32)
	return uint(id), err
}

// camshafts is how many a model's form says are in the head: two, or 0 for what layouts take as one.
func (f ModelForm) camshafts() int {
	if f.Camshafts == "2" {
		return 2
	}
	return 0
}

// bridges is of which kind they are, "" for none.
func (f ModelForm) bridges() string {
	if f.Bridges == "none" {
		return ""
	}
	return f.Bridges
}

// Drawn is the layout as far as it was typed, what is missing in usual proportions, and what that is by its
// fields. Without cylinders and their valves there is none: the error says so at its field.
func (f ModelForm) Drawn() (lay layout.Layout, supposed []string, err error) {
	bore, typed := length.Parse(f.Bore, shop.UnitOf(f.Unit))
	if typed != nil {
		bore = usualBore
	}
	share := [2]length.Length{45, 40} // of the bore, in percent
	if first, _, _ := strings.Cut(strings.TrimSpace(f.Pattern), " "); len(first) > 2 {
		share = [2]length.Length{36, 32}
	}
	for _, usual := range []struct {
		name string
		to   *string
		is   length.Length
	}{
		{"pitch", &f.Pitch, bore * 115 / 100}, {"bore", &f.Bore, bore}, {"width", &f.Width, bore * 190 / 100},
		{"intake_head", &f.IntakeHead, bore * share[0] / 100},
		{"exhaust_head", &f.ExhaustHead, bore * share[1] / 100},
	} {
		if strings.TrimSpace(*usual.to) == "" {
			*usual.to, supposed = length.MM.Text(usual.is), append(supposed, usual.name)
		}
	}
	lay, err = f.layout(field.Errors{})
	return lay, supposed, err
}

// usualBore is the bore of a head of which nobody has said it yet, for its drawing.
const usualBore = 90 * length.Millimetre

// layout works out where everything lies on the model's face. What is wrong with the form, in errs
// already or found here, comes back as its error.
func (f ModelForm) layout(errs field.Errors) (layout.Layout, error) {
	n, err := strconv.Atoi(strings.TrimSpace(f.Cylinders))
	if err != nil {
		errs.Addf("cylinders", "a whole number")
	}
	patterns := strings.Fields(strings.ToUpper(f.Pattern))
	if len(patterns) == 0 {
		patterns = []string{""}
	}
	spec := layout.InlineSpec{
		Cylinders:    n,
		Pattern:      patterns[0],
		Injector:     f.Ignition == "injector",
		AirCooled:    f.Cooling == "air",
		FirstAtRight: f.FirstAt == "right",
		Camshafts:    f.camshafts(),
		Bridges:      f.bridges(),
	}
	if len(patterns) > 1 {
		if spec.Patterns = patterns; len(patterns) != n {
			errs.Addf("pattern", "one for every cylinder, or one for each of them: %d are here", len(patterns))
		}
	}
	for _, l := range []struct {
		name, text string
		to         *length.Length
	}{
		{"pitch", f.Pitch, &spec.Pitch}, {"bore", f.Bore, &spec.Bore}, {"width", f.Width, &spec.Width},
		{"intake_head", f.IntakeHead, &spec.IntakeHead}, {"exhaust_head", f.ExhaustHead, &spec.ExhaustHead},
	} {
		var err error
		*l.to, err = length.Parse(l.text, shop.UnitOf(f.Unit))
		errs.Add(l.name, err)
	}
	if err := errs.Err(); err != nil {
		return layout.Layout{}, err
	}
	lay, err := layout.Inline(spec)
	if err != nil {
		var many field.Errors
		if errors.As(err, &many) { // of one cylinder's row: it is typed in the one field
			for k := range n {
				if say, bad := many[fmt.Sprintf("patterns[%d]", k)]; bad {
					many["pattern"] = words.Of("cylinder %d: %s", k+1, say)
				}
			}
		}
	}
	return lay, err
}
