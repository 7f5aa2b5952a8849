package week_test

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/schedule"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/customers"
	"yatai/shop/parts"
	"yatai/shop/people"
	"yatai/shop/quoting"
	"yatai/shop/week"
	"yatai/shop/work"
	"yatai/store"
)

func TestTheWeekPlansEveryOpenHead(t *testing.T) {
	f := shoptest.Open(t)
	w := f.Week(t)
	floor, err := week.Floor(t.Context(), f.Shop)
	require.NoError(t, err)
	open := 0
	for _, c := range floor {
		if c.ClosedAt == nil {
			open++
			assert.Contains(t, shoptest.Tags(w), c.Tag)
		}
	}
	assert.Len(t, w.Heads, open)
	for i, h := range w.Heads {
		assert.Equal(t, h.Tag, w.Jobs[i].Name)
		file := f.File(t, h.Tag)
		left := 0
		for _, o := range file.Operations {
			if o.State != "done" && o.State != "skipped" {
				left++
			}
		}
		if h.Firm {
			assert.Equal(t, left, h.Left, h.Tag)
			assert.True(t, h.Known, h.Tag)
		}
		if i > 0 && h.Urgency == w.Heads[i-1].Urgency && h.Job.Promise != nil {
			assert.False(t, h.Job.Promise.Before(*w.Heads[i-1].Job.Promise), "by promise")
		}
		assert.Len(t, h.Because, len(h.Outcome.Waits))
	}
	for _, b := range w.Bars {
		assert.NotEqual(t, b.ID, w.Task(b.ID), "every operation has a name: %s", b.ID)
		assert.True(t, strings.HasPrefix(w.Task(b.ID), b.Job+" "))
		if seq, ok := w.Operation(b.ID); ok && f.WeekHead(t, b.Job).Firm {
			assert.Equal(t, f.File(t, b.Job).Operations[seq-1].Minutes > 0, b.Minutes > 0, b.ID)
		}
	}
}

func TestAnUrgentHeadIsPlannedFirst(t *testing.T) {
	f := shoptest.Open(t)
	chief := f.People[shop.Lead]
	last := shoptest.Tags(f.Week(t))[len(f.Week(t).Heads)-1]
	before := f.WeekHead(t, last).Outcome.Done
	assert.ErrorIs(t, week.SetUrgency(t.Context(), f.Shop, f.People[shop.Technician], shoptest.ID(), last, 3),
		shop.ErrForbidden)
	assert.Error(t, week.SetUrgency(t.Context(), f.Shop, chief, shoptest.ID(), last, 10))
	assert.ErrorIs(t, week.SetUrgency(t.Context(), f.Shop, chief, shoptest.ID(), "T9999", 3), shop.ErrNotFound)
	require.NoError(t, week.SetUrgency(t.Context(), f.Shop, chief, shoptest.ID(), last, 3))
	assert.Equal(t, last, shoptest.Tags(f.Week(t))[0])
	assert.False(t, f.WeekHead(t, last).Outcome.Done.After(before), "nobody is later for being urgent")
}

// TestAMoveTakenIsTheOrderThatWasProposed takes random moves one after the other: the
// order is each time the old one with that head moved, and no other.
func TestAMoveTakenIsTheOrderThatWasProposed(t *testing.T) {
	f := shoptest.Open(t)
	chief := f.People[shop.Lead]
	rnd := rand.New(rand.NewPCG(4, 2))
	for range 25 {
		order := shoptest.Tags(f.Week(t))
		to := rnd.IntN(len(order) - 1)
		from := to + 1 + rnd.IntN(len(order)-to-1)
		head, ahead := order[from], order[to]
		require.NoError(t, week.TakeMove(t.Context(), f.Shop, chief, shoptest.ID(), head, ahead))
		want := slices.Insert(slices.Delete(slices.Clone(order), from, from+1), to, head)
		require.Equal(t, want, shoptest.Tags(f.Week(t)), "%s before %s", head, ahead)
		assert.ErrorIs(t, week.TakeMove(t.Context(), f.Shop, chief, shoptest.ID(), head, ahead), shop.ErrStale)
	}
	assert.ErrorIs(t, week.TakeMove(t.Context(), f.Shop, chief, shoptest.ID(), "T9999", "T0402"), shop.ErrNotFound)
}

