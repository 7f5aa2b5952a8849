package inout_test

import (
	"bytes"
	"encoding/csv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"yatai/core/field"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/customers"
	"yatai/shop/inout"
	"yatai/shop/parts"
	"yatai/shop/table"
)

// TestColumnsAreFoundByTheirNames reads the first lines of people's own tables, in both languages, and every
// template.
func TestColumnsAreFoundByTheirNames(t *testing.T) {
	s, ctx := open(t), t.Context()
	for _, c := range []struct{ kind, names, as string }{
		{"customers", "Kunde;Ansprechpartner;Tel.;E-Mail;Anschrift;Rabatt %", "name contact telephone email address discount"},
		{"customers", "Phone;Company;Favourite colour;Company", "telephone name - -"},
		{"customers", "Customer;Name;Tel", "- name telephone"},
		{"stock", "Art;Bezeichnung;Dicke [mm];VK;Bestand;Lieferant;Lieferzeit", "kind name size price count supplier lead"},
		{"stock", "type;item;Thickness (in);qty", "kind name size count"},
		{"jobs", "Nr.;Firma;Datum;Motor;Betrag", "number customer date machine total"},
	} {
		blank := strings.Repeat("x;", strings.Count(c.names, ";")) + "x"
		look, err := inout.Look(ctx, s, owner, of(c.kind, c.names+"\n"+blank+"\n"))
		require.NoError(t, err, c.names)
		assert.Equal(t, c.as, strings.Join(as(look), " "), c.names)
	}
	for _, k := range inout.Kinds {
		for _, l := range words.All {
			for _, unit := range []string{"", "mm", "in"} {
				names := k.Names(l, unit)
				form := of(k.Code, strings.Join(names, "\t")+"\n"+strings.Repeat("x\t", len(names))+"\n")
				form.Model = "1"
				look, err := inout.Look(ctx, s, owner, form)
				require.NoError(t, err, names)
				for i, c := range k.Columns {
					assert.Equal(t, c.Code, look.Columns[i].As, "%s in %s", c.Label, l.Name)
					if c.Size {
						assert.Equal(t, unit, look.Columns[i].Unit)
					}
				}
			}
		}
	}
}

// TestWhatAColumnIsIsSaidAndKnownNextTime says of columns with names of nobody's what they are.
func TestWhatAColumnIsIsSaidAndKnownNextTime(t *testing.T) {
	s, ctx := open(t), t.Context()
	text := "Who;Where to ring;Name\nBeck Mill;0111;old\nFell Farm;0222;old\n"
	_, err := inout.Look(ctx, s, owner, of("machines", text))
	var errs field.Errors
	require.ErrorAs(t, err, &errs)
	assert.Contains(t, errs.Message("columns"), "Customer")

	form := func() inout.Form {
		f := of("customers", text)
		f.Said = inout.Said{As: map[int]string{0: "name", 1: "telephone", 2: inout.LeftOut}}
		return f
	}
	look, err := inout.Look(ctx, s, owner, form())
	require.NoError(t, err)
	assert.Equal(t, 2, look.Count(inout.New))
	two := form()
	two.Said.As[2] = "name"
	look, err = inout.Look(ctx, s, owner, two)
	require.ErrorAs(t, err, &errs)
	assert.Equal(t, "another column is that already", errs.Message("as.2"))
	assert.Len(t, look.Columns, 3, "the columns are shown all the same")
	two.Said.As[2], two.File = "colour", strings.NewReader(text)
	_, err = inout.Look(ctx, s, owner, two)
	require.ErrorAs(t, err, &errs)
	assert.Equal(t, "choose one of the list", errs.Message("as.2"))

	_, err = inout.Take(ctx, s, owner, written("take-with-columns", form()))
	require.NoError(t, err)
	assert.Equal(t, []string{"Beck Mill"}, names(t, s, "0111"))
	look, err = inout.Look(ctx, s, owner, of("customers", "Where to ring;WHO;Name\n0333;Beck Mill;old\n"))
	require.NoError(t, err)
	assert.Equal(t, []string{"telephone", "name", inout.LeftOut}, as(look), "as it was said before")
	assert.True(t, look.Columns[0].Before)
	require.Equal(t, inout.Changed, look.Rows[0].Fate)
	assert.Equal(t, []inout.Change{{What: "Telephone", Was: "0111", Now: "0333"}}, look.Rows[0].Changes)
	look, err = inout.Look(ctx, s, owner, of("machines", "WHO;Machine\nBeck Mill;Saw\n"))
	require.ErrorAs(t, err, &errs, "of another kind of table it says nothing")
	assert.Equal(t, inout.LeftOut, look.Columns[0].As)
}

