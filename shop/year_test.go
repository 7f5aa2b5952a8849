package shop_test

import (
	"errors"
	"fmt"
	"maps"
	"math/rand/v2"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/internal/sample"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/billing"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/quoting"
	"yatai/shop/week"
	"yatai/shop/work"
	"yatai/store"
)

// year is a shop driven for a year with a clock of its own: what fails, is refused, corrected or comes back
// is drawn by its seed.
type year struct {
	*shoptest.Fixture
	t   *testing.T
	r   *rand.Rand
	now time.Time

	front, tech, chief shop.Actor
	drawn              map[string]int // how often what happened
	ended              map[string]int // in how many forms a head left from each state that was met
}

// pass lets time go by, to a working hour.
func (y *year) pass(d time.Duration) {
	y.now = y.now.Add(d)
	for y.now.Weekday() == time.Saturday || y.now.Weekday() == time.Sunday || y.now.Hour() < 8 || y.now.Hour() >= 15 {
		y.now = y.now.Add(time.Hour)
	}
	y.Shop = y.At(y.now)
}

// happens draws whether something happens, and counts it.
func (y *year) happens(what string, percent int) bool {
	if y.r.IntN(100) >= percent {
		return false
	}
	y.drawn[what]++
	return true
}

// TestAShopsYear drives heads of every model through the ways there are, good and bad, and reads the file
// afterwards: nothing is stuck, stock and money add up, and every head's story holds together.
func TestAShopsYear(t *testing.T) {
	f := shoptest.Open(t)
	y := &year{
		Fixture: f, t: t, r: rand.New(rand.NewPCG(68, 2031)), now: time.Date(2031, 1, 6, 8, 0, 0, 0, time.Local),
		drawn: map[string]int{}, ended: map[string]int{},
		front: f.People[shop.Counter], tech: f.People[shop.Technician], chief: f.People[shop.Lead],
	}
	models, err := f.Shop.Store.Read(t.Context()).Models()
	require.NoError(t, err)
	models = slices.DeleteFunc(models, func(m store.HeadModel) bool { return m.RetiredAt != nil })
	kinds := []string{"rebuild", "rebuild", "failed", "comeback", "rules", "bought-in", "core"}
	var tags []string
	for n := range sample.Times(6, 68) {
		y.pass(time.Duration(1+y.r.IntN(96)) * time.Hour)
		tag, err := intake.TakeIn(t.Context(), y.Shop, y.front, intake.IntakeForm{
			WriteID: shoptest.ID(), Customer: fmt.Sprint("Customer ", y.r.IntN(9)), Machine: fmt.Sprint("Machine ", y.r.IntN(3)),
			Model: strconv.FormatUint(uint64(models[n%len(models)].ID), 10), Kind: kinds[y.r.IntN(len(kinds))],
			Marks: fmt.Sprint("M", n),
		})
		require.NoError(t, err)
		tags = append(tags, tag)
		y.drive(tag)
	}
	t.Log(y.drawn)
	t.Log(y.ended)
	require.Greater(t, len(y.ended), sample.Times(3, 36)-1)
	for _, tag := range tags {
		y.story(tag)
	}
	y.stock(tags)
	y.minutes(tags)
	y.money(tags)
}

// money bills every head that has left, some in two bills or credited once, and pays: nothing that was said
// yes to and done is forgotten, nothing is billed twice, and bills and payments meet.
func (y *year) money(tags []string) {
	ctx := y.t.Context()
	account := func(tag string) billing.Account { return must(billing.AccountOf(ctx, y.Shop, y.File(y.t, tag), nil)) }
	issue := func(tag string) {
		prices := map[string]string{}
		for _, r := range account(tag).Rows {
			if r.Follows() {
				prices[r.Key()] = "2.00"
			}
		}
		form := billing.IssueForm{WriteID: shoptest.ID(), Prices: prices}
		require.NoError(y.t, billing.Issue(ctx, y.Shop, y.front, tag, form), tag)
	}
	var billed, paid int64
	for _, tag := range tags {
		if len(account(tag).Next) > 0 {
			issue(tag)
			if y.happens("credited", 20) {
				was := account(tag)
				require.NoError(
					y.t, billing.Credit(ctx, y.Shop, y.front, shoptest.ID(), tag, was.Bills[0].Number, "drawn by chance"), tag,
				)
				issue(tag)
				require.Equal(y.t, was.Billed(), account(tag).Billed(), tag)
			}
		}
		acc := account(tag)
		require.Empty(y.t, acc.Next, "%s: left to bill", tag)
		for _, r := range acc.Rows {
			require.Equal(y.t, r.Approved && r.Done, r.Billed != "", "%s: %s", tag, r.Name)
		}
		if open := acc.Open(); open > 0 {
			require.NoError(y.t, billing.Pay(ctx, y.Shop, y.front, tag,
				billing.PayForm{WriteID: shoptest.ID(), Sum: shop.Cash(open), How: "card"}), tag)
		}
		acc = account(tag)
		require.Zero(y.t, acc.Open(), tag)
		billed, paid = billed+acc.Billed(), paid+acc.Paid()
	}
	require.Positive(y.t, billed)
	require.Equal(y.t, billed, paid)
	for _, o := range must(y.Shop.Store.Read(ctx).Owed(100)) {
		require.NotContains(y.t, tags, o.Tag, "what the demo's own heads owe is not the year's")
	}
}