func TestPartsAreCountedOnOnce(t *testing.T) {
	f := shoptest.Open(t)
	chief := f.People[shop.Lead]
	// T0402 needs keepers and stem seals; so does everybody who is assembled before it.
	partIn := func(w week.Week) string {
		i := slices.IndexFunc(
			w.Bars, func(b schedule.Bar) bool { return strings.HasPrefix(b.ID, "T0402/") && b.For == "part" },
		)
		if i < 0 {
			return ""
		}
		return w.Bars[i].Why
	}
	part := func() string { return partIn(f.Week(t)) }
	short := part()
	require.Contains(t, short, "not ordered")
	stock, err := parts.Stock(t.Context(), f.Shop)
	require.NoError(t, err)
	i := slices.IndexFunc(stock.Rows, func(r parts.StockRow) bool { return strings.Contains(short, r.Name) })
	require.GreaterOrEqual(t, i, 0)
	require.NoError(t, parts.Order(t.Context(), f.Shop, chief, shoptest.ID(), stock.Rows[i].ID, "40", "T0402"))
	assert.Contains(t, part(), "due ", "the order answers")
	late := shop.New(f.Store, func() time.Time { return time.Now().AddDate(0, 0, 20) })
	w, err := week.Reckon(t.Context(), late)
	require.NoError(t, err)
	assert.Contains(t, partIn(w), "has not come")
	assert.Positive(t, w.Heads[slices.Index(shoptest.Tags(w), "T0402")].Outcome.Late)
}

func TestStationsHaveHoursAndPlaces(t *testing.T) {
	f := shoptest.Open(t)
	owner := f.People[shop.Owner]
	rows, closed, err := week.WorkStations(t.Context(), f.Shop)
	require.NoError(t, err)
	assert.Empty(t, closed)
	var names []string
	for _, r := range rows {
		names = append(names, r.Name)
	}
	assert.ElementsMatch(t, week.FloorStations, names)
	set := func(capacity, hours, days string) error {
		return week.SetStations(t.Context(), f.Shop, owner, shoptest.ID(),
			map[uint]week.StationForm{rows[0].ID: {Capacity: capacity, Hours: hours}}, days)
	}
	for _, bad := range [][3]string{
		{"0", "Mon 8:00-9:00", ""}, {"21", "Mon 8:00-9:00", ""}, {"x", "Mon 8:00-9:00", ""}, {"1", "", ""},
		{"1", "Mon 9:00-8:00", ""},
		{"1", "Mon 8:00-9:00", "Christmas"},
	} {
		var errs field.Errors
		require.ErrorAs(t, set(bad[0], bad[1], bad[2]), &errs, "%v", bad)
		assert.Len(t, errs, 1, "%v", bad)
	}
	assert.ErrorIs(t, week.SetStations(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), nil, ""),
		shop.ErrForbidden)
	assert.ErrorIs(
		t, week.SetStations(t.Context(), f.Shop, owner, shoptest.ID(),
			map[uint]week.StationForm{999: {Capacity: "1", Hours: "Mon 8:00-9:00"}}, ""),
		shop.ErrNotFound,
	)
	tomorrow := time.Now().AddDate(0, 0, 1).Format(time.DateOnly)
	before := f.WeekHead(t, "T0415").Outcome.Done
	require.NoError(t, set("3", "mon-sun 7:00-19:00", tomorrow+", "+tomorrow))
	rows, closed, err = week.WorkStations(t.Context(), f.Shop)
	require.NoError(t, err)
	assert.Equal(t, 3, rows[0].Capacity)
	assert.Equal(t, "Mon-Sun 7:00-19:00", rows[0].Hours)
	assert.Equal(t, []string{tomorrow}, closed)
	assert.False(t, f.WeekHead(t, "T0415").Outcome.Done.Before(before), "a day fewer makes nobody sooner")
}

