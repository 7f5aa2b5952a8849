package quoting

import (
	"context"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/money"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Goodwill is what the shop takes on itself of what must be done, as typed: percent, "100" is all of it,
// why, and to what of the earlier visit it is charged.
type Goodwill struct{ Percent, Why, ChargedTo string }

// read puts goodwill on a quote. With any the least charge is not asked for.
func (g Goodwill) read(errs field.Errors, q *store.Quote) {
	text := strings.TrimSuffix(strings.TrimSpace(g.Percent), "%")
	if text == "" {
		return
	}
	n, err := strconv.Atoi(strings.TrimSpace(text))
	if err != nil || n < 0 || n > 100 {
		errs.Addf("goodwill", "a whole number from 0 to 100; 100 is at no charge")
		return
	}
	if n == 0 {
		return
	}
	q.GoodwillPPM = int64(n) * 10_000
	q.GoodwillWhy = shop.Required(errs, "goodwill_why", g.Why, "say why the shop takes it on itself", 200)
	q.ChargedTo = shop.Required(errs, "charged_to", g.ChargedTo,
		"which operation, part or reading of the earlier visit is it charged to?", 100)
}

// forgive takes goodwill off the lines of what must be done, line by line, so that every line says what it
// costs and the lines still add up.
func forgive(lines []store.QuoteLine, q store.Quote) {
	for i := range lines {
		l := &lines[i]
		if l.Grp == headfile.Must {
			l.LabourCents -= money.Share(l.LabourCents, q.GoodwillPPM)
			l.PartsCents -= money.Share(l.PartsCents, q.GoodwillPPM)
		}
	}
}

// Charges lists what a comeback can be charged to: the operations of the earlier visit, the kinds of parts
// they used, what was taken from the stock and who supplied it, what was read, with which tools, and the
// limits it was held against. Anything else can be typed.
func Charges(ctx context.Context, s *shop.Shop, f *headfile.File) ([]string, error) {
	if f.Earlier == "" {
		return nil, nil
	}
	then, err := headfile.Open(ctx, s, f.Earlier)
	if err != nil {
		return nil, err
	}
	var work, parts, read, tools, limits []string
	add := func(to *[]string, what string) {
		if !slices.Contains(*to, what) {
			*to = append(*to, what)
		}
	}
	for _, o := range then.Operations {
		k := trade.OperationNamed(o.Code)
		if k == nil || o.State != "done" {
			continue
		}
		add(&work, headfile.ChargedTo(k))
		if k.Uses != nil {
			add(&parts, "part: "+k.Uses.Name)
		}
	}
	for _, r := range then.Readings {
		c, ok := then.Characteristic(r.Characteristic)
		if !ok {
			continue
		}
		add(&read, "reading: "+strings.ToLower(c.Label))
		if t, ok := headfile.ToolWith(then.Tools, r.ToolID); ok {
			add(&tools, "tool: "+t.Name)
		}
	}
	for _, l := range then.Sheet.Limits {
		if c, ok := then.Characteristic(l.Characteristic); ok && l.Kind == head.Service {
			add(&limits, strings.TrimSpace("limit: "+strings.ToLower(c.Label)+" "+l.Role))
		}
	}
	db := s.Store.Read(ctx)
	supplied, err := supplied(db, then.ID)
	if err != nil {
		return nil, err
	}
	var with []string
	done, err := db.SetUpsAt(then.ID)
	for _, x := range done {
		add(&with, "done with: "+x.Said)
	}
	return slices.Concat(work, with, parts, supplied, read, tools, limits), err
}

// supplied names the parts that were taken from the stock for a head, the deliveries they may be of, and
// their suppliers.
func supplied(db store.DB, headID uint) ([]string, error) {
	used, err := db.UsedOn(headID)
	if err != nil || len(used) == 0 {
		return nil, err
	}
	items, err := db.StockItems()
	if err != nil {
		return nil, err
	}
	ids := make([]uint, len(used))
	for i, m := range used {
		ids[i] = m.ItemID
	}
	came, moves, err := db.Deliveries(ids)
	if err != nil {
		return nil, err
	}
	var parts, lots, suppliers []string
	for _, it := range items {
		i := slices.IndexFunc(used, func(m store.Movement) bool { return m.ItemID == it.ID })
		if i < 0 {
			continue
		}
		parts = append(parts, "part: "+it.Name)
		for _, o := range came {
			if o.ItemID == it.ID && o.MayHave(used[i].At, moves) {
				lots = append(lots, "delivery: "+o.Named(it.Name))
			}
		}
		if what := "supplier: " + it.Supplier; it.Supplier != "" && !slices.Contains(suppliers, what) {
			suppliers = append(suppliers, what)
		}
	}
	return slices.Concat(parts, lots, suppliers), nil
}