// drive takes a head from the counter to its end.
func (y *year) drive(tag string) {
	if y.happens("taken in wrongly", 10) {
		c := intake.Correction{IntakeForm: intake.FormOf(y.File(y.t, tag))}
		c.WriteID, c.Customer, c.Story = shoptest.ID(), "Somebody else", "told again"
		require.NoError(y.t, intake.Correct(y.t.Context(), y.Shop, y.front, tag, c), tag)
	}
	steps := []func(string) bool{y.measured, y.decided, y.quoted, y.ordered, y.worked, y.proven}
	for _, step := range steps {
		if y.happens("taken back", 3) {
			y.end(tag, "withdrawn")
			return
		}
		y.pass(time.Hour)
		if !step(tag) {
			return
		}
		y.near(tag, "")
	}
	require.NoError(y.t, work.HandOver(y.t.Context(), y.Shop, y.front, shoptest.ID(), tag, "its owner"), tag)
}

// near takes a copy of the shop, where a state is met for the first time, and sends the head back in it: in two
// forms of the counter's, some five presses, whatever it waits for. It is on nobody's list then, and nothing is
// put by for it.
func (y *year) near(tag, what string) {
	y.t.Helper()
	f := y.File(y.t, tag)
	state := f.Job.Kind
	for _, s := range f.Steps() {
		state += " " + s.State
	}
	if what != "" {
		state = what
	}
	if y.ended[state] > 0 {
		return
	}
	ctx, to := y.t.Context(), filepath.Join(y.t.TempDir(), "copy.db")
	require.NoError(y.t, y.Store.Backup(ctx, to))
	st, err := store.Open(to)
	require.NoError(y.t, err)
	defer func() { _ = st.Close() }()
	s, now := shop.New(st, time.Now), y.now
	s = s.At(now)
	forms := 0
	if f.ClosedAt == nil {
		form := work.EndForm{
			WriteID: shoptest.ID(), Kind: "withdrawn", State: "in parts in a box", Why: "the customer wants it back",
		}
		require.NoError(y.t, work.EndHead(ctx, s, y.front, tag, form), "%s %s", tag, state)
		forms++
	}
	require.NoError(y.t, work.HandOver(ctx, s, y.front, shoptest.ID(), tag, "its owner"), "%s %s", tag, state)
	y.ended[state] = forms + 1
	w, err := week.Reckon(ctx, s)
	require.NoError(y.t, err)
	assert.NotContains(y.t, shoptest.Tags(w), tag, state)
	left, err := headfile.Open(ctx, s, tag)
	require.NoError(y.t, err)
	for _, o := range left.Operations {
		assert.Contains(y.t, []string{"done", "skipped"}, o.State, "%s: %s", state, o.Code)
	}
	reserved, err := st.Read(ctx).ReservedBy(left.ID)
	require.NoError(y.t, err)
	for item, n := range reserved {
		assert.Zero(y.t, n, "%s: item %d", state, item)
	}
}

// end sends a head back without its work.
func (y *year) end(tag, how string) {
	y.t.Helper()
	require.NoError(y.t, work.EndHead(y.t.Context(), y.Shop, y.front, tag, work.EndForm{
		WriteID: shoptest.ID(), Kind: how, State: "in a box", Why: "drawn", Owed: "20.00",
	}), tag)
	require.NoError(y.t, work.HandOver(y.t.Context(), y.Shop, y.front, shoptest.ID(), tag, "its owner"), tag)
}

