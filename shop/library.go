package shop

import (
	"context"
	"encoding/json"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/store"
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
