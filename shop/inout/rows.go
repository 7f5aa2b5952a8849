package inout

import (
	"cmp"
	"slices"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/customers"
	"yatai/shop/parts"
	"yatai/store"
)

func (t *taking) customer(row int) (Row, error) {
	errs := field.Errors{}
	f := customers.Form{
		Name:      t.get(row, "name"),
		Contact:   t.get(row, "contact"),
		Telephone: t.get(row, "telephone"),
		Email:     t.get(row, "email"),
		Address:   t.get(row, "address"),
		Note:      t.get(row, "note"),
		Discount:  t.figure(errs, row, "discount"),
	}
	key := lower(f.Name)
	was, there := t.customers[key]
	c := was
	if there { // what the table does not say stays
		keep := func(to *string, now string) {
			if *to == "" {
				*to = now
			}
		}
		keep(&f.Contact, was.Contact)
		keep(&f.Telephone, was.Telephone)
		keep(&f.Email, was.Email)
		keep(&f.Address, was.Address)
		keep(&f.Note, was.Note)
		f.Taxed, f.NoTax, f.TaxNo, f.Country, f.Prices = was.Taxed, was.NoTax, was.TaxNo, was.Country, was.Prices
		if f.Discount == "" && was.DiscountPPM != 0 {
			f.Discount = shop.Cash(was.DiscountPPM / 100)
		}
	}
	if err := cmp.Or(errs.Err(), f.Read(&c)); err != nil {
		return t.refused(f.Name, err)
	}
	if err := t.twice(key, row); err != nil {
		return t.refused(f.Name, err)
	}
	switch {
	case !there:
		c.CreatedAt = t.s.Now()
		t.add.customers = append(t.add.customers, &c)
		return Row{Name: c.Name, Fate: New}, nil
	case c == was:
		return Row{Name: c.Name, Fate: Same}, nil
	}
	t.back.Was, t.back.Made = append(t.back.Was, was), append(t.back.Made, c)
	changed := Row{Name: c.Name, Fate: Changed, Changes: changes(
		Change{"Contact", was.Contact, c.Contact}, Change{"Telephone", was.Telephone, c.Telephone},
		Change{"Email", was.Email, c.Email}, Change{"Address", was.Address, c.Address}, Change{"Note", was.Note, c.Note},
		Change{"Discount on labour", percent(was.DiscountPPM), percent(c.DiscountPPM)},
	)}
	return changed, t.change(func() error { return t.tx.ChangeCustomer(c) })
}

func (t *taking) machine(row int) (Row, error) {
	whose, name := t.get(row, "customer"), t.get(row, "machine")
	show := whose + ": " + name
	if whose == "" || name == "" || len(name) > 100 {
		return t.refused(show, field.Errorf("", "it needs a customer and a machine of up to 100 letters"))
	}
	c, there := t.customers[lower(whose)]
	if !there {
		return t.refused(show, field.Errorf("", "no customer is called so: take the customers in first"))
	}
	key := machineKey(c.ID, name)
	if t.machines[key] {
		return Row{Name: show, Fate: Same}, nil
	}
	t.add.machines = append(t.add.machines, &store.Machine{CustomerID: c.ID, Name: name})
	t.machines[key] = true
	return Row{Name: show, Fate: New}, nil
}

// kindOf is the kind of part that is called so: by its code, or by its name as the pages say it.
func (t *taking) kindOf(text string) string {
	for _, code := range t.kinds {
		names := []string{code}
		if k := trade.PartKindNamed(code); k != nil {
			names = append(names, k.Name)
		}
		if slices.Contains(names, oneOf(text, names...)) {
			return code
		}
	}
	return text
}