// measured reads the head and sees what may be wrong with it.
func (y *year) measured(tag string) bool {
	y.ReadAll(y.t, tag, headfile.AsReceived, true)
	for _, v := range y.File(y.t, tag).Layout.Valves {
		for part, grade := range map[string]string{
			"valve.face": "heavy_pits", "seat.condition": "light_pits", "stem.condition": "bent",
		} {
			if y.r.IntN(100) < 6 {
				require.NoError(y.t, bench.Grade(y.t.Context(), y.Shop, y.tech, shoptest.ID(), tag, part, headfile.AsReceived,
					map[string]string{v.ID: grade}, nil))
			}
		}
	}
	return true
}

// decided decides every finding: by the plan where there is one, by its usual answer, or to leave it.
func (y *year) decided(tag string) bool {
	ctx := y.t.Context()
	if y.happens("not worth mending", 5) {
		y.end(tag, "scrapped")
		return false
	}
	if p := y.PlanOf(y.t, tag, headfile.PlanAsk{}); p.Feasible && !y.File(y.t, tag).Subject.Inspection() {
		require.NoError(y.t, lead.KeepPlan(ctx, y.Shop, y.chief, shoptest.ID(), tag, headfile.PlanAsk{}), tag)
	}
	file, choices := y.File(y.t, tag), map[string]lead.Choice{}
	for _, x := range file.Received.Findings() {
		if _, done := file.Decision(x.Key()); !done {
			choices[x.Key()] = lead.Choice{Choice: trade.Leave, Reason: "the customer knows"}
		}
	}
	require.NoError(y.t, lead.Decide(ctx, y.Shop, y.chief, shoptest.ID(), tag, choices, headfile.PlanAsk{}), tag)
	return true
}

// quoted writes a quote and takes the customer's answer: yes, no, or a call first.
func (y *year) quoted(tag string) bool {
	ctx := y.t.Context()
	draft := quoting.Draft{}
	if y.happens("goodwill", 12) {
		draft.Goodwill = quoting.Goodwill{
			Percent: []string{"100", "50"}[y.r.IntN(2)], Why: "ours", ChargedTo: "work: cut seats",
		}
	}
	if y.happens("own parts", 12) {
		draft.Theirs = []string{trade.ValvePart.Code}
	}
	version, err := quoting.MakeQuote(ctx, y.Shop, y.front, shoptest.ID(), tag, draft)
	require.NoError(y.t, err, tag)
	say := func(a quoting.Answer) error {
		a.Name = "its owner"
		return quoting.ApproveVerbally(ctx, y.Shop, y.front, shoptest.ID(), tag, version, a, "by telephone")
	}
	if y.happens("call", 20) {
		require.NoError(y.t, say(quoting.Answer{Call: true}))
	}
	if y.happens("refused", 15) {
		require.NoError(y.t, say(quoting.Answer{No: true}))
		if y.happens("and yes after all", 40) {
			version, err = quoting.MakeQuote(ctx, y.Shop, y.front, shoptest.ID(), tag, quoting.Draft{})
			require.NoError(y.t, err, tag)
		} else {
			y.end(tag, "refused")
			assert.Error(y.t, say(quoting.Answer{Must: true}), "it is answered and gone")
			return false
		}
	}
	require.NoError(y.t, say(quoting.Answer{Must: true}), tag)
	return true
}

// ordered orders the work; an inspection may become a rebuild after all.
func (y *year) ordered(tag string) bool {
	ctx := y.t.Context()
	require.NoError(y.t, lead.OrderWork(ctx, y.Shop, y.chief, shoptest.ID(), tag), tag)
	if y.File(y.t, tag).Subject.Inspection() && y.happens("mended after all", 30) {
		c := intake.Correction{IntakeForm: intake.FormOf(y.File(y.t, tag))}
		c.WriteID, c.Kind = shoptest.ID(), "rebuild"
		require.NoError(y.t, intake.Correct(ctx, y.Shop, y.front, tag, c), tag)
		if !y.decided(tag) {
			return false
		}
		y.ApproveOnce(y.t, tag)
		require.NoError(y.t, lead.OrderWork(ctx, y.Shop, y.chief, shoptest.ID(), tag), tag)
	}
	return true
}

