package experience_test

import (
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/bill"
	"yatai/core/head"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/billing"
	"yatai/shop/experience"
	"yatai/shop/library"
	"yatai/store"
)

func known(t *testing.T, f *shoptest.Fixture) experience.Known {
	t.Helper()
	k, err := experience.Of(t.Context(), f.Shop, f.People[shop.Owner])
	require.NoError(t, err)
	return k
}

func proposals(t *testing.T, f *shoptest.Fixture) []experience.Proposal {
	t.Helper()
	p, err := experience.Proposals(t.Context(), f.Shop, f.People[shop.Owner])
	require.NoError(t, err)
	return p
}

// proposal is the one with that key.
func proposal(t *testing.T, f *shoptest.Fixture, key string) (experience.Proposal, bool) {
	t.Helper()
	for _, p := range proposals(t, f) {
		if p.Key == key {
			return p, true
		}
	}
	return experience.Proposal{}, false
}

func add(t *testing.T, f *shoptest.Fixture, rows ...any) {
	t.Helper()
	require.NoError(t, f.Store.Write(t.Context(), func(tx store.DB) error {
		for _, r := range rows {
			if err := tx.Add(r); err != nil {
				return err
			}
		}
		return nil
	}))
}

func TestOnlyWhoLeadsSeesIt(t *testing.T) {
	f := shoptest.Open(t)
	for role, sees := range map[string]bool{
		shop.Owner: true, shop.Lead: true, shop.Technician: false, shop.Counter: false,
	} {
		_, err := experience.Of(t.Context(), f.Shop, f.People[role])
		_, err2 := experience.Proposals(t.Context(), f.Shop, f.People[role])
		assert.Equal(t, sees, err == nil, role)
		assert.Equal(t, sees, err2 == nil, role)
	}
}

// TestTheLastWordOnACauseCounts: what was ruled out and then confirmed is confirmed, and names its head.
func TestTheLastWordOnACauseCounts(t *testing.T) {
	f := shoptest.Open(t)
	left := f.File(t, "T0408")
	require.NotNil(t, left.ClosedAt)
	call := func(cause, state string) *store.CauseCall {
		return &store.CauseCall{HeadID: left.ID, Cause: cause, State: state, PersonID: 1, At: f.Now()}
	}
	add(t, f, call("bent", "ruled out"), call("bent", "confirmed"), call("gasket", "confirmed"),
		call("gasket", "ruled out"), call("grit", "suspected"))
	got := map[string][2][]string{}
	for _, c := range known(t, f).Causes {
		got[c.Code] = [2][]string{c.Confirmed, c.Ruled}
	}
	assert.Equal(t, [2][]string{{"T0408"}, nil}, got["bent"])
	assert.Equal(t, [2][]string{nil, {"T0408"}}, got["gasket"])
	assert.NotContains(t, got, "grit")
}

// TestWhatCameBackIsOfTheEarlierVisitsWork: the comeback's own work came back no time, and what it is charged to
// is told.
func TestWhatCameBackIsOfTheEarlierVisitsWork(t *testing.T) {
	f := shoptest.Open(t)
	back := f.File(t, "T0406")
	require.Equal(t, head.Comeback, back.Job.Kind)
	require.NotEmpty(t, back.Earlier)
	earlier := f.File(t, back.Earlier)
	op := ""
	for _, o := range earlier.Operations {
		if k := trade.OperationNamed(o.Code); o.State == head.Done && !k.Always && !k.Inspect {
			op = o.Code
		}
	}
	require.NotEmpty(t, op)
	repair := func() experience.Repair {
		for _, r := range known(t, f).Repairs {
			if r.Code == op {
				return r
			}
		}
		return experience.Repair{}
	}
	r := repair()
	assert.Contains(t, r.Heads, earlier.Tag)
	assert.Equal(t, []string{earlier.Tag}, r.Back)
	assert.InDelta(t, 1/float64(len(r.Heads)), r.Share(), 1e-9)
	assert.Empty(t, r.Charged)
	add(t, f, &store.Quote{
		HeadID: back.ID, Version: 99, Kind: "quote", ChargedTo: "Work: " + strings.ToUpper(r.Name), PersonID: 1, At: f.Now(),
	})
	assert.Equal(t, []string{earlier.Tag}, repair().Charged, "however it was written")
}

