package following_test

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/store"
)

// history is what the visits of a head say.
func history(t *testing.T, f *shoptest.Fixture, tag string) following.History {
	t.Helper()
	h, err := following.HistoryOf(t.Context(), f.Shop, f.File(t, tag))
	require.NoError(t, err)
	return h
}

// tags names visits.
func tags(of []*headfile.File) (out []string) {
	for _, v := range of {
		out = append(out, v.Tag)
	}
	return out
}

// TestAHeadsVisitsSayHowItWears: of the demo's head that came four times, and the others of its model.
func TestAHeadsVisitsSayHowItWears(t *testing.T) {
	t.Parallel()
	f := shoptest.Open(t)
	h := history(t, f, "T0428")
	assert.Equal(t, []string{"T0425", "T0426", "T0427", "T0428"}, tags(h.Visits))
	assert.Equal(t, "h", h.Unit)
	assert.Equal(t, 7, h.Others, "three and three, and the comeback")
	assert.Empty(t, h.Proposed)
	sunk := 0
	last := 0.0
	for _, w := range h.Worn {
		if w.HasLimit {
			assert.GreaterOrEqual(t, w.Early, last, "the soonest first")
			assert.LessOrEqual(t, w.Early, w.Late(), w.Key())
			last = w.Early
		}
		if w.Code != trade.Recession.Code {
			continue
		}
		sunk++
		require.Len(t, w.Visits, 4)
		first, now := w.Visits[0], w.Visits[3]
		assert.Nil(t, now.Left, "it is what it came with")
		seen := float64(now.Came.High-first.Came.High) / (now.Hours - first.Hours) * 1000
		mean := w.Over(1000)
		low, high := w.OverWithin(1000)
		assert.InDelta(t, seen, float64(mean), 0.15*seen, w.Key())
		assert.True(t, low < mean && mean < high, w.Key())
		left := float64(*w.Feature.Limit.High-w.High) / float64(mean) * 1000
		assert.True(t, w.Early < left && left < w.Late(), "%s: %.0f, %.0f to %.0f", w.Key(), left, w.Early, w.Late())
		assert.False(t, w.Falls)
	}
	assert.Equal(t, 8, sunk)
	for _, w := range h.Worn {
		if w.Code == "valve.margin" {
			assert.True(t, w.Falls, "a margin gets thinner")
			assert.Less(t, w.Rate.Mean(), 0.0)
		}
	}
	// 3300 h in three seasons of 8700 h each
	assert.InDelta(t, 3300.0/(3*8700.0/24), h.PerDay(), 0.05)
	day, w, ok := h.Look()
	require.True(t, ok)
	assert.Equal(t, h.Worn[0].Key(), w.Key())
	assert.InDelta(t, w.Early/h.PerDay(), day.Sub(h.Visits[3].CreatedAt).Hours()/24, 1.1)
	again := history(t, f, "T0428")
	require.Len(t, again.Worn, len(h.Worn))
	assert.Equal(t, h.Worn[0].Early, again.Worn[0].Early, "by what is kept of the others")
}

// TestAHeadThatMayHaveBeenHereIsProposed: by its marks, then by its machine, and never one that is linked already.
func TestAHeadThatMayHaveBeenHereIsProposed(t *testing.T) {
	t.Parallel()
	f := shoptest.Open(t)
	front := f.People[shop.Counter]
	form := intake.IntakeForm{
		WriteID: shoptest.ID(), Customer: "Dale Nurseries", Machine: "Bore 2", Marks: "G4-5 0032", Kind: "rebuild",
		Hours: "5400", Model: strconv.Itoa(int(f.File(t, "T0428").ModelID)),
	}
	tag, err := intake.TakeIn(t.Context(), f.Shop, front, form)
	require.NoError(t, err)
	h := history(t, f, tag)
	require.Len(t, h.Proposed, 1)
	assert.Equal(t, "T0428", h.Proposed[0].Tag, "the last of its visits")
	assert.Equal(t, "Bore 2", h.Proposed[0].Job.Machine.Name)
	require.NoError(t, intake.LinkEarlier(t.Context(), f.Shop, front, shoptest.ID(), tag, "T0428"))
	h = history(t, f, tag)
	assert.Len(t, h.Visits, 5)
	assert.Empty(t, h.Worn, "nothing is read yet")

	form.WriteID, form.Machine, form.Marks = shoptest.ID(), "Bore 3", ""
	other, err := intake.TakeIn(t.Context(), f.Shop, front, form)
	require.NoError(t, err)
	assert.Empty(t, history(t, f, other).Proposed, "another machine, and no marks")

	err = intake.LinkEarlier(t.Context(), f.Shop, front, shoptest.ID(), "T0425", "T0428")
	var wrong field.Errors
	require.ErrorAs(t, err, &wrong)
	assert.Contains(t, wrong["earlier"].String(), "after this one")
}

