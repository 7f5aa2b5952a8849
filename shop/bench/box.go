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

// Box is a mixed box of loose valves: those of one head, or of all heads of its order that are here.
type Box []*headfile.File

// CameWith lists the tags of the other heads of a head's order that are here.
func CameWith(ctx context.Context, s *shop.Shop, f *headfile.File) (tags []string, err error) {
	heads, err := s.Store.Read(ctx).HeadsOfJob(f.JobID)
	for _, h := range heads {
		if h.ID != f.ID && h.HandedOverAt == nil {
			tags = append(tags, h.Tag)
		}
	}
	return tags, err
}

// BoxOf is the box of a head's valves, or of all that came with it.
func BoxOf(ctx context.Context, s *shop.Shop, f *headfile.File, all bool) (Box, error) {
	box := Box{f}
	if !all {
		return box, nil
	}
	tags, err := CameWith(ctx, s, f)
	if err != nil {
		return nil, err
	}
	for _, tag := range tags {
		other, err := headfile.Open(ctx, s, tag)
		if err != nil {
			return nil, err
		}
		box = append(box, other)
	}
	return box, nil
}

// place names a position: of several heads with its head's tag.
func (b Box) place(f *headfile.File, position string) string {
	if len(b) > 1 {
		return f.Tag + " " + position
	}
	return position
}

// places are the empty places of the box's heads, with what they show: the sizes of the model, the rings as
// read, and how the ports were graded.
func (b Box) places() (out []tray.Place) {
	for _, f := range b {
		for _, v := range f.Layout.Valves {
			p := tray.Place{ID: b.place(f, v.ID), Head: v.Head}
			if m := f.Mean("seat.width", v.ID, ""); m != nil {
				p.Ring = m.Length()
			}
			if x, ok := f.Graded("port.condition", v.ID, headfile.Stages...); ok {
				p.State = x.Grade
			}
			out = append(out, p)
		}
	}
	return out
}

// LooseForm is a loose valve as typed, lengths in the unit of the box's first head.
type LooseForm struct{ Name, Head, Ring, State string }

// Sort infers the places of loose valves from what they and the places show. Errors are keyed "loose/0/head".
func (b Box) Sort(forms []LooseForm) ([]tray.Guess, error) {
	errs := field.Errors{}
	var loose []tray.Loose
	for i, l := range forms {
		at := "loose/" + strconv.Itoa(i) + "/"
		if l == (LooseForm{}) {
			continue
		}
		t := b.read(errs, at, l)
		if slices.ContainsFunc(loose, func(o tray.Loose) bool { return t.Name != "" && o.Name == t.Name }) {
			errs.Addf(at+"name", "another is marked so: each needs a mark of its own")
		}
		loose = append(loose, t)
	}
	places := b.places()
	if len(loose) == 0 && len(errs) == 0 {
		errs.Addf("loose/0/name", "no loose valve is described")
	}
	if len(loose) > len(places) {
		errs.Addf("loose/0/name", "more valves than places")
	}
	if err := errs.Err(); err != nil {
		return nil, err
	}
	return tray.Infer(loose, places), nil
}

// read reads a loose valve; errors are keyed by at with the field's name.
func (b Box) read(errs field.Errors, at string, l LooseForm) tray.Loose {
	t := tray.Loose{Name: shop.Optional(errs, at+"name", l.Name, 30), State: l.State}
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
		*x.to, err = length.Parse(x.text, b[0].Unit)
		errs.Add(at+x.name, err)
		if *x.to < 0 {
			errs.Addf(at+x.name, "no valve has that")
		}
	}
	if t.State != "" && !slices.Contains([]string{"dry", "oily", "carbon"}, t.State) {
		errs.Addf(at+"state", "dry, oily or carbon")
	}
	return t
}

// Take writes the places of guesses down, as inferred and from what, on the trays of the box's heads.
func (b Box) Take(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, guesses []tray.Guess,
) error {
	if err := a.Must("record a reading"); err != nil {
		return err
	}
	for _, f := range b {
		var places []store.Place
		for _, v := range f.Layout.Valves {
			at := b.place(f, v.ID)
			i := slices.IndexFunc(guesses, func(g tray.Guess) bool { return g.Place == at })
			if i >= 0 {
				places = append(places, store.Place{
					HeadID: f.ID, Position: v.ID, Part: "valve", State: "inferred", Evidence: why(guesses[i]),
					PersonID: a.ID, At: s.Now(),
				})
			}
		}
		if len(places) == 0 {
			continue
		}
		err := headfile.OnHead(ctx, s, writeID+f.Tag, f.Tag, func(tx store.DB, _ *headfile.File) error {
			return tx.Add(&places)
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// why says from what a place is inferred.
func why(g tray.Guess) string {
	said := "valve " + g.Name + ": " + g.For().String()
	if !g.Sure {
		said += "; could be at " + strings.Join(g.Rivals, ", ") + " as well"
	}
	return said
}
