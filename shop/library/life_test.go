package library

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/store"
)

func TestWhatWasDoneIsCountedByHeads(t *testing.T) {
	done := []store.Operation{
		{HeadID: 1, Code: "wash"}, {HeadID: 1, Code: "guide_new", Positions: "1I1 1E1"},
		{HeadID: 1, Code: "guide_new", Positions: "2I1"},
		{HeadID: 2, Code: "wash"}, {HeadID: 2, Code: "guide_new", Positions: "1I1"}, {HeadID: 2, Code: "face"},
		{HeadID: 3, Code: "face"},
		{HeadID: 3, Code: "seat_cut", Positions: "1I1"}, {HeadID: 3, Code: "no such operation"},
	}
	work, parts := workOf(done, nil, "")
	assert.Equal(t, []LifeWork{
		{Name: "Face the head", Heads: 2}, {Name: "New guides", Heads: 2}, {Name: "Cut seats", Heads: 1},
	}, work, "what every head gets says nothing")
	assert.Equal(t, []LifePart{{Name: "guide", Heads: 2, Most: 3, kind: "guide"}}, parts)
}

// TestWorkIsToldByHours: of the heads it was done on whose hours are known, in the unit most are counted in.
func TestWorkIsToldByHours(t *testing.T) {
	var heads []store.Head
	var done []store.Operation
	for i, hours := range []string{"5000", "6000 h", "90 000 km", "7000 h", "8000 h", ""} {
		id := uint(i + 1)
		heads = append(heads, store.Head{ID: id, Job: store.Job{Hours: hours}})
		done = append(done, store.Operation{HeadID: id, Code: "guide_new"})
	}
	ran, unit := hoursOf(heads)
	assert.Equal(t, "h", unit)
	work, _ := workOf(append(done, store.Operation{HeadID: 1, Code: "face"}), ran, unit)
	assert.Equal(t, []LifeWork{
		{"New guides", 6, Spread{5000, 7000, 8000}, "h"}, {"Face the head", 1, Spread{}, "h"},
	}, work, "one head says nothing of hours")
}

func TestWhatToOrderIsWhatLacksForTheHeadThatTakesMost(t *testing.T) {
	assert.Equal(t, 5, LifePart{Most: 8, Free: 3}.Order())
	assert.Zero(t, LifePart{Most: 8, Free: 9}.Order())
}

func TestAPriceIsOfTheNewestQuoteAndItsSupplements(t *testing.T) {
	done := []store.Operation{{HeadID: 1, Code: "face"}, {HeadID: 1, Code: "seat_cut"}, {HeadID: 2, Code: "face"}}
	lines := []store.QuotedLine{
		{HeadID: 1, QuoteID: 1, Kind: "quote", Code: "face", Cents: 100},
		{HeadID: 2, QuoteID: 2, Kind: "quote", Code: "seat_cut", Cents: 50},
		{HeadID: 1, QuoteID: 3, Kind: "quote", Code: "face", Cents: 200},
		{HeadID: 1, QuoteID: 3, Kind: "quote", Code: "lap", Cents: 40},
		{HeadID: 1, QuoteID: 4, Kind: "supplement", Code: "seat_cut", Cents: 32},
	}
	assert.Equal(t, []int64{232}, pricesOf(lines, done), "what was not done was not charged")
}

func TestEightOfTenLieBetween(t *testing.T) {
	assert.Equal(t, Spread{}, spread([]int64{1, 2, 3}), "three say nothing")
	assert.Equal(t, Spread{10, 30, 50}, spread([]int64{50, 10, 40, 20, 30}))
	var all []int64
	for n := range int64(101) {
		all = append(all, 100-n)
	}
	assert.Equal(t, Spread{10, 50, 90}, spread(all))
}
