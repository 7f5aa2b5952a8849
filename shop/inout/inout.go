// Package inout takes tables in, of customers, machines, stock, prices and jobs of
// before the program, and lets the whole
// shop out. A table is looked at first: Look says what would become of each row, and writes
// nothing; Take writes all of it or none; Undo takes it back as far as nothing has been done with
// it since.
package inout

import (
	"context"
	"encoding/json"
	"errors"
	"io"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/customers"
	"yatai/shop/parts"
	"yatai/shop/table"
	"yatai/store"
)

func itoa(n int) string { return strconv.Itoa(n) }

// Fates of a row.
const (
	New     = "new"
	Changed = "changes"
	Same    = "is there"
	Refused = "refused"
)

// Row is a row of a table with what would become of it, and why.
type Row struct {
	Line int
	Name string
	Fate string
	Why  string
}

// Fate is what would become of a table.
type Fate struct {
	Kind, File string
	Rows       []Row
	Unknown    []string // columns that are not read
}

// Count is how many rows have a fate.
func (f Fate) Count(fate string) int {
	n := 0
	for _, r := range f.Rows {
		if r.Fate == fate {
			n++
		}
	}
	return n
}

// Kind is a kind of table. Columns are the names it can have, the first of each being the usual
// one; those of Must have to be there.
type Kind struct {
	Code, Label string
	Columns     []string
	Must        []string
	row         func(t *taking, row int) (Row, error)
}

// Kinds are the tables that can be taken in.
var Kinds = []Kind{
	{"customers", "Customers", []string{
		"name", "contact", "telephone", "email", "address", "note", "discount",
	}, []string{"name"}, (*taking).customer},
	{
		"machines", "Machines", []string{"customer", "machine"}, []string{"customer", "machine"},
		(*taking).machine,
	},
	{
		"stock", "Stock", []string{
			"kind", "name", "size", "model", "role", "price", "cost", "count", "least", "supplier", "days",
			"measures",
		},
		[]string{"kind", "name"}, (*taking).stock,
	},
	{
		"jobs", "Jobs of before the program",
		[]string{"number", "customer", "machine", "model", "marks", "date", "work", "total"},
		[]string{"number", "customer", "date"}, (*taking).oldJob,
	},
	{"prices", "Prices of parts", []string{
		"name", "price", "cost", "supplier", "days",
	}, []string{"name"}, (*taking).price},
}

// KindNamed returns the kind with that code.
func KindNamed(code string) (Kind, bool) {
	i := slices.IndexFunc(Kinds, func(k Kind) bool { return k.Code == code })
	if i < 0 {
		return Kind{}, false
	}
	return Kinds[i], true
}

// back is what takes a table back: what it added, and what it changed as it was before.
type back struct {
	Customers []uint            `json:"customers,omitempty"`
	Machines  []uint            `json:"machines,omitempty"`
	Items     []uint            `json:"items,omitempty"`
	OldJobs   []uint            `json:"old_jobs,omitempty"`
	Was       []store.Customer  `json:"was,omitempty"`
	WasItems  []store.StockItem `json:"was_items,omitempty"`
}

// taking is a table on its way in, within a transaction.
type taking struct {
	table.Table
	s    *shop.Shop
	a    shop.Actor
	tx   store.DB
	dry  bool
	back back
	add  added

	customers map[string]store.Customer // by name in lower case
	machines  map[string]bool           // by customer's id and name
	items     map[string]store.StockItem
	models    map[string]uint
	oldJobs   map[string]store.OldJob // by customer's id and number
	seen      map[string]int          // the line a name stood in before
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
	return inBatches(t.tx, moved, func(int, *store.Movement) {})
}

// Look says what would become of a table, and writes nothing.
func Look(ctx context.Context, s *shop.Shop, a shop.Actor, kind, name string, file io.Reader) (Fate, error) {
	return take(ctx, s, a, "", kind, name, file)
}

// Take writes a table: all rows that are new or change something, or none when any is refused.
func Take(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, kind, name string, file io.Reader,
) (Fate, error) {
	return take(ctx, s, a, writeID, kind, name, file)
}

