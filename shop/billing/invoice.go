package billing

import (
	"cmp"
	"slices"

	"yatai/core/bill"
	"yatai/core/invoice"
	"yatai/core/money"
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

// issued says on a bill how it is taxed, who sells and who buys, as they are now.
func (a Account) issued(b *store.Bill, f *headfile.File, set shop.Settings) {
	c := f.Job.Customer
	b.Currency, b.TaxPPM, b.PartsTax = a.Currency, a.Tax.LabourPPM, a.Tax.PartsPPM
	b.Seller, b.Buyer, b.Said = parties(c, set)
	b.Prices = headfile.Prices(c, set)
	if a.Tax.None() {
		b.NoTax, b.Reverse = c.NoTax, c.Taxed == store.Reverse
	}
}

// parties are who sells, who buys and what the shop says of its tax. A customer is of the shop's country
// until another is said.
func parties(c store.Customer, set shop.Settings) (seller, buyer invoice.Party, said string) {
	seller = invoice.Party{
		Name: set.Get("shop_name"), Address: set.Get("shop_address"), Country: set.Get("shop_country"),
		TaxNo: set.Get("shop_tax_no"),
	}
	buyer = invoice.Party{
		Name: c.Name, Address: c.Address, Country: cmp.Or(c.Country, seller.Country), TaxNo: c.TaxNo,
	}
	return seller, buyer, set.Get("bill_note")
}

// Issued is a bill as it is read: with who sold and bought, by what it is taxed, and its lines' sums.
type Issued struct {
	store.Bill
	Taxed []money.Taxed // by rate; of a credit less than nothing
	Sums  []int64       // of its lines, in cents: with their tax where WithTax
}

// WithTax tells whether its lines have their tax in them.
func (b Issued) WithTax() bool { return b.Prices == store.WithTax }

// TaxNotes are what it says of its tax, in a language.
func (b Issued) TaxNotes(in *words.Language) (notes []string) {
	if b.Tax().None() && (b.Reverse || b.NoTax != "") {
		notes = append(notes, headfile.Untaxed(b.Reverse, b.NoTax, in))
	}
	if b.Reverse && b.Buyer.TaxNo != "" {
		notes = append(notes, in.Say("Tax number of who receives it: %s", b.Buyer.TaxNo))
	}
	for _, said := range []string{b.Said, b.Seller.TaxNo} {
		if said != "" {
			notes = append(notes, said)
		}
	}
	return notes
}

// Read is a bill of the head's order as it is read. Bills of before that was kept name the parties of today.
func Read(f *headfile.File, b store.Bill, set shop.Settings) Issued {
	if b.Seller.Name == "" {
		b.Seller, b.Buyer, b.Said = parties(f.Job.Customer, set)
	}
	out := Issued{Bill: b, Taxed: Taxed(b)}
	lines, sign := asBilled(b)
	if !out.WithTax() {
		for _, l := range b.Lines {
			out.Sums = append(out.Sums, l.Cents)
		}
		return out
	}
	for _, cents := range bill.WithTax(lines, b.Tax()) {
		out.Sums = append(out.Sums, sign*cents)
	}
	return out
}

// Taxed is what a bill is taxed, by rate; of a credit less than nothing.
func Taxed(b store.Bill) []money.Taxed {
	lines, sign := asBilled(b)
	out := bill.Taxed(lines, b.Tax())
	for i := range out {
		out[i].Net, out[i].Tax = sign*out[i].Net, sign*out[i].Tax
	}
	return out
}

// asBilled are the lines of a bill, of a credit those of the bill that it credits, and 1, or -1 of a credit.
func asBilled(b store.Bill) (lines []bill.Line, sign int64) {
	lines, sign = linesOf(b), 1
	if b.Credits != nil {
		sign = -1
	}
	for i := range lines {
		l := &lines[i]
		l.Labour, l.Service, l.Cents = sign*l.Labour, sign*l.Service, sign*l.Cents
	}
	return lines, sign
}

// Invoice is a bill as an electronic invoice, in the customer's language. A line of labour and parts that are
// taxed at two rates is two.
func (a Account) Invoice(f *headfile.File, b store.Bill, credits string, set shop.Settings) invoice.Invoice {
	in, read := words.In(f.Job.Customer.Language), Read(f, b, set)
	lines, sign := asBilled(b)
	v := invoice.Invoice{
		Number:   b.Number,
		Credits:  credits,
		Issued:   b.At,
		Due:      b.Due,
		Currency: b.Currency,
		Reverse:  b.Reverse,
		NoTax:    read.Said,
		Note:     b.Why,
		Seller:   read.Seller,
		Buyer:    read.Buyer,
	}
	if b.Reverse || b.NoTax != "" || v.NoTax == "" {
		v.NoTax = headfile.Untaxed(b.Reverse, b.NoTax, in)
	}
	for _, x := range read.Taxed {
		v.Taxed = append(v.Taxed, money.Taxed{PPM: x.PPM, Net: sign * x.Net, Tax: sign * x.Tax})
	}
	for i, l := range lines {
		name := a.Name(f, b, b.Lines[i], in)
		labour, parts := l.Split()
		if len(read.Taxed) < 2 {
			v.Lines = append(v.Lines, invoice.Line{Name: name, Cents: l.Cents, PPM: read.Taxed[0].PPM})
			continue
		}
		for _, x := range []invoice.Line{
			{Name: name + ", " + in.Say("labour"), Cents: labour, PPM: b.TaxPPM},
			{Name: name + ", " + in.Say("parts"), Cents: parts, PPM: b.PartsTax},
		} {
			if x.Cents != 0 {
				v.Lines = append(v.Lines, x)
			}
		}
	}
	return v
}
