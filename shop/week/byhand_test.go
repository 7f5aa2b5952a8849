package week_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/schedule"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/week"
)

// barOf is the last bar of an ordered head's plan that nobody works on.
func barOf(t *testing.T, w week.Week, tag string) schedule.Bar {
	t.Helper()
	var out schedule.Bar
	for _, b := range w.Bars {
		if b.Job == tag && !b.Running {
			out = b
		}
	}
	require.NotEmpty(t, out.ID, tag)
	return out
}

// TestABarIsMovedByHand puts a bar later, which holds it back, and then sooner, which lets it go;
// what cannot be moved says why, and nothing moves until somebody who plans says so.
func TestABarIsMovedByHand(t *testing.T) {
	f := shoptest.Open(t)
	ctx, lead := t.Context(), f.People[shop.Lead]
	reckon := func() week.Week {
		w, err := week.Reckon(ctx, f.Shop)
		require.NoError(t, err)
		return w
	}
	w := reckon()
	b := barOf(t, w, "T0402")
	to := b.Start.Add(26 * time.Hour)
	m, err := w.Move(b.ID, to)
	require.NoError(t, err)
	assert.False(t, m.Start.Before(to))
	require.NotEmpty(t, m.Changes, "the head is done later")
	assert.Equal(t, "T0402", m.Changes[0].Job)
	assert.WithinDuration(t, b.Start, barOf(t, reckon(), "T0402").Start, time.Minute, "a proposal moves nothing")

	assert.ErrorIs(t, week.TakeBar(ctx, f.Shop, f.People[shop.Technician], shoptest.ID(), b.ID, to), shop.ErrForbidden)
	require.NoError(t, week.TakeBar(ctx, f.Shop, lead, shoptest.ID(), b.ID, to))
	held := barOf(t, reckon(), "T0402")
	assert.False(t, held.Start.Before(to))
	assert.True(t, held.Hold.Equal(to))
	require.NoError(t, week.TakeBar(ctx, f.Shop, lead, shoptest.ID(), b.ID, b.Start))
	assert.Zero(t, barOf(t, reckon(), "T0402").Hold, "it is not held any more")

	_, err = w.Move("T0402/99 nothing", to)
	assert.ErrorContains(t, err, "choose an operation of the plan")
	_, err = w.Move(b.ID, w.Now.AddDate(5, 0, 0))
	assert.ErrorContains(t, err, "within a year")
	for _, x := range w.Bars {
		if x.Running {
			_, err = w.Move(x.ID, to)
			assert.ErrorContains(t, err, "it stays")
		}
		if h := x.Job; h == "T0404" {
			_, err = w.Move(x.ID, x.Start.Add(time.Hour))
			assert.ErrorContains(t, err, "not ordered yet")
		}
	}
}

// TestWhatChangedSinceYesterday keeps a day's plan, makes the last head in turn urgent, and looks
// the next day.
func TestWhatChangedSinceYesterday(t *testing.T) {
	f := shoptest.Open(t)
	ctx := t.Context()
	require.NoError(t, week.Remember(ctx, f.Shop))
	w, err := week.Reckon(ctx, f.Shop)
	require.NoError(t, err)
	last := w.Heads[len(w.Heads)-1].Tag
	require.NoError(t, week.SetUrgency(ctx, f.Shop, f.People[shop.Lead], shoptest.ID(), last, 5))
	tomorrow := f.At(f.Now().Add(24 * time.Hour))
	w, err = week.Reckon(ctx, tomorrow)
	require.NoError(t, err)
	since, ok, err := w.SinceYesterday(ctx, tomorrow)
	require.NoError(t, err)
	require.True(t, ok)
	assert.True(t, since.Any())
	said := false
	for _, n := range since.News {
		assert.NotEmpty(t, n.Why, n.Tag)
		said = said || strings.Contains(strings.Join(n.Why, "; "), "urgency set 5, was 0")
	}
	assert.True(t, said, "the reason is what happened since")
	assert.Empty(t, since.Came)
	assert.Empty(t, since.Left)
}

// TestSomebodysOwnCalendar has what they do by the plan and nothing of others; who has left has
// none.
func TestSomebodysOwnCalendar(t *testing.T) {
	f := shoptest.Open(t)
	ctx, ilka := t.Context(), f.People[shop.Technician]
	key, err := following.OwnCalendarKey(ctx, f.Shop, ilka)
	require.NoError(t, err)
	assert.Empty(t, key)
	require.NoError(t, following.MakeOwnCalendar(ctx, f.Shop, ilka))
	key, err = following.OwnCalendarKey(ctx, f.Shop, ilka)
	require.NoError(t, err)
	text, err := following.Calendar(ctx, f.Shop, key)
	require.NoError(t, err)
	w, err := week.Reckon(ctx, f.Shop)
	require.NoError(t, err)
	_, bars := w.ByPerson()
	own := 0
	for _, b := range bars {
		if b.Station == ilka.Name {
			own += len(b.Pieces)
		}
	}
	assert.Equal(t, own, strings.Count(text, "BEGIN:VEVENT"))
	assert.NotContains(t, text, "promised")
	require.NoError(t, following.MakeOwnCalendar(ctx, f.Shop, ilka))
	_, err = following.Calendar(ctx, f.Shop, key)
	assert.ErrorIs(t, err, shop.ErrNotFound, "a new address ends the old one")
}
