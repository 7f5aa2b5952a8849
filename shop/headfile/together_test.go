package headfile_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/money"
	"yatai/core/price"
	"yatai/shop/headfile"
	"yatai/store"
)

// TestTheLeastChargeIsAskedOnce adds up quotes of up to four heads drawn by seed: together they cost what one
// quote of all their lines costs before tax, and what each is billed alone adds up to that to the cent.
func TestTheLeastChargeIsAskedOnce(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 28))
	filled := 0
	for range 2000 {
		var all headfile.Together
		least := 100 * r.Int64N(3) * 40
		tax := money.Tax{LabourPPM: 190_000, PartsPPM: 70_000}
		terms := price.Terms{DiscountPPM: 50_000 * r.Int64N(3), Tax: tax, Minimum: least}
		for range 1 + r.IntN(4) {
			q := headfile.QuotePage{
				Quote: store.Quote{
					TaxPPM: terms.Tax.LabourPPM, PartsTax: terms.Tax.PartsPPM, DiscountPPM: terms.DiscountPPM, MinimumCents: least,
				},
			}
			for seq := range r.IntN(4) {
				q.Lines = append(q.Lines, store.QuoteLine{
					Seq: seq + 1, Code: []string{"", "seat_cut"}[r.IntN(2)], Grp: headfile.Groups[r.IntN(3)],
					LabourCents: 20 * r.Int64N(200), PartsCents: 20 * r.Int64N(50),
				})
			}
			if r.IntN(2) == 0 {
				q.Answers = map[int]bool{}
				for _, l := range q.Lines {
					q.Answers[l.Seq] = r.IntN(3) > 0
				}
			}
			all = append(all, headfile.Joined{Q: q})
		}
		var charge money.Charge
		var each headfile.Totals
		for _, j := range all.Shared() {
			each = each.Plus(j.Q.Totals())
			for _, l := range j.Q.Lines {
				if j.Q.Answers == nil || j.Q.Answers[l.Seq] {
					charge = charge.Plus(l.Charge())
				}
			}
		}
		got, want := all.Totals(), terms.Total(charge, 0)
		assert.Equal(t, each, got, "billed one by one")
		assert.Equal(t, want.Net, got.Net)
		assert.Equal(t, want.Discount, got.Discount)
		assert.Equal(t, want.Minimum, got.Minimum)
		assert.InDelta(t, want.Tax, got.Tax, float64(len(all)), "a tax is rounded per head")
		if got.Minimum > 0 {
			filled++
		}
	}
	assert.Greater(t, filled, 100, "a test that never falls short of the least charge shows nothing")
}
