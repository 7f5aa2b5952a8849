package shop

import (
	"encoding/json"
	"fmt"
	"sync"

	"headwright/core/layout"
	"headwright/store"
)

// known keeps what is read with every page and never changes once it is written: the
// limits of a sheet, of which an edit makes a new version, and layouts by their text.
type known struct {
	limits  sync.Map // of []store.Limit, by the sheet's id
	layouts sync.Map // of layout.Layout, by its text
}

// sheetLimits returns the limits of a sheet that a head is judged by. They are shared: do
// not change them.
func (k *known) sheetLimits(db store.DB, sheet uint) ([]store.Limit, error) {
	if known, ok := k.limits.Load(sheet); ok {
		return known.([]store.Limit), nil
	}
	limits, err := db.Limits(sheet)
	if err == nil {
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
