package people

import (
	"context"
	"errors"
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

// said is what a shop has said of itself so far.
type said struct {
	settings map[string]string
	users    []store.User
	stations []store.Station
	models   []store.HeadModel
	tools    []store.Tool
	limits   map[uint]map[string]bool // codes by model
}

// saidBy reads what the shop has said.
func saidBy(db store.DB) (x said, err error) {
	var errs [6]error
	x.settings, errs[0] = db.Settings()
	x.users, errs[1] = db.Users()
	x.stations, errs[2] = db.Stations()
	x.models, errs[3] = db.Models()
	x.tools, errs[4] = db.Tools()
	x.limits, errs[5] = db.LimitCodes()
	return x, errors.Join(errs[:]...)
}

// missing tells whether one of some settings was not said.
func (x said) missing(names ...string) bool {
	return slices.ContainsFunc(names, func(n string) bool { return x.settings[n] == "" })
}

// steps are those of a new shop, in the order they are best gone, each with what leaves it open.
var steps = []struct {
	FirstStep
	open func(said) bool
}{
	{
		FirstStep{"shop", "Name, address and telephone of the shop", "they stand on quotes and reports", "/settings"},
		func(x said) bool { return x.missing("shop_name", "shop_address", "shop_phone") },
	},
	{
		FirstStep{
			"money", "Hourly rate, tax, currency", "quotes are made with them; until then with usual ones", "/settings",
		},
		func(x said) bool { return x.missing("rate", "tax", "currency") },
	},
	{
		FirstStep{"hours", "Working hours", "the week is planned with them", "/settings"},
		func(x said) bool { return x.missing("hours") },
	},
	{
		FirstStep{
			"people", "The people who work here", "who reads, decides and quotes is written with everything", "/people",
		},
		func(x said) bool { return len(x.users) < 2 },
	},
	{
		FirstStep{"station", "The first bench tablet", "on it a PIN is enough", "/people"},
		func(x said) bool { return len(x.stations) == 0 },
	},
	{
		FirstStep{
			"tools", "The tools, with their doubts", "a usual set is there: put your own figures to it", "/reference",
		},
		func(x said) bool {
			return !slices.ContainsFunc(x.tools, func(t store.Tool) bool { return t.CalibrationDue != nil })
		},
	},
	{
		FirstStep{"model", "The first head model", "a head is taken in by its model", "/reference/models/new"},
		func(x said) bool { return len(x.models) == 0 },
	},
	{
		FirstStep{"limits", "Limits of the first model", "what is read is held against them", "/reference"},
		func(x said) bool { return len(x.models) > 0 && len(x.limits) == 0 },
	},
	{
		FirstStep{"backup", "A first backup", "the whole shop is one file", "/settings#backup"},
		func(x said) bool { return x.missing(backedUp) },
	},
}

// FirstSteps lists what a new shop has not said yet and nobody has left for later, in the order
// it is best said.
func FirstSteps(ctx context.Context, s *shop.Shop) ([]FirstStep, error) {
	x, err := saidBy(s.Store.Read(ctx))
	if err != nil {
		return nil, err
	}
	later := strings.Fields(x.settings[laterSteps])
	var out []FirstStep
	for _, step := range steps {
		if step.open(x) && !slices.Contains(later, step.Code) {
			out = append(out, step.FirstStep)
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
