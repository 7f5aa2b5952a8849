package inout

import (
	"cmp"
	"context"
	"errors"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/quantity"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/library"
	"yatai/store"
)

// sheetBack is the version of a model's sheet that a table wrote.
type sheetBack struct {
	Model   uint `json:"model"`
	Version int  `json:"version"`
}

// limitLine is the kind under which it is kept what people's own names of a sheet's lines mean.
const limitLine = "limits.line"

// ofModel reads whose limits a table holds; 0 for a table of another kind.
func (k Kind) ofModel(model string) (uint, error) {
	if k.Code != "limits" {
		return 0, nil
	}
	id, err := strconv.ParseUint(model, 10, 32)
	if err != nil {
		return 0, field.Only("model", "choose whose limits they are")
	}
	return uint(id), nil
}

// itsModel loads the model whose limits the table holds.
func (t *taking) itsModel(ctx context.Context) error {
	id, err := t.kind.ofModel(t.form.Model)
	if err != nil {
		return err
	}
	if t.model, err = library.ModelOf(ctx, t.s, id); err != nil {
		return err
	}
	t.lines = library.LinesOf(t.model)
	t.means, err = t.tx.ColumnNames(limitLine)
	return err
}

// limit is a line of a model's sheet, or one for each role or direction where it names none.
func (t *taking) limit(row int) (Row, error) {
	what, role := t.get(row, "characteristic"), t.get(row, "role")
	show := strings.TrimSpace(what + " " + role)
	set := head.Service
	if text := t.get(row, "set"); text != "" {
		set = library.SetNamed(text)
	}
	lines, err := t.lines.Named(set, what, roleNamed(role))
	said := t.form.Said.Lines[t.Lines[row]]
	if known := cmp.Or(said, t.means[lower(what)].Means); err != nil && known != "" {
		lines, err = t.lines.Named(set, known, roleNamed(role))
	}
	if err != nil {
		r, failed := t.refused(show, err)
		var one *field.Error
		if errors.As(err, &one) && one.Field == "characteristic" {
			r.Asks = library.RowsOf(set, t.model)
		}
		return r, failed
	}
	if said != "" {
		t.names = append(t.names, store.ColumnName{Kind: limitLine, Name: lower(what), Means: said})
	}
	typed := library.LimitEntry{
		Low: t.get(row, "low"), High: t.get(row, "high"), Near: t.get(row, "near"),
		Source: cmp.Or(t.get(row, "source"), strings.TrimSpace(t.form.Source)),
	}
	out, limits := Row{Name: show, Fate: Same}, []store.Limit(nil)
	for _, line := range lines {
		if err := t.twice(set+" "+line.Key(), row); err != nil {
			return t.refused(show, err)
		}
		l, err := t.model.ReadLine(set, line, typed, t.unitOf(row, line))
		if err != nil {
			return t.refused(show, err)
		}
		was, there := t.model.Limit(set, line)
		if there {
			if err := t.unsaid(&l, was); err != nil {
				return t.refused(show, err)
			}
		}
		switch {
		case there && was.Same(l):
			continue
		case there:
			out.Fate = Changed
		case out.Fate == Same:
			out.Fate = New
		}
		c := Change{What: strings.TrimSpace(line.Label + " " + line.Role), Now: t.model.LineText(line, l)}
		if there {
			c.Was = t.model.LineText(line, was)
		}
		out.Changes = append(out.Changes, c)
		limits = append(limits, l)
	}
	t.limits = append(t.limits, limits...) // all of the row, or none
	return out, nil
}

// writeLimits writes a new version of the sheet, with the table's lines in it.
func (t *taking) writeLimits() error {
	version, err := library.WriteLines(t.tx, t.s, t.a, t.model, t.limits, "from "+t.form.Name)
	t.back.Sheet = &sheetBack{t.model.ID, version}
	for _, n := range t.names {
		err = errors.Join(err, t.tx.NameColumn(n))
	}
	return err
}

// unsaid keeps of a line what the table has no column for.
func (t *taking) unsaid(l *store.Limit, was store.Limit) error {
	keep := func(code string, to **quantity.Amount, was *quantity.Amount) {
		if _, has := t.at[code]; !has && *to == nil {
			*to = was
		}
	}
	keep("low", &l.Low, was.Low)
	keep("high", &l.High, was.High)
	if _, has := t.at["near"]; !has {
		l.Near = was.Near
	}
	if l.Low != nil && l.High != nil && *l.Low > *l.High {
		return field.Only("low", "above the upper limit")
	}
	return nil
}

// unitOf is the unit of a row's figures: its own; else, of lengths, what the name of their column says, or
// what was said of the table.
func (t *taking) unitOf(row int, line library.LimitRow) string {
	unit := t.get(row, "unit")
	if unit != "" || line.Unit.Size != 0 {
		return unit
	}
	for _, code := range []string{"low", "high"} {
		if i, ok := t.at[code]; ok {
			unit = cmp.Or(unit, t.columns[i].Unit)
		}
	}
	return cmp.Or(unit, t.form.Unit)
}

// LimitsCSV writes a model's sheet as a table that can be taken in again, in a language; the figures are
// bare, in the line's unit. Of an empty sheet every line it could have is written, to be filled in.
func LimitsCSV(m library.Model, set shop.Settings, in *words.Language) ([]byte, error) {
	k, _ := KindNamed("limits")
	rows := [][]string{k.Names(in, "")}
	for _, label := range library.SetLabels {
		for _, row := range library.RowsOf(label.Code, m) {
			l, there := m.Limit(label.Code, row)
			if !there && len(m.Sheet.Limits) > 0 {
				continue
			}
			unit := row.Unit.Or(m.SheetUnit())
			show := func(x *quantity.Amount) string {
				if x == nil || *x == 0 && x == &l.Near {
					return ""
				}
				return unit.Bare(*x)
			}
			said := map[string]string{
				"characteristic": in.Say(row.Label), "role": in.Say(row.Role), "low": show(l.Low),
				"high": show(l.High), "near": show(&l.Near), "unit": unit.Name, "set": in.Say(label.Label),
				"source": l.Source,
			}
			if label.Code == headfile.SetRenew {
				said["unit"] = ""
			}
			var cells []string
			for _, c := range k.Columns {
				cells = append(cells, said[c.Code])
			}
			rows = append(rows, shop.Plain(cells, -1))
		}
	}
	return shop.CSV(set, rows)
}
