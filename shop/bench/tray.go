package bench

import (
	"context"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/tray"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// PlaceParts writes the state of parts, keyed "2E1/valve", with the evidence for an
// inferred place. Errors have the same keys.
func PlaceParts(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, states map[string]string,
	evidence string,
) error {
	if err := a.Must("record a reading"); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		errs := field.Errors{}
		evidence = shop.Optional(errs, "evidence", evidence, 300)
		for key, state := range states {
			position, part, _ := strings.Cut(key, "/")
			_, valve := f.Layout.Valve(position)
			switch {
			case !valve || !slices.Contains(headfile.TrayParts(f.Model.Drive), part):
				errs.Addf(key, "the tray has no such place")
			case !slices.ContainsFunc(headfile.PlaceStates,
				func(p headfile.PlaceState) bool { return p.Code == state }):
				errs.Addf(key, "choose what is known of it")
			case state == "inferred" && evidence == "":
				errs.Addf("evidence", "say what its place is inferred from")
			case len(errs) == 0:
				if err := tx.Add(&store.Place{
					HeadID: f.ID, Position: position, Part: part, State: state, Evidence: evidence, PersonID: a.ID,
					At: s.Now(),
				}); err != nil {
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
func Sort(f *headfile.File, forms []LooseForm) ([]tray.Guess, error) {
	errs := field.Errors{}
	var loose []tray.Loose
	for i, l := range forms {
		at := "loose/" + strconv.Itoa(i) + "/"
		t := tray.Loose{Name: shop.Optional(errs, at+"name", l.Name, 30), State: l.State}
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
			p.Ring = m.Length()
		}
		if x, ok := f.Graded("port.condition", v.ID, headfile.Stages...); ok {
			p.State = x.Grade
		}
		places = append(places, p)
	}
	return tray.Infer(loose, places), nil
}
