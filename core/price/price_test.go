package price_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/length"
	"yatai/core/money"
	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/core/route"
	"yatai/core/trade"
)

const mm = length.Millimetre

// guides is a new guide at positions, as long as the table says.
func guides(h *headtest.Head, at ...string) []route.Operation {
	return []route.Operation{
		{Operation: trade.FitGuide, Positions: at, Minutes: h.Labour(trade.FitGuide).Minutes(len(at))},
	}
}

func cents(c int64) *int64 { return &c }

// TestLabourIsMinutesAtTheShopsRate prices one operation by the table, by the shop's own minutes and
// by a fixed price.
func TestLabourIsMinutesAtTheShopsRate(t *testing.T) {
	for _, c := range []struct {
		settings map[string]string
		at       []string
		want     int64
	}{
		{map[string]string{"rate": "60.00"}, []string{"1I1"}, 42_00},        // 20 + 22 minutes
		{map[string]string{"rate": "60.00"}, []string{"1I1", "1E1"}, 64_00}, // 20 + 44
		{map[string]string{"rate": "64.00"}, []string{"1I1"}, 44_80},        // of an hour's 64
		{map[string]string{"rate": "0.01"}, []string{"1I1"}, 1},             // half a cent and more is one
		{map[string]string{"rate": "60.00", "minutes.guide_new": "5+10"}, []string{"1I1", "1E1"}, 25_00},
		{map[string]string{"rate": "60.00", "price.guide_new": "40.00+8.50"}, []string{"1I1", "1E1", "2I1"}, 65_50},
		{map[string]string{"rate": "60.00", "price.guide_new": "40.00"}, []string{"1I1", "1E1", "2I1"}, 40_00},
	} {
		h := headtest.New(t, 2, "IE")
		h.Settings = c.settings
		p := price.Operations(h.Head, guides(h, c.at...), nil)
		require.Len(t, p, 1)
		assert.Equal(t, c.want, p[0].Labour, "%v %v", c.settings, c.at)
		if _, fixed := c.settings["price.guide_new"]; !fixed {
			each := price.Each(h.Head, trade.FitGuide)
			assert.InDelta(t, p[0].Labour, price.Once(h.Head, trade.FitGuide)+int64(len(c.at))*each, float64(len(c.at)),
				"once, and each")
		}
	}
}

// TestWhatIsSetUpAnywayIsChargedByThePosition: the set-up is somebody else's.
func TestWhatIsSetUpAnywayIsChargedByThePosition(t *testing.T) {
	h := headtest.New(t, 2, "IE")
	h.Settings = map[string]string{"rate": "60.00", "price.guide_new": "40.00+8.50"}
	ops := guides(h, "1I1", "1E1")
	ops[0].SetUp = true
	assert.Equal(t, int64(17_00), price.Operations(h.Head, ops, nil)[0].Labour)
}

// TestPartsComeFromTheStockOrAreOrdered follows one part through what a shop has of it.
func TestPartsComeFromTheStockOrAreOrdered(t *testing.T) {
	h := headtest.New(t, 2, "IE")
	at := []string{"1I1", "1E1", "2I1", "2E1"}
	bare := price.Operations(h.Head, guides(h, at...), nil)[0]
	require.Len(t, bare.Parts, 2, "of each role one, while nobody has any")
	for _, u := range bare.Parts {
		assert.Equal(t, 2, u.Count)
		assert.Equal(t, "order", u.From())
		assert.False(t, u.Known, "no price was told")
		assert.Zero(t, u.Cents, "and none is charged")
		assert.Equal(t, price.UsualLead, u.Lead)
	}
	assert.Zero(t, bare.PartsCents())
	assert.Equal(t, "2 guide, 2 guide", bare.PartsText())

	h.Stock = []head.Stock{
		{ID: 1, Kind: "guide", Name: "Guide, intake", Role: "intake", Count: 1, Price: cents(14_20), Lead: 9},
		{ID: 2, Kind: "guide", Name: "Guide, any", Count: 7, Price: cents(11_00)},
		{ID: 3, Kind: "gasket", Name: "A gasket", Count: 7, Price: cents(30_00)},
	}
	some := price.Operations(h.Head, guides(h, at...), nil)[0]
	require.Len(t, some.Parts, 2)
	by := map[string]price.Use{}
	for _, u := range some.Parts {
		by[u.Name()] = u
	}
	own, any := by["Guide, intake"], by["Guide, any"]
	assert.Equal(t, 2, own.Count, "a part of the role before one for any")
	assert.Equal(t, 1, own.Short)
	assert.Equal(t, "order", own.From())
	assert.Equal(t, 9, own.Lead)
	assert.Equal(t, int64(28_40), own.Cents)
	assert.Equal(t, 2, any.Count)
	assert.Equal(t, "stock", any.From())
	assert.Equal(t, int64(22_00), any.Cents)
	assert.Equal(t, some.Labour+50_40, some.Cents())
}

