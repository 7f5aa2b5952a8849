package quoting_test

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/following"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/quoting"
	"yatai/shop/work"
	"yatai/store"
)

func TestQuoteExplainsItselfAndAddsUp(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	_, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{})
	assert.ErrorContains(t, err, "without a decision")
	_, err = quoting.MakeQuote(ctx, f.Shop, f.People[shop.Technician], shoptest.ID(), "T0401", quoting.Draft{})
	assert.ErrorIs(t, err, shop.ErrForbidden)
	f.Mended(t, "T0401")
	v, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{})
	require.NoError(t, err)
	assert.Equal(t, 1, v)
	q := f.File(t, "T0401").Approved.Quotes[0]
	var net int64
	guides := 0
	for _, l := range q.Lines {
		net += l.Cents()
		assert.NotEmpty(t, l.Reason, l.Name)
		if l.Code == "guide_new" && l.Grp == headfile.Must {
			guides++
			assert.Equal(t, "1E1 3E1", l.Positions)
			assert.Contains(t, l.Reason, "1E1 guide clearance")
			assert.Contains(t, l.Reason, "allowed 0.04 to 0.095 mm")
			assert.Equal(t, (int64(l.Minutes)*5800+30)/60, l.LabourCents)
			assert.Equal(t, int64(2*1420), l.PartsCents)
		}
	}
	assert.Equal(t, 1, guides)
	tot := q.Totals()
	assert.Equal(t, net, tot.Net)
	assert.Equal(t, (tot.Net-tot.Discount+tot.Minimum+2)/5, tot.Tax, "a fifth, to the cent, halves up")
	assert.Equal(t, tot.Net-tot.Discount+tot.Minimum+tot.Tax, tot.Gross)
	assert.NotEmpty(t, q.Group(headfile.Should), "what is near its limit")
	assert.Less(t, q.Totals(headfile.Must).Gross, tot.Gross)
}

// TestCustomerAnswersOnce sends a quote, answers it by its link, declines a line, and finds
// the work that follows.
func TestCustomerAnswersOnce(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front, chief, tech := t.Context(), f.People[shop.Counter], f.People[shop.Lead], f.People[shop.Technician]
	f.Mended(t, "T0401")
	v, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{})
	require.NoError(t, err)
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), "T0401"))
	ops := f.File(t, "T0401").Operations
	var errs field.Errors
	for _, o := range ops[:2] { // washing and testing find out what it needs: nobody has to approve them
		require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), "T0401", o.Seq, work.Pauses))
		f.Record(t, "T0401", o)
		require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), "T0401", o.Seq, "", ""))
	}
	require.ErrorAs(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), "T0401", 3, work.Pauses), &errs)
	assert.Contains(t, errs.Message("op/3"), "not approved anything yet")

	require.NoError(t, send(t, f, v, "by radio, channel 12"))
	mails, err := following.Mails(ctx, f.Shop)
	require.NoError(t, err)
	at := strings.Index(mails[0].Body, "/q/") + 3
	token := strings.Fields(mails[0].Body[at:])[0]
	assert.GreaterOrEqual(t, len(token), 26, "128 bits and more")
	_, err = quoting.QuotesByToken(ctx, f.Shop, token[:len(token)-1]+"x")
	assert.ErrorIs(t, err, shop.ErrNotFound)
	found, err := quoting.QuotesByToken(ctx, f.Shop, token)
	require.NoError(t, err)
	q := found[0].Q
	require.NoError(t, quoting.Approve(ctx, f.Shop, shoptest.ID(), token, quoting.Answer{Name: "M. Field", Call: true}))
	due, err := following.FollowUps(ctx, f.Shop)
	require.NoError(t, err)
	assert.Contains(t, due[len(due)-1].What+due[0].What, "call M. Field about quote 1")
	yes := quoting.Answer{
		Name: "M. Field", Must: true, Yes: []quoting.Line{{Tag: "T0401", Seq: q.Group(headfile.Should)[0].Seq}},
	}
	require.NoError(t, quoting.Approve(ctx, f.Shop, shoptest.ID(), token, yes))
	assert.ErrorContains(t, quoting.Approve(ctx, f.Shop, shoptest.ID(), token, quoting.Answer{Name: "M. Field", No: true}),
		"frozen")
	require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), "T0401", 3, work.Pauses))

	// found more: what is not covered needs a supplement
	require.NoError(
		t, work.AddOperation(ctx, f.Shop, chief, shoptest.ID(), "T0401", "thread_insert", "", "plug thread pulled"),
	)
	seqOf := shoptest.Seq(f.File(t, "T0401").Operations, "thread_insert")
	assert.Positive(t, seqOf)
	v2, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{Note: "one thread more"})
	require.NoError(t, err)
	more := f.File(t, "T0401").Approved.Quotes[v2-1]
	assert.Equal(t, "supplement", more.Kind)
	require.Len(t, more.Lines, 1)
	assert.Equal(t, "thread_insert", more.Lines[0].Code)
	_, err = quoting.MakeQuote(ctx, f.Shop, f.People[shop.Technician], shoptest.ID(), "T0401", quoting.Draft{})
	assert.Error(t, err)
}

