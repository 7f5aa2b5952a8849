package library

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// onModel changes a model within a transaction and writes it down.
func onModel(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint,
	do func(tx store.DB, m *store.HeadModel) (said string, err error),
) error {
	if err := a.Must("edit limits"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		m, err := tx.Model(id)
		if err != nil {
			return "", err
		}
		said, err := do(tx, &m)
		if err != nil {
			return "", err
		}
		if err := tx.ChangeModel(m); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfModel, id), "model changed", m.Name+": "+said)
	})
	if store.IsDuplicate(err) {
		return errTaken
	}
	return err
}

// errTaken says that a model's name is taken.
var errTaken = field.Only(
	"name",
	"a model of that name is there already; one that is retired keeps its name until it is given another",
)

// ChangeModel keeps a model's name, what it drives, and what its valves are.
func ChangeModel(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, f ModelForm) error {
	return onModel(ctx, s, a, f.WriteID, id, func(_ store.DB, m *store.HeadModel) (string, error) {
		was, errs := *m, field.Errors{}
		m.Name = shop.Required(errs, "name", f.Name, "a model needs a name", 60)
		m.About = shop.Optional(errs, "about", f.About, 200)
		m.IntakeValve = headfile.ValveText(headfile.ValveOf(f.IntakeValve))
		m.ExhaustValve = headfile.ValveText(headfile.ValveOf(f.ExhaustValve))
		return shop.Changes(
			shop.Change{What: "name", Was: was.Name, Is: m.Name},
			shop.Change{What: "about", Was: was.About, Is: m.About},
			shop.Change{What: "intake valve", Was: was.IntakeValve, Is: m.IntakeValve},
			shop.Change{What: "exhaust valve", Was: was.ExhaustValve, Is: m.ExhaustValve},
		), errs.Err()
	})
}

// CorrectKind puts right what a model is made of and how it is driven and, where cylinders are typed, its
// layout: it is laid out anew then, and what was moved on its face is where it was at first. Once work on
// a head of it has been ordered, or a measured one has left, it stays as it is. What heads that are here have
// read that it does not have counts no more: told before it is done.
func CorrectKind(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, f ModelForm) error {
	return onModel(ctx, s, a, f.WriteID, id, func(tx store.DB, m *store.HeadModel) (string, error) {
		was, errs := *m, field.Errors{}
		f.Unit = m.Unit
		for _, c := range []struct {
			name, typed string
			is          *string
		}{
			{"material", f.Material, &m.Material}, {"drive", f.Drive, &m.Drive}, {"lifter", f.Lifter, &m.Lifter},
			{"ignition", f.Ignition, &m.Ignition},
			{"cooling", f.Cooling, &m.Cooling},
		} {
			if !slices.Contains(ModelChoices[c.name], c.typed) {
				errs.Addf(c.name, "choose one")
			}
			*c.is = c.typed
		}
		errs.Add("camshafts", trade.Kind{Drive: f.Drive}.CheckCamshafts(f.camshafts()))
		errs.Add("bridges", trade.Kind{Drive: f.Drive}.CheckBridges(f.bridges()))
		laid := ""
		if strings.TrimSpace(f.Cylinders) != "" {
			lay, err := f.layout(errs)
			if err != nil {
				return "", err
			}
			text, err := json.Marshal(lay)
			if err != nil {
				return "", err
			}
			m.Layout, laid = string(text), shop.Plural(len(lay.Valves), "valve")
		}
		gear, err := f.gear(s, m)
		if err != nil {
			return "", err
		}
		if err := errs.Err(); err != nil {
			return "", err
		}
		if err := correctable(s, tx, *m, f.Sure); err != nil {
			return "", err
		}
		return shop.Changes(
			shop.Change{What: "material", Was: was.Material, Is: m.Material},
			shop.Change{What: "drive", Was: was.Drive, Is: m.Drive},
			shop.Change{What: "lifter", Was: was.Lifter, Is: m.Lifter},
			shop.Change{What: "ignition", Was: was.Ignition, Is: m.Ignition},
			shop.Change{What: "cooling", Was: was.Cooling, Is: m.Cooling},
			shop.Change{What: "laid out anew", Is: laid},
			gear[0], gear[1],
		), tx.RemodelHeads(id)
	})
}

// gear puts right how many camshafts a model has and whether rockers work bridges, where that is said.
func (f ModelForm) gear(s *shop.Shop, m *store.HeadModel) (out [2]shop.Change, err error) {
	l, err := s.Cache.Layout(*m)
	if err != nil {
		return out, err
	}
	if was := len(l.Shafts()); f.Camshafts != "" {
		l.Camshafts = f.camshafts()
		out[0] = shop.Change{What: "camshafts", Was: strconv.Itoa(was), Is: strconv.Itoa(len(l.Shafts()))}
	}
	if was := l.Bridges; f.Bridges != "" {
		l.Bridges = f.bridges()
		out[1] = shop.Change{What: "bridges", Was: cmp.Or(was, "none"), Is: f.Bridges}
	}
	text, err := json.Marshal(l)
	m.Layout = string(text)
	return out, err
}