func take(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, kind, name string, file io.Reader,
) (Fate, error) {
	f := Fate{Kind: kind, File: name}
	if err := a.Must("take a table in"); err != nil {
		return f, err
	}
	k, ok := KindNamed(kind)
	if !ok {
		return f, field.Only("kind", "choose what it is")
	}
	t, err := table.Read(file)
	if err != nil {
		return f, err
	}
	for _, c := range k.Must {
		if !t.Has(c) {
			return f, field.Only("file", "it has no column %s: it can have %s", c, strings.Join(k.Columns, ", "))
		}
	}
	for _, c := range t.Columns {
		if c != "" && !slices.Contains(k.Columns, c) {
			f.Unknown = append(f.Unknown, c)
		}
	}
	in := &taking{Table: t, s: s, a: a, dry: writeID == "", seen: map[string]int{}}
	write := func(tx store.DB) (string, error) {
		in.tx = tx
		if err := in.known(); err != nil {
			return "", err
		}
		f.Rows = nil
		for i := range in.Rows {
			r, err := k.row(in, i)
			if err != nil {
				return "", err
			}
			r.Line = in.Lines[i]
			f.Rows = append(f.Rows, r)
		}
		if in.dry {
			return "", nil
		}
		if n := f.Count(Refused); n > 0 {
			return "", field.Only("file", "%s would be refused: put them right in the file, nothing was written",
				shop.Plural(n, "row"))
		}
		if err := in.write(); err != nil {
			return "", err
		}
		said := itoa(f.Count(New)) + " new, " + itoa(f.Count(Changed)) + " changed"
		b, err := json.Marshal(in.back)
		if err != nil {
			return "", err
		}
		if err := tx.Add(
			&store.Import{Kind: kind, Name: name, Said: said, Back: string(b), PersonID: a.ID, At: s.Now()},
		); err != nil {
			return "", err
		}
		return said, s.Note(tx, a, 0, "table taken in", kind+" "+name+": "+said)
	}
	if in.dry {
		_, err = write(s.Store.Read(ctx))
	} else {
		_, err = s.Once(ctx, writeID, write)
	}
	return f, err
}

// known loads what is there already.
func (t *taking) known() error {
	all, err := t.tx.Customers()
	if err != nil {
		return err
	}
	t.customers, t.machines = map[string]store.Customer{}, map[string]bool{}
	t.items, t.models = map[string]store.StockItem{}, map[string]uint{}
	for _, c := range all {
		t.customers[strings.ToLower(c.Name)] = c
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
		t.items[strings.ToLower(it.Name)] = it
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
		t.models[strings.ToLower(m.Name)] = m.ID
	}
	return err
}

func machineKey(customer uint, name string) string {
	return itoa(int(customer)) + "/" + strings.ToLower(name)
}

// refused is a row that cannot be taken, with what is wrong with it.
func refused(name string, err error) (Row, error) {
	var many field.Errors
	var one *field.Error
	switch {
	case errors.As(err, &many):
		var say []string
		for _, f := range slices.Sorted(keysOf(many)) {
			say = append(say, f+": "+many.Message(f))
		}
		return Row{Name: name, Fate: Refused, Why: strings.Join(say, "; ")}, nil
	case errors.As(err, &one):
		return Row{Name: name, Fate: Refused, Why: one.Message()}, nil
	}
	return Row{}, err
}