// TestAQuoteKnowsTheQueue quotes a head twice: the second time the seat machine works one
// hour a week.
func TestAQuoteKnowsTheQueue(t *testing.T) {
	f := shoptest.Open(t)
	quoted := func() time.Time {
		_, err := quoting.MakeQuote(t.Context(), f.Shop, f.People[shop.Counter], shoptest.ID(), "T0401", quoting.Draft{})
		require.NoError(t, err)
		quotes := f.File(t, "T0401").Approved.Quotes
		return *quotes[len(quotes)-1].Ready
	}
	f.Mended(t, "T0401")
	before := quoted()
	rows, _, err := week.WorkStations(t.Context(), f.Shop)
	require.NoError(t, err)
	i := slices.IndexFunc(rows, func(r store.WorkStation) bool { return r.Name == "seat machine" })
	require.NoError(
		t,
		week.SetStations(
			t.Context(), f.Shop, f.People[shop.Owner], shoptest.ID(),
			map[uint]week.StationForm{rows[i].ID: {Capacity: "1", Hours: "Wed 8:00-9:00"}}, "",
		),
	)
	assert.True(t, quoted().After(before), "was %s", before)
}

func TestWhatIfItTakesLonger(t *testing.T) {
	f := shoptest.Open(t)
	w := f.Week(t)
	last := w.Bars[0]
	for _, b := range w.Bars {
		if b.End.After(last.End) {
			last = b
		}
	}
	changes, _, err := w.If(week.WhatIf{Task: last.ID, More: 90})
	require.NoError(t, err)
	i := slices.IndexFunc(changes, func(c schedule.Change) bool { return c.Job == last.Job })
	require.GreaterOrEqual(t, i, 0)
	assert.True(t, changes[i].Done.After(changes[i].Before))
	for _, c := range changes { // who does not wait for the last may be planned anew, and is no later for it
		if c.Job != last.Job {
			assert.LessOrEqual(t, c.Late, c.WasLate, c.Job)
		}
	}
	_, _, err = w.If(week.WhatIf{Task: "T0402/99 face", More: 10})
	assert.Error(t, err)
	_, _, err = w.If(week.WhatIf{Task: last.ID, More: 1_000_000})
	assert.ErrorContains(t, err, "a week of them")

	require.NotEmpty(t, w.People)
	_, _, err = w.If(week.WhatIf{Ill: "Nobody", Days: 3})
	assert.ErrorContains(t, err, "works here")
	ill, _, err := w.If(week.WhatIf{Ill: w.People[0].Name, Days: 10})
	require.NoError(t, err)
	assert.NotEmpty(t, ill, "others are not there to do all of it")
	_, rush, err := w.If(week.WhatIf{Like: "T0402"})
	require.NoError(t, err)
	assert.True(t, rush.After(w.Now))
	_, _, err = w.If(week.WhatIf{})
	assert.Error(t, err)
}

