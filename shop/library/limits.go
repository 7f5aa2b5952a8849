package library

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// SetLabels names the sets of a sheet's lines, in the order they are edited.
var SetLabels = func() []LimitRow {
	var out []LimitRow
	for _, s := range head.Sets {
		out = append(out, LimitRow{Code: s.Code, Label: s.Label})
	}
	return append(out, LimitRow{Code: headfile.SetGiven, Label: "Figures of the engine"},
		LimitRow{Code: headfile.SetRenew, Label: "Renewed always"})
}()

// LimitRow is a line of a sheet that a model can have: a characteristic and a role. Unit
// is the one its figures are in when they are not lengths.
type LimitRow struct {
	Code, Label, Role string
	Section           string // the part of the sheet it stands in; empty for figures and renewals
	Common            bool   // nearly every sheet has it
	Unit              quantity.Unit
	parse             func(text string, unit length.Unit) (quantity.Amount, error)
}

// Key names the row's fields in a form.
func (r LimitRow) Key() string { return r.Code + "/" + r.Role }

// LimitRows lists the lines a set of a sheet can have, the shop's own characteristics last.
func LimitRows(set string, own ...trade.Characteristic) []LimitRow {
	both := []string{"intake", "exhaust"}
	var out []LimitRow
	section := ""
	add := func(c trade.Characteristic, label string, roles ...string) {
		for _, r := range roles {
			out = append(out, LimitRow{c.Code, label, r, section, c.Common, c.Unit, c.Parse})
		}
	}
	switch set {
	case headfile.SetGiven:
		for _, g := range trade.Figures() {
			c := trade.Characteristic{Code: headfile.GivenPrefix + g.Code, Unit: g.Unit}
			switch {
			case g.ByRole:
				add(c, g.Label, append([]string{""}, both...)...)
			case g.PerRole:
				add(c, g.Label, both...)
			default:
				add(c, g.Label, "")
			}
		}
		return out
	case headfile.SetRenew:
		for _, r := range trade.Renewals {
			out = append(out, LimitRow{Code: headfile.RenewPrefix + r.Code, Label: r.Label})
		}
		return out
	}
	for _, c := range slices.Concat(trade.Characteristics, own) {
		section = c.Section.String()
		switch {
		case c.NoLimit || c.LimitOf != nil:
		case c.Where == trade.AtPosition:
			add(c, c.Label, both...)
		case c.Where == trade.AtLine:
			add(c, c.Label, "long", "cross", "diagonal")
		default:
			add(c, c.Label, "")
		}
	}
	return out
}

// RowsOf lists the lines a set of a model's sheet can have: only what heads of its kind have, but
// for what its sheet has a line of already.
func RowsOf(set string, m Model) []LimitRow {
	kind := headfile.KindOf(m.HeadModel)
	return slices.DeleteFunc(LimitRows(set, m.Own...), func(r LimitRow) bool {
		c, ok := trade.ByCode(r.Code)
		has := c.Exists(kind) && len(c.Positions(m.Layout)) > 0
		return ok && !has && !slices.ContainsFunc(m.Sheet.Limits,
			func(l store.Limit) bool { return l.Kind == set && l.Characteristic == r.Code })
	})
}

// LimitEntry is one line of a sheet as typed. A figure given stands in Low.
type LimitEntry struct{ Low, High, Near, Source string }

// SheetForm is one set of a model's sheet as it was typed.
type SheetForm struct {
	WriteID string
	Version int                   // that was edited
	Set     string                // of SetLabels
	Note    string                // what changed and why; where it is empty, Source
	Source  string                // where the lines are from that do not say it themselves
	Rows    map[string]LimitEntry // by LimitRow key
}

