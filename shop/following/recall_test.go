package following_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/store"
)

// TestARecallFindsWhatWasTouchedAndNothingElse: each tool, part, operation and sheet of the demo's shop against all
// that stands in its heads' own files.
func TestARecallFindsWhatWasTouchedAndNothingElse(t *testing.T) {
	f := shoptest.Open(t)
	db, owner := f.Shop.Store.Read(t.Context()), f.People[shop.Owner]
	var ids []uint
	for id := range uint(200) {
		ids = append(ids, id+1)
	}
	heads, err := db.HeadsOf(ids)
	require.NoError(t, err)
	require.Greater(t, len(heads), 10)
	want := map[following.Suspicion]map[string]int{}
	touch := func(by string, what any, tag string) {
		q := following.Suspicion{By: by, What: fmt.Sprint(what)}
		if want[q] == nil {
			want[q] = map[string]int{}
		}
		want[q][tag]++
	}
	for _, h := range heads {
		file := f.File(t, h.Tag)
		readings, err := db.Readings(h.ID, 0)
		require.NoError(t, err)
		for _, r := range readings {
			touch(following.ByTool, r.ToolID, h.Tag)
		}
		for _, o := range file.Operations {
			if o.StartedAt != nil {
				touch(following.ByWork, o.Code, h.Tag)
			}
		}
		touch(following.BySheet, h.SheetID, h.Tag)
	}
	kinds := map[string]int{}
	for q, tags := range want {
		got, err := following.Touched(t.Context(), f.Shop, owner, q)
		require.NoError(t, err, "%v", q)
		found := map[string]int{}
		for i, h := range got.Heads {
			found[h.Tag] = h.Count
			assert.Equal(t, i < got.Gone(), h.Left(), "who has left comes first")
			assert.False(t, h.First.After(h.Last), "%v %s", q, h.Tag)
		}
		assert.Equal(t, tags, found, "%v", q)
		assert.False(t, got.More)
		assert.NotEmpty(t, got.Name)
		kinds[q.By]++
	}
	assert.Greater(t, kinds[following.ByTool], 5)
	assert.Greater(t, kinds[following.ByWork], 5)
	assert.Greater(t, kinds[following.BySheet], 3)
}

// TestARecallOfAPartAndATime: what an item was used for, between two days, both included.
func TestARecallOfAPartAndATime(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	head, err := f.Shop.Store.Read(ctx).Head("T0414")
	require.NoError(t, err)
	days := []time.Time{time.Date(2031, 5, 3, 9, 0, 0, 0, time.Local), time.Date(2031, 5, 5, 23, 30, 0, 0, time.Local)}
	require.NoError(t, f.Shop.Store.Write(ctx, func(tx store.DB) error {
		for _, at := range days {
			for _, kind := range []string{"use", "reserve"} {
				m := store.Movement{ItemID: 1, Count: -1, Kind: kind, HeadID: head.ID, PersonID: owner.ID, At: at.UTC()}
				if err := tx.Add(&m); err != nil {
					return err
				}
			}
		}
		return nil
	}))
	for _, x := range []struct {
		from, to string
		count    int
	}{
		{"", "2031-05-02", 0}, {"2031-05-03", "2031-05-03", 1}, {"2031-05-03", "2031-05-05", 2},
		{"2031-05-04", "2031-05-05", 1},
		{"2031-05-06", "", 0},
	} {
		r, err := following.Touched(ctx, f.Shop, owner,
			following.Suspicion{By: following.ByPart, What: "1", From: x.from, To: x.to})
		require.NoError(t, err)
		n := 0
		for _, h := range r.Heads {
			if h.Tag == "T0414" {
				n = h.Count
			}
		}
		assert.Equal(t, x.count, n, "%v", x)
	}
}

