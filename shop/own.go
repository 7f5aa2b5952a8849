package shop

import (
	"context"
	"fmt"
	"slices"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/store"
)

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
	if !slices.Contains(trade.Wheres, f.Spot) {
		errs.Addf("spot", "choose where it is read")
	}
	if _, ok := trade.Units[f.Unit]; !ok {
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
func ownCharacteristics(own []store.OwnCharacteristic) []trade.Characteristic {
	var out []trade.Characteristic
	for _, o := range own {
		u := trade.Units[o.Unit]
		c := trade.Characteristic{Code: o.Code, Label: o.Label, Where: o.Spot, Low: -length.Metre, High: length.Metre, Tools: []string{o.ToolKind}, Section: trade.Own, Unit: u}
		if u.Size != 0 {
			c.Low, c.High = 0, 1_000_000*length.Millimetre
		}
		out = append(out, c)
		if o.Stat == OwnStats[1] {
			c.NoLimit = true
			out[len(out)-1] = c
			out = append(out, trade.Characteristic{Code: o.Code + ".spread", Label: o.Label + ", spread", Section: trade.Own, Where: o.Spot, Of: &c, Unit: u})
		}
	}
	return out
}
