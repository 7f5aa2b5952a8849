package money_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"yatai/core/money"
)

// TestATaxByRate: halves go up once a rate, never once a kind where both have the same.
func TestATaxByRate(t *testing.T) {
	for _, c := range []struct {
		said          string
		tax           money.Tax
		labour, parts int64
		want          []money.Taxed
	}{
		{"one rate: 47.5 is 48", money.Tax{LabourPPM: 190_000, PartsPPM: 190_000}, 150, 100, []money.Taxed{{190_000, 250, 48}}},
		{"two rates", money.Tax{LabourPPM: 70_000, PartsPPM: 190_000}, 150, 100,
			[]money.Taxed{{70_000, 150, 11}, {190_000, 100, 19}}},
		{"parts alone are taxed", money.Tax{PartsPPM: 77_500}, 80_00, 20_00,
			[]money.Taxed{{0, 80_00, 0}, {77_500, 20_00, 1_55}}},
		{"without parts", money.Tax{LabourPPM: 70_000, PartsPPM: 190_000}, 150, 0, []money.Taxed{{70_000, 150, 11}}},
		{"parts only", money.Tax{LabourPPM: 70_000, PartsPPM: 190_000}, 0, 100, []money.Taxed{{190_000, 100, 19}}},
		{"nothing", money.Tax{LabourPPM: 70_000, PartsPPM: 190_000}, 0, 0, []money.Taxed{{70_000, 0, 0}}},
		{"less than nothing is not taxed", money.Tax{LabourPPM: 70_000, PartsPPM: 190_000}, -150, 100,
			[]money.Taxed{{70_000, -150, 0}, {190_000, 100, 19}}},
	} {
		assert.Equal(t, c.want, c.tax.On(c.labour, c.parts), c.said)
	}
	assert.Equal(t, "7.75", money.Taxed{PPM: 77_500}.Percent())
	assert.True(t, money.Tax{}.None())
	assert.False(t, money.Tax{PartsPPM: 1}.None())
}

// TestWhatIsTaxedIsTheWhole: the sums by rate are all of it, and their tax is that of all.
func TestWhatIsTaxedIsTheWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rate := rapid.Int64Range(0, 300_000)
		tax := money.Tax{LabourPPM: rate.Draw(t, "labour's"), PartsPPM: rate.Draw(t, "parts'")}
		labour := rapid.Int64Range(0, 9000_00).Draw(t, "labour")
		parts := rapid.Int64Range(0, 9000_00).Draw(t, "parts")
		var net, sum int64
		for _, x := range tax.On(labour, parts) {
			net, sum = net+x.Net, sum+x.Tax
		}
		assert.Equal(t, labour+parts, net)
		assert.Equal(t, tax.Of(labour, parts), sum)
		exact := float64(labour)*float64(tax.LabourPPM)/1e6 + float64(parts)*float64(tax.PartsPPM)/1e6
		assert.InDelta(t, exact, float64(sum), 1.0)
	})
}
