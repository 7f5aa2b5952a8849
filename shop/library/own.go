package library

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// OwnForm is a characteristic a shop adds to a model's sheet.
// Repairs are codes of what answers it when it is out.
type OwnForm struct {
	WriteID, Label, Spot, Unit, Stat, ToolKind string
	Repairs                                    []string
}

// AddOwn adds a characteristic of the shop's own to a model.
func AddOwn(ctx context.Context, s *shop.Shop, a shop.Actor, model uint, f OwnForm) error {
	if err := a.Must("edit limits"); err != nil {
		return err
	}
	errs := field.Errors{}
	o := store.OwnCharacteristic{
		ModelID:  model,
		Label:    shop.Required(errs, "label", f.Label, "what is it called on the bench?", 60),
		Spot:     f.Spot,
		Unit:     f.Unit,
		Stat:     f.Stat,
		ToolKind: f.ToolKind,
		Repairs:  strings.Join(f.Repairs, " "),
	}
	if !slices.Contains(trade.Wheres, f.Spot) {
		errs.Addf("spot", "choose where it is read")
	}
	if _, ok := trade.Units[f.Unit]; !ok {
		errs.Addf("unit", "choose its unit")
	}
	if !slices.Contains(headfile.OwnStats, f.Stat) {
		errs.Addf("stat", "choose what is held against the limits")
	}
	if !slices.Contains(ToolKinds(), f.ToolKind) {
		errs.Addf("tool_kind", "choose what it is read with")
	}
	for _, code := range f.Repairs { // the shop's own too
		if trade.RepairNamed(code) == nil {
			errs.Addf("repairs", "choose from the list")
		}
	}
	if err := errs.Err(); err != nil {
		return err
	}
	_, err := s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
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
		return "", s.NoteAbout(tx, a, shop.About(shop.OfModel, model), "characteristic added", o.Label)
	})
	if store.IsDuplicate(err) {
		return field.Only("label", "this model has one of that name")
	}
	return err
}

// OwnRepairForm is a repair a shop declares itself for a model. Moves are "up" or "down" by the code of a
// figure it moves by its size, empty where it does not.
type OwnRepairForm struct {
	WriteID, Name, Works, Station, Minutes, Least, Most, Part string
	Moves                                                     map[string]string
}

// AddRepair declares a repair of the shop's own for a model: from then on it is offered and planned for its
// heads as the trade's own are.
func AddRepair(ctx context.Context, s *shop.Shop, a shop.Actor, model uint, f OwnRepairForm) error {
	return onModel(ctx, s, a, f.WriteID, model, func(_ store.DB, m *store.HeadModel) (string, error) {
		o, errs := f.declared(shop.UnitOf(m.Unit))
		have := headfile.OwnRepairs(*m)
		if slices.ContainsFunc(have, func(r *trade.Repair) bool { return strings.EqualFold(r.Name, o.Name) }) {
			errs.Addf("repair_name", "this model has one of that name: take it away first")
		}
		if len(have) >= trade.MostOwnRepairs {
			errs.Addf("repair_name", "a model has %d repairs of its own at most", trade.MostOwnRepairs)
		}
		if err := errs.Err(); err != nil {
			return "", err
		}
		m.OwnRepairs = strings.TrimSpace(m.OwnRepairs + " " + o.Code())
		return shop.Changes(shop.Change{What: "own repair", Is: o.Name}), nil
	})
}

// declared is what the form declares, with its mistakes.
func (f OwnRepairForm) declared(u length.Unit) (trade.OwnRepair, field.Errors) {
	typed := field.Errors{}
	o := trade.OwnRepair{
		Name: strings.TrimSpace(f.Name), Works: trade.Metal(f.Works), Station: f.Station,
		Part: strings.TrimSpace(f.Part),
	}
	var err error
	o.Setup, o.Each, err = trade.TwoMinutes(f.Minutes)
	typed.Add("minutes", err)
	if strings.TrimSpace(f.Most) != "" {
		o.Most, err = length.Parse(f.Most, u)
		typed.Add("most", err)
	}
	if strings.TrimSpace(f.Least) != "" {
		o.Least, err = length.Parse(f.Least, u)
		typed.Add("least", err)
	}
	for _, c := range trade.OwnMoved {
		if times := map[string]int{"up": 1, "down": -1}[f.Moves[c.Code]]; times != 0 {
			o.Moves = append(o.Moves, trade.OwnMove{Of: c.Code, Times: times})
		}
	}
	for name, says := range o.Check() {
		if name == "name" { // a model has a name too
			name = "repair_name"
		}
		typed.Note(name, says)
	}
	return o, typed
}

// DropRepair takes a repair of the shop's own away from a model. Where it was decided or done it stays.
func DropRepair(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, model uint, code string,
) error {
	return onModel(ctx, s, a, writeID, model, func(_ store.DB, m *store.HeadModel) (string, error) {
		have := strings.Fields(m.OwnRepairs)
		i := slices.Index(have, code)
		if i < 0 {
			return "", shop.ErrNotFound
		}
		m.OwnRepairs = strings.Join(slices.Delete(have, i, i+1), " ")
		return shop.Changes(shop.Change{What: "own repair", Was: trade.RepairNamed(code).Name}), nil
	})
}