// TestTheWeekKnowsItsPeople looks whether everybody is at one thing at a time, can do it, and
// what follows when skills are taken away.
func TestTheWeekKnowsItsPeople(t *testing.T) {
	f := shoptest.Open(t)
	w := f.Week(t)
	require.Empty(t, w.Nobodys())
	rows, bars := w.ByPerson()
	require.Len(t, rows, len(w.People))
	for _, b := range bars {
		h := w.People[slices.IndexFunc(w.People, func(h schedule.Person) bool { return h.Name == b.Station })]
		assert.True(t, b.Running || h.Can[b.Skill], "%s cannot do %s", b.Station, b.ID)
	}
	late := func(w week.Week) (sum time.Duration) {
		for _, o := range w.Outcomes {
			sum += o.Late
		}
		return sum
	}
	done := func(w week.Week) (last time.Time) {
		for _, o := range w.Outcomes {
			if o.Done.After(last) {
				last = o.Done
			}
		}
		return last
	}
	before, last := late(w), done(w)
	known := func(string) bool { return true }
	us, err := people.People(t.Context(), f.Shop)
	require.NoError(t, err)
	for _, u := range us {
		if u.Role != shop.Lead {
			require.NoError(t, people.SetWork(t.Context(), f.Shop, f.People[shop.Owner], u.ID,
				people.WorkForm{WriteID: shoptest.ID()}, known))
		}
	}
	w = f.Week(t)
	require.Len(t, w.People, 1, "who can do nothing is in nobody's plan")
	assert.True(t, done(w).After(last), "one pair of hands")
	assert.GreaterOrEqual(t, late(w), before, "how late that is hangs on the day")
	better, err := w.Better()
	require.NoError(t, err)
	assert.Equal(t, late(w), better.Late)
	assert.LessOrEqual(t, better.Order.Late, better.Late)
	assert.LessOrEqual(t, better.Least(), better.Order.Late)
	require.NoError(t, week.TakeOrder(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), better.Order.Jobs))
	assert.InDelta(t, better.Order.Late, late(f.Week(t)), float64(time.Minute), "taken, it is as it was proposed")
	require.ErrorIs(t, week.TakeOrder(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), better.Order.Jobs[1:]),
		shop.ErrStale)
}

// TestAStopThatWasForgottenIsAskedAbout starts an operation, comes back the next morning, and
// says when the work really stopped; then two are at it.
func TestAStopThatWasForgottenIsAskedAbout(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech, chief := t.Context(), f.People[shop.Technician], f.People[shop.Lead]
	var seq int
	for _, o := range f.File(t, "T0415").Operations {
		if o.State == "waiting" {
			seq = o.Seq
			break
		}
	}
	evening := time.Date(2031, 3, 3, 15, 30, 0, 0, time.Local)
	then, morning := f.At(evening), f.At(evening.Add(16*time.Hour))
	require.NoError(t, work.Start(ctx, then, tech, shoptest.ID(), "T0415", seq, work.Pauses))
	none, err := work.ForgottenBy(ctx, then, tech.ID)
	require.NoError(t, err)
	assert.Empty(t, none)
	forgotten, err := work.ForgottenBy(ctx, morning, tech.ID)
	require.NoError(t, err)
	require.Len(t, forgotten, 1)
	assert.ErrorContains(t, work.Stopped(ctx, morning, tech, shoptest.ID(), forgotten[0].ID, "15:00"), "begun at 15:30")
	assert.ErrorContains(t, work.Stopped(ctx, morning, tech, shoptest.ID(), forgotten[0].ID, "half past"), "16:20")
	require.ErrorIs(t, work.Stopped(ctx, morning, chief, shoptest.ID(), forgotten[0].ID, "16:10"), shop.ErrNotFound,
		"it is not the lead's")
	require.NoError(t, work.Stopped(ctx, morning, tech, shoptest.ID(), forgotten[0].ID, "16:10"))
	assert.Error(t, work.Pause(ctx, morning, tech, shoptest.ID(), "T0415", seq), "paused already")
	require.NoError(t, work.Join(ctx, morning, chief, shoptest.ID(), "T0415", seq, work.Pauses))
	assert.Error(t, work.Join(ctx, morning, chief, shoptest.ID(), "T0415", seq, work.Pauses), "at it already")
	require.NoError(t, work.Join(ctx, morning, tech, shoptest.ID(), "T0415", seq, work.Pauses))
	file := f.File(t, "T0415")
	open := 0
	for _, st := range file.Stints {
		if st.EndedAt == nil {
			open++
		}
	}
	assert.Equal(t, 2, open)
}

