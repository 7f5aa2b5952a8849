package billing

import (
	"cmp"
	"slices"

	"yatai/core/bill"
	"yatai/core/invoice"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Name is what a line of a bill is for, in a language; of a bill of several heads with the tag of its own.
// f is one of these heads.
func (a Account) Name(f *headfile.File, b store.Bill, l store.BillLine, in *words.Language) string {
	name := named(bill.Kind(l.Kind), l.Name, in)
	switch {
	case l.Positions == "":
	case b.Of(l) == f.ID:
		name += " " + headfile.AllOf(f.Layout, l.Positions).In(in)
	default: // of another layout perhaps
		name += " " + l.Positions
	}
	i := slices.IndexFunc(a.Heads, func(h store.Head) bool { return h.ID == b.Of(l) })
	if i >= 0 && len(a.Of(b)) > 1 {
		name = a.Heads[i].Tag + ": " + name
	}
	return name
}

// named is what a line of a bill is for, without its positions.
func named(kind bill.Kind, name string, in *words.Language) string {
	switch name = in.Say(name); kind {
	case bill.Discount:
		return in.Say("Discount")
	case bill.Least:
		return in.Say("To the least charge")
	case bill.Warranty:
		return in.Say("Warranty") + ": " + name
	case bill.Goodwill:
		return in.Say("Goodwill") + ": " + name
	}
	return name
}

// Named is what a line of the next bill is for, without its positions.
func (a Account) Named(l bill.Line) string { return named(l.Kind, l.Name, words.English) }

// Numbered returns the bill of that number, and the number of the one that it credits, empty for none.
func (a Account) Numbered(number string) (b store.Bill, credits string, ok bool) {
	i := slices.IndexFunc(a.Bills, func(b store.Bill) bool { return b.Number == number })
	if i < 0 {
		return b, "", false
	}
	if of := a.Bills[i].Credits; of != nil {
		was := slices.IndexFunc(a.Bills, func(b store.Bill) bool { return b.ID == *of })
		credits = a.Bills[was].Number
	}
	return a.Bills[i], credits, true
}

// Invoice is a bill as an electronic invoice, in the customer's language. The customer is taken to be of the
// shop's country: another is not known.
func (a Account) Invoice(f *headfile.File, b store.Bill, credits string, set shop.Settings) invoice.Invoice {
	in, c, sign := words.In(f.Job.Customer.Language), f.Job.Customer, int64(1)
	if credits != "" {
		sign = -1
	}
	v := invoice.Invoice{
		Number:   b.Number,
		Credits:  credits,
		Issued:   b.At,
		Due:      b.Due,
		Currency: b.Currency,
		TaxPPM:   b.TaxPPM,
		NoTax:    cmp.Or(b.NoTax, set.Get("bill_note"), in.Say("No tax is charged.")),
		Note:     b.Why,
		Seller: invoice.Party{
			Name: set.Get("shop_name"), Address: set.Get("shop_address"), Country: set.Get("shop_country"),
			TaxNo: set.Get("shop_tax_no"),
		},
		Buyer: invoice.Party{Name: c.Name, Address: c.Address, Country: set.Get("shop_country")},
		Net:   sign * b.NetCents,
		Tax:   sign * b.TaxCents,
	}
	for _, l := range b.Lines {
		v.Lines = append(v.Lines, invoice.Line{Name: a.Name(f, b, l, in), Cents: sign * l.Cents})
	}
	return v
}