// TestGoodRowsAreTakenAndTheOthersStayToBeMended takes a table with bad rows in: the good ones are written,
// the others come as a file, which is taken in when it is mended.
func TestGoodRowsAreTakenAndTheOthersStayToBeMended(t *testing.T) {
	s, ctx := open(t), t.Context()
	text := "Name;Telephone;Discount;Hobby\nBeck Mill;0111;5;chess\nFell Farm;0222;500;-\nTarn;0333;x;=2+2\n"
	fate, err := inout.Take(ctx, s, owner, written("take-the-good-ones", of("customers", text)))
	require.NoError(t, err)
	assert.Equal(t, 1, fate.Good())
	assert.Equal(t, []string{"Beck Mill"}, names(t, s, "0111"))
	assert.Empty(t, names(t, s, "0222"))
	all, err := inout.Imports(ctx, s)
	require.NoError(t, err)
	assert.Equal(t, "1 new, 0 changed, 2 left to be mended", all[0].Said)
	assert.NotEmpty(t, all[0].LeftRows)
	assert.Empty(t, all[0].Back, "what takes it back is not in the list")
	file, err := inout.Left(ctx, s, owner, all[0].ID)
	require.NoError(t, err)
	rows, err := csv.NewReader(bytes.NewReader(file)).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, []string{"Name", "Telephone", "Discount", "Hobby", "What is wrong"}, rows[0])
	assert.Equal(t, []string{"Fell Farm", "0222", "500", "-"}, rows[1][:4])
	assert.Contains(t, rows[1][4], "Discount on labour: between 0 and 100")
	assert.Contains(t, rows[2][4], "x is no figure")

	assert.Equal(t, "'=2+2", rows[2][3], "no formula")
	again, err := inout.Look(ctx, s, owner, of("customers", string(file)))
	require.NoError(t, err)
	assert.Equal(t, "=2+2", again.Left[2][3], "as it was")

	mended := strings.Replace(string(file), "500", "50", 1)
	fate, err = inout.Take(ctx, s, owner, written("take-the-mended", of("customers", mended)))
	require.NoError(t, err)
	assert.Equal(t, 1, fate.Count(inout.New))
	require.Len(t, fate.Left, 2)
	assert.Len(t, fate.Left[0], 5, "what was wrong is told once")
	_, err = inout.Take(ctx, s, owner, written("take-it-once-more", of("customers", "Name\nBeck Mill\n")))
	require.ErrorContains(t, err, "all of it is there already")

	_, err = inout.Left(ctx, s, shop.Actor{ID: 3, Role: shop.Technician}, all[0].ID)
	require.ErrorIs(t, err, shop.ErrForbidden)
	late := shop.New(s.Store, func() time.Time { return time.Now().AddDate(0, 0, 31) })
	require.NoError(t, customers.Tidy(ctx, late))
	_, err = inout.Left(ctx, s, owner, all[0].ID)
	require.ErrorIs(t, err, shop.ErrNotFound, "rows nobody mends are not kept for ever")
}

