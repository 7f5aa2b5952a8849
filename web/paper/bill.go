package paper

import (
	"fmt"
	"strings"

	"yatai/core/money"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/billing"
	"yatai/shop/headfile"
)

// Bill writes a bill, or what credits one, as PDF. credits is the number of the bill that is credited,
// empty for none.
func Bill(
	f *headfile.File, a billing.Account, b billing.Issued, credits string, set shop.Settings,
	logo shop.Logo,
) ([]byte, error) {
	in := words.In(f.Job.Customer.Language)
	title := in.Say("Bill %s", b.Number)
	if credits != "" {
		title = in.Say("Credit %s, of bill %s", b.Number, credits)
	}
	h := HouseOf(set, logo)
	h.Name, h.Address = b.Seller.Name, b.Seller.Address
	s := newSheet(title, h.Name+", "+in.Long(b.At), h, in)
	s.text(10, false, in.Long(b.At))
	s.text(10, true, b.Buyer.Name)
	if b.Buyer.Address != "" {
		s.text(10, false, b.Buyer.Address)
	}
	s.text(10, false, s.t("Tag %s", strings.Join(a.Of(b.Bill), ", "))+fmt.Sprintf(": %s, %s", f.Model.Name, f.Job.Machine.Name))
	if b.Why != "" {
		s.text(10, false, b.Why)
	}
	widths := []float64{138, 40}
	s.row(widths, true, s.t("What was done"), "\t"+s.priced(b.Currency, b.WithTax()))
	for i, l := range b.Lines {
		s.row(widths, false, a.Name(f, b.Bill, l, in), "\t"+shop.Cash(b.Sums[i]))
	}
	s.taxed(b.WithTax(), b.NetCents, b.Gross(), b.Currency, b.Taxed)
	s.Ln(3)
	if credits == "" {
		s.text(9.5, true, s.t("Please pay by %s.", in.Long(b.Due)))
	}
	for _, line := range b.TaxNotes(in) {
		s.text(9, false, line)
	}
	return s.bytes()
}

// priced names a column of prices in a currency.
func (s *sheet) priced(currency string, withTax bool) string {
	if withTax {
		return s.t("%s with tax", currency)
	}
	return currency
}

// taxed writes what lines come to: where they have their tax in them the sum comes first, and what it is
// taxed is said of it.
func (s *sheet) taxed(withTax bool, net, gross int64, currency string, by []money.Taxed) {
	widths := []float64{138, 40}
	total := func() { s.row(widths, true, s.t("Total, %s", currency), "\t"+shop.Cash(gross)) }
	before := s.t("Before tax")
	if withTax {
		total()
		before = s.t("In it: before tax")
	}
	s.row(widths, !withTax, before, "\t"+shop.Cash(net))
	for _, x := range by {
		what := s.t("Tax %s %%", x.Percent())
		if withTax {
			what = s.t("In it: tax %s %%", x.Percent())
		}
		if len(by) > 1 {
			what += " " + s.t("of %s", shop.Cash(x.Net))
		}
		s.row(widths, false, what, "\t"+shop.Cash(x.Tax))
	}
	if !withTax {
		total()
	}
}
