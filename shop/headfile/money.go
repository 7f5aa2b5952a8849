package headfile

import (
	"cmp"
	"slices"
	"strings"

	"yatai/core/money"
	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/core/words"
	"yatai/shop"
	"yatai/store"
)

// Totals are what a quote comes to, in cents.
type Totals = price.Totals

// Totals adds a quote's lines up: all of them, or those that were said yes to.
func (q QuotePage) Totals(groups ...string) Totals {
	return q.total(q.asked(groups...))
}

// Deposit is what is asked for before the work begins, in cents with tax: of what it must have, and
// once it is answered of what was said yes to. Halves of a cent go up.
func (q QuotePage) Deposit() int64 { return money.Share(q.Totals("must").Gross, q.DepositPPM) }

func (q QuotePage) total(in func(store.QuoteLine) bool) Totals {
	charge, minutes := q.sum(in)
	return q.terms().Total(charge, minutes)
}

func (q QuotePage) terms() price.Terms {
	return price.Terms{DiscountPPM: q.DiscountPPM, Tax: q.Tax(), Minimum: q.MinimumCents}
}

// sum adds up what lines charge for.
func (q QuotePage) sum(in func(store.QuoteLine) bool) (charge money.Charge, minutes quantity.Minutes) {
	for _, l := range q.Lines {
		if in(l) {
			charge, minutes = charge.Plus(l.Charge()), minutes+l.Minutes
		}
	}
	return charge, minutes
}

// asked tells of a line whether it is said yes to, or as long as nobody has answered, of one of the groups;
// of none: any.
func (q QuotePage) asked(groups ...string) func(store.QuoteLine) bool {
	return func(l store.QuoteLine) bool {
		if q.Answers != nil {
			return q.Answers[l.Seq]
		}
		return among(l, groups)
	}
}

// among tells whether a line is of one of the groups, of none: of any.
func among(l store.QuoteLine, groups []string) bool {
	return len(groups) == 0 || slices.Contains(groups, l.Grp)
}

// Taxed is what its totals are taxed, by rate.
func (q QuotePage) Taxed() []money.Taxed {
	charge, _ := q.sum(q.asked())
	return q.terms().Taxed(q.Totals(), charge.Parts)
}

// ShownOf is what the lines of groups come to as the customer reads them, in cents, before discount: all of
// none, and once it is answered those that were said yes to.
func (q QuotePage) ShownOf(groups ...string) (cents int64) {
	for _, l := range q.Lines {
		if among(l, groups) && (q.Answers == nil || q.Answers[l.Seq]) {
			cents += q.Shown(l)
		}
	}
	return cents
}

// Terms are the terms of money of a head's next quote or bill: the shop's, with what the customer has of
// their own.
func (f *File) Terms() price.Terms {
	terms, c := price.TermsOf(f.Subject), f.Job.Customer
	if c.DiscountPPM > 0 {
		terms.DiscountPPM = c.DiscountPPM
	}
	if c.Taxed != "" {
		terms.Tax = money.Tax{}
	}
	return terms
}

// Untaxed says why no tax is charged, in a language: why are the words that are kept of the customer.
func Untaxed(reverse bool, why string, in *words.Language) string {
	said := in.Say("No tax is charged.")
	if reverse {
		said = in.Say("Reverse charge: who receives this owes the tax on it.")
	}
	return strings.TrimSpace(said + " " + why)
}

// Untaxed says in a language why no tax is charged on a head's next quote, empty where it is.
func (f *File) Untaxed(in *words.Language) string {
	if c := f.Job.Customer; c.Taxed != "" {
		return Untaxed(c.Taxed == store.Reverse, c.NoTax, in)
	}
	return ""
}

// Prices is how a customer reads prices: store.WithTax or store.BeforeTax, their own way or the shop's.
func Prices(c store.Customer, set shop.Settings) string { return cmp.Or(c.Prices, set.Get("prices")) }

// Taxed is what all of them are taxed, by rate.
func (t Together) Taxed() (out []money.Taxed) {
	for _, j := range t.Shared() {
		for _, x := range j.Q.Taxed() {
			i := slices.IndexFunc(out, func(o money.Taxed) bool { return o.PPM == x.PPM })
			if i < 0 {
				out = append(out, x)
				continue
			}
			out[i].Net, out[i].Tax = out[i].Net+x.Net, out[i].Tax+x.Tax
		}
	}
	return out
}

// WithTax tells whether their customer reads prices with their tax in them.
func (t Together) WithTax() bool { return t[0].Q.Prices == store.WithTax }

// ShownSum is a part of what quotes come to, in cents, as their customer reads prices.
type ShownSum struct {
	What  words.Text
	Cents int64
}

// Sums are the parts that quotes that are answered together come to, without those of nothing: before tax, or
// with it, which come to the whole. What lines with their tax in them come to beside that, a cent or two, is
// rounding.
func (t Together) Sums() []ShownSum {
	sum, tax := t.Totals(), money.Tax{}
	if t.WithTax() {
		tax = t[0].Q.Tax()
	}
	var lines int64
	for _, j := range t {
		lines += j.Q.ShownOf()
	}
	off, least := sum.Discount+tax.Of(sum.Discount, 0), sum.Minimum+tax.Of(sum.Minimum, 0)
	all := []ShownSum{
		{words.Of("Work and parts"), lines}, {words.Of("Discount"), -off},
		{words.Of("To the least charge"), least},
	}
	if t.WithTax() {
		all = append(all, ShownSum{words.Of("Rounding"), sum.Gross - (lines - off + least)})
	}
	return slices.DeleteFunc(all, func(s ShownSum) bool { return s.Cents == 0 })
}
