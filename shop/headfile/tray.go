package headfile

import (
	"yatai/core/newpart"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/store"
)

// PlaceState is what is known of a part in its place.
type PlaceState struct{ Code, Label string }

// PlaceStates are the states of a part on the tray. A part is its own until somebody says
// otherwise; a new one is trusted once it has been measured.
var PlaceStates = []PlaceState{
	{"own", "its own"}, {"inferred", "place inferred"}, {"unknown", "place unknown"},
	{"missing", "missing"}, {"new", "new"},
}

// TrayParts lists the codes of what lies on the tray at each valve, in order, by drive.
func TrayParts(drive string) []string {
	var out []string
	for _, p := range trade.TrayParts(drive) {
		out = append(out, p.Code)
	}
	return out
}

// TrayCell is one part on the tray.
type TrayCell struct {
	store.Place
	Trust words.Text // of a new part: what it still lacks, or what is wrong with it; empty when trusted
}

// Tray returns the parts of a position in their order.
func (f *File) Tray(position string) []TrayCell {
	out := f.tray(position)
	for i, part := range trade.TrayParts(f.Model.Drive) {
		if out[i].State == "new" {
			out[i].Trust = f.mistrust(part.Kind, position)
		}
	}
	return out
}

// tray is what was last said of each part of a position.
func (f *File) tray(position string) []TrayCell {
	var out []TrayCell
	for _, part := range TrayParts(f.Model.Drive) {
		c := TrayCell{Place: store.Place{Position: position, Part: part, State: "own"}}
		for _, p := range f.Places {
			if p.Position == position && p.Part == part {
				c.Place = p
			}
		}
		out = append(out, c)
	}
	return out
}

// mistrust says why a new part is not to be trusted yet: what is wrong with it, or what of it
// has not been measured since it came.
func (f *File) mistrust(kind *trade.PartKind, position string) words.Text {
	if kind == nil {
		return words.Text{}
	}
	p := newpart.Of(f.Subject, kind, position)
	if wrong := p.Wrong(); wrong.Sentence != "" {
		return wrong
	}
	if lacks := p.Lacks(); lacks != nil {
		return words.Of("not measured yet: %s", words.Join(", ", lacks...))
	}
	return words.Text{}
}