// EditSheet writes a new version of a model's sheet: one set of it from what was typed, the others as
// they were. Heads taken in before keep theirs. When somebody else has written a newer version meanwhile,
// nothing is written and the error says so. It returns the new version.
func EditSheet(ctx context.Context, s *shop.Shop, a shop.Actor, model uint, f SheetForm) (int, error) {
	if err := a.Must("edit limits"); err != nil {
		return 0, err
	}
	m, err := ModelOf(ctx, s, model)
	if err != nil {
		return 0, err
	}
	errs := field.Errors{}
	source := shop.Optional(errs, "source", f.Source, 200)
	note := shop.Required(errs, "note", cmp.Or(strings.TrimSpace(f.Note), source), "say what changed and why",
		200)
	if !slices.ContainsFunc(SetLabels, func(l LimitRow) bool { return l.Code == f.Set }) {
		return 0, shop.ErrNotFound
	}
	var limits []store.Limit
	for _, row := range RowsOf(f.Set, m) {
		e := f.Rows[row.Key()]
		if strings.TrimSpace(e.Source) == "" && strings.TrimSpace(e.Low+e.High) != "" {
			e.Source = source
		}
		if l, ok := e.read(errs, row, f.Set, m.SheetUnit()); ok {
			limits = append(limits, l)
		}
	}
	if err := errs.Err(); err != nil {
		return 0, err
	}
	answer, err := s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		sheets, err := tx.Sheets(model)
		if err != nil {
			return "", err
		}
		if sheets[0].Version != f.Version {
			return "", field.Only(
				"note", "somebody wrote version %d meanwhile (%s): look at it first, yours is kept here",
				sheets[0].Version, sheets[0].Note,
			)
		}
		for _, l := range sheets[0].Limits {
			if l.Kind != f.Set {
				limits = append(limits, l)
			}
		}
		m.Sheet.Version = f.Version
		version, err := newVersion(tx, s, a, m, limits, note)
		return strconv.Itoa(version), err
	})
	if err != nil {
		return 0, err
	}
	return strconv.Atoi(answer)
}

// ConfirmSheet records that a second person has held a model's newest sheet against its
// documents. Regulated work needs a sheet that is confirmed.
func ConfirmSheet(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, model uint, version int,
) error {
	if err := a.Must("confirm limits"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		sheets, err := tx.Sheets(model)
		switch {
		case err != nil:
			return "", err
		case len(sheets) == 0:
			return "", shop.ErrNotFound
		case sheets[0].Version != version:
			return "", shop.ErrStale
		case sheets[0].PersonID == a.ID:
			return "", field.Only("confirm", "a second person confirms it: you wrote this version")
		case sheets[0].ConfirmedBy != nil:
			return "", shop.ErrStale
		}
		if err := tx.ConfirmSheet(sheets[0].ID, a.ID, s.Now()); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfModel, model), "sheet confirmed",
			fmt.Sprintf("model %d version %d", model, version))
	})
	return err
}

// read turns what was typed into a line; ok is false for an empty one.
func (e LimitEntry) read(errs field.Errors, row LimitRow, set string, unit length.Unit) (store.Limit, bool) {
	l := store.Limit{Characteristic: row.Code, Role: row.Role, Kind: set, Source: strings.TrimSpace(e.Source)}
	if set == headfile.SetRenew {
		if len(l.Source) > 200 {
			errs.Addf(row.Key()+"/source", "longer than 200 characters")
		}
		return l, l.Source != ""
	}
	unread := false
	one := func(name, text string) *quantity.Amount {
		if strings.TrimSpace(text) == "" {
			return nil
		}
		v, err := row.parse(text, unit)
		errs.Add(row.Key()+"/"+name, err)
		unread = unread || err != nil
		return &v
	}
	l.Low, l.High = one("low", e.Low), one("high", e.High)
	if unread {
		return l, false
	}
	if near := one("near", e.Near); near != nil {
		l.Near = *near
		if *near < 0 {
			errs.Addf(row.Key()+"/near", "not negative")
		}
	}
	if g := trade.FigureNamed(strings.TrimPrefix(row.Code, headfile.GivenPrefix)); g != nil && l.Low != nil &&
		*l.Low < 0 && !g.Signed {
		errs.Addf(row.Key()+"/low", "not negative")
	}
	if l.Low == nil && l.High == nil {
		if l.Source != "" {
			errs.Addf(row.Key()+"/low", "a source without a limit")
		}
		return l, false
	}
	if l.Low != nil && l.High != nil && *l.Low > *l.High {
		errs.Addf(row.Key()+"/low", "above the upper limit")
	}
	if l.Source == "" || len(l.Source) > 200 {
		errs.Addf(row.Key()+"/source", "where is it from: document and page, or shop practice")
	}
	return l, true
}

// SetNear writes a new version of a model's sheet in which a service limit has another near zone.
func SetNear(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, model uint, row LimitRow,
	near quantity.Amount, note string,
) error {
	if err := a.Must("edit limits"); err != nil {
		return err
	}
	m, err := ModelOf(ctx, s, model)
	if err != nil {
		return err
	}
	_, err = s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		sheets, err := tx.Sheets(model)
		if err != nil {
			return "", err
		}
		limits := slices.Clone(sheets[0].Limits)
		i := slices.IndexFunc(limits, func(l store.Limit) bool {
			return l.Kind == head.Service && l.Characteristic == row.Code && l.Role == row.Role
		})
		if i < 0 {
			return "", shop.ErrNotFound
		}
		limits[i].Near = near
		m.Sheet.Version = sheets[0].Version
		_, err = newVersion(tx, s, a, m, limits, note)
		return "", err
	})
	return err
}