func TestDeclinedLineIsLeftOutAndSaid(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief := t.Context(), f.People[shop.Lead]
	f.Mended(t, "T0401")
	f.Approve(t, "T0401", quoting.Answer{Name: "the grower", No: true})
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), "T0401"))
	for _, o := range f.File(t, "T0401").Operations {
		assert.Equal(t, "skipped", o.State, o.Code)
		assert.Equal(t, "declined by the grower", o.SkipReason)
	}
}

func TestQuoteExpires(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	f.Mended(t, "T0401")
	v, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{})
	require.NoError(t, err)
	require.NoError(t, send(t, f, v, "x"))
	mails, err := following.Mails(ctx, f.Shop)
	require.NoError(t, err)
	token := strings.Fields(mails[0].Body[strings.Index(mails[0].Body, "/q/")+3:])[0]
	late := f.At(f.Now().AddDate(0, 0, 22))
	_, err = quoting.QuotesByToken(ctx, late, token)
	assert.Equal(t, "T0401", asEnded(t, err).Tag)
	newer, err := quoting.MakeQuote(ctx, late, front, shoptest.ID(), "T0401", quoting.Draft{})
	require.NoError(t, err)
	_, err = quoting.QuotesByToken(ctx, late, token)
	asEnded(t, err)
	require.NoError(t, quoting.SendQuote(ctx, late, front, "T0401",
		quoting.SendForm{WriteID: shoptest.ID(), Version: newer, To: "x", Follow: true}))
	found, err := quoting.QuotesByToken(ctx, late, token)
	require.NoError(t, err, "an old link leads to the newer quote once that is sent")
	assert.Equal(t, newer, found[0].Q.Version)
	require.NoError(t, send(t, f, v, "x"))
	_, err = quoting.QuotesByToken(ctx, f.Shop, token)
	assert.NoError(t, err, "sent again to the same customer: the older link leads on")
	require.NoError(t, send(t, f, v, "somebody else"))
	_, err = quoting.QuotesByToken(ctx, f.Shop, token)
	assert.Equal(t, "T0401", asEnded(t, err).Tag,
		"sent to somebody else: the older link opens nothing, and says whose it is")
	_, err = quoting.QuotesByToken(ctx, f.Shop, strings.Repeat("A", 26))
	assert.ErrorIs(t, err, shop.ErrNotFound)
}

// send sends a version of the quote of T0401.
func send(t *testing.T, f *shoptest.Fixture, version int, to string) error {
	t.Helper()
	return quoting.SendQuote(t.Context(), f.Shop, f.People[shop.Counter], "T0401", quoting.SendForm{
		WriteID: shoptest.ID(), Version: version, To: to, Here: "http://shop.example", Follow: true,
	})
}

func asEnded(t *testing.T, err error) quoting.Ended {
	t.Helper()
	var ended quoting.Ended
	require.ErrorAs(t, err, &ended)
	return ended
}

