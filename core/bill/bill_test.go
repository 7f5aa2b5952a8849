package bill_test

import (
	"flag"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"yatai/core/bill"
	"yatai/core/money"
	"yatai/core/price"
)

var (
	guides = bill.Work{Quote: 1, Line: 1, Name: "New guides", Done: true,
		Charge: money.Charge{Labour: 100_00, Parts: 40_00}}
	seats = bill.Work{Quote: 1, Line: 2, Name: "Cut seats", Charge: money.Charge{Labour: 60_00}}
	terms = []bill.Agreed{{Quote: 1, DiscountPPM: 50_000, Minimum: 180_00}}
)

func done(w bill.Work) bill.Work { w.Done = true; return w }
func left(w bill.Work) bill.Work { w.Out = true; return w }

func cents(lines []bill.Line) map[bill.Kind]int64 {
	out := map[bill.Kind]int64{}
	for _, l := range lines {
		out[l.Kind] += l.Cents
	}
	return out
}

// TestAJobIsBilledInParts bills what is done, then the rest: the discount is on the labour of each, the
// least charge only when nothing more will come.
func TestAJobIsBilledInParts(t *testing.T) {
	first := bill.Next(terms, []bill.Work{guides, seats}, nil)
	assert.Equal(t, map[bill.Kind]int64{bill.Done: 140_00, bill.Discount: -5_00}, cents(first))
	assert.Empty(t, bill.Next(terms, []bill.Work{guides, seats}, first), "nothing is billed twice")
	rest := bill.Next(terms, []bill.Work{guides, done(seats)}, first)
	assert.Equal(t, map[bill.Kind]int64{bill.Done: 60_00, bill.Discount: -3_00}, cents(rest))
	assert.Empty(t, bill.Next(terms, []bill.Work{guides, done(seats)}, append(first, rest...)))
}

// TestTheLeastChargeIsMadeUpAtTheEnd: when what is left will not be done, and not before.
func TestTheLeastChargeIsMadeUpAtTheEnd(t *testing.T) {
	first := bill.Next(terms, []bill.Work{guides, seats}, nil)
	rest := bill.Next(terms, []bill.Work{guides, left(seats)}, first)
	assert.Equal(t, map[bill.Kind]int64{bill.Least: 45_00}, cents(rest), "140.00 less 5.00, to 180.00")
	assert.Empty(t, bill.Next(terms, []bill.Work{guides, left(seats)}, append(first, rest...)))
	assert.Empty(t, bill.Next(terms, []bill.Work{left(seats)}, nil), "nothing done costs nothing")
	exactly := bill.Next([]bill.Agreed{{Quote: 1, Minimum: 140_00}}, []bill.Work{guides}, nil)
	assert.Equal(t, map[bill.Kind]int64{bill.Done: 140_00}, cents(exactly))
}

// TestAnotherQuotesLinesAreItsOwn: line 1 of quote 2 is not line 1 of quote 1.
func TestAnotherQuotesLinesAreItsOwn(t *testing.T) {
	more := bill.Work{Quote: 2, Line: 1, Name: "New inserts", Charge: money.Charge{Labour: 10_00}, Done: true}
	first := bill.Next(terms, []bill.Work{guides}, nil)
	lines := bill.Next([]bill.Agreed{terms[0], {Quote: 2}}, []bill.Work{guides, more}, first)
	assert.Equal(t, []bill.Line{{Kind: bill.Done, Quote: 2, Line: 1, Name: "New inserts", Labour: 10_00, Cents: 10_00}},
		lines)
}

// TestWhatIsGivenIsTakenOffInALineOfItsOwn: under warranty the work stands on the bill and is taken off, the
// discount is on what is paid alone, and what is given counts to the least charge.
func TestWhatIsGivenIsTakenOffInALineOfItsOwn(t *testing.T) {
	owed := guides
	owed.Given = bill.Warranty
	lines := bill.Next(terms, []bill.Work{owed, done(seats)}, nil)
	assert.Equal(t, map[bill.Kind]int64{bill.Done: 200_00, bill.Warranty: -140_00, bill.Discount: -3_00}, cents(lines),
		"60.00 less 3.00 are paid, and 140.00 given: no least charge")
	assert.Empty(t, bill.Next(terms, []bill.Work{owed, done(seats)}, lines), "nothing is given twice")
	assert.Empty(t, bill.Next(terms, []bill.Work{guides, done(seats)}, lines), "and nothing given is asked for later")

	owed.Given = bill.Goodwill
	assert.Equal(t, map[bill.Kind]int64{bill.Done: 140_00, bill.Goodwill: -140_00},
		cents(bill.Next(terms, []bill.Work{owed}, nil)), "all given: nothing is asked for, no least charge either")

	small := []bill.Agreed{{Quote: 1, Minimum: 210_00}}
	assert.Equal(t, map[bill.Kind]int64{bill.Done: 200_00, bill.Goodwill: -140_00, bill.Least: 10_00},
		cents(bill.Next(small, []bill.Work{owed, done(seats)}, nil)), "as far as the work would not come to it were it paid")
}

// TestMain has thousands of jobs drawn where a law is checked.
func TestMain(m *testing.M) {
	flag.Parse()
	if err := flag.Set("rapid.checks", "4000"); err != nil {
		panic(err) // rapid declares it
	}
	os.Exit(m.Run())
}

