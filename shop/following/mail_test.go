package following_test

import (
	"context"
	"errors"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/store"
)

// TestMailIsTriedLessAndLessOften lets a mail server be away: the mail is tried again after ever
// longer times, ten times in all, and leaves once when the server is back.
func TestMailIsTriedLessAndLessOften(t *testing.T) {
	f := shoptest.Open(t)
	ctx, now := t.Context(), time.Now()
	server := map[string]string{"smtp": "mail.invalid:25", "mail_from": "shop@tarn.invalid"}
	require.NoError(t, f.SetSettings(ctx, f.People[shop.Owner], shoptest.ID(), server, nil))
	require.NoError(t, f.Store.Write(ctx, func(tx store.DB) error {
		waiting, err := tx.UnsentMails(99)
		if err != nil {
			return err
		}
		for _, m := range waiting { // the demo's own are out of the way
			if err := tx.MailSent(m.ID, now); err != nil {
				return err
			}
		}
		return nil
	}))
	older, err := following.Mails(ctx, f.Shop)
	require.NoError(t, err)
	require.NotEmpty(t, older)
	write := func(body string) { // about a head that mail went about before
		m := store.Mail{
			HeadID: older[0].HeadID, At: now, Recipient: "grower@mossfield.invalid", Subject: "A quote", Body: body,
		}
		require.NoError(t, f.Store.Write(ctx, func(tx store.DB) error { return tx.Add(&m) }))
	}
	write("See there.")
	var tries []time.Duration
	away := true
	send := func(at time.Duration) func(context.Context, following.MailServer, string, string, string) error {
		return func(_ context.Context, server following.MailServer, to, subject, _ string) error {
			assert.Equal(t, "mail.invalid:25", server.Addr)
			assert.Equal(t, "shop@tarn.invalid", server.From)
			assert.Equal(t, "grower@mossfield.invalid", to)
			assert.Equal(t, "A quote", subject)
			tries = append(tries, at)
			if away {
				return errors.New("nobody answers")
			}
			return nil
		}
	}
	for at := time.Duration(0); at < 48*time.Hour; at += time.Minute {
		require.NoError(t, following.SendMails(ctx, f.At(now.Add(at)), send(at)))
	}
	require.Len(t, tries, 10, "it is given up, and the outbox shows it")
	for i := 2; i < len(tries); i++ {
		assert.GreaterOrEqual(t, tries[i]-tries[i-1], tries[i-1]-tries[i-2], "never sooner than the time before")
	}
	mails, err := following.Mails(ctx, f.Shop)
	require.NoError(t, err)
	assert.Equal(t, "nobody answers", mails[0].Failed)
	assert.Nil(t, mails[0].SentAt)

	away = false
	write("Again.")
	tries = nil
	for range 3 {
		require.NoError(t, following.SendMails(ctx, f.Shop, send(0)))
	}
	assert.Len(t, tries, 1, "what has left is not sent again")
}

// TestRemindersComeUpOnTheirDay keeps a reminder until its day, and away once it is done.
func TestRemindersComeUpOnTheirDay(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	day := time.Now().AddDate(0, 0, 20)
	due := func(at time.Time) (what []string) {
		all, err := following.FollowUps(ctx, f.At(at))
		require.NoError(t, err)
		for _, d := range all {
			if d.Tag == "T0401" {
				what = append(what, d.What)
			}
		}
		return what
	}
	before := len(due(time.Now()))
	require.NoError(t, following.Remind(ctx, f.Shop, front, shoptest.ID(), "T0401", day.Format(time.DateOnly),
		"Torque again, cold"))
	assert.Contains(t, due(day), "Torque again, cold")
	assert.Error(t, following.Remind(ctx, f.Shop, front, shoptest.ID(), "T9999", day.Format(time.DateOnly), "x"),
		"no such head")
	all, err := following.FollowUps(ctx, f.At(day))
	require.NoError(t, err)
	for _, d := range all {
		if d.What == "Torque again, cold" {
			require.NoError(t, following.Reminded(ctx, f.Shop, front, shoptest.ID(), d.ID))
		}
	}
	assert.Len(t, due(time.Now()), before)
	assert.NotContains(t, due(day), "Torque again, cold")
	assert.ErrorIs(t, following.Reminded(ctx, f.Shop, front, shoptest.ID(), 9999), shop.ErrNotFound)
}

// TestACalendarIsForWhoHasItsAddress: the key is the only way in, and one's own has one's own work.
func TestACalendarIsForWhoHasItsAddress(t *testing.T) {
	f := shoptest.Open(t)
	ctx := t.Context()
	key, err := following.CalendarKey(ctx, f.Shop, f.People[shop.Counter])
	require.NoError(t, err)
	again, err := following.CalendarKey(ctx, f.Shop, f.People[shop.Owner])
	require.NoError(t, err)
	assert.Equal(t, key, again, "the shop has one")
	text, err := following.Calendar(ctx, f.Shop, key)
	require.NoError(t, err)
	assert.Contains(t, text, "BEGIN:VCALENDAR\r\n")
	assert.Equal(t, strings.Count(text, "\n"), strings.Count(text, "\r\n"), "every line ends as the standard says")
	assert.Contains(t, text, "T0401")
	for _, wrong := range []string{"", "x", key[1:], key + "A"} {
		_, err := following.Calendar(ctx, f.Shop, wrong)
		assert.ErrorIs(t, err, shop.ErrNotFound, wrong)
	}
	tech := f.People[shop.Technician]
	require.NoError(t, following.MakeOwnCalendar(ctx, f.Shop, tech))
	own, err := following.OwnCalendarKey(ctx, f.Shop, tech)
	require.NoError(t, err)
	assert.NotEqual(t, key, own)
	text, err = following.Calendar(ctx, f.Shop, own)
	require.NoError(t, err)
	assert.Contains(t, text, "BEGIN:VCALENDAR")
}