// correctable says why a model cannot become what it is now to be, nil where it can: heads that stay what
// they are, or readings that would count no more where nobody said so.
func correctable(s *shop.Shop, tx store.DB, m store.HeadModel, sure bool) error {
	settled, err := tx.SettledOfModel(m.ID)
	if err != nil {
		return err
	}
	if settled > 0 {
		return field.Only("kind", "%s of it was worked on, or measured and has left, as what it is: "+
			"copy it, put the copy right, and correct the heads that are of it", shop.Plural(int(settled), "head"))
	}
	l, err := s.Cache.Layout(m)
	if err != nil {
		return err
	}
	own, err := tx.OwnCharacteristics(m.ID)
	if err != nil {
		return err
	}
	heads, err := tx.OpenHeads()
	if err != nil {
		return err
	}
	have := headfile.HavingOf(headfile.KindOf(m), l, headfile.OwnCharacteristics(own))
	readings, findings := 0, 0
	for _, h := range heads {
		if h.ModelID != m.ID {
			continue
		}
		f, err := headfile.OpenIn(s, tx, h.Tag)
		if err != nil {
			return err
		}
		r, x := f.Loses(have)
		readings, findings = readings+r, findings+x
	}
	if readings+findings > 0 && !sure {
		return field.Only(
			"sure",
			"heads of it that are here lose %s and %s: they stay in their files and count no more. Tick this to go on",
			shop.Plural(readings, "reading"), shop.Plural(findings, "finding"),
		)
	}
	return nil
}

// RetireModel takes a model out of the list heads are taken in by, or back into it. Heads of it
// stay as they are.
func RetireModel(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint, retire bool,
) error {
	return onModel(ctx, s, a, writeID, id, func(_ store.DB, m *store.HeadModel) (string, error) {
		m.RetiredAt = nil
		if retire {
			now := s.Now()
			m.RetiredAt = &now
		}
		return map[bool]string{true: "retired", false: "in use again"}[retire], nil
	})
}

// MoveOnFace puts a hole or a valve of a model's face to a place, adds one, or takes one away:
// what is "valve", "chamber", "bolt", "plug", "injector" or "water"; a diameter of 0 takes a hole
// away. Bare lengths are in the model's unit, from the lower left corner of the face.
func MoveOnFace(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint, what, name, x, y, d string,
) error {
	return onModel(ctx, s, a, writeID, id, func(_ store.DB, m *store.HeadModel) (string, error) {
		errs := field.Errors{}
		to := layout.Spot{Name: shop.Optional(errs, "name", name, 20)}
		for _, l := range []struct {
			name, text string
			to         *length.Length
		}{{"x", x, &to.X}, {"y", y, &to.Y}, {"d", d, &to.D}} {
			var err error
			*l.to, err = length.Parse(l.text, shop.UnitOf(m.Unit))
			errs.Add(l.name, err)
		}
		if err := errs.Err(); err != nil {
			return "", err
		}
		l, err := s.Cache.Layout(*m)
		if err != nil {
			return "", err
		}
		l = l.Clone() // the one that was read is everybody's
		if err := l.Move(what, to); err != nil {
			return "", err
		}
		text, err := json.Marshal(l)
		if err != nil {
			return "", err
		}
		m.Layout = string(text)
		return strings.TrimSpace(what + " " + to.Name), nil
	})
}

// CopyModel makes a new model like another: its layout, its newest sheet as version 1, and the
// shop's own characteristics. It returns the new one's id.
func CopyModel(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint, name string,
) (uint, error) {
	if err := a.Must("edit limits"); err != nil {
		return 0, err
	}
	errs := field.Errors{}
	name = shop.Required(errs, "copy", name, "the copy needs a name of its own", 60)
	if err := errs.Err(); err != nil {
		return 0, err
	}
	answer, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		m, err := tx.Model(id)
		if err != nil {
			return "", err
		}
		sheets, err := tx.Sheets(id)
		if err != nil {
			return "", err
		}
		own, err := tx.OwnCharacteristics(id)
		if err != nil {
			return "", err
		}
		from := m.Name
		m.ID, m.Name, m.CreatedAt, m.RetiredAt = 0, name, s.Now(), nil
		if err := tx.Add(&m); err != nil {
			return "", err
		}
		codes := map[string]string{}
		for i, o := range own {
			code := fmt.Sprintf("own.%d.%d", m.ID, i+1)
			codes[o.Code] = code
			o.ID, o.ModelID, o.Code = 0, m.ID, code
			if err := tx.Add(&o); err != nil {
				return "", err
			}
		}
		sheet := store.LimitSheet{
			ModelID: m.ID, Version: 1, Note: fmt.Sprintf("copied from %s, version %d", from, sheets[0].Version),
			PersonID: a.ID, CreatedAt: s.Now(),
		}
		if err := tx.Add(&sheet); err != nil {
			return "", err
		}
		var limits []store.Limit
		for _, l := range sheets[0].Limits {
			l.ID, l.SheetID = 0, sheet.ID
			for was, now := range codes {
				if l.Characteristic == was || strings.HasPrefix(l.Characteristic, was+".") {
					l.Characteristic = now + strings.TrimPrefix(l.Characteristic, was)
				}
			}
			limits = append(limits, l)
		}
		if len(limits) > 0 {
			if err := tx.Add(&limits); err != nil {
				return "", err
			}
		}
		return fmt.Sprint(m.ID), s.NoteAbout(tx, a, shop.About(shop.OfModel, m.ID), "model copied", from+" > "+name)
	})
	if store.IsDuplicate(err) {
		return 0, field.Only("copy", "a model of that name is there already")
	}
	if err != nil {
		return 0, err
	}
	var made uint
	_, err = fmt.Sscan(answer, &made)
	return made, err
}
