package shop

import (
	"encoding/json"
	"fmt"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/plan"
	"yatai/core/practice"
	"yatai/core/quantity"
	"yatai/core/wear"
	"yatai/store"
)

// Cache keeps what is read with every page and never changes once it is written: readings,
// to which only later ones are added; the limits of a sheet, of which an edit makes a new
// version; and layouts by their text.
type Cache struct {
	readings *lru.Cache[uint, []store.Reading] // by head, oldest first
	growing  sync.Mutex                        // of readings
	limits   sync.Map                          // of []store.Limit, by the sheet's id
	layouts  sync.Map                          // of layout.Layout, by its text

	worked atomic.Pointer[lastWorked] // the operations done last

	Worn   *lru.Cache[string, []Worn]        // of heads that have left, by the tags of both visits
	Lasts  *lru.Cache[string, []Last]        // of heads that have left, by tag and those whose wear speaks
	Habits *lru.Cache[string, Habits]        // of models, by model and characteristic
	Plans  *lru.Cache[string, plan.Plan]     // by all that they are made from
	Scores *lru.Cache[uint, practice.Score]  // of practice heads that are open, by their id
	Done   *lru.Cache[uint, Done]            // of heads that have left, by their id
	Agreed *lru.Cache[store.Quoting, Agreed] // by how far the quoting of a head is
}

// cachedHeads is how many heads' readings are kept: more than are worked on at a time.
const cachedHeads = 128

// cachedSums is how many heads' sums are kept.
const cachedSums = 4096

func newCache() *Cache {
	return &Cache{
		readings: newest[uint, []store.Reading](cachedHeads), Plans: newest[string, plan.Plan](cachedHeads),
		Worn: newest[string, []Worn](cachedHeads), Lasts: newest[string, []Last](cachedHeads),
		Habits: newest[string, Habits](cachedHeads), Scores: newest[uint, practice.Score](cachedHeads),
		Done: newest[uint, Done](cachedHeads), Agreed: newest[store.Quoting, Agreed](cachedSums),
	}
}

// newest keeps what was asked for last.
func newest[K comparable, V any](n int) *lru.Cache[K, V] {
	c, err := lru.New[K, V](n)
	if err != nil {
		panic(err) // the size is positive
	}
	return c
}

// lastWorked is the operations done last, the newest first, and the stretches of work at them by operation.
type lastWorked struct {
	upTo   store.WorkedUpTo
	n      int
	ops    []store.Operation
	stints map[uint][]store.Stint
}

// LastWorked returns the operations done last, n at most, the newest first, and the stretches of work at them
// by operation. They are the cache's: nobody changes them.
func (k *Cache) LastWorked(db store.DB, n int) ([]store.Operation, map[uint][]store.Stint, error) {
	upTo, err := db.WorkedUpTo()
	if err != nil {
		return nil, nil, err
	}
	if was := k.worked.Load(); was != nil && was.upTo == upTo && was.n == n {
		return was.ops, was.stints, nil
	}
	w := lastWorked{upTo: upTo, n: n, stints: map[uint][]store.Stint{}}
	if w.ops, err = db.Worked(n); err != nil {
		return nil, nil, err
	}
	ids := make([]uint, len(w.ops))
	for i, o := range w.ops {
		ids[i] = o.ID
	}
	stints, err := db.Stints(ids...)
	if err != nil {
		return nil, nil, err
	}
	for _, st := range stints {
		w.stints[st.OperationID] = append(w.stints[st.OperationID], st)
	}
	if db.Settled() {
		k.worked.Store(&w)
	}
	return w.ops, w.stints, nil
}

// Habit is between what a figure of a model's heads was read, and in how many heads.
type Habit struct {
	Low, High quantity.Amount
	Heads     int
}

// Strange tells whether a reading is further from them all than five times what they lie apart, and ten
// times its own doubt: worn heads are read beside the others too, slips far off.
func (h Habit) Strange(at, doubt quantity.Amount) bool {
	apart := max(5*(h.High-h.Low), 10*doubt)
	return h.Heads > 0 && (at < h.Low-apart || at > h.High+apart)
}

