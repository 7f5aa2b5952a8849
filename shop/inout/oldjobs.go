package inout

import (
	"strconv"
	"strings"
	"time"

	"github.com/xuri/excelize/v2"

	"yatai/core/field"
	"yatai/shop"
	"yatai/store"
)

// dayForms are how people write days where only one reading is possible.
var dayForms = []string{time.DateOnly, "2.1.2006", "2 Jan 2006", "2 January 2006"}

// readDay reads a day as people and spreadsheets write it; a spreadsheet's own is a count of days.
func readDay(text string) (string, error) {
	for _, form := range dayForms {
		if at, err := time.Parse(form, text); err == nil {
			return checkedDay(at)
		}
	}
	if n, err := strconv.ParseFloat(text, 64); err == nil {
		if at, err := excelize.ExcelDateToTime(n, false); err == nil {
			return checkedDay(at)
		}
	}
	return "", field.Errorf("", "a date like 2019-05-20 or 20.5.2019")
}

func checkedDay(at time.Time) (string, error) {
	if at.Year() < 1950 || at.Year() > 2200 {
		return "", field.Errorf("", "no job was done in %d", at.Year())
	}
	return at.Format(time.DateOnly), nil
}

func (t *taking) oldJob(row int) (Row, error) {
	errs := field.Errors{}
	j := store.OldJob{
		Number:    shop.Required(errs, "number", t.Get(row, "number"), "it needs the number it had", 40),
		OfMachine: shop.Optional(errs, "machine", t.Get(row, "machine"), 100),
		OfModel:   shop.Optional(errs, "model", t.Get(row, "model"), 60),
		Marks:     shop.Optional(errs, "marks", t.Get(row, "marks"), 200),
		Work:      shop.Optional(errs, "work", t.Get(row, "work"), 1000),
	}
	whose := t.Get(row, "customer")
	show := strings.TrimSpace(j.Number + " " + whose)
	c, there := t.customers[strings.ToLower(whose)]
	if !there {
		errs.Addf("customer", "no customer is called so: take the customers in first")
	}
	j.CustomerID = c.ID
	var err error
	if j.Day, err = readDay(t.Get(row, "date")); err != nil {
		errs.Add("date", err)
	}
	if total := t.Get(row, "total"); total != "" {
		j.Cents, err = shop.ParseCents(total)
		errs.Add("total", err)
	}
	if err := errs.Err(); err != nil {
		return refused(show, err)
	}
	key := machineKey(j.CustomerID, j.Number)
	if err := t.twice(key, row); err != nil {
		return refused(show, err)
	}
	if _, there := t.oldJobs[key]; there {
		return Row{Name: show, Fate: Same}, nil
	}
	t.add.oldJobs = append(t.add.oldJobs, &j)
	return Row{Name: show, Fate: New}, nil
}
