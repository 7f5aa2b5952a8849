package paper

import (
	"fmt"
	"slices"
	"strconv"

	"yatai/core/bill"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
)

// billed names the lines of a bill that are no work.
var billed = map[string]string{string(bill.Discount): "Discount", string(bill.Least): "To the least charge"}

// BillNumbered writes one of a head's bills as PDF; shop.ErrNotFound when it has none of that number.
func BillNumbered(f *headfile.File, bills []shop.Bill, number string, set shop.Settings) ([]byte, error) {
	i := slices.IndexFunc(bills, func(b shop.Bill) bool { return b.Number == number })
	if i < 0 {
		return nil, shop.ErrNotFound
	}
	credits := ""
	for _, b := range bills {
		if bills[i].Credits != nil && b.ID == *bills[i].Credits {
			credits = b.Number
		}
	}
	return Bill(f, bills[i], credits, set.Get("shop_tax_no"), set.Get("bill_note"), HouseOf(set))
}

// Bill writes a bill, or what credits one, as PDF. credits is the number of the bill that is credited,
// empty for none; note is what the shop says of its tax.
func Bill(f *headfile.File, b shop.Bill, credits, taxNo, note string, h House) ([]byte, error) {
	in := words.In(f.Job.Customer.Language)
	title := in.Say("Bill %s", b.Number)
	if credits != "" {
		title = in.Say("Credit %s, of bill %s", b.Number, credits)
	}
	s := newSheet(title, h.Name+", "+in.Long(b.At), h, in)
	c := f.Job.Customer
	s.text(10, true, c.Name)
	if c.Address != "" {
		s.text(10, false, c.Address)
	}
	s.text(10, false, s.t("Tag %s", f.Tag)+fmt.Sprintf(": %s, %s", f.Model.Name, f.Job.Machine.Name))
	if b.Why != "" {
		s.text(10, false, b.Why)
	}
	widths := []float64{138, 40}
	s.row(widths, true, s.t("What was done"), "\t"+b.Currency)
	for _, l := range b.Lines {
		what := s.t(l.Name)
		if name, ok := billed[l.Kind]; ok {
			what = s.t(name)
		}
		if l.Positions != "" {
			what += " " + headfile.AllOf(f.Layout, l.Positions).In(in)
		}
		s.row(widths, false, what, "\t"+shop.Cash(l.Cents))
	}
	s.row(widths, true, s.t("Before tax"), "\t"+shop.Cash(b.NetCents))
	s.row(widths, false, s.t("Tax %s %%", strconv.FormatFloat(float64(b.TaxPPM)/1e4, 'g', -1, 64)),
		"\t"+shop.Cash(b.TaxCents))
	s.row(widths, true, s.t("Total, %s", b.Currency), "\t"+shop.Cash(b.Gross()))
	s.Ln(3)
	if credits == "" {
		s.text(9.5, true, s.t("Please pay by %s.", in.Long(b.Due)))
	}
	for _, line := range []string{note, taxNo} {
		if line != "" {
			s.text(9, false, line)
		}
	}
	return s.bytes()
}