// TestANewYesAfterARefusalPaysTheLeastCharge: a refused quote was no quote, so what comes after it is no
// supplement.
func TestANewYesAfterARefusalPaysTheLeastCharge(t *testing.T) {
	f := shoptest.Open(t)
	f.Mended(t, "T0401")
	f.Approve(t, "T0401", quoting.Answer{Name: "the grower", No: true})
	v := f.Approve(t, "T0401", quoting.Answer{Name: "the grower", Must: true})
	q := f.File(t, "T0401").Approved.Quotes[v-1]
	assert.Equal(t, "quote", q.Kind)
	assert.Equal(t, f.File(t, "T0401").Approved.Quotes[0].MinimumCents, q.MinimumCents)
	assert.Positive(t, q.MinimumCents)
}

// TestAPriceThatIsNotKnownStopsTheQuote until somebody says that it follows; the totals have nothing for it
// and say so.
func TestAPriceThatIsNotKnownStopsTheQuote(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	f.Mended(t, "T0401")
	require.NoError(t, f.Shop.Store.Write(ctx, func(tx store.DB) error {
		items, err := tx.StockItems()
		for _, it := range items {
			if it.PriceCents = 0; err == nil {
				err = tx.ChangeStock(it)
			}
		}
		return err
	}))
	v, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{})
	require.NoError(t, err)
	q := f.File(t, "T0401").Approved.Quotes[v-1]
	assert.Positive(t, q.Unpriced())
	form := quoting.SendForm{WriteID: shoptest.ID(), Version: v, To: "x", Here: "http://shop.example"}
	var errs field.Errors
	require.ErrorAs(t, quoting.SendQuote(ctx, f.Shop, front, "T0401", form), &errs)
	assert.Contains(t, errs, "follow")
	form.WriteID, form.Follow = shoptest.ID(), true
	require.NoError(t, quoting.SendQuote(ctx, f.Shop, front, "T0401", form))
	assert.True(t, f.File(t, "T0401").Approved.Quotes[v-1].Follow)
}

// TestTheCustomersOwnPartsCostNothing and none of them is set aside or ordered.
func TestTheCustomersOwnPartsCostNothing(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	f.Mended(t, "T0401")
	parts := func(q headfile.QuotePage) (cents int64, text string) {
		for _, l := range q.Lines {
			cents, text = cents+l.PartsCents, text+" "+l.Parts
		}
		return cents, text
	}
	v, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{})
	require.NoError(t, err)
	before, _ := parts(f.File(t, "T0401").Approved.Quotes[v-1])
	require.Positive(t, before)
	var all []string
	for _, k := range trade.PartKinds() {
		all = append(all, k.Code)
	}
	v, err = quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{Theirs: all})
	require.NoError(t, err)
	now := f.File(t, "T0401")
	after, text := parts(now.Approved.Quotes[v-1])
	assert.Zero(t, after)
	assert.Contains(t, text, "the customer's own")
	assert.Zero(t, now.Approved.Quotes[v-1].Unpriced())
	require.NoError(t, lead.OrderWork(ctx, f.Shop, f.People[shop.Lead], shoptest.ID(), "T0401"))
	reserved, err := f.Shop.Store.Read(ctx).ReservedBy(now.ID)
	require.NoError(t, err)
	assert.Empty(t, reserved)
}