func keysOf(m field.Errors) func(func(string) bool) {
	return func(yield func(string) bool) {
		for k := range m {
			if !yield(k) {
				return
			}
		}
	}
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

func (t *taking) customer(row int) (Row, error) {
	f := customers.Form{
		Name:      t.Get(row, "name"),
		Contact:   t.Get(row, "contact"),
		Telephone: t.Get(row, "telephone"),
		Email:     t.Get(row, "email"),
		Address:   t.Get(row, "address"),
		Note:      t.Get(row, "note"),
		Discount:  strings.TrimSuffix(t.Get(row, "discount"), "%"),
	}
	key := strings.ToLower(f.Name)
	was, there := t.customers[key]
	c := was
	if there { // what the table does not say stays
		keep := func(to *string, now string) {
			if *to == "" {
				*to = now
			}
		}
		keep(&f.Contact, was.Contact)
		keep(&f.Telephone, was.Telephone)
		keep(&f.Email, was.Email)
		keep(&f.Address, was.Address)
		keep(&f.Note, was.Note)
		if f.Discount == "" && was.DiscountPPM != 0 {
			f.Discount = shop.Cash(was.DiscountPPM / 100)
		}
	}
	if err := f.Read(&c); err != nil {
		return refused(f.Name, err)
	}
	if err := t.twice(key, row); err != nil {
		return refused(f.Name, err)
	}
	switch {
	case !there:
		c.CreatedAt = t.s.Now()
		t.add.customers = append(t.add.customers, &c)
		return Row{Name: c.Name, Fate: New}, nil
	case c == was:
		return Row{Name: c.Name, Fate: Same}, nil
	}
	t.back.Was = append(t.back.Was, was)
	return Row{Name: c.Name, Fate: Changed}, t.change(func() error { return t.tx.ChangeCustomer(c) })
}

func (t *taking) machine(row int) (Row, error) {
	whose, name := t.Get(row, "customer"), t.Get(row, "machine")
	show := whose + ": " + name
	if whose == "" || name == "" || len(name) > 100 {
		return refused(show, field.Errorf("", "it needs a customer and a machine of up to 100 letters"))
	}
	c, there := t.customers[strings.ToLower(whose)]
	if !there {
		return refused(show, field.Errorf("", "no customer is called so: take the customers in first"))
	}
	key := machineKey(c.ID, name)
	if t.machines[key] {
		return Row{Name: show, Fate: Same}, nil
	}
	t.add.machines = append(t.add.machines, &store.Machine{CustomerID: c.ID, Name: name})
	t.machines[key] = true
	return Row{Name: show, Fate: New}, nil
}

func (t *taking) stock(row int) (Row, error) {
	f := parts.StockForm{
		Kind:     t.Get(row, "kind"),
		Name:     t.Get(row, "name"),
		Size:     t.Get(row, "size"),
		Role:     strings.ToLower(t.Get(row, "role")),
		Price:    t.Get(row, "price"),
		Cost:     t.Get(row, "cost"),
		Count:    t.Get(row, "count"),
		Least:    t.Get(row, "least"),
		Supplier: t.Get(row, "supplier"),
		Lead:     t.Get(row, "days"),
		Dims:     t.Get(row, "measures"),
	}
	if model := t.Get(row, "model"); model != "" {
		id, ok := t.models[strings.ToLower(model)]
		if !ok {
			return refused(f.Name, field.Errorf("", "no model is called %s", model))
		}
		f.Model = itoa(int(id))
	}
	key := strings.ToLower(f.Name)
	if _, there := t.items[key]; there {
		return Row{
			Name: f.Name, Fate: Same, Why: "counts are corrected under Parts, prices taken in as prices",
		}, nil
	}
	it := store.StockItem{}
	n, err := f.Read(&it)
	if err == nil {
		err = t.twice(key, row)
	}
	if err != nil {
		return refused(f.Name, err)
	}
	t.add.items, t.add.counts = append(t.add.items, &it), append(t.add.counts, n)
	return Row{Name: it.Name, Fate: New}, nil
}

func (t *taking) price(row int) (Row, error) {
	name := t.Get(row, "name")
	was, there := t.items[strings.ToLower(name)]
	if !there {
		return refused(name, field.Errorf("", "no part is called so"))
	}
	if err := t.twice(strings.ToLower(name), row); err != nil {
		return refused(name, err)
	}
	f := parts.StockForm{
		Kind:     was.Kind,
		Name:     was.Name,
		Role:     was.Role,
		Dims:     was.Dims,
		Least:    itoa(was.Least),
		Supplier: was.Supplier,
		Price:    t.Get(row, "price"),
		Cost:     t.Get(row, "cost"),
		Lead:     t.Get(row, "days"),
	}
	if s := t.Get(row, "supplier"); s != "" {
		f.Supplier = s
	}
	it := was
	if _, err := f.Read(&it); err != nil {
		return refused(name, err)
	}
	it.SizeNM, it.UpToNM, it.ModelID = was.SizeNM, was.UpToNM, was.ModelID
	if f.Price == "" {
		it.PriceCents = was.PriceCents
	}
	if f.Cost == "" {
		it.CostCents = was.CostCents
	}
	if f.Lead == "" {
		it.LeadDays = was.LeadDays
	}
	if it == was {
		return Row{Name: it.Name, Fate: Same}, nil
	}
	t.back.WasItems = append(t.back.WasItems, was)
	priced := Row{
		Name: it.Name, Fate: Changed, Why: shop.Cash(was.PriceCents) + " > " + shop.Cash(it.PriceCents),
	}
	return priced, t.change(func() error { return t.tx.ChangeStock(it) })
}

// Imports lists the tables that were taken in, the newest first.
func Imports(ctx context.Context, s *shop.Shop) ([]store.Import, error) {
	return s.Store.Read(ctx).Imports(30)
}

// Undo takes a table back: what it added goes, what it changed is as it was. What has been used
// since cannot go, and then nothing is taken back.
func Undo(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint) error {
	if err := a.Must("take a table in"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		all, err := tx.Imports(1000)
		if err != nil {
			return "", err
		}
		i := slices.IndexFunc(all, func(x store.Import) bool { return x.ID == id })
		if i < 0 {
			return "", shop.ErrNotFound
		}
		if all[i].UndoneAt != nil {
			return "", shop.ErrStale
		}
		var b back
		if err := json.Unmarshal([]byte(all[i].Back), &b); err != nil {
			return "", err
		}
		for _, c := range b.Was {
			if err := tx.ChangeCustomer(c); err != nil {
				return "", err
			}
		}
		for _, it := range b.WasItems {
			if err := tx.ChangeStock(it); err != nil {
				return "", err
			}
		}
		for _, step := range []struct {
			ids    []uint
			remove func(uint) error
			what   string
		}{
			{b.OldJobs, tx.RemoveOldJob, "job"}, {b.Machines, tx.RemoveMachine, "machine"},
			{b.Customers, tx.RemoveCustomer, "customer"}, {b.Items, tx.RemoveStock, "part"},
		} {
			for _, id := range step.ids {
				if err := step.remove(id); err != nil {
					return "", field.Only("undo", "a %s of it is in use by now: it cannot be taken back", step.what)
				}
			}
		}
		if err := tx.UndoImport(id, s.Now()); err != nil {
			return "", err
		}
		return "", s.Note(tx, a, 0, "table taken back", all[i].Kind+" "+all[i].Name)
	})
	return err
}
