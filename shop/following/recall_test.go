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
	"yatai/shop/work"
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
		for _, r := range readings {
			touch(following.ByPerson, r.PersonID, h.Tag)
		}
		for _, x := range file.Findings {
			touch(following.ByPerson, x.PersonID, h.Tag)
		}
		for _, x := range file.Stints {
			touch(following.ByPerson, x.PersonID, h.Tag)
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
	assert.Positive(t, kinds[following.ByPerson])
}

// TestARecallOfADelivery: the heads its item was used for from when it came until none was left for the first
// time, both included; a set-aside changes nothing, and a delivery that was refused is none.
func TestARecallOfADelivery(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	item := store.StockItem{Kind: "valve", Name: "a valve of its own"}
	day := func(n int) *time.Time { at := time.Date(2031, 3, n, 12, 0, 0, 0, time.UTC); return &at }
	orders := []store.PartOrder{
		{Count: 4, ReceivedAt: day(4), OK: true}, {Count: 2, ReceivedAt: day(9), OK: true},
		{Count: 8, ReceivedAt: day(8)}, {Count: 8},
	}
	require.NoError(t, f.Shop.Store.Write(ctx, func(tx store.DB) error {
		if err := tx.Add(&item); err != nil {
			return err
		}
		for i := range orders {
			orders[i].ItemID, orders[i].PersonID, orders[i].Due, orders[i].At = item.ID, owner.ID, *day(1), *day(1)
			if err := tx.Add(&orders[i]); err != nil {
				return err
			}
		}
		for _, m := range []store.Movement{
			{Count: 1, Kind: "count", At: *day(2)}, {Count: -1, Kind: "use", HeadID: 1, At: *day(3)},
			{Count: 4, Kind: "receipt", At: *day(4)}, {Count: -2, Kind: "use", HeadID: 2, At: *day(5)},
			{Count: -9, Kind: "reserve", HeadID: 9, At: *day(6)},
			{Count: -2, Kind: "use", HeadID: 3, At: *day(7)}, {Count: 2, Kind: "receipt", At: *day(9)},
			{Count: -1, Kind: "use", HeadID: 4, At: *day(10)},
		} {
			m.ItemID, m.PersonID = item.ID, owner.ID
			if err := tx.Add(&m); err != nil {
				return err
			}
		}
		return nil
	}))
	touched := func(q following.Suspicion) (ids []uint) {
		r, err := following.Touched(ctx, f.Shop, owner, q)
		require.NoError(t, err)
		for _, h := range r.Heads {
			ids = append(ids, h.ID)
		}
		slices.Sort(ids)
		return ids
	}
	lot := func(i int) following.Suspicion {
		return following.Suspicion{By: following.ByLot, What: fmt.Sprint(orders[i].ID)}
	}
	assert.Equal(t, []uint{2, 3}, touched(lot(0)))
	assert.Equal(t, []uint{4}, touched(lot(1)), "some are left: it goes on")
	from := lot(0)
	from.From = "2031-03-06"
	assert.Equal(t, []uint{3}, touched(from))
	for _, i := range []int{2, 3} {
		_, err := following.Touched(ctx, f.Shop, owner, lot(i))
		var errs field.Errors
		require.ErrorAs(t, err, &errs)
		assert.Contains(t, errs, "what")
	}
	all, err := following.AllSuspects(ctx, f.Shop)
	require.NoError(t, err)
	named := map[uint]bool{}
	for _, l := range all.Lots {
		named[l.ID] = true
	}
	assert.Equal(t, []bool{true, true, false, false},
		[]bool{named[orders[0].ID], named[orders[1].ID], named[orders[2].ID], named[orders[3].ID]})
}