// TestAComebackAtNoCharge costs nothing whatever it needs, says why and to what it is charged, and a part of
// goodwill leaves the rest of every line.
func TestAComebackAtNoCharge(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	f.Mended(t, "T0401")
	write := func(g quoting.Goodwill) headfile.QuotePage {
		t.Helper()
		v, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{Goodwill: g})
		require.NoError(t, err)
		return f.File(t, "T0401").Approved.Quotes[v-1]
	}
	whole := write(quoting.Goodwill{})
	half := write(quoting.Goodwill{Percent: "50", Why: "our cut was deep", ChargedTo: "work: cut seats"})
	none := write(quoting.Goodwill{Percent: "100", Why: "our cut was deep", ChargedTo: "work: cut seats"})
	for i, l := range whole.Lines {
		if l.Grp == headfile.Must {
			assert.Equal(t, l.LabourCents-(l.LabourCents+1)/2, half.Lines[i].LabourCents, l.Name)
			assert.Zero(t, none.Lines[i].Cents(), l.Name)
		} else {
			assert.Equal(t, l.Cents(), none.Lines[i].Cents(), l.Name)
		}
	}
	assert.Zero(t, none.Totals(headfile.Must).Gross, "the least charge neither")
	assert.Equal(t, "work: cut seats", none.ChargedTo)
	_, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401",
		quoting.Draft{Goodwill: quoting.Goodwill{Percent: "120"}})
	assert.ErrorContains(t, err, "from 0 to 100")
	_, err = quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401",
		quoting.Draft{Goodwill: quoting.Goodwill{Percent: "20"}})
	assert.ErrorContains(t, err, "say why")

	back := f.File(t, "T0406") // the demo's comeback
	earlier := f.File(t, back.Earlier)
	items, err := f.Store.Read(ctx).StockItems()
	require.NoError(t, err)
	taken := items[0]
	taken.Supplier = "Northfold Valves"
	require.NoError(t, f.Store.Write(ctx, func(tx store.DB) error {
		if err := tx.ChangeStock(taken); err != nil {
			return err
		}
		for days, count := range map[int]int{-400: 7, -2: 5, 3: 9} { // none was left of the first a year ago
			came := f.Now().AddDate(0, 0, days)
			o := store.PartOrder{ItemID: taken.ID, Count: count, Due: came, At: came, ReceivedAt: &came, OK: true, PersonID: 1}
			if err := tx.Add(&o); err != nil {
				return err
			}
		}
		for days, count := range map[int]int{-500: -10_000, -390: 9_990, 0: -1} {
			kind, head := "count", uint(0)
			if days == 0 {
				kind, head = "use", earlier.ID
			}
			if err := tx.Add(&store.Movement{
				ItemID: taken.ID, Count: count, Kind: kind, HeadID: head, PersonID: 1, At: f.Now().AddDate(0, 0, days),
			}); err != nil {
				return err
			}
		}
		return tx.Add(&store.SetUp{
			OperationID: earlier.Operations[0].ID, HeadID: earlier.ID, Code: "wash", Said: "washer B", PersonID: 1, At: f.Now(),
		})
	}))
	charges, err := quoting.Charges(ctx, f.Shop, back)
	require.NoError(t, err)
	for _, what := range []string{
		"work: final check", "part: " + taken.Name, "supplier: Northfold Valves", "reading: guide bore",
		"tool: Dial bore gauge on ring", "limit: guide clearance exhaust", "done with: washer B",
		fmt.Sprintf("delivery: %s, 5 of %s", taken.Name, f.Now().AddDate(0, 0, -2).Local().Format(time.DateOnly)),
	} {
		assert.Contains(t, charges, what)
	}
	for _, what := range charges {
		assert.NotContains(t, what, ", 9 of", "it came later")
		assert.NotContains(t, what, ", 7 of", "none was left of it")
	}
	unique := slices.Clone(charges)
	slices.Sort(unique)
	assert.Len(t, slices.Compact(unique), len(charges), "each once")
}

// TestACallIsOneCall: asked for three times it is one reminder, and an answer ends it.
func TestACallIsOneCall(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	f.Mended(t, "T0401")
	v, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{})
	require.NoError(t, err)
	calls := func() (n int) {
		due, err := f.Shop.Store.Read(ctx).Reminders()
		require.NoError(t, err)
		for _, r := range due {
			if strings.HasPrefix(r.What, "call ") && r.HeadID == f.File(t, "T0401").ID {
				n++
			}
		}
		return n
	}
	for range 3 {
		require.NoError(t, quoting.ApproveVerbally(ctx, f.Shop, front, shoptest.ID(), "T0401", v,
			quoting.Answer{Name: "M. Field", Call: true}, "by telephone"))
		assert.Equal(t, 1, calls())
	}
	require.NoError(t, quoting.ApproveVerbally(ctx, f.Shop, front, shoptest.ID(), "T0401", v,
		quoting.Answer{Name: "M. Field", Must: true}, "by telephone"))
	assert.Zero(t, calls())
}

