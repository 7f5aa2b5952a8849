package bill_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"yatai/core/bill"
	"yatai/core/price"
)

var (
	guides = bill.Work{Quote: 1, Line: 1, Name: "New guides", Labour: 100_00, Parts: 40_00, Done: true}
	seats  = bill.Work{Quote: 1, Line: 2, Name: "Cut seats", Labour: 60_00}
	terms  = []bill.Agreed{{Quote: 1, DiscountPPM: 50_000, Minimum: 180_00}}
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
	more := bill.Work{Quote: 2, Line: 1, Name: "New inserts", Labour: 10_00, Done: true}
	first := bill.Next(terms, []bill.Work{guides}, nil)
	lines := bill.Next([]bill.Agreed{terms[0], {Quote: 2}}, []bill.Work{guides, more}, first)
	assert.Equal(t, []bill.Line{{Kind: bill.Done, Quote: 2, Line: 1, Name: "New inserts", Labour: 10_00, Cents: 10_00}},
		lines)
}

// TestPartsComeToTheWhole cuts jobs into bills at random: together they come to what was quoted.
func TestPartsComeToTheWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a := bill.Agreed{
			Quote: 1, DiscountPPM: rapid.Int64Range(0, 400_000).Draw(t, "discount"),
			Minimum: rapid.Int64Range(0, 900_00).Draw(t, "least"),
		}
		n := rapid.IntRange(1, 9).Draw(t, "lines")
		var work []bill.Work
		var labour, parts int64
		for i := range n {
			w := bill.Work{
				Quote: 1, Line: i + 1, Labour: rapid.Int64Range(0, 300_00).Draw(t, "labour"),
				Parts: rapid.Int64Range(0, 200_00).Draw(t, "parts"),
			}
			labour, parts = labour+w.Labour, parts+w.Parts
			work = append(work, w)
		}
		var billed []bill.Line
		for k := range work {
			work[k].Done = true
			if rapid.Bool().Draw(t, "bill now") || k == n-1 {
				billed = append(billed, bill.Next([]bill.Agreed{a}, work, billed)...)
			}
		}
		var net int64
		for _, l := range billed {
			net += l.Cents
		}
		quoted := price.Terms{DiscountPPM: a.DiscountPPM, Minimum: a.Minimum}.Total(labour, parts, 0)
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
		bill.Sum([]bill.Line{{Cents: 150}, {Cents: 200}, {Cents: -100}}, 190_000), "47.5 is 48")
	assert.Equal(t, bill.Totals{}, bill.Sum(nil, 190_000))
	assert.Equal(t, int64(100_00), bill.Before(119_00, 190_000))
	assert.Equal(t, int64(45_00), bill.Before(45_00, 0))
	rapid.Check(t, func(t *rapid.T) {
		gross, tax := rapid.Int64Range(0, 5_000_00).Draw(t, "gross"), rapid.Int64Range(0, 300_000).Draw(t, "tax")
		got := bill.Sum([]bill.Line{{Cents: bill.Before(gross, tax)}}, tax).Gross
		if got < gross-1 || got > gross+1 {
			t.Fatalf("%d comes back as %d", gross, got)
		}
	})
}
