package shop

import (
	"encoding/json"
	"fmt"
	"slices"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"

	"headwright/core/layout"
	"headwright/store"
)

// known keeps what is read with every page and never changes once it is written: readings,
// to which only later ones are added; the limits of a sheet, of which an edit makes a new
// version; and layouts by their text.
type known struct {
	readings *lru.Cache[uint, []store.Reading] // by head, oldest first
	limits   sync.Map                          // of []store.Limit, by the sheet's id
	layouts  sync.Map                          // of layout.Layout, by its text
}

// knownHeads is how many heads' readings are kept: more than are worked on at a time.
const knownHeads = 64

func newKnown() *known {
	readings, err := lru.New[uint, []store.Reading](knownHeads)
	if err != nil {
		panic(err) // the size is positive
	}
	return &known{readings: readings}
}

// headReadings returns every reading of a head, oldest first, without tools and people:
// the caller's own. Only those it does not know yet are asked for.
func (k *known) headReadings(db store.DB, head uint) ([]store.Reading, error) {
	all, _ := k.readings.Get(head)
	after := uint(0)
	if len(all) > 0 {
		after = all[len(all)-1].ID
	}
	later, err := db.Readings(head, after)
	if err != nil {
		return nil, err
	}
	if len(later) > 0 {
		all = slices.Concat(all, later)
		if db.Settled() {
			k.readings.Add(head, all)
		}
	}
	return slices.Clone(all), nil
}

// sheetLimits returns the limits of a sheet that a head is judged by. They are shared: do
// not change them.
func (k *known) sheetLimits(db store.DB, sheet uint) ([]store.Limit, error) {
	if known, ok := k.limits.Load(sheet); ok {
		return known.([]store.Limit), nil
	}
	limits, err := db.Limits(sheet)
	if err == nil && db.Settled() {
		k.limits.Store(sheet, limits)
	}
	return limits, err
}

// layout returns the layout of a model. It is shared: do not change it.
func (k *known) layout(m store.HeadModel) (layout.Layout, error) {
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