// TestSumsAndSizesAreReadAsTheyAreWritten takes prices and sizes in however they are written.
func TestSumsAndSizesAreReadAsTheyAreWritten(t *testing.T) {
	s, ctx := open(t), t.Context()
	text := "Kind\tName\tSize, in\tPrice\tQty\tSide\nEinstellscheibe\tA\t0.1\t1.234,50\t1.000\tEinlass\n" +
		"lash shim\tB\t2,5 mm\t$ 1,234.50\t12\tex\n"
	_, err := inout.Take(ctx, s, owner, written("take-sizes-in-both", of("stock", text)))
	require.NoError(t, err)
	page, err := parts.Stock(ctx, s)
	require.NoError(t, err)
	got := map[string]parts.StockRow{}
	for _, r := range page.Rows {
		got[r.Name] = r
	}
	assert.Equal(t, "2.54 mm", got["A"].SizeNM.String())
	assert.Equal(t, "2.5 mm", got["B"].SizeNM.String())
	for _, name := range []string{"A", "B"} {
		assert.Equal(t, int64(123450), got[name].PriceCents)
		assert.Equal(t, "lash shim", got[name].Kind)
	}
	assert.Equal(t, 1000, got["A"].Count)
	assert.Equal(t, []string{"intake", "exhaust"}, []string{got["A"].Role, got["B"].Role})
}

// TestFiguresThatCanBeReadTwoWaysAreAsked reads prices like 1.234: by a cell of the column that tells, by other
// columns of the table, as it is said, and as it was said before.
func TestFiguresThatCanBeReadTwoWaysAreAsked(t *testing.T) {
	s, ctx := open(t), t.Context()
	page, err := parts.Stock(ctx, s)
	require.NoError(t, err)
	one, two := page.Rows[0].Name, page.Rows[1].Name
	look := func(said inout.Said, columns, first, second string) inout.Fate {
		form := of("prices", columns+"\n"+one+";"+first+"\n"+two+";"+second+"\n")
		form.Said = said
		fate, err := inout.Look(ctx, s, owner, form)
		require.NoError(t, err)
		return fate
	}
	now := func(f inout.Fate) string {
		for _, c := range f.Rows[0].Changes {
			if c.What == "Price" {
				return c.Now
			}
		}
		return f.Rows[0].Why
	}
	assert.Equal(t, "1234.00", now(look(inout.Said{}, "Name;Price", "1.234", "12,50")))
	assert.Contains(t, now(look(inout.Said{}, "Name;Price", "1.234", "12.50")), "an amount like 125.50", "thousandths")
	assert.Equal(t, "1234.00", now(look(inout.Said{}, "Name;Price;Cost", "1.234;800,5", "1.300;900")))
	asked := look(inout.Said{}, "Name;Price", "1.234", "1.300")
	assert.Equal(t, ".", asked.Columns[1].Parts)
	assert.Equal(t, 2, asked.Count(inout.Refused))
	assert.Contains(t, now(asked), "more than a thousand, or not")
	assert.Contains(t, now(look(inout.Said{}, "Name;Price;Cost;Days", "1.234;800,5;1", "1.300;9.5;1")), "1234.00",
		"a column is told by its first cell that tells")
	said := inout.Said{Signs: map[int]string{1: ","}}
	assert.Equal(t, "1234.00", now(look(said, "Name;Price", "1.234", "1.300")))
	form := of("prices", "Name;Price\n"+one+";1.234\n")
	form.Said = said
	_, err = inout.Take(ctx, s, owner, written("take-thousands", form))
	require.NoError(t, err)
	assert.Equal(t, "2345.00", now(look(inout.Said{}, "Name;Price", "2.345", "1.300")), "as it was said before")
	said.Signs[1] = "a sign that is none"
	assert.Equal(t, "2345.00", now(look(said, "Name;Price", "2.345", "1.300")), "what cannot be is not said")
}