func TestWorkIsToldByPersonWithItsMoney(t *testing.T) {
	f := shoptest.Open(t)
	require.NoError(t, f.SetSettings(t.Context(), f.People[shop.Owner], shoptest.ID(), map[string]string{"rate": "60.00"}, nil))
	work := known(t, f).Work
	require.NotEmpty(t, work)
	for _, w := range work {
		assert.NotEmpty(t, w.Person)
		assert.NotEmpty(t, w.Heads)
		assert.LessOrEqual(t, len(w.Heads), w.Times)
		assert.Equal(t, int64(w.Took)*100, w.TookCents, "at 60 an hour a minute is 1")
		assert.Equal(t, int64(w.Planned)*100, w.PlannedCents)
		assert.InDelta(t, float64(w.Took)/float64(w.Planned), w.Share(), 1e-9)
	}
}

// TestWhatWasQuotedAndBilledIsOfTheBillsThatStand: the lines of the heads' own bills and their quotes, what is
// given taken off; a bill that is credited counts for nothing.
func TestWhatWasQuotedAndBilledIsOfTheBillsThatStand(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	var work experience.Work
	for _, w := range known(t, f).Work {
		if len(w.Billed) > len(work.Billed) {
			work = w
		}
	}
	require.Greater(t, len(work.Billed), 3)
	assert.Subset(t, work.Heads, work.Billed)
	var quoted, billed int64
	for _, tag := range work.Billed {
		file := f.File(t, tag)
		quotes, err := f.Shop.Store.Read(ctx).Quotes(file.ID)
		require.NoError(t, err)
		bills, err := f.Shop.Store.Read(ctx).Bills(file.ID)
		require.NoError(t, err)
		for _, b := range bills {
			for _, l := range b.Lines {
				for _, q := range quotes {
					if q.Version != l.Quote || q.Lines[l.Line-1].Code != work.Code || b.Of(l) != file.ID {
						continue
					}
					require.Equal(t, l.Line, q.Lines[l.Line-1].Seq)
					billed += l.Cents
					if l.Kind == string(bill.Done) {
						quoted += q.Lines[l.Line-1].Cents()
					}
				}
			}
		}
	}
	assert.Equal(t, []int64{quoted, billed}, []int64{work.QuotedCents, work.BilledCents})
	assert.Positive(t, billed)

	tag := work.Billed[0]
	bills, err := f.Shop.Store.Read(ctx).Bills(f.File(t, tag).ID)
	require.NoError(t, err)
	require.Len(t, bills, 1)
	given := bills[0].Lines[0]
	for _, l := range bills[0].Lines {
		if l.Line > 0 {
			given = l
		}
	}
	priced := func() (quoted, billed int64) {
		rows, err := f.Shop.Store.Read(ctx).Priced([]uint{bills[0].HeadID})
		require.NoError(t, err)
		for _, r := range rows {
			quoted, billed = quoted+r.Quoted, billed+r.Billed
		}
		return quoted, billed
	}
	q, b := priced()
	add(t, f, &store.BillLine{
		BillID: bills[0].ID, HeadID: given.HeadID, Seq: 99, Kind: string(bill.Goodwill), Quote: given.Quote, Line: given.Line,
		Name: given.Name, Cents: -100,
	})
	nowQuoted, nowBilled := priced()
	assert.Equal(t, []int64{q, b - 100}, []int64{nowQuoted, nowBilled}, "what is given was quoted all the same")
	require.NoError(t, billing.Credit(ctx, f.Shop, owner, shoptest.ID(), tag, bills[0].Number, "wrong head"))
	nowQuoted, nowBilled = priced()
	assert.Zero(t, nowQuoted)
	assert.Zero(t, nowBilled)
}

