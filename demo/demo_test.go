package demo_test

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/schedule"
	"yatai/core/trade"
	"yatai/demo"
	"yatai/internal/demofile"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/headfile"
	"yatai/shop/library"
	"yatai/shop/parts"
	"yatai/shop/people"
	"yatai/shop/week"
	"yatai/store"
)

// here is where the pages of a test's demo would be.
const here = "http://shop.example"

// opened returns the demo's shop, its files by tag, and its lead.
func opened(t *testing.T) (*shop.Shop, map[string]*headfile.File, shop.Actor) {
	t.Helper()
	st, err := store.Open(demofile.Path(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	s := shop.New(st, time.Now)
	files := map[string]*headfile.File{}
	for n := 401; n <= 416; n++ {
		tag := "T0" + string(rune('0'+n/100)) + string(rune('0'+n/10%10)) + string(rune('0'+n%10))
		f, err := headfile.Open(t.Context(), s, tag)
		require.NoError(t, err, tag)
		files[tag] = f
	}
	people, err := people.People(t.Context(), s)
	require.NoError(t, err)
	i := slices.IndexFunc(people, func(u store.User) bool { return u.Role == shop.Lead })
	return s, files, shop.Actor{ID: people[i].ID, Name: people[i].Name, Role: shop.Lead}
}

// some tells whether a file is as said.
func some(files map[string]*headfile.File, is func(f *headfile.File) bool) bool {
	for _, f := range files {
		if is(f) {
			return true
		}
	}
	return false
}

// TestTheScenarioShowsEveryTrouble looks for what the demo is there to show: the numbers
// are the shop's own verdicts, not what the demo's data says of itself.
func TestTheScenarioShowsEveryTrouble(t *testing.T) {
	s, files, _ := opened(t)
	now := func(code string, v gauge.Verdict) func(*headfile.File) bool {
		return func(f *headfile.File) bool {
			return slices.ContainsFunc(f.Now.All(), func(x judge.Feature) bool { return x.Code == code && x.Verdict == v })
		}
	}
	seen := func(part, grade string) func(*headfile.File) bool {
		return func(f *headfile.File) bool {
			return slices.ContainsFunc(f.Findings, func(x store.Finding) bool { return x.Part == part && x.Grade == grade })
		}
	}
	ahead, err := week.Reckon(t.Context(), s)
	require.NoError(t, err)
	stock, err := parts.Stock(t.Context(), s)
	require.NoError(t, err)
	floor, err := week.Floor(t.Context(), s)
	require.NoError(t, err)
	for what, is := range map[string]func(*headfile.File) bool{
		"a bent valve": seen("stem.condition", "bent"),
		"a leak that turns with its valve": func(f *headfile.File) bool {
			return slices.ContainsFunc(f.Now.All(), func(x judge.Feature) bool {
				return x.Code == "seal.vacuum" && strings.Contains(x.Note, "turns with the valve")
			})
		},
		"a head hollow lengthwise": now("face.line", gauge.Out),
		"a crack on the map":       seen(trade.MarkCode, "crack"),
		"seats too deep":           now("valve.recession", gauge.Out),
		"springs of unequal load":  now("spring.load_seat", gauge.Out),
		"a guide over its limit":   now("guide.clearance", gauge.Out),
		"a reading in doubt":       now("guide.clearance", gauge.Doubt),
		"metal on a stem":          seen("stem.condition", "transfer"),
		"a register too deep":      now("register.depth", gauge.Out),
		"a chamber's lash gone":    now("lash", gauge.Out),
		"a box of parts mixed up": func(f *headfile.File) bool {
			return slices.ContainsFunc(f.Places, func(p store.Place) bool { return p.State == "unknown" })
		},
		"a comeback with its earlier visit": func(f *headfile.File) bool {
			return f.Job.Kind == "comeback" && f.Earlier != ""
		},
		"a scrap decision": func(f *headfile.File) bool {
			return slices.ContainsFunc(f.Decisions, func(d store.Decision) bool { return d.Choice == "scrap" })
		},
		"regulated work":       func(f *headfile.File) bool { return f.Job.Regulated != "" },
		"a closed head":        func(f *headfile.File) bool { return f.ClosedAt != nil && f.HandedOverAt == nil },
		"a head that has left": func(f *headfile.File) bool { return f.HandedOverAt != nil },
		"a head with work half done": func(f *headfile.File) bool {
			return slices.ContainsFunc(f.Operations, func(o store.Operation) bool { return o.State == "running" })
		},
		"a head with nothing read": func(f *headfile.File) bool { return len(f.Readings) == 0 },
		"a new valve from another maker, not true": func(f *headfile.File) bool {
			return slices.ContainsFunc(f.Layout.Valves, func(v layout.Valve) bool {
				return slices.ContainsFunc(f.Tray(v.ID),
					func(c headfile.TrayCell) bool { return strings.Contains(c.Trust.String(), "not what was ordered") })
			})
		},
		"a quote half approved": func(f *headfile.File) bool {
			return slices.ContainsFunc(f.Approved.Quotes, func(q headfile.QuotePage) bool {
				return q.Approval != nil && slices.ContainsFunc(q.Lines, func(l store.QuoteLine) bool { return !q.Answers[l.Seq] })
			})
		},
	} {
		assert.True(t, some(files, is), "the demo lost %s", what)
	}
	assert.True(t, slices.ContainsFunc(stock.Orders, func(o parts.OrderRow) bool { return o.Late }), "a part that is late")
	assert.True(t, slices.ContainsFunc(ahead.Heads, func(h week.WeekHead) bool { return h.Outcome.Late > 0 }),
		"a promise that will not be kept")
	kinds, stations, models := map[string]bool{}, map[string]bool{}, map[string]bool{}
	for _, f := range files {
		kinds[f.Job.Kind], models[f.Model.Name] = true, true
	}
	for _, c := range floor {
		stations[c.Station] = true
	}
	assert.Len(t, kinds, 6, "every kind of intake")
	assert.Len(t, models, 6, "every model")
	assert.GreaterOrEqual(t, len(stations), 6, "heads all over the shop")
}

// TestTheDemoIsAliveToday wants the demo's dates to be about today.
func TestTheDemoIsAliveToday(t *testing.T) {
	_, files, _ := opened(t)
	soon := 0
	for tag, f := range files {
		assert.False(t, f.CreatedAt.After(time.Now()), "%s comes from the future", tag)
		for _, r := range f.Readings {
			require.False(t, r.At.After(time.Now()) || r.At.Before(f.CreatedAt), "%s: a reading at %s", tag, r.At)
		}
		for _, o := range f.Operations {
			if o.StartedAt != nil && o.FinishedAt != nil {
				assert.False(t, o.FinishedAt.Before(*o.StartedAt) || o.StartedAt.Before(f.CreatedAt), "%s %s", tag, o.Code)
			}
			if o.FinishedAt != nil && f.ClosedAt != nil {
				assert.False(t, f.ClosedAt.Before(*o.FinishedAt), "%s was closed before %s", tag, o.Code)
			}
		}
		if f.HandedOverAt != nil {
			assert.False(t, f.HandedOverAt.Before(*f.ClosedAt), "%s left before it was closed", tag)
		}
		if f.Job.Promise != nil && time.Until(*f.Job.Promise) > 0 && time.Until(*f.Job.Promise) < 22*24*time.Hour {
			soon++
		}
	}
	assert.Greater(t, soon, 8)
}

// TestYearsOfHistory makes a little of it: the heads came, were mended and left, each in
// its own time, and what was to be remembered of them is done.
func TestYearsOfHistory(t *testing.T) {
	if testing.Short() {
		t.Skip("a year of heads takes a while")
	}
	st, err := store.OpenToFill(t.TempDir() + "/demo.db")
	require.NoError(t, err)
	defer func() { _ = st.Close() }()
	s := shop.New(st, time.Now)
	require.NoError(t, library.Equip(t.Context(), s))
	told := 0
	require.NoError(t, demo.FillHeads(t.Context(), s, here, 1, 12, func(done, of int) {
		assert.Equal(t, told, done)
		assert.Equal(t, 12, of)
		told++
	}))
	assert.Equal(t, 12, told)
	for n := 429; n <= 440; n++ {
		f, err := headfile.Open(t.Context(), s, "T0"+string(rune('0'+n/100))+string(rune('0'+n/10%10))+string(rune('0'+n%10)))
		require.NoError(t, err)
		require.NotNil(t, f.HandedOverAt, f.Tag)
		assert.True(t, f.CreatedAt.Before(*f.ClosedAt) && f.ClosedAt.Before(*f.HandedOverAt) &&
			f.HandedOverAt.Before(time.Now().AddDate(0, 0, -14)), f.Tag)
		for _, r := range f.Readings {
			require.False(t, r.At.Before(f.CreatedAt) || r.At.After(*f.ClosedAt), "%s: read at %s", f.Tag, r.At)
		}
	}
	floor, err := week.Floor(t.Context(), s)
	require.NoError(t, err)
	assert.Len(t, floor, 15, "the scenario alone hangs on the floor")
	due, err := following.FollowUps(t.Context(), s)
	require.NoError(t, err)
	for _, d := range due {
		assert.True(t, d.Due.After(time.Now().AddDate(0, 0, -8)), "%s is long done", d.Tag)
	}
}

// TestTheDemoIsMadeTheSameEachTime fills a shop on another day than the tests' own: the same heads, readings and
// decisions.
func TestTheDemoIsMadeTheSameEachTime(t *testing.T) {
	typed := func(s *shop.Shop) []string {
		var out []string
		for _, tag := range []string{"T0401", "T0402", "T0414", "T0428"} {
			f, err := headfile.Open(t.Context(), s, tag)
			require.NoError(t, err)
			for _, r := range f.Readings {
				out = append(out, r.Characteristic+" "+r.Position+" "+r.Typed)
			}
			for _, d := range f.Decisions {
				out = append(out, d.Feature+" "+d.Choice)
			}
		}
		slices.Sort(out) // the hour decides which of two is read first
		return out
	}
	st, err := store.OpenToFill(t.TempDir() + "/demo.db")
	require.NoError(t, err)
	defer func() { _ = st.Close() }()
	at := time.Date(2031, 5, 20, 11, 0, 0, 0, time.UTC)
	s := shop.New(st, func() time.Time { return at })
	require.NoError(t, library.Equip(context.Background(), s))
	require.NoError(t, demo.Fill(t.Context(), s, here))
	now, _, _ := opened(t)
	assert.Equal(t, typed(now), typed(s))
}

// TestTheDemosWorkIsBelievable: whatever the hour, what the demo tells happened in the shop's hours, work took
// about as long as it usually does, and nobody is at it since yesterday.
func TestTheDemosWorkIsBelievable(t *testing.T) {
	if testing.Short() {
		t.Skip("fills two shops")
	}
	t.Parallel()
	hours, err := schedule.ParseHours(shop.UsualHours)
	require.NoError(t, err)
	for _, at := range []time.Time{
		time.Date(2031, 5, 20, 14, 10, 0, 0, time.Local), // a Tuesday
		time.Date(2031, 5, 25, 3, 0, 0, 0, time.Local),   // in the night to a Sunday
	} {
		clock := demo.Clock(func() time.Time { return at }, time.Time{})
		st, err := store.OpenToFill(t.TempDir() + "/demo.db")
		require.NoError(t, err)
		defer func() { _ = st.Close() }()
		s := shop.New(st, clock)
		require.NoError(t, library.Equip(t.Context(), s))
		require.NoError(t, demo.Fill(t.Context(), s, here))
		events, err := st.Read(t.Context()).EventsAfter(0, 10_000)
		require.NoError(t, err)
		for _, e := range events {
			day := e.At.Local()
			shifts := hours[day.Weekday()]
			minute := day.Hour()*60 + day.Minute()
			require.True(t, len(shifts) > 0 && minute >= shifts[0].From && minute <= shifts[len(shifts)-1].To,
				"%s: %s %s", day, e.What, e.Detail)
		}
		ended, short := 0, 0
		for n := 401; n <= 416; n++ {
			f, err := headfile.Open(t.Context(), s, fmt.Sprintf("T%04d", n))
			require.NoError(t, err)
			for _, o := range f.Operations {
				switch {
				case o.StartedAt == nil:
				case o.FinishedAt == nil:
					assert.Less(t, clock().Sub(*o.StartedAt), 4*time.Hour, "%s %s", f.Tag, o.Code)
				default:
					took := o.FinishedAt.Sub(*o.StartedAt)
					assert.LessOrEqual(t, took, time.Duration(o.Minutes)*time.Minute*2, "%s %s", f.Tag, o.Code)
					ended++
					if took < time.Duration(o.Minutes)*time.Minute/2 {
						short++
					}
				}
			}
		}
		assert.Greater(t, ended, 30)
		assert.Less(t, short, ended/4, "of %d", ended)
	}
}