// TestDaysThatCanBeReadTwoWaysAreAskedOnce reads old jobs with days as 5/6/2019: what the order is, is found
// by a day that tells, or asked and known the next time.
func TestDaysThatCanBeReadTwoWaysAreAskedOnce(t *testing.T) {
	s, ctx := open(t), t.Context()
	all, err := customers.List(ctx, s, "")
	require.NoError(t, err)
	who := all[0].Name
	table2 := func(days ...string) inout.Form {
		text := "Number,Customer,Date\n"
		for _, d := range days {
			text += "N" + d + "," + who + "," + d + "\n"
		}
		return of("jobs", text)
	}
	look, err := inout.Look(ctx, s, owner, table2("5/6/2019", "25/6/2019"))
	require.NoError(t, err)
	assert.Equal(t, 2, look.Count(inout.New), "the second tells")
	assert.False(t, look.Columns[2].Asked)
	look, err = inout.Look(ctx, s, owner, table2("5/6/2019", "25/6/2019", "6/25/2019"))
	require.NoError(t, err)
	assert.Equal(t, 1, look.Count(inout.Refused), "one that is in no such order")
	look, err = inout.Look(ctx, s, owner, table2("5/6/2019"))
	require.NoError(t, err)
	assert.True(t, look.Columns[2].Asked)
	assert.Contains(t, look.Rows[0].Why, "is the day first")
	f := table2("5/6/2019")
	f.Said.Orders = map[int]table.Order{2: table.MonthFirst}
	_, err = inout.Take(ctx, s, owner, written("take-month-first", f))
	require.NoError(t, err)
	p, err := customers.Open(ctx, s, all[0].ID)
	require.NoError(t, err)
	assert.Equal(t, "2019-05-06", p.Old[0].Day)
	look, err = inout.Look(ctx, s, owner, table2("7/8/2019"))
	require.NoError(t, err)
	assert.Equal(t, table.MonthFirst, look.Columns[2].Order)
	assert.Equal(t, 1, look.Count(inout.New))
}

// TestTheErasedAreNotInTables erases a customer whom a table had changed and another had left to be mended:
// nothing is known of them, and the table is taken back without them.
func TestTheErasedAreNotInTables(t *testing.T) {
	s, ctx := open(t), t.Context()
	take := func(id, text string) {
		_, err := inout.Take(ctx, s, owner, written(id, of("customers", text)))
		require.NoError(t, err)
	}
	take("take-one-to-erase", "name,telephone\nMary Erased,0777111\n")
	take("take-her-changed", "name,telephone\nMary Erased,0777222\n")
	take("take-another-left", "name,discount\nSomebody,1\nMary Erased,much\n")
	all, err := customers.List(ctx, s, "Mary Erased")
	require.NoError(t, err)
	require.NoError(t, customers.Erase(ctx, s, owner, all[0].ID, customers.EraseForm{
		WriteID: "erase-her-please", Name: "Mary Erased", Why: "asked by letter",
	}))
	list, err := inout.Imports(ctx, s)
	require.NoError(t, err)
	for _, x := range list {
		whole, err := s.Store.Read(ctx).Import(x.ID)
		require.NoError(t, err)
		assert.NotContains(t, whole.Back+whole.LeftRows, "0777")
		assert.NotContains(t, whole.Back+whole.LeftRows, "Mary")
	}
	require.NoError(t, inout.Undo(ctx, s, owner, "undo-the-change", list[1].ID))
	assert.Empty(t, names(t, s, "0777"))
}

// TestATemplateIsASpreadsheetThatSaysWhatItsColumnsAre opens each template.
func TestATemplateIsASpreadsheetThatSaysWhatItsColumnsAre(t *testing.T) {
	for _, k := range inout.Kinds {
		b, err := k.Template(words.German, "mm")
		require.NoError(t, err)
		x, err := excelize.OpenReader(bytes.NewReader(b))
		require.NoError(t, err)
		rows, err := x.GetRows(x.GetSheetName(0))
		require.NoError(t, err)
		assert.Equal(t, [][]string{k.Names(words.German, "mm")}, rows)
		require.NoError(t, x.Close())
	}
}