// TestAReadingChangedSomethingThroughWhatIsMadeOfIt: a bore is no finding by itself, its clearance is.
func TestAReadingChangedSomethingThroughWhatIsMadeOfIt(t *testing.T) {
	f := shoptest.Open(t)
	left := f.File(t, "T0408")
	require.NotEmpty(t, left.Readings)
	changed := func(code string) []string {
		f.Shop.Cache.Done.Purge() // of a head that has left nothing changes: here it does
		for _, r := range known(t, f).Readings {
			if r.Code == code {
				return r.Changed
			}
		}
		return nil
	}
	decide := func(feature, choice string) *store.Decision {
		return &store.Decision{HeadID: left.ID, Feature: feature, Choice: choice, PersonID: 1, At: f.Now()}
	}
	before := changed("guide.bore")
	add(t, f, decide("guide.clearance@1E1", trade.Leave), decide("seat.width@1E1", "seat_cut"))
	assert.Equal(t, before, changed("guide.bore"), "what is left changed nothing")
	assert.Contains(t, changed("seat.width"), "T0408")
	add(t, f, decide("guide.clearance@1I1", "guide_new"))
	assert.Contains(t, changed("guide.bore"), "T0408")
	assert.Contains(t, changed("stem.dia"), "T0408")
	assert.NotContains(t, changed("lash"), "T0408")
	add(t, f, decide("face.line/long", "face"))
	assert.Contains(t, changed("face.line"), "T0408", "of the head's own too")
}

func TestToolsThatDriftComeFirst(t *testing.T) {
	f := shoptest.Open(t)
	tools := known(t, f).Tools
	require.NotEmpty(t, tools)
	assert.Positive(t, len(tools[0].Signs)+tools[0].Failed, "the demo's bore gauge drifts, and one was dropped")
	quiet := false
	for _, x := range tools {
		sign := len(x.Signs)+x.Failed > 0
		assert.False(t, quiet && sign, "%s shows a sign and stands behind one that shows none", x.Name)
		quiet = quiet || !sign
		assert.Positive(t, x.Checks)
	}
}

// TestNearZonesComeFromWhatMoves: taken, a new version of the sheet has it, and it is proposed no more.
func TestNearZonesComeFromWhatMoves(t *testing.T) {
	f := shoptest.Open(t)
	var near experience.Proposal
	for _, p := range proposals(t, f) {
		if p.Kind == experience.Near && strings.HasSuffix(p.Key, "valve.recession/exhaust") {
			near = p
		}
	}
	require.NotEmpty(t, near.Key, "three machines came back four times each")
	owner := f.People[shop.Owner]
	require.ErrorIs(t, experience.Take(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), near.Key, near.Proposes()),
		shop.ErrForbidden)
	require.ErrorIs(t, experience.Take(t.Context(), f.Shop, owner, shoptest.ID(), near.Key, "1"), shop.ErrStale,
		"not what was read")
	models, err := library.Models(t.Context(), f.Shop)
	require.NoError(t, err)
	sheet := func() store.Limit {
		m, err := library.ModelOf(t.Context(), f.Shop, models[0].ID)
		require.NoError(t, err)
		for _, l := range m.Sheet.Limits {
			if l.Kind == head.Service && l.Characteristic == "valve.recession" && l.Role == "exhaust" {
				return l
			}
		}
		return store.Limit{}
	}
	before := sheet()
	id := shoptest.ID()
	require.NoError(t, experience.Take(t.Context(), f.Shop, owner, id, near.Key, near.Proposes()))
	require.NoError(t, experience.Take(t.Context(), f.Shop, owner, id, near.Key, near.Proposes()), "sent twice")
	after := sheet()
	assert.NotEqual(t, before.Near, after.Near)
	assert.Equal(t, near.New, trade.Characteristic{}.UnitFor(owner.Unit).Usual(after.Near))
	before.Near, before.ID, before.SheetID = after.Near, after.ID, after.SheetID
	assert.Equal(t, before, after, "nothing else of the line changed")
	_, again := proposal(t, f, near.Key)
	assert.False(t, again)
}

func TestWhatIsLeftStaysAwayUntilItProposesSomethingElse(t *testing.T) {
	f := shoptest.Open(t)
	all := proposals(t, f)
	require.NotEmpty(t, all)
	p, owner := all[0], f.People[shop.Owner]
	require.NoError(t, experience.Leave(t.Context(), f.Shop, owner, shoptest.ID(), p.Key, p.Proposes()))
	_, there := proposal(t, f, p.Key)
	assert.False(t, there)
	require.NoError(t, f.Store.Write(t.Context(), func(tx store.DB) error {
		return tx.LeaveProposal(store.LeftProposal{Key: p.Key, Proposed: "something else", PersonID: 1, At: f.Now()})
	}))
	_, there = proposal(t, f, p.Key)
	assert.True(t, there)
}