// TestWearIsToldByWhatIsCounted: per event where events are counted, and never from heads that are counted in
// something else.
func TestWearIsToldByWhatIsCounted(t *testing.T) {
	t.Parallel()
	f := shoptest.Open(t)
	front, tech := f.People[shop.Counter], f.People[shop.Technician]
	here := func(hours, reads string) string {
		tag, err := intake.TakeIn(t.Context(), f.Shop, front, intake.IntakeForm{
			WriteID: shoptest.ID(), Customer: "Dale Nurseries", Machine: "Sled", Kind: "rebuild", Hours: hours,
			Model: strconv.Itoa(int(f.File(t, "T0428").ModelID)),
		})
		require.NoError(t, err)
		form := f.Sweep(t, tag, trade.Recession.Code, headfile.AsReceived, trade.Spot{Position: "1E1"}, reads)
		require.NoError(t, f.Typed(t.Context(), tech, tag, form))
		return tag
	}
	visits := func(times ...string) following.History {
		earlier := here(times[0], "0.50")
		require.NoError(t, f.Shop.Store.Write(t.Context(), func(tx store.DB) error {
			return tx.CloseHead(f.File(t, earlier).ID, f.Now(), "", "", "")
		}))
		tag := here(times[1], "0.70")
		require.NoError(t, intake.LinkEarlier(t.Context(), f.Shop, front, shoptest.ID(), tag, earlier))
		return history(t, f, tag)
	}
	h := visits("12 races", "16 races")
	assert.Equal(t, "races", h.Unit)
	assert.Equal(t, 1, h.Per())
	assert.Zero(t, h.Others, "those of the demo are counted in hours")
	require.Len(t, h.Worn, 1)
	assert.InDelta(t, 50*float64(quantity.One)/1000, float64(h.Worn[0].Over(1)), 2*float64(quantity.One)/1000)
	assert.Contains(t, h.Worn[0].When(h.Unit).String(), "races")
	for _, c := range []struct {
		from, to string
		per      int
	}{{"0 km", "80000 km", 10_000}, {"0 starts", "400 starts", 1000}, {"10", "60", 1000}, {"1 races", "100 races", 1}} {
		assert.Equal(t, c.per, visits(c.from, c.to).Per(), c)
	}
	assert.Equal(t, 11, visits("10", "60").Others, "in hours the ten of the demo speak, and the one above")
}

// TestWithoutHoursNothingIsSaid of how fast it wears; where they are known one reading is enough.
func TestWithoutHoursNothingIsSaid(t *testing.T) {
	t.Parallel()
	f := shoptest.Open(t)
	for hours, said := range map[string]int{"5400": 1, "unknown": 0, "5400 km": 0, "900": 0, "inf": 0, "NaN": 0, "-5": 0, "1e300": 0} {
		tag, err := intake.TakeIn(t.Context(), f.Shop, f.People[shop.Counter], intake.IntakeForm{
			WriteID: shoptest.ID(), Customer: "Dale Nurseries", Machine: "Bore 2", Kind: "rebuild", Hours: hours,
			Model: strconv.Itoa(int(f.File(t, "T0428").ModelID)),
		})
		require.NoError(t, err)
		require.NoError(t, intake.LinkEarlier(t.Context(), f.Shop, f.People[shop.Counter], shoptest.ID(), tag, "T0425"))
		form := f.Sweep(t, tag, trade.Recession.Code, headfile.AsReceived, trade.Spot{Position: "1E1"}, "0.93")
		require.NoError(t, f.Typed(t.Context(), f.People[shop.Technician], tag, form))
		h := history(t, f, tag)
		assert.Len(t, h.Worn, said, hours)
		if said > 0 {
			assert.Equal(t, "1E1", h.Worn[0].Position)
			assert.Less(t, h.Worn[0].Early, 2500.0, "0.07 of it are left")
			assert.Equal(t, 5400.0, h.Worn[0].Visits[1].Hours)
		}
	}
}
