package inout

import (
	"strings"
	"time"

	"yatai/core/field"
	"yatai/shop"
	"yatai/store"
)

// day is the day that stands in a row's column.
func (t *taking) day(row int, code string) (string, error) {
	at, err := t.Day(t.get(row, code), t.columns[t.at[code]].Order)
	if err != nil {
		return "", err
	}
	if at.Year() < 1950 || at.Year() > 2200 {
		return "", field.Errorf("", "no job was done in %d", at.Year())
	}
	return at.Format(time.DateOnly), nil
}

func (t *taking) oldJob(row int) (Row, error) {
	errs := field.Errors{}
	j := store.OldJob{
		Number:    shop.Required(errs, "number", t.get(row, "number"), "it needs the number it had", 40),
		OfMachine: shop.Optional(errs, "machine", t.get(row, "machine"), 100),
		OfModel:   shop.Optional(errs, "model", t.get(row, "model"), 60),
		Marks:     shop.Optional(errs, "marks", t.get(row, "marks"), 200),
		Work:      shop.Optional(errs, "work", t.get(row, "work"), 1000),
	}
	whose := t.get(row, "customer")
	show := strings.TrimSpace(j.Number + " " + whose)
	c, there := t.customers[lower(whose)]
	if !there {
		errs.Addf("customer", "no customer is called so: take the customers in first")
	}
	j.CustomerID = c.ID
	var err error
	j.Day, err = t.day(row, "date")
	errs.Add("date", err)
	if total := t.figure(errs, row, "total"); total != "" {
		j.Cents, err = shop.ParseCents(total)
		errs.Add("total", err)
	}
	if err := errs.Err(); err != nil {
		return t.refused(show, err)
	}
	key := machineKey(j.CustomerID, j.Number)
	if err := t.twice(key, row); err != nil {
		return t.refused(show, err)
	}
	if _, there := t.oldJobs[key]; there {
		return Row{Name: show, Fate: Same}, nil
	}
	t.add.oldJobs = append(t.add.oldJobs, &j)
	return Row{Name: show, Fate: New}, nil
}
