package inout

import (
	"context"
	"errors"
	"maps"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/library"
	"yatai/shop/parts"
	"yatai/shop/table"
	"yatai/store"
)

func lower(text string) string { return strings.ToLower(text) }

// back is what takes a table back: what it added, and what it changed as it was before.
type back struct {
	Customers []uint            `json:"customers,omitempty"`
	Machines  []uint            `json:"machines,omitempty"`
	Items     []uint            `json:"items,omitempty"`
	OldJobs   []uint            `json:"old_jobs,omitempty"`
	Was       []store.Customer  `json:"was,omitempty"`
	Made      []store.Customer  `json:"made,omitempty"` // what became of them; not of older tables
	WasItems  []store.StockItem `json:"was_items,omitempty"`
	MadeItems []store.StockItem `json:"made_items,omitempty"`
	Sheet     *sheetBack        `json:"sheet,omitempty"`
}

// taking is a table on its way in.
type taking struct {
	table.Table
	s       *shop.Shop
	a       shop.Actor
	tx      store.DB
	form    Form
	kind    Kind
	dry     bool
	columns []Found
	at      map[string]int // the column that is read as a code
	back    back
	add     added

	customers map[string]store.Customer // by name in lower case
	machines  map[string]bool           // by customer's id and name
	items     map[string]store.StockItem
	models    map[string]uint
	oldJobs   map[string]store.OldJob // by customer's id and number
	kinds     []string                // of parts
	seen      map[string]int          // the line a name stood in before

	model  library.Model // whose limits they are
	limits []store.Limit // that its sheet gets
	lines  *library.Lines
	means  map[string]store.ColumnName // what people's own names of lines mean
	names  []store.ColumnName          // of them, said now
}

// added are the rows that are new, written all at once in the end.
type added struct {
	customers []*store.Customer
	machines  []*store.Machine
	items     []*store.StockItem
	counts    []int // of items, how many are there
	oldJobs   []*store.OldJob
}

// batch is how many rows are written at a time.
const batch = 500

// inBatches writes rows and calls each with every one of them, its id known by then.
func inBatches[T any](tx store.DB, rows []T, each func(i int, row T)) error {
	for at := 0; at < len(rows); at += batch {
		some := rows[at:min(at+batch, len(rows))]
		if err := tx.Add(some); err != nil {
			return err
		}
		for i, r := range some {
			each(at+i, r)
		}
	}
	return nil
}

// get is what stands in a row's column that is read as a code, empty where there is none.
func (t *taking) get(row int, code string) string {
	i, ok := t.at[code]
	if !ok {
		return ""
	}
	return t.Cell(row, i)
}

// size is what stands there as a length, in the unit its column's name says.
func (t *taking) size(row int, code string) string {
	text := t.get(row, code)
	if text == "" || !library.IsBare(text) {
		return text
	}
	return strings.TrimSpace(text + " " + t.columns[t.at[code]].Unit)
}

// figure is what stands there as a figure.
func (t *taking) figure(errs field.Errors, row int, code string) string {
	text := strings.TrimSpace(strings.TrimSuffix(t.get(row, code), "%"))
	if text == "" {
		return ""
	}
	plain, err := t.Figure(text, t.columns[t.at[code]].Sign)
	errs.Add(code, err)
	return plain
}

// oneOf finds which of some words a text is, in any language; the text itself where it is none.
func oneOf(text string, all ...string) string {
	for _, w := range all {
		if lower(text) == lower(w) || slices.ContainsFunc(words.All, func(l *words.Language) bool {
			return lower(text) == lower(l.Say(w))
		}) {
			return w
		}
	}
	return text
}

// write writes what is new, and notes it for taking it back.
func (t *taking) write() error {
	var moved []*store.Movement
	err := errors.Join(
		inBatches(t.tx, t.add.customers, func(_ int, c *store.Customer) {
			t.back.Customers = append(t.back.Customers, c.ID)
		}),
		inBatches(t.tx, t.add.machines, func(_ int, m *store.Machine) {
			t.back.Machines = append(t.back.Machines, m.ID)
		}),
		inBatches(t.tx, t.add.oldJobs, func(_ int, j *store.OldJob) {
			t.back.OldJobs = append(t.back.OldJobs, j.ID)
		}),
		inBatches(t.tx, t.add.items, func(i int, it *store.StockItem) {
			t.back.Items = append(t.back.Items, it.ID)
			if n := t.add.counts[i]; n > 0 {
				moved = append(moved, &store.Movement{
					ItemID: it.ID, Count: n, Kind: "count", Why: "taken in with a table", PersonID: t.a.ID,
					At: t.s.Now(),
				})
			}
		}),
	)
	if err != nil {
		return err
	}
	if err := inBatches(t.tx, moved, func(int, *store.Movement) {}); err != nil || t.limits == nil {
		return err
	}
	return t.writeLimits()
}

// known loads what is there already of what a kind of table holds.
func (t *taking) known(ctx context.Context) error {
	if t.kind.Code == "limits" {
		return t.itsModel(ctx)
	}
	all, err := t.tx.Customers()
	if err != nil {
		return err
	}
	t.customers, t.machines = map[string]store.Customer{}, map[string]bool{}
	t.items, t.models = map[string]store.StockItem{}, map[string]uint{}
	for _, c := range all {
		t.customers[lower(c.Name)] = c
	}
	machines, err := t.tx.AllMachines()
	if err != nil {
		return err
	}
	for _, m := range machines {
		t.machines[machineKey(m.CustomerID, m.Name)] = true
	}
	items, err := t.tx.StockItems()
	if err != nil {
		return err
	}
	for _, it := range items {
		t.items[lower(it.Name)] = it
	}
	old, err := t.tx.OldJobs()
	if err != nil {
		return err
	}
	t.oldJobs = map[string]store.OldJob{}
	for _, j := range old {
		t.oldJobs[machineKey(j.CustomerID, j.Number)] = j
	}
	models, err := t.tx.Models()
	for _, m := range models {
		t.models[lower(m.Name)] = m.ID
	}
	t.kinds = parts.StockKinds(models)
	return err
}

func machineKey(customer uint, name string) string {
	return itoa(int(customer)) + "/" + lower(name)
}

// refused is a row that cannot be taken, with what is wrong with it.
func (t *taking) refused(name string, err error) (Row, error) {
	var many field.Errors
	var one *field.Error
	switch {
	case errors.As(err, &many):
		var say []string
		for _, f := range slices.Sorted(maps.Keys(many)) {
			label := f[strings.LastIndexByte(f, '/')+1:]
			if c := t.kind.column(label); c != nil {
				label = c.Label
			}
			say = append(say, label+": "+many.Message(f))
		}
		return Row{Name: name, Fate: Refused, Why: strings.Join(say, "; ")}, nil
	case errors.As(err, &one):
		return Row{Name: name, Fate: Refused, Why: one.Message()}, nil
	}
	return Row{}, err
}

// change writes a row that is there already otherwise; a look writes nothing.
func (t *taking) change(write func() error) error {
	if t.dry {
		return nil
	}
	return write()
}

// twice refuses a name that stood in an earlier row.
func (t *taking) twice(key string, row int) error {
	if was, ok := t.seen[key]; ok {
		return field.Errorf("", "line %d has it already", was)
	}
	t.seen[key] = t.Lines[row]
	return nil
}