// TestProofOutsideItsTargetStopsTheJob cuts a seat too deep for what is still to come.
func TestProofOutsideItsTargetStopsTheJob(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief, tech := t.Context(), f.People[shop.Lead], f.People[shop.Technician]
	f.Mended(t, "T0401")
	f.Approve(t, "T0401", quoting.Answer{Name: "the grower", Must: true})
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), "T0401"))
	for _, o := range f.File(t, "T0401").Operations {
		if o.Code == "seat_cut" {
			break
		}
		require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), "T0401", o.Seq, work.Pauses))
		f.Record(t, "T0401", o)
		require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), "T0401", o.Seq, "", ""))
	}
	n := shoptest.Seq(f.File(t, "T0401").Operations, "seat_cut")
	sh, err := work.SheetOf(ctx, f.Shop, f.File(t, "T0401"), n)
	require.NoError(t, err)
	assert.Contains(t, sh.Note.String(), "0.18 mm", "the face is still to be cut")
	var row work.SheetRow
	for _, r := range sh.Rows {
		if r.ID == "1E1" {
			row = r
		}
	}
	assert.Equal(t, "cut 0.06 mm", row.Do.String())
	require.NotNil(t, row.High)
	assert.Equal(t, "1.18 mm", row.High.Length().String(), "1.00 and the 0.18 still to come off")
	bridge := uint(0)
	for _, tool := range sh.Tools {
		bridge = tool.ID
	}
	require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), "T0401", n, work.Pauses))
	_, err = work.Prove(ctx, f.Shop, tech, shoptest.ID(), "T0401", n, bridge, map[string]string{"1E1": "x"}, "", false)
	assert.ErrorContains(t, err, "1E1:")
	held, err := work.Prove(ctx, f.Shop, tech, shoptest.ID(), "T0401", n, bridge,
		map[string]string{"1E1": "0.80", "3E1": "1.25"}, "", false)
	require.NoError(t, err)
	assert.True(t, held)
	o := f.File(t, "T0401").Operations[n-1]
	assert.Equal(t, "held", o.State)
	assert.Contains(t, o.Held, "3E1 reads 1.25, 0.07 mm over")
	assert.ErrorIs(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), "T0401", n, "", ""), shop.ErrStale)
	assert.ErrorIs(t, work.Resume(ctx, f.Shop, tech, shoptest.ID(), "T0401", n, "on"), shop.ErrForbidden)
	require.NoError(t, work.Resume(ctx, f.Shop, chief, shoptest.ID(), "T0401", n, "an insert next week"))
	require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), "T0401", n, "", ""))
	assert.False(t, strings.Contains(strings.Join(f.File(t, "T0401").Asked("valve.recession"), " "), "1E1"),
		"read since the cut was begun")
}

func TestRouteMovesWhereTheTradeAllows(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief := t.Context(), f.People[shop.Lead]
	f.Mended(t, "T0401")
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), "T0401"))
	ops := f.File(t, "T0401").Operations
	cut, face := shoptest.Seq(ops, "seat_cut"), shoptest.Seq(ops, "face")
	assert.ErrorContains(t, work.MoveUp(ctx, f.Shop, chief, shoptest.ID(), "T0401", cut), "guides before seats")
	for range face - cut {
		n := shoptest.Seq(f.File(t, "T0401").Operations, "face")
		require.NoError(t, work.MoveUp(ctx, f.Shop, chief, shoptest.ID(), "T0401", n))
	}
	ops = f.File(t, "T0401").Operations
	assert.Less(t, shoptest.Seq(ops, "face"), shoptest.Seq(ops, "seat_cut"), "a school, not a law")
	for i, o := range ops {
		assert.Equal(t, i+1, o.Seq)
	}
	assert.ErrorContains(t, work.MoveUp(ctx, f.Shop, chief, shoptest.ID(), "T0401", len(ops)), "final check last")
	assert.ErrorContains(t, work.AddOperation(ctx, f.Shop, chief, shoptest.ID(), "T0401", "lap", "9X9", "because"),
		"no position")
}