// TestARecallOfACutter: the heads somebody wrote it down for, however it was spelt; what was begun alone has one.
func TestARecallOfACutter(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech, owner := t.Context(), f.People[shop.Technician], f.People[shop.Owner]
	var done, waits store.Operation
	for id := range uint(40) {
		heads, err := f.Shop.Store.Read(ctx).HeadsOf([]uint{id + 1})
		require.NoError(t, err)
		if len(heads) == 0 {
			continue
		}
		file := f.File(t, heads[0].Tag)
		if file.ClosedAt != nil {
			continue
		}
		for _, o := range file.Operations {
			if o.StartedAt != nil && done.ID == 0 {
				done = o
			} else if o.StartedAt == nil && o.HeadID == done.HeadID {
				waits = o
			}
		}
	}
	require.NotZero(t, waits.ID)
	file, err := f.Shop.Store.Read(ctx).HeadsOf([]uint{done.HeadID})
	require.NoError(t, err)
	tag := file[0].Tag
	with := func(seq int, said string) error {
		return work.WithSetUp(ctx, f.Shop, tech, shoptest.ID(), tag, seq, said)
	}
	require.NoError(t, with(done.Seq, "  cutter  C3 "))
	require.NoError(t, with(done.Seq, "Cutter c3"))
	require.NoError(t, with(done.Seq, "mill, 400 rpm"))
	var errs field.Errors
	require.ErrorAs(t, with(done.Seq, "  "), &errs)
	require.ErrorAs(t, with(done.Seq, strings.Repeat("x", 101)), &errs)
	require.ErrorAs(t, with(waits.Seq, "cutter C3"), &errs)
	r, err := following.Touched(ctx, f.Shop, owner, following.Suspicion{By: following.BySetUp, What: "CUTTER C3"})
	require.NoError(t, err)
	require.Len(t, r.Heads, 1)
	assert.Equal(t, tag, r.Heads[0].Tag)
	assert.Equal(t, 2, r.Heads[0].Count)
	all, err := following.AllSuspects(ctx, f.Shop)
	require.NoError(t, err)
	assert.Len(t, all.SetUps, 2)
	assert.Equal(t, "mill, 400 rpm", all.SetUps[0], "the newest first")
	sheet, err := work.SheetOf(ctx, f.Shop, f.File(t, tag), done.Seq)
	require.NoError(t, err)
	assert.Len(t, sheet.SetUps, 3)
	assert.Equal(t, all.SetUps, sheet.Usual)
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
func TestARecallPutsATestOnTheRoutes(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	tool := following.Suspicion{By: following.ByTool, What: "1"}
	r, err := following.Touched(ctx, f.Shop, owner, tool)
	require.NoError(t, err)
	var worked, left string
	for _, h := range r.Heads {
		file := f.File(t, h.Tag)
		switch {
		case h.Left():
			left = h.Tag
		case file.WorkOrderAt != nil && file.ClosedAt == nil:
			worked = h.Tag
		}
	}
	require.NotEmpty(t, worked)
	require.NotEmpty(t, left)
	form := following.RecallForm{Suspicion: tool, Tags: []string{worked, left}, Retest: "measure"}
	tests := func() (n int) {
		for _, o := range f.File(t, worked).Operations {
			if o.Code == "measure" && o.State == "waiting" {
				assert.Contains(t, o.Added, r.Name+" may have been wrong")
				n++
			}
		}
		return n
	}
	require.Zero(t, tests())
	form.WriteID = shoptest.ID()
	for range 2 { // sent twice it is done once
		_, err = following.Call(ctx, f.Shop, owner, form)
		require.NoError(t, err)
		assert.Equal(t, 1, tests())
	}
	var errs field.Errors
	for _, c := range []struct {
		tags   []string
		retest string
	}{{[]string{worked}, "measure"}, {[]string{left}, "seal_test"}, {[]string{worked}, "face"}} {
		_, err = following.Call(ctx, f.Shop, owner, following.RecallForm{
			Suspicion: tool, WriteID: shoptest.ID(), Tags: c.tags, Retest: c.retest,
		})
		require.ErrorAs(t, err, &errs, c)
		assert.Contains(t, errs, "retest", c)
	}
	assert.Equal(t, 1, tests())
}

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
