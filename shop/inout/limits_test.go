package inout_test

import (
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/words"
	"yatai/internal/demofile"
	"yatai/shop"
	"yatai/shop/inout"
	"yatai/shop/library"
	"yatai/store"
)

// limits is a form with a table of a model's limits.
func limits(model uint, text string) inout.Form {
	f := of("limits", text)
	f.Model = strconv.Itoa(int(model))
	return f
}

func sheetOf(t *testing.T, s *shop.Shop, model uint) (library.Model, map[string]store.Limit) {
	t.Helper()
	m, err := library.ModelOf(t.Context(), s, model)
	require.NoError(t, err)
	lines := map[string]store.Limit{}
	for _, l := range m.Sheet.Limits {
		l.ID, l.SheetID = 0, 0
		lines[l.Kind+" "+l.Characteristic+"/"+l.Role] = l
	}
	return m, lines
}

// TestASheetGoesOutAndComesBackWhole writes every model's sheet as a table, in both languages and both ways
// of spreadsheets, and takes it in whole into a copy of the model that has no limits: the copy has the same.
func TestASheetGoesOutAndComesBackWhole(t *testing.T) {
	s, ctx := open(t), t.Context()
	models, err := library.Models(ctx, s)
	require.NoError(t, err)
	for i, hm := range models {
		m, want := sheetOf(t, s, hm.ID)
		how := map[string]string{}
		if i%2 == 0 {
			how["spreadsheets"] = "semicolon, decimal comma"
		}
		file, err := inout.LimitsCSV(m, shop.SettingsFor(how, ""), words.All[i%len(words.All)])
		require.NoError(t, err)
		look, err := inout.Look(ctx, s, owner, limits(hm.ID, string(file)))
		require.NoError(t, err, m.Name)
		assert.Equal(t, len(look.Rows), look.Count(inout.Same), "%s: %+v", m.Name, look.Rows)
		assert.Len(t, look.Rows, len(want))

		other := strings.ReplaceAll(string(file), "manual", "other manual")
		if other == string(file) {
			continue
		}
		id := "take-the-sheet-" + strconv.Itoa(i)
		_, err = inout.Take(ctx, s, owner, written(id, limits(hm.ID, other)))
		require.NoError(t, err)
		now, got := sheetOf(t, s, hm.ID)
		assert.Equal(t, m.Sheet.Version+1, now.Sheet.Version)
		assert.NotEqual(t, want, got)
		made, err := inout.Imports(ctx, s)
		require.NoError(t, err)
		require.NoError(t, inout.Undo(ctx, s, owner, "undo-"+id, made[0].ID))
		now, got = sheetOf(t, s, hm.ID)
		assert.Equal(t, m.Sheet.Version+2, now.Sheet.Version, "a sheet keeps its versions")
		assert.Equal(t, want, got)
		require.ErrorIs(t, inout.Undo(ctx, s, owner, "undo-again-"+id, made[0].ID), shop.ErrStale)
	}
}

// TestLimitsAreReadAsPeopleWriteThem takes a sheet pasted from a book: labels in either language, roles in
// the label or beside it, units in the cell, the row, the column's name or said of the table.
func TestLimitsAreReadAsPeopleWriteThem(t *testing.T) {
	s, ctx := open(t), t.Context()
	text := "Characteristic\tMin, in\tMax, in\tUnit\tPage\n" +
		"Valve head, intake\t1.5\t1.51\t\tp. 1\n" +
		"Exhaust valve head (new)\t34 mm\t34,1 mm\t\tp. 1\n" +
		"Exhaust valve head\t34\t35\tmm\tp. 1\n" +
		"guide.depth\t\t12\tmm\t\n" +
		"Federkraft, eingebaut, Einlass\t300\t\t\tp. 3\n" +
		"Spring load, installed, exhaust\t70\t\tlbf\tp. 3\n" +
		"Thickness of paint\t1\t2\tmm\tp. 4\n" +
		"Seat width\tbroad\t\t\tp. 5\n" +
		"Margin, exhaust\t\t\t\tp. 6\n" +
		"Margin, intake\t2\t1\tmm\tp. 6\n" +
		"Valve seat, how wide\t1\t2\tmm\tp. 7\n"
	form := limits(1, text)
	form.Source = "leaflet"
	look, err := inout.Look(ctx, s, owner, form)
	require.NoError(t, err)
	assert.Equal(t, "characteristic low high unit source", strings.Join(as(look), " "))
	now := func(line int) string {
		r := look.Rows[line-2]
		require.Equal(t, line, r.Line)
		said := []string{r.Why}
		for _, c := range r.Changes {
			said = append(said, c.What+": "+c.Now)
		}
		return strings.TrimSpace(strings.Join(said, " | "))
	}
	for line, want := range map[int]string{
		2:  "| Valve head intake: 38.1 to 38.354 mm; p. 1",
		3:  "| Valve head exhaust: 34 to 34.1 mm; p. 1",
		4:  "line 3 has it already",
		5:  "| Guide depth from the face intake: 12 mm max; leaflet | Guide depth from the face exhaust: 12 mm max; leaflet",
		6:  "| Spring load, installed intake: 300 N min; p. 3",
		7:  "| Spring load, installed exhaust: 311.375513 N min; p. 3",
		8:  "a sheet of this model has no line called so",
		9:  "From: not a number",
		10: "From: a source without a limit",
		11: "From: above the upper limit",
		12: "a sheet of this model has no line called so",
	} {
		assert.Contains(t, now(line), want, line)
	}
	for row, asks := range map[int]bool{6: true, 7: false, 10: true} {
		assert.Equal(t, asks, look.Rows[row].Asks != nil, "which line it is can be said")
	}

	form = limits(1, text)
	form.Source, form.Said.Lines = "leaflet", map[int]string{12: "seat.width/exhaust"}
	look, err = inout.Take(ctx, s, owner, written("take-limits-said", form))
	require.NoError(t, err)
	assert.Contains(t, now(12), "| Seat width exhaust: 1 to 2 mm, near within 0.1 mm; p. 7")
	_, got := sheetOf(t, s, 1)
	assert.Equal(t, "1 mm", got["service seat.width/exhaust"].Low.Length().String())
	assert.Equal(t, "p. 7", got["service seat.width/exhaust"].Source)
	look, err = inout.Look(ctx, s, owner, limits(2, "what\tlow\tunit\tpage\nvalve seat, how wide\t1\tmm\tp. 1\n"))
	require.NoError(t, err)
	assert.Contains(t, now(2), "Seat width exhaust", "known the next time, of another model too")
}