// TestThePartOfTheRoleComesBeforeOneForAny, wherever it stands in the list.
func TestThePartOfTheRoleComesBeforeOneForAny(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	h.Stock = []head.Stock{
		{ID: 1, Kind: "insert", Name: "any", Count: 9}, {ID: 2, Kind: "insert", Name: "exhaust", Role: "exhaust", Count: 9},
		{ID: 3, Kind: "insert", Name: "intake", Role: "intake", Count: 9},
	}
	for at, want := range map[string]string{"1E1": "exhaust", "1I1": "intake", "": "any"} {
		it := price.Find(h.Head, trade.InsertPart, at, 0, false)
		require.NotNil(t, it, at)
		assert.Equal(t, want, it.Name, at)
	}
}

// TestASealIsTakenWhereItFitsTheStem: a seal of another size is none.
func TestASealIsTakenWhereItFitsTheStem(t *testing.T) {
	h := headtest.New(t, 1, "IE").Read("stem.dia", "1I1.top 5.97", "1E1.top 6.95")
	h.Stock = []head.Stock{
		{ID: 1, Kind: "seal", Name: "Seal 6", Size: 6 * mm, Count: 9, Price: cents(90)},
		{ID: 2, Kind: "seal", Name: "Seal 7", Size: 7 * mm, Count: 9, Price: cents(95)},
	}
	for at, want := range map[string]string{"1I1": "Seal 6", "1E1": "Seal 7"} {
		it := price.Find(h.Head, trade.SealPart, at, 0, false)
		require.NotNil(t, it, at)
		assert.Equal(t, want, it.Name, at)
	}
	h.Stock = h.Stock[:1]
	assert.Nil(t, price.Find(h.Head, trade.SealPart, "1E1", 0, false), "none fits")
}

// TestShimsAreTakenBySize: what the plan says goes where.
func TestShimsAreTakenBySize(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	h.Stock = []head.Stock{{ID: 1, Kind: "lash shim", Name: "Shim 2.60", Size: 2_600_000, Count: 1, Price: cents(3_50)}}
	sizes := func(kind *trade.PartKind, position string) (length.Length, bool) {
		return map[string]length.Length{"1I1": 2_600_000, "1E1": 2_650_000}[position], kind == trade.LashShimPart
	}
	p := price.Operations(
		h.Head, []route.Operation{{Operation: trade.SetLash, Positions: []string{"1I1", "1E1"}, Minutes: 10}}, sizes,
	)[0]
	require.Len(t, p.Parts, 2)
	assert.Equal(t, "stock", p.Parts[0].From())
	assert.Equal(t, int64(3_50), p.PartsCents())
	assert.Equal(t, length.Length(2_650_000), p.Parts[1].Size)
	assert.Equal(t, "order", p.Parts[1].From())
	assert.Empty(t, price.Operations(h.Head, []route.Operation{{Operation: trade.SetLash, Positions: []string{"1I1"}}},
		nil)[0].Parts, "the plan gives none")
}

// TestSumNamesWhatHasNoPrice: an unknown price stays unknown.
func TestSumNamesWhatHasNoPrice(t *testing.T) {
	h := headtest.New(t, 2, "IE")
	h.Settings = map[string]string{"rate": "60.00"}
	ops := price.Operations(h.Head, append(guides(h, "1I1"), guides(h, "2I1")...), nil)
	c, minutes, unknown := price.Sum(ops)
	assert.Equal(t, int64(84_00), c)
	assert.Equal(t, quantity.Minutes(84), minutes)
	assert.Equal(t, []string{"guide"}, unknown, "once")
}

