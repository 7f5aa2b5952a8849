package library

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// SetNamed returns the set of a sheet that people call so, in any language; the text where none is.
func SetNamed(text string) string {
	for _, l := range SetLabels {
		if strings.EqualFold(text, l.Code) || isCalled(text, l.Label) {
			return l.Code
		}
	}
	return text
}

func isCalled(text, label string) bool {
	return slices.ContainsFunc(words.All, func(l *words.Language) bool {
		return plainWords(text) == plainWords(l.Say(label))
	})
}

// plainWords are a text's words in lower case, without what stands in brackets and between them.
func plainWords(text string) string {
	text, _, _ = strings.Cut(text, "(")
	return strings.Join(strings.FieldsFunc(strings.ToLower(text), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r)
	}), " ")
}

// Lines finds the lines that a model's sheet can have by what people call them.
type Lines struct {
	m    Model
	sets map[string]map[string][]LimitRow // by set, and what a line can be called
}

// LinesOf returns those of a model.
func LinesOf(m Model) *Lines { return &Lines{m, map[string]map[string][]LimitRow{}} }

// called are the lines of a set by their names: the code, the label in any language, and the label with the
// role or direction before or behind it.
func (x *Lines) called(set string) map[string][]LimitRow {
	if x.sets[set] != nil {
		return x.sets[set]
	}
	all := map[string][]LimitRow{}
	for _, r := range RowsOf(set, x.m) {
		short := strings.TrimPrefix(strings.TrimPrefix(r.Code, headfile.GivenPrefix), headfile.RenewPrefix)
		names := []string{plainWords(r.Code), plainWords(short)}
		for _, l := range words.All {
			label, role := plainWords(l.Say(r.Label)), plainWords(l.Say(r.Role))
			names = append(names, label)
			if role != "" {
				names = append(names, role+" "+label, label+" "+role)
			}
		}
		slices.Sort(names)
		for _, n := range slices.Compact(names) {
			all[n] = append(all[n], r)
		}
	}
	x.sets[set] = all
	return all
}

// Named returns the lines of a set that people call so: by the characteristic's code or label in any
// language, with its role or direction beside it or in it ("Valve head, exhaust"), or as somebody who was
// asked says it, by its LimitRow key. Where that names no role, they are the lines of all.
func (x *Lines) Named(set, what, role string) ([]LimitRow, error) {
	if !slices.ContainsFunc(SetLabels, func(l LimitRow) bool { return l.Code == set }) {
		return nil, field.Errorf("set", "no limits are called so")
	}
	code, line, keyed := strings.Cut(what, "/")
	if keyed && line != "" {
		role = line
	}
	if keyed {
		what = code
	}
	var out []LimitRow
	for _, r := range x.called(set)[plainWords(what)] {
		if role == "" || strings.EqualFold(role, r.Role) || isCalled(role, r.Role) {
			out = append(out, r)
		}
	}
	i := slices.IndexFunc(out, func(r LimitRow) bool { return r.Role == "" })
	switch {
	case out == nil:
		return nil, field.Errorf("characteristic", "a sheet of this model has no line called so")
	case i >= 0 && role == "": // a figure of all, which can have one for each role too
		return out[i : i+1], nil
	}
	return out, nil
}

// ReadLine reads what a table says of a line: its figures in the unit given, where they name none
// themselves. A figure of the engine can stand under either end.
func (m Model) ReadLine(set string, r LimitRow, e LimitEntry, unit string) (store.Limit, error) {
	if set == headfile.SetGiven && e.Low == "" {
		e.Low, e.High = e.High, ""
	}
	for _, figure := range []*string{&e.Low, &e.High, &e.Near} {
		if *figure != "" && IsBare(*figure) {
			*figure = strings.TrimSpace(*figure + " " + unit)
		}
	}
	errs := field.Errors{}
	l, ok := e.read(errs, r, set, m.SheetUnit())
	if err := errs.Err(); err != nil {
		return l, err
	}
	if !ok {
		return l, field.Errorf("low", "it has no limit")
	}
	return l, nil
}

// IsBare tells whether a figure names no unit.
func IsBare(text string) bool { return strings.Trim(text, "0123456789.,-+ ") == "" }

// Limit returns the line as the model's sheet has it.
func (m Model) Limit(set string, r LimitRow) (store.Limit, bool) {
	i := slices.IndexFunc(m.Sheet.Limits, func(l store.Limit) bool {
		return l.Kind == set && l.Characteristic == r.Code && l.Role == r.Role
	})
	if i < 0 {
		return store.Limit{}, false
	}
	return m.Sheet.Limits[i], true
}

// LineText says a line of the sheet: its limits, how near is near, and where it is from.
func (m Model) LineText(r LimitRow, l store.Limit) string {
	unit, text := r.Unit.Or(m.SheetUnit()), ""
	switch {
	case l.Kind == headfile.SetRenew:
		return l.Source
	case l.Kind == headfile.SetGiven && l.Low != nil:
		text = unit.Usual(*l.Low)
	default:
		text = head.Limit{Low: l.Low, High: l.High, Unit: r.Unit}.Text(m.SheetUnit())
	}
	if l.Near != 0 {
		text += ", near within " + unit.Usual(l.Near)
	}
	return text + "; " + l.Source
}

// WriteLines writes a new version of a model's sheet with some lines new or otherwise, the others as they
// were, in the transaction of who took them in.
func WriteLines(
	tx store.DB, s *shop.Shop, a shop.Actor, m Model, lines []store.Limit, note string,
) (int, error) {
	sheets, err := tx.Sheets(m.ID)
	switch {
	case err != nil:
		return 0, err
	case sheets[0].Version != m.Sheet.Version:
		return 0, shop.ErrStale
	}
	limits := slices.Clone(lines)
	for _, was := range sheets[0].Limits {
		if !slices.ContainsFunc(lines, was.OfLine) {
			limits = append(limits, was)
		}
	}
	return newVersion(tx, s, a, m, limits, note)
}

// TakeBack writes the sheet as it was before a version, while that is the newest.
func TakeBack(tx store.DB, s *shop.Shop, a shop.Actor, model uint, version int, note string) error {
	sheets, err := tx.Sheets(model)
	switch {
	case err != nil:
		return err
	case sheets[0].Version != version:
		return field.Only("undo", "version %d of the sheet was written since: it cannot be taken back",
			sheets[0].Version)
	}
	m := Model{Sheet: sheets[0]}
	if m.HeadModel, err = tx.Model(model); err != nil {
		return err
	}
	_, err = newVersion(tx, s, a, m, sheets[1].Limits, "taken back: "+note)
	return err
}

// newVersion writes the version of a sheet that follows the model's.
func newVersion(
	tx store.DB, s *shop.Shop, a shop.Actor, m Model, limits []store.Limit, note string,
) (int, error) {
	sheet := store.LimitSheet{
		ModelID: m.ID, Version: m.Sheet.Version + 1, Note: note, PersonID: a.ID, CreatedAt: s.Now(),
	}
	for _, l := range limits {
		l.ID, l.SheetID = 0, 0
		sheet.Limits = append(sheet.Limits, l)
	}
	if err := tx.Add(&sheet); err != nil {
		return 0, err
	}
	return sheet.Version, s.NoteAbout(tx, a, shop.About(shop.OfModel, m.ID), "sheet edited",
		fmt.Sprintf("%s version %d: %s", m.Name, sheet.Version, note))
}
