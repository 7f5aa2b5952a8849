// Package bill works out what the bills of a job come to: Next says which lines the next bill has, of
// what was said yes to, what is done and what was billed before, and Sum adds a bill up.
//
// A job may be billed at once or in parts. What was agreed by a quote is kept over all its bills
// together: the discount is worked out on all labour billed so far, and the least charge is made up when
// nothing more can come, so that the bills of a job come to what was quoted, to the cent, however it was
// cut. The tax is worked out on the net sum of each bill at each of its rates, halves up.
package bill

import (
	"slices"

	"yatai/core/money"
)

// Kind is what a line of a bill stands for.
type Kind string

// The kinds of lines.
const (
	Done     Kind = "work"     // work and parts that were said yes to, and done
	Discount Kind = "discount" // on the labour, as quoted; less than nothing
	Least    Kind = "least"    // what is missing to the least charge
	Warranty Kind = "warranty" // a line of work that the shop owes; less than nothing
	Goodwill Kind = "goodwill" // a line of work that the shop gives; less than nothing
)

// Given are the kinds that take a line of work off again.
func Given() []Kind { return []Kind{Warranty, Goodwill} }

// Gives tells whether a line of the kind takes a line of work off again.
func (k Kind) Gives() bool { return slices.Contains(Given(), k) }

// Agreed are the terms of a quote that was said yes to, in cents and millionths.
type Agreed struct {
	Quote       int // its number
	DiscountPPM int64
	Minimum     int64 // least charge, before tax
}

// Work is a line that was said yes to. Cents are before discount and tax.
type Work struct {
	Quote, Line int // which line of which quote
	Name        string
	Positions   string // ids with spaces between
	money.Charge
	Done  bool
	Out   bool // it will not be done: left out, or the head has left without it
	Given Kind // Warranty or Goodwill where the shop asks nothing for it; empty where it is paid
}

// Line is a line of a bill. Of a discount or a least charge Line is 0; what is given names the line of work.
type Line struct {
	Kind        Kind
	Quote, Line int
	Name        string
	Positions   string
	Labour      int64 // cents of it that are labour
	Service     int64 // and that are done beside it
	Cents       int64 // net; less than nothing on a discount and on what is given
}

// Next returns the lines that can be billed now, in the order of the quotes, nil when there is nothing.
// before are the lines billed so far, without those of bills that were credited.
func Next(agreed []Agreed, work []Work, before []Line) []Line {
	var out []Line
	for _, a := range agreed {
		out = append(out, next(a, work, before)...)
	}
	return out
}

func next(a Agreed, work []Work, before []Line) []Line {
	var out []Line
	var labour, net, discount, given int64 // of all bills together
	billed := map[int]bool{}
	for _, l := range before {
		if l.Quote != a.Quote {
			continue
		}
		net += l.Cents
		switch {
		case l.Kind == Done:
			billed[l.Line], labour = true, labour+l.Labour
		case l.Kind == Discount:
			discount -= l.Cents
		case l.Kind.Gives():
			labour, given = labour+l.Labour, given-l.Cents
		}
	}
	whole := true // nothing more will come
	for _, w := range work {
		switch {
		case w.Quote != a.Quote || billed[w.Line]:
		case w.Done:
			cents := w.Cents()
			out = append(out, Line{Done, w.Quote, w.Line, w.Name, w.Positions, w.Labour, w.Service, cents})
			if w.Given.Gives() {
				out = append(
					out, Line{w.Given, w.Quote, w.Line, w.Name, w.Positions, -w.Labour, -w.Service, -cents},
				)
				given += cents
				continue
			}
			labour, net = labour+w.Labour, net+cents
		case !w.Out:
			whole = false
		}
	}
	if more := money.Share(labour, a.DiscountPPM) - discount; more != 0 {
		out = append(out, Line{Kind: Discount, Quote: a.Quote, Cents: -more})
		net -= more
	}
	if worth := net + given; whole && net > 0 && worth < a.Minimum {
		out = append(out, Line{Kind: Least, Quote: a.Quote, Cents: a.Minimum - worth})
	}
	return out
}

// Totals are what a bill comes to, in cents: Net plus Tax is Gross.
type Totals struct{ Net, Tax, Gross int64 }

// Split is how much of a line is taxed as labour and how much as parts: discounts and least charges are of
// the labour.
func (l Line) Split() (labour, parts int64) {
	if l.Kind == Discount || l.Kind == Least {
		return l.Cents, 0
	}
	return l.Labour + l.Service, l.Cents - l.Labour - l.Service
}

// Taxed is what lines are taxed, by rate.
func Taxed(lines []Line, tax money.Tax) []money.Taxed {
	var labour, parts int64
	for _, l := range lines {
		a, b := l.Split()
		labour, parts = labour+a, parts+b
	}
	return tax.On(labour, parts)
}

// Sum adds a bill up: the tax is on its sum at each rate.
func Sum(lines []Line, tax money.Tax) Totals {
	var t Totals
	for _, x := range Taxed(lines, tax) {
		t.Net, t.Tax = t.Net+x.Net, t.Tax+x.Tax
	}
	t.Gross = t.Net + t.Tax
	return t
}

// WithTax returns what lines come to with their tax in them, in cents and in their order: each is what it
// adds to the sum with tax of those before it, so that they come to the bill's to the cent. Each is rounded
// at most two cents away from its own.
func WithTax(lines []Line, tax money.Tax) []int64 {
	out := make([]int64, len(lines))
	var labour, parts, before int64
	for i, l := range lines {
		a, b := l.Split()
		labour, parts = labour+a, parts+b
		sum := labour + parts + tax.Of(labour, parts)
		out[i], before = sum-before, sum
	}
	return out
}

// Before returns the net sum that comes to a gross sum at one rate of tax, or to the nearest cent of it where
// none does: a net sum whose tax is rounded lies less than half a cent from the exact quotient.
func Before(gross, taxPPM int64) int64 { return money.Div(gross*1_000_000, 1_000_000+taxPPM) }