// Habits are those of a model's valves by their role, and when they were looked up.
type Habits struct {
	At time.Time
	Of map[layout.Role]Habit
}

// Last is a figure that a head has left with, and how long it lasts at the rate of its visits.
type Last struct {
	judge.Feature            // as it left
	Early, Late   float64    // of what is counted, until one and until nine of ten are past its limit
	Run           string     // what is counted: h, or what the hours are given in
	By            *time.Time // the day of Early; nil where it is not known how much a day
}

// Done is what was read of a head, what was decided by it and what was done.
type Done struct {
	Read  map[string]int  // readings by characteristic
	Acted map[string]bool // codes of the features something was done because of
	Work  []string        // codes of operations, each once
}

// Agreed is what was approved of a head, in cents, and whether its customer has still to answer.
type Agreed struct {
	Cents   int64
	Waiting bool
}

// Worn is what a figure of a head did between its last visit and this one.
type Worn struct {
	Kind     string // characteristic and role: figures of one kind wear alike
	Position string
	Run      string       // what its hours are counted in: h, km, races
	Low      wear.Stretch // of the least that was read
	High     wear.Stretch // of the most
}

// HeadReadings returns the readings of a head that are wanted, all when want is nil, oldest
// first, without tools and people: the caller's own. Only those it does not know yet are
// asked for. want sees every reading in order.
func (k *Cache) HeadReadings(
	db store.DB, head uint, want func(*store.Reading) bool,
) ([]store.Reading, error) {
	all, _ := k.readings.Get(head)
	later, err := db.Readings(head, LastOf(all))
	if err != nil {
		return nil, err
	}
	if len(later) > 0 && db.Settled() {
		all, later = k.learn(head, all, later), nil
	}
	out := make([]store.Reading, 0, len(all)+len(later))
	for _, part := range [][]store.Reading{all, later} {
		for i := range part {
			if want == nil || want(&part[i]) {
				out = append(out, part[i])
			}
		}
	}
	return out, nil
}

// LastOf is the id of the newest of some readings, 0 for none.
func LastOf(readings []store.Reading) uint {
	if len(readings) == 0 {
		return 0
	}
	return readings[len(readings)-1].ID
}

// learn adds later readings of a head to what was known of it, but for those somebody else
// added meanwhile, and returns all. What is known only grows at its end, under the lock:
// who looks at it meanwhile sees a shorter list of the same.
func (k *Cache) learn(head uint, was, later []store.Reading) []store.Reading {
	k.growing.Lock()
	defer k.growing.Unlock()
	all, _ := k.readings.Get(head)
	if LastOf(all) < LastOf(was) { // forgotten meanwhile, to make room for other heads
		all = slices.Clip(was)
	}
	last := LastOf(all)
	for _, r := range later {
		if r.ID > last {
			all = append(all, r)
		}
	}
	k.readings.Add(head, all)
	return all
}

// SheetLimits returns the limits of a sheet that a head is judged by. They are shared: do
// not change them.
func (k *Cache) SheetLimits(db store.DB, sheet uint) ([]store.Limit, error) {
	if known, ok := k.limits.Load(sheet); ok {
		return known.([]store.Limit), nil
	}
	limits, err := db.Limits(sheet)
	if err == nil && db.Settled() {
		k.limits.Store(sheet, limits)
	}
	return limits, err
}

// Layout returns the layout of a model. It is shared: do not change it.
func (k *Cache) Layout(m store.HeadModel) (layout.Layout, error) {
	if known, ok := k.layouts.Load(m.Layout); ok {
		return known.(layout.Layout), nil
	}
	var l layout.Layout
	if err := json.Unmarshal([]byte(m.Layout), &l); err != nil {
		return l, fmt.Errorf("layout of %s: %w", m.Name, err)
	}
	k.layouts.Store(m.Layout, l)
	return l, nil
}