func (t *taking) stock(row int) (Row, error) {
	errs := field.Errors{}
	f := parts.StockForm{
		Unit:     t.form.Unit,
		Kind:     t.kindOf(t.get(row, "kind")),
		Name:     t.get(row, "name"),
		Size:     t.size(row, "size"),
		Role:     roleNamed(t.get(row, "role")),
		Price:    t.figure(errs, row, "price"),
		Cost:     t.figure(errs, row, "cost"),
		Count:    t.figure(errs, row, "count"),
		Least:    t.figure(errs, row, "least"),
		Supplier: t.get(row, "supplier"),
		Lead:     t.figure(errs, row, "lead"),
		Dims:     t.get(row, "dims"),
	}
	if model := t.get(row, "model"); model != "" {
		id, ok := t.models[lower(model)]
		if !ok {
			return t.refused(f.Name, field.Errorf("", "no model is called %s", model))
		}
		f.Model = itoa(int(id))
	}
	key := lower(f.Name)
	if _, there := t.items[key]; there {
		return Row{
			Name: f.Name, Fate: Same, Why: "counts are corrected under Parts, prices taken in as prices",
		}, nil
	}
	it := store.StockItem{}
	n, err := f.Read(&it)
	if err = cmp.Or(errs.Err(), err); err == nil {
		err = t.twice(key, row)
	}
	if err != nil {
		return t.refused(f.Name, err)
	}
	t.add.items, t.add.counts = append(t.add.items, &it), append(t.add.counts, n)
	return Row{Name: it.Name, Fate: New}, nil
}

func (t *taking) price(row int) (Row, error) {
	name := t.get(row, "name")
	was, there := t.items[lower(name)]
	if !there {
		return t.refused(name, field.Errorf("", "no part is called so"))
	}
	if err := t.twice(lower(name), row); err != nil {
		return t.refused(name, err)
	}
	errs := field.Errors{}
	f := parts.StockForm{
		Kind:     was.Kind,
		Name:     was.Name,
		Role:     was.Role,
		Dims:     was.Dims,
		Least:    itoa(was.Least),
		Supplier: was.Supplier,
		Price:    t.figure(errs, row, "price"),
		Cost:     t.figure(errs, row, "cost"),
		Lead:     t.figure(errs, row, "lead"),
	}
	if s := t.get(row, "supplier"); s != "" {
		f.Supplier = s
	}
	it := was
	_, err := f.Read(&it)
	if err := cmp.Or(errs.Err(), err); err != nil {
		return t.refused(name, err)
	}
	it.SizeNM, it.UpToNM, it.ModelID = was.SizeNM, was.UpToNM, was.ModelID
	if f.Price == "" {
		it.PriceCents = was.PriceCents
	}
	if f.Cost == "" {
		it.CostCents = was.CostCents
	}
	if f.Lead == "" {
		it.LeadDays = was.LeadDays
	}
	if it == was {
		return Row{Name: it.Name, Fate: Same}, nil
	}
	t.back.WasItems, t.back.MadeItems = append(t.back.WasItems, was), append(t.back.MadeItems, it)
	priced := Row{Name: it.Name, Fate: Changed, Changes: changes(
		Change{"Price", shop.Cash(was.PriceCents), shop.Cash(it.PriceCents)},
		Change{"What it costs the shop", shop.Cash(was.CostCents), shop.Cash(it.CostCents)},
		Change{"Supplier", was.Supplier, it.Supplier},
		Change{"Days to come", itoa(was.LeadDays), itoa(it.LeadDays)},
	)}
	return priced, t.change(func() error { return t.tx.ChangeStock(it) })
}

// changes leaves out what stays.
func changes(all ...Change) []Change {
	return slices.DeleteFunc(all, func(c Change) bool { return c.Was == c.Now })
}

func percent(ppm int64) string {
	if ppm == 0 {
		return ""
	}
	return shop.Cash(ppm/100) + " %"
}

// roleNamed is the role that people write so; the text itself where it is none.
func roleNamed(text string) string {
	switch text = oneOf(text, "intake", "exhaust"); lower(text) {
	case "in", "inlet", "i", "einlaß":
		return "intake"
	case "ex", "outlet", "a", "auslaß": // "e" is one in English and the other in German
		return "exhaust"
	}
	return text
}
