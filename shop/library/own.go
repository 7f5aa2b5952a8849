package library

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"yatai/core/field"
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
		ModelID: model, Label: shop.Required(errs, "label", f.Label, "what is it called on the bench?", 60), Spot: f.Spot, Unit: f.Unit,
		Stat: f.Stat, ToolKind: f.ToolKind, Repairs: strings.Join(f.Repairs, " "),
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
	for _, code := range f.Repairs {
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