// worked does the route: some tests fail, are done again, and what they found is mended.
func (y *year) worked(tag string) bool {
	ctx := y.t.Context()
	for range 200 {
		y.ApproveOnce(y.t, tag)
		o, any := y.next(tag)
		if !any {
			return true
		}
		if y.now.Hour() >= 13 { // nothing is begun shortly before closing time
			y.pass(12 * time.Hour)
		}
		require.NoError(y.t, work.Start(ctx, y.Shop, y.tech, shoptest.ID(), tag, o.Seq, work.Pauses), "%s %s", tag, o.Code)
		y.near(tag, "running "+o.Code)
		y.pass(time.Duration(10+y.r.IntN(50)) * time.Minute)
		if o.Code == trade.PressureTest.Code && y.happens("a leak", 25) {
			leaks := shoptest.Passing(o.Code)
			leaks["leaks"] = "1"
			require.NoError(y.t, bench.RecordWork(ctx, y.Shop, y.tech, shoptest.ID(), tag, o.Seq,
				map[string]map[string]string{"": leaks}))
			require.NoError(y.t, work.Finish(ctx, y.Shop, y.tech, shoptest.ID(), tag, o.Seq, "", ""), tag)
			y.near(tag, "failed "+o.Code)
			mark := bench.MarkForm{WriteID: shoptest.ID(), Grade: "leak", Stage: headfile.AfterRepair, X: "60", Y: "40"}
			require.NoError(y.t, bench.Mark(ctx, y.Shop, y.tech, tag, mark), tag)
			y.near(tag, "found after "+o.Code)
			for _, x := range work.Found(y.File(y.t, tag)) {
				choice, why := trade.Leave, "it is outside"
				if r := y.File(y.t, tag).Now.Usual(x); r != nil {
					choice = r.Code
				}
				require.NoError(y.t, work.Rework(ctx, y.Shop, y.chief, shoptest.ID(), tag, x.Key(), choice, why), "%s %s", tag,
					x.Key())
			}
			continue
		}
		y.Record(y.t, tag, o)
		err := work.Finish(ctx, y.Shop, y.tech, shoptest.ID(), tag, o.Seq, "", "")
		if errs := (field.Errors{}); errors.As(err, &errs) && strings.Contains(err.Error(), "by the stock") {
			y.drawn["parts from elsewhere"]++
			err = work.Finish(ctx, y.Shop, y.tech, shoptest.ID(), tag, o.Seq, "", "the supplier's van")
		}
		require.NoError(y.t, err, "%s %s", tag, o.Code)
	}
	require.Fail(y.t, "a route without an end", tag)
	return false
}

// next is the next operation that can be started.
func (y *year) next(tag string) (store.Operation, bool) {
	f := y.File(y.t, tag)
	waiting := 0
	for _, o := range f.Operations {
		if o.State == "waiting" {
			if waiting++; f.Waits(o) == nil {
				return o, true
			}
		}
	}
	require.Zero(y.t, waiting, "%s: something waits for ever", tag)
	return store.Operation{}, false
}

// proven reads what was worked on again, mends what was seen, signs what stays, and passes the check.
func (y *year) proven(tag string) bool {
	ctx := y.t.Context()
	y.ReadAll(y.t, tag, headfile.AfterRepair, true)
	y.MendAll(y.t, tag)
	for _, l := range y.File(y.t, tag).Open() {
		if l.Tool != 0 {
			require.NoError(y.t, bench.Release(ctx, y.Shop, y.chief, shoptest.ID(), tag, l.Tool, "read with another since"))
		} else {
			require.NotEmpty(y.t, l.Feature, "%s: nobody can settle %s (%s)", tag, l.What, l.Why)
			require.NoError(y.t, work.SignDeviation(ctx, y.Shop, y.chief, shoptest.ID(), tag, l.Feature, "the customer knows"),
				"%s %s", tag, l.Feature)
		}
	}
	require.NoError(y.t, work.CloseHead(ctx, y.Shop, y.chief, tag, work.CloseForm{WriteID: shoptest.ID()}), tag)
	return true
}

