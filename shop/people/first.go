package people

import (
	"context"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/shop"
	"yatai/store"
)

// FirstStep is something a new shop still has to say, where it is said, and why.
type FirstStep struct{ Code, What, Why, Link string }

// laterSteps is the setting that holds the steps that were left for later.
const laterSteps = "later_steps"

// FirstSteps lists what a new shop has not said yet and nobody has left for later, in the order
// it is best said.
func FirstSteps(ctx context.Context, s *shop.Shop) ([]FirstStep, error) {
	db := s.Store.Read(ctx)
	saved, err := db.Settings()
	if err != nil {
		return nil, err
	}
	users, err := db.Users()
	if err != nil {
		return nil, err
	}
	stations, err := db.Stations()
	if err != nil {
		return nil, err
	}
	models, err := db.Models()
	if err != nil {
		return nil, err
	}
	tools, err := db.Tools()
	if err != nil {
		return nil, err
	}
	limits, err := db.LimitCodes()
	if err != nil {
		return nil, err
	}
	missing := func(names ...string) bool {
		return slices.ContainsFunc(names, func(n string) bool { return saved[n] == "" })
	}
	later := strings.Fields(saved[laterSteps])
	var out []FirstStep
	for _, x := range []struct {
		FirstStep
		open bool
	}{
		{
			FirstStep{"shop", "Name, address and telephone of the shop", "they stand on quotes and reports", "/settings"},
			missing("shop_name", "shop_address", "shop_phone"),
		},
		{FirstStep{"money", "Hourly rate, tax, currency", "quotes are made with them; until then with usual ones", "/settings"}, missing("rate", "tax", "currency")},
		{FirstStep{"hours", "Working hours", "the week is planned with them", "/settings"}, missing("hours")},
		{FirstStep{"people", "The people who work here", "who reads, decides and quotes is written with everything", "/people"}, len(users) < 2},
		{FirstStep{"station", "The first bench tablet", "on it a PIN is enough", "/people"}, len(stations) == 0},
		{
			FirstStep{"tools", "The tools, with their doubts", "a usual set is there: put your own figures to it", "/reference"},
			!slices.ContainsFunc(tools, func(t store.Tool) bool { return t.CalibrationDue != nil }),
		},
		{FirstStep{"model", "The first head model", "a head is taken in by its model", "/reference/models/new"}, len(models) == 0},
		{FirstStep{"limits", "Limits of the first model", "what is read is held against them", "/reference"}, len(models) > 0 && len(limits) == 0},
		{FirstStep{"backup", "A first backup", "the whole shop is one file", "/settings#backup"}, saved[backedUp] == ""},
	} {
		if x.open && !slices.Contains(later, x.Code) {
			out = append(out, x.FirstStep)
		}
	}
	return out, nil
}

// LeaveForLater takes a step off the list; all of them with "all".
func LeaveForLater(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, code string) error {
	if err := a.Must("change settings"); err != nil {
		return err
	}
	steps, err := FirstSteps(ctx, s)
	if err != nil {
		return err
	}
	_, err = s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		saved, err := tx.Settings()
		if err != nil {
			return "", err
		}
		later := strings.Fields(saved[laterSteps])
		for _, x := range steps {
			if code == "all" || x.Code == code {
				later = append(later, x.Code)
			}
		}
		if len(later) == len(strings.Fields(saved[laterSteps])) {
			return "", field.Only("step", "there is no such step")
		}
		if err := tx.Set(laterSteps, strings.Join(later, " ")); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.OfSettings, "left for later", code)
	})
	return err
}
