package headfile

import (
	"slices"

	"yatai/core/layout"
	"yatai/core/trade"
	"yatai/store"
)

// Having tells what of a head's file a model has: its readings and findings by what they are of and where.
type Having struct {
	kind   trade.Kind
	layout layout.Layout
	own    []trade.Characteristic
	places map[string][]string // by characteristic
}

// HavingOf is what a model of a kind and layout has, with the shop's own characteristics of it.
func HavingOf(kind trade.Kind, l layout.Layout, own []trade.Characteristic) Having {
	return Having{kind, l, own, map[string][]string{}}
}

// Reading tells whether the model has what a reading is of.
func (h Having) Reading(r store.Reading) bool {
	at, known := h.places[r.Characteristic]
	if !known {
		if c, ok := characteristic(h.own, r.Characteristic); ok && c.Exists(h.kind) {
			at = c.Positions(h.layout)
		}
		h.places[r.Characteristic] = at
	}
	return slices.Contains(at, r.Position)
}

// Finding tells whether the model has what a finding is of. A mark on the map is of any head.
func (h Having) Finding(x store.Finding) bool {
	i := slices.IndexFunc(trade.Parts, func(p trade.Part) bool { return p.Code == x.Part })
	if i < 0 || !trade.Parts[i].Exists(h.kind) {
		return false
	}
	return x.Part == trade.MarkCode || h.at(trade.Parts[i].Where, x.Position)
}

// Loses counts the readings and findings of a head's file that a model does not have.
func (f *File) Loses(have Having) (readings, findings int) {
	for _, r := range f.Readings {
		if !have.Reading(r) {
			readings++
		}
	}
	for _, x := range f.Findings {
		if !have.Finding(x) {
			findings++
		}
	}
	return readings, findings
}

// Place tells whether the model has what was said of a part's place.
func (h Having) Place(p store.Place) bool { return h.at(trade.AtPosition, p.Position) }

func (h Having) at(where, position string) bool {
	return position == "" || slices.Contains(trade.Characteristic{Where: where}.Positions(h.layout), position)
}

// fit leaves out what a head that was taken in as another model has in its file of that one.
func (f *File) fit() {
	if !f.Remodelled {
		return
	}
	have := HavingOf(KindOf(f.Model), f.Layout, f.Own)
	f.Readings = slices.DeleteFunc(f.Readings, func(r store.Reading) bool { return !have.Reading(r) })
	f.Findings = slices.DeleteFunc(f.Findings, func(x store.Finding) bool { return !have.Finding(x) })
	f.Places = slices.DeleteFunc(f.Places, func(p store.Place) bool { return !have.Place(p) })
}