// TestDaysAreThePartsWaitedForAndThenTheWork counts whole days.
func TestDaysAreThePartsWaitedForAndThenTheWork(t *testing.T) {
	work := func(minutes quantity.Minutes, parts ...price.Use) price.Priced {
		return price.Priced{Operation: route.Operation{Minutes: minutes}, Parts: parts}
	}
	for _, c := range []struct {
		ops  []price.Priced
		want int
	}{
		{nil, 0},
		{[]price.Priced{work(1)}, 1},
		{[]price.Priced{work(300)}, 1},
		{[]price.Priced{work(200), work(101)}, 2},
		{[]price.Priced{work(10, price.Use{Short: 1, Lead: 6}, price.Use{Short: 2, Lead: 4})}, 7},
		{[]price.Priced{work(10, price.Use{Lead: 6})}, 1}, // it is there
	} {
		assert.Equal(t, c.want, price.Days(c.ops), "%+v", c.ops)
	}
}

// TestTotalsAddUp works totals of random lines out again, line by line: nothing is lost to rounding
// that is not said.
func TestTotalsAddUp(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 4))
	nothing := price.Terms{Minimum: 90_00, Tax: money.Tax{LabourPPM: 200_000}}.Total(money.Charge{}, 0)
	assert.Equal(t, price.Totals{}, nothing, "nothing costs nothing")
	for range 2000 {
		tax := money.Tax{LabourPPM: r.Int64N(300_000), PartsPPM: r.Int64N(300_000)}
		terms := price.Terms{DiscountPPM: r.Int64N(300_000), Tax: tax, Minimum: r.Int64N(200_00)}
		labour, parts := r.Int64N(3000_00), r.Int64N(3000_00)
		service := r.Int64N(2) * r.Int64N(300_00)
		got := terms.Total(money.Charge{Labour: labour, Service: service, Parts: parts}, 75)
		if labour+service+parts == 0 {
			continue
		}
		said := fmt.Sprintf("%+v %d %d: %+v", terms, labour, parts, got)
		assert.Equal(t, labour+service+parts, got.Net, said)
		assert.Equal(t, money.Share(labour, terms.DiscountPPM), got.Discount, "it is on the labour alone: %s", said)
		after := got.Net - got.Discount
		assert.Equal(t, max(0, terms.Minimum-after), got.Minimum, said)
		assert.GreaterOrEqual(t, after+got.Minimum, terms.Minimum, said)
		assert.Equal(t, got.Net-got.Discount+got.Minimum+got.Tax, got.Gross, said)
		assert.Equal(t, tax.Of(labour+service-got.Discount+got.Minimum, parts), got.Tax, said)
		assert.Equal(t, quantity.Minutes(75), got.Minutes)
	}
}

// TestAPlanWeighsWhatNobodyPriced with what is usual, and says that it does.
func TestAPlanWeighsWhatNobodyPriced(t *testing.T) {
	h := headtest.New(t, 2, "IE")
	c, known := price.Weigh(h.Head, trade.ValvePart, "intake")
	assert.Equal(t, trade.ValvePart.Usual, c)
	assert.False(t, known)
	h.Stock = []head.Stock{{ID: 1, Kind: "valve", Role: "intake", Price: cents(31_00)}}
	c, known = price.Weigh(h.Head, trade.ValvePart, "intake")
	assert.Equal(t, int64(31_00), c)
	assert.True(t, known)
	_, known = price.Weigh(h.Head, trade.ValvePart, "exhaust")
	assert.False(t, known, "an intake valve is no exhaust valve")
}

// TestOneCamshaftForEachThatIsWorn: two journals of one shaft take one camshaft, one of each two.
func TestOneCamshaftForEachThatIsWorn(t *testing.T) {
	h := headtest.New(t, 2, "IE")
	h.Model.Kind.Drive, h.Model.Layout.Camshafts = trade.Bucket, 2
	for want, at := range map[int][]string{1: {"A1", "A3", "1I1"}, 2: {"A1", "2E1"}} {
		var ds []route.Decision
		for _, position := range at {
			ds = append(ds, route.Decision{Code: trade.NewCam.Code, Position: position})
		}
		for _, p := range price.Operations(h.Head, route.Derive(h.Head, ds), nil) {
			if p.Code == trade.NewCam.Code {
				require.Len(t, p.Parts, 1)
				assert.Equal(t, want, p.Parts[0].Count, "%v", at)
			}
		}
	}
}