func TestRecordsAreJudged(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief, tech := t.Context(), f.People[shop.Lead], f.People[shop.Technician]
	f.Mended(t, "T0401")
	f.Approve(t, "T0401", quoting.Answer{Name: "x", Must: true})
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), "T0401"))
	require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), "T0401", 1, work.Pauses))
	require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), "T0401", 1, "", ""))
	require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), "T0401", 2, work.Pauses))
	bad := shoptest.Passing("pressure_test")
	bad["pressure"] = "hard"
	var errs field.Errors
	require.ErrorAs(t, bench.RecordWork(ctx, f.Shop, tech, shoptest.ID(), "T0401", 2,
		map[string]map[string]string{"": bad}), &errs)
	assert.Contains(t, errs, "rec//pressure")
	leaks := shoptest.Passing("pressure_test")
	leaks["leaks"] = "1"
	require.NoError(
		t, bench.RecordWork(ctx, f.Shop, tech, shoptest.ID(), "T0401", 2, map[string]map[string]string{"": leaks}),
	)
	assert.Equal(t, "held", f.File(t, "T0401").Operations[1].State)
	assert.Contains(t, f.File(t, "T0401").Operations[1].Held, "place them on the map")
}

// TestRegulatedWorkDemandsALicence tries to close the clinic's head.
func TestRegulatedWorkDemandsALicence(t *testing.T) {
	f := shoptest.Open(t)
	var errs field.Errors
	require.ErrorAs(t, work.CloseHead(t.Context(), f.Shop, f.People[shop.Lead], "T0415",
		work.CloseForm{WriteID: shoptest.ID()}), &errs)
	assert.Contains(t, errs, "releaser")
	assert.Contains(t, errs, "licence")
	for _, l := range f.File(t, "T0415").Open() {
		assert.NotEqual(t, "Limit sheet", l.What, "the Velderan sheet is confirmed")
	}
	found := false
	for _, l := range f.File(t, "T0415").Open() {
		found = found || strings.Contains(l.Why, "not what was ordered")
	}
	assert.True(t, found, "a new valve with a thicker stem does not pass")
}

func TestCalendarAndComeback(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	key, err := following.CalendarKey(ctx, f.Shop, front)
	require.NoError(t, err)
	text, err := following.Calendar(ctx, f.Shop, key)
	require.NoError(t, err)
	assert.Contains(t, text, "BEGIN:VCALENDAR")
	assert.Contains(t, text, "T0401 promised: Brindlow G4")
	assert.Contains(t, text, "Ostrel spring due T0414")
	assert.Contains(t, text, "T0408: lash and leaks after 50 hours")
	_, err = following.Calendar(ctx, f.Shop, "guess")
	assert.ErrorIs(t, err, shop.ErrNotFound)
	due, err := following.FollowUps(ctx, f.Shop)
	require.NoError(t, err)
	require.NotEmpty(t, due)
	require.NoError(t, following.Reminded(ctx, f.Shop, front, shoptest.ID(), due[0].ID))
	less, err := following.FollowUps(ctx, f.Shop)
	require.NoError(t, err)
	assert.Len(t, less, len(due)-1)
	assert.ErrorContains(t, following.Remind(ctx, f.Shop, front, shoptest.ID(), "T0401", "soon", ""), "day:")

	history, err := following.HistoryOf(ctx, f.Shop, f.File(t, "T0406"))
	require.NoError(t, err)
	assert.Equal(t, "T0408", history.Visits[0].Tag)
	assert.NotEmpty(t, history.Worn)
	assert.ErrorContains(t, intake.LinkEarlier(ctx, f.Shop, front, shoptest.ID(), "T0406", "T9999"), "no other head")
	assert.ErrorContains(t, intake.LinkEarlier(ctx, f.Shop, front, shoptest.ID(), "T0406", "T0402"),
		"that is a Velderan V8")
}