// TestPartsComeToTheWhole cuts jobs into bills at random, and credits some whole: what was credited can be
// billed again, and together they come to what was quoted.
func TestPartsComeToTheWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a := bill.Agreed{
			Quote: 1, DiscountPPM: rapid.Int64Range(0, 400_000).Draw(t, "discount"),
			Minimum: rapid.Int64Range(0, 900_00).Draw(t, "least"),
		}
		n := rapid.IntRange(1, 9).Draw(t, "lines")
		var work []bill.Work
		var charge money.Charge
		var free int64
		for i := range n {
			w := bill.Work{
				Quote: 1, Line: i + 1, Charge: money.Charge{
					Labour: rapid.Int64Range(0, 300_00).Draw(t, "labour"), Parts: rapid.Int64Range(0, 200_00).Draw(t, "parts"),
					Service: rapid.Int64Range(0, 50_00).Draw(t, "beside it"),
				},
			}
			if given := rapid.IntRange(0, 5).Draw(t, "given"); given < 2 {
				w.Given, free = bill.Given()[given], free+w.Cents()
			} else {
				charge = charge.Plus(w.Charge)
			}
			work = append(work, w)
		}
		var billed []bill.Line
		for k := range work {
			work[k].Done = true
			if rapid.Bool().Draw(t, "bill now") || k == n-1 {
				next := bill.Next([]bill.Agreed{a}, work, billed)
				if rapid.IntRange(0, 3).Draw(t, "credit it") > 0 { // what was credited counts as never billed
					billed = append(billed, next...)
				}
			}
		}
		billed = append(billed, bill.Next([]bill.Agreed{a}, work, billed)...)
		var net, bought int64
		for _, l := range billed {
			_, p := l.Split()
			net, bought = net+l.Cents, bought+p
		}
		assert.Equal(t, charge.Parts, bought, "what is given and discounts take nothing off parts that are paid")
		quoted := price.Terms{DiscountPPM: a.DiscountPPM, Minimum: max(0, a.Minimum-free)}.Total(charge, 0)
		if net != quoted.Gross {
			t.Fatalf("billed %d, quoted %d", net, quoted.Gross)
		}
		if again := bill.Next([]bill.Agreed{a}, work, billed); again != nil {
			t.Fatalf("billed again: %v", again)
		}
	})
}

// TestSums: the tax is on the net sum, halves up; a gross sum is taken apart again.
func TestSums(t *testing.T) {
	assert.Equal(t, bill.Totals{Net: 250, Tax: 48, Gross: 298},
		bill.Sum([]bill.Line{{Cents: 150}, {Cents: 200}, {Cents: -100}}, one(190_000)), "47.5 is 48")
	assert.Equal(t, bill.Totals{}, bill.Sum(nil, one(190_000)))
	assert.Equal(t, int64(100_00), bill.Before(119_00, 190_000))
	assert.Equal(t, int64(45_00), bill.Before(45_00, 0))
	rapid.Check(t, func(t *rapid.T) {
		gross, tax := rapid.Int64Range(0, 5_000_00).Draw(t, "gross"), rapid.Int64Range(0, 300_000).Draw(t, "tax")
		net := bill.Sum([]bill.Line{{Cents: gross}}, one(tax))
		if back := bill.Before(net.Gross, tax); back != gross {
			t.Fatalf("%d before tax comes back as %d", gross, back)
		}
		got := bill.Sum([]bill.Line{{Cents: bill.Before(gross, tax)}}, one(tax)).Gross
		if got < gross-1 || got > gross+1 {
			t.Fatalf("%d comes back as %d", gross, got)
		}
	})
}

// one is a tax of one rate.
func one(ppm int64) money.Tax { return money.Tax{LabourPPM: ppm, PartsPPM: ppm} }

// TestLabourAndPartsAreTaxedApart: a discount and what is missing to the least charge are of the labour.
func TestLabourAndPartsAreTaxedApart(t *testing.T) {
	lines := []bill.Line{
		{Kind: bill.Done, Labour: 80_00, Service: 20_00, Cents: 130_00}, {Kind: bill.Discount, Cents: -10_00},
		{Kind: bill.Least, Cents: 5_00}, {Kind: bill.Goodwill, Labour: -20_00, Cents: -25_00},
	}
	tax := money.Tax{LabourPPM: 100_000, PartsPPM: 200_000}
	assert.Equal(t, []money.Taxed{{PPM: 100_000, Net: 75_00, Tax: 7_50}, {PPM: 200_000, Net: 25_00, Tax: 5_00}},
		bill.Taxed(lines, tax))
	assert.Equal(t, bill.Totals{Net: 100_00, Tax: 12_50, Gross: 112_50}, bill.Sum(lines, tax))
}

// TestLinesWithTheirTaxComeToTheBill to the cent, each within two cents of its own.
func TestLinesWithTheirTaxComeToTheBill(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rate := rapid.Int64Range(0, 300_000)
		tax := money.Tax{LabourPPM: rate.Draw(t, "labour's"), PartsPPM: rate.Draw(t, "parts'")}
		var lines []bill.Line
		for range rapid.IntRange(0, 9).Draw(t, "lines") {
			labour := rapid.Int64Range(0, 300_00).Draw(t, "labour")
			cents := labour + rapid.Int64Range(0, 300_00).Draw(t, "parts")
			lines = append(lines, bill.Line{Kind: bill.Done, Labour: labour, Cents: cents})
		}
		var sum int64
		for i, cents := range bill.WithTax(lines, tax) {
			sum += cents
			labour, parts := lines[i].Split()
			exact := float64(labour)*(1+float64(tax.LabourPPM)/1e6) + float64(parts)*(1+float64(tax.PartsPPM)/1e6)
			assert.InDelta(t, exact, float64(cents), 2)
		}
		assert.Equal(t, bill.Sum(lines, tax).Gross, sum)
	})
}
