package bench

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Grade writes the grades of a part at positions, by position; a grade that is there
// already is replaced by a new finding. Errors are keyed by position, or "part", "stage".
func Grade(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, part, stage string,
	grades, notes map[string]string,
) error {
	if err := a.Must("record a reading"); err != nil {
		return err
	}
	p, ok := trade.PartNamed(part)
	if !ok || part == trade.MarkCode {
		return shop.ErrNotFound
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		errs := field.Errors{}
		if !slices.Contains(headfile.Stages, stage) {
			errs.Addf("stage", "choose when it was seen")
		}
		if f.ClosedAt != nil {
			errs.Addf("stage", "this head is closed: its findings stand")
		}
		at := headfile.PositionsOf(f, p)
		for position, code := range grades {
			if !slices.Contains(at, position) {
				errs.Addf(position, "this head has no such position")
				continue
			}
			if _, ok := p.Grade(code); !ok {
				errs.Addf(position, "choose a grade")
				continue
			}
			x := store.Finding{
				HeadID:   f.ID,
				Part:     part,
				Grade:    code,
				Position: position,
				Note:     shop.Optional(errs, position, notes[position], 200),
				Stage:    stage,
				PersonID: a.ID,
				At:       s.Now(),
			}
			if old, there := f.Graded(part, position, stage); there {
				if old.Grade == code && old.Note == x.Note {
					continue
				}
				x.Supersedes = &old.ID
			}
			if len(errs) == 0 {
				if err := tx.Add(&x); err != nil {
					return err
				}
			}
		}
		return errs.Err()
	})
}

// MarkForm is a mark on the map as typed. X and Y are from the face's lower left corner, as it lies
// on the bench, without a unit in Unit; millimetres where that is empty.
type MarkForm struct {
	WriteID, Grade, X, Y, Note, Stage string
	Unit                              string
	Thread                            string // of the hole, where one is damaged: M10x1.25
	Replaces                          uint   // the mark this one says something new of
}

// Mark places a crack, a leak or the like on the map.
func Mark(ctx context.Context, s *shop.Shop, a shop.Actor, tag string, m MarkForm) error {
	if err := a.Must("record a reading"); err != nil {
		return err
	}
	p, _ := trade.PartNamed(trade.MarkCode)
	unit := shop.UnitOf(m.Unit)
	return headfile.OnHead(ctx, s, m.WriteID, tag, func(tx store.DB, f *headfile.File) error {
		errs := field.Errors{}
		x := store.Finding{
			HeadID:   f.ID,
			Part:     trade.MarkCode,
			Grade:    m.Grade,
			Stage:    m.Stage,
			Note:     shop.Optional(errs, "note", m.Note, 200),
			PersonID: a.ID,
			At:       s.Now(),
		}
		if _, ok := p.Grade(m.Grade); !ok {
			errs.Addf("grade", "what is it?")
		}
		var err error
		x.Thread, err = trade.HoleThread(m.Grade, m.Thread)
		errs.Add("thread", err)
		if !slices.Contains(headfile.Stages, m.Stage) {
			errs.Addf("stage", "choose when it was seen")
		}
		if f.ClosedAt != nil {
			errs.Addf("stage", "this head is closed: its findings stand")
		}
		if m.Replaces != 0 {
			i := slices.IndexFunc(f.Standings(headfile.Stages...),
				func(o store.Finding) bool { return o.ID == m.Replaces && o.Part == trade.MarkCode })
			if i < 0 {
				return shop.ErrStale
			}
			old := f.Standings(headfile.Stages...)[i]
			x.X, x.Y, x.Supersedes = old.X, old.Y, &old.ID
			if trade.Threaded(m.Grade) {
				x.Thread = cmp.Or(x.Thread, old.Thread)
			}
		} else {
			for _, c := range []struct {
				name, text string
				to         *length.Length
				most       length.Length
			}{{"x", m.X, &x.X, f.Layout.Length}, {"y", m.Y, &x.Y, f.Layout.Width}} {
				*c.to, err = length.Parse(c.text, unit)
				errs.Add(c.name, err)
				if err == nil && (*c.to < 0 || *c.to > c.most) {
					errs.Addf(c.name, "the face ends at %s", unit.Text(c.most))
				}
			}
		}
		if err := errs.Err(); err != nil {
			return err
		}
		if err := tx.Add(&x); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "mark placed", fmt.Sprintf("%s %s", m.Grade, f.Layout.Near(x.X, x.Y)))
	})
}

// CrackMethods are the ways to look for cracks.
var CrackMethods = []string{"by eye", "dye penetrant", "magnetic powder", "pressure, in water"}

// TestCracks records that a head was tested for cracks: how, and what was seen. The cracks
// and leaks themselves are marks on the map.
func TestCracks(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, method, seen string) error {
	if err := a.Must("record a reading"); err != nil {
		return err
	}
	errs := field.Errors{}
	if !slices.Contains(CrackMethods, method) {
		errs.Addf("method", "how was it tested?")
	}
	seen = shop.Required(errs, "seen", seen, "pressure, water, minutes, and what was seen: or that nothing was",
		300)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		if err := tx.Add(&store.Note{
			HeadID: f.ID, Kind: headfile.CrackNote, Input: method, Text: seen, PersonID: a.ID, At: s.Now(),
		}); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "crack test", method+": "+seen)
	})
}
