package headfile

import (
	"strings"

	"yatai/core/gauge"
	"yatai/core/trade"
	"yatai/store"
)

// PlaceState is what is known of a part in its place.
type PlaceState struct{ Code, Label string }

// PlaceStates are the states of a part on the tray. A part is its own until somebody says
// otherwise; a new one is trusted once it has been measured.
var PlaceStates = []PlaceState{{"own", "its own"}, {"inferred", "place inferred"}, {"unknown", "place unknown"}, {"missing", "missing"}, {"new", "new"}}

// TrayParts lists the parts of a position in the order they lie on the tray, by drive.
func TrayParts(drive string) []string {
	if drive == "bucket" {
		return []string{"valve", "spring", "retainer", "keepers", "seat", "shim", "bucket"}
	}
	return []string{"valve", "spring", "retainer", "keepers", "seat", "rocker", "pushrod"}
}

// TrayCell is one part on the tray.
type TrayCell struct {
	store.Place
	Trust string // of a new part: what it still lacks, or what is wrong with it; empty when trusted
}

// newParts are what of a new part is measured before it is trusted.
var newParts = map[string][]string{"valve": {"stem.dia", "valve.margin"}, "spring": {"spring.free"}, "shim": {"shim.size"}}

// Tray returns the parts of a position in their order.
func (f *File) Tray(position string) []TrayCell {
	var out []TrayCell
	for _, part := range TrayParts(f.Model.Drive) {
		c := TrayCell{Place: store.Place{Position: position, Part: part, State: "own"}}
		for _, p := range f.Places {
			if p.Position == position && p.Part == part {
				c.Place = p
			}
		}
		if c.State == "new" {
			c.Trust = f.mistrust(part, position)
		}
		out = append(out, c)
	}
	return out
}

// mistrust says why a new part is not to be trusted yet: what has not been measured since,
// or what is not to size for a new part, or within limits where the sheet has no such figure.
func (f *File) mistrust(part, position string) string {
	after := f.Standing(AfterRepair)
	var lacks []string
	for _, code := range newParts[part] {
		c, _ := trade.ByCode(code)
		read := false
		for _, sp := range c.Spots(f.Layout) {
			_, there := after[code+" "+sp.Key()]
			read = read || there && sp.Position == position
		}
		if !read {
			lacks = append(lacks, strings.ToLower(c.Label))
			continue
		}
		p, _ := f.Now.Position(position)
		x, _ := p.Feature(code)
		if h, held := x.Against("new"); held && h.Verdict == gauge.Out {
			return "not what was ordered: " + strings.ToLower(c.Label) + " " + x.Figure(f.Unit) + " " + f.Unit.Name + ", a new one has " + h.Limit.Text(f.Unit)
		}
		if x.Verdict == gauge.Out {
			return strings.ToLower(c.Label) + " out: " + x.Says(f.Unit)
		}
	}
	if lacks != nil {
		return "not measured yet: " + strings.Join(lacks, ", ")
	}
	return ""
}