// TestALeastIsWhatIsUsedUntilMoreCome: 40 in a year with ten days to come is 1.10 on average, and 1.65 times its
// root on top: 3.
func TestALeastIsWhatIsUsedUntilMoreCome(t *testing.T) {
	f := shoptest.Open(t)
	item := store.StockItem{Kind: "valve seal", Name: "a seal of the test", LeadDays: 10, PriceCents: 100}
	add(t, f, &item)
	key := "least." + strconv.Itoa(int(item.ID))
	use := func(heads int) {
		for n := range heads {
			add(t, f, &store.Movement{
				ItemID: item.ID, Count: -2, Kind: "use", HeadID: uint(n + 1), PersonID: 1, At: f.Now().Add(-time.Hour),
			})
		}
	}
	use(19)
	_, there := proposal(t, f, key)
	assert.False(t, there, "nineteen heads say too little")
	add(t, f, &store.Movement{
		ItemID: item.ID, Count: -2, Kind: "use", HeadID: 20, PersonID: 1, At: f.Now().Add(-time.Hour),
	})
	p, there := proposal(t, f, key)
	require.True(t, there)
	assert.Equal(t, "3", p.New)
	require.NoError(t, experience.Take(t.Context(), f.Shop, f.People[shop.Owner], shoptest.ID(), key, p.Proposes()))
	kept, err := f.Store.Read(t.Context()).StockItem(item.ID)
	require.NoError(t, err)
	assert.Equal(t, 3, kept.Least)
	_, there = proposal(t, f, key)
	assert.False(t, there)
}

// TestMinutesAreProposedByWhatWorkTook: done twenty times in half as long again, an operation is proposed half as
// long again, once and at each place.
func TestMinutesAreProposedByWhatWorkTook(t *testing.T) {
	f := shoptest.Open(t)
	code := ""
	for _, o := range trade.Operations() {
		if !slices.ContainsFunc(known(t, f).Work, func(w experience.Work) bool { return w.Code == o.Code }) {
			code = o.Code
		}
	}
	require.NotEmpty(t, code, "one that the demo never did")
	require.NoError(t, library.SetLabour(t.Context(), f.Shop, f.People[shop.Owner], shoptest.ID(),
		map[string]string{trade.MinutesOf + code: "20+10"}))
	file := f.File(t, "T0408")
	day := f.Now().AddDate(0, 0, -7)
	for day.Weekday() == time.Saturday || day.Weekday() == time.Sunday {
		day = day.AddDate(0, 0, -1)
	}
	at := time.Date(day.Year(), day.Month(), day.Day(), 10, 0, 0, 0, time.Local)
	seq := 100
	did := func() {
		seq++
		ends := at.Add(90 * time.Minute)
		o := store.Operation{
			HeadID: file.ID, Seq: seq, Code: code, Positions: "1I1 1E1 2I1 2E1", Minutes: 60, State: head.Done,
			StartedAt: &at, FinishedAt: &ends,
		}
		add(t, f, &o)
		add(t, f, &store.Stint{OperationID: o.ID, PersonID: 1, StartedAt: at, EndedAt: &ends})
	}
	for range 19 {
		did()
	}
	_, there := proposal(t, f, trade.MinutesOf+code)
	assert.False(t, there)
	did()
	p, there := proposal(t, f, trade.MinutesOf+code)
	require.True(t, there)
	assert.Equal(t, []string{"20+10", "30+15"}, []string{p.Now, p.New})
	require.NoError(t, experience.Take(t.Context(), f.Shop, f.People[shop.Owner], shoptest.ID(), p.Key, p.Proposes()))
	set, err := f.Settings(t.Context(), "")
	require.NoError(t, err)
	assert.Equal(t, "30+15", set.Get(p.Key))
	_, there = proposal(t, f, p.Key)
	assert.False(t, there, "what was planned by the figures of before says nothing of those of now")
}
