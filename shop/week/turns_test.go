package week

import (
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// TestEveryOrderOfUrgencyIsKept puts heads into every order there is: sorted by the
// urgencies that come of it they stand in that order, and one who is in turn needs none.
func TestEveryOrderOfUrgencyIsKept(t *testing.T) {
	heads := []store.Head{{ID: 1}, {ID: 2}, {ID: 3}, {ID: 4}, {ID: 5}}
	tried := 0
	var permute func(done, left []store.Head)
	permute = func(done, left []store.Head) {
		if len(left) == 0 {
			tried++
			us := urgencies(done)
			for i := range done {
				for k := i + 1; k < len(done); k++ {
					before := us[i] > us[k] || us[i] == us[k] && inTurn(done[i], done[k]) < 0
					require.True(t, before, "%v: %v", done, us)
				}
			}
			return
		}
		for i := range left {
			rest := append(append([]store.Head{}, left[:i]...), left[i+1:]...)
			permute(append(append([]store.Head{}, done...), left[i]), rest)
		}
	}
	permute(nil, heads)
	assert.Equal(t, 120, tried)
	assert.Equal(t, []int{0, 0, 0, 0, 0}, urgencies(heads))
	assert.Equal(t, []int{1, 0, 0, 0, 0}, urgencies([]store.Head{heads[4], heads[0], heads[1], heads[2], heads[3]}))
}

func TestMinutesLearntAreKeptWithinReason(t *testing.T) {
	for _, c := range []struct {
		m       Learnt
		planned quantity.Minutes
		want    quantity.Minutes
	}{
		{Learnt{Times: 2, Planned: 100, Actual: 900}, 60, 60}, // too few to say
		{Learnt{Times: 3, Planned: 100, Actual: 110}, 60, 66},
		{Learnt{Times: 9, Planned: 100, Actual: 900}, 60, 180}, // three times as much at most
		{Learnt{Times: 9, Planned: 100, Actual: 1}, 60, 30},    // half at least
		{Learnt{Times: 9}, 60, 60},
		{Learnt{}, 0, 0},
	} {
		assert.Equal(t, c.want, c.m.reckon(c.planned), "%+v", c.m)
	}
}

func FuzzParseCents(f *testing.F) {
	for _, s := range []string{"12.50", "1,250.00", "1250,5", "0", ".5", "-1", "1.234", "9999999999999"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		c, err := shop.ParseCents(text)
		if err != nil {
			return
		}
		back, err := shop.ParseCents(shop.Cash(c))
		require.NoError(t, err, "%q as %q", text, shop.Cash(c))
		assert.Equal(t, c, back)
		assert.GreaterOrEqual(t, c, int64(0))
	})
}

// TestAnOperationWaitsForTheLaterOfPartAndAnswer orders work nobody has approved yet, with
// seals four days away: whichever comes last is what the assembly waits for. Of a head that is offered an
// earlier day the answer is there when the offer ends, if it usually takes longer.
func TestAnOperationWaitsForTheLaterOfPartAndAnswer(t *testing.T) {
	now := time.Date(2031, 3, 3, 9, 0, 0, 0, time.Local)
	in := func(days int) time.Time { return now.AddDate(0, 0, days) }
	h := store.Head{
		ID: 1, Tag: "T1", WorkOrderAt: &now,
		Model: store.HeadModel{ID: 1, Layout: `{"valves":[{"id":"1I1","cylinder":1,"role":"intake"}]}`},
	}
	ops := []store.Operation{{
		Seq: 1, Code: "wash", Minutes: 40, State: "waiting",
	}, {Seq: 2, Code: "assemble", Positions: "1I1", Minutes: 20, State: "waiting"}}
	for _, c := range []struct {
		usual, offered int // days to an answer, and until the offer ends; 0: none is made
		waits          string
		ready, hold    time.Time
	}{
		{2, 0, "part", in(price.UsualLead), time.Time{}},
		{6, 0, "approval", in(6), time.Time{}},
		{6, 1, "part", in(price.UsualLead), in(1)},
		{6, 5, "part", in(price.UsualLead), in(5)},
		{6, 7, "approval", in(6), time.Time{}},
	} {
		q := question{
			s: shop.New(nil, time.Now), now: now,
			set:   shop.SettingsFor(map[string]string{"answer_days": strconv.Itoa(c.usual)}, ""),
			stock: headfile.Stock{Items: []store.StockItem{{ID: 7, Kind: "seal", Name: "Seal"}}, Count: map[uint]int{}},
		}
		if c.offered > 0 {
			q.offered, q.held = "T1", in(c.offered)
		}
		tasks, known, err := q.tasks(h, ops, nil)
		require.NoError(t, err)
		assert.True(t, known)
		require.Len(t, tasks, 2)
		assert.Zero(t, tasks[0].Ready, "washing waits for nobody")
		assert.Zero(t, tasks[0].Hold, "nor for an offer")
		assert.Equal(t, c.waits, tasks[1].For, "%+v", c)
		assert.Equal(t, c.ready, tasks[1].Ready, "%+v", c)
		assert.Equal(t, c.hold, tasks[1].Hold, "%+v", c)
	}
}
