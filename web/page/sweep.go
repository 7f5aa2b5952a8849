package page

import (
	"crypto/rand"
	"iter"
	"net/url"
	"slices"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/trade"
	"yatai/core/words"
)

// Sweep is a characteristic with its places, as its page has them: of a head that is here, or of one that is
// practised on.
type Sweep struct {
	C        trade.Characteristic
	Columns  []string
	Rows     []SweepRow
	Read, Of int
	Partial  bool // rendered as parts to swap in
}

// SweepRow is a position with its places.
type SweepRow struct {
	Name    string
	Cells   []SweepCell
	Verdict gauge.Verdict
	Says    words.Text
	Suspect bool
}

// SweepCell is one place of a sweep.
type SweepCell struct {
	Spot     trade.Spot
	Key      string
	Typed    string // what stands, or what was typed and refused
	Standing bool
	Was      string // what stood before work changed the place: it is read again
	Tool     uint   // that read what stands, 0 where the same number typed again is another reading
	Suspect  bool   // its tool failed the next zero check
	Say      string
	ID       string // client-made id of the next reading here
}

// NewSweep lays the places of a characteristic out, each with an id for its next reading.
func NewSweep(c trade.Characteristic, spots []trade.Spot) Sweep {
	s := Sweep{C: c, Of: len(spots)}
	for _, sp := range spots {
		if len(s.Rows) == 0 || s.Rows[len(s.Rows)-1].Name != sp.Position {
			s.Rows = append(s.Rows, SweepRow{Name: sp.Position})
		}
		row := &s.Rows[len(s.Rows)-1]
		row.Cells = append(row.Cells, SweepCell{Spot: sp, Key: sp.Key(), ID: rand.Text()})
		if len(s.Rows) == 1 {
			s.Columns = append(s.Columns, sp.Within())
		}
	}
	return s
}

// Cells are all cells with their rows, in the order they are read.
func (s *Sweep) Cells() iter.Seq2[*SweepCell, *SweepRow] {
	return func(yield func(*SweepCell, *SweepRow) bool) {
		for i := range s.Rows {
			for k := range s.Rows[i].Cells {
				if !yield(&s.Rows[i].Cells[k], &s.Rows[i]) {
					return
				}
			}
		}
	}
}

// Cell is the one with that key.
func (s *Sweep) Cell(key string) SweepCell {
	for c := range s.Cells() {
		if c.Key == key {
			return *c
		}
	}
	return SweepCell{}
}

// RowOf is the row of a cell.
func (s *Sweep) RowOf(c SweepCell) SweepRow {
	i := slices.IndexFunc(s.Rows, func(r SweepRow) bool { return r.Name == c.Spot.Position })
	if i < 0 {
		return SweepRow{}
	}
	return s.Rows[i]
}

// KeepTyped puts what was typed and refused back into its cells, or into the one that was sent alone, with
// the message and the id it was sent with, in the language of who typed it.
func (s *Sweep) KeepTyped(form url.Values, one string, errs field.Errors, in *words.Language) {
	if len(errs) == 0 {
		return
	}
	for c := range s.Cells() {
		if typed := form.Get("v." + c.Key); typed != "" && (one == "" || one == c.Key) {
			c.Typed, c.Say, c.ID = typed, errs[c.Key].In(in), form.Get("id."+c.Key)
		}
	}
}

// Refused tells whether something that was typed was not taken.
func (s Sweep) Refused() bool {
	return slices.ContainsFunc(s.Rows, func(r SweepRow) bool {
		return slices.ContainsFunc(r.Cells, func(c SweepCell) bool { return c.Say != "" })
	})
}

// placed is a cell beside its sweep, for the cell's template.
type placed struct {
	Sweep
	Cell SweepCell
}

// placedRow is a row of a whole page, as the row's template wants it.
type placedRow struct {
	Row     SweepRow
	Partial bool
}

// With puts a cell beside its sweep.
func (s Sweep) With(c SweepCell) any { return placed{s, c} }

// WithRow puts a row beside the sweep.
func (s Sweep) WithRow(r SweepRow) any { return placedRow{r, s.Partial} }
