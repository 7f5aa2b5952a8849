package library

import (
	"slices"
	"strings"

	"yatai/core/length"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/library"
	"yatai/web/page"
)

// limitLine is a line of a limit sheet on its page, with what its fields hold.
type limitLine struct {
	library.LimitRow
	Unit                    string // of its figures, "" where they have none
	Low, High, Near, Source string
	wrong                   bool
}

// limitSection is a part of a limit sheet on its page: the lines that are filled, or that nearly every
// sheet has, and the rest, which are offered.
type limitSection struct {
	Name   string
	Lines  []limitLine
	More   []limitLine
	Filled int
	Open   bool // something is wrong among the rest
}

// All is how many lines the section can have.
func (s limitSection) All() int { return len(s.Lines) + len(s.More) }

// ID names the section on its page.
func (s limitSection) ID() string { return page.Anchor(s.Name) }

// Columns are the sections' fields of a set, by name and heading.
func (d modelData) Columns() []limitColumn {
	switch d.Set {
	case headfile.SetGiven:
		return []limitColumn{{"low", "Figure"}, {"source", "Where from"}}
	case headfile.SetRenew:
		return []limitColumn{{"source", "Where from"}}
	}
	return []limitColumn{{"low", "Low"}, {"high", "High"}, {"near", "Near zone"}, {"source", "Where from"}}
}

type limitColumn struct{ Name, Label string }

// Wide tells whether the column holds words.
func (c limitColumn) Wide() bool { return c.Name == "source" }

// Value is what the field of a column holds.
func (l limitLine) Value(column string) string {
	return map[string]string{"low": l.Low, "high": l.High, "near": l.Near, "source": l.Source}[column]
}

// filled tells whether any of its fields holds something.
func (l limitLine) filled() bool { return l.Low+l.High+l.Near+l.Source != "" }

// limitLines are a set's lines as they stand on the sheet, or as they were typed.
func limitLines(rows []library.LimitRow, m library.Model, set string, p page.Page) []limitLine {
	stands := map[string]shop.Limit{}
	for _, l := range m.Sheet.Limits {
		if l.Kind == set {
			stands[l.Characteristic+"/"+l.Role] = l
		}
	}
	var out []limitLine
	for _, row := range rows {
		line := limitLine{LimitRow: row, Unit: row.Unit.Or(m.SheetUnit()).Name}
		if k := row.Key(); p.Val("version") != "" {
			line.Low, line.High, line.Near, line.Source = p.Val(k+
				"/low"), p.Val(k+"/high"), p.Val(k+"/near"), p.Val(k+"/source")
			line.wrong = slices.ContainsFunc([]string{"low", "high", "near", "source"},
				func(f string) bool { return p.Err(k+"/"+f) != "" })
		} else if l, ok := stands[k]; ok {
			line.fill(l, m.SheetUnit())
		}
		out = append(out, line)
	}
	return out
}

// fill writes what stands on the sheet into the line's fields.
func (l *limitLine) fill(from shop.Limit, u length.Unit) {
	unit := l.LimitRow.Unit.Or(u)
	if from.Low != nil {
		l.Low = unit.Bare(*from.Low)
	}
	if from.High != nil {
		l.High = unit.Bare(*from.High)
	}
	if from.Near != 0 {
		l.Near = unit.Bare(from.Near)
	}
	l.Source = from.Source
}

// fewLines is up to how many lines a set shows them all.
const fewLines = 12

// sectionsOf divides a set's lines into their sections.
func sectionsOf(lines []limitLine) []limitSection {
	var out []limitSection
	for _, l := range lines {
		if len(out) == 0 || out[len(out)-1].Name != l.Section {
			out = append(out, limitSection{Name: l.Section})
		}
		s := &out[len(out)-1]
		if l.filled() {
			s.Filled++
		}
		if l.filled() && !l.wrong || l.Common || len(lines) <= fewLines {
			s.Lines = append(s.Lines, l)
			continue
		}
		s.More, s.Open = append(s.More, l), s.Open || l.wrong
	}
	return out
}

// mistakesOf lists what is wrong with a sheet as it was typed, in the order of its lines.
func mistakesOf(lines []limitLine, p page.Page) []page.Mistake {
	var out []page.Mistake
	for _, l := range lines {
		for _, f := range []string{"low", "high", "near", "source"} {
			if k := l.Key() + "/" + f; p.Err(k) != "" {
				out = append(
					out, page.Mistake{Field: k, Label: strings.TrimSpace(l.Label + " " + l.Role), Says: p.Err(k)},
				)
			}
		}
	}
	for _, f := range [][2]string{{"source", "Where from, every line"}, {"note", "What changed, and why"}} {
		if p.Err(f[0]) != "" {
			out = append(out, page.Mistake{Field: f[0], Label: f[1], Says: p.Err(f[0])})
		}
	}
	return out
}
