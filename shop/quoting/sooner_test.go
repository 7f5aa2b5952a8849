package quoting_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/quoting"
	"yatai/shop/week"
)

// TestAnEarlierDayIsSold: offered with what it makes late, held until noon of the next day that is worked, and kept
// when the customer takes it: the head goes before all others and is promised by that day.
func TestAnEarlierDayIsSold(t *testing.T) {
	t.Parallel()
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	last, first := behind(t, f)
	before := f.Week(t)
	var late time.Duration
	for _, c := range first.Heads {
		assert.NotEqual(t, last, c.Job)
		assert.Greater(t, c.Late, c.WasLate)
		late += c.Late - c.WasLate
	}
	assert.Equal(t, late, first.Late)

	version, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), last,
		quoting.Draft{Sooner: true, Free: "Fetched = 35.00"})
	require.NoError(t, err)
	quotes := f.File(t, last).Approved.Quotes
	q := quotes[len(quotes)-1]
	require.Len(t, q.Earlier(), 1)
	line := q.Earlier()[0]
	assert.Equal(t, headfile.Could, line.Grp)
	assert.GreaterOrEqual(t, line.Cents(), int64(4500), "%s late", late)
	assert.GreaterOrEqual(t, line.Cents(), int64(late.Hours()/24*6000), "%s late", late)
	assert.NotContains(t, line.Reason, "T04", "what it makes late is nothing for the customer")
	assert.NotContains(t, q.Beside(headfile.Could), line)
	held := line.Held.Local()
	assert.Equal(t, 12, held.Hour())
	assert.True(t, held.After(f.Now()) && held.Before(f.Now().AddDate(0, 0, 4)))
	assert.WithinDuration(t, first.Ready, *line.Sooner, time.Minute)

	said := quoting.Answer{Name: "Bran", Must: true, Yes: []quoting.Line{{Tag: last, Seq: line.Seq}}}
	later := f.Shop.At(held.Add(time.Minute))
	err = quoting.ApproveVerbally(ctx, later, front, shoptest.ID(), last, version, said, "by telephone")
	var wrong field.Errors
	require.ErrorAs(t, err, &wrong)
	assert.Contains(t, wrong["name"].String(), "given away")
	require.NoError(t, quoting.ApproveVerbally(ctx, f.Shop, front, shoptest.ID(), last, version, said, "by telephone"))
	after := f.File(t, last)
	assert.Equal(t, 9, after.Urgency)
	require.NotNil(t, after.Job.Promise)
	assert.LessOrEqual(t, after.Job.Promise.UTC().Format(time.DateOnly), line.Sooner.Local().Format(time.DateOnly))
	week := f.Week(t)
	assert.Equal(t, last, week.Heads[0].Tag, "it is first now")
	assert.NotEqual(t, last, before.Heads[0].Tag)
}

// TestWithoutTheEarlierDayNothingMoves: left out by the customer, or none to offer.
func TestWithoutTheEarlierDayNothingMoves(t *testing.T) {
	t.Parallel()
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	last, _ := behind(t, f)
	was := f.File(t, last)
	version, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), last,
		quoting.Draft{Sooner: true, Free: "Fetched = 35.00"})
	require.NoError(t, err)
	require.NoError(t, quoting.ApproveVerbally(ctx, f.Shop, front, shoptest.ID(), last, version,
		quoting.Answer{Name: "Bran", Must: true}, "by telephone"))
	is := f.File(t, last)
	assert.Equal(t, was.Urgency, is.Urgency)
	assert.Equal(t, was.Job.Promise, is.Job.Promise)

	_, err = quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), f.Week(t).Heads[0].Tag,
		quoting.Draft{Sooner: true, Free: "Fetched = 35.00"})
	require.Error(t, err)
	assert.True(t, strings.Contains(err.Error(), "no earlier day") || strings.Contains(err.Error(), "decision"), err)
}

// behind is the last head of the week that could be quoted and would be done on an earlier day if it were taken
// first: some more are decided, and of their final checks one fits into a week.
func behind(t *testing.T, f *shoptest.Fixture) (string, week.Sooner) {
	t.Helper()
	stations, _, err := week.WorkStations(t.Context(), f.Shop)
	require.NoError(t, err)
	for _, st := range stations {
		if st.Name == "final check" {
			require.NoError(t, week.SetStations(t.Context(), f.Shop, f.People[shop.Owner], shoptest.ID(),
				map[uint]week.StationForm{st.ID: {Capacity: "1", Hours: "Thu 7:30-8:00"}}, ""))
		}
	}
	for _, tag := range []string{"T0401", "T0409", "T0411", "T0412", "T0413"} {
		file, choices := f.File(t, tag), map[string]lead.Choice{}
		for _, x := range file.Received.Findings() {
			choices[x.Key()] = lead.Choice{Choice: trade.Leave, Reason: "seen"}
			if r := file.Received.Usual(x); r != nil {
				choices[x.Key()] = lead.Choice{Choice: r.Code}
			}
		}
		require.NoError(t, lead.Decide(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), tag, choices,
			headfile.PlanAsk{}))
	}
	w := f.Week(t)
	for i := len(w.Heads) - 1; i > 0; i-- {
		tag := w.Heads[i].Tag
		first, ok, err := week.TakenFirst(f.Shop, f.Shop.Store.Read(t.Context()), tag, f.Now().AddDate(0, 0, 1))
		require.NoError(t, err)
		if ok && len(f.File(t, tag).Undecided()) == 0 {
			return tag, first
		}
	}
	t.Fatal("no head of the week could be sold an earlier day")
	return "", week.Sooner{}
}

// TestASurchargeIsByWhatIsLate: for each day, rounded up to whole cents, and the least.
func TestASurchargeIsByWhatIsLate(t *testing.T) {
	t.Parallel()
	for _, x := range []struct {
		late  time.Duration
		cents int64
	}{
		{0, 4500}, {17 * time.Hour, 4500}, {18 * time.Hour, 4500}, {19 * time.Hour, 4750}, {24 * time.Hour, 6000},
		{24*time.Hour + time.Second, 6001}, {240 * time.Hour, 60000}, {-time.Hour, 4500},
	} {
		assert.Equal(t, x.cents, quoting.Surcharge(6000, 4500, x.late), x.late)
	}
}
