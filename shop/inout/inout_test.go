package inout_test

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/internal/demofile"
	"yatai/internal/fuzz"
	"yatai/shop"
	"yatai/shop/customers"
	"yatai/shop/inout"
	"yatai/shop/parts"
	"yatai/store"
)

var owner = shop.Actor{ID: 1, Name: "Runa", Role: shop.Owner}

// of is a form with a table's text.
func of(kind, text string) inout.Form {
	return inout.Form{Kind: kind, Name: kind + ".csv", File: strings.NewReader(text)}
}

// written is a form that is taken.
func written(id string, f inout.Form) inout.Form {
	f.WriteID = id
	return f
}

func open(t *testing.T) *shop.Shop {
	t.Helper()
	st, err := store.Open(demofile.Path(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	return shop.New(st, time.Now)
}

func names(t *testing.T, s *shop.Shop, text string) []string {
	t.Helper()
	rows, err := customers.List(t.Context(), s, text)
	require.NoError(t, err)
	var out []string
	for _, r := range rows {
		out = append(out, r.Name)
	}
	return out
}

// TestATableIsLookedAtTakenAndTakenBack takes customers in from an older spreadsheet's file, with
// semicolons, Latin-1 and decimal commas; a look writes nothing, an undo leaves nothing.
func TestATableIsLookedAtTakenAndTakenBack(t *testing.T) {
	s, ctx := open(t), t.Context()
	before := names(t, s, "")
	file := "Name;Telephone;Discount;Colour\nM\xfcller & S\xf6hne;0123 456;7,5%;red\nHill Farm;;;\n\n"
	look, err := inout.Look(ctx, s, owner, of("customers", file))
	require.NoError(t, err)
	assert.Equal(t, 2, look.Count(inout.New))
	assert.Equal(t, "Windows-1252", look.ReadAs)
	assert.Equal(t, []string{"name", "telephone", "discount", inout.LeftOut}, as(look))
	assert.Equal(t, []string{"red"}, look.Columns[3].First)
	assert.Equal(t, before, names(t, s, ""), "a look writes nothing")

	_, err = inout.Take(ctx, s, owner, written("take-customers-1", of("customers", file)))
	require.NoError(t, err)
	assert.Equal(t, []string{"Müller & Söhne"}, names(t, s, "0123 456"))
	again, err := inout.Look(ctx, s, owner, of("customers", file))
	require.NoError(t, err)
	assert.Equal(t, 2, again.Count(inout.Same))
	changed, err := inout.Take(ctx, s, owner, written("take-customers-2",
		of("customers", "name,email\nhill farm,hill@farm.example\n")))
	require.NoError(t, err)
	assert.Equal(t, 1, changed.Count(inout.Changed))

	all, err := inout.Imports(ctx, s)
	require.NoError(t, err)
	require.Len(t, all, 2)
	require.NoError(t, inout.Undo(ctx, s, owner, "undo-the-second-1", all[0].ID))
	require.NoError(t, inout.Undo(ctx, s, owner, "undo-the-first-11", all[1].ID))
	require.ErrorIs(t, inout.Undo(ctx, s, owner, "undo-the-first-12", all[1].ID), shop.ErrStale)
	assert.Equal(t, before, names(t, s, ""))
}

// TestWhatWasTypedSinceStays when a table is taken back: only what it changed and nobody changed again goes back.
func TestWhatWasTypedSinceStays(t *testing.T) {
	s, ctx := open(t), t.Context()
	one := func() store.Customer {
		rows, err := customers.List(ctx, s, "Hill Farm")
		require.NoError(t, err)
		require.Len(t, rows, 1)
		return rows[0].Customer
	}
	for i, file := range []string{"name,contact,telephone\nHill Farm,A,1\n", "name,contact,telephone\nHill Farm,B,2\n"} {
		_, err := inout.Take(ctx, s, owner, written(fmt.Sprintf("take-customers-%d", i), of("customers", file)))
		require.NoError(t, err)
	}
	require.NoError(t, customers.Change(ctx, s, owner, one().ID, customers.Form{
		WriteID: "typed-by-hand-1", Name: "Hill Farm", Contact: "B", Telephone: "3", Note: "calls on Mondays",
	}))
	all, err := inout.Imports(ctx, s)
	require.NoError(t, err)
	require.NoError(t, inout.Undo(ctx, s, owner, "undo-the-second-1", all[0].ID))
	now := one()
	assert.Equal(t, []string{"A", "3", "calls on Mondays"}, []string{now.Contact, now.Telephone, now.Note})
}

// TestAKindOfPartIsKnownByItsName in each language, as the pages say it, and by its code.
func TestAKindOfPartIsKnownByItsName(t *testing.T) {
	s, file, n := open(t), "kind,name\n", 0
	for _, k := range trade.PartKinds() {
		for _, name := range []string{k.Code, k.Name, words.German.Say(k.Name)} {
			n++
			file += fmt.Sprintf("%q,Part %d\n", name, n)
		}
	}
	look, err := inout.Look(t.Context(), s, owner, of("stock", file))
	require.NoError(t, err)
	assert.Equal(t, n, look.Count(inout.New), "%+v", look.Rows)
}

// as is what a file's columns are read as.
func as(f inout.Fate) []string {
	var out []string
	for _, c := range f.Columns {
		out = append(out, c.As)
	}
	return out
}

// TestARowThatIsRefusedSaysWhy tries tables with one bad row each: the row and the reason are said, and
// where there is no good row beside it nothing is written.
func TestARowThatIsRefusedSaysWhy(t *testing.T) {
	s, ctx := open(t), t.Context()
	before := names(t, s, "")
	for _, c := range []struct{ kind, file, why string }{
		{"customers", "name,email\nNew Two,nobody\n", "Email: an address"},
		{"customers", "name,discount\nNew One,140\n", "Discount on labour: between"},
		{"customers", "name,discount\nNew One,much\n", "Discount on labour: much is no figure"},
		{"machines", "customer,machine\nNobody At All,Tractor\n", "no customer is called so"},
		{"stock", "kind,name,price\nvalve,A valve,free of charge\n", "Price"},
		{"stock", "kind,name,days\nvalve,A valve,soon\n", "Days to come"},
		{"stock", "kind,name\nspoon,A spoon\n", "Kind of part"},
		{"stock", "kind,name,model\nvalve,A valve,No Such Head\n", "no model is called"},
		{"prices", "name,price\nNo Such Part,12.50\n", "no part is called so"},
	} {
		fate, err := inout.Look(ctx, s, owner, of(c.kind, c.file))
		require.NoError(t, err)
		require.Equal(t, 1, fate.Count(inout.Refused), "%+v", fate)
		last := fate.Rows[len(fate.Rows)-1]
		assert.Contains(t, last.Why, c.why)
		_, err = inout.Take(ctx, s, owner, written("take-nothing-of-it", of(c.kind, c.file)))
		require.ErrorContains(t, err, "no row of it can be taken in")
	}
	assert.Equal(t, before, names(t, s, ""))
	for _, bad := range []string{"", "name\n", "name\n\"unclosed", "PK\x03\x04 no sheet"} {
		_, err := inout.Look(ctx, s, owner, of("customers", bad))
		assert.ErrorContains(t, err, "file", "%q", bad)
	}
	_, err := inout.Look(ctx, s, shop.Actor{ID: 3, Role: shop.Technician}, of("customers", "name\nX\n"))
	require.ErrorIs(t, err, shop.ErrForbidden)
}

// TestPricesComeFromASpreadsheet changes prices and adds stock from an XLSX file, and takes both back.
func TestPricesComeFromASpreadsheet(t *testing.T) {
	s, ctx := open(t), t.Context()
	stock := func() map[string]parts.StockRow {
		p, err := parts.Stock(ctx, s)
		require.NoError(t, err)
		out := map[string]parts.StockRow{}
		for _, r := range p.Rows {
			out[r.Name] = r
		}
		return out
	}
	before := stock()
	book := func(rows ...[]any) *bytes.Buffer {
		x := excelize.NewFile()
		defer func() { _ = x.Close() }()
		for i, r := range rows {
			cell, err := excelize.CoordinatesToCellName(1, i+1)
			require.NoError(t, err)
			require.NoError(t, x.SetSheetRow("Sheet1", cell, &r))
		}
		var b bytes.Buffer
		require.NoError(t, x.Write(&b))
		return &b
	}
	_, err := inout.Take(ctx, s, owner, written("prices-from-a-book", inout.Form{
		Kind: "prices", File: book([]any{"Name", "Price", "Days"}, []any{"Brindlow guide", 31.25, 9}),
	}))
	require.NoError(t, err)
	got := stock()["Brindlow guide"]
	assert.Equal(t, int64(3125), got.PriceCents)
	assert.Equal(t, 9, got.Lead)
	assert.Equal(t, before["Brindlow guide"].Count, got.Count)
	_, err = inout.Take(ctx, s, owner, written("stock-from-a-book1", inout.Form{
		Kind: "stock",
		File: book([]any{"kind", "name", "size", "count"}, []any{"lash shim", "Shim 3.333", 3.333, 4}),
	}))
	require.NoError(t, err)
	assert.Equal(t, 4, stock()["Shim 3.333"].Count)
	assert.Empty(t, stock()["Shim 3.333"].PriceText(), "nobody knows its price")
	all, err := inout.Imports(ctx, s)
	require.NoError(t, err)
	for i, x := range all {
		require.NoError(t, inout.Undo(ctx, s, owner, "undo-book-"+string(rune('a'+i)), x.ID))
	}
	assert.Equal(t, before, stock())
}

// TestAnyFileIsReadOrRefused gives spoilt files as every kind of table: nothing breaks.
func TestAnyFileIsReadOrRefused(t *testing.T) {
	s, ctx := open(t), t.Context()
	rnd := rand.New(rand.NewPCG(3, 1))
	for _, k := range inout.Kinds {
		file := strings.Join(k.Names(words.English, "mm"), ";") + "\n" + strings.Repeat("1;2019-05-20;valve\n", 4)
		for range 200 {
			text := fuzz.Spoil(rnd, file)
			if _, err := inout.Look(ctx, s, owner, of(k.Code, text)); err != nil {
				var errs field.Errors
				require.ErrorAs(t, err, &errs, "%s: %q", k.Code, text)
			}
		}
	}
}

// TestJobsOfBeforeTheProgram takes old jobs in with the days spreadsheets make of them, shows them
// on the customer's page, moves them when customers are merged, and takes them back.
func TestJobsOfBeforeTheProgram(t *testing.T) {
	s, ctx := open(t), t.Context()
	all, err := customers.List(ctx, s, "")
	require.NoError(t, err)
	whose, other := all[0], all[1]
	bad := "number,customer,date,total\nA1," + whose.Name + ",5/6/2019,1\nA2,Nobody,2019-06-05,1\nA3," + whose.Name +
		",2019-06-05,x\n"
	look, err := inout.Look(ctx, s, owner, of("jobs", bad))
	require.NoError(t, err)
	assert.Equal(t, 3, look.Count(inout.Refused), "a date read two ways, an unknown customer, no sum")
	file := "Number;Customer;Date;Machine;Marks;Work;Total\n" +
		"A1;" + whose.Name + ";5.6.2019;Loader;77-K;new guides;412,50\nA2;" + whose.Name + ";43621;;;faced;\n"
	_, err = inout.Take(ctx, s, owner, written("take-old-jobs", of("jobs", file)))
	require.NoError(t, err)
	page, err := customers.Open(ctx, s, whose.ID)
	require.NoError(t, err)
	require.Len(t, page.Old, 2)
	for _, j := range page.Old {
		assert.Equal(t, "2019-06-05", j.Day)
	}
	again, err := inout.Look(ctx, s, owner, of("jobs", file))
	require.NoError(t, err)
	assert.Equal(t, 2, again.Count(inout.Same))
	made, err := inout.Imports(ctx, s)
	require.NoError(t, err)
	require.NoError(t, inout.Undo(ctx, s, owner, "undo-old-jobs", made[0].ID))
	page, err = customers.Open(ctx, s, whose.ID)
	require.NoError(t, err)
	assert.Empty(t, page.Old)
	_, err = inout.Take(ctx, s, owner, written("take-old-jobs-2", of("jobs", file)))
	require.NoError(t, err)
	_, err = customers.Merge(ctx, s, owner, "merge-with-old", whose.ID, other.Name)
	require.NoError(t, err)
	page, err = customers.Open(ctx, s, other.ID)
	require.NoError(t, err)
	assert.Len(t, page.Old, 2)
}

// TestAMachineHasItsOwnPage shows of a machine its heads, and the old jobs told of it by name.
func TestAMachineHasItsOwnPage(t *testing.T) {
	s, ctx := open(t), t.Context()
	all, err := customers.List(ctx, s, "Mossfield")
	require.NoError(t, err)
	p, err := customers.Open(ctx, s, all[0].ID)
	require.NoError(t, err)
	first := p.Machines[0]
	file := "number,customer,date,machine\nB1," + p.Name + ",2020-01-02," + strings.ToUpper(first.Name) + "\nB2," +
		p.Name + ",2020-01-03,another\n"
	_, err = inout.Take(ctx, s, owner, written("take-machine-jobs", of("jobs", file)))
	require.NoError(t, err)
	m, err := customers.OpenMachine(ctx, s, p.ID, first.ID)
	require.NoError(t, err)
	assert.Len(t, m.Heads, first.Heads)
	for _, h := range m.Heads {
		assert.Equal(t, first.ID, h.Job.MachineID)
	}
	require.Len(t, m.Old, 1)
	assert.Equal(t, "B1", m.Old[0].Number)
	_, err = customers.OpenMachine(ctx, s, p.ID, 9999)
	assert.ErrorIs(t, err, shop.ErrNotFound)
}

// BenchmarkLargestTable takes the largest table there can be in.
func BenchmarkLargestTable(b *testing.B) {
	st, err := store.Open(demofile.Path(b))
	require.NoError(b, err)
	b.Cleanup(func() { _ = st.Close() })
	s := shop.New(st, time.Now)
	var file strings.Builder
	file.WriteString("name,telephone\n")
	for i := range 20_000 {
		file.WriteString("Customer " + strconv.Itoa(i) + ",0123\n")
	}
	for b.Loop() {
		if _, err := inout.Look(b.Context(), s, owner, of("customers", file.String())); err != nil {
			b.Fatal(err)
		}
	}
}

// BenchmarkLargestTableTaken writes the largest table there can be, each time into another shop.
func BenchmarkLargestTableTaken(b *testing.B) {
	for b.Loop() {
		b.StopTimer()
		st, err := store.Open(demofile.Path(b))
		require.NoError(b, err)
		s := shop.New(st, time.Now)
		var file strings.Builder
		file.WriteString("name,telephone\n")
		for i := range 20_000 {
			file.WriteString("Customer " + strconv.Itoa(i) + ",0123\n")
		}
		b.StartTimer()
		if _, err := inout.Take(b.Context(), s, owner,
			written("take-the-largest", of("customers", file.String()))); err != nil {
			b.Fatal(err)
		}
		b.StopTimer()
		require.NoError(b, st.Close())
		b.StartTimer()
	}
}