// TestLimitsAreTheOwnersAndOfOneModel tries a table of limits by who may not, of no model, and while somebody
// else writes.
func TestLimitsAreTheOwnersAndOfOneModel(t *testing.T) {
	s, ctx := open(t), t.Context()
	text := "what,low,source\nseat.width,1 mm,p. 1\n"
	_, err := inout.Look(ctx, s, shop.Actor{ID: 2, Role: shop.Lead}, limits(1, text))
	require.ErrorIs(t, err, shop.ErrForbidden)
	_, err = inout.Look(ctx, s, owner, of("limits", text))
	require.ErrorContains(t, err, "choose whose limits they are")
	_, err = inout.Look(ctx, s, owner, limits(9999, text))
	require.ErrorIs(t, err, shop.ErrNotFound)
	_, err = inout.Look(ctx, s, owner, limits(1, "what,low\n"+strings.Repeat("seat.width,1\n", 2001)))
	require.ErrorContains(t, err, "at most 2000 rows")
	for i, set := range []string{"Shop targets", "target", "Klassenregel"} {
		look, err := inout.Look(ctx, s, owner, limits(1, "what,low,source,set\nseat.width,1 mm,p. 1,"+set+"\n"))
		require.NoError(t, err)
		if i < 2 {
			assert.Contains(t, "new changes", look.Rows[0].Fate, "%+v", look.Rows)
		}
	}
	look, err := inout.Look(ctx, s, owner, limits(1, "what,low,source,set\nseat.width,1 mm,p. 1,of the moon\n"))
	require.NoError(t, err)
	assert.Contains(t, look.Rows[0].Why, "no limits are called so")
	_, err = inout.Take(ctx, s, owner, written("take-one-limit", limits(1, text)))
	require.NoError(t, err)
	_, err = inout.Take(ctx, s, owner, written("take-it-after", limits(1, "what,low,source\nseat.width,2 mm,p. 1\n")))
	require.NoError(t, err)
	made, err := inout.Imports(ctx, s)
	require.NoError(t, err)
	require.ErrorContains(t, inout.Undo(ctx, s, owner, "undo-the-first", made[1].ID), "was written since")
}

// TestWhatATableHasNoColumnForStays takes upper limits alone: the lower ones and how near is near stay, and a
// column that is there and blank takes them away.
func TestWhatATableHasNoColumnForStays(t *testing.T) {
	s, ctx := open(t), t.Context()
	const line = "service guide.clearance/intake"
	_, was := sheetOf(t, s, 1)
	require.NotNil(t, was[line].Low)
	require.NotZero(t, was[line].Near)
	_, err := inout.Take(ctx, s, owner, written("take-the-highs",
		limits(1, "what,role,max,page\nguide.clearance,in,0.09 mm,p. 1\n")))
	require.NoError(t, err)
	_, got := sheetOf(t, s, 1)
	assert.Equal(t, "0.09 mm", got[line].High.Length().String())
	assert.Equal(t, was[line].Low, got[line].Low)
	assert.Equal(t, was[line].Near, got[line].Near)
	look, err := inout.Look(ctx, s, owner, limits(1, "what,role,max,page\nguide.clearance,in,0.01 mm,p. 1\n"))
	require.NoError(t, err)
	assert.Contains(t, look.Rows[0].Why, "above the upper limit", "below the lower one that stays")
	_, err = inout.Take(ctx, s, owner,
		written("take-all-of-it", limits(1, "what,role,min,max,near,page\nguide.clearance,in,,0.09 mm,,p. 1\n")))
	require.NoError(t, err)
	_, got = sheetOf(t, s, 1)
	assert.Nil(t, got[line].Low)
	assert.Zero(t, got[line].Near)
}

// BenchmarkLargestSheet looks at the largest table of limits there can be, of lines nobody knows.
func BenchmarkLargestSheet(b *testing.B) {
	st, err := store.Open(demofile.Path(b))
	require.NoError(b, err)
	b.Cleanup(func() { _ = st.Close() })
	s := shop.New(st, time.Now)
	text := "what,low,source\n" + strings.Repeat("A line that nobody knows, intake,1 mm,p. 1\n", 2000)
	for b.Loop() {
		if _, err := inout.Look(b.Context(), s, owner, limits(1, text)); err != nil {
			b.Fatal(err)
		}
	}
}
