package paper

import (
	"fmt"
	"strconv"
	"strings"

	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/billing"
	"yatai/shop/headfile"
)

// Bill writes a bill, or what credits one, as PDF. credits is the number of the bill that is credited,
// empty for none.
func Bill(
	f *headfile.File, a billing.Account, b shop.Bill, credits string, set shop.Settings,
	logo shop.Logo,
) ([]byte, error) {
	in := words.In(f.Job.Customer.Language)
	title := in.Say("Bill %s", b.Number)
	if credits != "" {
		title = in.Say("Credit %s, of bill %s", b.Number, credits)
	}
	h := HouseOf(set, logo)
	s := newSheet(title, h.Name+", "+in.Long(b.At), h, in)
	s.text(10, false, in.Long(b.At))
	c := f.Job.Customer
	s.text(10, true, c.Name)
	if c.Address != "" {
		s.text(10, false, c.Address)
	}
	s.text(10, false, s.t("Tag %s", strings.Join(a.Of(b), ", "))+fmt.Sprintf(": %s, %s", f.Model.Name, f.Job.Machine.Name))
	if b.Why != "" {
		s.text(10, false, b.Why)
	}
	widths := []float64{138, 40}
	s.row(widths, true, s.t("What was done"), "\t"+b.Currency)
	for _, l := range b.Lines {
		s.row(widths, false, a.Name(f, b, l, in), "\t"+shop.Cash(l.Cents))
	}
	s.row(widths, true, s.t("Before tax"), "\t"+shop.Cash(b.NetCents))
	s.row(widths, false, s.t("Tax %s %%", strconv.FormatFloat(float64(b.TaxPPM)/1e4, 'g', -1, 64)),
		"\t"+shop.Cash(b.TaxCents))
	s.row(widths, true, s.t("Total, %s", b.Currency), "\t"+shop.Cash(b.Gross()))
	s.Ln(3)
	if credits == "" {
		s.text(9.5, true, s.t("Please pay by %s.", in.Long(b.Due)))
	}
	for _, line := range []string{b.NoTax, set.Get("bill_note"), set.Get("shop_tax_no")} {
		if line != "" {
			s.text(9, false, line)
		}
	}
	return s.bytes()
}
