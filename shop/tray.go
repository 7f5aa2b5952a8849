package shop

import (
	"context"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/core/tray"
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

// PlaceParts writes the state of parts, keyed "2E1/valve", with the evidence for an
// inferred place. Errors have the same keys.
func (s *Shop) PlaceParts(ctx context.Context, a Actor, writeID, tag string, states map[string]string, evidence string) error {
	if err := a.must("record a reading"); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, f *File) error {
		errs := field.Errors{}
		evidence = optional(errs, "evidence", evidence, 300)
		for key, state := range states {
			position, part, _ := strings.Cut(key, "/")
			_, valve := f.Layout.Valve(position)
			switch {
			case !valve || !slices.Contains(TrayParts(f.Model.Drive), part):
				errs.Addf(key, "the tray has no such place")
			case !slices.ContainsFunc(PlaceStates, func(p PlaceState) bool { return p.Code == state }):
				errs.Addf(key, "choose what is known of it")
			case state == "inferred" && evidence == "":
				errs.Addf("evidence", "say what its place is inferred from")
			case len(errs) == 0:
				if err := tx.Add(&store.Place{HeadID: f.ID, Position: position, Part: part, State: state, Evidence: evidence, PersonID: a.ID, At: s.now()}); err != nil {
					return err
				}
			}
		}
		return errs.Err()
	})
}

// LooseForm is a loose valve as typed.
type LooseForm struct{ Name, Head, Ring, State string }

// Sort infers the places of loose valves from what they and the places show: head
// diameters, rings, and how the ports were graded. Errors are keyed "loose/0/head".
func (f *File) Sort(forms []LooseForm) ([]tray.Guess, error) {
	errs := field.Errors{}
	var loose []tray.Loose
	for i, l := range forms {
		at := "loose/" + strconv.Itoa(i) + "/"
		t := tray.Loose{Name: optional(errs, at+"name", l.Name, 30), State: l.State}
		if t.Name == "" && l.Head == "" && l.Ring == "" && l.State == "" {
			continue
		}
		if t.Name == "" {
			errs.Addf(at+"name", "mark it, so that it can be told from the others")
		}
		for _, x := range []struct {
			name, text string
			to         *length.Length
		}{{"head", l.Head, &t.Head}, {"ring", l.Ring, &t.Ring}} {
			if strings.TrimSpace(x.text) == "" {
				continue
			}
			var err error
			*x.to, err = length.Parse(x.text, f.Unit)
			errs.Add(at+x.name, err)
			if *x.to < 0 {
				errs.Addf(at+x.name, "no valve has that")
			}
		}
		if t.State != "" && !slices.Contains([]string{"dry", "oily", "carbon"}, t.State) {
			errs.Addf(at+"state", "dry, oily or carbon")
		}
		loose = append(loose, t)
	}
	if len(loose) == 0 && len(errs) == 0 {
		errs.Addf("loose/0/name", "no loose valve is described")
	}
	if len(loose) > len(f.Layout.Valves) {
		errs.Addf("loose/0/name", "more valves than places")
	}
	if err := errs.Err(); err != nil {
		return nil, err
	}
	var places []tray.Place
	for _, v := range f.Layout.Valves {
		p := tray.Place{ID: v.ID, Head: v.Head}
		if m := f.Mean("seat.width", v.ID, ""); m != nil {
			p.Ring = *m
		}
		if x, ok := f.Graded("port.condition", v.ID, Stages...); ok {
			p.State = x.Grade
		}
		places = append(places, p)
	}
	return tray.Infer(loose, places), nil
}
