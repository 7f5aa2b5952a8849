package library

import (
	"context"
	"strings"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/store"
)

// LabourRow is an operation with what it takes and costs: as usual, and as this shop has it.
type LabourRow struct {
	*trade.Operation
	Usual trade.Labour
	Own   map[string]string // typed, by trade.MinutesOf and the like; empty: as usual
}

// LabourFields are the figures of an operation that a shop can have of its own.
var LabourFields = []string{trade.MinutesOf, trade.AloneOf, trade.HandsOf, trade.PriceOf}

// Labour lists every operation with what it takes and costs.
func Labour(ctx context.Context, s *shop.Shop) ([]LabourRow, error) {
	set, err := s.Settings(ctx, "")
	if err != nil {
		return nil, err
	}
	var out []LabourRow
	for _, o := range trade.Operations() {
		r := LabourRow{o, o.LabourBy(func(string) string { return "" }), map[string]string{}}
		for _, f := range LabourFields {
			r.Own[f] = set.Get(f + o.Code)
		}
		out = append(out, r)
	}
	return out, nil
}

// SetLabour keeps the shop's own figures, by setting's name; an empty one is as usual again.
// Errors are keyed by the setting's name. Quotes and routes made before stay as they are.
func SetLabour(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, values map[string]string,
) error {
	if err := a.Must("change settings"); err != nil {
		return err
	}
	errs := field.Errors{}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		was, err := tx.Settings()
		if err != nil {
			return "", err
		}
		var changed []string
		for _, o := range trade.Operations() {
			for _, f := range LabourFields {
				name := f + o.Code
				v, given := values[name]
				if v = strings.TrimSpace(v); !given || v == was[name] {
					continue
				}
				set, _ := trade.SettingNamed(name)
				if err := set.Check(v); err != nil {
					errs.Add(name, err)
					continue
				}
				changed = append(
					changed, shop.Changes(shop.Change{What: set.Label + ", " + set.Kind, Was: was[name], Is: v}),
				)
				if v == "" {
					err = tx.Unset(name)
				} else {
					err = tx.Set(name, v)
				}
				if err != nil {
					return "", err
				}
			}
		}
		if err := errs.Err(); err != nil || len(changed) == 0 {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.OfSettings, "minutes and prices changed", strings.Join(changed, "; "))
	})
	return err
}