// story holds a head's file against what it tells: it has left, nothing of it goes on, its history begins
// and ends, and what was approved is what its lines come to.
func (y *year) story(tag string) {
	f := y.File(y.t, tag)
	require.NotNil(y.t, f.HandedOverAt, "%s is stuck", tag)
	for _, o := range f.Operations {
		assert.Contains(y.t, []string{"done", "skipped"}, o.State, "%s %s", tag, o.Code)
		if o.State == "done" && assert.NotNil(y.t, o.StartedAt) && assert.NotNil(y.t, o.FinishedAt) {
			assert.False(y.t, o.FinishedAt.Before(*o.StartedAt), "%s %s", tag, o.Code)
			assert.False(y.t, o.StartedAt.Before(f.CreatedAt), "%s %s", tag, o.Code)
		}
	}
	events, err := y.Shop.Store.Read(y.t.Context()).Events(f.ID)
	require.NoError(y.t, err)
	slices.SortFunc(events, func(a, b store.Event) int { return int(a.ID) - int(b.ID) })
	assert.Equal(y.t, "taken in", events[0].What, tag)
	assert.Equal(y.t, "handed over", events[len(events)-1].What, tag)
	for i := range len(events) - 1 {
		assert.False(y.t, events[i+1].At.Before(events[i].At), "%s: %s before %s", tag, events[i+1].What, events[i].What)
	}
	for _, q := range f.Approved.Quotes {
		if q.Approval == nil {
			continue
		}
		var labour, parts int64
		for _, l := range q.Lines {
			if q.Answers[l.Seq] {
				labour, parts = labour+l.LabourCents, parts+l.PartsCents
			}
			assert.GreaterOrEqual(y.t, l.Cents(), int64(0), tag)
		}
		sum := q.Totals()
		assert.Equal(y.t, labour+parts, sum.Net, tag)
		assert.Equal(y.t, sum.Net-sum.Discount+sum.Minimum+sum.Tax, sum.Gross, tag)
		if q.GoodwillPPM == 1_000_000 {
			assert.Zero(y.t, q.Totals(headfile.Must).Net-of(q, headfile.Should, headfile.Could), tag)
		}
	}
	for _, r := range must(y.Shop.Store.Read(y.t.Context()).Reminders()) {
		if r.HeadID == f.ID {
			assert.NotContains(y.t, r.What, "call ", "%s: an answer ends a call", tag)
			assert.Empty(y.t, f.Ended, "%s: nobody is reminded of a head that went back", tag)
		}
	}
}

// of is what a quote's approved lines of some groups come to.
func of(q headfile.QuotePage, groups ...string) (cents int64) {
	for _, l := range q.Lines {
		if q.Answers[l.Seq] && slices.Contains(groups, l.Grp) {
			cents += l.Cents()
		}
	}
	return cents
}

func must[T any](v T, err error) T {
	if err != nil {
		panic(err)
	}
	return v
}

// stock adds every movement up: what is there was never less than nothing, and nothing is set aside for a
// head that has left.
func (y *year) stock(tags []string) {
	db := y.Shop.Store.Read(y.t.Context())
	moves, err := db.Movements()
	require.NoError(y.t, err)
	there := map[uint]int{}
	for _, m := range moves {
		if m.Kind != "reserve" {
			there[m.ItemID] += m.Count
			assert.GreaterOrEqual(y.t, there[m.ItemID], 0, "item %d after movement %d", m.ItemID, m.ID)
		}
	}
	count, _, err := db.StockCounts()
	require.NoError(y.t, err)
	for id, n := range there {
		assert.Equal(y.t, n, count[id], "item %d", id)
	}
	for _, tag := range tags {
		left := must(db.ReservedBy(y.File(y.t, tag).ID))
		maps.DeleteFunc(left, func(_ uint, n int) bool { return n == 0 })
		assert.Empty(y.t, left, tag)
	}
}

// minutes: a person is at one thing at a time, and nobody is at anything any more.
func (y *year) minutes(tags []string) {
	var all []store.Stint
	for _, tag := range tags {
		all = append(all, y.File(y.t, tag).Stints...)
	}
	slices.SortFunc(all, func(a, b store.Stint) int { return a.StartedAt.Compare(b.StartedAt) })
	until := map[uint]time.Time{}
	for _, st := range all {
		if assert.NotNil(y.t, st.EndedAt, "stint %d", st.ID) {
			assert.False(y.t, st.StartedAt.Before(until[st.PersonID]), "stint %d", st.ID)
			assert.Less(y.t, st.EndedAt.Sub(st.StartedAt), 12*time.Hour, "stint %d", st.ID)
			until[st.PersonID] = *st.EndedAt
		}
	}
}