// TestTheShopLearnsItsOwnMinutes works four operations that take twice as long as planned.
func TestTheShopLearnsItsOwnMinutes(t *testing.T) {
	f := shoptest.Open(t)
	minutes := func() map[string]week.Learnt {
		out := map[string]week.Learnt{}
		for _, m := range f.Week(t).Minutes {
			out[m.Code] = m
		}
		return out
	}
	before := minutes()["final_check"]
	monday := time.Date(2031, 3, 3, 9, 0, 0, 0, time.Local)
	for i, tag := range []string{"T0415", "T0402"} {
		for _, o := range f.File(t, tag).Operations {
			if o.State == "done" || o.State == "skipped" {
				continue
			}
			start := monday.AddDate(0, 0, i)
			if o.State == "waiting" {
				require.NoError(t, work.Start(t.Context(), f.At(start), f.People[shop.Technician], shoptest.ID(), tag, o.Seq,
					work.Pauses), "%s %s", tag, o.Code)
			}
			f.Record(t, tag, o)
			late := f.At(start.Add(2 * o.Minutes.Duration()))
			require.NoError(t, work.Finish(t.Context(), late, f.People[shop.Technician], shoptest.ID(), tag, o.Seq, "",
				"found in the drawer"))
		}
	}
	after := minutes()["final_check"]
	assert.Equal(t, before.Times+2, after.Times)
	assert.Equal(t, before.Planned+40, after.Planned)
	assert.Equal(t, before.Actual+80, after.Actual)
	assert.Equal(t, after.Times >= 3, after.Enough())
}

func BenchmarkWeek(b *testing.B) {
	f := shoptest.Open(b)
	for b.Loop() {
		if _, err := week.Reckon(b.Context(), f.Shop); err != nil {
			b.Fatal(err)
		}
	}
}

// TestReservationsNameTheirHeads adds up what is set aside, item by item.
func TestReservationsNameTheirHeads(t *testing.T) {
	stock, err := parts.Stock(t.Context(), shoptest.Open(t).Shop)
	require.NoError(t, err)
	named := 0
	for _, r := range stock.Rows {
		sum := 0
		for _, x := range r.For {
			assert.Positive(t, x.Count)
			assert.NotEmpty(t, x.Tag)
			sum += x.Count
			named++
		}
		assert.Equal(t, r.Reserved, sum, r.Name)
	}
	assert.Positive(t, named)
}

// TestADayLateCountsAsOftenAsTheCustomerWeighs: the same plan counts for more when a late head's
// customer weighs more, and says so.
func TestADayLateCountsAsOftenAsTheCustomerWeighs(t *testing.T) {
	f := shoptest.Open(t)
	before := f.Week(t)
	assert.Empty(t, before.Weighed())
	plain, err := before.Better()
	require.NoError(t, err)
	i := slices.IndexFunc(before.Outcomes, func(o schedule.Outcome) bool { return o.Late > 0 })
	require.GreaterOrEqual(t, i, 0, "the demo has a late head")
	c := f.File(t, before.Outcomes[i].Job).Job.Customer
	form := customers.Form{WriteID: shoptest.ID(), Name: c.Name, Contact: c.Contact, Weight: "12"}
	assert.ErrorContains(t, customers.Change(t.Context(), f.Shop, f.People[shop.Counter], c.ID, form), "from 1 to 9")
	form.WriteID, form.Weight = shoptest.ID(), "5"
	require.NoError(t, customers.Change(t.Context(), f.Shop, f.People[shop.Counter], c.ID, form))
	after := f.Week(t)
	assert.Equal(t, "a day late of "+c.Name+" counts 5 times", after.Weighed())
	weighed, err := after.Better()
	require.NoError(t, err)
	assert.Greater(t, weighed.Late, plain.Late)
	assert.LessOrEqual(t, weighed.Least(), weighed.Late)
}