func TestMailGoesByItsServer(t *testing.T) {
	f := shoptest.Open(t)
	ctx := t.Context()
	sent := 0
	send := func(_ context.Context, server following.MailServer, to, _, body string) error {
		sent++
		assert.Equal(t, following.MailServer{
			Addr: "mail.shop:25", User: "counter", Password: "a secret", From: "shop@localhost",
		}, server)
		assert.Contains(t, body, "/q/")
		return nil
	}
	require.NoError(t, following.SendMails(ctx, f.Shop, send))
	assert.Zero(t, sent, "without a server it stays in the outbox")
	require.NoError(
		t,
		f.SetSettings(ctx, f.People[shop.Owner], shoptest.ID(),
			map[string]string{"smtp": "mail.shop:25", "smtp_user": "counter", "smtp_password": "a secret"}, nil),
	)
	require.NoError(t, f.SetSettings(ctx, f.People[shop.Owner], shoptest.ID(), map[string]string{"smtp_password": ""},
		nil), "an empty secret keeps the old one")
	require.NoError(t, following.SendMails(ctx, f.Shop, send))
	assert.Equal(t, 1, sent, "the demo's quote")
	require.NoError(t, following.SendMails(ctx, f.Shop, send))
	assert.Equal(t, 1, sent, "once")
	assert.ErrorContains(t, f.SetSettings(ctx, f.People[shop.Owner], shoptest.ID(),
		map[string]string{"rate": "much", "school.face": "up"}, nil), "school.face")
}

// TestASheetSaysWhereAndWithWhat looks at a sheet that no single reading proves: where the
// keepers go, what is taken from the shelf, and how tight they are pressed.
func TestASheetSaysWhereAndWithWhat(t *testing.T) {
	f := shoptest.Open(t)
	sheet := func() work.Sheet {
		file := f.File(t, "T0402")
		sh, err := work.SheetOf(t.Context(), f.Shop, file, shoptest.Seq(file.Operations, "keeper_new"))
		require.NoError(t, err)
		return sh
	}
	sh := sheet()
	assert.Empty(t, sh.Proof.Code)
	assert.Len(t, sh.Operation.At(), 16)
	assert.Equal(t, "16 x Keepers, pair", sh.Parts)
	assert.Empty(t, sh.Fit, "the sheet says nothing of the fit")
}

// TestLinesOfOurOwnAddUp quotes a head with lines in the shop's own words: they stand in their
// group and in the sum; mistyped ones are said by their line.
func TestLinesOfOurOwnAddUp(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	f.Mended(t, "T0401")
	total := func(v int) int64 {
		q, err := headfile.Quotes(f.Shop, f.Store.Read(ctx), f.File(t, "T0401").ID)
		require.NoError(t, err)
		return q[v-1].Totals(headfile.Must).Net
	}
	plain, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{})
	require.NoError(t, err)
	own, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401",
		quoting.Draft{Free: "Fetched and brought back = 35,00\n\ncould: Painted = 20"})
	require.NoError(t, err)
	assert.Equal(t, total(plain)+3500, total(own))
	for _, bad := range []string{"Fetched", "= 12", "Fetched = free", strings.Repeat("x = 1\n", 21)} {
		_, err := quoting.MakeQuote(ctx, f.Shop, front, shoptest.ID(), "T0401", quoting.Draft{Free: bad})
		assert.ErrorContains(t, err, "free", bad)
	}
}

// TestAYesIsWrittenDownWhileTheCustomerStandsThere: quote and answer are one step after the order, and the
// work may start.
func TestAYesIsWrittenDownWhileTheCustomerStandsThere(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	f.Mended(t, "T0401")
	require.NoError(t, lead.OrderWork(ctx, f.Shop, owner, shoptest.ID(), "T0401"))
	id := shoptest.ID()
	require.NoError(t, quoting.YesAtOnce(ctx, f.Shop, owner, id, "T0401", "the grower"))
	file := f.File(t, "T0401")
	require.Len(t, file.Approved.Quotes, 1)
	for _, o := range file.Operations {
		assert.Empty(t, file.Approved.Unapproved(o).Sentence, o.Code)
	}
	require.NoError(t, quoting.YesAtOnce(ctx, f.Shop, owner, id, "T0401", "the grower"), "sent twice")
	assert.Len(t, f.File(t, "T0401").Approved.Quotes, 1)
}