// TestARecallIsActedOn: reminders and letters for those that were ticked, once; who has no address is named.
func TestARecallIsActedOn(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	tool := following.Suspicion{By: following.ByTool, What: "1"}
	r, err := following.Touched(ctx, f.Shop, owner, tool)
	require.NoError(t, err)
	require.Greater(t, len(r.Heads), 3)
	with, without := "", ""
	for _, h := range r.Heads {
		if h.Job.Customer.Email != "" {
			with = h.Tag
		} else {
			without = h.Tag
		}
	}
	require.NotEmpty(t, without)
	if with == "" {
		with = r.Heads[0].Tag
		if with == without {
			with = r.Heads[1].Tag
		}
		c := f.File(t, with).Job.Customer
		c.Email = "somebody@tarn.invalid"
		require.NoError(t, f.Shop.Store.Write(ctx, func(tx store.DB) error { return tx.ChangeCustomer(c) }))
		if f.File(t, without).Job.CustomerID == c.ID {
			i := slices.IndexFunc(r.Heads, func(h following.TouchedHead) bool { return h.Job.CustomerID != c.ID })
			without = r.Heads[i].Tag
		}
	}
	form := following.RecallForm{
		Suspicion: tool, WriteID: shoptest.ID(), Tags: []string{with, without, "T9999"}, Day: "2031-05-20",
		What: "read the guides again", Letter: "Good day {customer}, your {machine}, our tag {tag}: please call us.",
	}
	for range 2 { // sent twice it is done once
		tocall, err := following.Call(ctx, f.Shop, owner, form)
		require.NoError(t, err)
		assert.Equal(t, []string{without}, tocall)
	}
	due, err := following.FollowUps(ctx, f.Shop)
	require.NoError(t, err)
	var tags []string
	for _, d := range due {
		if d.What == form.What {
			tags = append(tags, d.Tag)
		}
	}
	assert.ElementsMatch(t, []string{with, without}, tags)
	mails, err := following.Mails(ctx, f.Shop)
	require.NoError(t, err)
	mails = slices.DeleteFunc(mails, func(m store.Mail) bool { return !strings.Contains(m.Body, "please call us") })
	require.Len(t, mails, 1)
	to := f.File(t, with).Job
	assert.Equal(t, "Good day "+to.Customer.Name+", your "+to.Machine.Name+", our tag "+with+": please call us.\n",
		mails[0].Body)
}

// TestWhoMayRecall and what is wrong with a form.
func TestWhoMayRecall(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	_, err := following.Touched(ctx, f.Shop, f.People[shop.Technician],
		following.Suspicion{By: following.ByTool, What: "1"})
	require.Error(t, err)
	_, err = following.Call(ctx, f.Shop, f.People[shop.Counter], following.RecallForm{WriteID: shoptest.ID()})
	require.Error(t, err)
	for key, q := range map[string]following.Suspicion{
		"what": {By: "moon", What: "1"}, "from": {By: following.ByTool, What: "1", From: "soon"},
		"to": {By: following.ByTool, What: "1", To: "2031-13-01"},
	} {
		_, err := following.Touched(ctx, f.Shop, owner, q)
		var errs field.Errors
		require.ErrorAs(t, err, &errs, key)
		assert.Contains(t, errs, key)
	}
	for by, what := range map[string]string{
		following.ByTool: "99999", following.ByPart: "x", following.ByWork: "fly", following.BySheet: "",
	} {
		_, err := following.Touched(ctx, f.Shop, owner, following.Suspicion{By: by, What: what})
		var errs field.Errors
		require.ErrorAs(t, err, &errs, by)
		assert.Contains(t, errs, "what", by)
	}
	for key, form := range map[string]following.RecallForm{
		"tags":       {What: "look", Day: "2031-05-20"},
		"what_to_do": {Tags: []string{"T0401"}},
		"day":        {Tags: []string{"T0401"}, What: "look"},
		"letter":     {Tags: []string{"T0401"}, Letter: "Good day {name}"},
	} {
		form.WriteID, form.Suspicion = shoptest.ID(), following.Suspicion{By: following.ByTool, What: "1"}
		_, err := following.Call(ctx, f.Shop, owner, form)
		var errs field.Errors
		require.ErrorAs(t, err, &errs, key)
		assert.Contains(t, errs, key)
	}
	all, err := following.AllSuspects(ctx, f.Shop)
	require.NoError(t, err)
	assert.NotEmpty(t, all.Sheets[0].Model)
}
